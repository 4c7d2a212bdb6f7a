#include "core/analyse/health.h"

#include "core/analyse/statistics.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

std::vector<double> finite_codes(std::span<const RawSample> samples) {
    std::vector<double> codes;
    for (const RawSample& s : samples)
        if (std::isfinite(s.code)) codes.push_back(s.code);
    return codes;
}

int last_run(const std::vector<double>& codes) {
    int run = 0;
    for (auto it = codes.rbegin(); it != codes.rend() && *it == codes.back(); ++it)
        ++run;
    return run;
}

/// A run of one code is implausible when the samples before it changed too often for that to be chance.
void check_stuck(const std::vector<double>& codes, std::vector<HealthVerdict>& out) {
    const int run = last_run(codes);
    const auto before = codes.size() - static_cast<std::size_t>(run);
    if (run < 30 || before < 20) return;
    int changes = 0;
    for (std::size_t i = 1; i < before; ++i)
        changes += codes[i] != codes[i - 1];
    const double share = (changes + 0.5) / static_cast<double>(before);
    // In the middle of a code the same noise changes it about five times less often than at its edge.
    if (std::pow(1 - share / 5, run) > 1e-4) return;
    out.push_back({"stuck",
                   true,
                   fmt::format("{} for {} lines; before that {:.0f} % of the lines changed.",
                               format_constant(codes.back()), run, 100 * share),
                   {"the sensor has died or lost its supply", "the board repeats an old value",
                    "the output is shorted to a steady voltage"},
                   "Warm the sensor with two fingers: within 20 s the code must move."});
}

void check_clipped(const std::vector<double>& codes, double top, std::vector<HealthVerdict>& out) {
    const std::size_t recent = std::min<std::size_t>(codes.size(), 30);
    const auto tail = std::span(codes).last(recent);
    const auto high = std::count_if(tail.begin(), tail.end(), [&](double c) { return c >= top; });
    const auto low = std::count_if(tail.begin(), tail.end(), [](double c) { return c <= 0; });
    const auto many = static_cast<std::ptrdiff_t>(std::max<std::size_t>(4, recent / 4)); // one spike is no clipping
    if (high < many && low < many) return;
    const bool is_high = high >= low;
    out.push_back({"clipped", true,
                   fmt::format("{} of the last {} lines are at the {} rail ({}).", is_high ? high : low, recent,
                               is_high ? "upper" : "lower", is_high ? format_constant(top) : "0"),
                   is_high ? std::vector<std::string>{"the ground wire is off", "the output is above the reference",
                                                      "the pin is shorted to the supply"}
                           : std::vector<std::string>{"the supply wire is off", "the pin is shorted to ground",
                                                      "the output lies below 0 V"},
                   is_high ? "Measure the pin against ground: at the reference or above, it is a wire; far below, "
                             "it is the board."
                           : "Measure the supply at the part’s own leg."});
}

void check_noise(const std::vector<double>& codes, double full, std::vector<HealthVerdict>& out) {
    const std::size_t recent = std::min<std::size_t>(codes.size(), 60);
    if (recent < 15) return;
    const auto tail = std::span(codes).last(recent);
    const double noise = difference_sd(tail);
    const Moments m = moments(tail);
    if (noise > 0.008 * full && m.high - m.low > 0.03 * full) {
        out.push_back(
            {"floating",
             true,
             fmt::format(
                 "jumps of {:.0f} counts from line to line, over {:.0f} counts in all: nothing holds the pin.",
                 noise, m.high - m.low),
             {"the signal wire is off", "the sensor has no supply", "a cold solder joint"},
             "Touch the bare signal wire: if the jumps grow, the pin is open."});
    } else if (noise > std::max(2.5, 0.0025 * full)) {
        out.push_back(
            {"noisy",
             false,
             fmt::format("noise of {:.1f} counts, where this converter alone makes less than 1.", noise),
             {"a long unshielded wire", "no capacitor at the part", "a poor ground", "a supply that ripples"},
             "Hold the wire away from everything for ten seconds: if it calms, it was the cable."});
    } else if (m.high - m.low == 1) {
        out.push_back(
            {"flicker", false, "two neighbouring codes take turns: that is resolution, not a fault.", {}, ""});
    }
}

} // namespace

SignalFigures signal_figures(std::span<const RawSample> samples, int bits) {
    SignalFigures f;
    const std::vector<double> codes = finite_codes(samples);
    f.n = static_cast<int>(codes.size());
    if (codes.empty()) return f;
    const Moments m = moments(codes);
    f.mean = m.mean;
    f.sd = m.sd;
    f.peak_to_peak = m.high - m.low;
    f.noise = difference_sd(codes);
    // A converter that only quantises has noise 1/√12 LSB; more noise costs log2 of the ratio (IEEE Std 1241).
    f.effective_bits = std::max(0.0, bits - std::max(0.0, std::log2(std::max(f.noise, 1e-12) * std::sqrt(12.0))));
    f.run = last_run(codes);

    std::vector<double> t;
    std::vector<double> v;
    std::vector<double> steps;
    for (std::size_t i = 0; i < samples.size(); ++i) {
        if (i > 0) steps.push_back(seconds(samples[i].time - samples[i - 1].time));
        if (!std::isfinite(samples[i].code)) continue;
        t.push_back(seconds(samples[i].time - samples[0].time));
        v.push_back(samples[i].code);
    }
    f.drift_per_hour = fit_line(t, v).slope * 3600;
    if (!steps.empty()) {
        std::vector<double> sorted = steps;
        std::nth_element(sorted.begin(), sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() / 2),
                         sorted.end());
        f.interval_s = sorted[sorted.size() / 2];
        f.gaps = static_cast<int>(
            std::count_if(steps.begin(), steps.end(), [&](double s) { return s > 1.8 * f.interval_s; }));
        const double span = seconds(samples.back().time - samples.front().time);
        f.rate_hz = span > 0 ? static_cast<double>(samples.size() - 1) / span : 0;
    }
    return f;
}

std::vector<HealthVerdict> judge_health(std::span<const RawSample> samples, int bits) {
    std::vector<HealthVerdict> out;
    const std::vector<double> codes = finite_codes(samples);
    if (codes.empty()) return out;
    const double full = std::ldexp(1.0, bits);
    check_clipped(codes, full - 1, out);
    if (!out.empty()) return out; // at the rail nothing else can be judged
    check_stuck(codes, out);
    if (!out.empty()) return out;
    check_noise(codes, full, out);
    return out;
}

} // namespace cognitum
