// Parts that need nothing but a pin: voltages, contacts, pulses, echoes.
#include "core/program/driver.h"

#include "core/base/phrase.h"
#include "core/units/quantity_kind.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

/// The pin's own pull-up where the part pulls down only and no resistor was added.
const char* input_mode(const Placed& p) {
    return p.part->interface.open_drain && p.reading->wiring.pull_up_ohm <= 0 ? "INPUT_PULLUP" : "INPUT";
}

/// Number behind the letters of a channel's label: "C12" is 12; −1: it has none, or more than the part has.
int channel_number(const Placed& p) {
    const std::string& label = p.reading->wiring.pin();
    const auto digits = label.find_first_of("0123456789");
    if (digits == std::string::npos || label.size() - digits > 2 ||
        label.find_first_not_of("0123456789", digits) != std::string::npos)
        return -1;
    const int number = std::stoi(label.substr(digits));
    return number < p.module_part->channels.count ? number : -1;
}

/// Pin of the board on which this leg of the part in between is; empty: on none.
std::string module_pin(const Placed& p, std::string_view leg) {
    for (const Connection& c : p.module->pins)
        if (c.leg == leg) return pin_code(*p.board, c.pin);
    return {};
}

Driver multiplexed(const Placed& p, const std::string& name, const ProgramOptions& options) {
    Driver out;
    const Module& m = *p.module;
    std::string select;
    int bit = 0;
    for (const char* leg : {"S0", "S1", "S2", "S3"}) {
        const std::string pin = module_pin(p, leg);
        if (pin.empty()) return left_out(phrase("the select leg {} of {} is on no pin.", leg, m.name));
        out.setup += fmt::format("    pinMode({}, OUTPUT);\n", pin);
        select += fmt::format("    digitalWrite({}, channel & {} ? HIGH : LOW);\n", pin, 1 << bit++);
    }
    const std::string pin = module_pin(p, "SIG");
    const std::string channel = p.reading->wiring.pin();
    const int number = channel_number(p);
    if (pin.empty() || number < 0) return left_out(phrase("{} is not wired to the board yet.", m.name));
    const Names names = {{"name", name},
                         {"select", select},
                         {"channel", std::to_string(number)},
                         {"pin", pin},
                         {"average", std::to_string(options.average)}};
    out.about = fmt::format("{}: {}, channel {} of {}, which {} reads.", p.reading->name, p.part->name, channel,
                            m.name, pin);
    out.unit = "count";
    out.needs = {Help::converter};
    out.globals = fill("void choose_$name$() {\n    const byte channel = $channel$;\n$select$    "
                       "delayMicroseconds(10); // it settles\n}\n",
                       names);
    out.send = fill("    choose_$name$();\n    print_count($pin$, $average$);\n", names);
    return out;
}

Driver converted(const Placed& p, const std::string& name) {
    const Module& m = *p.module;
    const std::string channel = p.reading->wiring.pin();
    const int number = channel_number(p);
    if (number < 0) return left_out(phrase("it has no channel yet."));
    Driver out;
    out.unit = "count";
    const std::string& driver = p.module_part->driver;
    out.about = fmt::format("{}: {}, input {} of {}.", p.reading->name, p.part->name, channel, m.name);
    if (driver == "converter-16bit-i2c" || driver == "converter-12bit-i2c") {
        const bool fine = driver == "converter-16bit-i2c";
        const int address = bus_address(m.address, *p.module_part);
        // One conversion against ground; full scale 4.096 V; 128 conversions a second of 16 bit, 1 600 of 12 bit.
        const unsigned config = 0x8103U | (4U + static_cast<unsigned>(number)) << 12 | 1U << 9 | 0x80U;
        const Names names = {{"name", name},
                             {"address", fmt::format("0x{:02X}", address)},
                             {"config", fmt::format("0x{:04X}", config)},
                             {"shift", fine ? "0" : "4"}};
        if (p.module_part->channels.full_scale_V.empty() || p.module_part->channels.full_scale_V.front() != 4.096)
            return left_out(phrase("its converter's gain is not the one that this program sets (4.096 V)."));
        out.needs = {Help::i2c, Help::converter_i2c};
        out.ask = fill("    asked_$name$ = ask_converter($address$, $config$);\n", names);
        out.globals = fill("bool asked_$name$ = false;\n", names);
        out.wait_ms = std::ceil(p.module_part->interface.conversion_ms) + 1;
        out.send = fill("    print_converter(asked_$name$, $address$, $shift$);\n", names);
        return out;
    }
    if (driver == "converter-10bit-spi") {
        const std::string pin = module_pin(p, "CS");
        if (pin.empty()) return left_out(phrase("the select leg of {} is on no pin.", m.name));
        const Names names = {{"pin", pin}, {"code", std::to_string(0x80 | number << 4)}};
        out.needs = {Help::spi};
        out.setup = fill("    digitalWrite($pin$, HIGH);\n    pinMode($pin$, OUTPUT);\n", names);
        out.send = fill("    SPI.beginTransaction(SPISettings(1000000, MSBFIRST, SPI_MODE0));\n"
                        "    digitalWrite($pin$, LOW);\n"
                        "    SPI.transfer(1); // start\n"
                        "    const byte high = SPI.transfer($code$); // this input against ground\n"
                        "    const byte low = SPI.transfer(0);\n"
                        "    digitalWrite($pin$, HIGH);\n"
                        "    SPI.endTransaction();\n"
                        "    say_count((high & 3) << 8 | low);\n",
                        names);
        return out;
    }
    return left_out(phrase("this program does not know how to speak to {}.", p.module_part->name));
}

} // namespace

