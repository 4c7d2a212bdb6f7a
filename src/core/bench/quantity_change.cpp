#include "core/bench/quantity_change.h"

#include "core/units/unit.h"

#include <algorithm>
#include <functional>
#include <utility>

namespace cognitum {

namespace {

/// Its limits are numbers of the reading's unit.
bool has_a_limit_of(const WatchCondition& condition, const std::string& reading) {
    return condition.reading == reading && !goes_by_clock(condition.when) && condition.when != WatchWhen::failing;
}

} // namespace

bool change_unit(Bench& bench, const std::string& id, const std::string& unit) {
    Reading* reading = bench.reading(id);
    if (!reading || reading->correction) return false;
    const std::string from = reading->quantity.unit;
    if (!change_unit(reading->quantity, unit)) return false;
    const auto value = [&](double& v) { v = convert_unit(v, from, unit).value_or(v); };
    const double zero = convert_unit(0, from, unit).value_or(0);
    const auto step = [&](double& v) { v = convert_unit(v, from, unit).value_or(v) - zero; }; // a difference
    if (reading->bands) {
        value(reading->bands->low);
        value(reading->bands->high);
        step(reading->bands->hysteresis);
    }
    for (NamedBand& band : reading->named_bands)
        value(band.to);
    for (SessionRule& rule : bench.session_rules)
        if (rule.reading == id)
            (reading->quantity.about().is_total ? std::function(step) : std::function(value))(rule.limit);
    const auto condition = [&](WatchCondition& c) {
        if (!has_a_limit_of(c, id)) return;
        if (c.when != WatchWhen::corridor)
            (looks_over_time(c.when) ? std::function(step) : std::function(value))(c.value);
        if (c.when == WatchWhen::outside) value(c.upper);
        for (CorridorStep& day : c.corridor) {
            value(day.low);
            value(day.high);
        }
        if (c.clear) value(*c.clear);
        step(c.hysteresis);
    };
    for (WatchRule& rule : bench.watch_rules)
        std::for_each(rule.conditions.begin(), rule.conditions.end(), condition);
    for (LoadControl& control : bench.controls) {
        std::for_each(control.never_while.begin(), control.never_while.end(), condition);
        for (LoadEffect& effect : control.effects)
            if (effect.reading == id) {
                step(effect.at_once);
                step(effect.an_hour);
            }
    }
    return true;
}

std::vector<std::string> change_kind(Bench& bench, const std::string& id, const QuantityKind& kind) {
    std::vector<std::string> out;
    Reading* reading = bench.reading(id);
    if (!reading || reading->quantity.kind == kind.id) return out;
    const Quantity before = std::move(reading->quantity);
    Quantity& now = reading->quantity = {};
    now.kind = kind.id;
    now.unit = kind.units[0];
    now.low = kind.low;
    now.high = kind.high;
    now.accuracy = kind.accuracy;
    now.interval_s = before.interval_s;
    now.place = before.place;
    now.around = before.around;
    now.kept_private = before.kept_private;
    reading->sensor = {};
    reading->wiring = {};
    reading->path = {};
    reading->bands.reset();
    reading->named_bands.clear();
    reading->correction.reset();

    const auto stop = [&](bool& acts, const std::string& name) {
        if (std::exchange(acts, false)) out.push_back(name);
    };
    const auto look = [&](const std::vector<WatchCondition>& conditions) {
        return std::any_of(conditions.begin(), conditions.end(),
                           [&](const WatchCondition& condition) { return has_a_limit_of(condition, id); });
    };
    for (WatchRule& rule : bench.watch_rules)
        if (look(rule.conditions)) stop(rule.on, rule.name);
    for (SessionRule& rule : bench.session_rules)
        if (rule.reading == id && rule.when != SessionWhen::valued) stop(rule.live, rule.name);
    for (LoadControl& control : bench.controls) {
        const WatchRule* rule = bench.watch_rule(control.rule);
        if ((rule && look(rule->conditions)) || look(control.never_while)) stop(control.acts, control.name);
    }
    return out;
}

} // namespace cognitum
