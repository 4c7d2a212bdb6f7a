// The verbs that bring samples in and take them out.
#include "cli/arguments.h"
#include "cli/cli.h"

#include "store/exchange/export.h"
#include "store/exchange/json_import.h"
#include "store/file/data_files.h"
#include "store/file/whole_file.h"
#include "store/zone.h"

#include <array>
#include <cstdio>
#include <fcntl.h>
#include <filesystem>
#include <fmt/format.h>
#include <memory>
#include <unistd.h>

namespace cognitum::cli {

namespace {

/// Opens the bench for writing, or makes it; `is_new` says which. Another program may make it at the same moment.
Result<BenchFile> open_or_create(const std::string& path, bool& is_new) {
    std::error_code code;
    const bool there = std::filesystem::exists(path, code) && std::filesystem::file_size(path, code) > 0;
    if (!there) {
        auto made = BenchFile::create(path);
        is_new = made.has_value();
        if (made || !std::filesystem::exists(path, code)) return made;
    }
    return BenchFile::open(path, Access::write);
}

void remove_bench(const std::string& path) {
    std::error_code code;
    for (const char* suffix : {"", "-wal", "-shm"})
        std::filesystem::remove(path + suffix, code);
}

Json rejections_json(const Rejections& rejected) {
    Json reasons = Json::array();
    for (const Rejection& r : rejected.reasons())
        reasons.push_back(
            {{"reason", r.reason}, {"count", r.count}, {"first_line", r.first_line}, {"first_text", r.first_text}});
    return {{"count", rejected.total()}, {"reasons", reasons}};
}

Result<Bench> load_plan_json(const std::string& path) {
    COGNITUM_TRY(text, read_input(path));
    COGNITUM_TRY(document, JsonText::parse(path, text));
    return read_bench(JsonReader(document));
}

int import_plan(const std::string& input, const std::string& path, bool json) {
    const auto bench = load_plan_json(input);
    if (!bench) return complain(bench.error());
    const auto file = BenchFile::create(path, [&](BenchFile& made) -> Result<void> {
        COGNITUM_CHECK(made.save_plan(*bench));
        return {};
    });
    if (!file) return complain(file.error());
    if (json)
        print_json({{"rows", 0}, {"readings", bench->readings.size()}, {"rejected", rejections_json({})}});
    else
        std::puts(fmt::format("{}: {} readings planned.", path, bench->readings.size()).c_str());
    return done;
}

/// A bench's JSON form holds no samples, and makes a bench of its own.
bool is_plan(const std::string& input) {
    const std::unique_ptr<std::FILE, int (*)(std::FILE*)> file(std::fopen(input.c_str(), "rb"), std::fclose);
    std::array<char, 65536> head{};
    const std::size_t n = file ? std::fread(head.data(), 1, head.size(), file.get()) : 0;
    return form_of({head.data(), n}) == ImportForm::plan;
}

/// zone= and dates= of an import.
Result<void> read_times(const std::vector<std::string>& arguments, ImportOptions& options) {
    COGNITUM_TRY(given, read_arguments(arguments));
    for (const auto& [key, value] : given) {
        if (key == "zone") {
            COGNITUM_TRY(zone, zone_named(value));
            options.zone = std::move(zone);
        } else if (key == "dates") {
            options.order = date_order_named(value);
            if (!options.order)
                return failure(fmt::format("\"{}\" is no order of dates.", value), "dates",
                               "Write ymd, dmy or mdy.");
        } else {
            return failure(fmt::format("import does not know {}=.", key), "import", "It takes zone= and dates=.");
        }
    }
    return {};
}

} // namespace

int run_import(const ImportRequest& request, bool json) {
    const std::string &input = request.input, &path = request.bench;
    ImportOptions options;
    options.as_raw = request.as_raw;
    if (const auto read = read_times(request.arguments, options); !read) return complain(read.error(), usage);
    if (input != "-" && !is_pipe(input) && is_plan(input)) return import_plan(input, path, json);
    const int descriptor = input == "-" ? 0 : ::open(input.c_str(), O_RDONLY | O_CLOEXEC);
    if (descriptor < 0) return complain({"there is no such file, or it cannot be read.", input, "Check the name."});
    const auto close = [&] {
        if (descriptor > 0) ::close(descriptor);
    };
    bool is_new = false;
    auto file = open_or_create(path, is_new);
    if (!file) {
        close();
        return complain(file.error());
    }
    auto plan = file->load_plan();
    if (!plan) {
        close();
        return complain(plan.error());
    }
    if (is_new) plan->name = std::filesystem::path(path).stem().string();
    const LoadedCatalog cards = load_catalog();
    options.catalog = &cards.catalog;
    const auto report = import_samples(*file, *plan, input == "-" ? "stdin" : input, descriptor, options);
    close();
    if (!report) {
        const Error& error = report.error(); // of the report, which outlives the file
        if (is_new && !has_samples(*file).value_or(true)) {
            { const BenchFile closing = std::move(*file); }
            remove_bench(path);
        }
        return complain(error);
    }
    if (json) {
        print_json({{"rows", report->rows},
                    {"readings", report->readings.size()},
                    {"rejected", rejections_json(report->rejected)}});
        return done;
    }
    const auto number_of_them = [](auto n, const char* one, const char* many) {
        return fmt::format("{} {}", n, n == 1 ? one : many);
    };
    std::puts(fmt::format("{} taken into {}, {} set aside.", number_of_them(report->rows, "row", "rows"),
                          number_of_them(report->readings.size(), "reading", "readings"), report->rejected.total())
                  .c_str());
    for (const Rejection& r : report->rejected.reasons())
        std::puts(fmt::format("  {} × {}, first in line {}", r.count, r.reason, r.first_line).c_str());
    return done;
}

int run_export(const std::string& path, const ExportRequest& request) {
    ExportOptions options;
    const auto& format = request.format;
    if (format == "csv")
        options.format = ExportFormat::csv;
    else if (format == "json")
        options.format = ExportFormat::json;
    else if (format == "senml")
        options.format = ExportFormat::senml;
    else
        return complain(
            {fmt::format("\"{}\" is no format; known are csv, json and senml.", format), "--format", ""}, usage);
    const auto stretch = stretch_given(request.from, request.to);
    if (!stretch) return complain(stretch.error(), usage);
    if (stretch->from) options.from = *stretch->from;
    if (stretch->to) options.to = *stretch->to - 1; // excluded
    using Numbers = ExportOptions::Numbers;
    options.numbers = request.both ? Numbers::both : request.raw ? Numbers::raw : Numbers::values;
    options.doubts = request.doubts;
    if (format != "csv" && (request.raw || request.both || request.doubts))
        return complain({"--raw, --both and --doubt are for CSV.", "--format", "Leave them out, or write csv."},
                        usage);
    const LoadedCatalog cards = request.doubts ? load_catalog() : LoadedCatalog{};
    options.catalog = &cards.catalog;
    auto file = BenchFile::open(path, Access::read);
    if (!file) return complain(file.error());
    const auto plan = file->load_plan();
    if (!plan) return complain(plan.error());
    options.causes = request.causes;
    for (const std::string& name : request.readings) {
        const auto at = find_reading(*plan, path, name);
        if (!at) return complain(at.error());
        options.readings.push_back(plan->readings[*at].id);
    }
    // A file is written beside its name and moved there when it is whole; a pipe or a device is written into.
    const std::string& output = request.output;
    std::error_code code;
    const bool is_file = !output.empty() &&
                         (!std::filesystem::exists(output, code) || std::filesystem::is_regular_file(output, code));
    const std::string part = is_file ? path_beside(full_path(output).value_or(output)) : output;
    std::unique_ptr<std::FILE, int (*)(std::FILE*)> opened(
        output.empty() ? nullptr : std::fopen(part.c_str(), "wb"), std::fclose);
    std::FILE* out = output.empty() ? stdout : opened.get();
    if (!out) return complain({"the file cannot be written.", output, "Check the folder and its permissions."});
    bool whole = true;
    const auto report = export_samples(*file, *plan, options, [&](std::string_view text) {
        whole = whole && std::fwrite(text.data(), 1, text.size(), out) == text.size();
    });
    whole = std::fflush(out) == 0 && whole;
    if (!report || !whole) {
        if (is_file)
            std::remove(part.c_str());
        else
            std::fputs("\n# not whole: the export ended here with an error\n", out);
        return complain(report ? Error{"it could not be written whole.",
                                       output.empty() ? "standard output" : output, "Is the disk full?"}
                               : report.error(),
                        answer_is_no);
    }
    opened.reset();
    if (is_file)
        if (const auto placed = put_in_place(part, output, Existing::replace); !placed)
            return complain(placed.error());
    for (const std::string& name : report->private_readings)
        complain({fmt::format("\"{}\" is about somebody’s health and is left out.", name), path,
                  fmt::format("To export it, name it: --reading \"{}\".", name)});
    for (const Unreadable& u : report->unreadable)
        complain({fmt::format("{} samples from {} to {} cannot be read and are missing.", u.n, iso_time(u.first),
                              iso_time(u.last)),
                  fmt::format("{}, reading {}", path, u.reading), "Run: cognitum-cli verify"});
    return report->unreadable.empty() ? done : answer_is_no;
}

} // namespace cognitum::cli
