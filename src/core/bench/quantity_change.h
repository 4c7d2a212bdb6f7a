// A reading in another unit, or of another quantity: what the plan says of it goes along, or is taken back.
#pragma once

#include "core/bench/bench.h"
#include "core/units/quantity_kind.h"

#include <string>
#include <vector>

namespace cognitum {

/// Another unit of the same dimension: expected range, accuracy, bands, and the limits of watch rules, loads and
/// session rules go along. False, and nothing changed: the reading is not there, its calibration holds in its own
/// unit, or the units are of two dimensions.
bool change_unit(Bench& bench, const std::string& reading, const std::string& unit);

/// Another quantity, with its usual range. What was planned for the old one goes: part, wires, path, bands,
/// correction. Rules and loads whose limits stood in the old unit no longer act. Returns their names; none where
/// the reading is of that kind already, or is not there.
std::vector<std::string> change_kind(Bench& bench, const std::string& reading, const QuantityKind& kind);

} // namespace cognitum
