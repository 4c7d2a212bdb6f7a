// cognitum-processor: proves the program of an 8-bit board. Compiles it with the real compiler, runs it in an
// instruction-level simulator with voltages, pulses and parts at its pins, and compares what its lines say with
// what was given. A process of its own, so that no program can hang or harm the one that asks.
#include "core/base/guarded_main.h"
#include "core/base/json_reader.h"
#include "core/program/parts_at_pins.h"
#include "core/program/program.h"
#include "core/program/proof_json.h"
#include "machine/compile.h"
#include "machine/planned_bench.h"
#include "machine/simulated_avr.h"
#include "machine/workplace.h"
#include "processor/disturb.h"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <cstdio>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>
#include <sys/resource.h>
#include <unistd.h>

namespace {

using namespace cognitum;
using namespace cognitum::machine;
namespace fs = std::filesystem;

constexpr int done = 0, answer_is_no = 1, bad_input = 3, not_here = 4;

struct Asked {
    std::string bench, board, program, hex;
    ProofOptions options;
    ProgramOptions written;
    bool json = false, lines = false;
};

int complain(const Error& error, int code) {
    std::fputs(("cognitum-processor: " + error.text() + "\n").c_str(), stderr);
    return code;
}

int prove(const Asked& asked) {
    const auto planned = load_planned(asked.bench);
    if (!planned) return complain(planned.error(), bad_input);
    const Bench* const bench = &planned->bench;
    const Catalog& catalog = planned->catalog;
    const auto plan = plan_proof(*bench, catalog, asked.board, asked.options);
    if (!plan) return complain(plan.error(), answer_is_no);
    const auto written = write_program(*bench, catalog, asked.board, asked.written);
    if (!written) return complain(written.error(), answer_is_no);
    if (std::string missing = missing_tools(); !missing.empty())
        return complain({"The proof cannot run here: " + missing + ".", asked.board, "Run tools/install."},
                        not_here);

    const Scratch scratch;
    std::string source = asked.program;
    if (source.empty()) {
        source = (scratch.path() / "program.ino").string();
        std::ofstream(source, std::ios::binary) << written->files.front().text;
    }
    const auto compiled = compile(source, scratch.path().string(), cache_folder());
    if (!compiled) return complain(compiled.error(), answer_is_no);
    if (!asked.hex.empty()) {
        const auto kept = write_hex(*compiled, asked.hex);
        return kept ? done : complain(kept.error(), bad_input);
    }

    SimulatedAvr avr(compiled->elf, catalog.board(bench->board(asked.board)->card)->logic_V,
                     compiled->loop_address);
    program::PartsAtPins parts(avr, *plan, *bench, catalog);
    avr.at(plan->begin_s / 2, [&] { avr.type(plan->command + "\n"); });
    const bool lives = avr.run_to(plan->end_s);
    const std::vector<ProofRow> rows = judge_proof(*plan, *bench, catalog, avr.lines());
    const double longest_loop_s = avr.longest_loop_s();
    const int restarts = avr.restarts();
    const auto disturbed =
        lives && asked.program.empty() ? disturb(avr, parts, *plan, *bench) : std::vector<Disturbance>();
    const bool holds = lives && restarts == 0 && all_hold(rows) &&
                       std::all_of(disturbed.begin(), disturbed.end(), [](const auto& d) { return d.held; });
    Json happened = Json::array();
    for (const Disturbance& d : disturbed)
        happened.push_back({{"what", d.what}, {"held", d.held}, {"text", d.text}});
    Json out = proof_json(*plan, rows);
    out.update({{"holds", holds},
                {"flash_bytes", compiled->flash},
                {"flash_there_bytes", flash_there},
                {"memory_bytes", compiled->memory},
                {"memory_there_bytes", memory_there},
                {"disturbed", happened},
                {"longest_loop_ms", 1000 * longest_loop_s},
                {"restarts", restarts},
                {"lines", avr.lines().size()}});
    if (asked.lines && asked.json) {
        Json lines = Json::array();
        for (const ProofLine& line : avr.lines())
            lines.push_back({line.at_s, line.text});
        out["sent_lines"] = lines;
    } else if (asked.lines)
        for (const ProofLine& line : avr.lines())
            std::fputs(fmt::format("{:9.4f} {}\n", line.at_s, line.text).c_str(), stderr);
    if (asked.json) {
        std::puts(json_dump(out).c_str());
    } else {
        std::fputs(proof_text(*plan, rows).c_str(), stdout);
        std::puts(fmt::format(
                      "{} of {} bytes of flash, {} of {} of memory; longest turn of loop() {:.1f} ms; {} restarts",
                      compiled->flash, flash_there, compiled->memory, memory_there, 1000 * longest_loop_s, restarts)
                      .c_str());
        for (const Disturbance& d : disturbed)
            std::puts(d.text.c_str());
    }
    return holds ? done : answer_is_no;
}

/// A program of a stranger may loop for ever or eat memory: this process ends then, and nothing else.
void bound_this_process() {
    const rlimit time{120, 130};
    const rlimit memory{1UL << 30, 1UL << 30};
    setrlimit(RLIMIT_CPU, &time);
    setrlimit(RLIMIT_AS, &memory);
}

int run(int argc, char** argv) {
    CLI::App app{
        "The program of an 8-bit board, compiled and run in a simulator with its plan’s parts at its pins."};
    Asked asked;
    app.add_option("bench", asked.bench, "a bench, or its JSON form")->required();
    app.add_option("--board", asked.board, "id of the board")->required();
    app.add_option("--program", asked.program, "another program than the one that the plan makes");
    app.add_option("--hex", asked.hex, "only compile, and write what a loader takes into this file");
    app.add_option("--points", asked.options.points, "for each reading")->check(CLI::Range(2, 200));
    app.add_option("--average", asked.written.average, "conversions of an analog input that become one number")
        ->check(CLI::Range(1, 64));
    app.add_flag("--constants", asked.written.constants, "the program says values by the plan’s constants as well");
    app.add_flag("--sleep", asked.written.sleep, "the program sleeps deeply between records");
    app.add_flag("--lines", asked.lines, "what the board sent, on standard error; with --json in it");
    app.add_option("--point-s", asked.options.point_s, "a point lasts so long at least")
        ->check(CLI::Range(0.0, 20.0));
    app.add_flag("--json", asked.json, "one JSON object on standard output");
    CLI11_PARSE(app, argc, argv);
    bound_this_process();
    return prove(asked);
}

void broke_off(const char* what) {
    for (const char* text : {"cognitum-processor: it broke off: ", what, "\n"})
        std::fputs(text, stderr);
}

} // namespace

int main(int argc, char** argv) {
    return cognitum::guarded_main(run, argc, argv, broke_off, answer_is_no);
}
