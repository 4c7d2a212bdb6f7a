// Polynomials by singular values in a scaled variable, and the robust line that points at outliers.
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/calibrate/fit_parts.h"
#include "core/calibrate/gsl.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::fits {

namespace {

/// Powers of the indication that are fitted; the offset's line has the slope one.
struct Powers {
    int first, last;
    [[nodiscard]] std::size_t count() const { return static_cast<std::size_t>(last - first + 1); }
};
Powers powers_of(Model model) {
    if (model == Model::offset) return {0, 0};
    if (model == Model::gain) return {1, 1};
    return {0, static_cast<int>(model) - static_cast<int>(Model::line) + 1};
}

/// Indications are fitted as t = (x − centre) / half, which lies in −1…1 for models with a constant.
void scale_for(std::span<const FitPoint> points, Model model, ScaledPolynomial& s) {
    const auto [low, high] = std::minmax_element(
        points.begin(), points.end(), [](const auto& a, const auto& b) { return a.indication < b.indication; });
    if (model != Model::gain && model != Model::offset) s.centre = (low->indication + high->indication) / 2;
    s.half = std::max(std::abs(high->indication - s.centre), std::abs(low->indication - s.centre));
    if (!(s.half > 0)) s.half = 1;
}

/// Row j, column k: coefficient of xʲ in ((x − centre)/half)ᵏ.
std::vector<long double> to_monomials(int terms, const ScaledPolynomial& s) {
    std::vector<long double> m(static_cast<std::size_t>(terms * terms), 0);
    for (int k = 0; k < terms; ++k) {
        long double binomial = 1;
        for (int j = k; j >= 0; --j) { // binomial = C(k, k − j)
            m[static_cast<std::size_t>(j * terms + k)] = binomial *
                                                         std::pow(static_cast<long double>(-s.centre), k - j) /
                                                         std::pow(static_cast<long double>(s.half), k);
            binomial = binomial * j / (k - j + 1);
        }
    }
    return m;
}

struct Design {
    gsl::Matrix X;
    gsl::Vector y;
};
Design design_of(std::span<const FitPoint> points, Model model, const ScaledPolynomial& s) {
    const Powers powers = powers_of(model);
    Design d{gsl::Matrix(gsl_matrix_alloc(points.size(), powers.count())),
             gsl::Vector(gsl_vector_alloc(points.size()))};
    for (std::size_t i = 0; i < points.size(); ++i) {
        const double t = (points[i].indication - s.centre) / s.half;
        for (std::size_t k = 0; k < powers.count(); ++k)
            gsl_matrix_set(d.X.get(), i, k, std::pow(t, powers.first + static_cast<int>(k)));
        gsl_vector_set(d.y.get(), i, points[i].reference - (model == Model::offset ? points[i].indication : 0));
    }
    return d;
}

/// Least squares in the scaled variable. The leverages are the squared rows of the singular vectors.
Result<std::vector<double>> solve(std::span<const FitPoint> points, Model model, ScaledPolynomial& s,
                                  std::span<const double> weights) {
    const auto n = points.size();
    const std::size_t p = powers_of(model).count();
    const gsl::QuietErrors quiet;
    const Design d = design_of(points, model, s);
    const gsl::Vector c(gsl_vector_alloc(p));
    const gsl::Matrix cov(gsl_matrix_alloc(p, p));
    const gsl::Multifit work(gsl_multifit_linear_alloc(n, p));
    double chi2 = 0;
    int status = GSL_SUCCESS;
    if (weights.empty()) {
        status = gsl_multifit_linear(d.X.get(), d.y.get(), c.get(), cov.get(), &chi2, work.get());
    } else {
        const gsl::Vector w(gsl_vector_alloc(n));
        std::copy(weights.begin(), weights.end(), w->data);
        status = gsl_multifit_wlinear(d.X.get(), w.get(), d.y.get(), c.get(), cov.get(), &chi2, work.get());
    }
    if (status != GSL_SUCCESS) return failure(phrase("the fit did not succeed: {}.", gsl_strerror(status)));
    s.first = powers_of(model).first;
    for (std::size_t a = 0; a < p; ++a) {
        s.c.push_back(gsl_vector_get(c.get(), a));
        for (std::size_t b = 0; b < p; ++b)
            s.covariance.push_back(gsl_matrix_get(cov.get(), a, b));
    }
    std::vector<double> leverages(n, 0);
    for (std::size_t i = 0; i < n; ++i)
        for (std::size_t k = 0; k < p; ++k)
            leverages[i] += std::pow(gsl_matrix_get(work->A, i, k), 2);
    return leverages;
}

/// From the scaled variable to b0, b1, …: parameters and their covariance.
void report(Fit& fit) {
    const ScaledPolynomial& s = fit.scaled;
    const auto p = static_cast<int>(s.c.size());
    const int terms = s.first + p;
    const auto m = to_monomials(terms, s);
    const auto at = [&](int j, int k) { // only fitted powers; a model without a constant is not centred
        return m[static_cast<std::size_t>((j + s.first) * terms + k + s.first)];
    };
    fit.covariance.assign(static_cast<std::size_t>(p * p), 0);
    for (int j = 0; j < p; ++j) {
        long double value = 0;
        for (int k = 0; k < p; ++k)
            value += at(j, k) * s.c[static_cast<std::size_t>(k)];
        for (int i = 0; i < p; ++i) {
            long double sum = 0;
            for (int a = 0; a < p; ++a)
                for (int b = 0; b < p; ++b)
                    sum += at(j, a) * s.covariance[static_cast<std::size_t>(a * p + b)] * at(i, b);
            fit.covariance[static_cast<std::size_t>(j * p + i)] = static_cast<double>(sum);
        }
        const double variance = fit.covariance[static_cast<std::size_t>(j * p + j)];
        fit.parameters.push_back(
            {fmt::format("b{}", j + s.first), static_cast<double>(value), std::sqrt(std::max(0.0, variance))});
    }
}

/// Slope of an unweighted line, for the effective variance (Orear 1982); one where there is none.
double rough_slope(std::span<const FitPoint> points) {
    ScaledPolynomial s;
    if (points.size() < 3 || different_indications(points) < 2) return 1;
    scale_for(points, Model::line, s);
    return solve(points, Model::line, s, {}) ? s.c[1] / s.half : 1;
}

} // namespace

