#include "core/catalog/part_card.h"

#include "core/base/json_fields.h"
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/catalog/cards.h"
#include "core/signal_path/chain.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace cognitum {

namespace {

struct SpeechName {
    std::string name;
    Phrase title;
};
const std::array<SpeechName, 12> speech_names = {{{"analog", for_people("a voltage")},
                                                  {"resistive", for_people("a resistance")},
                                                  {"i2c", "I²C"},
                                                  {"spi", "SPI"},
                                                  {"one-wire", for_people("one-wire bus")},
                                                  {"single-bus", for_people("single-wire frames")},
                                                  {"serial", for_people("serial lines")},
                                                  {"pulse", for_people("pulses")},
                                                  {"digital", for_people("on and off")},
                                                  {"echo", for_people("echo pulse")},
                                                  {"radio", for_people("radio")},
                                                  {"load", for_people("switched by a pin")}}};

const std::vector<std::string> part_kinds = {"sensor",        "converter", "multiplexer", "bus-switch",
                                             "level-shifter", "load",      "receiver"}; // as PartKind has them

bool among(const std::vector<std::string>& list, std::string_view word) {
    return std::find(list.begin(), list.end(), word) != list.end();
}

Result<void> read_measurand(const JsonReader& json, PartCard& card) {
    Measurand m;
    JsonFields fields(json);
    fields.need("quantity", m.quantity)
        .need("unit", m.unit)
        .need("low", m.low)
        .need("high", m.high)
        .need("accuracy", m.accuracy)
        .amount("accuracy_percent", m.accuracy_percent)
        .amount("resolution", m.resolution)
        .amount("drift_per_year", m.drift_per_year)
        .list("limits",
              [&](const JsonReader& item) -> Result<void> {
                  AccuracyRange range;
                  JsonFields inner(item);
                  inner.need("low", range.low)
                      .need("high", range.high)
                      .need("accuracy", range.accuracy)
                      .amount("percent", range.percent)
                      .may("larger", range.larger);
                  inner.check(range.low < range.high, "low", phrase("low must be below high."));
                  inner.check(range.accuracy >= 0, "accuracy", phrase("this is not below zero."));
                  m.limits.push_back(range);
                  return inner.done();
              })
        .list("transfer", [&](const JsonReader& item) -> Result<void> {
            COGNITUM_TRY(stage, read_stage(item));
            for (const NamedConstant& named : constants(stage))
                if (named.constant->origin.empty()) named.constant->origin = phrase("data sheet");
            m.transfer.push_back(stage);
            return {};
        });
    fields.check(find_quantity_kind(m.quantity), "quantity",
                 phrase("the quantity \"{}\" is not known.", m.quantity));
    fields.check(find_unit(m.unit), "unit", phrase("the unit \"{}\" is not known.", m.unit));
    fields.check(m.low < m.high, "low", phrase("low must be below high."));
    fields.check(m.accuracy > 0, "accuracy", phrase("the accuracy must be above zero."));
    COGNITUM_CHECK(fields.done());
    const std::vector<std::string>& units = find_quantity_kind(m.quantity)->units;
    const Dimension dimension = find_unit(m.unit)->dimension;
    if (std::none_of(units.begin(), units.end(),
                     [&](const std::string& unit) { return find_unit(unit)->dimension == dimension; }))
        return json.error(
            phrase("{} is no unit of {}; use one of {}.", m.unit, m.quantity, accepted_units(units[0])), "unit");
    if (!m.transfer.empty() && !same_unit(output_unit(m.transfer.back()), m.unit))
        return json.error(
            phrase("the transfer ends in {}, the range is in {}.", output_unit(m.transfer.back()), m.unit),
            "transfer");
    card.measures.push_back(std::move(m));
    return {};
}

Result<void> read_supply(const JsonReader& json, PartCard& card) {
    Supply& s = card.supply;
    JsonFields fields(json);
    fields.need("low_V", s.low_V).need("high_V", s.high_V).amount("typical_mA", s.typical_mA);
    s.peak_mA = s.typical_mA;
    fields.amount("peak_mA", s.peak_mA).check(s.low_V < s.high_V, "low_V", phrase("low_V must be below high_V."));
    fields.check(s.peak_mA >= s.typical_mA, "peak_mA", phrase("the peak cannot be below the typical current."));
    return fields.done();
}

/// 7-bit bus address as "0x23" or a number.
Result<int> read_address(const JsonReader& json) {
    int address = -1;
    if (json.json().is_number_integer()) {
        address = json.json().get<int>();
    } else if (json.json().is_string()) {
        const auto text = json.json().get<std::string>();
        const bool hex = text.rfind("0x", 0) == 0;
        const char* begin = text.data() + (hex ? 2 : 0);
        const auto [end, code] = std::from_chars(begin, text.data() + text.size(), address, hex ? 16 : 10);
        if (code != std::errc{} || end != text.data() + text.size()) address = -1;
    }
    if (address < 0) return json.error(phrase("an address is written as \"0x23\"."));
    if (address > 0x77 || address < 0x08)
        return json.error(phrase("0x{:02X} is no 7-bit address (0x08 to 0x77); an eight-bit one is halved: "
                                 "0x{:02X}.",
                                 address, address / 2));
    return address;
}

Result<void> read_interface(const JsonReader& json, PartCard& card) {
    Interface& i = card.interface;
    std::string kind;
    JsonFields fields(json);
    fields.need("kind", kind)
        .may("strap", i.strap)
        .amount("max_kHz", i.max_kHz)
        .amount("pull_up_ohm", i.pull_up_ohm)
        .amount("capacitance_pF", i.capacitance_pF)
        .may("baud", i.baud)
        .amount("conversion_ms", i.conversion_ms)
        .may("open_drain", i.open_drain)
        .may("idle", i.idle)
        .amount("high_V", i.high_V)
        .amount("low_threshold_V", i.low_threshold_V)
        .may("heard_by", i.heard_by)
        .list("addresses", [&](const JsonReader& item) -> Result<void> {
            COGNITUM_TRY(address, read_address(item));
            i.addresses.push_back(address);
            return {};
        });
    const auto at =
        std::find_if(speech_names.begin(), speech_names.end(), [&](const SpeechName& s) { return s.name == kind; });
    std::string all;
    for (const SpeechName& s : speech_names)
        all += (all.empty() ? "" : ", ") + s.name;
    fields.check(at != speech_names.end(), "kind", phrase("an interface is one of {}.", all));
    COGNITUM_CHECK(fields.done());
    i.speech = static_cast<Speech>(at - speech_names.begin());
    if (i.speech == Speech::i2c && i.addresses.empty())
        return json.error(phrase("a part on I²C has at least one address."), "addresses");
    return {};
}

Result<void> read_leg(const JsonReader& json, PartCard& card) {
    Leg leg;
    JsonFields fields(json);
    fields.need("label", leg.label).need("role", leg.role);
    fields.check(among(leg_roles(), leg.role), "role",
                 phrase("a leg's role is one of {}.", fmt::join(leg_roles(), ", ")));
    fields.check(card.leg(leg.label) < 0, "label", phrase("the leg \"{}\" is listed twice.", leg.label));
    COGNITUM_CHECK(fields.done());
    card.legs.push_back(leg);
    return {};
}

Result<void> read_divider(const JsonReader& json, PartCard& card) {
    DividerNeed need;
    double tolerance = 0;
    std::string unknown;
    JsonFields fields(json);
    fields.above_zero("fixed_ohm", need.fixed_ohm.value)
        .amount("tol_fixed_ohm", tolerance)
        .need("unknown", unknown);
    fields.check(unknown == "top" || unknown == "bottom", "unknown", phrase("unknown must be top or bottom."));
    need.fixed_ohm.doubt = tolerance;
    need.fixed_ohm.spread = tolerance > 0 ? Spread::rectangular : Spread::none;
    need.fixed_ohm.origin = for_people("data sheet");
    need.unknown = unknown == "top" ? UnknownLeg::top : UnknownLeg::bottom;
    card.divider = need;
    return fields.done();
}

Result<void> read_channels(const JsonReader& json, PartCard& card) {
    Channels& c = card.channels;
    JsonFields fields(json);
    fields.may("count", c.count)
        .may("bits", c.bits)
        .may("full_scale_V", c.full_scale_V)
        .amount("tolerance", c.tolerance)
        .amount("samples_per_s", c.samples_per_s)
        .amount("resistance_ohm", c.resistance_ohm)
        .may("follows_supply", c.follows_supply)
        .may("one_way", c.one_way);
    fields.check(c.count >= 1 && c.count <= 64, "count", phrase("count must be from 1 to 64."));
    fields.check(c.bits >= 0 && c.bits <= 32, "bits", phrase("bits must be from 0 to 32."));
    return fields.done();
}

Result<void> read_network(const JsonReader& json, PartCard& card) {
    std::string kind;
    JsonFields fields(json);
    fields.need("kind", kind).above_zero("ohm", card.network.ohm);
    fields.check(kind == "shunt" || kind == "bias", "kind", phrase("a network is a shunt or a bias."));
    card.network.kind = kind == "shunt" ? Network::Kind::shunt : Network::Kind::bias;
    return fields.done();
}

Result<void> read_failure(const JsonReader& json, PartCard& card) {
    FailureValue f;
    JsonFields fields(json);
    double at_least = no_number;
    double at_most = at_least;
    fields.may("value", f.value).may("at_least", at_least).may("at_most", at_most).need("means", f.means);
    if (std::isfinite(at_least)) f.at_least = at_least;
    if (std::isfinite(at_most)) f.at_most = at_most;
    fields.check(!f.value.empty() || f.at_least || f.at_most, "value",
                 phrase("say which value, or from (at_least) or up to (at_most) which number."));
    card.failure_values.push_back(f);
    return fields.done();
}

Result<void> read_environment(const JsonReader& json, PartCard& card) {
    Environment& e = card.environment;
    JsonFields fields(json);
    fields.may("water", e.water)
        .may("food", e.food)
        .may("outdoors", e.outdoors)
        .may("hottest_degC", e.hottest_degC);
    return fields.done();
}

} // namespace

