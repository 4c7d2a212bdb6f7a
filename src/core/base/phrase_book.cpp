#include "core/base/phrase_book.h"

#include "core/base/letters.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <charconv>
#include <fmt/args.h>

namespace cognitum {

namespace {

/// Fewer letters outside of the gaps may be anybody's words.
constexpr std::size_t least_letters = 6;

std::string unescaped(std::string_view line) {
    std::string out;
    for (std::size_t i = 0; i < line.size(); ++i) {
        const bool escape = line[i] == '\\' && i + 1 < line.size();
        out += !escape ? line[i] : line[i + 1] == 'n' ? '\n' : line[i + 1];
        i += escape;
    }
    return out;
}

/// "−1 234.50 mm" with the decimal sign of the language; words and dates stay.
std::string number_said(const std::string& text) {
    const std::string_view sign = language().decimal_sign;
    if (sign == "." || text.find_first_of("0123456789") == std::string::npos) return text;
    const auto is_digit = [&](std::size_t i) { return i < text.size() && letters::is_digit(text[i]); };
    if (std::count(text.begin(), text.end(), ':') > 0) return text;
    std::string out;
    for (std::size_t i = 0; i < text.size();) {
        std::size_t end = i; // of what holds digits and points: one point makes it a number, more an address
        while (end < text.size() && (is_digit(end) || text[end] == '.'))
            ++end;
        while (end > i && text[end - 1] == '.') // it ends a sentence
            --end;
        std::string part = text.substr(i, std::max<std::size_t>(end - i, 1));
        const auto point = part.find('.');
        if (point != std::string::npos && point == part.rfind('.') && point > 0 && point + 1 < part.size())
            part.replace(point, 1, sign);
        out += part;
        i = std::max(end, i + 1);
    }
    return out;
}

/// Hands on each letter of a sentence outside of its gaps, and each gap by its number; −1: it has none.
template <typename Letter, typename Gap>
void for_each_part(std::string_view sentence, Letter letter, Gap gap) {
    for (std::size_t i = 0; i < sentence.size(); ++i) {
        const char c = sentence[i];
        if (c != '{' && c != '}') {
            letter(c);
        } else if (i + 1 < sentence.size() && sentence[i + 1] == c) {
            letter(c);
            ++i;
        } else {
            int number = -1;
            std::from_chars(sentence.data() + i + 1, sentence.data() + sentence.size(), number);
            gap(number);
            for (int open = 0; i < sentence.size(); ++i) {
                open += sentence[i] == '{' ? 1 : sentence[i] == '}' ? -1 : 0;
                if (open == 0) break;
            }
        }
    }
}

/// What stood in the gaps is text by now, and a gap's own form ("{:.1f}") has done its work.
std::string without_forms(std::string_view sentence) {
    std::string out;
    for_each_part(
        sentence, [&](char c) { out.append(c == '{' || c == '}' ? 2 : 1, c); },
        [&](int number) { out += number < 0 ? "{}" : fmt::format("{{{}}}", number); });
    return out;
}

} // namespace

PhraseBook::PhraseBook(std::string_view lines) {
    while (!lines.empty()) {
        const std::string_view line = lines.substr(0, lines.find('\n'));
        lines.remove_prefix(std::min(lines.size(), line.size() + 1));
        const auto tab = line.find('\t');
        const std::string one = unescaped(line.substr(0, tab));
        if (tab == std::string_view::npos) {
            add(one, one, false);
            continue;
        }
        const std::string many = unescaped(line.substr(tab + 1));
        add(one, many, true);
        add(many, many, true);
    }
    std::stable_sort(m_patterns.begin(), m_patterns.end(),
                     [](const Pattern& a, const Pattern& b) { return a.letters > b.letters; });
}

void PhraseBook::add(std::string_view sentence, std::string_view key, bool counts) {
    Pattern p{std::string(key), {""}, {}, 0, counts};
    for_each_part(
        sentence, [&](char c) { p.pieces.back() += c, p.letters += letters::is_letter(c); },
        [&](int number) {
            p.gaps.push_back(number < 0 ? static_cast<int>(p.gaps.size()) : number);
            p.pieces.emplace_back();
        });
    const bool only_blanks = std::all_of(p.pieces.begin(), p.pieces.end(), [](const std::string& piece) {
        return piece.find_first_not_of(' ') == std::string::npos;
    });
    if (!p.gaps.empty() && !only_blanks) m_patterns.push_back(std::move(p));
}

bool PhraseBook::fits(const Pattern& pattern, std::string_view text, std::vector<std::string>& arguments) {
    const std::string& first = pattern.pieces.front();
    const std::string& last = pattern.pieces.back();
    if (text.size() < first.size() + last.size() || !text.starts_with(first) || !text.ends_with(last)) return false;
    text.remove_prefix(first.size());
    text.remove_suffix(last.size());
    arguments.assign(static_cast<std::size_t>(*std::max_element(pattern.gaps.begin(), pattern.gaps.end())) + 1, "");
    for (std::size_t gap = 0; gap + 1 < pattern.gaps.size(); ++gap) {
        const std::string& piece = pattern.pieces[gap + 1];
        const auto at = text.find(piece);
        if (at == std::string_view::npos) return false;
        arguments[static_cast<std::size_t>(pattern.gaps[gap])] = text.substr(0, at);
        text.remove_prefix(at + piece.size());
    }
    arguments[static_cast<std::size_t>(pattern.gaps.back())] = text;
    return true;
}

std::string PhraseBook::say(const std::string& english, int depth, int& looks) const {
    const bool is_template = english.find('{') != std::string::npos;
    if (const char* whole = phrase(english.c_str()); !is_template && whole != english) return whole;
    if (--looks < 0 || depth == 0 || english.size() < least_letters || english.size() > longest_text)
        return number_said(english);
    std::vector<std::string> arguments;
    for (const Pattern& pattern : m_patterns) {
        if (pattern.letters < least_letters) break; // those with the most letters come first
        if (!fits(pattern, english, arguments)) continue;
        return filled(pattern, english, arguments, depth, looks);
    }
    // Several sentences, one after the other.
    for (auto at = english.rfind(". "); at != std::string::npos && at > 0 && looks > 0;
         at = english.rfind(". ", at - 1)) {
        const std::string head = english.substr(0, at + 1);
        if (const std::string said = say(head, depth - 1, looks); said != number_said(head))
            return said + say_after_blank(english.substr(at + 1), depth, looks);
    }
    // "{}: {}" is a sentence of ours only if something of ours stands in it.
    for (const Pattern& pattern : m_patterns) {
        if (looks <= 0) break;
        if (pattern.letters >= least_letters || !fits(pattern, english, arguments)) continue;
        if (std::any_of(arguments.begin(), arguments.end(), [&](const std::string& part) {
                const std::string said = say_gap(part, depth, looks);
                return said != part && said != number_said(part);
            }))
            return filled(pattern, english, arguments, depth, looks);
    }
    return number_said(english);
}

/// What stands in a gap. A capital without a full stop is how people write the names that they give: "Humidity" in
/// "Humidity: in range" is a reading's.
std::string PhraseBook::say_gap(const std::string& part, int depth, int& looks) const {
    const bool may_be_a_name = !part.empty() && letters::is_capital(part.front()) && !letters::is_sign(part.back());
    return may_be_a_name ? part : say(part, depth - 1, looks);
}

/// The pattern in the language of the user, with its gaps filled; the English text where its gaps are others.
std::string PhraseBook::filled(const Pattern& pattern, const std::string& english,
                               const std::vector<std::string>& arguments, int depth, int& looks) const {
    long n = -1;
    if (pattern.counts) std::from_chars(arguments[0].data(), arguments[0].data() + arguments[0].size(), n);
    const std::string shape =
        without_forms(language().phrase ? language().phrase(pattern.key.c_str(), n) : pattern.key);
    fmt::dynamic_format_arg_store<fmt::format_context> gaps;
    for (const std::string& argument : arguments)
        gaps.push_back(say_gap(argument, depth, looks));
    try {
        return fmt::vformat(shape, gaps);
    } catch (const fmt::format_error&) {
        return english;
    }
}

/// A sentence that follows another: with its blank where it was written so, without it otherwise.
std::string PhraseBook::say_after_blank(const std::string& english, int depth, int& looks) const {
    const std::string with_blank = say(english, depth - 1, looks);
    return with_blank != number_said(english) ? with_blank : " " + say(english.substr(1), depth - 1, looks);
}

} // namespace cognitum
