// Which controls a person of this computer lets act. A bench file only asks: it may come from a stranger, and what
// it sends may open somebody's door.
#pragma once

#include "core/bench/bench.h"

namespace cognitum {

/// Remembered in the person's data folder, by what is sent and where to: another line is another question.
void allow_acting(const LoadControl& control, const Bench& bench);
/// Loads of simulated boards may always act.
[[nodiscard]] bool is_acting_allowed(const LoadControl& control, const Bench& bench);

} // namespace cognitum
