#include "core/decode/table_decoder.h"

#include "core/base/letters.h"
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/decode/lines.h"
#include "core/decode/number.h"
#include "core/decode/number_text.h"

#include <algorithm>
#include <cstring>
#include <fmt/format.h>
#include <span>

namespace cognitum {

namespace {

bool is_text(std::string_view line) {
    return std::all_of(line.begin(), line.end(), [](char c) {
        const auto u = static_cast<unsigned char>(c);
        return u == '\t' || (u >= 0x20 && u != 0x7f);
    });
}

/// Calls f(field) for each field between separators; with a space, runs of spaces count as one.
template <typename F>
void for_each_field(std::string_view line, char separator, F f) {
    std::size_t start = 0;
    while (true) {
        const std::size_t end = std::min(line.find(separator, start), line.size());
        const std::string_view field = line.substr(start, end - start);
        if (separator != ' ' || !field.empty()) f(field);
        if (end >= line.size()) return;
        start = end + 1;
    }
}

bool is_number(std::string_view field);

/// "21,3 45": two words or more with blanks between, all of them numbers when the commas between digits are points.
bool has_decimal_commas(std::string_view text) {
    if (text.find(',') == std::string_view::npos || text.find_first_of("\t;.") != std::string_view::npos)
        return false;
    std::size_t words = 0;
    bool all = true;
    for_each_field(text, ' ', [&](std::string_view word) {
        ++words;
        all = all && word.back() != ',' && is_number(with_point(word)); // "1, 2" has commas between its numbers
    });
    return all && words > 1;
}

char separator_of(std::string_view text) {
    text = trimmed(text);
    if (has_decimal_commas(text)) return ' ';
    for (const char candidate : {'\t', ';', ',', ' '})
        if (text.find(candidate) != std::string_view::npos) return candidate;
    return '\n'; // one number a line
}

bool is_number(std::string_view field) {
    field = trimmed(field);
    const char* p = field.data();
    double value = 0;
    return read_number(p, field.data() + field.size(), value) && p == field.data() + field.size();
}

/// As it would be read if nothing were known before it.
bool is_all_numbers(std::string_view text) {
    const char separator = separator_of(text);
    bool all = true;
    for_each_field(trimmed(text), separator, [&](std::string_view field) {
        all = all && is_number(separator == ',' ? std::string(field) : with_point(field));
    });
    return all;
}

const char* separator_word(char separator) {
    switch (separator) {
    case ',': return phrase("comma");
    case ';': return phrase("semicolon");
    case '\t': return phrase("tab");
    case ' ': return phrase("space");
    default: return phrase("one number a line");
    }
}

/// The usual line: exactly `columns` numbers with one separator between and nothing else. False: look again,
/// slowly.
bool read_usual_line(const char* p, const char* end, char separator, std::size_t columns, double* values) {
    for (std::size_t i = 0;; ++p) {
        if (!read_number(p, end, values[i])) return false;
        if (++i == columns) return p == end;
        if (p == end || *p != separator) return false;
    }
}

struct FieldCount {
    std::size_t fields = 0, numbers = 0;
    std::size_t failed = 0; ///< words that a sender writes when it did not measure: "nan", "fail"
};

/// Any line, field by field, into `values` as far as they reach; NaN where there is no number.
FieldCount read_fields(std::string_view line, char separator, std::span<double> values) {
    FieldCount count;
    for_each_field(separator == ' ' ? trimmed(line) : line, separator, [&](std::string_view field) {
        field = trimmed(field);
        const char* p = field.data();
        double x = no_number;
        if (!read_number(p, field.data() + field.size(), x) || p != field.data() + field.size()) {
            const NumberText said = read_number_text(field); // "48 %", "nan"
            x = said.there && !said.state ? said.value : no_number;
            count.failed += !field.empty() && said.failed;
        }
        if (count.fields < values.size()) values[count.fields] = x;
        count.numbers += x == x;
        ++count.fields;
    });
    return count;
}

/// Usual lines, one after the other, each with its end; nothing looks for the end first. Stops before the first
/// that is any other, or that is not whole. `line` counts on.
const char* read_usual_lines(const char* p, const char* end, char separator, RecordBatch& out,
                             std::uint64_t& line) {
    constexpr std::size_t rows_ahead = 256;
    const std::size_t columns = out.columns;
    std::size_t used = out.values.size();
    for (;; ++line) {
        if (used + columns > out.values.size()) out.values.resize(used + rows_ahead * columns);
        double* values = out.values.data() + used;
        const char* q = p;
        std::size_t i = 0;
        while (read_number(q, end, values[i]) && ++i < columns && q != end && *q == separator)
            ++q;
        if (i == columns && q != end && *q == '\r') ++q;
        if (i != columns || q == end || *q != '\n' || static_cast<std::size_t>(q - p) > TableDecoder::longest_line)
            break;
        used += columns;
        out.lines.push_back(static_cast<std::uint32_t>(line + 1));
        p = q + 1;
    }
    out.values.resize(used);
    return p;
}

} // namespace

void TableDecoder::feed(std::string_view bytes, RecordBatch& out) {
    const char* p = bytes.data();
    const char* const end = p + bytes.size();
    while (p < end) {
        if (m_columns > 0 && m_columns == out.columns && m_rest.empty() && !m_skipping) {
            const char* const from = p;
            const std::size_t before = out.lines.size();
            p = read_usual_lines(p, end, m_separator, out, m_line);
            m_rows += out.lines.size() - before;
            if (p != from) m_other_run = m_bad_run = 0;
            if (p == end) return;
        }
        const auto* newline = static_cast<const char*>(std::memchr(p, '\n', static_cast<std::size_t>(end - p)));
        const char* stop = newline ? newline : end;
        if (!newline) {
            if (!m_skipping) m_rest.append(p, stop);
            if (m_rest.size() > longest_line) {
                m_skipping = true;
                m_rest.resize(80);
            }
            return;
        }
        if (m_skipping) {
            ++m_line;
            m_rejections.add(fmt::format("longer than {} bytes", longest_line), m_line, m_rest);
            m_skipping = false;
            m_rest.clear();
        } else if (!m_rest.empty()) {
            m_rest.append(p, stop);
            const std::string whole = std::move(m_rest);
            m_rest.clear();
            line(whole.data(), whole.data() + whole.size(), out);
        } else {
            line(p, stop, out);
        }
        p = stop + 1;
    }
}

void TableDecoder::finish(bool take_it, RecordBatch& out) {
    if (m_rest.empty() && !m_skipping) return;
    const std::string last = std::move(m_rest);
    m_rest.clear();
    if (take_it && !m_skipping) {
        line(last.data(), last.data() + last.size(), out);
    } else {
        ++m_line;
        m_rejections.add(m_skipping ? fmt::format("longer than {} bytes", longest_line)
                                    : phrase("line without an end"),
                         m_line, last);
    }
    m_skipping = false;
}

void TableDecoder::line(const char* begin, const char* end, RecordBatch& out) {
    ++m_line;
    while (end > begin && end[-1] == '\r') // two of them where a text went through a program that adds one
        --end;
    if (begin == end) return;
    if (static_cast<std::size_t>(end - begin) > longest_line) {
        m_rejections.add(fmt::format("longer than {} bytes", longest_line), m_line, {begin, end});
        return;
    }
    const std::string_view text(begin, static_cast<std::size_t>(end - begin));
    if (*begin == '#') {
        m_comments.emplace_back(trimmed(text.substr(1)));
        if (m_comments.size() > 100) m_comments.erase(m_comments.begin());
        return;
    }
    if (m_columns == 0 && !learn(text)) return;

    // The usual line: m_columns numbers. Anything else is looked at again, slowly, in unusual_line().
    if (out.columns != m_columns) {
        out.clear();
        out.columns = m_columns;
    }
    const std::size_t at = out.values.size();
    out.values.resize(at + m_columns);
    double* value = out.values.data() + at;
    if (m_columns > 0 && read_usual_line(begin, end, m_separator, m_columns, value)) return took_row(out);
    FieldCount count = read_fields(text, m_separator, {value, m_columns});
    if (count.numbers < count.fields && m_separator != ',' && text.find(',') != std::string_view::npos) {
        std::string points(text); // decimal commas, where they make numbers of what was none
        std::replace(points.begin(), points.end(), ',', '.');
        if (const FieldCount other = read_fields(points, m_separator, {value, m_columns});
            other.numbers > count.numbers)
            count = other;
        else
            count = read_fields(text, m_separator, {value, m_columns});
    }
    // A hole is a failed measurement; so is a line of nothing but holes, if its words say so.
    const bool failed = count.failed > 0 && count.failed == count.fields;
    if (count.fields == m_columns && ((count.numbers > 0 && is_text(text)) || failed)) return took_row(out);
    out.values.resize(at);
    unusual_line(text, count.fields, count.numbers, out);
}

void TableDecoder::took_row(RecordBatch& out) {
    out.lines.push_back(static_cast<std::uint32_t>(m_line));
    m_other_run = m_bad_run = 0;
    ++m_rows;
}

/// "21,5C 48%": in words with blanks between a number with its unit stands behind a comma between digits. That
/// comma is a decimal one; in "21,48%" it may as well stand between two numbers.
bool has_number_with_unit(std::string_view text) {
    if (trimmed(text).find(' ') == std::string_view::npos) return false;
    for (std::size_t at = text.find(','); at != std::string_view::npos; at = text.find(',', at + 1)) {
        if (at == 0 || !detail::is_digit(text[at - 1])) continue;
        std::size_t end = at + 1;
        while (end < text.size() && detail::is_digit(text[end]))
            ++end;
        const char behind = end < text.size() ? text[end] : ' ';
        // No unit: the x of a hexadecimal number, the e of a power of ten.
        if (end > at + 1 && (behind == '%' || (letters::is_letter(behind) && letters::small(behind) != 'x' &&
                                               letters::small(behind) != 'e')))
            return true;
    }
    return false;
}

/// First lines: finds the separator and a header. True when the line itself is a record to be read.
bool TableDecoder::learn(std::string_view text) {
    if (!is_text(text)) {
        reject(phrase("characters that are no text"), text);
        return false;
    }
    if (take_header(text)) return false;
    const char separator = separator_of(text);
    std::size_t fields = 0;
    std::size_t numbers = 0;
    for_each_field(trimmed(text), separator, [&](std::string_view field) {
        ++fields;
        numbers += is_number(separator == ',' ? std::string(field) : with_point(field));
    });
    // "Gauge 1.2 ready" is a sentence: a table has no more words than numbers.
    if (numbers == 0 || (separator == ' ' && 2 * numbers < fields) ||
        (separator == ',' && has_number_with_unit(text))) {
        reject(phrase("text where numbers belong"), text);
        return false;
    }
    m_separator = separator;
    m_columns = fields;
    m_rows = 0;
    if (m_names.size() != fields) m_names.clear(); // of another format
    return true;
}

/// A line of words that could be names, between separators of any kind: the board was reset or programmed anew.
bool TableDecoder::take_header(std::string_view text) {
    const char separator = separator_of(text);
    if (separator == ' ') return false; // a sentence
    std::vector<std::string> words;
    bool all_names = true;
    for_each_field(trimmed(text), separator, [&](std::string_view field) {
        words.emplace_back(trimmed(field));
        const std::string& word = words.back();
        // "nan", "fail", "ON" are what a sender says in place of a number, and no names.
        const NumberText said = read_number_text(word);
        const bool decimal_comma = separator != ',' && is_number(with_point(word));
        // "rst:0x1" is what a 32-bit board says at its start, and what it says is a number.
        const auto colon = word.find(':');
        const bool with_number =
            colon != std::string::npos && colon + 1 < word.size() && detail::is_digit(word[colon + 1]);
        all_names = all_names && !word.empty() && !said.there && !said.failed && !decimal_comma && !with_number &&
                    word.size() <= 60;
    });
    if (!all_names || (words.size() == 1 && words != m_names && m_columns != 0)) return false;
    m_names = std::move(words);
    m_separator = separator;
    m_columns = m_names.size();
    m_rows = 0;
    ++m_headers;
    m_bad_run = 0;
    return true;
}

void TableDecoder::reject(std::string_view reason, std::string_view text) {
    m_rejections.add(reason, m_line, text);
    // What was learned from noise must not stand in the way of what comes after it.
    if (++m_bad_run >= relearn_after) {
        m_bad_run = 0;
        m_columns = 0;
        m_separator = 0;
    }
}

void TableDecoder::adopt(std::size_t columns, RecordBatch& out) {
    m_columns = columns;
    m_other_run = 0;
    m_rows = 0;
    out.clear();
    out.columns = columns;
}

void TableDecoder::unusual_line(std::string_view text, std::size_t fields, std::size_t numbers, RecordBatch& out) {
    if (!is_text(text)) return reject(phrase("characters that are no text"), text);
    if (numbers == 0) {
        // Names that no row has followed may be the end of a heading, cut in front: what is all numbers is right.
        if (m_rows == 0 && is_all_numbers(text)) {
            m_columns = 0;
            --m_line; // it is read again, and counted there
            return line(text.data(), text.data() + text.size(), out);
        }
        if (!take_header(text)) reject(phrase("text where numbers belong"), text);
        return;
    }
    // The first line may have been half a one, which fixes nothing: the second one is right. Later, three agreeing
    // lines outvote what was learned. A header is not outvoted once a row has followed it.
    if (m_rows <= 1 && fields > m_columns && m_names.empty()) {
        adopt(fields, out);
        --m_line; // it is read again, and counted there
        return line(text.data(), text.data() + text.size(), out);
    }
    m_other_run = fields == m_other_columns ? m_other_run + 1 : 1;
    m_other_columns = fields;
    const bool outvoted = m_other_run >= 3 && (m_names.empty() || m_rows == 0);
    reject(fmt::format("{} fields where {} belong", fields, m_columns), text);
    if (!outvoted) return;
    m_names.clear();
    adopt(fields, out);
}

std::vector<std::string> TableDecoder::take_comments() {
    std::vector<std::string> out;
    out.swap(m_comments);
    return out;
}

std::string TableDecoder::format_text() const {
    if (m_columns == 0) return phrase("not known yet");
    const std::string count = m_columns == 1 ? phrase("one number") : phrase("{} numbers", m_columns);
    if (m_columns == 1) return phrase("{} a line", count);
    return fmt::format("{}, {}{}", count, separator_word(m_separator),
                       m_names.empty() ? "" : phrase(", header line"));
}

std::string comment_value(std::string_view comment, std::string_view key) {
    const std::string wanted = std::string(key) + "=";
    std::size_t at = 0;
    while ((at = comment.find(wanted, at)) != std::string_view::npos) {
        if (at == 0 || comment[at - 1] == ' ') {
            const std::size_t start = at + wanted.size();
            return std::string(comment.substr(start, comment.find(' ', start) - start));
        }
        ++at;
    }
    return {};
}

} // namespace cognitum
