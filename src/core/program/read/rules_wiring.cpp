#include "core/program/read/reading_rules.h"

#include "core/base/letters.h"
#include "core/base/phrase.h"
#include "core/plan/source_ohm.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

/// All pins of the board that the plan has something on, with what.
std::map<std::string, std::string> planned_pins(const Trial& t) {
    std::map<std::string, std::string> out;
    for (const Reading& r : t.bench->readings)
        if (r.wiring.board == t.use->id && r.wiring.module.empty())
            for (const Connection& c : r.wiring.pins)
                out[c.pin] = r.name;
    for (const Module& m : t.bench->modules)
        if (m.board == t.use->id)
            for (const Connection& c : m.pins)
                out[c.pin] = m.name;
    return out;
}

bool is_read(const Trial& t, const Reading& r) {
    const auto use = t.usual().pins.find(r.wiring.pin());
    const bool by_interrupt = std::any_of(t.usual().interrupts.begin(), t.usual().interrupts.end(),
                                          [&](const InterruptUse& u) { return u.pin == r.wiring.pin(); });
    return by_interrupt ||
           (use != t.usual().pins.end() && (!use->second.analog_reads.empty() || !use->second.reads.empty()));
}

/// The reading that somebody meant who read this pin: named where it is printed, or the only one that is left.
const Reading* meant(const Trial& t, const std::string& pin, bool analog) {
    std::vector<const Reading*> left;
    for (const Reading& r : t.bench->readings) {
        const PartCard* part = t.catalog->part(r.sensor.part);
        if (r.wiring.board != t.use->id || !part || !r.wiring.module.empty() || r.wiring.pin().empty() ||
            is_read(t, r))
            continue;
        const Speech speech = part->interface.speech;
        const bool is_analog = speech == Speech::analog || speech == Speech::resistive;
        const bool is_level = speech == Speech::digital || speech == Speech::pulse || speech == Speech::echo;
        if (analog ? is_analog : is_level) left.push_back(&r);
    }
    for (const SentNumber& s : t.sent) {
        if (!s.source || s.source->key != pin) continue;
        const std::string label = letters::small(s.label);
        for (const Reading* r : left) {
            const std::string id = letters::small(r->id + " " + r->field());
            for (std::size_t from = 0; from < id.size();) {
                const std::size_t to = id.find_first_of("- _.", from);
                const std::string word = id.substr(from, to == std::string::npos ? to : to - from);
                if (word.size() >= 3 && label.find(word) != std::string::npos) return r;
                if (to == std::string::npos) break;
                from = to + 1;
            }
        }
    }
    return left.size() == 1 ? left.front() : nullptr;
}

void on_another_pin(const Trial& t, const std::string& pin, bool analog, const CodePlace& call,
                    const Literals& literals, ReadFindings& out) {
    const Literal* literal = own_literal(literals);
    const CodePlace place = literal ? literal->place : call;
    const char* reads = analog ? "reads" : "uses";
    if (const Reading* r = meant(t, pin, analog)) {
        out.push_back(found(t, "pin-differs", Severity::error, place,
                            phrase("It {} pin {}; the plan has {} on {}.", reads, pin, r->name, r->wiring.pin()),
                            phrase("What it sends is of another pin, or of one with nothing on it."),
                            literal ? t.mended(literal->place, r->wiring.pin()) : std::string(), r->id));
        return;
    }
    out.push_back(
        found(t, "pin-not-in-plan", Severity::look, place,
              phrase("It {} pin {}, and the plan has nothing on it.", reads, pin),
              phrase("Either a wire is on another pin than planned, or the plan does not have this part yet.")));
}

