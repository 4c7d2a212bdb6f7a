// What a board's own program makes of the same raw value when it computes the path with its own kinds of number,
// and what a factor is made of that somebody copied.
#pragma once

#include "core/signal_path/chain.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

/// One way in which programs compute.
struct SenderWay {
    std::string id;     ///< "whole-numbers"
    std::string title;  ///< "Whole numbers in every step"
    std::string prints; ///< what stands in the line: "17"; empty: nothing that is a number
    double value = 0;   ///< the same as a number, path's last unit; NaN: none
    double error = 0;   ///< value − true value
    std::string what;   ///< what happens, with this value's figures
    std::string mend;   ///< the line that would mend it
};

/// Simulated for the raw value: whole numbers in every step; whole volts first; a product that overflows sixteen
/// bits; a whole-number rescale of the code; decimals cut off; two decimals; single precision. Those that make no
/// sense for the path are left out. Empty where the path has no value.
std::vector<SenderWay> sender_ways(const Chain& chain, double raw);

/// A factor in the reading's unit for each count, taken apart.
struct FactorParts {
    double factor = 0;
    double reference_V = 0; ///< that it was made for
    int bits = 0;
    CodeConvention convention = CodeConvention::two_to_n;
    double right = 0;     ///< factor of this path
    double off = 0;       ///< factor / right − 1
    bool fits = false;    ///< within 0.5 %
    std::string sentence; ///< "0.0977 per count is 10 mV/°C at 1.0 V and 1 024 codes; …"
};

/// Empty where the path is no converter with a straight line behind it, or the factor is zero.
std::optional<FactorParts> take_apart(double factor, const Chain& chain);

/// What the two conventions 2^N and 2^N − 1 differ by at this raw value, in the path's last unit; NaN: no
/// converter.
double convention_gap(const Chain& chain, double raw);

/// The same echo through the speed of sound at a fixed temperature instead of the path's own.
struct FixedSpeed {
    double fixed_m_s = 0, real_m_s = 0;
    double distance_mm = 0; ///< too long by
    double result = 0;      ///< error of the path's last value, its unit
};
/// Empty where the path has no echo, or no value. The usual fixed speed is that at 20 °C.
std::optional<FixedSpeed> with_fixed_speed(const Chain& chain, double raw, double fixed_m_s);

} // namespace cognitum
