// Which receivers a person of this computer let listen to the whole network. A bench file only asks: it may come
// from a stranger.
#pragma once

#include "core/bench/link_plan.h"

namespace cognitum {

/// Remembered in the person's data folder, by port and token: another token is another question.
void allow_wide(const HttpPlan& plan);
[[nodiscard]] bool is_wide_allowed(const HttpPlan& plan);

} // namespace cognitum
