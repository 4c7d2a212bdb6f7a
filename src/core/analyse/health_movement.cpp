// How a signal that measures something moves: hum, light that leaks in, spikes, whole steps, drift, noise, flicker.
#include "core/analyse/health_checks.h"
#include "core/analyse/spectrum.h"
#include "core/analyse/statistics.h"
#include "core/base/phrase.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum::health {

namespace {

using Verdict = std::optional<HealthVerdict>;

bool is_steady_kind(const Signal& s) {
    return s.is(SignalKind::codes) || s.is(SignalKind::measured) || s.is(SignalKind::distance);
}

/// Lamps on the mains in a pulse probe: 100 or 120 Hz, folded to wherever the rate puts it, over a moving level.
Verdict check_light(const Signal& s) {
    if (!s.is(SignalKind::wave) || s.v.size() < 200 || s.figures.interval_s <= 0) return {};
    const double rate = 1 / s.figures.interval_s;
    const Spectrum spectrum = amplitude_spectrum(s.last(1024), rate);
    if (spectrum.amplitude.empty()) return {};
    double beat = 0;
    for (std::size_t i = 1; i < spectrum.amplitude.size(); ++i) {
        const double f = spectrum.step_hz * static_cast<double>(i);
        if (f >= 0.6 && f < 5) beat = std::max(beat, spectrum.amplitude[i]);
    }
    for (const double lamp : {100.0, 120.0}) {
        const double seen = folded(lamp, rate);
        if (seen < 6) continue; // it would hide among the beats
        double flicker = 0;
        for (std::size_t i = 1; i < spectrum.amplitude.size(); ++i)
            if (std::abs(spectrum.step_hz * static_cast<double>(i) - seen) < 1)
                flicker = std::max(flicker, spectrum.amplitude[i]);
        if (flicker < 4 || flicker < 0.25 * beat) continue;
        return HealthVerdict{
            {},
            {},
            HealthRank::bad,
            phrase("{} at {:.0f} Hz, which {:.0f} samples a second show at {:.0f} Hz: the lamps, not "
                   "the heart.",
                   s.amount(flicker), lamp, rate, seen),
            {phrase("light gets past the finger"), phrase("the probe sits loosely"),
             phrase("a lamp on the mains is too near")},
            phrase("Lay a dark cloth over hand and probe: the flicker must go.")};
    }
    return {};
}

Verdict check_hum(const Signal& s) {
    if (!is_steady_kind(s) || s.v.size() < 64) return {};
    const std::size_t n = std::min<std::size_t>(s.v.size(), 1200);
    const MainsShare mains = mains_share(std::span(s.t).last(n), std::span(s.v).last(n));
    const double step = s.of_codes() ? 1 : std::max(s.about.resolution, s.figures.quantum);
    // Folded to the slow end it could be anything that moves; then it is not called hum.
    if (mains.share < 0.4 || mains.amplitude < 1.2 * step || mains.seen_at_hz < 0.2 / s.figures.interval_s * 0.5)
        return {};
    return HealthVerdict{
        {},
        {},
        HealthRank::look,
        phrase("{} % of the movement is at {:.0f} Hz: a swing of ± {}.", std::lround(100 * mains.share),
               mains.mains_hz, s.amount(mains.amplitude)),
        {phrase("the probe wire runs beside a mains cable"), phrase("the divider has more ohms than it needs"),
         phrase("a ground is open")},
        phrase("Lift the probe wire away from everything and hold it there for five seconds: if the swing "
               "falls, it was the cable.")};
}

Verdict check_spikes(const Signal& s) {
    if (!is_steady_kind(s) || s.v.size() < 40) return {};
    const double step = s.of_codes() ? 1 : std::max(s.about.resolution, s.figures.quantum);
    const auto tail = s.last(600);
    auto outliers = hampel_outliers(tail, 5, 8, 6 * step);
    // A step is no spike: what jumps out must come back to where it was.
    std::erase_if(outliers, [&](std::size_t i) {
        if (i < 3 || i + 3 >= tail.size()) return true;
        const double before = median({tail[i - 3], tail[i - 2], tail[i - 1]});
        const double after = median({tail[i + 1], tail[i + 2], tail[i + 3]});
        return std::abs(before - after) > 0.3 * std::abs(tail[i] - before);
    });
    if (outliers.size() < 3 || 8 * outliers.size() > tail.size()) return {};
    return HealthVerdict{
        {},
        {},
        HealthRank::look,
        phrase("{} of {} values jump out and back again.", outliers.size(), tail.size()),
        {phrase("something switches nearby: a pump, a relay, a radio"), phrase("a supply without a capacitor"),
         phrase("a contact that is about to go")},
        phrase("Write down when they come: with the pump, it is the supply; at random, it is a contact.")};
}

Verdict check_whole_steps(const Signal& s) {
    if (!s.is(SignalKind::measured) && !s.is(SignalKind::distance)) return {};
    if (s.about.resolution <= 0 || s.v.size() < 40) return {};
    const double step = s.figures.quantum;
    if (step < 3.5 * s.about.resolution || std::abs(step - std::round(step)) > 1e-9) return {};
    int levels = 0;
    std::vector<double> sorted = s.v;
    std::sort(sorted.begin(), sorted.end());
    for (std::size_t i = 0; i < sorted.size(); ++i) {
        if (std::abs(sorted[i] - std::round(sorted[i])) > 1e-9) return {};
        levels += i == 0 || sorted[i] > sorted[i - 1];
    }
    if (levels < 3) return {};
    return HealthVerdict{{},
                         {},
                         HealthRank::look,
                         phrase("every value is a multiple of {}, and the part gives steps of {}.", s.amount(step),
                                s.amount(s.about.resolution, s.about.resolution < 0.1 ? 4 : 2)),
                         {phrase("the program divides whole numbers and drops the rest"),
                          phrase("a library that rounds"), phrase("a type without decimals")},
                         phrase("Look for the division in the program: one factor with a decimal point mends it.")};
}

Verdict check_drift(const Signal& s) {
    if (!is_steady_kind(s) || s.v.size() < 40 || s.about.fastest_per_hour <= 0) return {};
    const std::size_t n = std::clamp<std::size_t>(s.v.size() / 2, 20, 300); // what came before may have been well
    const auto t = std::span(s.t).last(n);
    const auto v = std::span(s.v).last(n);
    const double span = t.back() - t.front();
    const LineFit line = fit_line(t, v);
    const double change = std::abs(line.slope) * span;
    const double step = s.of_codes() ? 1 : std::max(s.about.resolution, s.figures.quantum);
    if (span < 60 || std::abs(line.slope) * 3600 < s.about.fastest_per_hour || change < 5 * step ||
        change < 6 * s.figures.noise)
        return {};
    double rest = 0;
    double all = 0;
    const double mean = moments(v).mean;
    for (std::size_t i = 0; i < n; ++i) {
        const double r = v[i] - line.intercept - line.slope * t[i];
        rest += r * r;
        all += (v[i] - mean) * (v[i] - mean);
    }
    if (rest > 0.1 * all) return {};
    return HealthVerdict{
        {},
        {},
        HealthRank::look,
        phrase("{} an hour in one direction; what is measured changes by at most {}.", s.amount(line.slope * 3600),
               s.amount(s.about.fastest_per_hour)),
        {phrase("the sensor warms itself or stands beside something warm"),
         phrase("the reference or the supply creeps"), phrase("moisture gets into the sensor or its cable")},
        phrase("Measure supply and reference now and in ten minutes: if they hold, it is the sensor.")};
}

Verdict check_noise(const Signal& s) {
    if (!s.is(SignalKind::codes) || !std::isfinite(s.full()) || s.v.size() < 15) return {};
    const auto tail = s.last(60);
    std::vector<double> calm(tail.begin(), tail.end()); // spikes are told on their own
    const auto spikes = hampel_outliers(tail, 5, 8, 6);
    for (std::size_t left = spikes.size(); left-- > 0;) // from the last one: the others keep their places
        calm.erase(calm.begin() + static_cast<std::ptrdiff_t>(spikes[left]));
    const double noise = difference_sd(calm);
    if (noise < std::max(2.5, 0.0025 * s.full())) return {};
    return HealthVerdict{
        {},
        {},
        HealthRank::look,
        phrase("noise of {} counts, where this converter alone makes less than 1.", format_fixed(noise, 1)),
        {phrase("a long unshielded wire"), phrase("no capacitor at the part"), phrase("a poor ground"),
         phrase("a supply that ripples")},
        phrase("Hold the wire away from everything for ten seconds: if it calms, it was the cable.")};
}

Verdict check_flicker(const Signal& s) {
    if (!s.is(SignalKind::codes) || s.v.size() < 15) return {};
    const Moments m = moments(s.last(60));
    if (m.high - m.low != 1) return {};
    return HealthVerdict{
        {}, {}, HealthRank::note, phrase("two neighbouring codes take turns: that is resolution, not a fault."),
        {}, ""};
}

constexpr Entry all_movement_checks[] = {
    {"light-leak", for_people("Light leaks in"), check_light},
    {"hum", for_people("Mains hum"), check_hum},
    {"spikes", for_people("Spikes"), check_spikes},
    {"whole-steps", for_people("Whole steps"), check_whole_steps},
    {"drift", for_people("Drifts"), check_drift},
    {"noisy", for_people("Noisy"), check_noise},
    {"flicker", for_people("One count of flicker"), check_flicker},
};

} // namespace

std::span<const Entry> movement_checks() {
    return all_movement_checks;
}

} // namespace cognitum::health
