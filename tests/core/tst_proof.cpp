// What a calibration becomes: curves, drift, constants for the board, fits that end in a constant of the path.
#include "core/calibrate/board_constants.h"
#include "core/calibrate/certificate.h"
#include "core/calibrate/drift.h"
#include "core/calibrate/pictures.h"
#include "core/calibrate/references.h"
#include "core/calibrate/special.h"
#include "support/calibrations.h"
#include "support/run_tests.h"

#include <random>

using namespace cognitum;
using namespace cognitum::test;

namespace {

CalibrationRecord record_at(const char* day, double error, const Reading& reading) {
    CalibrationDraft d;
    for (const double at : {0.0, 10.0, 20.0})
        d.points.push_back(point(at + error, at, 0.05, 0.01));
    return *finish_calibration(reading, d, Model::offset, *parse_time(std::string(day) + "T00:00:00Z"));
}

} // namespace

class TestProof : public QObject {
    Q_OBJECT

  private slots:
    void aCurveFollowsItsFit() {
        Reading reading = air();
        std::vector<CalibrationPoint> points;
        const auto truth = [](double x) { return x + 0.4 - 0.02 * x + 0.0015 * x * x; };
        for (int i = 0; i <= 8; ++i)
            points.push_back(point(4.0 * i, truth(4.0 * i)));
        VALUE_OF(record, finish_calibration(reading, draft(points), Model::quadratic, 0));
        QVERIFY(record.correction.curve.size() > 20);
        for (double x = 0; x <= 32; x += 0.37)
            CLOSE(corrected(record.correction, x), truth(x), 1e-4);
        // Beyond the points it goes on straight, and its doubt says what the bend may do.
        QVERIFY(correction_u(record.correction, -10) > 2 * correction_u(record.correction, 16));
        reading.correction = record.correction;
        const Chain path = effective_path(reading);
        const Value raw = inverse(path, 20.0);
        QVERIFY(raw.ok());
        CLOSE(forward(path, raw.number).number, 20.0, 1e-6);
        VALUE_OF(text, JsonText::parse("record", record_json(record).dump()));
        VALUE_OF(again, read_record(JsonReader(text)));
        QVERIFY(again.correction.curve == record.correction.curve);
        VALUE_OF(kept, JsonText::parse("reading", reading_json(reading).dump()));
        VALUE_OF(read, read_reading(JsonReader(kept)));
        QVERIFY(read.correction->curve == record.correction.curve);
    }
    void aCurveThatTurnsBackIsRefused() {
        std::vector<CalibrationPoint> points;
        for (int i = 0; i <= 6; ++i)
            points.push_back(point(i, 3 + i * (4.0 - i)));
        const auto record = finish_calibration(air(), draft(points), Model::quadratic, 0);
        QVERIFY(!record && record.error().what.find("two meanings") != std::string::npos);
        const auto falls =
            finish_calibration(air(), draft({point(0, 10), point(5, 5), point(10, 0)}), Model::line, 0);
        QVERIFY(!falls && falls.error().what.find("falls") != std::string::npos);
    }
    void piecesAndCurvesMeetTheirPoints() {
        const std::vector<CalibrationPoint> points = {point(0, 1), point(10, 10.5), point(20, 22), point(30, 31)};
        for (const Model model : {Model::piecewise, Model::curve}) {
            VALUE_OF(record, finish_calibration(air(), draft(points), model, 0));
            for (const CalibrationPoint& p : points)
                CLOSE(corrected(record.correction, p.indication), p.reference, 1e-9);
            QCOMPARE(record.verdict_left, std::string("pass"));
        }
    }
    void comparingChangesNothing() {
        VALUE_OF(record,
                 finish_calibration(air(), draft({point(10.3, 10), point(20.4, 20)}), std::nullopt, 7 * day_us));
        QCOMPARE(record.model, std::string("none"));
        CLOSE(corrected(record.correction, 15), 15, 1e-12);
        CLOSE(record.worst_found, 0.4, 1e-12);
        CLOSE(record.worst_left, 0.4, 1e-12);
        // What was not mended stays as doubt.
        CLOSE(correction_u(record.correction, 15), std::hypot(std::sqrt((0.09 + 0.16) / 2), 0.05), 1e-9);
        QVERIFY(!finish_calibration(air(), draft({}), std::nullopt, 0));
    }
    void whatWasTurnedDividesFoundFromLeft() {
        std::vector<CalibrationPoint> points = {point(12, 10), point(22, 20)};
        for (double at : {10.0, 20.0, 30.0}) {
            points.push_back(point(at + 0.1, at));
            points.back().as_left = true;
        }
        VALUE_OF(record, finish_calibration(air(), draft(points), Model::offset, 0));
        CLOSE(record.worst_found, 2, 1e-9);
        CLOSE(record.correction.offset, -0.1, 1e-6);
        CLOSE(record.worst_left, 0, 1e-6);
        QCOMPARE(record.verdict_found, std::string("fail"));
    }

