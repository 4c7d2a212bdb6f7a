#include "core/physics/sound.h"

#include "core/base/no_number.h"

#include <cmath>

namespace cognitum::physics {

namespace {
constexpr double carbon_dioxide = 0.0004; ///< mole fraction
} // namespace

double dry_speed_of_sound(double theta) {
    if (!(theta >= -80) || theta > 80) return no_number;
    return 331.3 * std::sqrt(1 + theta / 273.15);
}

double humid_speed_of_sound(double t, double humidity, double p) {
    if (!(t >= -20) || t > 60 || !(humidity >= 0) || humidity > 1 || !(p >= 60e3) || p > 110e3) return no_number;
    const double kelvin = t + 273.15;
    const double enhancement = 1.00062 + 3.14e-8 * p + 5.6e-7 * t * t;
    const double saturation =
        std::exp(1.2811805e-5 * kelvin * kelvin - 1.9509874e-2 * kelvin + 34.04926034 - 6.3536311e3 / kelvin);
    const double xw = humidity * enhancement * saturation / p;
    const double xc = carbon_dioxide;
    return 331.5024 + 0.603055 * t - 0.000528 * t * t + (51.471935 + 0.1495874 * t - 0.000782 * t * t) * xw +
           (-1.82e-7 + 3.73e-8 * t - 2.93e-10 * t * t) * p + (-85.20931 - 0.228525 * t + 5.91e-5 * t * t) * xc -
           2.835149 * xw * xw - 2.15e-13 * p * p + 29.179762 * xc * xc + 0.000486 * xw * p * xc;
}

} // namespace cognitum::physics
