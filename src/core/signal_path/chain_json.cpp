#include "core/base/json_fields.h"
#include "core/physics/thermocouple.h"
#include "core/signal_path/chain.h"
#include "core/units/unit.h"

#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <functional>

namespace cognitum {

namespace {

/// Everything JSON needs to know of one kind of stage. `keys` are those beside its constants.
struct StageForm {
    std::string name;
    Stage blank;
    std::vector<std::string> keys;
    std::vector<std::string> optional_constants; ///< keep the blank's value when missing
};

const std::vector<StageForm>& forms() {
    static const std::vector<StageForm> all = {
        {"adc", Adc{}, {"bits", "convention", "centre"}, {}},
        {"linear", Linear{}, {"input_unit", "unit"}, {}},
        {"scale", Scale{}, {"input_unit", "unit"}, {"offset"}},
        {"divider", Divider{}, {"unknown"}, {}},
        {"ratio_divider", RatioDivider{}, {"unknown", "bits"}, {}},
        {"thermistor_beta", ThermistorBeta{}, {}, {}},
        {"thermistor_steinhart_hart", ThermistorSteinhartHart{}, {}, {}},
        {"rtd", Rtd{}, {}, {}},
        {"thermocouple", Thermocouple{}, {"type"}, {}},
        {"echo", Echo{}, {}, {"temperature_degC", "humidity", "pressure_Pa", "speed_m_s"}},
        {"level", LevelBelow{}, {}, {}},
        {"vessel", VesselFill{}, {"shape", "levels_mm", "volumes_L"}, {}},
        {"conductivity25", Conductivity25{}, {}, {"alpha_per_K"}},
        {"correction", Correction{}, {"unit"}, {"gain", "offset"}},
    };
    return all;
}

Result<int> read_bits(const JsonReader& json) {
    COGNITUM_TRY(bits, json.number("bits"));
    if (bits != std::floor(bits) || bits < 1 || bits > 32)
        return json.error("bits must be a whole number from 1 to 32.", "bits");
    return static_cast<int>(bits);
}

Result<std::string> read_unit(const JsonReader& json, std::string_view key) {
    COGNITUM_TRY(text, json.string(key));
    const Unit* unit = find_unit(text);
    if (!unit) return json.error(fmt::format("the unit \"{}\" is not known.", text), key);
    return unit->code;
}

Result<UnknownLeg> read_unknown(const JsonReader& json) {
    COGNITUM_TRY(text, json.string("unknown"));
    if (text == "top") return UnknownLeg::top;
    if (text == "bottom") return UnknownLeg::bottom;
    return json.error("unknown must be \"top\" or \"bottom\".", "unknown");
}

Result<void> read_constant(const JsonReader& json, const std::string& key, bool optional, Constant& out) {
    if (optional && !json.has(key) && !json.has("u_" + key) && !json.has("tol_" + key)) return {};
    COGNITUM_TRY(value, optional ? json.number_or(key, out.value) : json.number(key));
    out.value = value;
    for (const auto& [prefix, spread] :
         {std::pair{"u_", Spread::standard}, std::pair{"tol_", Spread::rectangular}}) {
        const std::string doubt_key = prefix + key;
        if (!json.has(doubt_key)) continue;
        if (out.spread != Spread::none)
            return json.error(fmt::format("give u_{} or tol_{}, not both.", key, key), doubt_key);
        COGNITUM_TRY(doubt, json.number(doubt_key));
        if (doubt < 0) return json.error("a doubt cannot be negative.", doubt_key);
        out.doubt = doubt;
        out.spread = spread;
    }
    COGNITUM_TRY(origin, json.string_or("origin_" + key, {}));
    COGNITUM_TRY(cause, json.string_or("cause_" + key, {}));
    out.origin = origin;
    out.cause = cause;
    return {};
}

Result<void> read_echo(const JsonReader& json, Echo& echo) {
    const bool fixed = json.has("speed_m_s");
    const bool humid = json.has("humidity");
    if (fixed && (json.has("temperature_degC") || humid || json.has("pressure_Pa")))
        return json.error("give the speed, or the air that it follows from, not both.", "speed_m_s");
    if (!fixed && !json.has("temperature_degC"))
        return json.error("sound needs the air's temperature, or its speed.", "temperature_degC");
    echo.air = fixed ? Echo::Air::fixed_speed : humid ? Echo::Air::humid : Echo::Air::dry;
    if (!(echo.speed() > 0))
        return json.error("no speed of sound follows from this: temperatures are °C, a humidity is a share from 0 "
                          "to 1, a pressure is Pa.",
                          fixed ? "speed_m_s" : "temperature_degC");
    return {};
}

/// The keys that are no constants, and what must hold between the numbers.
Result<void> read_rest(const JsonReader& json, Stage& stage) {
    const auto positive = [&](const Constant& constant, std::string_view key) -> Result<void> {
        if (!(constant.value > 0)) return json.error("this must be above zero.", key);
        return {};
    };
    if (auto* adc = std::get_if<Adc>(&stage)) {
        COGNITUM_TRY(bits, read_bits(json));
        COGNITUM_TRY(convention, json.string_or("convention", "2^N"));
        COGNITUM_TRY(centre, json.boolean_or("centre", true));
        if (convention != "2^N" && convention != "2^N-1")
            return json.error("convention must be \"2^N\" or \"2^N-1\".", "convention");
        adc->bits = bits;
        adc->convention = convention == "2^N" ? CodeConvention::two_to_n : CodeConvention::two_to_n_minus_1;
        adc->centre = centre;
        return positive(adc->reference_V, "reference_V");
    }
    if (auto* linear = std::get_if<Linear>(&stage)) {
        COGNITUM_TRY(from, read_unit(json, "input_unit"));
        COGNITUM_TRY(to, read_unit(json, "unit"));
        linear->input_unit = from;
        linear->unit = to;
        if (linear->slope.value == 0) return json.error("a slope of zero cannot be divided by.", "slope");
        return {};
    }
    if (auto* scale = std::get_if<Scale>(&stage)) {
        COGNITUM_TRY(from, read_unit(json, "input_unit"));
        COGNITUM_TRY(to, read_unit(json, "unit"));
        scale->input_unit = from;
        scale->unit = to;
        return {};
    }
    if (auto* divider = std::get_if<Divider>(&stage)) {
        COGNITUM_TRY(unknown, read_unknown(json));
        divider->unknown = unknown;
        COGNITUM_CHECK(positive(divider->fixed_ohm, "fixed_ohm"));
        return positive(divider->supply_V, "supply_V");
    }
    if (auto* ratio = std::get_if<RatioDivider>(&stage)) {
        COGNITUM_TRY(unknown, read_unknown(json));
        COGNITUM_TRY(bits, read_bits(json));
        ratio->unknown = unknown;
        ratio->bits = bits;
        return positive(ratio->fixed_ohm, "fixed_ohm");
    }
    if (auto* beta = std::get_if<ThermistorBeta>(&stage)) {
        COGNITUM_CHECK(positive(beta->r0_ohm, "r0_ohm"));
        return positive(beta->beta_K, "beta_K");
    }
    if (auto* rtd = std::get_if<Rtd>(&stage)) return positive(rtd->r0_ohm, "r0_ohm");
    if (auto* couple = std::get_if<Thermocouple>(&stage)) {
        COGNITUM_TRY(type, json.string("type"));
        if (!physics::thermocouple_type(type))
            return json.error("the type is one of B, E, J, K, N, R, S, T.", "type");
        couple->type = type;
        return {};
    }
    if (auto* echo = std::get_if<Echo>(&stage)) return read_echo(json, *echo);
    if (auto* vessel = std::get_if<VesselFill>(&stage)) {
        if (vessel->kind == physics::VesselKind::strapping) {
            COGNITUM_CHECK(JsonFields(json)
                               .may("levels_mm", vessel->levels_mm)
                               .may("volumes_L", vessel->volumes_L)
                               .known("stage")
                               .known("shape")
                               .done());
        }
        if (const auto sound = physics::check_vessel(vessel->shape()); !sound)
            return json.error(sound.error().what,
                              sound.error().where == "table" ? "levels_mm" : sound.error().where + "_m");
        return {};
    }
    if (auto* conductivity = std::get_if<Conductivity25>(&stage)) {
        if (conductivity->alpha_per_K.value < 0 || conductivity->alpha_per_K.value > 0.1)
            return json.error("alpha lies between 0 and 0.1 per kelvin.", "alpha_per_K");
        return {};
    }
    if (auto* correction = std::get_if<Correction>(&stage)) {
        COGNITUM_TRY(unit, read_unit(json, "unit"));
        correction->unit = unit;
        if (correction->gain.value == 0) return json.error("a gain of zero loses the value.", "gain");
    }
    return {};
}

bool echo_uses(const Echo& echo, const std::string& key) {
    if (echo.air == Echo::Air::fixed_speed) return key == "speed_m_s";
    return key == "temperature_degC" || (echo.air == Echo::Air::humid && key != "speed_m_s");
}

std::string leg_name(UnknownLeg leg) {
    return leg == UnknownLeg::top ? "top" : "bottom";
}

} // namespace

Result<Stage> read_stage(const JsonReader& json) {
    COGNITUM_TRY(name, json.string("stage"));
    const StageForm* form = nullptr;
    std::string names;
    for (const StageForm& candidate : forms()) {
        names += (names.empty() ? "" : ", ") + candidate.name;
        if (candidate.name == name) form = &candidate;
    }
    if (!form) return json.error(fmt::format("the stage \"{}\" is not known; known are {}.", name, names), "stage");

    Stage stage = form->blank;
    if (auto* vessel = std::get_if<VesselFill>(&stage)) { // its constants follow from its shape
        COGNITUM_TRY(shape, json.string("shape"));
        if (!physics::vessel_kind(shape, vessel->kind))
            return json.error(fmt::format("the shape \"{}\" is not known; known are {}.", shape,
                                          fmt::join(physics::vessel_names(), ", ")),
                              "shape");
    }
    std::vector<std::string> known = {"stage"};
    known.insert(known.end(), form->keys.begin(), form->keys.end());
    for (const NamedConstant& named : constants(stage))
        for (const char* prefix : {"", "u_", "tol_", "origin_", "cause_"})
            known.push_back(prefix + named.key);
    COGNITUM_CHECK(json.only_keys(known));

    for (const NamedConstant& named : constants(stage)) {
        const auto& optional = form->optional_constants;
        const bool is_optional = std::find(optional.begin(), optional.end(), named.key) != optional.end();
        COGNITUM_CHECK(read_constant(json, named.key, is_optional, *named.constant));
    }
    COGNITUM_CHECK(read_rest(json, stage));
    return stage;
}

Result<Chain> read_chain(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"name", "input_unit", "stages"}));
    Chain chain;
    COGNITUM_TRY(name, json.string_or("name", {}));
    chain.name = name;
    if (json.has("input_unit")) {
        COGNITUM_TRY(unit, read_unit(json, "input_unit"));
        chain.input_unit = unit;
    }
    COGNITUM_TRY(stages, json.list("stages"));
    for (const JsonReader& item : stages) {
        COGNITUM_TRY(stage, read_stage(item));
        const std::string before = chain.stages.empty() ? chain.input_unit : chain.last_unit();
        const std::string wanted = input_unit(stage);
        if (!before.empty() && !same_unit(before, wanted))
            return item.error(
                fmt::format("this stage takes {}, but what comes before it gives {}.", wanted, before));
        chain.stages.push_back(std::move(stage));
    }
    return chain;
}

