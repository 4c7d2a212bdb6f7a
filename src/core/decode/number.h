// Reads a decimal number from text, exactly rounded, fast for the short numbers that boards send.
#pragma once

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string_view>

namespace cognitum {

namespace detail {
/// Everything that the fast way leaves: exponents and more than 15 digits.
bool read_long_number(const char*& p, const char* end, double& out);

inline constexpr double powers_of_ten[] = {1e0, 1e1, 1e2,  1e3,  1e4,  1e5,  1e6,  1e7,
                                           1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15};
inline bool is_digit(char c) {
    return static_cast<unsigned char>(c - '0') < 10;
}
} // namespace detail

/// Reads a number at [p, end) and moves p behind it. False, with p unmoved, when there is none. Accepts a sign, a
/// decimal point and an exponent; "nan" and "inf" are no numbers.
inline bool read_number(const char*& p, const char* end, double& out) {
    const char* q = p;
    bool negative = false;
    if (q < end && (*q == '-' || *q == '+')) negative = *q++ == '-';
    // A mantissa below 2^53 over a power of ten up to 10^15 is exactly rounded by one division (Clinger 1990).
    std::uint64_t mantissa = 0;
    const char* const first = q;
    while (q < end && detail::is_digit(*q))
        mantissa = mantissa * 10 + static_cast<std::uint64_t>(*q++ - '0');
    std::ptrdiff_t digits = q - first;
    std::ptrdiff_t fraction = 0;
    if (q < end && *q == '.') {
        const char* const point = ++q;
        while (q < end && detail::is_digit(*q))
            mantissa = mantissa * 10 + static_cast<std::uint64_t>(*q++ - '0');
        fraction = q - point;
        digits += fraction;
    }
    if (digits == 0) return false;
    if (digits > 15 || (q < end && (*q == 'e' || *q == 'E'))) return detail::read_long_number(p, end, out);
    auto value = static_cast<double>(static_cast<std::int64_t>(mantissa));
    if (fraction > 0) value /= detail::powers_of_ten[fraction];
    out = negative ? -value : value;
    p = q;
    return true;
}

/// The number that all of `text` is; absent when it is none, or something stands beside it. The same in every
/// country, which strtod and what is made of it are not.
inline std::optional<double> number_of(std::string_view text) {
    const char* p = text.data();
    const char* const end = p + text.size();
    double out = 0;
    if (!read_number(p, end, out) || p != end) return std::nullopt;
    return out;
}

} // namespace cognitum
