#include "core/decode/lines.h"
#include "core/decode/number_text.h"

namespace cognitum {

namespace {

bool is_name_char(char c) {
    const auto u = static_cast<unsigned char>(c);
    return (u >= 'a' && u <= 'z') || (u >= 'A' && u <= 'Z') || (u >= '0' && u <= '9') || u == '_' || u == '-' ||
           u == '.' || u == '/' || u == '[' || u == ']' || u >= 0x80;
}

bool is_separator(char c) {
    return c == ' ' || c == ',' || c == ';' || c == '\t' || c == '|' || c == '&';
}

/// Length of the name at the start of `text`, when a mark of assignment follows it; 0: no pair begins here.
std::size_t name_length(std::string_view text) {
    std::size_t n = 0;
    while (n < text.size() && is_name_char(text[n]))
        ++n;
    if (n == 0 || n > 60 || n >= text.size()) return 0;
    const bool letter = !(text[0] >= '0' && text[0] <= '9') && text[0] != '-' && text[0] != '.';
    return letter && (text[n] == '=' || text[n] == ':') ? n : 0;
}

} // namespace

bool looks_like_pairs(std::string_view line) {
    return name_length(trimmed(line)) > 0;
}

Reason read_pairs(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out) {
    std::string_view rest = trimmed(line);
    out.begin(number);
    while (!rest.empty()) {
        const std::size_t n = name_length(rest);
        if (n == 0) {
            out.drop();
            return "no name=value where one belongs";
        }
        const std::string_view name = rest.substr(0, n);
        rest.remove_prefix(n + 1);
        while (!rest.empty() && rest.front() == ' ')
            rest.remove_prefix(1); // "T: 21.5"
        // The value ends at a separator; a unit behind a blank still belongs to it when no name starts there.
        std::size_t end = 0;
        while (end < rest.size() && !is_separator(rest[end]))
            ++end;
        if (end < rest.size() && rest[end] == ' ' && end > 0) {
            std::size_t word = end + 1;
            while (word < rest.size() && !is_separator(rest[word]))
                ++word;
            if (name_length(rest.substr(end + 1)) == 0 && word > end + 1 &&
                read_number_text(rest.substr(0, word)).there)
                end = word;
        }
        fields.take(out, name, rest.substr(0, end));
        rest.remove_prefix(end);
        while (!rest.empty() && is_separator(rest.front()))
            rest.remove_prefix(1);
    }
    if (out.rows.back().count > 0) return {};
    out.drop();
    return "text where numbers belong";
}

} // namespace cognitum
