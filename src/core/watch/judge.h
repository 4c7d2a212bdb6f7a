// Judges one watch rule sample by sample: the same while it is recorded and over what was recorded.
//
// Raised at the first sample at which the rule has held for `count` lines in a row and for at least `for_s` since
// the first of them; over at the first sample at or inside `clear`; repeated at the first sample at least
// `repeat_s` after it was raised or repeated last. A line without a value neither counts nor breaks a row.
#pragma once

#include "core/base/calendar.h"
#include "core/base/time.h"
#include "core/bench/watch_rule.h"
#include "core/watch/corridor.h"
#include "core/watch/night.h"
#include "core/watch/window.h"

#include <cmath>
#include <limits>
#include <optional>
#include <utility>
#include <vector>

namespace cognitum {

enum class WatchKind { raised, repeated, cleared };
const char* watch_kind_word(WatchKind kind);

/// Is the value beyond the limit by more than its doubt?
enum class Sureness { not_known, within_doubt, for_sure };

struct WatchEvent {
    TimeUs time = 0;
    WatchKind kind = WatchKind::raised;
    double value = 0; ///< what was looked at: the value, a change, a rate an hour, an amount, s of silence
    Sureness sure = Sureness::not_known;
    bool operator==(const WatchEvent&) const = default;
};

/// What a condition must know of its reading.
struct ConditionAbout {
    int reading = 0;                                      ///< by which take() is told whose value it is
    bool is_total = false, is_state = false;              ///< what `grows` counts
    double doubt = 0;                                     ///< ± of a value at the limit, 95 %; 0: not known
    TimeUs gone = std::numeric_limits<TimeUs>::max() / 4; ///< a value that is older says nothing
    std::optional<Night> night = {};                      ///< where the bench stands; empty: not known
    std::vector<Interval> runs = {};                      ///< of a corridor: corridor_runs()
};

/// What the last line says of a condition.
enum class Says : unsigned char {
    nothing, ///< no value came, or it is too old
    between, ///< neither of the two below: inside the hysteresis
    holds,
    over
};

/// Where one condition stands.
class ConditionFollower {
  public:
    ConditionFollower(const WatchCondition& condition, const ConditionAbout& about, bool for_sure);

    /// NaN: a line without a value.
    Says take(TimeUs time, double value) {
        m_last = time;
        if (!m_plain) [[unlikely]]
            return keep(look(time, value));
        // Of `below` all is mirrored, so that one comparison serves.
        const double v = m_sign * value;
        if (std::isnan(v)) [[unlikely]]
            return Says::nothing;
        m_looked = value;
        return m_word = v > m_limit ? Says::holds : v <= m_clear ? Says::over : Says::between;
    }
    /// The clock alone: a silence may have begun, a night begun or ended. True when it did now.
    bool pass(TimeUs now);
    /// What its last line said; nothing once that is too old.
    [[nodiscard]] Says word(TimeUs now) const;
    void forget() { m_word = Says::nothing; }
    void shift(TimeUs by);
    /// Its limits, their doubt, place and sessions are these from now on; what it has seen stays.
    void renew(const WatchCondition& condition, const ConditionAbout& about, bool for_sure);
    /// A silence that has not begun is counted from here.
    void wait_from(TimeUs now) {
        if (waits_for_silence() && m_word != Says::holds) m_last = now;
    }

    [[nodiscard]] int reading() const { return m_about.reading; }
    [[nodiscard]] WatchJoin join() const { return m_condition.join; }
    [[nodiscard]] bool is_gate() const { return m_condition.join == WatchJoin::only; }
    [[nodiscard]] bool waits_for_silence() const { return m_condition.when == WatchWhen::silent; }
    [[nodiscard]] bool by_clock() const { return goes_by_clock(m_condition.when); }
    /// When what pass(now) told of began.
    [[nodiscard]] TimeUs changed_at(TimeUs now) const {
        return waits_for_silence() ? m_last.value_or(0) + m_silence : now;
    }
    [[nodiscard]] double looked_at() const { return m_looked; }
    [[nodiscard]] Sureness sureness() const;

