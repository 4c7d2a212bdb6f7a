// Resistance thermometers: thermistors and platinum. Pure functions; outside their range they return NaN.
#pragma once

#include "core/base/no_number.h"

#include <cmath>

namespace cognitum::physics {

inline constexpr double zero_celsius_K = 273.15;

/// From 1/T, 1/K, to °C; NaN where it is no temperature. (Inline, as its users are, for loops over arrays.)
inline double from_inverse_kelvin(double inverse_T) {
    return inverse_T > 0 && std::isfinite(inverse_T) ? 1 / inverse_T - zero_celsius_K : no_number;
}

/// Temperature, °C, of an NTC thermistor by the two-parameter form 1/T = 1/T0 + ln(R/R0)/β.
/// R, r0: ohm, > 0; t0: °C; beta: K, > 0. NaN outside.
inline double thermistor_beta_temperature(double resistance_ohm, double r0_ohm, double t0_degC, double beta_K) {
    if (!(resistance_ohm > 0) || !(r0_ohm > 0) || !(beta_K > 0)) return no_number;
    return from_inverse_kelvin(1 / (t0_degC + zero_celsius_K) + std::log(resistance_ohm / r0_ohm) / beta_K);
}

/// Its inverse: resistance, ohm, at theta, °C, > −273.15.
double thermistor_beta_resistance(double theta_degC, double r0_ohm, double t0_degC, double beta_K);

/// Temperature, °C: 1/T = A + B ln R + C (ln R)³. Steinhart & Hart (1968), Deep-Sea Research 15, 497. R: ohm, > 0.
inline double steinhart_hart_temperature(double resistance_ohm, double a, double b, double c) {
    if (!(resistance_ohm > 0)) return no_number;
    const double ln = std::log(resistance_ohm);
    return from_inverse_kelvin(a + b * ln + c * ln * ln * ln);
}

/// Its inverse, in closed form by the real root of the cubic. C must not be negative; C = 0 is the β form.
double steinhart_hart_resistance(double theta_degC, double a, double b, double c);

/// Resistance, ohm, of an industrial platinum thermometer, Callendar–Van Dusen with the coefficients of IEC 60751.
/// r0: ohm at 0 °C; theta: °C in −200…850, NaN outside.
double platinum_resistance(double theta_degC, double r0_ohm);

/// Its inverse: closed form above 0 °C, Newton's method below. NaN outside −200…850 °C.
double platinum_temperature(double resistance_ohm, double r0_ohm);

} // namespace cognitum::physics
