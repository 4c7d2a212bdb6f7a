#include "core/physics/radiation.h"

#include <cmath>
#include <limits>

namespace cognitum::physics {

namespace {

constexpr double nan = std::numeric_limits<double>::quiet_NaN();

double fourth(double theta_degC) {
    const double kelvin = theta_degC + 273.15;
    return kelvin > 0 ? std::pow(kelvin, 4) : nan;
}

double from_fourth(double power) {
    return power > 0 ? std::pow(power, 0.25) - 273.15 : nan;
}

bool possible(double emissivity) {
    return emissivity >= 0.05 && emissivity <= 1;
}

} // namespace

double surface_temperature(double shown, double emissivity, double ambient) {
    if (!possible(emissivity)) return nan;
    return from_fourth((fourth(shown) - (1 - emissivity) * fourth(ambient)) / emissivity);
}

double shown_by_radiation(double surface, double emissivity, double ambient) {
    if (!possible(emissivity)) return nan;
    return from_fourth(emissivity * fourth(surface) + (1 - emissivity) * fourth(ambient));
}

double emissivity_from_contact(double shown, double contact, double ambient) {
    const double found = (fourth(shown) - fourth(ambient)) / (fourth(contact) - fourth(ambient));
    return possible(found) ? found : nan;
}

double spot_size(double distance, double ratio) {
    return distance >= 0 && ratio > 0 ? distance / ratio : nan;
}

} // namespace cognitum::physics
