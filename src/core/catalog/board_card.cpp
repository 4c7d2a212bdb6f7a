#include "core/catalog/board_card.h"

#include "core/base/json_fields.h"
#include "core/base/phrase.h"
#include "core/catalog/cards.h"

#include <algorithm>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace cognitum {

namespace {

constexpr std::size_t most_pins = 200;

template <typename T>
const T* find_by_label(const std::vector<T>& items, std::string_view label) {
    for (const T& item : items)
        if (item.label == label) return &item;
    return nullptr;
}

Result<void> read_reference(const JsonReader& json, BoardCard& card) {
    VoltageReference r;
    JsonFields fields(json);
    fields.need("id", r.id)
        .need("name", r.name)
        .above_zero("voltage_V", r.voltage_V)
        .amount("tol_voltage_V", r.tolerance_V)
        .amount("stability_V", r.stability_V)
        .may("follows", r.follows);
    card.references.push_back(r);
    return fields.done();
}

Result<void> read_rail(const JsonReader& json, BoardCard& card) {
    Rail r;
    JsonFields fields(json);
    fields.need("label", r.label)
        .above_zero("voltage_V", r.voltage_V)
        .amount("tol_voltage_V", r.tolerance_V)
        .amount("stability_V", r.stability_V)
        .above_zero("current_mA", r.current_mA)
        .may("regulated", r.regulated);
    card.rails.push_back(r);
    return fields.done();
}

Result<void> read_pin(const JsonReader& json, BoardCard& card) {
    Pin p;
    JsonFields fields(json);
    fields.need("label", p.label)
        .may("port", p.port)
        .may("functions", p.functions)
        .may("direction", p.direction)
        .may("taken_by", p.taken_by)
        .may("monitor", p.monitor)
        .may("boot", p.boot)
        .may("boot_means", p.boot_means)
        .may("boot_stops", p.boot_stops)
        .may("pull_up", p.pull_up)
        .may("lost_with_radio", p.lost_with_radio)
        .amount("drive_mA", p.drive_mA);
    fields.check(p.direction == "both" || p.direction == "in", "direction", phrase("a direction is both or in."));
    fields.check(p.boot.empty() || p.boot == "high" || p.boot == "low", "boot", phrase("boot is high or low."));
    fields.check(!card.pin(p.label), "label", phrase("the pin {} is listed twice.", p.label));
    for (const std::string& f : p.functions)
        fields.check(std::find(pin_functions().begin(), pin_functions().end(), f) != pin_functions().end(),
                     "functions", phrase("a function is one of {}.", fmt::join(pin_functions(), ", ")));
    COGNITUM_CHECK(fields.done());
    if (card.pins.size() >= most_pins)
        return json.error(phrase("a board has at most {} pins; this card lists more.", most_pins));
    card.pins.push_back(std::move(p));
    return {};
}

Result<void> read_regulator(const JsonReader& json, BoardCard& card) {
    Regulator& r = card.regulator;
    JsonFields fields(json);
    fields.amount("dropout_V", r.dropout_V)
        .amount("limit_mA", r.limit_mA)
        .amount("K_per_W", r.K_per_W)
        .may("junction_max_degC", r.junction_max_degC);
    return fields.done();
}

} // namespace

const std::vector<std::string>& pin_functions() {
    static const std::vector<std::string> all = {for_people("analog"),
                                                 for_people("digital"),
                                                 for_people("interrupt"),
                                                 "pwm",
                                                 "sda",
                                                 "scl",
                                                 for_people("wake"),
                                                 for_people("spi-clock"),
                                                 for_people("spi-in"),
                                                 for_people("spi-out"),
                                                 for_people("serial-in"),
                                                 "dac",
                                                 for_people("serial-out")};
    return all;
}

