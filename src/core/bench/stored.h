// How a bench's plan stands in its file and in JSON: one description of each struct (docs/file-format.md names the
// same keys). Only the *_json.cpp files and tests include this.
#pragma once

#include "core/base/described.h"
#include "core/bench/bench.h"
#include "core/decode/format.h"
#include "core/units/unit.h"

#include <algorithm>

namespace cognitum {

struct ChainForm {
    Json write(const Chain& chain) const { return chain_json(chain); }
    Result<void> read(const JsonReader& json, Chain& out) const {
        COGNITUM_TRY(chain, read_chain(json));
        out = std::move(chain);
        return {};
    }
};

inline constexpr std::pair<LinkKind, const char*> link_kinds[] = {
    {LinkKind::none, "none"}, {LinkKind::serial, "serial"}, {LinkKind::simulated, "simulated"},
    {LinkKind::mqtt, "mqtt"}, {LinkKind::http, "http"},     {LinkKind::file, "file"}};

inline bool is_port(int port) {
    return port > 0 && port < 65536;
}
inline constexpr const char* port_rule = "a port is a whole number from 1 to 65 535.";

template <>
struct Description<MqttPlan> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("host", &MqttPlan::host)
            .always("port", &MqttPlan::port)
            .always("topics", &MqttPlan::topics)
            .may("status_topic", &MqttPlan::status_topic)
            .may("gone_word", &MqttPlan::gone_word)
            .may("version", &MqttPlan::version)
            .may("tls", &MqttPlan::tls)
            .may("ca_file", &MqttPlan::ca_file)
            .may("log_in", &MqttPlan::log_in)
            .may("command_topic", &MqttPlan::command_topic);
        f.rule(
            "port", [](const MqttPlan& m) { return is_port(m.port); }, port_rule);
        f.rule(
            "version", [](const MqttPlan& m) { return m.version == 4 || m.version == 5; },
            "the protocol level is 4 (3.1.1) or 5.");
    }
};

template <>
struct Description<HttpPlan> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("port", &HttpPlan::port).may("wide", &HttpPlan::wide).may("token_print", &HttpPlan::token_print);
        f.rule(
            "port", [](const HttpPlan& h) { return is_port(h.port); }, port_rule);
        f.rule(
            "wide", [](const HttpPlan& h) { return !h.wide || !h.token_print.empty(); },
            "a receiver that listens beyond this computer needs a token.");
    }
};

template <>
struct Description<FilePlan> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("path", &FilePlan::path).always("follow", &FilePlan::follow).always("speed", &FilePlan::speed);
        f.rule(
            "speed", [](const FilePlan& p) { return p.speed >= 0; }, "the speed of a replay is 0 or more.");
    }
};

template <>
struct Description<LinkPlan> {
    static bool is_frame(const std::string& frame) {
        return frame.size() == 3 && (frame[0] == '7' || frame[0] == '8') &&
               (frame[1] == 'N' || frame[1] == 'E' || frame[1] == 'O') && (frame[2] == '1' || frame[2] == '2');
    }
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("kind", &LinkPlan::kind,
               NamedForm<LinkKind>{link_kinds, "a link's kind is none, serial, simulated, mqtt, http or file."})
            .always("port", &LinkPlan::port)
            .always("baud", &LinkPlan::baud)
            .always("seed", &LinkPlan::seed)
            .may("simulated", &LinkPlan::simulated)
            .may("find_speed", &LinkPlan::find_speed)
            .may("frame", &LinkPlan::frame)
            .may("may_reset", &LinkPlan::may_reset)
            .may("format", &LinkPlan::format)
            .may("mqtt", &LinkPlan::mqtt)
            .may("http", &LinkPlan::http)
            .may("file", &LinkPlan::file);
        f.rule(
            "baud", [](const LinkPlan& l) { return l.baud >= 50 && l.baud <= 4'000'000; },
            "the speed must be from 50 to 4 000 000 Bd.");
        f.rule(
            "frame", [](const LinkPlan& l) { return is_frame(l.frame); },
            "a frame is data bits, parity and stop bits, such as 8N1 or 7E1.");
        f.rule(
            "format", [](const LinkPlan& l) { return parse_format(l.format).has_value(); },
            [](const LinkPlan& l) { return parse_format(l.format).error().what; });
    }
};

