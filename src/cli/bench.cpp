#include "cli/cli.h"

#include "core/plan/findings.h"
#include "core/plan/path.h"
#include "core/plan/placed.h"
#include "core/signal_path/chain.h"
#include "core/uncertainty/budget.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "demo/demo_bench.h"
#include "store/file/data_files.h"
#include "store/file/file_header.h"
#include "store/samples/fingerprint.h"
#include "store/upkeep/bench_copy.h"
#include "store/upkeep/verify.h"

#include <algorithm>
#include <chrono>
#include <cstdio>
#include <fmt/format.h>

namespace cognitum::cli {

namespace {

bool ends_with(const std::string& text, std::string_view end) {
    return text.size() >= end.size() && text.compare(text.size() - end.size(), end.size(), end) == 0;
}

} // namespace

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

namespace {

/// The fingerprint of samples or of a calibration, as a report or a certificate states it.
Result<std::string> fingerprint_of(BenchFile& file, const VerifyCommand& command) {
    COGNITUM_TRY(plan, file.load_plan());
    if (command.calibration > 0) {
        for (const Reading& reading : plan.readings) {
            COGNITUM_TRY(records, file.calibrations(reading.id));
            for (const CalibrationRecord& record : records)
                if (record.id == command.calibration) return text_fingerprint(json_dump(record_json(record)));
        }
        return failure(fmt::format("there is no calibration {}.", command.calibration), command.bench);
    }
    COGNITUM_TRY(given, stretch_given(command.from, command.to));
    const Interval stretch{given.from.value_or(earliest_time), given.to.value_or(latest_time)};
    std::vector<std::string> ids;
    for (const std::string& name : command.readings) {
        COGNITUM_TRY(at, find_reading(plan, command.bench, name));
        ids.push_back(plan.readings[at].id);
    }
    if (ids.empty())
        return failure("it names no reading.", "--fingerprint", "Add --reading NAME for each, in order.");
    return samples_fingerprint(file, ids, stretch);
}

int check_fingerprint(const VerifyCommand& command, bool json) {
    auto file = BenchFile::open(command.bench, Access::read);
    if (!file) return complain(file.error());
    const auto found = fingerprint_of(*file, command);
    if (!found) return complain(found.error());
    const bool same = *found == command.fingerprint;
    if (json)
        print_json({{"ok", same}, {"fingerprint", *found}, {"given", command.fingerprint}});
    else
        std::puts(same ? "the same: these are the data that it was made from."
                       : fmt::format("not the same: now it is {}.", *found).c_str());
    return same ? done : answer_is_no;
}

} // namespace

int run_verify(const VerifyCommand& command, bool json) {
    if (!command.fingerprint.empty()) return check_fingerprint(command, json);
    const std::string &path = command.bench, &mend = command.mend;
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
        const auto copy = copy_bench(*file, mend);
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
