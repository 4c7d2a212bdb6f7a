#include "core/bench/reference.h"

#include "core/base/json_fields.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"

#include <cmath>

namespace cognitum {

double ReferenceInstrument::standard_uncertainty() const {
    return std::hypot(u, resolution / std::sqrt(12.0)); // a display rounds to its nearest step
}

Json reference_json(const ReferenceInstrument& r) {
    Json out = {{"id", r.id}, {"name", r.name}, {"kind", r.kind}, {"unit", r.unit}, {"u", r.u}};
    if (r.resolution > 0) out["resolution"] = r.resolution;
    if (!r.design.empty()) out["design"] = r.design;
    if (!r.certificate.empty()) out["certificate"] = r.certificate;
    if (r.certified > 0) out["certified"] = iso_time(r.certified);
    if (r.due > 0) out["due"] = iso_time(r.due);
    return out;
}

Result<ReferenceInstrument> read_reference(const JsonReader& json) {
    ReferenceInstrument r;
    std::string certified, due;
    COGNITUM_CHECK(
        JsonFields(json)
            .need("id", r.id)
            .need("name", r.name)
            .need("kind", r.kind)
            .need("unit", r.unit)
            .need("u", r.u)
            .may("resolution", r.resolution)
            .may("design", r.design)
            .may("certificate", r.certificate)
            .may("certified", certified)
            .may("due", due)
            .check(r.u > 0, "u", "a reference without doubt does not exist: write its standard uncertainty.")
            .check(r.resolution >= 0, "resolution", "a step of a display is not below zero.")
            .check(find_unit(r.unit) != nullptr, "unit", "this unit is not known.")
            .check(find_quantity_kind(r.kind) != nullptr, "kind", "this kind of quantity is not known.")
            .done());
    for (const auto& [text, into, key] :
         {std::tuple{&certified, &r.certified, "certified"}, std::tuple{&due, &r.due, "due"}}) {
        if (text->empty()) continue;
        const auto time = parse_time(*text);
        if (!time) return json.error("this is no time; write it as 2026-11-03T09:00:00Z.", key);
        *into = *time;
    }
    return r;
}

} // namespace cognitum
