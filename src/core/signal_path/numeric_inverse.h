// The inverse of a function that has none in closed form.
#pragma once

#include "core/signal_path/stage.h"

#include <functional>

namespace cognitum {

/// x in low … high with f(x) = y; low = high: anywhere, looked for on a grid that is fine near zero. Found by the
/// changes of sign of f − y on a thousand points, then by search between them. No such x: Cause::out_of_range; more
/// than one: Cause::ambiguous. f may give NaN; where it jumps, no x is invented.
Value numeric_inverse(const std::function<double(double)>& f, double y, double low, double high);

} // namespace cognitum
