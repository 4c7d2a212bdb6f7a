// Thermistors, platinum, thermocouples, radiation: what becomes a temperature.
#include "core/base/phrase.h"
#include "core/physics/radiation.h"
#include "core/physics/thermocouple.h"
#include "core/physics/thermometry.h"
#include "core/signal_path/stage_parts.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum::stages {

namespace {

const Units ohm_to_degC = {"ohm", "degC"};
const Units degC_to_degC = {"degC", "degC"};

} // namespace

Value forward_of(const ThermistorBeta& s, double x) {
    return finite_or(physics::thermistor_beta_temperature(x, s.r0_ohm.value, s.t0_degC.value, s.beta_K.value));
}
Value inverse_of(const ThermistorBeta& s, double y) {
    return finite_or(physics::thermistor_beta_resistance(y, s.r0_ohm.value, s.t0_degC.value, s.beta_K.value));
}
Units units_of(const ThermistorBeta&) {
    return ohm_to_degC;
}
const char* title_of(const ThermistorBeta&) {
    return phrase("Temperature");
}
std::string arithmetic_of(const ThermistorBeta& s, double x) {
    return fmt::format("1/T = 1/{} K + ln({} ÷ {}) ÷ {} K", num(s.t0_degC.value + physics::zero_celsius_K), num(x),
                       num(s.r0_ohm.value), num(s.beta_K.value));
}
Constants constants_of(ThermistorBeta& s) {
    return {{"r0_ohm", "ohm", &s.r0_ohm}, {"t0_degC", "degC", &s.t0_degC}, {"beta_K", "K", &s.beta_K}};
}

Value forward_of(const ThermistorSteinhartHart& s, double x) {
    return finite_or(physics::steinhart_hart_temperature(x, s.a.value, s.b.value, s.c.value));
}
Value inverse_of(const ThermistorSteinhartHart& s, double y) {
    return finite_or(physics::steinhart_hart_resistance(y, s.a.value, s.b.value, s.c.value));
}
Units units_of(const ThermistorSteinhartHart&) {
    return ohm_to_degC;
}
const char* title_of(const ThermistorSteinhartHart&) {
    return phrase("Temperature");
}
std::string arithmetic_of(const ThermistorSteinhartHart&, double x) {
    return fmt::format("1/T = A + B ln R + C (ln R)³, R = {} Ω", num(x));
}
Constants constants_of(ThermistorSteinhartHart& s) {
    return {{"a", "", &s.a}, {"b", "", &s.b}, {"c", "", &s.c}};
}

Value forward_of(const Rtd& s, double x) {
    return finite_or(physics::platinum_temperature(x, s.r0_ohm.value));
}
Value inverse_of(const Rtd& s, double y) {
    return finite_or(physics::platinum_resistance(y, s.r0_ohm.value));
}
Units units_of(const Rtd&) {
    return ohm_to_degC;
}
const char* title_of(const Rtd&) {
    return phrase("Temperature");
}
std::string arithmetic_of(const Rtd& s, double x) {
    return phrase("IEC 60751 at {} Ω, R0 = {} Ω", num(x), num(s.r0_ohm.value));
}
Constants constants_of(Rtd& s) {
    return {{"r0_ohm", "ohm", &s.r0_ohm}};
}

Value forward_of(const Thermocouple& s, double x) {
    const auto type = physics::thermocouple_type(s.type);
    if (!type) return Value::none(Cause::out_of_range);
    return finite_or(physics::thermocouple_temperature(*type, x, s.reference_degC.value));
}
Value inverse_of(const Thermocouple& s, double y) {
    const auto type = physics::thermocouple_type(s.type);
    if (!type) return Value::none(Cause::out_of_range);
    return finite_or(physics::thermocouple_emf(*type, y, s.reference_degC.value));
}
Units units_of(const Thermocouple&) {
    return {"mV", "degC"};
}
const char* title_of(const Thermocouple&) {
    return phrase("Temperature");
}
std::string arithmetic_of(const Thermocouple& s, double x) {
    const auto type = physics::thermocouple_type(s.type);
    const double cold = type ? physics::thermocouple_emf(*type, s.reference_degC.value) : 0;
    return phrase("ITS-90, type {}: {} mV + {} mV of its cold end at {} °C", s.type, num(x), num(cold),
                  num(s.reference_degC.value));
}
Constants constants_of(Thermocouple& s) {
    return {{"reference_degC", "degC", &s.reference_degC}};
}

Value forward_of(const StraightCouple& s, double x) {
    const auto type = physics::thermocouple_type(s.type);
    if (!type) return Value::none(Cause::out_of_range);
    return finite_or(physics::from_straight_line(*type, x, s.reference_degC.value, s.slope_uV_per_K.value / 1000));
}
Value inverse_of(const StraightCouple& s, double y) {
    const auto type = physics::thermocouple_type(s.type);
    if (!type) return Value::none(Cause::out_of_range);
    const double emf_mV = physics::thermocouple_emf(*type, y, s.reference_degC.value);
    return finite_or(s.reference_degC.value + 1000 * emf_mV / s.slope_uV_per_K.value);
}
Units units_of(const StraightCouple&) {
    return degC_to_degC;
}
const char* title_of(const StraightCouple&) {
    return phrase("On the real curve");
}
std::string arithmetic_of(const StraightCouple& s, double x) {
    return phrase("({}{}) °C × {} µV/°C is what the chip saw; ITS-90, type {}", num(x),
                  minus(s.reference_degC.value), num(s.slope_uV_per_K.value), s.type);
}
Constants constants_of(StraightCouple& s) {
    return {{"slope_uV_per_K", "uV/K", &s.slope_uV_per_K}, {"reference_degC", "degC", &s.reference_degC}};
}

Value forward_of(const Infrared& s, double x) {
    return finite_or(physics::surface_temperature(x, s.emissivity.value, s.ambient_degC.value));
}
Value inverse_of(const Infrared& s, double y) {
    return finite_or(physics::shown_by_radiation(y, s.emissivity.value, s.ambient_degC.value));
}
Units units_of(const Infrared&) {
    return degC_to_degC;
}
const char* title_of(const Infrared&) {
    return phrase("Surface");
}
std::string arithmetic_of(const Infrared& s, double x) {
    return fmt::format("T⁴ = (({} °C)⁴ − {} × ({} °C)⁴) ÷ {}", num(x), num(1 - s.emissivity.value, 3),
                       num(s.ambient_degC.value), num(s.emissivity.value));
}
Constants constants_of(Infrared& s) {
    return {{"emissivity", "1", &s.emissivity}, {"ambient_degC", "degC", &s.ambient_degC}};
}

} // namespace cognitum::stages