    /// Two points at 10 °C and two at 20 °C, the same thermometer throughout: what is stated is all that is known,
    /// and the thermometer's doubt counts once. Points that scatter by more than they state say more than that.
    void scatterIsDoubtAndSharedDoubtCountsOnce() {
        const auto with_scatter = [](double scatter) {
            return draft({point(10.5 + scatter, 10), point(10.5 - scatter, 10), point(20.5 + scatter, 20),
                          point(20.5 - scatter, 20)});
        };
        VALUE_OF(calm, finish_calibration(air(), with_scatter(0.01), Model::offset, 0));
        CLOSE(correction_u(calm.correction, 15), std::hypot(0.05, 0.02 / 2), 1e-6);
        VALUE_OF(wild, finish_calibration(air(), with_scatter(0.6), Model::offset, 0));
        CLOSE(correction_u(wild.correction, 15), std::hypot(0.05, 0.6 * std::sqrt(4.0 / 3) / 2), 2e-3);
        VALUE_OF(one, finish_calibration(air(), draft({point(10.5, 10)}), Model::offset, 0));
        CLOSE(correction_u(one.correction, 10), std::hypot(0.05, 0.02), 1e-6);
    }

    void driftIsFoundAndTellsWhenItIsDue() {
        Reading reading = air();
        reading.quantity.accuracy = 0.8;
        std::vector<CalibrationRecord> records;
        const char* days[] = {"2023-06-01", "2024-06-01", "2025-06-01", "2026-06-01"};
        for (int i = 0; i < 4; ++i)
            records.push_back(record_at(days[i], 0.1 + 0.2 * i, reading));
        reading.calibrate_months = 60;
        const Drift drift = drift_of(reading, records, 0.1);
        CLOSE(drift.per_year, 0.2, 0.001);
        QVERIFY(drift.real() && !drift.from_data_sheet);
        QVERIFY(drift.because == Drift::Because::drift);
        // 0.8 less what was left open, at 0.2 a year and its band: between two and four years on.
        const double years = seconds(drift.due - records.back().time) / (365.25 * 86400);
        QVERIFY2(years > 1.5 && years < 4, qPrintable(QString::number(years)));
        CLOSE(std::abs(drift.shift_at(drift.due)) + drift.band_at(drift.due) + std::abs(records.back().worst_left) +
                  records.back().doubt_left,
              0.8, 0.01);
        QVERIFY(test::plain(drift_text(drift, "degC")).find("+ 0.2 °C") != std::string::npos);
        // The interval when that is sooner, and at once when it was opened since.
        reading.calibrate_months = 6;
        QVERIFY(drift_of(reading, records, 0.1).because == Drift::Because::interval);
        reading.bring_up.disturbed = records.back().time + 10 * day_us;
        reading.bring_up.disturbed_how = "opened";
        QVERIFY(drift_of(reading, records, 0.1).because == Drift::Because::disturbed);
        // Another path: what was proven of the old one does not count.
        Reading other = reading;
        other.path.stages.pop_back();
        QVERIFY(drift_of(other, records, 0.1).points.empty());
    }
    void oneCalibrationTrustsTheDataSheet() {
        const Reading reading = air();
        const std::vector<CalibrationRecord> one = {record_at("2026-06-01", 0.1, reading)};
        const Drift drift = drift_of(reading, one, 0.3);
        QVERIFY(drift.from_data_sheet && !drift.real());
        CLOSE(drift.band_at(one[0].time + from_seconds(365.25 * 86400)), 0.3, 1e-6);
        QCOMPARE(drift.shift_at(one[0].time + 400 * day_us), 0.0);
        QVERIFY(drift_of(reading, {}, 0.3).due == 0);
    }
    /// No drift there: the 95 % test finds one about five times in a hundred.
    void chanceIsSeldomTakenForDrift() {
        const Reading reading = air();
        int found = 0;
        for (int run = 0; run < 200; ++run) {
            std::mt19937_64 random(static_cast<std::uint64_t>(run));
            std::normal_distribution<double> normal(0, 0.05);
            std::vector<CalibrationRecord> records;
            for (const char* day : {"2022-06-01", "2023-06-01", "2024-06-01", "2025-06-01", "2026-06-01"})
                records.push_back(record_at(day, normal(random), reading));
            found += drift_of(reading, records, 0).real();
        }
        QVERIFY2(found <= 16, qPrintable(QString::number(found)));
    }

