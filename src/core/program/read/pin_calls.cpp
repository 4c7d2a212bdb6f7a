// The core's functions of pins, time, interrupts, the watchdog and sleep.
#include "core/program/read/evaluator.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

using Call = Evaluator::Call;
constexpr double conversion_us = 112;

/// What a call that moves or looks at a pin takes.
double level_us(Evaluator& e) {
    return e.nature().eight_bit ? 3 : 0.5;
}

/// Label of the pin of an argument; what is no pin of this board is noted.
std::string pin_of(Evaluator& e, Call& c, std::size_t i, bool analog = false) {
    const long number = static_cast<long>(c.number(i));
    std::string label = e.pins().label(number, analog);
    if (label.empty()) {
        e.seen().unknown_pins.emplace(number, c.node.place);
        label = fmt::format("{}", number);
    }
    return label;
}

void add_use(std::vector<std::pair<CodePlace, Literals>>& to, Call& c) {
    for (const auto& [place, literals] : to)
        if (place == c.node.place) return;
    if (to.size() < 16) to.emplace_back(c.node.place, c.value(0).literals);
}

CodeValue pin_mode(Evaluator& e, Call& c) {
    const std::string pin = pin_of(e, c, 0);
    const int mode = static_cast<int>(c.number(1));
    PinUse& use = e.seen().pins[pin];
    use.mode = mode;
    use.mode_place = c.node.place;
    (mode == 1 ? use.was_output : use.was_input) = true;
    if (mode == 1) e.acted();
    e.pass_time(0);
    e.pins().set_mode(pin, mode == 1, mode == 2);
    e.pass_time(level_us(e));
    return {};
}

CodeValue digital_write(Evaluator& e, Call& c) {
    const std::string pin = pin_of(e, c, 0);
    PinUse& use = e.seen().pins[pin];
    add_use(use.writes, c);
    const bool high = c.number(1) != 0;
    // A part is selected by a level that falls.
    if (use.driven_high && !high) e.ask("select " + pin, c.node.place);
    e.pass_time(0);
    const double now_us = e.pins().now_us();
    if (high && !use.driven_high) use.rose_us = now_us;
    if (!high && use.driven_high && now_us - use.rose_us < use.shortest_high_us) {
        use.shortest_high_us = now_us - use.rose_us;
        use.fell = c.node.place;
    }
    use.driven_high = high;
    e.pins().drive(pin, c.number(1) != 0);
    e.acted();
    e.pass_time(level_us(e));
    return {};
}

CodeValue digital_read(Evaluator& e, Call& c) {
    const std::string pin = pin_of(e, c, 0);
    add_use(e.seen().pins[pin].reads, c);
    e.looked_at(pin);
    e.pass_time(level_us(e));
    CodeValue out = whole_value(e.pins().level(pin) ? 1 : 0);
    out.trace = trace_source(SourceKind::level, pin, c.node.place);
    return out;
}

/// Counts how the conversions of an input follow one another.
void converted(Evaluator& e, const std::string& pin) {
    ConversionRun& run = e.conversions;
    if (pin == run.pin) {
        ++run.length;
        return;
    }
    if (!run.pin.empty()) {
        PinUse& before = e.seen().pins[run.pin];
        ++(run.length > 1 ? before.repeated : before.alone);
    }
    run = {pin, 1};
}

CodeValue analog_read(Evaluator& e, Call& c) {
    const std::string pin = pin_of(e, c, 0, true);
    add_use(e.seen().pins[pin].analog_reads, c);
    converted(e, pin);
    e.acted();
    e.pass_time(conversion_us);
    CodeValue out = whole_value(e.pins().code(pin, e.reference_V, e.bits));
    out.trace = trace_source(SourceKind::analog, pin, c.node.place);
    return out;
}

CodeValue analog_read_mV(Evaluator& e, Call& c) {
    const std::string pin = pin_of(e, c, 0, true);
    add_use(e.seen().pins[pin].analog_reads, c);
    e.acted();
    e.pass_time(conversion_us);
    const auto volts = e.pins().volts(pin);
    CodeValue out =
        whole_value(static_cast<std::int64_t>(std::lround(1000 * volts.value_or(e.nature().supply_V / 2))));
    out.trace = trace_source(SourceKind::analog, pin, c.node.place);
    // In counts, as the plan has it: the core's calibration is taken as right.
    auto scaled = std::make_shared<Trace>(*out.trace);
    scaled->slope = 1000 * e.reference_V / std::ldexp(1.0, e.bits);
    out.trace = scaled;
    return out;
}

