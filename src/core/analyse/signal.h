// The raw signal of one reading as the Raw stop holds it: samples, what is known of the signal beside them, and
// figures over them.
#pragma once

#include "core/analyse/clock.h"
#include "core/base/no_number.h"
#include "core/base/time.h"

#include <cmath>
#include <cstdint>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct RawSample {
    TimeUs time = 0;
    double code = 0; ///< NaN: the line brought none, or a failure value
};

enum class SignalKind {
    codes,    ///< of a converter
    wave,     ///< codes of a pulse probe: they move with the heart
    counter,  ///< grows by one with each event
    contact,  ///< 0 or 1
    distance, ///< of a ranger
    measured, ///< a finished number
};

/// What is known of a signal beside its samples. NaN and 0: not known, and then not judged.
struct SignalAbout {
    SignalKind kind = SignalKind::codes;
    int bits = 0;                                           ///< of the converter
    double low = no_number, high = no_number;               ///< the ends: rails, or the part's range
    double expect_low = no_number, expect_high = no_number; ///< where the plan expects it, same unit
    double resolution = 0;                                  ///< smallest step that the part gives
    double promised_s = 0;                                  ///< interval
    bool even = true;            ///< lines come at even intervals; a radio part reports when it likes
    double fastest_per_hour = 0; ///< greatest change that the thing itself makes in an hour
    bool never_negative = false;
    std::string quantity = {}; ///< id of a QuantityKind
    std::string unit = {};     ///< of the samples, for a person; empty: counts
};
/// A converter's codes and nothing else.
SignalAbout about_codes(int bits);

/// What the lines themselves said over the same stretch.
struct StreamFacts {
    std::uint64_t lines = 0, rejected = 0;
    std::uint64_t bytes = 0, odd_bytes = 0; ///< of text formats; odd: no printable text
    std::uint64_t lost = 0, duplicates = 0, late = 0, restarts = 0, set_back = 0;
    TimeUs now = 0;      ///< 0: silence is not judged
    ClockFit clock = {}; ///< the sender's own, where its lines tell a time; over the whole stream
};

struct SignalFigures {
    int n = 0;                                 ///< samples with a number
    int failed = 0;                            ///< samples without
    double mean = 0, sd = 0, peak_to_peak = 0; ///< counts, or the unit of the samples
    double noise = 0;                          ///< sd from neighbouring differences
    double noise_density = 0;                  ///< noise / √(half the rate), per √Hz
    double effective_bits = 0;                 ///< of the converter's bits, after noise and quantisation
    double drift_per_hour = 0;
    double autocorrelation_s = 0; ///< integrated, of what is left without the straight line
    double rate_hz = 0;           ///< lines a second
    double interval_s = 0;        ///< median between lines
    double jitter_s = 0;          ///< scatter of the intervals, gaps left out
    int gaps = 0;                 ///< intervals longer than 1.8 times the median
    int run = 0;                  ///< last samples with one and the same code
    double quantum = 0;           ///< smallest step between two of the values
};
SignalFigures signal_figures(std::span<const RawSample> samples, int bits);

} // namespace cognitum
