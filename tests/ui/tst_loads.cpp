// Loads at the Watch stop, as a person meets them: what the pump and the lamp of Whelk Point do and would have
// done, by hand, changed, made and removed.
#include "support/run_tests.h"
#include "support/test_window.h"

#include <QCheckBox>

using namespace cognitum;
using namespace cognitum::test;

namespace {

class Loads : public TestWindow {
  public:
    explicit Loads(const char* reading) {
        openDemo(DemoHistory::sixty_days);
        window.context().selectReading(reading);
        window.showStop(6);
        click("watchTabLoads");
        settle();
    }
    void settle() {
        refresh();
        answers();
    }
    const LoadControl& control(const char* id) { return *clocked.session.bench().control(id); }
};

} // namespace

class TestLoads : public QObject {
    Q_OBJECT

  private slots:
    void whatThePumpWouldHaveDone() {
        Loads w("bed-4");
        QVERIFY2(w.text("loadTrial").contains("of record, "), qPrintable(w.text("loadTrial")));
        w.click("loadChange");
        w.answers();
        QVERIFY2(w.text("loadCare").contains("Water and electricity"), qPrintable(w.text("loadCare")));
        w.click("conditionRemove"); // nothing keeps it off any more
        w.type("loadLongest", "0");
        w.type("loadRest", "0");
        w.type("loadAnHour0", "-6000");
        w.answers();
        QVERIFY2(w.text("loadWarns").contains("runs dry"), qPrintable(w.text("loadWarns")));
        w.type("loadLeastOn", "1e9");
        QVERIFY(!w.find<QPushButton>("loadKeep")->isEnabled());
        QVERIFY2(w.text("loadSays").contains("at most a year"), qPrintable(w.text("loadSays")));
        w.click("loadClose");
        QCOMPARE(w.control("water-bed-4").longest_on_s, 1200.0); // nothing was kept
    }
    void byHand() {
        Loads w("bed-4");
        QVERIFY(!w.sees("loadByRule"));
        w.click("loadOff");
        w.settle();
        QVERIFY2(w.text("loadState").contains("by hand"), qPrintable(w.text("loadState")));
        w.click("loadByRule");
        w.settle();
        QVERIFY(!w.sees("loadByRule"));
        w.click("loadToggle");
        w.settle();
        QVERIFY(!w.control("water-bed-4").acts);
        QVERIFY2(w.text("loadState").contains("only tried"), qPrintable(w.text("loadState")));
        QVERIFY(!w.sees("loadOn"));
        w.clocked.session.undoStack()->undo();
        QVERIFY(w.control("water-bed-4").acts);
    }
    void aLoadIsGivenARule() {
        Loads w("humidity");
        QVERIFY(!w.sees("loadState"));
        const std::size_t before = w.clocked.session.bench().controls.size();
        w.click("loadNew");
        w.type("loadName", "Pump out the hut");
        w.choose("loadModule", "bed-pump");
        w.click("loadNeverAdd");
        w.choose("conditionReading", "cistern");
        w.type("conditionValue", "250");
        w.type("conditionClear", "300");
        w.type("loadTimeOut", "30");
        w.answers();
        QVERIFY2(w.text("loadSays").contains("of record"), qPrintable(w.text("loadSays")));
        w.click("loadKeep");
        QCOMPARE(w.clocked.session.bench().controls.size(), before + 1);
        const LoadControl made = w.clocked.session.bench().controls.back();
        QCOMPARE(made.rule, std::string("hut-damp"));
        QCOMPARE(made.load, std::string("bed-pump"));
        QCOMPARE(made.time_out_s, 30.0);
        QVERIFY(!made.acts); // tried before it is trusted
        QCOMPARE(made.never_while.size(), std::size_t(1));
        QCOMPARE(made.never_while[0].reading, std::string("cistern"));
        QCOMPARE(made.never_while[0].clear.value_or(0), 300.0);
        w.settle();
        w.click("loadChange");
        w.click("loadRemove");
        QCOMPARE(w.clocked.session.bench().controls.size(), before);
    }
    void withoutARuleThereIsNothingToFollow() {
        Loads w("rock");
        QVERIFY(!w.find<QPushButton>("loadNew")->isEnabled());
    }
};

RUN_TESTS_OF(TestLoads)
#include "tst_loads.moc"
