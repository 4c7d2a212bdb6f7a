// How parts are asked: the bus that was begun, the trigger that is raised long enough, how often.
#include "core/program/read/reading_rules.h"

#include "core/base/letters.h"
#include "core/base/phrase.h"
#include "core/program/driver.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

/// The core's own functions of a bus do nothing, or never come back, before it is begun.
void not_begun(const Trial& t, ReadFindings& out) {
    if (!t.tree->unknown_headers.empty()) return; // a library may have begun it
    const auto say = [&](const char* begin, const char* bus, const CodePlace& place) {
        if (t.usual().call(begin)) return;
        out.push_back(found_in_setup(
            t, "bus-not-begun", place, phrase("It uses {} on line {}, and never begins it.", bus, place.line),
            phrase("No part answers before {}() in setup().", begin), fmt::format("{}();", begin)));
    };
    if (t.usual().first_transfer) say("SPI.begin", "SPI", *t.usual().first_transfer);
    if (!t.usual().addresses.empty()) say("Wire.begin", "I²C", t.usual().addresses.begin()->second.first);
}

/// A register of the 8-bit boards in the text, by which pins are set, read, watched or counted: that is not
/// followed.
bool touches_registers(const SyntaxTree& tree) {
    const auto names_one = [](const std::string& line) {
        for (const char* name : {"PCMSK", "PCICR", "EIMSK", "TCCR"})
            if (line.find(name) != std::string::npos) return true;
        for (const char* name : {"DDR", "PORT", "PIN"}) // of a port: DDRB, PORTD, PIND
            for (auto at = line.find(name); at != std::string::npos; at = line.find(name, at + 1)) {
                const std::size_t port = at + std::string_view(name).size();
                const bool begins = at == 0 || !(letters::is_letter_or_digit(line[at - 1]) || line[at - 1] == '_');
                const bool ends = port + 1 >= line.size() ||
                                  !(letters::is_letter_or_digit(line[port + 1]) || line[port + 1] == '_');
                if (begins && ends && port < line.size() && line[port] >= 'A' && line[port] <= 'L') return true;
            }
        return false;
    };
    return std::any_of(tree.files.begin(), tree.files.end(), [&](const CodeFile& file) {
        return std::any_of(file.lines.begin(), file.lines.end(), names_one);
    });
}

/// True when a reading's own part hangs at the pin that its wiring names.
bool is_direct(const Trial& t, const Reading& r) {
    return r.wiring.board == t.use->id && r.wiring.module.empty() && !r.wiring.pin().empty();
}

/// A pin that is written high and low and was never made an output only switches its pull-up.
void no_outputs(const Trial& t, ReadFindings& out) {
    for (const auto& [pin, use] : t.usual().pins) {
        if (use.writes.empty() || use.was_output || use.shortest_high_us > 1e17 || !t.card->pin(pin)) continue;
        out.push_back(found_in_setup(t, "pin-not-output", use.writes.front().first,
                                     phrase("It writes to pin {} and never makes it an output.", pin),
                                     phrase("What is written only switches a weak resistor: no part sees a level."),
                                     fmt::format("pinMode({}, OUTPUT);", pin_code(*t.card, pin))));
    }
}

/// A pin with a part's output on it that the program drives as well, or sets up and never looks at.
void inputs(const Trial& t, ReadFindings& out) {
    for (const Reading& r : t.bench->readings) {
        if (!is_direct(t, r)) continue;
        const auto at = t.usual().pins.find(r.wiring.pin());
        if (at == t.usual().pins.end() || !at->second.mode) continue;
        const PinUse& use = at->second;
        const PartCard* part = t.catalog->part(r.sensor.part);
        if (!part) continue;
        const Speech speech = part->interface.speech;
        if (speech != Speech::pulse && speech != Speech::digital && speech != Speech::echo) continue;
        const bool by_interrupt = std::any_of(t.usual().interrupts.begin(), t.usual().interrupts.end(),
                                              [&](const InterruptUse& u) { return u.pin == at->first; });
        const bool looked = by_interrupt || !use.reads.empty() || !use.analog_reads.empty();
        if (use.was_output && !use.was_input && use.writes.empty())
            out.push_back(found(t, "pin-used-twice", Severity::error, use.mode_place,
                                phrase("Pin {} of {} is made an output.", at->first, r.name),
                                phrase("The part drives it as well: two outputs against each other, which can "
                                       "damage both."),
                                {}, r.id));
        else if (!looked && t.tree->unknown_headers.empty())
            out.push_back(found(t, "pin-unused", Severity::error, use.mode_place,
                                phrase("It sets up pin {} of {} and never looks at it.", at->first, r.name),
                                phrase("Neither a read nor an interrupt is on it: nothing of the part is seen."),
                                {}, r.id));
    }
}

