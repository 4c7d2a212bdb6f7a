#include "core/calibrate/record.h"

#include "core/physics/water.h"
#include "core/uncertainty/reading_doubt.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace cognitum {

std::vector<ReferenceKind> references_for(std::string_view kind, double altitude_m) {
    constexpr double typed = std::numeric_limits<double>::quiet_NaN();
    if (kind != "temperature") return {{"other", "Another reference", typed, 0.1, "Type what it says.", ""}};
    const double pressure = physics::standard_pressure(altitude_m);
    return {
        {"ice-point", "Ice and water", physics::ice_point_degC, physics::ice_point_u_degC,
         "Crushed ice with just enough water to fill the gaps. Sleeve the probe, keep it in the middle, stir, and "
         "wait.",
         "Keep the bare legs and the board dry; a glass can crack when ice is crushed in it."},
        {"reference-thermometer", "Reference thermometer", typed, 0.1,
         "Hold both in the same stirred water, tips together, and read the thermometer when it has settled.",
         "Warm water only: nothing hotter than your hand bears is needed. Mind glass thermometers."},
        {"boiling-point", "Boiling water", physics::boiling_point(pressure), 0.3,
         fmt::format("The steam just above water at a full boil, {} here at {:.0f} m.",
                     format_value(physics::boiling_point(pressure), 0.1, "degC"), altitude_m),
         "Boiling water and steam scald. Clamp the probe, keep hands and wires away, and only where the part "
         "stands it."},
    };
}

Verdict judge(double error, double expanded, double limit) {
    const double size = std::abs(error);
    if (size <= limit) return size + expanded <= limit ? Verdict::pass : Verdict::pass_within_doubt;
    return size - expanded <= limit ? Verdict::fail_within_doubt : Verdict::fail;
}

std::string verdict_id(Verdict verdict) {
    switch (verdict) {
    case Verdict::pass: return "pass";
    case Verdict::pass_within_doubt: return "pass-within-doubt";
    case Verdict::fail_within_doubt: return "fail-within-doubt";
    case Verdict::fail: return "fail";
    }
    return "fail";
}

std::string verdict_text(Verdict verdict) {
    switch (verdict) {
    case Verdict::pass: return "good";
    case Verdict::pass_within_doubt: return "within the limit, but not beyond doubt";
    case Verdict::fail_within_doubt: return "beyond the limit, but not beyond doubt";
    case Verdict::fail: return "beyond the limit";
    }
    return "";
}

std::vector<FitPoint> fit_points(const std::vector<CalibrationPoint>& points) {
    std::vector<FitPoint> out;
    for (const CalibrationPoint& p : points)
        if (p.counts()) out.push_back({p.indication, p.reference, p.u_indication, p.u_reference});
    return out;
}

double error_found(const CalibrationPoint& point, const std::optional<AppliedCorrection>& before) {
    const double shown = before ? before->gain * point.indication + before->offset : point.indication;
    return shown - point.reference;
}

AppliedCorrection correction_from(const Fit& fit, const std::vector<CalibrationPoint>& points) {
    AppliedCorrection c;
    c.dof = fit.dof;
    if (fit.model == Model::offset) {
        c.offset = fit.parameters[0].value;
        c.var_offset = fit.covariance[0];
    } else if (fit.model == Model::gain) {
        c.gain = fit.parameters[0].value;
        c.var_gain = fit.covariance[0];
    } else {
        c.offset = fit.parameters[0].value;
        c.gain = fit.parameters[1].value;
        c.var_offset = fit.covariance[0];
        c.covariance = fit.covariance[1];
        c.var_gain = fit.covariance[3];
    }
    // One instrument or one method errs alike at every point: that share is the smallest doubt among the
    // references.
    double shared = std::numeric_limits<double>::infinity();
    c.from = std::numeric_limits<double>::infinity();
    c.to = -c.from;
    for (const CalibrationPoint& p : points) {
        if (!p.counts()) continue;
        shared = std::min(shared, p.u_reference);
        c.from = std::min(c.from, p.indication);
        c.to = std::max(c.to, p.indication);
    }
    c.u_reference = std::isfinite(shared) ? shared : 0;
    return c;
}

Result<CalibrationRecord> finish_calibration(const Reading& reading, const std::vector<CalibrationPoint>& points,
                                             Model model, TimeUs now, std::string by) {
    const auto fit = fit_model(fit_points(points), model);
    if (!fit) return tl::make_unexpected(fit.error());
    if (parameter_count(model) > 2) return failure("only an offset, a gain or a line can be applied.");
    CalibrationRecord record;
    record.reading = reading.id;
    record.time = now;
    record.unit = reading.quantity.unit;
    record.limit = reading.quantity.accuracy;
    record.points = points;
    record.model = model_name(model);
    record.by = std::move(by);
    record.correction = correction_from(*fit, points);
    record.correction.time = now;
    record.correction.path_key = path_key(reading);

    double doubt_found = 0;
    double doubt_left = 0;
    for (const CalibrationPoint& p : points) {
        if (!p.counts()) continue;
        const double found = error_found(p, reading.correction);
        const double left = error_found(p, record.correction);
        const double u_point = 1.96 * std::hypot(p.u_reference, p.u_indication);
        if (std::abs(found) >= std::abs(record.worst_found)) {
            record.worst_found = found;
            doubt_found = u_point;
        }
        if (std::abs(left) >= std::abs(record.worst_left)) {
            record.worst_left = left;
            doubt_left = 1.96 * std::hypot(correction_u(record.correction, p.indication), p.u_indication);
        }
    }
    record.verdict_found = verdict_id(judge(record.worst_found, doubt_found, record.limit));
    record.verdict_left = verdict_id(judge(record.worst_left, doubt_left, record.limit));
    record.correction.verdict = record.verdict_left;
    return record;
}

} // namespace cognitum
