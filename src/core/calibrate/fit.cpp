#include "core/calibrate/fit.h"

#include "core/calibrate/gsl.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace cognitum {

namespace {

constexpr double nan = std::numeric_limits<double>::quiet_NaN();

struct ModelForm {
    Model model;
    const char* name;
    int first, last; ///< powers of the indication that are fitted
};
constexpr ModelForm forms[] = {
    {Model::offset, "offset", 0, 0},       {Model::gain, "gain", 1, 1},   {Model::line, "line", 0, 1},
    {Model::quadratic, "quadratic", 0, 2}, {Model::cubic, "cubic", 0, 3}, {Model::quartic, "quartic", 0, 4},
    {Model::quintic, "quintic", 0, 5},
};
const ModelForm& form_of(Model model) {
    return forms[static_cast<std::size_t>(model)];
}

/// Indications are fitted as t = (x − centre) / half, which lies in −1…1 for models with a constant.
struct Scaling {
    double centre = 0, half = 1;
};

Scaling scaling_for(std::span<const FitPoint> points, Model model) {
    const auto [low, high] = std::minmax_element(
        points.begin(), points.end(), [](const auto& a, const auto& b) { return a.indication < b.indication; });
    Scaling s;
    if (model != Model::gain && model != Model::offset) s.centre = (low->indication + high->indication) / 2;
    s.half = std::max(std::abs(high->indication - s.centre), std::abs(low->indication - s.centre));
    if (!(s.half > 0)) s.half = 1;
    return s;
}

/// Row j, column k: coefficient of xʲ in ((x − centre)/half)ᵏ.
std::vector<long double> to_monomials(int terms, Scaling s) {
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

struct Raw {
    std::vector<double> c, cov;
};

/// Least squares in the scaled variable.
Result<Raw> solve(std::span<const FitPoint> points, const ModelForm& form, Scaling s,
                  std::span<const double> weights) {
    const auto n = points.size();
    const auto p = static_cast<std::size_t>(form.last - form.first + 1);
    const gsl::QuietErrors quiet;
    const gsl::Matrix X(gsl_matrix_alloc(n, p));
    const gsl::Vector y(gsl_vector_alloc(n));
    const gsl::Vector w(gsl_vector_alloc(n));
    const gsl::Vector c(gsl_vector_alloc(p));
    const gsl::Matrix cov(gsl_matrix_alloc(p, p));
    const gsl::Multifit work(gsl_multifit_linear_alloc(n, p));
    for (std::size_t i = 0; i < n; ++i) {
        const double t = (points[i].indication - s.centre) / s.half;
        for (std::size_t k = 0; k < p; ++k)
            gsl_matrix_set(X.get(), i, k, std::pow(t, form.first + static_cast<int>(k)));
        const double shift = form.model == Model::offset ? points[i].indication : 0;
        gsl_vector_set(y.get(), i, points[i].reference - shift);
        gsl_vector_set(w.get(), i, weights.empty() ? 1 : weights[i]);
    }
    double chi2 = 0;
    const int status = weights.empty()
                           ? gsl_multifit_linear(X.get(), y.get(), c.get(), cov.get(), &chi2, work.get())
                           : gsl_multifit_wlinear(X.get(), w.get(), y.get(), c.get(), cov.get(), &chi2, work.get());
    if (status != GSL_SUCCESS)
        return failure("the fit did not succeed: " + std::string(gsl_strerror(status)) + ".");
    Raw raw;
    for (std::size_t a = 0; a < p; ++a) {
        raw.c.push_back(gsl_vector_get(c.get(), a));
        for (std::size_t b = 0; b < p; ++b)
            raw.cov.push_back(gsl_matrix_get(cov.get(), a, b));
    }
    return raw;
}

/// From the scaled variable to b0, b1, …: parameters and their covariance.
void report(Fit& fit, const Raw& raw, const ModelForm& form, Scaling s) {
    const int p = form.last - form.first + 1;
    const int terms = form.last + 1;
    const auto m = to_monomials(terms, s);
    const auto at = [&](int j, int k) { // only fitted powers; a model without a constant is not centred
        return m[static_cast<std::size_t>((j + form.first) * terms + k + form.first)];
    };
    fit.covariance.assign(static_cast<std::size_t>(p * p), 0);
    for (int j = 0; j < p; ++j) {
        long double value = 0;
        for (int k = 0; k < p; ++k)
            value += at(j, k) * raw.c[static_cast<std::size_t>(k)];
        for (int i = 0; i < p; ++i) {
            long double sum = 0;
            for (int a = 0; a < p; ++a)
                for (int b = 0; b < p; ++b)
                    sum += at(j, a) * raw.cov[static_cast<std::size_t>(a * p + b)] * at(i, b);
            fit.covariance[static_cast<std::size_t>(j * p + i)] = static_cast<double>(sum);
        }
        const double variance = fit.covariance[static_cast<std::size_t>(j * p + j)];
        fit.parameters.push_back(
            {fmt::format("b{}", j + form.first), static_cast<double>(value), std::sqrt(std::max(0.0, variance))});
    }
}

std::vector<double> weights_of(std::span<const FitPoint> points) {
    const bool any = std::any_of(points.begin(), points.end(),
                                 [](const FitPoint& p) { return p.u_indication > 0 || p.u_reference > 0; });
    if (!any) return {};
    // Effective variance with the slope of an unweighted line (Orear 1982); a correction's slope is near one.
    double slope = 1;
    if (points.size() > 2)
        if (const auto raw = solve(points, form_of(Model::line), scaling_for(points, Model::line), {}))
            slope = raw->c[1] / scaling_for(points, Model::line).half;
    std::vector<double> w;
    for (const FitPoint& p : points) {
        const double variance = p.u_reference * p.u_reference + slope * slope * p.u_indication * p.u_indication;
        if (!(variance > 0)) return {}; // a point without doubt would take all weight: none is weighted then
        w.push_back(1 / variance);
    }
    return w;
}

Result<void> fit_is_possible(std::span<const FitPoint> points, const ModelForm& form) {
    const auto p = static_cast<std::size_t>(form.last - form.first + 1);
    if (points.size() < p)
        return failure(fmt::format("a {} needs at least {} points; there are {}.", form.name, p, points.size()));
    std::vector<double> x;
    for (const FitPoint& point : points) {
        if (!std::isfinite(point.indication) || !std::isfinite(point.reference))
            return failure("a point is not a finite number.");
        x.push_back(point.indication);
    }
    std::sort(x.begin(), x.end());
    const auto distinct = static_cast<std::size_t>(std::unique(x.begin(), x.end()) - x.begin());
    if (distinct < p)
        return failure(fmt::format("a {} needs {} different indications; there are {}.", form.name, p, distinct),
                       {}, "Take points further apart.");
    if (form.model == Model::gain && x.front() == 0 && distinct == 1)
        return failure("a gain cannot be found at zero alone.");
    return {};
}

/// The fit without leave-one-out.
Result<Fit> fit_once(std::span<const FitPoint> points, Model model) {
    const ModelForm& form = form_of(model);
    if (const auto possible = fit_is_possible(points, form); !possible)
        return tl::make_unexpected(possible.error());
    const Scaling s = scaling_for(points, model);
    const std::vector<double> weights = weights_of(points);
    auto raw = solve(points, form, s, weights);
    if (!raw) return tl::make_unexpected(raw.error());
    Fit fit;
    fit.model = model;
    report(fit, *raw, form, s);
    const auto n = points.size();
    const std::size_t p = fit.parameters.size();
    fit.dof = static_cast<int>(n - p);
    double rss = 0;
    double mean = 0;
    for (const FitPoint& point : points)
        mean += point.reference / static_cast<double>(n);
    if (model == Model::gain) mean = 0; // a model without a constant is compared with zero
    double tss = 0;
    for (const FitPoint& point : points) {
        // In the scaled variable, where a hard polynomial keeps its digits.
        const double t = (point.indication - s.centre) / s.half;
        double fitted = model == Model::offset ? point.indication : 0;
        for (std::size_t k = 0; k < p; ++k)
            fitted += raw->c[k] * std::pow(t, form.first + static_cast<int>(k));
        const double r = point.reference - fitted;
        fit.residuals.push_back(r);
        rss += r * r;
        tss += (point.reference - mean) * (point.reference - mean);
        fit.max_abs_error = std::max(fit.max_abs_error, std::abs(r));
    }
    fit.residual_sd = fit.dof > 0 ? std::sqrt(rss / fit.dof) : nan;
    fit.r_squared = tss > 0 ? 1 - rss / tss : nan;
    if (fit.dof == 0 && weights.empty()) {
        // The residuals say nothing of the spread here; an unknown is not a zero.
        for (Parameter& parameter : fit.parameters)
            parameter.standard_error = nan;
    }
    return fit;
}

void leave_one_out(Fit& fit, std::span<const FitPoint> points) {
    std::vector<double> squares;
    std::vector<FitPoint> rest(points.begin(), points.end());
    for (std::size_t i = 0; i < points.size(); ++i) {
        rest.erase(rest.begin() + static_cast<std::ptrdiff_t>(i));
        const auto without = fit_once(rest, fit.model);
        rest.insert(rest.begin() + static_cast<std::ptrdiff_t>(i), points[i]);
        if (!without) {
            fit.cross_validated_error = fit.cross_validated_se = nan;
            return;
        }
        squares.push_back(std::pow(points[i].reference - without->at(points[i].indication), 2));
    }
    const auto n = static_cast<double>(squares.size());
    double mean = 0;
    for (const double s : squares)
        mean += s / n;
    double variance = 0;
    for (const double s : squares)
        variance += (s - mean) * (s - mean) / std::max(1.0, n - 1);
    fit.cross_validated_error = std::sqrt(mean);
    // d√m = dm / 2√m
    fit.cross_validated_se = mean > 0 ? std::sqrt(variance / n) / (2 * std::sqrt(mean)) : 0;
}

void add_warnings(Fit& fit, std::span<const FitPoint> points) {
    const std::size_t p = fit.parameters.size();
    if (points.size() < p + 2)
        fit.warnings.push_back(
            fmt::format("too few points: {} for {} parameters leave {} to check with; take at least {}.",
                        points.size(), p, points.size() - p, p + 2));
    std::vector<double> x;
    for (const FitPoint& point : points)
        x.push_back(point.indication);
    std::sort(x.begin(), x.end());
    const double span = x.back() - x.front();
    const double middle = x[x.size() / 2];
    const auto near =
        std::count_if(x.begin(), x.end(), [&](double v) { return std::abs(v - middle) < 0.1 * span; });
    if (points.size() >= 4 && span > 0 && near > static_cast<std::ptrdiff_t>(3 * points.size() / 4))
        fit.warnings.push_back("clustered points: most lie together; spread them over the range that you use.");
}

} // namespace

std::string model_name(Model model) {
    return form_of(model).name;
}

std::optional<Model> find_model(std::string_view name) {
    for (const ModelForm& form : forms)
        if (name == form.name) return form.model;
    return {};
}

int parameter_count(Model model) {
    return form_of(model).last - form_of(model).first + 1;
}

double Fit::at(double x) const {
    double y = model == Model::offset ? x : 0;
    const int first = form_of(model).first;
    for (std::size_t k = parameters.size(); k-- > 0;)
        y += parameters[k].value * std::pow(x, first + static_cast<int>(k));
    return y;
}

double Fit::u_at(double x) const {
    const int first = form_of(model).first;
    const std::size_t p = parameters.size();
    double variance = 0;
    for (std::size_t j = 0; j < p; ++j)
        for (std::size_t k = 0; k < p; ++k)
            variance += covariance[j * p + k] * std::pow(x, 2 * first + static_cast<int>(j + k));
    return std::sqrt(std::max(0.0, variance));
}

Result<Fit> fit_model(std::span<const FitPoint> points, Model model) {
    auto fit = fit_once(points, model);
    if (!fit) return fit;
    leave_one_out(*fit, points);
    add_warnings(*fit, points);
    return fit;
}

Result<ModelChoice> choose_model(std::span<const FitPoint> points, std::span<const Model> among) {
    ModelChoice choice;
    for (const Model model : among) {
        auto fit = fit_model(points, model);
        if (fit)
            choice.candidates.push_back(std::move(*fit));
        else if (model == Model::offset)
            return tl::make_unexpected(fit.error());
    }
    if (choice.candidates.empty()) return failure("there are too few points for any of these models.");
    const auto allowed = [&](const Fit& fit) {
        return points.size() >= fit.parameters.size() + 2 && std::isfinite(fit.cross_validated_error);
    };
    const Fit* best = nullptr;
    for (const Fit& fit : choice.candidates)
        if (allowed(fit) && (!best || fit.cross_validated_error < best->cross_validated_error)) best = &fit;
    if (!best) {
        choice.reason = fmt::format("{} points only carry the simplest correction.", points.size());
        return choice;
    }
    const double enough = best->cross_validated_error + best->cross_validated_se;
    std::size_t chosen = choice.candidates.size();
    for (std::size_t i = 0; i < choice.candidates.size(); ++i) {
        const Fit& fit = choice.candidates[i];
        if (!allowed(fit) || fit.cross_validated_error > enough) continue;
        if (chosen == choice.candidates.size() ||
            fit.parameters.size() < choice.candidates[chosen].parameters.size())
            chosen = i;
    }
    choice.chosen = chosen;
    const Fit& picked = choice.candidates[chosen];
    const double gain = picked.cross_validated_error - best->cross_validated_error;
    choice.reason = &picked == best
                        ? fmt::format("the {} has the smallest left-out error ({}).", model_name(picked.model),
                                      format_constant(picked.cross_validated_error, 2))
                        : fmt::format("the {} is enough: the {} gains {}, less than its own uncertainty ({}).",
                                      model_name(picked.model), model_name(best->model), format_constant(gain, 2),
                                      format_constant(best->cross_validated_se, 2));
    return choice;
}

} // namespace cognitum
