// P16: the window at rest with the demo bench: nobody touches it, the simulated boards send. Prints one JSON
// object: the share of one core while it is seen, on the stop or page that is asked for, and while it is hidden.
#include "core/base/json_reader.h"
#include "demo/demo_bench.h"
#include "session/session.h"
#include "ui/shell/main_window.h"

#include <QApplication>
#include <QTemporaryDir>
#include <QTimer>
#include <cstdio>
#include <cstdlib>
#include <sys/resource.h>

using namespace cognitum;

namespace {

constexpr int warm_up_ms = 6000, measured_ms = 12000;

double cpu_seconds() {
    rusage used{};
    getrusage(RUSAGE_SELF, &used);
    const auto s = [](const timeval& t) {
        return static_cast<double>(t.tv_sec) + static_cast<double>(t.tv_usec) / 1e6;
    };
    return s(used.ru_utime) + s(used.ru_stime);
}

/// Share of one core while the program runs for a while.
double share() {
    const double before = cpu_seconds();
    QEventLoop loop;
    QTimer::singleShot(measured_ms, &loop, &QEventLoop::quit);
    loop.exec();
    return (cpu_seconds() - before) / (measured_ms / 1000.0);
}

} // namespace

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    QApplication::setApplicationName(QStringLiteral("cognitum-at-rest"));
    Theme theme;
    theme.apply();
    const QTemporaryDir home;
    Session session;
    MainWindow window(session, theme);
    const QString path = home.filePath(QStringLiteral("demo.cognitum"));
    if (!create_demo_bench(path.toStdString(), session.now())) return 1;
    if (!session.openBench(path)) return 1;
    window.resize(1280, 800);
    window.show();
    const QString where = argc > 1 ? QString::fromLocal8Bit(argv[1]) : QStringLiteral("5");
    if (const int stop = where.toInt(); stop > 0)
        window.showStop(stop - 1);
    else
        window.showPage(where);
    QEventLoop loop;
    QTimer::singleShot(warm_up_ms, &loop, &QEventLoop::quit);
    loop.exec();
    const double seen = share();
    window.hide();
    const double hidden = argc > 2 ? 0 : share();
    std::puts(json_dump({{"where", where.toStdString()}, {"seen", seen}, {"hidden", hidden}}).c_str());
    session.closeBench();
    return 0;
}
