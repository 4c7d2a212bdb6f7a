// A calibration as it is kept forever: what was compared with what, as found, what was done about it, as left.
#pragma once

#include "core/base/json_reader.h"
#include "core/base/time.h"
#include "core/bench/bench.h"
#include "core/calibrate/fit.h"
#include "core/calibrate/gate.h"

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct CalibrationPoint {
    TimeUs time = 0;
    std::string reference_kind;  ///< id of a ReferenceKind
    std::string instrument = {}; ///< id of a ReferenceInstrument; empty: none
    double reference = 0, u_reference = 0;
    double indication = 0, u_indication = 0; ///< of the path without correction
    double raw = 0;                          ///< mean raw value
    bool forced = false;                     ///< taken before the gate was open
    std::string set_aside = {};              ///< reason; empty: it counts. Points are never deleted.
    int run = 0;                             ///< 1 of a rising run, −1 of a falling one
    bool as_left = false;                    ///< taken after something was turned or changed
    bool check = false;                      ///< kept out of the fit: it judges the result
    [[nodiscard]] bool counts() const { return set_aside.empty(); }
    /// A fit rests on it; `after`: only what was taken after an adjustment does.
    [[nodiscard]] bool fitted(bool after) const { return counts() && !check && as_left == after; }
    bool operator==(const CalibrationPoint&) const = default;
};

/// A calibration that is under way: kept in the bench file, so that a closed file loses nothing.
struct CalibrationDraft {
    std::string recipe; ///< id of a Recipe
    int step = 0;       ///< of the recipe
    std::vector<CalibrationPoint> points;
    std::string adjusted;                   ///< what was turned or changed between found and left, in words
    std::string conditions;                 ///< air, weather, where
    std::string by;                         ///< who signs
    double left_turns = 0, right_turns = 0; ///< of a bucket's stops between found and left; above zero: down
    std::optional<TimedValue> started = {}; ///< where the indication stood when a change was begun
    bool operator==(const CalibrationDraft&) const = default;
};

/// Ways of stating conformity with a limit, guard-banded by the doubt (ILAC-G8:09/2019).
/// nothing_checks: as many points as constants, so that their errors are zero whatever is true.
enum class Verdict { pass, pass_within_doubt, fail_within_doubt, fail, nothing_checks };
/// error: signed; expanded: U at 95 %; limit > 0.
Verdict judge(double error, double expanded, double limit);
std::string verdict_id(Verdict verdict);
Verdict find_verdict(std::string_view id); ///< fail for an unknown one
std::string verdict_text(Verdict verdict); ///< "good", "within the limit, but not beyond doubt", …

struct CalibrationRecord {
    std::int64_t id = 0;         ///< given by the bench file
    std::int64_t supersedes = 0; ///< id of the record that this one corrects; 0: none
    std::string reading;         ///< id
    TimeUs time = 0;
    std::string unit;
    double limit = 0; ///< needed accuracy at that time
    std::vector<CalibrationPoint> points;
    std::string recipe;    ///< id; empty: none
    std::string model;     ///< name of a Model; "none": compared, nothing changed; "path": constants of the path
    std::string into = {}; ///< of "path": which constants, with their doubt, in words
    AppliedCorrection correction;
    double worst_found = 0, worst_left = 0;  ///< largest |error| of the points that count, signed
    double doubt_found = 0, doubt_left = 0;  ///< ± at 95 % of those
    std::string verdict_found, verdict_left; ///< verdict_id
    double worst_check = 0, doubt_check = 0; ///< the same of the points that check the result
    std::string verdict_check = {};          ///< empty: there are none
    std::vector<std::string> references;     ///< instruments and standards, in words, with their doubt
    std::string adjusted, conditions;
    std::string by, note;
};

Json draft_json(const CalibrationDraft& draft);
Result<CalibrationDraft> read_draft(const JsonReader& json);
Json record_json(const CalibrationRecord& record);
Result<CalibrationRecord> read_record(const JsonReader& json);

/// Something was turned in the middle: what was found before no longer holds for what is left.
bool adjusted_between(std::span<const CalibrationPoint> points);

/// Points that count and that the correction is fitted to: those taken after an adjustment where there are any.
std::vector<FitPoint> fit_points(const std::vector<CalibrationPoint>& points);

/// Error of the reading at a point with the correction that was in force (none: 1·x + 0): shown − reference.
double error_found(const CalibrationPoint& point, const std::optional<AppliedCorrection>& before);

/// The correction that a fit stands for: a line, or the curve sampled so that it follows the fit. Error when the
/// curve turns back between or near its points, because then one reading would have two meanings. `low` and `high`:
/// expected range, over which a curve is kept.
Result<AppliedCorrection> correction_from(const Fit& fit, const std::vector<CalibrationPoint>& points, double low,
                                          double high);

/// Puts a finished calibration together: fits, judges as found and as left. No model: compared as found and nothing
/// changed: the correction in force stays, with the doubt that the comparison showed. Error when the fit is
/// impossible.
Result<CalibrationRecord> finish_calibration(const Reading& reading, const CalibrationDraft& draft,
                                             std::optional<Model> model, TimeUs now);

/// The record of a calibration whose correction is known: as found with what was in force, as left with the
/// correction, and the points that check it. `model`: as CalibrationRecord::model.
CalibrationRecord judged_record(const Reading& reading, const CalibrationDraft& draft,
                                const AppliedCorrection& correction, const std::string& model, TimeUs now);

/// What the reading says at a point of a record with what was applied; NaN for one that was found before its path
/// got other constants.
double said_after(const CalibrationRecord& record, const CalibrationPoint& point);

/// "Two fixed points, instrument number 3: ± 0.1 °C" for each reference that the points used.
std::vector<std::string> references_in_words(const std::vector<CalibrationPoint>& points,
                                             const std::vector<ReferenceInstrument>& known,
                                             const std::string& unit);

} // namespace cognitum
