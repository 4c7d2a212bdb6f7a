// What Whelk Point's warden proved in the last years: references, calibrations of seven readings, one of which
// drifts, one failed and one is overdue.
#pragma once

#include "store/file/bench_file.h"

namespace cognitum {

/// Appends the records and applies the newest of each reading. The same seed and end give the same records.
Result<void> add_demo_calibrations(BenchFile& file, Bench& bench, std::uint64_t seed, TimeUs end);

} // namespace cognitum
