// Opens a bench with a given number of samples in the real window at its logbook, waits until the first time line
// is drawn, then pans and zooms; prints times and memory as JSON. Makes the bench when it is missing.
//   cognitum-record-view FILE SAMPLES
#include "core/base/json_reader.h"
#include "session/session.h"
#include "store/samples/samples.h"
#include "ui/pages/logbook/time_lanes.h"
#include "ui/shell/main_window.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QFile>
#include <QKeyEvent>
#include <QPushButton>
#include <algorithm>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <sys/resource.h>

using namespace cognitum;

namespace {

constexpr TimeUs first = 1500000000LL * second_us;

/// One reading at a second's interval: a slow 12-bit signal.
bool make(const std::string& path, std::int64_t samples) {
    Bench bench;
    bench.name = "years";
    Reading reading;
    reading.id = reading.name = "air";
    bench.readings.push_back(reading);
    const auto made = BenchFile::create(path, [&](BenchFile& file) -> Result<void> {
        COGNITUM_CHECK(file.save_plan(bench));
        constexpr std::int64_t at_once = 1 << 20;
        for (std::int64_t i = 0; i < samples; i += at_once) {
            SeriesBatch batch{"air", {}};
            for (std::int64_t k = i; k < std::min(samples, i + at_once); ++k) {
                const double code = std::floor(2048 + 900 * std::sin(static_cast<double>(k) / 13751.0));
                batch.samples.push_back({first + k * second_us, code, code * 0.01, Cause::none});
            }
            COGNITUM_CHECK(add_samples(file, std::span(&batch, 1)));
        }
        return {};
    });
    return made.has_value();
}

double share_of(std::vector<double> times, double share) {
    std::sort(times.begin(), times.end());
    return times[static_cast<std::size_t>(share * static_cast<double>(times.size() - 1))];
}

} // namespace

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    if (argc < 3) return 2;
    const std::int64_t samples = std::atoll(argv[2]);
    if (!QFile::exists(QString::fromLocal8Bit(argv[1])) && !make(argv[1], samples)) return 1;
    Theme theme;
    theme.apply();
    SessionOptions options;
    options.clock = [=] { return first + samples * second_us; };
    options.open_links = false;
    QElapsedTimer timer;
    timer.start();
    Session session(options);
    MainWindow window(session, theme);
    if (!session.openBench(QString::fromLocal8Bit(argv[1]))) return 1;
    window.resize(1280, 800);
    window.showPage(QStringLiteral("logbook"));
    window.show();
    auto* lanes = window.findChild<TimeLanes*>();
    if (!lanes) return 1;
    const auto is_drawn = [&] { return !lanes->lanes().lanes.empty() && !lanes->lanes().lanes[0].parts.empty(); };
    while (!is_drawn() && timer.elapsed() < 60000) {
        window.context().refresh();
        QApplication::processEvents(QEventLoop::AllEvents, 2);
    }
    lanes->repaint();
    const double opened = static_cast<double>(timer.nsecsElapsed()) / 1e6;
    // Everything, then panned and zoomed by keys; a frame is what happens until it is on the screen.
    window.findChild<QPushButton*>(QStringLiteral("span_0"))->click();
    std::vector<double> frames;
    const std::pair<int, Qt::KeyboardModifiers> keys[] = {{Qt::Key_Plus, {}}, {Qt::Key_Left, Qt::ControlModifier},
                                                          {Qt::Key_Plus, {}}, {Qt::Key_Right, Qt::ControlModifier},
                                                          {Qt::Key_Plus, {}}, {Qt::Key_Minus, {}}};
    for (int i = 0; i < 300; ++i) {
        const auto& [key, modifiers] = keys[static_cast<std::size_t>(i) % std::size(keys)];
        timer.start();
        QKeyEvent press(QEvent::KeyPress, key, modifiers);
        QApplication::sendEvent(lanes, &press);
        QApplication::processEvents();
        lanes->repaint();
        frames.push_back(static_cast<double>(timer.nsecsElapsed()) / 1e6);
    }
    session.archive().finishNow();
    QApplication::processEvents();
    rusage usage{};
    getrusage(RUSAGE_SELF, &usage);
    std::puts(Json({{"opened_ms", opened},
                    {"frame_ms", share_of(frames, 0.5)},
                    {"frame_99_ms", share_of(frames, 0.99)},
                    {"peak_MB", static_cast<double>(usage.ru_maxrss) / 1024}})
                  .dump()
                  .c_str());
    return is_drawn() ? 0 : 1;
}
