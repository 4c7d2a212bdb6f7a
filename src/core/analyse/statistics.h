// Plain statistics over spans; every function ignores nothing: pass it finite numbers only.
#pragma once

#include <span>
#include <vector>

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

/// Integrated autocorrelation time in samples, 1 for white noise: 1 + 2·Σρ(k), summed up to the first lag that is
/// five times the sum so far (Sokal 1997). The straight line must be taken out before.
double autocorrelation_time(std::span<const double> values);

/// Indices of values that lie more than `limit` scaled median absolute deviations, and more than `smallest`, from
/// the median of the 2·half + 1 around them (Hampel 1974).
std::vector<std::size_t> hampel_outliers(std::span<const double> values, std::size_t half, double limit,
                                         double smallest);

double median(std::vector<double> values); ///< 0 for none

struct LineFit {
    double intercept = 0, slope = 0, slope_se = 0; ///< slope_se: standard error, 0 for n < 3
};
/// Ordinary least squares of y over x; sizes equal, n ≥ 2 and x not constant, else slope 0.
LineFit fit_line(std::span<const double> x, std::span<const double> y);

/// A stretch of samples as one: what decimation keeps so that the truth survives it.
struct Decimated {
    double mean = 0, low = 0, high = 0;
    std::size_t n = 0; ///< finite values in it
};
/// Runs of `every` values as mean, minimum and maximum; a last, shorter run counts too. A run without a finite
/// value has n = 0.
std::vector<Decimated> decimate(std::span<const double> values, std::size_t every);

} // namespace cognitum
