// Parts that speak in bits: which bytes they want and give is what their data sheets say. A card names its driver.
#include "core/base/phrase.h"
#include "core/program/driver.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

Driver one_wire(const Placed& p, const std::string& name) {
    const std::string pin = pin_code(*p.board, p.reading->wiring.pin());
    if (pin.empty()) return left_out(phrase("it has no pin yet."));
    Driver out;
    out.about = wired(p, fmt::format("on {}, alone on its wire", p.reading->wiring.pin()));
    out.unit = "degC";
    out.needs = {Help::one_wire};
    const Names names = {{"name", name}, {"pin", pin}};
    out.setup = fill("    pinMode($pin$, INPUT);\n", names);
    out.globals = fill("bool asked_$name$ = false;\nint last_$name$ = 0; // sixteenths of a degree\n", names);
    out.ask = fill("    asked_$name$ = wire_reset($pin$);\n"
                   "    if (asked_$name$) {\n"
                   "        wire_write($pin$, 0xCC); // whoever is there\n"
                   "        wire_write($pin$, 0x44); // measure\n"
                   "    }\n",
                   names);
    out.wait_ms = p.part->interface.conversion_ms + 10;
    out.send = fill(R"(    byte pad[9] = {0};
    if (!asked_$name$ || !wire_reset($pin$)) {
        Serial.print(F("lost"));
    } else {
        wire_write($pin$, 0xCC);
        wire_write($pin$, 0xBE); // read what it measured
        for (byte i = 0; i < 9; ++i)
            pad[i] = wire_read($pin$);
        const int16_t sixteenths = (int16_t)((uint16_t)pad[1] << 8 | pad[0]);
        if (pad[4] == 0 || pad[4] == 255)
            Serial.print(F("lost")); // nothing but zeros has a right checksum; its fifth byte never is
        else if (wire_crc(pad, 8) != pad[8])
            Serial.print(F("checksum"));
        else if (sixteenths == 85 * 16 && abs(last_$name$ - sixteenths) > 32)
            Serial.print(F("no-conversion")); // what it says after power, before it measured
        else
            say(sixteenths / 16.0, 4);
        if (sixteenths != 85 * 16) last_$name$ = sixteenths;
    }
)",
                    names);
    return out;
}

Driver single_wire(const Placed& p, const std::string& name, bool fine) {
    const std::string pin = pin_code(*p.board, p.reading->wiring.pin());
    if (pin.empty()) return left_out(phrase("it has no pin yet."));
    Driver out;
    const bool humidity = p.reading->quantity.kind == "humidity";
    out.about = wired(p, fmt::format("on {}", p.reading->wiring.pin()));
    out.unit = humidity ? "%" : "degC";
    out.needs = {Help::bits_of_wire};
    const Names names = {{"name", name},
                         {"pin", pin},
                         {"low", fine ? "1100" : "18000"},
                         {"least", std::to_string(std::lround(900 * p.part->minimum_interval_s))}};
    out.setup = fill("    pinMode($pin$, INPUT);\n", names);
    // Humidity and temperature come in one frame, and the part bears no second question within its interval.
    out.shared = {{"frame on " + pin, fill("Frame frame_$pin$ = {$pin$, $low$U, $least$UL, {0}, 0, 0};\n", names)}};
    out.send = fill("    const char* const trouble = read_frame(frame_$pin$);\n"
                    "    const byte* const frame = frame_$pin$.bytes;\n"
                    "    if (trouble)\n"
                    "        Serial.print(trouble);\n",
                    names);
    if (!fine)
        out.send += humidity ? "    else\n        say(frame[0] + frame[1] / 10.0, 1);\n"
                             : "    else\n        say((frame[2] + (frame[3] & 0x7F) / 10.0) * (frame[3] & "
                               "0x80 ? -1 : 1), 1);\n";
    else
        out.send += humidity ? "    else\n        say(((unsigned)frame[0] << 8 | frame[1]) / 10.0, 1);\n"
                             : "    else\n        say(((unsigned)(frame[2] & 0x7F) << 8 | frame[3]) / "
                               "10.0 * (frame[2] & 0x80 ? -1 : 1), 1);\n";
    return out;
}

