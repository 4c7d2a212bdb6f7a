#include "core/decode/number_text.h"

#include "core/base/no_number.h"
#include "core/decode/number.h"

#include <algorithm>
#include <array>

namespace cognitum {

namespace {

std::string lower(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
    return out;
}

template <std::size_t N>
bool is_one_of(const std::string& word, const std::array<std::string_view, N>& words) {
    return std::find(words.begin(), words.end(), word) != words.end();
}

constexpr std::array<std::string_view, 14> failed_words = {
    "", "nan", "null", "none", "inf", "-inf", "--", "err", "error", "fail", "failed", "timeout", "-nan", "n/a"};
constexpr std::array<std::string_view, 5> true_words = {"true", "on", "yes", "open", "detected"};
constexpr std::array<std::string_view, 5> false_words = {"false", "off", "no", "closed", "clear"};

/// A unit starts with a letter, a percent sign, a degree or a micro sign, and holds no blank.
bool is_unit(std::string_view text) {
    if (text.empty() || text.size() > 12) return false;
    const auto first = static_cast<unsigned char>(text[0]);
    const bool start = (first >= 'a' && first <= 'z') || (first >= 'A' && first <= 'Z') || first == '%' ||
                       first >= 0x80 || first == '*' || first == '/';
    return start && std::none_of(text.begin(), text.end(), [](char c) {
               return c == ' ' || c == '\t' || c == '=' || c == ':' || detail::is_digit(c);
           });
}

} // namespace

std::string_view trimmed(std::string_view text) {
    while (!text.empty() && (text.front() == ' ' || text.front() == '\t'))
        text.remove_prefix(1);
    while (!text.empty() && (text.back() == ' ' || text.back() == '\t' || text.back() == '\r'))
        text.remove_suffix(1);
    return text;
}

bool is_plain_text(std::string_view line) {
    for (std::size_t i = 0; i < line.size(); ++i) {
        const auto c = static_cast<unsigned char>(line[i]);
        if (c == '\t' || (c >= 0x20 && c < 0x7f)) continue;
        // Well-formed UTF-8 of two to four bytes (RFC 3629).
        const std::size_t more = c >= 0xc2 && c <= 0xdf   ? 1
                                 : c >= 0xe0 && c <= 0xef ? 2
                                 : c >= 0xf0 && c <= 0xf4 ? 3
                                                          : 0;
        if (more == 0 || i + more >= line.size()) return false;
        for (std::size_t k = 1; k <= more; ++k)
            if ((static_cast<unsigned char>(line[i + k]) & 0xc0U) != 0x80U) return false;
        i += more;
    }
    return true;
}

NumberText read_number_text(std::string_view text) {
    text = trimmed(text);
    NumberText out;
    const char* p = text.data();
    const char* const end = p + text.size();
    if (p < end && read_number(p, end, out.value)) {
        const std::string_view rest = trimmed({p, static_cast<std::size_t>(end - p)});
        out.there = rest.empty() || is_unit(rest);
        if (out.there) {
            out.unit = rest;
            return out;
        }
        out.value = no_number;
        return out;
    }
    const std::string word = lower(text.substr(0, 16));
    if (is_one_of(word, true_words) || is_one_of(word, false_words)) {
        out.there = out.state = true;
        out.value = is_one_of(word, true_words) ? 1 : 0;
        return out;
    }
    out.failed = is_one_of(word, failed_words);
    const std::size_t blank = std::min(text.find(' '), text.size());
    const std::string_view unit = trimmed(text.substr(blank));
    if (!out.failed && is_unit(unit) && is_one_of(word.substr(0, blank), failed_words)) { // "nan C"
        out.failed = true;
        out.unit = unit;
    }
    return out;
}

} // namespace cognitum
