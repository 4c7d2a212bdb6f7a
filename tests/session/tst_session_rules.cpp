// Sessions that a rule begins and ends while it is recorded; what a person decides stays; and a bench that another
// window has open is only looked at.
#include "core/bench/limits.h"
#include "session/session_rules.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <QSignalSpy>

using namespace cognitum;
using namespace cognitum::test;

namespace {

class Ruled : public ClockedSession {
  public:
    Ruled() {
        open_small_bench(*this);
        session.edit("Rule", [](Bench& bench) {
            SessionRule rule;
            rule.id = "rule";
            rule.name = "Warm spell";
            rule.kind = SessionKind::fire;
            rule.reading = "air";
            rule.limit = 24;
            rule.least_s = 20;
            rule.pause_s = 30;
            bench.session_rules.push_back(rule);
        });
        session.worker().startRecording();
    }
    /// Lines, and then what a few seconds of the window would do.
    void run(int seconds_long, int code) {
        lines(seconds_long, code);
        settle();
        look();
    }
    void look() {
        session.worker().endRecordingNow(); // what came is in the file
        session.sessionRules().lookNow();
        session.archive().finishNow();
        QCoreApplication::processEvents();
        session.worker().startRecording();
    }
    const std::vector<TimedSession>& sessions() { return session.bench().sessions; }
};

} // namespace

class TestSessionRules : public QObject {
    Q_OBJECT