    void constantsForTheBoardCostLessThanATenth() {
        Reading reading = air();
        VALUE_OF(record, finish_calibration(reading, draft({point(0.6, 0), point(20.9, 20), point(31.1, 30)}),
                                            Model::line, 0));
        reading.correction = record.correction;
        const Chain path = effective_path(reading);
        for (const double doubt : {0.5, 0.05, 0.004}) {
            const BoardConstants line = board_constants(path, 60, 220, doubt);
            QVERIFY(line.line && line.trouble.empty());
            QVERIFY(line.rounding_cost <= doubt / 10);
            double worst = 0;
            for (double raw = 60; raw <= 220; raw += 1) // straight: it is at an end
                worst = std::max(worst, std::abs(line.slope * raw + line.offset - forward(path, raw).number));
            CLOSE(line.rounding_cost, worst, 1e-12);
        }
        QVERIFY(board_constants(path, 60, 220, 0.5).slope_decimals <
                board_constants(path, 60, 220, 0.004).slope_decimals);
        // A bent path becomes a table, no longer than the doubt asks for.
        Chain bent;
        bent.input_unit = "count";
        bent.stages = {RatioDivider{}, ThermistorBeta{}};
        std::get<RatioDivider>(bent.stages[0]).fixed_ohm.value = 10000;
        std::get<RatioDivider>(bent.stages[0]).bits = 10;
        auto& beta = std::get<ThermistorBeta>(bent.stages[1]);
        beta.r0_ohm.value = 10000;
        beta.t0_degC.value = 25;
        beta.beta_K.value = 3950;
        const BoardConstants coarse = board_constants(bent, 200, 800, 0.5),
                             fine = board_constants(bent, 200, 800, 0.05);
        QVERIFY(!coarse.line && coarse.raw.size() < fine.raw.size());
        QVERIFY2(coarse.rounding_cost <= 0.05 && fine.rounding_cost <= 0.006,
                 qPrintable(QString::number(fine.rounding_cost)));
        QVERIFY(board_code(coarse, "Rock", "°C").find("rows[][2]") != std::string::npos);
        QVERIFY(!board_constants(bent, 200, 800, 0).trouble.empty());
    }