Driver analog_driver(const Placed& p, const std::string& name, const ProgramOptions& options) {
    if (p.module && p.by_converter()) return converted(p, name);
    if (p.module && p.module_part && p.module_part->kind == PartKind::multiplexer)
        return multiplexed(p, name, options);
    if (p.module) return left_out(phrase("this program does not know how to read through {}.", p.module->name));
    const std::string pin = pin_code(*p.board, p.reading->wiring.pin());
    if (pin.empty()) return left_out(phrase("it has no pin yet."));
    Driver out;
    out.unit = "count";
    out.about = fmt::format("{}: {}, on {}.", p.reading->name, p.part->name, p.reading->wiring.pin());
    out.needs = {Help::converter};
    out.send = fmt::format("    print_count({}, {});\n", pin, options.average);
    return out;
}

Driver wave_driver(const Placed& p, const std::string& name) {
    const std::string pin = pin_code(*p.board, p.reading->wiring.pin());
    if (pin.empty() || p.module) return left_out(phrase("a wave is read at a pin of the board, and it has none."));
    Driver out;
    const double asked_s = p.reading->quantity.sample_s > 0 ? p.reading->quantity.sample_s : p.part->sample_s;
    const double sample_s = std::clamp(asked_s, 0.005, 60.0); // a line takes some milliseconds
    const Names names = {
        {"name", name},
        {"pin", pin},
        {"every", std::to_string(std::lround(1000 * sample_s))},
        {"field", p.reading->source.signal.empty() ? p.reading->field() : p.reading->source.signal}};
    out.unit = "count";
    out.about = fmt::format("{}: {}, on {}, a sample every {:.0f} ms in lines of its own.", p.reading->name,
                            p.part->name, p.reading->wiring.pin(), 1000 * sample_s);
    out.needs = {Help::converter};
    out.own_lines = true;
    out.globals = fill("unsigned long last_$name$ = 0; // ms, of its last sample\n", names);
    out.every_turn = fill(R"(    if (wave_on && millis() - last_$name$ >= $every$) {
        last_$name$ += $every$;
        if (millis() - last_$name$ >= $every$) last_$name$ = millis(); // it was late: no burst
        Serial.print(F("ms="));
        Serial.print(millis());
        Serial.print(F(" $field$="));
        print_count($pin$, 1);
        Serial.println();
    }
)",
                          names);
    return out;
}

/// How long a pin is to be quiet before a pulse counts, us. A reed rings for some milliseconds when it closes and
/// when it opens; of what turns fast no more than a quarter of its shortest period.
static long quiet_us(const Placed& p) {
    constexpr double of_a_contact = 5000, least = 200;
    const Chain path = effective_path(*p.reading);
    const bool is_rate = !path.stages.empty() && path.first_unit() == "Hz";
    const double per_s = is_rate ? inverse(path, p.reading->quantity.high).number : 0;
    return std::lround(per_s > 0 ? std::clamp(0.25e6 / per_s, least, of_a_contact) : of_a_contact);
}

