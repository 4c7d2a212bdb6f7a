// Numbers for people: digits follow the doubt, thin spaces group thousands and stand before units, minus is −.
#pragma once

#include "core/base/time.h"

#include <string>
#include <string_view>

namespace cognitum {

inline constexpr std::string_view thin_space = "\u202f"; ///< narrow and not to be broken at
inline constexpr std::string_view minus_sign = "\u2212";

/// Decimal places that a doubt leaves meaningful: it is shown with one significant digit, with two when it begins
/// with 1. 0.5 → 1, 0.012 → 3, 30 → 0. Without a doubt (0, NaN): 3.
int decimals_for(double doubt);

/// `value` with a fixed number of decimals, thousands grouped by thin spaces, true minus: "−1 234.50".
std::string format_fixed(double value, int decimals);

/// Number with as many digits as its expanded doubt allows, with the unit's symbol: "17.0 °C". NaN gives "—".
std::string format_value(double value, double doubt, std::string_view unit);

/// "17.0 ± 0.5 °C".
std::string format_with_doubt(double value, double doubt, std::string_view unit);

/// Significant-digit form for constants: 0.01 → "0.01", 10000 → "10 000"; at most `digits` significant digits.
std::string format_constant(double value, int digits = 6);
/// The same at the end of a text, for many of them.
void append_constant(std::string& out, double value, int digits = 6);

/// Resistance with its usual prefix: "330 Ω", "1.8 kΩ", "2.2 MΩ"; three significant digits.
std::string format_ohm(double ohm);

/// "10 mV"-like: constant with unit.
std::string format_measure(double value, std::string_view unit, int digits = 4);

/// "40 s", "34 min", "19 h", "2.5 d": a length of time in one unit.
std::string duration_text(TimeUs length);

} // namespace cognitum