/// A part on SPI listens while it is selected, and takes up the next value when it is selected again.
void selects(const Trial& t, ReadFindings& out) {
    constexpr double few_turns = 3;
    if (!t.usual().first_transfer || t.usual().loop_turns < few_turns) return;
    for (const Reading& r : t.bench->readings) {
        const Connection* select = r.wiring.connection("CS");
        if (!is_direct(t, r) || !select) continue;
        if (std::any_of(out.begin(), out.end(),
                        [&](const ReadFinding& f) { return f.id == "pin-differs" && f.reading == r.id; }))
            continue;
        const auto asked = t.usual().asked.find("select " + select->pin);
        const int times = asked == t.usual().asked.end() ? 0 : asked->second.times;
        if (times > 1) continue;
        const CodePlace& place = times == 1 ? asked->second.place : *t.usual().first_transfer;
        out.push_back(found(
            t, "select-not-moved", Severity::error, place.line > 0 ? place : *t.usual().first_transfer,
            times == 1 ? phrase("It selects {} once and never lets it go.", r.name)
                       : phrase("It never selects {}: pin {} does not go from high to low.", r.name, select->pin),
            phrase("A part gives its next value when its select has been high and falls again."), {}, r.id));
    }
}

void bytes(const Trial& t, ReadFindings& out) {
    if (t.usual().read_unasked.line > 0)
        out.push_back(found(t, "read-unasked", Severity::error, t.usual().read_unasked,
                            phrase("It reads a byte from I²C that it did not ask for."),
                            phrase("Wire.read() gives what Wire.requestFrom() brought, and then −1, which is 255 "
                                   "as a byte.")));
}

/// A ranger that is triggered by a leg of its own: it needs a pulse, and the data sheets of the cards ask for 10
/// µs.
void triggers(const Trial& t, ReadFindings& out) {
    constexpr double least_us = 10, slack_us = 1; // what a call takes is known about so well
    for (const Reading& r : t.bench->readings) {
        const Connection* trigger = r.wiring.connection("trigger");
        if (r.wiring.board != t.use->id || !r.wiring.module.empty() || !trigger) continue;
        const auto echo = t.usual().pins.find(r.wiring.pin());
        const auto use = t.usual().pins.find(trigger->pin);
        if (echo == t.usual().pins.end() || echo->second.reads.empty() || use == t.usual().pins.end()) continue;
        const PinUse& driven = use->second;
        if (driven.writes.empty()) continue; // another pin is driven instead, or a library does it
        if (driven.shortest_high_us > 1e17) {
            out.push_back(found(t, "never-triggered", Severity::error, driven.writes.front().first,
                                phrase("It never raises the trigger of {} and lowers it again.", r.name),
                                phrase("The part measures after a pulse of at least 10 µs on pin {}; without it no "
                                       "echo comes.",
                                       trigger->pin),
                                {}, r.id));
        } else if (driven.shortest_high_us < least_us - slack_us) {
            out.push_back(found(t, "trigger-too-short", Severity::error, driven.fell,
                                phrase("It raises the trigger of {} for {}; the part needs {}.", r.name,
                                       wait_text(driven.shortest_high_us / 1000), wait_text(least_us / 1000)),
                                phrase("Some parts of this kind answer then, others never do."), {}, r.id));
        }
    }
}

void too_fast(const Trial& t, ReadFindings& out) {
    for (const auto& [key, asked] : t.usual().asked) {
        if (asked.shortest_us > 1e17) continue;
        for (const Reading& r : t.bench->readings) {
            const PartCard* part = t.catalog->part(r.sensor.part);
            if (r.wiring.board != t.use->id || !part || !r.wiring.module.empty()) continue;
            const bool bus = part->interface.speech == Speech::i2c;
            const Connection* chip = r.wiring.connection("CS");
            const std::string own = chip  ? "select " + chip->pin
                                    : bus ? fmt::format("i2c 0x{:02X}", bus_address(r.wiring.address, *part))
                                          : "pin " + r.wiring.pin();
            if (own != key || is_shared(*t.bench, r)) continue;
            const double least_us = 1e6 * part->minimum_interval_s;
            // Two questions that belong together, as a register and its number, come within some milliseconds.
            if (least_us <= 0 || asked.shortest_us >= 0.8 * least_us || (bus && asked.shortest_us < 5000)) continue;
            out.push_back(found(t, "asked-too-fast", Severity::look, asked.place,
                                phrase("It asks {} every {}; the part bears {}.", r.name,
                                       wait_text(asked.shortest_us / 1000), wait_text(least_us / 1000)),
                                bus || chip ? phrase("It answers with the same number again, or with none.")
                                            : phrase("An echo of the question before is taken for this one’s."),
                                {}, r.id));
        }
    }
}

} // namespace

void look_at_asking(const Trial& trial, ReadFindings& out) {
    not_begun(trial, out);
    bytes(trial, out);
    if (!touches_registers(*trial.tree)) {
        no_outputs(trial, out);
        inputs(trial, out);
        selects(trial, out);
        triggers(trial, out);
    }
    too_fast(trial, out);
}

} // namespace cognitum::program
