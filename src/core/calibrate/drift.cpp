#include "core/calibrate/drift.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/uncertainty/budget.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace cognitum {

namespace {

constexpr double year_s = 365.25 * 86400;

double years(TimeUs from, TimeUs to) {
    return seconds(to - from) / year_s;
}

/// Mean error of the uncorrected path at the points that count, as found.
struct MeanError {
    DriftPoint point;
    double shared = 0;                ///< the references' own doubt
    std::set<std::string> references; ///< kinds and instruments
};
std::optional<MeanError> mean_error(const CalibrationRecord& record) {
    MeanError whole;
    DriftPoint& out = whole.point;
    out.time = record.time;
    double n = 0, squares = 0, read = 0;
    for (const CalibrationPoint& p : record.points) {
        // A path that got its constants from its points was another one before: only what was left is of it.
        if (!p.counts() || p.check || p.as_left != (record.model == "path")) continue;
        const double error = p.indication - p.reference;
        out.error += error;
        squares += error * error;
        whole.shared += p.u_reference;
        read += p.u_indication * p.u_indication;
        whole.references.insert(p.reference_kind + " " + p.instrument);
        ++n;
    }
    if (n == 0) return {};
    whole.shared /= n;
    out.error /= n;
    const double scatter = n > 1 ? std::sqrt(std::max(0.0, squares / n - out.error * out.error) / (n - 1)) : 0;
    out.u = std::max(scatter, std::sqrt(read) / n);
    return whole;
}

/// Slope and its doubt, weighted; the doubt grows where the points scatter more than they state.
void fit_drift(Drift& d) {
    double s = 0, st = 0, se = 0;
    const TimeUs origin = d.points.front().time;
    const auto weight = [](const DriftPoint& p) { return 1 / std::max(p.u * p.u, 1e-18); };
    for (const DriftPoint& p : d.points) {
        s += weight(p);
        st += weight(p) * years(origin, p.time);
        se += weight(p) * p.error;
    }
    double tt = 0, te = 0;
    for (const DriftPoint& p : d.points) {
        const double t = years(origin, p.time) - st / s;
        tt += weight(p) * t * t;
        te += weight(p) * t * p.error;
    }
    if (!(tt > 0)) return;
    d.per_year = te / tt;
    d.dof = static_cast<double>(d.points.size()) - 2;
    double chi2 = 0;
    for (const DriftPoint& p : d.points)
        chi2 += weight(p) * std::pow(p.error - se / s - d.per_year * (years(origin, p.time) - st / s), 2);
    const double widen = d.dof > 0 ? std::max(1.0, std::sqrt(chi2 / d.dof)) : 1;
    if (widen <= 1) d.dof = std::numeric_limits<double>::infinity(); // it rests on what the points state
    d.u_per_year = widen / std::sqrt(tt);
}

} // namespace

double Drift::shift_at(TimeUs time) const {
    return points.empty() || from_data_sheet ? 0 : per_year * years(points.back().time, time);
}

double Drift::band_at(TimeUs time) const {
    if (points.empty()) return no_number;
    const double t = std::max(0.0, years(points.back().time, time));
    if (from_data_sheet) return per_year * t;
    return coverage_factor(dof > 0 ? dof : std::numeric_limits<double>::infinity()) * u_per_year * t;
}

bool Drift::real() const {
    return !from_data_sheet && std::isfinite(per_year) &&
           std::abs(per_year) >
               coverage_factor(dof > 0 ? dof : std::numeric_limits<double>::infinity()) * u_per_year;
}

Drift drift_of(const Reading& reading, std::span<const CalibrationRecord> records, double sheet_per_year) {
    Drift d;
    const std::string key = path_key(reading);
    std::vector<MeanError> errors;
    double left = 0; // what the newest calibration left open is used up from the start
    for (const CalibrationRecord& record : records)
        if (record.correction.path_key.empty() || record.correction.path_key == key)
            if (auto error = mean_error(record)) {
                errors.push_back(std::move(*error));
                left = std::abs(record.worst_left) + record.doubt_left;
            }
    // The same references each time err alike each time: that is no drift. Others add their own doubt.
    const bool same = std::all_of(errors.begin(), errors.end(),
                                  [&](const MeanError& e) { return e.references == errors.front().references; });
    for (MeanError& error : errors) {
        if (!same) error.point.u = std::hypot(error.point.u, error.shared);
        d.points.push_back(error.point);
    }
    if (d.points.empty()) return d;
    if (d.points.size() >= 2) fit_drift(d);
    if (!std::isfinite(d.per_year)) {
        d.from_data_sheet = true;
        d.per_year = sheet_per_year;
        d.u_per_year = sheet_per_year / std::sqrt(3.0);
    }
    const double months = reading.calibrate_months > 0 ? reading.calibrate_months : usual_calibration_months;
    const TimeUs begin = d.points.back().time;
    d.due = begin + from_seconds(months / 12 * year_s);
    constexpr int steps = 480;
    for (int i = 0; i <= steps; ++i) {
        const TimeUs at = begin + from_seconds(months / 12 * year_s * i / steps);
        if (std::abs(d.shift_at(at)) + d.band_at(at) + left <= reading.quantity.accuracy) continue;
        d.due = at;
        d.because = Drift::Because::drift;
        break;
    }
    if (reading.bring_up.disturbed > begin && reading.bring_up.disturbed < d.due) {
        d.due = reading.bring_up.disturbed;
        d.because = Drift::Because::disturbed;
    }
    return d;
}

Drift drift_by_card(const Reading& reading, std::span<const CalibrationRecord> records, const PartCard* part) {
    const Measurand* measured = part ? part->measurand(reading.quantity.kind) : nullptr;
    return drift_of(reading, records, measured ? measured->drift_per_year : 0);
}

std::string drift_text(const Drift& d, const std::string& unit) {
    if (d.points.empty()) return phrase("never calibrated");
    if (d.from_data_sheet)
        return d.per_year > 0
                   ? phrase("may drift up to {} a year by its data sheet", format_measure(d.per_year, unit, 2))
                   : phrase("one calibration shows no drift yet");
    const double expanded =
        coverage_factor(d.dof > 0 ? d.dof : std::numeric_limits<double>::infinity()) * d.u_per_year;
    if (!d.real()) return phrase("no drift to be seen (± {} a year)", format_measure(expanded, unit, 2));
    return phrase("drifts {} {} ± {} a year", d.per_year < 0 ? "−" : "+",
                  format_measure(std::abs(d.per_year), unit, 2), format_measure(expanded, unit, 2));
}

} // namespace cognitum
