#include "core/bench/bench.h"

#include "core/base/json_fields.h"
#include "core/bench/limits.h"
#include "core/units/unit.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

Json sensor_json(const SensorChoice& s) {
    Json out = {{"part", s.part}, {"reason", s.reason}};
    if (!s.rejected.empty()) {
        out["rejected"] = Json::array();
        for (const Rejected& r : s.rejected)
            out["rejected"].push_back({{"part", r.part}, {"because", r.because}});
    }
    if (!s.marking.empty()) out["marking"] = s.marking;
    if (!s.shared_with.empty()) out["shared_with"] = s.shared_with;
    return out;
}

Result<void> read_sensor(const JsonReader& json, SensorChoice& s) {
    return JsonFields(json)
        .may("part", s.part)
        .may("reason", s.reason)
        .may("marking", s.marking)
        .may("shared_with", s.shared_with)
        .list("rejected",
              [&](const JsonReader& item) {
                  s.rejected.push_back({});
                  return JsonFields(item)
                      .need("part", s.rejected.back().part)
                      .may("because", s.rejected.back().because)
                      .done();
              })
        .done();
}

Json source_json(const Source& s) {
    Json out = Json::object();
    if (!s.field.empty()) out["field"] = s.field;
    if (!s.signal.empty()) out["signal"] = s.signal;
    if (!s.collect.empty()) out["collect"] = s.collect;
    if (!s.feed.empty()) out["feed"] = s.feed;
    if (!s.unit.empty()) out["unit"] = s.unit;
    return out;
}

Result<void> read_source(const JsonReader& json, Source& s) {
    JsonFields fields(json);
    fields.may("field", s.field)
        .may("signal", s.signal)
        .may("feed", s.feed)
        .may("unit", s.unit)
        .may("collect", s.collect);
    fields.check(s.collect.empty() || s.collect == "beats" || s.collect == "rate", "collect",
                 "numbers are collected to \"beats\" or to a \"rate\".");
    fields.check(s.unit.empty() || find_unit(s.unit), "unit", fmt::format("the unit \"{}\" is not known.", s.unit));
    return fields.done();
}

Json bring_up_json(const BringUp& b) {
    Json out = {{"signs", Json::array()}};
    for (const SignOff& sign : b.signs)
        out["signs"].push_back({{"stage", sign.stage},
                                {"time", iso_time(sign.time)},
                                {"by", sign.by},
                                {"passed", sign.passed},
                                {"note", sign.note}});
    if (b.disturbed != 0) {
        out["disturbed"] = iso_time(b.disturbed);
        out["disturbed_how"] = b.disturbed_how;
    }
    return out;
}

Result<void> read_bring_up(const JsonReader& json, BringUp& b) {
    std::string disturbed;
    JsonFields fields(json);
    fields.may("disturbed", disturbed)
        .may("disturbed_how", b.disturbed_how)
        .list("signs", [&](const JsonReader& item) {
            SignOff sign;
            std::string time;
            JsonFields one(item);
            one.need("stage", sign.stage)
                .need("time", time)
                .may("by", sign.by)
                .may("passed", sign.passed)
                .may("note", sign.note);
            const auto when = parse_time(time);
            one.check(when.has_value(), "time", "this is no time; write it as 2026-11-03T09:00:00Z.");
            sign.time = when.value_or(0);
            b.signs.push_back(sign);
            return one.done();
        });
    const auto when = parse_time(disturbed);
    fields.check(disturbed.empty() || when, "disturbed", "this is no time; write it as 2026-11-03T09:00:00Z.");
    if (when) b.disturbed = *when;
    return fields.done();
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

} // namespace

Json reading_json(const Reading& r) {
    Json out = {{"id", r.id}, {"name", r.name}, {"quantity", quantity_json(r.quantity)}};
    out["sensor"] = sensor_json(r.sensor);
    out["wiring"] = wiring_json(r.wiring);
    out["path"] = chain_json(r.path);
    if (r.correction) out["correction"] = correction_json(*r.correction);
    if (r.bands)
        out["bands"] = {{"low", r.bands->low}, {"high", r.bands->high}, {"hysteresis", r.bands->hysteresis}};
    if (!(r.source == Source{})) out["source"] = source_json(r.source);
    if (r.calibrate_months > 0) out["calibrate_months"] = r.calibrate_months;
    if (!(r.bring_up == BringUp{})) out["bring_up"] = bring_up_json(r.bring_up);
    return out;
}

