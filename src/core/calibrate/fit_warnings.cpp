// What should be looked at before a fit is believed.
#include "core/base/phrase.h"
#include "core/calibrate/fit_parts.h"
#include "core/uncertainty/budget.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace cognitum {

namespace {

bool through_the_points(const Fit& fit) {
    return fit.model == Model::piecewise || fit.model == Model::curve;
}

/// Scatter that a few wild points do not widen: 1.4826 times the median of |r| (Hampel 1974).
double robust_scatter(std::vector<double> residuals) {
    for (double& r : residuals)
        r = std::abs(r);
    const auto middle = residuals.begin() + static_cast<std::ptrdiff_t>(residuals.size() / 2);
    std::nth_element(residuals.begin(), middle, residuals.end());
    return 1.4826 * *middle;
}

void outlier(const Fit& fit, std::span<const FitPoint> points, std::vector<std::string>& out) {
    if (points.size() < fit.parameters.size() + 3) return;
    // Against a line that wild points hardly move, where the model is straight; else against the fit itself.
    const bool straight = fit.model <= Model::line || fit.model == Model::york;
    std::vector<double> off = straight ? fits::robust_residuals(points) : std::vector<double>{};
    if (off.empty()) off = fit.residuals;
    const double scatter = robust_scatter(off);
    double largest = 0;
    for (const FitPoint& p : points)
        largest = std::max(largest, std::abs(p.reference));
    if (!(scatter > 1e-12 * largest)) return; // an exact fit has no outlier
    std::size_t worst = 0;
    for (std::size_t i = 1; i < off.size(); ++i)
        if (std::abs(off[i]) > std::abs(off[worst])) worst = i;
    const double times = std::abs(off[worst]) / scatter;
    if (times > 4.5)
        out.push_back(
            phrase("an outlier: point {} lies {} times the others' scatter off. Look at what happened there; "
                   "set it aside only with a reason.",
                   worst + 1, format_constant(times, 2)));
}

void runs_that_differ(const Fit& fit, std::span<const FitPoint> points, std::vector<std::string>& out) {
    double up = 0, down = 0, squares = 0;
    int n_up = 0, n_down = 0;
    for (std::size_t i = 0; i < points.size(); ++i) {
        if (points[i].run > 0) up += fit.residuals[i], ++n_up;
        if (points[i].run < 0) down += fit.residuals[i], ++n_down;
    }
    if (n_up < 2 || n_down < 2) return;
    up /= n_up;
    down /= n_down;
    for (std::size_t i = 0; i < points.size(); ++i)
        if (points[i].run != 0) squares += std::pow(fit.residuals[i] - (points[i].run > 0 ? up : down), 2);
    const int dof = n_up + n_down - 2;
    const double u = std::sqrt(squares / dof * (1.0 / n_up + 1.0 / n_down));
    if (std::abs(up - down) > coverage_factor(dof) * u && std::abs(up - down) > 0)
        out.push_back(phrase("rising and falling runs differ by {}: hysteresis, or not enough time to settle.",
                             format_constant(std::abs(up - down), 2)));
}

void trend(const Fit& fit, std::span<const FitPoint> points, std::vector<std::string>& out) {
    const std::size_t n = points.size();
    if (n < 8 || through_the_points(fit)) return;
    std::vector<std::size_t> order(n);
    std::iota(order.begin(), order.end(), std::size_t(0));
    std::stable_sort(order.begin(), order.end(),
                     [&](std::size_t a, std::size_t b) { return points[a].indication < points[b].indication; });
    double squares = 0, neighbours = 0, above = 0, runs = 1;
    for (std::size_t i = 0; i < n; ++i) {
        const double r = fit.residuals[order[i]];
        squares += r * r;
        above += r > 0;
        if (i == 0) continue;
        const double before = fit.residuals[order[i - 1]];
        neighbours += r * before;
        runs += (r > 0) != (before > 0);
    }
    // Lag-one autocorrelation of white residuals lies within 2/√n nearly always, and the number of runs of one sign
    // (Wald and Wolfowitz 1940) is seldom two standard deviations short.
    const auto all = static_cast<double>(n);
    const double pairs = 2 * above * (all - above), expected = 1 + pairs / all;
    const double sd = std::sqrt(pairs * (pairs - all) / (all * all * (all - 1)));
    if (squares > 0 && (neighbours / squares > 2 / std::sqrt(all) || runs < expected - 2.1 * sd))
        out.push_back(phrase(
            "a trend is left in the residuals: neighbours err alike, so the model does not follow the curve."));
}

} // namespace

std::vector<std::string> fit_warnings(const Fit& fit, std::span<const FitPoint> points) {
    std::vector<std::string> out;
    const std::size_t p = fit.parameters.size();
    if (points.size() < p + 2 && !through_the_points(fit))
        out.push_back(phrase("too few points: {} for {} parameters leave {} to check with; take at least {}.",
                             points.size(), p, points.size() - p, p + 2));
    if (through_the_points(fit))
        out.push_back(phrase("it goes through every point, errors and all, and knows nothing outside of them."));
    std::vector<double> x;
    for (const FitPoint& point : points)
        x.push_back(point.indication);
    std::sort(x.begin(), x.end());
    const double span = x.back() - x.front();
    const double middle = x[x.size() / 2];
    const auto near =
        std::count_if(x.begin(), x.end(), [&](double v) { return std::abs(v - middle) < 0.1 * span; });
    if (points.size() >= 4 && span > 0 && near > static_cast<std::ptrdiff_t>(3 * points.size() / 4))
        out.push_back(phrase("clustered points: most lie together; spread them over the range that you use."));
    outlier(fit, points, out);
    runs_that_differ(fit, points, out);
    trend(fit, points, out);
    return out;
}

} // namespace cognitum
