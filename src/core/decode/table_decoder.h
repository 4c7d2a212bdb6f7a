// Bytes from a board to records: lines of numbers between commas, semicolons, tabs or spaces, with or without a
// header. A number that is missing or broken is NaN in its record; a line that is no record is counted with its
// reason, never guessed at. Memory is bounded by the longest line that is accepted.
#pragma once

#include "core/decode/rejections.h"

#include <cstddef>
#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

/// Records of one decoder, row by row.
struct RecordBatch {
    std::size_t columns = 0;
    std::vector<double> values;       ///< rows × columns; NaN: no number there
    std::vector<std::uint32_t> lines; ///< line number of each row, from 1
    [[nodiscard]] std::size_t rows() const { return lines.size(); }
    void clear() {
        values.clear();
        lines.clear();
    }
};

class TableDecoder {
  public:
    static constexpr std::size_t longest_line = 4096;
    static constexpr std::size_t relearn_after = 8; ///< bad lines in a row: the format is found anew

    /// Decodes all whole lines in `bytes` (after what was left over) and appends them. A change of the number of
    /// columns, after a new header or three agreeing lines, starts `out` anew: rows before it are dropped from the
    /// batch, so callers take the rows after each feed.
    void feed(std::string_view bytes, RecordBatch& out);

    /// A last line without an end: taken as a line when `take_it` (files), else dropped and counted (links).
    void finish(bool take_it, RecordBatch& out);

    [[nodiscard]] const std::vector<std::string>& names() const { return m_names; } ///< empty: no header seen
    [[nodiscard]] char separator() const { return m_separator; }                    ///< 0: not known yet
    [[nodiscard]] std::size_t columns() const { return m_columns; }
    [[nodiscard]] std::uint64_t lines() const { return m_line; }
    /// For a stream that others read too: the next line has this number.
    void set_next_line(std::uint64_t line) { m_line = line - 1; }
    void forget_rejections() { m_rejections = {}; }
    [[nodiscard]] std::uint64_t headers() const { return m_headers; } ///< more than one: the board was reset
    [[nodiscard]] const Rejections& rejections() const { return m_rejections; }
    /// Comment lines ("# …") since the last call, without the mark.
    std::vector<std::string> take_comments();
    /// "three numbers, comma, header line" for a person.
    [[nodiscard]] std::string format_text() const;

  private:
    void line(const char* begin, const char* end, RecordBatch& out);
    bool learn(std::string_view text);
    bool take_header(std::string_view text);
    void reject(std::string_view reason, std::string_view text);
    void unusual_line(std::string_view text, std::size_t fields, std::size_t numbers, RecordBatch& out);
    void adopt(std::size_t columns, RecordBatch& out);
    void took_row(RecordBatch& out);

    std::string m_rest;
    bool m_skipping = false; ///< inside a line that is too long
    char m_separator = 0;
    std::size_t m_columns = 0;
    std::uint64_t m_line = 0;
    std::uint64_t m_headers = 0;
    std::size_t m_other_columns = 0, m_other_run = 0, m_bad_run = 0;
    std::uint64_t m_rows = 0; ///< since the number of columns was learned
    std::vector<std::string> m_names;
    std::vector<std::string> m_comments;
    Rejections m_rejections;
};

/// Value of `key` in a comment such as "board=gauge bits=10 reference=supply"; empty when it is not there.
std::string comment_value(std::string_view comment, std::string_view key);

} // namespace cognitum
