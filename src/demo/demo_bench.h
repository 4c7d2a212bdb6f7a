// The demo bench at Whelk Point: its plan from data/demo, its calibrations, and what was recorded before it opens.
#pragma once

#include "demo/history.h"
#include "store/file/bench_file.h"

namespace cognitum {

/// Makes a new bench file with the demo's plan, its past calibrations, and a history that ends at `end`. The same
/// `end` always gives the same file content.
Result<BenchFile> create_demo_bench(const std::string& path, TimeUs end,
                                    DemoHistory history = DemoHistory::sixty_days);

} // namespace cognitum