template <>
struct Description<LevelDivider> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("top_ohm", &LevelDivider::top_ohm).must("bottom_ohm", &LevelDivider::bottom_ohm);
        f.rule(
            "bottom_ohm", [](const LevelDivider& d) { return d.top_ohm >= 0 && d.bottom_ohm > 0; },
            "both resistors must be above zero.");
    }
};

template <>
struct Description<Connection> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("leg", &Connection::leg)
            .always("pin", &Connection::pin)
            .may("fixed", &Connection::fixed)
            .may("divider", &Connection::divider);
    }
};

/// Each leg once.
inline bool legs_differ(const std::vector<Connection>& pins) {
    for (std::size_t i = 0; i < pins.size(); ++i)
        for (std::size_t j = 0; j < i; ++j)
            if (pins[i].leg == pins[j].leg) return false;
    return true;
}

/// {leg: colour}
struct ColoursForm {
    using Colours = std::vector<std::pair<std::string, std::string>>;
    Json write(const Colours& colours) const {
        Json out = Json::object();
        for (const auto& [leg, colour] : colours)
            out[leg] = colour;
        return out;
    }
    Result<void> read(const JsonReader& json, Colours& out) const {
        COGNITUM_TRY(members, json.members());
        for (const auto& [leg, colour] : members) {
            if (!colour.json().is_string()) return colour.error("a colour is a word in quotes.");
            out.emplace_back(leg, colour.json().template get<std::string>());
        }
        return {};
    }
};

template <>
struct Description<Wiring> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("board", &Wiring::board)
            .always("rail", &Wiring::rail)
            .always("reference", &Wiring::reference)
            .always("pins", &Wiring::pins)
            .may("module", &Wiring::module)
            .may("address", &Wiring::address)
            .may("pull_up_ohm", &Wiring::pull_up_ohm)
            .may("cable_m", &Wiring::cable_m)
            .may("decoupled", &Wiring::decoupled)
            .may("parasite", &Wiring::parasite)
            .may("own_supply_V", &Wiring::own_supply_V)
            .may("ground_joined", &Wiring::ground_joined)
            .may("input_protected", &Wiring::input_protected)
            .may("turned", &Wiring::turned)
            .may("colours", &Wiring::colours, ColoursForm{})
            .always("ticked", &Wiring::ticked)
            .always("mended", &Wiring::mended);
        f.rule(
            "pins", [](const Wiring& w) { return legs_differ(w.pins); }, "a leg is wired twice.");
        f.rule(
            "cable_m", [](const Wiring& w) { return w.cable_m >= 0 && w.cable_m <= 1000; },
            "a cable is from 0 to 1000 m long.");
        f.rule(
            "address", [](const Wiring& w) { return w.address >= 0 && w.address <= 255; },
            "an address is from 0 to 255.");
    }
};

template <>
struct Description<Uplink> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("to", &Uplink::to)
            .always("transmit_pin", &Uplink::transmit_pin)
            .always("receive_pin", &Uplink::receive_pin)
            .always("baud", &Uplink::baud)
            .always("far_baud", &Uplink::far_baud)
            .may("divider", &Uplink::divider);
    }
};

template <>
struct Description<CommandButton> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("label", &CommandButton::label)
            .must("line", &CommandButton::line)
            .always("answer_s", &CommandButton::answer_s);
    }
};

template <>
struct Description<BoardUse> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("id", &BoardUse::id)
            .must("name", &BoardUse::name)
            .always("card", &BoardUse::card)
            .always("link", &BoardUse::link)
            .may("radio_on", &BoardUse::radio_on)
            .may("supply_V", &BoardUse::supply_V)
            .may("adapter_V", &BoardUse::adapter_V)
            .may("code_baud", &BoardUse::code_baud)
            .may("bytes_per_line", &BoardUse::bytes_per_line)
            .may("sleep_s", &BoardUse::sleep_s)
            .may("wake_s", &BoardUse::wake_s)
            .may("upload_s", &BoardUse::upload_s)
            .may("quota_s", &BoardUse::quota_s)
            .may("i2c_kHz", &BoardUse::i2c_kHz)
            .may("i2c_pull_up_ohm", &BoardUse::i2c_pull_up_ohm)
            .may("ambient_degC", &BoardUse::ambient_degC)
            .may("uplink", &BoardUse::uplink)
            .may("buttons", &BoardUse::buttons);
        f.rule(
            "i2c_kHz", [](const BoardUse& b) { return b.i2c_kHz > 0; }, "the bus speed must be above zero.");
    }
};

