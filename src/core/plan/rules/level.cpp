// Rules about voltages: what an output gives and what the input behind it withstands, needs and resolves.
#include "core/base/phrase.h"
#include "core/plan/electrical.h"
#include "core/plan/levels.h"
#include "core/plan/rules/rules.h"
#include "core/plan/source_ohm.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

const Connection* reading_wire(const Placed& p) {
    return p.reading->wiring.pins.empty() ? nullptr : &p.reading->wiring.pins.front();
}

/// A shifter or a converter stands between: the board's pin does not see the part's level. A multiplexer passes it.
bool pin_sees_part(const Placed& p) {
    return !p.module_part || p.module_part->kind == PartKind::multiplexer;
}

double load_of(const Placed& p) {
    return p.is_voltage() && p.board ? p.board->input_Mohm * 1e6 : 0;
}

std::string divider_text(const LevelDivider& d) {
    return phrase("{} and {}", format_ohm(d.top_ohm), format_ohm(d.bottom_ohm));
}

/// "5 V", "5 V (5.25 V at worst)", "24 V through its loop when the transmitter is shorted".
std::string level_text(const WireLevel& w, double limit_V) {
    if (w.nominal_V > limit_V && w.highest_V - w.nominal_V < 0.005) return volts(w.nominal_V);
    if (w.nominal_V > limit_V) return phrase("{} ({} at worst)", volts(w.nominal_V), volts(w.highest_V));
    return phrase("up to {} from {}", volts(w.highest_V), w.by);
}

void offer_divider(Finding& f, const Placed& p, const WireLevel& level, double limit_V, double floor_V) {
    DividerAsk ask{level.nominal_V,
                   level.highest_V,
                   level.lowest_V > 0 ? level.lowest_V : level.nominal_V,
                   std::min(limit_V, p.board->logic_V * 1.04),
                   floor_V,
                   load_of(p)};
    if (p.is_voltage()) ask.limit_V = std::min(limit_V, p.full_scale_V());
    const auto choice = choose_divider(ask);
    if (!choice) {
        f.fix = phrase("No pair of resistors does it; use a level shifter.");
        return;
    }
    f.fix = phrase("Put {} between them (E{}): {}, at worst {}.", divider_text(choice->divider), choice->series,
                   volts(choice->output_V), volts(choice->worst_V));
    f.action = change_reading(phrase("Put in {}", divider_text(choice->divider)), p.reading->id,
                              [divider = choice->divider, leg = level.leg](Reading& r) {
                                  if (Connection* c = r.wiring.connection(leg)) c->divider = divider;
                              });
}

/// A rail on which the part works and lifts nothing above the limit; null: there is none.
const Rail* lower_rail(const Placed& p, double limit_V) {
    const Rail* lower = nullptr;
    for (const Rail& rail : p.board->rails)
        if (rail_suits(*p.part, rail) && rail.voltage_V + rail.tolerance_V <= limit_V &&
            (!lower || rail.voltage_V > lower->voltage_V))
            lower = &rail;
    return lower;
}

void offer_way_down(Finding& f, const Placed& p, const WireLevel& level, double limit_V) {
    const Interface& i = p.part->interface;
    const bool both_ways =
        i.speech == Speech::i2c || i.speech == Speech::one_wire || i.speech == Speech::single_bus;
    const Rail* lower = p.reading->wiring.own_supply_V > 0 ? nullptr : lower_rail(p, limit_V);
    if (p.part->network.kind == Network::Kind::shunt) {
        f.fix = phrase(
            "10 kΩ between shunt and pin, and from the pin a diode to each rail: the pin then never gets more than "
            "it withstands.");
        f.action = change_reading(phrase("Protect the pin"), p.reading->id,
                                  [](Reading& r) { r.wiring.input_protected = true; });
    } else if (lower && (both_ways || i.high_V <= 0)) {
        f.fix = phrase("Feed it from {}: then it gives {}.", lower->label, volts(lower->voltage_V));
        f.action = change_reading(phrase("Feed it from {}", lower->label), p.reading->id,
                                  [rail = lower->label](Reading& r) { r.wiring.rail = rail; });
    } else if (both_ways) {
        f.fix = phrase("Its wire goes both ways: it needs a level shifter, no divider.");
    } else {
        offer_divider(f, p, level, limit_V, p.is_voltage() ? 0 : p.board->high_threshold_V);
    }
}

