// Parts that measure air and what is in it, and thermometers with arithmetic of their own: their bytes and formulas
// are those of their data sheets; the platinum curve is that of IEC 60751.
#include "core/base/phrase.h"
#include "core/program/driver.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

/// CRC-8 with polynomial 0x31 that begins with 0xFF, over two bytes; of several parts.
const std::pair<std::string, std::string> crc_of_two = {
    "crc 0x31", R"(// CRC-8, polynomial 0x31, begins with 0xFF, over two bytes.
byte crc_of_two(const byte* two) {
    byte crc = 0xFF;
    for (byte i = 0; i < 2; ++i) {
        crc ^= two[i];
        for (byte bit = 0; bit < 8; ++bit)
            crc = crc & 0x80 ? (byte)(crc << 1) ^ 0x31 : crc << 1;
    }
    return crc;
}
)"};

const char* const air_part =
    R"(// Air pressure at $address$: what it measured, by the constants that each part carries and the formulas of its data sheet.
struct AirPart_$address$ {
    uint16_t t1, p1;
    int16_t t2, t3, p2, p3, p4, p5, p6, p7, p8, p9, h2, h4, h5;
    byte h1, h3;
    int8_t h6;
    bool known;
    double degC, hPa, percent;
} air_$address$;
bool read_registers_$address$(byte from, byte* out, byte length) {
    return i2c_write($address$, from) && i2c_read($address$, out, length);
}
bool know_air_$address$() {
    byte c[26];
    if (!read_registers_$address$(0x88, c, 26)) return false;
    AirPart_$address$& a = air_$address$;
    a.t1 = (uint16_t)c[1] << 8 | c[0];
    int16_t* const rest[] = {&a.t2, &a.t3, 0, &a.p2, &a.p3, &a.p4, &a.p5, &a.p6, &a.p7, &a.p8, &a.p9};
    for (byte i = 0; i < 11; ++i)
        if (rest[i]) *rest[i] = (int16_t)((uint16_t)c[2 * i + 3] << 8 | c[2 * i + 2]);
    a.p1 = (uint16_t)c[7] << 8 | c[6];
    a.h1 = c[25];
$know_humidity$    a.known = a.t1 != 0 && a.t1 != 65535U; // a bus that hangs gives only one level
    return a.known;
}
bool ask_air_$address$() {
    if (!air_$address$.known && !know_air_$address$()) return false;
$ask_humidity$    return i2c_write2($address$, 0xF4, 0x2D); // once: temperature, and the mean of four pressures
}
// A word when it failed.
const char* read_air_$address$() {
    byte d[8];
    if (!read_registers_$address$(0xF7, d, $bytes$)) return "no-answer";
    const long pressure = (long)d[0] << 12 | (long)d[1] << 4 | d[2] >> 4;
    const long warmth = (long)d[3] << 12 | (long)d[4] << 4 | d[5] >> 4;
    if (warmth == 0x80000L || pressure == 0x80000L) return "no-conversion";
    AirPart_$address$& a = air_$address$;
    const double t = warmth / 16384.0 - a.t1 / 1024.0;
    const double t8 = warmth / 131072.0 - a.t1 / 8192.0;
    const double fine = t * a.t2 + t8 * t8 * a.t3;
    a.degC = fine / 5120.0;
    double x = fine / 2 - 64000.0;
    double y = x * x * a.p6 / 32768.0 + x * a.p5 * 2.0;
    y = y / 4 + a.p4 * 65536.0;
    x = (a.p3 * x * x / 524288.0 + a.p2 * x) / 524288.0;
    x = (1 + x / 32768.0) * a.p1;
    if (x == 0) return "no-conversion";
    double pa = (1048576.0 - pressure - y / 4096.0) * 6250.0 / x;
    pa += (a.p9 * pa * pa / 2147483648.0 + pa * a.p8 / 32768.0 + a.p7) / 16.0;
    a.hPa = pa / 100;
$read_humidity$    return 0;
}
)";

const char* const know_humidity = R"(    byte h[7];
    if (!read_registers_$address$(0xE1, h, 7)) return false;
    a.h2 = (int16_t)((uint16_t)h[1] << 8 | h[0]);
    a.h3 = h[2];
    a.h4 = (int16_t)((int8_t)h[3] * 16 | (h[4] & 15)); // twelve bits each
    a.h5 = (int16_t)((int8_t)h[5] * 16 | h[4] >> 4);
    a.h6 = (int8_t)h[6];
)";

