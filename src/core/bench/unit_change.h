// A reading in another unit of the same dimension: everything in the plan that is written in its unit goes along.
#pragma once

#include "core/bench/bench.h"

#include <string>

namespace cognitum {

/// Expected range, accuracy, band, and the limits of watch rules and session rules. False, and nothing changed: the
/// reading is not there, its calibration holds in its own unit, or the units are of two dimensions.
bool change_unit(Bench& bench, const std::string& reading, const std::string& unit);

} // namespace cognitum
