// Rules about voltages: what an output gives and what the input behind it stands, needs and resolves.
#include "core/plan/electrical.h"
#include "core/plan/rules.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// High level that the part puts on the wire of its reading, V; 0: it has none that matters (open drain, a
/// contact).
double output_high(const Placed& p) {
    if (!p.part) return 0;
    const Interface& i = p.part->interface;
    if (p.is_voltage()) {
        const double supply = p.supply_V();
        if (p.part->output_high_V > 0)
            return supply > 0 ? std::min(p.part->output_high_V, supply) : p.part->output_high_V;
        return supply;
    }
    if (i.speech == Speech::radio) return 0;
    if (i.speech == Speech::i2c || i.open_drain) {
        // What pulls it up is its own board's resistor, to its own supply.
        return i.pull_up_ohm > 0 && i.speech == Speech::i2c ? p.supply_V() : 0;
    }
    return i.high_V > 0 ? std::min(i.high_V, std::max(p.supply_V(), 0.1)) : p.supply_V();
}

double pin_limit(const Placed& p) {
    return p.is_voltage() ? p.board->analog_limit_V : p.board->input_limit_V;
}

const Connection* reading_wire(const Placed& p) {
    return p.reading->wiring.pins.empty() ? nullptr : &p.reading->wiring.pins.front();
}

/// A level shifter or external input stands between: the pin does not see the part's level.
bool is_behind_module(const Placed& p) {
    return p.module_part != nullptr;
}

std::string divider_text(const LevelDivider& d) {
    return fmt::format("{} and {}", format_ohm(d.top_ohm), format_ohm(d.bottom_ohm));
}

void offer_divider(Finding& f, const Placed& p, double high, double limit, double floor) {
    const double load = p.board->input_Mohm * 1e6;
    const double target = p.is_voltage() ? std::min(limit, p.full_scale_V() - p.full_scale_tolerance_V())
                                         : std::min(limit, p.board->logic_V * 1.02);
    const auto choice = choose_divider(high, target, floor, p.is_voltage() ? load : 0);
    if (!choice) {
        f.fix = "No pair of resistors does it; use a level shifter.";
        return;
    }
    f.fix = fmt::format("Put {} between them (E{}): {}, {:.0f} % below the limit, at worst {} with 1 % resistors.",
                        divider_text(choice->divider), choice->series, volts(choice->output_V),
                        100 * (limit - choice->output_V) / limit, volts(choice->worst_V));
    f.action = change_reading("Put in " + divider_text(choice->divider), p.reading->id,
                              [divider = choice->divider](Reading& r) {
                                  if (!r.wiring.pins.empty()) r.wiring.pins.front().divider = divider;
                              });
}

Found level_too_high(const Placed& p) {
    const Connection* wire = reading_wire(p);
    if (!p.part || !p.board || !wire || wire->pin.empty() || is_behind_module(p)) return {};
    const double high = output_high(p);
    const double limit = pin_limit(p);
    if (wire->divider.there() || high <= limit) return {};
    // A divided resistance cannot exceed its own supply, and a rail at the pin's level is safe.
    Finding f = finding(Severity::error, Stop::wiring,
                        fmt::format("Pin {} gets {} and stands {}.", wire->pin, volts(high), volts(limit)),
                        "The pin's protection conducts: it heats, and dies today or in a month.", "");
    const Rail* lower = nullptr;
    for (const Rail& rail : p.board->rails)
        if (rail_suits(*p.part, rail) && rail.voltage_V <= limit) lower = &rail;
    const bool bus = p.part->interface.speech == Speech::i2c;
    if (lower && (bus || p.part->interface.high_V <= 0) && p.reading->wiring.own_supply_V <= 0) {
        f.fix = fmt::format("Feed it from {}: then it gives {}.", lower->label, volts(lower->voltage_V));
        f.action = change_reading("Feed it from " + lower->label, p.reading->id,
                                  [rail = lower->label](Reading& r) { r.wiring.rail = rail; });
    } else if (bus) {
        f.fix = "A bus goes both ways: it needs a level shifter, no divider.";
    } else {
        offer_divider(f, p, high, limit, p.is_voltage() ? 0 : p.board->high_threshold_V);
    }
    return f;
}

