// A calibration as it is kept forever: what was compared with what, as found, what was done about it, as left.
#pragma once

#include "core/base/json_reader.h"
#include "core/base/time.h"
#include "core/bench/bench.h"
#include "core/calibrate/fit.h"

#include <string>
#include <vector>

namespace cognitum {

/// Where a point's reference value comes from.
struct ReferenceKind {
    std::string id;      ///< ice-point, boiling-point, reference-thermometer, other
    std::string title;   ///< on screen
    double value = 0;    ///< NaN: typed by hand
    double u = 0;        ///< standard uncertainty
    std::string how;     ///< how to make it, one or two sentences
    std::string caution; ///< what can hurt; empty: nothing
};
/// References for a kind of quantity, in the order in which to use them. Boiling water is computed for
/// `altitude_m`.
std::vector<ReferenceKind> references_for(std::string_view quantity_kind, double altitude_m);

struct CalibrationPoint {
    TimeUs time = 0;
    std::string reference_kind; ///< id of a ReferenceKind
    double reference = 0, u_reference = 0;
    double indication = 0, u_indication = 0; ///< of the path without correction
    double raw = 0;                          ///< mean raw value
    bool forced = false;                     ///< taken before the gate was open
    std::string set_aside;                   ///< reason; empty: it counts. Points are never deleted.
    [[nodiscard]] bool counts() const { return set_aside.empty(); }
};

/// Ways of stating conformity with a limit, guard-banded by the doubt (ILAC-G8:09/2019).
enum class Verdict { pass, pass_within_doubt, fail_within_doubt, fail };
/// error: signed; expanded: U at 95 %; limit > 0.
Verdict judge(double error, double expanded, double limit);
std::string verdict_id(Verdict verdict);
std::string verdict_text(Verdict verdict); ///< "good", "within the limit, but not beyond doubt", …

struct CalibrationRecord {
    std::int64_t id = 0;         ///< given by the bench file
    std::int64_t supersedes = 0; ///< id of the record that this one corrects; 0: none
    std::string reading;         ///< id
    TimeUs time = 0;
    std::string unit;
    double limit = 0; ///< needed accuracy at that time
    std::vector<CalibrationPoint> points;
    std::string model;
    AppliedCorrection correction;
    double worst_found = 0, worst_left = 0;  ///< largest |error| of the points that count
    std::string verdict_found, verdict_left; ///< verdict_id
    std::string by, note;
};

Json record_json(const CalibrationRecord& record);
Result<CalibrationRecord> read_record(const JsonReader& json);

/// Points that count, as fit points.
std::vector<FitPoint> fit_points(const std::vector<CalibrationPoint>& points);

/// Error of the reading at a point with the correction that was in force (none: 1·x + 0): shown − reference.
double error_found(const CalibrationPoint& point, const std::optional<AppliedCorrection>& before);

/// The correction that a fit stands for. Only offset, gain and line can be applied.
AppliedCorrection correction_from(const Fit& fit, const std::vector<CalibrationPoint>& points);

/// Puts a finished calibration together: fits, judges as found and as left. Error when the fit is impossible.
Result<CalibrationRecord> finish_calibration(const Reading& reading, const std::vector<CalibrationPoint>& points,
                                             Model model, TimeUs now, std::string by);

} // namespace cognitum
