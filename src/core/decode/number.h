// Reads a decimal number from text, exactly rounded, fast for the short numbers that boards send.
#pragma once

namespace cognitum {

/// Reads a number at [p, end) and moves p behind it. False, with p unmoved, when there is none. Accepts a sign, a
/// decimal point and an exponent; "nan" and "inf" are no numbers.
bool read_number(const char*& p, const char* end, double& out);

} // namespace cognitum
