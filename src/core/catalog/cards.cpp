#include "core/catalog/cards.h"

#include "core/signal_path/chain.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

template <typename T>
const T* find_by_id(const std::vector<T>& items, std::string_view id) {
    for (const T& item : items)
        if (item.id == id) return &item;
    return nullptr;
}

template <typename T>
const T* find_by_label(const std::vector<T>& items, std::string_view label) {
    for (const T& item : items)
        if (item.label == label) return &item;
    return nullptr;
}

Result<Constant> read_toleranced(const JsonReader& json, const std::string& key) {
    COGNITUM_TRY(value, json.number(key));
    COGNITUM_TRY(tolerance, json.number_or("tol_" + key, 0));
    if (!(value > 0)) return json.error("this must be above zero.", key);
    return Constant{value, tolerance, tolerance > 0 ? Spread::rectangular : Spread::none, "data sheet", {}};
}

Result<void> read_range(const JsonReader& json, PartCard& card) {
    COGNITUM_TRY(range, json.object("range"));
    COGNITUM_CHECK(range.only_keys({"low", "high", "unit"}));
    COGNITUM_TRY(low, range.number("low"));
    COGNITUM_TRY(high, range.number("high"));
    COGNITUM_TRY(unit, range.string("unit"));
    if (!(low < high)) return range.error("low must be below high.", "low");
    if (!find_unit(unit)) return range.error(fmt::format("the unit \"{}\" is not known.", unit), "unit");
    card.low = low;
    card.high = high;
    card.unit = unit;
    return {};
}

Result<void> read_supply(const JsonReader& json, PartCard& card) {
    COGNITUM_TRY(supply, json.object("supply"));
    COGNITUM_CHECK(supply.only_keys({"low_V", "high_V", "current_mA"}));
    COGNITUM_TRY(low, supply.number("low_V"));
    COGNITUM_TRY(high, supply.number("high_V"));
    COGNITUM_TRY(current, supply.number_or("current_mA", 0));
    if (!(low < high)) return supply.error("low_V must be below high_V.", "low_V");
    card.supply_low_V = low;
    card.supply_high_V = high;
    card.supply_mA = current;
    return {};
}

Result<void> read_legs(const JsonReader& json, PartCard& card) {
    static const std::vector<std::string> roles = {"supply", "output", "ground", "end"};
    COGNITUM_TRY(legs, json.list("legs"));
    for (const JsonReader& item : legs) {
        COGNITUM_CHECK(item.only_keys({"label", "role"}));
        COGNITUM_TRY(label, item.string("label"));
        COGNITUM_TRY(role, item.string("role"));
        if (std::find(roles.begin(), roles.end(), role) == roles.end())
            return item.error("a leg's role is supply, output, ground or end.", "role");
        card.legs.push_back({label, role});
    }
    if (card.legs.size() < 2) return json.error("a part has at least two legs.", "legs");
    return {};
}

Result<void> read_transfer(const JsonReader& json, PartCard& card) {
    COGNITUM_TRY(stages, json.list("transfer"));
    for (const JsonReader& item : stages) {
        COGNITUM_TRY(stage, read_stage(item));
        for (const NamedConstant& named : constants(stage))
            if (named.constant->origin.empty()) named.constant->origin = "data sheet";
        card.transfer.push_back(stage);
    }
    if (card.transfer.empty()) return json.error("a part needs at least one transfer stage.", "transfer");
    if (!same_unit(output_unit(card.transfer.back()), card.unit))
        return json.error(fmt::format("the transfer ends in {}, the range is in {}.",
                                      output_unit(card.transfer.back()), card.unit),
                          "transfer");
    if (!json.has("divider")) return {};
    COGNITUM_TRY(divider, json.object("divider"));
    COGNITUM_CHECK(divider.only_keys({"fixed_ohm", "tol_fixed_ohm", "unknown"}));
    COGNITUM_TRY(fixed, read_toleranced(divider, "fixed_ohm"));
    COGNITUM_TRY(unknown, divider.string("unknown"));
    if (unknown != "top" && unknown != "bottom") return divider.error("unknown must be top or bottom.", "unknown");
    card.divider = DividerNeed{fixed, unknown == "top" ? UnknownLeg::top : UnknownLeg::bottom};
    return {};
}

} // namespace

