// Rate planning: what is offered, accepted and lost, by hand; and what decimation keeps.
#include "core/analyse/statistics.h"
#include "core/plan/rates.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

namespace {

const RateSink* sink(const RatePlan& plan, const char* id) {
    for (const RateSink& s : plan.sinks)
        if (s.id == id) return &s;
    return nullptr;
}

Bench bench_with_interval(double interval_s, int baud = 115200) {
    Bench bench = test::small_bench();
    bench.readings[0].quantity.interval_s = interval_s;
    bench.boards[0].link = {LinkKind::serial, "/dev/ttyUSB0", baud, 0};
    return bench;
}

} // namespace

class TestRates : public QObject {
    Q_OBJECT

  private slots:
    void aLineCarriesATenthOfItsBits() {
        const Bench bench = bench_with_interval(0.01, 9600); // one reading: 8 bytes and the line's end
        const RatePlan plan = rate_plan(bench, bench.boards[0]);
        QCOMPARE(plan.sources.size(), std::size_t(1));
        CLOSE(plan.sources[0].values_per_s, 100, 1e-9);
        const RateSink* line = sink(plan, "line");
        QVERIFY(line);
        CLOSE(line->offered_per_s, 1000, 1e-9);
        CLOSE(line->accepted_per_s, 960, 1e-9);
        CLOSE(line->lost(), 0.04, 1e-9);
        QVERIFY2(line->remedy.find("minimum and maximum of 2") != std::string::npos, line->remedy.c_str());
        const RatePlan slow = rate_plan(bench_with_interval(0.011, 9600), bench.boards[0]);
        QCOMPARE(sink(slow, "line")->lost(), 0.0);
        QVERIFY(sink(slow, "line")->remedy.empty());
    }

    /// Through another board at 2 400 Bd: 240 bytes a second of the 1000 that are sent.
    void aWireToAnotherBoardCarriesLess() {
        Bench bench = bench_with_interval(0.01);
        bench.boards[0].uplink.to = "other";
        bench.boards[0].uplink.baud = 2400;
        const RatePlan plan = rate_plan(bench, bench.boards[0]);
        QVERIFY(sink(plan, "line")->remedy.empty());
        const RateSink* wire = sink(plan, "uplink");
        QVERIFY(wire);
        CLOSE(wire->offered_per_s, 1000, 1e-9);
        CLOSE(wire->accepted_per_s, 240, 1e-9);
        CLOSE(wire->lost(), 0.76, 1e-9);
        QVERIFY2(wire->remedy.find("minimum and maximum of 5") != std::string::npos, wire->remedy.c_str());
        bench.boards[0].uplink.baud = 9600;
        const RatePlan nearly = rate_plan(bench, bench.boards[0]);
        QVERIFY(sink(nearly, "uplink")->remedy.find("minimum and maximum of 2") != std::string::npos);
        bench.boards[0].uplink.baud = 10000;
        const RatePlan enough = rate_plan(bench, bench.boards[0]);
        QVERIFY(sink(enough, "uplink")->remedy.empty());
    }

    /// A value a second into a service that takes one update each 15 s: fifteen become one.
    void aServiceTakesItsQuota() {
        Bench bench = bench_with_interval(1);
        bench.boards[0].upload_s = 5;
        bench.boards[0].quota_s = 15;
        const RatePlan plan = rate_plan(bench, bench.boards[0]);
        CLOSE(sink(plan, "service")->lost(), 2.0 / 3, 1e-9);
        QVERIFY(!sink(plan, "service")->remedy.empty());
        QCOMPARE(plan.decimations.size(), std::size_t(1));
        QCOMPARE(plan.decimations[0].every, std::size_t(15));
        CLOSE(plan.decimations[0].update_s, 15, 1e-9);
        bench.boards[0].upload_s = 20;
        const RatePlan slower = rate_plan(bench, bench.boards[0]);
        QCOMPARE(sink(slower, "service")->lost(), 0.0);
        QCOMPARE(slower.decimations[0].every, std::size_t(20));
    }
    /// Ten values a second in all, whatever the updates.
    void aServiceTakesTenValuesASecond() {
        Bench bench = bench_with_interval(0.1);
        for (int i = 0; i < 4; ++i) {
            Reading r = bench.readings[0];
            r.id = "r" + std::to_string(i);
            bench.readings.push_back(r);
        }
        bench.boards[0].upload_s = 0.25;
        const RatePlan plan = rate_plan(bench, bench.boards[0]);
        CLOSE(sink(plan, "service-values")->offered_per_s, 20, 1e-9);
        CLOSE(sink(plan, "service-values")->lost(), 0.5, 1e-9);
    }
    void whatTheBoardSamplesFasterIsDecimatedOnIt() {
        Bench bench = bench_with_interval(5);
        bench.readings[0].quantity.sample_s = 0.02;
        const RatePlan plan = rate_plan(bench, bench.boards[0]);
        CLOSE(plan.sources[0].samples_per_s, 50, 1e-9);
        QCOMPARE(plan.decimations[0].every, std::size_t(250));
        QCOMPARE(plan.decimations[0].where, "on the board");
    }
    void postsHaveTheirOwnLimit() {
        Bench bench = bench_with_interval(0.002);
        bench.boards[0].link.kind = LinkKind::http;
        const RatePlan plan = rate_plan(bench, bench.boards[0]);
        CLOSE(sink(plan, "posts")->share(), 2.5, 1e-9);
        QVERIFY(!sink(plan, "line"));
        QVERIFY(rate_plan({}, bench.boards[0]).sinks.empty());
    }

    /// Mean, minimum and maximum of every run: nothing above or below is lost, whatever the values; by hand.
    void decimationKeepsTheExtremes() {
        std::mt19937_64 random(42);
        std::normal_distribution<double> normal(0, 1);
        for (int round = 0; round < 50; ++round) {
            std::vector<double> values(1 + random() % 200);
            for (double& x : values)
                x = random() % 20 == 0 ? std::nan("") : normal(random);
            const std::size_t every = 1 + random() % 30;
            const auto runs = decimate(values, every);
            const DecimationLoss loss = loss_of_newest_only(values, every);
            double above = 0, below = 0, off = 0;
            for (std::size_t k = 0; k < runs.size(); ++k) {
                double newest = std::nan("");
                for (std::size_t i = k * every; i < std::min(values.size(), (k + 1) * every); ++i) {
                    if (!std::isfinite(values[i])) continue;
                    QVERIFY(runs[k].low <= values[i] && values[i] <= runs[k].high);
                    newest = values[i];
                }
                if (runs[k].n == 0) continue;
                above = std::max(above, runs[k].high - newest);
                below = std::max(below, newest - runs[k].low);
                off = std::max(off, std::abs(runs[k].mean - newest));
            }
            CLOSE(loss.missed_above, above, 1e-12);
            CLOSE(loss.missed_below, below, 1e-12);
            CLOSE(loss.mean_off, off, 1e-12);
        }
        const DecimationLoss none = loss_of_newest_only(std::vector<double>{1, 5, 2}, 1);
        QCOMPARE(none.missed_above + none.missed_below + none.mean_off, 0.0);
        const DecimationLoss peak = loss_of_newest_only(std::vector<double>{1, 9, 2, 2, 2, 0}, 3);
        QCOMPARE(peak.missed_above, 7.0);
        QCOMPARE(peak.missed_below, 1.0);
        QCOMPARE(peak.runs, std::size_t(2));
    }
};

RUN_TESTS_OF(TestRates)
#include "tst_rates.moc"
