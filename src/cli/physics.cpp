#include "cli/cli.h"

#include "core/physics/thermometry.h"
#include "core/physics/water.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <fmt/format.h>
#include <functional>
#include <map>

namespace cognitum::cli {

namespace {

struct Key {
    std::string name, unit; ///< unit that the function takes
};

struct Formula {
    std::string name;
    std::vector<Key> keys;
    std::string unit, source, range;
    std::function<double(const std::vector<double>&)> compute;
};

const std::vector<Formula>& formulas() {
    using namespace physics;
    static const std::vector<Formula> all = {
        {"boiling-point",
         {{"pressure", "Pa"}},
         "degC",
         "IAPWS-IF97, eq. 31",
         "611.213 Pa to 22.064 MPa",
         [](const auto& v) { return boiling_point(v[0]); }},
        {"boiling-point",
         {{"altitude", "m"}},
         "degC",
         "ISO 2533 and IAPWS-IF97, eq. 31",
         "−500 to 11 000 m",
         [](const auto& v) { return boiling_point(standard_pressure(v[0])); }},
        {"water-density",
         {{"temperature", "degC"}},
         "kg/m3",
         "Tanaka et al. (2001), Metrologia 38, 301",
         "0 to 40 °C",
         [](const auto& v) { return water_density(v[0]); }},
        {"dew-point",
         {{"temperature", "degC"}, {"humidity", "1"}},
         "degC",
         "Magnus form, WMO-No. 8",
         "−45 to 60 °C and above 0 to 100 %",
         [](const auto& v) { return dew_point(v[0], v[1]); }},
        {"rtd-resistance",
         {{"r0", "ohm"}, {"temperature", "degC"}},
         "ohm",
         "IEC 60751:2022",
         "−200 to 850 °C",
         [](const auto& v) { return platinum_resistance(v[1], v[0]); }},
        {"rtd-temperature",
         {{"r0", "ohm"}, {"resistance", "ohm"}},
         "degC",
         "IEC 60751:2022",
         "−200 to 850 °C",
         [](const auto& v) { return platinum_temperature(v[1], v[0]); }},
        {"thermistor-temperature",
         {{"r0", "ohm"}, {"t0", "degC"}, {"beta", "K"}, {"resistance", "ohm"}},
         "degC",
         "1/T = 1/T0 + ln(R/R0)/β",
         "positive resistances",
         [](const auto& v) { return thermistor_beta_temperature(v[3], v[0], v[1], v[2]); }},
    };
    return all;
}

const std::vector<std::string> later = {"speed-of-sound",   "absolute-humidity", "sea-level-pressure",
                                        "thermocouple-emf", "conductivity-25",   "thermocouple-temperature",
                                        "kcl-conductivity", "salt-humidity",     "sun-times"};

std::string keys_text(const Formula& f) {
    std::string out;
    for (const Key& key : f.keys)
        out += fmt::format("{}{}= ({})", out.empty() ? "" : ", ", key.name, accepted_units(key.unit));
    return out;
}

} // namespace

int run_physics(const std::string& name, const std::vector<std::string>& arguments, bool json) {
    if (std::find(later.begin(), later.end(), name) != later.end())
        return complain({fmt::format("physics {} is not there yet.", name), "", ""}, usage);
    std::map<std::string, std::string> given;
    for (const std::string& argument : arguments) {
        const auto equals = argument.find('=');
        if (equals == std::string::npos)
            return complain({fmt::format("\"{}\" is not key=value.", argument), "", ""}, usage);
        given[argument.substr(0, equals)] = argument.substr(equals + 1);
    }
    const Formula* formula = nullptr;
    std::string known;
    std::string forms;
    for (const Formula& f : formulas()) {
        if (known.find(f.name) == std::string::npos) known += (known.empty() ? "" : ", ") + f.name;
        if (f.name != name) continue;
        forms += (forms.empty() ? "" : ", or ") + keys_text(f);
        const bool fits =
            given.size() == f.keys.size() &&
            std::all_of(f.keys.begin(), f.keys.end(), [&](const Key& key) { return given.count(key.name) > 0; });
        if (fits) formula = &f;
    }
    if (forms.empty())
        return complain({fmt::format("\"{}\" is not known; known are {}.", name, known), "physics", ""}, usage);
    if (!formula) return complain({fmt::format("{} takes {}.", name, forms), "physics", ""}, usage);

    std::vector<double> values;
    for (const Key& key : formula->keys) {
        const auto measure = parse_measure(given[key.name]);
        const auto value =
            measure ? convert_unit(measure->value, measure->unit, key.unit) : tl::make_unexpected(measure.error());
        if (!value) {
            Error error = value.error();
            error.where = key.name;
            error.fix = fmt::format("Write it with one of these units: {}.", accepted_units(key.unit));
            return complain(error, usage);
        }
        values.push_back(*value);
    }
    const double result = formula->compute(values);
    if (!std::isfinite(result))
        return complain({fmt::format("outside the range of the formula, which is {}.", formula->range), name, ""});
    if (json) {
        print_json({{"value", result}, {"unit", formula->unit}, {"source", formula->source}});
    } else {
        std::puts(fmt::format("{}  ({})", format_measure(result, formula->unit, 7), formula->source).c_str());
    }
    return done;
}

} // namespace cognitum::cli
