// How fast a signal moves: its spectrum, and how much of its movement is the mains.
#pragma once

#include "core/base/time.h"

#include <span>
#include <vector>

namespace cognitum {

struct Spectrum {
    double step_hz = 0;            ///< between two lines; frequency of line i is i · step_hz
    std::vector<double> amplitude; ///< of a sine at that frequency, unit of the values; line 0 is left at zero
};
/// One-sided amplitude spectrum of evenly spaced values without their straight line, under a Hann window (Harris
/// 1978). Any length; empty for fewer than 16 values.
Spectrum amplitude_spectrum(std::span<const double> values, double rate_hz);

/// Power of one frequency by Goertzel's recursion (1958), as the squared amplitude of a sine there; the mean is
/// taken out first.
double goertzel_power(std::span<const double> values, double rate_hz, double frequency_hz);

struct MainsShare {
    double share = 0;      ///< 0…1 of the variance at `mains_hz` and its harmonics
    double mains_hz = 50;  ///< 50 or 60, whichever explains more
    double amplitude = 0;  ///< of the fundamental, unit of the values
    double seen_at_hz = 0; ///< where the fundamental shows: below half the rate, folded when it is above
};
/// Sines and cosines of 50 or 60 Hz and up to four harmonics, fitted at the samples' own times by least squares
/// after a straight line, with the share that chance would explain taken off. `times` in seconds, growing.
/// Harmonics that fold to less than two turns in the stretch tell nothing and are left out.
MainsShare mains_share(std::span<const double> times, std::span<const double> values);

/// Frequency at which `hz` shows when sampled at `rate_hz`.
double folded(double hz, double rate_hz);

} // namespace cognitum
