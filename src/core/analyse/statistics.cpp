#include "core/analyse/statistics.h"

#include <algorithm>
#include <cmath>
#include <vector>

namespace cognitum {

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
    // Normal steps cut at 95 % have 0.871 of their standard deviation.
    constexpr double share_left = 0.871;
    return std::sqrt(squares / static_cast<double>(kept)) / share_left / std::sqrt(2.0);
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

} // namespace cognitum
