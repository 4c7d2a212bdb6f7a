// The series of a bench file: appending, merging, and reading at any zoom. Samples of a series are ordered by time
// and no time occurs twice. New ones wait in the table `tail` and are packed into compressed blocks of 4 096; over
// the blocks stand levels of summaries, 64 to one, so that a chart of any length reads a bounded number of rows.
#pragma once

#include "store/bench_file.h"
#include "store/block_codec.h"
#include "store/sample.h"

#include <functional>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

/// Adds samples, sorted by time, in one durable transaction with everything else that `batch` holds. Samples whose
/// time is already there are left out; their indices come back. Out-of-order samples are merged into their place.
struct SeriesBatch {
    std::string reading; ///< id
    std::vector<Sample> samples;
};
struct AddResult {
    std::uint64_t added = 0;
    std::vector<std::vector<std::size_t>> duplicates; ///< for each batch: indices that were already there
};
Result<AddResult> add_samples(BenchFile& file, std::span<const SeriesBatch> batches);

/// Calls f for all samples in [from, to], in order of time, block by block. f returns false to stop.
Result<void> for_each_sample(BenchFile& file, const std::string& reading, TimeUs from, TimeUs to,
                             const std::function<bool(std::span<const Sample>)>& f);

/// Summaries that cover [from, to]: single samples (n = 1) while there are at most `fine`, else runs; at most about
/// 8 000 entries whatever the length.
Result<std::vector<Summary>> summaries(BenchFile& file, const std::string& reading, TimeUs from, TimeUs to,
                                       std::size_t fine = 4000);

struct SeriesExtent {
    std::uint64_t n = 0;
    TimeUs first = 0, last = 0; ///< only when n > 0
};
Result<SeriesExtent> extent(BenchFile& file, const std::string& reading);

struct Problem {
    std::string where, what;
};
struct VerifyReport {
    std::uint64_t samples = 0;
    std::vector<Problem> problems;
};
/// Reads everything: SQLite's own integrity check, every block, every summary, every plan row. Changes nothing.
Result<VerifyReport> verify(BenchFile& file);

} // namespace cognitum