Driver light(const Placed& p, const std::string& name) {
    Driver out;
    out.about = wired(p, fmt::format("at {} on I²C", address_of(p)));
    out.unit = "lx";
    out.needs = {Help::i2c};
    const Names names = {{"name", name}, {"address", address_of(p)}};
    out.globals = fill("bool asked_$name$ = false;\n", names);
    out.ask = fill("    asked_$name$ = i2c_write($address$, 0x20); // one measurement, fine\n", names);
    out.wait_ms = 180; // the longest that its data sheet gives; 120 is usual
    out.send = fill(R"(    byte two[2];
    if (!asked_$name$ || !i2c_read($address$, two, 2)) {
        Serial.print(F("no-answer"));
    } else {
        const unsigned count = (unsigned)two[0] << 8 | two[1];
        if (count == 65535U)
            Serial.print(F("too-bright"));
        else
            say(count / 1.2, 1);
    }
)",
                    names);
    return out;
}

Driver thermometer(const Placed& p, const std::string& name) {
    Driver out;
    out.about = wired(p, fmt::format("at {} on I²C, it measures by itself", address_of(p)));
    out.unit = "degC";
    out.needs = {Help::i2c};
    const Names names = {{"name", name}, {"address", address_of(p)}};
    out.send = fill(R"(    byte two[2];
    if (!i2c_write($address$, 0x00) || !i2c_read($address$, two, 2)) {
        Serial.print(F("no-answer"));
    } else {
        const int16_t count = (int16_t)((uint16_t)two[0] << 8 | two[1]);
        if (count == -32768)
            Serial.print(F("no-conversion"));
        else
            say(count / 128.0, 4);
    }
)",
                    names);
    return out;
}

Driver air(const Placed& p, const std::string& name) {
    Driver out;
    const bool humidity = p.reading->quantity.kind == "humidity";
    out.about = wired(p, fmt::format("at {} on I²C", address_of(p)));
    out.unit = humidity ? "%" : "degC";
    out.needs = {Help::i2c};
    const Names names = {{"name", name},
                         {"address", address_of(p)},
                         {"at", humidity ? "3" : "0"},
                         {"value", humidity ? "100.0 * count / 65535.0" : "175.0 * count / 65535.0 - 45.0"}};
    out.globals = fill(R"(bool asked_$name$ = false;
// CRC-8, polynomial 0x31, begins with 0xFF, over two bytes.
byte crc_of_$name$(const byte* two) {
    byte crc = 0xFF;
    for (byte i = 0; i < 2; ++i) {
        crc ^= two[i];
        for (byte bit = 0; bit < 8; ++bit)
            crc = crc & 0x80 ? (byte)(crc << 1) ^ 0x31 : crc << 1;
    }
    return crc;
}
)",
                       names);
    out.ask = fill("    asked_$name$ = i2c_write2($address$, 0x24, 0x00); // one measurement, high repeatability\n",
                   names);
    out.wait_ms = 20;
    out.send = fill(R"(    byte six[6];
    if (!asked_$name$ || !i2c_read($address$, six, 6)) {
        Serial.print(F("no-answer"));
    } else if (crc_of_$name$(six + $at$) != six[$at$ + 2]) {
        Serial.print(F("checksum"));
    } else {
        const unsigned count = (unsigned)six[$at$] << 8 | six[$at$ + 1];
        say($value$, 2);
    }
)",
                    names);
    return out;
}

