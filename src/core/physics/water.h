// Water as a reference: where it boils, what it weighs, when it condenses. Outside their range: NaN.
#pragma once

namespace cognitum::physics {

/// Temperature at which pure water boils, °C, at an absolute pressure of 611.213 Pa…22.064 MPa.
/// Saturation line of IAPWS-IF97 (Release on the Industrial Formulation 1997, eq. 31).
double boiling_point(double pressure_Pa);

/// Air pressure, Pa, in the International Standard Atmosphere (ISO 2533) at −500…11 000 m above sea level.
double standard_pressure(double altitude_m);

/// Density of air-free water, kg/m³, at 101 325 Pa. theta: 0…40 °C. Tanaka et al. (2001), Metrologia 38, 301.
double water_density(double theta_degC);

/// Dew point over water, °C, by the Magnus form of WMO-No. 8 (17.62, 243.12 °C). theta: −45…60 °C; humidity: 0…1.
double dew_point(double theta_degC, double humidity);

/// Temperature of melting ice in air-saturated water at about one atmosphere, °C, and its standard uncertainty for
/// a kitchen's crushed ice and tap water.
inline constexpr double ice_point_degC = 0.0;
inline constexpr double ice_point_u_degC = 0.05;

} // namespace cognitum::physics
