#include "core/bench/wiring.h"

#include "core/base/json_fields.h"

#include <algorithm>

namespace cognitum {

const Connection* Wiring::connection(std::string_view leg) const {
    const auto at = std::find_if(pins.begin(), pins.end(), [&](const Connection& c) { return c.leg == leg; });
    return at == pins.end() ? nullptr : &*at;
}

Connection* Wiring::connection(std::string_view leg) {
    return const_cast<Connection*>(std::as_const(*this).connection(leg));
}

void Wiring::set_pin(const std::string& pin) {
    if (pins.empty()) pins.push_back({});
    pins.front().pin = pin;
}

Json divider_json(const LevelDivider& d) {
    return {{"top_ohm", d.top_ohm}, {"bottom_ohm", d.bottom_ohm}};
}

Result<void> read_level_divider(const JsonReader& json, LevelDivider& out) {
    JsonFields fields(json);
    fields.need("top_ohm", out.top_ohm).need("bottom_ohm", out.bottom_ohm);
    fields.check(out.top_ohm >= 0 && out.bottom_ohm > 0, "bottom_ohm", "both resistors must be above zero.");
    return fields.done();
}

Json connections_json(const std::vector<Connection>& pins) {
    Json list = Json::array();
    for (const Connection& c : pins) {
        Json item = {{"leg", c.leg}, {"pin", c.pin}};
        if (c.fixed) item["fixed"] = true;
        if (c.divider.there()) item["divider"] = divider_json(c.divider);
        list.push_back(item);
    }
    return list;
}

Result<std::vector<Connection>> read_connections(const JsonReader& json, const std::string& key) {
    std::vector<Connection> out;
    if (!json.has(key)) return out;
    COGNITUM_TRY(items, json.list(key));
    for (const JsonReader& item : items) {
        Connection c;
        JsonFields fields(item);
        fields.need("leg", c.leg).may("pin", c.pin).may("fixed", c.fixed);
        fields.object("divider", [&](const JsonReader& d) { return read_level_divider(d, c.divider); });
        fields.check(std::none_of(out.begin(), out.end(), [&](const Connection& o) { return o.leg == c.leg; }),
                     "leg", "this leg is wired twice.");
        COGNITUM_CHECK(fields.done());
        out.push_back(c);
    }
    return out;
}

Json wiring_json(const Wiring& w) {
    Json out = {{"board", w.board}, {"rail", w.rail}, {"reference", w.reference}};
    out["pins"] = connections_json(w.pins);
    const Wiring plain;
    if (!w.module.empty()) out["module"] = w.module;
    if (w.address != 0) out["address"] = w.address;
    if (w.pull_up_ohm != 0) out["pull_up_ohm"] = w.pull_up_ohm;
    if (w.cable_m != plain.cable_m) out["cable_m"] = w.cable_m;
    if (w.decoupled) out["decoupled"] = true;
    if (w.parasite) out["parasite"] = true;
    if (w.own_supply_V != 0) out["own_supply_V"] = w.own_supply_V;
    if (!w.ground_joined) out["ground_joined"] = false;
    if (w.input_protected) out["input_protected"] = true;
    if (w.turned) out["turned"] = true;
    if (!w.colours.empty()) {
        out["colours"] = Json::object();
        for (const auto& [leg, colour] : w.colours)
            out["colours"][leg] = colour;
    }
    out["ticked"] = w.ticked;
    out["mended"] = w.mended;
    return out;
}

Result<Wiring> read_wiring(const JsonReader& json) {
    Wiring w;
    JsonFields fields(json);
    fields.may("board", w.board)
        .may("rail", w.rail)
        .may("reference", w.reference)
        .known("pins")
        .may("module", w.module)
        .may("address", w.address)
        .may("pull_up_ohm", w.pull_up_ohm)
        .may("cable_m", w.cable_m)
        .may("decoupled", w.decoupled)
        .may("parasite", w.parasite)
        .may("own_supply_V", w.own_supply_V)
        .may("ground_joined", w.ground_joined)
        .may("input_protected", w.input_protected)
        .may("turned", w.turned)
        .object("colours",
                [&](const JsonReader& colours) -> Result<void> {
                    for (const auto& [leg, colour] : colours.json().items()) {
                        if (!colour.is_string()) return colours.error("a colour is a word in quotes.", leg);
                        w.colours.emplace_back(leg, colour.get<std::string>());
                    }
                    return {};
                })
        .list("ticked",
              [&](const JsonReader& item) -> Result<void> {
                  if (!item.json().is_number_integer()) return item.error("a step's number is needed here.");
                  w.ticked.push_back(item.json().get<int>());
                  return {};
              })
        .may("mended", w.mended);
    fields.check(w.cable_m >= 0 && w.cable_m <= 1000, "cable_m", "a cable is from 0 to 1000 m long.");
    fields.check(w.address >= 0 && w.address <= 255, "address", "an address is from 0 to 255.");
    COGNITUM_CHECK(fields.done());
    COGNITUM_TRY(pins, read_connections(json, "pins"));
    w.pins = pins;
    return w;
}

} // namespace cognitum
