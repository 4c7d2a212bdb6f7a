#include "core/physics/water.h"

#include "core/base/no_number.h"
#include "core/physics/thermometry.h"

#include <cmath>

namespace cognitum::physics {

namespace {}

double boiling_point(double pressure_Pa) {
    if (!(pressure_Pa >= 611.213 && pressure_Pa <= 22.064e6)) return no_number;
    constexpr double n1 = 0.11670521452767e4, n2 = -0.72421316703206e6, n3 = -0.17073846940092e2;
    constexpr double n4 = 0.12020824702470e5, n5 = -0.32325550322333e7, n6 = 0.14915108613530e2;
    constexpr double n7 = -0.48232657361591e4, n8 = 0.40511340542057e6, n9 = -0.23855557567849;
    constexpr double n10 = 0.65017534844798e3;
    const double beta = std::pow(pressure_Pa / 1e6, 0.25);
    const double e = beta * beta + n3 * beta + n6;
    const double f = n1 * beta * beta + n4 * beta + n7;
    const double g = n2 * beta * beta + n5 * beta + n8;
    const double d = 2 * g / (-f - std::sqrt(f * f - 4 * e * g));
    return (n10 + d - std::sqrt((n10 + d) * (n10 + d) - 4 * (n9 + n10 * d))) / 2 - zero_celsius_K;
}

double standard_pressure(double altitude_m) {
    if (!(altitude_m >= -500 && altitude_m <= 11000)) return no_number;
    return 101325 * std::pow(1 - 0.0065 * altitude_m / 288.15, 5.255876);
}

double water_density(double theta) {
    if (!(theta >= 0 && theta <= 40)) return no_number;
    constexpr double a1 = -3.983035, a2 = 301.797, a3 = 522528.9, a4 = 69.34881, a5 = 999.974950;
    return a5 * (1 - (theta + a1) * (theta + a1) * (theta + a2) / (a3 * (theta + a4)));
}

double dew_point(double theta, double humidity) {
    if (!(theta >= -45 && theta <= 60) || !(humidity > 0 && humidity <= 1)) return no_number;
    const double gamma = std::log(humidity) + 17.62 * theta / (243.12 + theta);
    return 243.12 * gamma / (17.62 - gamma);
}

} // namespace cognitum::physics
