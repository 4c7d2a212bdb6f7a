#include "core/physics/radiation.h"

#include "core/base/no_number.h"

#include <cmath>

namespace cognitum::physics {

namespace {

double fourth(double theta_degC) {
    const double kelvin = theta_degC + 273.15;
    return kelvin > 0 ? std::pow(kelvin, 4) : no_number;
}

double from_fourth(double power) {
    return power > 0 ? std::pow(power, 0.25) - 273.15 : no_number;
}

bool possible(double emissivity) {
    return emissivity >= 0.05 && emissivity <= 1;
}

} // namespace

double surface_temperature(double shown, double emissivity, double ambient) {
    if (!possible(emissivity)) return no_number;
    return from_fourth((fourth(shown) - (1 - emissivity) * fourth(ambient)) / emissivity);
}

double shown_by_radiation(double surface, double emissivity, double ambient) {
    if (!possible(emissivity)) return no_number;
    return from_fourth(emissivity * fourth(surface) + (1 - emissivity) * fourth(ambient));
}

double emissivity_from_contact(double shown, double contact, double ambient) {
    const double found = (fourth(shown) - fourth(ambient)) / (fourth(contact) - fourth(ambient));
    return possible(found) ? found : no_number;
}

double spot_size(double distance, double ratio) {
    return distance >= 0 && ratio > 0 ? distance / ratio : no_number;
}

} // namespace cognitum::physics
