#include "store/csv_import.h"

#include "core/decode/number.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "store/samples.h"

#include <algorithm>
#include <cerrno>
#include <chrono>
#include <cmath>
#include <cstring>
#include <fmt/format.h>
#include <map>
#include <poll.h>
#include <set>
#include <unistd.h>

namespace cognitum {

namespace {

constexpr std::size_t longest_row = 1 << 20;

std::string_view trimmed(std::string_view text) {
    const auto space = [](char c) { return c == ' ' || c == '\t' || c == '\r'; };
    while (!text.empty() && space(text.front()))
        text.remove_prefix(1);
    while (!text.empty() && space(text.back()))
        text.remove_suffix(1);
    return text;
}

/// Fields of a row; a field in quotes may hold separators and doubled quotes (RFC 4180).
void split(std::string_view row, char separator, std::vector<std::string_view>& fields,
           std::vector<std::string>& unquoted) {
    fields.clear();
    unquoted.clear();
    if (row.find('"') != std::string_view::npos)
        unquoted.reserve(row.size() / 2 + 1); // views into it must stay valid
    std::size_t at = 0;
    while (true) {
        if (at < row.size() && row[at] == '"') {
            std::string text;
            for (++at; at < row.size(); ++at) {
                if (row[at] != '"')
                    text += row[at];
                else if (at + 1 < row.size() && row[at + 1] == '"')
                    text += row[++at];
                else
                    break;
            }
            unquoted.push_back(std::move(text));
            fields.push_back(trimmed(unquoted.back()));
            at = std::min(row.find(separator, std::min(at, row.size())), row.size());
        } else {
            const std::size_t end = std::min(row.find(separator, at), row.size());
            fields.push_back(trimmed(row.substr(at, end - at)));
            at = end;
        }
        if (at >= row.size()) return;
        ++at;
    }
}

std::string lower(std::string_view text) {
    std::string out(text);
    for (char& c : out)
        c = c >= 'A' && c <= 'Z' ? static_cast<char>(c - 'A' + 'a') : c;
    return out;
}

/// One row as numbers, or the reason why it is none.
class RowReader {
  public:
    RowReader(char separator, const std::vector<CsvColumn>& columns) : m_separator(separator), m_columns(columns) {
        for (std::size_t i = 0; i < columns.size(); ++i)
            if (columns[i].use == CsvColumn::Use::time) m_time_column = i;
    }

    /// Empty reason: time and numbers (NaN: empty cell) are filled in.
    std::string read(std::string_view row, TimeUs& time, std::vector<double>& numbers) {
        split(row, m_separator, m_fields, m_unquoted);
        if (m_fields.size() != m_columns.size())
            return fmt::format("{} fields where {} belong", m_fields.size(), m_columns.size());
        const auto t = parse_time(m_fields[m_time_column]);
        if (!t) return m_fields[m_time_column].empty() ? "no time" : "a time that cannot be read";
        time = *t;
        numbers.assign(m_columns.size(), std::numeric_limits<double>::quiet_NaN());
        bool any = false;
        for (std::size_t i = 0; i < m_columns.size(); ++i) {
            const auto use = m_columns[i].use;
            if ((use != CsvColumn::Use::values && use != CsvColumn::Use::raw) || m_fields[i].empty()) continue;
            const char* p = m_fields[i].data();
            const char* end = p + m_fields[i].size();
            if (!read_number(p, end, numbers[i]) || p != end)
                return fmt::format("text where a number belongs, column \"{}\"", m_columns[i].name);
            any = true;
        }
        return any ? "" : "no value in the row";
    }

    [[nodiscard]] std::vector<std::string> texts() const { return {m_fields.begin(), m_fields.end()}; }

