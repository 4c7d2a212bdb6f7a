#include "core/signal_path/stage_json_parts.h"

namespace cognitum {

namespace {

template <typename S>
void write_rest(const S& s, Json& out) {
    if constexpr (requires { s.type; }) out["type"] = s.type;
    if constexpr (requires { s.bits; }) out["bits"] = s.bits;
    if constexpr (requires { s.unknown; }) out["unknown"] = leg_names[static_cast<std::size_t>(s.unknown)];
}
void write_rest(const Adc& s, Json& out) {
    out["bits"] = s.bits;
    out["convention"] = convention_names[static_cast<std::size_t>(s.convention)];
    out["centre"] = s.centre;
}
void write_rest(const VesselFill& s, Json& out) {
    out["shape"] = physics::vessel_name(s.kind);
    if (s.kind == physics::VesselKind::strapping) {
        out["levels_mm"] = s.levels_mm;
        out["volumes_L"] = s.volumes_L;
    }
    for (const physics::VesselShape& section : s.sections)
        out["sections"].push_back(section_json(section));
}
void write_rest(const Conductivity25& s, Json& out) {
    if (s.compensation != Conductivity25::Compensation::linear)
        out["compensation"] = compensations[static_cast<std::size_t>(s.compensation)];
}
void write_rest(const MoistAir& s, Json& out) {
    out["wanted"] = moist_air_words[static_cast<std::size_t>(s.wanted)];
}
void write_rest(const Threshold& s, Json& out) {
    out["on"] = side_names[s.above_is_on ? 0 : 1];
}
void write_rest(const Table& s, Json& out) {
    out["inputs"] = s.inputs;
    out["outputs"] = s.outputs;
    if (s.nearest) out["nearest"] = true;
}
void write_rest(const CorrectionCurve& s, Json& out) {
    out["inputs"] = s.inputs;
    out["outputs"] = s.outputs;
}
void write_rest(const Formula& s, Json& out) {
    out["expression"] = s.expression;
    for (const auto& named : s.names)
        out["names"].push_back(named.first);
    if (s.low < s.high) {
        out["low"] = s.low;
        out["high"] = s.high;
    }
}

} // namespace

Json stage_json(const Stage& stage) {
    Stage copy = stage;
    Json out;
    out["stage"] = stage_forms()[stage.index()].name;
    std::visit([&](const auto& s) { write_rest(s, out); }, stage);
    for (const NamedConstant& named : constants(copy)) {
        const Constant& constant = *named.constant;
        if (named.key == "bulge" && constant.value == 0 && constant.doubt == 0) continue; // most walls stand
        out[named.key] = constant.value;
        if (constant.spread == Spread::standard) out["u_" + named.key] = constant.doubt;
        if (constant.spread == Spread::rectangular) out["tol_" + named.key] = constant.doubt;
        if (constant.stability > 0) out["stability_" + named.key] = constant.stability;
        if (!constant.origin.empty()) out["origin_" + named.key] = constant.origin;
        if (constant.known_by != KnownBy::statement || known_by_origin(constant.origin) != KnownBy::statement)
            out["known_by_" + named.key] = known_by_words[static_cast<std::size_t>(constant.known_by)];
        if (!constant.cause.empty()) out["cause_" + named.key] = constant.cause;
        if (!constant.from.empty()) out["from_" + named.key] = constant.from;
    }
    std::visit(
        [&](const auto& s) {
            if constexpr (requires { s.input_unit; }) out["input_unit"] = s.input_unit;
            if constexpr (requires { s.unit; }) out["unit"] = s.unit;
        },
        stage);
    return out;
}

} // namespace cognitum
