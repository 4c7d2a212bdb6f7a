// A bench's series as CSV, JSON or SenML (RFC 8428). Numbers keep every digit that was stored; a failed measurement
// is an empty cell, null, or left out.
#pragma once

#include "store/bench_file.h"

#include <functional>
#include <string>
#include <string_view>

namespace cognitum {

enum class ExportFormat { csv, json, senml };

/// Writes all samples of the plan's readings in [from, to] through `out`, in pieces, with bounded memory.
Result<void> export_samples(BenchFile& file, const Bench& bench, ExportFormat format, TimeUs from, TimeUs to,
                            const std::function<void(std::string_view)>& out);

} // namespace cognitum
