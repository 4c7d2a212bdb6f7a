// What was recorded at Whelk Point before the demo opens: sixty days of all its readings, from the same world and
// boards as its live values, with what happened there.
#pragma once

#include "core/bench/bench.h"
#include "store/file/bench_file.h"

namespace cognitum {

enum class DemoHistory {
    two_days,  ///< the hut's air alone: for tests
    sixty_days ///< all readings every three minutes, the hut's air every half minute at the end
};

/// Adds the samples and the logbook's entries up to `end`. Values are made with the calibration that was in force
/// at their time. The same seed and end give the same samples.
Result<void> add_demo_history(BenchFile& file, Bench& bench, std::uint64_t seed, TimeUs end, DemoHistory length);

} // namespace cognitum
