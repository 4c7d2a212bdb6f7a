#include "core/base/root.h"

#include <algorithm>
#include <boost/math/tools/toms748_solve.hpp>
#include <cmath>
#include <cstdint>
#include <limits>

namespace cognitum {

std::optional<double> bracketed_root(const std::function<double(double)>& f, double low, double high) {
    const double at_low = f(low), at_high = f(high);
    if (at_low == 0) return low;
    if (at_high == 0) return high;
    if (!std::isfinite(at_low) || !std::isfinite(at_high) || (at_low < 0) == (at_high < 0)) return {};
    bool finite = true;
    const auto watched = [&](double x) {
        const double y = f(x);
        finite = finite && std::isfinite(y);
        return finite ? y : 0; // ends the search
    };
    const auto near = [](double a, double b) {
        return b - a <= 4 * std::numeric_limits<double>::epsilon() * std::max(std::abs(a), std::abs(b));
    };
    std::uintmax_t most = 200;
    const auto [a, b] = boost::math::tools::toms748_solve(watched, low, high, at_low, at_high, near, most);
    return finite ? std::optional(a + (b - a) / 2) : std::nullopt;
}

} // namespace cognitum
