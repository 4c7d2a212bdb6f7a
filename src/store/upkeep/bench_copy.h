// A bench into a new file, part by part: what can be saved of a damaged one, and a copy with fewer samples.
#pragma once

#include "store/upkeep/verify.h"

#include <functional>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct CopyReport {
    std::uint64_t samples = 0; ///< copied
    std::vector<Problem> lost; ///< what could not be read and is not in the copy
};

/// What of a reading goes into the copy: called with its samples in order, block by block, then once with `ended`.
using KeepSamples =
    std::function<std::vector<Sample>(const std::string& reading, std::span<const Sample> samples, bool ended)>;

/// Writes a new bench at `target` with everything of `file` that can be read: plan, logbook, calibrations, and the
/// samples that `keep` gives back (empty: all); then `more`, before it gets its name. Error when `target` exists or
/// cannot be written; nothing is left there then.
Result<CopyReport> copy_bench(BenchFile& file, const std::string& target, const KeepSamples& keep = {},
                              const std::function<Result<void>(BenchFile&, const CopyReport&)>& more = {});

} // namespace cognitum
