// Points that become constants of the path: the new path says what the correction behind the old one would have
// said, with the same doubt; and the record keeps what was found before.
#include "core/calibrate/certificate.h"
#include "core/calibrate/drift.h"
#include "core/calibrate/path_offers.h"
#include "core/calibrate/recipe.h"
#include "core/calibrate/references.h"
#include "core/plan/findings.h"
#include "support/chains.h"
#include "support/defects.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;
using cognitum::test::chain_of;

namespace {

CalibrationPoint raw_point(double raw, double indication, double reference, double u_reference = 0.05) {
    CalibrationPoint p;
    p.reference_kind = "reference-instrument";
    p.raw = raw;
    p.indication = indication;
    p.reference = reference;
    p.u_reference = u_reference;
    p.u_indication = 0.02;
    return p;
}

Reading reading_of(const char* kind, const char* unit, const std::string& stages, double low, double high) {
    Reading r;
    r.id = "it";
    r.name = "It";
    r.quantity.kind = kind;
    r.quantity.unit = unit;
    r.quantity.low = low;
    r.quantity.high = high;
    r.quantity.accuracy = (high - low) / 50;
    r.path = chain_of(stages);
    return r;
}

/// Points at raw values, whose references are what `truth` makes of the raw value.
template <typename Truth>
std::vector<CalibrationPoint> points_at(const Reading& r, std::initializer_list<double> raws, Truth truth) {
    std::vector<CalibrationPoint> out;
    for (const double raw : raws)
        out.push_back(raw_point(raw, forward(r.path, raw).number, truth(raw)));
    return out;
}

const PathOffer* find_offer(const std::vector<PathOffer>& offers, std::string_view id) {
    for (const PathOffer& offer : offers)
        if (offer.id == id) return &offer;
    return nullptr;
}

} // namespace

class TestPathOffers : public QObject {
    Q_OBJECT