Found level_too_high(const Placed& p) {
    if (!p.board || !pin_sees_part(p)) return {};
    const double limit = pin_limit_V(p);
    for (const WireLevel& level : wire_levels(p)) {
        if (level.divider.there() || level.highest_V <= limit) continue;
        const std::string pin = p.module ? p.module->name + " " + level.pin : level.pin;
        Finding f =
            finding(Severity::error, Stop::wiring,
                    phrase("Pin {} gets {} and withstands {}.", pin, level_text(level, limit), volts(limit)),
                    phrase("The pin's protection conducts: it heats, and dies today or in a month."), "");
        offer_way_down(f, p, level, limit);
        return f;
    }
    return {};
}

/// The input of a converter or a multiplexer withstands no more than its own supply.
Found above_module_supply(const Placed& p) {
    if (!p.board || !p.module_part || (!p.by_converter() && p.module_part->kind != PartKind::multiplexer))
        return {};
    const double limit = module_input_limit_V(p);
    for (const WireLevel& level : wire_levels(p)) {
        const double arrives = highest_output(level.divider, level.highest_V, 0);
        if (limit <= 0 || arrives <= limit + 1e-9) continue;
        Finding f =
            finding(Severity::error, Stop::wiring,
                    phrase("Input {} of {} gets {}; fed as it is, it withstands {}.", level.pin, p.module->name,
                           level_text(level, limit), volts(limit)),
                    phrase("Above its supply an input conducts: it bends all the others, and may end the module."),
                    phrase("Feed the part from a lower rail, or put a divider before the input."));
        const Rail* lower = p.reading->wiring.own_supply_V > 0 ? nullptr : lower_rail(p, limit);
        if (lower)
            f.action = change_reading(phrase("Feed it from {}", lower->label), p.reading->id,
                                      [rail = lower->label](Reading& r) { r.wiring.rail = rail; });
        return f;
    }
    return {};
}

Found divider_not_enough(const Placed& p) {
    if (!p.board || !pin_sees_part(p)) return {};
    const double limit = pin_limit_V(p);
    for (const WireLevel& level : wire_levels(p)) {
        const LevelDivider& d = level.divider;
        const double worst = highest_output(d, level.highest_V, load_of(p));
        if (!d.there() || worst <= limit) continue;
        Finding f = finding(Severity::error, Stop::wiring,
                            phrase("{} leave {}, at worst {} ({} in, resistors of 1 %); pin {} withstands {}.",
                                   divider_text(d), volts(loaded_output(d, level.nominal_V, load_of(p))),
                                   volts(worst), volts(level.highest_V), level.pin, volts(limit)),
                            phrase("A divider that is still above the limit only delays the end."), "");
        offer_divider(f, p, level, limit, p.is_voltage() ? 0 : p.board->high_threshold_V);
        return f;
    }
    return {};
}

Found level_too_low(const Placed& p) {
    if (!p.board || p.is_voltage() || !pin_sees_part(p)) return {};
    const double threshold = p.board->high_threshold_V;
    for (const WireLevel& level : wire_levels(p)) {
        const double arrives = lowest_output(level.divider, level.lowest_V, 0);
        const double nominal = loaded_output(level.divider, level.nominal_V, 0);
        // A supply at its very end is let pass where the nominal one is clear by a tenth.
        if (level.lowest_V <= 0 || arrives >= threshold - 1e-9 || nominal >= 1.1 * threshold) continue;
        Finding f = finding(Severity::error, Stop::wiring,
                            phrase("It gives {} as high, {} at least; pin {} calls high what is above {}.",
                                   volts(nominal), volts(arrives), level.pin, volts(threshold)),
                            phrase("The board sees nothing, or something now and then when it is warm."),
                            phrase("Use a level shifter, or a part with a higher output."));
        if (level.divider.there()) {
            f.fix = phrase("Take the divider out, or make it weaker.");
            if (level.highest_V <= p.board->input_limit_V && level.lowest_V >= threshold)
                f.action =
                    change_reading(phrase("Take the divider out"), p.reading->id, [leg = level.leg](Reading& r) {
                        if (Connection* c = r.wiring.connection(leg)) c->divider = {};
                    });
            else
                offer_divider(f, p, level, p.board->input_limit_V, threshold);
        }
        return f;
    }
    return {};
}

