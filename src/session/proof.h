// Calibrations of the open bench: drafts, records that are kept for ever, and old readings seen with a new
// correction. What a record changes in the plan is an edit like any other. In the interface's thread.
#pragma once

#include "core/calibrate/path_offers.h"
#include "core/calibrate/record.h"
#include "store/samples/reevaluate.h"

#include <QFuture>
#include <QString>
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

class Session;

class Proof {
  public:
    explicit Proof(Session& session) : m_session(session) {}

    /// Keeps the record, applies its correction and ends the draft. No model: compared, and nothing changed.
    Result<CalibrationRecord> finish(const std::string& reading, const CalibrationDraft& draft,
                                     std::optional<Model> model);
    /// The same, where the points become constants of the path; undo takes path and correction back together.
    Result<CalibrationRecord> finishIntoPath(const std::string& reading, const CalibrationDraft& draft,
                                             const PathOffer& offer);
    /// The calibration under way, as the file keeps it; an empty one when there is none.
    [[nodiscard]] CalibrationDraft draft(const std::string& reading);
    /// Kept in the file at once; an empty one ends it.
    void saveDraft(const std::string& reading, const CalibrationDraft& draft);
    /// Oldest first.
    [[nodiscard]] std::vector<CalibrationRecord> calibrations(const std::string& reading);
    /// See store/samples/reevaluate.h: beside the old readings those of the path of today, over a stretch or all of
    /// it. In a thread of its own; the answer comes when the new reading is in the plan.
    QFuture<Result<Reevaluated>> reevaluate(const std::string& reading,
                                            const std::optional<Interval>& stretch = {});

  private:
    Result<CalibrationRecord> keep(CalibrationRecord record, const char* what,
                                   const std::function<std::string()>& how, const Chain* path);

    Session& m_session;
};

} // namespace cognitum
