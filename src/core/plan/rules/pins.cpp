// Rules about pins: can they, are they free, do they wake, do they upset the start.
#include "core/base/phrase.h"
#include "core/plan/assign.h"
#include "core/plan/rules/rules.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

struct WiredLeg {
    PinNeed need;
    const Connection* wire;
    const Pin* pin; ///< null: no pin of that label
};

/// The legs of this reading that have a pin of the board; none behind a module or where another reading's part
/// serves.
std::vector<WiredLeg> wired_legs(const Placed& p) {
    std::vector<WiredLeg> out;
    if (!p.part || !p.board || !p.reading->wiring.module.empty() || is_shared(*p.bench, *p.reading)) return out;
    for (const PinNeed& need : pin_needs(*p.part))
        if (const Connection* wire = p.reading->wiring.connection(need.leg); wire && !wire->pin.empty())
            out.push_back({need, wire, p.board->pin(wire->pin)});
    return out;
}

std::string function_text(const std::string& function) {
    if (function == "analog") return phrase("read a voltage");
    if (function == "interrupt") return "interrupt";
    if (function == "digital") return phrase("read on and off");
    return phrase("be {} of its bus", function);
}

bool can(const Pin& pin, const std::string& function) {
    return pin.can(function) || (function == "digital" && pin.can("interrupt"));
}

Found pin_unknown(const Placed& p) {
    for (const WiredLeg& leg : wired_legs(p)) {
        if (leg.pin) continue;
        Finding f = finding(Severity::error, Stop::wiring, phrase("{} has no pin {}.", p.use->name, leg.wire->pin),
                            phrase("Labels are as printed on the board, not as the program counts them."),
                            phrase("Choose another pin."));
        for (const Pin& pin : p.board->pins)
            if (fmt::format("{}", pin.port) == leg.wire->pin) {
                f.fix = phrase("Port {} in a program is printed {}.", pin.port, pin.label);
                f.action = change_reading(phrase("Use pin {}", pin.label), p.reading->id,
                                          [name = leg.need.leg, label = pin.label](Reading& r) {
                                              if (Connection* c = r.wiring.connection(name)) c->pin = label;
                                          });
                break;
            }
        if (!f.action) f.action = move_leg(p, leg.need.leg, pin_unknown);
        return f;
    }
    return {};
}

Found pin_taken(const Placed& p) {
    for (const WiredLeg& leg : wired_legs(p)) {
        if (!leg.pin || leg.pin->taken_by.empty()) continue;
        Finding f = finding(Severity::error, Stop::wiring,
                            phrase("Pin {} is taken by the board itself: {}.", leg.pin->label, leg.pin->taken_by),
                            phrase("Two outputs on one wire fight; programming fails while it is on."),
                            phrase("Choose another pin."));
        f.action = move_leg(p, leg.need.leg, pin_taken);
        return f;
    }
    return {};
}

Found pin_cannot(const Placed& p) {
    for (const WiredLeg& leg : wired_legs(p)) {
        if (!leg.pin || can(*leg.pin, leg.need.function) || leg.need.function == "interrupt") continue;
        Finding f = finding(
            Severity::error, Stop::wiring,
            phrase("Pin {} cannot {} for {}.", leg.pin->label, function_text(leg.need.function), leg.need.leg),
            phrase("The reading would be noise, or nothing at all."), phrase("Choose another pin."));
        f.action = move_leg(p, leg.need.leg, pin_cannot);
        return f;
    }
    return {};
}

Found interrupt_missing(const Placed& p) {
    for (const WiredLeg& leg : wired_legs(p)) {
        if (!leg.pin || leg.need.function != "interrupt" || leg.pin->can("interrupt")) continue;
        Finding f = finding(Severity::error, Stop::wiring,
                            phrase("Pin {} does not interrupt; pulses come when they like.", leg.pin->label),
                            phrase("A pulse between two looks at the pin is lost, and nothing says so."),
                            phrase("Choose a pin that interrupts."));
        f.action = move_leg(p, leg.need.leg, interrupt_missing);
        return f;
    }
    return {};
}

Found input_only_drives(const Placed& p) {
    for (const WiredLeg& leg : wired_legs(p)) {
        if (!leg.pin || leg.pin->direction != "in" || !leg.need.drives) continue;
        Finding f = finding(Severity::error, Stop::wiring,
                            phrase("Pin {} can only listen; {} must be driven.", leg.pin->label, leg.need.leg),
                            phrase("The part is never asked, and never answers."), phrase("Choose another pin."));
        f.action = move_leg(p, leg.need.leg, input_only_drives);
        return f;
    }
    return {};
}

