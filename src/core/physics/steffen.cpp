#include "core/physics/steffen.h"

#include "core/base/no_number.h"

#include <algorithm>
#include <cmath>

namespace cognitum::physics {

namespace {

/// Steffen's slope at row i: no larger than twice the smaller neighbouring slope, and zero at a turn.
double slope_at(std::span<const double> x, std::span<const double> y, std::size_t i) {
    const auto chord = [&](std::size_t k) { return (y[k + 1] - y[k]) / (x[k + 1] - x[k]); };
    const std::size_t n = x.size();
    const auto limited = [](double p, double a) {
        return p * a <= 0 ? 0 : std::abs(p) > 2 * std::abs(a) ? 2 * a : p;
    };
    if (n == 2) return chord(0);
    if (i == 0) {
        const double h0 = x[1] - x[0], h1 = x[2] - x[1];
        return limited(chord(0) * (1 + h0 / (h0 + h1)) - chord(1) * h0 / (h0 + h1), chord(0));
    }
    if (i + 1 == n) {
        const double h0 = x[n - 1] - x[n - 2], h1 = x[n - 2] - x[n - 3];
        return limited(chord(n - 2) * (1 + h0 / (h0 + h1)) - chord(n - 3) * h0 / (h0 + h1), chord(n - 2));
    }
    const double a = chord(i - 1), b = chord(i);
    const double h0 = x[i] - x[i - 1], h1 = x[i + 1] - x[i];
    const double p = (a * h1 + b * h0) / (h0 + h1);
    const double sign = (a > 0 ? 1 : -1) + (b > 0 ? 1 : -1);
    if (a == 0 || b == 0) return 0;
    return sign * std::min({std::abs(a), std::abs(b), 0.5 * std::abs(p)});
}

} // namespace

double steffen(std::span<const double> x, std::span<const double> y, double level) {
    if (x.size() < 2 || x.size() != y.size() || !(level >= x.front()) || level > x.back()) return no_number;
    const auto above = std::upper_bound(x.begin(), x.end(), level);
    const auto at = static_cast<std::size_t>(
        std::clamp<std::ptrdiff_t>(above - x.begin() - 1, 0, static_cast<std::ptrdiff_t>(x.size()) - 2));
    const double h = x[at + 1] - x[at];
    const double t = level - x[at];
    const double chord = (y[at + 1] - y[at]) / h;
    const double d0 = slope_at(x, y, at), d1 = slope_at(x, y, at + 1);
    const double a = (d0 + d1 - 2 * chord) / (h * h);
    const double b = (3 * chord - 2 * d0 - d1) / h;
    return y[at] + t * (d0 + t * (b + t * a));
}

double steffen_and_on(std::span<const double> x, std::span<const double> y, double at) {
    const std::size_t n = x.size();
    if (n >= 2 && n == y.size() && at < x[0]) return y[0] + (at - x[0]) * (y[1] - y[0]) / (x[1] - x[0]);
    if (n >= 2 && n == y.size() && at > x[n - 1])
        return y[n - 1] + (at - x[n - 1]) * (y[n - 1] - y[n - 2]) / (x[n - 1] - x[n - 2]);
    return steffen(x, y, at);
}

} // namespace cognitum::physics