    void thermistorsFromPairs() {
        // A part of 10 kΩ and 3950 K, exactly; then one by Steinhart and Hart.
        std::vector<ResistancePair> pairs;
        for (const double t : {0.0, 25.0, 50.0})
            pairs.push_back({t, 10000 * std::exp(3950 * (1 / (t + 273.15) - 1 / 298.15)), 0.05});
        VALUE_OF(beta, fit_thermistor(pairs));
        CLOSE(beta.beta_K, 3950, 1e-6);
        CLOSE(beta.r25_ohm, 10000, 1e-6);
        QVERIFY(beta.u_beta_K > 5 && beta.u_beta_K < 20);
        pairs.clear();
        for (const double r : {32650.0, 19900.0, 10000.0, 5325.0, 2490.0}) {
            const double l = std::log(r);
            pairs.push_back({1 / (1.1292e-3 + 2.3411e-4 * l + 8.7755e-8 * l * l * l) - 273.15, r, 0});
        }
        VALUE_OF(sh, fit_thermistor(pairs));
        CLOSE(sh.a, 1.1292e-3, 1e-9);
        CLOSE(sh.b, 2.3411e-4, 1e-10);
        CLOSE(sh.c, 8.7755e-8, 1e-13);
        QVERIFY(sh.worst_sh_K < 1e-6 && sh.worst_beta_K > 0.1);
        std::swap(pairs.front().ohm, pairs.back().ohm);
        std::swap(pairs[1].ohm, pairs[3].ohm);
        QVERIFY(fit_thermistor(pairs).error().what.find("rises") != std::string::npos);
        QVERIFY(!fit_thermistor(std::span(pairs).first(1)));
        pairs[1].ohm = 0;
        QVERIFY(fit_thermistor(pairs).error().what.find("pair 2 ") != std::string::npos);
        pairs[1].ohm = 1000;
        pairs[0].theta_degC = -273.15;
        QVERIFY(fit_thermistor(pairs).error().what.find("pair 1 ") != std::string::npos);
    }
    void twoStatesAndTheirThreshold() {
        std::mt19937_64 random(3);
        std::normal_distribution<double> quiet(200, 10), loud(600, 30);
        std::vector<double> off, on;
        for (int i = 0; i < 50; ++i) {
            off.push_back(quiet(random));
            on.push_back(loud(random));
        }
        VALUE_OF(fit, fit_threshold(off, on));
        CLOSE(fit.threshold, 300, 15); // a quarter of the way: the loud state scatters three times as much
        QVERIFY(fit.high_is_on && fit.overlap == 0 && fit.hysteresis > 0);
        VALUE_OF(reversed, fit_threshold(on, off));
        QVERIFY(!reversed.high_is_on);
        QVERIFY(fit_threshold(off, off).error().what.find("apart") != std::string::npos);
        QVERIFY(!fit_threshold(std::span(off).first(3), on));
    }
    void theBucketsStopsAreToldApart() {
        BucketTry first;
        for (int i = 0; i < 3; ++i) {
            first.doses.push_back({true, 2.8 + 0.01 * i});
            first.doses.push_back({false, 2.3 + 0.01 * i});
        }
        VALUE_OF(fit, fit_bucket(std::span(&first, 1), 2.5));
        CLOSE(fit.left.mean_mL, 2.81, 1e-9);
        CLOSE(fit.mean_mL, (2.81 + 2.31) / 2, 1e-9);
        QVERIFY(fit.left.advice.find("down") != std::string::npos &&
                fit.right.advice.find("up") != std::string::npos);
        QVERIFY(std::isnan(fit.left.turns));
        first.left_turns = 0.5;
        first.right_turns = -1;
        BucketTry second;
        for (int i = 0; i < 3; ++i) {
            second.doses.push_back({true, 2.65 + 0.01 * i});
            second.doses.push_back({false, 2.41 + 0.01 * i});
        }
        const BucketTry tries[] = {first, second};
        VALUE_OF(again, fit_bucket(tries, 2.5));
        CLOSE(again.left.turns, 0.16 / 0.3, 0.01);    // half a turn took 0.15 mL; 0.16 are left
        CLOSE(again.right.turns, -0.08 / 0.11, 0.01); // a turn up gave 0.11 mL
        QVERIFY(again.left.advice.find("turns") != std::string::npos);
        // What differs by a hundredth, or by less than it is known to, is left alone.
        const auto advised = [](double left, double right) {
            BucketTry calm;
            for (int i = 0; i < 3; ++i) {
                calm.doses.push_back({true, left});
                calm.doses.push_back({false, right + 0.05 * (i - 1)});
            }
            return fit_bucket(std::span(&calm, 1), 2.5)->left.advice +
                   fit_bucket(std::span(&calm, 1), 2.5)->right.advice;
        };
        QVERIFY2(advised(2.52, 2.45).find("turn") == std::string::npos, advised(2.52, 2.45).c_str());
        QVERIFY2(advised(2.53, 2.5).find("turn its stop down") != std::string::npos, advised(2.53, 2.5).c_str());
        QVERIFY2(advised(2.5, 2.3).find("turn its stop up") != std::string::npos, advised(2.5, 2.3).c_str());
        const BucketTry one_sided{{{true, 2.5}}, 0, 0};
        QVERIFY(!fit_bucket(std::span(&one_sided, 1), 2.5));
    }
    void strapping() {
        const std::vector<FillStep> steps = {{50, 0, 0}, {150, 20, 0.1}, {260, 20, 0.1}, {400, 20, 0.1}};
        VALUE_OF(table, fit_strapping(steps));
        QCOMPARE(table.volumes_L.back(), 60.0);
        CLOSE(table.u_L.back(), 0.1 * std::sqrt(3.0), 1e-12);
        const std::vector<FillStep> sinking = {{50, 0, 0}, {40, 20, 0.1}};
        QVERIFY(fit_strapping(sinking).error().what.find("did not rise") != std::string::npos);
    }

