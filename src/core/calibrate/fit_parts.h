// What the files of the fits share; fit.h is what others use.
#pragma once

#include "core/calibrate/fit.h"

namespace cognitum::fits {

/// Residuals, their spread and R², and left-out residuals from the leverages (r / (1 − h)), of a fit whose
/// parameters are known. Without leverages `left_out` stays as it is.
void add_figures(Fit& fit, std::span<const FitPoint> points, bool against_zero,
                 std::span<const double> leverages = {});
/// Weights 1/u² where every point states a doubt (of the indication through `slope`), else empty.
std::vector<double> weights_of(std::span<const FitPoint> points, double slope);

/// How many indications differ by more than rounding (1e-9 of the largest): sums of tips may differ in their last
/// place.
std::size_t different_indications(std::span<const FitPoint> points);

/// Offset, gain, line … quintic.
Result<Fit> fit_polynomial(std::span<const FitPoint> points, Model model);
/// Residuals from a line with Huber's weights (1964), which a few wild points hardly move; empty where it cannot be
/// found.
std::vector<double> robust_residuals(std::span<const FitPoint> points);

// Models that are no polynomial in the indication. Errors name what the points lack.
Result<Fit> fit_york(std::span<const FitPoint> points);
Result<Fit> fit_logarithm(std::span<const FitPoint> points);
Result<Fit> fit_power(std::span<const FitPoint> points);
/// Straight pieces or the monotone curve.
Result<Fit> fit_through(std::span<const FitPoint> points, Model model);
/// The value and slope of a fit through its knots, going on straight beyond its ends.
double through_knots(std::span<const std::pair<double, double>> knots, Model model, double x);

} // namespace cognitum::fits
