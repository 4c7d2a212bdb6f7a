#include "store/exchange/text_table.h"

#include "core/base/json_reader.h" // for COGNITUM_TRY
#include "core/base/phrase.h"
#include "core/decode/number.h"
#include "store/exchange/csv_rows.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

const TextColumn* TextTable::find(std::string_view name) const {
    for (const TextColumn& c : columns)
        if (csv::lower(c.name) == name) return &c;
    return nullptr;
}

std::string TextTable::where(std::size_t row) const {
    return fmt::format("{}:{}", path, lines[row]);
}

Result<TextTable> parse_table(const std::string& path, std::string_view text) {
    TextTable out;
    out.path = path;
    std::vector<std::string_view> fields;
    std::vector<std::string> unquoted;
    std::size_t at = 0;
    for (int number = 1; at < text.size(); ++number) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        const std::string_view row = csv::trimmed(text.substr(at, end - at));
        at = end + 1;
        if (row.empty()) continue;
        csv::split(row, ',', fields, unquoted);
        if (out.columns.empty()) {
            for (const std::string_view name : fields)
                out.columns.push_back({std::string(csv::trimmed(name)), {}});
            continue;
        }
        if (fields.size() != out.columns.size())
            return failure(phrase("{} cells, where the header has {}.", fields.size(), out.columns.size()),
                           fmt::format("{}:{}", path, number), phrase("Mend that line; nothing was read."));
        for (std::size_t i = 0; i < fields.size(); ++i)
            out.columns[i].cells.emplace_back(csv::trimmed(fields[i]));
        out.lines.push_back(number);
    }
    if (out.columns.empty())
        return failure(phrase("the file is empty."), path, phrase("Write a header line and rows."));
    return out;
}

Result<TimeUs> time_of(const TextTable& table, const TextColumn& column, std::size_t row) {
    if (const auto t = parse_time(column.cells[row])) return *t;
    return failure(phrase("\"{}\" is no time.", column.cells[row]), table.where(row),
                   phrase("Write ISO 8601, or seconds since 1970."));
}

Result<double> number_of(const TextTable& table, const TextColumn& column, std::size_t row) {
    const std::string& cell = column.cells[row];
    const char* p = cell.data();
    double value = 0;
    if (!read_number(p, cell.data() + cell.size(), value) || p != cell.data() + cell.size())
        return failure(phrase("\"{}\" is not a number.", cell), table.where(row),
                       phrase("Mend that line; nothing was read."));
    return value;
}

Result<std::vector<TimedValue>> series_of(const TextTable& table) {
    const TextColumn *times = table.find("time"), *values = table.find("value");
    if (!times || !values)
        return failure(phrase("the header needs the columns time and value."), table.path + ":1",
                       phrase("Write: time,value"));
    std::vector<TimedValue> out;
    for (std::size_t i = 0; i < table.rows(); ++i) {
        COGNITUM_TRY(time, time_of(table, *times, i));
        if (values->cells[i].empty()) continue;
        COGNITUM_TRY(value, number_of(table, *values, i));
        out.push_back({time, value});
    }
    if (out.empty())
        return failure(phrase("there are no values."), table.path, phrase("Add rows below the header."));
    std::stable_sort(out.begin(), out.end(),
                     [](const TimedValue& a, const TimedValue& b) { return a.time < b.time; });
    return out;
}

} // namespace cognitum