Driver thermocouple(const Placed& p, const std::string& name) {
    const std::string select = pin_code(p, "CS");
    if (select.empty()) return left_out(phrase("its select leg CS is on no pin."));
    Driver out;
    out.about = wired(p, fmt::format("select on {}", select));
    out.unit = "degC";
    out.needs = {Help::spi};
    const Names names = {{"name", name}, {"pin", select}};
    out.setup = fill("    digitalWrite($pin$, HIGH);\n    pinMode($pin$, OUTPUT);\n", names);
    out.send = fill(R"(    SPI.beginTransaction(SPISettings(1000000, MSBFIRST, SPI_MODE0));
    digitalWrite($pin$, LOW);
    const byte high = SPI.transfer(0);
    const byte low = SPI.transfer(0);
    digitalWrite($pin$, HIGH); // it begins the next conversion now
    SPI.endTransaction();
    const unsigned bits = (unsigned)high << 8 | low;
    if (bits & 0x8002 || bits == 0)
        Serial.print(F("no-answer")); // two bits are always 0; and nothing but zeros is a wire that hangs, not 0.00 degC
    else if (bits & 4)
        Serial.print(F("broken-wire"));
    else
        say((bits >> 3) * 0.25, 2);
)",
                    names);
    return out;
}

Driver load_cell(const Placed& p, const std::string& name) {
    const std::string data = pin_code(p, "DT");
    const std::string clock = pin_code(p, "SCK");
    if (data.empty() || clock.empty()) return left_out(phrase("its legs DT and SCK are not both on a pin."));
    Driver out;
    out.about = wired(p, fmt::format("DT on {}, SCK on {}", data, clock));
    out.unit = "count";
    const Names names = {{"name", name}, {"data", data}, {"clock", clock}};
    out.setup = fill("    digitalWrite($clock$, LOW);\n    pinMode($clock$, OUTPUT);\n    pinMode($data$, "
                     "INPUT_PULLUP); // of a "
                     "wire that is off it stays high: not ready\n",
                     names);
    out.ask = "    // it measures by itself, ten times a second: after that long something new is there\n";
    out.wait_ms = std::ceil(p.part->interface.conversion_ms) + 10;
    out.send = fill(R"(    if (digitalRead($data$) == HIGH) {
        Serial.print(F("not-ready"));
    } else {
        long count = 0;
        for (byte i = 0; i < 25; ++i) { // 24 bits, and one more pulse for the next conversion at the same gain
            noInterrupts(); // a clock that stays high for 60 us puts it to sleep
            digitalWrite($clock$, HIGH);
            delayMicroseconds(1);
            const byte bit = digitalRead($data$);
            digitalWrite($clock$, LOW);
            interrupts();
            delayMicroseconds(1);
            if (i < 24) count = count << 1 | bit;
        }
        if (count & 0x800000L) count -= 0x1000000L;
        if (count == 0x7FFFFFL || count == -0x800000L)
            Serial.print(F("beyond")); // more than it can measure
        else
            say_count(count);
    }
)",
                    names);
    return out;
}

} // namespace

Driver bus_driver(const Placed& p, const std::string& name) {
    if (p.module && p.module_part && p.module_part->kind == PartKind::bus_switch)
        return left_out(phrase("this program does not know how to choose its branch of {}.", p.module->name));
    const std::string& driver = p.part->driver;
    if (driver == "one-wire-thermometer") return one_wire(p, name);
    if (driver == "single-wire-fine") return single_wire(p, name, true);
    if (driver == "single-wire-coarse") return single_wire(p, name, false);
    if (driver == "light-i2c") return light(p, name);
    if (driver == "thermometer-i2c") return thermometer(p, name);
    if (driver == "humidity-i2c") return air(p, name);
    if (driver == "thermocouple-spi") return thermocouple(p, name);
    if (driver == "load-cell") return load_cell(p, name);
    if (driver == "air-pressure-i2c") return air_pressure_driver(p, name);
    if (driver == "carbon-dioxide-i2c") return carbon_dioxide_driver(p, name);
    if (driver == "infrared-i2c") return infrared_driver(p, name);
    if (driver == "thermocouple-i2c") return couple_on_bus_driver(p, name);
    if (driver == "platinum-spi") return platinum_driver(p, name);
    return left_out(
        phrase("this program does not know the bytes of {}: add its maker’s own lines by hand.", p.part->name));
}

} // namespace cognitum::program
