// cognitum-simboard: the boards of Whelk Point at the far ends of real links. Prints where each is reached, a line
// each, on standard output; then behaves as boards do: lines, messages, posts, commands obeyed, faults by name.
// Commands may also come on standard input.
#include "simboard/processor_board.h"
#include "simboard/transport.h"

#include "core/base/guarded_main.h"
#include "core/base/json_reader.h"
#include "core/bench/bench.h"
#include "machine/planned_bench.h"

#include <CLI/CLI.hpp>
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <fcntl.h>
#include <fmt/format.h>
#include <fstream>
#include <iterator>
#include <poll.h>
#include <unistd.h>

namespace {

using namespace cognitum;
using namespace cognitum::demo;

volatile std::sig_atomic_t stop_asked = 0;
void on_signal(int) {
    stop_asked = 1;
}

struct Options {
    BoardSettings settings;
    std::string board = "gauge", bench, link, mqtt, http, file, fault = "none";
    std::string program, plan_board; ///< a plan whose written program it runs
    double speed = 1;
    long count = 0;
    bool list_faults = false, describe = false;
};

/// Simulated time: that of this computer, or faster.
class SimulatedClock {
  public:
    explicit SimulatedClock(double speed) : m_speed(speed), m_start(real()) {}
    [[nodiscard]] TimeUs now() const {
        return m_start + static_cast<TimeUs>(static_cast<double>(real() - m_start) * m_speed);
    }
    /// Milliseconds of this computer until a simulated moment.
    [[nodiscard]] int wait_ms(TimeUs then) const {
        const double us = static_cast<double>(then - now()) / m_speed;
        return static_cast<int>(std::clamp(us / 1000 + 0.999, 0.0, 500.0));
    }

