#include "core/bench/correction.h"

#include "core/physics/steffen.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace cognitum {

namespace {

/// Columns of the curve, as the stage and the interpolation take them.
struct Columns {
    std::vector<double> x, y;
};
Columns columns_of(const AppliedCorrection& c) {
    Columns out;
    for (const CurveKnot& knot : c.curve) {
        out.x.push_back(knot.indication);
        out.y.push_back(knot.reference);
    }
    return out;
}

/// Straight between the knots. Beyond them it grows as it did over the last chord, and never shrinks.
double curve_u(const std::vector<CurveKnot>& curve, double x) {
    const auto above = std::upper_bound(curve.begin() + 1, curve.end() - 1, x,
                                        [](double v, const CurveKnot& k) { return v < k.indication; });
    const CurveKnot &a = *(above - 1), &b = *above;
    const double u = a.u + (x - a.indication) / (b.indication - a.indication) * (b.u - a.u);
    if (x < curve.front().indication) return std::max(u, curve.front().u);
    return x > curve.back().indication ? std::max(u, curve.back().u) : u;
}

} // namespace

bool correction_is_line(const AppliedCorrection& c) {
    return c.gain != 1 || c.var_gain > 0 || !c.curve.empty();
}

double corrected(const AppliedCorrection& c, double indication) {
    if (c.curve.size() < 2) return c.gain * indication + c.offset;
    const Columns columns = columns_of(c);
    return physics::steffen_and_on(columns.x, columns.y, indication);
}

double correction_u(const AppliedCorrection& c, double x) {
    const double fitted = c.curve.size() < 2
                              ? std::sqrt(std::max(0.0, c.var_offset + 2 * x * c.covariance + x * x * c.var_gain))
                              : curve_u(c.curve, x);
    return std::hypot(fitted, c.u_reference);
}

double correction_dof(const AppliedCorrection& c, double x) {
    const double total = correction_u(c, x);
    const double fitted = std::sqrt(std::max(0.0, total * total - c.u_reference * c.u_reference));
    if (!(fitted > 0) || !(c.dof > 0)) return std::numeric_limits<double>::infinity();
    return c.dof * std::pow(total / fitted, 4);
}

Stage correction_stage(const AppliedCorrection& c, const std::string& unit) {
    if (c.curve.size() >= 2) {
        Columns columns = columns_of(c);
        return CorrectionCurve{std::move(columns.x), std::move(columns.y), unit};
    }
    const std::string origin = "calibration " + iso_time(c.time).substr(0, 10);
    Correction stage;
    stage.gain = Constant{c.gain, 0, Spread::none, origin, {}};
    stage.offset = Constant{c.offset, 0, Spread::none, origin, {}};
    stage.unit = unit;
    return stage;
}

Json correction_json(const AppliedCorrection& c) {
    Json out = {{"gain", c.gain},
                {"offset", c.offset},
                {"var_offset", c.var_offset},
                {"var_gain", c.var_gain},
                {"covariance", c.covariance},
                {"u_reference", c.u_reference},
                {"dof", c.dof},
                {"from", c.from},
                {"to", c.to},
                {"record", c.record},
                {"time", iso_time(c.time)},
                {"verdict", c.verdict},
                {"path_key", c.path_key}};
    for (const CurveKnot& knot : c.curve)
        out["curve"].push_back({knot.indication, knot.reference, knot.u});
    return out;
}

Result<AppliedCorrection> read_correction(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"gain", "offset", "var_offset", "var_gain", "covariance", "u_reference", "dof",
                                   "from", "to", "record", "time", "verdict", "path_key", "curve"}));
    AppliedCorrection c;
    for (auto& [key, field] :
         std::initializer_list<std::pair<const char*, double*>>{{"gain", &c.gain},
                                                                {"offset", &c.offset},
                                                                {"var_offset", &c.var_offset},
                                                                {"var_gain", &c.var_gain},
                                                                {"covariance", &c.covariance},
                                                                {"u_reference", &c.u_reference},
                                                                {"dof", &c.dof},
                                                                {"from", &c.from},
                                                                {"to", &c.to}}) {
        COGNITUM_TRY(value, json.number(key));
        *field = value;
    }
    COGNITUM_TRY(record, json.number_or("record", 0));
    COGNITUM_TRY(time, json.string_or("time", {}));
    COGNITUM_TRY(verdict, json.string_or("verdict", {}));
    COGNITUM_TRY(key, json.string_or("path_key", {}));
    const auto when = time.empty() ? std::optional<TimeUs>(0) : parse_time(time);
    if (!when) return json.error("this is no time; write it as 2026-11-03T09:00:00Z.", "time");
    c.record = static_cast<std::int64_t>(record);
    c.time = *when;
    c.verdict = verdict;
    c.path_key = key;
    const Json curve = json.json().value("curve", Json::array());
    for (const Json& knot : curve) {
        if (!knot.is_array() || knot.size() != 3 || !knot[0].is_number() || !knot[1].is_number() ||
            !knot[2].is_number())
            return json.error("a knot of the curve is [indication, reference, doubt].", "curve");
        const CurveKnot next{knot[0].get<double>(), knot[1].get<double>(), knot[2].get<double>()};
        if (!c.curve.empty() &&
            !(next.indication > c.curve.back().indication && next.reference > c.curve.back().reference))
            return json.error("the curve goes back: indications and references must grow.", "curve");
        c.curve.push_back(next);
    }
    return c;
}

} // namespace cognitum
