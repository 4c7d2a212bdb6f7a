// CSV into a bench: a header with `time` and a column for each reading; good rows are kept, bad ones set aside and
// counted with their reason. Counts that a maker logged elsewhere go through the reading's own path.
#pragma once

#include "core/base/local_time.h"
#include "store/exchange/import_run.h"

#include <functional>
#include <string>
#include <vector>

namespace cognitum {

/// What a column of the file is.
struct CsvColumn {
    std::string name; ///< as in the header, without a unit in brackets
    std::string unit; ///< from "name [unit]"; empty: not said
    /// date: the day, where the column of the time holds the time of day alone. causes: words that say why the
    /// reading has no value there, in a column called "NAME cause".
    enum class Use { skip, time, date, values, raw, causes } use = Use::skip;
    std::string reading; ///< id of the reading it goes to; empty: one is created
};

/// What becomes of a column's numbers, for a person: "°F become °C", "counts, through its path".
Result<std::string> column_says(const CsvColumn& column, const Bench& bench);

struct CsvPreview {
    char separator = ',';
    /// One row for each number: time, name, value and perhaps unit. The columns then say nothing of readings.
    bool is_long = false;
    std::vector<CsvColumn> columns;
    std::vector<std::vector<std::string>> rows; ///< the first ones, as they stand
    std::uint64_t good = 0;                     ///< among the rows that were looked at
    Rejections rejected;
    std::optional<TimeUs> first;    ///< time of the first good row
    bool local_times = false;       ///< some have no zone
    std::optional<DateOrder> order; ///< empty: the dates can be read as day first and as month first
};

struct ImportOptions {
    bool as_raw = false;
    std::vector<CsvColumn> columns;      ///< empty: as preview_csv finds them
    const Catalog* catalog = nullptr;    ///< whose cards say which numbers are failed measurements; null: none do
    ZoneOffset zone = {};                ///< of times that name none; empty: UTC
    std::optional<DateOrder> order = {}; ///< empty: found from the first rows, an error where they leave it open
    /// Told the bytes read so far, about ten times a second; false stops after what was committed.
    std::function<bool(std::uint64_t)> progress;
};

/// Looks at the beginning of a file. A column is matched by the reading's name or id; "[count]" behind it, or
/// `as_raw`, makes it raw counts. Error "name:1: …" when there is no header with `time`.
Result<CsvPreview> preview_csv(const std::string& name, std::string_view head, const Bench& bench,
                               const ImportOptions& options, std::size_t rows = 200);

/// Time of the last good row of the file's end, whose first line may be cut; empty: there is none.
std::optional<TimeUs> last_time(const CsvPreview& preview, std::string_view end_of_file,
                                const ImportOptions& options);

/// Imports from an open file descriptor (a file or a pipe), committing at least once a second. Readings that are
/// not in the plan are created in it. A line longer than csv::Lines::longest is one rejected line. Error when
/// nothing could be taken; the bench is then as it was. An error later on says how many rows are saved. `head` is
/// what was read from the descriptor already.
Result<ImportReport> import_csv(BenchFile& file, Bench& bench, const std::string& name, int descriptor,
                                const ImportOptions& options = {}, std::string head = {});

} // namespace cognitum
