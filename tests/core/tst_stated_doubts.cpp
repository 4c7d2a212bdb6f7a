// What the doubts that somebody stated decide: which model is chosen, what a verdict may say, and what is left of a
// doubt where a value is zero.
#include "core/calibrate/fit.h"
#include "core/calibrate/gate.h"
#include "core/plan/reading_doubt.h"
#include "support/calibrations.h"
#include "support/defects.h"
#include "support/run_tests.h"

#include <cmath>
#include <limits>
#include <random>

using namespace cognitum;
using test::draft;
using test::point;

namespace {

constexpr Model usual[] = {Model::offset, Model::line, Model::quadratic, Model::cubic};

/// Reference = shape(indication) with noise of the stated size.
template <typename Shape>
std::vector<FitPoint> taken(const std::vector<double>& at, double doubt, double noise, unsigned seed, Shape shape) {
    std::mt19937_64 random(seed);
    std::normal_distribution<double> scatter(0, 1);
    std::vector<FitPoint> out;
    for (const double x : at)
        out.push_back({x, shape(x) + noise * scatter(random), doubt, doubt, 0});
    return out;
}

Model chosen(const std::vector<FitPoint>& points) {
    const auto choice = choose_model(points, usual);
    return choice ? choice->candidates[choice->chosen].model : Model::curve;
}

} // namespace

class TestStatedDoubts : public QObject {
    Q_OBJECT

  private slots:
    void aShiftMendsOnlyWhatAShiftExplains() {
        // Three points that a shift leaves at ± 2 °C, known to 0.1 °C: no shift explains that.
        const auto tilted = taken({0, 50, 100}, 0.1, 0, 1, [](double x) { return 1.04 * x - 2; });
        QCOMPARE(chosen(tilted), Model::line);
        const auto choice = choose_model(tilted, usual, "degC");
        QVERIFY2(choice->reason.find("more than the stated doubts allow") != std::string::npos,
                 choice->reason.c_str());
        QVERIFY2(choice->reason.find("Take the ends twice") != std::string::npos, choice->reason.c_str());
        // Two points leave a line nothing to be judged by; without stated doubts nothing rules the shift out.
        QCOMPARE(chosen(taken({0, 100}, 0.1, 0, 1, [](double x) { return 1.04 * x - 2; })), Model::offset);
        QCOMPARE(chosen(taken({0, 50, 100}, 0, 0, 1, [](double x) { return 1.04 * x - 2; })), Model::offset);
        // The same points known to 3 °C: nothing speaks against a shift.
        const auto vague = taken({0, 50, 100}, 3, 0, 1, [](double x) { return 1.04 * x - 2; });
        QCOMPARE(chosen(vague), Model::offset);
    }
    void aCurveMustWinByMoreThanTheReferencesAreKnownTo() {
        // A bow of 0.05 °C between references of 0.3 °C is nothing that was measured.
        const auto bow = [](double x) { return x + 0.05 * (x - 20) * (x - 20) / 400; };
        QVERIFY(chosen(taken({0, 5, 10, 15, 20, 25, 30, 35, 40}, 0.3, 0, 2, bow)) == Model::offset);
        // With references of 0.002 °C it is.
        QCOMPARE(chosen(taken({0, 5, 10, 15, 20, 25, 30, 35, 40}, 0.002, 0, 2, bow)), Model::quadratic);
    }
    void aTrueShiftStaysAShift() {
        // At 95 % about one in twenty asks for more than a shift; many more would be a wrong limit.
        int more = 0;
        for (unsigned seed = 1; seed <= 200; ++seed)
            more += chosen(taken({0, 10, 20, 30, 40}, 0.1, 0.14, seed, [](double x) { return x - 0.6; })) !=
                    Model::offset;
        QVERIFY2(more <= 24, qPrintable(QString::number(more)));
    }
    void aTrueLineIsFound() {
        int line = 0;
        for (unsigned seed = 1; seed <= 200; ++seed)
            line += chosen(taken({0, 10, 20, 30, 40}, 0.1, 0.14, seed, [](double x) { return 1.05 * x - 0.6; })) ==
                    Model::line;
        QVERIFY2(line >= 170, qPrintable(QString::number(line)));
    }

