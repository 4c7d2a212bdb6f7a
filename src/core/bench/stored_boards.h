// How boards, their links, their wires and what hangs on them stand in the bench file, see stored.h.
#pragma once

#include "core/base/described.h"
#include "core/base/phrase.h"
#include "core/bench/bench.h"
#include "core/decode/message_format.h"

namespace cognitum {

inline bool is_port(int port) {
    return port > 0 && port < 65536;
}
inline constexpr const char* port_rule = for_people("a port is a whole number from 1 to 65 535.");

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
            phrase("the protocol level is 4 (3.1.1) or 5."));
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
            phrase("a receiver that listens beyond this computer needs a token."));
    }
};

template <>
struct Description<FilePlan> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("path", &FilePlan::path).always("follow", &FilePlan::follow).always("speed", &FilePlan::speed);
        f.rule(
            "speed", [](const FilePlan& p) { return p.speed >= 0; }, phrase("the speed of a replay is 0 or more."));
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
               NamedForm<LinkKind>{link_kinds,
                                   phrase("a link's kind is none, serial, simulated, mqtt, http or file.")})
            .always("port", &LinkPlan::port)
            .always("baud", &LinkPlan::baud)
            .always("seed", &LinkPlan::seed)
            .may("simulated", &LinkPlan::simulated)
            .may("processor", &LinkPlan::processor)
            .may("find_speed", &LinkPlan::find_speed)
            .may("frame", &LinkPlan::frame)
            .may("may_reset", &LinkPlan::may_reset)
            .may("format", &LinkPlan::format)
            .may("mqtt", &LinkPlan::mqtt)
            .may("http", &LinkPlan::http)
            .may("file", &LinkPlan::file);
        f.rule(
            "baud", [](const LinkPlan& l) { return l.baud >= 50 && l.baud <= 4'000'000; },
            phrase("the speed must be from 50 to 4 000 000 Bd."));
        f.rule(
            "processor", [](const LinkPlan& l) { return !l.processor || l.kind == LinkKind::simulated; },
            phrase("only a simulated board has a simulated processor."));
        f.rule(
            "frame", [](const LinkPlan& l) { return is_frame(l.frame); },
            phrase("a frame is data bits, parity and stop bits, such as 8N1 or 7E1."));
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
            phrase("both resistors must be above zero."));
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
            if (!colour.json().is_string()) return colour.error(phrase("a colour is a word in quotes."));
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
            "pins", [](const Wiring& w) { return legs_differ(w.pins); }, phrase("a leg is wired twice."));
        f.rule(
            "cable_m", [](const Wiring& w) { return w.cable_m >= 0 && w.cable_m <= 1000; },
            phrase("a cable is from 0 to 1000 m long."));
        f.rule(
            "address", [](const Wiring& w) { return w.address >= 0 && w.address <= 255; },
            phrase("an address is from 0 to 255."));
        not_below_zero<Wiring>(f, {{"pull_up_ohm", &Wiring::pull_up_ohm}, {"own_supply_V", &Wiring::own_supply_V}});
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
            "i2c_kHz", [](const BoardUse& b) { return b.i2c_kHz > 0; },
            phrase("the bus speed must be above zero."));
        not_below_zero<BoardUse>(f, {{"supply_V", &BoardUse::supply_V},
                                     {"adapter_V", &BoardUse::adapter_V},
                                     {"sleep_s", &BoardUse::sleep_s},
                                     {"wake_s", &BoardUse::wake_s},
                                     {"upload_s", &BoardUse::upload_s},
                                     {"quota_s", &BoardUse::quota_s},
                                     {"i2c_pull_up_ohm", &BoardUse::i2c_pull_up_ohm}});
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
            "pins", [](const Module& m) { return legs_differ(m.pins); }, phrase("a leg is wired twice."));
        not_below_zero<Module>(f, {{"own_supply_V", &Module::own_supply_V}});
    }
};

} // namespace cognitum
