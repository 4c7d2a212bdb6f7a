#include "store/export.h"

#include "core/units/unit.h"
#include "store/samples.h"

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
    [[nodiscard]] const Reading& reading() const { return *m_reading; }

  private:
    void refill() {
        m_samples.clear();
        m_at = 0;
        const auto done =
            for_each_sample(*m_file, m_reading->id, m_next, m_to, [&](std::span<const Sample> samples) {
                m_samples.assign(samples.begin(), samples.end());
                return m_samples.empty();
            });
        if (!done) m_error = done.error();
        m_done = m_samples.empty();
        if (!m_done) m_next = m_samples.back().time + 1;
    }

    BenchFile* m_file;
    const Reading* m_reading;
    TimeUs m_next, m_to;
    std::vector<Sample> m_samples;
    std::size_t m_at = 0;
    bool m_done = false;
    std::optional<Error> m_error;
};

std::string csv_field(const std::string& text) {
    if (text.find_first_of(",\"\n;") == std::string::npos) return text;
    std::string out = "\"";
    for (const char c : text)
        out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

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

void csv(std::vector<Cursor>& cursors, const std::function<void(std::string_view)>& out) {
    std::string text = "time";
    for (const Cursor& c : cursors)
        text += "," + csv_field(c.reading().name);
    text += "\n";
    while (true) {
        const Sample* first = nullptr;
        for (Cursor& c : cursors)
            if (const Sample* s = c.peek(); s && (!first || s->time < first->time)) first = s;
        if (!first) break;
        const TimeUs time = first->time;
        std::string row = iso_time(time);
        bool any = false;
        for (Cursor& c : cursors) {
            row += ',';
            const Sample* s = c.peek();
            if (!s || s->time != time) continue;
            if (std::isfinite(s->value)) {
                row += fmt::format("{}", s->value);
                any = true;
            }
            c.pop();
        }
        if (any) text += row + "\n";
        if (text.size() > 1 << 16) {
            out(text);
            text.clear();
        }
    }
    out(text);
}

void json(std::vector<Cursor>& cursors, const std::function<void(std::string_view)>& out) {
    out("{\"readings\": [");
    for (std::size_t i = 0; i < cursors.size(); ++i) {
        Cursor& c = cursors[i];
        out(fmt::format("{}{{\"name\": {}, \"unit\": {}, \"samples\": [", i ? ", " : "",
                        Json(c.reading().name).dump(), Json(c.reading().quantity.unit).dump()));
        for (bool first = true; const Sample* s = c.peek(); first = false, c.pop())
            out(fmt::format("{}[\"{}\", {}]", first ? "" : ", ", iso_time(s->time),
                            std::isfinite(s->value) ? fmt::format("{}", s->value) : "null"));
        out("]}");
    }
    out("]}\n");
}

void senml(std::vector<Cursor>& cursors, const std::function<void(std::string_view)>& out) {
    out("[");
    bool first = true;
    for (Cursor& c : cursors) {
        const std::string unit = senml_unit(c.reading().quantity.unit);
        const std::string unit_member = unit.empty() ? "" : fmt::format(", \"u\": {}", Json(unit).dump());
        const std::string name = Json(c.reading().name).dump();
        for (; const Sample* s = c.peek(); c.pop()) {
            if (!std::isfinite(s->value)) continue;
            out(fmt::format("{}{{\"n\": {}{}, \"t\": {}, \"v\": {}}}", first ? "" : ",\n", name, unit_member,
                            seconds_text(s->time), s->value));
            first = false;
        }
    }
    out("]\n");
}

} // namespace

Result<void> export_samples(BenchFile& file, const Bench& bench, ExportFormat format, TimeUs from, TimeUs to,
                            const std::function<void(std::string_view)>& out) {
    std::vector<Cursor> cursors;
    for (const Reading& reading : bench.readings) {
        const auto size = extent(file, reading.id);
        if (!size) return tl::make_unexpected(size.error());
        if (size->n > 0) cursors.emplace_back(file, reading, from, to);
    }
    switch (format) {
    case ExportFormat::csv: csv(cursors, out); break;
    case ExportFormat::json: json(cursors, out); break;
    case ExportFormat::senml: senml(cursors, out); break;
    }
    for (const Cursor& c : cursors)
        if (c.error()) return tl::make_unexpected(*c.error());
    return {};
}

} // namespace cognitum
