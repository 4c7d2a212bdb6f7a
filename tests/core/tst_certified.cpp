// Certified data sets of linear regression (NIST Statistical Reference Datasets), from lower to higher difficulty:
// as many digits as double arithmetic can give. And the models that are no polynomial, with what they warn of.
#include "core/calibrate/fit.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

namespace {

/// Relative agreement, in digits.
double digits(double found, double certified) {
    return found == certified ? 16 : -std::log10(std::abs(found - certified) / std::abs(certified));
}
#define DIGITS(found, certified, at_least)                                                                         \
    QVERIFY2(digits(found, certified) >= (at_least), qPrintable(QStringLiteral("%1 against %2: %3 digits")         \
                                                                    .arg(double(found), 0, 'g', 16)                \
                                                                    .arg(double(certified), 0, 'g', 16)            \
                                                                    .arg(digits(found, certified))))

std::vector<FitPoint> wampler(const std::vector<double>& noise, double times) {
    std::vector<FitPoint> out;
    for (int x = 0; x <= 20; ++x) {
        double y = 0;
        for (int k = 0; k <= 5; ++k)
            y = y * x + 1;
        out.push_back({double(x), y + times * noise[static_cast<std::size_t>(x)]});
    }
    return out;
}
const std::vector<double> wampler_noise = {759,   -2048, 2048,  -2048, 2523,  -2048, 2048,
                                           -2048, 1838,  -2048, 2048,  -2048, 1838,  -2048,
                                           2048,  -2048, 2523,  -2048, 2048,  -2048, 759};

std::string warned(const Fit& fit) {
    std::string all;
    for (const std::string& w : fit.warnings)
        all += w + " | ";
    return all;
}

} // namespace

class TestCertified : public QObject {
    Q_OBJECT

  private slots:
    /// "Pontius": 40 loads on a cell, a quadratic.
    void pontius() {
        const double y[] = {.11019,  .21956,  .32949,  .43899,  .54803,  .65694,  .76562,  .87487,
                            .98292,  1.09146, 1.20001, 1.30822, 1.41599, 1.52399, 1.63194, 1.73947,
                            1.84646, 1.95392, 2.06128, 2.16844, .11052,  .22018,  .32939,  .43886,
                            .54798,  .65739,  .76596,  .87474,  .98300,  1.09150, 1.20004, 1.30818,
                            1.41613, 1.52408, 1.63159, 1.73965, 1.84696, 1.95445, 2.06177, 2.16829};
        std::vector<FitPoint> points;
        for (int i = 0; i < 40; ++i)
            points.push_back({150000.0 * (i % 20 + 1), y[i]});
        VALUE_OF(fit, fit_model(points, Model::quadratic));
        DIGITS(fit.parameters[0].value, 0.673565789473684e-3, 9);
        DIGITS(fit.parameters[1].value, 0.732059160401003e-6, 12);
        DIGITS(fit.parameters[2].value, -0.316081871345029e-14, 10);
        DIGITS(fit.parameters[0].standard_error, 0.107938612033077e-3, 10);
        DIGITS(fit.parameters[1].standard_error, 0.157817399981659e-9, 10);
        DIGITS(fit.parameters[2].standard_error, 0.486652849992036e-16, 10);
        DIGITS(fit.residual_sd, 0.205177424076185e-3, 10);
        DIGITS(fit.r_squared, 0.999999900178537, 13);
    }
    /// "NoInt1" and "NoInt2": lines through the origin.
    void throughTheOrigin() {
        std::vector<FitPoint> one;
        for (int i = 0; i <= 10; ++i)
            one.push_back({60.0 + i, 130.0 + i});
        VALUE_OF(first, fit_model(one, Model::gain));
        DIGITS(first.parameters[0].value, 2.07438016528926, 13);
        DIGITS(first.parameters[0].standard_error, 0.165289256198347e-1, 12);
        DIGITS(first.residual_sd, 3.56753034006338, 12);
        DIGITS(first.r_squared, 0.999365492298663, 13);
        const std::vector<FitPoint> two = {{4, 3}, {5, 4}, {6, 4}};
        VALUE_OF(second, fit_model(two, Model::gain));
        DIGITS(second.parameters[0].value, 0.727272727272727, 13);
        DIGITS(second.parameters[0].standard_error, 0.420827318078432e-1, 12);
        DIGITS(second.residual_sd, 0.369274472937998, 12);
        DIGITS(second.r_squared, 0.993348115299335, 13);
    }
    /// "Wampler3", "Wampler4", "Wampler5": quintics under noise of growing size; all coefficients are certified to
    /// be 1.
    void wamplers_data() {
        QTest::addColumn<double>("times");
        QTest::addColumn<double>("digits_needed");
        QTest::newRow("Wampler3") << 1.0 << 8.0;
        QTest::newRow("Wampler4") << 100.0 << 7.0;
        QTest::newRow("Wampler5") << 10000.0 << 5.0;
    }
    void wamplers() {
        QFETCH(double, times);
        QFETCH(double, digits_needed);
        VALUE_OF(fit, fit_model(wampler(wampler_noise, times), Model::quintic));
        const double errors[] = {2152.32624678170, 2363.55173469681, 779.343524331583,
                                 101.475507550350, 5.64566512170752, 0.112324854679312};
        for (std::size_t k = 0; k <= 5; ++k) {
            DIGITS(fit.parameters[k].value, 1.0, digits_needed);
            DIGITS(fit.parameters[k].standard_error, times * errors[k], 10);
        }
        DIGITS(fit.residual_sd, times * 2360.14502379268, 11);
    }

