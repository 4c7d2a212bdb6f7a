// Calibration points turned into the constants of a path, where the part's own curve is what is wrong.
#pragma once

#include "core/calibrate/record.h"
#include "core/signal_path/chain.h"

namespace cognitum {

/// True when the path has a thermistor whose constants points could give.
bool has_thermistor(const Chain& path);

/// The path with β and R25 of its thermistor fitted to the points that count: resistances from their raw values,
/// temperatures from their references, with standard errors and origin. Error without a thermistor, with fewer than
/// two temperatures, or where the path gives no resistance. `when` for the origin.
Result<Chain> thermistor_from_points(const Chain& path, const std::vector<CalibrationPoint>& points,
                                     const std::string& unit, TimeUs when);

} // namespace cognitum
