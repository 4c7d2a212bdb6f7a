// The series of a bench file: appending, merging, and reading at any zoom. Samples of a series are ordered by time
// and no time occurs twice. New ones wait in the table `tail` and are packed into compressed blocks of 4 096; over
// the blocks stand levels of summaries, 64 to one, so that a chart of any length reads a bounded number of rows.
#pragma once

#include "store/file/bench_file.h"
#include "store/samples/block_codec.h"
#include "store/samples/sample.h"

#include <functional>
#include <map>
#include <optional>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct SeriesBatch {
    std::string reading;         ///< id
    std::vector<Sample> samples; ///< in any order
};
struct AddResult {
    std::uint64_t added = 0;
    /// For each batch the indices that were left out, in growing order: a time that is there already (of two in one
    /// batch the first stays), or a time outside the years 1 to 9999.
    std::vector<std::vector<std::size_t>> left_out;
    /// Batches (by index) that could not be added because what they belong among is damaged; nothing of them is in
    /// the file. The others are.
    std::map<std::size_t, Error> damaged;
};
/// Adds samples in one durable transaction, each at its place in time. Whatever it is given, the file stays one
/// that verify() finds sound. Error, and nothing added, when the file cannot be written or is not in its place.
Result<AddResult> add_samples(BenchFile& file, std::span<const SeriesBatch> batches);

/// Samples that stand in the file and cannot be read.
struct Unreadable {
    std::string reading; ///< id
    TimeUs first = 0, last = 0;
    std::uint64_t n = 0;
    std::string what;
};

/// Calls f for all samples in [from, to], in order of time, block by block. f returns false to stop. A block that
/// cannot be read is an error; with `unreadable` it is told there and passed over.
Result<void> for_each_sample(BenchFile& file, const std::string& reading, TimeUs from, TimeUs to,
                             const std::function<bool(std::span<const Sample>)>& f,
                             std::vector<Unreadable>* unreadable = nullptr);

/// Summaries that cover [from, to]: single samples (n = 1) while there are at most `fine`, else runs; at most about
/// 8 000 entries whatever the length.
Result<std::vector<Summary>> summaries(BenchFile& file, const std::string& reading, TimeUs from, TimeUs to,
                                       std::size_t fine = 4000);

struct SeriesExtent {
    std::uint64_t n = 0;
    TimeUs first = 0, last = 0; ///< only when n > 0
};
Result<SeriesExtent> extent(BenchFile& file, const std::string& reading);
/// The time of the newest sample before `time`, or of an older one that lies in the same block; empty: none is
/// before.
Result<std::optional<TimeUs>> sample_before(BenchFile& file, const std::string& reading, TimeUs time);
/// True when any reading has samples.
Result<bool> has_samples(BenchFile& file);

} // namespace cognitum
