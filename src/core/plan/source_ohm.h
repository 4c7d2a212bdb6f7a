// How weak the source is that an analog input hangs on.
#pragma once

#include "core/plan/placed.h"

namespace cognitum {

/// What the tap of a part's own divider looks like to the pin, ohm, at its worst over the expected range.
double divider_source_ohm(const Placed& placed);
/// What a pin of the board's converter sees: the divider on its wire, or that of the part. 0: a strong source, or
/// none that is known.
double source_ohm(const Placed& placed);

} // namespace cognitum
