// Units that somebody thinks in, shown beside those in which readings are kept.
#pragma once

#include "core/units/unit.h"

#include <string>
#include <string_view>

namespace cognitum {

/// Codes of units; empty: nothing is shown beside.
struct UnitsBeside {
    std::string temperature, pressure, length, volume;
    bool operator==(const UnitsBeside&) const = default;
};

/// The choices for a quantity, in the order in which they are offered: °C, °F, K.
struct UnitsOffered {
    Dimension dimension;
    std::string UnitsBeside::*unit;
    std::vector<std::string> codes;
};
const std::vector<UnitsOffered>& units_offered();

/// "62.6 °F" for 17 degC with a doubt of 0.5 degC (± at 95 %; 0 or NaN: not known): as many digits as that doubt
/// allows in the other unit. Empty: none is wanted for what `unit` measures, it is the same unit, or the value is
/// no number.
std::string beside(double value, double doubt, std::string_view unit, const UnitsBeside& wanted);

} // namespace cognitum