  private slots:
    /// For every stage that a straight line can stand in, with what may come before and after it.
    void aLineGoesIntoThePathsOwnConstants_data() {
        QTest::addColumn<QByteArray>("kind");
        QTest::addColumn<QByteArray>("unit");
        QTest::addColumn<QByteArray>("stages");
        QTest::addColumn<double>("low");
        QTest::addColumn<double>("high");
        QTest::addColumn<int>("model");
        const char* adc = R"({"stage":"adc","bits":10,"reference_V":5},)";
        const auto row = [&](const char* name, const char* kind, const char* unit, const QByteArray& stages,
                             double low, double high, Model model) {
            QTest::newRow(name) << QByteArray(kind) << QByteArray(unit) << stages << low << high << int(model);
        };
        const QByteArray linear =
            QByteArray(adc) + R"({"stage":"linear","zero":0.5,"slope":0.01,"input_unit":"V","unit":"degC"})";
        row("zero and slope", "temperature", "degC", linear, 110, 250, Model::line);
        row("zero alone", "temperature", "degC", linear, 110, 250, Model::offset);
        row("behind it another unit", "temperature", "degF",
            linear + R"(,{"stage":"scale","factor":1.8,"offset":32,"input_unit":"degC","unit":"degF"})", 110, 250,
            Model::line);
        row("tips", "rain", "mm", R"({"stage":"scale","factor":0.2,"input_unit":"count","unit":"mm"})", 10, 400,
            Model::gain);
        row("dry and wet", "soil-moisture", "%",
            QByteArray(adc) + R"({"stage":"between","at_0":2.3,"at_100":1.0,"input_unit":"V"})", 220, 450,
            Model::line);
        row("mounting height", "level", "mm",
            R"({"stage":"echo","temperature_degC":15},{"stage":"level","mount_height_mm":2000})", 2000, 9000,
            Model::offset);
        row("a cell", "conductivity", "mS/cm",
            QByteArray(adc) + R"({"stage":"linear","zero":0,"slope":0.5,"input_unit":"V","unit":"mS/cm"},
                {"stage":"conductivity25","temperature_degC":18})",
            100, 400, Model::gain);
    }
    void aLineGoesIntoThePathsOwnConstants() {
        QFETCH(QByteArray, kind);
        QFETCH(QByteArray, unit);
        QFETCH(QByteArray, stages);
        QFETCH(double, low);
        QFETCH(double, high);
        QFETCH(int, model);
        const Reading r = reading_of(kind, unit, stages.toStdString(), 0, 100);
        const double gain = model == int(Model::offset) ? 1 : 1.04, offset = model == int(Model::gain) ? 0 : -0.7;
        const double step = (high - low) / 4;
        int i = 0;
        CalibrationDraft draft;
        for (double raw = low; raw <= high; raw += step) { // a little scatter, for a doubt
            const double shown = forward(r.path, raw).number;
            draft.points.push_back(raw_point(raw, shown, gain * shown + offset + (++i % 2 ? 0.02 : -0.02)));
        }
        VALUE_OF(behind, finish_calibration(r, draft, static_cast<Model>(model), 1));
        const auto offers = path_offers(r, {}, draft.points, behind.correction, 1);
        const PathOffer* offer = find_offer(offers, "straight");
        QVERIFY(offer);
        QVERIFY2(offer->possible, offer->words.c_str());
        VALUE_OF(inside, finish_into_path(r, draft, *offer, 1));
        for (double raw = low; raw <= high; raw += step / 3) {
            const double shown = forward(r.path, raw).number;
            const double mended = forward(offer->path, raw).number;
            CLOSE(mended, corrected(behind.correction, shown), 1e-9 * (1 + std::abs(mended)));
            QCOMPARE(corrected(inside.correction, mended), mended);
            CLOSE(correction_u(inside.correction, mended), correction_u(behind.correction, shown), 1e-9);
        }
        CLOSE(inside.worst_left, behind.worst_left, 1e-9);
        QVERIFY(std::isnan(said_after(inside, inside.points[0])));
        QCOMPARE(said_after(inside, inside.points.back()), inside.points.back().indication);
        CLOSE(inside.worst_found, behind.worst_found, 1e-12);
        QCOMPARE(inside.verdict_left, behind.verdict_left);
        QVERIFY2(inside.into.find(offer->words) != std::string::npos, inside.into.c_str());
        // What was found stands there as it was; beside it what the new path makes of the same raw values.
        QCOMPARE(inside.points.size(), 2 * draft.points.size());
        for (std::size_t k = 0; k < draft.points.size(); ++k) {
            QVERIFY(inside.points[k] == draft.points[k]);
            const CalibrationPoint& again = inside.points[draft.points.size() + k];
            QVERIFY(again.as_left && again.raw == draft.points[k].raw);
            CLOSE(again.indication, forward(offer->path, again.raw).number,
                  1e-9 * (1 + std::abs(again.indication)));
        }
    }
    /// A gain that was found in water of one temperature holds in water of every other.
    void aCellsFactorHoldsAtEveryTemperature() {
        Reading r = reading_of("conductivity", "mS/cm",
                               R"({"stage":"linear","zero":0,"slope":0.5,"input_unit":"V","unit":"mS/cm"},
                {"stage":"conductivity25","temperature_degC":20,"from_temperature_degC":"pool"})",
                               0, 5);
        const auto water = [](double celsius) { return Partners{{"pool", {celsius, 0.1, "degC", "Pool", 0}}}; };
        AppliedCorrection c;
        c.gain = 1.07;
        CalibrationDraft draft;
        const double at_12 = forward(uncorrected_path(r, water(12)), 1).number;
        draft.points = {raw_point(1, at_12, 1.07 * at_12)};
        const auto offers = path_offers(r, water(12), draft.points, c, 0);
        QVERIFY2(offers[0].possible, offers[0].words.c_str());
        Reading mended = r;
        mended.path = offers[0].path;
        QCOMPARE(followed(mended.path), followed(r.path)); // it still asks the water
        for (const double celsius : {2.0, 12.0, 31.0})
            for (const double volts : {0.2, 1.0, 2.1})
                CLOSE(forward(uncorrected_path(mended, water(celsius)), volts).number,
                      1.07 * forward(uncorrected_path(r, water(celsius)), volts).number, 1e-12);
        CLOSE(offers[0].indications[0], draft.points[0].reference, 1e-12);
    }
    void whatHasNoPlaceInThePathSaysSo() {
        const Reading cell = reading_of("conductivity", "mS/cm",
                                        R"({"stage":"linear","zero":0,"slope":0.5,"input_unit":"V","unit":"mS/cm"},
                {"stage":"conductivity25","temperature_degC":18})",
                                        0, 5);
        AppliedCorrection c;
        c.offset = 0.2;
        const auto cell_offers = path_offers(cell, {}, {}, c, 0);
        QVERIFY(!cell_offers[0].possible && cell_offers[0].words.find("gain only") != std::string::npos);
        const Reading level = reading_of("level", "mm", R"({"stage":"level","mount_height_mm":2000})", 0, 2000);
        c.gain = 1.1;
        const auto level_offers = path_offers(level, {}, {}, c, 0);
        QVERIFY(!level_offers[0].possible && level_offers[0].words.find("offset only") != std::string::npos);
        c.curve = {{0, 0, 0}, {1, 2, 0}};
        QVERIFY(!path_offers(level, {}, {}, c, 0)[0].possible);
        QVERIFY(!path_offers(level, {}, {}, {}, 0)[0].possible);
        QVERIFY(!finish_into_path(level, {}, path_offers(level, {}, {}, {}, 0)[0], 0));
        // A bent path, and one that sends finished numbers, have no straight place at all.
        QVERIFY(
            path_offers(reading_of("temperature", "degC", R"({"stage":"rtd","r0_ohm":100})", 0, 50), {}, {}, {}, 0)
                .empty());
        Reading finished = level;
        finished.path = {};
        QVERIFY(path_offers(finished, {}, {}, {}, 0).empty());
    }
    /// A thermistor of known constants, planned with others: its own come out, in two and in three coefficients.
    void aThermistorsConstants() {
        const Reading r = reading_of("temperature", "degC",
                                     R"({"stage":"ratio_divider","fixed_ohm":10000,"unknown":"bottom","bits":16},
                {"stage":"thermistor_beta","r0_ohm":10000,"t0_degC":25,"beta_K":3950})",
                                     -10, 50);
        const auto raw_at = [&](double celsius) {
            const double ohm = 9960 * std::exp(3890 * (1 / (celsius + 273.15) - 1 / 298.15));
            return inverse(r.path.stages[0], ohm).number;
        };
        CalibrationDraft draft;
        for (const double t : {0.0, 12.0, 25.0, 40.0})
            draft.points.push_back(raw_point(raw_at(t), forward(r.path, raw_at(t)).number, t));
        draft.points.push_back(raw_point(raw_at(18), 18.4, 18));
        draft.points.back().check = true;
        draft.points.push_back(raw_point(raw_at(18), 18.4, 25));
        draft.points.back().set_aside = "the flask was tipped over";
        const auto offers = path_offers(r, {}, draft.points, {}, 0);
        QCOMPARE(offers.size(), std::size_t(2));
        for (const PathOffer& offer : offers) {
            QVERIFY2(offer.possible, offer.words.c_str());
            // Nor does it leave over what it was not fitted to.
            const std::size_t left = offer.words.find("leaves up to ");
            QVERIFY2(left != std::string::npos && std::strtod(offer.words.c_str() + left + 13, nullptr) < 0.01,
                     offer.words.c_str());
            for (const double t : {-5.0, 8.0, 33.0, 45.0})
                CLOSE(forward(offer.path, raw_at(t)).number, t, 0.01);
            VALUE_OF(record, finish_into_path(r, draft, offer, 0));
            QVERIFY(std::abs(record.worst_found) > 0.3 && std::abs(record.worst_left) < 0.01);
            CLOSE(record.worst_check, 0, 0.01); // the check goes through the new path as well
            QCOMPARE(record.verdict_check, std::string("pass"));
            QCOMPARE(record.points.size(), std::size_t(11)); // what was set aside is not copied
        }
        const auto& beta = std::get<ThermistorBeta>(offers[0].path.stages[1]);
        CLOSE(beta.beta_K.value, 3890, 0.1);
        CLOSE(beta.r0_ohm.value, 9960, 0.1);
        QVERIFY(beta.beta_K.origin.find("4 points") != std::string::npos);
        QVERIFY(!path_offers(r, {}, {draft.points[0]}, {}, 0)[0].possible);
    }
    /// A cistern that bulges in the middle: its own table comes out, and holds at every filling.
    void aVesselMeasuresItself() {
        const Reading r = reading_of("volume", "L",
                                     R"({"stage":"level","mount_height_mm":1000},
                {"stage":"vessel","shape":"upright-cylinder","diameter_m":0.8,"height_m":0.9})",
                                     0, 400);
        const auto litres = [](double level) { return 0.5 * level + 40 * std::sin(level / 900 * 3.14159265); };
        auto points = points_at(r, {950, 800, 650, 500, 350, 200}, [&](double raw) { return litres(1000 - raw); });
        std::swap(points[1], points[4]); // in whatever order they were taken
        const auto offers = path_offers(r, {}, points, {}, 0);
        const PathOffer* table = find_offer(offers, "strapping");
        QVERIFY(table);
        QVERIFY2(table->possible, table->words.c_str());
        for (const CalibrationPoint& p : points)
            CLOSE(forward(table->path, p.raw).number, p.reference, 1e-9);
        CLOSE(forward(table->path, 425).number, litres(575), 1.5);
        QCOMPARE(forward(table->path, 1000).number, 0.0);
        QVERIFY(chain_of(stage_json(table->path.stages[1]).dump()).stages[0] == table->path.stages[1]);
        // What is in it is as doubtful as the most doubtful row, in the reading's own unit.
        for (const auto& [at, u] : {std::pair(0, 0.4), {2, 1.5}, {3, 0.9}})
            points[static_cast<std::size_t>(at)].u_reference = u;
        CLOSE(find_offer(path_offers(r, {}, points, {}, 0), "strapping")->doubt.u_reference, 1.5, 1e-9);
        Reading in_cubic_metres = r;
        in_cubic_metres.quantity.unit = "m3";
        in_cubic_metres.path.stages.push_back(
            chain_of(R"({"stage":"linear","zero":0,"slope":1000,"input_unit":"L","unit":"m3"})").stages[0]);
        auto cubic = points;
        for (CalibrationPoint& p : cubic)
            p.reference /= 1000, p.u_reference /= 1000;
        CLOSE(find_offer(path_offers(in_cubic_metres, {}, cubic, {}, 0), "strapping")->doubt.u_reference, 0.0015,
              1e-9);
        points[0].reference = 500; // the lowest level holds the most?
        QVERIFY(!find_offer(path_offers(r, {}, points, {}, 0), "strapping")->possible);
    }
    /// A wet board's voltage: between the two states there is no value.
    void aThresholdBetweenTwoStates() {
        Reading r = reading_of("contact", "1", R"({"stage":"adc","bits":10,"reference_V":5})", 0, 1);
        r.quantity.accuracy = 0.5;
        std::vector<CalibrationPoint> points;
        for (int i = 0; i < 5; ++i) {
            points.push_back(raw_point(800 + 4 * i, 4, 0, 1e-3)); // dry: high
            points.push_back(raw_point(300 + 9 * i, 1.6, 1, 1e-3));
        }
        const auto offers = path_offers(r, {}, points, {}, 0);
        const PathOffer* offer = find_offer(offers, "threshold");
        QVERIFY(offer);
        QVERIFY2(offer->possible && offer->words.find("on below") != std::string::npos, offer->words.c_str());
        for (const CalibrationPoint& p : points)
            QCOMPARE(forward(offer->path, p.raw).number, p.reference);
        const auto& stage = std::get<Threshold>(offer->path.stages.back());
        const double middle = (stage.level.value / 5) * 1024 - 0.5;
        QCOMPARE(forward(offer->path, middle).cause, Cause::undecided);
        CalibrationDraft draft;
        draft.points = points;
        VALUE_OF(record, finish_into_path(r, draft, *offer, 0));
        QCOMPARE(record.verdict_left, std::string("pass"));
        QCOMPARE(record.verdict_found, std::string("fail")); // volts are no state
        points.resize(6);
        QVERIFY(!find_offer(path_offers(r, {}, points, {}, 0), "threshold")->possible);
    }

    /// Kept out of the fit, judged with what it found; taken before something was turned it says nothing of after.
    void aCheckJudgesAndIsNotFitted() {
        const Reading r = test::small_bench().readings[0];
        CalibrationDraft draft;
        for (const double t : {0.0, 10.0, 20.0, 30.0})
            draft.points.push_back(raw_point(100, t + 0.5, t));
        draft.points.push_back(raw_point(100, 17.5, 15)); // 2 °C beyond what the others found
        draft.points.back().check = true;
        VALUE_OF(record, finish_calibration(r, draft, Model::offset, 0));
        CLOSE(record.correction.offset, -0.5, 1e-9);
        CLOSE(record.worst_left, 0, 1e-9);
        CLOSE(record.worst_check, 2, 1e-9);
        QCOMPARE(record.verdict_check, std::string("fail"));
        VALUE_OF(compared, finish_calibration(r, draft, std::nullopt, 0));
        CLOSE(compared.worst_check, 2.5, 1e-9);
        CLOSE(compared.worst_found, 0.5, 1e-9);
        VALUE_OF(text, JsonText::parse("record", record_json(record).dump()));
        VALUE_OF(again, read_record(JsonReader(text)));
        QVERIFY(again.points == record.points && again.verdict_check == "fail");
        CLOSE(again.doubt_check, record.doubt_check, 1e-15);
        bool said = false;
        for (const CertificateRow& row : certificate_rows({record, {}, {}}))
            said |= row.name == "Check" && test::plain(row.text).find("off by up to 2.0") != std::string::npos;
        QVERIFY(said);
        draft.points.push_back(raw_point(100, 10.1, 10));
        draft.points.back().as_left = true;
        VALUE_OF(turned, finish_calibration(r, draft, Model::offset, 0));
        QVERIFY(turned.verdict_check.empty());
    }
    /// What was adjusted before anybody looked was not found good.
    void whatWasNotComparedIsNotGood() {
        CalibrationDraft draft;
        draft.points = {raw_point(100, 10.1, 10), raw_point(100, 20.1, 20)};
        for (CalibrationPoint& p : draft.points)
            p.as_left = true;
        VALUE_OF(record, finish_calibration(test::small_bench().readings[0], draft, Model::offset, 0));
        QVERIFY(record.verdict_found.empty());
        VALUE_OF(text, JsonText::parse("record", record_json(record).dump()));
        VALUE_OF(again, read_record(JsonReader(text)));
        QVERIFY(again.verdict_found.empty() && again.verdict_left == "pass");
        bool said = false;
        for (const CertificateRow& row : certificate_rows({record, {}, {}}))
            said |= row.name == "As found" && row.text.find("not compared") == 0;
        QVERIFY(said);
    }
    void aDraftKeepsWhatWasBegun() {
        CalibrationDraft draft;
        draft.recipe = "slow-drip";
        draft.started = TimedValue{1'700'000'000'000'000, 12.4};
        VALUE_OF(text, JsonText::parse("draft", draft_json(draft).dump()));
        VALUE_OF(again, read_draft(JsonReader(text)));
        QVERIFY(again == draft);
    }
    /// A path that got its constants from its points was another one before: only what was left is of it.
    void driftBeginsAnewWithThePath() {
        Reading r =
            reading_of("rain", "mm", R"({"stage":"scale","factor":0.2,"input_unit":"count","unit":"mm"})", 0, 100);
        CalibrationDraft draft;
        draft.points = points_at(r, {50, 100, 200}, [](double raw) { return 0.21 * raw; });
        VALUE_OF(behind, finish_calibration(r, draft, Model::gain, 0));
        const PathOffer offer = path_offers(r, {}, draft.points, behind.correction, 0)[0];
        VALUE_OF(first, finish_into_path(r, draft, offer, day_us));
        r.path = offer.path;
        r.correction = first.correction;
        QVERIFY(!correction_is_stale(r));
        const Drift drift = drift_of(r, std::vector{first}, 0.1);
        QCOMPARE(drift.points.size(), std::size_t(1));
        CLOSE(drift.points[0].error, 0, 1e-9); // not the 10 mm that the old factor was off by
    }
    /// A bucket that was found to tip at a quarter more than its data sheet says is no mistake in the path; the
    /// same number that somebody typed is asked about.
    void aCalibratedTipIsNotHeldAgainstThePlan() {
        Bench bench = test::bench_with("rain", "tipping-bucket", "board-5v-8bit-6-analog", [](Reading& r) {
            r.quantity.funnel = {250, 5};
        });
        Reading& r = bench.readings[0];
        const double planned = 10 * r.quantity.funnel.tip_mL / r.quantity.funnel.area_cm2;
        CalibrationDraft draft;
        draft.points = points_at(r, {50, 100, 200}, [&](double raw) { return 1.25 * planned * raw; });
        VALUE_OF(behind, finish_calibration(r, draft, Model::gain, 0));
        const auto offers = path_offers(r, {}, draft.points, behind.correction, 0);
        const PathOffer* offer = find_offer(offers, "straight");
        QVERIFY(offer && offer->possible);
        r.path = offer->path;
        const auto differs = [&] {
            const auto found = check_bench(bench, test::catalog());
            return std::any_of(found.begin(), found.end(),
                               [](const Finding& f) { return f.id == "path-differs-from-plan"; });
        };
        QVERIFY(!differs());
        for (const KnownBy other : {KnownBy::statement, KnownBy::assumption, KnownBy::hand}) {
            std::get<Scale>(r.path.stages.front()).factor.known_by = other;
            QVERIFY(differs());
        }
    }
    /// 0.1 mol/L at 19 °C conducts 11.43 mS/cm; a path that compensates by 2 % a degree states it at 25 °C.
    void aStandardAsThePathStatesIt() {
        const ReferenceKind& kind = *find_reference_kind("kcl-0.1");
        VALUE_OF(standard, reference_value(kind, {{"water_degC", 19}}));
        const Chain path = chain_of(R"({"stage":"conductivity25","temperature_degC":25,"alpha_per_K":0.02})");
        const ReferenceValue stated = as_compensated(standard, path, 19);
        CLOSE(stated.value, standard.value / 0.88, 1e-9);
        CLOSE(stated.u / stated.value, standard.u / standard.value, 1e-12);
        QVERIFY(std::abs(stated.value - 12.88) < 0.15); // potassium chloride is not quite 2 % a degree
        QCOMPARE(as_compensated(standard, chain_of(R"({"stage":"level","mount_height_mm":1})"), 19).value,
                 standard.value);
    }
};

RUN_TESTS_OF(TestPathOffers)
#include "tst_path_offers.moc"
