// Figures of short and of odd series: scatter, correlation, lines, runs; and tables that are read between their
// entries.
#include "core/analyse/statistics.h"
#include "core/base/no_number.h"
#include "core/physics/steffen.h"
#include "core/physics/table.h"
#include "core/physics/thermocouple.h"
#include "core/physics/thermometry.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <cmath>
#include <numeric>
#include <random>

using namespace cognitum;

class TestSeries : public QObject {
    Q_OBJECT

  private slots:
    /// The mean of many short series of scatter 1: leaving out the largest steps must not make a series calm. Of
    /// ten values two of nine steps are left out, of a hundred five of ninety-nine.
    void scatterOfShortSeries() {
        std::mt19937_64 random(41);
        std::normal_distribution<double> scatter(0, 1);
        for (const std::size_t n : {8U, 10U, 15U, 20U, 40U, 100U, 400U}) {
            double sum = 0;
            constexpr int turns = 3000;
            std::vector<double> values(n);
            for (int turn = 0; turn < turns; ++turn) {
                for (double& v : values)
                    v = scatter(random);
                sum += difference_sd(values);
            }
            QVERIFY2(std::abs(sum / turns - 1) < (n < 15 ? 0.1 : 0.03),
                     qPrintable(QStringLiteral("%1 values: %2").arg(n).arg(sum / turns)));
        }
    }
    /// One jump is no noise, nor is a straight climb; four values say nothing.
    void whatIsNoScatter() {
        std::vector<double> values(20, 3.0);
        CLOSE(difference_sd(values), 0, 0);
        values[7] = 500;
        CLOSE(difference_sd(values), 0, 0);
        CLOSE(difference_sd(std::vector<double>{1, 5, 2, 9}), 0, 0);
    }
    void correlationWithTheNext() {
        CLOSE(lag_one_correlation(std::vector<double>{1, 2}), 0, 0);
        CLOSE(lag_one_correlation(std::vector<double>(10, 4)), 0, 0);
        std::vector<double> turns, climb;
        for (int i = 0; i < 1000; ++i) {
            turns.push_back(i % 2 ? 1 : -1);
            climb.push_back(i);
        }
        CLOSE(lag_one_correlation(turns), -0.999, 1e-9);
        QVERIFY(lag_one_correlation(climb) > 0.99);
        // x[i] = 0.6·x[i−1] + noise
        std::mt19937_64 random(42);
        std::normal_distribution<double> scatter(0, 1);
        std::vector<double> follows = {0};
        for (int i = 0; i < 20000; ++i)
            follows.push_back(0.6 * follows.back() + scatter(random));
        CLOSE(lag_one_correlation(follows), 0.6, 0.02);
    }
    void momentsOfFew() {
        const Moments none = moments({});
        CLOSE(none.mean, 0, 0);
        const Moments one = moments(std::vector<double>{-3});
        CLOSE(one.mean, -3, 0);
        CLOSE(one.sd, 0, 0);
        CLOSE(one.low, -3, 0);
        CLOSE(one.high, -3, 0);
        const Moments two = moments(std::vector<double>{1, 3});
        CLOSE(two.sd, std::sqrt(2), 1e-12); // n − 1
        CLOSE(median({}), 0, 0);
        CLOSE(median({5}), 5, 0);
        CLOSE(median({9, 1, 5}), 5, 0);
    }
    /// By hand: y = 1, 3, 2 over x = 0, 1, 2 has the slope 0.5, residuals −0.5, 1, −0.5 and a standard error of
    /// √(1.5 / 1 / 2).
    void linesOfFew() {
        const LineFit fit = fit_line(std::vector<double>{0, 1, 2}, std::vector<double>{1, 3, 2});
        CLOSE(fit.slope, 0.5, 1e-12);
        CLOSE(fit.intercept, 1.5, 1e-12);
        CLOSE(fit.slope_se, std::sqrt(0.75), 1e-12);
        const LineFit through_two = fit_line(std::vector<double>{1, 3}, std::vector<double>{10, 4});
        CLOSE(through_two.slope, -3, 1e-12);
        CLOSE(through_two.intercept, 13, 1e-12);
        CLOSE(through_two.slope_se, 0, 0);
        CLOSE(fit_line(std::vector<double>{2, 2, 2}, std::vector<double>{1, 2, 3}).slope, 0, 0);
        CLOSE(fit_line(std::vector<double>{2}, std::vector<double>{1}).slope, 0, 0);
    }
    void runsKeepTheirExtremes() {
        std::mt19937_64 random(43);
        std::vector<double> values;
        for (int i = 0; i < 103; ++i)
            values.push_back(i % 11 == 0 || (i >= 40 && i < 50) ? no_number : static_cast<double>(random() % 1000));
        const auto runs = decimate(values, 10);
        QCOMPARE(runs.size(), std::size_t(11)); // the last of three
        for (std::size_t r = 0; r < runs.size(); ++r) {
            double sum = 0, low = 1e9, high = -1e9;
            std::size_t n = 0;
            for (std::size_t i = r * 10; i < std::min<std::size_t>(values.size(), r * 10 + 10); ++i)
                if (std::isfinite(values[i])) {
                    sum += values[i];
                    low = std::min(low, values[i]);
                    high = std::max(high, values[i]);
                    ++n;
                }
            QCOMPARE(runs[r].n, n);
            if (n == 0) continue;
            CLOSE(runs[r].mean, sum / double(n), 1e-9);
            CLOSE(runs[r].low, low, 0);
            CLOSE(runs[r].high, high, 0);
        }
        QCOMPARE(runs[4].n, std::size_t(0));
    }

