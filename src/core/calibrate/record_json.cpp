#include "core/calibrate/record.h"

#include <fmt/format.h>

namespace cognitum {

namespace {

Json point_json(const CalibrationPoint& p) {
    Json out = {{"time", iso_time(p.time)},
                {"reference_kind", p.reference_kind},
                {"reference", p.reference},
                {"u_reference", p.u_reference},
                {"indication", p.indication},
                {"u_indication", p.u_indication},
                {"raw", p.raw},
                {"forced", p.forced},
                {"set_aside", p.set_aside}};
    if (!p.instrument.empty()) out["instrument"] = p.instrument;
    if (p.run != 0) out["run"] = p.run > 0 ? "up" : "down";
    if (p.as_left) out["as_left"] = true;
    if (p.check) out["check"] = true;
    return out;
}

Json points_json(const std::vector<CalibrationPoint>& points) {
    Json out = Json::array();
    for (const CalibrationPoint& p : points)
        out.push_back(point_json(p));
    return out;
}

Result<TimeUs> read_time(const JsonReader& json, std::string_view key) {
    COGNITUM_TRY(text, json.string(key));
    const auto time = parse_time(text);
    if (!time) return json.error("this is no time; write it as 2026-11-03T09:00:00Z.", key);
    return *time;
}

Result<void> read_numbers(const JsonReader& json, std::initializer_list<std::pair<const char*, double*>> fields) {
    for (const auto& [key, field] : fields) {
        COGNITUM_TRY(value, json.number(key));
        *field = value;
    }
    return {};
}

Result<CalibrationPoint> read_point(const JsonReader& json) {
    CalibrationPoint p;
    COGNITUM_TRY(time, read_time(json, "time"));
    COGNITUM_TRY(kind, json.string("reference_kind"));
    COGNITUM_TRY(forced, json.boolean_or("forced", false));
    COGNITUM_TRY(aside, json.string_or("set_aside", {}));
    COGNITUM_CHECK(read_numbers(json, {{"reference", &p.reference},
                                       {"u_reference", &p.u_reference},
                                       {"indication", &p.indication},
                                       {"u_indication", &p.u_indication},
                                       {"raw", &p.raw}}));
    p.time = time;
    p.reference_kind = kind;
    p.forced = forced;
    p.set_aside = aside;
    COGNITUM_TRY(instrument, json.string_or("instrument", {}));
    COGNITUM_TRY(run, json.string_or("run", {}));
    COGNITUM_TRY(as_left, json.boolean_or("as_left", false));
    COGNITUM_TRY(check, json.boolean_or("check", false));
    p.instrument = instrument;
    p.run = run == "up" ? 1 : run == "down" ? -1 : 0;
    p.as_left = as_left;
    p.check = check;
    return p;
}

Result<std::vector<CalibrationPoint>> read_points(const JsonReader& json) {
    COGNITUM_TRY(items, json.list("points"));
    std::vector<CalibrationPoint> out;
    for (const JsonReader& item : items) {
        COGNITUM_TRY(point, read_point(item));
        out.push_back(point);
    }
    return out;
}

Result<void> read_words(const JsonReader& json,
                        std::initializer_list<std::pair<const char*, std::string*>> fields) {
    for (const auto& [key, field] : fields) {
        COGNITUM_TRY(value, json.string_or(key, {}));
        *field = value;
    }
    return {};
}

} // namespace

Json draft_json(const CalibrationDraft& d) {
    Json out = {{"recipe", d.recipe},         {"step", d.step}, {"adjusted", d.adjusted},
                {"conditions", d.conditions}, {"by", d.by},     {"points", points_json(d.points)}};
    if (d.started) out["started"] = {{"time", iso_time(d.started->time)}, {"indication", d.started->value}};
    return out;
}

Result<CalibrationDraft> read_draft(const JsonReader& json) {
    CalibrationDraft d;
    COGNITUM_TRY(step, json.number_or("step", 0));
    COGNITUM_TRY(points, read_points(json));
    COGNITUM_CHECK(read_words(
        json, {{"recipe", &d.recipe}, {"adjusted", &d.adjusted}, {"conditions", &d.conditions}, {"by", &d.by}}));
    if (json.has("started")) {
        COGNITUM_TRY(started, json.object("started"));
        COGNITUM_TRY(time, read_time(started, "time"));
        COGNITUM_TRY(indication, started.number("indication"));
        d.started = TimedValue{time, indication};
    }
    d.step = static_cast<int>(step);
    d.points = points;
    return d;
}

Json record_json(const CalibrationRecord& r) {
    Json out = {{"reading", r.reading}, {"time", iso_time(r.time)}, {"unit", r.unit}, {"limit", r.limit}};
    out["points"] = points_json(r.points);
    out["model"] = r.model;
    out["correction"] = correction_json(r.correction);
    if (!r.into.empty()) out["into"] = r.into;
    if (!r.verdict_check.empty()) {
        out["worst_check"] = r.worst_check;
        out["doubt_check"] = r.doubt_check;
        out["verdict_check"] = r.verdict_check;
    }
    out["worst_found"] = r.worst_found;
    out["worst_left"] = r.worst_left;
    out["doubt_found"] = r.doubt_found;
    out["doubt_left"] = r.doubt_left;
    out["verdict_found"] = r.verdict_found;
    out["verdict_left"] = r.verdict_left;
    for (const auto& [key, text] : {std::pair{"recipe", &r.recipe}, std::pair{"adjusted", &r.adjusted},
                                    std::pair{"conditions", &r.conditions}})
        if (!text->empty()) out[key] = *text;
    if (!r.references.empty()) out["references"] = r.references;
    out["by"] = r.by;
    out["note"] = r.note;
    out["supersedes"] = r.supersedes;
    return out;
}

Result<CalibrationRecord> read_record(const JsonReader& json) {
    CalibrationRecord r;
    COGNITUM_TRY(time, read_time(json, "time"));
    COGNITUM_TRY(points, read_points(json));
    COGNITUM_TRY(correction_object, json.object("correction"));
    COGNITUM_TRY(correction, read_correction(correction_object));
    COGNITUM_TRY(reading, json.string("reading"));
    COGNITUM_TRY(unit, json.string("unit"));
    COGNITUM_TRY(model, json.string("model"));
    COGNITUM_TRY(found, json.string("verdict_found"));
    COGNITUM_TRY(left, json.string("verdict_left"));
    COGNITUM_TRY(key, json.string_or("path_key", {})); // where older records keep it
    COGNITUM_TRY(supersedes, json.number_or("supersedes", 0));
    COGNITUM_TRY(doubt_found, json.number_or("doubt_found", 0));
    COGNITUM_TRY(doubt_left, json.number_or("doubt_left", 0));
    COGNITUM_TRY(worst_check, json.number_or("worst_check", 0));
    COGNITUM_TRY(doubt_check, json.number_or("doubt_check", 0));
    COGNITUM_CHECK(
        read_numbers(json, {{"limit", &r.limit}, {"worst_found", &r.worst_found}, {"worst_left", &r.worst_left}}));
    COGNITUM_CHECK(read_words(json, {{"recipe", &r.recipe},
                                     {"adjusted", &r.adjusted},
                                     {"conditions", &r.conditions},
                                     {"by", &r.by},
                                     {"note", &r.note},
                                     {"into", &r.into},
                                     {"verdict_check", &r.verdict_check}}));
    for (const Json& words : json.json().value("references", Json::array()))
        if (words.is_string()) r.references.push_back(words.get<std::string>());
    r.reading = reading;
    r.time = time;
    r.unit = unit;
    r.points = points;
    r.model = model;
    r.correction = correction;
    r.correction.time = time;
    if (r.correction.path_key.empty()) r.correction.path_key = key;
    r.verdict_found = found;
    r.verdict_left = r.correction.verdict = left;
    r.doubt_found = doubt_found;
    r.doubt_left = doubt_left;
    r.worst_check = worst_check;
    r.doubt_check = doubt_check;
    r.supersedes = static_cast<std::int64_t>(supersedes);
    return r;
}

} // namespace cognitum
