// A CSV text with a header, whole: cells by column, with the line of each row for messages. For files of readings
// that go into a bench: csv_import.h.
#pragma once

#include "core/base/error.h"
#include "core/calibrate/gate.h"

#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

struct TextColumn {
    std::string name;
    std::vector<std::string> cells;
};

struct TextTable {
    std::string path;
    std::vector<TextColumn> columns;
    std::vector<int> lines; ///< of each row
    [[nodiscard]] std::size_t rows() const { return lines.size(); }
    /// By name, whatever its case; null: there is none.
    [[nodiscard]] const TextColumn* find(std::string_view name) const;
    /// "file:line" of a row.
    [[nodiscard]] std::string where(std::size_t row) const;
};

/// Error for an empty file and for rows with more or fewer cells than the header.
Result<TextTable> parse_table(const std::string& path, std::string_view text);
/// Errors name the file and the line.
Result<TimeUs> time_of(const TextTable& table, const TextColumn& column, std::size_t row);
Result<double> number_of(const TextTable& table, const TextColumn& column, std::size_t row);
/// Columns `time` and `value`, in order of time; rows without a value are gaps. Error without those columns, for a
/// cell that is no time or number, and where no value is left.
Result<std::vector<TimedValue>> series_of(const TextTable& table);

} // namespace cognitum
