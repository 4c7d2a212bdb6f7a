// Moments that tests count from, and the second as a unit.
#pragma once

#include "core/base/calendar.h"
#include "core/base/time.h"

namespace cognitum::test {

constexpr TimeUs sec = second_us;
constexpr TimeUs june = 1780272000LL * second_us;      ///< 2026-06-01T00:00:00Z
constexpr TimeUs midsummer = 1781827200LL * second_us; ///< 2026-06-19T00:00:00Z
constexpr TimeUs november = 1795617060LL * second_us;  ///< 2026-11-25T14:31:00Z

inline const ZoneOffset an_hour_east = [](TimeUs) { return hour_us; }; ///< an hour east of UTC

} // namespace cognitum::test