void pins(const Trial& t, ReadFindings& out) {
    for (const auto& [number, place] : t.usual().unknown_pins)
        out.push_back(found(t, "no-such-pin", Severity::error, place, phrase("This board has no pin {}.", number),
                            phrase("It is “{}”.", t.card->name)));
    const auto planned = planned_pins(t);
    for (const auto& [pin, use] : t.usual().pins) {
        const cognitum::Pin* on_board = t.card->pin(pin);
        if (!on_board) continue;
        const bool driven = use.mode == 1;
        if (driven && on_board->direction == "in")
            out.push_back(found(t, "input-only-pin", Severity::error, use.mode_place,
                                phrase("Pin {} is an input only; the program drives it.", pin),
                                phrase("Nothing comes out of it, whatever is written.")));
        else if (driven && !on_board->boot.empty())
            out.push_back(found(
                t, "boot-pin", Severity::look, use.mode_place,
                phrase("Pin {} must be {} when the board starts; the program drives it.", pin, on_board->boot),
                on_board->boot_means.empty()
                    ? phrase("With another level there the board does not start its program.")
                    : phrase("Another level there ") + on_board->boot_means + "."));
        if (on_board->monitor && t.usual().call("Serial.begin") && (!use.reads.empty() || !use.writes.empty()))
            out.push_back(
                found(t, "pin-taken", Severity::error, (use.writes.empty() ? use.reads : use.writes).front().first,
                      phrase("Pin {} is taken: {}.", pin, on_board->taken_by), phrase("Both spoil each other.")));
        if (!use.analog_reads.empty() && driven)
            out.push_back(found(t, "pin-used-twice", Severity::error, use.mode_place,
                                phrase("Pin {} is measured and driven.", pin),
                                phrase("A driven pin gives the converter its own level.")));
        if (planned.contains(pin)) continue;
        if (!use.analog_reads.empty())
            on_another_pin(t, pin, true, use.analog_reads.front().first, use.analog_reads.front().second, out);
        else if (!use.reads.empty())
            on_another_pin(t, pin, false, use.reads.front().first, use.reads.front().second, out);
    }
    for (const InterruptUse& use : t.usual().interrupts)
        if (!planned.contains(use.pin) &&
            !(t.usual().pins.contains(use.pin) && !t.usual().pins.at(use.pin).reads.empty()))
            on_another_pin(t, use.pin, false, use.place, use.pin_literals, out);
}

/// A leg that the board drives, and the program drives another pin instead.
void driven_legs(const Trial& t, ReadFindings& out) {
    const auto planned = planned_pins(t);
    const auto driven = [&](const std::string& pin) {
        const auto use = t.usual().pins.find(pin);
        return use != t.usual().pins.end() && !use->second.writes.empty();
    };
    std::vector<std::string> spare;
    for (const auto& [pin, use] : t.usual().pins)
        if (!use.writes.empty() && !planned.contains(pin) && t.card->pin(pin)) spare.push_back(pin);
    if (spare.size() != 1) return;
    for (const Reading& r : t.bench->readings) {
        if (r.wiring.board != t.use->id || !r.wiring.module.empty()) continue;
        const PartCard* part = t.catalog->part(r.sensor.part);
        const Connection* leg = r.wiring.connection("CS");
        const bool on_spi = leg && t.usual().first_transfer.has_value();
        if (!leg) leg = r.wiring.connection("trigger");
        const bool echo = part && part->interface.speech == Speech::echo && leg && is_read(t, r);
        if ((!on_spi && !echo) || driven(leg->pin)) continue;
        const auto& [call, literals] = t.usual().pins.at(spare.front()).writes.front();
        const Literal* literal = own_literal(literals);
        out.push_back(found(t, "pin-differs", Severity::error, literal ? literal->place : call,
                            phrase("It drives pin {}; the plan has the {} of {} on {}.", spare.front(),
                                   leg->leg == "CS" ? "select" : leg->leg, r.name, leg->pin),
                            phrase("The part is never asked."),
                            literal ? t.mended(literal->place, leg->pin) : std::string(), r.id));
    }
}

