#include "core/decode/decoder.h"

#include "core/base/phrase.h"
#include "core/decode/number_text.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {
constexpr std::size_t looked_at = 4096;  ///< bytes that a guess may see beyond them
constexpr std::size_t lost_after = 1024; ///< bytes in which a format that was found gave no record
constexpr std::size_t again_after = 4;   ///< bad lines: is it another format?
constexpr std::size_t forget_after = 50; ///< good lines in a row: the bad ones before were nothing
constexpr std::size_t no_column = static_cast<std::size_t>(-1);

std::string_view column_text(std::string_view line, char separator, std::size_t column) {
    for (; column > 0; --column) {
        const std::size_t end = line.find(separator);
        if (end == std::string_view::npos) return {};
        line.remove_prefix(end + 1);
    }
    return trimmed(line.substr(0, line.find(separator)));
}

/// "nan,nan": words that say that nothing was measured, and no names.
bool is_row_of_failures(std::string_view line, char separator) {
    while (true) {
        const std::size_t end = std::min(line.find(separator), line.size());
        const NumberText said = read_number_text(line.substr(0, end));
        if (said.failed || said.there) return true;
        if (end == line.size()) return false;
        line.remove_prefix(end + 1);
    }
}

/// Two or more plain names between separators: somebody begins a table.
bool looks_like_header(std::string_view line) {
    line = trimmed(line);
    const std::size_t at = line.find_first_of(",;\t");
    if (at == std::string_view::npos) return false;
    bool start = true;
    for (const char c : line) {
        const bool letter = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_';
        const bool inner = (c >= '0' && c <= '9') || c == '.' || c == '%' || c == '/';
        if (c == line[at]) {
            if (start) return false;
            start = true;
        } else if (letter || (inner && !start)) {
            start = false;
        } else {
            return false;
        }
    }
    return !start && !is_row_of_failures(line, line[at]);
}

bool has_digit(std::string_view line) {
    return line.find_first_of("0123456789") != std::string_view::npos;
}
} // namespace

// A format is handed on as a value, as the stream does.
Decoder::Decoder(Format format) // NOLINT(performance-unnecessary-value-param)
    : m_told(format.kind != FormatKind::automatic) {
    adopt(format);
}

bool Decoder::is_json() const {
    return m_format.kind == FormatKind::json || m_format.kind == FormatKind::senml;
}

bool Decoder::by_lines() const {
    return !is_json() && !m_frames;
}

void Decoder::feed(std::string_view bytes, Records& out) {
    while (!bytes.empty()) {
        const std::string_view piece = bytes.substr(0, longest_message);
        bytes.remove_prefix(piece.size());
        feed_piece(piece, out);
    }
    if (!out.rows.empty())
        for (std::size_t i = out.rows.back().first; i < out.cells.size(); ++i)
            m_fields.note(out.cells[i].field, out.cells[i].value);
    m_fields.note_all(out);
}

void Decoder::feed_piece(std::string_view piece, Records& out) {
    forget_names_of_noise(out);
    const std::size_t rows = out.rows.size();
    m_silent_bytes += piece.size();
    if (m_frames)
        m_frames->feed(piece, m_fields, out, m_rejections);
    else
        feed_text(piece, out);
    if (out.rows.size() > rows) m_silent_bytes = 0;
    if (m_told) return;
    // What was found in noise must not stand in the way of what comes after it.
    const bool is_open = !m_rest.empty() && (m_rest.front() == '{' || m_rest.front() == '[');
    if ((m_frames || is_json() || is_open) &&
        hear_lines(piece, out.rows.size() - std::min(rows, out.rows.size()), out))
        return;
    if (m_silent_bytes > lost_after && m_format.kind != FormatKind::automatic) {
        if (is_json()) m_rest.erase(0, std::min(m_rest.find('\n'), m_rest.size() - 1) + 1);
        adopt({});
        if (!m_rest.empty()) feed_text({}, out);
    }
}

