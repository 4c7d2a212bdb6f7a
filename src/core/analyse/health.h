// Is the raw signal healthy? Figures over the last lines, and verdicts with their evidence.
#pragma once

#include "core/base/time.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct RawSample {
    TimeUs time = 0;
    double code = 0; ///< NaN: the line brought none
};

struct SignalFigures {
    int n = 0;
    double mean = 0, sd = 0, peak_to_peak = 0; ///< counts
    double noise = 0;                          ///< sd from neighbouring differences, counts
    double effective_bits = 0;                 ///< of the converter's bits, after noise and quantisation
    double drift_per_hour = 0;                 ///< counts per hour
    double rate_hz = 0;                        ///< lines a second
    double interval_s = 0;                     ///< median between lines
    int gaps = 0;                              ///< intervals longer than 1.8 times the median
    int run = 0;                               ///< last samples with one and the same code
};

struct HealthVerdict {
    std::string id;   ///< stuck, clipped, floating, noisy, flicker, silent
    bool bad = false; ///< the value cannot be trusted
    std::string evidence;
    std::vector<std::string> causes; ///< likely ones, most likely first
    std::string next_test;           ///< what would tell them apart
};

SignalFigures signal_figures(std::span<const RawSample> samples, int bits);

/// Verdicts on the samples; empty when there is nothing to say. `samples` is what the Raw stop holds (some
/// hundred).
std::vector<HealthVerdict> judge_health(std::span<const RawSample> samples, int bits);

} // namespace cognitum
