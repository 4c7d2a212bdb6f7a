// Standard solutions of known acidity.
#pragma once

#include <string_view>

namespace cognitum::physics {

/// pH of a standard buffer: phthalate (0.05 mol/kg), phosphate (0.025 mol/kg each) or borax (0.01 mol/kg). theta:
/// °C in 0…50, straight between the published temperatures; NaN outside, and for other names. NIST values after the
/// IUPAC Recommendations 2002, Pure Appl. Chem. 74, 2169, table 3.
double buffer_pH(std::string_view name, double theta_degC);

} // namespace cognitum::physics
