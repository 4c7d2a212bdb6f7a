#include "core/units/units_beside.h"

#include "core/units/format.h"

#include <cmath>

namespace cognitum {

const std::vector<UnitsOffered>& units_offered() {
    static const std::vector<UnitsOffered> offered = {
        {Dimension::temperature, &UnitsBeside::temperature, {"degC", "degF", "K"}},
        {Dimension::pressure, &UnitsBeside::pressure, {"hPa", "kPa", "bar", "psi"}},
        {Dimension::length, &UnitsBeside::length, {"mm", "cm", "m", "in", "ft"}},
        {Dimension::volume, &UnitsBeside::volume, {"L", "gal_us", "gal_imp"}},
    };
    return offered;
}

std::string beside(double value, double doubt, std::string_view unit, const UnitsBeside& wanted) {
    const Unit* own = find_unit(unit);
    if (!own || !std::isfinite(value)) return {};
    for (const UnitsOffered& offered : units_offered()) {
        const Unit* other = find_unit(wanted.*offered.unit);
        if (offered.dimension != own->dimension || !other || other->dimension != own->dimension ||
            same_unit(own->code, other->code))
            continue;
        const auto shown = convert_unit(value, own->code, other->code);
        if (!shown) return {};
        // A doubt is a difference: the offset of a temperature scale has no part in it.
        const double other_doubt = std::isfinite(doubt) ? std::abs(doubt * own->factor / other->factor) : 0;
        return other_doubt > 0 ? format_value(*shown, other_doubt, other->code)
                               : format_measure(*shown, other->code);
    }
    return {};
}

} // namespace cognitum
