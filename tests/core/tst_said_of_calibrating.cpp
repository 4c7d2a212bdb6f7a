// References, gates, fits and recommended models over sets of points as they come from a bench, whole: every number
// and sentence beside what was read by a person and kept in tests/fixtures/said.
#include "core/calibrate/fit.h"
#include "core/calibrate/gate.h"
#include "core/calibrate/recipe.h"
#include "core/calibrate/references.h"
#include "core/units/quantity_kind.h"
#include "support/run_tests.h"
#include "support/said.h"

#include <cmath>
#include <functional>
#include <map>

using namespace cognitum;
using test::add_said;
using test::catalog;
using test::five_digits;

namespace {

void add_value(std::string& out, const ReferenceKind& kind, const std::map<std::string, double>& inputs,
               const char* where) {
    const auto value = reference_value(kind, inputs);
    add_said(out, where,
             value ? fmt::format("{} ± {} {}", five_digits(value->value), five_digits(value->u), kind.unit)
                   : value.error().text());
}

/// Each input a little and far from its first value, the others first.
std::string references() {
    std::string out;
    for (const ReferenceKind& kind : reference_kinds()) {
        out += kind.id + "\n";
        add_said(out, "title", kind.title);
        add_said(out, "how", kind.how);
        add_said(out, "caution", kind.caution);
        add_said(out, "source", kind.source);
        if (kind.typed()) continue;
        std::map<std::string, double> usual;
        for (const ReferenceInput& input : kind.inputs)
            usual[input.key] = std::isnan(input.value) ? 10 : input.value;
        add_value(out, kind, usual, "first");
        for (const ReferenceInput& input : kind.inputs) {
            add_said(out, "input",
                     fmt::format("{} {} {} ± {}", input.key, input.label, input.unit, five_digits(input.u)));
            for (const double factor : {0.0, 0.9, 1.1, 3.0, -1.0, 1000.0}) {
                std::map<std::string, double> other = usual;
                other[input.key] = usual[input.key] * factor;
                add_value(out, kind, other, five_digits(other[input.key]).c_str());
            }
        }
        for (const double altitude : {0.0, 1200.0})
            add_value(out, reference_at(kind, altitude), {}, altitude > 0 ? "at 1200 m" : "at the sea");
        add_value(out, kind, {{"no such input", 1}}, "other");
    }
    return out;
}

struct PointSet {
    const char* name;
    std::vector<FitPoint> points;
};

FitPoint fit_point(double indication, double reference, double u_indication, double u_reference) {
    FitPoint out;
    out.indication = indication;
    out.reference = reference;
    out.u_indication = u_indication;
    out.u_reference = u_reference;
    return out;
}

/// What a bench gives: a shift, a slope, a bend, a step, a curve, scatter, one slip, points at one place.
std::vector<PointSet> point_sets() {
    std::vector<PointSet> out;
    const auto set = [&](const char* name, int count, double low, double high, const auto& error, double u_i,
                         double u_r) {
        PointSet made{name, {}};
        for (int i = 0; i < count; ++i) {
            const double x = count > 1 ? low + (high - low) * i / (count - 1) : low;
            made.points.push_back(fit_point(x, x + error(x, i), u_i, u_r));
        }
        out.push_back(made);
    };
    const auto scatter = [](int i) { return 0.01 * ((i * 7 % 5) - 2); };
    set(
        "one point", 1, 20, 20, [](double, int) { return -0.4; }, 0.02, 0.05);
    set(
        "two points", 2, 0, 100, [](double x, int) { return -0.4 + 0.002 * x; }, 0.02, 0.05);
    set(
        "three points", 3, 0, 100, [&](double x, int i) { return -0.4 + 0.002 * x + scatter(i); }, 0.02, 0.05);
    set(
        "a shift", 8, 0, 100, [&](double, int i) { return -0.4 + scatter(i); }, 0.02, 0.05);
    set(
        "nothing", 8, 0, 100, [&](double, int i) { return scatter(i); }, 0.02, 0.05);
    set(
        "a slope", 8, 0, 100, [&](double x, int i) { return 0.02 * x + scatter(i); }, 0.02, 0.05);
    set(
        "a bend", 12, 0, 100, [&](double x, int i) { return 0.0005 * x * x + scatter(i); }, 0.02, 0.05);
    set(
        "an S", 16, 0, 100, [&](double x, int i) { return 2e-5 * (x - 20) * (x - 50) * (x - 90) + scatter(i); },
        0.02, 0.05);
    set(
        "a kink", 12, 0, 100, [&](double x, int i) { return (x < 60 ? 0 : 0.05 * (x - 60)) + scatter(i); }, 0.02,
        0.05);
    set(
        "a power", 10, 1, 100, [&](double x, int i) { return std::pow(x, 1.1) - x + scatter(i); }, 0.02, 0.05);
    set(
        "a steep rise", 10, 0, 10, [&](double x, int i) { return std::exp(0.3 * x) - x + scatter(i); }, 0.02, 0.05);
    set(
        "one slip", 9, 0, 100, [&](double x, int i) { return 0.01 * x + scatter(i) + (i == 4 ? 3 : 0); }, 0.02,
        0.05);
    set(
        "wide scatter", 10, 0, 100, [&](double, int i) { return 40 * scatter(i); }, 0.02, 0.05);
    set(
        "no doubts", 6, 0, 100, [&](double x, int i) { return 0.01 * x + scatter(i); }, 0, 0);
    set(
        "a power without doubts", 8, 1, 100, [&](double x, int i) { return std::pow(x, 1.1) - x + scatter(i); }, 0,
        0);
    set(
        "a kink without doubts", 12, 1, 100,
        [&](double x, int i) { return (x < 60 ? 0 : 0.05 * (x - 60)) + scatter(i); }, 0, 0);
    set(
        "one place", 4, 50, 50, [&](double, int i) { return scatter(i); }, 0.02, 0.05);
    set(
        "a small place", 5, 50, 50.5, [&](double, int i) { return 0.2 + scatter(i); }, 0.02, 0.05);
    set(
        "below zero", 7, -40, -10, [&](double x, int i) { return 0.03 * x + scatter(i); }, 0.02, 0.05);
    return out;
}

const Model all_models[] = {Model::offset,    Model::gain,    Model::line,    Model::quadratic,
                            Model::cubic,     Model::quartic, Model::quintic, Model::york,
                            Model::piecewise, Model::curve,   Model::power,   Model::log};

std::string fits() {
    std::string out;
    for (const PointSet& set : point_sets()) {
        out += std::string(set.name) + "\n";
        for (const Model model : all_models) {
            const auto fit = fit_model(set.points, model);
            if (!fit) {
                add_said(out, model_name(model).c_str(), fit.error().text());
                continue;
            }
            std::string said;
            for (const Parameter& p : fit->parameters)
                said += fmt::format("{} {} ± {}, ", p.name, five_digits(p.value), five_digits(p.standard_error));
            const double x = set.points.front().indication + 7.5;
            said +=
                fmt::format("r² {}, sd {}, worst {}, left out {} ± {}, dof {}; at {}: {} ± {}, band {}",
                            five_digits(fit->r_squared), five_digits(fit->residual_sd),
                            five_digits(fit->max_abs_error), five_digits(fit->cross_validated_error),
                            five_digits(fit->cross_validated_se), fit->dof, five_digits(x), five_digits(fit->at(x)),
                            five_digits(fit->u_at(x)), five_digits(fit->prediction_band(x)));
            add_said(out, model_name(model).c_str(), said);
            for (const std::string& warning : fit->warnings)
                add_said(out, "warns", warning);
        }
        if (const auto choice = choose_model(set.points, all_models, "°C"))
            add_said(out, "chosen", model_name(choice->candidates[choice->chosen].model) + ": " + choice->reason);
        else
            add_said(out, "chosen", choice.error().text());
    }
    return out;
}

} // namespace