Result<Fit> fit_polynomial(std::span<const FitPoint> points, Model model) {
    const bool stated = std::any_of(points.begin(), points.end(),
                                    [](const FitPoint& p) { return p.u_indication > 0 || p.u_reference > 0; });
    const std::vector<double> weights = stated ? weights_of(points, rough_slope(points)) : std::vector<double>{};
    Fit fit;
    fit.model = model;
    scale_for(points, model, fit.scaled);
    const auto leverages = solve(points, model, fit.scaled, weights);
    if (!leverages) return tl::make_unexpected(leverages.error());
    report(fit);
    add_figures(fit, points, model == Model::gain, *leverages);
    if (fit.dof == 0 && weights.empty()) {
        // The residuals say nothing of the spread here; an unknown is not a zero.
        for (Parameter& parameter : fit.parameters)
            parameter.standard_error = no_number;
        std::fill(fit.scaled.covariance.begin(), fit.scaled.covariance.end(), no_number);
    }
    return fit;
}

std::vector<double> robust_residuals(std::span<const FitPoint> points) {
    if (points.size() < 4 || different_indications(points) < 2) return {};
    const gsl::QuietErrors quiet;
    ScaledPolynomial s;
    scale_for(points, Model::line, s);
    const Design d = design_of(points, Model::line, s);
    const gsl::Vector c(gsl_vector_alloc(2));
    const gsl::Matrix cov(gsl_matrix_alloc(2, 2));
    const gsl::Robust work(gsl_multifit_robust_alloc(gsl_multifit_robust_huber, points.size(), 2));
    gsl_multifit_robust_maxiter(200, work.get());
    const int status = gsl_multifit_robust(d.X.get(), d.y.get(), c.get(), cov.get(), work.get());
    if (status != GSL_SUCCESS && status != GSL_EMAXITER) return {};
    std::vector<double> out;
    for (const FitPoint& p : points)
        out.push_back(p.reference - gsl_vector_get(c.get(), 0) -
                      gsl_vector_get(c.get(), 1) * (p.indication - s.centre) / s.half);
    return out;
}

} // namespace cognitum::fits
