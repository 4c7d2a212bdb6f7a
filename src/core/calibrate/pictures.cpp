#include "core/calibrate/pictures.h"

#include "core/uncertainty/budget.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace cognitum {

namespace {

constexpr double infinite = std::numeric_limits<double>::infinity();

/// U at 95 % of one comparison, whose stated doubts are taken as well known.
double bar_of(const CalibrationPoint& p) {
    return coverage_factor(infinite) * std::hypot(p.u_reference, p.u_indication);
}

void widen(double& low, double& high, double x) {
    low = std::min(low, x);
    high = std::max(high, x);
}

} // namespace

FitPicture fit_picture(const Quantity& quantity, std::span<const CalibrationPoint> points, const Fit* fit) {
    FitPicture out;
    out.low = quantity.low;
    out.high = quantity.high;
    if (!points.empty()) {
        out.low = infinite;
        out.high = -infinite;
        for (const CalibrationPoint& p : points) {
            widen(out.low, out.high, p.indication);
            widen(out.low, out.high, p.reference);
        }
        const double air = std::max(0.12 * (out.high - out.low), 0.05 * (quantity.high - quantity.low));
        out.low -= air;
        out.high += air;
    }
    const auto fitted = [&](double x) { return fit ? fit->at(x) : x; };
    const bool after = adjusted_between(points);
    out.tallest = 1.25 * quantity.accuracy;
    for (const CalibrationPoint& p : points) {
        const double off = fitted(p.indication) - p.reference;
        const Dot dot{p.indication, p.reference, bar_of(p)};
        if (p.check && p.counts()) {
            out.checks.push_back(dot);
            out.checks_left_over.push_back({p.indication, off, dot.half});
            out.tallest = std::max(out.tallest, std::abs(off) + dot.half);
        } else if (p.fitted(after)) {
            out.used.push_back(dot);
            out.left_over.push_back({p.indication, off, dot.half});
            out.tallest = std::max(out.tallest, std::abs(off) + dot.half);
        } else {
            out.aside.push_back(dot);
        }
    }
    constexpr int steps = 60;
    for (int i = 0; i <= steps; ++i) {
        const double at = out.low + (out.high - out.low) * i / steps;
        const double value = fitted(at);
        const double band = fit ? fit->prediction_band(at) : 0;
        const double half = std::isfinite(band) ? band : 0;
        out.curve.push_back({at, value, value - half, value + half});
    }
    return out;
}

StatePicture state_picture(std::span<const CalibrationPoint> points, std::optional<double> raw_now) {
    StatePicture out;
    out.low = infinite;
    out.high = -infinite;
    if (raw_now && std::isfinite(*raw_now)) widen(out.low, out.high, *raw_now);
    for (const CalibrationPoint& p : points) {
        (!p.counts() ? out.aside : p.check ? out.checks : out.used).push_back({p.raw, p.reference});
        widen(out.low, out.high, p.raw);
    }
    if (!(out.high >= out.low)) out.low = 0, out.high = 1;
    const double air = std::max(0.15 * (out.high - out.low), 0.5);
    out.low -= air;
    out.high += air;
    return out;
}

ErrorPicture error_picture(const CalibrationRecord& record, const Quantity& quantity,
                           const std::optional<AppliedCorrection>& before) {
    ErrorPicture out;
    out.low = quantity.low;
    out.high = quantity.high;
    out.tallest = 1.2 * record.limit;
    const bool after = adjusted_between(record.points);
    const auto add = [&](std::vector<Dot>& to, const CalibrationPoint& p, double error) {
        to.push_back({p.reference, error, bar_of(p)});
        widen(out.low, out.high, p.reference);
        out.tallest = std::max(out.tallest, std::abs(error) + to.back().half);
    };
    for (const CalibrationPoint& p : record.points) {
        if (!p.counts()) continue;
        if (!p.as_left && !p.check) add(out.found, p, error_found(p, before));
        if (!after || p.as_left) add(out.left, p, corrected(record.correction, p.indication) - p.reference);
    }
    return out;
}

} // namespace cognitum
