// York's line on its published example, and two series side by side: what was put in comes out.
#include "core/calibrate/compare.h"
#include "core/calibrate/york.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

namespace {

/// A slow wave with noise, sampled each `step_s`, `late_s` behind the world, stretched and shifted.
std::vector<TimedValue> series(double step_s, int n, double late_s, double gain, double offset, double noise,
                               std::uint64_t seed) {
    std::mt19937_64 random(seed);
    std::normal_distribution<double> normal(0, 1);
    std::vector<TimedValue> out;
    for (int i = 0; i < n; ++i) {
        const double t = i * step_s,
                     world = 20 + 5 * std::sin((t - late_s) / 300) + 2 * std::sin((t - late_s) / 47);
        out.push_back({from_seconds(t), gain * world + offset + noise * normal(random)});
    }
    return out;
}

} // namespace

class TestCompare : public QObject {
    Q_OBJECT

  private slots:
    /// Pearson's data with York's weights; the solution of York et al. (2004), table II, and earlier papers.
    void yorksPublishedExample() {
        const double x[] = {0.0, 0.9, 1.8, 2.6, 3.3, 4.4, 5.2, 6.1, 6.5, 7.4};
        const double wx[] = {1000, 1000, 500, 800, 200, 80, 60, 20, 1.8, 1.0};
        const double y[] = {5.9, 5.4, 4.4, 4.6, 3.5, 3.7, 2.8, 2.8, 2.4, 1.5};
        const double wy[] = {1, 1.8, 4, 8, 20, 20, 70, 70, 100, 500};
        std::vector<YorkPoint> points;
        for (int i = 0; i < 10; ++i)
            points.push_back({x[i], y[i], 1 / std::sqrt(wx[i]), 1 / std::sqrt(wy[i]), 0});
        VALUE_OF(line, york_line(points));
        CLOSE(line.intercept, 5.47991022403, 1e-10);
        CLOSE(line.slope, -0.48053340745, 1e-10);
        CLOSE(line.u_intercept, 0.29497, 1e-5);
        CLOSE(line.u_slope, 0.05798, 1e-5);
        CLOSE(line.s, 11.8663531941, 1e-9);
    }
    /// With doubt in y alone it is the weighted line; with doubt in x alone the same with the axes changed.
    void itsTwoEnds() {
        std::mt19937_64 random(3);
        std::normal_distribution<double> normal(0, 1);
        std::vector<YorkPoint> in_y, in_x;
        double sw = 0, swx = 0, swy = 0, swxx = 0, swxy = 0;
        for (int i = 0; i < 12; ++i) {
            const double u = 0.1 + 0.05 * (i % 3), x = i, y = 2 + 0.7 * i + u * normal(random), w = 1 / (u * u);
            in_y.push_back({x, y, 0, u, 0});
            in_x.push_back({y, x, u, 0, 0});
            sw += w;
            swx += w * x;
            swy += w * y;
            swxx += w * x * x;
            swxy += w * x * y;
        }
        const double determinant = sw * swxx - swx * swx;
        const double slope = (sw * swxy - swx * swy) / determinant, intercept = (swy - slope * swx) / sw;
        VALUE_OF(plain, york_line(in_y));
        CLOSE(plain.slope, slope, 1e-12);
        CLOSE(plain.intercept, intercept, 1e-11);
        CLOSE(plain.u_slope, std::sqrt(sw / determinant), 1e-12);
        CLOSE(plain.u_intercept, std::sqrt(swxx / determinant), 1e-12);
        VALUE_OF(turned, york_line(in_x));
        CLOSE(turned.slope, 1 / slope, 1e-9);
    }
    void whatYorkRefuses() {
        const std::vector<YorkPoint> one = {{1, 1, 0.1, 0.1, 0}};
        QVERIFY(!york_line(one));
        const std::vector<YorkPoint> sure = {{1, 1, 0.1, 0.1, 0}, {2, 2, 0, 0, 0}, {3, 3, 0.1, 0.1, 0}};
        QVERIFY(york_line(sure).error().what.find("point 2 states no doubt") != std::string::npos);
        const std::vector<YorkPoint> still = {{1, 1, 0.1, 0.1, 0}, {1, 2, 0.1, 0.1, 0}};
        QVERIFY(york_line(still).error().what.find("equal") != std::string::npos);
        const std::vector<YorkPoint> nan = {{1, 1, 0.1, 0.1, 0}, {std::nan(""), 2, 0.1, 0.1, 0}};
        QVERIFY(!york_line(nan));
    }

