#include "core/units/format.h"

#include "core/base/phrase.h"
#include "core/units/unit.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <iterator>

namespace cognitum {

namespace {

std::string group_thousands(std::string digits) {
    const auto point = digits.find('.');
    const std::string fraction =
        point == std::string::npos ? "" : std::string(language().decimal_sign) + digits.substr(point + 1);
    std::string whole = digits.substr(0, point);
    if (whole.size() > 3)
        for (auto i = static_cast<std::ptrdiff_t>(whole.size()) - 3; i > 0; i -= 3)
            whole.insert(static_cast<std::size_t>(i), thin_space);
    return whole + fraction;
}

std::string with_unit(std::string number, std::string_view unit) {
    const std::string symbol = unit_symbol(unit);
    if (symbol.empty()) return number;
    return number + std::string(thin_space) + symbol;
}

} // namespace

int decimals_for(double doubt) {
    if (!(doubt > 0) || !std::isfinite(doubt)) return 3;
    const double exponent = std::floor(std::log10(doubt) + 1e-9);
    const double leading = doubt / std::pow(10.0, exponent);
    const int decimals = static_cast<int>(-exponent) + (leading < 1.95 ? 1 : 0);
    return std::clamp(decimals, 0, 9);
}

std::string format_fixed(double value, int decimals) {
    if (!std::isfinite(value)) return "—";
    std::string digits = fmt::format("{:.{}f}", std::abs(value), decimals);
    const bool is_zero = digits.find_first_of("123456789") == std::string::npos;
    digits = group_thousands(std::move(digits));
    return value < 0 && !is_zero ? std::string(minus_sign) + digits : digits;
}

std::string format_value(double value, double doubt, std::string_view unit) {
    if (!std::isfinite(value)) return "—";
    return with_unit(format_fixed(value, decimals_for(doubt)), unit);
}

std::string format_with_doubt(double value, double doubt, std::string_view unit) {
    if (!std::isfinite(value)) return "—";
    if (!(doubt > 0)) return format_value(value, doubt, unit);
    const int decimals = decimals_for(doubt);
    return with_unit(format_fixed(value, decimals) + " ±\u00a0" + format_fixed(doubt, decimals), unit);
}

void append_constant(std::string& out, double value, int digits) {
    if (!std::isfinite(value)) {
        out += "—";
        return;
    }
    const double size = std::abs(value);
    if (value < 0) out += minus_sign;
    if (value != 0 && (size < 1e-6 || size >= 1e12)) {
        std::string text = fmt::format("{:.{}g}", size, digits);
        if (const auto at = text.find('.'); at != std::string::npos) text.replace(at, 1, language().decimal_sign);
        out += text;
        return;
    }
    // Its power of ten: the number of those that it reaches. A logarithm would take longer, and is not exact.
    static constexpr double powers[] = {1e-5, 1e-4, 1e-3, 1e-2, 1e-1, 1e0, 1e1,  1e2, 1e3,
                                        1e4,  1e5,  1e6,  1e7,  1e8,  1e9, 1e10, 1e11};
    int magnitude = -6;
    for (const double power : powers)
        magnitude += size >= power;
    if (value == 0) magnitude = 0;
    char text[32]; // twelve digits, a point and twelve more at most
    char* end = std::to_chars(text, text + sizeof text, size, std::chars_format::fixed,
                              std::clamp(digits - 1 - magnitude, 0, 12))
                    .ptr;
    char* const point = std::find(text, end, '.');
    if (point != end) {
        while (end[-1] == '0')
            --end;
        if (end[-1] == '.') --end;
    }
    const char* from = text;
    for (const char* group = text + (point - text) % 3; group < point; group += 3) {
        if (group == text) continue;
        out.append(from, group);
        out += thin_space;
        from = group;
    }
    out.append(from, static_cast<const char*>(point));
    if (end <= point) return;
    out += language().decimal_sign;
    out.append(static_cast<const char*>(point + 1), static_cast<const char*>(end));
}

std::string format_constant(double value, int digits) {
    std::string out;
    append_constant(out, value, digits);
    return out;
}

std::string format_measure(double value, std::string_view unit, int digits) {
    return with_unit(format_constant(value, digits), unit);
}

std::string format_ohm(double ohm) {
    if (ohm >= 1e6) return format_measure(ohm / 1e6, "Mohm", 3);
    if (ohm >= 1e3) return format_measure(ohm / 1e3, "kohm", 3);
    return format_measure(ohm, "ohm", 3);
}

std::string duration_text(TimeUs length) {
    const double s = seconds(length);
    const auto in = [](double n, const char* unit) {
        return fmt::format("{}{}{}", format_fixed(n, n < 9.95 && std::abs(n - std::round(n)) > 0.05 ? 1 : 0),
                           thin_space, unit);
    };
    if (s < 120) return in(s, "s");
    if (s < 2 * 3600) return in(s / 60, "min");
    if (s < 2 * 86400) return in(s / 3600, "h");
    return in(s / 86400, "d");
}

} // namespace cognitum
