// The logbook in the real window: zoom, pan and take a stretch by mouse and keys, figures, entries found, corrected
// and annotated, a stretch exported and reported, months beside each other.
#include "support/run_tests.h"
#include "support/test_window.h"
#include "ui/pages/logbook/time_lanes.h"
#include "ui/pages/logbook/time_ticks.h"

#include <QAbstractItemModelTester>
#include <QFileInfo>
#include <QTableWidget>
#include <QWheelEvent>

using namespace cognitum;
using namespace cognitum::test;

namespace {

class Logbook : public TestWindow {
  public:
    Logbook() {
        openDemo(DemoHistory::sixty_days);
        window.resize(1280, 800);
        window.showPage("logbook");
        refresh();
        lanes = find<TimeLanes>("timeLanes");
        entries = find<QTableWidget>("logEntries");
        figures = find<QTableWidget>("stretchFigures");
    }
    void drag(double from, double to, Qt::KeyboardModifiers modifiers = {}) {
        const auto at = [this](double share) { return QPoint(int(lanes->width() * share), 60); };
        QTest::mousePress(lanes, Qt::LeftButton, modifiers, at(from));
        for (int i = 1; i <= 4; ++i) {
            QMouseEvent move(QEvent::MouseMove, at(from + (to - from) * i / 4), lanes->mapToGlobal(at(to)),
                             Qt::NoButton, Qt::LeftButton, modifiers);
            QApplication::sendEvent(lanes, &move);
        }
        QTest::mouseRelease(lanes, Qt::LeftButton, modifiers, at(to));
        answer();
    }
    void answer() {
        clocked.session.exports().finishNow();
        refresh();
        clocked.session.exports().finishNow();
        refresh();
    }
    QString cell(QTableWidget* table, int row, int column) {
        const auto* item = table->item(row, column);
        return item ? item->text() : QString();
    }
    TimeLanes* lanes = nullptr;
    QTableWidget *entries = nullptr, *figures = nullptr;
};

} // namespace

class TestLogbook : public QObject {
    Q_OBJECT

  private slots:
    void aMonthIsShownFirst() {
        Logbook w;
        const Interval range = w.lanes->range();
        QCOMPARE(range.to - range.from, 30 * day_us);
        QCOMPARE(range.to, w.clocked.session.now());
        QCOMPARE(w.lanes->lanes().lanes.size(), std::size_t(4));
        for (const Lane& lane : w.lanes->lanes().lanes) {
            QVERIFY(!lane.parts.empty());
            QVERIFY(lane.reading != "pulse"); // nobody asked for a health reading
        }
        QVERIFY(w.find<QPushButton>("span_2592000")->isChecked());
        QVERIFY(w.entries->rowCount() > 20);
        QAbstractItemModelTester tester(w.entries->model(), QAbstractItemModelTester::FailureReportingMode::QtTest);
    }

    void theMouseZoomsPansAndTakes() {
        Logbook w;
        const Interval before = w.lanes->range();
        const QPointF middle(w.lanes->width() / 2.0, 60);
        QWheelEvent wheel(middle, w.lanes->mapToGlobal(middle), {}, {0, 240}, Qt::NoButton, {}, Qt::NoScrollPhase,
                          false);
        QApplication::sendEvent(w.lanes, &wheel);
        const Interval zoomed = w.lanes->range();
        CLOSE(double(zoomed.to - zoomed.from) / double(before.to - before.from), 0.64, 0.001);
        QVERIFY(!w.find<QPushButton>("span_2592000")->isChecked()); // it no longer follows the present
        w.drag(0.4, 0.6);
        const Interval panned = w.lanes->range();
        QCOMPARE(panned.to - panned.from, zoomed.to - zoomed.from);
        QVERIFY(panned.from < zoomed.from);
        QVERIFY(!w.lanes->stretch());
        w.drag(0.4, 0.7, Qt::ShiftModifier);
        QVERIFY(w.lanes->stretch());
        QVERIFY(w.lanes->range() == panned); // taking moves nothing
        QVERIFY(w.figures->isVisible());
        QCOMPARE(w.figures->rowCount(), 4);
        QVERIFY(w.text("stretchTaken").startsWith("Taken: "));
        w.click("leaveStretch");
        QVERIFY(!w.lanes->stretch() && !w.figures->isVisible());
    }

