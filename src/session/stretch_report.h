// What a report of a stretch says: the readings over it, their figures, the calibrations in force, what happened,
// and a fingerprint of the samples that it rests on.
#pragma once

#include "core/calibrate/record.h"
#include "session/lanes.h"

#include <string>
#include <vector>

namespace cognitum {

struct StretchReport {
    Interval stretch;
    std::vector<std::string> readings; ///< ids, in the order of the figures
    Lanes lanes;
    std::vector<ReadingFigures> figures;
    /// Of each reading those that were in force at any moment of the stretch, oldest first.
    std::vector<std::vector<CalibrationRecord>> in_force;
    std::string fingerprint; ///< of times, raw numbers, values and causes, 16 hexadecimal digits
};

/// Error when a reading is gone or cannot be read. The same file and stretch give the same report.
Result<StretchReport> stretch_report(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                     const std::vector<std::string>& readings, const Interval& stretch);

} // namespace cognitum
