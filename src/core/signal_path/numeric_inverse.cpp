#include "core/signal_path/numeric_inverse.h"

#include "core/base/no_number.h"
#include "core/base/root.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

constexpr int points = 1000;

double grid(int i, double low, double high) {
    if (low < high) return low + (high - low) * i / points;
    const double u = 60.0 * i / points - 30; // ± 1e10, a thousandth apart near zero
    return std::copysign(1e-3 * std::expm1(std::abs(u)), u);
}

} // namespace

Value numeric_inverse(const std::function<double(double)>& f, double y, double low, double high) {
    double found = 0;
    int roots = 0;
    double x0 = grid(0, low, high);
    double d0 = f(x0) - y;
    const auto root = [&](double x) {
        if (roots == 0 || std::abs(x - found) > 1e-9 * (1 + std::abs(x))) ++roots;
        found = x;
    };
    // At its ends a curve through points comes near them, and not always exactly there.
    const auto at_end = [&](double d) { return std::abs(d) <= 1e-9 * std::max(1.0, std::abs(y)); };
    if (d0 == 0 || (low < high && at_end(d0))) root(x0);
    for (int i = 1; i <= points; ++i) {
        const double x1 = grid(i, low, high);
        const double d1 = f(x1) - y;
        if (d1 == 0 || (i == points && low < high && at_end(d1))) {
            root(x1);
        } else if (d0 != 0 && std::isfinite(d0) && std::isfinite(d1) && (d0 < 0) != (d1 < 0)) {
            // At a pole the sign changes as well, but nothing comes near y.
            const auto between = bracketed_root([&](double at) { return f(at) - y; }, x0, x1);
            const double x = between.value_or(no_number);
            if (std::abs(f(x) - y) <= 1e-6 * (std::abs(y) + std::min(std::abs(d0), std::abs(d1)) + 1e-9)) root(x);
        }
        x0 = x1;
        d0 = d1;
    }
    if (roots == 1) return {found};
    return Value::none(roots == 0 ? Cause::out_of_range : Cause::ambiguous);
}

} // namespace cognitum
