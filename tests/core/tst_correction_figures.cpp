// What a correction says of itself: values, doubts and degrees of freedom by hand, and what of a calibration
// counts.
#include "core/calibrate/fit.h"
#include "core/calibrate/record.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <cmath>
#include <random>

using namespace cognitum;

namespace {

CalibrationPoint compared_at(double indication, double reference, double u_reference = 0.1,
                             double u_indication = 0.05) {
    CalibrationPoint out;
    out.indication = indication;
    out.reference = reference;
    out.u_reference = u_reference;
    out.u_indication = u_indication;
    out.reference_kind = "other";
    return out;
}

CalibrationPoint as_left(CalibrationPoint point) {
    point.as_left = true;
    return point;
}

CalibrationPoint checking(CalibrationPoint point) {
    point.check = true;
    return point;
}

CalibrationPoint aside(CalibrationPoint point) {
    point.set_aside = "the bath was not stirred";
    return point;
}

} // namespace

class TestCorrectionFigures : public QObject {
    Q_OBJECT

  private slots:
    void linesAndCurves() {
        AppliedCorrection line;
        line.gain = 1.02;
        line.offset = -0.5;
        CLOSE(corrected(line, 0), -0.5, 0);
        CLOSE(corrected(line, 50), 50.5, 1e-12);
        QVERIFY(correction_is_line(line));
        QVERIFY(!correction_is_line(AppliedCorrection{}));
        AppliedCorrection shift;
        shift.offset = 3;
        QVERIFY(!correction_is_line(shift)); // it neither tilts nor bends
        AppliedCorrection curve;
        curve.curve = {{0, 1, 0.1}, {10, 12, 0.1}, {20, 21, 0.1}};
        QVERIFY(correction_is_line(curve));
        CLOSE(corrected(curve, 0), 1, 1e-12);
        CLOSE(corrected(curve, 10), 12, 1e-12);
        CLOSE(corrected(curve, 30), 30, 1e-9); // straight on
        CLOSE(corrected(curve, -10), -10, 1e-9);
    }
    /// Var = var(b0) + 2·x·cov + x²·var(b1), and what the references share is added as a whole.
    void doubtsByHand() {
        AppliedCorrection c;
        c.var_offset = 0.04;
        c.var_gain = 0.0001;
        c.covariance = -0.0015;
        CLOSE(correction_u(c, 0), 0.2, 1e-12);
        CLOSE(correction_u(c, 20), std::sqrt(0.04 - 0.06 + 0.04), 1e-12);
        c.u_reference = 0.3;
        CLOSE(correction_u(c, 0), std::hypot(0.2, 0.3), 1e-12);
        c.covariance = -1; // rounding may leave a variance below zero: none, and no NaN
        CLOSE(correction_u(c, 1), 0.3, 1e-12);
    }
    /// Welch and Satterthwaite with the references' share well known: ν · (u / u_fit)⁴.
    void degreesOfFreedomByHand() {
        AppliedCorrection c;
        c.var_offset = 0.09;
        c.u_reference = 0.4;
        c.dof = 3;
        CLOSE(correction_dof(c, 0), 3 * std::pow(0.5 / 0.3, 4), 1e-9);
        c.u_reference = 0;
        CLOSE(correction_dof(c, 0), 3, 1e-9);
        c.dof = 0;
        QVERIFY(std::isinf(correction_dof(c, 0)));
        c.dof = 3;
        c.var_offset = 0;
        QVERIFY(std::isinf(correction_dof(c, 0)));
    }
    /// The variance of a fitted line at any indication is that of many fits to points that are drawn anew.
    void doubtIsTheScatterOfManyFits() {
        std::mt19937_64 random(51);
        std::normal_distribution<double> scatter(0, 0.2);
        constexpr int turns = 4000;
        const std::vector<double> indications = {0, 10, 20, 30, 40};
        const std::vector<double> looked = {0, 20, 40, 60};
        std::vector<double> sum(looked.size()), squares(looked.size());
        for (int turn = 0; turn < turns; ++turn) {
            std::vector<FitPoint> points;
            for (const double x : indications)
                points.push_back({x, 1.5 + 0.98 * x + scatter(random), 0, 0, 0});
            const auto fit = fit_model(points, Model::line);
            QVERIFY(fit.has_value());
            for (std::size_t i = 0; i < looked.size(); ++i) {
                sum[i] += fit->at(looked[i]);
                squares[i] += fit->at(looked[i]) * fit->at(looked[i]);
            }
        }
        std::vector<CalibrationPoint> kept;
        std::vector<FitPoint> stated;
        for (const double x : indications) {
            stated.push_back({x, 1.5 + 0.98 * x, 0, 0.2, 0});
            kept.push_back(compared_at(x, 1.5 + 0.98 * x, 0.2, 0));
        }
        const auto fit = fit_model(stated, Model::line);
        QVERIFY(fit.has_value());
        for (std::size_t i = 0; i < looked.size(); ++i) {
            const double mean = sum[i] / turns;
            const double sd = std::sqrt(squares[i] / turns - mean * mean);
            CLOSE(mean, 1.5 + 0.98 * looked[i], 0.02);
            CLOSE(fit->u_at(looked[i]), sd, 0.05 * sd);
        }
        QVERIFY(fit->u_at(60) > fit->u_at(40) && fit->u_at(40) > fit->u_at(20)); // least in the middle
    }

