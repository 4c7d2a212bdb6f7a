#include "store/exchange/export.h"

#include "core/base/csv_text.h"
#include "core/base/phrase.h"
#include "core/units/quantity_kind.h"
#include "store/figures/value_doubts.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <optional>

namespace cognitum {

namespace {

/// One series, a block at a time.
class Cursor {
  public:
    Cursor(BenchFile& file, const Reading& reading, TimeUs from, TimeUs to)
        : m_file(&file), m_reading(&reading), m_next(from), m_to(to) {}

    /// The next sample, or nothing at the end or on an error.
    const Sample* peek() {
        if (m_at == m_samples.size() && !m_done) refill();
        return m_at < m_samples.size() ? &m_samples[m_at] : nullptr;
    }
    void pop() { ++m_at; }
    [[nodiscard]] const std::optional<Error>& error() const { return m_error; }
    [[nodiscard]] const std::vector<Unreadable>& unreadable() const { return m_unreadable; }
    [[nodiscard]] const Reading& reading() const { return *m_reading; }

  private:
    void refill() {
        m_samples.clear();
        m_at = 0;
        const auto done = for_each_sample(
            *m_file, m_reading->id, m_next, m_to,
            [&](std::span<const Sample> samples) {
                m_samples.assign(samples.begin(), samples.end());
                return m_samples.empty();
            },
            &m_unreadable);
        if (!done) m_error = done.error();
        m_done = m_samples.empty() || m_samples.back().time >= m_to;
        if (!m_done) m_next = m_samples.back().time + 1;
    }

