#include "core/physics/thermometry.h"

#include "core/base/no_number.h"

#include <cmath>

namespace cognitum::physics {

namespace {

// IEC 60751:2022, coefficients of the Callendar–Van Dusen equation; C holds below 0 °C only.
constexpr double cvd_A = 3.9083e-3;
constexpr double cvd_B = -5.775e-7;
constexpr double cvd_C = -4.183e-12;
} // namespace

double thermistor_beta_resistance(double theta_degC, double r0_ohm, double t0_degC, double beta_K) {
    const double T = theta_degC + zero_celsius_K;
    if (!(T > 0) || !(r0_ohm > 0) || !(beta_K > 0)) return no_number;
    return r0_ohm * std::exp(beta_K * (1 / T - 1 / (t0_degC + zero_celsius_K)));
}

double steinhart_hart_resistance(double theta_degC, double a, double b, double c) {
    const double T = theta_degC + zero_celsius_K;
    if (!(T > 0) || !(b > 0) || c < 0) return no_number;
    if (c == 0) return std::exp((1 / T - a) / b);
    // ln R is the one real root of x³ + (B/C) x + (A − 1/T)/C: its discriminant is positive for B, C > 0.
    const double half = (a - 1 / T) / (2 * c);
    const double root = std::sqrt(half * half + std::pow(b / (3 * c), 3));
    return std::exp(std::cbrt(root - half) - std::cbrt(root + half));
}

double platinum_resistance(double theta, double r0_ohm) {
    if (!(theta >= -200 && theta <= 850) || !(r0_ohm > 0)) return no_number;
    const double below = theta < 0 ? cvd_C * (theta - 100) * theta * theta * theta : 0;
    return r0_ohm * (1 + cvd_A * theta + cvd_B * theta * theta + below);
}

double platinum_temperature(double resistance_ohm, double r0_ohm) {
    if (!(r0_ohm > 0) || !(resistance_ohm > 0)) return no_number;
    const double ratio = resistance_ohm / r0_ohm;
    const double discriminant = cvd_A * cvd_A - 4 * cvd_B * (1 - ratio);
    if (discriminant < 0) return no_number;
    double theta = (-cvd_A + std::sqrt(discriminant)) / (2 * cvd_B);
    if (ratio < 1)
        for (int i = 0; i < 8; ++i) {
            const double value =
                1 + cvd_A * theta + cvd_B * theta * theta + cvd_C * (theta - 100) * theta * theta * theta;
            const double slope =
                cvd_A + 2 * cvd_B * theta + cvd_C * (4 * theta * theta * theta - 300 * theta * theta);
            theta -= (value - ratio) / slope;
        }
    return theta >= -200.0001 && theta <= 850.0001 ? theta : no_number;
}

} // namespace cognitum::physics
