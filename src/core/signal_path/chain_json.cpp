// The JSON form of a chain; that of its stages is in stage_json.cpp.
#include "core/base/phrase.h"
#include "core/signal_path/chain.h"
#include "core/units/unit.h"

#include <fmt/format.h>

namespace cognitum {

namespace {
constexpr std::size_t most_stages = 64; ///< of one path
} // namespace

Result<Chain> read_chain(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"name", "input_unit", "stages"}));
    Chain chain;
    COGNITUM_TRY(name, json.string_or("name", {}));
    chain.name = name;
    if (json.has("input_unit")) {
        COGNITUM_TRY(text, json.string("input_unit"));
        const Unit* unit = find_unit(text);
        if (!unit) return json.error(phrase("the unit \"{}\" is not known.", text), "input_unit");
        chain.input_unit = unit->code;
    }
    COGNITUM_TRY(stages, json.list("stages"));
    if (stages.size() > most_stages)
        return json.error(phrase("{} stages; at most {} are read.", stages.size(), most_stages), "stages");
    for (const JsonReader& item : stages) {
        COGNITUM_TRY(stage, read_stage(item));
        const std::string before = chain.stages.empty() ? chain.input_unit : chain.last_unit();
        const std::string wanted = input_unit(stage);
        if (!before.empty() && !same_unit(before, wanted))
            return item.error(phrase("this stage takes {}, but what comes before it gives {}.", wanted, before));
        chain.stages.push_back(std::move(stage));
    }
    return chain;
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
