// What a report says of a stretch, a session, a month or the whole bench: the readings over it, their figures, the
// calibrations in force, what happened, and a fingerprint of the samples that it rests on.
#pragma once

#include "core/calibrate/record.h"
#include "session/archive/lanes.h"
#include "store/figures/session_figures.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

/// What it is about beside its stretch.
struct ReportRequest {
    std::string title; ///< "Swim", "May 2026"
    Interval stretch;
    std::vector<std::string> readings;  ///< ids
    std::string session = {};           ///< id of a session, for its summary; empty: none
    std::optional<Period> periods = {}; ///< of each reading, one row each
};

struct StretchReport {
    ReportRequest about;
    Lanes lanes;
    std::vector<ReadingFigures> figures;
    /// Of each reading those that were in force at any moment of the stretch, oldest first.
    std::vector<std::vector<CalibrationRecord>> in_force;
    std::optional<SessionFigures> session;
    std::vector<PeriodTable> periods; ///< as the readings; empty where none were asked
    std::string fingerprint;          ///< see store/samples/fingerprint.h
};

/// Error when a reading is gone. The same file and request give the same report.
Result<StretchReport> stretch_report(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                     const ReportRequest& request, TimeUs now);

} // namespace cognitum
