// Shared pieces of a written program.
#include "core/program/driver.h"

namespace cognitum::program {

namespace {

constexpr HelpText text_of_converter{"",
                                     R"(
// Mean of some conversions. The first one after another input was chosen still holds some of the other's charge.
void print_count(byte pin, byte times) {
    if (pin != last_pin) analogRead(pin);
    last_pin = pin;
    unsigned long sum = 0;
    for (byte i = 0; i < times; ++i)
        sum += analogRead(pin);
    if (times == 1)
        say_count(sum);
    else
        say((float)sum / times, 2);
}
)",
                                     ""};

constexpr HelpText text_of_one_wire{"",
                                    R"(
// One-wire bus: the board pulls low or lets go, a resistor pulls up. A part answers within 15 us of the fall; the 8-bit
// boards need some of that to switch a pin.
#if defined(__AVR__)
const byte WIRE_LOW_US = 1, WIRE_LOOK_US = 2;
#else
const byte WIRE_LOW_US = 3, WIRE_LOOK_US = 9;
#endif
// True when somebody is there.
bool wire_reset(byte pin) {
    pinMode(pin, INPUT);
    for (byte tries = 0; digitalRead(pin) == LOW; ++tries) {
        if (tries == 100) return false; // it hangs low
        delayMicroseconds(3);
    }
    digitalWrite(pin, LOW);
    pinMode(pin, OUTPUT);
    delayMicroseconds(480);
    noInterrupts();
    pinMode(pin, INPUT);
    delayMicroseconds(70);
    const bool present = digitalRead(pin) == LOW;
    interrupts();
    delayMicroseconds(410);
    return present;
}
void wire_write(byte pin, byte value) {
    for (byte bit = 0; bit < 8; ++bit, value >>= 1) {
        noInterrupts(); // for less than 70 us: a slot bears no pause
        digitalWrite(pin, LOW);
        pinMode(pin, OUTPUT);
        delayMicroseconds(value & 1 ? 5 : 62);
        pinMode(pin, INPUT);
        interrupts();
        delayMicroseconds(value & 1 ? 62 : 5);
    }
}
byte wire_read(byte pin) {
    byte value = 0;
    for (byte bit = 0; bit < 8; ++bit) {
        noInterrupts();
        digitalWrite(pin, LOW);
        pinMode(pin, OUTPUT);
        delayMicroseconds(WIRE_LOW_US);
        pinMode(pin, INPUT);
        delayMicroseconds(WIRE_LOOK_US);
        value = value >> 1 | (digitalRead(pin) == HIGH ? 0x80 : 0);
        interrupts();
        delayMicroseconds(55);
    }
    return value;
}
// CRC-8 of the one-wire bus: x^8 + x^5 + x^4 + 1, least bit first.
byte wire_crc(const byte* bytes, byte length) {
    byte crc = 0;
    while (length--) {
        crc ^= *bytes++;
        for (byte bit = 0; bit < 8; ++bit)
            crc = crc & 1 ? crc >> 1 ^ 0x8C : crc >> 1;
    }
    return crc;
}
)",
                                    ""};

