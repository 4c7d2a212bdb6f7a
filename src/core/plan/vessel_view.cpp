#include "core/plan/vessel_view.h"

#include "core/base/no_number.h"
#include "core/physics/vessel.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace cognitum {

double vessel_half_width_mm(const Vessel& v, double level_mm) {
    double width = 1000 * physics::vessel_width(vessel_shape(v), level_mm / 1000);
    if ((!std::isfinite(width) || width <= 0) && v.width_mm > 0 && v.shape.empty()) width = v.width_mm;
    if (!std::isfinite(width)) width = v.width_mm > 0 ? v.width_mm : 0.6 * std::max(v.mount_mm, v.height_mm);
    return width / 2;
}

double vessel_level_mm(const Quantity& quantity, double value) {
    if (quantity.about().from_level.empty()) return convert_unit(value, quantity.unit, "mm").value_or(no_number);
    const double litres = convert_unit(value, quantity.unit, "L").value_or(no_number);
    const physics::VesselShape shape = vessel_shape(quantity.vessel);
    return physics::check_vessel(shape) ? 1000 * physics::vessel_level(shape, litres) : no_number;
}

namespace {

double lowest_level_mm(const Quantity& quantity) {
    if (quantity.vessel.empty_mm > 0) return quantity.vessel.empty_mm;
    if (!quantity.about().in_vessel || !quantity.about().from_level.empty()) return 0;
    return std::max(0.0, convert_unit(quantity.low, quantity.unit, "mm").value_or(0));
}

} // namespace

std::optional<VesselBeam> beam_in_vessel(const Quantity& quantity, const PartCard& part) {
    const Vessel& v = quantity.vessel;
    if (v.mount_mm <= 0 || part.beam_deg <= 0) return {};
    VesselBeam beam;
    beam.from_mm = v.mount_mm;
    beam.to_mm = lowest_level_mm(quantity);
    beam.half_mm = (beam.from_mm - beam.to_mm) * std::tan(part.beam_deg / 2 * std::numbers::pi / 180);
    beam.beam_mm = 2 * beam.half_mm;
    beam.free_mm = v.width_mm > 0 ? v.width_mm : 2 * vessel_half_width_mm(v, beam.to_mm);
    return beam;
}

Result<VesselFigures> vessel_figures(const Quantity& quantity, const PartCard* part, double level_now_mm) {
    const Vessel& v = quantity.vessel;
    const physics::VesselShape shape = vessel_shape(v);
    COGNITUM_CHECK(physics::check_vessel(shape));
    VesselFigures out;
    const double brim = physics::vessel_height(shape);
    const double top = v.full_mm > 0 ? v.full_mm / 1000 : brim;
    out.top_mm = 1000 * std::min(top, brim);
    out.holds_L = physics::vessel_volume(shape, std::min(top, brim));
    const double worst = physics::vessel_worst_level(shape, top);
    out.worst_mm = 1000 * worst;
    out.worst_L = physics::vessel_litres_per_mm(shape, worst);
    out.here_L =
        std::isfinite(level_now_mm) ? physics::vessel_litres_per_mm(shape, level_now_mm / 1000) : no_number;
    if (const Measurand* m = part ? part->measurand("level") : nullptr) {
        // What the part measures there: the way from its face, or the depth above it.
        const double away = v.mount_mm > 0 ? v.mount_mm - out.worst_mm : out.worst_mm;
        const double at = convert_unit(away, "mm", m->unit).value_or(m->high);
        if (const auto mm = convert_unit(m->limit_at(at), m->unit, "mm")) out.part_mm = *mm;
    }
    if (std::isfinite(level_now_mm) && v.full_mm > v.empty_mm)
        out.percent_full = 100 * (level_now_mm - v.empty_mm) / (v.full_mm - v.empty_mm);
    return out;
}

} // namespace cognitum