Result<BoardCard> read_board_card(const JsonReader& json) {
    BoardCard c;
    COGNITUM_CHECK(check_card_schema(json));
    JsonFields fields(json);
    const auto into = [&c](auto read) { return [&c, read](const JsonReader& inner) { return read(inner, c); }; };
    fields.known("card").known("schema").need("id", c.id).need("name", c.name);
    for (auto& [key, field] :
         std::initializer_list<std::pair<const char*, double*>>{{"usable_low_V", &c.usable_low_V},
                                                                {"usable_high_V", &c.usable_high_V},
                                                                {"input_Mohm", &c.input_Mohm},
                                                                {"source_ohm_max", &c.source_ohm_max},
                                                                {"analog_limit_V", &c.analog_limit_V},
                                                                {"drive_mA", &c.drive_mA},
                                                                {"pins_total_mA", &c.pins_total_mA},
                                                                {"input_low_V", &c.input_low_V},
                                                                {"input_high_V", &c.input_high_V},
                                                                {"asleep_mA", &c.asleep_mA},
                                                                {"awake_mA", &c.awake_mA},
                                                                {"transmitting_mA", &c.transmitting_mA},
                                                                {"usb_mA", &c.usb_mA},
                                                                {"i2c_pull_up_ohm", &c.i2c_pull_up_ohm}})
        fields.amount(key, *field);
    fields.may("bits", c.bits)
        .check(c.bits >= 1 && c.bits <= 32, "bits", phrase("bits must be from 1 to 32."))
        .above_zero("input_limit_V", c.input_limit_V)
        .above_zero("logic_V", c.logic_V)
        .above_zero("high_threshold_V", c.high_threshold_V)
        .may("baud", c.baud)
        .may("ground", c.ground)
        .may("usb", c.usb)
        .may("lithium", c.lithium)
        .may("radio", c.radio)
        .may("wired_network", c.wired_network)
        .may("not_advised", c.not_advised)
        .may("programming", c.programming)
        .may("price", c.price)
        .may("good_for", c.good_for)
        .list("references", into(read_reference))
        .list("rails", into(read_rail))
        .list("pins", into(read_pin))
        .object("regulator", into(read_regulator));
    fields.check(!c.references.empty(), "references", phrase("a board needs at least one reference."));
    fields.check(!c.rails.empty(), "rails", phrase("a board needs at least one rail."));
    for (const VoltageReference& r : c.references)
        fields.check(r.follows.empty() || c.rail(r.follows), "references",
                     phrase("the reference {} follows a rail {} that is not there.", r.id, r.follows));
    COGNITUM_CHECK(fields.done());
    if (!(c.analog_limit_V > 0)) c.analog_limit_V = c.input_limit_V;
    for (Pin& pin : c.pins)
        if (!(pin.drive_mA > 0)) pin.drive_mA = c.drive_mA;
    return c;
}

bool Pin::can(std::string_view function) const {
    return std::find(functions.begin(), functions.end(), function) != functions.end();
}

BoardCard::BoardCard() = default;
BoardCard::BoardCard(const BoardCard& other) = default;
BoardCard::BoardCard(BoardCard&& other) noexcept = default;
BoardCard& BoardCard::operator=(const BoardCard& other) = default;
BoardCard& BoardCard::operator=(BoardCard&& other) noexcept = default;
BoardCard::~BoardCard() = default;

const VoltageReference* BoardCard::reference(std::string_view wanted) const {
    for (const VoltageReference& r : references)
        if (r.id == wanted) return &r;
    return nullptr;
}
const Rail* BoardCard::rail(std::string_view label) const {
    return find_by_label(rails, label);
}
const Rail& BoardCard::logic_rail() const {
    return *std::min_element(rails.begin(), rails.end(), [&](const Rail& a, const Rail& b) {
        return std::abs(a.voltage_V - logic_V) < std::abs(b.voltage_V - logic_V);
    });
}
const Pin* BoardCard::pin(std::string_view label) const {
    return find_by_label(pins, label);
}
const Pin* BoardCard::pin_for(std::string_view function) const {
    for (const Pin& p : pins)
        if (p.can(function) && p.taken_by.empty()) return &p;
    return nullptr;
}

} // namespace cognitum
