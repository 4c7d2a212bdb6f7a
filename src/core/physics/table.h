// Published tables at even steps, read in between.
#pragma once

#include "core/base/no_number.h"

#include <cmath>
#include <span>

namespace cognitum::physics {

/// Lagrange cubic through the four nearest entries of a table that starts at `from` and goes on by `step`. NaN
/// outside the table. At the entries it gives them exactly. At least four entries.
inline double interpolate_even(std::span<const double> table, double from, double step, double x) {
    const double at = (x - from) / step;
    const auto last = static_cast<double>(table.size() - 1);
    if (!(at >= 0) || at > last || table.size() < 4) return no_number;
    const double first = std::fmin(std::fmax(std::floor(at) - 1, 0), last - 3);
    const double* y = table.data() + static_cast<std::size_t>(first);
    const double u = at - first; // 0…3
    return -y[0] * (u - 1) * (u - 2) * (u - 3) / 6 + y[1] * u * (u - 2) * (u - 3) / 2 -
           y[2] * u * (u - 1) * (u - 3) / 2 + y[3] * u * (u - 1) * (u - 2) / 6;
}

} // namespace cognitum::physics
