#include "core/decode/number.h"

#include <charconv>
#include <cmath>
#include <cstdint>

namespace cognitum {

namespace {
constexpr double powers[] = {1e0, 1e1, 1e2, 1e3, 1e4, 1e5, 1e6, 1e7, 1e8, 1e9, 1e10, 1e11, 1e12, 1e13, 1e14, 1e15};

bool digit(char c) {
    return static_cast<unsigned char>(c - '0') < 10;
}

/// Everything the fast way leaves: exponents and more than 15 digits.
bool read_slowly(const char*& p, const char* end, double& out) {
    const char* begin = p;
    if (begin < end && *begin == '+') ++begin;
    if (begin == end || (*begin != '-' && *begin != '.' && !digit(*begin))) return false;
    double value = 0;
    const auto [stop, code] = std::from_chars(begin, end, value);
    if (code != std::errc{} || !std::isfinite(value)) return false;
    out = value;
    p = stop;
    return true;
}
} // namespace

bool read_number(const char*& p, const char* end, double& out) {
    const char* q = p;
    bool negative = false;
    if (q < end && (*q == '-' || *q == '+')) negative = *q++ == '-';
    // A mantissa below 2^53 over a power of ten up to 10^15 is exactly rounded by one division (Clinger 1990).
    std::uint64_t mantissa = 0;
    const char* first = q;
    while (q < end && digit(*q))
        mantissa = mantissa * 10 + static_cast<std::uint64_t>(*q++ - '0');
    auto digits = q - first;
    std::ptrdiff_t fraction = 0;
    if (q < end && *q == '.') {
        const char* point = ++q;
        while (q < end && digit(*q))
            mantissa = mantissa * 10 + static_cast<std::uint64_t>(*q++ - '0');
        fraction = q - point;
        digits += fraction;
    }
    if (digits == 0) return false;
    if (digits > 15 || (q < end && (*q == 'e' || *q == 'E'))) return read_slowly(p, end, out);
    double value = static_cast<double>(mantissa);
    if (fraction > 0) value /= powers[fraction];
    out = negative ? -value : value;
    p = q;
    return true;
}

} // namespace cognitum