  private:
    static TimeUs real() {
        using namespace std::chrono;
        return duration_cast<microseconds>(system_clock::now().time_since_epoch()).count();
    }
    double m_speed;
    TimeUs m_start;
};

struct Running {
    std::string name;
    std::unique_ptr<Board> board;
    std::unique_ptr<Transport> transport;
};

int complain(const std::string& what, int code) {
    std::fputs(("cognitum-simboard: " + what + "\n").c_str(), stderr);
    return code;
}

int list_faults() {
    for (const Fault& f : all_faults())
        std::fputs(fmt::format("{:<18} {:<11} {:<13} {:<14} {}\n", f.name, f.board,
                               f.reading.empty() ? "(all)" : f.reading, f.verdict, f.about)
                       .c_str(),
                   stdout);
    return 0;
}

int describe(const Options& options) {
    for (const std::string& name : board_names()) {
        const auto board = make_board(name, options.settings, SimulatedClock(1).now());
        TimeUs now = SimulatedClock(1).now();
        std::fputs(fmt::format("{}\n", name).c_str(), stdout);
        auto shown = board->start(now);
        while (shown.size() < 6 && now < SimulatedClock(1).now() + 2 * hour_us) {
            now = board->next();
            for (Sent& sent : board->step(now))
                shown.push_back(std::move(sent));
        }
        for (std::size_t i = 0; i < std::min<std::size_t>(shown.size(), 6); ++i)
            std::fputs(fmt::format("    {:<12} {}{}", shown[i].channel.empty() ? "(wire)" : shown[i].channel,
                                   shown[i].bytes, shown[i].bytes.ends_with('\n') ? "" : "\n")
                           .c_str(),
                       stdout);
    }
    return 0;
}

void command(Running& running, const std::string& line, TimeUs now) {
    const std::string answer = running.board->command(line, now);
    running.transport->send({now, {}, answer, false}, running.board->faults());
}

/// False: nothing more comes.
bool from_standard_input(std::vector<Running>& boards, std::string& typed, TimeUs now) {
    char buffer[512];
    const ssize_t n = ::read(STDIN_FILENO, buffer, sizeof buffer);
    if (n <= 0) return n < 0;
    typed.append(buffer, static_cast<std::size_t>(n));
    for (std::size_t end = 0; (end = typed.find('\n')) != std::string::npos; typed.erase(0, end + 1)) {
        const std::string line = typed.substr(0, end);
        for (Running& running : boards) // "shed: fault no-echo" is for one of them
            if (const std::string prefix = running.name + ": "; line.starts_with(prefix))
                command(running, line.substr(prefix.size()), now);
            else if (line.find(": ") == std::string::npos)
                command(running, line, now);
    }
    return true;
}

int serve(std::vector<Running>& boards, const Options& options) {
    const SimulatedClock clock(options.speed);
    for (Running& running : boards)
        for (const Sent& sent : running.board->start(clock.now()))
            running.transport->send(sent, running.board->faults());
    ::fcntl(STDIN_FILENO, F_SETFL, ::fcntl(STDIN_FILENO, F_GETFL) | O_NONBLOCK);
    std::string typed;
    bool input_open = true;
    for (long sent_lines = 0; !stop_asked && (options.count <= 0 || sent_lines < options.count);) {
        TimeUs next = clock.now() + 500'000;
        std::vector<pollfd> in = {{input_open ? STDIN_FILENO : -1, POLLIN, 0}};
        for (const Running& running : boards) {
            next = std::min(next, running.board->next());
            in.push_back({running.transport->descriptor(), POLLIN, 0});
        }
        if (::poll(in.data(), in.size(), clock.wait_ms(next)) < 0 && errno != EINTR) return 1;
        if (in[0].revents & POLLIN) input_open = from_standard_input(boards, typed, clock.now());
        if (in[0].revents & (POLLHUP | POLLERR)) input_open = false;
        for (Running& running : boards) {
            for (const std::string& line : running.transport->receive())
                command(running, line, clock.now());
            for (const Sent& sent : running.board->step(clock.now())) {
                running.transport->send(sent, running.board->faults());
                ++sent_lines;
            }
        }
    }
    return 0;
}

/// The boards of a bench in its JSON form, each at the end of the link that its plan names.
int make_bench(const Options& options, std::vector<Running>& out) {
    std::ifstream in(options.bench);
    if (!in) return complain(options.bench + ": it cannot be read", 3);
    auto text = JsonText::parse(options.bench, std::string(std::istreambuf_iterator<char>(in), {}));
    if (!text) return complain(text.error().text(), 3);
    const auto bench = read_bench(JsonReader(*text));
    if (!bench) return complain(bench.error().text(), 3);
    const TimeUs now = SimulatedClock(1).now();
    for (const BoardUse& use : bench->boards) {
        BoardSettings settings = options.settings;
        settings.seed = use.link.seed > 0 ? use.link.seed : settings.seed;
        Running running{use.id, make_board(use.id, settings, now), nullptr};
        if (!running.board) continue;
        std::string trouble;
        switch (use.link.kind) {
        case LinkKind::mqtt:
            running.transport = open_mqtt(
                options.mqtt.empty() ? fmt::format("{}:{}", use.link.mqtt.host, use.link.mqtt.port) : options.mqtt,
                use.id, trouble);
            break;
        case LinkKind::http:
            running.transport =
                open_http(options.http.empty() ? fmt::format("127.0.0.1:{}", use.link.http.port) : options.http,
                          use.id, trouble);
            break;
        case LinkKind::file: running.transport = open_file(use.link.file.path, trouble); break;
        default: running.transport = open_terminal({}, trouble);
        }
        if (!running.transport) return complain(trouble, 1);
        std::printf("%s %s\n", use.id.c_str(), running.transport->place().c_str());
        out.push_back(std::move(running));
    }
    return out.empty() ? complain(options.bench + ": none of its boards is one of Whelk Point", 3) : 0;
}

/// The board of a plan with the program that is written from it.
Result<std::unique_ptr<Board>> make_processor_board(const Options& options) {
    COGNITUM_TRY(planned, machine::load_planned(options.program));
    return ProcessorBoard::make(planned.bench, planned.catalog, options.plan_board, options.settings,
                                SimulatedClock(1).now());
}

int make_one(const Options& options, std::vector<Running>& out) {
    Running running{options.board, make_board(options.board, options.settings, SimulatedClock(1).now()), nullptr};
    std::string why_not;
    if (!options.program.empty()) {
        if (auto board = make_processor_board(options))
            running.board = std::move(*board);
        else
            why_not = board.error().text();
    }
    if (!running.board)
        return complain(
            fmt::format("\"{}\" is no board; known are gauge, shed, pump-house and beacon-log", options.board), 2);
    std::string trouble;
    running.transport = !options.mqtt.empty()   ? open_mqtt(options.mqtt, options.board, trouble)
                        : !options.http.empty() ? open_http(options.http, options.board, trouble)
                        : !options.file.empty() ? open_file(options.file, trouble)
                                                : open_terminal(options.link, trouble);
    if (!running.transport) return complain(trouble, 1);
    if (options.fault != "none" && !find_fault(options.fault))
        return complain(fmt::format("\"{}\" is no fault; --list-faults names them", options.fault), 2);
    running.board->command("fault " + options.fault, SimulatedClock(1).now());
    if (!why_not.empty()) // the invented board of the same name plays instead, and its link says so
        running.transport->send({0, {}, "# error not the written program: " + why_not + "\n", false}, {});
    std::printf("%s\n", running.transport->place().c_str());
    out.push_back(std::move(running));
    return 0;
}

int run(int argc, char** argv) {
    CLI::App app{"The simulated boards of Whelk Point at the far ends of real links."};
    Options options;
    app.add_option("--board", options.board,
                   "gauge (serial), shed (MQTT), pump-house (HTTP) or beacon-log (a file)");
    app.add_option("--bench", options.bench, "all boards of a bench in its JSON form");
    app.add_option(
        "--program", options.program,
        "a bench in its JSON form: the board runs the program written from it, in a simulated processor");
    app.add_option("--plan-board", options.plan_board, "id of the board in it")->needs("--program");
    app.add_option("--seed", options.settings.seed, "of everything random");
    app.add_option("--interval", options.settings.interval_ms, "milliseconds between lines of the gauge board")
        ->check(CLI::Range(5, 3'600'000));
    app.add_option("--response", options.settings.response_s, "time constant of its thermometer, s")
        ->check(CLI::Range(0.001, 1000.0));
    app.add_option("--link", options.link, "pseudo-terminal also reachable under this path (a symbolic link)");
    app.add_option("--mqtt", options.mqtt, "HOST:PORT of a broker");
    app.add_option("--http", options.http,
                   "HOST:PORT of a receiver; token in the environment variable COGNITUM_TOKEN");
    app.add_option("--file", options.file, "file that grows");
    app.add_option("--fault", options.fault, "a fault from the start; see --list-faults");
    app.add_option("--speed", options.speed, "how much faster time runs")->check(CLI::Range(0.01, 10000.0));
    app.add_option("--count", options.count, "stop after so many lines");
    app.add_flag("--list-faults", options.list_faults, "every fault: name, board, reading, verdict, what happens");
    app.add_flag("--describe", options.describe, "what each board sends");
    CLI11_PARSE(app, argc, argv);
    if (options.list_faults) return list_faults();
    if (options.describe) return describe(options);
    std::signal(SIGTERM, on_signal);
    std::signal(SIGINT, on_signal);
    std::signal(SIGPIPE, SIG_IGN);

    std::vector<Running> boards;
    if (const int code = options.bench.empty() ? make_one(options, boards) : make_bench(options, boards))
        return code;
    std::fflush(stdout);
    return serve(boards, options);
}

void broke_off(const char* what) {
    for (const char* text : {"cognitum-simboard: it broke off: ", what, "\n"})
        std::fputs(text, stderr);
}

} // namespace

int main(int argc, char** argv) {
    return cognitum::guarded_main(run, argc, argv, broke_off, 1);
}