    void errorsAreShownLessReference() {
        CLOSE(error_found(compared_at(20.4, 20), {}), 0.4, 1e-12);
        CLOSE(error_found(compared_at(19.5, 20), {}), -0.5, 1e-12);
        AppliedCorrection before;
        before.gain = 1.1;
        before.offset = -1;
        CLOSE(error_found(compared_at(20, 20), before), 1, 1e-12);
    }
    void whatAFitRestsOn() {
        QVERIFY(!adjusted_between({}));
        std::vector<CalibrationPoint> points = {compared_at(1, 2), aside(compared_at(3, 9)),
                                                checking(compared_at(5, 6))};
        QVERIFY(!adjusted_between(points));
        QCOMPARE(fit_points(points).size(), std::size_t(1));
        CLOSE(fit_points(points)[0].reference, 2, 0);
        points.push_back(aside(as_left(compared_at(7, 8)))); // turned, but that point does not count
        QVERIFY(!adjusted_between(points));
        points.push_back(as_left(compared_at(9, 9.5)));
        QVERIFY(adjusted_between(points));
        QCOMPARE(fit_points(points).size(), std::size_t(1)); // what was found before says nothing of now
        CLOSE(fit_points(points)[0].indication, 9, 0);
        CLOSE(fit_points(points)[0].u_indication, 0.05, 0);
        CLOSE(fit_points(points)[0].u_reference, 0.1, 0);
    }
    void whatIsSaidAfterwards() {
        CalibrationRecord record;
        record.model = "line";
        record.correction.offset = 2;
        CLOSE(said_after(record, compared_at(10, 12)), 12, 0);
        record.model = "path"; // the path got other constants: what it showed before is gone
        QVERIFY(std::isnan(said_after(record, compared_at(10, 12))));
        CLOSE(said_after(record, as_left(compared_at(10, 12))), 12, 0);
    }
    /// Guard bands of ILAC-G8: an error of exactly the limit passes without doubt, and zero doubt has no "within".
    void verdictsAtTheirEdges() {
        QCOMPARE(judge(0, 0, 0.5), Verdict::pass);
        QCOMPARE(judge(0.5, 0, 0.5), Verdict::pass);
        QCOMPARE(judge(-0.5, 0, 0.5), Verdict::pass);
        QCOMPARE(judge(0.3, 0.2, 0.5), Verdict::pass);
        QCOMPARE(judge(0.3, 0.21, 0.5), Verdict::pass_within_doubt);
        QCOMPARE(judge(-0.3, 0.21, 0.5), Verdict::pass_within_doubt);
        QCOMPARE(judge(0.6, 0.2, 0.5), Verdict::fail_within_doubt);
        QCOMPARE(judge(0.8, 0.2, 0.5), Verdict::fail);
        QCOMPARE(judge(-0.8, 0.2, 0.5), Verdict::fail);
        for (const Verdict verdict : {Verdict::pass, Verdict::pass_within_doubt, Verdict::fail_within_doubt,
                                      Verdict::fail, Verdict::nothing_checks})
            QCOMPARE(find_verdict(verdict_id(verdict)), verdict);
        QCOMPARE(find_verdict("of another time"), Verdict::fail);
    }
    /// A model with as many constants as points has no residuals, and so no doubt from them.
    void modelsNeedTheirPoints() {
        for (const std::string& name : model_names()) {
            const Model model = *find_model(name);
            QCOMPARE(model_name(model), name);
            QVERIFY(!model_words(model).empty());
            std::vector<FitPoint> points;
            const int needed = parameter_count(model);
            for (int i = 1; i < needed; ++i)
                points.push_back({i * 1.0, i * 1.1, 0.1, 0.1, 0});
            QVERIFY2(!fit_model(points, model), name.c_str());
            while (static_cast<int>(points.size()) < std::max(needed, 2))
                points.push_back({double(points.size()) + 1, double(points.size()) * 1.3 + 1, 0.1, 0.1, 0});
            const auto fit = fit_model(points, model);
            QVERIFY2(fit.has_value(), fit ? "" : (name + ": " + fit.error().text()).c_str());
            QCOMPARE(fit->dof, model == Model::piecewise || model == Model::curve
                                   ? 0
                                   : static_cast<int>(points.size()) - needed);
        }
        QVERIFY(!find_model("parabola"));
    }
};

RUN_TESTS_OF(TestCorrectionFigures)
#include "tst_correction_figures.moc"
