// Rules about the part itself: does it reach, is it sure enough, does it live there.
#include "core/base/phrase.h"
#include "core/plan/reading_doubt.h"
#include "core/plan/rules/rules.h"
#include "core/plan/vessel_view.h"
#include "core/uncertainty/budget.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

bool is_ranger(const Placed& p) {
    return p.part && (p.part->beam_deg > 0 || p.part->dead_zone_mm > 0);
}

Found measures_something_else(const Placed& p) {
    if (!p.part || p.measurand) return {};
    Finding f =
        finding(Severity::error, Stop::sensor, phrase("This part does not measure {}.", p.reading->quantity.kind),
                phrase("Its card lists no such quantity."), phrase("Choose a part that does."));
    f.action = open_stop(phrase("Compare parts"), Stop::sensor);
    return f;
}

Found range_outside_part(const Placed& p) {
    double low = 0;
    double high = 0;
    if (!p.expected(low, high)) return {};
    // From zero up is what anybody asks of wind or water; what a part misses below its first step is its own
    // affair.
    const bool from_nothing = low >= 0 && low < p.measurand->low && p.measurand->low < 0.1 * p.measurand->high &&
                              (p.measurand->quantity == "wind" || p.measurand->quantity == "flow" ||
                               p.measurand->quantity == "conductivity" || p.measurand->quantity == "light");
    if ((low >= p.measurand->low - 1e-9 || from_nothing) && high <= p.measurand->high + 1e-9) return {};
    // A ranger mounted above the level looks at the distance, which the dead zone rule judges.
    if (is_ranger(p) && p.reading->quantity.vessel.mount_mm > 0 && high <= p.measurand->high) return {};
    Finding f =
        finding(Severity::error, Stop::sensor,
                phrase("You expect {} to {}; the part reaches {} to {}.", format_constant(p.reading->quantity.low),
                       in_unit(p, p.reading->quantity.high), format_constant(p.measurand->low),
                       format_measure(p.measurand->high, p.measurand->unit)),
                phrase("Outside its range a part gives a plausible, wrong value."),
                phrase("Choose a part that reaches that far, or expect less."));
    f.action = open_stop(phrase("Compare parts"), Stop::sensor);
    return f;
}

/// Highest level that the plan calls full, mm; 0: not said.
double full_level_mm(const Placed& p) {
    const Quantity& q = p.reading->quantity;
    if (q.vessel.full_mm > 0) return q.vessel.full_mm;
    return q.kind == "level" ? convert_unit(q.high, q.unit, "mm").value_or(0) : 0;
}

Found full_in_dead_zone(const Placed& p) {
    if (!is_ranger(p) || p.reading->quantity.vessel.mount_mm <= 0) return {};
    const double full = full_level_mm(p);
    const double mount = p.reading->quantity.vessel.mount_mm;
    if (full <= 0 || mount - full >= p.part->dead_zone_mm) return {};
    const std::string near = format_measure(p.part->dead_zone_mm, "mm");
    Finding f =
        finding(Severity::error, Stop::quantity,
                full > mount ? phrase("The full level lies {} above the face, which must hang {} over it.",
                                      format_measure(full - mount, "mm"), near)
                             : phrase("The full level lies {} under the face; nearer than {} it hears itself.",
                                      format_measure(mount - full, "mm"), near),
                phrase("A full vessel then reads as anything, mostly as half full."),
                phrase("Mount it at {} above the bottom, or call {} full.",
                       format_measure(full + p.part->dead_zone_mm, "mm"),
                       format_measure(mount - p.part->dead_zone_mm, "mm")));
    f.action =
        change_reading(phrase("Mount it at {}", format_measure(full + p.part->dead_zone_mm, "mm")), p.reading->id,
                       [mm = full + p.part->dead_zone_mm](Reading& r) { r.quantity.vessel.mount_mm = mm; });
    return f;
}

Found cone_meets_wall(const Placed& p) {
    if (!is_ranger(p) || p.reading->quantity.vessel.width_mm <= 0) return {};
    const auto beam = beam_in_vessel(p.reading->quantity, *p.part);
    if (!beam || !beam->meets_wall()) return {};
    return finding(Severity::look, Stop::sensor,
                   phrase("It is {} wide; at {} the beam is {}.", format_measure(beam->free_mm, "mm", 3),
                          format_measure((beam->from_mm - beam->to_mm) / 1000, "m", 3),
                          format_measure(beam->beam_mm, "mm", 3)),
                   phrase("The first echo may come from the wall."),
                   phrase("Use {} of free width or a narrower beam, or check the lowest level with a rule.",
                          format_measure(std::ceil(beam->beam_mm / 10) * 10, "mm")));
}

