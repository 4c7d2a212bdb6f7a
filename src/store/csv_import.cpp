#include "store/csv_import.h"

#include "core/decode/number_text.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "store/csv_intake.h"
#include "store/samples.h"

#include <algorithm>
#include <cerrno>
#include <chrono>
#include <cmath>
#include <cstring>
#include <fmt/format.h>
#include <future>
#include <set>
#include <span>
#include <utility>

namespace cognitum {

namespace {

using csv::Lines;
using csv::lower;
using csv::RowReader;
using csv::split;

constexpr std::size_t most_columns = 1000;
constexpr std::size_t samples_at_once = 250'000; ///< that are kept while as many are read

const Reading* reading_called(const Bench& bench, const std::string& name) {
    for (const Reading& r : bench.readings)
        if (lower(r.name) == lower(name) || r.id == name) return &r;
    return nullptr;
}

Result<CsvPreview> read_header(const std::string& name, std::string_view header, const Bench& bench, bool as_raw) {
    if (header.substr(0, 3) == "\xEF\xBB\xBF") header.remove_prefix(3);
    CsvPreview out;
    for (const char candidate : {'\t', ';', ','}) // a comma wins, then a semicolon
        if (header.find(candidate) != std::string_view::npos) out.separator = candidate;
    if (!is_plain_text(header))
        return failure("the first line holds bytes that are no UTF-8 text.", name + ":1",
                       "Save the file as UTF-8; in it letters such as ü and ° are written in another way.");
    std::vector<std::string_view> fields;
    std::vector<std::string> unquoted;
    split(header, out.separator, fields, unquoted);
    if (fields.size() > most_columns)
        return failure(fmt::format("it has {} columns; at most {} are read.", fields.size(), most_columns),
                       name + ":1", "Split the file.");
    bool has_time = false;
    std::set<std::string> seen;
    for (const std::string_view field : fields) {
        CsvColumn column;
        column.name = std::string(csv::as_named(field));
        if (const auto bracket = column.name.rfind('[');
            bracket != std::string::npos && column.name.back() == ']') {
            column.unit = column.name.substr(bracket + 1, column.name.size() - bracket - 2);
            column.name = std::string(csv::trimmed(column.name.substr(0, bracket)));
        }
        if (!seen.insert(lower(column.name)).second)
            return failure(fmt::format("two columns are called \"{}\".", column.name), name + ":1", "Rename one.");
        if (lower(column.name) == "time" && !has_time) {
            has_time = true;
            column.use = CsvColumn::Use::time;
        } else if (!column.name.empty()) {
            const Reading* reading = reading_called(bench, column.name);
            if (reading) column.reading = reading->id;
            const bool counts =
                reading && !column.unit.empty() && same_unit(column.unit, reading->path.first_unit());
            column.use = reading && !reading->path.stages.empty() && (as_raw || counts) ? CsvColumn::Use::raw
                                                                                        : CsvColumn::Use::values;
        }
        out.columns.push_back(column);
    }
    for (CsvColumn& column : out.columns) { // "NAME cause" beside a column NAME
        constexpr std::string_view ending = " cause";
        const std::string word = lower(column.name);
        if (word.size() <= ending.size() || !std::string_view(word).ends_with(ending)) continue;
        const std::string about = word.substr(0, word.size() - ending.size());
        for (const CsvColumn& other : out.columns)
            if (lower(other.name) == about && other.use != CsvColumn::Use::time) {
                column.use = CsvColumn::Use::causes;
                column.reading = other.reading.empty() ? other.name : other.reading;
            }
    }
    if (!has_time)
        return failure("no column is called \"time\".", name + ":1",
                       "The first line must name the columns: time, and one for each reading.");
    if (out.columns.size() < 2)
        return failure("there is no column beside \"time\".", name + ":1", "Add one for each reading.");
    return out;
}

/// Rows on their way into the file, by the lanes of their intake.
struct Rows {
    struct Lane {
        std::vector<Sample> samples;
        std::vector<std::uint32_t> row; ///< of each sample, in `lines`
    };
    std::vector<Lane> lanes;
    std::vector<std::uint64_t> lines; ///< number of each row's line
    std::size_t samples = 0;