const char* const read_humidity = R"(    const double wet = (unsigned long)d[6] << 8 | d[7];
    double z = fine - 76800.0;
    z = (wet - (a.h4 * 64.0 + a.h5 / 16384.0 * z)) *
        (a.h2 / 65536.0 * (1 + a.h6 / 67108864.0 * z * (1 + a.h3 / 67108864.0 * z)));
    z *= 1 - a.h1 * z / 524288.0;
    a.percent = z < 0 ? 0 : z > 100 ? 100 : z;
)";

} // namespace

Driver air_pressure_driver(const Placed& p, const std::string& name) {
    const auto& measures = p.part->measures;
    const bool has_humidity =
        std::any_of(measures.begin(), measures.end(), [](const Measurand& m) { return m.quantity == "humidity"; });
    const std::string& kind = p.reading->quantity.kind;
    Driver out;
    out.about = wired(p, fmt::format("at {} on I²C", address_of(p)));
    out.unit = kind == "humidity" ? "%" : kind == "temperature" ? "degC" : "hPa";
    out.needs = {Help::i2c};
    Names names = {{"name", name},
                   {"address", address_of(p)},
                   {"bytes", has_humidity ? "8" : "6"},
                   {"value", kind == "humidity"      ? "percent"
                             : kind == "temperature" ? "degC"
                                                     : "hPa"}};
    names.emplace_back("know_humidity", has_humidity ? fill(know_humidity, names) : std::string());
    names.emplace_back("ask_humidity",
                       has_humidity ? fill("    if (!i2c_write2($address$, 0xF2, 1)) return false;\n", names) : "");
    names.emplace_back("read_humidity", has_humidity ? read_humidity : "");
    out.shared = {{"air at " + address_of(p), fill(air_part, names)}};
    out.globals = fill("bool asked_$name$ = false;\n", names);
    out.ask = fill("    asked_$name$ = ask_air_$address$();\n", names);
    out.wait_ms = p.part->interface.conversion_ms + 5;
    out.send = fill("    const char* const trouble = asked_$name$ ? read_air_$address$() : \"no-answer\";\n"
                    "    if (trouble)\n"
                    "        Serial.print(trouble);\n"
                    "    else\n"
                    "        say(air_$address$.$value$, 2);\n",
                    names);
    return out;
}

Driver carbon_dioxide_driver(const Placed& p, const std::string& name) {
    const std::string& kind = p.reading->quantity.kind;
    const bool humidity = kind == "humidity", temperature = kind == "temperature";
    Driver out;
    out.about = wired(p, fmt::format("at {} on I²C, it measures by itself every five seconds", address_of(p)));
    out.unit = humidity ? "%" : temperature ? "degC" : "ppm";
    out.needs = {Help::i2c};
    const Names names = {{"name", name}, {"address", address_of(p)}};
    out.shared = {
        crc_of_two,
        {"carbon dioxide at " + address_of(p),
         fill(
             R"(// Three numbers, each with its checksum; they are given once, and kept here for all readings of the part.
struct GasPart_$address$ {
    uint16_t number[3];
    unsigned long read_at; // ms
    bool known;            // it was read once
} gas_$address$;
bool gas_words_$address$(byte high, byte low, byte* out, byte length) {
    if (!i2c_write2($address$, high, low)) return false;
    delayMicroseconds(1000); // it fetches them
    return i2c_read($address$, out, length);
}
const char* read_gas_$address$() {
    byte d[9];
    if (!gas_words_$address$(0xE4, 0xB8, d, 3)) return "no-answer"; // is there something new?
    if (crc_of_two(d) != d[2]) return "checksum";
    if (((d[0] & 7) | d[1]) != 0) {
        if (!gas_words_$address$(0xEC, 0x05, d, 9)) return "no-answer";
        for (byte i = 0; i < 9; i += 3)
            if (crc_of_two(d + i) != d[i + 2]) return "checksum";
        for (byte i = 0; i < 3; ++i)
            gas_$address$.number[i] = (uint16_t)d[3 * i] << 8 | d[3 * i + 1];
        gas_$address$.read_at = millis();
        gas_$address$.known = true;
    }
    if (!gas_$address$.known) return "warming-up";
    return millis() - gas_$address$.read_at > 30000UL ? "no-conversion" : 0;
}
)",
             names)}};
    out.setup = fill("    i2c_write2($address$, 0x21, 0xB1); // measure again and again\n", names);
    out.send = fill("    const char* const trouble = read_gas_$address$();\n"
                    "    if (trouble)\n"
                    "        Serial.print(trouble);\n"
                    "    else\n        ",
                    names);
    out.send += fill(humidity      ? "say(gas_$address$.number[2] * 100.0 / 65535.0, 2);\n"
                     : temperature ? "say(gas_$address$.number[1] * 175.0 / 65535.0 - 45.0, 2);\n"
                                   : "say_count(gas_$address$.number[0]);\n",
                     names);
    return out;
}

