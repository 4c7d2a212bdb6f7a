#include "cli/arguments.h"
#include "cli/cli.h"

#include <CLI/CLI.hpp>
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <fstream>
#include <iostream>

#include "store/file/data_files.h"

namespace cognitum::cli {

static constexpr std::size_t input_limit = 1 << 30;

int complain(const Error& error, int code) {
    std::fputs((error.text() + "\n").c_str(), stderr);
    return code;
}

void print_json(const Json& json) {
    std::fputs((json_dump(json) + "\n").c_str(), stdout);
}

Json number_or_null(double value) {
    return std::isfinite(value) ? Json(value) : Json(nullptr);
}

bool is_pipe(const std::string& path) {
    std::error_code code;
    return std::filesystem::is_other(path, code); // a directory and a missing file are not
}

Result<std::string> read_input(const std::string& path) {
    if (path != "-" && !is_pipe(path)) return read_text_file(path, input_limit);
    std::ifstream pipe;
    if (path != "-") pipe.open(path, std::ios::binary);
    std::istream& in = path == "-" ? std::cin : pipe;
    std::string text;
    std::vector<char> buffer(1 << 16);
    while (in.read(buffer.data(), static_cast<std::streamsize>(buffer.size())) || in.gcount() > 0) {
        text.append(buffer.data(), static_cast<std::size_t>(in.gcount()));
        if (text.size() > input_limit)
            return failure(fmt::format("more than {} bytes came; at most that many are read.", input_limit), path);
    }
    if (path != "-" && !pipe.is_open())
        return failure("it cannot be read.", path, "Ask for permission to read it.");
    return text;
}

Result<TextTable> read_table(const std::string& path) {
    COGNITUM_TRY(text, read_input(path));
    return parse_table(path, text);
}

namespace {

/// The first argument, where it is no verb: says so, with the verb that is most like it.
bool names_no_verb(const CLI::App& app, int argc, char** argv) {
    std::vector<std::string> verbs;
    for (const CLI::App* sub : app.get_subcommands({}))
        verbs.push_back(sub->get_name());
    const std::string all = fmt::format("Verbs: {}.\n", fmt::join(verbs, ", "));
    if (argc < 2) {
        std::fputs(("cognitum-cli: a verb is missing: cognitum-cli VERB …\n" + all).c_str(), stderr);
        return true;
    }
    const std::string word = argv[1];
    if (word.starts_with("-") || std::find(verbs.begin(), verbs.end(), word) != verbs.end()) return false;
    std::fputs(
        fmt::format("cognitum-cli: there is no verb \"{}\". Nearest: {}.\n{}", word, nearest_word(word, verbs), all)
            .c_str(),
        stderr);
    return true;
}

/// The command line, with what each verb is given. An option stands in its verb's field until the verb is run.
struct CommandLine {
    CommandLine() {
        app.require_subcommand(1);
        app.set_version_flag("--version", "cognitum-cli 0.1.0");
        add_number_verbs();
        add_plan_verbs();
        add_file_verbs();
        add_record_verbs();
    }
    int run(int argc, char** argv);
    CLI::App* verb(const char* name, const char* about) {
        CLI::App* sub = app.add_subcommand(name, about);
        sub->add_flag("--json", json, "one JSON object on standard output");
        return sub;
    }
    void add_number_verbs();
    void add_plan_verbs();
    void add_file_verbs();
    void add_record_verbs();

