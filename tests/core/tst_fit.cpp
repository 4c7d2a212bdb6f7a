// Fits against certified data sets and hard polynomials; model choice; the gate; the calibration record.
#include "core/calibrate/fit.h"
#include "core/calibrate/gate.h"
#include "core/calibrate/record.h"
#include "core/plan/reading_doubt.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

namespace {

// NIST Statistical Reference Datasets, linear least squares, "Norris" (36 observations of y, x).
constexpr double norris[][2] = {
    {0.1, 0.2},     {338.8, 337.4}, {118.1, 118.2}, {888.0, 884.6}, {9.2, 10.1},    {228.1, 226.5},
    {668.5, 666.3}, {998.5, 996.3}, {449.1, 448.6}, {778.9, 777.0}, {559.2, 558.2}, {0.3, 0.4},
    {0.1, 0.6},     {778.1, 775.5}, {668.8, 666.9}, {339.3, 338.0}, {448.9, 447.5}, {10.8, 11.6},
    {557.7, 556.0}, {228.3, 228.1}, {998.0, 995.8}, {888.8, 887.6}, {119.6, 120.2}, {0.3, 0.3},
    {0.6, 0.3},     {557.6, 556.8}, {339.3, 339.1}, {888.0, 887.2}, {998.5, 999.0}, {778.9, 779.0},
    {10.2, 11.1},   {117.6, 118.3}, {228.9, 229.2}, {668.4, 669.1}, {449.2, 448.9}, {0.2, 0.5}};

std::vector<FitPoint> points_of(const std::vector<std::pair<double, double>>& xy, double u = 0) {
    std::vector<FitPoint> out;
    for (const auto& [x, y] : xy)
        out.push_back({x, y, 0, u});
    return out;
}

CalibrationDraft calibration(const std::vector<std::pair<double, double>>& xy, double u_reference = 0.1) {
    CalibrationDraft out;
    for (const auto& [x, y] : xy) {
        CalibrationPoint p;
        p.reference_kind = "reference-instrument";
        p.indication = x;
        p.reference = y;
        p.u_indication = 0.03;
        p.u_reference = u_reference;
        out.points.push_back(p);
    }
    return out;
}

} // namespace

class TestFit : public QObject {
    Q_OBJECT

  private slots:
    void clusteredPointsAreSaid() {
        const auto clustered = [](std::vector<std::pair<double, double>> xy) {
            const auto points = points_of(xy, 0.1);
            const auto fit = fit_model(points, Model::line);
            const auto said = fit ? fit_warnings(*fit, points) : std::vector<std::string>{"no fit"};
            return std::any_of(said.begin(), said.end(),
                               [](const std::string& w) { return w.find("clustered") != std::string::npos; });
        };
        QVERIFY(clustered({{20, 20}, {20.1, 20.2}, {20.2, 20.1}, {20.3, 20.3}, {40, 40}}));
        QVERIFY(!clustered({{20, 20}, {20.1, 20.2}, {20.2, 20.1}, {35, 35}, {40, 40}})); // three of five
        QVERIFY(!clustered({{20, 20}, {25, 25.2}, {30, 30.1}, {35, 35.3}, {40, 40}}));
        QVERIFY(!clustered({{-20, -20}, {-10, -10.1}, {0, 0.1}, {10, 10.1}}));
    }
    void norrisCertifiedValues() {
        std::vector<FitPoint> points;
        for (const auto& [y, x] : norris)
            points.push_back({x, y, 0, 0});
        VALUE_OF(fit, fit_model(points, Model::line));
        CLOSE(fit.parameters[0].value, -0.262323073774029, 1e-11);
        CLOSE(fit.parameters[1].value, 1.00211681802045, 1e-13);
        CLOSE(fit.parameters[0].standard_error, 0.232818234301152, 1e-11);
        CLOSE(fit.parameters[1].standard_error, 0.429796848199937e-3, 1e-14);
        CLOSE(fit.residual_sd, 0.884796396144373, 1e-11);
        CLOSE(fit.r_squared, 0.999993745883712, 1e-12);
        QCOMPARE(fit.dof, 34);
    }