template <>
struct Description<Module> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("id", &Module::id)
            .must("name", &Module::name)
            .always("part", &Module::part)
            .always("board", &Module::board)
            .always("rail", &Module::rail)
            .always("pins", &Module::pins)
            .may("address", &Module::address)
            .may("module", &Module::module)
            .may("switched_by", &Module::switched_by)
            .may("screened", &Module::screened)
            .may("own_supply_V", &Module::own_supply_V)
            .may("ground_joined", &Module::ground_joined);
        f.rule(
            "pins", [](const Module& m) { return legs_differ(m.pins); }, "a leg is wired twice.");
    }
};

template <>
struct Description<ReferenceInstrument> {
    template <typename Fields>
    static void fields(Fields& f) {
        using R = ReferenceInstrument;
        f.must("id", &R::id)
            .must("name", &R::name)
            .must("kind", &R::kind)
            .must("unit", &R::unit)
            .must("u", &R::u)
            .may("resolution", &R::resolution)
            .may("design", &R::design)
            .may("certificate", &R::certificate)
            .may("certified", &R::certified, TimeForm{})
            .may("due", &R::due, TimeForm{});
        f.rule(
            "u", [](const R& r) { return r.u > 0; },
            "a reference without doubt does not exist: write its standard uncertainty.");
        f.rule(
            "resolution", [](const R& r) { return r.resolution >= 0; }, "a step of a display is not below zero.");
        f.rule(
            "unit", [](const R& r) { return find_unit(r.unit) != nullptr; }, "this unit is not known.");
        f.rule(
            "kind", [](const R& r) { return find_quantity_kind(r.kind) != nullptr; },
            "this kind of quantity is not known.");
    }
};

template <>
struct Description<Surroundings> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("water", &Surroundings::water)
            .always("food", &Surroundings::food)
            .always("outdoors", &Surroundings::outdoors)
            .always("beside_regulator", &Surroundings::beside_regulator)
            .always("hottest_degC", &Surroundings::hottest_degC);
    }
};

template <>
struct Description<Vessel> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("shape", &Vessel::shape)
            .always("width_mm", &Vessel::width_mm)
            .always("length_mm", &Vessel::length_mm)
            .always("height_mm", &Vessel::height_mm)
            .always("mount_mm", &Vessel::mount_mm)
            .always("full_mm", &Vessel::full_mm)
            .may("diameter_mm", &Vessel::diameter_mm)
            .may("empty_mm", &Vessel::empty_mm)
            .may("bulge_percent", &Vessel::bulge_percent)
            .may("levels_mm", &Vessel::levels_mm)
            .may("volumes_L", &Vessel::volumes_L);
        f.rule(
            "levels_mm", [](const Vessel& v) { return v.levels_mm.size() == v.volumes_L.size(); },
            "a strapping table has as many volumes as levels.");
    }
};

template <>
struct Description<Funnel> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("area_cm2", &Funnel::area_cm2).always("tip_mL", &Funnel::tip_mL);
    }
};

template <>
struct Description<Quantity> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("kind", &Quantity::kind)
            .must("unit", &Quantity::unit)
            .must("low", &Quantity::low)
            .must("high", &Quantity::high)
            .must("accuracy", &Quantity::accuracy)
            .must("interval_s", &Quantity::interval_s)
            .always("place", &Quantity::place)
            .may("sample_s", &Quantity::sample_s)
            .may("change_s", &Quantity::change_s)
            .may("stale_s", &Quantity::stale_s)
            .may("around", &Quantity::around)
            .may("vessel", &Quantity::vessel)
            .may("funnel", &Quantity::funnel)
            .may("altitude_m", &Quantity::altitude_m)
            .may("expected_when", &Quantity::expected_when);
        f.rule(
            "kind", [](const Quantity& q) { return find_quantity_kind(q.kind) != nullptr; },
            [](const Quantity& q) { return "the quantity \"" + q.kind + "\" is not known."; });
        f.rule(
            "unit", [](const Quantity& q) { return find_unit(q.unit) != nullptr; },
            [](const Quantity& q) { return "the unit \"" + q.unit + "\" is not known."; });
        f.rule(
            "low", [](const Quantity& q) { return q.low < q.high; }, "low must be below high.");
        f.rule(
            "accuracy", [](const Quantity& q) { return q.accuracy > 0; },
            "the needed accuracy must be above zero.");
        f.rule(
            "interval_s", [](const Quantity& q) { return q.interval_s > 0; }, "the interval must be above zero.");
    }
};