    explicit Rows(std::size_t lane_count) : lanes(lane_count) {}
    void add(std::uint64_t line, std::span<const csv::RowIntake::Taken> taken) {
        if (taken.empty()) return;
        for (const csv::RowIntake::Taken& t : taken) {
            lanes[t.lane].samples.push_back(t.sample);
            lanes[t.lane].row.push_back(static_cast<std::uint32_t>(lines.size()));
        }
        lines.push_back(line);
        samples += taken.size();
    }
};

/// What became of them.
struct Kept {
    std::uint64_t samples = 0;
    std::vector<std::size_t> lanes;           ///< that got samples
    std::uint64_t rows = 0;                   ///< of which anything was new
    std::vector<std::uint64_t> lines_doubled; ///< of which nothing was
};

Result<Kept> keep_rows(BenchFile& file, const std::vector<std::string>& readings, Rows rows) {
    std::vector<SeriesBatch> batches;
    std::vector<std::size_t> lane_of;
    std::vector<int> left(rows.lines.size(), 0); // samples of a row that are new
    for (std::size_t i = 0; i < rows.lanes.size(); ++i) {
        if (rows.lanes[i].samples.empty()) continue;
        for (const std::uint32_t row : rows.lanes[i].row)
            ++left[row];
        batches.push_back({readings[i], std::move(rows.lanes[i].samples)});
        lane_of.push_back(i);
    }
    const auto added = add_samples(file, batches);
    if (!added) return tl::make_unexpected(added.error());
    if (!added->damaged.empty()) return tl::make_unexpected(added->damaged.begin()->second);
    Kept out;
    out.samples = added->added;
    for (std::size_t b = 0; b < batches.size(); ++b) {
        for (const std::size_t i : added->left_out[b])
            --left[rows.lanes[lane_of[b]].row[i]];
        if (added->left_out[b].size() < batches[b].samples.size()) out.lanes.push_back(lane_of[b]);
    }
    for (std::size_t row = 0; row < left.size(); ++row) {
        if (left[row] > 0)
            ++out.rows;
        else
            out.lines_doubled.push_back(rows.lines[row]);
    }
    return out;
}

/// Keeps rows in the file while the next ones are read: the file belongs to the thread that keeps until the next
/// call comes back.
class Keeper {
  public:
    Keeper(BenchFile& file, std::vector<std::string> readings) : m_file(file), m_readings(std::move(readings)) {}
    /// Waits for the rows before and counts them in `report`, then begins with these.
    Result<void> keep(Rows rows, ImportReport& report) {
        COGNITUM_CHECK(finish(report));
        m_under_way = std::async(std::launch::async, [this, rows = std::move(rows)]() mutable {
            return keep_rows(m_file, m_readings, std::move(rows));
        });
        return {};
    }
    /// Waits until everything is in the file.
    Result<void> finish(ImportReport& report) {
        if (!m_under_way.valid()) return {};
        auto kept = m_under_way.get();
        if (!kept) {
            if (report.rows > 0) kept.error().fix += fmt::format(" {} rows before that are saved.", report.rows);
            return tl::make_unexpected(kept.error());
        }
        report.samples += kept->samples;
        report.rows += kept->rows;
        for (const std::uint64_t line : kept->lines_doubled)
            report.rejected.add("a time that is already there", line, "");
        for (const std::size_t lane : kept->lanes)
            if (std::find(report.readings.begin(), report.readings.end(), m_readings[lane]) ==
                report.readings.end())
                report.readings.push_back(m_readings[lane]);
        return {};
    }

