// The simulated board's faults against the verdicts that must find them; bands; the truth that calibration finds.
#include "core/analyse/health.h"
#include "core/analyse/statistics.h"
#include "core/calibrate/record.h"
#include "core/decode/table_decoder.h"
#include "core/watch/bands.h"
#include "demo/gauge_board.h"
#include "demo/world.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

using namespace cognitum;
using test::november;

namespace {

/// Samples as they would arrive, a line a second, with a fault from the 100th line on.
std::vector<RawSample> recorded(const char* fault, int lines = 200) {
    demo::GaugeBoard board({20261, 1000, {}}, november);
    std::vector<RawSample> out;
    for (int i = 0; i < lines; ++i) {
        const TimeUs now = november + i * second_us;
        if (i == 100) board.command(std::string("fault ") + fault, now);
        out.push_back({now, static_cast<double>(board.code(now))});
    }
    return out;
}

bool holds_verdict(const std::vector<HealthVerdict>& verdicts, const char* id) {
    return std::any_of(verdicts.begin(), verdicts.end(), [&](const HealthVerdict& v) { return v.id == id; });
}

} // namespace

class TestHealth : public QObject {
    Q_OBJECT

  private slots:
    void aHealthyBoardIsLeftInPeace() {
        for (const std::uint64_t seed : {1ULL, 2ULL, 3ULL, 20261ULL}) {
            demo::GaugeBoard board({seed, 1000, {}}, november);
            std::vector<RawSample> samples;
            for (int i = 0; i < 300; ++i) {
                samples.push_back(
                    {november + i * second_us, static_cast<double>(board.code(november + i * second_us))});
                for (const HealthVerdict& v : judge_health(samples, about_codes(10)))
                    QVERIFY2(v.id == "flicker", qPrintable(QString::fromStdString(v.id + ": " + v.evidence)));
            }
        }
    }
    void everyFaultHasItsVerdict_data() {
        QTest::addColumn<QByteArray>("fault");
        QTest::addColumn<QByteArray>("verdict");
        QTest::addColumn<bool>("bad");
        QTest::addRow("unplugged") << QByteArray("unplugged-sensor") << QByteArray("floating") << true;
        QTest::addRow("stuck") << QByteArray("stuck") << QByteArray("stuck") << true;
        QTest::addRow("clipped") << QByteArray("clipped") << QByteArray("clipped") << true;
        QTest::addRow("noisy") << QByteArray("noisy") << QByteArray("noisy") << false;
    }
    void everyFaultHasItsVerdict() {
        QFETCH(QByteArray, fault);
        QFETCH(QByteArray, verdict);
        QFETCH(bool, bad);
        const auto verdicts = judge_health(recorded(fault.constData()), about_codes(10));
        QVERIFY2(holds_verdict(verdicts, verdict.constData()),
                 verdicts.empty() ? "nothing" : verdicts[0].id.c_str());
        QCOMPARE(verdicts[0].bad(), bad);
        QVERIFY(!verdicts[0].causes.empty() && !verdicts[0].next_test.empty());
    }
    void movingTheProbeIsNoFault() {
        demo::GaugeBoard board({20261, 1000, {}}, november);
        std::vector<RawSample> samples;
        for (int i = 0; i < 120; ++i) {
            const TimeUs now = november + i * second_us;
            if (i == 60) board.command("probe ice", now);
            samples.push_back({now, static_cast<double>(board.code(now))});
            for (const HealthVerdict& v : judge_health(samples, about_codes(10)))
                QVERIFY2(!v.bad(), v.evidence.c_str());
        }
    }
    void aJumpIsNoNoise() {
        std::vector<RawSample> samples;
        for (int i = 0; i < 60; ++i)
            samples.push_back({i * second_us, (i < 40 ? 140.0 : 646.0) + i % 2}); // the reference was switched
        CLOSE(signal_figures(samples, 10).noise, 0.81, 0.05);
        for (const HealthVerdict& v : judge_health(samples, about_codes(10)))
            QVERIFY2(!v.bad(), v.evidence.c_str());
        std::vector<double> normal;
        for (int i = 0; i < 20000; ++i)
            normal.push_back(3 * demo::hash_normal(5, 6, i));
        CLOSE(difference_sd(normal), 3, 0.06);
    }
    void halfLinesReachTheDecoder() {
        demo::GaugeBoard board({20261, 1000, {}}, november);
        std::string text = board.reset(november);
        board.command("fault half-lines", november);
        for (int i = 0; i < 200; ++i)
            text += board.measure(november + i * second_us);
        TableDecoder decoder;
        RecordBatch batch;
        decoder.feed(text, batch);
        QVERIFY(decoder.rejections().total() > 20);
        QVERIFY(batch.rows() > 20 && batch.rows() < 150);
        for (std::size_t i = 0; i < batch.rows(); ++i)
            QVERIFY(batch.values[i * batch.columns + 2] < 1024 && batch.values[i * batch.columns + 3] < 1024);
    }

