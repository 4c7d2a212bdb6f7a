// Bring-up, fault finder, field chooser and rates in the real window, driven as a person would.
#include "core/bringup/stages.h"
#include "session/bring_up.h"
#include "support/run_tests.h"
#include "support/test_window.h"
#include "ui/pages/budget_bars.h"
#include "ui/stops/raw/cause_map.h"
#include "ui/stops/raw/fault_finder.h"
#include "ui/stops/raw/stage_ladder.h"
#include "ui/stops/raw/trial_panel.h"

#include <QSpinBox>

using namespace cognitum;
using test::TestWindow;

namespace {

void open_raw(TestWindow& w, const char* reading = "hut-air") {
    w.openDemo();
    w.window.context().selectReading(reading);
    w.window.showStop(3);
    w.refresh();
}

int entries(TestWindow& w, const char* kind, const char* text) {
    int n = 0;
    for (const LogEntry& e : test::entries(w.clocked.session))
        n += e.kind == kind && e.text.find(text) != std::string::npos ? 1 : 0;
    return n;
}

} // namespace

class TestBringUpPages : public QObject {
    Q_OBJECT

  private slots:
    void initTestCase() { QCoreApplication::setApplicationName("cognitum-test"); }

    /// From the row under the signal to a signature in plan and logbook, over a test that passes on live values.
    void aStageIsTestedAndSigned() {
        TestWindow w;
        open_raw(w);
        w.clocked.session.editReading("hut-air", "begin anew", [](Reading& r) { r.bring_up = {}; });
        w.lines(20, 138);
        w.click("stage_sensor-alone");
        QCOMPARE(w.find<StageLadder>("stageLadder")->chosen(), 1);
        QVERIFY2(w.text("trialAct").contains("two fingers"), qPrintable(w.text("trialAct")));
        QVERIFY2(w.text("trialCaution").contains("cold"), qPrintable(w.text("trialCaution")));
        QVERIFY(!w.find<QPushButton>("signPassed")->isEnabled()); // neither a name nor anything seen
        w.click("trialStart");
        w.lines(3, 138);
        QVERIFY2(w.text("trialMust").contains("140 counts or more"), qPrintable(w.text("trialMust")));
        QVERIFY2(w.text("trialLeft").contains("s left"), qPrintable(w.text("trialLeft")));
        w.lines(5, 143); // warm
        QVERIFY2(w.text("trialSeen").startsWith("Passed: from 138"), qPrintable(w.text("trialSeen")));
        w.lines(20, 138); // what was decided stays decided
        QVERIFY(w.text("trialSeen").startsWith("Passed"));
        w.type("signBy", "the warden");
        QVERIFY2(w.find<QLineEdit>("signNote")->text().contains("Warm it"), "no evidence");
        w.click("signPassed");
        const BringUp& b = w.reading().bring_up;
        QCOMPARE(b.signs.size(), std::size_t(1));
        QCOMPARE(b.signs[0].stage, std::string("sensor-alone"));
        QVERIFY(b.signs[0].passed && b.signs[0].note.find("138") != std::string::npos);
        QCOMPARE(entries(w, "bring-up", "sensor alone: passed; signed by the warden"), 1);
        QCOMPARE(w.find<StageLadder>("stageLadder")->chosen(), 0); // on to what is open
        w.clocked.session.undoStack()->undo();
        QVERIFY(w.reading().bring_up.signs.empty());
        QCOMPARE(entries(w, "bring-up", "sensor alone: passed"), 1); // a logbook takes nothing back
    }
    void aTestThatFailsCannotBeSignedAsPassed() {
        TestWindow w;
        open_raw(w);
        w.lines(20, 138);
        w.click("stage_sensor-alone");
        w.click("trialStart");
        w.lines(70, 138);
        QVERIFY2(w.text("trialSeen").startsWith("Not passed"), qPrintable(w.text("trialSeen")));
        QVERIFY2(w.text("trialAct").contains("supply"), qPrintable(w.text("trialAct"))); // what to do then
        w.type("signBy", "the warden");
        QVERIFY(!w.find<QPushButton>("signPassed")->isEnabled());
        w.click("signFailed");
        QCOMPARE(w.find<StageLadder>("stageLadder")->chosen(), 1); // a failed one stays in sight
        QVERIFY2(w.text("tabBringUp").isEmpty() ||
                     w.find<QPushButton>("tabBringUp")->text().contains("did not pass"),
                 qPrintable(w.find<QPushButton>("tabBringUp")->text()));
    }
    void sealingIsNotedAndAsksAgain() {
        TestWindow w;
        open_raw(w);
        w.click("tabBringUp");
        w.click("noteDisturbed");
        const auto reports = stage_reports(w.reading().bring_up);
        QCOMPARE(reports.back().state, StageState::again);
        QCOMPARE(reports.front().state, StageState::passed);
        QCOMPARE(entries(w, "bring-up", "was sealed"), 1);
        QVERIFY(w.find<QPushButton>("tabBringUp")->text().contains("3 to repeat"));
        // It was calibrated before: that is said, too.
        const auto findings = w.window.context().findings();
        QVERIFY(std::any_of(findings.begin(), findings.end(),
                            [](const Finding& f) { return f.id == "moved-since-calibration"; }));
    }
    /// A verdict offers the test that tells its causes apart, and it starts at once.
    void aVerdictStartsItsTest() {
        TestWindow w;
        open_raw(w);
        for (int i = 0; i < 200; ++i)
            w.clocked.lines(1, 138 + i % 4, "A2");
        w.lines(200, 140); // stuck after it had moved
        QVERIFY2(w.text("rawHealth").contains("Stuck"), qPrintable(w.text("rawHealth")));
        QVERIFY2(w.text("rawThen").startsWith("If so:"), qPrintable(w.text("rawThen")));
        w.click("startTest");
        QVERIFY(w.sees("trialSeen"));
        QCOMPARE(w.find<QComboBox>("trialChoice")->currentText(), QStringLiteral("Warm it with two fingers"));
        w.lines(5, 146);
        QVERIFY2(w.text("trialSeen").startsWith("Passed"), qPrintable(w.text("trialSeen")));
    }
    void anotherReadingEndsTheTest() {
        TestWindow w;
        open_raw(w);
        w.lines(20, 138);
        w.click("stage_sensor-alone");
        w.click("trialStart");
        w.lines(2, 138);
        w.window.context().selectReading("rock");
        w.refresh();
        QVERIFY(!w.window.findChild<TrialPanel*>()->isRunning());
        QVERIFY(w.find<QPushButton>("trialStart")->text() == QStringLiteral("Start the test"));
    }
    void aTypedDistanceIsCompared() {
        TestWindow w;
        open_raw(w, "tide-pool");
        const auto echo = [&](int mm) { // sound at the 15 °C that are assumed
            w.clocked.pass(6);
            const auto us = std::lround(2000 * mm / (331.3 * std::sqrt(1 + 15 / 273.15)));
            w.clocked.session.worker().injectMessageNow(
                "shed", {"shed/pool", "{\"echo_us\":" + QByteArray::number(static_cast<int>(us)) + "}", false});
            w.refresh();
        };
        for (int i = 0; i < 8; ++i)
            echo(1400 + i % 2);
        w.click("stage_sensor-alone");
        w.find<QComboBox>("trialChoice")
            ->setCurrentIndex(w.find<QComboBox>("trialChoice")
                                  ->findText(QStringLiteral("A flat board at a distance from a ruler")));
        emit w.find<QComboBox>("trialChoice")->activated(w.find<QComboBox>("trialChoice")->currentIndex());
        w.click("trialStart");
        QVERIFY2(w.text("trialSeen").contains("doubt"), qPrintable(w.text("trialSeen"))); // not without a value
        w.find<QLineEdit>("trialReadDoubt")->setText("2");
        w.type("trialReadOff", "500");
        for (int i = 0; i < 4; ++i)
            echo(503);
        QVERIFY2(w.text("trialSeen").startsWith("Passed"), qPrintable(w.text("trialSeen")));
    }

