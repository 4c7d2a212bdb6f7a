// When a person hears of what the rules say: once, not in the quiet hours, louder when nobody looked, and the end
// only of what was told.
#pragma once

#include "core/base/calendar.h"
#include "core/bench/watch_rule.h"
#include "core/watch/judge.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

struct Notice {
    std::string rule; ///< id
    WatchEvent event;
    bool urgent = false;         ///< nobody looked for too long
    std::optional<TimeUs> ended; ///< it came and went in the quiet hours: told afterwards, once
};

class Teller {
  public:
    explicit Teller(ZoneOffset zone = {}) : m_zone(std::move(zone)) {}
    void set_quiet(const DayHours& quiet) { m_quiet = quiet; }

    /// What is to be told now of this event; empty: nothing, or not yet.
    std::optional<Notice> take(const WatchRule& rule, const WatchEvent& event);
    /// What became due by the clock: the end of the quiet hours, somebody who did not look.
    std::vector<Notice> pass(const std::vector<WatchRule>& rules, TimeUs now);
    /// A person has seen that it was raised.
    void seen(const std::string& rule);
    /// True: it was told and nobody has said that it was seen.
    [[nodiscard]] bool unseen(const std::string& rule) const;
    [[nodiscard]] bool is_quiet(TimeUs now) const;
    /// What was raised before the program started: it counts as told, and as urgent where that was due; in
    /// the quiet hours that last it waits for their end, as it did before.
    void carry_on(const WatchRule& rule, const WatchEvent& raised, TimeUs now);

  private:
    struct State {
        std::optional<WatchEvent> waiting; ///< raised in the quiet hours, and not told
        std::optional<TimeUs> ended;       ///< of what waits
        bool told = false, seen = false, escalated = false;
        TimeUs told_at = 0;
        std::optional<WatchEvent> end_waiting; ///< the end of what was told, in the quiet hours
    };
    ZoneOffset m_zone;
    DayHours m_quiet;
    std::map<std::string, State> m_states; ///< by id of the rule
};

} // namespace cognitum
