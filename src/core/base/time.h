// Points in time are whole microseconds since 1970-01-01T00:00:00Z; a clock is always passed in, never asked for.
#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <string_view>

namespace cognitum {

using TimeUs = std::int64_t; ///< microseconds since 1970 UTC
inline constexpr TimeUs second_us = 1'000'000;
inline constexpr TimeUs minute_us = 60 * second_us;
inline constexpr TimeUs hour_us = 60 * minute_us;
inline constexpr TimeUs day_us = 24 * hour_us;

/// Years 1 to 9999 (UTC): what ISO 8601 can write with four digits, and so what is read, kept and exported.
inline constexpr TimeUs earliest_time = -62'135'596'800 * second_us;
inline constexpr TimeUs latest_time = 253'402'300'800 * second_us - 1;

using Clock = std::function<TimeUs()>;

/// A stretch of time, its end excluded.
struct Interval {
    TimeUs from = 0, to = 0;
    bool operator==(const Interval&) const = default;
};

inline double seconds(TimeUs t) {
    return static_cast<double>(t) / 1e6;
}
inline TimeUs from_seconds(double s) {
    return static_cast<TimeUs>(s * 1e6 + (s < 0 ? -0.5 : 0.5));
}

/// ISO 8601 in UTC with milliseconds, or microseconds where there are any: 2026-06-01T09:00:00.250Z.
std::string iso_time(TimeUs t);

/// Reads ISO 8601 (date, or date and time; a zone as Z or ±hh:mm; without a zone it is UTC) or seconds since 1970
/// with a decimal point. Empty when the text is neither, or names a day or an hour that does not exist.
std::optional<TimeUs> parse_time(std::string_view text);

/// "< 1 s", "12 s", "9 min", "3 h", "4 d": how long ago, or for how long, for a person; "< 1 s" below zero as well.
std::string age_text(TimeUs age);

} // namespace cognitum
