// P5: twenty readings at a thousand lines a second through a real pseudo-terminal, the whole trip with the window
// open on the Raw stop and a recording running. Prints one JSON object: what was sent, what arrived and was saved,
// and the share of one core that it took.
#include "core/base/json_reader.h"
#include "core/plan/assign.h"
#include "session/session.h"
#include "ui/shell/main_window.h"

#include <QApplication>
#include <QTemporaryDir>
#include <QTimer>
#include <cstdio>
#include <fcntl.h>
#include <string>
#include <sys/resource.h>
#include <sys/wait.h>
#include <termios.h>
#include <time.h>
#include <unistd.h>

using namespace cognitum;

namespace {

constexpr int readings = 20, lines_per_s = 1000, warm_up_s = 3, measured_s = 12;

/// The board: ten lines each ten milliseconds, in a process of its own so that its work is not counted.
[[noreturn]] void play_board(int master) {
    std::string header = "seq,ms";
    for (int i = 0; i < readings; ++i)
        header += ",c" + std::to_string(i);
    header += '\n';
    (void)!::write(master, header.data(), header.size());
    timespec next{};
    clock_gettime(CLOCK_MONOTONIC, &next);
    for (int line = 0; line < lines_per_s * (warm_up_s + measured_s);) {
        std::string piece;
        for (int i = 0; i < lines_per_s / 100; ++i, ++line) {
            piece += std::to_string(line) + ',' + std::to_string(line);
            for (int c = 0; c < readings; ++c)
                piece += ',' + std::to_string(400 + (line * 7 + c * 13) % 200);
            piece += '\n';
        }
        for (std::size_t at = 0; at < piece.size();) {
            const ssize_t n = ::write(master, piece.data() + at, piece.size() - at);
            if (n < 0) _exit(1);
            at += static_cast<std::size_t>(n);
        }
        next.tv_nsec += 10'000'000;
        if (next.tv_nsec >= 1'000'000'000) {
            next.tv_nsec -= 1'000'000'000;
            ++next.tv_sec;
        }
        clock_nanosleep(CLOCK_MONOTONIC, TIMER_ABSTIME, &next, nullptr);
    }
    ::sleep(2); // the cable stays in until all is read
    _exit(0);
}

double cpu_seconds() {
    rusage used{};
    getrusage(RUSAGE_SELF, &used);
    const auto s = [](const timeval& t) {
        return static_cast<double>(t.tv_sec) + static_cast<double>(t.tv_usec) / 1e6;
    };
    return s(used.ru_utime) + s(used.ru_stime);
}

Bench bench_on(const std::string& port) {
    Bench bench;
    bench.name = "Load";
    BoardUse use;
    use.id = use.name = "board";
    use.card = "board-5v-8bit-6-analog";
    use.link.kind = LinkKind::serial;
    use.link.port = port;
    bench.boards.push_back(use);
    for (int i = 0; i < readings; ++i) {
        Reading r;
        r.id = r.name = "r" + std::to_string(i);
        r.wiring.board = "board";
        r.quantity.interval_s = 1.0 / lines_per_s;
        r.source.field = "c" + std::to_string(i);
        Adc adc;
        adc.bits = 10;
        adc.reference_V.value = 5;
        Linear linear;
        linear.zero.value = 0.5;
        linear.slope.value = 0.01;
        linear.input_unit = "V";
        linear.unit = "degC";
        r.path.input_unit = "count";
        r.path.stages = {adc, linear};
        r.bands = Bands{0, 400, 1};
        bench.readings.push_back(r);
    }
    return bench;
}

} // namespace

int main(int argc, char** argv) {
    const int master = posix_openpt(O_RDWR | O_NOCTTY);
    if (master < 0 || grantpt(master) != 0 || unlockpt(master) != 0) return 1;
    const std::string port = ptsname(master);
    const int held = ::open(port.c_str(), O_RDWR | O_NOCTTY);
    termios settings{};
    tcgetattr(held, &settings);
    cfmakeraw(&settings);
    tcsetattr(held, TCSANOW, &settings);
    QApplication app(argc, argv);
    QApplication::setApplicationName(QStringLiteral("cognitum-live-load"));
    Theme theme;
    theme.apply();
    QTemporaryDir home;
    Session session;
    MainWindow window(session, theme);
    if (!session.createBench(home.filePath(QStringLiteral("load.cognitum")), QStringLiteral("Load"))) return 1;
    session.edit(QStringLiteral("load"), [&](Bench& bench) { bench = bench_on(port); });
    window.resize(1280, 800);
    window.show();
    window.showStop(3);
    session.worker().startRecording();
    pid_t child = -1;
    double cpu = 0, share = 0;
    Live live;
    QTimer::singleShot(1500, [&] { // the port is open by then
        child = ::fork();
        if (child == 0) play_board(master);
        QTimer::singleShot(warm_up_s * 1000, [&] { cpu = cpu_seconds(); });
        QTimer::singleShot((warm_up_s + measured_s) * 1000, [&] { share = (cpu_seconds() - cpu) / measured_s; });
        QTimer::singleShot((warm_up_s + measured_s) * 1000 + 1500, [&] {
            live = session.worker().live(); // quitting closes the bench
            QApplication::quit();
        });
    });
    QApplication::exec();
    const LiveBoard& board = live.boards["board"];
    session.worker().stopRecording();
    session.closeBench();
    ::waitpid(child, nullptr, 0);
    const Json out = {{"lines_sent", lines_per_s * (warm_up_s + measured_s)},
                      {"lines_read", board.lines},
                      {"lost", board.lost},
                      {"rejected", board.rejected},
                      {"samples_saved", live.recording.saved + live.recording.waiting},
                      {"samples_sent", readings * lines_per_s * (warm_up_s + measured_s)},
                      {"cores", share}};
    std::puts(out.dump().c_str());
    return 0;
}