Found channel_lost_with_radio(const Placed& p) {
    for (const WiredLeg& leg : wired_legs(p)) {
        if (!leg.pin || leg.need.function != "analog" || !leg.pin->lost_with_radio || !radio_is_on(*p.use, p.board))
            continue;
        Finding f = finding(
            Severity::error, Stop::wiring,
            phrase("Pin {} sits on the converter that the radio takes.", leg.pin->label),
            phrase("While the radio is on it reads nothing, or the last value for ever."),
            phrase("No analog input that lives beside the radio is left: see the ways to more inputs on Boards."));
        f.action = move_leg(p, leg.need.leg, channel_lost_with_radio);
        if (f.action) f.fix = phrase("Use an input of the other converter.");
        return f;
    }
    return {};
}

Found no_pull_up(const Placed& p) {
    if (!p.part || !p.part->interface.open_drain || p.part->interface.pull_up_ohm > 0) return {};
    if (p.part->interface.speech == Speech::one_wire || p.part->interface.speech == Speech::i2c) return {};
    if (p.reading->wiring.pull_up_ohm > 0) return {};
    for (const WiredLeg& leg : wired_legs(p)) {
        if (!leg.pin || leg.pin->pull_up) continue;
        const double ohm = p.part->needs_pull_up_ohm > 0 ? p.part->needs_pull_up_ohm : 10000;
        Finding f = finding(
            Severity::error, Stop::wiring,
            phrase("{} only pulls down, and pin {} has no pull-up of its own.", leg.need.leg, leg.pin->label),
            phrase("The pin floats: it counts hum as pulses."),
            phrase("{} from pin {} to the board's logic supply.", format_ohm(ohm), leg.pin->label));
        f.action = change_reading(phrase("Add {}", format_ohm(ohm)), p.reading->id,
                                  [ohm](Reading& r) { r.wiring.pull_up_ohm = ohm; });
        return f;
    }
    return {};
}

Found boot_strap(const Placed& p) {
    for (const WiredLeg& leg : wired_legs(p)) {
        if (!leg.pin || leg.pin->boot.empty() || leg.need.drives) continue;
        std::string idle = p.part->interface.idle;
        if (p.part->interface.open_drain && idle.empty()) idle = "high"; // pulled up until it closes
        if (p.is_voltage()) idle = "anywhere";
        if (idle.empty() || idle == leg.pin->boot) continue;
        Finding f = finding(
            leg.pin->boot_stops ? Severity::error : Severity::look, Stop::wiring,
            phrase("Pin {} is wanted {} at reset; this part holds it {}.", leg.pin->label, leg.pin->boot, idle),
            leg.pin->boot_means.empty() ? phrase("The board then starts into its loader, and looks dead.")
                                        : phrase("Otherwise it {}.", leg.pin->boot_means),
            phrase("Choose another pin."));
        f.action = move_leg(p, leg.need.leg, boot_strap);
        return f;
    }
    return {};
}

Found pin_used_twice(const Placed& p) {
    const bool one_wire = p.part && p.part->interface.speech == Speech::one_wire;
    for (const WiredLeg& leg : wired_legs(p)) {
        const auto clash = [&](const std::string& name) {
            Finding f = finding(
                Severity::error, Stop::wiring, phrase("Pin {} also carries {}.", leg.wire->pin, name),
                phrase("Two outputs on one pin fight, and both readings are wrong."), phrase("Move one of them."));
            f.action = move_leg(p, leg.need.leg, pin_used_twice);
            return f;
        };
        for (const Reading& other : p.bench->readings) {
            if (other.id == p.reading->id || other.wiring.board != p.reading->wiring.board) continue;
            if (!other.wiring.module.empty() || is_shared(*p.bench, other)) continue;
            const PartCard* part = p.catalog->part(other.sensor.part);
            for (const Connection& c : other.wiring.pins) {
                if (c.pin != leg.wire->pin) continue;
                bool both_share = leg.need.shared && part && part->interface.speech == p.part->interface.speech;
                // Two selects on one pin are the bus rules' business.
                if (p.part->interface.speech == Speech::spi && part && part->interface.speech == Speech::spi &&
                    leg.need.function == "digital")
                    both_share = true;
                if (one_wire && part && part->interface.speech == Speech::one_wire) both_share = true;
                if (!both_share) return clash(other.name);
            }
        }
        for (const Module& m : p.bench->modules) {
            if (m.board != p.reading->wiring.board || !m.module.empty()) continue;
            const PartCard* part = p.catalog->part(m.part);
            for (const Connection& c : m.pins)
                if (c.pin == leg.wire->pin &&
                    !(leg.need.shared && part && part->interface.speech == p.part->interface.speech))
                    return clash(m.name);
        }
        for (const BoardUse& other : p.bench->boards)
            if ((other.id == p.use->id && !other.uplink.to.empty() && other.uplink.transmit_pin == leg.wire->pin) ||
                (other.uplink.to == p.use->id && other.uplink.receive_pin == leg.wire->pin))
                return clash(phrase("the line between two boards"));
    }
    return {};
}

