// Thermocouples by the reference functions of ITS-90 (NIST Monograph 175, 1993; IEC 60584-1). Pure functions;
// outside their range they return NaN.
#pragma once

#include <optional>
#include <string_view>

namespace cognitum::physics {

enum class ThermocoupleType { B, E, J, K, N, R, S, T };

/// From its letter; empty for any other.
std::optional<ThermocoupleType> thermocouple_type(std::string_view letter);

struct ThermocoupleRange {
    double low_degC, high_degC; ///< of the reference function
    double inverse_from_degC;   ///< from here upwards one voltage has one temperature
};
ThermocoupleRange thermocouple_range(ThermocoupleType type);

/// Voltage, mV, against a reference junction at 0 °C.
double thermocouple_emf(ThermocoupleType type, double theta_degC);
/// Voltage, mV, against a reference junction at another temperature: E(θ) − E(reference).
double thermocouple_emf(ThermocoupleType type, double theta_degC, double reference_degC);

/// The inverse of thermocouple_emf(), by search on the reference function itself (the published inverse
/// polynomials are off by up to 0.06 °C). The reference junction is added in volts, not in degrees. Type B has two
/// temperatures for one voltage below 50 °C: NaN there.
double thermocouple_temperature(ThermocoupleType type, double emf_mV, double reference_degC = 0);

/// What a converter chip that assumes a straight line shows, back to ITS-90: the chip counts `shown` as
/// `chip` + emf / slope. slope: mV/°C, 0.041276 for type K at most chips.
double from_straight_line(ThermocoupleType type, double shown_degC, double chip_degC, double slope_mV_per_K);

} // namespace cognitum::physics