Found drive_too_low(const Placed& p) {
    if (!p.part || !p.board || p.module_part) return {};
    double needed = p.part->interface.low_threshold_V;
    bool driven = false;
    for (const PinNeed& need : pin_needs(*p.part))
        driven = driven || (need.drives && !p.part->interface.open_drain);
    if (!driven || p.supply_V() <= 0) return {};
    if (needed <= 0) needed = 0.7 * p.supply_V();
    if (p.board->logic_V >= needed - 1e-9) return {};
    return finding(Severity::error, Stop::wiring,
                   phrase("{} drives with {}; at {} the part calls high what is above {}.", p.use->name,
                          volts(p.board->logic_V), volts(p.supply_V()), volts(needed)),
                   phrase("It does not hear what it is told, or only some of it."),
                   phrase("Feed it from a lower rail if it takes one, or use a level shifter."));
}

Found output_above_full_scale(const Placed& p) {
    if (!p.is_voltage() || !p.board || !(p.full_scale_V() > 0) || p.reading->wiring.pin().empty()) return {};
    // An output that is a share of the converter's own reference cannot leave it.
    if (p.supply_cancels()) return {};
    const VoltRange out = pin_range(p);
    const double full = p.full_scale_V();
    const double surely = full - p.full_scale_tolerance_V();
    if (!out.known() || out.high <= surely) return {};
    double low = 0;
    double high = 0;
    const bool known = p.expected(low, high);
    const std::string fills =
        out.high > full ? volts(full) : phrase("{}, of some boards already at {}", volts(full), volts(surely));
    Finding f =
        finding(out.high > full ? Severity::error : Severity::look, Stop::wiring,
                known ? phrase("Over {} to {} the pin gets up to {}; the converter is full at {}.",
                               format_constant(p.reading->quantity.low), in_unit(p, p.reading->quantity.high),
                               volts(out.high), fills)
                      : phrase("The pin gets up to {}; the converter is full at {}.", volts(out.high), fills),
                phrase("Above that it sends the same code whatever happens, and the reading stops without a word."),
                phrase("Lower the signal with a divider, or ask for a smaller range."));
    if (!p.module_part)
        for (const VoltageReference& other : p.board->references)
            if (other.voltage_V - other.tolerance_V > out.high) {
                f.fix = phrase("Measure against {}: {} of {} is used.", other.name, volts(out.high),
                               volts(other.voltage_V));
                f.action = change_reading(phrase("Use {}", other.name), p.reading->id,
                                          [id = other.id](Reading& r) { r.wiring.reference = id; });
                return f;
            }
    if (!p.module_part && reading_wire(p) && !p.part->divider) {
        const double top = source_range(p).high;
        offer_divider(f, p, {reading_wire(p)->leg, {}, top, top, top, {}, {}}, surely, 0);
    }
    return f;
}

Found output_uses_little(const Placed& p) {
    if (!p.is_voltage() || !p.board || !(p.full_scale_V() > 0) || p.reading->path.stages.empty()) return {};
    const VoltRange out = pin_range(p);
    const double share = (out.high - out.low) / p.full_scale_V();
    const double step = count_size(p.reading ? *p.reading : Reading{});
    if (!out.known() || share >= 0.25 || step < p.reading->quantity.accuracy / 5) return {};
    Finding f = finding(
        Severity::look, Stop::wiring,
        phrase("This reading uses {:.0f} % of the converter: one count is {}.", 100 * share, in_unit(p, step)),
        phrase("{} to {} arrive where {} would fit.", volts(out.low), volts(out.high), volts(p.full_scale_V())),
        phrase("An external converter with more bits would mend it."));
    if (const VoltageReference* finer = finer_reference(p)) {
        f.fix = phrase("Switch the board to {}: one count becomes {}, and {} still fits. Measure that reference "
                       "once with a meter, then calibrate again.",
                       finer->name, in_unit(p, step * finer->voltage_V / p.full_scale_V()), volts(out.high));
        f.action = change_reading(phrase("Use {}", finer->name), p.reading->id,
                                  [id = finer->id](Reading& r) { r.wiring.reference = id; });
    }
    return f;
}

