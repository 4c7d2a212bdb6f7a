#include "core/pulses/rain.h"

#include <algorithm>
#include <cmath>
#include <limits>

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
    if (!(tip_volume_mL > 0) || !(funnel_area_cm2 > 0)) return std::numeric_limits<double>::quiet_NaN();
    return 10 * tip_volume_mL / funnel_area_cm2;
}

RainTotals rain_totals(std::span<const TimeUs> times, double mm_per_tip, const RainOptions& options) {
    RainTotals out;
    const TimeUs bounce = from_seconds(options.bounce_s);
    std::vector<TimeUs> tips; // that counted
    for (const TimeUs t : times) {
        if (!tips.empty() && t - tips.back() < bounce) {
            ++out.rejected;
            continue;
        }
        tips.push_back(t);
        add(out.hours, floor_to(t, hour_us, 0), mm_per_tip);
        add(out.days, floor_to(t, day_us, options.day_start - options.zone), mm_per_tip);
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