Driver infrared_driver(const Placed& p, const std::string& name) {
    Driver out;
    out.about = wired(p, fmt::format("at {} on I²C", address_of(p)));
    out.unit = "degC";
    out.needs = {Help::i2c};
    const Names names = {{"name", name}, {"address", address_of(p)}};
    out.send = fill(R"(    const byte asked = 0x07; // temperature of what it sees
    byte d[6] = {$address$ << 1, asked, $address$ << 1 | 1, 0, 0, 0};
    Wire.beginTransmission($address$);
    Wire.write(asked);
    byte crc = 0; // polynomial 0x07, over addresses and bytes
    if (Wire.endTransmission(false) != 0 || !i2c_read($address$, d + 3, 3)) {
        Serial.print(F("no-answer"));
    } else {
        for (byte i = 0; i < 5; ++i) {
            crc ^= d[i];
            for (byte bit = 0; bit < 8; ++bit)
                crc = crc & 0x80 ? (byte)(crc << 1) ^ 0x07 : crc << 1;
        }
        if (crc != d[5])
            Serial.print(F("checksum"));
        else if (d[4] & 0x80)
            Serial.print(F("no-conversion"));
        else
            say(((unsigned)d[4] << 8 | d[3]) * 0.02 - 273.15, 2);
    }
)",
                    names);
    return out;
}

Driver couple_on_bus_driver(const Placed& p, const std::string& name) {
    Driver out;
    out.about = wired(p, fmt::format("at {} on I²C, it measures by itself", address_of(p)));
    out.unit = "degC";
    out.needs = {Help::i2c};
    const Names names = {{"name", name}, {"address", address_of(p)}};
    out.send = fill(R"(    byte two[2];
    if (!i2c_write($address$, 0x00) || !i2c_read($address$, two, 2))
        Serial.print(F("no-answer"));
    else
        say((int16_t)((uint16_t)two[0] << 8 | two[1]) / 16.0, 2);
)",
                    names);
    return out;
}

Driver platinum_driver(const Placed& p, const std::string& name) {
    const std::string select = pin_code(p, "CS");
    if (select.empty()) return left_out(phrase("its select leg CS is on no pin."));
    Driver out;
    out.about = wired(p, fmt::format("select on {}", select));
    out.unit = "degC";
    out.needs = {Help::spi};
    const Names names = {{"name", name}, {"pin", select}};
    out.setup = fill("    digitalWrite($pin$, HIGH);\n    pinMode($pin$, OUTPUT);\n", names);
    out.globals = fill(
        R"(const float REFERENCE_OHM_$name$ = 430; // the resistor on the converter's board, where it is printed
byte platinum_$name$(byte address, byte value) {
    SPI.beginTransaction(SPISettings(1000000, MSBFIRST, SPI_MODE1));
    digitalWrite($pin$, LOW);
    SPI.transfer(address);
    const byte back = SPI.transfer(value);
    digitalWrite($pin$, HIGH);
    SPI.endTransaction();
    return back;
}
)",
        names);
    out.setup +=
        fill("    SPI.begin();\n    platinum_$name$(0x80, 0xC3); // four wires, again and again, without 50 Hz\n",
             names);
    out.send = fill(R"(    const byte high = platinum_$name$(0x01, 0);
    const byte low = platinum_$name$(0x02, 0);
    const unsigned ratio = ((unsigned)high << 8 | low) >> 1;
    if (low & 1) {
        Serial.print(F("broken-wire"));
        platinum_$name$(0x80, 0xC3); // it forgets the fault, and looks again
    } else if (ratio == 0 || ratio == 32767) {
        Serial.print(F("no-answer")); // the data line hangs
    } else {
        // IEC 60751: R = 100 ohm (1 + A t + B t^2), and below 0 degC + C (t - 100) t^3.
        const double A = 3.9083e-3, B = -5.775e-7, C = -4.183e-12;
        const double r = ratio / 32768.0 * REFERENCE_OHM_$name$ / 100;
        double t = (-A + sqrt(A * A - 4 * B * (1 - r))) / (2 * B);
        for (byte i = 0; i < 3 && t < 0; ++i)
            t -= (1 + t * (A + t * (B + t * (t - 100) * C)) - r) / (A + 2 * B * t);
        say(t, 2);
    }
)",
                    names);
    return out;
}

} // namespace cognitum::program
