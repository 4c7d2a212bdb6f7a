// The one place where an equation is solved by search.
#pragma once

#include <functional>
#include <optional>

namespace cognitum {

/// Where f is zero between `low` and `high`, to a few units of the last place: algorithm 748 of Alefeld, Potra and
/// Shi (1995), from Boost.Math. Nothing where f has one sign at both ends, or is not finite at a point that is
/// tried.
std::optional<double> bracketed_root(const std::function<double(double)>& f, double low, double high);

} // namespace cognitum
