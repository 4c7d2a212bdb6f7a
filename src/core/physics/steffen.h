// A smooth curve through points that never overshoots them.
#pragma once

#include <span>

namespace cognitum::physics {

/// Monotone cubic of Steffen (1990, Astron. Astrophys. 239, 443) through (x, y) at `at`; x grows, two points at
/// least. NaN outside of the points.
double steffen(std::span<const double> x, std::span<const double> y, double at);
/// The same, going on straight beyond the ends along the last chord.
double steffen_and_on(std::span<const double> x, std::span<const double> y, double at);

} // namespace cognitum::physics