    void onePointChecksNothing() {
        VALUE_OF(one, finish_calibration(test::air(), draft({point(20.4, 20.0)}), Model::offset, 5 * second_us));
        QCOMPARE(one.verdict_left, std::string("nothing-checks"));
        QCOMPARE(verdict_text(find_verdict(one.verdict_left)), std::string("nothing checks this"));
        // As found it was compared, and that stands.
        QVERIFY(one.verdict_found != "nothing-checks");
        VALUE_OF(two, finish_calibration(test::air(), draft({point(0.4, 0.0), point(20.4, 20.0)}), Model::line,
                                         5 * second_us));
        QCOMPARE(two.verdict_left, std::string("nothing-checks"));
        VALUE_OF(spare, finish_calibration(test::air(), draft({point(0.4, 0.0), point(20.4, 20.0)}), Model::offset,
                                           5 * second_us));
        QCOMPARE(spare.verdict_left, std::string("pass"));
    }
    void aPointKeptAsideChecks() {
        CalibrationPoint check = point(30.4, 30.0);
        check.check = true;
        VALUE_OF(one,
                 finish_calibration(test::air(), draft({point(20.4, 20.0), check}), Model::offset, 5 * second_us));
        QCOMPARE(one.verdict_check, std::string("pass"));
    }
    void aVerdictStaysInItsLimit() {
        std::mt19937_64 random(7);
        std::uniform_real_distribution<double> any(-2, 2), size(0, 1);
        for (int i = 0; i < 2000; ++i) {
            const double error = any(random), doubt = size(random), limit = 0.01 + size(random);
            const Verdict v = judge(error, doubt, limit);
            QCOMPARE(judge(-error, doubt, limit), v);
            QCOMPARE(v == Verdict::pass, std::abs(error) + doubt <= limit);
            QCOMPARE(v == Verdict::fail || v == Verdict::fail_within_doubt, std::abs(error) > limit);
        }
        for (const Verdict v : {Verdict::pass, Verdict::pass_within_doubt, Verdict::fail_within_doubt,
                                Verdict::fail, Verdict::nothing_checks})
            QCOMPARE(find_verdict(verdict_id(v)), v);
        QCOMPARE(find_verdict("excellent"), Verdict::fail);
    }

    void coverageFromDegreesOfFreedom_data() {
        QTest::addColumn<double>("dof");
        QTest::addColumn<double>("k");
        // Two-sided 95 % points of Student's t: GUM table G.2 gives them for 95 %.
        QTest::addRow("1") << 1.0 << 12.71;
        QTest::addRow("2") << 2.0 << 4.30;
        QTest::addRow("4") << 4.0 << 2.78;
        QTest::addRow("10") << 10.0 << 2.23;
        QTest::addRow("50") << 50.0 << 2.01;
        QTest::addRow("many") << std::numeric_limits<double>::infinity() << 1.96;
    }
    void coverageFromDegreesOfFreedom() {
        QFETCH(double, dof);
        QFETCH(double, k);
        CLOSE(coverage_factor(dof), k, 0.006);
    }
    void fewPointsAreLessSureThanMany() {
        const auto doubt = [](int n) {
            std::mt19937_64 random(11);
            std::normal_distribution<double> noise(0, 0.1);
            std::vector<FitPoint> points;
            for (int i = 0; i < n; ++i) {
                const double x = 40.0 * i / (n - 1);
                points.push_back({x, x - 0.5 + noise(random), 0, 0, 0});
            }
            const auto fit = fit_model(points, Model::line);
            return fit ? fit->prediction_band(20) : -1;
        };
        QVERIFY2(doubt(3) > 2 * doubt(30), qPrintable(QStringLiteral("%1 %2").arg(doubt(3)).arg(doubt(30))));
        CLOSE(doubt(400), 1.96 * 0.1, 0.02);
    }

