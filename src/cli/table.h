// A CSV file with a header as the verbs read it: cells by column, with the line of each row for messages.
#pragma once

#include "core/base/error.h"
#include "core/base/time.h"

#include <string>
#include <string_view>
#include <vector>

namespace cognitum::cli {

struct Column {
    std::string name;
    std::vector<std::string> cells;
};

struct Table {
    std::string path;
    std::vector<Column> columns;
    std::vector<int> lines; ///< of each row
    [[nodiscard]] std::size_t rows() const { return lines.size(); }
    /// By name, whatever its case; null: there is none.
    [[nodiscard]] const Column* find(std::string_view name) const;
    /// "file:line" of a row.
    [[nodiscard]] std::string where(std::size_t row) const;
};

/// Error for an empty file and for rows with more or fewer cells than the header.
Result<Table> read_table(const std::string& path);
/// Errors name the file and the line.
Result<TimeUs> time_of(const Table& table, const Column& column, std::size_t row);
Result<double> number_of(const Table& table, const Column& column, std::size_t row);

} // namespace cognitum::cli
