// What water conducts and what air weighs, brought to a common temperature or height.
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/physics/air.h"
#include "core/physics/conductivity.h"
#include "core/physics/water.h"
#include "core/signal_path/numeric_inverse.h"
#include "core/signal_path/stage_parts.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum::stages {

namespace {

constexpr double zero_K = 273.15;

Units same_of(const char* unit) {
    return {unit, unit};
}

} // namespace

Value forward_of(const Conductivity25& s, double x) {
    if (s.compensation == Conductivity25::Compensation::natural_water)
        return x >= 0 ? finite_or(x * physics::natural_water_factor(s.temperature_degC.value))
                      : Value::none(Cause::out_of_range);
    return finite_or(physics::conductivity_25(x, s.temperature_degC.value, s.alpha_per_K.value));
}
Value inverse_of(const Conductivity25& s, double y) {
    if (s.compensation == Conductivity25::Compensation::natural_water)
        return y >= 0 ? finite_or(y / physics::natural_water_factor(s.temperature_degC.value))
                      : Value::none(Cause::out_of_range);
    return finite_or(physics::conductivity_at(y, s.temperature_degC.value, s.alpha_per_K.value));
}
Units units_of(const Conductivity25&) {
    return same_of("mS/cm");
}
const char* title_of(const Conductivity25&) {
    return phrase("At 25 °C");
}
std::string arithmetic_of(const Conductivity25& s, double x) {
    if (s.compensation == Conductivity25::Compensation::natural_water)
        return phrase("{} × {}, ISO 7888 for natural water at {} °C", num(x),
                      num(physics::natural_water_factor(s.temperature_degC.value), 4),
                      num(s.temperature_degC.value, 4));
    return fmt::format("{} ÷ (1 + {} × ({} − 25))", num(x), num(s.alpha_per_K.value),
                       num(s.temperature_degC.value, 4));
}
Constants constants_of(Conductivity25& s) {
    Constants out = {{"temperature_degC", "degC", &s.temperature_degC}};
    if (s.compensation == Conductivity25::Compensation::linear)
        out.push_back({"alpha_per_K", "/K", &s.alpha_per_K});
    return out;
}

Value forward_of(const DissolvedSolids& s, double x) {
    return finite_or(physics::dissolved_solids(1000 * x, s.k.value));
}
Value inverse_of(const DissolvedSolids& s, double y) {
    const bool possible = y >= 0 && s.k.value >= 0.5 && s.k.value <= 0.8;
    return possible ? finite_or(y / s.k.value / 1000) : Value::none(Cause::out_of_range);
}
Units units_of(const DissolvedSolids&) {
    return {"mS/cm", "mg/L"};
}
const char* title_of(const DissolvedSolids&) {
    return phrase("Dissolved solids, estimated");
}
std::string arithmetic_of(const DissolvedSolids& s, double x) {
    return phrase("{} mg/L for each µS/cm × {} µS/cm; k depends on the salts", num(s.k.value), num(1000 * x));
}
Constants constants_of(DissolvedSolids& s) {
    return {{"k", "", &s.k}};
}

Value forward_of(const Salinity& s, double x) {
    return finite_or(physics::practical_salinity(x, s.temperature_degC.value));
}
Value inverse_of(const Salinity& s, double y) {
    return numeric_inverse([&](double x) { return physics::practical_salinity(x, s.temperature_degC.value); }, y,
                           0.5, 90);
}
Units units_of(const Salinity&) {
    return {"mS/cm", "1"};
}
const char* title_of(const Salinity&) {
    return phrase("Practical salinity");
}
std::string arithmetic_of(const Salinity& s, double x) {
    return phrase("PSS-78: {} mS/cm at {} °C against 42.914 at 15 °C", num(x), num(s.temperature_degC.value, 4));
}
Constants constants_of(Salinity& s) {
    return {{"temperature_degC", "degC", &s.temperature_degC}};
}

namespace {

double moist_air(const MoistAir& s, double humidity) {
    const double t = s.temperature_degC.value;
    switch (s.wanted) {
    case MoistAir::Wanted::dew_point: return physics::dew_point(t, humidity);
    case MoistAir::Wanted::absolute_humidity: return physics::absolute_humidity(t, humidity);
    case MoistAir::Wanted::vapour_pressure_deficit: return physics::vapour_pressure_deficit(t, humidity) / 1000;
    }
    return 0;
}

} // namespace