  private slots:
    void aSessionBeginsAndEndsByItself() {
        Ruled s;
        s.run(60, cool);
        QVERIFY(s.sessions().empty());
        const TimeUs begun = s.now + second_us;
        s.run(15, warm);
        QVERIFY(s.sessions().empty()); // not long enough yet
        s.run(15, warm);
        QCOMPARE(s.sessions().size(), std::size_t(1));
        QCOMPARE(s.sessions()[0].from, begun);
        QVERIFY(s.sessions()[0].goes_on());
        QCOMPARE(s.sessions()[0].kind, SessionKind::fire);
        const TimeUs last = s.now;
        s.run(20, cool); // shorter than its pause
        QVERIFY(s.sessions()[0].goes_on());
        s.run(30, cool);
        QCOMPARE(s.sessions().size(), std::size_t(1));
        QCOMPARE(s.sessions()[0].to, last + 1);
        s.run(60, cool);
        QCOMPARE(s.sessions().size(), std::size_t(1)); // told once
        s.run(40, warm);
        QCOMPARE(s.sessions().size(), std::size_t(2));
    }
    void whatAPersonEndedStaysEnded() {
        Ruled s;
        s.run(60, warm);
        QCOMPARE(s.sessions().size(), std::size_t(1));
        const TimeUs end = s.now;
        s.session.edit("End", [end](Bench& bench) { bench.sessions[0].to = end; });
        s.run(60, warm);
        QCOMPARE(s.sessions().size(), std::size_t(1));
        QCOMPARE(s.sessions()[0].to, end);
        s.run(90, cool);
        QCOMPARE(s.sessions()[0].to, end);
    }
    /// Undo is about what a person did.
    void whatARuleDidIsNoStepOfUndo() {
        Ruled s;
        s.session.edit("Name", [](Bench& bench) { bench.name = "Named"; });
        s.run(60, warm);
        QCOMPARE(s.sessions().size(), std::size_t(1));
        s.session.undoStack()->undo();
        QCOMPARE(s.session.bench().name, std::string("Small"));
        QCOMPARE(s.sessions().size(), std::size_t(1));
    }
    /// A file that brings readings changes the plan in the file: that was no other program.
    void anImportIsNotAnotherProgram() {
        ClockedSession s;
        open_small_bench(s);
        s.session.savePlan();
        QFile file(s.folder.filePath("log.csv"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("time,Sea\n2026-06-01T09:00:00Z,11\n");
        file.close();
        QSignalSpy trouble(&s.session, &Session::trouble);
        auto answer = s.session.importFile(file.fileName(), {}, std::make_shared<Session::ImportWatch>());
        s.session.finishWritingNow();
        s.session.lookAround(); // before the answer came
        QTRY_VERIFY(answer.isFinished());
        QVERIFY(answer.result());
        s.session.lookAround();
        QVERIFY2(trouble.isEmpty(), qPrintable(trouble.isEmpty() ? QString() : trouble[0][0].toString()));
        QVERIFY(s.session.bench().reading("sea"));
        s.session.undoStack()->undo();
        QVERIFY(!s.session.bench().reading("sea"));
        // Closed while a file comes in: its readings do not land in the next bench.
        auto late = s.session.importFile(file.fileName(), {}, std::make_shared<Session::ImportWatch>());
        s.session.closeBench();
        open_small_bench(s, "next.cognitum");
        QTRY_VERIFY(late.isFinished());
        QVERIFY(!s.session.bench().reading("sea"));
        QVERIFY(entries(s.session).empty());
    }
    void silenceEndsASessionAndAClosedBenchGoesOn() {
        Ruled s;
        s.run(60, warm);
        const TimeUs last = s.now;
        const QString path = s.session.path();
        s.session.closeBench();
        s.pass(3600);
        QVERIFY(s.session.openBench(path));
        QVERIFY(s.sessions()[0].goes_on());
        s.look();
        QVERIFY(!s.sessions()[0].goes_on());
        QCOMPARE(s.sessions()[0].to, last + 1);
        QCOMPARE(s.sessions().size(), std::size_t(1));
    }
    void aRuleThatIsNotLiveOrGoneBeginsNothing() {
        Ruled s;
        s.session.edit("Off", [](Bench& bench) { bench.session_rules[0].live = false; });
        s.run(60, warm);
        QVERIFY(s.sessions().empty());
        s.session.edit("Gone", [](Bench& bench) {
            bench.session_rules[0].live = true;
            bench.session_rules[0].reading = "nobody";
        });
        s.run(60, warm);
        QVERIFY(s.sessions().empty());
    }
    void aFullPlanTakesNoMore() {
        Bench bench = small_bench();
        SessionRule rule;
        rule.id = rule.name = "rule";
        FollowedRule followed{rule, SessionFinder(rule), RuleValues(bench.readings[0]), 0, {}};
        for (int i = 0; i < 1200; ++i)
            followed.ended.push_back({i * hour_us, i * hour_us + minute_us});
        QVERIFY(put_sessions(bench, {followed}));
        QCOMPARE(bench.sessions.size(), std::size_t(1000));
        QVERIFY(plan_within_limits(bench));
    }
    /// The second window says who has the bench, changes nothing, follows, and takes over when the first lets go.
    void aSecondWindowOnlyLooks() {
        ClockedSession first, second;
        open_small_bench(first);
        QVERIFY(second.session.openBench(first.session.path()));
        QVERIFY2(second.session.lookOnly().contains("Another window"), qPrintable(second.session.lookOnly()));
        QSignalSpy trouble(&second.session, &Session::trouble);
        second.session.edit("Rename", [](Bench& bench) { bench.name = "Mine"; });
        second.session.note("air", log_kind::note, [] { return std::string("mine"); });
        QCOMPARE(second.session.bench().name, std::string("Small"));
        QVERIFY(trouble.size() == 2);
        QVERIFY(!second.session.proof().finish("air", {}, std::nullopt));
        auto import = second.session.importFile("x.csv", {}, std::make_shared<Session::ImportWatch>());
        QTRY_VERIFY(import.isFinished());
        QVERIFY(!import.result());
        first.session.edit("Rename", [](Bench& bench) { bench.name = "Theirs"; });
        first.session.savePlan();
        second.session.lookAround();
        QCOMPARE(second.session.bench().name, std::string("Theirs")); // it follows
        QVERIFY(entries(first.session).empty());
        first.session.closeBench();
        second.session.lookAround();
        QVERIFY(second.session.lookOnly().isEmpty());
        second.session.edit("Rename", [](Bench& bench) { bench.name = "Mine"; });
        QCOMPARE(second.session.bench().name, std::string("Mine"));
    }
};

RUN_TESTS_OF(TestSessionRules)
#include "tst_session_rules.moc"
