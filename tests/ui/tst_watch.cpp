// The Watch stop driven as a person would: rules tried on sixty days of record, made, changed, calmed and offered;
// what was marked; who is told.
#include "support/run_tests.h"
#include "support/test_window.h"
#include "ui/plots/history_plot.h"
#include "ui/stops/watch/rule_table.h"

#include <QCheckBox>
#include <QListWidget>

using namespace cognitum;
using namespace cognitum::test;

namespace {

class Watching : public TestWindow {
  public:
    explicit Watching(const char* reading = "cistern") {
        openDemo(DemoHistory::sixty_days);
        show(reading);
    }
    void show(const char* reading) {
        window.context().selectReading(reading);
        window.showStop(6);
        refresh();
        answers();
    }
    RuleTable* table() { return find<RuleTable>("watchRules"); }
    QString cell(int row, int column) {
        return QString::fromStdString(plain(table()->item(row, column)->text().toStdString()));
    }
    void pick(const char* rule) {
        table()->choose(rule);
        QCoreApplication::processEvents();
    }
    const Bench& bench() { return clocked.session.bench(); }
};

} // namespace

class TestWatchPage : public QObject {
    Q_OBJECT

  private slots:
    void rulesSayWhatTheyWouldHaveSaid() {
        Watching w;
        QCOMPARE(w.table()->rowCount(), 4);
        QVERIFY2(w.cell(0, 0).startsWith("A leak") && w.cell(0, 1).contains("falls by more than 6 L/h over 2 h"),
                 qPrintable(w.cell(0, 1)));
        QVERIFY2(w.cell(0, 2).startsWith("once"), qPrintable(w.cell(0, 2)));
        QVERIFY2(w.cell(1, 2).startsWith("never"), qPrintable(w.cell(1, 2)));
        w.pick("cistern-leak");
        QCOMPARE(w.find<HistoryPlot>("historyPlot")->marksShown(), 1); // where it would have spoken
        QVERIFY(w.text("watchAdvice").contains("would have spoken once"));
        w.pick("cistern-low");
        QCOMPARE(w.find<HistoryPlot>("historyPlot")->marksShown(), 0);
        QVERIFY2(w.text("watchWord").contains("in "), qPrintable(w.text("watchWord"))); // how long it lasts
    }
    void aNervousRuleIsCalmed() {
        Watching w("hut-air");
        w.pick("hut-warm");
        QVERIFY2(w.cell(0, 2).contains("ignored"), qPrintable(w.cell(0, 2)));
        QVERIFY(w.text("watchAdvice").contains("Calmer:"));
        w.click("watchCalm");
        w.answers();
        QVERIFY(w.bench().watch_rule("hut-warm")->conditions[0].clear.value_or(19) < 19);
        QVERIFY2(!w.cell(0, 2).contains("ignored"), qPrintable(w.cell(0, 2)));
        QVERIFY(!w.sees("watchCalm"));
        w.clocked.session.undoStack()->undo();
        w.refresh();
        QVERIFY(w.cell(0, 2).contains("ignored"));
    }
    void aRuleIsMadeTriedKeptSwitchedAndRemoved() {
        Watching w("rock");
        QCOMPARE(w.table()->rowCount(), 0);
        w.click("watchNewRule");
        QVERIFY(w.sees("watchRuleDialog"));
        w.type("watchRuleName", "Hot rock");
        w.type("conditionValue", "20");
        w.type("conditionClear", "21"); // over above the limit: refused, and said
        QVERIFY(!w.find<QPushButton>("watchRuleKeep")->isEnabled());
        QVERIFY2(w.text("watchRuleSays").contains("cannot be over"), qPrintable(w.text("watchRuleSays")));
        w.type("conditionClear", "18");
        w.type("watchRuleFor", "30");
        w.answers();
        QVERIFY2(w.text("watchRuleSays").contains("above 20"), qPrintable(w.text("watchRuleSays")));
        QVERIFY2(w.text("watchRuleTried").contains("of record it would"), qPrintable(w.text("watchRuleTried")));
        w.choose("conditionWhen", qPrintable(QString::number(int(WatchWhen::falls))));
        QVERIFY(w.sees("conditionOver"));
        QVERIFY(!w.sees("conditionClear"));
        w.choose("conditionWhen", qPrintable(QString::number(int(WatchWhen::above))));
        w.click("conditionAdd");
        QVERIFY(w.sees("conditionJoin"));
        w.type("watchRuleFrom", "25:00");
        QVERIFY(!w.find<QPushButton>("watchRuleKeep")->isEnabled());
        w.type("watchRuleFrom", "06:00");
        w.type("watchRuleTo", "22:00");
        w.click("watchRuleKeep");
        w.answers();
        QCOMPARE(w.table()->rowCount(), 1);
        const WatchRule rule = w.bench().watch_rules.back();
        QCOMPARE(rule.name, std::string("Hot rock"));
        QCOMPARE(rule.conditions.size(), std::size_t(2));
        QCOMPARE(rule.conditions[0].clear.value_or(0), 18.0);
        QCOMPARE(rule.for_s, 1800.0);
        QCOMPARE(rule.hours.from_min, 360);
        w.click("watchToggleRule");
        QVERIFY(!w.bench().watch_rules.back().on && w.cell(0, 0).contains("off"));
        w.click("watchEditRule");
        w.click("conditionRemove");
        w.click("watchRuleKeep");
        QCOMPARE(w.bench().watch_rules.back().conditions.size(), std::size_t(1));
        w.click("watchEditRule");
        w.click("watchRuleRemove");
        QCOMPARE(w.table()->rowCount(), 0);
    }
    void rulesOfAKindAreOffered() {
        Watching w("pool-water");
        auto* side = w.find<QWidget>("watchSide");
        QVERIFY(side && side->isVisible());
        QPushButton* silent = side->findChild<QPushButton*>("offer_No word");
        QVERIFY(silent);
        const std::size_t before = w.bench().watch_rules.size();
        silent->click();
        w.answers();
        w.click("watchRuleKeep");
        w.answers();
        QCOMPARE(w.bench().watch_rules.size(), before + 1);
        QCOMPARE(w.bench().watch_rules.back().reading(), std::string("pool-water"));
        QVERIFY(!side->findChild<QPushButton*>("offer_No word") ||
                !side->findChild<QPushButton*>("offer_No word")->isVisible());
    }
    void whatAPersonMarksProposesALimit() {
        Watching w("stove-flue");
        w.pick("flue-hot");
        auto* plot = w.find<HistoryPlot>("historyPlot");
        plot->showLast(2 * 86400);
        w.answers();
        w.click("watchIsNone");
        w.answers();
        QCOMPARE(w.bench().watch_rule("flue-hot")->marked.size(), std::size_t(1));
        QVERIFY(!w.bench().watch_rule("flue-hot")->marked[0].is_alarm);
        QVERIFY2(w.text("watchAdvice").contains("that were none"), qPrintable(w.text("watchAdvice")));
        w.click("watchPropose");
        w.answers();
        QVERIFY(w.sees("watchRuleDialog"));
        w.click("watchRuleClose");
        w.clocked.session.undoStack()->undo();
        QVERIFY(w.bench().watch_rule("flue-hot")->marked.empty());
    }
    void raisedAndSeen() {
        Watching w("hut-air");
        w.clocked.session.edit("Calm",
                               [](Bench& bench) { bench.watch_rule("hut-warm")->conditions[0].clear = 15; });
        w.lines(5, 165);
        QVERIFY2(w.cell(0, 0).contains("raised") && w.cell(0, 0).contains("not seen"), qPrintable(w.cell(0, 0)));
        w.click("watchSeen");
        w.refresh();
        QVERIFY(!w.cell(0, 0).contains("not seen"));
        QVERIFY(!w.sees("watchSeen"));
        w.click("watchTabTold");
        auto* told = w.find<QTableWidget>("alerts");
        QVERIFY(told->isVisible() && told->item(0, 1)->text().contains("Too warm"));
    }
    void whoIsTold() {
        Watching w;
        w.click("watchTabTelling");
        QVERIFY(w.sees("tellDesktop"));
        w.find<QCheckBox>("tellDesktop")->click();
        QVERIFY(!w.bench().telling.desktop);
        w.type("quietFrom", "23:30");
        w.type("quietTo", "06:15");
        QCOMPARE(w.bench().telling.quiet.from_min, 23 * 60 + 30);
        w.type("quietFrom", "noon");
        QCOMPARE(w.bench().telling.quiet.from_min, 23 * 60 + 30);
        w.type("publishTopic", "a/#");
        QCOMPARE(w.bench().publishing.topic, std::string("cognitum"));
        w.type("publishTopic", "shore");
        w.type("publishEvery", "5");
        w.type("publishPort", "70000");
        QCOMPARE(w.bench().publishing.port, 1883);
        auto* readings = w.find<QListWidget>("publishReadings");
        readings->item(0)->setCheckState(Qt::Checked);
        QCOMPARE(w.bench().publishing.readings.size(), std::size_t(1));
        QCOMPARE(w.bench().publishing.every_s, 5.0);
        QVERIFY(w.text("publishState").contains("Nothing is published"));
        // A broker that asks who is there: nothing goes out before that is said.
        w.type("publishHost", "127.0.0.1");
        QVERIFY(!w.sees("publishUser"));
        w.find<QCheckBox>("publishAsks")->click();
        QVERIFY(w.bench().publishing.log_in);
        QVERIFY(w.sees("publishUser") && w.text("publishState").contains("Nothing goes out"));
        w.type("publishUser", "shore");
        w.type("publishPassword", "made up");
        w.click("publishLogIn");
        QVERIFY(!w.sees("publishUser"));
        w.find<QPushButton>("tellTry")->click();
        w.clocked.session.undoStack()->undo();
        w.refresh();
        QVERIFY(!w.bench().publishing.log_in);
    }
    void aRuleThatGoesByTheSun() {
        Watching w("daylight");
        w.click("watchNewRule");
        w.type("watchRuleName", "Lamp");
        QVERIFY(!w.sees("watchLatitude"));
        w.choose("conditionWhen", qPrintable(QString::number(int(WatchWhen::night))));
        QVERIFY(w.sees("watchLatitude"));
        QVERIFY(!w.find<QPushButton>("watchRuleKeep")->isEnabled());
        QVERIFY2(w.text("watchRuleSays").contains("where the bench stands"), qPrintable(w.text("watchRuleSays")));
        w.type("watchLatitude", "95");
        w.type("watchLongitude", "-5");
        QVERIFY(!w.find<QPushButton>("watchRuleKeep")->isEnabled());
        w.type("watchLatitude", "50");
        w.type("conditionValue", "20");
        w.answers();
        QVERIFY2(w.text("watchRuleTried").contains("it would have spoken"), qPrintable(w.text("watchRuleTried")));
        w.click("watchRuleKeep");
        QVERIFY(w.bench().where == (GeoPlace{50, -5}));
        QCOMPARE(w.bench().watch_rules.back().count, 1);
        w.clocked.session.undoStack()->undo();
        QVERIFY(!w.bench().where);
    }
    void aCorridorByDay() {
        Watching w("hut-air");
        const TimeUs now = w.clocked.session.now();
        w.clocked.session.edit("A jar is filled", [now](Bench& bench) {
            bench.sessions.push_back(
                {"jar", "Cabbage", SessionKind::fermentation, now - 9 * day_us, 0, {"hut-air"}, {}});
        });
        w.refresh();
        w.click("watchNewRule");
        w.type("watchRuleName", "Cabbage");
        QVERIFY(!w.sees("conditionCorridor"));
        w.choose("conditionWhen", qPrintable(QString::number(int(WatchWhen::corridor))));
        QVERIFY(w.sees("conditionCorridor") && !w.sees("conditionValue") && !w.sees("conditionClear"));
        w.type("conditionCorridor", "1: 18-20");
        QVERIFY(!w.find<QPushButton>("watchRuleKeep")->isEnabled());
        QVERIFY2(w.text("watchRuleSays").contains("no step of a corridor"), qPrintable(w.text("watchRuleSays")));
        w.type("conditionCorridor", "1: 20 to 18");
        QVERIFY(!w.find<QPushButton>("watchRuleKeep")->isEnabled());
        w.type("conditionCorridor", "1: 40 to 45; 3: 50,5 to 60");
        w.answers();
        QVERIFY2(w.text("watchRuleTried").contains("it would have spoken"), qPrintable(w.text("watchRuleTried")));
        w.click("watchRuleKeep");
        QCOMPARE(w.bench().watch_rules.back().conditions[0].corridor,
                 (std::vector<CorridorStep>{{1, 40, 45}, {3, 50.5, 60}}));
    }
    void bandsWithNames() {
        Watching w("rock");
        w.click("watchTabBands");
        QVERIFY(!w.sees("bandName0"));
        w.click("bandAdd");
        QCOMPARE(w.bench().reading("rock")->named_bands.size(), std::size_t(3));
        w.type("bandName0", "frost");
        w.type("bandTo0", "0");
        w.choose("bandRank0", qPrintable(QString::number(int(WatchRank::bad))));
        w.type("bandTo1", "-5"); // below the one below it
        QVERIFY2(w.text("bandTrouble").contains("put them in order"), qPrintable(w.text("bandTrouble")));
        QVERIFY(w.bench().reading("rock")->named_bands[1].to > 0);
        w.click("bandAdd");
        const std::vector<NamedBand> bands = w.bench().reading("rock")->named_bands;
        QCOMPARE(bands.size(), std::size_t(4));
        QVERIFY(bands[0].name == "frost" && bands[0].to == 0 && bands[0].rank == WatchRank::bad);
        w.click("bandRemove3");
        w.click("bandRemove2");
        w.click("bandRemove1");
        QVERIFY(w.bench().reading("rock")->named_bands.empty()); // one alone says nothing
    }
    void aReadingThatIsGoneIsSaid() {
        Watching w("rain");
        w.clocked.session.edit("Gone", [](Bench& bench) {
            std::erase_if(bench.readings, [](const Reading& r) { return r.id == "humidity"; });
        });
        w.refresh();
        w.answers();
        w.pick("rain-blocked");
        QVERIFY2(w.text("watchAdvice").contains("is gone"), qPrintable(w.text("watchAdvice")));
        w.click("watchEditRule");
        QVERIFY(w.sees("watchRuleDialog"));
        w.click("watchRuleClose");
    }
};

RUN_TESTS_OF(TestWatchPage)
#include "tst_watch.moc"