Found accuracy_not_reached(const Placed& p) {
    if (!p.part || !p.board || !p.measurand) return {};
    const Quantity& q = p.reading->quantity;
    double reached = 0;
    std::string why;
    std::string fix = phrase("Choose a better part.");
    const Partners partners = planned_partners(*p.bench, p.reading->path);
    const Value code = p.reading->path.stages.empty()
                           ? Value::none(Cause::missing)
                           : inverse(effective_path(*p.reading, partners), (q.low + q.high) / 2);
    if (code.ok()) {
        const TimeUs at = p.reading->correction ? p.reading->correction->time : 0;
        const Budget b =
            reading_budget(*p.reading, p.part, code.number, 0, at, part_limit(p, code.number, partners), partners);
        reached = b.expanded();
        if (!b.contributions.empty()) why = phrase("The largest share: {}.", b.contributions.front().label);
        if (reached > q.accuracy) {
            const Advice advice = what_would_help(p, b);
            if (!advice.first.empty()) fix = advice.first;
        }
    } else if (p.reading->path.stages.empty()) {
        // A part that sends numbers by itself: what its card promises.
        reached = p.card_doubt();
        why = phrase("Its card promises no more.");
        fix = phrase("Calibrate it against a reference, or choose a better part.");
    }
    if (!(reached > q.accuracy * 1.0001)) return {};
    Finding f =
        finding(Severity::look, Stop::calibrate,
                phrase("You need ± {}; this path reaches ± {}{}.", in_unit(p, q.accuracy), in_unit(p, reached),
                       code.ok() ? phrase(" at {}", in_unit(p, (q.low + q.high) / 2)) : ""),
                why, fix);
    if (!p.reading->correction) f.action = open_stop(phrase("Calibrate it"), Stop::calibrate);
    return f;
}

Found response_too_slow(const Placed& p) {
    if (!p.part || p.reading->quantity.change_s <= 0 || p.part->response_s <= p.reading->quantity.change_s)
        return {};
    Finding f =
        finding(Severity::error, Stop::sensor,
                phrase("It follows in {}; the change that you want to see takes {}.",
                       format_measure(p.part->response_s, "s"), format_measure(p.reading->quantity.change_s, "s")),
                phrase("What it shows is the past, smoothed: a short peak never appears."),
                phrase("Choose a smaller, faster part."));
    f.action = open_stop(phrase("Compare parts"), Stop::sensor);
    return f;
}

Found not_for_liquid(const Placed& p) {
    if (!p.part || !p.reading->quantity.around.water || p.part->environment.water) return {};
    Finding f = finding(Severity::error, Stop::sensor, phrase("It will be wet, and this part is not sealed."),
                        phrase("Water bridges its legs: it reads wrong, slowly, then for ever."),
                        phrase("Choose a sealed part, or seal it and check it again afterwards."));
    f.action = open_stop(phrase("Compare parts"), Stop::sensor);
    return f;
}

Found not_for_food(const Placed& p) {
    if (!p.part || !p.reading->quantity.around.food || p.part->environment.food) return {};
    return finding(Severity::error, Stop::sensor,
                   phrase("It touches food or drink, and this part is not made for that."),
                   phrase("Solder, resin and dye go into it."),
                   phrase("Choose a probe or a pocket whose maker states food contact."));
}

Found not_for_outdoors(const Placed& p) {
    if (!p.part || !p.reading->quantity.around.outdoors || p.part->environment.outdoors) return {};
    return finding(Severity::look, Stop::sensor, phrase("It hangs outdoors, and this part is made for rooms."),
                   phrase("Dew, frost and sun end it within a season."),
                   phrase("Give it a box and a roof, or choose a sealed part."));
}

