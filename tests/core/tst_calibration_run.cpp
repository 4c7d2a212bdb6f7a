// A whole calibration without a window: steps, the gate, points, models and the record, as the page drives them.
#include "core/calibrate/pictures.h"
#include "core/calibrate/run.h"
#include "support/calibrations.h"
#include "support/run_tests.h"

using namespace cognitum;
using namespace cognitum::test;

namespace {

/// A reading whose path is `per_count` for each count.
Reading counting(const char* kind, const char* unit, double per_count) {
    Reading r;
    r.id = r.name = "r";
    r.quantity.kind = kind;
    r.quantity.unit = unit;
    r.quantity.low = 0;
    r.quantity.high = 100;
    r.quantity.accuracy = 0.5;
    Scale scale;
    scale.input_unit = "count";
    scale.unit = unit;
    scale.factor.value = per_count;
    r.path.stages.push_back(scale);
    return r;
}

Recipe recipe(Capture capture, std::vector<int> points_at_steps) {
    Recipe out;
    out.id = "one";
    out.capture = capture;
    out.models = {Model::offset, Model::line};
    for (const int points : points_at_steps) {
        RecipeStep step;
        step.title = "step";
        step.reference = "other";
        step.points = points;
        out.steps.push_back(step);
    }
    return out;
}

struct Bench1 {
    Reading reading;
    Recipe how;
    CalibrationRun run;
    TimeUs now = 1'000'000 * second_us;

    Bench1(Reading r, Recipe recipe, CalibrationDraft draft = {})
        : reading(std::move(r)), how(std::move(recipe)), run(reading, nullptr, {&how}, std::move(draft)) {
        run.follow(reading, uncorrected_path(reading));
    }
    /// One value a second, by a function of the second.
    template <typename Raw>
    const Indication& pass(int seconds, Raw raw) {
        double last = 0;
        for (int i = 0; i < seconds; ++i) {
            now += second_us;
            run.feed(now, last = raw(i));
        }
        return run.look(now, last);
    }
    const CalibrationPoint* take(double value, bool as_left = false) {
        return run.take(now, {"other", "", value, 0.05}, as_left);
    }
};

} // namespace

class TestCalibrationRun : public QObject {
    Q_OBJECT

