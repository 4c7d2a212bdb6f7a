#include "core/pulses/wind.h"

#include "core/base/no_number.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace cognitum {

WindReport wind_report(std::span<const WindSample> samples, double window_s, double gust_s) {
    WindReport out{no_number, no_number, no_number, no_number, 0};
    if (samples.empty()) return out;
    const TimeUs from = samples.back().time - from_seconds(window_s);
    const auto first =
        static_cast<std::size_t>(std::lower_bound(samples.begin(), samples.end(), from,
                                                  [](const WindSample& s, TimeUs t) { return s.time < t; }) -
                                 samples.begin());
    double sum = 0, north = 0, east = 0, vane = 0;
    for (const WindSample& s : samples.subspan(first)) {
        if (!std::isfinite(s.speed)) continue;
        ++out.samples;
        sum += s.speed;
        if (!std::isfinite(s.direction_deg)) continue;
        const double angle = s.direction_deg * std::numbers::pi / 180;
        north += s.speed * std::cos(angle);
        east += s.speed * std::sin(angle);
        vane += s.speed;
    }
    if (out.samples == 0) return out;
    out.mean = sum / static_cast<double>(out.samples);
    // The running mean over the gust's length, by its two ends.
    const TimeUs length = from_seconds(gust_s);
    double running = 0;
    std::size_t count = 0, tail = first;
    out.gust = out.mean;
    for (std::size_t i = first; i < samples.size(); ++i) {
        if (!std::isfinite(samples[i].speed)) continue;
        running += samples[i].speed;
        ++count;
        for (; samples[tail].time <= samples[i].time - length; ++tail)
            if (std::isfinite(samples[tail].speed)) {
                running -= samples[tail].speed;
                --count;
            }
        if (samples[i].time - samples[first].time >= length - 1 || count == 1)
            out.gust = std::max(out.gust, running / static_cast<double>(count));
    }
    const double vector = std::hypot(north, east);
    if (vane > 0 && vector > 1e-9 * vane) {
        out.direction_deg = std::fmod(std::atan2(east, north) * 180 / std::numbers::pi + 360, 360);
        out.steadiness = vector / vane;
    }
    return out;
}

} // namespace cognitum
