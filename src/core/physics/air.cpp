#include "core/physics/air.h"

#include "core/base/no_number.h"

#include <cmath>

namespace cognitum::physics {

namespace {
constexpr double lapse_K_per_m = 0.0065, gravity = 9.80665, gas_constant_air = 287.05287;
constexpr double exponent = gravity / (gas_constant_air * lapse_K_per_m); // 5.2559
constexpr double gas_constant_vapour = 461.52;                            // J/(kg·K)
} // namespace

double saturation_vapour_pressure(double theta) {
    if (!(theta >= -45) || theta > 60) return no_number;
    return 611.2 * std::exp(17.62 * theta / (243.12 + theta));
}

double absolute_humidity(double theta, double humidity) {
    if (!(humidity >= 0) || humidity > 1) return no_number;
    return 1000 * humidity * saturation_vapour_pressure(theta) / (gas_constant_vapour * (theta + 273.15));
}

double vapour_pressure_deficit(double theta, double humidity) {
    if (!(humidity >= 0) || humidity > 1) return no_number;
    return (1 - humidity) * saturation_vapour_pressure(theta);
}

double sea_level_pressure(double pressure, double altitude, double theta) {
    if (!(pressure >= 30e3) || pressure > 110e3 || !(altitude >= -500) || altitude > 5000 || !(theta >= -60) ||
        theta > 60)
        return no_number;
    const double station_K = theta + 273.15;
    return pressure * std::pow(1 + lapse_K_per_m * altitude / station_K, exponent);
}

double standard_altitude(double pressure) {
    if (!(pressure >= 22632) || pressure > 107478) return no_number;
    return 288.15 / lapse_K_per_m * (1 - std::pow(pressure / 101325, 1 / exponent));
}

} // namespace cognitum::physics
