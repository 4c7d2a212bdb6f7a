// The promise of every doubt that is stated: over many calibrations with different seeds, 95 % cover the truth 92
// to 98 times in a hundred. With made-up points, and with the simulated gauge board, whose true error is known.
#include "core/calibrate/gate.h"
#include "core/uncertainty/budget.h"
#include "demo/gauge_board.h"
#include "support/calibrations.h"
#include "support/run_tests.h"

#include <random>

using namespace cognitum;
using namespace cognitum::test;

namespace {

constexpr int runs = 200;

/// ± at 95 % that a reading states for its calibration, its few degrees of freedom taken into account.
double stated(const AppliedCorrection& c, double indication) {
    return combine(0, {{"calibration", "Calibration", correction_u(c, indication), correction_dof(c, indication)}})
        .expanded();
}

} // namespace

class TestCoverage : public QObject {
    Q_OBJECT

  private slots:
    /// Two hundred calibrations of an instrument whose error is known, with references that err as they say: the
    /// stated 95 % covers the truth 92 to 98 times in a hundred, in the middle and at the ends.
    void theStatedDoubtCoversTheTruth_data() {
        QTest::addColumn<int>("model");
        QTest::addColumn<double>("gain");
        QTest::addColumn<double>("bend");
        QTest::newRow("offset") << int(Model::offset) << 1.0 << 0.0;
        QTest::newRow("gain") << int(Model::gain) << 1.03 << 0.0;
        QTest::newRow("line") << int(Model::line) << 0.98 << 0.0;
        QTest::newRow("quadratic") << int(Model::quadratic) << 1.0 << 0.002;
    }
    void theStatedDoubtCoversTheTruth() {
        QFETCH(int, model);
        QFETCH(double, gain);
        QFETCH(double, bend);
        int inside = 0, asked = 0;
        for (int run = 0; run < runs; ++run) {
            std::mt19937_64 random(static_cast<std::uint64_t>(1000 + run));
            std::normal_distribution<double> normal;
            const double zero = model == int(Model::gain) ? 0 : 0.7;
            const auto truth = [&](double x) { return zero + gain * x + bend * x * x; };
            const double shared = 0.05 * normal(random); // the one thermometer's own error
            std::vector<CalibrationPoint> points;
            for (int i = 0; i < 9; ++i) {
                const double x = 2.0 + 4.0 * i;
                const double shown = x + 0.03 * normal(random);
                points.push_back(point(shown, truth(x) + shared, 0.05, 0.03));
            }
            VALUE_OF(record, finish_calibration(air(), draft(points), static_cast<Model>(model), 0));
            for (const double x : {4.0, 18.0, 32.0}) {
                const double error = corrected(record.correction, x) - truth(x);
                inside += std::abs(error) <= 1.96 * correction_u(record.correction, x);
                ++asked;
            }
        }
        const double share = 100.0 * inside / asked;
        QVERIFY2(share >= 92 && share <= 98, qPrintable(QString::number(share)));
    }

    /// The whole trip: the simulated board sends codes, the path converts them, the gate waits, points are taken in
    /// ice and three baths beside a thermometer that errs as it states, a line is fitted. The board's true zero,
    /// slope and supply are known, so the truth is too.
    void calibrationsOfTheSimulatedBoard_data() {
        QTest::addColumn<int>("model");
        QTest::newRow("line") << int(Model::line);
        QTest::newRow("offset, in one bath") << int(Model::offset);
    }
    void calibrationsOfTheSimulatedBoard() {
        QFETCH(int, model);
        const Reading reading = air();
        const demo::Truth truth;
        const double step = slope(reading.path, 150);
        int inside = 0, asked = 0;
        for (int run = 0; run < 5 * runs; ++run) { // the gate is a little careful: 97 of 100 in the long run
            std::mt19937_64 random(static_cast<std::uint64_t>(7000 + run));
            std::normal_distribution<double> normal;
            TimeUs now = *parse_time("2026-11-25T09:00:00Z");
            demo::GaugeBoard board({static_cast<std::uint64_t>(100 + run), 0, 0}, now);
            const double shared = 0.08 * normal(random); // the one thermometer's own error
            std::vector<CalibrationPoint> points;
            const std::vector<double> baths =
                model == int(Model::line) ? std::vector{2.0, 9.0, 14.0, 21.0, 27.0, 33.0} : std::vector{14.0};
            for (const double bath : baths) {
                board.command(fmt::format("probe bath {}", bath), now);
                SteadinessGate gate(gate_settings(5, 1, 0.8));
                GateState state;
                for (int waited = 0; waited < 40 || !state.steady; ++waited) {
                    QVERIFY(waited < 600);
                    now += second_us;
                    gate.push({now, forward(reading.path, board.code(now)).number});
                    state = gate.state(now);
                }
                points.push_back(point(state.mean, bath + shared, 0.08, indication_u(state, step)));
            }
            VALUE_OF(record, finish_calibration(reading, draft(points), static_cast<Model>(model), now));
            const std::vector<double> at =
                model == int(Model::line) ? std::vector{6.0, 18.0, 30.0} : std::vector{14.0};
            for (const double celsius : at) {
                const double volts = truth.zero_V + truth.slope_V * celsius;
                const double shown = forward(reading.path, volts / truth.supply_V * 1024 - 0.5).number;
                const double error = corrected(record.correction, shown) - celsius;
                inside += std::abs(error) <= stated(record.correction, shown);
                ++asked;
            }
        }
        const double share = 100.0 * inside / asked;
        // A code of this board is wider than its noise: the limits of a code are never left, so more is covered.
        QVERIFY2(share >= 92, qPrintable(QString::number(share)));
    }
};

RUN_TESTS_OF(TestCoverage)
#include "tst_coverage.moc"
