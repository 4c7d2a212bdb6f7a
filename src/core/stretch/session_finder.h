// Finds sessions in a series by a rule, sample by sample: the same while it is recorded and in old data.
#pragma once

#include "core/bench/timed_session.h"
#include "core/stretch/stretch.h"

#include <optional>
#include <utility>
#include <vector>

namespace cognitum {

/// What a rule is asked about, sample by sample: a reading's value, or of a total (rain) what came for each hour.
class RuleValues {
  public:
    explicit RuleValues(const Reading& reading) : m_is_total(reading.quantity.about().is_total) {}
    /// NaN: there is none.
    double take(TimeUs time, double value);

  private:
    bool m_is_total;
    std::optional<std::pair<TimeUs, double>> m_before;
};

/// A session begins with the first sample at which the rule holds, and ends with the last before the rule has not
/// held for longer than its pause. What is shorter than `least_s` from the first to the last of them is none.
class SessionFinder {
  public:
    explicit SessionFinder(const SessionRule& rule);
    /// In order of time; NaN: no value.
    void take(TimeUs time, double value);
    /// The clock, while no sample comes.
    void pass(TimeUs now);

    /// Those that ended since the last call, in order; the end just behind the last sample at which it held.
    std::vector<Interval> ended();
    /// When the one under way began; empty: there is none that is long enough.
    [[nodiscard]] std::optional<TimeUs> under_way() const;
    /// The last sample of the one under way; 0: there is none.
    [[nodiscard]] TimeUs last_held() const { return m_last; }

  private:
    [[nodiscard]] bool holds(double value) const;
    void close();
    SessionRule m_rule;
    TimeUs m_least = 0, m_pause = 0;
    std::optional<TimeUs> m_begun;
    TimeUs m_last = 0; ///< at which it held
    std::vector<Interval> m_ended;
};

} // namespace cognitum
