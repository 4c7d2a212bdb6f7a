// CSV into a bench: a header with `time` and a column for each reading; good rows are kept, bad ones set aside and
// counted with their reason. Counts that a maker logged elsewhere go through the reading's own path.
#pragma once

#include "core/catalog/cards.h"
#include "core/decode/rejections.h"
#include "store/bench_file.h"

#include <functional>
#include <string>
#include <vector>

namespace cognitum {

/// What a column of the file is.
struct CsvColumn {
    std::string name; ///< as in the header, without a unit in brackets
    std::string unit; ///< from "name [unit]"; empty: not said
    /// causes: words that say why the reading has no value there, in a column called "NAME cause".
    enum class Use { skip, time, values, raw, causes } use = Use::skip;
    std::string reading; ///< id of the reading it goes to; empty: one is created
};

struct CsvPreview {
    char separator = ',';
    std::vector<CsvColumn> columns;
    std::vector<std::vector<std::string>> rows; ///< the first ones, as they stand
    std::uint64_t good = 0;                     ///< among the rows that were looked at
    Rejections rejected;
};

/// Looks at the beginning of a file. A column is matched by the reading's name or id; "[count]" behind it, or
/// `as_raw`, makes it raw counts. Error "name:1: …" when there is no header with `time`.
Result<CsvPreview> preview_csv(const std::string& name, std::string_view head, const Bench& bench, bool as_raw,
                               std::size_t rows = 200);

struct ImportReport {
    std::uint64_t rows = 0;            ///< taken
    std::uint64_t samples = 0;         ///< added
    std::vector<std::string> readings; ///< ids that got samples
    Rejections rejected;
};

struct ImportOptions {
    bool as_raw = false;
    std::vector<CsvColumn> columns;   ///< empty: as preview_csv finds them
    const Catalog* catalog = nullptr; ///< whose cards say which numbers are failed measurements; null: none do
    /// Told the bytes read so far, about ten times a second; false stops after what was committed.
    std::function<bool(std::uint64_t)> progress;
};

/// Imports from an open file descriptor (a file or a pipe), committing at least once a second. Readings that are
/// not in the plan are created in it. A line longer than csv::Lines::longest is one rejected line. Error when
/// nothing could be taken; the bench is then as it was. An error later on says how many rows are saved.
Result<ImportReport> import_csv(BenchFile& file, Bench& bench, const std::string& name, int descriptor,
                                const ImportOptions& options = {});

} // namespace cognitum