class TestSaidOfCalibrating : public QObject {
    Q_OBJECT

  private slots:
    void referencesThatComputeThemselves() { test::compare_said("references", references()); }

    void fitsOfPoints() { test::compare_said("fits", fits()); }

    /// Few points and many, of several shapes, scattered, bunched, risen and fallen: which models can be fitted,
    /// and what is warned of.
    void warningsOfFits() {
        std::string out;
        const std::pair<const char*, std::function<double(double, int)>> shapes[] = {
            {"straight", [](double, int i) { return 0.1 * ((i * 7 % 5) - 2); }},
            {"bent", [](double x, int i) { return 0.002 * x * x + 0.01 * ((i * 3 % 4) - 1.5); }},
            {"one off", [](double, int i) { return 0.1 * ((i * 7 % 5) - 2) + (i == 1 ? 4 : 0); }},
            {"exact", [](double, int) { return 0.5; }}};
        for (const auto& [name, error] : shapes)
            for (const bool bunched : {false, true})
                for (const bool there_and_back : {false, true})
                    for (const int n : {1, 2, 3, 4, 5, 6, 7, 8, 9, 12}) {
                        std::vector<FitPoint> points;
                        for (int i = 0; i < n; ++i) {
                            const double share = n > 1 ? i / (n - 1.0) : 0;
                            const double x = bunched && i > 0 && i < n - 1 ? 48 + 4 * share : 1 + 99 * share;
                            points.push_back(fit_point(x, 3 + 1.01 * x + error(x, i), 0.02, 0.05));
                            if (there_and_back) {
                                points.back().run = i % 2 ? 1 : -1;
                                points.back().reference += i % 2 ? 0.4 : 0;
                            }
                        }
                        out += fmt::format("{}{}{}, {}\n", name, bunched ? ", bunched" : "",
                                           there_and_back ? ", there and back" : "", n);
                        std::map<std::string, std::string> sentences; // and by which models
                        for (const Model model : all_models) {
                            const auto fit = fit_model(points, model);
                            if (!fit) sentences[fit.error().text()] += " " + model_name(model);
                            if (fit)
                                for (const std::string& warning : fit->warnings)
                                    sentences[warning] += " " + model_name(model);
                        }
                        for (const auto& [sentence, models] : sentences)
                            add_said(out, models.substr(1).c_str(),
                                     sentence.substr(0, 70)); // "fits" has them whole
                    }
        test::compare_said("fit_warnings", out);
    }

