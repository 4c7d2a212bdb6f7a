// Water in soil by weighing, the reference for probes. Pure functions.
#pragma once

namespace cognitum::physics {

/// Volumetric water content, 0…1: θ = (m_wet − m_dry)/(ρ_w·V), ISO 11461 (core of known volume, dried at 105 °C).
/// Masses in g; volume of the core in mL, above zero; water's temperature 0…40 °C. NaN where the wet mass is the
/// smaller.
double volumetric_water_content(double wet_g, double dry_g, double volume_mL, double theta_degC = 20);

} // namespace cognitum::physics