CodeValue analog_reference(Evaluator& e, Call& c) {
    note(e, c, "analogReference");
    if (e.nature().eight_bit || e.nature().internal_V > 0)
        e.reference_V = c.number(0) == 3 ? e.nature().internal_V : e.nature().supply_V;
    return {};
}

CodeValue analog_resolution(Evaluator& e, Call& c) {
    note(e, c, "analogReadResolution");
    const int bits = static_cast<int>(c.number(0));
    if (bits >= 1 && bits <= 16) e.bits = bits;
    return {};
}

CodeValue millis(Evaluator& e, Call&) {
    e.pass_time(1);
    CodeValue out = whole_value(static_cast<std::int64_t>(e.pins().now_us() / 1000) & 0xFFFFFFFF);
    out.clock = CodeValue::Clock::ms;
    return out;
}

CodeValue micros(Evaluator& e, Call&) {
    e.pass_time(2);
    CodeValue out = whole_value(static_cast<std::int64_t>(e.pins().now_us()) & 0xFFFFFFFF);
    out.clock = CodeValue::Clock::us;
    out.watched = e.watched_now();
    return out;
}

void wait(Evaluator& e, Call& c, double ms) {
    Waited& w = e.seen().waits[{c.node.place.file, c.node.place.line}];
    w.place = c.node.place;
    w.longest_ms = std::max(w.longest_ms, ms);
    w.in_interrupt = w.in_interrupt || e.in_interrupt();
    w.in_loop = w.in_loop || e.in_loop();
    if (!c.node.children.empty()) w.argument = e.tree().node(c.node.children.front()).place;
    e.acted();
    e.pass_time(ms * 1000);
}

CodeValue delay(Evaluator& e, Call& c) {
    wait(e, c, c.number(0));
    return {};
}

CodeValue delay_us(Evaluator& e, Call& c) {
    const double us = c.number(0);
    e.acted();
    if (us >= 1000)
        wait(e, c, us / 1000);
    else
        e.pass_time(us);
    return {};
}

/// Waits for a pulse and measures it; on a pin that never moves it comes back with 0.
CodeValue pulse_in(Evaluator& e, Call& c) {
    const std::string pin = pin_of(e, c, 0);
    note(e, c, "pulseIn");
    add_use(e.seen().pins[pin].reads, c);
    const bool answers = e.ask("pin " + pin, c.node.place);
    e.acted();
    BoardPins& pins = e.pins();
    const bool wanted = c.number(1) != 0;
    const double end = pins.now_us() + c.number(2);
    const auto wait_for = [&](bool level) {
        while (pins.level(pin) != level) {
            const auto next = pins.next_event_us();
            if (!next || *next > end) {
                pins.advance(std::max(0.0, end - pins.now_us()));
                return false;
            }
            pins.advance(std::max(0.0, *next - pins.now_us()));
        }
        return true;
    };
    CodeValue out = whole_value(0);
    if (wait_for(!wanted) && wait_for(wanted)) {
        const double began = pins.now_us();
        if (wait_for(!wanted) && answers) out = whole_value(std::lround(pins.now_us() - began));
    }
    out.trace = trace_source(SourceKind::echo, pin, c.node.place);
    return out;
}

CodeValue attach_interrupt(Evaluator& e, Call& c) {
    long number = static_cast<long>(c.number(0));
    // By its own number on the 8-bit boards: 0 is pin 2, 1 is pin 3.
    const bool old_numbers = e.nature().eight_bit && number < 2;
    const std::string pin = e.pins().label(old_numbers ? number + 2 : number, false);
    InterruptUse use{pin.empty() ? fmt::format("{}", number) : pin,
                     c.value(1).kind == CodeValue::Kind::function ? c.value(1).slot : nothing,
                     static_cast<int>(c.number(2)),
                     c.node.place,
                     {},
                     c.value(0).literals};
    if (c.node.children.size() > 2) use.mode_place = e.tree().node(c.node.children[2]).place;
    auto& all = e.seen().interrupts;
    std::erase_if(all, [&](const InterruptUse& u) { return u.pin == use.pin; });
    if (all.size() < 64) all.push_back(use);
    return {};
}

CodeValue detach_interrupt(Evaluator& e, Call& c) {
    long number = static_cast<long>(c.number(0));
    if (e.nature().eight_bit && number < 2) number += 2;
    const std::string pin = e.pins().label(number, false);
    std::erase_if(e.seen().interrupts, [&](const InterruptUse& u) { return u.pin == pin; });
    return {};
}