    void theFinderLeadsToACauseAndWritesItDown() {
        TestWindow w;
        open_raw(w);
        w.lines(10, 140);
        w.click("tabFault");
        w.click("symptom_always-zero");
        auto* finder = w.find<FaultFinder>("faultFinder");
        auto* map = w.find<CauseMap>("causeMap");
        QVERIFY2(w.text("finderQuestion").contains("supply leg"), qPrintable(w.text("finderQuestion")));
        const int all = map->open();
        w.click("answer0");
        QVERIFY(map->open() < all);
        QVERIFY(w.text("finderLeft").contains("causes left"));
        w.click("answer1");
        w.click("answer0");
        QVERIFY2(w.text("finderCause").contains("drives"), qPrintable(w.text("finderCause")));
        QVERIFY(w.text("finderProof").startsWith("Proof:"));
        QCOMPARE(map->open(), 1);
        w.click("finderKeep");
        QCOMPARE(entries(w, "fault", "drives instead of listening"), 1);
        w.click("finderBack");
        QVERIFY(!finder->walk().cause);
        QCOMPARE(finder->walk().steps.size(), std::size_t(2));
    }
    void theFinderWorksOutARatio() {
        TestWindow w;
        open_raw(w);
        w.lines(10, 140);
        w.click("tabFault");
        w.click("symptom_factor");
        w.find<QLineEdit>("finderTrue")->setText("0");
        w.click("finderCompare");
        QVERIFY2(w.text("finderHow").contains("not be zero"), qPrintable(w.text("finderHow")));
        w.find<QLineEdit>("finderTrue")->setText("15,0");
        w.find<QLineEdit>("finderShown")->setText("22.7");
        w.click("finderCompare");
        QVERIFY2(w.text("finderCause").contains("5 V where 3.3 V"), qPrintable(w.text("finderCause")));
    }

