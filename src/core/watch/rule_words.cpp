#include "core/watch/rule_words.h"

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
    return an_hour ? out + (unit == "1" ? " an hour" : "/h") : out;
}

std::string length(double s) {
    return duration_text(from_seconds(s));
}

std::string state_says(const WatchCondition& c, const QuantityKind& kind) {
    const bool on = c.when == WatchWhen::above ? true : c.when == WatchWhen::below ? false : c.value > 0.5;
    return "says “" + (on ? kind.on_word : kind.off_word) + "”";
}

std::string with_way_back(std::string text, const WatchCondition& c, const std::string& unit,
                          bool an_hour = false) {
    if (c.hysteresis > 0) text += fmt::format(", back by {}", in_unit(c.hysteresis, unit, an_hour));
    return text;
}

/// "18 to 20 °C from day 1, 20 to 22 °C from day 5"
std::string corridor_says(const WatchCondition& c, const std::string& unit) {
    std::string out;
    for (const CorridorStep& step : c.corridor)
        out += fmt::format("{}{} to {} from day {}", out.empty() ? "" : ", ", format_constant(step.low),
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
        return "above " + limit + (c.clear && *c.clear != c.value ? ", back below " + in_unit(*c.clear, unit) : "");
    case WatchWhen::below:
        if (on_state) return state_says(c, q.about());
        return "below " + limit + (c.clear && *c.clear != c.value ? ", back above " + in_unit(*c.clear, unit) : "");
    case WatchWhen::outside:
        return with_way_back(fmt::format("outside {} to {}", limit, in_unit(c.upper, unit)), c, unit);
    case WatchWhen::corridor: return with_way_back("outside " + corridor_says(c, unit), c, unit);
    case WatchWhen::equal:
        if (on_state) return state_says(c, q.about());
        return c.hysteresis > 0 ? fmt::format("{} ± {}", limit, in_unit(c.hysteresis, unit)) : "exactly " + limit;
    case WatchWhen::changes:
        return with_way_back(fmt::format("changes by more than {} within {}", limit, length(c.over_s)), c, unit);
    case WatchWhen::unchanged:
        return c.value > 0 ? fmt::format("moves by no more than {} within {}", limit, length(c.over_s))
                           : "does not change within " + length(c.over_s);
    case WatchWhen::rises:
    case WatchWhen::falls:
        return with_way_back(fmt::format("{} by more than {} over {}",
                                         c.when == WatchWhen::rises ? "rises" : "falls",
                                         in_unit(c.value, unit, true), length(c.over_s)),
                             c, unit, true);
    case WatchWhen::grows:
        if (on_state)
            return fmt::format("more often than {} times within {}", format_constant(c.value), length(c.over_s));
        return with_way_back(fmt::format("more than {} within {}", limit, length(c.over_s)), c, unit);
    case WatchWhen::silent: return "nothing for " + length(c.value);
    case WatchWhen::failing: return "lines without a value";
    case WatchWhen::night:
        return c.value > 0 ? fmt::format("by the sun it is night, {} after sunset to {} before sunrise",
                                         length(60 * c.value), length(60 * c.value))
                           : "by the sun it is night";
    }
    return {};
}

/// "243 L, below 250 L for sure".
std::string looked_at(const WatchCondition& c, const WatchEvent& event, const Quantity& q, const Bench& bench) {
    const std::string& unit = q.unit;
    const bool on_value = compares_values(c.when) || c.when == WatchWhen::equal;
    if (q.about().is_state() && on_value)
        return "It says “" + (event.value > 0.5 ? q.about().on_word : q.about().off_word) + "”";
    std::string value = on_value ? format_value(event.value, q.accuracy / 2, unit) : "";
    const char* sure = event.sure == Sureness::for_sure       ? " for sure"
                       : event.sure == Sureness::within_doubt ? ", but within the doubt"
                                                              : "";
    switch (c.when) {
    case WatchWhen::above: return fmt::format("{}, above {}{}", value, in_unit(c.value, unit), sure);
    case WatchWhen::below: return fmt::format("{}, below {}{}", value, in_unit(c.value, unit), sure);
    case WatchWhen::outside:
        return fmt::format("{}, outside {} to {}{}", value, in_unit(c.value, unit), in_unit(c.upper, unit), sure);
    case WatchWhen::corridor: {
        const auto day = corridor_day(corridor_runs(bench, c.reading), event.time);
        const CorridorStep* step = day ? corridor_step(c.corridor, *day) : nullptr;
        if (!step) return value + ", outside its corridor"; // the session was moved or removed since
        return fmt::format("{}, outside {} to {} of day {:.0f}{}", value, format_constant(step->low),
                           in_unit(step->high, unit), std::floor(*day), sure);
    }
    case WatchWhen::equal: return value;
    case WatchWhen::changes:
    case WatchWhen::unchanged:
        return fmt::format("It moved by {} within {}", format_value(event.value, q.accuracy / 2, unit),
                           length(c.over_s));
    case WatchWhen::rises:
    case WatchWhen::falls:
        return fmt::format("It {} by {}", c.when == WatchWhen::rises ? "rises" : "falls",
                           format_measure(event.value, unit == "1" ? "" : unit, 2) + "/h");
    case WatchWhen::grows:
        return q.about().is_state()
                   ? fmt::format("{:.0f} times within {}", event.value, length(c.over_s))
                   : fmt::format("{} within {}", format_value(event.value, q.accuracy / 2, unit), length(c.over_s));
    case WatchWhen::silent: return fmt::format("Nothing came for {}", length(c.value));
    case WatchWhen::night: return "The sun is down";
    case WatchWhen::failing: return "Its lines come without a value";
    }
    return {};
}

} // namespace

