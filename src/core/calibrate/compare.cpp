#include "core/calibrate/compare.h"

#include "core/analyse/statistics.h"
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/calibrate/york.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <optional>

namespace cognitum {

namespace {

double usual_interval(std::span<const TimedValue> series) {
    std::vector<double> steps;
    for (std::size_t i = 1; i < series.size(); ++i)
        steps.push_back(seconds(series[i].time - series[i - 1].time));
    if (steps.empty()) return 1;
    std::nth_element(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2), steps.end());
    return std::max(1e-6, steps[steps.size() / 2]);
}

/// Walks along a series and reads it between its samples.
class ReadBetween {
  public:
    ReadBetween(std::span<const TimedValue> series, double gap_s) : m_series(series), m_gap(from_seconds(gap_s)) {}
    /// Times grow from call to call. NaN outside, or in a gap.
    double at(TimeUs t) {
        while (m_at + 1 < m_series.size() && m_series[m_at + 1].time <= t)
            ++m_at;
        if (m_series.empty() || t < m_series[m_at].time) return no_number;
        if (t == m_series[m_at].time) return m_series[m_at].value;
        if (m_at + 1 >= m_series.size()) return no_number;
        const TimedValue &before = m_series[m_at], &after = m_series[m_at + 1];
        if (after.time - before.time > m_gap) return no_number;
        const double share = static_cast<double>(t - before.time) / static_cast<double>(after.time - before.time);
        return before.value + share * (after.value - before.value);
    }

  private:
    std::span<const TimedValue> m_series;
    TimeUs m_gap;
    std::size_t m_at = 0;
};

struct Pairs {
    std::vector<double> a, b;
};

/// B as it was `lag` later than A.
Pairs pairs_at(std::span<const TimedValue> a, std::span<const TimedValue> b, double gap_s, TimeUs lag,
               std::size_t most) {
    Pairs out;
    ReadBetween there(b, gap_s);
    const std::size_t step = std::max<std::size_t>(1, a.size() / most);
    for (std::size_t i = 0; i < a.size(); i += step) {
        const double value = there.at(a[i].time + lag);
        if (!std::isfinite(value) || !std::isfinite(a[i].value)) continue;
        out.a.push_back(a[i].value);
        out.b.push_back(value);
    }
    return out;
}

double correlation(const Pairs& p) {
    if (p.a.size() < 3) return no_number;
    const auto n = static_cast<double>(p.a.size());
    double ma = 0, mb = 0, ab = 0, aa = 0, bb = 0;
    for (std::size_t i = 0; i < p.a.size(); ++i) {
        ma += p.a[i] / n;
        mb += p.b[i] / n;
    }
    for (std::size_t i = 0; i < p.a.size(); ++i) {
        ab += (p.a[i] - ma) * (p.b[i] - mb);
        aa += (p.a[i] - ma) * (p.a[i] - ma);
        bb += (p.b[i] - mb) * (p.b[i] - mb);
    }
    return aa > 0 && bb > 0 ? ab / std::sqrt(aa * bb) : no_number;
}

/// Lag of the largest correlation, s; nothing when both hardly move together, or when no lag is better than none.
std::optional<double> find_lag(std::span<const TimedValue> a, std::span<const TimedValue> b, double gap_s) {
    const TimeUs from = std::max(a.front().time, b.front().time), to = std::min(a.back().time, b.back().time);
    const double most = 0.1 * seconds(to - from);
    const double step = std::max(usual_interval(a), usual_interval(b)) / 2;
    if (!(most > 0) || step > most) return {};
    const int reach = static_cast<int>(std::min(400.0, most / step));
    std::vector<double> found(static_cast<std::size_t>(2 * reach + 1), no_number);
    const double each = most / reach;
    for (int k = -reach; k <= reach; ++k)
        found[static_cast<std::size_t>(k + reach)] =
            correlation(pairs_at(a, b, gap_s, from_seconds(k * each), 4000));
    std::size_t best = static_cast<std::size_t>(reach);
    for (std::size_t k = 0; k < found.size(); ++k)
        if (std::isfinite(found[k]) && (!std::isfinite(found[best]) || found[k] > found[best] + 1e-12)) best = k;
    const double none = found[static_cast<std::size_t>(reach)];
    if (!(found[best] > 0.5) || (std::isfinite(none) && found[best] - none < 1e-4)) return {};
    double top = static_cast<double>(best);
    if (best > 0 && best + 1 < found.size()) { // the parabola through the best and its neighbours
        const double l = found[best - 1], m = found[best], r = found[best + 1];
        if (std::isfinite(l + r) && l + r - 2 * m < 0) top += 0.5 * (l - r) / (l + r - 2 * m);
    }
    return (top - reach) * each;
}

/// Standard deviation of B around a line of this slope over A; both share their length.
double scatter_around(const Pairs& pairs, double slope) {
    std::vector<double> left;
    for (std::size_t i = 0; i < pairs.a.size(); ++i)
        left.push_back(pairs.b[i] - slope * pairs.a[i]);
    return moments(left).sd;
}

std::string verdict_of(const Comparison& c, const ComparedNames& names) {
    if (c.n == 0) return phrase("The two have no time in common: nothing can be compared.");
    if (c.n < 10)
        return counted(static_cast<long>(c.n), "Only {} pair: too few for a statement.",
                       "Only {} pairs: too few for a statement.");
    const double expanded = 2 * c.u_bias;
    const auto number = [&](double v) {
        return format_fixed(v, decimals_for(std::max({expanded, std::abs(c.sd) / 10, 1e-3 * std::abs(c.bias)})));
    };
    const std::string unit = names.unit.empty() ? "" : std::string(thin_space) + unit_symbol(names.unit);
    std::string out = std::abs(c.bias) <= expanded
                          ? phrase("No bias can be told: {} ± {}{}", number(c.bias), number(expanded), unit)
                          : phrase("{} is {} ± {}{} {}", names.b, number(std::abs(c.bias)), number(expanded), unit,
                                   c.bias > 0 ? phrase("higher") : phrase("lower"));
    out += phrase("; 95 of 100 differences lie between {} and {}{}", number(c.low), number(c.high), unit);
    if (c.opposite)
        out += phrase("; {} falls where {} rises: look whether one of the two is converted the wrong way round",
                      names.b, names.a);
    else if (std::isfinite(c.slope) && std::abs(c.slope - 1) > 0.02)
        out += phrase("; {} moves {} times as far as {}", names.b, format_constant(c.slope, 3), names.a);
    if (c.lag_known)
        out += phrase("; {} is {} s {}", names.b, format_constant(std::abs(c.lag_s), 3),
                      c.lag_s > 0 ? phrase("later") : phrase("earlier"));
    return out + ".";
}

} // namespace