Result<Reading> read_reading(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"id", "name", "quantity", "sensor", "wiring", "path", "correction", "bands",
                                   "source", "bring_up", "calibrate_months"}));
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
        COGNITUM_CHECK(read_sensor(sensor, r.sensor));
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
    if (json.has("source")) {
        COGNITUM_TRY(source, json.object("source"));
        COGNITUM_CHECK(read_source(source, r.source));
    }
    COGNITUM_TRY(months, json.number_or("calibrate_months", 0));
    if (months < 0) return json.error("an interval is not below zero.", "calibrate_months");
    r.calibrate_months = months;
    if (json.has("bring_up")) {
        COGNITUM_TRY(bring_up, json.object("bring_up"));
        COGNITUM_CHECK(read_bring_up(bring_up, r.bring_up));
    }
    return r;
}

Json prices_json(const Bench& bench) {
    Json out = Json::object();
    if (bench.prices.empty() && bench.currency == Bench{}.currency) return out;
    out["currency"] = bench.currency;
    out["each"] = Json::object();
    for (const Price& price : bench.prices)
        out["each"][price.item] = price.each;
    return out;
}

Result<void> read_prices(const JsonReader& json, Bench& bench) {
    return JsonFields(json)
        .may("currency", bench.currency)
        .object("each",
                [&](const JsonReader& each) -> Result<void> {
                    for (const auto& [item, price] : each.json().items()) {
                        if (!price.is_number() || price.get<double>() < 0)
                            return each.error("a price is a number from 0.", item);
                        bench.prices.push_back({item, price.get<double>()});
                    }
                    return {};
                })
        .done();
}

Json bench_json(const Bench& bench) {
    Json out = {{"bench", bench.name}, {"place", bench.place}};
    out["boards"] = Json::array();
    for (const BoardUse& board : bench.boards)
        out["boards"].push_back(board_use_json(board));
    out["readings"] = Json::array();
    for (const Reading& reading : bench.readings)
        out["readings"].push_back(reading_json(reading));
    if (!bench.modules.empty()) out["modules"] = Json::array();
    for (const Module& module : bench.modules)
        out["modules"].push_back(module_json(module));
    if (const Json prices = prices_json(bench); !prices.empty()) out["prices"] = prices;
    for (const ReferenceInstrument& reference : bench.references)
        out["references"].push_back(reference_json(reference));
    return out;
}

Result<void> plan_within_limits(const Bench& bench) {
    const std::size_t most =
        std::max({bench.readings.size(), bench.boards.size(), bench.modules.size(), bench.references.size()});
    if (most <= most_items) return {};
    return failure(fmt::format("it has {} readings, boards, modules or references; at most {} of each are read.",
                               most, most_items));
}

Result<Bench> read_bench(const JsonReader& json) {
    for (const char* key : {"readings", "boards", "modules", "references"})
        if (json.has(key) && json.json()[key].size() > most_items)
            return json.error(fmt::format("{} {}; at most {} are read.", json.json()[key].size(), key, most_items),
                              key);
    COGNITUM_CHECK(json.only_keys({"bench", "place", "boards", "readings", "modules", "prices", "references"}));
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
    if (json.has("modules")) {
        COGNITUM_TRY(modules, json.list("modules"));
        for (const JsonReader& item : modules) {
            COGNITUM_TRY(module, read_module(item));
            if (bench.module(module.id))
                return item.error(fmt::format("the id \"{}\" is used twice.", module.id), "id");
            bench.modules.push_back(module);
        }
    }
    if (json.has("references")) {
        COGNITUM_TRY(references, json.list("references"));
        for (const JsonReader& item : references) {
            COGNITUM_TRY(reference, read_reference(item));
            if (bench.reference(reference.id))
                return item.error(fmt::format("the id \"{}\" is used twice.", reference.id), "id");
            bench.references.push_back(reference);
        }
    }
    if (json.has("prices")) {
        COGNITUM_TRY(prices, json.object("prices"));
        COGNITUM_CHECK(read_prices(prices, bench));
    }
    return bench;
}

} // namespace cognitum
