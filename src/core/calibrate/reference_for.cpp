#include "core/calibrate/reference_for.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// A difference in another unit.
Result<double> convert_difference(double x, const std::string& from, const std::string& to) {
    const Unit *its = find_unit(from), *own = find_unit(to);
    if (!its || !own || its->dimension != own->dimension)
        return failure(phrase("\"{}\" and \"{}\" are not units of one quantity.", from, to));
    return x * its->factor / own->factor;
}

} // namespace

Result<ReferenceForReading> reference_for(const ReferenceKind& kind, const std::map<std::string, double>& inputs,
                                          const Reading& reading) {
    ReferenceForReading out;
    COGNITUM_TRY(own, reference_value(kind, inputs));
    ReferenceValue stated = own;
    if (const auto water = inputs.find("water_degC"); water != inputs.end() && kind.unit == "mS/cm") {
        stated = as_compensated(own, reading.path, water->second);
        if (stated.value != own.value) {
            out.own = own;
            out.water_degC = water->second;
        }
    }
    COGNITUM_TRY(value, convert_unit(stated.value, kind.unit, reading.quantity.unit));
    COGNITUM_TRY(u, convert_difference(stated.u, kind.unit, reading.quantity.unit));
    out.value = {value, u};
    return out;
}

Result<double> instrument_doubt(const ReferenceInstrument& instrument, const Reading& reading) {
    return convert_difference(instrument.standard_uncertainty(), instrument.unit, reading.quantity.unit);
}

std::vector<std::string> reference_doubts(const std::optional<ReferenceValue>& value,
                                          const ReferenceInstrument* instrument, const Reading& reading,
                                          double indication, TimeUs now) {
    std::vector<std::string> out;
    if (value && std::isfinite(indication))
        if (std::string other = unit_suspicion(reading.quantity, indication, value->value); !other.empty())
            out.push_back(std::move(other));
    if (instrument) {
        for (std::string& remark : reference_remarks(*instrument, reading, now))
            out.push_back(std::move(remark));
    } else if (value && 6 * value->u > reading.quantity.accuracy * (1 + 1e-9)) {
        out.push_back(phrase("This reference is good to ± {}, more than a third of the limit: it can say little.",
                             format_measure(2 * value->u, reading.quantity.unit, 2)));
    }
    return out;
}

} // namespace cognitum
