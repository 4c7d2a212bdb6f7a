#include "core/physics/soil.h"

#include "core/base/no_number.h"
#include "core/physics/water.h"

namespace cognitum::physics {

double volumetric_water_content(double wet_g, double dry_g, double volume_mL, double theta_degC) {
    if (!(dry_g > 0) || !(wet_g >= dry_g) || !(volume_mL > 0)) return no_number;
    return (wet_g - dry_g) / (water_density(theta_degC) / 1000) / volume_mL;
}

} // namespace cognitum::physics
