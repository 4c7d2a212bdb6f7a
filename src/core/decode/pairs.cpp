#include "core/base/phrase.h"
#include "core/decode/lines.h"
#include "core/decode/number.h"
#include "core/decode/number_text.h"

#include <algorithm>

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

/// A name at the start of a text, with the mark of assignment behind it.
struct PairStart {
    std::size_t name = 0;  ///< bytes of the name; 0: no pair begins here
    std::size_t value = 0; ///< where its value begins
    char mark = 0;
};

/// "T=", "T =", "T: ": blanks may stand around the mark, not a line of words before it.
PairStart pair_start(std::string_view text) {
    std::size_t n = 0;
    while (n < text.size() && is_name_char(text[n]))
        ++n;
    if (n == 0 || n > 60 || n >= text.size()) return {};
    const bool letter = !(text[0] >= '0' && text[0] <= '9') && text[0] != '-' && text[0] != '.';
    std::size_t at = n;
    while (at < text.size() && (text[at] == ' ' || text[at] == '\t'))
        ++at;
    if (at >= text.size() || (text[at] != '=' && text[at] != ':')) return {};
    const char mark = text[at++];
    // A pin may be called 36: "36=1400" names it. "12:30" is a time of the day.
    const bool pin = mark == '=' && at == n + 1 && n <= 3 &&
                     std::all_of(text.begin(), text.begin() + static_cast<std::ptrdiff_t>(n),
                                 [](char c) { return c >= '0' && c <= '9'; });
    if (!letter && !pin) return {};
    while (at < text.size() && (text[at] == ' ' || text[at] == '\t'))
        ++at;
    return {n, at, mark};
}

/// "S512" or "B72.5": one or two letters and a number of two digits or more with nothing between; its letters'
/// length, 0: it is none.
std::size_t lettered(std::string_view word) {
    std::size_t letters = 0;
    while (letters < word.size() &&
           ((word[letters] >= 'A' && word[letters] <= 'Z') || (word[letters] >= 'a' && word[letters] <= 'z')))
        ++letters;
    if (letters == 0 || letters > 2 || word.size() < letters + 2) return 0;
    const char* p = word.data() + letters;
    const char* const end = word.data() + word.size();
    double number = 0;
    return *p != '+' && read_number(p, end, number) && p == end ? letters : 0;
}

/// Words that are all a letter with a number; the row is begun by the caller.
bool read_lettered(std::string_view line, FieldTable& fields, Records& out) {
    while (!line.empty()) {
        const std::size_t end = std::min(line.find_first_of(" \t"), line.size());
        const std::string_view word = line.substr(0, end);
        const std::size_t letters = lettered(word);
        if (letters == 0) return false;
        fields.take(out, word.substr(0, letters), word.substr(letters));
        line = trimmed(line.substr(end));
    }
    return true;
}

/// Bytes of a value at the start of `text`: up to a separator; with a unit behind a blank where no name starts
/// there; a comma between digits is a decimal comma where no name follows it.
std::size_t value_length(std::string_view text) {
    const auto digit = [&](std::size_t i) { return i < text.size() && detail::is_digit(text[i]); };
    std::size_t end = 0;
    while (end < text.size() && !is_separator(text[end]))
        ++end;
    if (end > 0 && end < text.size() && text[end] == ',' && digit(end - 1) && digit(end + 1) &&
        pair_start(text.substr(end + 1)).name == 0) {
        ++end;
        while (end < text.size() && !is_separator(text[end]))
            ++end;
    }
    if (end == 0 || end >= text.size() || text[end] != ' ') return end;
    std::size_t word = end + 1;
    while (word < text.size() && !is_separator(text[word]))
        ++word;
    if (pair_start(text.substr(end + 1)).name > 0 || word == end + 1) return end;
    const NumberText number = read_number_text(with_point(text.substr(0, word))); // "21.5 C", or "nan C"
    if (number.there || number.failed) return word;
    const NumberText first = read_number_text(with_point(text.substr(0, end)));
    if (first.there && !first.state) return end;
    while (end < text.size() && text[end] == ' ' && pair_start(text.substr(end + 1)).name == 0) // "out of range"
        end = std::min(text.find_first_of(" ,;\t|&", end + 1), text.size());
    return end;
}

} // namespace

std::string with_point(std::string_view text) {
    std::string out(text);
    const std::size_t comma = out.find(',');
    if (comma != std::string::npos && out.find(',', comma + 1) == std::string::npos &&
        out.find('.') == std::string::npos)
        out[comma] = '.';
    return out;
}

bool looks_like_pairs(std::string_view line) {
    return pair_start(trimmed(line)).name > 0;
}

Reason read_pairs(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out) {
    std::string_view rest = trimmed(line);
    out.begin(number);
    if (lettered(rest.substr(0, rest.find_first_of(" \t"))) > 0 && read_lettered(rest, fields, out)) return {};
    std::string sender;
    if (const PairStart first = pair_start(rest);
        first.mark == ':' && pair_start(rest.substr(first.value)).name > 0) { // "FL: kPa=231.5 degC=24"
        sender = rest.substr(0, first.name);
        rest.remove_prefix(first.value);
    }
    while (!rest.empty()) {
        const PairStart start = pair_start(rest);
        if (start.name == 0) {
            out.drop();
            return phrase("no name=value where one belongs");
        }
        const std::string_view name = rest.substr(0, start.name);
        rest.remove_prefix(start.value);
        const std::size_t end = value_length(rest);
        const std::string value = with_point(rest.substr(0, end));
        if (sender.empty() && is_sender_id(name, value)) sender = value;
        fields.take(out, name, value);
        rest.remove_prefix(end);
        while (!rest.empty() && is_separator(rest.front()))
            rest.remove_prefix(1);
    }
    if (out.rows.back().count == 0) {
        out.drop();
        return phrase("text where numbers belong");
    }
    if (!sender.empty()) fields.key_by(out, sender);
    return {};
}

} // namespace cognitum
