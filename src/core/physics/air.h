// Air as makers meet it: its water and its weight. Pure functions; outside their range they return NaN.
#pragma once

namespace cognitum::physics {

/// Vapour pressure at saturation over water, Pa, Magnus form of WMO-No. 8 (6.112 hPa, 17.62, 243.12 °C). theta:
/// −45…60 °C.
double saturation_vapour_pressure(double theta_degC);

/// Water in the air, g/m³, by the gas law with the Magnus vapour pressure. humidity: 0…1.
double absolute_humidity(double theta_degC, double humidity);

/// What is lacking to saturation, Pa.
double vapour_pressure_deficit(double theta_degC, double humidity);

/// Pressure reduced to sea level, Pa, by the hypsometric formula with the standard atmosphere's 6.5 K/km below the
/// station (WMO-No. 8; ISO 2533). pressure: 30…110 kPa at the station; altitude: −500…5 000 m; theta at the
/// station: −60…60 °C.
double sea_level_pressure(double pressure_Pa, double altitude_m, double theta_degC);

/// Altitude, m, in the International Standard Atmosphere (ISO 2533) at a pressure of 22 632…107 478 Pa: the inverse
/// of standard_pressure().
double standard_altitude(double pressure_Pa);

} // namespace cognitum::physics
