// All watch rules of a bench: told every line, it says what each rule makes of it.
#pragma once

#include "core/bench/bench.h"
#include "core/watch/judge.h"

#include <functional>
#include <map>
#include <string>
#include <vector>

namespace cognitum {

struct RuleEvent {
    std::string rule; ///< id
    WatchEvent event;
};

/// ± of a value of a reading, 95 %; 0: not known. May be empty.
using DoubtOf = std::function<double(const Reading& reading, double value)>;

/// ± at its limits, 95 %, the largest of them; 0: not known, or it compares no values.
double limits_doubt(const WatchCondition& condition, const Reading& reading, const DoubtOf& doubt_of);

/// What a condition must know of its reading. One that the plan does not have never says anything.
ConditionAbout about_condition(const WatchCondition& condition, const Bench& bench, const DoubtOf& doubt_of);

/// What a person marked, and how a rule is told, changes nothing of what is judged.
bool judged_alike(const WatchRule& a, const WatchRule& b);

class WatchKeeper {
  public:
    explicit WatchKeeper(ZoneOffset zone = {}) : m_zone(std::move(zone)) {}

    /// Rules that are on. A rule that did not change, on readings that did not, keeps its state.
    void set_rules(const std::vector<WatchRule>& rules, const Bench& bench, const DoubtOf& doubt_of = {});
    /// A line of a reading; NaN: without a value. `arrival`: see RuleJudge::take().
    void take(const std::string& reading, TimeUs time, double value, std::vector<RuleEvent>& out,
              std::optional<TimeUs> arrival = {});
    void pass(TimeUs now, std::vector<RuleEvent>& out);
    /// Nothing was listened to until now.
    void wait_from(TimeUs now);

    /// nullptr: no such rule, or it is off.
    [[nodiscard]] const RuleJudge* judge(const std::string& rule) const;
    [[nodiscard]] bool looks_at(const std::string& reading) const { return m_by_reading.contains(reading); }

  private:
    struct Kept {
        RuleJudge judge;
        std::vector<Quantity> quantities; ///< of its readings when it was made
    };
    int number_of(const std::string& reading);
    void tell(const RuleJudge& judge, std::vector<RuleEvent>& out);
    ZoneOffset m_zone;
    std::map<std::string, int> m_numbers; ///< of readings, as judges know them
    std::map<std::string, Kept> m_kept;   ///< by id of the rule
    std::map<std::string, std::vector<RuleJudge*>> m_by_reading;
    std::vector<WatchEvent> m_events;
};

} // namespace cognitum
