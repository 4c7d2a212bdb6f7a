#include "core/calibrate/references.h"

#include "core/base/phrase.h"
#include "core/physics/water.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

const ReferenceKind* find_reference_kind(std::string_view id) {
    if (id == "reference-thermometer") id = "reference-instrument"; // older records
    const auto& all = reference_kinds();
    const auto found = std::find_if(all.begin(), all.end(), [&](const ReferenceKind& k) { return k.id == id; });
    return found == all.end() ? nullptr : &*found;
}

ReferenceKind reference_at(const ReferenceKind& kind, double altitude_m) {
    ReferenceKind here = kind;
    for (ReferenceInput& input : here.inputs)
        if (input.key == "pressure_hPa") {
            input.value = std::round(physics::standard_pressure(altitude_m) / 10) / 10;
            input.u = 10; // the weather, until a barometer says more
        }
    return here;
}

ReferenceValue as_compensated(const ReferenceValue& standard, const Chain& path, double water_degC) {
    for (const Stage& stage : path.stages)
        if (const auto* at_25 = std::get_if<Conductivity25>(&stage)) {
            Conductivity25 there = *at_25;
            there.temperature_degC.value = water_degC;
            const Value shown = forward(Stage(there), standard.value);
            if (shown.ok() && standard.value > 0) return {shown.number, standard.u * shown.number / standard.value};
        }
    return standard;
}

Result<void> check_reference(const Quantity& quantity, double value, double u) {
    const std::string shown = format_measure(value, quantity.unit);
    if (!std::isfinite(value))
        return failure(phrase("the reference is no number."), {}, phrase("Type what it says."));
    if (!std::isfinite(u) || u <= 0)
        return failure(phrase("the reference’s doubt must be above zero."), {},
                       phrase("No reference is that sure: half of the last digit it shows is the least."));
    const QuantityKind& kind = quantity.about();
    const auto own = convert_unit(value, quantity.unit, kind.units.front());
    const Unit* unit = find_unit(quantity.unit);
    if (unit && unit->dimension == Dimension::temperature && own && *own < kind.floor_limit)
        return failure(phrase("{} is below absolute zero.", shown), {}, phrase("Look at the number and its unit."));
    if (own && (*own < kind.floor_limit || *own > kind.ceiling_limit))
        return failure(phrase("{} cannot be: {} lies between {} and {}.", shown, kind.title,
                              format_constant(kind.floor_limit),
                              format_measure(kind.ceiling_limit, kind.units.front())),
                       {}, phrase("Look at the number and its unit."));
    if (value < 0 && !std::isfinite(kind.floor_limit) && !kind.may_be_typed_negative && quantity.low >= 0) {
        return failure(phrase("{} is below nothing.", shown), {}, phrase("Look at the sign."));
    }
    return {};
}

std::string unit_suspicion(const Quantity& quantity, double indication, double reference) {
    const Unit* own = find_unit(quantity.unit);
    const double span = std::max(quantity.high - quantity.low, std::abs(indication));
    if (!own || own->dimension == Dimension::number || !(std::abs(reference - indication) > 0.2 * span)) return {};
    for (const Unit& other : all_units()) {
        if (other.dimension != own->dimension || other.code == own->code) continue;
        const auto meant = convert_unit(reference, other.code, quantity.unit);
        if (meant &&
            std::abs(*meant - indication) <= std::max(quantity.accuracy * 2, 0.05 * std::abs(indication)) &&
            std::abs(*meant - indication) < 0.25 * std::abs(reference - indication))
            return phrase("{} would fit in {}: that is {}. Is it typed in the right unit?",
                          format_constant(reference, 4), other.symbol,
                          format_value(*meant, quantity.accuracy / 5, quantity.unit));
    }
    return {};
}

std::vector<std::string> reference_remarks(const ReferenceInstrument& r, const Reading& reading, TimeUs now) {
    std::vector<std::string> out;
    const Quantity& q = reading.quantity;
    const Unit *own = find_unit(q.unit), *its = find_unit(r.unit);
    if (!own || !its || own->dimension != its->dimension) {
        out.push_back(phrase("{} measures in {}, which is another quantity.", r.name, unit_symbol(r.unit)));
        return out;
    }
    if (r.due > 0 && now > r.due)
        out.push_back(phrase("{} was due for its own check on {}: what it says is no proof until then.", r.name,
                             iso_time(r.due).substr(0, 10)));
    if (r.certified == 0) out.push_back(phrase("{} has no certificate: its doubt is a claim.", r.name));
    // Differences convert without the offset that temperatures have.
    const double expanded = 2 * r.standard_uncertainty() * its->factor / own->factor;
    if (3 * expanded > q.accuracy * (1 + 1e-9))
        out.push_back(phrase("{} is good to ± {}, more than a third of the limit: it can say little about ± {}.",
                             r.name, format_measure(expanded, q.unit, 2), format_measure(q.accuracy, q.unit)));
    if (!r.design.empty() && r.design == reading.sensor.part)
        out.push_back(phrase("{} is of the same design as what it should judge: both may err alike, which is no "
                             "independent proof.",
                             r.name));
    return out;
}

} // namespace cognitum
