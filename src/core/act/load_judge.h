// Decides when a load is on: it follows its rule, keeps its least and longest times, rests, and is off (or in its
// safe state) when something keeps it off or nobody knows. The same while it acts and over what was recorded.
//
// Order of who decides: what keeps it off; a person's hand; a reading that says nothing (safe state); the rule. Its
// longest run and its least times off hold for all of them. It begins off.
#pragma once

#include "core/bench/bench.h"
#include "core/watch/keeper.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

enum class LoadCause {
    rule_holds,
    rule_over,
    longest_run,
    kept_off, ///< a condition of never_while
    no_value, ///< a reading that it needs is silent, fails, or nobody knows how far it is off
    by_hand,
    not_acting ///< its plan was changed or ended
};

struct LoadEvent {
    TimeUs time = 0;
    bool on = false;
    LoadCause cause = LoadCause::rule_over;
    int which = -1; ///< of kept_off: place in never_while; of no_value: place in LoadJudge::readings()
    bool operator==(const LoadEvent&) const = default;
};

/// The same limit moved to the careful side by its doubt: what keeps a load off must be known not to hold.
WatchCondition careful(WatchCondition condition, double doubt);

class LoadJudge {
  public:
    /// The rule and all readings of the control are in the bench, and both are free of defects.
    LoadJudge(const LoadControl& control, const WatchRule& rule, const Bench& bench, const DoubtOf& doubt_of = {},
              const ZoneOffset& zone = {});

    /// The same control and rule, with other doubts of its readings, another place or other sessions.
    void renew(const LoadControl& control, const WatchRule& rule, const Bench& bench, const DoubtOf& doubt_of);

    /// Ids of the readings that it looks at; take() is told a place in this list.
    [[nodiscard]] const std::vector<std::string>& readings() const { return m_readings; }
    /// It is off since then, for its least time off. Without it: since ever.
    void begin(TimeUs now) { m_since = m_now = now; }
    /// A line, in order of time; NaN: without a value. `arrival`: see RuleJudge::take().
    void take(int reading, TimeUs time, double value, std::vector<LoadEvent>& out,
              std::optional<TimeUs> arrival = {});
    /// The clock, while no line comes.
    void pass(TimeUs now, std::vector<LoadEvent>& out);
    /// On or off by a person until then; empty: by its rule again.
    void hand(std::optional<bool> on, TimeUs until, TimeUs now, std::vector<LoadEvent>& out);

    [[nodiscard]] bool on() const { return m_on; }
    [[nodiscard]] TimeUs since() const { return m_since; }
    [[nodiscard]] const LoadControl& control() const { return m_control; }
    [[nodiscard]] const WatchRule& rule() const { return m_demand.rule(); }
    struct Hand {
        bool on = false;
        TimeUs until = 0;
    };
    [[nodiscard]] const std::optional<Hand>& by_hand() const { return m_hand; }
    /// What it should be, whether or not its times allow it yet.
    struct Wish {
        bool on = false;
        LoadCause cause = LoadCause::rule_over;
        int which = -1;
        bool at_once = false; ///< it does not wait for its least time on
    };
    [[nodiscard]] const Wish& wish() const { return m_wish; }
    /// It should be on and may be then; empty: it does not wait.
    [[nodiscard]] std::optional<TimeUs> waits_until() const;

  private:
    struct Known {
        TimeUs valued = never; ///< arrival of the last value
        TimeUs gone = 0;       ///< a value that is older says nothing
        bool needed = false;   ///< by the rule
        bool uncertain = false;
    };
    [[nodiscard]] std::size_t place_of(const std::string& reading) const;
    [[nodiscard]] WatchRule keeps_off(const WatchCondition& condition, const Bench& bench,
                                      const DoubtOf& doubt_of) const;
    void set_certainty(const WatchRule& rule, const Bench& bench, const DoubtOf& doubt_of);
    static constexpr TimeUs never = std::numeric_limits<TimeUs>::min() / 4;
    void set_back(TimeUs now);
    void advance(TimeUs now, std::vector<LoadEvent>& out);
    void decide(TimeUs at, std::vector<LoadEvent>& out);
    void change(TimeUs at, bool on, LoadCause cause, int which, std::vector<LoadEvent>& out);
    [[nodiscard]] Wish wish_at(TimeUs at);
    [[nodiscard]] bool says_nothing(const Known& known, TimeUs at) const {
        return known.uncertain || at - known.valued > known.gone;
    }
    [[nodiscard]] TimeUs next_deadline() const;

    LoadControl m_control;
    std::vector<std::string> m_readings;
    std::vector<Known> m_known; ///< for each of them
    std::vector<RuleJudge> m_never;
    std::vector<int> m_never_reading; ///< place of each one's reading
    RuleJudge m_demand;
    TimeUs m_least_on, m_least_off, m_longest, m_rest;
    TimeUs m_now = never, m_since = never, m_rests_until = never;
    TimeUs m_deadline = never; ///< when the clock alone may change something
    bool m_on = false;
    Wish m_wish;
    std::optional<Hand> m_hand;
    std::vector<WatchEvent> m_events; ///< of the judges; nobody is told
};

} // namespace cognitum
