// When a point may be taken: the signal has stopped moving, judged by statistics over a window, not by eye.
#pragma once

#include "core/base/time.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct TimedValue {
    TimeUs time = 0;
    double value = 0;
    bool operator==(const TimedValue&) const = default;
};

struct GateSettings {
    double window_s = 20;       ///< fitted to the sensor's response: about two time constants
    double slope_limit = 0.01;  ///< unit per second that is steady whatever the noise
    double scatter_limit = 0.5; ///< largest standard deviation, unit
    int min_samples = 5;
};

struct GateState {
    bool steady = false;
    double steady_for_s = 0; ///< since when it has been open without a break
    double slope_per_min = 0;
    double scatter = 0;
    double mean = 0;
    double u_mean = 0; ///< standard uncertainty of the mean: scatter / √(n / autocorrelation time)
    int n = 0;
    double filled = 0;       ///< share of the window that holds samples, 0…1
    std::string waiting_for; ///< "6 s more", "still moving: 0.4 per min"; empty when steady
};

/// Two time constants of the part (0: not known, twenty seconds), and never fewer than eight values. `limit`:
/// needed accuracy, unit.
GateSettings gate_settings(double response_s, double interval_s, double limit);

/// Standard uncertainty of a gate's mean where one step of the raw value makes `step`, unit. Below half a step of
/// scatter a mean is no better than the step's own, divided by √12, because the codes do not tell where in the step
/// the value lies; with more scatter never better than a tenth of that.
double indication_u(const GateState& state, double step);

/// State of the samples in the last window before `now`. Steady: the window is full, the scatter is below its
/// limit, and the slope is below its limit or, by a t-test at 99 %, indistinguishable from zero.
GateState assess_steadiness(std::span<const TimedValue> samples, const GateSettings& settings, TimeUs now);

/// Feeds samples and keeps since when the gate has been open.
class SteadinessGate {
  public:
    explicit SteadinessGate(GateSettings settings) : m_settings(settings) {}
    void push(TimedValue sample);
    [[nodiscard]] GateState state(TimeUs now);
    [[nodiscard]] std::span<const TimedValue> samples() const { return m_samples; }
    [[nodiscard]] const GateSettings& settings() const { return m_settings; }

  private:
    GateSettings m_settings;
    std::vector<TimedValue> m_samples; ///< the last three windows
    TimeUs m_open_since = 0;
    bool m_open = false;
};

} // namespace cognitum