    void figuresByHand() {
        std::vector<RawSample> samples;
        for (int i = 0; i < 10; ++i)
            samples.push_back({i * second_us, 100.0 + (i % 2)});
        samples.push_back({15 * second_us, NAN}); // after a gap, a line without a number
        const SignalFigures f = signal_figures(samples, 10);
        QCOMPARE(f.n, 10);
        CLOSE(f.mean, 100.5, 1e-12);
        CLOSE(f.peak_to_peak, 1, 1e-12);
        CLOSE(f.interval_s, 1, 1e-9);
        QCOMPARE(f.gaps, 1);
        const LineFit line = fit_line(std::vector<double>{0, 1, 2, 3}, std::vector<double>{1, 3, 5, 7});
        CLOSE(line.slope, 2, 1e-12);
        CLOSE(line.intercept, 1, 1e-12);
        QVERIFY(signal_figures({}, 10).n == 0);
    }
    void quantisationAloneCostsNoBits() {
        std::vector<RawSample> quiet;
        for (int i = 0; i < 100; ++i)
            quiet.push_back({i * second_us, 500});
        CLOSE(signal_figures(quiet, 10).effective_bits, 10, 1e-9);
        std::vector<RawSample> noisy;
        for (int i = 0; i < 1000; ++i)
            noisy.push_back({i * second_us, 500 + 4 * demo::hash_normal(1, 2, i)});
        CLOSE(signal_figures(noisy, 10).effective_bits, 10 - std::log2(4 * std::sqrt(12.0)), 0.15);
    }

    void bandsHaveHysteresis() {
        const Bands bands{10, 20, 1};
        Zone z = Zone::unknown;
        const std::pair<double, Zone> steps[] = {{15, Zone::in_range}, {19.9, Zone::in_range}, {20.1, Zone::high},
                                                 {19.5, Zone::high},   {18.9, Zone::in_range}, {9.9, Zone::low},
                                                 {10.5, Zone::low},    {11.1, Zone::in_range}, {25, Zone::high},
                                                 {5, Zone::low}};
        for (const auto& [value, expected] : steps) {
            z = next_zone(z, value, bands);
            QCOMPARE(z, expected);
        }
        QCOMPARE(next_zone(Zone::high, NAN, bands), Zone::unknown);
    }
    void chatterAtTheEdgeIsOneAlert() {
        std::vector<TimedNumber> series;
        for (int i = 0; i < 100; ++i)
            series.push_back({i * second_us, 20 + (i % 2 ? 0.3 : -0.3)});
        QCOMPARE(zone_changes(series, {10, 20, 1}).size(), std::size_t(1));
        QVERIFY(zone_changes(series, {10, 20, 0}).size() > 90); // what it would be without
    }
    void aGapIsNoAlert() {
        const TimedNumber series[] = {{0, 15}, {1, NAN}, {2, 15}, {3, 25}};
        const auto changes = zone_changes(series, {10, 20, 1});
        QCOMPARE(changes.size(), std::size_t(1));
        QCOMPARE(changes[0].to, Zone::high);
    }
    void freshnessFollowsTheInterval() {
        const auto every = [](double interval_s, double stale_s = 0) {
            Quantity q;
            q.interval_s = interval_s;
            q.stale_s = stale_s;
            return q;
        };
        QCOMPARE(freshness({}, 0, every(1)), Freshness::none);
        QCOMPARE(freshness(0, 2 * second_us, every(1)), Freshness::fresh);
        QCOMPARE(freshness(0, 10 * second_us, every(1)), Freshness::late);
        QCOMPARE(freshness(0, 60 * second_us, every(1)), Freshness::silent);
        QCOMPARE(freshness(0, 60 * second_us, every(60)), Freshness::fresh); // a slow source is not a silent one
        // Where the plan says when a value counts as gone, that holds, sooner or later.
        QCOMPARE(freshness(0, 3 * second_us, every(1, 2)), Freshness::silent);
        QCOMPARE(freshness(0, 60 * second_us, every(1, 120)), Freshness::late);
        QCOMPARE(freshness(0, 121 * second_us, every(1, 120)), Freshness::silent);
    }

