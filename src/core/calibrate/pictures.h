// What is drawn of a calibration, as numbers: the fit and what it leaves over, states over the number that makes
// them, errors on a certificate. Whoever paints adds nothing of its own.
#pragma once

#include "core/calibrate/fit.h"
#include "core/calibrate/record.h"

#include <optional>
#include <span>
#include <vector>

namespace cognitum {

struct Dot {
    double x = 0, y = 0;
    double half = 0; ///< half length of its bar: U at 95 %; 0: none is drawn
};

/// Reference over indication with the fit, and what is left over below it; the reading's unit on all axes.
struct FitPicture {
    std::vector<Dot> used, aside, checks;
    std::vector<Dot> left_over, checks_left_over; ///< fitted − reference
    struct Curve {
        double at = 0, value = 0, low = 0, high = 0; ///< low, high: the band of 95 % for one new point
    };
    std::vector<Curve> curve;
    double low = 0, high = 0; ///< of both axes: what was taken, and a little beyond it
    double tallest = 0;       ///< of what is left over, above zero
};
/// `fit`: null: the straight line 1 · x.
FitPicture fit_picture(const Quantity& quantity, std::span<const CalibrationPoint> points, const Fit* fit);

/// On and off over the number that makes them: where the threshold belongs is seen at once. x: raw value, y: 0
/// or 1.
struct StatePicture {
    std::vector<Dot> used, aside, checks;
    double low = 0, high = 0;
};
/// `raw_now`: what the board sends now; nothing: nothing arrives.
StatePicture state_picture(std::span<const CalibrationPoint> points, std::optional<double> raw_now);

/// Errors over the reference, as found and as left, with their bars.
struct ErrorPicture {
    std::vector<Dot> found, left;
    double low = 0, high = 0, tallest = 0;
};
/// `before`: the correction in force when the record was made; none: 1 · x.
ErrorPicture error_picture(const CalibrationRecord& record, const Quantity& quantity,
                           const std::optional<AppliedCorrection>& before);

} // namespace cognitum
