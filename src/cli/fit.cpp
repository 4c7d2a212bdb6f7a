#include "cli/cli.h"

#include "core/calibrate/fit.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <fmt/ranges.h>

namespace cognitum::cli {

namespace {

// Pieces and curves go through every point, so they are never recommended unasked.
constexpr Model all_models[] = {Model::offset,  Model::gain,    Model::line,  Model::quadratic, Model::cubic,
                                Model::quartic, Model::quintic, Model::power, Model::log,       Model::york};

Result<std::vector<FitPoint>> read_points(const std::string& path) {
    COGNITUM_TRY(table, read_table(path));
    const TextColumn *x = table.find("indication"), *y = table.find("reference"), *ux = table.find("u_indication"),
                     *uy = table.find("u_reference"), *run = table.find("run");
    if (!x || !y)
        return failure("the header needs the columns indication and reference.", path + ":1",
                       "Write: indication,reference");
    std::vector<FitPoint> points;
    for (std::size_t i = 0; i < table.rows(); ++i) {
        FitPoint p;
        for (const auto& [column, into] : {std::pair{x, &p.indication}, std::pair{y, &p.reference},
                                           std::pair{ux, &p.u_indication}, std::pair{uy, &p.u_reference}}) {
            if (!column || (column->cells[i].empty() && column != x && column != y)) continue;
            COGNITUM_TRY(value, number_of(table, *column, i));
            *into = value;
        }
        if (!std::isfinite(p.indication + p.reference + p.u_indication + p.u_reference) || p.u_indication < 0 ||
            p.u_reference < 0)
            return failure("text or a negative doubt where a number belongs.", table.where(i), "Mend that line.");
        for (const TextColumn* doubt : {ux, uy})
            if (doubt && !doubt->cells[i].empty() && (doubt == ux ? p.u_indication : p.u_reference) == 0)
                return failure(fmt::format("{} is zero: nothing is known without doubt.", doubt->name),
                               table.where(i),
                               "Write the standard uncertainty, or leave the cell empty where it is not known.");
        if (run && !run->cells[i].empty() && run->cells[i] != "up" && run->cells[i] != "down")
            return failure(fmt::format("\"{}\" is no run.", run->cells[i]), table.where(i),
                           "Write up, down or nothing.");
        if (run) p.run = run->cells[i] == "up" ? 1 : run->cells[i] == "down" ? -1 : 0;
        points.push_back(p);
    }
    if (points.empty()) return failure("there are no points.", path, "Add lines below the header.");
    const bool all_equal = std::all_of(points.begin(), points.end(),
                                       [&](const FitPoint& p) { return p.indication == points[0].indication; });
    if (points.size() > 1 && all_equal)
        return failure("all indications are equal.", path, "Take points at different places of the range.");
    return points;
}

Json fit_json(const Fit& fit) {
    Json parameters = Json::array();
    for (const Parameter& p : fit.parameters)
        parameters.push_back(
            {{"name", p.name}, {"value", p.value}, {"standard_error", number_or_null(p.standard_error)}});
    return {{"model", model_name(fit.model)},
            {"parameters", parameters},
            {"residual_sd", number_or_null(fit.residual_sd)},
            {"r_squared", number_or_null(fit.r_squared)},
            {"max_abs_error", fit.max_abs_error},
            {"cross_validated_error", number_or_null(fit.cross_validated_error)}};
}

void print_for_person(const Fit& fit, const std::string& verdict) {
    std::puts(fmt::format("model {}", model_name(fit.model)).c_str());
    for (const Parameter& p : fit.parameters)
        std::puts(
            fmt::format("  {} = {} ± {}", p.name, format_constant(p.value, 8), format_constant(p.standard_error, 2))
                .c_str());
    std::puts(fmt::format("  residual sd {}, largest error {}, left-out error {}",
                          format_constant(fit.residual_sd, 3), format_constant(fit.max_abs_error, 3),
                          format_constant(fit.cross_validated_error, 3))
                  .c_str());
    std::puts(verdict.c_str());
    for (const std::string& warning : fit.warnings)
        std::puts(("warning: " + warning).c_str());
}

} // namespace

int run_fit(const std::string& path, const std::string& wanted, bool json) {
    const auto model = find_model(wanted);
    if (!model && wanted != "auto")
        return complain(
            {fmt::format("\"{}\" is no model; known are {} and auto.", wanted, fmt::join(model_names(), ", ")),
             "--model", ""},
            usage);
    const auto points = read_points(path);
    if (!points) return complain(points.error());
    const auto choice = choose_model(*points, all_models);
    Fit fit;
    std::string verdict;
    if (model) {
        auto one = fit_model(*points, *model);
        if (!one) {
            one.error().where = path;
            return complain(one.error());
        }
        fit = std::move(*one);
        verdict = fmt::format("fitted as asked: {}.", wanted);
        if (choice) verdict += fmt::format(" By left-out errors, {}", choice->reason);
    } else {
        if (!choice) {
            Error error = choice.error();
            error.where = path;
            return complain(error);
        }
        fit = choice->candidates[choice->chosen];
        verdict = choice->reason;
    }
    if (!json) {
        print_for_person(fit, verdict);
        return done;
    }
    Json out = fit_json(fit);
    out["candidates"] = Json::array();
    if (choice)
        for (const Fit& candidate : choice->candidates)
            out["candidates"].push_back(fit_json(candidate));
    out["verdict"] = verdict;
    out["warnings"] = fit.warnings;
    print_json(out);
    return done;
}

} // namespace cognitum::cli
