// What a bench could not take before it was closed, kept beside it and taken back when it can be written again.
#pragma once

#include "store/samples/samples.h"

namespace cognitum {

struct Unsaved {
    std::vector<SeriesBatch> samples;
    std::vector<LogEntry> log;
    [[nodiscard]] bool empty() const { return samples.empty() && log.empty(); }
};

/// Keeps samples and entries, or with none of them the plan, as a bench of its own beside the one at `path`:
/// NAME.unsaved-TIME.cognitum (or NAME.unsaved-plan-TIME.cognitum); where that folder cannot be written, in the
/// person's data folder. Returns where.
Result<std::string> keep_unsaved(const std::string& path, const Bench& plan, const Unsaved& unsaved, TimeUs now);

struct TakenBack {
    std::uint64_t samples = 0;
    std::vector<std::string> files; ///< that were read and removed
};
/// Adds the samples and entries of all files that keep_unsaved() left for this bench. A file is removed when all
/// that can be read of it is in the bench.
Result<TakenBack> take_back_unsaved(BenchFile& file);

} // namespace cognitum
