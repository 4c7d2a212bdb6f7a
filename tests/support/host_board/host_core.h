// The usual core interface of small boards on this computer, as far as written programs need it: a clock that may
// run faster, an analog input that counts its milliseconds, buses on which nobody is, and a network that is this
// computer's.
#pragma once

#include <cmath>
#include <cstdint>
#include <cstdio>
#include <cstdlib>
#include <cstring>

using byte = std::uint8_t;
using std::isnan;
constexpr int HIGH = 1, LOW = 0, INPUT = 0, OUTPUT = 1, INPUT_PULLUP = 2, CHANGE = 4;
constexpr int A0 = 36, D0 = 16, D1 = 5, D2 = 4, D5 = 14;
using __FlashStringHelper = char;
#define F(text) (text)

unsigned long millis();
unsigned long micros();
void delay(unsigned long ms);
void delayMicroseconds(unsigned us);
void pinMode(byte pin, int mode);
void digitalWrite(byte pin, int level);
int digitalRead(byte pin);
int analogRead(byte pin);
void analogReadResolution(int bits);
unsigned long pulseInLong(byte pin, int level, unsigned long time_out_us);
void attachInterrupt(int interrupt, void (*function)(), int mode);
inline int digitalPinToInterrupt(int pin) {
    return pin;
}
inline void noInterrupts() {}
inline void interrupts() {}
char* ultoa(unsigned long value, char* to, int base);

class Print {
  public:
    virtual ~Print() = default;
    virtual std::size_t write(std::uint8_t byte) = 0;
    virtual std::size_t write(const std::uint8_t* bytes, std::size_t n);
    std::size_t print(const char* text) {
        return write(reinterpret_cast<const std::uint8_t*>(text), std::strlen(text));
    }
    std::size_t print(char c) { return write(static_cast<std::uint8_t>(c)); }
    std::size_t print(int value) { return print(static_cast<long>(value)); }
    std::size_t print(unsigned value) { return print(static_cast<unsigned long>(value)); }
    std::size_t print(long value);
    std::size_t print(unsigned long value);
    std::size_t print(double value, int digits = 2);
    template <class T>
    std::size_t println(T value) {
        return print(value) + println();
    }
    std::size_t println() { return print("\r\n"); }
};
struct SerialPort : Print {
    using Print::write;
    void begin(unsigned long) {}
    int available() { return 0; }
    int read() { return -1; }
    std::size_t write(std::uint8_t byte) override;
};
extern SerialPort Serial;