    void theKeysDoTheSame() {
        Logbook w;
        w.lanes->setFocus();
        const Interval before = w.lanes->range();
        QTest::keyClick(w.lanes, Qt::Key_Plus);
        QVERIFY(w.lanes->range().to - w.lanes->range().from < before.to - before.from);
        const Interval zoomed = w.lanes->range();
        QTest::keyClick(w.lanes, Qt::Key_Left, Qt::ControlModifier);
        QVERIFY(w.lanes->range().from < zoomed.from);
        for (int i = 0; i < 5; ++i)
            QTest::keyClick(w.lanes, Qt::Key_Right, Qt::ShiftModifier);
        QVERIFY(w.lanes->stretch());
        const TimeUs length = w.lanes->stretch()->to - w.lanes->stretch()->from;
        CLOSE(double(length), double(zoomed.to - zoomed.from) * 5 / 60, 1e6);
        QTest::keyClick(w.lanes, Qt::Key_Escape);
        QVERIFY(!w.lanes->stretch());
        QTest::keyClick(w.lanes, Qt::Key_Home); // never out of what is recorded
        QTest::keyClick(w.lanes, Qt::Key_Home);
        const Interval home = w.lanes->range();
        QTest::keyClick(w.lanes, Qt::Key_Left, Qt::ControlModifier);
        QVERIFY(w.lanes->range() == home);
    }

    void aStretchHasItsFigures() {
        Logbook w;
        const TimeUs midnight = w.clocked.session.now() / day_us * day_us;
        w.lanes->takeStretch(Interval{midnight - 19 * day_us, midnight - 17 * day_us + 14 * hour_us});
        w.answer();
        const int rain = w.figures->findItems("Rain", Qt::MatchExactly).front()->row();
        QVERIFY2(w.cell(w.figures, rain, 7).contains("mm in 2.6"), qPrintable(w.cell(w.figures, rain, 7)));
        const int air = w.figures->findItems("Hut air", Qt::MatchExactly).front()->row();
        QVERIFY(w.cell(w.figures, air, 3).contains("±"));
        QVERIFY(w.cell(w.figures, air, 5).contains("in range"));
        QCOMPARE(w.cell(w.figures, air, 6), QStringLiteral("100 %"));
        // The list holds what happened in it.
        for (int row = 0; row < w.entries->rowCount(); ++row)
            QVERIFY(w.cell(w.entries, row, 0).contains("Nov"));
        QVERIFY(w.entries->findItems("Storm from the south-west.", Qt::MatchExactly).size() == 1);
    }

    void anAnnotationStandsAtItsStretch() {
        Logbook w;
        const TimeUs at = w.clocked.session.now() - 5 * day_us;
        w.lanes->takeStretch(Interval{at, at + 3 * hour_us});
        w.answer();
        w.type("logNote", "gulls on the roof");
        const auto list = test::entries(w.clocked.session);
        const auto entry = std::find_if(list.begin(), list.end(),
                                        [](const LogEntry& e) { return e.text.ends_with("gulls on the roof"); });
        QVERIFY(entry != list.end());
        QCOMPARE(entry->time, at);
    }

    void aCorrectionStandsBesideTheOld() {
        Logbook w;
        w.type("logFind", "storm");
        w.answer();
        QCOMPARE(w.entries->rowCount(), 1);
        const QString time = w.cell(w.entries, 0, 0);
        w.entries->selectRow(0);
        w.click("logCorrect");
        w.type("logNote", "Storm from the west.");
        w.answer();
        QCOMPARE(w.entries->rowCount(), 2);
        QCOMPARE(w.cell(w.entries, 0, 0), time);
        QCOMPARE(w.cell(w.entries, 1, 3), QStringLiteral("Storm from the south-west."));
        QCOMPARE(w.cell(w.entries, 0, 3), QStringLiteral("correction: Storm from the west."));
        const auto list = test::entries(w.clocked.session);
        const auto entry = std::find_if(list.begin(), list.end(), [](const LogEntry& e) { return e.corrects > 0; });
        QVERIFY(entry != list.end() && entry->text == "Storm from the west.");
        w.type("logNote", "next"); // and only once
        QVERIFY(test::entries(w.clocked.session).front().corrects == 0);
    }

    void aCorrectionThatIsGivenUpIsNone() {
        Logbook w;
        w.type("logFind", "storm");
        w.answer();
        w.entries->selectRow(0);
        w.click("logCorrect");
        w.find<QLineEdit>("logNote")->clear();
        w.type("logNote", "gulls again");
        const auto list = test::entries(w.clocked.session);
        QVERIFY(list.front().text == "gulls again" && list.front().corrects == 0);
    }

