// Rows of a CSV file, on the way to samples: fields, whole lines from a file or a pipe, and one row as numbers.
#pragma once

#include "core/base/local_time.h"
#include "store/exchange/csv_import.h"

#include <string>
#include <string_view>
#include <vector>

namespace cognitum::csv {

/// Without blanks, tabs and carriage returns at both ends.
std::string_view trimmed(std::string_view text);
std::string lower(std::string_view text);

/// A name without the ' that csv_field() puts before what would run as a formula.
std::string_view as_named(std::string_view field);

/// Fields of a row, trimmed; a field in quotes may hold separators and doubled quotes (RFC 4180). The views point
/// into `row` or into `unquoted`.
void split(std::string_view row, char separator, std::vector<std::string_view>& fields,
           std::vector<std::string>& unquoted);

/// Whole lines from a file descriptor; fill() wakes up at least twice a second, so that a silent pipe stops nobody.
class Lines {
  public:
    static constexpr std::size_t longest = 1 << 20; ///< bytes of a line; of a longer one only the start is kept
    enum class Got { data, nothing_yet, end, failed };

    /// `head` was read already.
    explicit Lines(int descriptor, std::string head = {})
        : m_descriptor(descriptor), m_buffer(std::move(head)), m_total(m_buffer.size()) {}
    Got fill();
    /// Next whole line; at the end of the input also a last one without an end. The view holds until fill().
    bool next(std::string_view& line);
    [[nodiscard]] bool is_too_long() const { return m_skipping; }      ///< the line that has not ended yet
    [[nodiscard]] bool was_too_long() const { return m_was_too_long; } ///< the line that next() gave last
    [[nodiscard]] std::uint64_t total() const { return m_total; }      ///< bytes read

  private:
    int m_descriptor;
    std::string m_buffer;
    std::size_t m_at = 0;
    std::uint64_t m_total = 0;
    bool m_ended = false;
    bool m_skipping = false; ///< inside a line that is too long; its start stands at m_at
    bool m_was_too_long = false;
};

/// A number of a row; NaN with `none`: an empty cell, NaN with a cause: a failed measurement.
struct Cell {
    double number;
    Cause cause;
};

/// One row as numbers, or the reason why it is none. `columns` must outlive it.
class RowReader {
  public:
    RowReader(char separator, const std::vector<CsvColumn>& columns, TimeReader times = TimeReader());
    /// Empty reason: time and a cell for each column are filled in.
    std::string read(std::string_view row, TimeUs& time, std::vector<Cell>& cells);
    /// The fields and the time alone; the same reasons.
    std::string read_fields(std::string_view row, TimeUs& time);
    /// A field as a number or a failed measurement; a reason where it is text.
    std::string read_cell(std::string_view field, Cell& cell) const;
    /// Time of a row as it stands, with its day; empty where there is none.
    std::string_view time_of(std::string_view row);
    [[nodiscard]] const std::vector<std::string_view>& fields() const { return m_fields; } ///< of the last row
    /// The fields of the last row, as they stand.
    [[nodiscard]] std::vector<std::string> texts() const { return {m_fields.begin(), m_fields.end()}; }

  private:
    [[nodiscard]] std::string_view time_text();
    char m_separator;
    const std::vector<CsvColumn>& m_columns;
    std::size_t m_time_column = 0;
    std::optional<std::size_t> m_date_column; ///< where the day stands beside the time of day
    TimeReader m_times;
    std::string m_joined;
    std::vector<std::string_view> m_fields;
    std::vector<std::string> m_unquoted;
};

} // namespace cognitum::csv
