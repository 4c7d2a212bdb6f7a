#include "cli/cli.h"

#include "core/plan/findings.h"
#include "core/plan/path.h"
#include "core/plan/placed.h"
#include "core/signal_path/chain.h"
#include "core/uncertainty/budget.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "demo/demo_bench.h"
#include "store/csv_import.h"
#include "store/data_files.h"
#include "store/export.h"
#include "store/file_header.h"
#include "store/verify.h"
#include "store/whole_file.h"

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <fcntl.h>
#include <filesystem>
#include <fmt/format.h>
#include <memory>
#include <unistd.h>

namespace cognitum::cli {

namespace {

bool ends_with(const std::string& text, std::string_view end) {
    return text.size() >= end.size() && text.compare(text.size() - end.size(), end.size(), end) == 0;
}

Result<Bench> load_any_bench(const std::string& path) {
    // A pipe can only bring the JSON form: a bench file is read from several places at once.
    if (ends_with(path, ".json") || path == "-" || is_pipe(path)) {
        COGNITUM_TRY(text, read_input(path));
        COGNITUM_TRY(document, JsonText::parse(path, text));
        return read_bench(JsonReader(document));
    }
    COGNITUM_TRY(file, BenchFile::open(path, Access::read));
    return file.load_plan();
}

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

int import_plan(const std::string& input, const std::string& path, bool json) {
    const auto bench = load_any_bench(input);
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

} // namespace

Result<std::size_t> find_reading(const Bench& bench, const std::string& path, const std::string& name) {
    std::string known;
    for (std::size_t i = 0; i < bench.readings.size(); ++i) {
        if (bench.readings[i].name == name || bench.readings[i].id == name) return i;
        known += (i > 0 ? ", " : "") + bench.readings[i].name;
    }
    return failure(fmt::format("there is no reading \"{}\".", name), path,
                   known.empty() ? "The bench has none." : "There are: " + known + ".");
}

int run_path(const std::string& path, const std::string& name, bool json) {
    const auto bench = load_any_bench(path);
    if (!bench) return complain(bench.error());
    const auto at = find_reading(*bench, path, name);
    if (!at) return complain(at.error());
    const Reading& reading = bench->readings[*at];
    const LoadedCatalog loaded = load_catalog();
    const Placed placed = place(*bench, loaded.catalog, reading);
    if (!placed.part)
        return complain({"it has no part that Cognitum knows, so there is no path to plan.",
                         fmt::format("{}, reading {}", path, reading.name), "Choose its part at the Sensor stop."},
                        answer_is_no);
    if (!placed.board)
        return complain({"it is on no board that Cognitum knows, so there is no path to plan.",
                         fmt::format("{}, reading {}", path, reading.name), "Place it on a board."},
                        answer_is_no);
    Chain chain = build_path(placed);
    chain.name = reading.name;
    if (json) {
        print_json(chain_json(chain));
        return done;
    }
    if (chain.stages.empty())
        std::puts(
            fmt::format("{}: its numbers arrive finished, in {}.", reading.name, reading.quantity.unit).c_str());
    for (Stage& stage : chain.stages) {
        std::puts(fmt::format("{} → {}: {}", unit_symbol(input_unit(stage)), unit_symbol(output_unit(stage)),
                              stage_title(stage))
                      .c_str());
        for (const NamedConstant& c : constants(stage))
            std::puts(fmt::format(
                          "    {}: {}{}{}", constant_label(c.key), format_measure(c.constant->value, c.unit),
                          c.constant->doubt > 0 ? " ± " + format_measure(c.constant->doubt, c.unit) : std::string(),
                          c.constant->origin.empty() ? "" : ", " + c.constant->origin)
                          .c_str());
    }
    return done;
}

int run_check(const std::string& path, bool json) {
    const auto bench = load_any_bench(path);
    if (!bench) return complain(bench.error());
    const LoadedCatalog loaded = load_catalog();
    for (const Error& problem : loaded.problems)
        complain(problem);
    bool any_error = false;
    Json list = Json::array();
    for (const Finding& f : check_bench(*bench, loaded.catalog)) {
        any_error = any_error || f.severity == Severity::error;
        list.push_back({{"id", f.id},
                        {"severity", severity_name(f.severity)},
                        {"reading", f.reading},
                        {"board", f.board},
                        {"message", f.message},
                        {"why", f.why},
                        {"fix", f.fix}});
        if (!json)
            std::puts(fmt::format("{}: {} ({})\n  {}\n  {}\n  {}", f.reading.empty() ? f.board : f.reading,
                                  severity_name(f.severity), f.id, f.message, f.why, f.fix)
                          .c_str());
    }
    if (json)
        print_json({{"findings", list}});
    else if (list.empty())
        std::puts("nothing found.");
    return any_error ? answer_is_no : done;
}

int run_import(const std::string& input, const std::string& path, bool as_raw, bool json) {
    if (ends_with(input, ".json")) return import_plan(input, path, json);
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
    ImportOptions options;
    options.as_raw = as_raw;
    const LoadedCatalog cards = load_catalog();
    options.catalog = &cards.catalog;
    const auto report = import_csv(*file, *plan, input == "-" ? "stdin" : input, descriptor, options);
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
    std::puts(fmt::format("{} rows taken into {} readings, {} set aside.", report->rows, report->readings.size(),
                          report->rejected.total())
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

int run_verify(const std::string& path, const std::string& mend, bool json) {
    // What is no bench, or a newer one, cannot be judged; a bench that is damaged can, and the answer is no.
    const FileHeader header = read_file_header(path);
    if (header.kind != FileKind::bench && header.kind != FileKind::truncated) return complain(header.error);
    auto file = BenchFile::open(path, Access::read);
    const auto report = file ? verify(*file) : Result<VerifyReport>(tl::make_unexpected(file.error()));
    Json problems = Json::array();
    const auto problem_json = [](const Problem& p) {
        Json out = {{"where", p.where}, {"what", p.what}};
        if (p.from) out["from"] = iso_time(std::clamp(*p.from, earliest_time, latest_time));
        if (p.to) out["to"] = iso_time(std::clamp(*p.to, earliest_time, latest_time));
        return out;
    };
    const bool ok = report && report->problems.empty();
    if (report)
        for (const Problem& p : report->problems)
            problems.push_back(problem_json(p));
    else
        problems.push_back(problem_json({path, report.error().what, {}, {}}));
    Json mended;
    if (!mend.empty()) {
        if (!file) return complain(file.error());
        const auto copy = mend_into(*file, mend);
        if (!copy) return complain(copy.error());
        Json lost = Json::array();
        for (const Problem& p : copy->lost)
            lost.push_back(problem_json(p));
        mended = {{"file", mend}, {"samples", copy->samples}, {"lost", lost}};
    }
    if (json) {
        Json out = {{"ok", ok}, {"samples", report ? report->samples : 0}, {"problems", problems}};
        if (!mend.empty()) out["mended"] = mended;
        print_json(out);
        return ok ? done : answer_is_no;
    }
    if (ok) std::puts(fmt::format("{}: sound, {} samples.", path, report->samples).c_str());
    const auto list = [](const Json& items) {
        for (const Json& p : items)
            std::puts(fmt::format("{}: {}", p["where"].get<std::string>(), p["what"].get<std::string>()).c_str());
    };
    list(problems);
    if (!mend.empty()) {
        std::puts(fmt::format("{}: a copy with {} samples.{}", mend, mended["samples"].get<std::uint64_t>(),
                              mended["lost"].empty() ? "" : " Not in it:")
                      .c_str());
        list(mended["lost"]);
    }
    return ok ? done : answer_is_no;
}

int run_demo(const std::string& path, const std::string& end) {
    TimeUs until =
        std::chrono::duration_cast<std::chrono::microseconds>(std::chrono::system_clock::now().time_since_epoch())
            .count();
    if (!end.empty()) {
        const auto given = parse_time(end);
        if (!given)
            return complain({fmt::format("\"{}\" is no time; write it as 2026-06-01T09:00:00Z.", end), "--end", ""},
                            usage);
        until = *given;
    }
    const auto file = create_demo_bench(path, until);
    if (!file) return complain(file.error());
    std::puts(fmt::format("{}: the demo bench of Whelk Point, history up to {}.", path, iso_time(until)).c_str());
    return done;
}

} // namespace cognitum::cli