constexpr HelpText text_of_bits_of_wire{"",
                                        R"(
// Waits until the pin leaves this level; us, 0: it stayed longer than 200 us.
byte while_level(byte pin, byte level) {
    const unsigned long from = micros();
    unsigned long waited = 0;
    while (digitalRead(pin) == level) {
        waited = micros() - from;
        if (waited > 200) return 0;
    }
    return waited > 0 ? waited : 1;
}
// What one sensor said last; asked again sooner than it may be, it is not asked.
struct Frame {
    byte pin;
    unsigned int low_us;   // how long it is held low to be asked
    unsigned long least;   // ms between two questions
    byte bytes[5];
    unsigned long read_at; // ms; 0: never
    const char* trouble;
};
// Forty bits on one wire: a bit is 1 when its high part is longer than its low part. Returns a word when it failed.
const char* ask_frame(const Frame& f, byte* out) {
    digitalWrite(f.pin, LOW);
    pinMode(f.pin, OUTPUT);
    delayMicroseconds(f.low_us > 16000 ? 16000 : f.low_us); // a longer wait is not exact in one go
    if (f.low_us > 16000) delayMicroseconds(f.low_us - 16000);
    pinMode(f.pin, INPUT_PULLUP);
    delayMicroseconds(5);
    if (!while_level(f.pin, HIGH) || !while_level(f.pin, LOW) || !while_level(f.pin, HIGH)) return "no-answer";
    for (byte i = 0; i < 5; ++i)
        out[i] = 0;
    for (byte bit = 0; bit < 40; ++bit) {
        const byte low = while_level(f.pin, LOW);
        const byte high = while_level(f.pin, HIGH);
        if (!low || !high) return "broken-off";
        if (high > low) out[bit / 8] |= 0x80 >> bit % 8;
    }
    const byte sum = out[0] + out[1] + out[2] + out[3];
    return sum == out[4] ? 0 : "checksum";
}
const char* read_frame(Frame& f) {
    if (f.read_at != 0 && millis() - f.read_at < f.least) return f.trouble;
    f.trouble = ask_frame(f, f.bytes);
    f.read_at = millis();
    return f.trouble;
}
)",
                                        ""};

constexpr HelpText text_of_i2c{"#include <Wire.h>\n",
                               R"(
bool i2c_write(byte address, byte value) {
    Wire.beginTransmission(address);
    Wire.write(value);
    return Wire.endTransmission() == 0;
}
bool i2c_write2(byte address, byte first, byte second) {
    Wire.beginTransmission(address);
    Wire.write(first);
    Wire.write(second);
    return Wire.endTransmission() == 0;
}
bool i2c_read(byte address, byte* out, byte length) {
    if (Wire.requestFrom(address, length) != length) return false;
    while (length--)
        *out++ = Wire.read();
    return true;
}
)",
                               R"(    Wire.begin();
#if defined(__AVR__)
    Wire.setWireTimeout(25000, true); // us; a bus that hangs is let go of
#endif
)"};

constexpr HelpText text_of_converter_i2c{"",
                                         R"(
bool ask_converter(byte address, unsigned int config) {
    Wire.beginTransmission(address);
    Wire.write(1); // its configuration
    Wire.write(config >> 8);
    Wire.write(config & 255);
    return Wire.endTransmission() == 0;
}
void print_converter(bool asked, byte address, byte shift) {
    byte two[2];
    if (!asked || !i2c_write(address, 0) || !i2c_read(address, two, 2))
        Serial.print(F("no-answer"));
    else
        say_count((int16_t)((uint16_t)two[0] << 8 | two[1]) >> shift);
}
)",
                                         ""};

constexpr HelpText text_of_spi{"#include <SPI.h>\n", "", "    SPI.begin();\n"};

constexpr HelpText text_of_steady{"",
                                  R"(
// A level that was the same for 10 ms.
struct Steady {
    byte pin, level, seen;
    unsigned long since;
};
void begin(Steady& s) {
    s.level = s.seen = digitalRead(s.pin);
}
bool changed(Steady& s) {
    const byte now = digitalRead(s.pin);
    if (now != s.seen) {
        s.seen = now;
        s.since = millis();
    }
    if (s.seen == s.level || millis() - s.since < 10) return false;
    s.level = s.seen;
    return true;
}
)",
                                  ""};

} // namespace

const HelpText& help_text(Help help) {
    switch (help) {
    case Help::converter: return text_of_converter;
    case Help::one_wire: return text_of_one_wire;
    case Help::bits_of_wire: return text_of_bits_of_wire;
    case Help::i2c: return text_of_i2c;
    case Help::converter_i2c: return text_of_converter_i2c;
    case Help::spi: return text_of_spi;
    case Help::steady: break;
    }
    return text_of_steady;
}

} // namespace cognitum::program
