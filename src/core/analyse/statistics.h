// Plain statistics over spans; every function ignores nothing: pass it finite numbers only.
#pragma once

#include <span>

namespace cognitum {

struct Moments {
    double mean = 0, sd = 0, low = 0, high = 0; ///< sd with n − 1; 0 for n < 2
};
Moments moments(std::span<const double> values);

/// Scatter from neighbouring differences, sd(xᵢ₊₁ − xᵢ)/√2: the noise without slow movement (von Neumann 1941). The
/// largest twentieth of the steps, and at least two, are left out and made up for, so that a single jump is no
/// noise.
double difference_sd(std::span<const double> values);

/// Lag-1 autocorrelation, −1…1; 0 when the values do not move.
double lag_one_correlation(std::span<const double> values);

struct LineFit {
    double intercept = 0, slope = 0, slope_se = 0; ///< slope_se: standard error, 0 for n < 3
};
/// Ordinary least squares of y over x; sizes equal, n ≥ 2 and x not constant, else slope 0.
LineFit fit_line(std::span<const double> x, std::span<const double> y);

} // namespace cognitum