    void entriesAreFoundByTextAndKind() {
        Logbook w;
        w.choose("logFindKind", log_kind::calibration);
        w.answer();
        const int in_range = w.entries->rowCount();
        w.type("logFind", "calibrated"); // what is looked for is found at all times
        w.answer();
        QVERIFY(w.entries->rowCount() > in_range);
        for (int row = 0; row < w.entries->rowCount(); ++row)
            QCOMPARE(w.cell(w.entries, row, 1), QStringLiteral("calibration"));
        for (int row = 1; row < w.entries->rowCount(); ++row)
            QVERIFY(QDateTime::fromString(w.cell(w.entries, row - 1, 0), "d MMM yyyy HH:mm:ss") >=
                    QDateTime::fromString(w.cell(w.entries, row, 0), "d MMM yyyy HH:mm:ss"));
    }

    void aStretchIsExportedAndReported() {
        Logbook w;
        const TimeUs at = w.clocked.session.now() / day_us * day_us - 5 * day_us;
        w.lanes->takeStretch(Interval{at, at + hour_us});
        w.answer();
        w.next_path = w.clocked.folder.filePath("stretch.csv");
        w.click("exportStretch");
        w.answer();
        QFile csv(w.next_path);
        QVERIFY(csv.open(QIODevice::ReadOnly));
        const QStringList rows = QString::fromUtf8(csv.readAll()).trimmed().split('\n');
        QCOMPARE(rows.size(), 21); // a header and a row every three minutes
        QVERIFY(rows[0].contains("Hut air") && !rows[0].contains("pulse"));
        const QString pdf = w.clocked.folder.filePath("stretch.pdf");
        w.window.context().askSavePath = [&](QWidget*, const QString&, const QString&, const QString&) {
            return pdf;
        };
        w.click("reportStretch");
        w.answer();
        QVERIFY(QFileInfo(pdf).size() > 10'000);
    }

    void otherReadingsGetLanes() {
        Logbook w;
        auto* menu = w.find<QMenu>("logReadingsMenu");
        emit menu->aboutToShow();
        menu->findChild<QAction*>("lane_jetty")->trigger();
        menu->findChild<QAction*>("lane_hut-air")->trigger();
        w.refresh();
        const auto& lanes = w.lanes->lanes().lanes;
        QCOMPARE(lanes.size(), std::size_t(4));
        QVERIFY(lanes.back().reading == "jetty" && lanes.back().shape == LaneShape::share);
    }

    void monthsStandBesideEachOther() {
        Logbook w;
        w.click("logPeriods");
        w.answer();
        w.choose("periodReading", "rock");
        w.choose("periodOther", "hut-air");
        w.answer();
        auto* table = w.find<QTableWidget>("periodTable");
        QCOMPARE(table->rowCount(), 3);
        QCOMPARE(table->columnCount(), 7);
        QVERIFY(w.cell(table, 1, 5).contains("±"));
        w.choose("periodLength", "day");
        w.answer();
        QVERIFY(table->rowCount() >= 60);
        w.click("periodsClose");
    }

    void marksStandAtFullTimes() {
        const TimeUs day = *parse_time("2026-06-01T00:00:00Z");
        const auto labels = [](const std::vector<TimeTick>& ticks) {
            QStringList out;
            for (const TimeTick& t : ticks)
                out << t.label;
            return out.join('|');
        };
        QCOMPARE(labels(time_ticks(day, day + 12 * hour_us, 4)), QStringLiteral("1 Jun|03:00|06:00|09:00"));
        QCOMPARE(labels(time_ticks(day, day + 7 * day_us, 8)), QStringLiteral("1 Jun|2|3|4|5|6|7"));
        QCOMPARE(labels(time_ticks(day, day + 366 * day_us, 13)).left(12), QStringLiteral("Jun 2026|Jul"));
        for (TimeUs length = minute_us; length < 40'000 * day_us; length = length * 3 / 2) {
            const auto ticks = time_ticks(day + 12345678, day + 12345678 + length, 12);
            QVERIFY(ticks.size() <= 16);
            for (std::size_t i = 0; i < ticks.size(); ++i)
                QVERIFY(ticks[i].time >= day && (i == 0 || ticks[i].time > ticks[i - 1].time));
        }
        QVERIFY(time_ticks(day, day, 5).empty());
    }

    void anEmptyBenchSaysSo() {
        TestWindow w;
        w.openDemo();
        w.clocked.session.edit("empty", [](Bench& b) { b.readings.clear(); });
        w.window.showPage("logbook");
        w.refresh();
        w.trigger("show_logbook");
        QVERIFY(w.find<TimeLanes>("timeLanes")->lanes().lanes.empty());
    }
};

RUN_TESTS_OF(TestLogbook)
#include "tst_logbook.moc"
