// The head of a CSV file and each of its rows.
#include "fuzz.h"
#include "store/exchange/csv_import.h"
#include "store/exchange/csv_rows.h"

#include <algorithm>

using namespace cognitum;

HARNESS(csv)(const std::uint8_t* data, std::size_t size) {
    const std::string_view text = text_of(data, size);
    ImportOptions options;
    options.as_raw = size % 2 == 0;
    const auto preview = preview_csv("fuzz.csv", text, {}, options);
    if (!preview) return 0;
    csv::RowReader reader(preview->separator, preview->columns);
    TimeUs time = 0;
    std::vector<csv::Cell> cells;
    std::size_t at = 0;
    while (at < text.size()) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        if (reader.read(text.substr(at, end - at), time, cells).empty())
            PROMISE(cells.size() <= preview->columns.size());
        at = end + 1;
    }
    return 0;
}