Value forward_of(const MoistAir& s, double x) {
    return finite_or(moist_air(s, x / 100));
}
Value inverse_of(const MoistAir& s, double y) {
    return numeric_inverse([&](double x) { return moist_air(s, x / 100); }, y,
                           s.wanted == MoistAir::Wanted::dew_point ? 0.001 : 0, 100);
}
Units units_of(const MoistAir& s) {
    return {"%", s.wanted == MoistAir::Wanted::dew_point           ? "degC"
                 : s.wanted == MoistAir::Wanted::absolute_humidity ? "g/m3"
                                                                   : "kPa"};
}
const char* title_of(const MoistAir& s) {
    return s.wanted == MoistAir::Wanted::dew_point           ? phrase("Dew point")
           : s.wanted == MoistAir::Wanted::absolute_humidity ? phrase("Water in the air")
                                                             : phrase("What the air lacks");
}
std::string arithmetic_of(const MoistAir& s, double x) {
    return phrase("Magnus, WMO-No. 8: {} % at {} °C", num(x, 4), num(s.temperature_degC.value, 4));
}
Constants constants_of(MoistAir& s) {
    return {{"temperature_degC", "degC", &s.temperature_degC}};
}

Value forward_of(const SeaLevel& s, double x) {
    return finite_or(physics::sea_level_pressure(100 * x, s.altitude_m.value, s.temperature_degC.value) / 100);
}
Value inverse_of(const SeaLevel& s, double y) { // the formula is a factor on the pressure
    const double factor = physics::sea_level_pressure(1e5, s.altitude_m.value, s.temperature_degC.value) / 1e5;
    return finite_or(y / factor);
}
Units units_of(const SeaLevel&) {
    return same_of("hPa");
}
const char* title_of(const SeaLevel&) {
    return phrase("At sea level");
}
std::string arithmetic_of(const SeaLevel& s, double x) {
    return phrase("{} hPa from {} m down, air at {} °C", num(x, 6), num(s.altitude_m.value),
                  num(s.temperature_degC.value, 3));
}
Constants constants_of(SeaLevel& s) {
    return {{"altitude_m", "m", &s.altitude_m}, {"temperature_degC", "degC", &s.temperature_degC}};
}

Value forward_of(const Altitude& s, double x) {
    return finite_or(physics::standard_altitude(101325 * x / s.base_hPa.value));
}
Value inverse_of(const Altitude& s, double y) {
    return finite_or(s.base_hPa.value * physics::standard_pressure(y) / 101325);
}
Units units_of(const Altitude&) {
    return {"hPa", "m"};
}
const char* title_of(const Altitude&) {
    return phrase("Height");
}
std::string arithmetic_of(const Altitude& s, double x) {
    return phrase("standard atmosphere, {} hPa over {} hPa", num(x, 6), num(s.base_hPa.value, 6));
}
Constants constants_of(Altitude& s) {
    return {{"base_hPa", "hPa", &s.base_hPa}};
}

namespace {

double gas_ratio(const GasAt& s) {
    const double from = s.temperature_degC.value + zero_K, to = s.reference_degC.value + zero_K;
    return from > 0 && to > 0 ? to / from : no_number;
}

} // namespace

Value forward_of(const GasAt& s, double x) {
    if (x <= -s.ambient_kPa.value) return Value::none(Cause::out_of_range); // less than nothing
    return finite_or((x + s.ambient_kPa.value) * gas_ratio(s) - s.ambient_kPa.value);
}
Value inverse_of(const GasAt& s, double y) {
    if (y <= -s.ambient_kPa.value) return Value::none(Cause::out_of_range);
    return finite_or((y + s.ambient_kPa.value) / gas_ratio(s) - s.ambient_kPa.value);
}
Units units_of(const GasAt&) {
    return same_of("kPa");
}
const char* title_of(const GasAt&) {
    return phrase("At one temperature");
}
std::string arithmetic_of(const GasAt& s, double x) {
    return fmt::format("({} + {}) kPa × {} K ÷ {} K − {} kPa", num(x), num(s.ambient_kPa.value),
                       num(s.reference_degC.value + zero_K), num(s.temperature_degC.value + zero_K),
                       num(s.ambient_kPa.value));
}
Constants constants_of(GasAt& s) {
    return {{"temperature_degC", "degC", &s.temperature_degC},
            {"reference_degC", "degC", &s.reference_degC},
            {"ambient_kPa", "kPa", &s.ambient_kPa}};
}

} // namespace cognitum::stages