Found divider_not_enough(const Placed& p) {
    const Connection* wire = reading_wire(p);
    if (!p.part || !p.board || !wire || !wire->divider.there() || is_behind_module(p)) return {};
    const LevelDivider& d = wire->divider;
    const double high = output_high(p);
    const double limit = pin_limit(p);
    const double load = p.is_voltage() ? p.board->input_Mohm * 1e6 : 0;
    const double worst = loaded_output({d.top_ohm * 0.99, d.bottom_ohm * 1.01}, high, load);
    if (worst <= limit) return {};
    Finding f = finding(Severity::error, Stop::wiring,
                        fmt::format("{} leave {}, at worst {}; pin {} stands {}.", divider_text(d),
                                    volts(loaded_output(d, high, load)), volts(worst), wire->pin, volts(limit)),
                        "A divider that is still above the limit only delays the end.", "");
    offer_divider(f, p, high, limit, p.is_voltage() ? 0 : p.board->high_threshold_V);
    return f;
}

Found level_too_low(const Placed& p) {
    const Connection* wire = reading_wire(p);
    if (!p.part || !p.board || !wire || wire->pin.empty() || p.is_voltage() || is_behind_module(p)) return {};
    if (p.part->interface.open_drain) return {};
    const double high = loaded_output(wire->divider, output_high(p), 0);
    if (high <= 0 || high >= p.board->high_threshold_V - 1e-9) return {};
    Finding f = finding(Severity::error, Stop::wiring,
                        fmt::format("It gives {} as high; pin {} calls high what is above {}.", volts(high),
                                    wire->pin, volts(p.board->high_threshold_V)),
                        "The board sees nothing, or something now and then when it is warm.",
                        "Use a level shifter, or a part with a higher output.");
    if (wire->divider.there()) {
        f.fix = "Take the divider out, or make it weaker.";
        if (output_high(p) <= p.board->input_limit_V && output_high(p) >= p.board->high_threshold_V)
            f.action = change_reading("Take the divider out", p.reading->id,
                                      [](Reading& r) { r.wiring.pins.front().divider = {}; });
        else
            offer_divider(f, p, output_high(p), p.board->input_limit_V, p.board->high_threshold_V);
    }
    return f;
}

Found drive_too_low(const Placed& p) {
    if (!p.part || !p.board || is_behind_module(p)) return {};
    double needed = p.part->interface.low_threshold_V;
    bool driven = false;
    for (const PinNeed& need : pin_needs(*p.part))
        driven = driven || (need.drives && !p.part->interface.open_drain);
    if (!driven || p.supply_V() <= 0) return {};
    if (needed <= 0) needed = 0.7 * p.supply_V();
    if (p.board->logic_V >= needed - 1e-9) return {};
    return finding(Severity::error, Stop::wiring,
                   fmt::format("{} drives with {}; at {} the part calls high what is above {}.", p.use->name,
                               volts(p.board->logic_V), volts(p.supply_V()), volts(needed)),
                   "It does not hear what it is told, or only some of it.",
                   "Feed it from a lower rail if it takes one, or use a level shifter.");
}

