#include "core/calibrate/gate.h"

#include "core/analyse/statistics.h"
#include "core/base/phrase.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <gsl/gsl_cdf.h>

namespace cognitum {

GateSettings gate_settings(double response_s, double interval_s, double limit) {
    GateSettings settings;
    settings.window_s = std::max({response_s > 0 ? 2 * response_s : 20, 8 * interval_s, 1.0});
    settings.slope_limit = 0.25 * limit / settings.window_s;
    settings.scatter_limit = std::max(limit, 0.0);
    settings.min_samples = 8;
    return settings;
}

double indication_u(const GateState& state, double step) {
    const double own = step / std::sqrt(12.0);
    if (state.scatter < 0.5 * step) return std::max({own, state.u_mean, 1e-9});
    return std::max({state.u_mean, 0.1 * own, 1e-9});
}

GateState assess_steadiness(std::span<const TimedValue> samples, const GateSettings& settings, TimeUs now) {
    const TimeUs window = from_seconds(settings.window_s);
    std::vector<double> t;
    std::vector<double> v;
    for (const TimedValue& s : samples)
        if (s.time > now - window && s.time <= now) {
            t.push_back(seconds(s.time - now));
            v.push_back(s.value);
        }
    GateState out;
    out.n = static_cast<int>(v.size());
    if (v.empty()) {
        out.waiting_for = phrase("the first value");
        return out;
    }
    const Moments m = moments(v);
    const LineFit line = fit_line(t, v);
    out.mean = m.mean;
    out.scatter = m.sd;
    out.slope_per_min = line.slope * 60;
    const double rho = std::clamp(lag_one_correlation(v), 0.0, 0.9);
    const double independent = std::max(1.0, static_cast<double>(out.n) * (1 - rho) / (1 + rho));
    out.u_mean = m.sd / std::sqrt(independent);

    // One sample interval is missing at the window's edge even when it is full.
    const double interval = out.n > 1 ? (t.back() - t.front()) / (out.n - 1) : settings.window_s;
    out.filled = std::min(1.0, (t.back() - t.front() + 1.5 * interval) / settings.window_s);
    if (out.n < settings.min_samples || out.filled < 1) {
        const double left = std::max(0.0, settings.window_s * (1 - out.filled));
        out.waiting_for = out.n < settings.min_samples && left < 1
                              ? phrase("{} more values", settings.min_samples - out.n)
                              : phrase("{:.0f} s more", std::ceil(left));
        return out;
    }
    const bool small = std::abs(line.slope) <= settings.slope_limit;
    const bool no_trend = line.slope_se > 0 &&
                          std::abs(line.slope) / line.slope_se < gsl_cdf_tdist_Pinv(0.995, out.n - 2) &&
                          line.slope_se < 4 * settings.slope_limit;
    if (out.scatter > settings.scatter_limit)
        out.waiting_for = phrase("less scatter: {} now, {} at most", format_constant(out.scatter, 2),
                                 format_constant(settings.scatter_limit, 2));
    else if (!small && !no_trend)
        out.waiting_for = phrase("still moving, {} a minute", format_constant(out.slope_per_min, 2));
    out.steady = out.waiting_for.empty();
    return out;
}

void SteadinessGate::push(TimedValue sample) {
    if (!m_samples.empty() && sample.time <= m_samples.back().time) return;
    m_samples.push_back(sample);
    const TimeUs keep = sample.time - 3 * from_seconds(m_settings.window_s);
    const auto first =
        std::find_if(m_samples.begin(), m_samples.end(), [&](const TimedValue& s) { return s.time > keep; });
    m_samples.erase(m_samples.begin(), first);
}

GateState SteadinessGate::state(TimeUs now) {
    GateState out = assess_steadiness(m_samples, m_settings, now);
    if (out.steady && !m_open) m_open_since = now;
    m_open = out.steady;
    out.steady_for_s = m_open ? seconds(now - m_open_since) : 0;
    return out;
}

} // namespace cognitum
