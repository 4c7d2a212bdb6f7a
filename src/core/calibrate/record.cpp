#include "core/calibrate/record.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/calibrate/references.h"
#include "core/uncertainty/budget.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace cognitum {

Verdict judge(double error, double expanded, double limit) {
    const double size = std::abs(error);
    if (size <= limit) return size + expanded <= limit ? Verdict::pass : Verdict::pass_within_doubt;
    return size - expanded <= limit ? Verdict::fail_within_doubt : Verdict::fail;
}

std::string verdict_id(Verdict verdict) {
    switch (verdict) {
    case Verdict::pass: return for_people("pass");
    case Verdict::pass_within_doubt: return for_people("pass-within-doubt");
    case Verdict::fail_within_doubt: return for_people("fail-within-doubt");
    case Verdict::fail: return for_people("fail");
    case Verdict::nothing_checks: return for_people("nothing-checks");
    }
    return for_people("fail");
}

std::string verdict_text(Verdict verdict) {
    switch (verdict) {
    case Verdict::pass: return phrase("good");
    case Verdict::pass_within_doubt: return phrase("within the limit, but not beyond doubt");
    case Verdict::fail_within_doubt: return phrase("beyond the limit, but not beyond doubt");
    case Verdict::fail: return phrase("beyond the limit");
    case Verdict::nothing_checks: return phrase("nothing checks this");
    }
    return "";
}

Verdict find_verdict(std::string_view id) {
    for (const Verdict v :
         {Verdict::pass, Verdict::pass_within_doubt, Verdict::fail_within_doubt, Verdict::nothing_checks})
        if (verdict_id(v) == id) return v;
    return Verdict::fail;
}

bool adjusted_between(std::span<const CalibrationPoint> points) {
    return std::any_of(points.begin(), points.end(), [](const auto& p) { return p.fitted(true); });
}

std::vector<FitPoint> fit_points(const std::vector<CalibrationPoint>& points) {
    const bool after = adjusted_between(points);
    std::vector<FitPoint> out;
    for (const CalibrationPoint& p : points)
        if (p.fitted(after)) out.push_back({p.indication, p.reference, p.u_indication, p.u_reference, p.run});
    return out;
}

double error_found(const CalibrationPoint& point, const std::optional<AppliedCorrection>& before) {
    return (before ? corrected(*before, point.indication) : point.indication) - point.reference;
}

namespace {

/// What of a fit's variance the references do not share. The fit took their whole doubt for independent; the shared
/// part moves all points alike, is added as a whole, and must not count twice. Where the points scatter by more
/// than the rest allows (Birge 1932), the rest grows.
double independent_part(const Fit& fit, const std::vector<FitPoint>& points, double shared) {
    if (!(shared > 0)) return 1; // nothing stated: the variance came from the residuals
    double share = 0, chi2 = 0;
    for (const FitPoint& p : points) {
        const double whole = p.u_reference * p.u_reference + p.u_indication * p.u_indication;
        const double own = std::max(whole - shared * shared, 1e-6 * whole);
        share = std::max(share, own / whole);
        chi2 += std::pow(fit.at(p.indication) - p.reference, 2) / own;
    }
    return fit.dof > 0 ? share * std::max(1.0, chi2 / fit.dof) : share;
}

/// A curve, sampled: eight steps between neighbouring points, and straight on over the expected range. `part`: of
/// its variance, see above.
Result<std::vector<CurveKnot>> sampled(const Fit& fit, double from, double to, double low, double high,
                                       double part) {
    std::vector<double> x;
    if (fit.knots.empty()) {
        constexpr int steps = 64;
        for (int i = 0; i <= steps; ++i)
            x.push_back(from + (to - from) * i / steps);
    }
    for (std::size_t k = 0; k + 1 < fit.knots.size(); ++k)
        for (int i = 0; i < 8; ++i)
            x.push_back(fit.knots[k].first + (fit.knots[k + 1].first - fit.knots[k].first) * i / 8);
    if (!fit.knots.empty()) x.push_back(fit.knots.back().first);
    std::vector<CurveKnot> out;
    for (const double at : x) {
        const double u = fit.u_at(at);
        out.push_back({at, fit.at(at), std::isfinite(u) ? u * std::sqrt(part) : 0});
    }
    // Beyond the points it goes on as straight as it ended, with a doubt that grows by what the bend may do.
    const auto beyond = [&](const CurveKnot& end, const CurveKnot& inner, double at) {
        const double slope = (end.reference - inner.reference) / (end.indication - inner.indication);
        const double straight = end.reference + slope * (at - end.indication);
        return CurveKnot{at, straight, std::hypot(end.u, std::abs(fit.at(at) - straight))};
    };
    if (high > to) out.push_back(beyond(out[out.size() - 1], out[out.size() - 2], high));
    if (low < from) out.insert(out.begin(), beyond(out[0], out[1], low));
    for (std::size_t i = 1; i < out.size(); ++i)
        if (!(out[i].reference > out[i - 1].reference) || !std::isfinite(out[i].reference))
            return failure(phrase("the {} turns back near {}: one indication would have two meanings.",
                                  model_words(fit.model), format_constant(out[i].indication, 3)),
                           {}, phrase("Choose a simpler model, or look at the points there."));
    return out;
}

} // namespace

