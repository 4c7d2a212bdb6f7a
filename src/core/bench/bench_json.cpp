#include "core/bench/bench.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"

#include <fmt/format.h>

namespace cognitum {

namespace {

Json quantity_json(const Quantity& q) {
    return {{"kind", q.kind},  {"unit", q.unit},         {"low", q.low},
            {"high", q.high},  {"accuracy", q.accuracy}, {"interval_s", q.interval_s},
            {"place", q.place}};
}

Result<Quantity> read_quantity(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"kind", "unit", "low", "high", "accuracy", "interval_s", "place"}));
    COGNITUM_TRY(kind, json.string("kind"));
    COGNITUM_TRY(unit, json.string("unit"));
    COGNITUM_TRY(low, json.number("low"));
    COGNITUM_TRY(high, json.number("high"));
    COGNITUM_TRY(accuracy, json.number("accuracy"));
    COGNITUM_TRY(interval, json.number("interval_s"));
    COGNITUM_TRY(place, json.string_or("place", {}));
    if (!find_quantity_kind(kind))
        return json.error(fmt::format("the quantity \"{}\" is not known.", kind), "kind");
    if (!find_unit(unit)) return json.error(fmt::format("the unit \"{}\" is not known.", unit), "unit");
    if (!(low < high)) return json.error("low must be below high.", "low");
    if (!(accuracy > 0)) return json.error("the needed accuracy must be above zero.", "accuracy");
    if (!(interval > 0)) return json.error("the interval must be above zero.", "interval_s");
    return Quantity{kind, unit, low, high, accuracy, interval, place};
}

Json wiring_json(const Wiring& w) {
    return {{"board", w.board},         {"pin", w.pin},       {"rail", w.rail},
            {"reference", w.reference}, {"ticked", w.ticked}, {"mended", w.mended}};
}

Result<Wiring> read_wiring(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"board", "pin", "rail", "reference", "ticked", "mended"}));
    COGNITUM_TRY(board, json.string_or("board", {}));
    COGNITUM_TRY(pin, json.string_or("pin", {}));
    COGNITUM_TRY(rail, json.string_or("rail", {}));
    COGNITUM_TRY(reference, json.string_or("reference", {}));
    Wiring w{board, pin, rail, reference, {}, {}};
    if (json.has("ticked")) {
        COGNITUM_TRY(ticked, json.list("ticked"));
        for (const JsonReader& item : ticked) {
            if (!item.json().is_number_integer()) return item.error("a step's number is needed here.");
            w.ticked.push_back(item.json().get<int>());
        }
    }
    if (json.has("mended")) {
        COGNITUM_TRY(mended, json.list("mended"));
        for (const JsonReader& item : mended) {
            if (!item.json().is_string()) return item.error("a text is needed here.");
            w.mended.push_back(item.json().get<std::string>());
        }
    }
    return w;
}

Json correction_json(const AppliedCorrection& c) {
    return {{"gain", c.gain},
            {"offset", c.offset},
            {"var_offset", c.var_offset},
            {"var_gain", c.var_gain},
            {"covariance", c.covariance},
            {"u_reference", c.u_reference},
            {"dof", c.dof},
            {"from", c.from},
            {"to", c.to},
            {"record", c.record},
            {"time", iso_time(c.time)},
            {"verdict", c.verdict},
            {"path_key", c.path_key}};
}

Result<AppliedCorrection> read_correction(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"gain", "offset", "var_offset", "var_gain", "covariance", "u_reference", "dof",
                                   "from", "to", "record", "time", "verdict", "path_key"}));
    AppliedCorrection c;
    for (auto& [key, field] :
         std::initializer_list<std::pair<const char*, double*>>{{"gain", &c.gain},
                                                                {"offset", &c.offset},
                                                                {"var_offset", &c.var_offset},
                                                                {"var_gain", &c.var_gain},
                                                                {"covariance", &c.covariance},
                                                                {"u_reference", &c.u_reference},
                                                                {"dof", &c.dof},
                                                                {"from", &c.from},
                                                                {"to", &c.to}}) {
        COGNITUM_TRY(value, json.number(key));
        *field = value;
    }
    COGNITUM_TRY(record, json.number("record"));
    COGNITUM_TRY(time, json.string("time"));
    COGNITUM_TRY(verdict, json.string_or("verdict", {}));
    COGNITUM_TRY(key, json.string_or("path_key", {}));
    const auto when = parse_time(time);
    if (!when) return json.error("this is no time; write it as 2026-11-03T09:00:00Z.", "time");
    c.record = static_cast<std::int64_t>(record);
    c.time = *when;
    c.verdict = verdict;
    c.path_key = key;
    return c;
}

Result<Bands> read_bands(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"low", "high", "hysteresis"}));
    COGNITUM_TRY(low, json.number("low"));
    COGNITUM_TRY(high, json.number("high"));
    COGNITUM_TRY(hysteresis, json.number_or("hysteresis", 0));
    if (!(low < high)) return json.error("low must be below high.", "low");
    if (hysteresis < 0 || hysteresis >= high - low)
        return json.error("the hysteresis must be between 0 and the width of the band.", "hysteresis");
    return Bands{low, high, hysteresis};
}

const char* link_kind_name(LinkKind kind) {
    switch (kind) {
    case LinkKind::none: return "none";
    case LinkKind::serial: return "serial";
    case LinkKind::simulated: return "simulated";
    }
    return "none";
}