    void aPowerAndALogarithmComeBack() {
        std::vector<FitPoint> power, log;
        for (int i = 1; i <= 12; ++i) {
            power.push_back({i * 0.7, 2.5 * std::pow(i * 0.7, 1.3)});
            log.push_back({i * 3.0, 4 - 1.7 * std::log(i * 3.0)});
        }
        VALUE_OF(p, fit_model(power, Model::power));
        CLOSE(p.parameters[0].value, 2.5, 1e-9);
        CLOSE(p.parameters[1].value, 1.3, 1e-9);
        CLOSE(p.at(5), 2.5 * std::pow(5, 1.3), 1e-8);
        VALUE_OF(l, fit_model(log, Model::log));
        CLOSE(l.parameters[0].value, 4, 1e-11);
        CLOSE(l.parameters[1].value, -1.7, 1e-11);
        CLOSE(l.at(7), 4 - 1.7 * std::log(7), 1e-10);
        power[3].indication = -1;
        QVERIFY(fit_model(power, Model::power).error().what.find("point 4") != std::string::npos);
        QVERIFY(fit_model(power, Model::log).error().what.find("above zero") != std::string::npos);
    }
    /// The power's standard errors against the scatter of many fits of noisy copies.
    void thePowersDoubtIsItsScatter() {
        std::mt19937_64 random(8);
        std::normal_distribution<double> normal(0, 0.05);
        double sum = 0, squares = 0, said = 0;
        constexpr int runs = 400;
        for (int r = 0; r < runs; ++r) {
            std::vector<FitPoint> points;
            for (int i = 1; i <= 15; ++i)
                points.push_back({i * 0.5, 2 * std::pow(i * 0.5, 0.8) + normal(random)});
            VALUE_OF(fit, fit_model(points, Model::power));
            sum += fit.parameters[1].value;
            squares += fit.parameters[1].value * fit.parameters[1].value;
            said += fit.parameters[1].standard_error / runs;
        }
        const double sd = std::sqrt(squares / runs - (sum / runs) * (sum / runs));
        CLOSE(sum / runs, 0.8, 0.001);
        CLOSE(said / sd, 1, 0.1);
    }
    void straightPiecesMeetTheirPoints() {
        const std::vector<FitPoint> points = {{10, 11, 0, 0.2}, {0, 1, 0, 0.1}, {20, 19, 0, 0.3}, {10, 12, 0, 0.2}};
        VALUE_OF(fit, fit_model(points, Model::piecewise));
        QCOMPARE(fit.knots.size(), std::size_t(3));
        CLOSE(fit.at(0), 1, 1e-12);
        CLOSE(fit.at(10), 11.5, 1e-12); // the mean of the two there
        CLOSE(fit.at(15), 15.25, 1e-12);
        CLOSE(fit.u_at(5), std::hypot(0.5 * 0.1, 0.5 * std::hypot(0.2, 0.2) / 2), 1e-12);
        QVERIFY(warned(fit).find("every point") != std::string::npos);
        const std::vector<FitPoint> one = {{1, 1}, {1, 2}};
        QVERIFY(!fit_model(one, Model::piecewise));
    }
    /// The quick left-out errors against fits that are made anew without the point.
    void leavingOneOutIsWhatItSays_data() {
        QTest::addColumn<QString>("model");
        for (const std::string& name : model_names())
            QTest::newRow(name.c_str()) << QString::fromStdString(name);
    }
    void leavingOneOutIsWhatItSays() {
        QFETCH(QString, model);
        const Model m = *find_model(model.toStdString());
        std::mt19937_64 random(11);
        std::normal_distribution<double> normal(0, 1);
        std::vector<FitPoint> points;
        for (int i = 1; i <= 14; ++i) {
            const double x = i + 0.2 * normal(random);
            points.push_back({x, 3 + 0.9 * x + 0.15 * normal(random), 0, 0.15});
        }
        VALUE_OF(fit, fit_model(points, m));
        double worst = 0;
        for (std::size_t i = 0; i < points.size(); ++i) {
            std::vector<FitPoint> rest = points;
            rest.erase(rest.begin() + static_cast<std::ptrdiff_t>(i));
            VALUE_OF(without, fit_model(rest, m));
            const double slow = points[i].reference - without.at(points[i].indication);
            worst = std::max(worst, std::abs(slow - fit.left_out[i]) / (0.1 + std::abs(slow)));
        }
        // A power is no straight model: there the quick way is the first order of the slow one.
        QVERIFY2(worst < (m == Model::power ? 0.05 : 1e-8), qPrintable(QString::number(worst)));
    }
    void theCurveNeverOvershoots() {
        const std::vector<FitPoint> points = {{0, 0}, {1, 0.1}, {2, 0.2}, {3, 5}, {4, 5.1}};
        VALUE_OF(fit, fit_model(points, Model::curve));
        for (const FitPoint& p : points)
            CLOSE(fit.at(p.indication), p.reference, 1e-12);
        double before = -1;
        for (int i = 0; i <= 400; ++i) {
            QVERIFY(fit.at(i * 0.01) >= before - 1e-12);
            before = fit.at(i * 0.01);
        }
        CLOSE(fit.at(5), 5.2, 1e-12); // straight on
    }
    /// The 95 % band for a new point holds it 95 times in a hundred.
    void theBandHoldsNewPoints() {
        std::mt19937_64 random(4);
        std::normal_distribution<double> normal(0, 0.3);
        int inside = 0;
        constexpr int runs = 3000;
        for (int r = 0; r < runs; ++r) {
            std::vector<FitPoint> points;
            for (int i = 0; i < 6; ++i)
                points.push_back({double(i), 1 + 2.0 * i + normal(random)});
            VALUE_OF(fit, fit_model(points, Model::line));
            const double fresh = 1 + 2.0 * 4.3 + normal(random);
            inside += std::abs(fresh - fit.at(4.3)) <= fit.prediction_band(4.3);
        }
        QVERIFY2(inside > 0.935 * runs && inside < 0.965 * runs, qPrintable(QString::number(inside)));
    }
    void yorkNeedsItsDoubts() {
        const std::vector<FitPoint> bare = {{1, 1}, {2, 2.1}, {3, 2.9}};
        QVERIFY(fit_model(bare, Model::york).error().what.find("states no doubt") != std::string::npos);
        std::vector<FitPoint> stated;
        for (int i = 0; i < 8; ++i)
            stated.push_back({double(i), 0.3 + 1.02 * i, 0.1, 0.1});
        VALUE_OF(fit, fit_model(stated, Model::york));
        CLOSE(fit.parameters[1].value, 1.02, 1e-9);
        CLOSE(fit.at(3), 0.3 + 3 * 1.02, 1e-9);
        QVERIFY(fit.parameters[1].standard_error > 0 && std::isfinite(fit.u_at(3)));
    }