    void biasSlopeAndLagComeOut_data() {
        QTest::addColumn<double>("offset");
        QTest::addColumn<double>("gain");
        QTest::addColumn<double>("late_s");
        QTest::addColumn<double>("step_s");
        QTest::newRow("the same") << 0.0 << 1.0 << 0.0 << 5.0;
        QTest::newRow("shifted") << 0.8 << 1.0 << 0.0 << 7.0;
        QTest::newRow("later") << -0.3 << 1.0 << 33.0 << 5.0;
        QTest::newRow("earlier, other interval") << 0.2 << 1.0 << -21.0 << 11.0;
        QTest::newRow("stretched") << 0.0 << 1.15 << 0.0 << 5.0;
    }
    void biasSlopeAndLagComeOut() {
        QFETCH(double, offset);
        QFETCH(double, gain);
        QFETCH(double, late_s);
        QFETCH(double, step_s);
        const auto a = series(5, 800, 0, 1, 0, 0.05, 1);
        const auto b = series(step_s, static_cast<int>(4000 / step_s), late_s, gain, offset, 0.05, 2);
        const Comparison c = compare_series(a, b);
        QVERIFY(c.n > 300);
        CLOSE(c.lag_s, late_s, 1.5);
        CLOSE(c.slope, gain, 0.01);
        CLOSE(c.slope_york, gain, 0.01);
        double mean = 0;
        for (const TimedValue& v : a)
            mean += v.value / static_cast<double>(a.size());
        CLOSE(c.bias, offset + (gain - 1) * mean, 0.06);
        CLOSE(c.high - c.low, 2 * 1.96 * c.sd, 1e-12);
        if (gain == 1 && late_s == 0) QVERIFY(c.sd < 0.12);
        QVERIFY(!c.verdict.empty() && c.cannot_show[0].find("one design") != std::string::npos);
    }
    void constantsHaveNoLag() {
        std::vector<TimedValue> a, b;
        std::mt19937_64 random(5);
        std::normal_distribution<double> normal(0, 0.1);
        for (int i = 0; i < 300; ++i) {
            a.push_back({i * second_us, 20 + normal(random)});
            b.push_back({i * second_us, 20.5 + normal(random)});
        }
        const Comparison c = compare_series(a, b);
        QVERIFY(!c.lag_known && c.lag_s == 0);
        CLOSE(c.bias, 0.5, 0.05);
        QVERIFY(c.cannot_show.size() == 3); // they hardly moved
        QVERIFY2(c.verdict.find("higher") != std::string::npos, c.verdict.c_str());
    }
    void gapsAreNotFilled() {
        auto a = series(1, 600, 0, 1, 0, 0, 1), b = a;
        std::erase_if(b, [](const TimedValue& v) { return v.time > 200 * second_us && v.time < 400 * second_us; });
        const Comparison c = compare_series(a, b);
        QCOMPARE(c.n, std::size_t(600 - 199));
        CLOSE(c.sd, 0, 1e-9);
    }
    void withoutOverlapThereIsNothing() {
        const auto a = series(1, 50, 0, 1, 0, 0, 1);
        std::vector<TimedValue> later;
        for (const TimedValue& v : a)
            later.push_back({v.time + day_us, v.value});
        const Comparison c = compare_series(a, later);
        QCOMPARE(c.n, std::size_t(0));
        QVERIFY(std::isnan(c.bias) && c.verdict.find("no time in common") != std::string::npos);
        QCOMPARE(compare_series({}, a).n, std::size_t(0));
    }
    void oneOutlierDoesNotBendTheSlope() {
        std::vector<double> x, y;
        for (int i = 0; i < 50; ++i) {
            x.push_back(i);
            y.push_back(3 + 2 * i);
        }
        y[10] = 900;
        CLOSE(theil_sen(x, y), 2, 1e-12);
        QVERIFY(std::isnan(theil_sen(std::vector<double>(5, 1.0), std::vector<double>(5, 2.0))));
    }
};

RUN_TESTS_OF(TestCompare)
#include "tst_compare.moc"
