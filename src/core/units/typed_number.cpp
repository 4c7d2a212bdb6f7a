#include "core/units/typed_number.h"

#include <algorithm>
#include <charconv>
#include <cmath>
#include <string>
#include <utility>

namespace cognitum {

std::optional<double> typed_number(std::string_view text) {
    static constexpr std::pair<std::string_view, std::string_view> said_otherwise[] = {
        {"\u2212", "-"}, {"\u2009", ""}, {"\u202f", ""}, {"\u00a0", ""}, {" ", ""}, {"\t", ""}};
    std::string plain;
    while (!text.empty()) {
        const auto other = std::find_if(std::begin(said_otherwise), std::end(said_otherwise),
                                        [&](const auto& pair) { return text.starts_with(pair.first); });
        const bool known = other != std::end(said_otherwise);
        plain += known ? other->second : text.substr(0, 1);
        text.remove_prefix(known ? other->first.size() : 1);
    }
    if (std::count(plain.begin(), plain.end(), ',') == 1 && plain.find('.') == std::string::npos)
        plain[plain.find(',')] = '.';
    const char* first = plain.data() + (plain.starts_with('+') ? 1 : 0);
    const char* const last = plain.data() + plain.size();
    double value = 0;
    const auto [end, trouble] = std::from_chars(first, last, value);
    if (trouble != std::errc() || end != last || !std::isfinite(value)) return {};
    return value;
}

} // namespace cognitum
