// Sound in air, for rangers that time an echo. Pure functions; outside their range they return NaN.
#pragma once

namespace cognitum::physics {

/// Speed of sound in dry air, m/s: 331.3·√(1 + θ/273.15). theta: −80…80 °C.
double dry_speed_of_sound(double theta_degC);

/// Speed of sound in humid air, m/s, Cramer (1993), J. Acoust. Soc. Am. 93, 2510, eq. 15 with his saturation
/// pressure and enhancement factor; carbon dioxide 0.04 %. theta: 0…30 °C as published, extended here to −20…60 °C;
/// humidity: 0…1; pressure: 60…110 kPa.
double humid_speed_of_sound(double theta_degC, double humidity, double pressure_Pa);

} // namespace cognitum::physics
