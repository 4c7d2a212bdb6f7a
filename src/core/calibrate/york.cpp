#include "core/calibrate/york.h"

#include "core/base/phrase.h"

#include <cmath>
#include <fmt/format.h>
#include <vector>

namespace cognitum {

namespace {

/// Slope of a plain line, to start from.
Result<double> plain_slope(std::span<const YorkPoint> points) {
    double mx = 0, my = 0, sxx = 0, sxy = 0;
    const auto n = static_cast<double>(points.size());
    for (const YorkPoint& p : points) {
        mx += p.x / n;
        my += p.y / n;
    }
    for (const YorkPoint& p : points) {
        sxx += (p.x - mx) * (p.x - mx);
        sxy += (p.x - mx) * (p.y - my);
    }
    if (!(sxx > 0)) return failure(phrase("all indications are equal."));
    return sxy / sxx;
}

} // namespace

Result<YorkLine> york_line(std::span<const YorkPoint> points) {
    const std::size_t n = points.size();
    if (n < 2) return failure(phrase("a line needs two points; there are {}.", n));
    std::vector<double> w(n), beta(n);
    for (std::size_t i = 0; i < n; ++i) {
        const YorkPoint& p = points[i];
        if (!std::isfinite(p.x + p.y + p.ux + p.uy) || p.ux < 0 || p.uy < 0 || std::abs(p.r) > 1)
            return failure(phrase("point {} holds no usable numbers.", i + 1));
        if (p.ux == 0 && p.uy == 0)
            return failure(phrase("point {} states no doubt: York’s line needs that of the indication or of the "
                                  "reference at every point.",
                                  i + 1));
    }
    const auto start = plain_slope(points);
    if (!start) return tl::make_unexpected(start.error());
    YorkLine line;
    double b = *start;
    double x_bar = 0, y_bar = 0;
    for (line.iterations = 1; line.iterations <= 500; ++line.iterations) {
        double sum = 0, sx = 0, sy = 0;
        for (std::size_t i = 0; i < n; ++i) {
            const YorkPoint& p = points[i];
            // W = 1/(u_y² + b²u_x² − 2 b r u_x u_y): the same as the paper's, and sound where one doubt is zero.
            w[i] = 1 / (p.uy * p.uy + b * b * p.ux * p.ux - 2 * b * p.r * p.ux * p.uy);
            sum += w[i];
            sx += w[i] * p.x;
            sy += w[i] * p.y;
        }
        x_bar = sx / sum;
        y_bar = sy / sum;
        double numerator = 0, denominator = 0;
        for (std::size_t i = 0; i < n; ++i) {
            const YorkPoint& p = points[i];
            const double u = p.x - x_bar, v = p.y - y_bar;
            beta[i] = w[i] * (u * p.uy * p.uy + b * v * p.ux * p.ux - (b * u + v) * p.r * p.ux * p.uy);
            numerator += w[i] * beta[i] * v;
            denominator += w[i] * beta[i] * u;
        }
        const double next = numerator / denominator;
        if (!std::isfinite(next)) return failure(phrase("York’s line does not settle on these points."));
        const bool settled = std::abs(next - b) <= 1e-15 * std::abs(next) + 1e-300;
        b = next;
        if (settled) break;
    }
    if (line.iterations > 500) return failure(phrase("York’s line does not settle on these points."));
    line.slope = b;
    line.intercept = y_bar - b * x_bar;
    // Uncertainties at the adjusted points.
    double sum = 0, mean = 0;
    for (std::size_t i = 0; i < n; ++i) {
        sum += w[i];
        mean += w[i] * (x_bar + beta[i]);
    }
    mean /= sum;
    double spread = 0;
    for (std::size_t i = 0; i < n; ++i) {
        const double u = x_bar + beta[i] - mean;
        spread += w[i] * u * u;
        const double off = points[i].y - b * points[i].x - line.intercept;
        line.s += w[i] * off * off;
    }
    line.u_slope = std::sqrt(1 / spread);
    line.u_intercept = std::sqrt(1 / sum + mean * mean / spread);
    line.covariance = -mean / spread;
    return line;
}

} // namespace cognitum