void Decoder::feed_text(std::string_view piece, Records& out) {
    m_rest += piece;
    // The first whole line is enough to begin with; without any, a good deal of bytes is.
    if (m_format.kind == FormatKind::automatic && m_rest.size() >= m_next_try &&
        m_rest.find('\n') == std::string::npos) {
        m_next_try = 2 * m_rest.size();
        find_format(m_rest);
    }
    std::size_t start = 0;
    while (by_lines()) {
        const std::size_t end = m_rest.find('\n', start);
        if (end == std::string::npos) break;
        // Brackets that have not closed yet: it may be JSON over several lines.
        if (m_format.kind == FormatKind::automatic && (m_rest[start] == '{' || m_rest[start] == '[') &&
            m_rest.size() - start < longest_line && json_length(std::string_view(m_rest).substr(start)) == 0)
            break;
        const std::string line(m_rest, start, end - start);
        // Noise is not asked line by line, or it would cost more than it is worth. Words are asked apart from lines
        // with numbers: what a board says at its start must not keep its first numbers from being asked.
        Asking& asking = has_digit(line) ? m_numbers : m_words;
        const bool worth_asking = !is_plain_text(trimmed(line))    ? m_line % 64 == 0
                                  : trimmed(line).starts_with('#') ? false
                                                                   : ++asking.since >= asking.after;
        if (m_format.kind == FormatKind::automatic && !m_skipping && worth_asking) {
            asking.since = 0;
            asking.after = std::min<std::size_t>(2 * asking.after, 16);
            // The words before it say nothing of a line with numbers, and much of one with words.
            if (&asking == &m_numbers) find_format(m_rest.substr(start, looked_at));
            if (m_format.kind == FormatKind::automatic) find_format(m_recent + m_rest.substr(start, looked_at));
            if (!by_lines()) break; // what came is read anew, in the format that was found
        }
        ++m_line;
        start = end + 1;
        if (m_skipping || line.size() > longest_line)
            m_rejections.add(fmt::format("longer than {} bytes", longest_line), m_line, line);
        else if (m_midway)
            take_first_line(line, out);
        else
            take_line(line, out);
        m_skipping = m_midway = false;
    }
    m_rest.erase(0, start);
    if (m_frames) {
        const std::string all = std::move(m_rest);
        m_rest.clear();
        m_frames->feed(all, m_fields, out, m_rejections);
    } else if (is_json()) {
        take_json(out);
    } else if (m_rest.size() > longest_line) {
        m_skipping = true;
        m_rest.resize(80);
    }
}

/// A header or a comment is known as one; numbers may have lost their first digits.
void Decoder::take_first_line(std::string_view line, Records& out) {
    const std::size_t rows = out.rows.size();
    take_line(line, out);
    if (out.rows.size() == rows || line_sum(line) == LineSum::holds) return;
    while (out.rows.size() > rows)
        out.drop();
    reject(phrase("the first line, which may be half a one"), line);
}

void Decoder::take_comment(std::string_view line) {
    if (is_plain_text(line)) m_silent_bytes = 0; // a board that answers is heard, if not measured
    m_comments.emplace_back(trimmed(line.substr(1)));
    if (m_comments.size() > 100) m_comments.erase(m_comments.begin());
}

void Decoder::take_line(std::string_view line, Records& out) {
    forget_names_of_noise(out);
    while (!line.empty() && line.back() == '\r')
        line.remove_suffix(1);
    if (trimmed(line).empty()) return;
    if (line.front() == '#') return take_comment(line);
    if (const LineSum sum = line_sum(line); sum != LineSum::none) {
        const bool sentence = trimmed(line).front() == '$' || trimmed(line).front() == '!';
        if (sum == LineSum::broken && (sentence || m_sums > 0))
            return reject(phrase("a checksum that does not hold"), line);
        if (sum == LineSum::holds) {
            ++m_sums;
            line = without_sum(line);
            if (sentence) return take_sentence(line, out);
        }
    }
    if (!m_told && m_format.kind != FormatKind::table && looks_like_header(line)) {
        Format table;
        table.kind = FormatKind::table;
        adopt(table);
        m_reason = phrase("a header line names the columns");
    }
    if (m_format.kind == FormatKind::automatic) {
        remember(line);
        return reject(is_plain_text(line) ? phrase("text where numbers belong")
                                          : phrase("characters that are no text"),
                      line);
    }
    Reason reason = read_line(line, out);
    // Names and values may stand between the lines of any other format.
    if (!reason.empty() && m_format.kind != FormatKind::pairs && looks_like_pairs(line) && is_plain_text(line))
        reason = read_pairs(line, m_line, m_fields, out);
    if (reason.empty()) {
        ++m_taken;
        if (++m_good_run >= forget_after) m_recent.clear(), m_bad = m_tries = 0;
        return;
    }
    reject(reason, line);
    if (m_told) return;
    // Bad lines that come again and again may be another format; only they speak for it.
    const bool in_a_row = m_good_run == 0;
    m_good_run = 0;
    remember(line);
    if (++m_bad < again_after) return;
    m_bad = 0;
    const std::string sample = std::move(m_recent);
    m_recent.clear();
    const auto guesses = guess_formats(sample);
    if (guesses.empty() || guesses.front().score < 0.7) return;
    // A table of another width is found anew as well, unless a header spoke for the first one.
    const bool other = guesses.front().format.kind != m_format.kind;
    if (guesses.front().format.kind == FormatKind::text && m_taken > 5) return; // sentences explain anything
    const bool narrower =
        m_format.kind == FormatKind::table && in_a_row && (m_table.headers() == 0 || ++m_tries > 1);
    if (!other && !narrower) return;
    m_format = {};
    find_format(sample);
    RecordBatch batch;
    if (m_format.kind == FormatKind::table) m_table.feed(sample, batch); // so that it knows its width at once
    m_table.forget_rejections();
}

