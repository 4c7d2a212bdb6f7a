#include "store/zone.h"

#include "core/base/json_reader.h"
#include "core/base/phrase.h"

#include <cstdio>
#include <ctime>
#include <date/tz.h>
#include <fmt/format.h>
#include <stdexcept>

namespace cognitum {

ZoneOffset system_zone() {
    ::tzset();
    return [](TimeUs utc) -> TimeUs {
        const auto second = static_cast<std::time_t>(utc / second_us - (utc % second_us < 0));
        std::tm local{};
        return ::localtime_r(&second, &local) ? local.tm_gmtoff * second_us : 0;
    };
}

Result<TimeUs> clock_time(const std::string& text, const std::string& key) {
    int hours = 0, minutes = 0, used = 0;
    const bool negative = text.starts_with('-');
    const char* digits = text.c_str() + (text.starts_with('+') || negative ? 1 : 0);
    if (std::sscanf(digits, "%2d:%2d%n", &hours, &minutes, &used) != 2 ||
        static_cast<std::size_t>(used) != std::string_view(digits).size() || hours > 23 || minutes > 59 ||
        hours < 0 || minutes < 0)
        return failure(phrase("\"{}\" is no time of day.", text), key,
                       phrase("Write it as 09:00, a zone as +02:00."));
    return (negative ? -1 : 1) * (hours * hour_us + minutes * minute_us);
}

Result<ZoneOffset> zone_named(const std::string& text) {
    if (text == "local") return system_zone();
    if (text == "UTC" || text == "Z") return ZoneOffset{};
    if (text.starts_with('+') || text.starts_with('-')) {
        COGNITUM_TRY(ahead, clock_time(text, "zone"));
        return ZoneOffset{[ahead](TimeUs) { return ahead; }};
    }
    try {
        const date::time_zone* zone = date::locate_zone(text);
        return ZoneOffset{[zone](TimeUs utc) -> TimeUs {
            const date::sys_seconds at{std::chrono::seconds{utc / second_us - (utc % second_us < 0)}};
            return zone->get_info(at).offset.count() * second_us;
        }};
    } catch (const std::runtime_error&) {
        return failure(phrase("\"{}\" is no time zone.", text), "zone",
                       phrase("Write local, UTC, +02:00, or a name such as Europe/Lisbon."));
    }
}

} // namespace cognitum
