// Temperatures by radiation. Pure functions; outside their range they return NaN.
#pragma once

namespace cognitum::physics {

/// Temperature of a surface, °C, from what a thermometer shows that takes it for black: the fourth-power law with
/// the mirrored share, T⁴ = (Tₛ⁴ − (1 − ε)·Tₐ⁴)/ε (Stefan–Boltzmann; total radiation, grey surface). emissivity:
/// 0.05…1; both temperatures above −273.15 °C. NaN where the mirrored share alone is more than what was seen.
double surface_temperature(double shown_degC, double emissivity, double ambient_degC);
/// Its inverse: what such a thermometer shows.
double shown_by_radiation(double surface_degC, double emissivity, double ambient_degC);
/// The emissivity that makes a thermometer that shows `shown` agree with a contact probe; NaN outside 0.05…1.
double emissivity_from_contact(double shown_degC, double contact_degC, double ambient_degC);
/// Diameter of the measured spot at a distance, same unit, for optics of distance:spot = `ratio`.
double spot_size(double distance, double ratio);

} // namespace cognitum::physics
