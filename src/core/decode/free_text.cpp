#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/decode/lines.h"
#include "core/decode/number.h"
#include "core/decode/number_text.h"
#include "core/units/unit.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace cognitum {

namespace {

bool is_word_char(char c) {
    const auto u = static_cast<unsigned char>(c);
    return (u >= 'a' && u <= 'z') || (u >= 'A' && u <= 'Z') || (u >= '0' && u <= '9') || u == '_' || u >= 0x80;
}

/// The unit that stands directly behind a number, if there is one; `p` moves behind it. The h of "t=21.5 h=48" is a
/// name.
std::string take_unit(std::string_view line, std::size_t& p) {
    std::size_t start = p;
    if (start < line.size() && line[start] == ' ') ++start;
    if (start < line.size() && line[start] == '*') ++start; // "*C": no degree sign in ASCII
    std::size_t end = start;
    while (end < line.size() && (is_word_char(line[end]) || line[end] == '%' || line[end] == '/') &&
           end - start < 12)
        ++end;
    const std::string_view word = line.substr(start, end - start);
    const bool name = end < line.size() && (line[end] == '=' || line[end] == ':');
    if (word.empty() || name || !find_unit(word)) return {};
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

/// A number with a comma in it, from `start`; `after` moves behind it. "21,3" is a decimal comma. "101,325" may be
/// that or thousands, and lists are neither: NaN.
double behind_comma(std::string_view line, std::size_t start, std::size_t& after) {
    std::size_t end = after + 1;
    while (end < line.size() && detail::is_digit(line[end]))
        ++end;
    const std::size_t decimals = end - after - 1;
    bool list = line.substr(start, after - start).find('.') != std::string_view::npos;
    while (end + 1 < line.size() && line[end] == ',' && detail::is_digit(line[end + 1])) {
        list = true;
        for (++end; end < line.size() && detail::is_digit(line[end]);)
            ++end;
    }
    after = end;
    if (list || decimals == 3) return no_number;
    const std::string text = with_point(line.substr(start, end - start));
    const char* p = text.data();
    double value = 0;
    return read_number(p, text.data() + text.size(), value) ? value : no_number;
}

bool same_word(std::string_view a, std::string_view b) {
    return std::equal(a.begin(), a.end(), b.begin(), b.end(), [](char x, char y) {
        const auto small = [](char c) { return c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c; };
        return small(x) == small(y);
    });
}

template <std::size_t N>
bool among(std::string_view word, const std::array<std::string_view, N>& words) {
    return std::any_of(words.begin(), words.end(), [&](std::string_view w) { return same_word(word, w); });
}

/// A line of at most four words that says a state; the words that are left name it.
bool read_state(std::string_view line, FieldTable& fields, Records& out) {
    static constexpr std::array<std::string_view, 9> on = {"detected", "started", "triggered", "opened", "open",
                                                           "on",       "pressed", "wet",       "present"};
    static constexpr std::array<std::string_view, 10> off = {"ended", "stopped",  "cleared", "clear",  "closed",
                                                             "off",   "released", "dry",     "absent", "gone"};
    static constexpr std::array<std::string_view, 3> negations = {"no", "not", "nothing"};
    static constexpr std::array<std::string_view, 3> fillers = {"is", "the", "now"};
    std::string name;
    int state = -1;
    bool negated = false;
    std::size_t words = 0;
    for (std::size_t i = 0; i < line.size();) {
        std::size_t end = i;
        while (end < line.size() && is_word_char(line[end]))
            ++end;
        const std::string_view word = line.substr(i, end - i);
        i = std::max(end, i + 1);
        if (word.empty()) continue;
        if (++words > 4) return false;
        if (among(word, on) || among(word, off)) {
            if (state >= 0) return false;
            state = among(word, on);
        } else if (among(word, negations)) {
            negated = true;
        } else if (!among(word, fillers)) {
            name += (name.empty() ? "" : " ") + std::string(word);
        }
    }
    if (state < 0 && !(negated && words == 2)) return false;
    if (name.empty()) name = "value";
    for (const Field& known : fields.fields()) // "Motion detected" and "no motion" are one
        if (same_word(known.name, name)) name = known.name;
    fields.take_state(out, name, negated ? state == 0 : state == 1);
    return true;
}

/// "[INFO] …", "[main] …"; no list of JSON that was cut.
bool begins_with_tag(std::string_view line) {
    const std::size_t end = line.find_first_of("[]{}\",:", 1);
    return end != std::string_view::npos && line[end] == ']' && end + 1 < line.size() && line[end + 1] == ' ' &&
           !trimmed(line.substr(end + 1)).starts_with(',');
}

/// "3", ".5"
bool begins_number(std::string_view text) {
    if (text.starts_with('.')) text.remove_prefix(1);
    return !text.empty() && detail::is_digit(text.front());
}

/// Digits at the start of a text, `most` of them at most.
std::size_t digits_of(std::string_view text, std::size_t most) {
    std::size_t n = 0;
    while (n < std::min(most, text.size()) && detail::is_digit(text[n]))
        ++n;
    return n;
}

/// The 1 of "Sensor 1: 21.5", the 2 of "cell 2 = 3.31".
bool is_in_name(std::string_view digits, std::string_view behind) {
    if (digits.empty() || digits_of(digits, digits.size()) != digits.size()) return false;
    behind = trimmed(behind);
    if (!behind.starts_with('=') && !behind.starts_with(": ")) return false;
    behind = trimmed(behind.substr(1));
    if (behind.starts_with('-') || behind.starts_with('+')) behind.remove_prefix(1);
    return begins_number(behind);
}

/// Length of "12:00", "12:00:01.250" at the start of a text; 0: it is no time of day.
std::size_t clock_length(std::string_view text) {
    std::size_t at = digits_of(text, 2);
    if (at == 0 || text.substr(at, 1) != ":" || digits_of(text.substr(at + 1), 3) != 2) return 0;
    at += 3;
    if (text.substr(at, 1) == ":" && digits_of(text.substr(at + 1), 3) == 2) {
        at += 3;
        if (const std::string_view point = text.substr(at, 1); point == "." || point == ",")
            at += digits_of(text.substr(at + 1), 9) > 0 ? 1 + digits_of(text.substr(at + 1), 9) : 0;
    }
    if (text.substr(at, 1) == "Z") ++at;
    return at < text.size() && (is_word_char(text[at]) || text[at] == ':') ? 0 : at;
}

/// Length of "2026-06-05", "05/06/2026", "5.6.2026 12:00" or a time of day alone at the start of a text; 0:
/// neither.
std::size_t time_length(std::string_view text) {
    const std::size_t first = digits_of(text, 5);
    const char mark = first < text.size() ? text[first] : ' ';
    if (first == 0 || (mark != '-' && mark != '/' && mark != '.')) return clock_length(text);
    const std::size_t second = digits_of(text.substr(first + 1), 3), behind = first + 1 + second;
    if (second == 0 || second > 2 || behind >= text.size() || text[behind] != mark) return 0;
    const std::size_t third = digits_of(text.substr(behind + 1), 5), end = behind + 1 + third;
    if (!((first == 4 && third > 0 && third <= 2) || (first <= 2 && third == 4))) return 0;
    if (end < text.size() && (text[end] == 'T' || text[end] == ' '))
        if (const std::size_t clock = clock_length(text.substr(end + 1))) return end + 1 + clock;
    return end < text.size() && is_word_char(text[end]) ? 0 : end;
}

/// A sentence for people has few numbers; each costs a name of its own. Groups of digits are counted: "12:30" is
/// two.
bool has_too_many_numbers(std::string_view line) {
    constexpr int most = 64;
    int groups = 0;
    bool inside = false;
    for (const char c : line) {
        const bool digit = detail::is_digit(c) || c == '.' || c == ',';
        groups += digit && !inside;
        inside = digit;
    }
    return groups > most;
}

} // namespace

LineSum line_sum(std::string_view line) {
    const auto hex = [](char c) {
        return c >= '0' && c <= '9'   ? c - '0'
               : c >= 'A' && c <= 'F' ? c - 'A' + 10
               : c >= 'a' && c <= 'f' ? c - 'a' + 10
                                      : -1;
    };
    line = trimmed(line);
    if (line.size() < 5 || line[line.size() - 3] != '*') return LineSum::none;
    const int high = hex(line[line.size() - 2]);
    const int low = hex(line[line.size() - 1]);
    if (high < 0 || low < 0) return LineSum::none;
    unsigned sum = 0;
    for (const char c : without_sum(line))
        sum ^= static_cast<unsigned char>(c);
    return sum == static_cast<unsigned>(16 * high + low) ? LineSum::holds : LineSum::broken;
}

std::string_view without_sum(std::string_view line) {
    line = trimmed(line);
    if (line.front() == '$' || line.front() == '!') line.remove_prefix(1);
    return line.substr(0, line.rfind('*'));
}

Reason read_sentence(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out) {
    const std::size_t name_end = std::min(line.find(','), line.size());
    const std::string_view name = line.substr(0, name_end);
    out.begin(number);
    line.remove_prefix(name_end);
    for (int place = 1; !line.empty(); ++place) {
        line.remove_prefix(1);
        const std::size_t end = std::min(line.find(','), line.size());
        const NumberText text = read_number_text(line.substr(0, end));
        if (text.there) fields.take(out, fmt::format("{} {}", name, place), text.value);
        line.remove_prefix(end);
    }
    if (out.rows.back().count > 0) return {};
    out.drop();
    return phrase("a sentence without a number");
}

Reason read_text(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out) {
    line = trimmed(line);
    if (line.starts_with('{') || (line.starts_with('[') && !begins_with_tag(line))) return phrase("broken JSON");
    if (has_too_many_numbers(line)) return phrase("more than 64 numbers in a text");
    if (line_sum(line) != LineSum::none) line = line.substr(0, line.rfind('*')); // "*07" is no number of its own
    out.begin(number);
    std::size_t label_from = 0;
    for (std::size_t i = 0; i < line.size();) {
        const char c = line[i];
        const bool within = i > 1 && line[i - 1] == '.' && detail::is_digit(line[i - 2]); // the 5 of "v1.5"
        const bool at_start = i == 0 || !(is_word_char(line[i - 1]) || within);
        const bool sign = (c == '-' || c == '+') && begins_number(line.substr(i + 1));
        const bool point = c == '.' && begins_number(line.substr(i)) && (i == 0 || line[i - 1] != '.');
        if (!at_start || (!detail::is_digit(c) && !sign && !point)) {
            ++i;
            continue;
        }
        // When it was said is no reading, nor a name for one.
        if (const std::size_t length = detail::is_digit(c) ? time_length(line.substr(i)) : 0; length > 0) {
            i += length;
            label_from = i;
            continue;
        }
        const char* p = line.data() + i;
        double value = 0;
        if (!read_number(p, line.data() + line.size(), value)) {
            ++i;
            continue;
        }
        std::size_t after = static_cast<std::size_t>(p - line.data());
        if (after + 1 < line.size() && line[after] == ',' && detail::is_digit(line[after + 1]))
            value = behind_comma(line, i, after);
        std::string unit = take_unit(line, after);
        // "12V3" or "2nd" is a word, unless the letters are a unit.
        const bool doubt = line.substr(after).starts_with("±"); // "3±1"
        if (unit.empty() && after < line.size() && is_word_char(line[after]) && !doubt) {
            i = after;
            continue;
        }
        std::string label = label_of(line.substr(label_from, i - label_from));
        if (!label.empty() && is_in_name(line.substr(i, after - i), line.substr(after))) {
            i = after;
            continue;
        }
        if (label.empty()) label = "value";
        label = fields.name_beside(out, label);
        fields.take(out, label, value);
        fields.at(label, unit);
        i = after;
        label_from = after;
    }
    if (out.rows.back().count > 0 || read_state(line, fields, out)) return {};
    out.drop();
    return phrase("text where numbers belong");
}

} // namespace cognitum
