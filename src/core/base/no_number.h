// The number that stands where there is none. A value without a number says why beside it (Cause).
#pragma once

#include <limits>

namespace cognitum {

inline constexpr double no_number = std::numeric_limits<double>::quiet_NaN();

} // namespace cognitum
