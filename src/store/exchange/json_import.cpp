#include "store/exchange/json_import.h"

#include "core/base/phrase.h"
#include "core/units/unit.h"
#include "store/exchange/csv_rows.h"
#include "store/exchange/json_events.h"

#include <algorithm>
#include <cerrno>
#include <cstring>
#include <fmt/format.h>
#include <memory>
#include <poll.h>
#include <unistd.h>

namespace cognitum {

namespace {

std::unique_ptr<JsonEvents> events_of(ImportForm form, ByteSource& source, TakeRecord take) {
    if (form == ImportForm::senml) return std::make_unique<SenmlEvents>(source, std::move(take));
    return std::make_unique<SeriesEvents>(source, std::move(take));
}

/// Units of SenML (RFC 8428, 12.1, and RFC 8798) that are written in another way here.
std::string_view unit_of(std::string_view unit) {
    if (unit == "%RH" || unit == "%EL") return "%";
    if (unit == "beat/min" || unit == "1/min") return "/min";
    if (unit == "count" || unit == "/" || unit == "ratio") return "1";
    if (unit == "l") return "L";
    return unit;
}

/// Reads everything; the error says what came to an end before it should.
Result<void> parse(ImportForm form, ByteSource& source, const std::string& name, const TakeRecord& take) {
    const auto events =
        events_of(form, source, [&](std::uint64_t line, const Point& as_written, const std::string& why) {
            Point point = as_written;
            point.unit = unit_of(point.unit);
            take(line, point, why);
        });
    const bool whole =
        nlohmann::json::sax_parse(ByteSource::Iterator(&source), ByteSource::Iterator(), events.get());
    if (whole || source.stopped()) return {};
    const std::string& why = source.trouble().empty() ? events->trouble() : source.trouble();
    return failure(why.empty() ? phrase("it ends in the middle.") : why, fmt::format("{}:{}", name, source.line()));
}

/// The first bytes of a file or a pipe, so many as tell its form.
Result<std::string> read_head(const std::string& name, int descriptor) {
    std::string head;
    while (csv::trimmed(head).find_first_not_of("\n \xEF\xBB\xBF") == std::string_view::npos || head.size() < 64) {
        const std::size_t size = head.size();
        if (size > 4096) break;
        head.resize(size + 4096);
        const ssize_t n = ::read(descriptor, head.data() + size, 4096);
        head.resize(size + static_cast<std::size_t>(std::max<ssize_t>(n, 0)));
        if (n < 0) return failure(phrase("it cannot be read ({}).", std::strerror(errno)), name);
        if (n == 0 || head.find('\n') != std::string::npos) break;
    }
    return head;
}

/// Where a key stands, and no value of that name; npos: nowhere.
std::size_t key_at(std::string_view text, std::string_view quoted) {
    for (std::size_t at = text.find(quoted); at != std::string_view::npos; at = text.find(quoted, at + 1)) {
        const std::size_t behind = text.find_first_not_of(" \t\r\n", at + quoted.size());
        if (behind != std::string_view::npos && text[behind] == ':') return at;
    }
    return std::string_view::npos;
}

} // namespace

ImportForm form_of(std::string_view head) {
    const std::size_t at = head.find_first_not_of(" \t\r\n\xEF\xBB\xBF");
    if (at == std::string_view::npos) return ImportForm::csv;
    if (head[at] == '[') return ImportForm::senml;
    if (head[at] != '{') return ImportForm::csv;
    return key_at(head, "\"bench\"") < key_at(head, "\"samples\"") ? ImportForm::plan : ImportForm::json;
}

Result<PointsPreview> preview_points(const std::string& name, std::string_view head, const Bench& bench) {
    PointsPreview out;
    ByteSource source(-1, std::string(head), [](std::uint64_t) { return false; });
    const auto take = [&](std::uint64_t line, const Point& point, const std::string& reason) {
        if (!reason.empty() || point.name.empty()) {
            out.rejected.add(reason.empty() ? phrase("no name") : reason, line, point.name);
            return;
        }
        ++out.good;
        out.first = std::min(out.first.value_or(point.time), point.time);
        out.last = std::max(out.last.value_or(point.time), point.time);
        auto known = std::find_if(out.series.begin(), out.series.end(),
                                  [&](const auto& s) { return s.name == point.name && s.unit == point.unit; });
        if (known == out.series.end()) {
            CsvColumn column{std::string(point.name), std::string(point.unit), CsvColumn::Use::values, {}};
            if (const Reading* reading = reading_called(bench, point.name)) {
                column.reading = reading->id;
                if (!reading->path.stages.empty() && !column.unit.empty() &&
                    same_unit(column.unit, reading->path.first_unit()))
                    column.use = CsvColumn::Use::raw;
            }
            const auto says = column_says(column, bench);
            known = out.series.insert(out.series.end(), {column.name, column.unit, 0,
                                                         says ? *says : says.error().what, !says.has_value()});
        }
        ++known->n;
    };
    const auto parsed = parse(form_of(head), source, name, take);
    if (!parsed && out.good == 0) return tl::make_unexpected(parsed.error());
    return out;
}

namespace {

Result<ImportReport> import_points(BenchFile& file, Bench& bench, const std::string& name, int descriptor,
                                   const ImportOptions& options, std::string head) {
    const ImportForm form = form_of(head);
    ImportRun run(file, bench);
    PointIntake intake(run, options.catalog, options.as_raw);
    std::optional<Error> failed; // to keep
    const auto note = [&](const Result<void>& kept) {
        if (!kept && !failed) failed = kept.error();
    };
    ByteSource source(descriptor, std::move(head), [&](std::uint64_t read) {
        note(run.keep_old());
        return !failed && (!options.progress || options.progress(read));
    });
    const auto parsed =
        parse(form, source, name, [&](std::uint64_t line, const Point& point, const std::string& why) {
            const std::string reason = why.empty() ? intake.take(line, point) : why;
            if (!reason.empty()) run.reject(reason, line, point.name);
            note(run.keep_much());
        });
    if (failed) return tl::make_unexpected(*failed);
    if (!parsed) return tl::make_unexpected(run.broken(parsed.error().what, parsed.error().where));
    if (run.is_empty())
        return failure(
            phrase("it holds no samples."), name,
            phrase(
                "They stand in {\"readings\": [{\"name\", \"unit\", \"samples\": [[time, value]]}]}, or in a list "
                "of "
                "SenML "
                "records. One JSON object for each line is what a board sends: cognitum-cli decode reads that."));
    return run.finish(name, bench);
}

} // namespace

Result<ImportReport> import_samples(BenchFile& file, Bench& bench, const std::string& name, int descriptor,
                                    const ImportOptions& options) {
    COGNITUM_TRY(head, read_head(name, descriptor));
    if (form_of(head) == ImportForm::csv)
        return import_csv(file, bench, name, descriptor, options, std::move(head));
    return import_points(file, bench, name, descriptor, options, std::move(head));
}

} // namespace cognitum