    void theCertificateSaysWhatAReaderAsks() {
        VALUE_OF(record, finish_calibration(air(), draft({point(0.7, 0), point(12.8, 12.1), point(22, 21.4)}),
                                            Model::offset, *parse_time("2026-11-25T14:31:00Z")));
        record.references = {"Ice and water, ± 0.1 °C"};
        record.by = "the warden";
        const CertificateAbout about{"Whelk Point",        "shore",         "Hut air",
                                     "analog thermometer", "Ice and baths", *parse_time("2027-11-25T00:00:00Z")};
        std::string all;
        for (const CertificateRow& row : certificate_rows({record, about, {}}))
            all += row.name + ": " + test::plain(row.text) + "\n";
        for (const char* wanted : {"Hut air", "Ice and water", "As found", "As left: good", "offset of −0.667 °C",
                                   "2027-11-25", "the warden", "limit ± 0.8 °C"})
            QVERIFY2(all.find(wanted) != std::string::npos, (all + wanted).c_str());
        const std::string csv = certificate_csv(record);
        QCOMPARE(std::count(csv.begin(), csv.end(), '\n'), std::ptrdiff_t(4));
        QCOMPARE(certificate_json({record, about, {}})["about"]["next_due"].get<std::string>().substr(0, 10),
                 std::string("2027-11-25"));
    }
    /// The doubt of a line, with what its two constants share, and that of a curve.
    void theCertificateSaysTheDoubtOfItsFit() {
        VALUE_OF(record, finish_calibration(air(), draft({point(0.7, 0), point(12.8, 12.1), point(22, 21.4)}),
                                            Model::offset, *parse_time("2026-11-25T14:31:00Z")));
        AppliedCorrection& c = record.correction;
        c.from = 0;
        c.to = 40;
        c.u_reference = 0.3;
        c.var_offset = 0.04;
        c.var_gain = 0.0001;
        c.covariance = -0.0015; // at 20 °C: 0.04 - 0.06 + 0.04
        const auto said = [&](const char* wanted) {
            for (const CertificateRow& row : certificate_rows({record, {}, {}}))
                if (test::plain(row.text).find(wanted) != std::string::npos) return true;
            return false;
        };
        QVERIFY(said("through the points 0.14 °C"));
        c.curve = {{0, 0, 0.37}, {40, 41, 0.37}};
        QVERIFY(said("through the points 0.37 °C"));
    }
    /// The newest says when the next one is due; each one knows what was in force before it.
    void aCertificateKnowsItsPlaceAmongTheRecords() {
        Bench bench;
        bench.name = "Whelk Point";
        std::vector<CalibrationRecord> records;
        for (const char* day : {"2026-03-01T00:00:00Z", "2026-09-01T00:00:00Z"}) {
            VALUE_OF(record, finish_calibration(air(), draft({point(0.7, 0), point(12.8, 12.1)}), Model::offset,
                                                *parse_time(day)));
            record.correction.record = record.id = static_cast<std::int64_t>(records.size()) + 1;
            record.recipe = "ice";
            records.push_back(record);
        }
        const Reading reading = air();
        Recipe ice;
        ice.id = "ice";
        ice.title = "Ice and water";
        const CertificateOf of{bench, reading, nullptr, std::span(&ice, 1)};
        const Certificate first = certificate(records, 0, of), last = certificate(records, 1, of);
        QVERIFY(!first.before && first.about.due == 0);
        QVERIFY(last.before && last.before->record == 1);
        QCOMPARE(last.about.due, drift_by_card(reading, records, nullptr).due);
        QVERIFY(last.about.due > records[1].time);
        QCOMPARE(last.about.recipe, std::string("Ice and water"));
        // What was found is judged with the correction that was in force: one that mends all finds no error.
        const ErrorPicture picture = error_picture(last.record, reading.quantity, last.before);
        QCOMPARE(picture.found.size(), std::size_t(2));
        for (const Dot& dot : picture.found)
            CLOSE(dot.y, 0, 1e-9);
        CLOSE(error_picture(last.record, reading.quantity, {}).found[0].y, 0.7, 1e-9);
    }
};

RUN_TESTS_OF(TestProof)
#include "tst_proof.moc"
