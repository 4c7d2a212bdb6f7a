// Bring-up on a running session: signatures in plan and logbook, and what the live values answer to the question
// tree.
#include "core/bringup/stages.h"
#include "session/bring_up.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

using namespace cognitum;
using test::ClockedSession;

namespace {

SymptomFacts facts_of(ClockedSession& s, const char* reading = "air") {
    s.settle();
    return seen_facts(s.session, *s.session.bench().reading(reading), s.session.worker().live());
}

} // namespace

class TestSessionBringUp : public QObject {
    Q_OBJECT

  private slots:
    void aSignatureStandsInPlanAndLogbook() {
        ClockedSession s;
        test::open_small_bench(s);
        sign_stage(s.session, "air", QStringLiteral("together"), false, QStringLiteral("the warden"),
                   QStringLiteral("lines are lost"));
        s.pass(60);
        sign_stage(s.session, "air", QStringLiteral("together"), true, QStringLiteral("the warden"),
                   QStringLiteral("a shorter cable"));
        const BringUp& b = s.session.bench().reading("air")->bring_up;
        QCOMPARE(b.signs.size(), std::size_t(2));
        QVERIFY(!b.signs[0].passed && b.signs[1].passed);
        QCOMPARE(b.signs[1].time, s.session.now());
        QCOMPARE(stage_reports(b)[3].state, StageState::passed);
        const auto log = test::entries(s.session);
        QCOMPARE(std::count_if(log.begin(), log.end(), [](const LogEntry& e) { return e.kind == "bring-up"; }), 2);
        // A stage or a reading that is not there changes nothing.
        sign_stage(s.session, "air", QStringLiteral("later"), true, {}, {});
        sign_stage(s.session, "nobody", QStringLiteral("together"), true, {}, {});
        QCOMPARE(s.session.bench().reading("air")->bring_up.signs.size(), std::size_t(2));
    }
    void signaturesOutliveTheProgram() {
        ClockedSession s;
        test::open_small_bench(s);
        sign_stage(s.session, "air", QStringLiteral("sealed"), true, QStringLiteral("the warden"),
                   QStringLiteral("as before"));
        note_disturbed(s.session, "air", "moved");
        const BringUp before = s.session.bench().reading("air")->bring_up;
        const QString path = s.session.path();
        s.session.closeBench();
        const auto opened = s.session.openBench(path);
        QVERIFY2(opened, opened ? "" : opened.error().text().c_str());
        QVERIFY(s.session.bench().reading("air")->bring_up == before);
    }
    void whatIsSeenIsAFact() {
        ClockedSession s;
        test::open_small_bench(s);
        QVERIFY(!facts_of(s).contains("field"));
        s.lines(30, 138);
        SymptomFacts facts = facts_of(s);
        QCOMPARE(facts["link"], "open");
        QCOMPARE(facts["way"], "wire");
        QCOMPARE(facts["speech"], "other");
        QVERIFY(!facts.contains("odd") && !facts.contains("field") && !facts.contains("goes"));
        // Lines are missing by their sequence numbers.
        s.send("90,91000,138\n");
        s.lines(1, 138);
        QCOMPARE(facts_of(s)["goes"], "lost");
    }
    void aFieldWithoutANumberIsAFact() {
        ClockedSession s;
        test::open_small_bench(s);
        s.send("seq,ms,A0\n");
        for (int i = 0; i < 20; ++i) {
            s.pass(1);
            s.send(QByteArray::number(i) + "," + QByteArray::number(1000 * i) + ",nan\n");
        }
        QCOMPARE(facts_of(s)["field"], "empty");
    }
    void aPulledCableIsCounted() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(12, 138);
        s.settle();
        const Reading& r = *s.session.bench().reading("air");
        const LineCount lines = line_count(r, s.session.worker().live());
        QVERIFY(lines.lines >= 12);
        QCOMPARE(lines.lost, std::uint64_t(0));
        QCOMPARE(line_count(r, Live{}).lines, std::uint64_t(0));
    }
};

RUN_TESTS_OF(TestSessionBringUp)
#include "tst_bring_up.moc"
