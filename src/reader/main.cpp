// cognitum-reader: reads a program that somebody wrote for a board and says what it really computes, beside the
// plan. A process of its own with bounds of time and memory, because a stranger's text must not hang or harm the
// one that asks. Nothing of what it reads is compiled or run.
#include "core/base/guarded_main.h"
#include "core/program/program.h"
#include "core/program/proof_json.h"
#include "core/program/read/evaluated_proof.h"
#include "core/program/read/read_program.h"
#include "reader/core_interface.h"
#include "reader/parse.h"
#include "store/file/bench_file.h"
#include "store/file/data_files.h"

#include <CLI/CLI.hpp>
#include <cmath>
#include <csignal>
#include <cstdio>
#include <cstring>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <llvm/Support/ErrorHandling.h>
#include <sstream>
#include <sys/resource.h>
#include <unistd.h>

namespace {

using namespace cognitum;
namespace fs = std::filesystem;

constexpr int done = 0, answer_is_no = 1, bad_input = 3;

struct Asked {
    std::vector<std::string> files;
    std::string bench, board;
    bool json = false, prove = false, lines = false;
    int points = 21;
    ProgramOptions written;
};

int complain(const Error& error) {
    std::fputs((error.text() + "\n").c_str(), stderr);
    return bad_input;
}

Result<Bench> load(const std::string& path) {
    if (path.ends_with(".json")) return load_bench_json(path);
    COGNITUM_TRY(file, BenchFile::open(path, Access::read));
    return file.load_plan();
}

const char* sent_as_name(SentAs as) {
    switch (as) {
    case SentAs::raw: return "raw";
    case SentAs::on_the_way: return "on-the-way";
    case SentAs::value: return "value";
    case SentAs::other_unit: return "other-unit";
    case SentAs::another: return "another";
    case SentAs::not_known: break;
    }
    return "not-known";
}

Json number(double v) {
    return std::isfinite(v) ? Json(v) : Json();
}

Json finding_json(const ReadFinding& f) {
    return {{"id", f.id},           {"severity", severity_name(f.severity)},
            {"reading", f.reading}, {"file", f.file},
            {"line", f.line},       {"message", f.message},
            {"why", f.why},         {"mended", f.mended}};
}

Json path_json(const ReadPath& p) {
    Json steps = Json::array(), prints = Json::array();
    for (const ReadStep& s : p.steps)
        steps.push_back({{"what", s.what}, {"note", s.note}, {"line", s.line}, {"differs", s.differs}});
    for (const PrintsAt& at : p.prints_at)
        prints.push_back({{"true", number(at.truth)}, {"raw", number(at.raw)}, {"prints", at.printed}});
    const Json chain = p.path ? chain_json(*p.path) : Json();
    return {{"reading", p.reading},
            {"pin", p.pin},
            {"file", p.file},
            {"line", p.line},
            {"label", p.label},
            {"column", p.column},
            {"columns", p.columns},
            {"interval_s", number(p.interval_s)},
            {"sends", sent_as_name(p.sent_as)},
            {"unit", p.unit},
            {"stages", chain.is_object() ? chain["stages"] : Json::array()},
            {"chain", chain},
            {"steps", steps},
            {"prints_at", prints}};
}

int report(const ProgramRead& read, bool json) {
    const bool errors = std::any_of(read.findings.begin(), read.findings.end(),
                                    [](const ReadFinding& f) { return f.severity == Severity::error; });
    if (json) {
        Json findings = Json::array(), readings = Json::array();
        for (const ReadFinding& f : read.findings)
            findings.push_back(finding_json(f));
        for (const ReadPath& p : read.readings)
            readings.push_back(path_json(p));
        std::puts(json_dump({{"findings", findings},
                             {"readings", readings},
                             {"not_in_it", read.not_in_it},
                             {"compared", read.compared},
                             {"notes", read.notes}})
                      .c_str());
        return errors ? answer_is_no : done;
    }
    for (const ReadFinding& f : read.findings) {
        std::puts(fmt::format("{}:{}: {}: {}", f.file, f.line, severity_name(f.severity), f.message).c_str());
        if (!f.why.empty()) std::puts(("    " + f.why).c_str());
        if (!f.mended.empty()) std::puts(("    instead: " + f.mended).c_str());
    }
    if (read.findings.empty())
        std::puts(read.compared ? "It does what the plan says."
                                : "Nothing was found; but not every number could be compared with the plan.");
    for (const ReadPath& p : read.readings) {
        std::string way;
        for (const ReadStep& s : p.steps)
            way += (way.empty() ? "" : "  ") + s.what + (s.note.empty() ? "" : " (" + s.note + ")");
        std::puts(fmt::format("{} on {}, line {}: {}", p.reading, p.pin, p.line, way).c_str());
        for (const PrintsAt& at : p.prints_at)
            std::puts(
                fmt::format("    true {:.6g}: prints {}", at.truth, at.printed.empty() ? "nothing" : at.printed)
                    .c_str());
    }
    std::string missing;
    for (const std::string& id : read.not_in_it)
        missing += (missing.empty() ? "" : ", ") + id;
    if (!missing.empty()) std::puts(("not in it: " + missing).c_str());
    for (const std::string& note : read.notes)
        std::puts(("note: " + note).c_str());
    return errors ? answer_is_no : done;
}

/// The stand-in of the core's headers with the pins and the types of a board.
Result<reader::ParseOptions> options_for(const Bench& bench, const Catalog& catalog, const std::string& board) {
    reader::ParseOptions out;
    COGNITUM_TRY(interface, reader::core_interface(data_folder()));
    COGNITUM_TRY(pins, pins_header(bench, catalog, board));
    out.interface = std::move(interface);
    out.interface.push_back({"pins.h", pins});
    out.eight_bit = has_short_int(bench, catalog, board);
    return out;
}

/// The plan's own program, or a given one, at all points of the proof.
int prove(const Bench& bench, const Catalog& catalog, const std::string& board,
          std::vector<reader::SourceText> files, const Asked& asked) {
    if (files.empty()) {
        const auto written = write_program(bench, catalog, board, asked.written);
        if (!written) return complain(written.error());
        for (const ProgramFile& f : written->files)
            files.push_back({fs::path(f.name).filename().string(), f.text});
    }
    const auto options = options_for(bench, catalog, board);
    if (!options) return complain(options.error());
    const auto tree = reader::parse_program(files, *options);
    if (!tree) return complain(tree.error());
    if (!tree->said.empty())
        return complain({fmt::format("The program does not compile: {}.", tree->said.front().text),
                         fmt::format("line {}", tree->said.front().place.line), ""});
    ProofOptions how;
    how.points = asked.points;
    const auto proof = prove_evaluated(*tree, bench, catalog, board, how);
    if (!proof) return complain(proof.error());
    const bool holds = proof->stopped.empty() && all_hold(proof->rows);
    if (asked.lines)
        for (const ProofLine& line : proof->lines)
            std::fputs(fmt::format("{:9.4f} {}\n", line.at_s, line.text).c_str(), stderr);
    if (asked.json) {
        Json out = proof_json(proof->plan, proof->rows);
        out.update({{"holds", holds},
                    {"evaluated", true},
                    {"longest_loop_ms", proof->longest_loop_ms},
                    {"lines", proof->lines.size()},
                    {"stopped", proof->stopped}});
        std::puts(json_dump(out).c_str());
    } else {
        std::fputs(proof_text(proof->plan, proof->rows).c_str(), stdout);
        if (!proof->stopped.empty()) std::puts(("It went no further: " + proof->stopped).c_str());
    }
    return holds ? done : answer_is_no;
}

int read(const Asked& asked) {
    const auto bench = load(asked.bench);
    if (!bench) return complain(bench.error());
    const Catalog catalog = load_cards_of(*bench);
    std::string board;
    for (const BoardUse& use : bench->boards)
        if (use.id == asked.board || use.name == asked.board) board = use.id;
    if (board.empty()) board = asked.board;
    std::vector<reader::SourceText> files;
    for (const std::string& path : asked.files) {
        auto text = reader::read_text(path);
        if (!text) return complain(text.error());
        files.push_back({fs::path(path).filename().string(), std::move(*text)});
    }
    if (asked.prove) return prove(*bench, catalog, board, files, asked);
    if (files.empty()) return complain({"there is no program to read.", "", "Give its files."});
    const auto options = options_for(*bench, catalog, board);
    if (!options) return complain(options.error());
    const auto tree = reader::parse_program(files, *options);
    if (!tree) return complain(tree.error());
    const auto answer = read_program(*tree, *bench, catalog, board);
    return answer ? report(*answer, asked.json) : complain(answer.error());
}

[[noreturn]] void give_up(const char* why) {
    const auto written = ::write(STDERR_FILENO, why, std::strlen(why));
    ::_exit(written >= 0 ? bad_input : bad_input + 1);
}

void bound_this_process() {
    const rlimit time{40, 45};
    const rlimit memory{3UL << 29, 3UL << 29}; // the parser's own library takes a good part of it as addresses
    setrlimit(RLIMIT_CPU, &time);
    setrlimit(RLIMIT_AS, &memory);
    // What the parser cannot bear ends here, in a sentence.
    std::signal(SIGXCPU,
                [](int) { give_up("it takes longer than 40 s to read: no program for such a board does.\n"); });
    std::signal(SIGABRT, [](int) { give_up("it needs more memory to read than any program for such a board.\n"); });
    llvm::install_bad_alloc_error_handler([](void*, const char*, bool) {
        give_up("it needs more memory to read than any program for such a board.\n");
    });
    llvm::install_fatal_error_handler([](void*, const char*, bool) { give_up("the parser cannot read it.\n"); });
}

int run(int argc, char** argv) {
    CLI::App app{"What a program for a board really computes, beside the plan."};
    Asked asked;
    app.add_option("files", asked.files, "the program: .ino, .cpp, .h");
    app.add_option("--bench", asked.bench, "a bench, or its JSON form")->required();
    app.add_option("--board", asked.board, "id or name of the board")->required();
    app.add_flag("--prove", asked.prove, "the plan’s own program, or the given one, at all points of a proof");
    app.add_flag("--constants", asked.written.constants,
                 "of a proof: the program says values by the plan’s constants as well");
    app.add_option("--average", asked.written.average,
                   "of a proof: conversions of an analog input that become one number")
        ->check(CLI::Range(1, 64));
    app.add_flag("--lines", asked.lines, "of a proof: what the board sent, on standard error");
    app.add_option("--points", asked.points, "of a proof, for each reading")->check(CLI::Range(2, 200));
    app.add_flag("--json", asked.json, "one JSON object on standard output");
    CLI11_PARSE(app, argc, argv);
    bound_this_process();
    return read(asked);
}

void broke_off(const char* what) {
    for (const char* text : {"cognitum-reader: it broke off: ", what, "\n"})
        std::fputs(text, stderr);
}

} // namespace

int main(int argc, char** argv) {
    return cognitum::guarded_main(run, argc, argv, broke_off, bad_input);
}