void pull_ups(const Trial& t, ReadFindings& out) {
    for (const Reading& r : t.bench->readings) {
        const PartCard* part = t.catalog->part(r.sensor.part);
        if (r.wiring.board != t.use->id || !part || !part->interface.open_drain || !r.wiring.module.empty() ||
            r.wiring.pull_up_ohm > 0)
            continue;
        const Speech speech = part->interface.speech;
        if (speech != Speech::pulse && speech != Speech::digital) continue;
        if (!is_read(t, r)) continue;
        const auto at = t.usual().pins.find(r.wiring.pin());
        const bool has_mode = at != t.usual().pins.end() && at->second.mode;
        if (has_mode && *at->second.mode != 0) continue;
        // In the old way: an input of an 8-bit board that is written high.
        if (t.nature.eight_bit && at != t.usual().pins.end() && at->second.driven_high && !at->second.was_output)
            continue;
        CodePlace place = has_mode ? at->second.mode_place : CodePlace{};
        std::string mended;
        if (has_mode) {
            const std::string& line = t.tree->line(place);
            if (const auto word = line.find("INPUT", static_cast<std::size_t>(std::max(0, place.column - 1)));
                word != std::string::npos)
                mended = t.mended({place.file, place.line, static_cast<int>(word) + 1, 5}, "INPUT_PULLUP");
        } else {
            for (const InterruptUse& use : t.usual().interrupts)
                if (use.pin == r.wiring.pin()) place = use.place;
            if (place.line == 0 && at != t.usual().pins.end() && !at->second.reads.empty())
                place = at->second.reads.front().first;
        }
        out.push_back(found(
            t, "no-pull-up", Severity::error, place, phrase("Pin {} of {} has no pull-up.", r.wiring.pin(), r.name),
            phrase("Its contact only pulls down: open, the pin floats and sees pulses that never were."), mended,
            r.id));
    }
}

void speed(const Trial& t, ReadFindings& out) {
    const CallSeen* begin = t.usual().call("Serial.begin");
    if (!begin)
        for (const Line& line : t.usual().lines) {
            if (line.port != "Serial" || line.numbers.empty()) continue;
            const CodePlace& place = line.numbers.front().place;
            out.push_back(found_in_setup(t, "port-not-begun", place,
                                         phrase("It prints on line {}, and never begins its port.", place.line),
                                         phrase("Nothing leaves the board before Serial.begin() in setup()."),
                                         fmt::format("Serial.begin({});", t.use->link.baud)));
            break;
        }
    if (!begin || begin->given.empty() || !t.use->link.is_wire()) return;
    const double baud = begin->given[0].number();
    if (baud == t.use->link.baud) return;
    const Literal* literal = own_literal(begin->given[0].literals);
    out.push_back(found(t, "speed-differs", Severity::error, literal ? literal->place : begin->place,
                        phrase("It sends at {} Bd; the plan listens at {} Bd.", format_constant(baud),
                               format_constant(t.use->link.baud)),
                        phrase("What arrives is unreadable at another speed."),
                        literal ? t.mended(literal->place, fmt::format("{}", t.use->link.baud)) : std::string()));
}

void reference(const Trial& t, ReadFindings& out) {
    const CallSeen* set = t.usual().call("analogReference");
    bool any = false, internal = false;
    std::string reading, name;
    for (const Reading& r : t.bench->readings) {
        const Placed p = t.placed(r);
        if (r.wiring.board != t.use->id || !p.is_voltage() || p.module || !is_read(t, r)) continue;
        any = true;
        internal = r.wiring.reference == "internal";
        reading = r.id;
        name = p.reference ? p.reference->name : r.wiring.reference;
    }
    if (!any || !t.nature.eight_bit) return;
    const bool sets_internal = set && !set->given.empty() && set->given[0].number() == 3;
    if (sets_internal == internal) return;
    if (sets_internal) {
        const Literal* literal = own_literal(set->given[0].literals);
        out.push_back(found(t, "reference-differs", Severity::error, set->place,
                            phrase("It measures against the internal {} V; the plan has {}.",
                                   format_constant(t.nature.internal_V), name),
                            phrase("Every count means another voltage."),
                            literal ? t.mended(literal->place, "DEFAULT") : std::string(), reading));
        return;
    }
    const CodeFunction& setup = t.tree->functions[static_cast<std::size_t>(t.tree->setup)];
    out.push_back(found_in_setup(
        t, "reference-differs", setup.place, phrase("It measures against the supply; the plan has {}.", name),
        phrase("Every count means another voltage."), "analogReference(INTERNAL);", reading));
}

void resolution(const Trial& t, ReadFindings& out) {
    const CallSeen* set = t.usual().call("analogReadResolution");
    if (!set || set->given.empty()) return;
    const int bits = static_cast<int>(set->given[0].number());
    if (bits == t.card->bits) return;
    const bool raw = std::any_of(t.sent.begin(), t.sent.end(), [](const SentNumber& s) {
        return s.source && s.source->kind == SourceKind::analog && s.last()->value.trace->origin->is_source &&
               s.last()->value.trace->slope == 1;
    });
    if (!raw) return;
    const Literal* literal = own_literal(set->given[0].literals);
    out.push_back(found(
        t, "resolution-differs", Severity::error, set->place,
        phrase("It sends counts of {} bits; the plan takes {} bits.", bits, t.card->bits),
        phrase("Every value is {} times what it should be.", format_constant(std::pow(2.0, bits - t.card->bits))),
        literal ? t.mended(literal->place, fmt::format("{}", t.card->bits)) : std::string()));
}

