// The demo bench at Whelk Point: its plan from data/demo, two days of history from the simulated board.
#pragma once

#include "store/bench_file.h"

namespace cognitum {

/// Makes a new bench file with the demo's plan and a history that ends at `end`: the hut's air every 30 s, an
/// earlier calibration, and the alerts that the history raised. The same `end` always gives the same file content.
Result<BenchFile> create_demo_bench(const std::string& path, TimeUs end);

} // namespace cognitum