    void typedReferences() {
        std::string out;
        for (const QuantityKind& kind : quantity_kinds()) {
            Quantity quantity;
            quantity.kind = kind.id;
            quantity.unit = kind.units[0];
            quantity.low = kind.low;
            quantity.high = kind.high;
            quantity.accuracy = kind.accuracy;
            out += kind.id + "\n";
            const double middle = (kind.low + kind.high) / 2;
            for (const double value : {kind.low, middle, kind.high, -300.0, -1.0, 0.0, 101.0, 1e6,
                                       1.8 * middle + 32, middle / 1000, middle * 1000, std::nan("")}) {
                const auto checked = check_reference(quantity, value, kind.accuracy / 6);
                add_said(out, five_digits(value).c_str(), checked ? std::string() : checked.error().text());
                add_said(out, five_digits(value).c_str(), unit_suspicion(quantity, middle, value));
            }
            for (const double u : {0.0, -1.0, kind.accuracy})
                if (const auto checked = check_reference(quantity, middle, u); !checked)
                    add_said(out, ("± " + five_digits(u)).c_str(), checked.error().text());
        }
        test::compare_said("typed_references", out);
    }

    /// What a gate says of a window that fills, stands still, drifts, jumps and hums.
    void gates() {
        std::string out;
        const std::pair<const char*, std::function<double(int)>> courses[] = {
            {"still", [](int i) { return 20 + 0.01 * ((i * 7 % 5) - 2); }},
            {"drifts", [](int i) { return 20 + 0.05 * i; }},
            {"falls", [](int i) { return 20 - 0.004 * i; }},
            {"jumps", [](int i) { return i < 40 ? 20.0 : 21.0; }},
            {"hums", [](int i) { return 20 + 0.2 * std::sin(i * 0.9); }},
            {"sways", [](int i) { return 20 + 0.05 * std::sin(i * 0.2); }},
            {"one number", [](int) { return 20.0; }}};
        for (const auto& [name, course] : courses) {
            out += std::string(name) + "\n";
            SteadinessGate gate(gate_settings(8, 1, 0.4));
            for (int i = 0; i < 150; ++i) {
                gate.push({i * second_us, course(i)});
                if (i % 15 != 14 && i > 3) continue;
                const GateState state = gate.state(i * second_us);
                add_said(out, std::to_string(i).c_str(),
                         fmt::format("{} for {} s, n {} filled {} mean {} scatter {} slope {}/min u {} ({}) {}",
                                     state.steady ? "steady" : "moving", five_digits(state.steady_for_s), state.n,
                                     five_digits(state.filled), five_digits(state.mean), five_digits(state.scatter),
                                     five_digits(state.slope_per_min), five_digits(state.u_mean),
                                     five_digits(indication_u(state, 0.05)), state.waiting_for));
            }
        }
        test::compare_said("gates", out);
    }
};

RUN_TESTS_OF(TestSaidOfCalibrating)
#include "tst_said_of_calibrating.moc"
