// Which format a decoder believes in: found, taken up, doubted and given up.
#include "core/base/phrase.h"
#include "core/decode/decoder.h"
#include "core/decode/number_text.h"

#include <algorithm>
#include <fmt/format.h>
#include <utility>

namespace cognitum {

namespace {
constexpr std::size_t longest_remembered = 512; ///< bytes of a line; a longer one would outweigh all others
constexpr std::size_t kept_recent = 8;          ///< lines
constexpr std::size_t first_try = 64;           ///< bytes without a line's end
constexpr std::size_t speaking_lines = 4;       ///< good lines that are enough to doubt a format that was guessed
constexpr std::size_t heard_bytes = 1024;
} // namespace

void Decoder::adopt(const Format& format) {
    m_forget_names = m_fields.fields().size() > FieldTable::most_fields / 2;
    m_format = format;
    m_bad = m_good_run = m_silent_bytes = m_taken = 0;
    m_next_try = first_try;
    m_numbers = m_words = {};
    m_recent.clear();
    m_heard.clear();
    m_heard_lines = m_heard_rows = 0;
    m_frames.reset();
    if (format.kind == FormatKind::frames || format.kind == FormatKind::record)
        m_frames = std::make_unique<FrameReader>(format);
    if (format.kind == FormatKind::table) m_table = TableDecoder();
}

/// Noise that was taken for text makes up names until the table of them is full, and no good one would be taken.
void Decoder::forget_names_of_noise(Records& out) {
    if (!std::exchange(m_forget_names, false)) return;
    out.rows.clear();
    out.cells.clear();
    m_fields.clear();
    m_table_names.clear();
    m_table_fields.clear();
}

void Decoder::find_format(std::string_view sample) {
    const auto guesses = guess_formats(sample);
    if (guesses.empty()) {
        m_reason = no_format_reason(sample);
        return;
    }
    const FormatGuess& best = guesses.front();
    m_reason = best.reason;
    if (guesses.size() > 1)
        m_reason += phrase("; next likely: {} ({})", format_kind_title(guesses[1].format.kind), guesses[1].reason);
    if (best.format == m_format) return;
    adopt(best.format);
}

/// Garbage says nothing of a format, and old lines say little.
void Decoder::remember(std::string_view line) {
    if (!is_plain_text(line) || line.size() > longest_remembered) return;
    m_recent += line;
    m_recent += '\n';
    while (std::count(m_recent.begin(), m_recent.end(), '\n') > static_cast<std::ptrdiff_t>(kept_recent))
        m_recent.erase(0, m_recent.find('\n') + 1);
}

/// A guess that takes bytes, not lines, hears lines all the same: when the last ones are good by themselves, and it
/// makes nothing of them, it was wrong. They are read again. True: that happened.
bool Decoder::hear_lines(std::string_view piece, std::size_t rows, Records& out) {
    m_heard += piece;
    m_heard_rows += rows;
    m_heard_lines += static_cast<std::size_t>(std::count(piece.begin(), piece.end(), '\n'));
    if (m_heard.size() > heard_bytes) m_heard.erase(0, m_heard.size() - heard_bytes);
    if (m_heard_lines < speaking_lines) return false;
    const bool reads_them = 2 * m_heard_rows >= m_heard_lines;
    m_heard_lines = m_heard_rows = 0;
    if (reads_them) return false;
    const std::size_t end = m_heard.rfind('\n');
    std::size_t start = end;
    for (std::size_t n = 0; n < speaking_lines; ++n) {
        const std::size_t before = start == 0 ? std::string::npos : m_heard.rfind('\n', start - 1);
        if (before == std::string::npos) return false; // it may be the end of a longer line
        const std::size_t line_start = before + 1;
        const std::string_view line = trimmed(std::string_view(m_heard).substr(line_start, start - line_start));
        // Lines within a message of JSON are indented, or begin with a quote or a closing bracket.
        const char first = m_heard[line_start];
        if (line.empty() || !is_plain_text(line) ||
            std::string_view(" \t\"]}").find(first) != std::string_view::npos)
            return false;
        start = before;
    }
    const std::string sample = m_heard.substr(start + 1, end - start);
    const auto guesses = guess_formats(sample);
    if (guesses.empty() || guesses.front().score < 0.75) return false;
    const std::string rest = m_heard.substr(end + 1);
    m_rest.clear();
    adopt({});
    feed_text(sample + rest, out);
    return true;
}

} // namespace cognitum
