#include "core/base/json_fields.h"
#include "core/bench/bench.h"

namespace cognitum {

namespace {

/// What a plain board does not have is not written.
template <typename T>
void put(Json& out, const char* key, const T& value, const T& plain) {
    if (!(value == plain)) out[key] = value;
}

Result<void> read_uplink(const JsonReader& json, Uplink& u) {
    JsonFields fields(json);
    fields.need("to", u.to)
        .may("transmit_pin", u.transmit_pin)
        .may("receive_pin", u.receive_pin)
        .may("baud", u.baud)
        .may("far_baud", u.far_baud)
        .object("divider", [&](const JsonReader& d) { return read_level_divider(d, u.divider); });
    return fields.done();
}

} // namespace

Json board_use_json(const BoardUse& b) {
    Json out = {{"id", b.id}, {"name", b.name}, {"card", b.card}, {"link", link_json(b.link)}};
    const BoardUse plain;
    put(out, "radio_on", b.radio_on, plain.radio_on);
    put(out, "supply_V", b.supply_V, plain.supply_V);
    put(out, "adapter_V", b.adapter_V, plain.adapter_V);
    put(out, "code_baud", b.code_baud, plain.code_baud);
    put(out, "bytes_per_line", b.bytes_per_line, plain.bytes_per_line);
    put(out, "sleep_s", b.sleep_s, plain.sleep_s);
    put(out, "wake_s", b.wake_s, plain.wake_s);
    put(out, "upload_s", b.upload_s, plain.upload_s);
    put(out, "quota_s", b.quota_s, plain.quota_s);
    put(out, "i2c_kHz", b.i2c_kHz, plain.i2c_kHz);
    put(out, "i2c_pull_up_ohm", b.i2c_pull_up_ohm, plain.i2c_pull_up_ohm);
    put(out, "ambient_degC", b.ambient_degC, plain.ambient_degC);
    if (!b.uplink.to.empty()) {
        out["uplink"] = {{"to", b.uplink.to},
                         {"transmit_pin", b.uplink.transmit_pin},
                         {"receive_pin", b.uplink.receive_pin},
                         {"baud", b.uplink.baud},
                         {"far_baud", b.uplink.far_baud}};
        if (b.uplink.divider.there()) out["uplink"]["divider"] = divider_json(b.uplink.divider);
    }
    for (const CommandButton& button : b.buttons)
        out["buttons"].push_back({{"label", button.label}, {"line", button.line}, {"answer_s", button.answer_s}});
    return out;
}

Result<BoardUse> read_board_use(const JsonReader& json) {
    BoardUse b;
    JsonFields fields(json);
    fields.need("id", b.id)
        .need("name", b.name)
        .may("card", b.card)
        .object("link",
                [&](const JsonReader& item) -> Result<void> {
                    COGNITUM_TRY(link, read_link(item));
                    b.link = link;
                    return {};
                })
        .may("radio_on", b.radio_on)
        .may("supply_V", b.supply_V)
        .may("adapter_V", b.adapter_V)
        .may("code_baud", b.code_baud)
        .may("bytes_per_line", b.bytes_per_line)
        .may("sleep_s", b.sleep_s)
        .may("wake_s", b.wake_s)
        .may("upload_s", b.upload_s)
        .may("quota_s", b.quota_s)
        .may("i2c_kHz", b.i2c_kHz)
        .may("i2c_pull_up_ohm", b.i2c_pull_up_ohm)
        .may("ambient_degC", b.ambient_degC)
        .object("uplink", [&](const JsonReader& item) { return read_uplink(item, b.uplink); })
        .list("buttons", [&](const JsonReader& item) {
            CommandButton button;
            JsonFields one(item);
            one.need("label", button.label).need("line", button.line).may("answer_s", button.answer_s);
            b.buttons.push_back(button);
            return one.done();
        });
    fields.check(b.i2c_kHz > 0, "i2c_kHz", "the bus speed must be above zero.");
    COGNITUM_CHECK(fields.done());
    return b;
}

Json module_json(const Module& m) {
    Json out = {{"id", m.id}, {"name", m.name}, {"part", m.part}, {"board", m.board}, {"rail", m.rail}};
    out["pins"] = connections_json(m.pins);
    const Module plain;
    put(out, "address", m.address, plain.address);
    put(out, "module", m.module, plain.module);
    put(out, "switched_by", m.switched_by, plain.switched_by);
    put(out, "screened", m.screened, plain.screened);
    put(out, "own_supply_V", m.own_supply_V, plain.own_supply_V);
    put(out, "ground_joined", m.ground_joined, plain.ground_joined);
    return out;
}

Result<Module> read_module(const JsonReader& json) {
    Module m;
    JsonFields fields(json);
    fields.need("id", m.id)
        .need("name", m.name)
        .may("part", m.part)
        .may("board", m.board)
        .may("rail", m.rail)
        .known("pins")
        .may("address", m.address)
        .may("module", m.module)
        .may("switched_by", m.switched_by)
        .may("screened", m.screened)
        .may("own_supply_V", m.own_supply_V)
        .may("ground_joined", m.ground_joined);
    COGNITUM_CHECK(fields.done());
    COGNITUM_TRY(pins, read_connections(json, "pins"));
    m.pins = pins;
    return m;
}

} // namespace cognitum
