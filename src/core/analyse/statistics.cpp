#include "core/analyse/statistics.h"

#include <algorithm>
#include <cmath>
#include <gsl/gsl_cdf.h>
#include <gsl/gsl_randist.h>
#include <vector>

namespace cognitum {

namespace {

/// Standard deviation of normal numbers of which only this share, those nearest to their mean, is kept: 0.871 for
/// 0.95 (truncated normal distribution; Johnson, Kotz & Balakrishnan 1994, 13.10).
double sd_of_nearest(double share) {
    const double cut = gsl_cdf_ugaussian_Pinv((1 + share) / 2);
    return std::sqrt(1 - 2 * cut * gsl_ran_ugaussian_pdf(cut) / share);
}

} // namespace

Moments moments(std::span<const double> values) {
    Moments out;
    if (values.empty()) return out;
    out.low = out.high = values[0];
    double sum = 0;
    for (const double v : values) {
        sum += v;
        out.low = std::min(out.low, v);
        out.high = std::max(out.high, v);
    }
    const auto n = static_cast<double>(values.size());
    out.mean = sum / n;
    double squares = 0;
    for (const double v : values)
        squares += (v - out.mean) * (v - out.mean);
    out.sd = values.size() > 1 ? std::sqrt(squares / (n - 1)) : 0;
    return out;
}

double difference_sd(std::span<const double> values) {
    if (values.size() < 5) return 0;
    std::vector<double> steps(values.size() - 1);
    for (std::size_t i = 0; i + 1 < values.size(); ++i)
        steps[i] = std::abs(values[i + 1] - values[i]);
    const std::size_t left_out = std::max<std::size_t>(2, steps.size() / 20);
    const std::size_t kept = steps.size() - left_out;
    std::nth_element(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(kept), steps.end());
    double squares = 0;
    for (std::size_t i = 0; i < kept; ++i)
        squares += steps[i] * steps[i];
    const double share = static_cast<double>(kept) / static_cast<double>(steps.size());
    return std::sqrt(squares / static_cast<double>(kept)) / sd_of_nearest(share) / std::sqrt(2.0);
}

double lag_one_correlation(std::span<const double> values) {
    if (values.size() < 3) return 0;
    const double mean = moments(values).mean;
    double products = 0;
    double squares = 0;
    for (std::size_t i = 0; i < values.size(); ++i) {
        squares += (values[i] - mean) * (values[i] - mean);
        if (i + 1 < values.size()) products += (values[i] - mean) * (values[i + 1] - mean);
    }
    return squares > 0 ? products / squares : 0;
}

LineFit fit_line(std::span<const double> x, std::span<const double> y) {
    LineFit out;
    const auto n = static_cast<double>(x.size());
    if (x.size() < 2) return out;
    const double mean_x = moments(x).mean;
    const double mean_y = moments(y).mean;
    double sxx = 0;
    double sxy = 0;
    for (std::size_t i = 0; i < x.size(); ++i) {
        sxx += (x[i] - mean_x) * (x[i] - mean_x);
        sxy += (x[i] - mean_x) * (y[i] - mean_y);
    }
    out.intercept = mean_y;
    if (!(sxx > 0)) return out;
    out.slope = sxy / sxx;
    out.intercept = mean_y - out.slope * mean_x;
    double rest = 0;
    for (std::size_t i = 0; i < x.size(); ++i) {
        const double r = y[i] - out.intercept - out.slope * x[i];
        rest += r * r;
    }
    if (x.size() > 2) out.slope_se = std::sqrt(rest / (n - 2) / sxx);
    return out;
}

double median(std::vector<double> values) {
    if (values.empty()) return 0;
    const auto middle = values.begin() + static_cast<std::ptrdiff_t>(values.size() / 2);
    std::nth_element(values.begin(), middle, values.end());
    if (values.size() % 2 == 1) return *middle;
    return (*middle + *std::max_element(values.begin(), middle)) / 2;
}

double autocorrelation_time(std::span<const double> values) {
    const std::size_t n = values.size();
    if (n < 8) return 1;
    const double mean = moments(values).mean;
    double squares = 0;
    for (const double v : values)
        squares += (v - mean) * (v - mean);
    if (!(squares > 0)) return 1;
    double tau = 1;
    for (std::size_t lag = 1; lag < n / 2; ++lag) {
        double products = 0;
        for (std::size_t i = 0; i + lag < n; ++i)
            products += (values[i] - mean) * (values[i + lag] - mean);
        tau += 2 * products / squares;
        if (static_cast<double>(lag) >= 5 * tau) break;
    }
    return std::max(1.0, tau);
}

std::vector<std::size_t> hampel_outliers(std::span<const double> values, std::size_t half, double limit,
                                         double smallest) {
    std::vector<std::size_t> out;
    if (values.size() < 2 * half + 1) return out;
    std::vector<double> around;
    for (std::size_t i = 0; i < values.size(); ++i) {
        const std::size_t from = std::min(i > half ? i - half : 0, values.size() - 2 * half - 1);
        around.assign(values.begin() + static_cast<std::ptrdiff_t>(from),
                      values.begin() + static_cast<std::ptrdiff_t>(from + 2 * half + 1));
        const double centre = median(around);
        for (double& x : around)
            x = std::abs(x - centre);
        const double scale = 1.4826 * median(around);
        const double off = std::abs(values[i] - centre);
        if (off > limit * scale && off > smallest) out.push_back(i);
    }
    return out;
}

std::vector<Decimated> decimate(std::span<const double> values, std::size_t every) {
    std::vector<Decimated> out;
    for (std::size_t start = 0; start < values.size() && every > 0; start += every) {
        Decimated d;
        double sum = 0;
        for (const double v : values.subspan(start, std::min(every, values.size() - start))) {
            if (!std::isfinite(v)) continue;
            d.low = d.n == 0 ? v : std::min(d.low, v);
            d.high = d.n == 0 ? v : std::max(d.high, v);
            sum += v;
            ++d.n;
        }
        if (d.n > 0) d.mean = sum / static_cast<double>(d.n);
        out.push_back(d);
    }
    return out;
}

} // namespace cognitum