  private:
    char m_separator;
    const std::vector<CsvColumn>& m_columns;
    std::size_t m_time_column = 0;
    std::vector<std::string_view> m_fields;
    std::vector<std::string> m_unquoted;
};

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
    std::vector<std::string_view> fields;
    std::vector<std::string> unquoted;
    split(header, out.separator, fields, unquoted);
    bool has_time = false;
    std::set<std::string> seen;
    for (const std::string_view field : fields) {
        CsvColumn column;
        column.name = std::string(field);
        if (const auto bracket = column.name.rfind('[');
            bracket != std::string::npos && column.name.back() == ']') {
            column.unit = column.name.substr(bracket + 1, column.name.size() - bracket - 2);
            column.name = std::string(trimmed(column.name.substr(0, bracket)));
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
    if (!has_time)
        return failure("no column is called \"time\".", name + ":1",
                       "The first line must name the columns: time, and one for each reading.");
    if (out.columns.size() < 2)
        return failure("there is no column beside \"time\".", name + ":1", "Add one for each reading.");
    return out;
}

/// Whole lines from a descriptor; wakes up at least once a second.
class Lines {
  public:
    explicit Lines(int descriptor) : m_descriptor(descriptor) {}
    enum class Got { data, nothing_yet, end, failed };

    Got fill() {
        pollfd waiting{m_descriptor, POLLIN, 0};
        const int ready = ::poll(&waiting, 1, 500);
        if (ready == 0 || (ready < 0 && errno == EINTR)) return Got::nothing_yet;
        if (m_at > 0) {
            m_buffer.erase(0, m_at);
            m_at = 0;
        }
        const std::size_t size = m_buffer.size();
        m_buffer.resize(size + (1 << 18));
        const ssize_t n = ::read(m_descriptor, m_buffer.data() + size, 1 << 18);
        m_buffer.resize(size + static_cast<std::size_t>(std::max<ssize_t>(n, 0)));
        if (n < 0) return Got::failed;
        m_total += static_cast<std::uint64_t>(n);
        if (n == 0) m_ended = true;
        return n == 0 ? Got::end : Got::data;
    }

    /// Next whole line; at the end of the input also a last one without an end.
    bool next(std::string_view& line) {
        const std::size_t end = m_buffer.find('\n', m_at);
        if (end == std::string::npos) {
            if (!m_ended || m_at >= m_buffer.size()) return false;
            line = std::string_view(m_buffer).substr(m_at);
            m_at = m_buffer.size();
            return true;
        }
        line = std::string_view(m_buffer).substr(m_at, end - m_at);
        m_at = end + 1;
        return true;
    }
    [[nodiscard]] bool too_long() const { return m_buffer.size() - m_at > longest_row; }
    [[nodiscard]] std::uint64_t total() const { return m_total; }

  private:
    int m_descriptor;
    std::string m_buffer;
    std::size_t m_at = 0;
    std::uint64_t m_total = 0;
    bool m_ended = false;
};

/// Samples on their way into the file, with the lines they came from.
class Pending {
  public:
    void add(const std::string& reading, const Sample& sample, std::uint64_t line) {
        auto& list = m_lists[reading];
        list.samples.push_back(sample);
        list.lines.push_back(line);
        ++m_samples;
        ++m_left[line];
    }
    [[nodiscard]] std::size_t samples() const { return m_samples; }

    Result<void> flush(BenchFile& file, ImportReport& report) {
        std::vector<SeriesBatch> batches;
        std::vector<std::vector<std::uint64_t>> lines;
        for (auto& [reading, list] : m_lists) {
            std::vector<std::size_t> order(list.samples.size());
            for (std::size_t i = 0; i < order.size(); ++i)
                order[i] = i;
            const auto earlier = [&](std::size_t a, std::size_t b) {
                return list.samples[a].time < list.samples[b].time;
            };
            if (!std::is_sorted(order.begin(), order.end(), earlier))
                std::stable_sort(order.begin(), order.end(), earlier);
            SeriesBatch batch{reading, {}};
            std::vector<std::uint64_t> batch_lines;
            for (const std::size_t i : order) {
                batch.samples.push_back(list.samples[i]);
                batch_lines.push_back(list.lines[i]);
            }
            batches.push_back(std::move(batch));
            lines.push_back(std::move(batch_lines));
        }
        const auto added = add_samples(file, batches);
        if (!added) return tl::make_unexpected(added.error());
        report.samples += added->added;
        for (std::size_t b = 0; b < batches.size(); ++b) {
            for (const std::size_t i : added->duplicates[b])
                --m_left[lines[b][i]];
            if (added->duplicates[b].size() < batches[b].samples.size() &&
                std::find(report.readings.begin(), report.readings.end(), batches[b].reading) ==
                    report.readings.end())
                report.readings.push_back(batches[b].reading);
        }
        for (const auto& [line, left] : m_left) {
            if (left > 0)
                ++report.rows;
            else
                report.rejected.add("a time that is already there", line, "");
        }
        m_lists.clear();
        m_left.clear();
        m_samples = 0;
        return {};
    }

  private:
    struct List {
        std::vector<Sample> samples;
        std::vector<std::uint64_t> lines;
    };
    std::map<std::string, List> m_lists;
    std::map<std::uint64_t, int> m_left; ///< line → samples that are not (known to be) duplicates
    std::size_t m_samples = 0;
};

std::string create_reading(Bench& bench, const CsvColumn& column) {
    Reading reading;
    reading.id = bench.free_id(column.name);
    reading.name = column.name;
    reading.quantity.kind = "number";
    reading.quantity.unit = "1";
    if (const Unit* unit = find_unit(column.unit)) {
        reading.quantity.unit = unit->code;
        for (const QuantityKind& kind : quantity_kinds())
            if (std::find(kind.units.begin(), kind.units.end(), unit->code) != kind.units.end()) {
                reading.quantity = Quantity{kind.id, unit->code, kind.low, kind.high, kind.accuracy, 1, ""};
                break;
            }
    }
    bench.readings.push_back(reading);
    return reading.id;
}

} // namespace

Result<CsvPreview> preview_csv(const std::string& name, std::string_view head, const Bench& bench, bool as_raw,
                               std::size_t rows) {
    const std::size_t end = std::min(head.find('\n'), head.size());
    COGNITUM_TRY(preview, read_header(name, trimmed(head.substr(0, end)), bench, as_raw));
    RowReader reader(preview.separator, preview.columns);
    std::uint64_t line = 1;
    for (std::size_t at = end + 1; at < head.size() && line <= rows;) {
        const std::size_t stop = head.find('\n', at);
        const std::string_view row = trimmed(head.substr(at, std::min(stop, head.size()) - at));
        at = stop == std::string_view::npos ? head.size() : stop + 1;
        ++line;
        if (row.empty()) continue;
        TimeUs time = 0;
        std::vector<double> numbers;
        if (const std::string reason = reader.read(row, time, numbers); reason.empty())
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
        if (got == Lines::Got::end)
            return failure("the file is empty.", name, "It needs a header line with \"time\".");
        got = lines.fill();
        if (got == Lines::Got::failed)
            return failure(fmt::format("it cannot be read ({}).", std::strerror(errno)), name);
        if (lines.too_long())
            return failure("the first line is longer than a megabyte.", name + ":1", "This is no CSV file.");
    }
    COGNITUM_TRY(header, read_header(name, trimmed(row), bench, options.as_raw));
    std::vector<CsvColumn> columns = options.columns.empty() ? header.columns : options.columns;
    if (columns.size() != header.columns.size())
        return failure("the columns are not those of the preview.", name + ":1");

    // Readings that the file brings are created in a copy, which takes effect with the first samples.
    Bench plan = bench;
    std::vector<Chain> paths(columns.size());
    for (std::size_t i = 0; i < columns.size(); ++i) {
        CsvColumn& column = columns[i];
        if (column.use != CsvColumn::Use::values && column.use != CsvColumn::Use::raw) continue;
        if (column.reading.empty()) column.reading = create_reading(plan, column);
        if (column.use == CsvColumn::Use::raw) paths[i] = effective_path(*plan.reading(column.reading));
    }

    ImportReport report;
    Pending pending;
    RowReader reader(header.separator, columns);
    std::uint64_t line = 1;
    auto last_commit = clock::now();
    bool plan_saved = plan == bench;
    const auto commit = [&]() -> Result<void> {
        if (pending.samples() == 0) return {};
        if (!plan_saved) {
            COGNITUM_CHECK(file.save_plan(plan));
            plan_saved = true;
        }
        last_commit = clock::now();
        return pending.flush(file, report);
    };
    bool stopped = false;
    while (!stopped) {
        while (lines.next(row)) {
            ++line;
            row = trimmed(row);
            if (row.empty()) continue;
            TimeUs time = 0;
            std::vector<double> numbers;
            if (const std::string reason = reader.read(row, time, numbers); !reason.empty()) {
                report.rejected.add(reason, line, row);
                continue;
            }
            for (std::size_t i = 0; i < columns.size(); ++i) {
                if (!std::isfinite(numbers[i])) continue;
                Sample sample{time, std::numeric_limits<double>::quiet_NaN(), numbers[i], Cause::none};
                if (columns[i].use == CsvColumn::Use::raw) {
                    const Value value = forward(paths[i], numbers[i]);
                    sample = {time, numbers[i], value.number, value.cause};
                }
                pending.add(columns[i].reading, sample, line);
            }
            if (pending.samples() >= 500'000) COGNITUM_CHECK(commit());
        }
        if (lines.too_long())
            return failure("a line is longer than a megabyte.", fmt::format("{}:{}", name, line + 1),
                           "This is no CSV file.");
        if (clock::now() - last_commit > std::chrono::milliseconds(400)) COGNITUM_CHECK(commit());
        if (got == Lines::Got::end) break;
        if (options.progress && !options.progress(lines.total())) stopped = true;
        got = lines.fill();
        if (got == Lines::Got::failed)
            return failure(fmt::format("it cannot be read any further ({}).", std::strerror(errno)), name);
    }
    COGNITUM_CHECK(commit());
    if (report.rows == 0) {
        std::string why = "it has no rows.";
        if (!report.rejected.reasons().empty()) {
            const Rejection& first = report.rejected.reasons().front();
            why = fmt::format("no row could be taken: {} ({} rows, the first in line {}).", first.reason,
                              first.count, first.first_line);
        }
        return failure(why, name, "Nothing was changed.");
    }
    bench = plan;
    return report;
}

} // namespace cognitum
