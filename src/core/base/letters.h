// Letters and digits of ASCII, the same in every country. C's own functions follow the desktop: a Turkish one has
// no small letter for I.
#pragma once

#include <string>
#include <string_view>

namespace cognitum::letters {

constexpr bool is_digit(char c) {
    return c >= '0' && c <= '9';
}
constexpr bool is_small(char c) {
    return c >= 'a' && c <= 'z';
}
constexpr bool is_capital(char c) {
    return c >= 'A' && c <= 'Z';
}
constexpr bool is_letter(char c) {
    return is_small(c) || is_capital(c);
}
constexpr bool is_letter_or_digit(char c) {
    return is_letter(c) || is_digit(c);
}
/// Printable, and neither a letter nor a digit nor a blank.
constexpr bool is_sign(char c) {
    return c > ' ' && c < 0x7f && !is_letter_or_digit(c);
}
constexpr char small(char c) {
    return is_capital(c) ? static_cast<char>(c + ('a' - 'A')) : c;
}
constexpr char capital(char c) {
    return is_small(c) ? static_cast<char>(c - ('a' - 'A')) : c;
}
inline std::string small(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        c = small(c);
    return out;
}

} // namespace cognitum::letters
