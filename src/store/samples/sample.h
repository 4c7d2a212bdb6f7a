// One stored measurement, and the summary that charts are drawn from.
#pragma once

#include "core/base/no_number.h"
#include "core/base/time.h"
#include "core/signal_path/stage.h"

#include <cstdint>

namespace cognitum {

/// What the board sent, kept beside what was made of it. A failed measurement has value NaN and a cause.
struct Sample {
    TimeUs time = 0;
    double raw = no_number; ///< NaN: unknown (imported values, typed by hand)
    double value = no_number;
    Cause cause = Cause::none;
};

/// A run of samples: what a chart needs at a coarse zoom. low, high and sum are over samples that have a value.
struct Summary {
    TimeUs from = 0, to = 0; ///< of the first and last sample
    std::uint64_t n = 0, valued = 0;
    double low = 0, high = 0, sum = 0;
    [[nodiscard]] double mean() const { return sum / static_cast<double>(valued); }
};

} // namespace cognitum
