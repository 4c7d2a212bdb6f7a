// Humidity over saturated salt solutions, for checking hygrometers. Pure functions.
#pragma once

#include <string>
#include <string_view>
#include <vector>

namespace cognitum::physics {

/// Relative humidity, 0…1, over a saturated solution of this salt, Greenspan (1977), J. Res. NBS 81A, 89, from his
/// table of 5 °C steps. NaN outside its temperatures (0…40 °C, potassium carbonate 0…30 °C) or for an unknown salt.
double salt_humidity(std::string_view salt, double theta_degC);
/// His stated doubt at 25 °C, ± in relative humidity 0…1; NaN for an unknown salt.
double salt_humidity_doubt(std::string_view salt);
/// "lithium-chloride", … in order of their humidity.
std::vector<std::string> salt_names();

} // namespace cognitum::physics