    void anEmptyVesselIsInDoubt() {
        Bench bench = test::bench_with("volume", "echo-ranger-sealed", "board-5v-8bit-6-analog", [](Reading& r) {
            r.quantity.high = 500;
            r.quantity.vessel = {"upright-cylinder", 800, 0, 1200, 1500, 1000};
        });
        const Reading& r = bench.readings[0];
        const auto doubt_at = [&](double litres) {
            const double raw = inverse(r.path, litres).number;
            return reading_budget(r, nullptr, raw, 0, 0, 0).standard_uncertainty;
        };
        const double half = doubt_at(250);
        QVERIFY(half > 0);
        for (const double litres : {0.0, 0.5, 2.0}) {
            QVERIFY2(std::isfinite(doubt_at(litres)), "no number");
            QVERIFY2(doubt_at(litres) > half / 10, qPrintable(QString::number(doubt_at(litres))));
        }
    }
    void whatCalibrationTakesOutAndWhatStays() {
        // A supply of 5 V ± 0.25 V that stays within 10 mV: calibrated, only those are left.
        Constant supply{5.0, 0.25, Spread::rectangular, "data sheet", {}};
        CLOSE(supply.lasting_uncertainty(), 0.05 / std::sqrt(3), 1e-12); // nothing stated: one per cent
        supply.stability = 0.01;
        CLOSE(supply.lasting_uncertainty(), 0.01 / std::sqrt(3), 1e-12);
        supply.doubt = 0.004; // measured better than it stays? Then the measurement is the limit.
        CLOSE(supply.lasting_uncertainty(), 0.004 / std::sqrt(3), 1e-12);
        CLOSE(Constant().lasting_uncertainty(), 0, 0);
    }
    void aCalibratedThermometerOnAWirelessBoardIsGood() {
        // As bought the inner reference is wrong by percents; calibrated at this board only its stability counts.
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset", "board-3v3-12bit-wifi",
                                       [](Reading& r) {
                                           r.quantity.low = 0;
                                           r.quantity.high = 40;
                                       });
        Reading& r = bench.readings[0];
        const double raw = inverse(r.path, 20).number;
        const double bought = reading_budget(r, nullptr, raw, 0, 0).expanded();
        QVERIFY2(bought > 3, qPrintable(QString::number(bought)));
        r.correction = AppliedCorrection{};
        r.correction->from = 0;
        r.correction->to = 40;
        r.correction->path_key = path_key(r);
        const double calibrated = reading_budget(r, nullptr, raw, 0, 0).expanded();
        QVERIFY2(calibrated < 1.5 && calibrated > 0, qPrintable(QString::number(calibrated)));
    }

    void belowHalfACodeTheCodeIsTheDoubt() {
        // Readings that do not move say nothing of less than a code: 0.25 °C steps leave 0.25/√12.
        SteadinessGate still({20, 0.002, 0.5, 8}), noisy({20, 0.02, 0.8, 8});
        std::mt19937_64 random(5);
        std::normal_distribution<double> noise(0, 0.25);
        for (int i = 0; i < 60; ++i) {
            still.push({i * second_us, 20.25});
            noisy.push({i * second_us, std::round((20.1 + noise(random)) / 0.25) * 0.25});
        }
        const double code = 0.25 / std::sqrt(12.0);
        CLOSE(indication_u(still.state(59 * second_us), 0.25), code, 1e-9);
        const double mean = indication_u(noisy.state(59 * second_us), 0.25); // noise carries it between the codes
        QVERIFY2(mean < code && mean >= code / 10, qPrintable(QString::number(mean)));
    }
};

RUN_TESTS_OF(TestStatedDoubts)
#include "tst_stated_doubts.moc"