  private:
    Says look(TimeUs time, double value);
    Says beyond(double number, double limit, double clear);
    double grown(double value);
    Says sun(TimeUs time);
    Says outside(double value, double low, double high);
    Says along(TimeUs time, double value);
    Says keep(Says says) {
        if (says != Says::nothing) m_word = says;
        return says;
    }
    WatchCondition m_condition;
    ConditionAbout m_about;
    bool m_plain; ///< above or below
    double m_sign = 1, m_limit = 0, m_clear = 0;
    TimeUs m_silence = 0;
    Says m_word = Says::nothing;
    double m_looked = 0;
    double m_beyond = 0; ///< how far outside of two limits that is; below 0: inside
    std::optional<TimeUs> m_last;
    TimeWindow m_window;
    std::optional<double> m_before; ///< of what grows
    double m_total = 0;
};

class RuleJudge {
  public:
    /// `about`: for each condition. `zone`: for the rule's hours.
    RuleJudge(const WatchRule& rule, const std::vector<ConditionAbout>& about, ZoneOffset zone = {});

    /// A line of one reading, in order of time; NaN: without a value. Of a clock that is set back by more than a
    /// minute, the time in between counts as none. `arrival`: when it came, by the clock that pass() is told, where
    /// that is another than the board's own.
    void take(int reading, TimeUs time, double value, std::vector<WatchEvent>& out,
              std::optional<TimeUs> arrival = {}) {
        // Two boards' own clocks may be an hour apart: what comes from several is timed by its arrival.
        if (m_several && arrival) time = *arrival;
        if (time < m_last) [[unlikely]]
            time = went_back(time);
        m_last = time;
        if (!m_simple) return take_joined(reading, time, value, arrival.value_or(time), out);
        if (reading == m_followers.front().reading()) step(time, m_followers.front().take(time, value), out);
    }
    /// The clock, while no line comes.
    void pass(TimeUs now, std::vector<WatchEvent>& out);
    /// Nothing was listened to until now: silences are counted from here, and a row of lines begins anew.
    void wait_from(TimeUs now);
    /// The same rule with conditions of the same kind on the same readings: other limits, doubts, place or
    /// sessions.
    void renew(const WatchRule& rule, const std::vector<ConditionAbout>& about);

    [[nodiscard]] bool raised() const { return m_raised; }
    /// It is within its hours, and every *while* holds; else what was raised before stays so, and nobody looks.
    [[nodiscard]] bool looks(TimeUs time) { return within_hours(time) && gates_open(time); }
    /// The event that raised it; only while it is raised.
    [[nodiscard]] const WatchEvent& raise() const { return m_raise; }
    [[nodiscard]] const WatchRule& rule() const { return m_rule; }

  private:
    void step(TimeUs time, Says says, std::vector<WatchEvent>& out) {
        if (!m_raised && says != Says::holds) [[likely]] {
            if (says != Says::nothing) m_run = 0;
            return;
        }
        decide(time, says, out);
    }
    void decide(TimeUs time, Says says, std::vector<WatchEvent>& out);
    void take_joined(int reading, TimeUs time, double value, TimeUs arrival, std::vector<WatchEvent>& out);
    [[nodiscard]] Says joined(TimeUs time) const;
    [[nodiscard]] bool gates_open(TimeUs time) const;
    [[nodiscard]] bool within_hours(TimeUs time);
    TimeUs went_back(TimeUs time);

    WatchRule m_rule;
    std::vector<ConditionFollower> m_followers;
    bool m_simple;          ///< one condition on values, at all hours
    bool m_several = false; ///< readings
    ZoneOffset m_zone;
    TimeUs m_for, m_repeat;
    TimeUs m_last = std::numeric_limits<TimeUs>::min();
    TimeUs m_offset_until = std::numeric_limits<TimeUs>::min(), m_offset = 0;
    bool m_gates_were_open = true;
    int m_run = 0;
    TimeUs m_first = 0; ///< of the row
    bool m_raised = false;
    WatchEvent m_raise;
    TimeUs m_told_at = 0;
};

} // namespace cognitum
