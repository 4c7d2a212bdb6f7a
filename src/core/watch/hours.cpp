#include "core/watch/hours.h"

#include "core/base/no_number.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

const double bin_width = std::log(1.02);

double median_of(std::vector<double> values) {
    if (values.empty()) return no_number;
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    return *middle;
}

} // namespace

double HourlyRecord::quantile(double share) const {
    if (hours.empty()) return no_number;
    std::vector<double> means;
    means.reserve(hours.size());
    for (const HourFigures& hour : hours)
        means.push_back(hour.mean());
    const auto at = means.begin() + static_cast<std::ptrdiff_t>(share * static_cast<double>(means.size() - 1));
    std::nth_element(means.begin(), at, means.end());
    return *at;
}

void HourCounter::take(TimeUs time, double value) {
    if (m_out.lines++ == 0)
        m_out.first = time;
    else if (time > m_out.last)
        ++m_steps[static_cast<int>(std::floor(std::log(static_cast<double>(time - m_out.last)) / bin_width))];
    m_out.last = time;
    if (!std::isfinite(value)) return;
    ++m_out.valued;
    const TimeUs from = time - (time % hour_us + hour_us) % hour_us;
    if (m_out.hours.empty() || m_out.hours.back().from != from)
        m_out.hours.push_back({from, 0, value, value, value, value, 0, 0, 0});
    HourFigures& hour = m_out.hours.back();
    ++hour.n;
    hour.last = value;
    hour.low = std::min(hour.low, value);
    hour.high = std::max(hour.high, value);
    hour.sum += value;
    if (m_any) {
        hour.grown += value >= m_before ? value - m_before : value;
        hour.came_on += value > 0.5 && m_before <= 0.5;
        if (const double change = value - m_before; change != 0) {
            Changes& alike = m_changes[std::ilogb(change)];
            ++alike.n;
            alike.squares += change * change;
        } else {
            ++m_same;
        }
    }
    m_before = value;
    m_any = true;
}

/// From the changes of one value to the next. Those that are five times the others' size are events, such as a tank
/// that is filled once in four days, and would hide the noise between them: they count only where nothing else
/// changes.
double HourCounter::noise() const {
    constexpr double far = 5;
    double squares = 0, kept = 0;
    std::uint64_t n = m_same;
    for (const auto& [exponent, alike] : m_changes) {
        const double with = squares + alike.squares;
        const double mean = with / static_cast<double>(n + alike.n);
        if (kept > 0 && alike.squares / static_cast<double>(alike.n) > far * far * mean) break;
        squares = with;
        n += alike.n;
        kept = mean;
    }
    return std::sqrt(kept / 2);
}

HourlyRecord HourCounter::finish() {
    m_out.noise = noise();
    std::uint64_t all = 0;
    for (const auto& [bin, n] : m_steps)
        all += n;
    std::uint64_t until = 0;
    for (const auto& [bin, n] : m_steps) {
        const auto length = static_cast<TimeUs>(std::exp((bin + 0.5) * bin_width));
        if (2 * until < all) m_out.usual = length;
        if (1000 * until < 999 * all) m_out.long_gap = length;
        until += n;
    }
    return m_out;
}

NightFalls night_falls(const HourlyRecord& record, int from_hour, int to_hour, const ZoneOffset& zone) {
    std::vector<double> falls;
    for (std::size_t i = 1; i < record.hours.size(); ++i) {
        const HourFigures &before = record.hours[i - 1], &now = record.hours[i];
        if (now.from - before.from != hour_us) continue;
        const TimeUs local = to_local(before.from, zone);
        const auto hour = static_cast<int>((local % day_us + day_us) % day_us / hour_us);
        if (hour >= from_hour && hour < to_hour - 1) falls.push_back(before.mean() - now.mean());
    }
    NightFalls out;
    out.hours = falls.size();
    if (falls.empty()) return out;
    out.median = median_of(falls);
    for (double& fall : falls)
        fall = std::abs(fall - out.median);
    out.scatter = 1.4826 * median_of(falls);
    return out;
}

double smallest_leak(const NightFalls& nights, double noise) {
    constexpr std::size_t fewest = 9;
    if (nights.hours < fewest) return no_number;
    return std::max(0.0, nights.median) + 3 * std::max(nights.scatter, noise / 4);
}

} // namespace cognitum