Found not_for_heat(const Placed& p) {
    if (!p.part || !p.measurand) return {};
    const double hottest = p.reading->quantity.around.hottest_degC;
    if (hottest <= p.part->environment.hottest_degC) return {};
    Finding f = finding(Severity::error, Stop::sensor,
                        phrase("It gets {} there; this part withstands {}.", format_measure(hottest, "degC"),
                               format_measure(p.part->environment.hottest_degC, "degC")),
                        phrase("Its plastic softens and its solder lets go."),
                        phrase("Choose a part for that heat, or move it away."));
    f.action = open_stop(phrase("Compare parts"), Stop::sensor);
    return f;
}

Found self_heating(const Placed& p) {
    if (!p.part || p.part->self_heating_K <= 0 || p.reading->quantity.kind != "temperature") return {};
    const double accuracy = convert_unit(p.reading->quantity.accuracy, p.reading->quantity.unit, "K").value_or(1) -
                            convert_unit(0, p.reading->quantity.unit, "K").value_or(0);
    // The card states it at 5 V. In a resistor the power goes with the square of the supply, in a part that draws a
    // steady current with the supply.
    const double share = p.supply_V() > 0 ? p.supply_V() / 5 : 1;
    const double heat = p.part->self_heating_K * (p.part->divider ? share * share : share);
    if (heat <= accuracy / 3 || p.reading->correction) return {};
    return finding(Severity::look, Stop::convert,
                   phrase("It warms itself by about {}; you need ± {}.", format_measure(heat, "K", 2),
                          in_unit(p, p.reading->quantity.accuracy)),
                   phrase("In still air its own heat is part of what it reads."),
                   phrase("Feed it only while it measures, from a lower rail, or calibrate it where it hangs."));
}

Found beside_regulator(const Placed& p) {
    if (!p.part || !p.use || !p.reading->quantity.around.beside_regulator ||
        p.part->interface.speech == Speech::radio || p.reading->quantity.kind != "temperature")
        return {};
    const BoardBudget b = board_budget(*p.bench, *p.catalog, *p.use);
    if (b.heat_W < 0.05) return {};
    Finding f =
        finding(Severity::look, Stop::quantity,
                phrase("It sits beside a regulator that makes {}{}W.", format_fixed(b.heat_W, 2), thin_space),
                phrase("It reads the board, some degrees above the air."), phrase("Give it 20 cm of cable."));
    f.action = change_reading(phrase("It hangs away from it"), p.reading->id,
                              [](Reading& r) { r.quantity.around.beside_regulator = false; });
    return f;
}

Found legs_mirrored(const Placed& p) {
    if (!p.part || !p.reading->wiring.turned) return {};
    const int supply = p.part->leg_with_role("supply");
    const int ground = p.part->leg_with_role("ground");
    if (supply < 0 || ground < 0) return {};
    const auto n = static_cast<int>(p.part->legs.size());
    const bool swaps = n - 1 - supply == ground;
    const bool middle = n - 1 - supply == supply; // the supply stays, the ends change places
    const std::string lands = p.part->legs[static_cast<std::size_t>(n - 1 - (middle ? ground : supply))].label;
    Finding f = finding(Severity::error, Stop::wiring,
                        phrase("Seen the other way round, the {} wire lands on {}.",
                               middle ? phrase("black") : phrase("red"), lands),
                        swaps    ? phrase("Supply and ground change places: it gets hot within a second.")
                        : middle ? phrase("Its output is shorted to ground.")
                                 : phrase("The supply lands on a leg that does not withstand it."),
                        phrase("Turn it: {}.", p.part->seen_from));
    f.action = change_reading(phrase("It is turned"), p.reading->id, [](Reading& r) { r.wiring.turned = false; });
    return f;
}

constexpr ReadingRule all_sensor_rules[] = {{"measures-something-else", measures_something_else},
                                            {"range-outside-part", range_outside_part},
                                            {"full-in-dead-zone", full_in_dead_zone},
                                            {"cone-meets-wall", cone_meets_wall},
                                            {"accuracy-not-reached", accuracy_not_reached},
                                            {"response-too-slow", response_too_slow},
                                            {"not-for-liquid", not_for_liquid},
                                            {"not-for-food", not_for_food},
                                            {"not-for-outdoors", not_for_outdoors},
                                            {"not-for-heat", not_for_heat},
                                            {"self-heating", self_heating},
                                            {"beside-regulator", beside_regulator},
                                            {"legs-mirrored", legs_mirrored}};

} // namespace

std::span<const ReadingRule> sensor_rules() {
    return all_sensor_rules;
}

} // namespace cognitum
