// Frames that sensors send by themselves, bit by bit as their data sheets say.
#pragma once

#include <cstdint>
#include <span>
#include <string>
#include <string_view>

namespace cognitum {

/// A sensor frame's value, or why there is none: a checksum that does not hold, a power-on value.
struct Scratchpad {
    double temperature_degC = 0; ///< NaN when `trouble` says so
    int bits = 12;               ///< resolution set, 9 to 12
    std::string_view trouble;    ///< empty: all is well
    bool sum_holds = true;
};
/// Nine bytes of a one-wire thermometer: signed sixteenths of a degree, low byte first; configuration in byte 5;
/// CRC-8 over the first eight. 85.0 °C is the value after power, −127 °C cannot be in here; all ones is a lost
/// part.
Scratchpad read_scratchpad(std::span<const std::uint8_t, 9> bytes);
/// The same backwards, for simulated parts; temperature −55…125 °C.
std::string write_scratchpad(double temperature_degC, int bits);

enum class HumidityGrade { coarse, fine };
struct HumidityFrame {
    double humidity_percent = 0, temperature_degC = 0;
    HumidityGrade grade = HumidityGrade::fine;
    std::string_view trouble;
    bool sum_holds = true;
};
/// 40 bits of a single-bus humidity part and their sum. The coarse grade sends whole numbers with tenths in the
/// second byte, the fine one sixteen bits in tenths with a sign bit. The grade is taken from the numbers: a first
/// byte above 3 would be more than 100 % in the fine grade.
HumidityFrame read_humidity_frame(std::span<const std::uint8_t, 5> bytes);
std::string write_humidity_frame(double humidity_percent, double temperature_degC, HumidityGrade grade);

} // namespace cognitum
