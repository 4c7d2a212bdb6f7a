// A bench's series as CSV, JSON or SenML (RFC 8428). Numbers keep every digit that was stored; a failed measurement
// is an empty cell, null, or left out, and its cause stands beside it on request.
#pragma once

#include "core/catalog/cards.h"
#include "store/file/bench_file.h"
#include "store/samples/samples.h"

#include <functional>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

enum class ExportFormat { csv, json, senml };

struct ExportOptions {
    ExportFormat format = ExportFormat::csv;
    TimeUs from = earliest_time, to = latest_time; ///< both included
    std::vector<std::string> readings;             ///< ids; empty: all but those about somebody's health
    /// CSV: a column "NAME cause" behind each reading; JSON: a third member of a sample; SenML: "vs".
    bool causes = false;
    /// CSV alone. Raw numbers stand in a column "NAME [unit]", which import takes as raw again; beside values in
    /// "NAME raw". Doubts are expanded to 95 %, with the calibration in force at each time, in "NAME doubt".
    enum class Numbers { values, raw, both } numbers = Numbers::values;
    bool doubts = false;
    const Catalog* catalog = nullptr; ///< for the doubts; null: there are none
};

struct ExportReport {
    std::vector<Unreadable> unreadable; ///< what the file holds and could not be read: it is not in the export
    std::vector<std::string> private_readings; ///< names of health readings that were left out
};

/// Writes the samples through `out`, in pieces, with bounded memory. A block that cannot be read is passed over and
/// reported; everything else is written.
Result<ExportReport> export_samples(BenchFile& file, const Bench& bench, const ExportOptions& options,
                                    const std::function<void(std::string_view)>& out);

} // namespace cognitum
