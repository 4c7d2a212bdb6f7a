#include "core/bench/correction.h"

#include "core/base/phrase.h"
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
    const InEnglish in_the_path;
    const std::string origin = phrase("calibration {}", iso_time(c.time).substr(0, 10));
    Correction stage;
    stage.gain = Constant{c.gain, 0, Spread::none, origin, {}, {}, 0, KnownBy::calibration};
    stage.offset = Constant{c.offset, 0, Spread::none, origin, {}, {}, 0, KnownBy::calibration};
    stage.unit = unit;
    return stage;
}

} // namespace cognitum