Found output_above_full_scale(const Placed& p) {
    if (!p.is_voltage() || !p.board || !(p.full_scale_V() > 0) || p.reading->wiring.pin().empty()) return {};
    if (p.part->divider && std::abs(p.supply_V() - p.full_scale_V()) < 1e-9) return {};
    // An output that is a share of the converter's own reference cannot leave it.
    if (!p.reading->path.stages.empty() && std::holds_alternative<Ratio>(p.reading->path.stages.front())) return {};
    const VoltRange out = pin_range(p);
    const double full = p.full_scale_V() - p.full_scale_tolerance_V();
    if (!out.known() || out.high <= full) return {};
    double low = 0;
    double high = 0;
    const bool known = p.expected(low, high);
    Finding f =
        finding(Severity::error, Stop::wiring,
                known ? fmt::format("Over {} to {} the pin gets up to {}; the converter is full at {}.",
                                    format_constant(p.reading->quantity.low), in_unit(p, p.reading->quantity.high),
                                    volts(out.high), volts(p.full_scale_V()))
                      : fmt::format("The pin gets up to {}; the converter is full at {}.", volts(out.high),
                                    volts(p.full_scale_V())),
                "Above that it sends the same code whatever happens, and the reading stops without a word.",
                "Lower the signal with a divider, or ask for a smaller range.");
    if (!p.module_part)
        for (const VoltageReference& other : p.board->references)
            if (other.voltage_V - other.tolerance_V > out.high) {
                f.fix = fmt::format("Measure against {}: {} of {} is used.", other.name, volts(out.high),
                                    volts(other.voltage_V));
                f.action = change_reading("Use " + other.name, p.reading->id,
                                          [id = other.id](Reading& r) { r.wiring.reference = id; });
                return f;
            }
    if (!p.module_part && reading_wire(p) && !p.part->divider) offer_divider(f, p, source_range(p).high, full, 0);
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
        fmt::format("This reading uses {:.0f} % of the converter: one count is {}.", 100 * share, in_unit(p, step)),
        fmt::format("{} to {} arrive where {} would fit.", volts(out.low), volts(out.high),
                    volts(p.full_scale_V())),
        "An external converter with more bits would mend it.");
    if (const VoltageReference* finer = finer_reference(p)) {
        f.fix =
            fmt::format("Switch the board to {}: one count becomes {}, and {} still fits. Measure that reference "
                        "once with a meter, then calibrate again.",
                        finer->name, in_unit(p, step * finer->voltage_V / p.full_scale_V()), volts(out.high));
        f.action = change_reading("Use " + finer->name, p.reading->id,
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
                   fmt::format("The pin gets {} to {}; this converter is straight from {} to {}.", volts(out.low),
                               volts(out.high), volts(p.board->usable_low_V), volts(p.board->usable_high_V)),
                   below ? "Near the bottom it reads zero for a while, then jumps."
                         : "Near the top it bends, and every value there is too high.",
                   "Calibrate at points inside, or use an external converter.");
}

Found source_too_weak(const Placed& p) {
    if (!p.is_voltage() || !p.board || p.module_part || !(p.board->source_ohm_max > 0)) return {};
    double source = 0;
    const Connection* wire = reading_wire(p);
    if (!wire || wire->pin.empty()) return {};
    if (wire->divider.there())
        source =
            wire->divider.top_ohm * wire->divider.bottom_ohm / (wire->divider.top_ohm + wire->divider.bottom_ohm);
    else if (p.part->divider)
        source = p.part->divider->fixed_ohm.value / 2;
    if (source <= p.board->source_ohm_max) return {};
    return finding(Severity::look, Stop::wiring,
                   fmt::format("The pin sees {}; the converter settles with at most {}.", format_ohm(source),
                               format_ohm(p.board->source_ohm_max)),
                   "The voltage of the pin read before it hangs on.",
                   "Use smaller resistors, or 100 nF from the pin to ground.");
}

constexpr ReadingRule rules[] = {{"level-too-high", level_too_high},
                                 {"divider-not-enough", divider_not_enough},
                                 {"level-too-low", level_too_low},
                                 {"drive-too-low", drive_too_low},
                                 {"output-above-full-scale", output_above_full_scale},
                                 {"output-uses-little-of-full-scale", output_uses_little},
                                 {"outside-usable-window", outside_usable_window},
                                 {"source-too-weak", source_too_weak}};

} // namespace

std::span<const ReadingRule> level_rules() {
    return rules;
}

} // namespace cognitum
