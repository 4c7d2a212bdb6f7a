#include "core/watch/rule_words.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "core/watch/corridor.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

std::string in_unit(double value, const std::string& unit, bool an_hour = false) {
    std::string out = format_measure(value, unit == "1" ? "" : unit, 5);
    return an_hour ? out + (unit == "1" ? phrase(" an hour") : "/h") : out;
}

std::string length(double s) {
    return duration_text(from_seconds(s));
}

std::string state_says(const WatchCondition& c, const QuantityKind& kind) {
    const bool on = c.when == WatchWhen::above ? true : c.when == WatchWhen::below ? false : c.value > 0.5;
    return phrase("says “{}”", (on ? kind.on_word : kind.off_word));
}

std::string with_way_back(std::string text, const WatchCondition& c, const std::string& unit,
                          bool an_hour = false) {
    if (c.hysteresis > 0) text += phrase(", back by {}", in_unit(c.hysteresis, unit, an_hour));
    return text;
}

/// "18 to 20 °C from day 1, 20 to 22 °C from day 5"
std::string corridor_says(const WatchCondition& c, const std::string& unit) {
    std::string out;
    for (const CorridorStep& step : c.corridor)
        out += phrase("{}{} to {} from day {}", out.empty() ? "" : ", ", format_constant(step.low),
                      in_unit(step.high, unit), format_constant(step.from_day));
    return out;
}

std::string bare_condition(const WatchCondition& c, const Quantity& q) {
    const std::string& unit = q.unit;
    const std::string limit = in_unit(c.value, unit);
    const bool on_state = q.about().is_state();
    switch (c.when) {
    case WatchWhen::above:
        if (on_state) return state_says(c, q.about());
        return phrase("above {}{}", limit,
                      (c.clear && *c.clear != c.value ? phrase(", back below ") + in_unit(*c.clear, unit) : ""));
    case WatchWhen::below:
        if (on_state) return state_says(c, q.about());
        return phrase("below {}{}", limit,
                      (c.clear && *c.clear != c.value ? phrase(", back above ") + in_unit(*c.clear, unit) : ""));
    case WatchWhen::outside:
        return with_way_back(phrase("outside {} to {}", limit, in_unit(c.upper, unit)), c, unit);
    case WatchWhen::corridor: return with_way_back(phrase("outside {}", corridor_says(c, unit)), c, unit);
    case WatchWhen::equal:
        if (on_state) return state_says(c, q.about());
        return c.hysteresis > 0 ? fmt::format("{} ± {}", limit, in_unit(c.hysteresis, unit))
                                : phrase("exactly {}", limit);
    case WatchWhen::changes:
        return with_way_back(phrase("changes by more than {} within {}", limit, length(c.over_s)), c, unit);
    case WatchWhen::unchanged:
        return c.value > 0 ? phrase("moves by no more than {} within {}", limit, length(c.over_s))
                           : phrase("does not change within {}", length(c.over_s));
    case WatchWhen::rises:
    case WatchWhen::falls:
        return with_way_back(phrase("{} by more than {} over {}",
                                    c.when == WatchWhen::rises ? phrase("rises") : phrase("falls"),
                                    in_unit(c.value, unit, true), length(c.over_s)),
                             c, unit, true);
    case WatchWhen::grows:
        if (on_state)
            return phrase("more often than {} times within {}", format_constant(c.value), length(c.over_s));
        return with_way_back(phrase("more than {} within {}", limit, length(c.over_s)), c, unit);
    case WatchWhen::silent: return phrase("nothing for {}", length(c.value));
    case WatchWhen::failing: return phrase("lines without a value");
    case WatchWhen::night:
        return c.value > 0 ? phrase("by the sun it is night, {} after sunset to {} before sunrise",
                                    length(60 * c.value), length(60 * c.value))
                           : phrase("by the sun it is night");
    }
    return {};
}

