#include "core/calibrate/fit.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/calibrate/fit_parts.h"
#include "core/uncertainty/budget.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <gsl/gsl_cdf.h>

namespace cognitum {

namespace {

struct ModelForm {
    Model model;
    const char *name, *words;
    int parameters;
};
constexpr ModelForm forms[] = {
    {Model::offset, "offset", for_people("offset"), 1},
    {Model::gain, "gain", for_people("gain"), 1},
    {Model::line, "line", for_people("straight line"), 2},
    {Model::quadratic, "quadratic", for_people("quadratic curve"), 3},
    {Model::cubic, "cubic", for_people("cubic curve"), 4},
    {Model::quartic, "quartic", for_people("quartic curve"), 5},
    {Model::quintic, "quintic", for_people("quintic curve"), 6},
    {Model::york, "york", for_people("line with doubt in both"), 2},
    {Model::piecewise, "piecewise", for_people("set of straight pieces"), 2},
    {Model::curve, "curve", for_people("smooth curve through the points"), 2},
    {Model::power, "power", for_people("power"), 2},
    {Model::log, "log", for_people("logarithm"), 2},
};
const ModelForm& form_of(Model model) {
    return forms[static_cast<std::size_t>(model)];
}

Result<void> fit_is_possible(std::span<const FitPoint> points, const ModelForm& form) {
    const auto p = static_cast<std::size_t>(form.parameters);
    if (points.size() < p)
        return failure(
            phrase("a {} needs at least {} points; there are {}.", phrase(form.words), p, points.size()));
    std::vector<double> x;
    for (const FitPoint& point : points) {
        if (!std::isfinite(point.indication) || !std::isfinite(point.reference))
            return failure(phrase("a point is not a finite number."));
        if (!(point.u_indication >= 0) || !(point.u_reference >= 0))
            return failure(phrase("a doubt is below zero or no number."), {},
                           phrase("A doubt is a width; leave it out if unknown."));
        x.push_back(point.indication);
    }
    std::sort(x.begin(), x.end());
    const std::size_t distinct = fits::different_indications(points);
    if (distinct < p)
        return failure(
            phrase("a {} needs {} different indications; there are {}.", phrase(form.words), p, distinct), {},
            phrase("Take points further apart."));
    if (form.model == Model::gain && x.front() == 0 && distinct == 1)
        return failure(phrase("a gain cannot be found at zero alone."));
    return {};
}

void cross_validate(Fit& fit) {
    const auto n = static_cast<double>(fit.left_out.size());
    double mean = 0, variance = 0;
    for (const double e : fit.left_out)
        mean += e * e / n;
    for (const double e : fit.left_out)
        variance += std::pow(e * e - mean, 2) / std::max(1.0, n - 1);
    fit.cross_validated_error = fit.left_out.size() < 2 ? no_number : std::sqrt(mean);
    // d√m = dm / 2√m
    fit.cross_validated_se = mean > 0 ? std::sqrt(variance / n) / (2 * std::sqrt(mean)) : mean == 0 ? 0 : no_number;
}

Result<Fit> fit_quietly(std::span<const FitPoint> points, Model model) {
    if (const auto possible = fit_is_possible(points, form_of(model)); !possible)
        return tl::make_unexpected(possible.error());
    auto fit = [&] {
        switch (model) {
        case Model::york: return fits::fit_york(points);
        case Model::piecewise:
        case Model::curve: return fits::fit_through(points, model);
        case Model::power: return fits::fit_power(points);
        case Model::log: return fits::fit_logarithm(points);
        default: return fits::fit_polynomial(points, model);
        }
    }();
    if (fit) cross_validate(*fit);
    return fit;
}

/// Root mean square of the references' doubts; zero where none is stated.
double reference_doubt(std::span<const FitPoint> points) {
    double sum = 0;
    for (const FitPoint& p : points)
        sum += p.u_reference * p.u_reference / static_cast<double>(points.size());
    return std::sqrt(sum);
}

/// 1/u² of each point; empty where not every point states its doubt.
std::vector<double> stated_weights(const Fit& fit, std::span<const FitPoint> points) {
    const double slope =
        points.size() > 1 && fit.model != Model::offset && fit.parameters.size() > 1 ? fit.parameters[1].value : 1;
    return fits::weights_of(points, slope);
}

bool states_doubts(const Fit& fit, std::span<const FitPoint> points) {
    return !stated_weights(fit, points).empty();
}

/// False where the stated doubts are too small for what the model leaves over (χ² at 95 %); true where not every
/// point states one.
bool is_explained(const Fit& fit, std::span<const FitPoint> points) {
    const std::vector<double> weights = stated_weights(fit, points);
    if (weights.empty() || fit.dof <= 0) return true;
    double chi2 = 0;
    for (std::size_t i = 0; i < points.size(); ++i)
        chi2 += weights[i] * fit.residuals[i] * fit.residuals[i];
    return chi2 <= gsl_cdf_chisq_Pinv(0.95, fit.dof);
}

} // namespace

std::string model_name(Model model) {
    return form_of(model).name;
}

std::string model_words(Model model) {
    return phrase(form_of(model).words);
}

std::optional<Model> find_model(std::string_view name) {
    for (const ModelForm& form : forms)
        if (name == form.name) return form.model;
    return {};
}

std::vector<std::string> model_names() {
    std::vector<std::string> out;
    for (const ModelForm& form : forms)
        out.emplace_back(form.name);
    return out;
}

int parameter_count(Model model) {
    return form_of(model).parameters;
}

double Fit::at(double x) const {
    switch (model) {
    case Model::york: return parameters[0].value + parameters[1].value * x;
    case Model::log: return parameters[0].value + parameters[1].value * std::log(x);
    case Model::power: return parameters[0].value * std::pow(x, parameters[1].value);
    case Model::piecewise:
    case Model::curve: return fits::through_knots(knots, model, x);
    default: break;
    }
    const double t = (x - scaled.centre) / scaled.half;
    double y = 0;
    for (std::size_t k = scaled.c.size(); k-- > 0;)
        y = y * t + scaled.c[k];
    return y * std::pow(t, scaled.first) + (model == Model::offset ? x : 0);
}

double Fit::u_at(double x) const {
    // By the slopes of the fitted value with respect to each parameter.
    std::vector<double> slopes;
    const std::vector<double>* cov = &covariance;
    switch (model) {
    case Model::york: slopes = {1, x}; break;
    case Model::log: slopes = {1, std::log(x)}; break;
    case Model::power: {
        const double da = std::pow(x, parameters[1].value);
        slopes = {da, parameters[0].value * da * std::log(x)};
        break;
    }
    case Model::piecewise:
    case Model::curve: { // of the two knots that it lies between, by their shares
        std::size_t i = 0;
        while (i + 2 < knots.size() && x > knots[i + 1].first)
            ++i;
        const double share = (x - knots[i].first) / (knots[i + 1].first - knots[i].first);
        return std::hypot((1 - share) * parameters[i].standard_error, share * parameters[i + 1].standard_error);
    }
    default:
        cov = &scaled.covariance;
        for (std::size_t k = 0; k < scaled.c.size(); ++k)
            slopes.push_back(std::pow((x - scaled.centre) / scaled.half, scaled.first + static_cast<int>(k)));
    }
    double variance = 0;
    for (std::size_t j = 0; j < slopes.size(); ++j)
        for (std::size_t k = 0; k < slopes.size(); ++k)
            variance += (*cov)[j * slopes.size() + k] * slopes[j] * slopes[k];
    return std::isnan(variance) ? no_number : std::sqrt(std::max(0.0, variance));
}

double Fit::prediction_band(double x) const {
    return dof > 0 ? coverage_factor(dof) * std::hypot(u_at(x), residual_sd) : no_number;
}

Result<Fit> fit_model(std::span<const FitPoint> points, Model model) {
    auto fit = fit_quietly(points, model);
    if (fit) fit->warnings = fit_warnings(*fit, points);
    return fit;
}

Result<ModelChoice> choose_model(std::span<const FitPoint> points, std::span<const Model> among,
                                 std::string_view unit) {
    ModelChoice choice;
    for (const Model model : among) {
        auto fit = fit_quietly(points, model);
        if (fit)
            choice.candidates.push_back(std::move(*fit));
        else if (model == Model::offset)
            return tl::make_unexpected(fit.error());
    }
    if (choice.candidates.empty()) return failure(phrase("there are too few points for any of these models."));
    const auto allowed = [&](const Fit& fit) {
        return points.size() >= fit.parameters.size() + 2 && std::isfinite(fit.cross_validated_error);
    };
    const auto warn = [&] {
        Fit& picked = choice.candidates[choice.chosen];
        picked.warnings = fit_warnings(picked, points);
    };
    const Fit* best = nullptr;
    for (const Fit& fit : choice.candidates)
        if (allowed(fit) && (!best || fit.cross_validated_error < best->cross_validated_error)) best = &fit;
    if (!best) {
        const Fit& only = choice.candidates[choice.chosen];
        choice.reason =
            counted(static_cast<long>(points.size()), "{} point can only carry the simplest correction.",
                    "{} points only carry the simplest correction.");
        if (!is_explained(only, points))
            choice.reason += phrase(" It leaves {}, more than the stated doubts allow: take the ends twice, and a "
                                    "line can be judged.",
                                    format_measure(only.max_abs_error, unit, 2));
        warn();
        return choice;
    }
    // A model that gains less than the references are in doubt gains nothing that they could prove.
    const double doubt = reference_doubt(points);
    const double enough = best->cross_validated_error + std::max(best->cross_validated_se, doubt);
    const auto simplest = [&](bool must_explain) {
        std::size_t chosen = choice.candidates.size();
        for (std::size_t i = 0; i < choice.candidates.size(); ++i) {
            const Fit& fit = choice.candidates[i];
            if (!allowed(fit) || fit.cross_validated_error > enough || (must_explain && !is_explained(fit, points)))
                continue;
            if (chosen == choice.candidates.size() ||
                fit.parameters.size() < choice.candidates[chosen].parameters.size())
                chosen = i;
        }
        return chosen;
    };
    std::size_t chosen = simplest(true);
    const bool unexplained = chosen == choice.candidates.size();
    if (unexplained) {
        chosen = simplest(false);
        // One point to spare is few, but stated doubts that rule a model out need no left-out errors to do so.
        for (std::size_t i = 0; i < choice.candidates.size(); ++i) {
            const Fit& fit = choice.candidates[i];
            if (fit.dof < 1 || !states_doubts(fit, points) || !is_explained(fit, points)) continue;
            choice.reason = phrase("the {} leaves {}, more than the stated doubts allow; the {} leaves {}. Take "
                                   "the ends twice: one point to spare checks little.",
                                   model_words(choice.candidates[chosen].model),
                                   format_measure(choice.candidates[chosen].max_abs_error, unit, 2),
                                   model_words(fit.model), format_measure(fit.max_abs_error, unit, 2));
            choice.chosen = i;
            warn();
            return choice;
        }
    }
    choice.chosen = chosen;
    const Fit& picked = choice.candidates[chosen];
    const double gain = picked.cross_validated_error - best->cross_validated_error;
    const bool below_doubt = gain < doubt;
    choice.reason =
        &picked == best
            ? phrase("the {} has the smallest left-out error ({}).", model_words(picked.model),
                     format_measure(picked.cross_validated_error, unit, 2))
            : phrase("the {} is enough: the {} gains {}, less than {} ({}).", model_words(picked.model),
                     model_words(best->model), format_measure(gain, unit, 2),
                     below_doubt ? phrase("the doubt of the references") : phrase("its own uncertainty"),
                     format_measure(below_doubt ? doubt : best->cross_validated_se, unit, 2));
    if (unexplained) choice.reason += phrase(" What is left over is more than the stated doubts allow.");
    warn();
    return choice;
}

namespace fits {

void add_figures(Fit& fit, std::span<const FitPoint> points, bool against_zero, std::span<const double> leverages) {
    fit.residuals.clear();
    fit.max_abs_error = 0;
    fit.dof = static_cast<int>(points.size()) - static_cast<int>(fit.parameters.size());
    double mean = 0, rss = 0, tss = 0;
    for (const FitPoint& p : points)
        mean += against_zero ? 0 : p.reference / static_cast<double>(points.size());
    for (const FitPoint& p : points) {
        const double r = p.reference - fit.at(p.indication);
        fit.residuals.push_back(r);
        rss += r * r;
        tss += (p.reference - mean) * (p.reference - mean);
        fit.max_abs_error = std::max(fit.max_abs_error, std::abs(r));
    }
    fit.residual_sd = fit.dof > 0 ? std::sqrt(rss / fit.dof) : no_number;
    fit.r_squared = tss > 0 ? 1 - rss / tss : no_number;
    if (leverages.empty()) return;
    fit.left_out.clear();
    for (std::size_t i = 0; i < points.size(); ++i) {
        const double room = 1 - leverages[i];
        fit.left_out.push_back(room > 1e-9 ? fit.residuals[i] / room : no_number);
    }
}

std::size_t different_indications(std::span<const FitPoint> points) {
    std::vector<double> x;
    double largest = 0;
    for (const FitPoint& p : points) {
        x.push_back(p.indication);
        largest = std::max(largest, std::abs(p.indication));
    }
    std::sort(x.begin(), x.end());
    std::size_t n = x.empty() ? 0 : 1;
    for (std::size_t i = 1; i < x.size(); ++i)
        n += x[i] - x[i - 1] > 1e-9 * largest;
    return n;
}

std::vector<double> weights_of(std::span<const FitPoint> points, double slope) {
    std::vector<double> w;
    for (const FitPoint& p : points) {
        const double variance = p.u_reference * p.u_reference + slope * slope * p.u_indication * p.u_indication;
        if (!(variance > 0)) return {}; // a point without doubt would take all weight: none is weighted then
        w.push_back(1 / variance);
    }
    return w;
}

} // namespace fits

} // namespace cognitum