CodeValue shift_in(Evaluator& e, Call& c) {
    const std::string data = pin_of(e, c, 0), clock = pin_of(e, c, 1);
    std::int64_t out = 0;
    for (int i = 0; i < 8; ++i) {
        e.pins().drive(clock, true);
        e.pass_time(level_us(e));
        const std::int64_t bit = e.pins().level(data) ? 1 : 0;
        out |= c.number(2) == 0 ? bit << i : bit << (7 - i);
        e.pins().drive(clock, false);
        e.pass_time(level_us(e));
    }
    e.acted();
    CodeValue v = whole_value(out);
    v.trace = trace_source(SourceKind::one_pin_bus, data, c.node.place);
    return v;
}

/// Called, with what it was given; it does nothing here.
template <char const* name>
CodeValue seen_only(Evaluator& e, Call& c) {
    note(e, c, name);
    e.acted();
    return {};
}

CodeValue nothing_to_do(Evaluator& e, Call& c) {
    e.acted();
    return e.tree().type_of(c.node).is_number() ? whole_value(0) : CodeValue{};
}

CodeValue sleep(Evaluator& e, Call& c) {
    constexpr int idle = 0;
    if (e.sleep_mode == idle && e.nature().eight_bit) { // its clock goes on, and wakes it each 1 024 us
        const auto soon = e.pins().next_event_us();
        e.pass_time(soon ? std::clamp(*soon - e.pins().now_us(), 1.0, 1024.0) : 1024.0);
        return {};
    }
    note(e, c, "sleep");
    // Until an interrupt, or the watchdog's own.
    const auto next = e.pins().next_event_us();
    e.acted();
    e.pass_time(next ? std::clamp(*next - e.pins().now_us(), 1.0, 8e6) : 8e6);
    return {};
}

constexpr char wdt_enable[] = "wdt_enable", wdt_disable[] = "wdt_disable";

/// It restarts the board from now on, or does nothing: it interrupts no more.
template <const char* name>
CodeValue no_watchdog_interrupt(Evaluator& e, Call& c) {
    e.set_watchdog(0);
    return seen_only<name>(e, c);
}

} // namespace

void note(Evaluator& e, Evaluator::Call& c, const std::string& name) {
    auto& calls = e.seen().calls;
    for (const CallSeen& seen : calls)
        if (seen.name == name && seen.place == c.node.place) return;
    if (calls.size() < 400) calls.push_back({name, c.node.place, c.given, c.by_default, e.pins().now_s()});
}

void add_pin_calls(CoreCalls& calls) {
    calls["pinMode"] = pin_mode;
    calls["digitalWrite"] = digital_write;
    calls["digitalRead"] = digital_read;
    calls["analogRead"] = analog_read;
    calls["analogReadMilliVolts"] = analog_read_mV;
    calls["analogReference"] = analog_reference;
    calls["analogReadResolution"] = analog_resolution;
    calls["millis"] = millis;
    calls["micros"] = micros;
    calls["delay"] = delay;
    calls["delayMicroseconds"] = delay_us;
    calls["pulseIn"] = calls["pulseInLong"] = pulse_in;
    calls["attachInterrupt"] = attach_interrupt;
    calls["detachInterrupt"] = detach_interrupt;
    calls["shiftIn"] = shift_in;
    calls["cli"] = [](Evaluator& e, Call& c) {
        e.interrupts_off_at = c.node.place;
        return e.set_interrupts(false), CodeValue{};
    };
    calls["sei"] = [](Evaluator& e, Call&) { return e.set_interrupts(true), CodeValue{}; };
    calls["wdt_enable"] = no_watchdog_interrupt<wdt_enable>;
    calls["wdt_reset"] = calls["yield"] = [](Evaluator&, Call&) { return CodeValue{}; };
    calls["wdt_disable"] = no_watchdog_interrupt<wdt_disable>;
    calls["set_sleep_mode"] = [](Evaluator& e, Call& c) {
        e.sleep_mode = static_cast<int>(c.number(0));
        return CodeValue{};
    };
    calls["sleep_mode"] = calls["sleep_cpu"] = sleep;
    for (const char* name :
         {"analogWrite", "tone", "noTone", "shiftOut", "analogSetAttenuation", "analogSetPinAttenuation",
          "analogWriteResolution", "sleep_enable", "sleep_disable", "sleep_bod_disable", "power_all_enable",
          "power_all_disable", "power_adc_enable", "power_adc_disable", "configTime"})
        calls[name] = nothing_to_do;
}

} // namespace cognitum::program
