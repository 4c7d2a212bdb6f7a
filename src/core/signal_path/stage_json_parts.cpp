#include "core/signal_path/stage_json_parts.h"

#include "core/base/json_fields.h"
#include "core/base/phrase.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace cognitum {

Result<int> read_bits(const JsonReader& json) {
    COGNITUM_TRY(bits, json.number("bits"));
    if (bits != std::floor(bits) || bits < 1 || bits > 32)
        return json.error(phrase("bits must be a whole number from 1 to 32."), "bits");
    return static_cast<int>(bits);
}

Result<std::string> read_unit(const JsonReader& json, std::string_view key) {
    COGNITUM_TRY(text, json.string(key));
    const Unit* unit = find_unit(text);
    if (!unit) return json.error(phrase("the unit \"{}\" is not known.", text), key);
    return unit->code;
}

Result<void> read_units(const JsonReader& json, std::string& from, std::string& to) {
    COGNITUM_TRY(in, read_unit(json, "input_unit"));
    COGNITUM_TRY(out, read_unit(json, "unit"));
    from = in;
    to = out;
    return {};
}

/// A key that is one of some words; the index of the word. Missing: 0.
Result<std::size_t> read_choice(const JsonReader& json, const std::string& key,
                                const std::vector<std::string>& words) {
    COGNITUM_TRY(text, json.string_or(key, words.front()));
    const auto at = std::find(words.begin(), words.end(), text);
    if (at == words.end())
        return json.error(phrase("{} must be one of \"{}\".", key, fmt::join(words, "\", \"")), key);
    return static_cast<std::size_t>(at - words.begin());
}

Result<std::vector<double>> read_numbers(const JsonReader& json, const std::string& key) {
    std::vector<double> out;
    if (!json.has(key) || !json.json().at(key).is_array())
        return json.error(phrase("a list of numbers belongs here."), key);
    for (const auto& item : json.json().at(key)) {
        if (!item.is_number()) return json.error(phrase("a list of numbers belongs here."), key);
        out.push_back(item.get<double>());
    }
    return out;
}

Result<std::vector<std::string>> read_words(const JsonReader& json, const std::string& key) {
    std::vector<std::string> out;
    if (!json.has(key) || !json.json().at(key).is_array())
        return json.error(phrase("a list of words belongs here."), key);
    for (const auto& item : json.json().at(key)) {
        if (!item.is_string()) return json.error(phrase("a list of words belongs here."), key);
        out.push_back(item.get<std::string>());
    }
    return out;
}

KnownBy known_by_origin(std::string_view origin) {
    if (origin == "assumed") return KnownBy::assumption;
    if (origin.starts_with("typed") || origin.starts_with("measured")) return KnownBy::hand;
    if (origin.starts_with("from ") && origin.find(" points, ") != std::string_view::npos)
        return KnownBy::calibration;
    return KnownBy::statement;
}

Result<void> read_constant(const JsonReader& json, const std::string& key, bool optional, Constant& out) {
    if (optional && !json.has(key) && !json.has("u_" + key) && !json.has("tol_" + key)) return {};
    COGNITUM_TRY(value, optional ? json.number_or(key, out.value) : json.number(key));
    out.value = value;
    out.doubt = 0; // what is written takes the place of a default's doubt
    out.spread = Spread::none;
    for (const auto& [prefix, spread] :
         {std::pair{"u_", Spread::standard}, std::pair{"tol_", Spread::rectangular}}) {
        const std::string doubt_key = prefix + key;
        if (!json.has(doubt_key)) continue;
        if (out.spread != Spread::none)
            return json.error(phrase("give u_{} or tol_{}, not both.", key, key), doubt_key);
        COGNITUM_TRY(doubt, json.number(doubt_key));
        if (doubt < 0) return json.error(phrase("a doubt cannot be negative."), doubt_key);
        out.doubt = doubt;
        out.spread = spread;
    }
    COGNITUM_TRY(stability, json.number_or("stability_" + key, 0));
    if (!(stability >= 0)) return json.error(phrase("a stability cannot be negative."), "stability_" + key);
    out.stability = stability;
    COGNITUM_TRY(origin, json.string_or("origin_" + key, {}));
    COGNITUM_TRY(cause, json.string_or("cause_" + key, {}));
    COGNITUM_TRY(from, json.string_or("from_" + key, {}));
    out.origin = origin;
    COGNITUM_TRY(known_by,
                 read_choice(json, "known_by_" + key, {std::begin(known_by_words), std::end(known_by_words)}));
    out.known_by = json.has("known_by_" + key) ? static_cast<KnownBy>(known_by) : known_by_origin(origin);
    out.cause = cause;
    out.from = from;
    return {};
}

Result<void> positive(const JsonReader& json, const Constant& constant, std::string_view key) {
    if (!(constant.value > 0)) return json.error(phrase("this must be above zero."), key);
    return {};
}

Result<physics::VesselShape> read_section(const JsonReader& json) {
    physics::VesselShape out;
    std::string shape;
    COGNITUM_CHECK(JsonFields(json)
                       .need("shape", shape)
                       .may("diameter_m", out.diameter_m)
                       .may("length_m", out.length_m)
                       .may("width_m", out.width_m)
                       .may("height_m", out.height_m)
                       .done());
    const auto kind = physics::vessel_kind(shape);
    if (!kind) return json.error(phrase("the shape \"{}\" is not known.", shape), "shape");
    out.kind = *kind;
    return out;
}

Json section_json(const physics::VesselShape& section) {
    Json out = {{"shape", physics::vessel_name(section.kind)}};
    for (const auto& [key, value] :
         {std::pair{"diameter_m", section.diameter_m}, std::pair{"length_m", section.length_m},
          std::pair{"width_m", section.width_m}, std::pair{"height_m", section.height_m}})
        if (value != 0) out[key] = value;
    return out;
}

} // namespace cognitum