Json stage_json(const Stage& stage) {
    Stage copy = stage;
    Json out;
    out["stage"] = forms()[stage.index()].name;
    if (const auto* adc = std::get_if<Adc>(&stage)) {
        out["bits"] = adc->bits;
        out["convention"] = adc->convention == CodeConvention::two_to_n ? "2^N" : "2^N-1";
        out["centre"] = adc->centre;
    }
    if (const auto* ratio = std::get_if<RatioDivider>(&stage)) {
        out["bits"] = ratio->bits;
        out["unknown"] = leg_name(ratio->unknown);
    }
    if (const auto* divider = std::get_if<Divider>(&stage)) out["unknown"] = leg_name(divider->unknown);
    if (const auto* couple = std::get_if<Thermocouple>(&stage)) out["type"] = couple->type;
    if (const auto* vessel = std::get_if<VesselFill>(&stage)) {
        out["shape"] = physics::vessel_name(vessel->kind);
        if (vessel->kind == physics::VesselKind::strapping) {
            out["levels_mm"] = vessel->levels_mm;
            out["volumes_L"] = vessel->volumes_L;
        }
    }
    const auto* echo = std::get_if<Echo>(&stage);
    for (const NamedConstant& named : constants(copy)) {
        const Constant& constant = *named.constant;
        if (echo && !echo_uses(*echo, named.key)) continue;
        out[named.key] = constant.value;
        if (constant.spread == Spread::standard) out["u_" + named.key] = constant.doubt;
        if (constant.spread == Spread::rectangular) out["tol_" + named.key] = constant.doubt;
        if (!constant.origin.empty()) out["origin_" + named.key] = constant.origin;
        if (!constant.cause.empty()) out["cause_" + named.key] = constant.cause;
    }
    if (std::holds_alternative<Linear>(stage) || std::holds_alternative<Scale>(stage))
        out["input_unit"] = input_unit(stage);
    if (std::holds_alternative<Linear>(stage) || std::holds_alternative<Scale>(stage) ||
        std::holds_alternative<Correction>(stage))
        out["unit"] = output_unit(stage);
    return out;
}

Json chain_json(const Chain& chain) {
    Json out;
    if (!chain.name.empty()) out["name"] = chain.name;
    if (!chain.input_unit.empty()) out["input_unit"] = chain.input_unit;
    out["stages"] = Json::array();
    for (const Stage& stage : chain.stages)
        out["stages"].push_back(stage_json(stage));
    return out;
}

} // namespace cognitum
