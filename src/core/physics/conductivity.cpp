#include "core/physics/conductivity.h"

#include "core/base/no_number.h"
#include "core/physics/table.h"

#include <array>
#include <cmath>

namespace cognitum::physics {

double conductivity_25(double kappa, double theta, double alpha) {
    if (!(kappa >= 0) || !(theta >= 0) || theta > 50 || !(alpha >= 0) || alpha > 0.1) return no_number;
    const double share = 1 + alpha * (theta - 25);
    return share > 0 ? kappa / share : no_number;
}

double conductivity_at(double kappa_25, double theta, double alpha) {
    if (!(kappa_25 >= 0) || !(theta >= 0) || theta > 50 || !(alpha >= 0) || alpha > 0.1) return no_number;
    const double share = 1 + alpha * (theta - 25);
    return share > 0 ? kappa_25 * share : no_number;
}

double natural_water_factor(double theta) {
    if (!(theta >= 0) || theta > 36) return no_number;
    const double from_20 = theta - 20;
    const double viscosity = std::pow(10, (-1.1709 * from_20 - 0.001827 * from_20 * from_20) / (theta + 89.93));
    constexpr double a = 0.962144;
    return ((1 - a) + a * std::pow(viscosity, 0.965078)) * 1.116;
}

double potassium_chloride_conductivity(double mol_per_L, double theta) {
    static constexpr std::array hundredth = {0.776, 0.896, 1.020, 1.147, 1.278, 1.413, 1.552}; // 0, 5 … 30 °C
    static constexpr std::array tenth = {7.15, 8.22, 9.33, 10.48, 11.67, 12.88, 14.12};
    static constexpr std::array whole = {65.41, 74.14, 83.19, 92.52, 102.07, 111.80};
    const auto is = [&](double c) { return std::abs(mol_per_L / c - 1) < 1e-6; };
    if (is(0.01)) return interpolate_even(hundredth, 0, 5, theta);
    if (is(0.1)) return interpolate_even(tenth, 0, 5, theta);
    if (is(1)) return interpolate_even(whole, 0, 5, theta);
    return no_number;
}

namespace {

constexpr double sea_water_at_15 = 42.914; ///< mS/cm, salinity 35

/// Conductivity of sea water of salinity 35 at t, as a share of that at 15 °C.
double temperature_ratio(double t) {
    return 0.6766097 + t * (2.00564e-2 + t * (1.104259e-4 + t * (-6.9698e-7 + t * 1.0031e-9)));
}

} // namespace

double sea_water_conductivity(double t) {
    return t >= -2 && t <= 35 ? sea_water_at_15 * temperature_ratio(t) : no_number;
}

double practical_salinity(double conductivity, double t, double p) {
    if (!(conductivity >= 0) || !(t >= -2) || t > 35 || !(p >= 0) || p > 10000) return no_number;
    const double ratio = conductivity / sea_water_at_15;
    const double rt = temperature_ratio(t);
    const double rp = 1 + p * (2.070e-5 + p * (-6.370e-10 + p * 3.989e-15)) /
                              (1 + 3.426e-2 * t + 4.464e-4 * t * t + (4.215e-1 - 3.107e-3 * t) * ratio);
    const double root = std::sqrt(ratio / (rp * rt));
    const auto polynomial = [&](const std::array<double, 6>& c) {
        double sum = 0;
        for (std::size_t i = c.size(); i-- > 0;)
            sum = sum * root + c[i];
        return sum;
    };
    const double salinity =
        polynomial({0.0080, -0.1692, 25.3851, 14.0941, -7.0261, 2.7081}) +
        (t - 15) / (1 + 0.0162 * (t - 15)) * polynomial({0.0005, -0.0056, -0.0066, -0.0375, 0.0636, -0.0144});
    return salinity >= 2 && salinity <= 42 ? salinity : no_number;
}

double dissolved_solids(double kappa_25, double k) {
    return kappa_25 >= 0 && k >= 0.5 && k <= 0.8 ? k * kappa_25 : no_number;
}

} // namespace cognitum::physics