const std::vector<std::string>& leg_roles() {
    static const std::vector<std::string> roles = {
        "supply",   "ground",   "end",     "bias",    "output",  "data",    "clock", "select", "data-in",
        "data-out", "transmit", "receive", "trigger", "control", "channel", "strap", "unused"};
    return roles;
}

bool is_signal(const Leg& leg) {
    static const std::vector<std::string> others = {"supply",  "ground", "end",   "bias",
                                                    "channel", "strap",  "unused"};
    return !among(others, leg.role);
}

PartCard::PartCard() = default;
PartCard::PartCard(const PartCard& other) = default;
PartCard::PartCard(PartCard&& other) noexcept = default;
PartCard& PartCard::operator=(const PartCard& other) = default;
PartCard& PartCard::operator=(PartCard&& other) noexcept = default;
PartCard::~PartCard() = default;

const std::vector<std::string>& part_drivers() {
    static const std::vector<std::string> all = {
        "one-wire-thermometer", "single-wire-fine",    "single-wire-coarse",  "light-i2c",
        "thermometer-i2c",      "humidity-i2c",        "thermocouple-spi",    "load-cell",
        "converter-16bit-i2c",  "converter-12bit-i2c", "converter-10bit-spi", "air-pressure-i2c",
        "carbon-dioxide-i2c",   "infrared-i2c",        "thermocouple-i2c",    "platinum-spi"};
    return all;
}

