#include "core/bench/quantity.h"

#include "core/base/json_fields.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"

#include <fmt/format.h>

namespace cognitum {

physics::VesselShape vessel_shape(const Vessel& v) {
    physics::VesselShape out;
    if (!physics::vessel_kind(v.shape, out.kind)) return out;
    using physics::VesselKind;
    const auto m = [](double mm) { return mm / 1000; };
    const bool round = out.kind == VesselKind::upright_cylinder || out.kind == VesselKind::lying_cylinder ||
                       out.kind == VesselKind::dished_cylinder || out.kind == VesselKind::cone ||
                       out.kind == VesselKind::sphere;
    out.diameter_m = m(round ? v.width_mm : v.diameter_mm);
    out.width_m = m(v.width_mm);
    out.length_m = m(v.length_mm);
    out.height_m = m(v.height_mm > 0 ? v.height_mm : v.mount_mm);
    out.volumes_L = v.volumes_L;
    for (const double level : v.levels_mm)
        out.levels_m.push_back(m(level));
    return out;
}

bool change_unit(Quantity& q, const std::string& unit) {
    const auto low = convert_unit(q.low, q.unit, unit);
    const auto high = convert_unit(q.high, q.unit, unit);
    const auto above = convert_unit(q.low + q.accuracy, q.unit, unit);
    if (!low || !high || !above) return false;
    q.low = *low;
    q.high = *high;
    q.accuracy = *above - *low;
    q.unit = unit;
    return true;
}

namespace {

Json vessel_json(const Vessel& v) {
    Json out = {{"shape", v.shape},         {"width_mm", v.width_mm}, {"length_mm", v.length_mm},
                {"height_mm", v.height_mm}, {"mount_mm", v.mount_mm}, {"full_mm", v.full_mm}};
    for (const auto& [key, value] : {std::pair{"diameter_mm", v.diameter_mm}, std::pair{"empty_mm", v.empty_mm},
                                     std::pair{"bulge_percent", v.bulge_percent}})
        if (value != 0) out[key] = value;
    if (!v.levels_mm.empty()) {
        out["levels_mm"] = v.levels_mm;
        out["volumes_L"] = v.volumes_L;
    }
    return out;
}

} // namespace

Json quantity_json(const Quantity& q) {
    Json out = {{"kind", q.kind},  {"unit", q.unit},         {"low", q.low},
                {"high", q.high},  {"accuracy", q.accuracy}, {"interval_s", q.interval_s},
                {"place", q.place}};
    if (q.sample_s != 0) out["sample_s"] = q.sample_s;
    if (q.change_s != 0) out["change_s"] = q.change_s;
    if (q.stale_s != 0) out["stale_s"] = q.stale_s;
    if (!(q.around == Surroundings{}))
        out["around"] = {{"water", q.around.water},
                         {"food", q.around.food},
                         {"outdoors", q.around.outdoors},
                         {"beside_regulator", q.around.beside_regulator},
                         {"hottest_degC", q.around.hottest_degC}};
    if (!(q.vessel == Vessel{})) out["vessel"] = vessel_json(q.vessel);
    if (!(q.funnel == Funnel{})) out["funnel"] = {{"area_cm2", q.funnel.area_cm2}, {"tip_mL", q.funnel.tip_mL}};
    if (q.altitude_m != 0) out["altitude_m"] = q.altitude_m;
    if (!q.expected_when.empty()) out["expected_when"] = q.expected_when;
    return out;
}

Result<Quantity> read_quantity(const JsonReader& json) {
    Quantity q;
    JsonFields fields(json);
    fields.need("kind", q.kind)
        .need("unit", q.unit)
        .need("low", q.low)
        .need("high", q.high)
        .need("accuracy", q.accuracy)
        .need("interval_s", q.interval_s)
        .may("place", q.place)
        .may("sample_s", q.sample_s)
        .may("change_s", q.change_s)
        .may("stale_s", q.stale_s)
        .may("altitude_m", q.altitude_m)
        .may("expected_when", q.expected_when)
        .object(
            "funnel",
            [&](const JsonReader& funnel) {
                return JsonFields(funnel).may("area_cm2", q.funnel.area_cm2).may("tip_mL", q.funnel.tip_mL).done();
            })
        .object("around",
                [&](const JsonReader& around) {
                    Surroundings& s = q.around;
                    return JsonFields(around)
                        .may("water", s.water)
                        .may("food", s.food)
                        .may("outdoors", s.outdoors)
                        .may("beside_regulator", s.beside_regulator)
                        .may("hottest_degC", s.hottest_degC)
                        .done();
                })
        .object("vessel", [&](const JsonReader& vessel) {
            Vessel& v = q.vessel;
            return JsonFields(vessel)
                .may("shape", v.shape)
                .may("width_mm", v.width_mm)
                .may("length_mm", v.length_mm)
                .may("height_mm", v.height_mm)
                .may("mount_mm", v.mount_mm)
                .may("full_mm", v.full_mm)
                .may("diameter_mm", v.diameter_mm)
                .may("empty_mm", v.empty_mm)
                .may("bulge_percent", v.bulge_percent)
                .may("levels_mm", v.levels_mm)
                .may("volumes_L", v.volumes_L)
                .done();
        });
    fields.check(find_quantity_kind(q.kind), "kind", fmt::format("the quantity \"{}\" is not known.", q.kind));
    fields.check(find_unit(q.unit), "unit", fmt::format("the unit \"{}\" is not known.", q.unit));
    fields.check(q.vessel.levels_mm.size() == q.vessel.volumes_L.size(), "vessel",
                 "a strapping table has as many volumes as levels.");
    fields.check(q.low < q.high, "low", "low must be below high.");
    fields.check(q.accuracy > 0, "accuracy", "the needed accuracy must be above zero.");
    fields.check(q.interval_s > 0, "interval_s", "the interval must be above zero.");
    COGNITUM_CHECK(fields.done());
    return q;
}

} // namespace cognitum