void addresses(const Trial& t, ReadFindings& out) {
    std::vector<BusDevice> devices = bus_devices(*t.bench, *t.catalog, *t.use);
    for (const auto& one : t.usual().addresses) {
        const int address = one.first; // a lambda below asks for it
        const auto& [call, literals] = one.second;
        if (std::any_of(devices.begin(), devices.end(), [&](const BusDevice& d) { return d.address == address; }))
            continue;
        const Literal* literal = own_literal(literals);
        const CodePlace place = literal ? literal->place : call;
        const BusDevice* same = nullptr;
        for (const BusDevice& d : devices)
            if (address == d.address << 1 || address == (d.address << 1 | 1)) same = &d;
        if (same) {
            out.push_back(
                found(t, "address-eight-bit", Severity::error, place,
                      phrase("0x{:02X} is the address of {} with the read bit behind it; the bus wants 0x{:02X}.",
                             address, same->name, same->address),
                      phrase("Some data sheets give the eight bits that are on the wire; the core’s functions take "
                             "the upper "
                             "seven."),
                      literal ? t.mended(literal->place, fmt::format("0x{:02X}", same->address)) : std::string(),
                      same->is_module ? std::string() : same->owner));
            continue;
        }
        // One that is left over was meant.
        std::erase_if(devices, [&](const BusDevice& d) { return t.usual().addresses.contains(d.address); });
        const BusDevice* left = devices.size() == 1 ? &devices.front() : nullptr;
        for (const BusDevice& d : devices) // another address of a part that is there
            if (d.part &&
                std::count(d.part->interface.addresses.begin(), d.part->interface.addresses.end(), address) > 0)
                left = &d;
        out.push_back(found(
            t, "address-differs", Severity::error, place,
            left ? phrase("It asks 0x{:02X}; the plan has {} at 0x{:02X}.", address, left->name, left->address)
                 : phrase("It asks 0x{:02X}, and the plan has nothing there.", address),
            phrase("Nobody answers, and what is read is nothing."),
            left && literal ? t.mended(literal->place, fmt::format("0x{:02X}", left->address)) : std::string(),
            left && !left->is_module ? left->owner : std::string()));
    }
}

/// A weak source has not charged the converter when the first conversion after another input's is taken.
void first_conversion(const Trial& t, ReadFindings& out) {
    for (const Reading& r : t.bench->readings) {
        if (r.wiring.board != t.use->id || !r.wiring.module.empty()) continue;
        const auto use = t.usual().pins.find(r.wiring.pin());
        if (use == t.usual().pins.end() || use->second.analog_reads.empty()) continue;
        if (use->second.alone < 2 || use->second.repeated > 0) continue;
        const double source = source_ohm(t.placed(r)), most = t.card->source_ohm_max;
        if (most <= 0 || source <= most) continue;
        const CodePlace& place = use->second.analog_reads.front().first;
        const std::string& line = t.tree->line(place);
        const auto at = static_cast<std::size_t>(std::max(0, place.column - 1));
        const std::string call = at < line.size() ? line.substr(at, static_cast<std::size_t>(place.length)) : "";
        out.push_back(
            found(t, "first-conversion-used", Severity::look, place,
                  phrase("It takes the first conversion of {} after another input’s.", r.name),
                  phrase("Its source has {}; this converter settles with at most {}. The first conversion "
                         "still holds some of the other’s voltage: convert twice, and use the second.",
                         format_ohm(source), format_ohm(most)),
                  call.empty() ? std::string() : t.mended(place, fmt::format("({0}, {0})", call)), r.id));
    }
}

} // namespace

void look_at_wiring(const Trial& trial, ReadFindings& out) {
    pins(trial, out);
    driven_legs(trial, out);
    pull_ups(trial, out);
    speed(trial, out);
    reference(trial, out);
    resolution(trial, out);
    addresses(trial, out);
    first_conversion(trial, out);
}

} // namespace cognitum::program
