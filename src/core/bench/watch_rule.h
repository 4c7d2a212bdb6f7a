// When to tell somebody: rules over one reading or several, as a person makes them. core/watch judges them.
#pragma once

#include "core/base/time.h"

#include <optional>
#include <span>
#include <string>
#include <utility>
#include <vector>

namespace cognitum {

/// What a condition looks at.
enum class WatchWhen {
    above,     ///< value > limit
    below,     ///< value < limit
    outside,   ///< value < limit or value > upper
    equal,     ///< value = limit, within the hysteresis: a door that stays open
    changes,   ///< largest less smallest value within `over_s` > limit
    unchanged, ///< the same ≤ limit, once `over_s` is covered: a bucket that did not tip for days
    rises,     ///< slope over `over_s` > limit, for each hour
    falls,     ///< −slope > limit
    grows,     ///< a total grew, or a state came on, by more than limit within `over_s`
    silent,    ///< no line for longer than limit, s
    failing,   ///< lines come without a value
    night,     ///< the sun is down where the bench stands; limit: minutes after sunset and before sunrise
    corridor   ///< value outside of what holds on this day of the session that the reading leads: a fermentation
};
std::span<const std::pair<WatchWhen, const char*>> watch_when_words();
/// It looks at the clock, not only at lines.
bool goes_by_clock(WatchWhen when);
/// It has a window of time.
bool looks_over_time(WatchWhen when);
/// It compares single values with a limit, whose doubt counts.
bool compares_values(WatchWhen when);

/// How a condition follows those before it, from the first to the last.
enum class WatchJoin {
    all,  ///< and
    any,  ///< or
    only, ///< while: what happens while it does not hold is not looked at
};
std::span<const std::pair<WatchJoin, const char*>> watch_join_words();

/// From this day of a session on a value is to lie between the two, until the next step's day.
struct CorridorStep {
    double from_day = 1;      ///< the first day is 1, and lasts 24 h from the session's beginning
    double low = 0, high = 0; ///< unit of the reading
    bool operator==(const CorridorStep&) const = default;
};

struct WatchCondition {
    std::string reading; ///< id
    WatchWhen when = WatchWhen::above;
    double value = 0;                ///< the limit; unit of the reading, for each hour of a slope, s of silence
    double upper = 0;                ///< of outside
    std::optional<double> clear;     ///< of above and below: it is over at or inside this; empty: at the limit
    double hysteresis = 0;           ///< of the others: it is over when inside by this
    double over_s = 0;               ///< of what looks over time
    WatchJoin join = WatchJoin::all; ///< of the first without meaning
    std::vector<CorridorStep> corridor = {}; ///< of corridor, by growing day
    bool operator==(const WatchCondition&) const = default;
};

/// How grave it is: its mark, and whether it may be heard at night.
enum class WatchRank { note, look, bad };
std::span<const std::pair<WatchRank, const char*>> watch_rank_words();

/// Hours of the local day, minutes since midnight; from = to: all of it. May go over midnight.
struct DayHours {
    int from_min = 0, to_min = 0;
    bool operator==(const DayHours&) const = default;
    [[nodiscard]] bool whole_day() const { return from_min == to_min; }
    [[nodiscard]] bool holds(int minute) const {
        if (from_min <= to_min) return whole_day() || (minute >= from_min && minute < to_min);
        return minute >= from_min || minute < to_min;
    }
};

/// A stretch that a person marked: "tell me when it is like this", or "this was no alarm".
struct MarkedStretch {
    TimeUs from = 0, to = 0;
    bool is_alarm = true;
    bool operator==(const MarkedStretch&) const = default;
};

struct WatchRule {
    std::string id, name;
    WatchRank rank = WatchRank::look;
    std::vector<WatchCondition> conditions; ///< at least one; the first one's reading is the rule's
    int count = 1;                          ///< lines in a row
    double for_s = 0;                       ///< and for so long
    double repeat_s = 0;                    ///< told again after that, while it lasts; 0: once
    double escalate_s = 0;                  ///< nobody looked for so long: it is told as the gravest; 0: never
    bool for_sure = false;                  ///< only what is beyond the limit by more than the doubt
    bool breaks_quiet = false;              ///< told in the quiet hours too
    DayHours hours = {};                    ///< when it looks at all
    bool on = true;
    std::vector<MarkedStretch> marked = {}; ///< at most most_marked
    bool operator==(const WatchRule&) const = default;

    [[nodiscard]] const std::string& reading() const;
    [[nodiscard]] bool looks_at(const std::string& reading) const;
};

/// How notices reach somebody. The logbook always has them.
struct Telling {
    bool desktop = true; ///< the desktop's own notices
    bool sound = false;
    bool broker = false; ///< under TOPIC/notices of what is published
    DayHours quiet = {}; ///< whole day: there are none
    bool operator==(const Telling&) const = default;
};

/// Corrected values for others to build on, through a broker: one message for each reading under TOPIC/ID.
struct Publishing {
    std::string host = {}; ///< empty: nothing is published
    int port = 1883;
    std::string topic = "cognitum";
    std::vector<std::string> readings = {}; ///< ids; one about somebody's health is only there when it was named
    double every_s = 60;
    bool log_in = false; ///< it asks for a user name and a password
    bool operator==(const Publishing&) const = default;
};

/// One page for people on the same network, to be read only; without a token for this computer alone.
struct PagePlan {
    bool on = false;
    int port = 8790;
    std::string token_print = {}; ///< SHA-256 of the token, hexadecimal; empty: none was made
    bool operator==(const PagePlan&) const = default;
};

inline constexpr std::size_t most_conditions = 8;
inline constexpr std::size_t most_marked = 200;
inline constexpr std::size_t most_corridor_steps = 60;

/// First defect of a rule, in a sentence; empty: there is none.
std::string defect_of(const WatchCondition& condition);
std::string defect_of(const WatchRule& rule);

} // namespace cognitum
