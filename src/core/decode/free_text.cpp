#include "core/decode/lines.h"
#include "core/decode/number.h"
#include "core/decode/number_text.h"
#include "core/units/unit.h"

#include <fmt/format.h>

namespace cognitum {

namespace {

bool is_word_char(char c) {
    const auto u = static_cast<unsigned char>(c);
    return (u >= 'a' && u <= 'z') || (u >= 'A' && u <= 'Z') || (u >= '0' && u <= '9') || u == '_' || u >= 0x80;
}

/// The unit that stands directly behind a number, if there is one; `p` moves behind it.
std::string take_unit(std::string_view line, std::size_t& p) {
    std::size_t start = p;
    if (start < line.size() && line[start] == ' ') ++start;
    std::size_t end = start;
    while (end < line.size() && (is_word_char(line[end]) || line[end] == '%' || line[end] == '/') &&
           end - start < 12)
        ++end;
    const std::string_view word = line.substr(start, end - start);
    if (word.empty() || !find_unit(word)) return {};
    p = end;
    return std::string(word);
}

/// The words before a number, without marks: "Water is" → "Water is".
std::string label_of(std::string_view text) {
    std::string out;
    for (const char c : text) {
        const bool mark = !is_word_char(c) && c != '.' && c != '-';
        if (!mark) {
            out += c;
        } else if (!out.empty() && out.back() != ' ') {
            out += ' ';
        }
    }
    while (!out.empty() && (out.back() == ' ' || out.back() == '.' || out.back() == '-'))
        out.pop_back();
    const std::size_t first = out.find_first_not_of(" .-");
    out.erase(0, std::min(first, out.size()));
    return out.substr(0, 40);
}

} // namespace

Reason read_text(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out) {
    line = trimmed(line);
    if (line.starts_with('{') || line.starts_with('[')) return "broken JSON";
    out.begin(number);
    std::size_t label_from = 0;
    for (std::size_t i = 0; i < line.size();) {
        const char c = line[i];
        const bool at_start = i == 0 || !is_word_char(line[i - 1]);
        const bool sign = (c == '-' || c == '+') && i + 1 < line.size() && detail::is_digit(line[i + 1]);
        if (!at_start || (!detail::is_digit(c) && !sign)) {
            ++i;
            continue;
        }
        const char* p = line.data() + i;
        double value = 0;
        if (!read_number(p, line.data() + line.size(), value)) {
            ++i;
            continue;
        }
        std::size_t after = static_cast<std::size_t>(p - line.data());
        std::string unit = take_unit(line, after);
        // "12V3" or "2nd" is a word, unless the letters are a unit.
        if (unit.empty() && after < line.size() && is_word_char(line[after])) {
            i = after;
            continue;
        }
        std::string label = label_of(line.substr(label_from, i - label_from));
        if (label.empty()) label = "value";
        const std::string base = label;
        for (int k = 2; k < 64; ++k) { // one name for two numbers: the second is told apart
            const std::uint32_t known = fields.find(label);
            if (known == FieldTable::none || !out.value(out.rows.size() - 1, known)) break;
            label = fmt::format("{} {}", base, k);
        }
        fields.take(out, label, value);
        fields.at(label, unit);
        i = after;
        label_from = after;
    }
    if (out.rows.back().count > 0) return {};
    out.drop();
    return "text where numbers belong";
}

} // namespace cognitum