Driver pulse_driver(const Placed& p, const std::string& name) {
    const std::string pin = pin_code(*p.board, p.reading->wiring.pin());
    if (pin.empty() || p.module)
        return left_out(phrase("pulses are counted at a pin of the board, and it has none."));
    const Pin* at = p.board->pin(p.reading->wiring.pin());
    Driver out;
    const bool interrupts = at && at->can("interrupt");
    const Names names = {
        {"name", name},
        {"pin", pin},
        {"mode", input_mode(p)},
        {"bounce", std::to_string(quiet_us(p))},
        {"falling", p.part->interface.open_drain || p.part->interface.idle == "high" ? "LOW" : "HIGH"}};
    out.unit = "count";
    out.counts = true;
    out.about = fmt::format("{}: {}, on {}, counted {} since the board began.", p.reading->name, p.part->name,
                            p.reading->wiring.pin(), interrupts ? "by interrupt" : "in each turn of loop()");
    out.globals = fill(R"(volatile unsigned long pulses_$name$ = 0;
volatile unsigned long edge_$name$ = 0; // us, of the last change of its pin
volatile bool new_$name$ = false; // there is one that was not sent
// A pulse counts when the pin was quiet for $bounce$ us before it: the ringing of a contact is none.
void IRAM_ATTR edge_of_$name$() {
    const unsigned long now = micros();
    const bool quiet = now - edge_$name$ >= $bounce$UL;
    edge_$name$ = now;
    if (!quiet || digitalRead($pin$) != $falling$) return;
    ++pulses_$name$;
    new_$name$ = true;
}
)",
                       names);
    out.setup = fill("    pinMode($pin$, $mode$);\n", names);
    if (interrupts) {
        out.setup += fill("    attachInterrupt(digitalPinToInterrupt($pin$), edge_of_$name$, CHANGE);\n", names);
    } else {
        out.must_look = true;
        out.globals += fill("byte level_$name$ = HIGH;\n", names);
        out.every_turn = fill("    if (digitalRead($pin$) != level_$name$) {\n"
                              "        level_$name$ = !level_$name$;\n"
                              "        edge_of_$name$();\n"
                              "    }\n",
                              names);
    }
    // Each tip of a bucket is sent when it comes, in rain at most once a second.
    const bool at_once = p.reading->quantity.kind == "rain";
    if (at_once)
        out.every_turn += fill("    if (new_$name$ && millis() - tasks[TASK_$name$].last >= 1000)\n"
                               "        tasks[TASK_$name$].now = true;\n",
                               names);
    if (at_once) out.send = fill("    new_$name$ = false;\n", names);
    out.send += fill("    noInterrupts(); // four bytes are not read in one go\n"
                     "    const unsigned long pulses = pulses_$name$;\n"
                     "    interrupts();\n"
                     "    say_count(pulses);\n",
                     names);
    return out;
}

Driver contact_driver(const Placed& p, const std::string& name) {
    const std::string pin = pin_code(*p.board, p.reading->wiring.pin());
    if (pin.empty() || p.module) return left_out(phrase("a state is read at a pin of the board, and it has none."));
    Driver out;
    const bool closes = p.part->interface.open_drain; // a contact pulls its pin down when it is closed
    const Names names = {{"name", name},
                         {"pin", pin},
                         {"mode", input_mode(p)},
                         {"on", closes ? "LOW" : "HIGH"},
                         {"warm_up", std::to_string(std::lround(1000 * p.part->warm_up_s))}};
    out.unit = "1";
    out.about = fmt::format("{}: {}, on {}, 1 while it {}; sent when it changes as well.", p.reading->name,
                            p.part->name, p.reading->wiring.pin(), closes ? "is closed" : "is high");
    out.needs = {Help::steady};
    out.globals = fill("Steady state_$name$ = {$pin$, 0, 0, 0};\n", names);
    out.setup = fill("    pinMode($pin$, $mode$);\n    begin(state_$name$);\n", names);
    out.every_turn = fill("    if (changed(state_$name$)) tasks[TASK_$name$].now = true;\n", names);
    if (p.part->warm_up_s > 0)
        out.send = fill("    if (millis() < $warm_up$UL)\n"
                        "        Serial.print(F(\"warming-up\"));\n"
                        "    else\n    ",
                        names);
    out.send += fill("    Serial.print(state_$name$.level == $on$ ? 1 : 0);\n", names);
    return out;
}

Driver echo_driver(const Placed& p, const std::string& name) {
    const std::string echo = pin_code(p, "echo");
    const std::string trigger = pin_code(p, "trigger");
    if (echo.empty() || trigger.empty() || p.module)
        return left_out(phrase("its trigger and its echo are not both on a pin."));
    Driver out;
    const Names names = {{"name", name}, {"echo", echo}, {"trigger", trigger}};
    out.unit = "us";
    out.about = fmt::format("{}: {}, trigger on {}, echo on {}: time there and back.", p.reading->name,
                            p.part->name, trigger, echo);
    out.setup = fill(
        "    digitalWrite($trigger$, LOW);\n    pinMode($trigger$, OUTPUT);\n    pinMode($echo$, INPUT);\n", names);
    out.send = fill(R"(    digitalWrite($trigger$, HIGH);
    delayMicroseconds(10);
    digitalWrite($trigger$, LOW);
    // us, by the clock: pulseIn() counts turns, and misses what interrupts take, some per cent. It waits 30 ms at most.
    const unsigned long echo = pulseInLong($echo$, HIGH, 30000UL);
    if (echo == 0)
        Serial.print(F("no-echo"));
    else
        say_count(echo);
)",
                    names);
    return out;
}

} // namespace cognitum::program