template <>
struct Description<Rejected> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("part", &Rejected::part).always("because", &Rejected::because);
    }
};

template <>
struct Description<SensorChoice> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("part", &SensorChoice::part)
            .always("reason", &SensorChoice::reason)
            .may("rejected", &SensorChoice::rejected)
            .may("marking", &SensorChoice::marking)
            .may("shared_with", &SensorChoice::shared_with);
    }
};

template <>
struct Description<Source> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.may("field", &Source::field)
            .may("signal", &Source::signal)
            .may("collect", &Source::collect)
            .may("feed", &Source::feed)
            .may("unit", &Source::unit);
        f.rule(
            "collect",
            [](const Source& s) { return s.collect.empty() || s.collect == "beats" || s.collect == "rate"; },
            "numbers are collected to \"beats\" or to a \"rate\".");
        f.rule(
            "unit", [](const Source& s) { return s.unit.empty() || find_unit(s.unit); }, "this unit is not known.");
    }
};

template <>
struct Description<SignOff> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("stage", &SignOff::stage)
            .must("time", &SignOff::time, TimeForm{})
            .always("by", &SignOff::by)
            .always("passed", &SignOff::passed)
            .always("note", &SignOff::note);
    }
};

template <>
struct Description<BringUp> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("signs", &BringUp::signs)
            .may("disturbed", &BringUp::disturbed, TimeForm{})
            .may("disturbed_how", &BringUp::disturbed_how);
    }
};

template <>
struct Description<Bands> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("low", &Bands::low).must("high", &Bands::high).always("hysteresis", &Bands::hysteresis);
        f.rule(
            "low", [](const Bands& b) { return b.low < b.high; }, "low must be below high.");
        f.rule(
            "hysteresis", [](const Bands& b) { return b.hysteresis >= 0 && b.hysteresis < b.high - b.low; },
            "the hysteresis must be between 0 and the width of the band.");
    }
};

/// A knot as [indication, reference, doubt].
struct CurveForm {
    Json write(const std::vector<CurveKnot>& curve) const {
        Json out = Json::array();
        for (const CurveKnot& knot : curve)
            out.push_back({knot.indication, knot.reference, knot.u});
        return out;
    }
    Result<void> read(const JsonReader& json, std::vector<CurveKnot>& out) const {
        std::vector<std::vector<double>> rows;
        COGNITUM_CHECK(PlainForm{}.read(json, rows));
        for (const std::vector<double>& row : rows) {
            if (row.size() != 3) return json.error("a knot of the curve is [indication, reference, doubt].");
            out.push_back({row[0], row[1], row[2]});
        }
        for (std::size_t i = 1; i < out.size(); ++i)
            if (!(out[i].indication > out[i - 1].indication && out[i].reference > out[i - 1].reference))
                return json.error("the curve goes back: indications and references must grow.");
        return {};
    }
};

template <>
struct Description<AppliedCorrection> {
    template <typename Fields>
    static void fields(Fields& f) {
        using C = AppliedCorrection;
        f.must("gain", &C::gain)
            .must("offset", &C::offset)
            .must("var_offset", &C::var_offset)
            .must("var_gain", &C::var_gain)
            .must("covariance", &C::covariance)
            .must("u_reference", &C::u_reference)
            .must("dof", &C::dof)
            .must("from", &C::from)
            .must("to", &C::to)
            .always("record", &C::record)
            .always("time", &C::time, TimeForm{})
            .always("verdict", &C::verdict)
            .always("path_key", &C::path_key)
            .may("curve", &C::curve, CurveForm{});
    }
};

template <>
struct Description<Reading> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("id", &Reading::id)
            .must("name", &Reading::name)
            .must("quantity", &Reading::quantity)
            .always("sensor", &Reading::sensor)
            .always("wiring", &Reading::wiring)
            .always("path", &Reading::path, ChainForm{})
            .may("correction", &Reading::correction)
            .may("bands", &Reading::bands)
            .may("source", &Reading::source)
            .may("calibrate_months", &Reading::calibrate_months)
            .may("bring_up", &Reading::bring_up);
        f.rule(
            "id", [](const Reading& r) { return !r.id.empty(); }, "a reading needs an id and a name.");
        f.rule(
            "name", [](const Reading& r) { return !r.name.empty(); }, "a reading needs an id and a name.");
        f.rule(
            "calibrate_months", [](const Reading& r) { return r.calibrate_months >= 0; },
            "an interval is not below zero.");
    }
};

} // namespace cognitum