std::string hours_say(const DayHours& hours) {
    if (hours.whole_day()) return "at all hours";
    return fmt::format("{:02}:{:02} to {:02}:{:02}", hours.from_min / 60, hours.from_min % 60, hours.to_min / 60,
                       hours.to_min % 60);
}

std::string condition_says(const WatchCondition& condition, const Bench& bench, const std::string& lead) {
    const Reading* reading = bench.reading(condition.reading);
    std::string says = bare_condition(condition, reading ? reading->quantity : Quantity{});
    if (condition.reading == lead) return says;
    return (reading ? reading->name : condition.reading + " (gone)") + " " + says;
}

std::string conditions_say(const WatchRule& rule, const Bench& bench) {
    std::string out;
    for (const WatchCondition& c : rule.conditions) {
        if (!out.empty())
            out += c.join == WatchJoin::any ? ", or " : c.join == WatchJoin::only ? ", while " : ", and ";
        out += condition_says(c, bench, rule.reading());
    }
    return out;
}

std::string rule_says(const WatchRule& rule, const Bench& bench) {
    return conditions_say(rule, bench) + (rule.hours.whole_day() ? "" : ", " + hours_say(rule.hours));
}

std::string confirmation_says(const WatchRule& rule) {
    std::string out;
    if (rule.count > 1) out = fmt::format("{} lines in a row", rule.count);
    if (rule.for_s > 0) out += (out.empty() ? "for " : " and ") + length(rule.for_s);
    if (out.empty()) out = "at once";
    if (rule.for_sure) out += ", for sure";
    out += rule.repeat_s > 0 ? fmt::format(" · told once, again after {}", length(rule.repeat_s)) : " · told once";
    if (rule.escalate_s > 0) out += fmt::format(" · urgent when nobody looked for {}", length(rule.escalate_s));
    return out;
}

std::string event_says(const WatchRule& rule, const WatchEvent& event, const Bench& bench) {
    const Reading* reading = bench.reading(rule.reading());
    const std::string name = (reading ? reading->name : rule.reading()) + ": " + rule.name;
    if (!reading || rule.conditions.empty()) return name + ".";
    const Quantity& q = reading->quantity;
    const bool hidden = q.about().is_private;
    if (event.kind == WatchKind::cleared) {
        const WatchWhen when = rule.conditions.front().when;
        if (hidden || !compares_values(when) || q.about().is_state()) return name + " is over.";
        return fmt::format("{} is over: {}.", name, format_value(event.value, q.accuracy / 2, q.unit));
    }
    const char* again = event.kind == WatchKind::repeated ? " (still)" : "";
    if (hidden) return fmt::format("{}{}. {}", name, again, q.about().is_not);
    // Which of several it was is not in the event: the first one's value beside its limit may be a false sentence.
    const bool one_of_several = std::any_of(rule.conditions.begin() + 1, rule.conditions.end(),
                                            [](const WatchCondition& c) { return c.join == WatchJoin::any; });
    if (one_of_several) return fmt::format("{}{}: {}.", name, again, conditions_say(rule, bench));
    return fmt::format("{}{}. {}.", name, again, looked_at(rule.conditions.front(), event, q, bench));
}

} // namespace cognitum
