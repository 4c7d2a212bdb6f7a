// A recorded series on the command line: columns time and value, in order of time.
#include "cli/cli.h"

#include "core/decode/number_text.h"
#include "core/decode/rejections.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum::cli {

namespace {

/// The cells of a row that are wanted.
struct Columns {
    std::size_t time = 0, value = 1;
};

std::string_view cell_of(std::string_view line, std::size_t column) {
    for (; column > 0; --column) {
        const std::size_t comma = line.find(',');
        if (comma == std::string_view::npos) return {};
        line.remove_prefix(comma + 1);
    }
    return trimmed(line.substr(0, line.find(',')));
}

/// Empty: the line is no header.
std::optional<Columns> header_of(std::string_view line) {
    const auto cells = static_cast<std::size_t>(std::count(line.begin(), line.end(), ',')) + 1;
    std::optional<std::size_t> time;
    std::optional<std::size_t> value;
    for (std::size_t i = 0; i < cells; ++i) {
        if (cell_of(line, i) == "time") time = i;
        if (cell_of(line, i) == "value") value = i;
    }
    if (!time) return {};
    return Columns{*time, value.value_or(*time == 0 ? 1 : 0)};
}

} // namespace

Result<std::vector<RawSample>> read_raw_series(const std::string& path, EmptyCell empty) {
    const auto text = read_input(path);
    if (!text) return tl::make_unexpected(text.error());
    std::vector<RawSample> out;
    std::size_t line_number = 0;
    Columns columns;
    bool first = true;
    for (std::size_t at = 0; at < text->size();) {
        const std::size_t end = std::min(text->find('\n', at), text->size());
        std::string_view line = trimmed(std::string_view(*text).substr(at, end - at));
        at = end + 1;
        ++line_number;
        if (line_number == 1 && line.starts_with("\xEF\xBB\xBF")) line.remove_prefix(3);
        if (line.empty() || line.front() == '#') continue;
        if (std::exchange(first, false))
            if (const auto header = header_of(line)) {
                columns = *header;
                continue;
            }
        const std::string_view time_cell = cell_of(line, columns.time);
        const auto where = [&] { return fmt::format("{}:{}", path, line_number); };
        if (line.find(',') == std::string_view::npos)
            return failure("a row needs a time and a value.", where(), "Write time,value with a comma between.");
        const auto time = parse_time(time_cell);
        if (!time)
            return failure(fmt::format("“{}” is no time.", shown_text(time_cell)), where(),
                           "Write ISO 8601 or seconds since 1970.");
        if (!out.empty() && *time < out.back().time)
            return failure("this time is before the one above it.", where(), "Sort the rows by time.");
        const std::string_view value_cell = cell_of(line, columns.value);
        const NumberText number = read_number_text(value_cell);
        if (!number.there && !number.failed)
            return failure(fmt::format("“{}” is no number.", shown_text(value_cell)), where(),
                           "Leave the cell empty where there was no value.");
        if (empty == EmptyCell::no_sample && value_cell.empty()) continue;
        out.push_back({*time, number.value});
    }
    if (out.empty()) return failure("there are no rows.", path, "Write time,value and rows below it.");
    return out;
}

} // namespace cognitum::cli
