// A bench's readings, samples, calibrations and logbook copied into a PostgreSQL server, for a school or a club
// with many boards. Copies what the server does not have yet; may run again and again.
#pragma once

#include "core/catalog/cards.h"
#include "store/file/bench_file.h"

#include <cstdint>
#include <functional>
#include <string>
#include <vector>

namespace cognitum {

struct MirrorOptions {
    std::string bench;                 ///< name in the server; empty: the plan's own
    std::vector<std::string> readings; ///< ids; empty: all but those about somebody's health
    /// Told how many samples were copied and how many are still to come; false stops after what was committed.
    std::function<bool(std::uint64_t copied, std::uint64_t behind)> progress;
};

struct MirrorReport {
    std::size_t readings = 0;                  ///< that are mirrored
    std::uint64_t samples = 0;                 ///< copied now
    std::uint64_t behind = 0;                  ///< that the server still lacks; 0: it has all
    Error trouble;                             ///< the first that could not be copied; no `what`: all was
    std::vector<std::string> private_readings; ///< names of health readings that were left out
};

/// Copies into the schema `cognitum` of the server at `address` (postgresql://…), which is made when it is missing.
/// Each day of a reading is one transaction: a copy that is broken off leaves whole days, and the next run goes on.
/// Error when the server cannot be reached or used at all; what breaks later stands in the report. An address is
/// never repeated in a message, for it may hold a password.
Result<MirrorReport> mirror(BenchFile& file, const Bench& bench, const Catalog& catalog, const std::string& address,
                            const MirrorOptions& options = {});

} // namespace cognitum