  private:
    BenchFile& m_file;
    std::vector<std::string> m_readings;
    std::future<Result<Kept>> m_under_way; ///< its end is waited for when this one goes
};

/// A kind of that unit, whose name stands in the column's where there are several: "Neighbour's rain [mm]" is rain
/// and no level. A person can change it at Quantity.
const QuantityKind* kind_proposed(const std::string& column, const std::string& unit) {
    const QuantityKind* first = nullptr;
    for (const QuantityKind& kind : quantity_kinds()) {
        if (std::find(kind.units.begin(), kind.units.end(), unit) == kind.units.end()) continue;
        if (lower(column).find(lower(kind.title)) != std::string::npos) return &kind;
        if (!first) first = &kind;
    }
    return first;
}

std::string create_reading(Bench& bench, const CsvColumn& column) {
    Reading reading;
    reading.id = bench.free_id(column.name);
    reading.name = column.name;
    reading.quantity.kind = "number";
    reading.quantity.unit = "1";
    if (const Unit* unit = find_unit(column.unit)) {
        reading.quantity.unit = unit->code;
        if (const QuantityKind* kind = kind_proposed(column.name, unit->code))
            reading.quantity = Quantity{kind->id, unit->code, kind->low, kind->high, kind->accuracy, 1, ""};
    }
    bench.readings.push_back(reading);
    return reading.id;
}

} // namespace

Result<CsvPreview> preview_csv(const std::string& name, std::string_view head, const Bench& bench, bool as_raw,
                               std::size_t rows) {
    const std::size_t end = std::min(head.find('\n'), head.size());
    COGNITUM_TRY(preview, read_header(name, csv::trimmed(head.substr(0, end)), bench, as_raw));
    RowReader reader(preview.separator, preview.columns);
    std::uint64_t line = 1;
    for (std::size_t at = end + 1; at < head.size() && line <= rows;) {
        const std::size_t stop = head.find('\n', at);
        const std::string_view row = csv::trimmed(head.substr(at, std::min(stop, head.size()) - at));
        at = stop == std::string_view::npos ? head.size() : stop + 1;
        ++line;
        if (row.empty()) continue;
        TimeUs time = 0;
        std::vector<csv::Cell> cells;
        if (const std::string reason = reader.read(row, time, cells); reason.empty())
            ++preview.good;
        else
            preview.rejected.add(reason, line, row);
        if (preview.rows.size() < 8) preview.rows.push_back(reader.texts());
    }
    return preview;
}

Result<ImportReport> import_csv(BenchFile& file, Bench& bench, const std::string& name, int descriptor,
                                const ImportOptions& options) {
    using clock = std::chrono::steady_clock;
    Lines lines(descriptor);
    std::string_view row;
    Lines::Got got = Lines::Got::data;
    while (!lines.next(row)) {
        if (lines.is_too_long()) break;
        if (got == Lines::Got::end)
            return failure("the file is empty.", name, "It needs a header line with \"time\".");
        got = lines.fill();
        if (got == Lines::Got::failed)
            return failure(fmt::format("it cannot be read ({}).", std::strerror(errno)), name);
    }
    if (lines.is_too_long() || lines.was_too_long())
        return failure("the first line is longer than a megabyte.", name + ":1", "This is no CSV file.");
    COGNITUM_TRY(header, read_header(name, csv::trimmed(row), bench, options.as_raw));
    std::vector<CsvColumn> columns = options.columns.empty() ? header.columns : options.columns;
    if (columns.size() != header.columns.size())
        return failure("the columns are not those of the preview.", name + ":1");

    // Readings that the file brings are created in a copy, which takes effect with the first samples.
    Bench plan = bench;
    for (CsvColumn& column : columns) {
        if (column.use != CsvColumn::Use::values && column.use != CsvColumn::Use::raw) continue;
        if (!column.reading.empty()) continue;
        column.reading = create_reading(plan, column);
        for (CsvColumn& causes : columns)
            if (causes.use == CsvColumn::Use::causes && causes.reading == column.name)
                causes.reading = column.reading;
    }
    csv::RowIntake intake(plan, options.catalog, columns);

    ImportReport report;
    Keeper keeper(file, intake.lanes());
    Rows rows(intake.lanes().size());
    RowReader reader(header.separator, columns);
    std::uint64_t line = 1;
    std::vector<csv::Cell> cells;
    auto last_commit = clock::now();
    bool plan_saved = plan == bench;
    Bench stored = plan; // another program may have changed it as well
    const auto commit = [&]() -> Result<void> {
        if (rows.samples == 0) return {};
        if (!plan_saved) {
            COGNITUM_TRY(saved_plan, file.save_plan(plan));
            stored = std::move(saved_plan.plan);
            plan_saved = true;
        }
        last_commit = clock::now();
        return keeper.keep(std::exchange(rows, Rows(rows.lanes.size())), report);
    };
    bool stopped = false;
    while (!stopped) {
        while (lines.next(row)) {
            ++line;
            row = csv::trimmed(row);
            if (row.empty()) continue;
            TimeUs time = 0;
            const std::string reason =
                lines.was_too_long() ? "longer than a megabyte" : reader.read(row, time, cells);
            if (!reason.empty()) {
                report.rejected.add(reason, line, row);
                continue;
            }
            rows.add(line, intake.take(time, cells));
            if (rows.samples >= samples_at_once) COGNITUM_CHECK(commit());
        }
        if (clock::now() - last_commit > std::chrono::milliseconds(400)) COGNITUM_CHECK(commit());
        if (got == Lines::Got::end) break;
        if (options.progress && !options.progress(lines.total())) stopped = true;
        got = lines.fill();
        if (got == Lines::Got::failed) {
            const std::string why = std::strerror(errno);
            COGNITUM_CHECK(keeper.finish(report));
            return failure(fmt::format("it cannot be read any further ({}).", why), name,
                           report.rows > 0 ? fmt::format("{} rows before that are saved.", report.rows) : "");
        }
    }
    COGNITUM_CHECK(commit());
    COGNITUM_CHECK(keeper.finish(report));
    if (report.rows == 0) {
        std::string why = "it has no rows.";
        if (!report.rejected.reasons().empty()) {
            const Rejection& first = report.rejected.reasons().front();
            why = fmt::format("no row could be taken: {} ({} rows, the first in line {}).", first.reason,
                              first.count, first.first_line);
        }
        return failure(why, name, "Nothing was changed.");
    }
    bench = stored;
    return report;
}

} // namespace cognitum
