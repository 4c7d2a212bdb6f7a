// The doubt: worked by hand, against a Monte Carlo model, and where one cause enters twice.
#include "core/plan/reading_doubt.h"
#include "core/uncertainty/budget.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

namespace {
Constant with_doubt(double value, double doubt, Spread spread, std::string cause = {}) {
    return {value, doubt, spread, {}, std::move(cause)};
}
} // namespace

class TestUncertainty : public QObject {
    Q_OBJECT

  private slots:
    void workedByHand() {
        Chain chain{"",
                    "count",
                    {Adc{10, with_doubt(5, 0.005, Spread::rectangular)},
                     Linear{with_doubt(0.5, 0, Spread::none), with_doubt(0.01, 0, Spread::none), "V", "degC"},
                     Correction{{1, 0, Spread::none, {}, {}}, with_doubt(-0.62, 0.18, Spread::standard), "degC"}}};
        const Budget b = budget(chain, 142);
        // One count is 5/1024/0.01 = 0.48828 °C; over √12: 0.14095. Reference: 142.5/1024 · 0.005/√3 / 0.01 =
        // 0.04017.
        CLOSE(b.find("quantisation")->u, 0.140955, 1e-6);
        CLOSE(b.find("reference_V")->u, 0.0401721, 1e-6);
        CLOSE(b.find("offset")->u, 0.18, 1e-9);
        CLOSE(b.standard_uncertainty, std::sqrt(0.140955 * 0.140955 + 0.0401721 * 0.0401721 + 0.18 * 0.18), 1e-6);
        QCOMPARE(b.contributions.front().id, std::string("offset")); // largest first
        CLOSE(b.k, 1.96, 0.001);
    }

    void aVoltageThatEntersTwiceCancels() {
        const auto chain = [](const char* cause) {
            return Chain{"",
                         "count",
                         {Adc{10, with_doubt(5, 0.1, Spread::standard, cause)},
                          Divider{with_doubt(10000, 0, Spread::none), with_doubt(5, 0.1, Spread::standard, cause),
                                  UnknownLeg::bottom}}};
        };
        QVERIFY(budget(chain("rail"), 400).find("reference_V")->u < 1e-3);
        const Budget apart = budget(chain(""), 400);
        QVERIFY(apart.find("reference_V")->u > 100 && apart.find("supply_V")->u > 100);
    }

    void agreesWithMonteCarlo() {
        // JCGM 101: draw every constant from its distribution, convert, look at the spread.
        const Adc adc{12, with_doubt(3.3, 0.01, Spread::standard)};
        const Divider divider{with_doubt(10000, 50, Spread::standard), with_doubt(3.3, 0.005, Spread::standard),
                              UnknownLeg::bottom};
        const ThermistorBeta beta{with_doubt(10000, 60, Spread::standard), with_doubt(25, 0, Spread::none),
                                  with_doubt(3950, 20, Spread::standard)};
        const Chain chain{"", "count", {adc, divider, beta}};
        constexpr double code = 2600;
        std::mt19937_64 random(20261);
        std::normal_distribution<double> normal;
        std::uniform_real_distribution<double> half(-0.5, 0.5);
        constexpr int draws = 200000;
        double sum = 0;
        double squares = 0;
        for (int i = 0; i < draws; ++i) {
            const double reference = 3.3 + 0.01 * normal(random);
            const double volts = (code + 0.5 + half(random)) * reference / 4096;
            const double supply = 3.3 + 0.005 * normal(random);
            const double ohm = (10000 + 50 * normal(random)) * volts / (supply - volts);
            const double r0 = 10000 + 60 * normal(random);
            const double theta = 1 / (1 / 298.15 + std::log(ohm / r0) / (3950 + 20 * normal(random))) - 273.15;
            sum += theta;
            squares += theta * theta;
        }
        const double sd = std::sqrt(squares / draws - (sum / draws) * (sum / draws));
        const double u = budget(chain, code).standard_uncertainty;
        QVERIFY2(std::abs(u / sd - 1) < 0.02, qPrintable(QStringLiteral("%1 against %2").arg(u).arg(sd)));
    }

    void coverageFactorsOfTheTTable() {
        // GUM table G.2, 95 %.
        CLOSE(coverage_factor(1), 12.71, 0.005);
        CLOSE(coverage_factor(4), 2.78, 0.005);
        CLOSE(coverage_factor(10), 2.23, 0.005);
        CLOSE(coverage_factor(INFINITY), 1.96, 0.001);
        QVERIFY(std::isnan(coverage_factor(0)));
    }
    void welchSatterthwaiteOfGumH1() {
        // GUM H.1.6: 25 nm (18), 9.7 nm (25.6), 2.9 nm (50), 16.6 nm (2) → 16 effective degrees of freedom.
        const Budget b =
            combine(0, {{"a", "", 25, 18}, {"b", "", 9.7, 25.6}, {"c", "", 2.9, 50}, {"d", "", 16.6, 2}});
        CLOSE(b.standard_uncertainty, 31.7, 0.1);
        CLOSE(b.dof, 16.7, 0.3);
    }

