#include "core/decode/number.h"

#include <charconv>
#include <cmath>

namespace cognitum::detail {

bool read_long_number(const char*& p, const char* end, double& out) {
    const char* begin = p;
    if (begin < end && *begin == '+') ++begin;
    if (begin == end || (*begin != '-' && *begin != '.' && !is_digit(*begin))) return false;
    double value = 0;
    const auto [stop, code] = std::from_chars(begin, end, value);
    if (code != std::errc{} || !std::isfinite(value)) return false;
    out = value;
    p = stop;
    return true;
}

} // namespace cognitum::detail