    void whatIsWarnedOf() {
        std::vector<FitPoint> line;
        std::mt19937_64 random(2);
        std::normal_distribution<double> normal(0, 0.02);
        for (int i = 0; i < 12; ++i)
            line.push_back({double(i), 1 + 2.0 * i + normal(random)});
        VALUE_OF(clean, fit_model(line, Model::line));
        QCOMPARE(warned(clean), std::string());
        std::vector<FitPoint> wild = line;
        wild[7].reference += 1;
        VALUE_OF(outlier, fit_model(wild, Model::line));
        QVERIFY2(warned(outlier).find("point 8 lies") != std::string::npos, warned(outlier).c_str());
        std::vector<FitPoint> loops = line;
        for (std::size_t i = 0; i < loops.size(); ++i) {
            loops[i].run = i % 2 ? 1 : -1;
            loops[i].reference += 0.1 * loops[i].run;
        }
        VALUE_OF(hysteresis, fit_model(loops, Model::line));
        QVERIFY2(warned(hysteresis).find("rising and falling") != std::string::npos, warned(hysteresis).c_str());
        std::vector<FitPoint> bent = line;
        for (FitPoint& p : bent)
            p.reference += 0.05 * p.indication * p.indication;
        VALUE_OF(trend, fit_model(bent, Model::line));
        QVERIFY2(warned(trend).find("trend") != std::string::npos, warned(trend).c_str());
        const std::vector<FitPoint> few = {{0, 0}, {1, 1}, {2, 2.1}};
        VALUE_OF(short_of, fit_model(few, Model::line));
        QVERIFY(warned(short_of).find("too few") != std::string::npos);
    }
};

RUN_TESTS_OF(TestCertified)
#include "tst_certified.moc"
