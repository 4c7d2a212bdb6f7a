#include "core/pulses/rain.h"

#include "core/base/no_number.h"

#include <algorithm>
#include <cmath>
#include <optional>

namespace cognitum {

namespace {

constexpr TimeUs shortest_window = 5 * minute_us;

TimeUs floor_to(TimeUs t, TimeUs step, TimeUs offset) {
    const TimeUs shifted = t - offset;
    return t - ((shifted % step) + step) % step;
}

void add(std::vector<RainAmount>& list, TimeUs start, double mm) {
    if (list.empty() || list.back().start != start) list.push_back({start, 0});
    list.back().mm += mm;
}

} // namespace

double millimetres_per_tip(double tip_volume_mL, double funnel_area_cm2) {
    if (!(tip_volume_mL > 0) || !(funnel_area_cm2 > 0)) return no_number;
    return 10 * tip_volume_mL / funnel_area_cm2;
}

double rain_within(std::span<const TimeUs> tips, double mm_per_tip, TimeUs now, TimeUs window) {
    const auto first = std::upper_bound(tips.begin(), tips.end(), now - window);
    const auto last = std::upper_bound(first, tips.end(), now);
    return static_cast<double>(last - first) * mm_per_tip;
}

std::vector<TimeUs> tips_of_counts(std::span<const TimeUs> times, std::span<const double> counts) {
    std::vector<TimeUs> out;
    constexpr double most_at_once = 1000; // more is no rain but another counter
    for (std::size_t i = 1; i < std::min(times.size(), counts.size()); ++i) {
        const double grown = counts[i] >= counts[i - 1] ? counts[i] - counts[i - 1] : counts[i];
        if (!(grown >= 1) || grown > most_at_once) continue;
        const auto steps = static_cast<TimeUs>(grown);
        for (TimeUs k = 1; k <= steps; ++k)
            out.push_back(times[i - 1] + (times[i] - times[i - 1]) * k / steps);
    }
    return out;
}

std::vector<bool> bounced_tips(std::span<const TimeUs> tips, double bounce_s) {
    const TimeUs bounce = from_seconds(bounce_s);
    std::vector<bool> out(tips.size());
    std::optional<TimeUs> counted;
    for (std::size_t i = 0; i < tips.size(); ++i) {
        out[i] = counted && tips[i] - *counted < bounce;
        if (!out[i]) counted = tips[i];
    }
    return out;
}

RainTotals rain_totals(std::span<const TimeUs> times, double mm_per_pulse, const RainOptions& options) {
    RainTotals out;
    const double mm_per_tip = mm_per_pulse * options.tips_per_pulse;
    const TimeUs dry = from_seconds(options.dry_spell_s);
    const std::vector<bool> bounced = bounced_tips(times, options.bounce_s);
    std::vector<TimeUs> tips; // that counted
    for (std::size_t k = 0; k < times.size(); ++k) {
        const TimeUs t = times[k];
        if (bounced[k]) {
            ++out.rejected;
            continue;
        }
        // What fell since the tip before, at the intensity of that time; a lone tip fell at no intensity known.
        double fell = mm_per_tip;
        if (!tips.empty() && t - tips.back() < dry && (options.loss_a != 1 || options.loss_b != 1)) {
            const double hours = seconds(t - tips.back()) / 3600;
            fell = std::max(fell, options.loss_a * std::pow(mm_per_tip / hours, options.loss_b) * hours);
        }
        out.corrected_mm += fell;
        if (out.events.empty() || t - out.events.back().end >= dry) out.events.push_back({t, t, 0});
        out.events.back().end = t;
        out.events.back().mm += mm_per_tip;
        tips.push_back(t);
        add(out.hours, floor_to(t, hour_us, 0), mm_per_tip);
        add(out.days, floor_to(t, day_us, options.day_start - options.zone), mm_per_tip);
    }
    for (const RainAmount& day : out.days) { // a month is that of the days that begin in it
        const std::string date = iso_time(day.start + options.zone);
        const auto month = parse_time(date.substr(0, 7) + "-01T00:00:00Z");
        const auto year = parse_time(date.substr(0, 4) + "-01-01T00:00:00Z");
        if (month) add(out.months, *month - options.zone, day.mm);
        if (year) add(out.years, *year - options.zone, day.mm);
    }
    out.tips = tips.size();
    out.total_mm = static_cast<double>(tips.size()) * mm_per_tip;
    // What falls between two tips is known when the second comes: so many tips over the time between, which is
    // taken as five minutes where it is shorter.
    std::size_t j = 0;
    for (std::size_t i = 0; i < tips.size(); ++i) {
        j = std::max(j, i);
        while (j + 1 < tips.size() && tips[j] - tips[i] < shortest_window)
            ++j;
        if (j == i) continue;
        const double span = std::max(seconds(tips[j] - tips[i]), seconds(shortest_window));
        out.max_intensity_mm_h =
            std::max(out.max_intensity_mm_h, static_cast<double>(j - i) * mm_per_tip * 3600 / span);
        if (j > i + 1) { // the window that ends before the five minutes are over
            out.max_intensity_mm_h = std::max(out.max_intensity_mm_h, static_cast<double>(j - 1 - i) * mm_per_tip *
                                                                          3600 / seconds(shortest_window));
        }
    }
    return out;
}

} // namespace cognitum
