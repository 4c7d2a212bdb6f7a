#include "core/bench/quantity.h"

#include "core/units/unit.h"

namespace cognitum {

physics::VesselShape vessel_shape(const Vessel& v) {
    physics::VesselShape out;
    const auto kind = physics::vessel_kind(v.shape);
    if (!kind) return out;
    out.kind = *kind;
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

double silent_after_s(const Quantity& quantity) {
    return quantity.stale_s > 0 ? quantity.stale_s : 15 * quantity.interval_s + 5;
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

} // namespace cognitum
