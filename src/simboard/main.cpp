// cognitum-simboard: a simulated board on a pseudo-terminal. Prints the path of its port as the first line on
// standard output, then behaves as a board on a cable: a line every interval, commands obeyed, faults by name.
#include "core/simulate/board.h"

#include <CLI/CLI.hpp>
#include <cerrno>
#include <chrono>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <poll.h>
#include <string>
#include <sys/prctl.h>
#include <termios.h>
#include <unistd.h>

namespace {

using namespace cognitum;

TimeUs now_us() {
    using namespace std::chrono;
    return duration_cast<microseconds>(system_clock::now().time_since_epoch()).count();
}

volatile std::sig_atomic_t stop_asked = 0;
void on_signal(int) {
    stop_asked = 1;
}

/// The master side of a pseudo-terminal whose slave is raw, as a serial port is. −1 with errno on failure.
/// The slave is held open as well, so that its settings last and a reader may come and go.
struct Terminal {
    int master = -1, slave = -1;
    std::string path;
};

Terminal open_terminal() {
    Terminal t;
    t.master = posix_openpt(O_RDWR | O_NOCTTY | O_CLOEXEC | O_NONBLOCK);
    if (t.master < 0 || grantpt(t.master) != 0 || unlockpt(t.master) != 0) return {};
    t.path = ptsname(t.master);
    t.slave = ::open(t.path.c_str(), O_RDWR | O_NOCTTY | O_CLOEXEC);
    termios settings{};
    if (t.slave < 0 || tcgetattr(t.slave, &settings) != 0) return {};
    cfmakeraw(&settings);
    cfsetspeed(&settings, B115200);
    tcsetattr(t.slave, TCSANOW, &settings);
    return t;
}

/// What nobody reads is lost, as on a cable: a full buffer drops the line.
void send(int master, const std::string& bytes) {
    [[maybe_unused]] const ssize_t n = ::write(master, bytes.data(), bytes.size());
}

int serve(simulate::Board& board, const Terminal& terminal, long count) {
    std::string received;
    send(terminal.master, board.reset(now_us()));
    TimeUs next = now_us() + board.interval_ms() * 1000;
    for (long sent = 0; !stop_asked && (count <= 0 || sent < count);) {
        const TimeUs wait = std::max<TimeUs>(0, next - now_us());
        pollfd in{terminal.master, POLLIN, 0};
        const int ready = ::poll(&in, 1, static_cast<int>((wait + 999) / 1000));
        if (ready < 0 && errno != EINTR) return 1;
        if (ready > 0 && (in.revents & POLLIN)) {
            char buffer[512];
            const ssize_t n = ::read(terminal.master, buffer, sizeof buffer);
            if (n > 0) received.append(buffer, static_cast<std::size_t>(n));
            if (received.size() > 4096) received.clear();
            for (std::size_t end = 0; (end = received.find('\n')) != std::string::npos;
                 received.erase(0, end + 1)) {
                send(terminal.master, board.command(received.substr(0, end), now_us()));
                next = std::min(next, now_us() + board.interval_ms() * 1000);
            }
        }
        if (now_us() < next) continue;
        send(terminal.master, board.measure(now_us()));
        ++sent;
        next = std::max(next + board.interval_ms() * 1000, now_us() - 1'000'000);
    }
    return 0;
}

} // namespace

int main(int argc, char** argv) {
    CLI::App app{"A simulated 8-bit 5 V board with an analog thermometer on A2, on a pseudo-terminal."};
    simulate::BoardSettings settings;
    std::string link;
    std::string fault = "none";
    long count = 0;
    bool die_with_parent = false;
    app.add_option("--seed", settings.seed, "of everything random");
    app.add_option("--interval", settings.interval_ms, "milliseconds between lines")
        ->check(CLI::Range(5, 3'600'000));
    app.add_option("--response", settings.truth.response_s, "time constant of the sensor, s")
        ->check(CLI::Range(0.001, 1000.0));
    app.add_option("--link", link, "also reachable under this path (a symbolic link)");
    app.add_option("--fault", fault, "unplugged-sensor, stuck, clipped, noisy, half-lines");
    app.add_option("--count", count, "stop after so many lines");
    app.add_flag("--die-with-parent", die_with_parent);
    CLI11_PARSE(app, argc, argv);

    if (die_with_parent) prctl(PR_SET_PDEATHSIG, SIGTERM);
    std::signal(SIGTERM, on_signal);
    std::signal(SIGINT, on_signal);
    const Terminal terminal = open_terminal();
    if (terminal.master < 0) {
        std::fprintf(stderr, "cognitum-simboard: no pseudo-terminal could be opened: %s\n", std::strerror(errno));
        return 1;
    }
    simulate::GaugeBoard board(settings, now_us());
    simulate::Fault parsed{};
    if (!simulate::find_fault(fault, parsed)) {
        std::fprintf(stderr,
                     "cognitum-simboard: \"%s\" is no fault; known are none, unplugged-sensor, stuck, clipped, "
                     "noisy, half-lines\n",
                     fault.c_str());
        return 2;
    }
    board.command("fault " + fault, now_us());
    if (!link.empty()) {
        ::unlink(link.c_str());
        if (::symlink(terminal.path.c_str(), link.c_str()) != 0) {
            std::fprintf(stderr, "cognitum-simboard: %s: %s\n", link.c_str(), std::strerror(errno));
            return 1;
        }
    }
    std::printf("%s\n", link.empty() ? terminal.path.c_str() : link.c_str());
    std::fflush(stdout);
    const int code = serve(board, terminal, count);
    if (!link.empty()) ::unlink(link.c_str());
    return code;
}