  private slots:
    void aPointWaitsUntilItStandsStill() {
        Bench1 b(counting("temperature", "degC", 0.1), recipe(Capture::steady, {2, 1}));
        QCOMPARE(b.run.look(b.now, {}).readiness, Readiness::no_value);
        QVERIFY(!b.take(20));
        QCOMPARE(b.pass(30, [](int i) { return 100 + 5.0 * i; }).readiness, Readiness::moving);
        QVERIFY(b.run.look(b.now, 245.0).can_take()); // by force
        const CalibrationPoint* forced = b.take(20);
        QVERIFY(forced && forced->forced);
        QCOMPARE(b.pass(40, [](int i) { return 200.0 + i % 2; }).readiness, Readiness::steady);
        CLOSE(b.run.look(b.now, 201.0).shown, 20.05, 1e-9);
        const CalibrationPoint* calm = b.take(20.3);
        QVERIFY(calm && !calm->forced);
        CLOSE(calm->indication, 20.05, 1e-9);
        CLOSE(calm->raw, 200.5, 1e-9);
        QCOMPARE(b.run.step(), 1); // two points were asked for
        // The figure has the digits that half a step of the raw value is worth.
        QCOMPARE(b.run.look(b.now, 201.0).decimals, 2);
    }
    void aFailureIsNoIndication() {
        Bench1 b(counting("temperature", "degC", 0.1), recipe(Capture::steady, {1}));
        b.pass(40, [](int) { return 200.0; });
        const Indication& failed = b.run.look(b.now, {}, Cause::failed);
        QCOMPARE(failed.readiness, Readiness::no_value);
        QCOMPARE(failed.now.cause, Cause::failed);
        QVERIFY(!failed.can_take() && !b.take(20));
        QVERIFY(b.run.points().empty());
    }
    void aChangeIsTakenFromItsStart() {
        Bench1 b(counting("rain", "mm", 0.2), recipe(Capture::change, {1, 1}));
        QCOMPARE(b.pass(3, [](int) { return 40.0; }).readiness, Readiness::not_started);
        QVERIFY(!b.take(25));
        b.run.start_change(b.now);
        QVERIFY(b.run.begun());
        QCOMPARE(b.pass(100, [](int i) { return 40.0 + i; }).readiness, Readiness::changing);
        CLOSE(b.run.look(b.now, 139.0).shown, 19.8, 1e-9);
        CLOSE(b.run.look(b.now, 139.0).since_start_s, 100, 1e-9);
        const CalibrationPoint* p = b.take(20.6);
        QVERIFY(p && !b.run.draft().started);
        CLOSE(p->indication, 19.8, 1e-9);
        CLOSE(p->raw, 99, 1e-9);
        CLOSE(p->u_indication, 0.2 / std::sqrt(6.0), 1e-12); // half a tip more or less at either end
        // A board that begins anew in between.
        b.run.look(b.now, 139.0);
        b.run.start_change(b.now);
        QCOMPARE(b.pass(5, [](int i) { return 0.0 + i; }).readiness, Readiness::went_back);
        QVERIFY(!b.take(20));
        b.run.go_to_step(1);
        QVERIFY(!b.run.draft().started);
    }
    void aStateIsWhatItIsNow() {
        Recipe compare = recipe(Capture::steady, {5});
        compare.models.clear();
        Reading gate = counting("contact", "1", 1);
        gate.path.stages.clear(); // it sends its state
        Bench1 b(gate, compare);
        QCOMPARE(b.pass(1, [](int) { return 1.0; }).readiness, Readiness::as_it_is);
        b.now += hour_us; // it need not say so again
        b.run.look(b.now, 1.0);
        QVERIFY(b.take(1) && b.run.only_compares() && !b.run.fit());
        VALUE_OF(record, b.run.record(false, b.now));
        QCOMPARE(record.verdict_found, std::string("pass"));
        QVERIFY(!b.run.record(true, b.now));
    }
    void theModelIsRecommendedOrChosen() {
        Bench1 b(counting("temperature", "degC", 0.1), recipe(Capture::steady, {9}));
        QVERIFY(!b.run.fit() && b.run.models().empty() && !b.run.no_fit().empty());
        for (const double at : {0.0, 10.0, 20.0, 30.0}) {
            b.pass(40, [&](int) { return 10 * at; });
            QVERIFY(b.take(1 + 1.1 * at));
        }
        QCOMPARE(b.run.fit()->model, Model::line);
        QVERIFY(!b.run.reason().empty() && !b.run.model_by_hand());
        b.run.use_model(Model::offset);
        QCOMPARE(b.run.fit()->model, Model::offset);
        VALUE_OF(by_hand, b.run.record(true, b.now));
        QCOMPARE(by_hand.model, std::string("offset"));
        b.run.use_model({});
        VALUE_OF(record, b.run.record(true, b.now));
        VALUE_OF(alone, finish_calibration(b.reading, b.run.draft(), Model::line, b.now));
        QCOMPARE(record_json(record).dump(), record_json(alone).dump());
        CLOSE(record.correction.gain, 1.1, 1e-9);
        // A point that is set aside counts no longer, and is not gone.
        b.run.set_aside(3, "slipped");
        QCOMPARE(b.run.points().size(), std::size_t(4));
        QCOMPARE(fit_points(b.run.points()).size(), std::size_t(3));
        const FitPicture picture = fit_picture(b.reading.quantity, b.run.points(), b.run.fit());
        QCOMPARE(picture.used.size(), std::size_t(3));
        QCOMPARE(picture.aside.size(), std::size_t(1));
        b.run.set_aside(3, "");
        QCOMPARE(fit_points(b.run.points()).size(), std::size_t(4));
    }
    /// What the plan says of the reading is heard at once: its accuracy is the limit of the verdict.
    void aReadingThatChangesIsJudgedAnew() {
        Reading coarse = counting("temperature", "degC", 0.1);
        coarse.quantity.accuracy = 5;
        Bench1 b(coarse, recipe(Capture::steady, {9}));
        for (const double at : {0.0, 10.0, 20.0, 30.0}) {
            b.pass(40, [&](int) { return 10 * at; });
            QVERIFY(b.take(at + 0.2));
        }
        b.run.use_model(Model::offset);
        VALUE_OF(lenient, b.run.record(false, b.now));
        QCOMPARE(lenient.verdict_found, std::string("pass"));
        Reading strict = b.reading;
        strict.quantity.accuracy = 0.1;
        b.run.follow(strict, uncorrected_path(strict));
        VALUE_OF(judged, b.run.record(false, b.now));
        QVERIFY(judged.verdict_found != "pass");
        Reading low = strict;
        low.quantity.low = 10;
        b.run.follow(low, uncorrected_path(low));
        VALUE_OF(record, b.run.record(true, b.now));
        VALUE_OF(alone, finish_calibration(low, b.run.draft(), Model::offset, b.now));
        QCOMPARE(record_json(record).dump(), record_json(alone).dump());
    }
    void whatNeedsMorePointsIsSaid() {
        Bench1 b(counting("temperature", "degC", 0.1), recipe(Capture::steady, {9}));
        b.pass(40, [](int) { return 100.0; });
        b.take(10.4);
        const std::vector<ModelCandidate> models = b.run.models();
        QCOMPARE(models.size(), std::size_t(2));
        QVERIFY(models[0].fit && models[0].chosen && !models[1].fit);
        QCOMPARE(models[1].model, Model::line);
        QCOMPARE(models[1].points_needed, 4);
    }
    /// Turns are numbers: what was turned between the doses tells how far one turn goes.
    void aBucketsTurnsAreNumbers() {
        Recipe dose = recipe(Capture::change, {8});
        dose.dose = true;
        Reading rain = counting("rain", "mm", 0.2);
        rain.quantity.funnel = {200, 4};
        Bench1 b(rain, dose);
        double tips = 0;
        const auto pour = [&](double mL, bool as_left) {
            b.pass(2, [&](int) { return tips; });
            b.run.start_change(b.now);
            b.pass(2, [&](int) { return tips + 1; });
            ++tips;
            QVERIFY(b.take(mL * 10 / 200, as_left));
        };
        for (const double mL : {4.4, 3.8})
            pour(mL, false);
        b.run.turned(0.5, -1);
        for (const double mL : {4.2, 3.9})
            pour(mL, true);
        const auto advice = b.run.bucket(0);
        QVERIFY(advice && advice->fit && advice->next_is_left);
        // Half a turn down took 0.2 mL off the left side: half a turn more mends the rest.
        CLOSE(advice->fit->left.turns, 0.5, 1e-9);
        CLOSE(advice->fit->right.turns, -1, 1e-9);
        QVERIFY(!Bench1(rain, recipe(Capture::change, {8})).run.bucket(0)); // no stop is turned there
    }
    void aBucketNeedsDosesAndAVolume() {
        BucketTry once;
        once.doses = {{true, 4.1}, {false, 3.9}};
        const std::vector<BucketTry> tries = {once};
        QVERIFY(!fit_bucket({}, 4));
        for (const double wanted : {0.0, -4.0, std::nan("")})
            QVERIFY(!fit_bucket(tries, wanted));
        QVERIFY(fit_bucket(tries, 1e-9) && fit_bucket(tries, 4));
        for (const double dose : {0.0, -1.0, std::nan("")}) {
            std::vector<BucketTry> wrong = {once, once};
            wrong[0].doses[1].mL = dose;
            const auto fit = fit_bucket(wrong, 4);
            QVERIFY(!fit && fit.error().what.find("dose 2") == 0);
        }
    }
    /// What was begun goes on where it was, and a draft that names what is not there any more begins its recipe.
    void aDraftGoesOn() {
        CalibrationDraft draft;
        draft.recipe = "one";
        draft.step = 1;
        draft.points = {point(10, 10.4), point(20, 20.4)};
        Bench1 b(counting("temperature", "degC", 0.1), recipe(Capture::steady, {2, 1}), draft);
        QCOMPARE(b.run.step(), 1);
        QVERIFY(b.run.begun() && b.run.fit());
        draft.recipe = "gone";
        draft.step = 17;
        Bench1 other(counting("temperature", "degC", 0.1), recipe(Capture::steady, {2, 1}), draft);
        QCOMPARE(other.run.recipe()->id, std::string("one"));
        QCOMPARE(other.run.step(), 0); // of another recipe than its draft was at
        other.run.go_to_step(-4);
        QCOMPARE(other.run.step(), 0);
        QVERIFY(!CalibrationRun().recipe() && !CalibrationRun().fit());
    }
    /// What arrives twice or late counts once.
    void arrivalsCountOnce() {
        Bench1 b(counting("temperature", "degC", 0.1), recipe(Capture::steady, {1}));
        b.pass(10, [](int) { return 100.0; });
        const std::size_t n = b.run.arrivals().size();
        b.run.feed(b.now, 500);
        b.run.feed(b.now - second_us, 500);
        QCOMPARE(b.run.arrivals().size(), n);
        b.run.feed(b.now + second_us, std::nan("")); // a line without it
        QCOMPARE(b.run.arrivals().size(), n);
    }
};

RUN_TESTS_OF(TestCalibrationRun)
#include "tst_calibration_run.moc"
