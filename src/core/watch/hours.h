// A record hour by hour: what offers of rules and outlooks are worked out from. One pass, bounded by the hours.
#pragma once

#include "core/base/calendar.h"
#include "core/base/time.h"

#include <cstdint>
#include <map>
#include <vector>

namespace cognitum {

struct HourFigures {
    TimeUs from = 0; ///< start of the whole hour, UTC
    std::uint64_t n = 0;
    double first = 0, last = 0, low = 0, high = 0, sum = 0;
    double grown = 0; ///< what a total grew; one that falls began anew
    int came_on = 0;  ///< of a state: how often
    [[nodiscard]] double mean() const { return sum / static_cast<double>(n); }
};

/// Of one reading. Hours without a value are left out.
struct HourlyRecord {
    std::vector<HourFigures> hours;
    TimeUs first = 0, last = 0; ///< lines, with a value or without
    std::uint64_t lines = 0, valued = 0;
    double noise = 0;    ///< of one value, without what changes slowly (von Neumann 1941) or seldom and far
    TimeUs usual = 0;    ///< step between lines
    TimeUs long_gap = 0; ///< longer than this are no more than one step in a thousand

    [[nodiscard]] double days() const { return seconds(last - first) / 86400; }
    /// Quantile of the hourly means, 0…1; NaN without hours.
    [[nodiscard]] double quantile(double share) const;
};

class HourCounter {
  public:
    /// In order of time; NaN: a line without a value.
    void take(TimeUs time, double value);
    [[nodiscard]] HourlyRecord finish();

  private:
    [[nodiscard]] double noise() const;

    HourlyRecord m_out;
    bool m_any = false;
    double m_before = 0;
    std::uint64_t m_same = 0; ///< values that were as the one before
    struct Changes {
        std::uint64_t n = 0;
        double squares = 0;
    };
    std::map<int, Changes> m_changes;     ///< by the exponent of two of their size
    std::map<int, std::uint64_t> m_steps; ///< by the logarithm, in steps of 2 %
};

/// Least, median and most likely scatter of how fast the value fell in the hours of some local time of day, unit an
/// hour: what can be told from no change at all.
struct NightFalls {
    std::size_t hours = 0;
    double median = 0;  ///< an hour
    double scatter = 0; ///< 1.48 times the median absolute deviation
};
NightFalls night_falls(const HourlyRecord& record, int from_hour, int to_hour, const ZoneOffset& zone);
/// The smallest leak, unit an hour, that can be told from such nights: three times their scatter above what most of
/// them do. `noise`: of one value. 0: nothing moved, so nothing can be told; NaN: fewer than nine hours.
double smallest_leak(const NightFalls& nights, double noise);

} // namespace cognitum
