#include "core/calibrate/record.h"

#include <fmt/format.h>

namespace cognitum {

namespace {

Json point_json(const CalibrationPoint& p) {
    return {{"time", iso_time(p.time)},
            {"reference_kind", p.reference_kind},
            {"reference", p.reference},
            {"u_reference", p.u_reference},
            {"indication", p.indication},
            {"u_indication", p.u_indication},
            {"raw", p.raw},
            {"forced", p.forced},
            {"set_aside", p.set_aside}};
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
    return p;
}

} // namespace

Json record_json(const CalibrationRecord& r) {
    Json out = {{"reading", r.reading}, {"time", iso_time(r.time)}, {"unit", r.unit}, {"limit", r.limit}};
    out["points"] = Json::array();
    for (const CalibrationPoint& p : r.points)
        out["points"].push_back(point_json(p));
    const AppliedCorrection& c = r.correction;
    out["model"] = r.model;
    out["correction"] = {{"gain", c.gain},
                         {"offset", c.offset},
                         {"var_offset", c.var_offset},
                         {"var_gain", c.var_gain},
                         {"covariance", c.covariance},
                         {"u_reference", c.u_reference},
                         {"dof", c.dof},
                         {"from", c.from},
                         {"to", c.to}};
    out["path_key"] = c.path_key;
    out["worst_found"] = r.worst_found;
    out["worst_left"] = r.worst_left;
    out["verdict_found"] = r.verdict_found;
    out["verdict_left"] = r.verdict_left;
    out["by"] = r.by;
    out["note"] = r.note;
    out["supersedes"] = r.supersedes;
    return out;
}

Result<CalibrationRecord> read_record(const JsonReader& json) {
    CalibrationRecord r;
    COGNITUM_TRY(reading, json.string("reading"));
    COGNITUM_TRY(time, read_time(json, "time"));
    COGNITUM_TRY(unit, json.string("unit"));
    COGNITUM_TRY(points, json.list("points"));
    for (const JsonReader& item : points) {
        COGNITUM_TRY(point, read_point(item));
        r.points.push_back(point);
    }
    COGNITUM_TRY(model, json.string("model"));
    COGNITUM_TRY(correction, json.object("correction"));
    AppliedCorrection& c = r.correction;
    COGNITUM_CHECK(read_numbers(correction, {{"gain", &c.gain},
                                             {"offset", &c.offset},
                                             {"var_offset", &c.var_offset},
                                             {"var_gain", &c.var_gain},
                                             {"covariance", &c.covariance},
                                             {"u_reference", &c.u_reference},
                                             {"dof", &c.dof},
                                             {"from", &c.from},
                                             {"to", &c.to}}));
    COGNITUM_CHECK(
        read_numbers(json, {{"limit", &r.limit}, {"worst_found", &r.worst_found}, {"worst_left", &r.worst_left}}));
    COGNITUM_TRY(found, json.string("verdict_found"));
    COGNITUM_TRY(left, json.string("verdict_left"));
    COGNITUM_TRY(key, json.string_or("path_key", {}));
    COGNITUM_TRY(by, json.string_or("by", {}));
    COGNITUM_TRY(note, json.string_or("note", {}));
    COGNITUM_TRY(supersedes, json.number_or("supersedes", 0));
    r.reading = reading;
    r.time = c.time = time;
    r.unit = unit;
    r.model = model;
    r.verdict_found = found;
    r.verdict_left = c.verdict = left;
    c.path_key = key;
    r.by = by;
    r.note = note;
    r.supersedes = static_cast<std::int64_t>(supersedes);
    return r;
}

} // namespace cognitum
