// Fits that are no polynomial: York's line, a logarithm, a power, pieces and curves through the points.
#include "core/base/json_reader.h" // for COGNITUM_TRY
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/calibrate/fit_parts.h"
#include "core/calibrate/york.h"
#include "core/physics/steffen.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numeric>

namespace cognitum::fits {

namespace {

Result<void> all_positive(std::span<const FitPoint> points, const char* model, bool references) {
    for (std::size_t i = 0; i < points.size(); ++i)
        if (!(points[i].indication > 0) || (references && !(points[i].reference > 0)))
            return failure(phrase("a {} needs {} above zero; point {} has none.", model,
                                  references ? phrase("indications and references") : phrase("indications"),
                                  i + 1));
    return {};
}

/// Two parameters by weighted least squares of y on f(x).
struct Two {
    double a = 0, b = 0;
    double aa = 0, ab = 0, bb = 0; ///< covariance, for weights that are 1/u²
};
Two straight(std::span<const double> x, std::span<const double> y, std::span<const double> w) {
    long double s = 0, sx = 0, sy = 0;
    for (std::size_t i = 0; i < x.size(); ++i) {
        s += w[i];
        sx += static_cast<long double>(w[i]) * x[i];
        sy += static_cast<long double>(w[i]) * y[i];
    }
    const long double mx = sx / s, my = sy / s;
    long double xx = 0, xy = 0;
    for (std::size_t i = 0; i < x.size(); ++i) {
        xx += w[i] * (x[i] - mx) * (x[i] - mx);
        xy += w[i] * (x[i] - mx) * (y[i] - my);
    }
    Two out;
    out.b = static_cast<double>(xy / xx);
    out.a = static_cast<double>(my - mx * (xy / xx));
    out.bb = static_cast<double>(1 / xx);
    out.ab = static_cast<double>(-mx / xx);
    out.aa = static_cast<double>(1 / s + mx * mx / xx);
    return out;
}

/// Shares of each point in its own fitted value, of a weighted line in x or its logarithm.
std::vector<double> straight_leverages(std::span<const FitPoint> points, std::span<const double> w,
                                       bool logarithm) {
    const auto at = [&](std::size_t i) {
        return logarithm ? std::log(points[i].indication) : points[i].indication;
    };
    double s = 0, mean = 0, spread = 0;
    for (std::size_t i = 0; i < points.size(); ++i)
        s += w[i];
    for (std::size_t i = 0; i < points.size(); ++i)
        mean += w[i] * at(i) / s;
    for (std::size_t i = 0; i < points.size(); ++i)
        spread += w[i] * std::pow(at(i) - mean, 2);
    std::vector<double> out;
    for (std::size_t i = 0; i < points.size(); ++i)
        out.push_back(w[i] * (1 / s + std::pow(at(i) - mean, 2) / spread));
    return out;
}

void set(Fit& fit, const Two& two, double scale, const char* first, const char* second) {
    fit.covariance = {two.aa * scale, two.ab * scale, two.ab * scale, two.bb * scale};
    fit.parameters = {{first, two.a, std::sqrt(two.aa * scale)}, {second, two.b, std::sqrt(two.bb * scale)}};
}

/// Without stated doubts the residuals say how wide the parameters' errors are; with no point to spare nothing
/// does.
double variance_scale(const Fit& fit, bool weighted) {
    if (weighted) return 1;
    return fit.dof > 0 ? fit.residual_sd * fit.residual_sd : no_number;
}

} // namespace

Result<Fit> fit_york(std::span<const FitPoint> points) {
    std::vector<YorkPoint> york;
    for (const FitPoint& p : points)
        york.push_back({p.indication, p.reference, p.u_indication, p.u_reference, 0});
    COGNITUM_TRY(line, york_line(york));
    Fit fit;
    fit.model = Model::york;
    fit.parameters = {{"b0", line.intercept, line.u_intercept}, {"b1", line.slope, line.u_slope}};
    fit.covariance = {line.u_intercept * line.u_intercept, line.covariance, line.covariance,
                      line.u_slope * line.u_slope};
    add_figures(fit, points, false, straight_leverages(points, weights_of(points, line.slope), false));
    return fit;
}

Result<Fit> fit_logarithm(std::span<const FitPoint> points) {
    COGNITUM_CHECK(all_positive(points, "logarithm", false));
    std::vector<double> x, y;
    for (const FitPoint& p : points) {
        x.push_back(std::log(p.indication));
        y.push_back(p.reference);
    }
    std::vector<double> w = weights_of(points, 0); // its slope is no slope of the indication
    const bool weighted = !w.empty();
    if (!weighted) w.assign(points.size(), 1);
    Fit fit;
    fit.model = Model::log;
    const Two two = straight(x, y, w);
    if (!std::isfinite(two.b)) return failure(phrase("all indications are equal."));
    set(fit, two, 1, "b0", "b1");
    add_figures(fit, points, false, straight_leverages(points, w, true));
    set(fit, two, variance_scale(fit, weighted), "b0", "b1");
    return fit;
}

Result<Fit> fit_power(std::span<const FitPoint> points) {
    COGNITUM_CHECK(all_positive(points, "power", true));
    std::vector<double> lx, ly, w(points.size(), 1);
    for (const FitPoint& p : points) {
        lx.push_back(std::log(p.indication));
        ly.push_back(std::log(p.reference));
    }
    const Two start = straight(lx, ly, w);
    if (!std::isfinite(start.b)) return failure(phrase("all indications are equal."));
    double a = std::exp(start.a), b = start.b;
    const std::vector<double> stated = weights_of(points, 0);
    if (!stated.empty()) w = stated;
    // Gauss and Newton from the logarithms' solution: the errors are in the reference, not in its logarithm.
    double aa = 0, ab = 0, bb = 0;
    for (int i = 0; i < 200; ++i) {
        double ga = 0, gb = 0;
        aa = ab = bb = 0;
        for (std::size_t k = 0; k < points.size(); ++k) {
            const double f = std::pow(points[k].indication, b), da = f, db = a * f * lx[k];
            const double off = points[k].reference - a * f;
            aa += w[k] * da * da;
            ab += w[k] * da * db;
            bb += w[k] * db * db;
            ga += w[k] * da * off;
            gb += w[k] * db * off;
        }
        const double determinant = aa * bb - ab * ab;
        if (!(std::abs(determinant) > 0)) return failure(phrase("the power does not settle on these points."));
        const double step_a = (bb * ga - ab * gb) / determinant, step_b = (aa * gb - ab * ga) / determinant;
        a += step_a;
        b += step_b;
        if (!std::isfinite(a + b)) return failure(phrase("the power does not settle on these points."));
        if (std::abs(step_a) <= 1e-14 * std::abs(a) && std::abs(step_b) <= 1e-14 * (1 + std::abs(b))) break;
    }
    const double determinant = aa * bb - ab * ab;
    Fit fit;
    fit.model = Model::power;
    Two two{a, b, bb / determinant, -ab / determinant, aa / determinant};
    set(fit, two, 1, "a", "b");
    std::vector<double> leverages; // of the model made straight where it settled
    for (std::size_t k = 0; k < points.size(); ++k) {
        const double da = std::pow(points[k].indication, b), db = a * da * lx[k];
        leverages.push_back(w[k] * (two.aa * da * da + 2 * two.ab * da * db + two.bb * db * db));
    }
    add_figures(fit, points, false, leverages);
    set(fit, two, variance_scale(fit, !stated.empty()), "a", "b");
    return fit;
}

double through_knots(std::span<const std::pair<double, double>> knots, Model model, double x) {
    const auto above = std::upper_bound(knots.begin() + 1, knots.end() - 1, x,
                                        [](double v, const auto& knot) { return v < knot.first; });
    const auto i = static_cast<std::size_t>(above - knots.begin());
    const bool inside = x >= knots.front().first && x <= knots.back().first;
    if (model == Model::curve && inside) {
        // The curve between two knots depends on two more on either side.
        const std::size_t from = i < 3 ? 0 : i - 3, to = std::min(knots.size(), i + 3);
        std::vector<double> xs, ys;
        for (std::size_t k = from; k < to; ++k) {
            xs.push_back(knots[k].first);
            ys.push_back(knots[k].second);
        }
        return physics::steffen(xs, ys, x);
    }
    const auto& [x0, y0] = knots[i - 1];
    const auto& [x1, y1] = knots[i];
    return y0 + (x - x0) / (x1 - x0) * (y1 - y0);
}

Result<Fit> fit_through(std::span<const FitPoint> points, Model model) {
    std::vector<std::size_t> order(points.size());
    std::iota(order.begin(), order.end(), std::size_t(0));
    std::stable_sort(order.begin(), order.end(),
                     [&](std::size_t a, std::size_t b) { return points[a].indication < points[b].indication; });
    Fit fit;
    fit.model = model;
    std::vector<std::size_t> knot_of(points.size()), count;
    for (std::size_t i = 0; i < order.size();) { // points at one indication are one knot, their mean
        double sum = 0, u = 0;
        std::size_t n = 0;
        const double x = points[order[i]].indication;
        for (; i < order.size() && points[order[i]].indication == x; ++i, ++n) {
            const FitPoint& p = points[order[i]];
            sum += p.reference;
            u += p.u_reference * p.u_reference + p.u_indication * p.u_indication;
            knot_of[order[i]] = fit.knots.size();
        }
        const auto of = static_cast<double>(n);
        fit.knots.emplace_back(x, sum / of);
        fit.parameters.push_back({fmt::format("y({:g})", x), sum / of, u > 0 ? std::sqrt(u) / of : no_number});
        count.push_back(n);
    }
    add_figures(fit, points, false);
    for (std::size_t i = 0; i < points.size(); ++i) {
        const std::size_t k = knot_of[i];
        if (count[k] > 1) { // the others at that place
            const auto of = static_cast<double>(count[k]);
            fit.left_out.push_back(fit.residuals[i] * of / (of - 1));
        } else if (fit.knots.size() < 3) {
            fit.left_out.push_back(no_number);
        } else { // its neighbours alone
            const std::size_t from = k < 3 ? 0 : k - 3, to = std::min(fit.knots.size(), k + 4);
            std::vector<std::pair<double, double>> rest;
            for (std::size_t j = from; j < to; ++j)
                if (j != k) rest.push_back(fit.knots[j]);
            fit.left_out.push_back(points[i].reference - through_knots(rest, model, points[i].indication));
        }
    }
    return fit;
}

} // namespace cognitum::fits
