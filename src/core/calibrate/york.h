// A straight line when indications and references are both in doubt.
#pragma once

#include "core/base/error.h"

#include <span>

namespace cognitum {

struct YorkPoint {
    double x = 0, y = 0;
    double ux = 0, uy = 0; ///< standard uncertainties; at least one of the two above zero
    double r = 0;          ///< correlation of the two errors, −1…1
};

struct YorkLine {
    double intercept = 0, slope = 0;
    double u_intercept = 0, u_slope = 0, covariance = 0;
    double s = 0; ///< weighted sum of squares; about n − 2 when the stated doubts are true
    int iterations = 0;
};

/// York, Evensen, López Martínez and Delgado (2004), Am. J. Phys. 72, 367, equations (13). Error for fewer than two
/// points, a point without doubt, equal x, or where it does not settle.
Result<YorkLine> york_line(std::span<const YorkPoint> points);

} // namespace cognitum
