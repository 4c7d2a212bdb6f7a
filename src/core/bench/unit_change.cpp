#include "core/bench/unit_change.h"

#include "core/units/unit.h"

#include <algorithm>
#include <functional>

namespace cognitum {

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
        if (c.reading != id || goes_by_clock(c.when) || c.when == WatchWhen::failing) return;
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

} // namespace cognitum