    BenchFile* m_file;
    const Reading* m_reading;
    TimeUs m_next, m_to;
    std::vector<Sample> m_samples;
    std::size_t m_at = 0;
    bool m_done = false;
    std::optional<Error> m_error;
    std::vector<Unreadable> m_unreadable;
};

std::string seconds_text(TimeUs t) {
    const TimeUs whole = t >= 0 ? t / second_us : -((-t + second_us - 1) / second_us);
    const TimeUs rest = t - whole * second_us;
    return rest == 0 ? fmt::format("{}", whole) : fmt::format("{:.6f}", static_cast<double>(t) / 1e6);
}

/// SenML's own spelling of units (RFC 8428, 12.1).
std::string senml_unit(const std::string& unit) {
    if (unit == "degC") return "Cel";
    if (unit == "ohm") return "Ohm";
    if (unit == "1" || unit == "count") return "";
    return unit;
}

/// What stands in the cells of a reading, one column after the other.
struct CsvCells {
    bool value = true, raw = false, doubt = false, cause = false;
    std::string raw_name; ///< of the raw column
};

CsvCells cells_of(const Reading& reading, const ExportOptions& options) {
    using Numbers = ExportOptions::Numbers;
    CsvCells out;
    out.value = options.numbers != Numbers::raw;
    out.raw = options.numbers != Numbers::values;
    out.doubt = options.doubts;
    out.cause = options.causes;
    const std::string unit = reading.path.first_unit();
    out.raw_name = reading.name + (options.numbers == Numbers::both ? std::string(" raw")
                                   : unit.empty()                   ? std::string()
                                                                    : " [" + unit + "]");
    return out;
}

void write_cells(std::string& row, const CsvCells& cells, const Sample* s, ValueDoubts* doubts) {
    const auto number = [&](double v) {
        row += ',';
        if (s && std::isfinite(v)) row += fmt::format("{}", v);
    };
    if (cells.value) number(s ? s->value : no_number);
    if (cells.raw) number(s ? s->raw : no_number);
    if (cells.doubt) number(s && doubts ? doubts->at(s->value, s->time).value_or(no_number) : no_number);
    if (cells.cause) row += s ? "," + cause_text(s->cause) : ",";
}

void write_csv(std::vector<Cursor>& cursors, std::vector<ValueDoubts>& doubts, const ExportOptions& options,
               const std::function<void(std::string_view)>& out) {
    std::string text = "time";
    std::vector<CsvCells> cells;
    for (const Cursor& c : cursors) {
        const CsvCells& here = cells.emplace_back(cells_of(c.reading(), options));
        if (here.value) text += "," + csv_field(c.reading().name);
        if (here.raw) text += "," + csv_field(here.raw_name);
        if (here.doubt) text += "," + csv_field(c.reading().name + " doubt");
        if (here.cause) text += "," + csv_field(c.reading().name + " cause");
    }
    text += "\n";
    while (true) {
        const Sample* first = nullptr;
        for (Cursor& c : cursors)
            if (const Sample* s = c.peek(); s && (!first || s->time < first->time)) first = s;
        if (!first) break;
        const TimeUs time = first->time;
        text += iso_time(time);
        for (std::size_t i = 0; i < cursors.size(); ++i) {
            const Sample* s = cursors[i].peek();
            if (s && s->time != time) s = nullptr;
            write_cells(text, cells[i], s, doubts.empty() ? nullptr : &doubts[i]);
            if (s) cursors[i].pop();
        }
        text += "\n";
        if (text.size() > 1 << 16) {
            out(text);
            text.clear();
        }
    }
    out(text);
}

void write_json(std::vector<Cursor>& cursors, bool causes, const std::function<void(std::string_view)>& out) {
    out("{\"readings\": [");
    for (std::size_t i = 0; i < cursors.size(); ++i) {
        Cursor& c = cursors[i];
        out(fmt::format("{}{{\"name\": {}, \"unit\": {}, \"samples\": [", i ? ", " : "",
                        json_dump(c.reading().name), json_dump(c.reading().quantity.unit)));
        for (bool first = true; const Sample* s = c.peek(); first = false, c.pop())
            out(fmt::format("{}[\"{}\", {}{}]", first ? "" : ", ", iso_time(s->time),
                            std::isfinite(s->value) ? fmt::format("{}", s->value) : "null",
                            causes && s->cause != Cause::none ? fmt::format(", \"{}\"", cause_text(s->cause))
                                                              : ""));
        out("]}");
    }
    out("]}\n");
}

void write_senml(std::vector<Cursor>& cursors, bool causes, const std::function<void(std::string_view)>& out) {
    out("[");
    bool first = true;
    for (Cursor& c : cursors) {
        const std::string unit = senml_unit(c.reading().quantity.unit);
        const std::string unit_member = unit.empty() ? "" : fmt::format(", \"u\": {}", json_dump(unit));
        const std::string name = json_dump(c.reading().name);
        for (; const Sample* s = c.peek(); c.pop()) {
            const bool valued = std::isfinite(s->value);
            if (!valued && !(causes && s->cause != Cause::none)) continue;
            out(fmt::format("{}{{\"n\": {}{}, \"t\": {}, {}}}", first ? "" : ",\n", name, valued ? unit_member : "",
                            seconds_text(s->time),
                            valued ? fmt::format("\"v\": {}", s->value)
                                   : fmt::format("\"vs\": \"{}\"", cause_text(s->cause))));
            first = false;
        }
    }
    out("]\n");
}

} // namespace

Result<ExportReport> export_samples(BenchFile& file, const Bench& bench, const ExportOptions& options,
                                    const std::function<void(std::string_view)>& out) {
    const InEnglish in_the_file;
    ExportReport report;
    std::vector<Cursor> cursors;
    std::vector<ValueDoubts> doubts;
    if (options.format != ExportFormat::csv &&
        (options.doubts || options.numbers != ExportOptions::Numbers::values))
        return failure(phrase("raw numbers and doubts are exported as CSV alone."), file.path(),
                       phrase("Choose the format csv."));
    for (const Reading& reading : bench.readings) {
        const auto& wanted = options.readings;
        if (!wanted.empty() && std::find(wanted.begin(), wanted.end(), reading.id) == wanted.end()) continue;
        const auto size = extent(file, reading.id);
        if (!size) return tl::make_unexpected(size.error());
        if (size->n == 0) continue;
        if (wanted.empty() && reading.quantity.is_private())
            report.private_readings.push_back(reading.name);
        else {
            cursors.emplace_back(file, reading, options.from, options.to);
            if (!options.doubts || !options.catalog) continue;
            COGNITUM_TRY(records, file.calibrations(reading.id));
            doubts.emplace_back(bench, *options.catalog, reading, std::move(records));
        }
    }
    switch (options.format) {
    case ExportFormat::csv: write_csv(cursors, doubts, options, out); break;
    case ExportFormat::json: write_json(cursors, options.causes, out); break;
    case ExportFormat::senml: write_senml(cursors, options.causes, out); break;
    }
    for (const Cursor& c : cursors) {
        if (c.error()) return tl::make_unexpected(*c.error());
        report.unreadable.insert(report.unreadable.end(), c.unreadable().begin(), c.unreadable().end());
    }
    return report;
}

} // namespace cognitum
