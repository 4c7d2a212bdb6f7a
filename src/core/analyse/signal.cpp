#include "core/analyse/signal.h"

#include "core/analyse/statistics.h"

#include <algorithm>

namespace cognitum {

namespace {

void interval_figures(std::span<const RawSample> samples, SignalFigures& f) {
    std::vector<double> steps;
    for (std::size_t i = 1; i < samples.size(); ++i)
        steps.push_back(seconds(samples[i].time - samples[i - 1].time));
    if (steps.empty()) return;
    std::vector<double> sorted = steps;
    std::nth_element(sorted.begin(), sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() / 2), sorted.end());
    f.interval_s = sorted[sorted.size() / 2];
    f.gaps = static_cast<int>(
        std::count_if(steps.begin(), steps.end(), [&](double s) { return s > 1.8 * f.interval_s; }));
    const double span = seconds(samples.back().time - samples.front().time);
    f.rate_hz = span > 0 ? static_cast<double>(samples.size() - 1) / span : 0;
    std::erase_if(steps, [&](double s) { return s > 1.8 * f.interval_s; });
    f.jitter_s = moments(steps).sd;
}

double smallest_step(std::vector<double> values) {
    std::sort(values.begin(), values.end());
    double out = 0;
    for (std::size_t i = 1; i < values.size(); ++i) {
        const double step = values[i] - values[i - 1];
        if (step > 1e-9 * std::max(1.0, std::abs(values[i])) && (out == 0 || step < out)) out = step;
    }
    return out;
}

} // namespace

SignalAbout about_codes(int bits) {
    SignalAbout out;
    out.bits = bits;
    out.low = 0;
    out.high = std::ldexp(1.0, bits) - 1;
    out.resolution = 1;
    return out;
}

SignalFigures signal_figures(std::span<const RawSample> samples, int bits) {
    SignalFigures f;
    std::vector<double> t;
    std::vector<double> v;
    for (const RawSample& s : samples) {
        if (!std::isfinite(s.code)) {
            ++f.failed;
            continue;
        }
        t.push_back(seconds(s.time - samples[0].time));
        v.push_back(s.code);
    }
    interval_figures(samples, f);
    f.n = static_cast<int>(v.size());
    if (v.empty()) return f;
    const Moments m = moments(v);
    f.mean = m.mean;
    f.sd = m.sd;
    f.peak_to_peak = m.high - m.low;
    f.noise = difference_sd(v);
    if (f.rate_hz > 0) f.noise_density = f.noise / std::sqrt(f.rate_hz / 2);
    // A converter that only quantises has noise 1/√12 LSB; more noise costs log2 of the ratio (IEEE Std 1241).
    f.effective_bits = std::max(0.0, bits - std::max(0.0, std::log2(std::max(f.noise, 1e-12) * std::sqrt(12.0))));
    for (auto it = v.rbegin(); it != v.rend() && *it == v.back(); ++it)
        ++f.run;
    f.quantum = smallest_step(v);
    const LineFit line = fit_line(t, v);
    f.drift_per_hour = line.slope * 3600;
    for (std::size_t i = 0; i < v.size(); ++i)
        v[i] -= line.intercept + line.slope * t[i];
    f.autocorrelation_s = autocorrelation_time(v) * f.interval_s;
    return f;
}

} // namespace cognitum
