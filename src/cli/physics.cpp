#include "cli/arguments.h"
#include "cli/cli.h"
#include "core/base/no_number.h"

#include "core/base/time.h"
#include "core/physics/air.h"
#include "core/physics/conductivity.h"
#include "core/physics/salts.h"
#include "core/physics/sound.h"
#include "core/physics/sun.h"
#include "core/physics/thermocouple.h"
#include "core/physics/thermometry.h"
#include "core/physics/water.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <functional>
#include <map>

namespace cognitum::cli {

namespace {

struct Key {
    std::string name, unit;               ///< unit that the function takes; empty: a word
    std::optional<double> otherwise = {}; ///< taken when the key is left out
    [[nodiscard]] bool is_word() const { return unit.empty(); }
};

/// What was given: numbers in the functions' units, and words.
struct Given {
    std::map<std::string, double> numbers;
    std::map<std::string, std::string> words;
    double operator[](const char* key) const { return numbers.at(key); }
    [[nodiscard]] bool has(const char* key) const { return numbers.contains(key); }
};

struct Formula {
    std::string name;
    std::vector<Key> keys;
    std::string unit, source, range;
    std::function<double(const Given&)> compute;
};

double couple(const Given& g, double (*of)(physics::ThermocoupleType, double, double), const char* key) {
    const auto type = physics::thermocouple_type(g.words.at("type"));
    return type ? of(*type, g[key], g["reference"]) : no_number;
}

const char* const its_90 = "ITS-90 reference functions, NIST Monograph 175, IEC 60584-1";
const char* const couple_range =
    "types B, E, J, K, N, R, S, T, each over its own range (K: −270 to 1 372 °C); type B "
    "has one temperature for a voltage above 50 °C only";

const std::vector<Formula>& formulas() {
    using namespace physics;
    static const std::vector<Formula> all = {
        {"speed-of-sound",
         {{"temperature", "degC"}},
         "m/s",
         "331.3·√(1 + θ/273.15), dry air",
         "−80 to 80 °C",
         [](const Given& g) { return dry_speed_of_sound(g["temperature"]); }},
        {"speed-of-sound",
         {{"temperature", "degC"}, {"humidity", "1"}, {"pressure", "Pa", 101325}},
         "m/s",
         "Cramer (1993), J. Acoust. Soc. Am. 93, 2510",
         "−20 to 60 °C, 0 to 100 %, 60 to 110 kPa",
         [](const Given& g) { return humid_speed_of_sound(g["temperature"], g["humidity"], g["pressure"]); }},
        {"speed-of-sound",
         {{"temperature", "degC"}, {"pressure", "Pa"}},
         "m/s",
         "331.3·√(1 + θ/273.15), dry air: its pressure does not matter",
         "−80 to 80 °C",
         [](const Given& g) { return dry_speed_of_sound(g["temperature"]); }},
        {"boiling-point",
         {{"pressure", "Pa"}},
         "degC",
         "IAPWS-IF97, eq. 31",
         "611.213 Pa to 22.064 MPa",
         [](const Given& g) { return boiling_point(g["pressure"]); }},
        {"boiling-point",
         {{"altitude", "m"}},
         "degC",
         "ISO 2533 and IAPWS-IF97, eq. 31",
         "−500 to 11 000 m",
         [](const Given& g) { return boiling_point(standard_pressure(g["altitude"])); }},
        {"water-density",
         {{"temperature", "degC"}},
         "kg/m3",
         "Tanaka et al. (2001), Metrologia 38, 301",
         "0 to 40 °C",
         [](const Given& g) { return water_density(g["temperature"]); }},
        {"dew-point",
         {{"temperature", "degC"}, {"humidity", "1"}},
         "degC",
         "Magnus form, WMO-No. 8",
         "−45 to 60 °C and above 0 to 100 %",
         [](const Given& g) { return dew_point(g["temperature"], g["humidity"]); }},
        {"absolute-humidity",
         {{"temperature", "degC"}, {"humidity", "1"}},
         "g/m3",
         "Magnus form, WMO-No. 8, and the gas law",
         "−45 to 60 °C, 0 to 100 %",
         [](const Given& g) { return absolute_humidity(g["temperature"], g["humidity"]); }},
        {"sea-level-pressure",
         {{"pressure", "Pa"}, {"altitude", "m"}, {"temperature", "degC", 15}},
         "Pa",
         "hypsometric formula, 6.5 K/km (WMO-No. 8, ISO 2533)",
         "300 to 1 100 hPa, −500 to 5 000 m, −60 to 60 °C",
         [](const Given& g) { return sea_level_pressure(g["pressure"], g["altitude"], g["temperature"]); }},
        {"thermocouple-emf",
         {{"type", ""}, {"temperature", "degC"}, {"reference", "degC", 0}},
         "mV",
         its_90,
         couple_range,
         [](const Given& g) { return couple(g, thermocouple_emf, "temperature"); }},
        {"thermocouple-temperature",
         {{"type", ""}, {"emf", "mV"}, {"reference", "degC", 0}},
         "degC",
         its_90,
         couple_range,
         [](const Given& g) { return couple(g, thermocouple_temperature, "emf"); }},
        {"rtd-resistance",
         {{"r0", "ohm"}, {"temperature", "degC"}},
         "ohm",
         "IEC 60751:2022",
         "R0 above zero, −200 to 850 °C",
         [](const Given& g) { return platinum_resistance(g["temperature"], g["r0"]); }},
        {"rtd-temperature",
         {{"r0", "ohm"}, {"resistance", "ohm"}},
         "degC",
         "IEC 60751:2022",
         "R0 above zero, −200 to 850 °C",
         [](const Given& g) { return platinum_temperature(g["resistance"], g["r0"]); }},
        {"thermistor-temperature",
         {{"r0", "ohm"}, {"t0", "degC"}, {"beta", "K"}, {"resistance", "ohm"}},
         "degC",
         "1/T = 1/T0 + ln(R/R0)/β",
         "resistances and B above zero, t0 above −273.15 °C",
         [](const Given& g) { return thermistor_beta_temperature(g["resistance"], g["r0"], g["t0"], g["beta"]); }},
        {"conductivity-25",
         {{"conductivity", "mS/cm"}, {"temperature", "degC"}, {"alpha", "/K", 0.02}},
         "mS/cm",
         "κ/(1 + α(θ − 25)), ISO 7888",
         "0 mS/cm and more, 0 to 50 °C, α from 0 to 0.1 /K",
         [](const Given& g) { return conductivity_25(g["conductivity"], g["temperature"], g["alpha"]); }},
        {"natural-water-conductivity-25",
         {{"conductivity", "mS/cm"}, {"temperature", "degC"}},
         "mS/cm",
         "ISO 7888, nonlinear compensation of natural water",
         "0 to 36 °C",
         [](const Given& g) { return g["conductivity"] * natural_water_factor(g["temperature"]); }},
        {"practical-salinity",
         {{"conductivity", "mS/cm"}, {"temperature", "degC"}},
         "1",
         "PSS-78, UNESCO Technical Papers in Marine Science 37",
         "−2 to 35 °C, 2 to 42",
         [](const Given& g) { return practical_salinity(g["conductivity"], g["temperature"]); }},
        {"kcl-conductivity",
         {{"concentration", "M"}, {"temperature", "degC", 25}},
         "mS/cm",
         "Kohlrausch’s table; OIML R 56",
         "0.01, 0.1 or 1 mol/L, 0 to 30 °C (1 mol/L: 0 to 25 °C)",
         [](const Given& g) { return potassium_chloride_conductivity(g["concentration"], g["temperature"]); }},
        {"salt-humidity",
         {{"salt", ""}, {"temperature", "degC", 25}},
         "%",
         "Greenspan (1977), J. Res. NBS 81A, 89",
         fmt::format("0 to 40 °C; salts: {}", fmt::join(salt_names(), ", ")),
         [](const Given& g) { return 100 * salt_humidity(g.words.at("salt"), g["temperature"]); }},
    };
    return all;
}

/// Sunrise and sunset have their own answer: two times, or why there is none.
int sun(Arguments& given, bool json) {
    if (given.size() != 3 || !given.contains("latitude") || !given.contains("longitude") || !given.contains("date"))
        return complain({"sun-times takes latitude= (deg), longitude= (deg), date= (2026-06-21).", "physics", ""},
                        usage);
    const auto latitude = measure_of(given, "latitude", "deg");
    if (!latitude) return complain(latitude.error(), usage);
    const auto longitude = measure_of(given, "longitude", "deg");
    if (!longitude) return complain(longitude.error(), usage);
    const auto date = parse_time(given["date"]);
    if (!date) return complain({"this is no date.", "date", "Write it as 2026-06-21."}, usage);
    if (std::abs(*latitude) > 90 || std::abs(*longitude) > 180)
        return complain({"a latitude lies within ± 90°, a longitude within ± 180°.", "sun-times", ""});
    const physics::SunTimes times = physics::sun_times(*date, *latitude, *longitude);
    const std::string why = times.always_up  ? "The sun does not set on that date."
                            : times.never_up ? "The sun does not rise on that date."
                            : !times.sunrise ? "No sunrise falls into that day of UTC."
                            : !times.sunset  ? "No sunset falls into that day of UTC."
                                             : "";
    const auto text = [](const std::optional<TimeUs>& t) { return t ? Json(iso_time(*t)) : Json(nullptr); };
    if (json) {
        Json out = {{"sunrise", text(times.sunrise)},
                    {"sunset", text(times.sunset)},
                    {"source", "Meeus, Astronomical Algorithms (1998), ch. 25; zenith 90.833°"}};
        if (!why.empty()) out["why"] = why;
        print_json(out);
        return done;
    }
    if (times.sunrise) std::puts(("sunrise " + iso_time(*times.sunrise)).c_str());
    if (times.sunset) std::puts(("sunset  " + iso_time(*times.sunset)).c_str());
    if (!why.empty()) std::puts(why.c_str());
    return done;
}

std::string keys_text(const Formula& f) {
    std::string out;
    for (const Key& key : f.keys)
        out += fmt::format("{}{}{}=", out.empty() ? "" : ", ", key.otherwise ? "or also " : "", key.name) +
               (key.is_word() ? std::string() : fmt::format(" ({})", accepted_units(key.unit)));
    return out;
}

} // namespace

int run_physics(const std::string& name, const std::vector<std::string>& arguments, bool json) {
    auto arguments_read = read_arguments(arguments);
    if (!arguments_read) return complain(arguments_read.error(), usage);
    Arguments& given = *arguments_read;
    if (name == "sun-times") return sun(given, json);
    const Formula* formula = nullptr;
    std::string known;
    std::string forms;
    for (const Formula& f : formulas()) {
        if (known.find(f.name) == std::string::npos) known += f.name + ", ";
        if (f.name != name) continue;
        forms += (forms.empty() ? "" : ", or ") + keys_text(f);
        const bool complete = std::all_of(f.keys.begin(), f.keys.end(), [&](const Key& key) {
            return key.otherwise || given.contains(key.name);
        });
        const bool nothing_else = std::all_of(given.begin(), given.end(), [&](const auto& one) {
            return std::any_of(f.keys.begin(), f.keys.end(), [&](const Key& key) { return key.name == one.first; });
        });
        if (complete && nothing_else && !formula) formula = &f;
    }
    if (forms.empty())
        return complain({fmt::format("\"{}\" is not known; known are {}sun-times.", name, known), "physics", ""},
                        usage);
    if (!formula) return complain({fmt::format("{} takes {}.", name, forms), "physics", ""}, usage);

    Given values;
    for (const Key& key : formula->keys) {
        if (!given.contains(key.name)) {
            values.numbers[key.name] = *key.otherwise;
        } else if (key.is_word()) {
            values.words[key.name] = given[key.name];
        } else {
            const auto value = measure_of(given, key.name, key.unit);
            if (!value) return complain(value.error(), usage);
            values.numbers[key.name] = *value;
        }
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