void Decoder::take_sentence(std::string_view line, Records& out) {
    if (const Reason reason = read_sentence(line, m_line, m_fields, out); !reason.empty())
        return reject(reason, line);
    ++m_taken;
    const bool open =
        m_format.kind == FormatKind::automatic || (m_format.kind == FormatKind::table && m_table.columns() == 0);
    if (m_told || !open) return;
    Format sentences;
    sentences.kind = FormatKind::text;
    adopt(sentences);
    m_reason = phrase("sentences between $ and a checksum that holds");
}

Reason Decoder::read_line(std::string_view line, Records& out) {
    if (!is_plain_text(line)) return phrase("characters that are no text");
    switch (m_format.kind) {
    case FormatKind::table: return read_table_line(line, out);
    case FormatKind::pairs: return read_pairs(line, m_line, m_fields, out);
    case FormatKind::text: return read_text(line, m_line, m_fields, out);
    case FormatKind::scratchpad: return read_scratchpad_line(line, m_line, m_fields, out);
    case FormatKind::humidity40: return read_humidity_line(line, m_line, m_fields, out);
    default: return phrase("no format found yet");
    }
}

Reason Decoder::read_table_line(std::string_view line, Records& out) {
    if (m_table.headers() > 0 && looks_like_pairs(line)) return phrase("names and values"); // let the pairs have it
    const std::uint64_t rejected = m_table.rejections().total();
    const std::uint64_t headers = m_table.headers();
    m_batch.clear();
    m_table.set_next_line(m_line);
    const std::string whole = std::string(line) + "\n";
    m_table.feed(whole, m_batch);
    m_headers += m_table.headers() - headers;
    if (m_table.rejections().total() > rejected) {
        // The table counted it; it is told from here, so that all formats are told alike.
        m_table_reason = m_table.rejections().last().back().reason;
        m_table.forget_rejections();
        return m_table_reason;
    }
    if (m_batch.rows() == 0) return {}; // a header
    name_columns();
    out.begin(m_line);
    for (std::size_t i = 0; i < m_batch.columns; ++i)
        if (i == m_time_column)
            out.rows.back().time = parse_time(column_text(line, m_table.separator(), i));
        else if (m_table_fields[i] != FieldTable::none)
            out.add(m_table_fields[i], m_batch.values[i]);
    for (std::size_t i = 0; i < m_table_names.size(); ++i) {
        const std::string_view text = column_text(line, m_table.separator(), i);
        if (!is_sender_id(m_table_names[i], text)) continue;
        m_fields.key_by(out, text);
        break;
    }
    return {};
}

bool Decoder::is_table_row(const Records& records, std::size_t row) const {
    const Records::Row& r = records.rows[row];
    return m_format.kind == FormatKind::table && r.count == m_table_fields.size() && r.count > 0 &&
           records.cells[r.first].field == m_table_fields.front();
}

void Decoder::name_columns() {
    if (m_table_fields.size() == m_batch.columns && m_table_names == m_table.names()) return;
    m_table_names = m_table.names();
    m_table_fields.clear();
    const auto time = std::find(m_table_names.begin(), m_table_names.end(), "time");
    m_time_column =
        time == m_table_names.end() ? no_column : static_cast<std::size_t>(time - m_table_names.begin());
    for (std::size_t i = 0; i < m_batch.columns; ++i)
        m_table_fields.push_back(m_fields.at(i < m_table_names.size() ? m_table_names[i]
                                             : m_batch.columns == 1   ? std::string("value")
                                                                      : phrase("value {}", i + 1)));
}

void Decoder::finish(bool take_it, Records& out) {
    if (m_rest.empty() && !m_skipping) return;
    if (m_format.kind == FormatKind::automatic && !m_skipping) { // little came; it is all there is
        find_format(m_rest);
        const std::string all = std::move(m_rest);
        m_rest.clear();
        if (m_frames) return m_frames->feed(all, m_fields, out, m_rejections);
        m_rest = all;
        if (is_json()) take_json(out);
    }
    const std::string last = std::move(m_rest);
    m_rest.clear();
    if (m_frames) return; // part of a frame is none
    if (is_json()) {
        if (!trimmed(last).empty()) m_rejections.add(phrase("line without an end"), m_line + 1, last);
        return;
    }
    ++m_line;
    if (m_skipping)
        m_rejections.add(fmt::format("longer than {} bytes", longest_line), m_line, last);
    else if (take_it)
        take_line(last, out);
    else
        m_rejections.add(phrase("line without an end"), m_line, last);
    m_skipping = false;
}

void Decoder::reject(Reason reason, std::string_view text) {
    m_rejections.add(reason, m_line, text);
}

std::string Decoder::format_text() const {
    if (m_format.kind == FormatKind::automatic) return phrase("not known yet");
    if (m_format.kind == FormatKind::table) return m_table.format_text();
    if (m_format.kind == FormatKind::frames || m_format.kind == FormatKind::record)
        return format_kind_title(m_format.kind) + ", " + cognitum::format_text(m_format);
    return format_kind_title(m_format.kind);
}

std::vector<std::string> Decoder::take_comments() {
    std::vector<std::string> out;
    out.swap(m_comments);
    return out;
}

} // namespace cognitum