    void wamplerQuinticsAreExact() {
        // NIST "Wampler1" and "Wampler2": fifth-degree polynomials over x = 0…20; certified residuals are zero.
        std::vector<FitPoint> one;
        std::vector<FitPoint> two;
        for (int x = 0; x <= 20; ++x) {
            double y1 = 0;
            double y2 = 0;
            for (int k = 5; k >= 0; --k) {
                y1 = y1 * x + 1;
                y2 = y2 * x + std::pow(0.1, k);
            }
            one.push_back({double(x), y1, 0, 0});
            two.push_back({double(x), y2, 0, 0});
        }
        VALUE_OF(first, fit_model(one, Model::quintic));
        VALUE_OF(second, fit_model(two, Model::quintic));
        for (int k = 0; k <= 5; ++k) {
            CLOSE(first.parameters[std::size_t(k)].value, 1, 1e-6);
            CLOSE(second.parameters[std::size_t(k)].value / std::pow(0.1, k), 1, 1e-7);
        }
    }

    void farFromZeroKeepsItsDigits() {
        // The same parabola 10⁴ away from the origin: a fit in plain powers would lose it.
        std::vector<FitPoint> points;
        for (int i = 0; i < 9; ++i) {
            const double x = 10000 + i;
            points.push_back({x, 3 + 0.5 * (x - 10004) + 0.02 * (x - 10004) * (x - 10004), 0, 0});
        }
        VALUE_OF(fit, fit_model(points, Model::quadratic));
        CLOSE(fit.max_abs_error, 0, 1e-9);
        CLOSE(fit.at(10002.5), 3 + 0.5 * -1.5 + 0.02 * 2.25, 1e-6);
    }

    void offsetAndGainByHand() {
        VALUE_OF(offset, fit_model(points_of({{1, 0.4}, {11, 10.5}, {21, 20.3}}), Model::offset));
        CLOSE(offset.parameters[0].value, (-0.6 - 0.5 - 0.7) / 3, 1e-12);
        CLOSE(offset.residual_sd, 0.1, 1e-9);
        CLOSE(offset.at(5), 5 - 0.6, 1e-12);
        VALUE_OF(gain, fit_model(points_of({{1, 2}, {2, 4}, {3, 6.3}}), Model::gain));
        CLOSE(gain.parameters[0].value, (2 + 8 + 18.9) / 14, 1e-12);
        QCOMPARE(gain.parameters[0].name, std::string("b1"));
    }

    void statedDoubtsWeighAndCarryTheStandardError() {
        // Two points of 0.1 and one of 10: the third hardly counts.
        std::vector<FitPoint> points = {{0, 1, 0, 0.1}, {10, 11, 0, 0.1}, {5, 99, 0, 10}};
        VALUE_OF(fit, fit_model(points, Model::offset));
        CLOSE(fit.parameters[0].value, 1, 0.01);
        CLOSE(fit.parameters[0].standard_error, 0.1 / std::sqrt(2.0), 1e-4);
    }

    void leaveOneOutIsWhatItSays() {
        const auto points = points_of({{0, 0.1}, {1, 1.0}, {2, 2.2}, {3, 2.9}, {4, 4.1}});
        VALUE_OF(fit, fit_model(points, Model::line));
        double squares = 0;
        for (std::size_t i = 0; i < points.size(); ++i) {
            auto rest = points;
            rest.erase(rest.begin() + std::ptrdiff_t(i));
            VALUE_OF(without, fit_model(rest, Model::line));
            squares += std::pow(points[i].reference - without.at(points[i].indication), 2);
        }
        CLOSE(fit.cross_validated_error, std::sqrt(squares / 5), 1e-12);
    }

    void whatCannotBeFittedIsSaid() {
        QVERIFY(!fit_model({}, Model::offset));
        QVERIFY(!fit_model(points_of({{1, 2}}), Model::line));
        const auto equal = fit_model(points_of({{1, 2}, {1, 3}, {1, 4}}), Model::line);
        QVERIFY(!equal && equal.error().what.find("2 different indications") != std::string::npos);
        QVERIFY(!fit_model(points_of({{1, NAN}, {2, 3}}), Model::offset));
        QVERIFY(fit_model(points_of({{1, 2}}), Model::offset)); // one point carries an offset, with a warning
    }
    void anUnknownSpreadIsNotZero() {
        VALUE_OF(fit, fit_model(points_of({{1, 2}, {2, 4}}), Model::line));
        QVERIFY(std::isnan(fit.residual_sd));
        QVERIFY(std::isnan(fit.parameters[0].standard_error));
        QVERIFY(!fit.warnings.empty());
    }

