#include "core/bench/watch_rule.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr std::pair<WatchWhen, const char*> when_names[] = {
    {WatchWhen::above, "above"},      {WatchWhen::below, "below"},     {WatchWhen::outside, "outside"},
    {WatchWhen::equal, "equal"},      {WatchWhen::changes, "changes"}, {WatchWhen::unchanged, "unchanged"},
    {WatchWhen::rises, "rises"},      {WatchWhen::falls, "falls"},     {WatchWhen::grows, "grows"},
    {WatchWhen::silent, "silent"},    {WatchWhen::failing, "failing"}, {WatchWhen::night, "night"},
    {WatchWhen::corridor, "corridor"}};
constexpr std::pair<WatchJoin, const char*> join_names[] = {
    {WatchJoin::all, "and"}, {WatchJoin::any, "or"}, {WatchJoin::only, "while"}};
constexpr std::pair<WatchRank, const char*> rank_names[] = {
    {WatchRank::note, "note"}, {WatchRank::look, "look"}, {WatchRank::bad, "bad"}};

constexpr double longest_s = 366 * 86400.0;
constexpr double longest_margin_min = 240;

bool is_length(double s) {
    return s >= 0 && s <= longest_s; // false for NaN
}

std::string corridor_defect(const WatchCondition& c) {
    if (c.when != WatchWhen::corridor)
        return c.corridor.empty() ? "" : phrase("only a corridor has limits for each day.");
    if (c.corridor.empty()) return phrase("a corridor needs its limits, from day 1: “1: 18 to 20”.");
    if (c.corridor.size() > most_corridor_steps)
        return phrase("a corridor has at most {} steps.", most_corridor_steps);
    double day = 0;
    for (const CorridorStep& step : c.corridor) {
        if (!std::isfinite(step.low) || !std::isfinite(step.high)) return phrase("a limit must be a number.");
        if (!(step.from_day >= 1 && step.from_day <= 366)) return phrase("the days of a corridor are 1 to 366.");
        if (step.from_day <= day)
            return phrase("day {} of the corridor does not come after the step before it.", step.from_day);
        if (!(step.low < step.high))
            return phrase("from day {} on the lower limit {} is not below the upper limit {}.", step.from_day,
                          step.low, step.high);
        if (2 * c.hysteresis >= step.high - step.low)
            return phrase("a hysteresis of {} leaves nothing between {} and {}.", c.hysteresis, step.low,
                          step.high);
        day = step.from_day;
    }
    return {};
}

} // namespace

std::span<const std::pair<WatchWhen, const char*>> watch_when_words() {
    return when_names;
}
std::span<const std::pair<WatchJoin, const char*>> watch_join_words() {
    return join_names;
}
std::span<const std::pair<WatchRank, const char*>> watch_rank_words() {
    return rank_names;
}

bool goes_by_clock(WatchWhen when) {
    return when == WatchWhen::silent || when == WatchWhen::night;
}

bool looks_over_time(WatchWhen when) {
    switch (when) {
    case WatchWhen::changes:
    case WatchWhen::unchanged:
    case WatchWhen::rises:
    case WatchWhen::falls:
    case WatchWhen::grows: return true;
    default: return false;
    }
}

bool compares_values(WatchWhen when) {
    return when == WatchWhen::above || when == WatchWhen::below || when == WatchWhen::outside ||
           when == WatchWhen::corridor;
}

const std::string& WatchRule::reading() const {
    static const std::string none;
    return conditions.empty() ? none : conditions.front().reading;
}

bool WatchRule::looks_at(const std::string& wanted) const {
    return std::any_of(conditions.begin(), conditions.end(), [&](const auto& c) { return c.reading == wanted; });
}

std::string defect_of(const WatchCondition& c) {
    const bool one_limit = c.when == WatchWhen::above || c.when == WatchWhen::below;
    if (!std::isfinite(c.value) || !std::isfinite(c.upper) || !std::isfinite(c.clear.value_or(0)))
        return phrase("a limit must be a number.");
    if (c.clear && !one_limit) return phrase("only above and below have a “clear”; the others have a hysteresis.");
    if (c.clear && c.when == WatchWhen::above && *c.clear > c.value)
        return phrase("it is raised above {} and cannot be over above {}: put “clear” at or below the limit.",
                      c.value, *c.clear);
    if (c.clear && c.when == WatchWhen::below && *c.clear < c.value)
        return phrase("it is raised below {} and cannot be over below {}: put “clear” at or above the limit.",
                      c.value, *c.clear);
    if (!(c.hysteresis >= 0)) return phrase("a hysteresis is not below 0.");
    if (c.hysteresis > 0 && one_limit) return phrase("above and below have a “clear” instead of a hysteresis.");
    if (c.when == WatchWhen::outside && !(c.upper > c.value))
        return phrase("the upper limit {} is not above the lower limit {}.", c.upper, c.value);
    if (c.when == WatchWhen::outside && 2 * c.hysteresis >= c.upper - c.value)
        return phrase("a hysteresis of {} leaves nothing between {} and {}.", c.hysteresis, c.value, c.upper);
    if (std::string defect = corridor_defect(c); !defect.empty()) return defect;
    if (c.when == WatchWhen::changes && !(c.value > 0)) return phrase("a change is above 0.");
    if (c.when == WatchWhen::unchanged && !(c.value >= 0)) return phrase("a change is not below 0.");
    if ((c.when == WatchWhen::rises || c.when == WatchWhen::falls || c.when == WatchWhen::grows) && !(c.value >= 0))
        return phrase("a rate or an amount is not below 0; “falls” looks downwards.");
    if (looks_over_time(c.when) && !(c.over_s > 0 && is_length(c.over_s)))
        return phrase("it needs the time over which it looks: over_s, above 0 and at most a year.");
    if (!looks_over_time(c.when) && c.over_s != 0) return phrase("it looks at single values and has no over_s.");
    if (c.when == WatchWhen::silent && !(c.value > 0 && is_length(c.value)))
        return phrase("a silence is a number of seconds above 0 and at most a year.");
    if (c.when == WatchWhen::night && !(c.value >= 0 && c.value <= longest_margin_min))
        return phrase("night begins 0 to 240 minutes after sunset, and ends as many before sunrise.");
    return {};
}

std::string defect_of(const WatchRule& rule) {
    if (rule.name.empty()) return phrase("a rule needs a name.");
    if (rule.conditions.empty()) return phrase("a rule needs a condition.");
    if (rule.conditions.size() > most_conditions)
        return phrase("a rule has at most {} conditions.", most_conditions);
    for (const WatchCondition& c : rule.conditions)
        if (std::string defect = defect_of(c); !defect.empty()) return defect;
    if (goes_by_clock(rule.conditions.front().when) && rule.count > 1)
        return phrase("a silence or a night has no lines that could be counted.");
    if (rule.count < 1 || rule.count > 1'000'000)
        return phrase("it is confirmed by 1 to 1 000 000 lines in a row.");
    if (!is_length(rule.for_s) || !is_length(rule.repeat_s) || !is_length(rule.escalate_s))
        return phrase("a length of time is not below 0 s and at most a year.");
    if (rule.marked.size() > most_marked) return phrase("at most {} stretches are marked.", most_marked);
    for (const MarkedStretch& m : rule.marked)
        if (m.to < m.from) return phrase("a marked stretch ends before it began.");
    for (const int minute : {rule.hours.from_min, rule.hours.to_min})
        if (minute < 0 || minute >= 24 * 60) return phrase("hours are minutes of the day, 0 to 1439.");
    return {};
}

} // namespace cognitum
