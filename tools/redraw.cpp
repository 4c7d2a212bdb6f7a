// How long the Convert stop takes from an edit to its picture: a number is typed at a step, and a constant is
// changed in the plan; and the Calibrate stop, when one of a thousand points is set aside. Forty times each. Prints
// one JSON object with medians and the slowest but one in twenty.
#include "core/base/json_reader.h"
#include "demo/demo_bench.h"
#include "session/session.h"
#include "ui/shell/main_window.h"

#include <QApplication>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QTableView>
#include <QTemporaryDir>
#include <algorithm>
#include <atomic>
#include <cmath>
#include <cstdio>

using namespace cognitum;

namespace {

double share_of(std::vector<double> times, double share) {
    std::sort(times.begin(), times.end());
    return times[static_cast<std::size_t>(share * static_cast<double>(times.size() - 1))];
}

} // namespace

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    QApplication::setApplicationName(QStringLiteral("cognitum-redraw"));
    Theme theme;
    theme.apply();
    QTemporaryDir home;
    std::atomic<TimeUs> now = 1795617060LL * second_us;
    SessionOptions options;
    options.clock = [&] { return now.load(); };
    options.open_links = false;
    Session session(options);
    MainWindow window(session, theme);
    const QString path = home.filePath(QStringLiteral("demo.cognitum"));
    if (!create_demo_bench(path.toStdString(), session.now())) return 1;
    if (!session.openBench(path)) return 1;
    window.resize(1280, 800);
    window.show();
    window.context().selectReading("hut-air");
    window.showStop(4);
    session.worker().injectBytesNow("gauge", "seq,ms,A1,A2,flue,tips,bpm\n1,1000,500,139,100,3,nan\n");
    window.context().refresh();
    QApplication::processEvents();
    QLineEdit* step = nullptr;
    for (QLineEdit* field : window.findChildren<QLineEdit*>(QStringLiteral("step1")))
        if (field->isVisible()) step = field;
    if (!step) return 1;
    const auto painted = [&](const std::function<void()>& change) {
        QElapsedTimer timer;
        timer.start();
        change();
        QApplication::processEvents(); // what is changed is painted here
        return static_cast<double>(timer.nsecsElapsed()) / 1e6;
    };
    std::vector<double> typed, edited;
    for (int i = 0; i < 40; ++i) {
        typed.push_back(painted([&] {
            step->setFocus();
            step->selectAll();
            step->insert(QString::number(0.7 + 0.001 * i));
            emit step->returnPressed();
            step->clearFocus();
        }));
        edited.push_back(painted([&] {
            session.editReading("hut-air", QStringLiteral("constant"), [&](Reading& r) {
                std::get<Adc>(r.path.stages[0]).reference_V.value = 4.9 + 0.002 * i;
            });
        }));
    }
    // A calibration of a thousand points, one of which is set aside and counts again.
    CalibrationDraft draft;
    for (int i = 0; i < 1000; ++i) {
        CalibrationPoint p;
        p.time = now;
        p.reference_kind = "other";
        p.indication = 0.03 * i;
        p.reference = 0.03 * i - 0.6 + 0.05 * std::sin(7.0 * i);
        p.u_reference = p.u_indication = 0.05;
        draft.points.push_back(p);
    }
    session.proof().saveDraft("rock", draft);
    window.context().selectReading("rock");
    window.showStop(5);
    window.context().refresh();
    QApplication::processEvents();
    auto* table = window.findChild<QTableView*>(QStringLiteral("pointTable"));
    if (!table || table->model()->rowCount() != 1000) return 1;
    std::vector<double> toggled;
    for (int i = 0; i < 40; ++i)
        toggled.push_back(painted([&] {
            table->model()->setData(table->model()->index(25 * i, 0), i % 2 ? Qt::Checked : Qt::Unchecked,
                                    Qt::CheckStateRole);
        }));
    std::puts(Json({{"toggled_ms", share_of(toggled, 0.5)},
                    {"toggled_95_ms", share_of(toggled, 0.95)},
                    {"typed_ms", share_of(typed, 0.5)},
                    {"typed_95_ms", share_of(typed, 0.95)},
                    {"edited_ms", share_of(edited, 0.5)},
                    {"edited_95_ms", share_of(edited, 0.95)}})
                  .dump()
                  .c_str());
    return 0;
}