    void aFieldIsChosenByItsExample() {
        TestWindow w;
        open_raw(w);
        w.clocked.lines(3, 140, "X7");
        w.refresh();
        auto* choice = w.find<QComboBox>("fieldChoice");
        QVERIFY2(choice->currentText().contains("not in the lines"), qPrintable(choice->currentText()));
        w.choose("fieldChoice", "X7");
        QCOMPARE(w.reading().source.field, std::string("X7"));
        w.clocked.lines(3, 140, "X7");
        w.refresh();
        CLOSE(w.clocked.session.worker().live().readings.at("hut-air").raw, 140, 0);
        w.clocked.session.undoStack()->undo();
        QCOMPARE(w.reading().field(), std::string("A2"));
    }

    void ratesSayWhatIsLost() {
        TestWindow w;
        open_raw(w);
        w.lines(60, 140);
        w.clocked.session.edit("quota", [](Bench& b) {
            b.board("gauge")->upload_s = 5;
            b.board("gauge")->quota_s = 15;
        });
        w.window.showPage(QStringLiteral("boards"));
        w.choose("boardChoice", "gauge");
        w.click("tabRates");
        QVERIFY2(w.text("ratesIntro").contains("5 readings"), qPrintable(w.text("ratesIntro")));
        w.choose("rateReading", "hut-air");
        QCOMPARE(w.find<QSpinBox>("rateEvery")->value(), 15);
        QVERIFY2(w.text("rateLoss").contains("60 values"), qPrintable(w.text("rateLoss")));
        bool service = false;
        for (const BudgetBars* bars : w.window.findChildren<BudgetBars*>())
            for (const BudgetRow& row : bars->rows())
                service = service || (row.name.contains("service, one update") && row.mark == Mark::bad);
        QVERIFY(service);
    }

    void whatALinkHasBesideItsPlaceIsKept() {
        TestWindow w;
        w.openDemo();
        w.clocked.session.edit("cut", [](Bench& b) { b.board("gauge")->link.kind = LinkKind::none; });
        w.window.showStop(3);
        w.refresh();
        w.click("linkMore");
        w.find<QComboBox>("linkFrame")->setCurrentText(QStringLiteral("7E1"));
        w.find<QComboBox>("linkPort")->setEditText(QStringLiteral("/dev/ttyUSB9"));
        w.click("linkOpen");
        QCOMPARE(w.clocked.session.bench().board("gauge")->link.frame, std::string("7E1"));
        w.click("linkClose");
        w.find<QComboBox>("linkKind")->setCurrentIndex(1);
        w.find<QLineEdit>("linkBroker")->setText(QStringLiteral("harbour:1884"));
        w.find<QLineEdit>("linkCommandTopic")->setText(QStringLiteral("gauge/#"));
        w.click("linkOpen");
        QVERIFY2(w.text("linkState").contains("one topic"), qPrintable(w.text("linkState")));
        w.find<QLineEdit>("linkCommandTopic")->setText(QStringLiteral("gauge/command"));
        w.find<QLineEdit>("linkCaFile")->setText(QStringLiteral("/nowhere/ca.pem"));
        w.click("linkOpen");
        QVERIFY2(w.text("linkState").contains("cannot be read"), qPrintable(w.text("linkState")));
        w.find<QLineEdit>("linkCaFile")->clear();
        w.click("linkOpen");
        QCOMPARE(w.clocked.session.bench().board("gauge")->link.mqtt.command_topic, std::string("gauge/command"));
    }
};

RUN_TESTS_OF(TestBringUpPages)
#include "tst_bring_up.moc"
