// What the path line and the rail say, state by state; and plan differences against plain copies.
#include "session/path_state.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <random>

using namespace cognitum;
using test::ClockedSession;

namespace {

PathState state_of(ClockedSession& s, const char* id = "air") {
    const Reading& r = *s.session.bench().reading(id);
    const Live live = s.session.worker().live();
    return path_state(s.session, r, live, s.session.views().findings(r, live));
}

} // namespace

class TestPathState : public QObject {
    Q_OBJECT

  private slots:
    void anUnplannedReading() {
        ClockedSession s;
        test::open_small_bench(s);
        s.session.edit("new", [](Bench& b) {
            Reading r;
            r.id = r.name = "new";
            b.readings.push_back(r);
        });
        const PathState state = state_of(s, "new");
        QCOMPARE(state.stops[0].mark, Mark::done);
        for (std::size_t i = 1; i < 7; ++i)
            QCOMPARE(state.stops[i].mark, Mark::not_begun);
        QCOMPARE(state.reaches, -1);
        QCOMPARE(state.value, QStringLiteral("—"));
        QCOMPARE(state.word, QStringLiteral("planned"));
        QVERIFY(state.about.contains("no board"));
    }
    void wiringCountsItsSteps() {
        ClockedSession s;
        test::open_small_bench(s);
        QVERIFY(state_of(s).stops[2].text.contains("0 of 7"));
        s.session.editReading("air", "tick", [](Reading& r) { r.wiring.ticked = {1, 2, 3}; });
        QVERIFY(state_of(s).stops[2].text.contains("3 of 7"));
        s.session.editReading("air", "tick", [](Reading& r) { r.wiring.ticked = {1, 2, 3, 4, 5, 6, 7}; });
        QCOMPARE(state_of(s).stops[2].text, QStringLiteral("A0, 5V"));
    }
    void aLiveReadingReachesTheEnd() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(5, 142);
        const PathState state = state_of(s);
        QCOMPARE(state.reaches, 6);
        QVERIFY(state.stops[3].text.startsWith("142"));
        QVERIFY2(state.stops[4].text.startsWith("20"), qPrintable(state.stops[4].text)); // ± 2.3: no decimals
        QCOMPARE(state.stops[5].text, QStringLiteral("never"));
        QCOMPARE(state.word, QStringLiteral("in range"));
        QVERIFY(state.about.contains("fresh"));
    }
    void digitsFollowTheDoubtAfterCalibration() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(5, 142);
        std::vector<CalibrationPoint> points(3);
        const double at[] = {0.6, 12.6, 30.6};
        for (std::size_t i = 0; i < 3; ++i) {
            points[i].indication = at[i];
            points[i].reference = at[i] - 0.6;
            points[i].u_reference = points[i].u_indication = 0.05;
        }
        QVERIFY(s.session.proof().finish("air", {{}, 0, points, {}, {}, {}}, Model::offset));
        s.settle();
        const PathState state = state_of(s);
        QVERIFY2(state.value.startsWith("19.0"), qPrintable(state.value));
        QVERIFY2(state.stops[5].text.contains(QStringLiteral("±")), qPrintable(state.stops[5].text));
        QCOMPARE(state.stops[5].mark, Mark::done);
    }
    void aSickSignalIsNoNumber() {
        ClockedSession s;
        test::open_small_bench(s);
        for (int i = 0; i < 60; ++i)
            s.lines(1, i % 2 ? 200 : 600); // nothing holds the pin
        const PathState state = state_of(s);
        QCOMPARE(state.word, QStringLiteral("floating"));
        QCOMPARE(state.value, QStringLiteral("—"));
        QCOMPARE(state.reaches, 3);
        QCOMPARE(state.mark, Mark::bad);
    }
    void highIsALook() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(3, 170);
        const PathState state = state_of(s);
        QCOMPARE(state.word, QStringLiteral("high"));
        QCOMPARE(state.mark, Mark::look);
        QCOMPARE(state.stops[6].mark, Mark::look);
    }
    void lateIsStillShownSilentIsNot() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(3, 142);
        s.pass(10);
        QCOMPARE(state_of(s).freshness, Freshness::late);
        QCOMPARE(state_of(s).reaches, 6);
        QCOMPARE(state_of(s).age, QStringLiteral("10 s"));
        s.pass(30);
        QCOMPARE(state_of(s).freshness, Freshness::silent);
        QCOMPARE(state_of(s).mark, Mark::bad);
        QCOMPARE(state_of(s).word, QStringLiteral("silent"));
    }
    void errorsMarkTheirStop() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(3, 142);
        s.session.editReading("air", "break",
                              [](Reading& r) { std::get<Adc>(r.path.stages[0]).reference_V.value = 1.8; });
        s.settle();
        s.lines(1, 142);
        const PathState state = state_of(s);
        QCOMPARE(state.stops[4].mark, Mark::bad); // the constant does not fit the board
        QCOMPARE(state.mark, Mark::bad);
    }

    void differencesAreExact() {
        std::mt19937_64 random(9);
        for (int round = 0; round < 300; ++round) {
            Bench before;
            before.name = std::to_string(random() % 2);
            for (std::uint64_t i = 0, n = random() % 5; i < n; ++i) {
                Reading r;
                r.id = "r" + std::to_string(i);
                r.name = std::to_string(random() % 3);
                before.readings.push_back(r);
                BoardUse board;
                board.id = "b" + std::to_string(i);
                board.name = std::to_string(random() % 3);
                before.boards.push_back(board);
            }
            Bench after = before;
            for (std::uint64_t k = 0, n = random() % 4; k < n; ++k) {
                switch (random() % 4) {
                case 0:
                    if (!after.readings.empty())
                        after.readings.erase(after.readings.begin() +
                                             static_cast<std::ptrdiff_t>(random() % after.readings.size()));
                    break;
                case 1: {
                    Reading r;
                    r.id = "new" + std::to_string(k);
                    after.readings.push_back(r);
                    break;
                }
                case 2:
                    if (!after.boards.empty()) after.boards[random() % after.boards.size()].name += "x";
                    break;
                default: after.place += "y";
                }
            }
            const PlanDifference change = difference(before, after);
            QCOMPARE(change.empty(), before == after);
            Bench forwards = before;
            apply(change, true, forwards);
            QVERIFY(forwards == after);
            apply(change, false, forwards);
            QVERIFY(forwards == before);
        }
    }
};

RUN_TESTS_OF(TestPathState)
#include "tst_path_state.moc"
