#include "store/exchange/csv_import.h"

#include "core/base/phrase.h"
#include "core/decode/number_text.h"
#include "core/units/unit.h"
#include "store/exchange/csv_intake.h"
#include "store/exchange/point_intake.h"

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <fmt/format.h>
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

/// Words over the column of the time in files of other programs.
bool is_time_word(std::string_view word) {
    return word == "time" || word == "timestamp" || word == "date time" || word == "datetime" ||
           word == "date/time";
}

/// One row for each number: the columns say so by their names alone.
bool is_long_form(const std::vector<CsvColumn>& columns) {
    bool name = false, value = false;
    for (const CsvColumn& column : columns) {
        const std::string word = lower(column.name);
        name = name || word == "name" || word == "reading";
        value = value || word == "value";
        constexpr std::string_view known[] = {"name", "reading", "value", "unit", "cause", "date"};
        if (std::find(std::begin(known), std::end(known), word) == std::end(known) && !is_time_word(word))
            return false;
    }
    return name && value;
}

/// "Air [degC]", and "Rain (mm)" where that is a unit: name and unit apart.
void split_unit(CsvColumn& column) {
    for (const char* brackets : {"[]", "()"}) {
        const std::size_t bracket = column.name.rfind(brackets[0]);
        if (bracket == std::string::npos || column.name.back() != brackets[1]) continue;
        const std::string inside = column.name.substr(bracket + 1, column.name.size() - bracket - 2);
        if (brackets[0] == '(' && !find_unit(inside)) continue; // "Bed (north)"
        column.unit = inside;
        column.name = std::string(csv::trimmed(column.name.substr(0, bracket)));
        return;
    }
}