/// "243 L, below 250 L for sure".
std::string looked_at(const WatchCondition& c, const WatchEvent& event, const Quantity& q, const Bench& bench) {
    const std::string& unit = q.unit;
    const bool on_value = compares_values(c.when) || c.when == WatchWhen::equal;
    if (q.about().is_state() && on_value)
        return phrase("It says “{}”", (event.value > 0.5 ? q.about().on_word : q.about().off_word));
    std::string value = on_value ? format_value(event.value, q.accuracy / 2, unit) : "";
    const char* sure = event.sure == Sureness::for_sure       ? phrase(" for sure")
                       : event.sure == Sureness::within_doubt ? phrase(", but within the doubt")
                                                              : "";
    switch (c.when) {
    case WatchWhen::above: return phrase("{}, above {}{}", value, in_unit(c.value, unit), sure);
    case WatchWhen::below: return phrase("{}, below {}{}", value, in_unit(c.value, unit), sure);
    case WatchWhen::outside:
        return phrase("{}, outside {} to {}{}", value, in_unit(c.value, unit), in_unit(c.upper, unit), sure);
    case WatchWhen::corridor: {
        const auto day = corridor_day(corridor_runs(bench, c.reading), event.time);
        const CorridorStep* step = day ? corridor_step(c.corridor, *day) : nullptr;
        if (!step) return phrase("{}, outside its corridor", value); // the session was moved or removed since
        return phrase("{}, outside {} to {} of day {:.0f}{}", value, format_constant(step->low),
                      in_unit(step->high, unit), std::floor(*day), sure);
    }
    case WatchWhen::equal: return value;
    case WatchWhen::changes:
    case WatchWhen::unchanged:
        return phrase("It moved by {} within {}", format_value(event.value, q.accuracy / 2, unit),
                      length(c.over_s));
    case WatchWhen::rises:
    case WatchWhen::falls:
        return phrase("It {} by {}", c.when == WatchWhen::rises ? phrase("rises") : phrase("falls"),
                      format_measure(event.value, unit == "1" ? "" : unit, 2) + "/h");
    case WatchWhen::grows:
        return q.about().is_state()
                   ? phrase("{:.0f} times within {}", event.value, length(c.over_s))
                   : phrase("{} within {}", format_value(event.value, q.accuracy / 2, unit), length(c.over_s));
    case WatchWhen::silent: return phrase("Nothing came for {}", length(c.value));
    case WatchWhen::night: return phrase("The sun is down");
    case WatchWhen::failing: return phrase("Its lines come without a value");
    }
    return {};
}

} // namespace

std::string hours_say(const DayHours& hours) {
    if (hours.whole_day()) return phrase("at all hours");
    return phrase("{:02}:{:02} to {:02}:{:02}", hours.from_min / 60, hours.from_min % 60, hours.to_min / 60,
                  hours.to_min % 60);
}

std::string condition_says(const WatchCondition& condition, const Bench& bench, const std::string& lead) {
    const Reading* reading = bench.reading(condition.reading);
    std::string says = bare_condition(condition, reading ? reading->quantity : Quantity{});
    if (condition.reading == lead) return says;
    return (reading ? reading->name : phrase("{} (gone)", condition.reading)) + " " + says;
}

std::string conditions_say(const WatchRule& rule, const Bench& bench) {
    std::string out;
    for (const WatchCondition& c : rule.conditions) {
        if (!out.empty())
            out += c.join == WatchJoin::any    ? phrase(", or ")
                   : c.join == WatchJoin::only ? phrase(", while ")
                                               : phrase(", and ");
        out += condition_says(c, bench, rule.reading());
    }
    return out;
}

std::string rule_says(const WatchRule& rule, const Bench& bench) {
    return conditions_say(rule, bench) + (rule.hours.whole_day() ? "" : ", " + hours_say(rule.hours));
}

std::string confirmation_says(const WatchRule& rule) {
    std::string out;
    if (rule.count > 1) out = phrase("{} lines in a row", rule.count);
    if (rule.for_s > 0) out += (out.empty() ? phrase("for ") : phrase(" and ")) + length(rule.for_s);
    if (out.empty()) out = phrase("at once");
    if (rule.for_sure) out += phrase(", for sure");
    out +=
        rule.repeat_s > 0 ? phrase(" · told once, again after {}", length(rule.repeat_s)) : phrase(" · told once");
    if (rule.escalate_s > 0) out += phrase(" · urgent when nobody looked for {}", length(rule.escalate_s));
    return out;
}

std::string event_says(const WatchRule& rule, const WatchEvent& event, const Bench& bench) {
    const Reading* reading = bench.reading(rule.reading());
    const std::string name = (reading ? reading->name : rule.reading()) + ": " + rule.name;
    if (!reading || rule.conditions.empty()) return name + ".";
    const Quantity& q = reading->quantity;
    const bool hidden = q.is_private();
    if (event.kind == WatchKind::cleared) {
        const WatchWhen when = rule.conditions.front().when;
        if (hidden || !compares_values(when) || q.about().is_state()) return phrase("{} is over.", name);
        return phrase("{} is over: {}.", name, format_value(event.value, q.accuracy / 2, q.unit));
    }
    const char* again = event.kind == WatchKind::repeated ? phrase(" (still)") : "";
    if (hidden) return fmt::format("{}{}.{}{}", name, again, q.about().is_not.empty() ? "" : " ", q.about().is_not);
    // Which of several it was is not in the event: the first one's value beside its limit may be a false sentence.
    const bool one_of_several = std::any_of(rule.conditions.begin() + 1, rule.conditions.end(),
                                            [](const WatchCondition& c) { return c.join == WatchJoin::any; });
    if (one_of_several) return fmt::format("{}{}: {}.", name, again, conditions_say(rule, bench));
    return fmt::format("{}{}. {}.", name, again, looked_at(rule.conditions.front(), event, q, bench));
}

} // namespace cognitum