Result<AppliedCorrection> correction_from(const Fit& fit, const std::vector<CalibrationPoint>& points, double low,
                                          double high) {
    AppliedCorrection c;
    c.dof = std::max(0, fit.dof);
    // One instrument or one method errs alike at every point: that share is the smallest doubt among the
    // references.
    const bool after = adjusted_between(points);
    double shared = std::numeric_limits<double>::infinity();
    c.from = std::numeric_limits<double>::infinity();
    c.to = -c.from;
    for (const CalibrationPoint& p : points) {
        if (!p.fitted(after)) continue;
        shared = std::min(shared, p.u_reference);
        c.from = std::min(c.from, p.indication);
        c.to = std::max(c.to, p.indication);
    }
    c.u_reference = std::isfinite(shared) ? shared : 0;
    const double part = independent_part(fit, fit_points(points), c.u_reference);
    // Without a point to spare the residuals say nothing of the fit's doubt; what the points state is then all.
    const auto known = [part](double v) { return std::isfinite(v) ? v * part : 0; };
    switch (fit.model) {
    case Model::offset:
        c.offset = fit.parameters[0].value;
        c.var_offset = known(fit.covariance[0]);
        return c;
    case Model::gain:
        c.gain = fit.parameters[0].value;
        c.var_gain = known(fit.covariance[0]);
        break;
    case Model::line:
    case Model::york:
        c.offset = fit.parameters[0].value;
        c.gain = fit.parameters[1].value;
        c.var_offset = known(fit.covariance[0]);
        c.covariance = known(fit.covariance[1]);
        c.var_gain = known(fit.covariance[3]);
        break;
    default: {
        COGNITUM_TRY(curve, sampled(fit, c.from, c.to, low, high, part));
        c.curve = curve;
        return c;
    }
    }
    if (!(c.gain > 0))
        return failure(
            phrase("the reading falls where the reference rises."), {},
            phrase("Look at the wiring, the sign of the path and the points: a correction cannot mend that."));
    return c;
}

namespace {

/// What stays in force when a reading was compared and nothing changed: the same values, whose doubt is now what
/// the comparison showed of their error, and that of the references.
Result<AppliedCorrection> compared_only(const Reading& reading, const std::vector<CalibrationPoint>& points) {
    AppliedCorrection c = reading.correction.value_or(AppliedCorrection{});
    double squares = 0, n = 0, shared = std::numeric_limits<double>::infinity();
    c.from = shared;
    c.to = -shared;
    for (const CalibrationPoint& p : points) {
        if (!p.counts() || p.check) continue;
        squares += std::pow(error_found(p, reading.correction), 2);
        shared = std::min(shared, p.u_reference);
        c.from = std::min(c.from, p.indication);
        c.to = std::max(c.to, p.indication);
        ++n;
    }
    if (n == 0) return failure(phrase("no point counts: there is nothing to compare."));
    c.var_offset = squares / n;
    c.var_gain = c.covariance = 0;
    for (CurveKnot& knot : c.curve)
        knot.u = std::sqrt(squares / n);
    c.u_reference = shared;
    c.dof = n;
    return c;
}

/// U at 95 %, as everywhere: the correction's doubt and others beside it, with the factor of their effective
/// degrees of freedom.
double expanded(const AppliedCorrection& c, double indication, double other_u) {
    return combine(0, {{"calibration", {}, correction_u(c, indication), correction_dof(c, indication)},
                       {"others", {}, other_u}})
        .expanded();
}

/// True when the points that were fitted are no more than the model's constants.
bool fits_exactly(const AppliedCorrection& c, const std::string& model,
                  const std::vector<CalibrationPoint>& points) {
    const auto form = find_model(model);
    return form && c.dof <= 0 &&
           fit_points(points).size() <= static_cast<std::size_t>(std::max(2, parameter_count(*form)));
}

/// Largest error, signed, with its doubt.
struct Worst {
    double error = 0, doubt = 0;
    bool any = false;
    void see(double e, double expanded) {
        any = true;
        if (std::abs(e) < std::abs(error)) return;
        error = e;
        doubt = expanded;
    }
};

} // namespace