Result<CsvPreview> read_header(const std::string& name, std::string_view header, const Bench& bench, bool as_raw) {
    if (header.substr(0, 3) == "\xEF\xBB\xBF") header.remove_prefix(3);
    if (header.substr(0, 2) == "\xFF\xFE" || header.substr(0, 2) == "\xFE\xFF")
        return failure(phrase("the file is UTF-16 text."), name + ":1", phrase("Save it as UTF-8."));
    CsvPreview out;
    for (const char candidate : {'\t', ';', ','}) // a comma wins, then a semicolon
        if (header.find(candidate) != std::string_view::npos) out.separator = candidate;
    if (const auto end = header.find('\r'); end != std::string_view::npos && end + 1 < header.size())
        return failure(phrase("its lines end with a carriage return alone."), name + ":1",
                       phrase("Save it with line feeds: most editors can."));
    if (!is_plain_text(header))
        return failure(phrase("the first line holds bytes that are no UTF-8 text."), name + ":1",
                       phrase("Save the file as UTF-8; in it letters such as ü and ° are written in another way."));
    std::vector<std::string_view> fields;
    std::vector<std::string> unquoted;
    split(header, out.separator, fields, unquoted);
    if (fields.size() > most_columns)
        return failure(phrase("it has {} columns; at most {} are read.", fields.size(), most_columns), name + ":1",
                       phrase("Split the file."));
    bool has_time = false;
    std::set<std::string> seen;
    for (const std::string_view field : fields) {
        CsvColumn column;
        column.name = std::string(csv::as_named(field));
        split_unit(column);
        if (!seen.insert(lower(column.name)).second)
            return failure(phrase("two columns are called \"{}\".", column.name), name + ":1",
                           phrase("Rename one."));
        if (is_time_word(lower(column.name)) && !has_time) {
            has_time = true;
            column.use = CsvColumn::Use::time;
        } else if (lower(column.name) == "date") {
            column.use = CsvColumn::Use::date; // a reading is hardly called that
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
    if (const auto date = std::find_if(out.columns.begin(), out.columns.end(),
                                       [](const auto& c) { return c.use == CsvColumn::Use::date; });
        date != out.columns.end() && !has_time) { // the day and the time of day in one
        date->use = CsvColumn::Use::time;
        has_time = true;
    }
    out.is_long = is_long_form(out.columns);
    if (out.is_long)
        for (CsvColumn& column : out.columns)
            if (column.use == CsvColumn::Use::values || column.use == CsvColumn::Use::raw)
                column.use = CsvColumn::Use::skip;
    if (!has_time)
        return failure(phrase("no column is called \"time\"."), name + ":1",
                       phrase("The first line must name the columns: time, and one for each reading."));
    if (out.columns.size() < 2)
        return failure(phrase("there is no column beside \"time\"."), name + ":1",
                       phrase("Add one for each reading."));
    return out;
}

} // namespace

Result<std::string> column_says(const CsvColumn& column, const Bench& bench) {
    using Use = CsvColumn::Use;
    switch (column.use) {
    case Use::skip: return std::string(phrase("left out"));
    case Use::time: return std::string("when");
    case Use::date: return std::string(phrase("the day of the time"));
    case Use::causes: return std::string(phrase("why there is no value"));
    case Use::values:
    case Use::raw: break;
    }
    const Reading* reading = bench.reading(column.reading);
    if (!reading) {
        const Unit* unit = find_unit(column.unit);
        return phrase("a new reading{}", unit ? phrase(" in {}", unit_symbol(unit->code)) : std::string());
    }
    if (column.use == Use::raw)
        return phrase("{} through its path of {} stages", unit_symbol(reading->path.first_unit()),
                      reading->path.stages.size());
    COGNITUM_TRY(line, unit_line(column.unit, *reading));
    const std::string own = unit_symbol(reading->quantity.unit);
    if (line.factor != 1 || line.offset != 0) return phrase("{} become {}", unit_symbol(column.unit), own);
    return phrase("values in {}", own);
}

Result<CsvPreview> preview_csv(const std::string& name, std::string_view head, const Bench& bench,
                               const ImportOptions& options, std::size_t rows) {
    const std::size_t end = std::min(head.find('\n'), head.size());
    COGNITUM_TRY(preview, read_header(name, csv::trimmed(head.substr(0, end)), bench, options.as_raw));
    std::vector<std::pair<std::uint64_t, std::string_view>> lines;
    DateOrderJudge judge;
    RowReader looker(preview.separator, preview.columns);
    std::uint64_t line = 1;
    for (std::size_t at = end + 1; at < head.size() && line <= rows;) {
        const std::size_t stop = head.find('\n', at);
        const std::string_view row = csv::trimmed(head.substr(at, std::min(stop, head.size()) - at));
        at = stop == std::string_view::npos ? head.size() : stop + 1;
        ++line;
        if (row.empty()) continue;
        lines.emplace_back(line, row);
        judge.take(looker.time_of(row));
    }
    preview.local_times = judge.local();
    preview.order = options.order ? options.order : judge.order();
    RowReader reader(preview.separator, preview.columns,
                     TimeReader(preview.order.value_or(DateOrder::day_first), options.zone));
    for (const auto& [number, row] : lines) {
        TimeUs time = 0;
        std::vector<csv::Cell> cells;
        if (const std::string reason = reader.read(row, time, cells); reason.empty()) {
            ++preview.good;
            if (!preview.first) preview.first = time;
        } else {
            preview.rejected.add(reason, number, row);
        }
        if (preview.rows.size() < 8) preview.rows.push_back(reader.texts());
    }
    return preview;
}

std::optional<TimeUs> last_time(const CsvPreview& preview, std::string_view end_of_file,
                                const ImportOptions& options) {
    if (!preview.order) return {};
    RowReader reader(preview.separator, preview.columns, TimeReader(*preview.order, options.zone));
    std::optional<TimeUs> out;
    std::size_t at = end_of_file.find('\n');
    while (at != std::string_view::npos) {
        const std::size_t stop = end_of_file.find('\n', at + 1);
        TimeUs time = 0;
        if (reader.read_fields(csv::trimmed(end_of_file.substr(at + 1, stop - at - 1)), time).empty()) out = time;
        at = stop;
    }
    return out;
}

namespace {

/// Whole rows of the file: those that were held back until the order of the dates was clear come first.
class Rows {
  public:
    Rows(int descriptor, std::string head) : m_lines(descriptor, std::move(head)) {}
    /// Reads a line; false at the end of what has arrived.
    bool next(std::string_view& row) {
        while (true) {
            if (m_held_at < m_held.size()) {
                row = m_held[m_held_at].text;
                m_too_long = m_held[m_held_at++].too_long;
            } else if (m_lines.next(row)) {
                m_too_long = m_lines.was_too_long();
            } else {
                return false;
            }
            ++m_number;
            row = csv::trimmed(row);
            if (!row.empty()) return true;
        }
    }
    /// Lines until `enough` says so, at most `most`; next() gives them all again.
    void hold(std::size_t most, const std::function<bool(std::string_view)>& enough) {
        std::string_view row;
        while (m_held.size() < most && m_got != Lines::Got::end && m_got != Lines::Got::failed) {
            while (m_held.size() < most && m_lines.next(row)) {
                if (hold_line(row, enough)) return;
            }
            fill();
        }
        while (m_held.size() < most && m_lines.next(row)) {
            if (hold_line(row, enough)) return;
        }
    }
    Lines::Got fill() { return m_got = m_lines.fill(); }
    [[nodiscard]] Lines::Got got() const { return m_got; }
    [[nodiscard]] std::uint64_t number() const { return m_number; } ///< of the row that next() gave last
    [[nodiscard]] bool was_too_long() const { return m_too_long; }
    [[nodiscard]] Lines& lines() { return m_lines; }

  private:
    struct Held {
        std::string text;
        bool too_long;
    };
    bool hold_line(std::string_view row, const std::function<bool(std::string_view)>& enough) {
        constexpr std::size_t shown = 80; // of what is set aside
        const bool too_long = m_lines.was_too_long();
        m_held.push_back({std::string(too_long ? row.substr(0, shown) : row), too_long});
        return !too_long && enough(csv::trimmed(row));
    }
    Lines m_lines;
    Lines::Got m_got = Lines::Got::data;
    std::vector<Held> m_held;
    std::size_t m_held_at = 0;
    std::uint64_t m_number = 1; ///< the header
    bool m_too_long = false;
};

Result<CsvPreview> header_of(Rows& rows, const std::string& name, const Bench& bench, bool as_raw) {
    std::string_view row;
    Lines& lines = rows.lines();
    while (!lines.next(row)) {
        if (lines.is_too_long()) break;
        if (rows.got() == Lines::Got::end)
            return failure(phrase("the file is empty."), name, phrase("It needs a header line with \"time\"."));
        if (rows.fill() == Lines::Got::failed)
            return failure(phrase("it cannot be read ({}).", std::strerror(errno)), name);
    }
    if (lines.is_too_long() || lines.was_too_long())
        return failure(phrase("the first line is longer than a megabyte."), name + ":1",
                       phrase("This is no CSV file."));
    return read_header(name, csv::trimmed(row), bench, as_raw);
}

/// The order of the dates, from as many rows as it takes.
Result<DateOrder> order_of(Rows& rows, const CsvPreview& header, const std::string& name) {
    constexpr std::size_t most_held = 20'000;
    DateOrderJudge judge;
    RowReader reader(header.separator, header.columns);
    rows.hold(most_held, [&](std::string_view row) {
        judge.take(reader.time_of(row));
        return judge.seen() && judge.order().has_value();
    });
    if (const auto order = judge.order()) return *order;
    return failure(phrase("its dates can be read as day first and as month first."), name,
                   phrase("Say which: dates=dmy or dates=mdy."));
}

/// Columns of a file with one row for each number.
struct LongColumns {
    std::size_t name = 0, value = 0, unit = 0, cause = 0; ///< 0: there is none; the time is no such column
};

LongColumns long_columns(const std::vector<CsvColumn>& columns) {
    LongColumns out;
    for (std::size_t i = 0; i < columns.size(); ++i) {
        const std::string word = lower(columns[i].name);
        if (word == "name" || word == "reading") out.name = i + 1;
        if (word == "value") out.value = i + 1;
        if (word == "unit") out.unit = i + 1;
        if (word == "cause") out.cause = i + 1;
    }
    return out;
}

} // namespace

Result<ImportReport> import_csv(BenchFile& file, Bench& bench, const std::string& name, int descriptor,
                                const ImportOptions& options, std::string head) {
    Rows rows(descriptor, std::move(head));
    COGNITUM_TRY(header, header_of(rows, name, bench, options.as_raw));
    std::vector<CsvColumn> columns = options.columns.empty() ? header.columns : options.columns;
    if (columns.size() != header.columns.size())
        return failure(phrase("the columns are not those of the preview."), name + ":1");
    const Result<DateOrder> order = options.order ? *options.order : order_of(rows, header, name);
    if (!order) return tl::make_unexpected(order.error());

    ImportRun run(file, bench);
    for (CsvColumn& column : columns) {
        if (column.use != CsvColumn::Use::values && column.use != CsvColumn::Use::raw) continue;
        if (const auto says = column_says(column, run.plan()); !says)
            return failure(phrase("column \"{}\": {}", column.name, says.error().what), name + ":1",
                           says.error().fix);
        if (!column.reading.empty()) continue;
        column.reading = create_reading(run.plan(), column.name, column.unit);
        for (CsvColumn& causes : columns)
            if (causes.use == CsvColumn::Use::causes && causes.reading == column.name)
                causes.reading = column.reading;
    }
    csv::RowIntake intake(run.plan(), options.catalog, columns);
    std::vector<std::size_t> lanes;
    for (const std::string& reading : intake.lanes())
        lanes.push_back(run.lane(reading));
    PointIntake points(run, options.catalog, options.as_raw);
    const LongColumns places = long_columns(columns);
    RowReader reader(header.separator, columns, TimeReader(*order, options.zone));
    std::vector<csv::Cell> cells;
    const auto take_wide = [&](std::string_view row) -> std::string {
        TimeUs time = 0;
        if (std::string reason = reader.read(row, time, cells); !reason.empty()) return reason;
        run.begin_row(rows.number());
        for (const csv::RowIntake::Taken& t : intake.take(time, cells))
            run.add(lanes[t.lane], t.sample);
        return {};
    };
    const auto take_long = [&](std::string_view row) -> std::string {
        Point point;
        if (std::string reason = reader.read_fields(row, point.time); !reason.empty()) return reason;
        const auto field = [&](std::size_t at) { return at > 0 ? reader.fields()[at - 1] : std::string_view(); };
        point.name = csv::as_named(field(places.name));
        point.unit = field(places.unit);
        if (std::string reason = reader.read_cell(field(places.value), point.cell); !reason.empty()) return reason;
        if (const std::string_view cause = field(places.cause); !cause.empty()) {
            const auto known = cause_from_text(cause);
            if (!known) return phrase("a cause that is not known");
            point.cell.cause = *known;
        }
        return points.take(rows.number(), point);
    };

    std::string_view row;
    for (bool stopped = false; !stopped;) {
        while (rows.next(row)) {
            const std::string reason = rows.was_too_long() ? phrase("longer than a megabyte")
                                       : header.is_long    ? take_long(row)
                                                           : take_wide(row);
            if (!reason.empty()) run.reject(reason, rows.number(), row);
            COGNITUM_CHECK(run.keep_much());
        }
        COGNITUM_CHECK(run.keep_old());
        if (rows.got() == Lines::Got::end) break;
        if (options.progress && !options.progress(rows.lines().total())) stopped = true;
        if (rows.fill() == Lines::Got::failed)
            return tl::make_unexpected(
                run.broken(phrase("it cannot be read any further ({}).", std::strerror(errno)), name));
    }
    return run.finish(name, bench);
}

} // namespace cognitum