double theil_sen(std::span<const double> x, std::span<const double> y) {
    constexpr std::size_t most = 600;
    const std::size_t n = std::min(x.size(), y.size()), step = std::max<std::size_t>(1, (n + most - 1) / most);
    std::vector<double> slopes;
    for (std::size_t i = 0; i < n; i += step)
        for (std::size_t j = i + step; j < n; j += step)
            if (x[j] != x[i]) slopes.push_back((y[j] - y[i]) / (x[j] - x[i]));
    if (slopes.empty()) return no_number;
    const auto middle = slopes.begin() + static_cast<std::ptrdiff_t>(slopes.size() / 2);
    std::nth_element(slopes.begin(), middle, slopes.end());
    if (slopes.size() % 2 == 1) return *middle;
    return (*middle + *std::max_element(slopes.begin(), middle)) / 2;
}

Comparison compare_series(std::span<const TimedValue> a, std::span<const TimedValue> b, double gap_s,
                          const ComparedNames& names) {
    Comparison out;
    out.cannot_show = {
        phrase("That both are right: two of one design share their error. Ask for an independent reference."),
        phrase("What they do outside of the values that came here.")};
    if (a.empty() || b.empty() || a.front().time > b.back().time || b.front().time > a.back().time) {
        out.verdict = verdict_of(out, names);
        return out;
    }
    if (!(gap_s > 0)) gap_s = 5 * usual_interval(b);
    const auto lag_s = find_lag(a, b, gap_s);
    out.lag_known = lag_s.has_value();
    out.lag_s = lag_s.value_or(0);
    const Pairs pairs = pairs_at(a, b, gap_s, from_seconds(out.lag_s), a.size());
    out.n = pairs.a.size();
    if (out.n > 0) {
        std::vector<double> differences;
        for (std::size_t i = 0; i < out.n; ++i)
            differences.push_back(pairs.b[i] - pairs.a[i]);
        const auto n = static_cast<double>(out.n);
        double sum = 0;
        for (const double d : differences)
            sum += d;
        out.bias = sum / n;
        double squares = 0, neighbours = 0;
        for (std::size_t i = 0; i < out.n; ++i) {
            squares += (differences[i] - out.bias) * (differences[i] - out.bias);
            if (i > 0) neighbours += (differences[i] - out.bias) * (differences[i - 1] - out.bias);
        }
        out.sd = out.n > 1 ? std::sqrt(squares / (n - 1)) : no_number;
        out.low = out.bias - 1.96 * out.sd;
        out.high = out.bias + 1.96 * out.sd;
        const double r = squares > 0 ? std::clamp(neighbours / squares, 0.0, 0.999) : 0;
        out.u_bias = out.sd / std::sqrt(std::max(1.0, n * (1 - r) / (1 + r)));
        out.slope = theil_sen(pairs.a, pairs.b);
        std::vector<YorkPoint> both;
        const std::size_t step = std::max<std::size_t>(1, out.n / 5000);
        for (std::size_t i = 0; i < out.n; i += step)
            both.push_back({pairs.a[i], pairs.b[i], 1, 1, 0});
        if (const auto line = york_line(both)) out.slope_york = line->slope;
        const auto [low, high] = std::minmax_element(pairs.a.begin(), pairs.a.end());
        out.opposite = out.slope < 0 && -out.slope * (*high - *low) > 4 * scatter_around(pairs, out.slope);
        if (*high - *low < 4 * out.sd && !out.opposite)
            out.cannot_show.push_back(
                phrase("How one follows the other: the values hardly moved while both were recorded."));
    }
    out.verdict = verdict_of(out, names);
    return out;
}

} // namespace cognitum
