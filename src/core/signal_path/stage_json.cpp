// The JSON form of a stage: its name, its constants with their doubts, and the keys that are no constants.
#include "core/base/json_fields.h"
#include "core/base/phrase.h"
#include "core/physics/thermocouple.h"
#include "core/signal_path/chain.h"
#include "core/signal_path/stage_json_parts.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace cognitum {

namespace {

constexpr const char* prefixes[] = {"", "u_", "tol_", "stability_", "origin_", "known_by_", "cause_", "from_"};

Result<void> read_couple_type(const JsonReader& json, std::string& out) {
    COGNITUM_TRY(type, json.string("type"));
    if (!physics::thermocouple_type(type))
        return json.error(phrase("the type is one of B, E, J, K, N, R, S, T."), "type");
    out = type;
    return {};
}

// What decides which constants a stage has is read before them.

template <typename S>
Result<void> read_first(const JsonReader&, S&) {
    return {};
}
Result<void> read_first(const JsonReader& json, Echo& s) {
    const bool fixed = json.has("speed_m_s");
    const bool humid = json.has("humidity");
    if (fixed && (json.has("temperature_degC") || humid || json.has("pressure_Pa")))
        return json.error(phrase("give the speed, or the air that it follows from, not both."), "speed_m_s");
    if (!fixed && !json.has("temperature_degC"))
        return json.error(phrase("sound needs the air's temperature, or its speed."), "temperature_degC");
    s.air = fixed ? Echo::Air::fixed_speed : humid ? Echo::Air::humid : Echo::Air::dry;
    return {};
}
/// A load is a constant only of a divider that has one.
template <typename D>
Result<void> read_load(const JsonReader& json, D& s) {
    if (!json.has("load_ohm")) return {};
    COGNITUM_TRY(load, json.number("load_ohm"));
    if (!(load > 0))
        return json.error(phrase("a load is above zero; leave the key out where there is none."), "load_ohm");
    s.load_ohm.value = load;
    return {};
}
Result<void> read_first(const JsonReader& json, Divider& s) {
    return read_load(json, s);
}
Result<void> read_first(const JsonReader& json, RatioDivider& s) {
    return read_load(json, s);
}
Result<void> read_first(const JsonReader& json, VesselFill& s) {
    COGNITUM_TRY(shape, json.string("shape"));
    const auto kind = physics::vessel_kind(shape);
    if (!kind)
        return json.error(
            phrase("the shape \"{}\" is not known; known are {}.", shape, fmt::join(physics::vessel_names(), ", ")),
            "shape");
    s.kind = *kind;
    return {};
}
Result<void> read_first(const JsonReader& json, Conductivity25& s) {
    COGNITUM_TRY(choice, read_choice(json, "compensation", compensations));
    s.compensation = static_cast<Conductivity25::Compensation>(choice);
    return {};
}
Result<void> read_first(const JsonReader& json, Formula& s) {
    if (!json.has("names")) return {};
    COGNITUM_TRY(names, read_words(json, "names"));
    if (names.size() > 12) return json.error(phrase("a formula has twelve constants at most."), "names");
    for (const std::string& name : names) {
        const bool taken = std::any_of(std::begin(prefixes) + 1, std::end(prefixes),
                                       [&](const char* prefix) { return name.rfind(prefix, 0) == 0; });
        if (taken || name == "low" || name == "high" || name == "unit" || name == "stage" || name == "names")
            return json.error(phrase("\"{}\" cannot be a constant's name: it means something else here.", name),
                              "names");
        s.names.emplace_back(name, Constant{});
    }
    return {};
}

// The keys that are no constants, and what must hold between the numbers.

template <typename S>
Result<void> read_rest(const JsonReader&, S&) {
    return {};
}
Result<void> read_rest(const JsonReader& json, Adc& s) {
    COGNITUM_TRY(bits, read_bits(json));
    COGNITUM_TRY(convention, read_choice(json, "convention", convention_names));
    COGNITUM_TRY(centre, json.boolean_or("centre", true));
    s.bits = bits;
    s.convention = static_cast<CodeConvention>(convention);
    s.centre = centre;
    return positive(json, s.reference_V, "reference_V");
}
Result<void> read_rest(const JsonReader& json, Linear& s) {
    COGNITUM_CHECK(read_units(json, s.input_unit, s.unit));
    if (s.slope.value == 0) return json.error(phrase("a slope of zero cannot be divided by."), "slope");
    return {};
}
Result<void> read_rest(const JsonReader& json, Scale& s) {
    return read_units(json, s.input_unit, s.unit);
}
Result<void> read_rest(const JsonReader& json, Divider& s) {
    COGNITUM_CHECK(json.string("unknown"));
    COGNITUM_TRY(leg, read_choice(json, "unknown", leg_names));
    s.unknown = static_cast<UnknownLeg>(leg);
    COGNITUM_CHECK(positive(json, s.fixed_ohm, "fixed_ohm"));
    return positive(json, s.supply_V, "supply_V");
}
Result<void> read_rest(const JsonReader& json, RatioDivider& s) {
    COGNITUM_CHECK(json.string("unknown"));
    COGNITUM_TRY(leg, read_choice(json, "unknown", leg_names));
    COGNITUM_TRY(bits, read_bits(json));
    s.unknown = static_cast<UnknownLeg>(leg);
    s.bits = bits;
    return positive(json, s.fixed_ohm, "fixed_ohm");
}
Result<void> read_rest(const JsonReader& json, Ratio& s) {
    COGNITUM_TRY(bits, read_bits(json));
    s.bits = bits;
    return {};
}
Result<void> read_rest(const JsonReader& json, CurrentLoop& s) {
    return positive(json, s.shunt_ohm, "shunt_ohm");
}
Result<void> read_rest(const JsonReader& json, SignedWord& s) {
    COGNITUM_TRY(bits, read_bits(json));
    if (bits < 2) return json.error(phrase("a signed word has two bits at least."), "bits");
    s.bits = bits;
    return {};
}
Result<void> read_rest(const JsonReader& json, PhotoResistor& s) {
    COGNITUM_CHECK(positive(json, s.r10_ohm, "r10_ohm"));
    return positive(json, s.gamma, "gamma");
}
Result<void> read_rest(const JsonReader& json, ThermistorBeta& s) {
    COGNITUM_CHECK(positive(json, s.r0_ohm, "r0_ohm"));
    return positive(json, s.beta_K, "beta_K");
}
Result<void> read_rest(const JsonReader& json, Rtd& s) {
    return positive(json, s.r0_ohm, "r0_ohm");
}
Result<void> read_rest(const JsonReader& json, Thermocouple& s) {
    return read_couple_type(json, s.type);
}
Result<void> read_rest(const JsonReader& json, StraightCouple& s) {
    COGNITUM_CHECK(read_couple_type(json, s.type));
    return positive(json, s.slope_uV_per_K, "slope_uV_per_K");
}
Result<void> read_rest(const JsonReader& json, Infrared& s) {
    if (!(s.emissivity.value >= 0.05) || s.emissivity.value > 1)
        return json.error(phrase("an emissivity lies between 0.05 and 1."), "emissivity");
    return {};
}
Result<void> read_rest(const JsonReader& json, Echo& s) {
    if (!(s.speed() > 0))
        return json.error(
            phrase("no speed of sound follows from this: temperatures are °C, a humidity is a share from 0 "
                   "to 1, a pressure is Pa."),
            s.air == Echo::Air::fixed_speed ? "speed_m_s" : "temperature_degC");
    return {};
}

Result<void> read_rest(const JsonReader& json, VesselFill& s) {
    if (s.kind == physics::VesselKind::strapping) {
        COGNITUM_TRY(levels, read_numbers(json, "levels_mm"));
        COGNITUM_TRY(volumes, read_numbers(json, "volumes_L"));
        s.levels_mm = levels;
        s.volumes_L = volumes;
    }
    if (s.kind == physics::VesselKind::stack) {
        COGNITUM_TRY(sections, json.list("sections"));
        for (const JsonReader& item : sections) {
            COGNITUM_TRY(section, read_section(item));
            s.sections.push_back(section);
        }
    }
    if (s.bulge.value < 0 || s.bulge.value > 0.2)
        return json.error(phrase("a vessel bulges by 0 to 0.2 of its volume."), "bulge");
    if (const auto sound = physics::check_vessel(s.shape()); !sound)
        return json.error(sound.error().what, sound.error().where == "table"      ? "levels_mm"
                                              : sound.error().where == "sections" ? "sections"
                                                                                  : sound.error().where + "_m");
    return {};
}
Result<void> read_rest(const JsonReader& json, Conductivity25& s) {
    if (s.alpha_per_K.value < 0 || s.alpha_per_K.value > 0.1)
        return json.error(phrase("alpha lies between 0 and 0.1 per kelvin."), "alpha_per_K");
    return {};
}
Result<void> read_rest(const JsonReader& json, DissolvedSolids& s) {
    if (!(s.k.value >= 0.5) || s.k.value > 0.8) return json.error(phrase("k lies between 0.5 and 0.8."), "k");
    return {};
}
Result<void> read_rest(const JsonReader& json, MoistAir& s) {
    COGNITUM_TRY(choice, read_choice(json, "wanted", moist_air_words));
    s.wanted = static_cast<MoistAir::Wanted>(choice);
    return {};
}
Result<void> read_rest(const JsonReader& json, Altitude& s) {
    return positive(json, s.base_hPa, "base_hPa");
}
Result<void> read_rest(const JsonReader& json, Between& s) {
    COGNITUM_TRY(unit, read_unit(json, "input_unit"));
    s.input_unit = unit;
    if (s.at_0.value == s.at_100.value) return json.error(phrase("the two points are the same."), "at_100");
    return {};
}
Result<void> read_rest(const JsonReader& json, Threshold& s) {
    COGNITUM_TRY(unit, read_unit(json, "input_unit"));
    COGNITUM_TRY(on, read_choice(json, "on", side_names));
    s.input_unit = unit;
    s.above_is_on = on == 0;
    if (s.hysteresis.value < 0) return json.error(phrase("a hysteresis is not below zero."), "hysteresis");
    return {};
}
/// Rows of a table or a curve, whose inputs grow.
template <typename Rows>
Result<void> read_rows(const JsonReader& json, Rows& s) {
    COGNITUM_TRY(inputs, read_numbers(json, "inputs"));
    COGNITUM_TRY(outputs, read_numbers(json, "outputs"));
    s.inputs = inputs;
    s.outputs = outputs;
    if (s.inputs.size() < 2 || s.inputs.size() != s.outputs.size())
        return json.error(phrase("a table has as many outputs as inputs, two at least."), "inputs");
    for (std::size_t i = 1; i < s.inputs.size(); ++i)
        if (!(s.inputs[i] > s.inputs[i - 1]))
            return json.error(phrase("row {} of the table goes back: inputs must grow.", i + 1), "inputs");
    return {};
}
Result<void> read_rest(const JsonReader& json, Table& s) {
    COGNITUM_CHECK(read_units(json, s.input_unit, s.unit));
    COGNITUM_TRY(nearest, json.boolean_or("nearest", false));
    s.nearest = nearest;
    return read_rows(json, s);
}
Result<void> read_rest(const JsonReader& json, CorrectionCurve& s) {
    COGNITUM_TRY(unit, read_unit(json, "unit"));
    s.unit = unit;
    COGNITUM_CHECK(read_rows(json, s));
    for (std::size_t i = 1; i < s.outputs.size(); ++i)
        if (!(s.outputs[i] > s.outputs[i - 1]))
            return json.error(phrase("row {} of the curve goes back: outputs must grow.", i + 1), "outputs");
    return {};
}
Result<void> read_rest(const JsonReader& json, Formula& s) {
    COGNITUM_CHECK(read_units(json, s.input_unit, s.unit));
    COGNITUM_TRY(expression, json.string("expression"));
    COGNITUM_TRY(low, json.number_or("low", 0));
    COGNITUM_TRY(high, json.number_or("high", 0));
    if (low > high) return json.error(phrase("low must not be above high."), "low");
    s.expression = expression;
    s.low = low;
    s.high = high;
    std::vector<std::string> names;
    for (const auto& named : s.names)
        names.push_back(named.first);
    auto program = FormulaProgram::compile(expression, names);
    if (!program) return json.error(program.error().what, "expression");
    s.program = *program;
    return {};
}
Result<void> read_rest(const JsonReader& json, Correction& s) {
    COGNITUM_TRY(unit, read_unit(json, "unit"));
    s.unit = unit;
    if (s.gain.value == 0) return json.error(phrase("a gain of zero loses the value."), "gain");
    return {};
}

} // namespace

