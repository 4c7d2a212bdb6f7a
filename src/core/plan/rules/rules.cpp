#include "core/plan/rules/rules.h"

#include "core/base/phrase.h"
#include "core/plan/assign.h"
#include "core/units/format.h"

#include <fmt/format.h>

namespace cognitum {

Finding finding(Severity severity, Stop stop, std::string message, std::string why, std::string fix) {
    Finding f;
    f.severity = severity;
    f.stop = stop;
    f.message = std::move(message);
    f.why = std::move(why);
    f.fix = std::move(fix);
    return f;
}

std::string in_unit(const Placed& p, double value) {
    return format_measure(value, p.reading->quantity.unit, 2);
}

FixAction change_reading(std::string label, const std::string& id, std::function<void(Reading&)> change) {
    return {std::move(label),
            [id, change = std::move(change)](Bench& bench) {
                if (Reading* r = bench.reading(id)) change(*r);
            },
            -1,
            {}};
}

FixAction change_board(std::string label, const std::string& id, std::function<void(BoardUse&)> change) {
    return {std::move(label),
            [id, change = std::move(change)](Bench& bench) {
                if (BoardUse* use = bench.board(id)) change(*use);
            },
            -1,
            {}};
}

FixAction open_stop(std::string label, Stop stop) {
    return {std::move(label), {}, static_cast<int>(stop), {}};
}

std::optional<FixAction> move_leg(const Placed& p, const std::string& leg, Found (*rule)(const Placed&)) {
    if (!p.board || !p.part || !p.reading->wiring.connection(leg)) return {};
    std::string function;
    bool drives = false;
    for (const PinNeed& need : pin_needs(*p.part))
        if (need.leg == leg) {
            function = need.function;
            drives = need.drives;
        }
    for (const Pin& pin : p.board->pins) {
        const bool can = pin.can(function) || (function == "digital" && pin.can("interrupt"));
        if (!can || !pin.taken_by.empty() || (drives && pin.direction == "in") || !pin.boot.empty()) continue;
        if (function == "analog" && pin.lost_with_radio && radio_is_on(*p.use, p.board)) continue;
        if (pin_is_used(*p.bench, *p.use, pin)) continue;
        Reading moved = *p.reading;
        moved.wiring.connection(leg)->pin = pin.label;
        Placed trial = p;
        trial.reading = &moved;
        if (rule(trial)) continue;
        return change_reading(phrase("Move it to pin {}", pin.label), p.reading->id,
                              [leg, label = pin.label](Reading& r) {
                                  if (Connection* c = r.wiring.connection(leg)) c->pin = label;
                              });
    }
    return {};
}

} // namespace cognitum