    CLI::App app{"Cognitum without a window: physics, conversion, fits, checks and bench files."};
    int code = done;
    bool json = false, inverse = false, uncertainty = false;
    std::string a, b, model = "auto", end, decode_format = "auto";
    long head = -1;
    std::vector<std::string> arguments;
    BacktestRequest tried;
    ProgramRequest program;
    ReadProgramRequest read;
    ImportRequest taken;
    ExportRequest request;
    VerifyCommand sound;
    StretchRequest stretch;
    PeriodRequest periods;
    SessionsRequest sessions;
    ThinCommand thin;
    MirrorRequest copy;
};

/// Numbers from standard input and from small files.
void CommandLine::add_number_verbs() {
    CLI::App* physics = verb("physics", "a formula from the literature: physics NAME key=value…");
    physics->add_option("name", a)->required();
    physics->add_option("arguments", arguments);
    physics->callback([&] { code = run_physics(a, arguments, json); });

    CLI::App* compare = verb("compare", "two files of the same thing, side by side: compare A.csv B.csv");
    compare->add_option("first", a)->required();
    compare->add_option("second", b)->required();
    compare->callback([&] { code = run_compare(a, b, json); });

    CLI::App* convert = verb("convert", "numbers from standard input through a chain");
    convert->add_option("chain", a)->required();
    convert->add_flag("--inverse", inverse);
    convert->add_flag("--uncertainty", uncertainty);
    convert->callback([&] { code = run_convert(a, inverse, uncertainty, json); });

    CLI::App* vessel = verb("vessel", "litres from a level, or a level from litres: vessel SHAPE key=value…");
    vessel->add_option("shape", a)->required();
    vessel->add_option("arguments", arguments);
    vessel->callback([&] { code = run_vessel(a, arguments, json); });

    CLI::App* rain = verb("rain", "tips of a bucket to millimetres: funnel_diameter= or funnel_area=, tip_volume=");
    rain->add_option("tips", a)->required();
    rain->add_option("arguments", arguments);
    rain->callback([&] { code = run_rain(a, arguments, json); });

    CLI::App* beats = verb("beats", "a pulse wave to beats; rate= where there is no time. No diagnosis");
    beats->add_option("wave", a)->required();
    beats->add_option("arguments", arguments);
    beats->callback([&] { code = run_beats(a, arguments, json); });

    CLI::App* battery = verb("battery", "how long a battery lasts: capacity= sleep_current= active_current= "
                                        "active_time= interval=, and self_discharge= reserve=");
    battery->add_option("arguments", arguments);
    battery->callback([&] { code = run_battery(arguments, json); });

    CLI::App* fit = verb("fit", "a correction from calibration points");
    fit->add_option("points", a)->required();
    fit->add_option("--model", model);
    fit->callback([&] { code = run_fit(a, model, json); });

    CLI::App* decode = verb("decode", "bytes as a board sent them, to records");
    decode->add_option("input", a)->required();
    decode->add_option("--format", decode_format,
                       "auto, table, pairs, json, senml, text, scratchpad, humidity40, "
                       "\"frames start=0D end=54\", \"record little u16:level crc8\"");
    decode->add_option("--head", head, "only the first records");
    decode->callback([&] { code = run_decode(a, decode_format, head, json); });

    CLI::App* signal = verb("signal", "is a series healthy? Figures and verdicts; bits=10 for counts");
    signal->add_option("series", a)->required();
    signal->add_option("arguments", arguments);
    signal->callback([&] { code = run_signal(a, arguments, json); });
}

/// A bench's plan, and the programs of its boards.
void CommandLine::add_plan_verbs() {
    CLI::App* check = verb("check", "what will go wrong in a bench");
    check->add_option("bench", a)->required();
    check->callback([&] { code = run_check(a, json); });

    CLI::App* path_verb = verb("path", "the path that the plan makes for a reading: path BENCH --reading NAME");
    path_verb->add_option("bench", a)->required();
    path_verb->add_option("--reading", b, "its name or id")->required();
    path_verb->callback([&] { code = run_path(a, b, json); });

    CLI::App* program_verb =
        verb("program", "the program of a board, written from the plan: program BENCH --board ID");
    program_verb->add_option("bench", program.bench)->required();
    program_verb->add_option("--board", program.board, "its id or name")->required();
    program_verb->add_option("--out", program.out, "folder that the files are written into");
    program_verb->add_option("--average", program.options.average, "conversions that become one number")
        ->check(CLI::Range(1, 64));
    program_verb->add_flag("--constants", program.options.constants,
                           "values beside the raw numbers, by the plan’s constants");
    program_verb->add_flag("--sleep", program.options.sleep,
                           "sleeps deeply between records, where nothing keeps it awake");
    program_verb->callback([&] { code = run_program(program, json); });

    CLI::App* read_verb = verb(
        "read-program", "what a program for a board really computes: read-program FILE… --bench BENCH --board ID");
    read_verb->add_option("files", read.files, "the program: .ino, .cpp, .h")->required();
    read_verb->add_option("--bench", read.bench)->required();
    read_verb->add_option("--board", read.board, "its id or name")->required();
    read_verb->callback([&] { code = run_read_program(read, json); });

    CLI::App* demo = verb("demo", "make the demo bench of Whelk Point");
    demo->add_option("--bench", b)->required();
    demo->add_option("--end", end, "last moment of its history, ISO 8601; now when left out");
    demo->callback([&] { code = run_demo(b, end); });
}

/// Into a bench file and out of it.
void CommandLine::add_file_verbs() {
    CLI::App* import_verb =
        verb("import", "CSV, JSON or SenML into a bench file, or a bench’s JSON form into a new one");
    import_verb->add_option("input", taken.input)->required();
    import_verb->add_option("--bench", taken.bench)->required();
    import_verb->add_flag("--raw", taken.as_raw, "columns that match a reading are its raw counts");
    import_verb->add_option("arguments", taken.arguments,
                            "zone=local, +02:00 or Europe/Lisbon for times without one; dates=ymd, dmy or mdy");
    import_verb->callback([&] { code = run_import(taken, json); });

    CLI::App* export_verb = verb("export", "samples out of a bench file");
    export_verb->add_option("bench", a)->required();
    export_verb->add_option("--format", request.format, "csv, json or senml");
    export_verb->add_option("--output", request.output, "a file; standard output when left out");
    export_verb->add_option("--reading", request.readings,
                            "only this one; may be given again. A reading about somebody's health must be named");
    export_verb->add_flag("--causes", request.causes, "say why a value is missing");
    export_verb->add_flag("--doubt", request.doubts, "± at 95 % beside each value");
    export_verb->add_flag("--raw", request.raw, "what the board sent instead of the values");
    export_verb->add_flag("--both", request.both, "what the board sent beside the values");
    export_verb->add_option("--from", request.from, "first moment, ISO 8601 or seconds since 1970");
    export_verb->add_option("--to", request.to, "end, not in it");
    export_verb->callback([&] { code = run_export(a, request); });

    CLI::App* verify_verb = verb("verify", "is a bench file sound?");
    verify_verb->add_option("bench", sound.bench)->required();
    verify_verb->add_option("--mend", sound.mend, "write a copy with all that can be read");
    verify_verb->add_option("--fingerprint", sound.fingerprint, "is this still that of the data? As on a report");
    verify_verb->add_option("--reading", sound.readings, "a reading of the report; again for each, in order");
    verify_verb->add_option("--from", sound.from, "first moment of the report");
    verify_verb->add_option("--to", sound.to, "its end");
    verify_verb->add_option("--calibration", sound.calibration, "number of a certificate");
    verify_verb->callback([&] { code = run_verify(sound, json); });

    CLI::App* thin_verb = verb("thin", "a copy with fewer old samples: thin BENCH COPY --before T --step 10min");
    thin_verb->add_option("bench", thin.bench)->required();
    thin_verb->add_option("copy", thin.copy)->required();
    thin_verb->add_option("--before", thin.before, "samples older than this are thinned")->required();
    thin_verb->add_option("--step", thin.step, "of so much time the telling ones are kept, such as 10min")
        ->required();
    thin_verb->add_option("--reading", thin.readings, "only this one; may be given again");
    thin_verb->callback([&] { code = run_thin(thin, json); });

    CLI::App* mirror_verb = verb("mirror", "what is new into a PostgreSQL server: mirror BENCH postgresql://…");
    mirror_verb->add_option("bench", copy.bench)->required();
    mirror_verb->add_option("address", copy.address, "postgresql://user@host/database")->required();
    mirror_verb->add_option("--as", copy.as, "the bench's name in the server; its own when left out");
    mirror_verb->add_option("--reading", copy.readings,
                            "only this one; may be given again. A reading about somebody's health must be named");
    mirror_verb->callback([&] { code = run_mirror(copy, json); });
}

/// What was recorded.
void CommandLine::add_record_verbs() {
    CLI::App* backtest =
        verb("backtest", "what watch rules would have said: backtest RULES.json SERIES.csv, RULES.json "
                         "B.cognitum --reading NAME, or B.cognitum for its own rules");
    backtest->add_option("rules", tried.rules, "rules, or a bench")->required();
    backtest->add_option("series", tried.series, "columns time,value; or a bench");
    backtest->add_option("--reading", tried.reading, "of the bench: its name or id");
    backtest->add_option("--rule", tried.rule, "only this one of the bench’s own rules");
    backtest->add_option("--from", tried.from, "first moment, ISO 8601 or seconds since 1970");
    backtest->add_option("--to", tried.to, "end, not in it");
    backtest->callback([&] { code = run_backtest(tried, json); });

    CLI::App* summary = verb("summary", "what a stretch of a reading amounts to: summary BENCH --reading NAME");
    summary->add_option("bench", stretch.bench)->required();
    summary->add_option("--reading", stretch.reading, "its name or id")->required();
    summary->add_option("--from", stretch.from, "first moment, ISO 8601 or seconds since 1970");
    summary->add_option("--to", stretch.to, "end, not in it");
    summary->callback([&] { code = run_summary(stretch, json); });

    CLI::App* months = verb("months", "month by month, or days and seasons: months BENCH --reading NAME");
    months->add_option("bench", periods.bench)->required();
    months->add_option("--reading", periods.reading, "its name or id")->required();
    months->add_option("--against", periods.against, "another reading of the same kind, beside it");
    months->add_option("--by", periods.by, "day, month, season or year");
    months->add_option("arguments", periods.arguments, "zone=local, UTC, +02:00 or Europe/Lisbon; day_start=09:00");
    months->callback([&] { code = run_months(periods, json); });

    CLI::App* sessions_verb =
        verb("sessions", "sessions of a bench and what they amount to; or found: --find NAME --above 60degC");
    sessions_verb->add_option("bench", sessions.bench)->required();
    sessions_verb->add_option("--name", sessions.name, "its name or id: the summary");
    sessions_verb->add_flag("--private", sessions.with_private, "also those about somebody’s health");
    sessions_verb->add_option("--find", sessions.find, "look through this reading");
    sessions_verb->add_option("--above", sessions.above,
                              "while it is above, with its unit; of rain what comes in an hour");
    sessions_verb->add_option("--below", sessions.below,
                              "while it is below, with its unit; of rain what comes in an hour");
    sessions_verb->add_flag("--valued", sessions.valued, "while it has a value");
    sessions_verb->add_option("--least", sessions.least, "shortest session, such as 5min");
    sessions_verb->add_option("--pause", sessions.pause, "longest pause within one, such as 10min");
    sessions_verb->add_option("--from", sessions.from, "first moment, ISO 8601 or seconds since 1970");
    sessions_verb->add_option("--to", sessions.to, "end, not in it");
    sessions_verb->callback([&] { code = run_sessions(sessions, json); });

    CLI::App* anew =
        verb("reevaluate", "old raw numbers through the path of today, as a new reading beside the old");
    anew->add_option("bench", stretch.bench)->required();
    anew->add_option("--reading", stretch.reading, "its name or id")->required();
    anew->add_option("--from", stretch.from, "first moment, ISO 8601 or seconds since 1970");
    anew->add_option("--to", stretch.to, "end, not in it");
    anew->callback([&] { code = run_reevaluate(stretch, json); });
}

int CommandLine::run(int argc, char** argv) {
    if (names_no_verb(app, argc, argv)) return usage;
    try {
        app.parse(argc, argv);
    } catch (const CLI::CallForHelp& e) {
        return app.exit(e);
    } catch (const CLI::CallForVersion& e) {
        return app.exit(e);
    } catch (const CLI::ParseError& e) {
        app.exit(e, std::cerr, std::cerr);
        return usage;
    }
    return code;
}

} // namespace

} // namespace cognitum::cli

int main(int argc, char** argv) {
    try {
        const int code = cognitum::cli::CommandLine().run(argc, argv);
        if (std::fflush(stdout) == 0 && std::ferror(stdout) == 0) return code;
        std::fputs("cognitum-cli: standard output: not all could be written. Is the disk full?\n", stderr);
        return std::max<int>(code, cognitum::cli::answer_is_no);
    } catch (const std::exception& e) {
        std::fputs(fmt::format("cognitum-cli: {}\n", e.what()).c_str(), stderr);
        return cognitum::cli::bad_input;
    }
}