    void theSimplestThatIsGoodEnough() {
        std::mt19937_64 random(7);
        std::normal_distribution<double> noise(0, 0.05);
        std::vector<FitPoint> shift;
        std::vector<FitPoint> tilt;
        std::vector<FitPoint> bend;
        for (int i = 0; i <= 10; ++i) {
            const double x = 4.0 * i;
            shift.push_back({x, x - 0.6 + noise(random), 0, 0});
            tilt.push_back({x, 0.97 * x + 0.3 + noise(random), 0, 0});
            bend.push_back({x, x + 0.01 * (x - 20) * (x - 20) + noise(random), 0, 0});
        }
        constexpr Model all[] = {Model::offset, Model::line, Model::quadratic, Model::cubic};
        const auto chosen = [&](const std::vector<FitPoint>& points) {
            const auto choice = choose_model(points, all);
            return choice->candidates[choice->chosen].model;
        };
        QCOMPARE(chosen(shift), Model::offset);
        QCOMPARE(chosen(tilt), Model::line);
        QCOMPARE(chosen(bend), Model::quadratic);
        VALUE_OF(few, choose_model(points_of({{0, 1}, {10, 12}}), all));
        QCOMPARE(few.candidates[few.chosen].model, Model::offset);
    }

    // The gate.

    void steadyNoiseOpensTheGate() {
        std::mt19937_64 random(3);
        std::normal_distribution<double> noise(0, 0.1);
        SteadinessGate gate({20, 0.002, 0.5, 8});
        int open = 0;
        for (int t = 0; t < 120; ++t) {
            gate.push({t * second_us, 20 + noise(random)});
            const GateState state = gate.state(t * second_us);
            if (t < 18) QVERIFY2(!state.steady, qPrintable(QString::number(t)));
            open += state.steady;
        }
        QVERIFY2(open > 90, qPrintable(QString::number(open)));
        QVERIFY(gate.state(119 * second_us).u_mean < 0.05);
    }
    void aMovingProbeKeepsItShut() {
        SteadinessGate gate({20, 0.002, 5, 8});
        for (int t = 0; t < 60; ++t) {
            gate.push({t * second_us, 20 - 0.05 * t + (t % 2) * 0.01});
            const GateState state = gate.state(t * second_us);
            QVERIFY(!state.steady);
            if (t > 30) {
                CLOSE(state.slope_per_min, -3, 0.05);
                QVERIFY2(state.waiting_for.find("moving") != std::string::npos, state.waiting_for.c_str());
            }
        }
    }
    void scatterKeepsItShut() {
        SteadinessGate gate({20, 0.002, 0.5, 8});
        for (int t = 0; t < 60; ++t)
            gate.push({t * second_us, t % 2 ? 18.0 : 22.0});
        const GateState state = gate.state(59 * second_us);
        QVERIFY(!state.steady && state.waiting_for.find("scatter") != std::string::npos);
    }
    void oneCodeForTheWholeWindowIsSteady() {
        SteadinessGate gate({10, 0.01, 0.5, 5});
        for (int t = 0; t < 30; ++t)
            gate.push({t * second_us, 17.6});
        QVERIFY(gate.state(29 * second_us).steady);
        QVERIFY(gate.state(29 * second_us + 8 * second_us).n < 5); // silence shuts it again
        QVERIFY(!gate.state(29 * second_us + 8 * second_us).steady);
    }
    void steadyForGrowsAndStartsAnew() {
        SteadinessGate gate({10, 0.01, 0.5, 5});
        for (int t = 0; t < 30; ++t) {
            gate.push({t * second_us, 17.6});
            QVERIFY(gate.state(t * second_us).n > 0);
        }
        CLOSE(gate.state(29 * second_us).steady_for_s, 20, 1.5);
        gate.push({30 * second_us, 25});
        QVERIFY(!gate.state(30 * second_us).steady);
        QCOMPARE(gate.state(30 * second_us).steady_for_s, 0.0);
    }

    // Verdict and record.