    void calibrationTakesTheSensorsTolerance() {
        Bench bench = test::small_bench();
        Reading& r = bench.readings[0];
        const PartCard* part = test::catalog().part(r.sensor.part);
        const Budget before = reading_budget(r, part, 140, 0, 0);
        QVERIFY(before.find("zero") && !before.find("calibration"));
        r.correction = AppliedCorrection{};
        r.correction->offset = -0.6;
        r.correction->var_offset = 0.01;
        r.correction->u_reference = 0.05;
        r.correction->dof = 2;
        r.correction->path_key = path_key(r);
        const Budget after = reading_budget(r, part, 140, 0, 0);
        QVERIFY(!after.find("zero"));
        CLOSE(after.find("calibration")->u, std::hypot(0.1, 0.05), 1e-12);
        QVERIFY(after.standard_uncertainty < before.standard_uncertainty / 2);
        // A year later the drift has come back.
        const Budget later = reading_budget(r, part, 140, 0, from_seconds(365.25 * 86400));
        CLOSE(later.find("drift")->u, part->measurand("temperature")->drift_per_year / std::sqrt(3.0), 1e-3);
    }

    /// What a reference was off when it was bought goes into a calibration; what it moves from day to day stays.
    void aCalibrationLeavesTheReferencesStability() {
        for (const char* board : {"board-3v3-12bit-wifi", "board-3v3-wifi-1-analog"}) {
            Bench bench = test::small_bench("analog-thermometer-with-offset", board);
            Reading& r = bench.readings[0];
            const Adc& adc = std::get<Adc>(r.path.stages[0]);
            QVERIFY(adc.reference_V.doubt / adc.reference_V.value > 0.08); // about 9 % as bought
            const double code = inverse(r.path, 15).number;
            QVERIFY(reading_budget(r, nullptr, code, 0, 0).expanded() > 5);
            r.correction = AppliedCorrection{};
            r.correction->gain = 1.03;
            r.correction->var_gain = 1e-9;
            r.correction->path_key = path_key(r);
            const Budget after = reading_budget(r, nullptr, code, 0, 0);
            CLOSE(after.find("reference_V")->u,
                  1.03 * 65 * adc.reference_V.stability / adc.reference_V.value / std::sqrt(3.0), 0.01);
            QVERIFY2(after.expanded() < 1.1, qPrintable(QString::number(after.expanded())));
        }
    }
    void anOffsetTakesTheTolerancesOutWhereItWasFound() {
        Bench bench = test::small_bench();
        Reading& r = bench.readings[0];
        r.correction = AppliedCorrection{};
        r.correction->offset = 2;
        r.correction->from = r.correction->to = 20;
        r.correction->path_key = path_key(r);
        const auto slope_u = [&](double at) {
            return reading_budget(r, nullptr, inverse(r.path, at).number, 0, 0).find("slope")->u;
        };
        CLOSE(slope_u(20), 0, 1e-3);
        CLOSE(slope_u(30), 10 * 0.01 / std::sqrt(3.0), 1e-3); // 1 % of the ten degrees since then
        CLOSE(slope_u(10), slope_u(30), 1e-3);
    }

    void adviceNamesTheLargestShare() {
        Bench bench = test::small_bench();
        Reading& r = bench.readings[0];
        const PartCard* part = test::catalog().part(r.sensor.part);
        const Placed placed = place(bench, test::catalog(), r);
        // A supply as bought says nothing better than its five per cent.
        const Advice first = what_would_help(placed, reading_budget(r, part, 140, 0, 0));
        QVERIFY2(first.first.find("Measure the reference") != std::string::npos, first.first.c_str());
        std::get<Adc>(r.path.stages[0]).reference_V = {4.998, 0.005, Spread::rectangular, "measured", {}};
        const Budget b = reading_budget(r, part, 140, 0, 0);
        const Advice advice = what_would_help(placed, b);
        QVERIFY2(advice.first.find("Calibrate") != std::string::npos, advice.first.c_str());
        QVERIFY(what_would_help(placed, Budget{}).first.empty());
    }
    /// After each step its own doubt, in its own unit; the last one is the reading's.
    void eachStepHasItsDoubt() {
        const Bench bench = test::small_bench();
        const Reading& r = bench.readings[0];
        const Chain chain = effective_path(r);
        QCOMPARE(chain.stages.size(), std::size_t(2)); // converter, then thermometer
        const double noise = 2;                        // counts
        const Budget whole = reading_budget(r, test::catalog().part(r.sensor.part), 140, noise, 0);
        const std::vector<double> doubts = doubts_at_steps(bench, test::catalog(), r, chain, 140, whole, {});
        QCOMPARE(doubts.size(), std::size_t(3));
        QCOMPARE(doubts[0], 0.0);
        QCOMPARE(doubts[2], whole.expanded());
        // Volts: what lies before the thermometer, at 10 mV for each degree; its own ± is not in it.
        const auto u = [&](const char* id) { return whole.find(id)->u; };
        const double before = 0.01 * std::hypot(u("reference_V"), u("noise"), u("quantisation"));
        CLOSE(doubts[1], 1.96 * before, 0.01 * before);
        QVERIFY(doubts[2] > 1.05 * doubts[1] / 0.01);
    }
};

RUN_TESTS_OF(TestUncertainty)
#include "tst_uncertainty.moc"
