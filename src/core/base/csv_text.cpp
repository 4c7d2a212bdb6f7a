#include "core/base/csv_text.h"

namespace cognitum {

bool starts_formula(std::string_view text) {
    return !text.empty() && std::string_view("=+-@\t\r").find(text[0]) != std::string_view::npos;
}

std::string csv_field(std::string_view text) {
    std::string plain = starts_formula(text) ? "'" : "";
    plain += text;
    if (plain.find_first_of(",\"\n\r;") == std::string::npos) return plain;
    std::string out = "\"";
    for (const char c : plain)
        out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

} // namespace cognitum