const std::vector<StageForm>& stage_forms() {
    static const std::vector<StageForm> all = {
        {"adc", Adc{}, {"bits", "convention", "centre"}, {}},
        {"linear", Linear{}, {"input_unit", "unit"}, {}},
        {"scale", Scale{}, {"input_unit", "unit"}, {"offset"}},
        {"divider", Divider{}, {"unknown"}, {}},
        {"ratio_divider", RatioDivider{}, {"unknown", "bits"}, {}},
        {"ratio", Ratio{}, {"bits"}, {}},
        {"current_loop", CurrentLoop{}, {}, {}},
        {"signed_word", SignedWord{}, {"bits"}, {}},
        {"photo_resistor", PhotoResistor{}, {}, {}},
        {"thermistor_beta", ThermistorBeta{}, {}, {}},
        {"thermistor_steinhart_hart", ThermistorSteinhartHart{}, {}, {}},
        {"rtd", Rtd{}, {}, {}},
        {"thermocouple", Thermocouple{}, {"type"}, {}},
        {"straight_couple", StraightCouple{}, {"type"}, {"slope_uV_per_K"}},
        {"infrared", Infrared{}, {}, {}},
        {"echo", Echo{}, {}, {"temperature_degC", "humidity", "pressure_Pa", "speed_m_s"}},
        {"level", LevelBelow{}, {}, {}},
        {"vessel", VesselFill{}, {"shape", "levels_mm", "volumes_L", "sections"}, {"bulge"}},
        {"conductivity25", Conductivity25{}, {"compensation"}, {"alpha_per_K"}},
        {"dissolved_solids", DissolvedSolids{}, {}, {"k"}},
        {"salinity", Salinity{}, {}, {}},
        {"moist_air", MoistAir{}, {"wanted"}, {}},
        {"sea_level", SeaLevel{}, {}, {"temperature_degC"}},
        {"altitude", Altitude{}, {}, {"base_hPa"}},
        {"gas_at", GasAt{}, {}, {"reference_degC", "ambient_kPa"}},
        {"between", Between{}, {"input_unit"}, {}},
        {"threshold", Threshold{}, {"on", "input_unit"}, {"hysteresis"}},
        {"table", Table{}, {"inputs", "outputs", "nearest", "input_unit", "unit"}, {}},
        {"formula", Formula{}, {"expression", "low", "high", "input_unit", "unit", "names"}, {}},
        {"correction", Correction{}, {"unit"}, {"gain", "offset"}},
        {"correction_curve", CorrectionCurve{}, {"inputs", "outputs", "unit"}, {}},
    };
    return all;
}

