// A pulse wave to beats, with how far they can be trusted. A pulse reading is no diagnosis.
#pragma once

#include "core/analyse/signal.h"

#include <cstddef>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

enum class PulseQuality { good, fair, bad };
const char* pulse_quality_name(PulseQuality quality);

struct Beats {
    std::vector<double> times;     ///< of the wave's tops, s
    std::vector<double> intervals; ///< accepted ones, s
    std::vector<bool> accepted;    ///< of each interval between neighbouring tops
    std::vector<double> filtered;  ///< the wave in which they are looked for
    double least_height = 0;       ///< a top of it below that is no beat, at the end of the wave; 0: not known
    double bpm = 0;                ///< from their median; NaN when there is no pulse to trust
    PulseQuality quality = PulseQuality::bad;
    std::size_t rejected = 0; ///< intervals more than 25 % off the running median
    std::string why;          ///< what is wrong with the wave; empty: nothing
};

/// Band-pass 0.5…8 Hz (Butterworth of second order, forwards and backwards), tops above half the usual height
/// behind a rise above half the usual steepness, 250 ms apart, intervals within 25 % of the median of the last
/// eight. Even samples at 20…2 000 a second, finite; shorter than three seconds or flat: no beats.
Beats find_beats(std::span<const double> wave, double rate_hz);

/// The school of hobby code: a beat at each rise through a fixed threshold. Times in s.
std::vector<double> threshold_beats(std::span<const double> wave, double rate_hz, double threshold);

/// A threshold for that school, chosen from a recording: the middle of those that count as many beats as
/// find_beats() does. NaN where none does, or where the wave cannot be trusted.
double threshold_from_recording(std::span<const double> wave, double rate_hz);

/// The part of a recording that hangs together (no second without a sample) and is the newest.
struct Wave {
    std::vector<double> values;
    TimeUs from = 0;
    double rate_hz = 0; ///< 0: fewer than two samples
};
Wave last_wave(std::span<const RawSample> samples);

} // namespace cognitum
