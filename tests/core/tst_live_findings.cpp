// Findings from what arrives: another reference than planned, and verdicts on the raw signal. Each fires, and is
// silent on the same bench just beside it.
#include "core/plan/rules/arrivals.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;
using test::catalog;

class TestLiveFindings : public QObject {
    Q_OBJECT

  private slots:
    void anotherReferenceThanPlanned() {
        Bench bench = test::small_bench();
        Reading& r = bench.readings[0];
        const BoardCard* card = catalog().board(bench.boards[0].card);
        QVERIFY(card && card->reference("internal") && card->reference("supply"));
        r.wiring.reference = "supply";
        const auto found = board_reference_differs(r, *card, "internal");
        QVERIFY(found && found->severity == Severity::error && found->reading == r.id);
        // 5 V planned, 1.1 V real: what it says is 4.5 times what is true.
        QVERIFY2(found->why.find("factor of 4.5") != std::string::npos, found->why.c_str());
        QVERIFY(found->action && found->action->send == "reference supply");
        QVERIFY(!board_reference_differs(r, *card, "supply"));
        QVERIFY(!board_reference_differs(r, *card, ""));
        QVERIFY(!board_reference_differs(r, *card, "moonlight")); // a word that the card does not know says nothing
        r.wiring.reference.clear();
        QVERIFY(!board_reference_differs(r, *card, "internal")); // nothing is planned yet
    }
    void verdictsBecomeFindings() {
        const Reading r = test::small_bench().readings[0];
        HealthVerdict stuck{"stuck", "Stuck", HealthRank::bad, "140 for a minute.", {"a wire is off"}, "Warm it."};
        HealthVerdict restarts = stuck;
        restarts.id = "restarts";
        restarts.leaves_value = true;
        HealthVerdict noisy = stuck;
        noisy.id = "noisy";
        noisy.rank = HealthRank::look;
        noisy.causes = {"a long cable", "no capacitor"};
        HealthVerdict note = stuck;
        note.rank = HealthRank::note;
        HealthVerdict silent = stuck;
        silent.id = "silent";
        const std::vector<HealthVerdict> all = {stuck, restarts, noisy, note, silent};
        const std::vector<Finding> found = signal_findings(r, all);
        QCOMPARE(found.size(), std::size_t(3));
        QCOMPARE(found[0].message, std::string("Stuck: 140 for a minute."));
        QVERIFY(found[0].measures_nothing && found[0].severity == Severity::error);
        QVERIFY(!found[1].measures_nothing && found[1].severity == Severity::error);
        QVERIFY(!found[2].measures_nothing && found[2].severity == Severity::look);
        QCOMPARE(found[2].why, std::string("Likely, in this order: a long cable; no capacitor."));
        for (const Finding& f : found)
            QVERIFY(f.reading == r.id && f.stop == Stop::raw && f.action);
    }
};

RUN_TESTS_OF(TestLiveFindings)
#include "tst_live_findings.moc"
