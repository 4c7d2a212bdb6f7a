// Units as a person writes them and as UCUM codes; conversion between units of one dimension.
#pragma once

#include "core/base/error.h"

#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

/// What a unit measures. Two units convert into each other when their dimensions are equal.
enum class Dimension {
    number, ///< counts, ratios
    voltage,
    resistance,
    temperature,
    temperature_difference,
    length,
    time,
    pressure,
    density,
    mass_concentration,
    per_temperature,
    seebeck, ///< a voltage for each kelvin
    current,
    illuminance,
    volume,
    conductivity,
    flow,
    speed,
    frequency,
    angle,
    area,
    amount_concentration,
    charge,
    mass,
    energy,
    acidity,
    turbidity,
    sound_level,
};

struct Unit {
    std::string code;   ///< the spelling used in files and on the command line: degC, ohm, V
    std::string symbol; ///< as shown to a person: °C, Ω, V
    Dimension dimension = Dimension::number;
    double factor = 1;                ///< value in the dimension's base unit = factor · value + offset
    double offset = 0;                ///< only temperatures have one
    std::vector<std::string> aliases; ///< other accepted spellings, UCUM among them
};

/// All units, in the order in which messages list them.
const std::vector<Unit>& all_units();

/// The unit of that spelling (code, symbol or alias); nullptr when there is none.
const Unit* find_unit(std::string_view spelling);

/// Unit of a slope: "V/degC"; a part that has a solidus itself stands in brackets, "V/(mS/cm)" (SI
/// Brochure, 5.4.1).
std::string quotient_unit(std::string_view above, std::string_view below);

/// Symbol for a person: "°C" for degC, "V/°C" for a quotient; the spelling itself when the unit is not known.
std::string unit_symbol(std::string_view spelling);

bool same_unit(std::string_view a, std::string_view b);

/// Value in `to`. Error when a unit is unknown or the dimensions differ.
Result<double> convert_unit(double value, std::string_view from, std::string_view to);

/// A number with its unit, such as "20degC" or "90 kPa".
struct Measure {
    double value = 0;
    std::string unit;
};

/// Error when there is no number, no unit, or the unit is unknown.
Result<Measure> parse_measure(std::string_view text);

/// Codes of all units that convert into `unit`, for messages: "degC, K, degF".
std::string accepted_units(std::string_view unit);

} // namespace cognitum
