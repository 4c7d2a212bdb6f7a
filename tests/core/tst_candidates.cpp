// The comparison of parts: it never contradicts the rules, whatever is asked, and says why with numbers.
#include "core/plan/candidates.h"
#include "core/plan/findings.h"
#include "support/defects.h"
#include "support/run_tests.h"

#include <cmath>
#include <set>

using namespace cognitum;
using test::catalog;

namespace {

const Bench& whole_demo() {
    static const Bench bench = *load_bench_json(data_folder() + "/demo/whelk-point.json");
    return bench;
}

std::vector<Candidate> compare(const Bench& bench, const char* reading, const char* board) {
    return candidates(bench, catalog(), *bench.reading(reading), *bench.board(board));
}

Candidate candidate(const std::vector<Candidate>& list, const std::string& part) {
    for (const Candidate& c : list)
        if (c.part == part) return c;
    return {};
}

std::string candidate_says(const std::vector<Candidate>& list, const char* part, const char* text) {
    const std::string because = test::plain(candidate(list, part).because);
    return because.find(text) != std::string::npos ? std::string() : because;
}

} // namespace

class TestCandidates : public QObject {
    Q_OBJECT

  private slots:
    /// Every reading of the demo on every one of its boards.
    void theyNeverContradictTheRules_data() {
        QTest::addColumn<QByteArray>("reading");
        QTest::addColumn<QByteArray>("board");
        for (const Reading& r : whole_demo().readings)
            for (const BoardUse& b : whole_demo().boards)
                QTest::addRow("%s on %s", r.id.c_str(), b.id.c_str())
                    << QByteArray::fromStdString(r.id) << QByteArray::fromStdString(b.id);
    }
    void theyNeverContradictTheRules() {
        QFETCH(QByteArray, reading);
        QFETCH(QByteArray, board);
        const std::vector<Candidate> list = compare(whole_demo(), reading.constData(), board.constData());
        QVERIFY(!list.empty());
        std::set<std::string> seen;
        for (const Candidate& c : list) {
            QVERIFY2(seen.insert(c.part).second, c.part.c_str()); // each card once
            QVERIFY2(!c.because.empty(), c.part.c_str());
            QVERIFY2(c.because.find("nan") == std::string::npos, c.because.c_str());
            const auto placed =
                choose_part(whole_demo(), catalog(), reading.toStdString(), c.part, board.toStdString());
            const Reading& asked = *whole_demo().reading(reading.toStdString());
            if (c.fitness == Fitness::fits) {
                QVERIFY2(placed.has_value(), c.part.c_str());
                QVERIFY2(c.doubt <= asked.quantity.accuracy * 1.001, c.because.c_str());
                const bool wired = asked.sensor.part == c.part && asked.wiring.board == board.toStdString();
                const Bench& bench = wired ? whole_demo() : *placed;
                for (const Finding& f : check_reading(bench, catalog(), *bench.reading(reading.toStdString())))
                    QVERIFY2(f.severity != Severity::error, (c.part + ": " + f.message).c_str());
            }
            if (!placed) QVERIFY2(c.fitness != Fitness::fits, c.part.c_str());
        }
        QVERIFY(std::is_sorted(list.begin(), list.end(),
                               [](const Candidate& a, const Candidate& b) { return a.fitness < b.fitness; }));
    }

    void whatTheDemoChoseIsNotRefused() {
        for (const Reading& r : whole_demo().readings) {
            const std::vector<Candidate> list = compare(whole_demo(), r.id.c_str(), r.wiring.board.c_str());
            QVERIFY2(candidate(list, r.sensor.part).fitness != Fitness::does_not,
                     (r.id + ": " + candidate(list, r.sensor.part).because).c_str());
        }
    }

    void numbersDecide() {
        const std::vector<Candidate> pool = compare(whole_demo(), "tide-pool", "shed");
        QCOMPARE(candidate_says(pool, "light-pulse-ranger-short", "reaches 30 to 1 200 mm"), std::string());
        QCOMPARE(candidate_says(pool, "echo-ranger-open", "not sealed"), std::string());
        QCOMPARE(candidate_says(pool, "pressure-transducer-water", "withstands 3.6 V"), std::string());
        const std::vector<Candidate> flue = compare(whole_demo(), "stove-flue", "gauge");
        QCOMPARE(candidate(flue, "one-wire-thermometer").fitness, Fitness::does_not);
        QCOMPARE(candidate(flue, "thermocouple-k-spi").fitness, Fitness::fits);
        QCOMPARE(candidate_says(flue, "ntc-100k-bead", "reaches 0 to 250 °C"), std::string());
    }

    void aPlaceChangesTheAnswer() {
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset");
        bench.readings[0].quantity.accuracy = 6;
        const auto fitness = [&](const char* part) {
            return candidate(compare(bench, "r1", "gauge"), part).fitness;
        };
        QCOMPARE(fitness("analog-thermometer-with-offset"), Fitness::fits);
        bench.readings[0].quantity.around.water = true;
        QCOMPARE(fitness("analog-thermometer-with-offset"), Fitness::does_not);
        QVERIFY(fitness("ntc-10k-probe") != Fitness::does_not);
        bench.readings[0].quantity.around.food = true;
        QCOMPARE(fitness("one-wire-probe-waterproof"), Fitness::does_not);
    }
    void howWellChangesTheAnswer() {
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset");
        const auto fitness = [&](double accuracy) {
            bench.readings[0].quantity.accuracy = accuracy;
            return candidate(compare(bench, "r1", "gauge"), "analog-thermometer-with-offset").fitness;
        };
        QCOMPARE(fitness(6), Fitness::fits);
        QCOMPARE(fitness(0.8), Fitness::fits_with_change); // calibrate it
        QCOMPARE(fitness(0.01), Fitness::does_not);
    }
    void howFastChangesTheAnswer() {
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset");
        bench.readings[0].quantity.accuracy = 5;
        bench.readings[0].quantity.change_s = 1;
        const std::vector<Candidate> list = compare(bench, "r1", "gauge");
        QCOMPARE(candidate(list, "one-wire-thermometer").fitness, Fitness::does_not); // follows in 8 s
        QCOMPARE(candidate_says(list, "one-wire-thermometer", "follows in 8 s"), std::string());
        QVERIFY(candidate(list, "infrared-thermometer-i2c").fitness != Fitness::does_not); // 0.3 s
    }

    void aFullBoardOffersTheWaysOut() {
        Bench bench = test::bench_with("soil-moisture", "soil-capacitive", "board-3v3-wifi-1-analog");
        Reading second = bench.readings[0];
        second.id = "r2";
        second.sensor = {};
        second.wiring = {};
        second.path = {};
        bench.readings.push_back(second);
        const Candidate c = candidate(compare(bench, "r2", "gauge"), "soil-capacitive");
        QCOMPARE(c.fitness, Fitness::fits_with_change);
        QVERIFY2(c.because.find("four ways") != std::string::npos, c.because.c_str());
    }

    void schoolsAreSaidOnce() {
        const std::vector<std::string> level = schools(compare(whole_demo(), "tide-pool", "shed"), catalog());
        QCOMPARE(std::set<std::string>(level.begin(), level.end()).size(), level.size());
        QCOMPARE(level.size(), std::size_t(3)); // sound, light, pressure
        QCOMPARE(schools(compare(whole_demo(), "bed-1", "pump-house"), catalog()).size(), std::size_t(1));
        QVERIFY(schools({}, catalog()).empty());
    }
};

RUN_TESTS_OF(TestCandidates)
#include "tst_candidates.moc"