    void verdictsOfIlacG8() {
        QCOMPARE(judge(0.3, 0.2, 0.8), Verdict::pass);
        QCOMPARE(judge(-0.7, 0.2, 0.8), Verdict::pass_within_doubt);
        QCOMPARE(judge(0.9, 0.2, 0.8), Verdict::fail_within_doubt);
        QCOMPARE(judge(-1.1, 0.2, 0.8), Verdict::fail);
        QCOMPARE(judge(0.6, 0.2, 0.8), Verdict::pass); // exactly at the guard band
    }
    void asFoundAndAsLeft() {
        const Reading reading = test::small_bench().readings[0];
        const auto draft = calibration({{0.7, 0.0}, {12.8, 12.1}, {22.0, 21.4}});
        VALUE_OF(record, finish_calibration(reading, draft, Model::offset, 5 * second_us));
        CLOSE(record.correction.offset, -2.0 / 3, 0.01);
        CLOSE(std::abs(record.worst_found), 0.7, 1e-9);
        CLOSE(std::abs(record.worst_left), 0.07, 0.02);
        QCOMPARE(record.verdict_found, std::string("pass-within-doubt"));
        QCOMPARE(record.verdict_left, std::string("pass"));
        CLOSE(record.correction.from, 0.7, 1e-12);
        CLOSE(record.correction.to, 22.0, 1e-12);
        // A second calibration judges as found what was shown: the corrected value.
        Reading corrected = reading;
        corrected.correction = record.correction;
        VALUE_OF(again, finish_calibration(corrected, draft, Model::offset, 6 * second_us));
        CLOSE(std::abs(again.worst_found), std::abs(record.worst_left), 1e-9);
    }
    void aPointSetAsideIsKeptAndDoesNotCount() {
        const Reading reading = test::small_bench().readings[0];
        auto draft = calibration({{0.7, 0.0}, {12.8, 12.1}, {22.0, 29.0}});
        draft.points[2].set_aside = "misread";
        VALUE_OF(record, finish_calibration(reading, draft, Model::offset, 0));
        QCOMPARE(record.points.size(), std::size_t(3));
        CLOSE(record.correction.offset, -0.7, 0.01);
        draft.points[0].set_aside = draft.points[1].set_aside = "too";
        QVERIFY(!finish_calibration(reading, draft, Model::offset, 0));
    }
    void referencesDoNotAverageAway() {
        std::vector<std::pair<double, double>> many;
        for (int i = 0; i < 100; ++i)
            many.push_back({i * 0.3, i * 0.3});
        const Reading reading = test::small_bench().readings[0];
        VALUE_OF(record, finish_calibration(reading, calibration(many, 0.1), Model::offset, 0));
        QVERIFY(correction_u(record.correction, 10) >= 0.1);
    }
    void aLineIsSurestInTheMiddleOfItsPoints() {
        const Reading reading = test::small_bench().readings[0];
        VALUE_OF(record, finish_calibration(reading, calibration({{0, 0.1}, {10, 10.0}, {20, 20.2}, {30, 30.1}}),
                                            Model::line, 0));
        QVERIFY(correction_u(record.correction, 15) < correction_u(record.correction, 0));
        QVERIFY(correction_u(record.correction, 15) < correction_u(record.correction, 60));
    }
    void recordJsonComesBack() {
        const Reading reading = test::small_bench().readings[0];
        auto draft = calibration({{0.7, 0.0}, {12.8, 12.1}, {22.0, 21.4}});
        draft.points[1].forced = true;
        draft.points[2].set_aside = "moved";
        VALUE_OF(record, finish_calibration(reading, draft, Model::offset, from_seconds(1.79e9)));
        VALUE_OF(text, JsonText::parse("record", record_json(record).dump()));
        VALUE_OF(again, read_record(JsonReader(text)));
        QCOMPARE(record_json(again).dump(), record_json(record).dump());
        QVERIFY(again.points[1].forced && again.points[2].set_aside == "moved");
    }
    /// Sums of tips that differ in their last place alone are one indication: no slope stands on rounding.
    void roundingIsNoSpread() {
        std::vector<FitPoint> points = {{0.2, 0.22, 0.08, 0.05},
                                        {0.4 - 0.2, 0.19, 0.08, 0.05},
                                        {0.6000000000000001 - 0.4, 0.22, 0.08, 0.05},
                                        {0.2, 0.19, 0.08, 0.05}};
        QVERIFY(points[2].indication != points[0].indication);
        for (const Model model : {Model::offset, Model::gain}) {
            VALUE_OF(fit, fit_model(points, model));
            const double weighted = std::hypot(0.08, 0.05) / 2; // of the mean of four
            CLOSE(fit.u_at(0.2), weighted, 0.2 * weighted);
        }
        const auto line = fit_model(points, Model::line);
        QVERIFY(!line && line.error().what.find("there are 1") != std::string::npos);
    }
};

RUN_TESTS_OF(TestFit)
#include "tst_fit.moc"