Result<LinkPlan> read_link(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"kind", "port", "baud", "seed"}));
    LinkPlan link;
    COGNITUM_TRY(kind, json.string("kind"));
    COGNITUM_TRY(port, json.string_or("port", {}));
    COGNITUM_TRY(baud, json.number_or("baud", link.baud));
    COGNITUM_TRY(seed, json.number_or("seed", 0));
    if (kind == "none")
        link.kind = LinkKind::none;
    else if (kind == "serial")
        link.kind = LinkKind::serial;
    else if (kind == "simulated")
        link.kind = LinkKind::simulated;
    else
        return json.error("a link's kind is none, serial or simulated.", "kind");
    if (!(baud >= 50 && baud <= 4e6)) return json.error("the speed must be from 50 to 4 000 000 Bd.", "baud");
    if (!(seed >= 0 && seed < 9e15)) return json.error("the seed must be a whole number from 0.", "seed");
    link.port = port;
    link.baud = static_cast<int>(baud);
    link.seed = static_cast<std::uint64_t>(seed);
    return link;
}

} // namespace

Json reading_json(const Reading& r) {
    Json out = {{"id", r.id}, {"name", r.name}, {"quantity", quantity_json(r.quantity)}};
    out["sensor"] = {{"part", r.sensor.part}, {"reason", r.sensor.reason}};
    out["wiring"] = wiring_json(r.wiring);
    out["path"] = chain_json(r.path);
    if (r.correction) out["correction"] = correction_json(*r.correction);
    if (r.bands)
        out["bands"] = {{"low", r.bands->low}, {"high", r.bands->high}, {"hysteresis", r.bands->hysteresis}};
    return out;
}

Result<Reading> read_reading(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"id", "name", "quantity", "sensor", "wiring", "path", "correction", "bands"}));
    Reading r;
    COGNITUM_TRY(id, json.string("id"));
    COGNITUM_TRY(name, json.string("name"));
    if (id.empty() || name.empty()) return json.error("a reading needs an id and a name.");
    COGNITUM_TRY(quantity_object, json.object("quantity"));
    COGNITUM_TRY(quantity, read_quantity(quantity_object));
    r.id = id;
    r.name = name;
    r.quantity = quantity;
    if (json.has("sensor")) {
        COGNITUM_TRY(sensor, json.object("sensor"));
        COGNITUM_CHECK(sensor.only_keys({"part", "reason"}));
        COGNITUM_TRY(part, sensor.string_or("part", {}));
        COGNITUM_TRY(reason, sensor.string_or("reason", {}));
        r.sensor = {part, reason};
    }
    if (json.has("wiring")) {
        COGNITUM_TRY(wiring_object, json.object("wiring"));
        COGNITUM_TRY(wiring, read_wiring(wiring_object));
        r.wiring = wiring;
    }
    if (json.has("path")) {
        COGNITUM_TRY(path_object, json.object("path"));
        COGNITUM_TRY(path, read_chain(path_object));
        r.path = path;
    }
    if (json.has("correction")) {
        COGNITUM_TRY(correction_object, json.object("correction"));
        COGNITUM_TRY(correction, read_correction(correction_object));
        r.correction = correction;
    }
    if (json.has("bands")) {
        COGNITUM_TRY(bands_object, json.object("bands"));
        COGNITUM_TRY(bands, read_bands(bands_object));
        r.bands = bands;
    }
    return r;
}

Json board_use_json(const BoardUse& b) {
    return {{"id", b.id},
            {"name", b.name},
            {"card", b.card},
            {"link",
             {{"kind", link_kind_name(b.link.kind)},
              {"port", b.link.port},
              {"baud", b.link.baud},
              {"seed", b.link.seed}}}};
}

Result<BoardUse> read_board_use(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"id", "name", "card", "link"}));
    BoardUse b;
    COGNITUM_TRY(id, json.string("id"));
    COGNITUM_TRY(name, json.string("name"));
    COGNITUM_TRY(card, json.string_or("card", {}));
    b.id = id;
    b.name = name;
    b.card = card;
    if (json.has("link")) {
        COGNITUM_TRY(link_object, json.object("link"));
        COGNITUM_TRY(link, read_link(link_object));
        b.link = link;
    }
    return b;
}

Json bench_json(const Bench& bench) {
    Json out = {{"bench", bench.name}, {"place", bench.place}};
    out["boards"] = Json::array();
    for (const BoardUse& board : bench.boards)
        out["boards"].push_back(board_use_json(board));
    out["readings"] = Json::array();
    for (const Reading& reading : bench.readings)
        out["readings"].push_back(reading_json(reading));
    return out;
}

Result<Bench> read_bench(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"bench", "place", "boards", "readings"}));
    Bench bench;
    COGNITUM_TRY(name, json.string("bench"));
    COGNITUM_TRY(place, json.string_or("place", {}));
    bench.name = name;
    bench.place = place;
    COGNITUM_TRY(boards, json.list("boards"));
    for (const JsonReader& item : boards) {
        COGNITUM_TRY(board, read_board_use(item));
        if (bench.board(board.id)) return item.error(fmt::format("the id \"{}\" is used twice.", board.id), "id");
        bench.boards.push_back(board);
    }
    COGNITUM_TRY(readings, json.list("readings"));
    for (const JsonReader& item : readings) {
        COGNITUM_TRY(reading, read_reading(item));
        if (bench.reading(reading.id))
            return item.error(fmt::format("the id \"{}\" is used twice.", reading.id), "id");
        bench.readings.push_back(reading);
    }
    return bench;
}

} // namespace cognitum