Result<Stage> read_stage(const JsonReader& json) {
    COGNITUM_TRY(name, json.string("stage"));
    const auto form = std::find_if(stage_forms().begin(), stage_forms().end(),
                                   [&](const StageForm& f) { return f.name == name; });
    if (form == stage_forms().end()) {
        std::vector<std::string> names;
        for (const StageForm& known : stage_forms())
            names.push_back(known.name);
        return json.error(phrase("the stage \"{}\" is not known; known are {}.", name, fmt::join(names, ", ")),
                          "stage");
    }
    Stage stage = form->blank;
    COGNITUM_CHECK(std::visit([&](auto& s) { return read_first(json, s); }, stage));
    std::vector<std::string> known = {"stage"};
    known.insert(known.end(), form->keys.begin(), form->keys.end());
    for (const NamedConstant& named : constants(stage))
        for (const char* prefix : prefixes)
            known.push_back(prefix + named.key);
    COGNITUM_CHECK(json.only_keys(known));
    for (const NamedConstant& named : constants(stage)) {
        const auto& optional = form->optional_constants;
        const bool is_optional = std::find(optional.begin(), optional.end(), named.key) != optional.end();
        COGNITUM_CHECK(read_constant(json, named.key, is_optional, *named.constant));
    }
    COGNITUM_CHECK(std::visit([&](auto& s) { return read_rest(json, s); }, stage));
    return stage;
}

} // namespace cognitum
