#include "core/stretch/stretch.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

/// Bins of 1 % from a microsecond to some ten thousand years.
constexpr double bins_per_e_fold = 100;
constexpr std::size_t bin_count = 4200;

} // namespace

void UsualStep::take(TimeUs time) {
    if (m_last && time > *m_last) {
        const auto step = static_cast<double>(time - *m_last);
        if (m_bins.empty()) m_bins.resize(bin_count);
        const auto at = static_cast<std::size_t>(std::llround(bins_per_e_fold * std::log(step))); // step >= 1
        Bin& bin = m_bins[std::min(at, bin_count - 1)];
        ++bin.n;
        bin.sum += step;
        ++m_steps;
    }
    m_last = time;
}

TimeUs UsualStep::median() const {
    std::uint64_t below = 0;
    for (const Bin& bin : m_bins) {
        below += bin.n;
        if (bin.n > 0 && 2 * below >= m_steps) return std::llround(bin.sum / static_cast<double>(bin.n));
    }
    return 0;
}

void AddsJudge::take(double value) {
    if (!std::isfinite(value)) return;
    m_falls += value < m_last;
    m_stays += value == m_last && value > 0;
    m_last = value;
}

StretchCounter::StretchCounter(TimeUs from, TimeUs to, StretchRules rules) : m_rules(std::move(rules)) {
    m_out.from = from;
    m_out.to = to;
    m_rules.usual = std::max<TimeUs>(1, m_rules.usual);
}

void StretchCounter::note_gap(TimeUs from, TimeUs to) {
    from = std::max(from, m_out.from);
    to = std::min(to, m_out.to);
    if (to - from <= steps_to_a_gap * m_rules.usual) return;
    ++m_out.all_gaps;
    m_out.gaps.push_back({from, to});
    if (m_out.gaps.size() < 2 * StretchFigures::most_gaps) return;
    const auto longer = [](const Interval& a, const Interval& b) { return a.to - a.from > b.to - b.from; };
    const auto keep = m_out.gaps.begin() + StretchFigures::most_gaps;
    std::nth_element(m_out.gaps.begin(), keep, m_out.gaps.end(), longer);
    m_out.gaps.erase(keep, m_out.gaps.end());
}

/// The value before this sample holds until it, or for one usual step where a gap follows.
void StretchCounter::hold_until(TimeUs time) {
    if (!m_before || std::isnan(m_before->value)) return;
    const bool gap = time - m_before->time > steps_to_a_gap * m_rules.usual;
    const TimeUs end = std::min(m_out.to, gap ? m_before->time + m_rules.usual : time);
    const double held = seconds(end - std::max(m_out.from, m_before->time));
    if (held <= 0) return;
    m_covered_s += held;
    if (m_rules.bands) m_band_s[static_cast<std::size_t>(m_zone)] += held;
    const auto& named = m_rules.named_bands;
    m_named_s.resize(named.size());
    for (std::size_t i = 0; i < named.size(); ++i)
        if (m_before->value <= named[i].to || i + 1 == named.size()) {
            m_named_s[i] += held;
            break;
        }
    (m_before->value > 0.5 ? m_on_s : m_off_s) += held;
}

/// What a running total grew since the value before belongs to the time of its line; over a gap it is spread
/// evenly, and the part of it that lies in the stretch counts.
void StretchCounter::add_growth(TimeUs time, double value) {
    if (!m_value) return;
    const double grown = value >= m_value->value ? value - m_value->value : std::max(0.0, value);
    if (m_rules.most_step > 0 && grown > m_rules.most_step) return;
    if (time - m_value->time <= steps_to_a_gap * m_rules.usual) {
        if (time >= m_out.from && time < m_out.to) m_total += grown;
        return;
    }
    const TimeUs inside = std::min(time, m_out.to) - std::max(m_value->time, m_out.from);
    if (inside <= 0) return;
    const double part = grown * seconds(inside) / seconds(time - m_value->time);
    m_total += part;
    m_out.in_gaps += part;
}