    /// A cubic goes through four entries of any cubic exactly, at both ends of the table too.
    void tablesAreReadBetweenTheirEntries() {
        const auto cubic = [](double x) { return 2 - x + 0.5 * x * x - 0.01 * x * x * x; };
        std::vector<double> table;
        for (int i = 0; i <= 8; ++i)
            table.push_back(cubic(-4 + 0.5 * i));
        using physics::interpolate_even;
        for (double x = -4; x <= 0; x += 0.01)
            CLOSE(interpolate_even(table, -4, 0.5, x), cubic(x), 1e-9);
        CLOSE(interpolate_even(table, -4, 0.5, 0), cubic(0), 1e-12);
        for (const double outside : {-4.001, 0.001, no_number})
            QVERIFY(std::isnan(interpolate_even(table, -4, 0.5, outside)));
        QVERIFY(std::isnan(interpolate_even(std::vector<double>{1, 2, 3}, 0, 1, 1)));
    }
    /// Between two points it stays between them, and beyond the ends it goes on along the last chord.
    void theCurveNeverOvershoots() {
        std::mt19937_64 random(44);
        for (int turn = 0; turn < 200; ++turn) {
            std::vector<double> x = {0}, y = {0};
            for (int i = 0; i < 6; ++i) {
                x.push_back(x.back() + 0.1 + static_cast<double>(random() % 100) / 20);
                y.push_back(static_cast<double>(random() % 200) - 100);
            }
            for (std::size_t i = 0; i + 1 < x.size(); ++i) {
                CLOSE(physics::steffen(x, y, x[i]), y[i], 1e-9);
                for (double share = 0.05; share < 1; share += 0.1) {
                    const double at = physics::steffen(x, y, x[i] + share * (x[i + 1] - x[i]));
                    QVERIFY(at >= std::min(y[i], y[i + 1]) - 1e-9 && at <= std::max(y[i], y[i + 1]) + 1e-9);
                }
            }
            const std::size_t n = x.size();
            const double last = (y[n - 1] - y[n - 2]) / (x[n - 1] - x[n - 2]),
                         first = (y[1] - y[0]) / (x[1] - x[0]);
            CLOSE(physics::steffen_and_on(x, y, x[n - 1] + 2), y[n - 1] + 2 * last, 1e-9);
            CLOSE(physics::steffen_and_on(x, y, x[0] - 3), y[0] - 3 * first, 1e-9);
            QVERIFY(std::isnan(physics::steffen(x, y, x[0] - 1e-6)));
            QVERIFY(std::isnan(physics::steffen(x, y, x[n - 1] + 1e-6)));
        }
    }

    /// IEC 60584-1, table 1: where each reference function ends; there and back at the ends and between.
    void thermocouplesEndWhereTheStandardSays() {
        using namespace physics;
        const std::map<ThermocoupleType, std::pair<double, double>> standard = {
            {ThermocoupleType::B, {0, 1820}},    {ThermocoupleType::E, {-270, 1000}},
            {ThermocoupleType::J, {-210, 1200}}, {ThermocoupleType::K, {-270, 1372}},
            {ThermocoupleType::N, {-270, 1300}}, {ThermocoupleType::R, {-50, 1768}},
            {ThermocoupleType::S, {-50, 1768}},  {ThermocoupleType::T, {-270, 400}}};
        for (const auto& [type, ends] : standard) {
            const ThermocoupleRange range = thermocouple_range(type);
            CLOSE(range.low_degC, ends.first, 0);
            QVERIFY(range.high_degC >= ends.second && range.high_degC < ends.second + 1);
            QVERIFY(std::isnan(thermocouple_emf(type, range.low_degC - 0.01)));
            QVERIFY(std::isnan(thermocouple_emf(type, range.high_degC + 0.01)));
            const double from = std::max(range.inverse_from_degC, range.low_degC) + 1;
            for (double theta = from; theta < range.high_degC - 1; theta += (range.high_degC - from) / 57)
                CLOSE(thermocouple_temperature(type, thermocouple_emf(type, theta)), theta, 1e-6);
            if (type == ThermocoupleType::B) continue; // it has no use for a junction near 25 °C, but its own rule
            // The reference junction is added in volts: a warm joint changes nothing of what is told.
            CLOSE(thermocouple_temperature(type, thermocouple_emf(type, 300, 25), 25), 300, 1e-6);
        }
        QVERIFY(!thermocouple_type("C") && !thermocouple_type("") && !thermocouple_type("KK"));
    }
    /// R = R0 at T0, by definition; a tenth of the resistance of 10 kΩ with β 3950 K at 1/T = 1/T0 − ln 10 / β.
    void thermistorsByHand() {
        using namespace physics;
        CLOSE(thermistor_beta_resistance(25, 10000, 25, 3950), 10000, 1e-9);
        const double hot = 1 / (1 / 298.15 - std::log(10.0) / 3950) - 273.15;
        CLOSE(thermistor_beta_resistance(hot, 10000, 25, 3950), 1000, 1e-6);
        CLOSE(thermistor_beta_temperature(1000, 10000, 25, 3950), hot, 1e-9);
        QVERIFY(std::isnan(thermistor_beta_temperature(0, 10000, 25, 3950)));
        QVERIFY(std::isnan(thermistor_beta_temperature(-1, 10000, 25, 3950)));
        CLOSE(from_inverse_kelvin(1 / 273.15), 0, 1e-9);
        QVERIFY(std::isnan(from_inverse_kelvin(0)) && std::isnan(from_inverse_kelvin(-0.001)));
    }
};

RUN_TESTS_OF(TestSeries)
#include "tst_series.moc"