const std::string& part_kind_name(PartKind kind) {
    return part_kinds[static_cast<std::size_t>(kind)];
}
const std::string& speech_name(Speech speech) {
    return speech_names[static_cast<std::size_t>(speech)].name;
}
std::string speech_title(Speech speech) {
    return speech_names[static_cast<std::size_t>(speech)].title;
}

std::string failure_text(const FailureValue& value) {
    if (!value.value.empty()) return value.value;
    std::string out;
    if (value.at_most) out = phrase("at most {}", format_constant(*value.at_most, 6));
    if (value.at_least)
        out += (out.empty() ? phrase("at least ") : phrase(" or at least ")) + format_constant(*value.at_least, 6);
    return out;
}

double Measurand::limit_at(double value) const {
    for (const AccuracyRange& range : limits) {
        if (value < range.low || value > range.high) continue;
        const double share = range.percent / 100 * std::abs(value);
        return range.larger ? std::max(range.accuracy, share) : range.accuracy + share;
    }
    return accuracy + accuracy_percent / 100 * std::abs(value);
}

double Measurand::limit_between(double from, double to) const {
    double most = 0;
    constexpr int steps = 40;
    for (int i = 0; i <= steps; ++i)
        most = std::max(most, limit_at(from + (to - from) * i / steps));
    return most;
}

