// Zones by name, from the machine's own time-zone database.
#pragma once

#include "core/base/calendar.h"
#include "core/base/error.h"

namespace cognitum {

/// What this machine's clock shows (the variable TZ, else /etc/localtime).
ZoneOffset system_zone();

/// "local", "UTC", "+02:00", or a name of the time-zone database such as Europe/Lisbon. Error that says how to
/// write one.
Result<ZoneOffset> zone_named(const std::string& text);

/// "+02:00" or "09:00": microseconds. Error naming `key`.
Result<TimeUs> clock_time(const std::string& text, const std::string& key);

} // namespace cognitum