Found outside_usable_window(const Placed& p) {
    if (!p.is_voltage() || !p.board || p.module_part || !(p.board->usable_high_V > 0)) return {};
    const VoltRange out = pin_range(p);
    if (!out.known() || p.reading->wiring.pin().empty()) return {};
    const bool below = out.low < p.board->usable_low_V;
    const bool above = out.high > p.board->usable_high_V && out.high <= p.full_scale_V();
    if (!below && !above) return {};
    return finding(Severity::look, Stop::wiring,
                   phrase("The pin gets {} to {}; this converter is straight from {} to {}.", volts(out.low),
                          volts(out.high), volts(p.board->usable_low_V), volts(p.board->usable_high_V)),
                   below ? phrase("Near the bottom it reads zero for a while, then jumps.")
                         : phrase("Near the top it bends, and every value there is too high."),
                   phrase("Calibrate at points inside, or use an external converter."));
}

/// The board's input hangs on a divider's tap, and the path does not know it.
Found input_loads_divider(const Placed& p) {
    if (!p.is_voltage() || !p.board || !p.part->divider || p.by_converter() || p.reading->path.stages.empty())
        return {};
    Chain counted = p.reading->path;
    const double load = p.board->input_Mohm * 1e6;
    bool missing = false;
    for (Stage& stage : counted.stages) {
        const auto count_in = [&](auto& divider) {
            missing = missing || divider.load_ohm.value <= 0;
            divider.load_ohm.value = load;
        };
        if (auto* d = std::get_if<Divider>(&stage)) count_in(*d);
        if (auto* d = std::get_if<RatioDivider>(&stage)) count_in(*d);
    }
    if (!missing || p.reading->correction) return {};
    double worst = 0;
    double at = 0;
    for (const double end : {p.reading->quantity.low, p.reading->quantity.high})
        if (const Value raw = inverse(counted, end); raw.ok())
            if (const Value shown = forward(p.reading->path, raw.number);
                shown.ok() && std::abs(shown.number - end) > std::abs(worst)) {
                worst = shown.number - end;
                at = end;
            }
    if (std::abs(worst) <= p.reading->quantity.accuracy / 5) return {};
    Finding f = finding(Severity::look, Stop::convert,
                        phrase("The input of {} loads the divider with {}: at {} it reads {} too {}.", p.use->name,
                               format_ohm(load), in_unit(p, at), in_unit(p, std::abs(worst)),
                               worst > 0 ? phrase("high") : phrase("low")),
                        phrase("The path takes the tap for unloaded."), phrase("Count the input's resistance in."));
    f.action = change_reading(phrase("Count it in"), p.reading->id, [load](Reading& r) {
        const Constant known{load, 0.2 * load, Spread::rectangular, phrase("data sheet of the board"), {}};
        for (Stage& stage : r.path.stages) {
            if (auto* d = std::get_if<Divider>(&stage)) d->load_ohm = known;
            if (auto* d = std::get_if<RatioDivider>(&stage)) d->load_ohm = known;
        }
    });
    return f;
}

Found source_too_weak(const Placed& p) {
    if (!p.is_voltage() || !p.board || p.module_part || !(p.board->source_ohm_max > 0)) return {};
    const double source = source_ohm(p);
    if (source <= p.board->source_ohm_max) return {};
    return finding(Severity::look, Stop::wiring,
                   phrase("The pin sees {}; the converter settles with at most {}.", format_ohm(source),
                          format_ohm(p.board->source_ohm_max)),
                   phrase("The voltage of the pin read before it hangs on."),
                   phrase("Use smaller resistors, or 100 nF from the pin to ground."));
}

constexpr ReadingRule all_level_rules[] = {{"level-too-high", level_too_high},
                                           {"above-module-supply", above_module_supply},
                                           {"divider-not-enough", divider_not_enough},
                                           {"level-too-low", level_too_low},
                                           {"drive-too-low", drive_too_low},
                                           {"output-above-full-scale", output_above_full_scale},
                                           {"output-uses-little-of-full-scale", output_uses_little},
                                           {"outside-usable-window", outside_usable_window},
                                           {"source-too-weak", source_too_weak},
                                           {"input-loads-divider", input_loads_divider}};

} // namespace

std::span<const ReadingRule> level_rules() {
    return all_level_rules;
}

} // namespace cognitum