    void theWorldIsTheSameEveryTime() {
        for (TimeUs t = november; t < november + day_us; t += hour_us)
            QCOMPARE(demo::air_temperature(7, t), demo::air_temperature(7, t));
        QVERIFY(demo::air_temperature(7, november) != demo::air_temperature(8, november));
        double low = 100;
        double high = -100;
        for (TimeUs t = november; t < november + day_us; t += minute_us) {
            low = std::min(low, demo::air_temperature(7, t));
            high = std::max(high, demo::air_temperature(7, t));
            QVERIFY(std::abs(demo::air_temperature(7, t) - demo::air_temperature(7, t + second_us)) < 0.05);
        }
        QVERIFY(high - low > 5 && high - low < 16); // a day cycle
    }
    void commandsAreAnsweredOrRefused() {
        demo::GaugeBoard board({1, 1000, {}}, november);
        QVERIFY(board.command("interval 250", november).find("ok interval_ms=250") != std::string::npos);
        QCOMPARE(board.interval_ms(), 250);
        QVERIFY(board.command("interval -3", november).find("error") != std::string::npos);
        QVERIFY(board.command("self destruct", november).find("error") != std::string::npos);
        QVERIFY(board.command("reset", november).find("seq,ms,A1,A2") != std::string::npos);
        const int before = board.code(november);
        board.command("reference internal", november);
        QVERIFY(board.code(november) > 3 * before);
    }
    void calibrationFindsTheBoardsOwnError() {
        const Reading reading = test::small_bench().readings[0];
        demo::GaugeBoard board({20261, 1000, {}}, november);
        std::vector<CalibrationPoint> points;
        TimeUs now = november;
        for (const double truth : {0.0, 12.0, 21.0, 33.0}) {
            board.command("probe bath " + std::to_string(truth), now);
            now += 2 * minute_us;
            double sum = 0;
            board.code(now);
            for (int i = 0; i < 60; ++i)
                sum += board.code(now += second_us);
            CalibrationPoint p;
            p.reference = truth;
            p.u_reference = 0.05;
            p.indication = forward(reading.path, sum / 60).number;
            p.u_indication = 0.03;
            points.push_back(p);
        }
        VALUE_OF(record, finish_calibration(reading, {{}, 0, points, {}, {}, {}}, Model::line, now));
        // What the maker believes of a voltage, against what the simulated sensor makes of it.
        const demo::Truth t;
        const double gain = 0.01 / t.slope_V * t.supply_V / 5.0;
        CLOSE(record.correction.gain, gain, 0.006);
        const double at_20 = record.correction.gain * 20 + record.correction.offset;
        const double volts = (0.5 + 0.01 * 20) * t.supply_V / 5.0;
        CLOSE(at_20, (volts - t.zero_V) / t.slope_V, 0.12);
        QCOMPARE(record.verdict_left, std::string("pass"));
    }
};

RUN_TESTS_OF(TestHealth)
#include "tst_health.moc"