void StretchCounter::count_value(TimeUs time, double value) {
    ++m_out.valued;
    if (m_out.valued == 1) {
        m_out.first = m_out.least = m_out.most = value;
        m_out.least_at = m_out.most_at = time;
        m_out.mean = 0;
    }
    m_out.last = value;
    m_out.last_at = time;
    if (value < m_out.least) {
        m_out.least = value;
        m_out.least_at = time;
    }
    if (value > m_out.most) {
        m_out.most = value;
        m_out.most_at = time;
    }
    // Means and products about the means in one pass (Welford 1962): no large numbers are subtracted.
    const auto n = static_cast<double>(m_out.valued);
    const double hours = seconds(time - m_out.from) / 3600;
    const double off = hours - m_time_mean;
    m_time_mean += off / n;
    m_time_squares += off * (hours - m_time_mean);
    m_products += off * (n - 1) / n * (value - m_out.mean);
    m_out.mean += (value - m_out.mean) / n;
    if (m_value && time - m_value->time <= steps_to_a_gap * m_rules.usual) {
        m_difference_squares += (value - m_value->value) * (value - m_value->value);
        ++m_differences;
    }
}

void StretchCounter::take(TimeUs time, double value, Cause cause) {
    if (m_behind) return;
    const bool has_value = std::isfinite(value) && cause == Cause::none;
    hold_until(time);
    if (time >= m_out.from) note_gap(m_before ? m_before->time : m_out.from, time);
    m_behind = time >= m_out.to;
    if (has_value) {
        if (m_rules.adds == Adds::running_total) add_growth(time, value);
        if (m_rules.bands) m_zone = next_zone(m_zone, value, *m_rules.bands);
        if (time >= m_out.from && !m_behind) {
            count_value(time, value);
            if (m_rules.adds == Adds::amounts) m_total += value;
        }
        m_value = Point{time, value};
    }
    if (time >= m_out.from && !m_behind) {
        ++m_out.n;
        if (!has_value) ++m_failures[static_cast<std::size_t>(cause == Cause::none ? Cause::missing : cause)];
    }
    m_before = Point{time, has_value ? value : no_number};
}

StretchFigures StretchCounter::finish() {
    if (!m_behind) {
        const TimeUs end = m_before ? m_before->time + m_rules.usual : m_out.from;
        hold_until(std::min(end, m_out.to));
        note_gap(m_before ? m_before->time : m_out.from, m_out.to);
    }
    if (m_out.to - m_out.from > 0) m_out.coverage = std::min(1.0, m_covered_s / seconds(m_out.to - m_out.from));
    if (m_differences > 0) m_out.noise = std::sqrt(m_difference_squares / 2 / static_cast<double>(m_differences));
    if (m_time_squares > 0) m_out.per_hour = m_products / m_time_squares;
    if (m_rules.adds != Adds::nothing && m_out.valued > 0) m_out.total = m_total;
    const auto add_band = [&](const std::string& name, double held) {
        if (held > 0) m_out.bands.push_back({name, held});
    };
    for (std::size_t i = 0; i < m_named_s.size(); ++i)
        add_band(m_rules.named_bands[i].name, m_named_s[i]);
    if (m_rules.bands && m_rules.named_bands.empty())
        for (const Zone zone : {Zone::low, Zone::in_range, Zone::high})
            add_band(zone_word(zone), m_band_s[static_cast<std::size_t>(zone)]);
    if (!m_rules.on_word.empty()) {
        add_band(m_rules.on_word, m_on_s);
        add_band(m_rules.off_word, m_off_s);
    }
    for (std::size_t i = 0; i < m_failures.size(); ++i)
        if (m_failures[i] > 0) m_out.failures.push_back({static_cast<Cause>(i), m_failures[i]});
    std::stable_sort(m_out.failures.begin(), m_out.failures.end(),
                     [](const CauseCount& a, const CauseCount& b) { return a.n > b.n; });
    const auto longer = [](const Interval& a, const Interval& b) { return a.to - a.from > b.to - b.from; };
    if (m_out.gaps.size() > StretchFigures::most_gaps) {
        const auto keep = m_out.gaps.begin() + StretchFigures::most_gaps;
        std::nth_element(m_out.gaps.begin(), keep, m_out.gaps.end(), longer);
        m_out.gaps.erase(keep, m_out.gaps.end());
    }
    std::sort(m_out.gaps.begin(), m_out.gaps.end(),
              [](const Interval& a, const Interval& b) { return a.from < b.from; });
    return m_out;
}

} // namespace cognitum