const Measurand* PartCard::measurand(std::string_view quantity) const {
    for (const Measurand& m : measures)
        if (m.quantity == quantity) return &m;
    return nullptr;
}

int PartCard::leg(std::string_view label) const {
    for (std::size_t i = 0; i < legs.size(); ++i)
        if (legs[i].label == label) return static_cast<int>(i);
    return -1;
}

int PartCard::leg_with_role(std::string_view role) const {
    for (std::size_t i = 0; i < legs.size(); ++i)
        if (legs[i].role == role) return static_cast<int>(i);
    return -1;
}

double price_guess(std::string_view price_class) {
    return price_class == "€€€" ? 35 : price_class == "€€" ? 12 : 3;
}

Result<PartCard> read_part_card(const JsonReader& json) {
    COGNITUM_CHECK(check_card_schema(json));
    PartCard card;
    JsonFields fields(json);
    const auto into = [&card](auto read) {
        return [&card, read](const JsonReader& inner) { return read(inner, card); };
    };
    fields.known("card").known("schema").need("id", card.id).need("name", card.name);
    fields.check(!card.id.empty() && card.id.find_first_of("/\\. ") == std::string::npos, "id",
                 phrase("an id is words joined by hyphens."));
    std::string kind = part_kind_name(card.kind);
    fields.may("kind", kind)
        .may("family", card.family)
        .check(among(part_kinds, kind), "kind", phrase("a kind is one of {}.", fmt::join(part_kinds, ", ")))
        .list("measures", into(read_measurand))
        .object("supply", into(read_supply))
        .object("interface", into(read_interface))
        .list("legs", into(read_leg))
        .object("divider", into(read_divider))
        .object("channels", into(read_channels))
        .object("network", into(read_network))
        .object("environment", into(read_environment))
        .list("failure_values", into(read_failure))
        .object("output",
                [&](const JsonReader& output) {
                    JsonFields inner(output);
                    return inner.need("low_V", card.output_low_V).need("high_V", card.output_high_V).done();
                })
        .amount("response_s", card.response_s)
        .amount("warm_up_s", card.warm_up_s)
        .amount("minimum_interval_s", card.minimum_interval_s)
        .amount("sample_s", card.sample_s)
        .amount("dead_zone_mm", card.dead_zone_mm)
        .amount("beam_deg", card.beam_deg)
        .amount("self_heating_K", card.self_heating_K)
        .amount("decoupling_nF", card.decoupling_nF)
        .amount("needs_pull_up_ohm", card.needs_pull_up_ohm)
        .may("mains", card.mains)
        .may("lamp", card.lamp)
        .may("adjusters", card.adjusters)
        .may("driver", card.driver);
    const std::vector<std::string>& drivers = part_drivers();
    fields.check(card.driver.empty() || std::find(drivers.begin(), drivers.end(), card.driver) != drivers.end(),
                 "driver", phrase("a driver is one of {}.", fmt::join(drivers, ", ")));
    fields.may("price", card.price).may("marking", card.marking);
    for (auto& [key, field] : std::initializer_list<std::pair<const char*, Phrase*>>{{"seen_from", &card.seen_from},
                                                                                     {"fails", &card.fails},
                                                                                     {"needs", &card.needs},
                                                                                     {"care", &card.care},
                                                                                     {"good_for", &card.good_for},
                                                                                     {"school", &card.school}})
        fields.may(key, *field);
    fields.check(card.price == "€" || card.price == "€€" || card.price == "€€€", "price",
                 phrase("a price class is €, €€ or €€€."));
    fields.check(card.interface.speech == Speech::radio || card.legs.size() >= 2, "legs",
                 phrase("a part has at least two legs."));
    fields.check(card.legs.size() <= 64, "legs", phrase("a part has at most 64 legs."));
    for (std::size_t i = 0; i < part_kinds.size(); ++i)
        if (part_kinds[i] == kind) card.kind = static_cast<PartKind>(i);
    fields.check(card.kind != PartKind::sensor || !card.measures.empty(), "measures",
                 phrase("a sensor measures at least one quantity."));
    COGNITUM_CHECK(fields.done());
    return card;
}

} // namespace cognitum