Found leg_without_pin(const Placed& p) {
    if (!p.part || !p.board || is_shared(*p.bench, *p.reading) || p.reading->wiring.pins.empty()) return {};
    for (const Connection& c : p.reading->wiring.pins) {
        const bool is_there = std::any_of(p.part->legs.begin(), p.part->legs.end(),
                                          [&](const Leg& leg) { return leg.label == c.leg; });
        if (is_there || c.leg.empty() || c.pin.empty()) continue;
        std::string there;
        for (const Leg& leg : p.part->legs)
            there += (there.empty() ? "" : ", ") + leg.label;
        return finding(Severity::error, Stop::wiring,
                       phrase("Pin {} is wired to a leg {}, which the part has not.", c.pin, c.leg),
                       phrase("No voltage of that wire can be judged."), phrase("Its legs are {}.", there));
    }
    const std::vector<PinNeed> needs = pin_needs(*p.part);
    const auto has_pin = [&](const PinNeed& need) {
        const Connection* c = p.reading->wiring.connection(need.leg);
        return c && !c->pin.empty();
    };
    if (needs.empty() || !has_pin(needs.front())) return {}; // not begun, or too few inputs
    for (const PinNeed& need : needs) {
        if (has_pin(need)) continue;
        Finding f =
            finding(Severity::error, Stop::wiring, phrase("The leg {} has no pin yet.", need.leg),
                    phrase("The part does not work with a leg in the air."), phrase("Choose a pin for it."));
        const Assignment placed = assign_pins(*p.bench, *p.catalog, Keep::placed, p.use->id);
        const Reading* done = placed.bench.reading(p.reading->id);
        const Connection* c = done ? done->wiring.connection(need.leg) : nullptr;
        if (c && !c->pin.empty())
            f.action = change_reading(phrase("Use pin {}", c->pin), p.reading->id,
                                      [pins = done->wiring.pins](Reading& r) { r.wiring.pins = pins; });
        return f;
    }
    return {};
}

Found too_few_analog_inputs(const Placed& p) {
    if (!p.part || !p.board || !p.reading->wiring.pin().empty()) return {};
    const std::vector<PinNeed> needs = pin_needs(*p.part);
    if (needs.empty() || needs.front().function != "analog" || !p.reading->wiring.module.empty()) return {};
    const auto [total, used] = analog_inputs(*p.bench, *p.board, *p.use);
    if (used < total) return {};
    return finding(
        Severity::error, Stop::wiring,
        counted(total, "{1} has {0} analog input, and it is taken.",
                "{1} has {0} analog inputs, and all are taken.", p.use->name),
        phrase("This reading has no place."),
        phrase("Boards compares the ways out for this bench: an external converter, a multiplexer, a second board, "
               "a bus sensor instead."));
}

Found label_and_port(const Placed& p) {
    for (const WiredLeg& leg : wired_legs(p)) {
        if (!leg.pin || leg.pin->port < 0 || leg.need.shared) continue;
        // A label that is a number and another pin's port is the trap: "5" wired, 5 written in the program.
        const std::string digits =
            leg.pin->label.substr(leg.pin->label.find_first_of("0123456789") == std::string::npos
                                      ? leg.pin->label.size()
                                      : leg.pin->label.find_first_of("0123456789"));
        if (digits.empty() || leg.pin->can("analog") || digits == fmt::format("{}", leg.pin->port)) continue;
        return finding(Severity::note, Stop::wiring,
                       phrase("Printed {}, but port {} in a program.", leg.pin->label, leg.pin->port),
                       phrase("Port {} is another pin of this board.", digits),
                       phrase("Write {} in the program.", leg.pin->port));
    }
    return {};
}

constexpr ReadingRule all_pins_rules[] = {{"pin-unknown", pin_unknown},
                                          {"pin-taken", pin_taken},
                                          {"pin-cannot", pin_cannot},
                                          {"interrupt-missing", interrupt_missing},
                                          {"input-only-drives", input_only_drives},
                                          {"channel-lost-with-radio", channel_lost_with_radio},
                                          {"no-pull-up", no_pull_up},
                                          {"boot-strap-held", boot_strap},
                                          {"pin-used-twice", pin_used_twice},
                                          {"leg-without-pin", leg_without_pin},
                                          {"too-few-analog-inputs", too_few_analog_inputs},
                                          {"label-is-not-port", label_and_port}};

} // namespace

std::span<const ReadingRule> pin_rules() {
    return all_pins_rules;
}

} // namespace cognitum