Result<PartCard> read_part_card(const JsonReader& json) {
    COGNITUM_CHECK(
        json.only_keys({"card",      "id",         "name",   "quantity", "range",     "accuracy", "drift_per_year",
                        "supply",    "response_s", "output", "legs",     "seen_from", "transfer", "divider",
                        "interface", "price",      "fails",  "needs",    "care",      "good_for"}));
    PartCard card;
    const auto text = [&](std::string_view key, std::string& out) -> Result<void> {
        COGNITUM_TRY(value, json.string_or(key, out));
        out = value;
        return {};
    };
    COGNITUM_TRY(id, json.string("id"));
    COGNITUM_TRY(name, json.string("name"));
    COGNITUM_TRY(quantity, json.string("quantity"));
    card.id = id;
    card.name = name;
    card.quantity = quantity;
    if (!find_quantity_kind(quantity))
        return json.error(fmt::format("the quantity \"{}\" is not known.", quantity), "quantity");
    COGNITUM_CHECK(read_range(json, card));
    COGNITUM_CHECK(read_supply(json, card));
    COGNITUM_CHECK(read_legs(json, card));
    COGNITUM_CHECK(read_transfer(json, card));
    COGNITUM_TRY(accuracy, json.number("accuracy"));
    COGNITUM_TRY(drift, json.number_or("drift_per_year", 0));
    COGNITUM_TRY(response, json.number("response_s"));
    card.accuracy = accuracy;
    card.drift_per_year = drift;
    card.response_s = response;
    if (json.has("output")) {
        COGNITUM_TRY(output, json.object("output"));
        COGNITUM_CHECK(output.only_keys({"low_V", "high_V"}));
        COGNITUM_TRY(low, output.number("low_V"));
        COGNITUM_TRY(high, output.number("high_V"));
        card.output_low_V = low;
        card.output_high_V = high;
    }
    for (auto& [key, field] :
         std::initializer_list<std::pair<const char*, std::string*>>{{"seen_from", &card.seen_from},
                                                                     {"interface", &card.interface},
                                                                     {"price", &card.price},
                                                                     {"fails", &card.fails},
                                                                     {"needs", &card.needs},
                                                                     {"care", &card.care},
                                                                     {"good_for", &card.good_for}})
        COGNITUM_CHECK(text(key, *field));
    return card;
}

namespace {

Result<void> read_references(const JsonReader& json, BoardCard& card) {
    COGNITUM_TRY(references, json.list("references"));
    for (const JsonReader& item : references) {
        COGNITUM_CHECK(item.only_keys({"id", "name", "voltage_V", "tol_voltage_V"}));
        COGNITUM_TRY(id, item.string("id"));
        COGNITUM_TRY(name, item.string("name"));
        COGNITUM_TRY(voltage, read_toleranced(item, "voltage_V"));
        card.references.push_back({id, name, voltage.value, voltage.doubt});
    }
    if (card.references.empty()) return json.error("a board needs at least one reference.", "references");
    return {};
}

Result<void> read_rails(const JsonReader& json, BoardCard& card) {
    COGNITUM_TRY(rails, json.list("rails"));
    for (const JsonReader& item : rails) {
        COGNITUM_CHECK(item.only_keys({"label", "voltage_V", "tol_voltage_V", "current_mA"}));
        COGNITUM_TRY(label, item.string("label"));
        COGNITUM_TRY(voltage, read_toleranced(item, "voltage_V"));
        COGNITUM_TRY(current, item.number("current_mA"));
        card.rails.push_back({label, voltage.value, voltage.doubt, current});
    }
    if (card.rails.empty()) return json.error("a board needs at least one rail.", "rails");
    return {};
}

Result<void> read_pins(const JsonReader& json, BoardCard& card) {
    COGNITUM_TRY(pins, json.list("pins"));
    for (const JsonReader& item : pins) {
        COGNITUM_CHECK(item.only_keys({"label", "functions", "taken_by"}));
        COGNITUM_TRY(label, item.string("label"));
        COGNITUM_TRY(taken_by, item.string_or("taken_by", {}));
        COGNITUM_TRY(functions, item.list("functions"));
        Pin pin{label, {}, taken_by};
        for (const JsonReader& function : functions) {
            if (!function.json().is_string()) return function.error("a function is a text in quotes.");
            pin.functions.push_back(function.json().get<std::string>());
        }
        if (card.pin(label)) return item.error(fmt::format("the pin {} is listed twice.", label), "label");
        card.pins.push_back(std::move(pin));
    }
    return {};
}

} // namespace

Result<BoardCard> read_board_card(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"card", "id", "name", "bits", "input_limit_V", "source_ohm_max", "baud",
                                   "references", "rails", "pins", "ground"}));
    BoardCard card;
    COGNITUM_TRY(id, json.string("id"));
    COGNITUM_TRY(name, json.string("name"));
    COGNITUM_TRY(bits, json.number("bits"));
    COGNITUM_TRY(limit, json.number("input_limit_V"));
    COGNITUM_TRY(source, json.number("source_ohm_max"));
    COGNITUM_TRY(baud, json.number_or("baud", card.baud));
    COGNITUM_TRY(ground, json.string_or("ground", card.ground));
    if (bits < 1 || bits > 32) return json.error("bits must be from 1 to 32.", "bits");
    card.id = id;
    card.name = name;
    card.bits = static_cast<int>(bits);
    card.input_limit_V = limit;
    card.source_ohm_max = source;
    card.baud = static_cast<int>(baud);
    card.ground = ground;
    COGNITUM_CHECK(read_references(json, card));
    COGNITUM_CHECK(read_rails(json, card));
    COGNITUM_CHECK(read_pins(json, card));
    return card;
}

bool Pin::can(std::string_view function) const {
    return std::find(functions.begin(), functions.end(), function) != functions.end();
}

const VoltageReference* BoardCard::reference(std::string_view wanted) const {
    return find_by_id(references, wanted);
}
const Rail* BoardCard::rail(std::string_view label) const {
    return find_by_label(rails, label);
}
const Pin* BoardCard::pin(std::string_view label) const {
    return find_by_label(pins, label);
}
const PartCard* Catalog::part(std::string_view id) const {
    return find_by_id(parts, id);
}
const BoardCard* Catalog::board(std::string_view id) const {
    return find_by_id(boards, id);
}

} // namespace cognitum