CalibrationRecord judged_record(const Reading& reading, const CalibrationDraft& draft,
                                const AppliedCorrection& correction, const std::string& model, TimeUs now) {
    CalibrationRecord record;
    record.reading = reading.id;
    record.time = now;
    record.unit = reading.quantity.unit;
    record.limit = reading.quantity.accuracy;
    record.points = draft.points;
    record.recipe = draft.recipe;
    record.adjusted = draft.adjusted;
    record.conditions = draft.conditions;
    record.by = draft.by;
    record.model = model;
    record.correction = correction;
    record.correction.time = now;
    const bool compared = model == "none";
    const bool after = adjusted_between(draft.points);
    // Stated doubts are taken as well known.
    const double certain = coverage_factor(std::numeric_limits<double>::infinity());
    Worst found, left, check;
    for (const CalibrationPoint& p : draft.points) {
        if (!p.counts()) continue;
        const double u_point = std::hypot(p.u_reference, p.u_indication);
        const double error = error_found(p, correction);
        if (p.check) { // its reference is one of its own, beside those that the fit rests on
            if (after && !p.as_left) continue;
            check.see(error, compared ? certain * u_point : expanded(correction, p.indication, u_point));
            continue;
        }
        if (!p.as_left) found.see(error_found(p, reading.correction), certain * u_point);
        if (p.as_left == after)
            left.see(error, compared ? certain * u_point : expanded(correction, p.indication, p.u_indication));
    }
    record.worst_found = found.error;
    record.doubt_found = found.doubt;
    record.worst_left = left.error;
    record.doubt_left = left.doubt;
    // Empty where nothing was compared before it was adjusted: that is not good, and not bad either.
    if (found.any) record.verdict_found = verdict_id(judge(found.error, found.doubt, record.limit));
    record.verdict_left = verdict_id(fits_exactly(correction, model, draft.points) && !check.any
                                         ? Verdict::nothing_checks
                                         : judge(left.error, left.doubt, record.limit));
    if (check.any) {
        record.worst_check = check.error;
        record.doubt_check = check.doubt;
        record.verdict_check = verdict_id(judge(check.error, check.doubt, record.limit));
    }
    record.correction.verdict = record.verdict_left;
    return record;
}

double said_after(const CalibrationRecord& record, const CalibrationPoint& point) {
    if (record.model == "path" && !point.as_left) return no_number;
    return corrected(record.correction, point.indication);
}

Result<CalibrationRecord> finish_calibration(const Reading& reading, const CalibrationDraft& draft,
                                             std::optional<Model> model, TimeUs now) {
    AppliedCorrection correction;
    if (model) {
        COGNITUM_TRY(fit, fit_model(fit_points(draft.points), *model));
        COGNITUM_TRY(found, correction_from(fit, draft.points, reading.quantity.low, reading.quantity.high));
        correction = found;
    } else {
        COGNITUM_TRY(unchanged, compared_only(reading, draft.points));
        correction = unchanged;
    }
    correction.path_key = path_key(reading);
    return judged_record(reading, draft, correction, model ? model_name(*model) : "none", now);
}

std::vector<std::string> references_in_words(const std::vector<CalibrationPoint>& points,
                                             const std::vector<ReferenceInstrument>& known,
                                             const std::string& unit) {
    std::vector<std::string> out;
    for (const CalibrationPoint& p : points) {
        const auto instrument =
            std::find_if(known.begin(), known.end(), [&](const auto& r) { return r.id == p.instrument; });
        const ReferenceKind* kind = find_reference_kind(p.reference_kind);
        std::string words = instrument != known.end() ? instrument->name : kind ? kind->title : p.reference_kind;
        words += fmt::format(", ± {}", format_measure(2 * p.u_reference, unit, 2));
        if (instrument != known.end() && !instrument->certificate.empty())
            words += phrase(", certificate {} of {}", instrument->certificate,
                            iso_time(instrument->certified).substr(0, 10));
        if (kind && !kind->source.empty() && instrument == known.end()) words += "; " + kind->source;
        if (std::find(out.begin(), out.end(), words) == out.end()) out.push_back(words);
    }
    return out;
}

} // namespace cognitum
