#include "core/pulses/beats.h"

#include "core/analyse/statistics.h"
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace cognitum {

namespace {

constexpr double low_hz = 0.5, high_hz = 8, refractory_s = 0.25, tolerance = 0.25, usual_beats = 8;
constexpr double slowest_s = 2, fastest_s = 0.27; ///< 30 and 220 a minute

struct Biquad {
    double b0, b1, b2, a1, a2;
};

/// Second-order Butterworth by the bilinear transform.
Biquad butterworth(double hz, double rate, bool high_pass) {
    const double k = std::tan(std::numbers::pi * hz / rate);
    const double norm = 1 / (1 + std::numbers::sqrt2 * k + k * k);
    const double a1 = 2 * (k * k - 1) * norm;
    const double a2 = (1 - std::numbers::sqrt2 * k + k * k) * norm;
    if (high_pass) return {norm, -2 * norm, norm, a1, a2};
    return {k * k * norm, 2 * k * k * norm, k * k * norm, a1, a2};
}

/// One pass; it starts as if the first value had always been there.
template <typename Iterator>
void filter(const Biquad& f, Iterator begin, Iterator end) {
    if (begin == end) return;
    const double gain = (f.b0 + f.b1 + f.b2) / (1 + f.a1 + f.a2);
    double x1 = *begin, x2 = x1, y1 = gain * x1, y2 = y1;
    for (Iterator it = begin; it != end; ++it) {
        const double x = *it;
        const double y = f.b0 * x + f.b1 * x1 + f.b2 * x2 - f.a1 * y1 - f.a2 * y2;
        x2 = x1;
        x1 = x;
        y2 = y1;
        y1 = y;
        *it = y;
    }
}

std::vector<double> band_passed(std::span<const double> wave, double rate) {
    std::vector<double> y(wave.begin(), wave.end());
    for (const Biquad& f :
         {butterworth(low_hz, rate, true), butterworth(std::min(high_hz, 0.4 * rate), rate, false)}) {
        filter(f, y.begin(), y.end());
        filter(f, y.rbegin(), y.rend()); // no delay is left
    }
    return y;
}

struct Top {
    std::size_t at = 0;
    double height = 0, slope = 0; ///< slope: steepest rise in the 200 ms before it
};

std::vector<Top> tops_of(const std::vector<double>& y, double rate) {
    std::vector<Top> out;
    const auto before = static_cast<std::size_t>(std::max(1.0, 0.2 * rate));
    for (std::size_t i = 1; i + 1 < y.size(); ++i) {
        if (!(y[i] > y[i - 1] && y[i] >= y[i + 1]) || y[i] <= 0) continue;
        Top top{i, y[i], 0};
        for (std::size_t k = i > before ? i - before : 1; k <= i; ++k)
            top.slope = std::max(top.slope, y[k] - y[k - 1]);
        out.push_back(top);
    }
    return out;
}

/// A rail is met several times in a row and again and again, the top of a round wave once a beat; a wave may rest
/// at its foot for long.
bool is_clipped(std::span<const double> wave) {
    const auto [low, high] = std::minmax_element(wave.begin(), wave.end());
    std::size_t at_high = 0, in_a_row = 0, at_low = 0;
    for (std::size_t i = 0; i < wave.size(); ++i) {
        at_low += wave[i] == *low;
        if (wave[i] != *high) continue;
        ++at_high;
        in_a_row += (i > 0 && wave[i - 1] == *high) || (i + 1 < wave.size() && wave[i + 1] == *high);
    }
    const auto n = static_cast<double>(wave.size());
    return (static_cast<double>(at_high) > 0.05 * n && 2 * in_a_row > at_high) ||
           static_cast<double>(at_low) > 0.8 * n;
}

/// How much the wave is like itself one interval later, −1…1.
double likeness(const std::vector<double>& y, double interval_s, double rate) {
    double best = -1;
    for (double part = 0.9; part <= 1.1; part += 0.02) {
        const auto lag = static_cast<std::size_t>(std::lround(part * interval_s * rate));
        if (lag == 0 || lag >= y.size()) continue;
        double xy = 0, xx = 0, yy = 0;
        for (std::size_t i = lag; i < y.size(); ++i) {
            xy += y[i] * y[i - lag];
            xx += y[i] * y[i];
            yy += y[i - lag] * y[i - lag];
        }
        if (xx > 0 && yy > 0) best = std::max(best, xy / std::sqrt(xx * yy));
    }
    return best;
}

/// Power of one frequency in y under a Hann window.
double line_power(const std::vector<double>& y, double rate, double hz) {
    double re = 0, im = 0;
    const double turn = 2 * std::numbers::pi;
    const auto n = static_cast<double>(y.size());
    for (std::size_t i = 0; i < y.size(); ++i) {
        const auto at = static_cast<double>(i);
        const double windowed = y[i] * (0.5 - 0.5 * std::cos(turn * at / n));
        re += windowed * std::cos(turn * hz * at / rate);
        im += windowed * std::sin(turn * hz * at / rate);
    }
    return (re * re + im * im) / (n * n);
}

/// The lamp's or the mains' frequency whose image stands as a line among the beats, because the wave is sampled
/// more slowly than it flickers; 0: there is none. `image_hz` is where it appears.
double flicker_among(const std::vector<double>& y, double rate, double& image_hz) {
    constexpr double mains_off = 0.1, step = 0.02; ///< Hz that twice the mains may be off, and steps to look at
    constexpr double least_share = 0.03;           ///< of the wave's power: a sixth of its amplitude
    double power = 0;
    for (const double v : y)
        power += v * v;
    power /= static_cast<double>(y.size());
    for (const double lamp : {100.0, 120.0, 50.0, 60.0}) {
        if (lamp < rate / 2) continue; // it is sampled as what it is, and filtered out
        const double image = std::abs(lamp - std::round(lamp / rate) * rate);
        if (image < low_hz || image > high_hz) continue;
        double best = 0, best_hz = 0;
        for (double hz = image - mains_off - step; hz <= image + mains_off + 1.5 * step; hz += step)
            if (const double p = line_power(y, rate, hz); p > best) {
                best = p;
                best_hz = hz;
            }
        // A Hann window gives a sine of amplitude A the power (A / 4)², a share of A² / 2. The flank of a line that
        // stands elsewhere has its highest point at the edge of what is looked at.
        if (std::abs(best_hz - image) > mains_off + step / 2 || 8 * best < least_share * power) continue;
        image_hz = best_hz;
        return lamp;
    }
    return 0;
}

void judge(Beats& out, std::span<const double> wave, const std::vector<double>& y, double rate) {
    out.bpm = no_number;
    if (out.intervals.size() < 3) {
        out.why = phrase("too few beats");
        return;
    }
    const double interval = median(out.intervals);
    const double set_aside =
        static_cast<double>(out.rejected) / static_cast<double>(out.rejected + out.intervals.size());
    const double alike = likeness(y, interval, rate);
    const bool clipped = is_clipped(wave);
    double image_hz = 0;
    const double lamp = flicker_among(y, rate, image_hz);
    if (lamp > 0) {
        out.why = phrase("light that flickers at {:.0f} Hz looks like {:.0f} a minute at {} samples a second: "
                         "shade the probe, or sample {} or more times a second",
                         lamp, 60 * image_hz, format_fixed(rate, 1), 2.2 * lamp < 250 ? 250 : 500);
    } else if (interval < fastest_s || interval > slowest_s) {
        out.why = phrase("no rate that a heart has");
    } else if (clipped) {
        out.why = phrase("the wave is cut at its end: the finger presses too hard");
    } else if (set_aside > 0.3 || alike < 0.3) {
        out.why = phrase("the beats are uneven: light leaks in, or the finger moves");
    } else {
        out.bpm = 60 / interval;
        out.quality = set_aside <= 0.1 && alike >= 0.5 ? PulseQuality::good : PulseQuality::fair;
    }
}

} // namespace

const char* pulse_quality_name(PulseQuality quality) {
    return quality == PulseQuality::good   ? phrase("good")
           : quality == PulseQuality::fair ? phrase("fair")
                                           : phrase("bad");
}

Beats find_beats(std::span<const double> wave, double rate) {
    Beats out;
    out.bpm = no_number;
    if (!(rate >= 20) || rate > 2000 || static_cast<double>(wave.size()) < 3 * rate) {
        out.why = phrase("three seconds at 20 samples a second are the least");
        return out;
    }
    const std::vector<double> y = band_passed(wave, rate);
    const std::vector<Top> tops = tops_of(y, rate);
    // The usual height and steepness: of the highest top in each second and a half, which is a beat when
    // there is any.
    std::vector<double> heights, slopes;
    const auto stretch = static_cast<std::size_t>(1.5 * rate);
    for (std::size_t from = 0, k = 0; from < y.size(); from += stretch) {
        const Top* best = nullptr;
        for (; k < tops.size() && tops[k].at < from + stretch; ++k)
            if (!best || tops[k].height > best->height) best = &tops[k];
        if (best) {
            heights.push_back(best->height);
            slopes.push_back(best->slope);
        }
    }
    double height = median(heights), slope = median(slopes);
    const double noise = difference_sd(wave);
    if (!(height > 0) || height < 2 * noise / std::sqrt(std::max(1.0, rate / 16))) {
        out.why = phrase("no wave");
        return out;
    }
    std::vector<Top> beats;
    for (const Top& top : tops) {
        if (top.height < 0.5 * height || top.slope < 0.5 * slope) continue;
        if (!beats.empty() && static_cast<double>(top.at - beats.back().at) < refractory_s * rate) {
            if (top.height > beats.back().height) beats.back() = top;
            continue;
        }
        beats.push_back(top);
        height += (top.height - height) / usual_beats; // follows a wave that grows or fades
        slope += (top.slope - slope) / usual_beats;
    }
    std::vector<double> all;
    for (std::size_t i = 0; i < beats.size(); ++i) {
        out.times.push_back(static_cast<double>(beats[i].at) / rate);
        if (i > 0) all.push_back(out.times[i] - out.times[i - 1]);
    }
    const double usual_interval = median(all);
    for (const double interval : all) {
        const std::size_t n = std::min<std::size_t>(8, out.intervals.size());
        const double running =
            n < 3 ? usual_interval
                  : median({out.intervals.end() - static_cast<std::ptrdiff_t>(n), out.intervals.end()});
        out.accepted.push_back(std::abs(interval - running) <= tolerance * running);
        if (out.accepted.back())
            out.intervals.push_back(interval);
        else
            ++out.rejected;
    }
    judge(out, wave, y, rate);
    out.filtered = y;
    out.least_height = 0.5 * height;
    return out;
}

std::vector<double> threshold_beats(std::span<const double> wave, double rate, double threshold) {
    std::vector<double> out;
    for (std::size_t i = 1; i < wave.size(); ++i)
        if (wave[i - 1] <= threshold && wave[i] > threshold) out.push_back(static_cast<double>(i) / rate);
    return out;
}

Wave last_wave(std::span<const RawSample> samples) {
    Wave out;
    TimeUs last = 0;
    for (const RawSample& s : samples) {
        if (!std::isfinite(s.code)) continue;
        if (!out.values.empty() && s.time - last > second_us) out.values.clear();
        if (out.values.empty()) out.from = s.time;
        last = s.time;
        out.values.push_back(s.code);
    }
    if (last > out.from) out.rate_hz = static_cast<double>(out.values.size() - 1) / seconds(last - out.from);
    return out;
}

double threshold_from_recording(std::span<const double> wave, double rate_hz) {
    const Beats found = find_beats(wave, rate_hz);
    if (found.quality == PulseQuality::bad || wave.empty()) return no_number;
    const auto [low, high] = std::minmax_element(wave.begin(), wave.end());
    constexpr int tried = 80;
    // The longest run of thresholds that agree is the one with the most room on both sides.
    int best_from = 0, best_length = 0, from = 0, length = 0;
    for (int i = 1; i < tried; ++i) {
        const double threshold = *low + (*high - *low) * i / tried;
        const auto counted = static_cast<std::ptrdiff_t>(threshold_beats(wave, rate_hz, threshold).size());
        const auto beats = static_cast<std::ptrdiff_t>(found.times.size());
        if (std::abs(counted - beats) > 1) { // one may begin or end outside
            length = 0;
            continue;
        }
        if (length++ == 0) from = i;
        if (length > best_length) {
            best_length = length;
            best_from = from;
        }
    }
    return best_length == 0 ? no_number : *low + (*high - *low) * (best_from + 0.5 * (best_length - 1)) / tried;
}

} // namespace cognitum
