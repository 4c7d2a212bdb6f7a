// The first ten minutes in the real window, both ways in, against the simulated board: from an empty start to a
// reading that is calibrated at two points, with every click and key counted.
#include "support/clocked_session.h"
#include "support/run_tests.h"
#include "ui/shell/main_window.h"
#include "ui/stops/calibrate/calibrate_page.h"
#include "ui/stops/sensor/candidate_table.h"
#include "ui/widgets/number_field.h"

#include <QApplication>
#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>

using namespace cognitum;

namespace {

/// Somebody at the window, whose clicks and keys are counted. A choice in a list is two clicks.
class Newcomer {
  public:
    explicit Newcomer(const QString& path) : session(fast()), window(session, theme, dialogs(path)) {
        theme.apply();
        window.show();
    }
    template <typename T>
    T* find(const char* name) {
        for (T* w : window.findChildren<T*>(QLatin1String(name)))
            if (w->isVisible()) return w;
        return nullptr;
    }
    void click(const char* name) {
        QTRY_VERIFY2_WITH_TIMEOUT(find<QPushButton>(name) && find<QPushButton>(name)->isEnabled(), name, 20000);
        QTest::mouseClick(find<QPushButton>(name), Qt::LeftButton);
        ++steps;
    }
    void choose(const char* name, const char* data) {
        QTRY_VERIFY2(find<QComboBox>(name), name);
        auto* box = find<QComboBox>(name);
        QTRY_VERIFY2(box->findData(QLatin1String(data)) >= 0, data);
        box->setCurrentIndex(box->findData(QLatin1String(data)));
        emit box->activated(box->currentIndex());
        steps += 2;
    }
    void type(const char* name, const char* text) {
        auto* field = find<QLineEdit>(name);
        QVERIFY2(field, name);
        field->setFocus();
        field->selectAll();
        QTest::keyClicks(field, text);
        steps += static_cast<int>(qstrlen(text)) + 1; // and a click into it
    }
    void next() {
        window.findChild<QAction*>("nextStep")->trigger(); // Ctrl+Return
        steps += 1;
    }
    /// The part of that id, in the comparison: its row, and the button.
    void choosePart(const char* part) {
        QTRY_VERIFY(find<CandidateTable>("candidateTable"));
        auto* table = find<CandidateTable>("candidateTable");
        int row = -1;
        for (int i = 0; i < static_cast<int>(table->candidates().size()); ++i)
            if (table->candidates()[static_cast<std::size_t>(i)].part == part) row = i;
        QVERIFY2(row >= 0, part);
        table->setChosen(row);
        emit table->chosenChanged();
        ++steps;
        click("choosePart");
    }
    void takePoint(const char* probe, const char* value) {
        auto* where = find<QComboBox>("simulatedProbe"); // the hand that holds the probe
        where->setCurrentIndex(where->findData(QLatin1String(probe)));
        emit where->activated(where->currentIndex());
        auto* page = window.findChild<CalibratePage*>();
        if (value) {
            choose("referenceKind", "other");
            type("referenceValue", value);
        }
        auto* field = find<QLineEdit>("referenceValue");
        const double expected = field->text().toDouble();
        const auto before = page->points().size();
        QTRY_VERIFY_WITH_TIMEOUT(
            std::abs(typed_number(find<QLabel>("indication")->text()).value_or(999) - expected) < 3, 60000);
        QTRY_VERIFY_WITH_TIMEOUT(find<QLabel>("steadyText")->text().contains("steady"), 60000);
        click("takePoint");
        QTRY_COMPARE(page->points().size(), before + 1);
    }
    void calibrate() {
        QTRY_VERIFY_WITH_TIMEOUT(window.context().state(window.context().readingId()).reaches == 6, 20000);
        window.showStop(5); // Ctrl+6
        ++steps;
        QTRY_VERIFY(find<QPushButton>("takePoint"));
        ++decisions; // what to compare it with
        takePoint("probe ice", nullptr);
        takePoint("probe bath 32.7", "32.7");
        click("finishCalibration");
        QTRY_VERIFY(window.context().reading()->correction.has_value());
    }

    int steps = 0, decisions = 0;
    Theme theme;
    Session session;
    MainWindow window;

  private:
    static SessionOptions fast() {
        SessionOptions options;
        options.simulation_arguments = {"--interval", "20", "--response", "0.1"};
        return options;
    }
    static FileDialogs dialogs(const QString& path) {
        FileDialogs d;
        d.new_bench = [path](QWidget*) { return path; };
        return d;
    }
};

} // namespace

class TestFirstMinutes : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;
    static void judge(const Newcomer& n, const char* way) {
        qInfo("%s: %d decisions, %d clicks and keys", way, n.decisions, n.steps);
        QVERIFY2(n.decisions <= 4 && n.steps <= 40, way);
        const AppliedCorrection& c = *n.session.bench().readings[0].correction;
        QVERIFY2(c.offset < -0.2 && c.offset > -1.2,
                 qPrintable(QString::number(c.offset))); // the sensor's own error
    }

  private slots:
    void initTestCase() { QCoreApplication::setApplicationName("cognitum-test"); }

    void fromABoardThatSends() {
        Newcomer n(m_folder.filePath("sends.cognitum"));
        n.click("startNew");
        QCOMPARE(n.window.pageNow(), QStringLiteral("new"));
        n.click("listenSimulated");
        QTRY_VERIFY_WITH_TIMEOUT(n.find<QPushButton>("take_A2"), 20000);
        ++n.decisions; // which field, and what it is
        n.choose("kindOf_A2", "temperature");
        n.click("take_A2");
        QCOMPARE(n.window.stopNow(), 1);
        ++n.decisions; // which part
        n.choosePart("analog-thermometer-with-offset");
        QCOMPARE(n.window.context().reading()->wiring.pin(), std::string("A2"));
        n.calibrate();
        judge(n, "from a board that sends");
    }
    void plannedBeforeAnythingIsWired() {
        Newcomer n(m_folder.filePath("planned.cognitum"));
        n.click("startNew");
        ++n.decisions; // what to know
        n.click("kind_temperature");
        QCOMPARE(n.window.stopNow(), 0);
        QCOMPARE(n.window.context().state(n.window.context().readingId()).next, 1);
        n.next();
        QCOMPARE(n.window.stopNow(), 1);
        ++n.decisions; // which board, which part
        n.click("planBoard");
        n.choosePart("analog-thermometer-with-offset");
        QCOMPARE(n.window.stopNow(), 2);
        // The simulated board has its thermometer on A2; somebody who wires one takes the pin that is proposed.
        n.choose("wiringPin", "A2");
        ++n.decisions; // where it is wired
        n.window.showStop(3);
        n.steps += 1;
        n.choose("linkPort", "simulated:");
        n.click("linkOpen");
        n.calibrate();
        judge(n, "planned first");
    }
};

RUN_TESTS_OF(TestFirstMinutes)
#include "tst_first_minutes.moc"
