// References that compute themselves against the tables of their sources; recipes as data; the register's remarks.
#include "core/calibrate/recipe.h"
#include "core/calibrate/reference_for.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <set>

using namespace cognitum;

namespace {

Result<ReferenceValue> value_of(const char* kind, const std::map<std::string, double>& inputs) {
    return reference_value(*find_reference_kind(kind), inputs);
}

Quantity quantity(const char* kind, const char* unit, double low, double high, double accuracy) {
    Quantity q;
    q.kind = kind;
    q.unit = unit;
    q.low = low;
    q.high = high;
    q.accuracy = accuracy;
    return q;
}

} // namespace

class TestReferences : public QObject {
    Q_OBJECT

  private slots:
    void theStandardsSayTheSame_data() {
        QTest::addColumn<QString>("kind");
        QTest::addColumn<QString>("key");
        QTest::addColumn<double>("at");
        QTest::addColumn<double>("expected");
        QTest::addColumn<double>("within");
        const auto row = [](const char* kind, const char* key, double at, double expected, double within) {
            QTest::addRow("%s at %g", kind, at) << QString(kind) << QString(key) << at << expected << within;
        };
        // IAPWS-IF97, table 35: 0.1 MPa 372.755919 K, 1 MPa 453.035632 K
        row("boiling-point", "pressure_hPa", 1000, 372.755919 - 273.15, 1e-5);
        row("boiling-point", "pressure_hPa", 10000, 453.035632 - 273.15, 1e-5);
        // Greenspan (1977), table 2
        row("salt-lithium-chloride", "air_degC", 25, 11.30, 0.01);
        row("salt-magnesium-chloride", "air_degC", 20, 33.07, 0.01);
        row("salt-sodium-chloride", "air_degC", 20, 75.47, 0.01);
        row("salt-potassium-sulfate", "air_degC", 25, 97.30, 0.01);
        // Kohlrausch's potassium chloride at 25 °C
        row("kcl-0.01", "water_degC", 25, 1.413, 0.002);
        row("kcl-0.1", "water_degC", 25, 12.88, 0.02);
        row("kcl-1", "water_degC", 25, 111.8, 0.2);
    }
    void theStandardsSayTheSame() {
        QFETCH(QString, kind);
        QFETCH(QString, key);
        QFETCH(double, at);
        QFETCH(double, expected);
        QFETCH(double, within);
        VALUE_OF(value, value_of(kind.toLatin1().constData(), {{key.toStdString(), at}}));
        CLOSE(value.value, expected, within);
        QVERIFY(value.u > 0);
    }
    void boilingWaterFollowsTheHeight() {
        const ReferenceKind sea = reference_at(*find_reference_kind("boiling-point"), 0);
        const ReferenceKind hill = reference_at(*find_reference_kind("boiling-point"), 1000);
        VALUE_OF(low, reference_value(sea, {}));
        VALUE_OF(high, reference_value(hill, {}));
        CLOSE(low.value, 99.97, 0.01);
        CLOSE(high.value, 96.68, 0.05);
        // Ten hectopascals of weather are a quarter of a degree: a barometer takes that doubt away.
        CLOSE(high.u, std::hypot(0.15, 0.29), 0.02);
        QVERIFY(!sea.caution.empty());
    }
    /// A litre of water at 20 °C shows 997.15 g on a balance in air (ISO 8655-6: Z = 1.0029 at 20 °C, 1013 hPa).
    void weighedWaterKnowsTheAirsLift() {
        VALUE_OF(litre, value_of("weighed-water", {{"mass_g", 997.15}, {"water_degC", 20}}));
        CLOSE(litre.value, 1.0, 0.0001);
        VALUE_OF(warm, value_of("weighed-water", {{"mass_g", 1000}, {"water_degC", 30}}));
        CLOSE(warm.value, 1.0054, 0.0001); // Z at 30 °C
    }
    void amountsAreWhatTheyAre() {
        VALUE_OF(rain, value_of("measured-pour", {{"volume_mL", 500}, {"funnel_cm2", 200}}));
        CLOSE(rain.value, 25, 1e-12);                          // half a litre on 200 cm² stands 25 mm high
        CLOSE(rain.u, std::hypot(0.05, 25 * 1.0 / 201), 1e-6); // 1 mL, and 1 cm² of the funnel
        VALUE_OF(beats, value_of("counted-beats", {{"beats", 36}, {"seconds", 30}}));
        CLOSE(beats.value, 72, 1e-12);
        VALUE_OF(flow, value_of("timed-fill", {{"volume_L", 6}, {"seconds", 90}}));
        CLOSE(flow.value, 4, 1e-12);
        VALUE_OF(level, value_of("tape-below", {{"face_mm", 2100}, {"distance_mm", 850}}));
        CLOSE(level.value, 1250, 1e-12);
        VALUE_OF(fill, value_of("known-fill", {{"before_L", 12}, {"added_L", 5}}));
        CLOSE(fill.value, 17, 1e-12);
        VALUE_OF(poured, value_of("weighed-pour", {{"mass_g", 500}, {"water_degC", 20}, {"funnel_cm2", 200}}));
        CLOSE(poured.value, 25.07, 0.01); // as measured-pour, by a scale in air
        for (const char* nothing : {"dry", "in-air", "dry-air", "unloaded", "darkness", "state-off"})
            QCOMPARE(value_of(nothing, {})->value, 0.0);
        QCOMPARE(value_of("state-on", {})->value, 1.0);
        for (const char* all : {"saturated", "in-water"})
            QCOMPARE(value_of(all, {})->value, 100.0);
    }
    void whatIsMissingIsNamed() {
        QVERIFY(value_of("measured-pour", {{"funnel_cm2", 200}}).error().what.find("Poured") != std::string::npos);
        QVERIFY(value_of("kcl-0.1", {{"water_degC", 80}}).error().text().find("outside") != std::string::npos);
        QVERIFY(!value_of("counted-beats", {{"beats", 30}, {"seconds", 0}}));
        QVERIFY(!value_of("ice-point", {{"warmth", 3}}));
        QVERIFY(!value_of("reference-instrument", {}));
    }
    void impossibleReferencesAreRefused() {
        const Quantity warm = quantity("temperature", "degC", -10, 40, 1),
                       wet = quantity("humidity", "%", 0, 100, 3);
        QVERIFY(check_reference(warm, -20, 0.1));
        QVERIFY(check_reference(warm, -300, 0.1).error().what.find("absolute zero") != std::string::npos);
        QVERIFY(check_reference(quantity("temperature", "degF", 0, 100, 1), -470, 0.1).error().what.find("zero") !=
                std::string::npos);
        QVERIFY(check_reference(warm, 20, 0).error().what.find("above zero") != std::string::npos);
        QVERIFY(!check_reference(warm, 20, -1));
        QVERIFY(!check_reference(warm, std::nan(""), 0.1));
        QVERIFY(!check_reference(wet, 104, 1));
        QVERIFY(check_reference(quantity("rain", "mm", 0, 100, 1), -2, 0.1).error().what.find("below nothing") !=
                std::string::npos);
    }
    void theWrongUnitIsNoticed() {
        const Quantity warm = quantity("temperature", "degC", -10, 40, 1);
        QVERIFY(test::plain(unit_suspicion(warm, 20.2, 68)).find("°F") != std::string::npos);
        QVERIFY(unit_suspicion(warm, 20.2, 19.4).empty());
        QVERIFY(unit_suspicion(warm, 20.2, 35).empty()); // far off, but no other unit explains it
        const Quantity deep = quantity("level", "mm", 0, 2000, 10);
        QVERIFY(unit_suspicion(deep, 1204, 1.21).find("m") != std::string::npos);
    }
    void theRegisterRemarks() {
        Reading reading = test::small_bench().readings[0];
        reading.quantity.accuracy = 0.8;
        const TimeUs now = *parse_time("2026-11-25T00:00:00Z");
        ReferenceInstrument good{"t", "Thermometer", "temperature", "degC",       0.05,
                                 0.1, "stem",        "1",           now - day_us, now + day_us};
        QVERIFY(reference_remarks(good, reading, now).empty());
        ReferenceInstrument late = good;
        late.due = now - day_us;
        QVERIFY(reference_remarks(late, reading, now)[0].find("was due") != std::string::npos);
        ReferenceInstrument coarse = good;
        coarse.resolution = 1;
        QVERIFY(reference_remarks(coarse, reading, now)[0].find("a third") != std::string::npos);
        ReferenceInstrument twin = good;
        twin.design = reading.sensor.part;
        QVERIFY(reference_remarks(twin, reading, now)[0].find("same design") != std::string::npos);
        ReferenceInstrument other = good;
        other.unit = "hPa";
        QVERIFY(reference_remarks(other, reading, now)[0].find("another quantity") != std::string::npos);
        CLOSE(good.standard_uncertainty(), std::hypot(0.05, 0.1 / std::sqrt(12.0)), 1e-12);
        VALUE_OF(text, JsonText::parse("r", reference_json(good).dump()));
        VALUE_OF(again, read_reference(JsonReader(text)));
        QVERIFY(again == good);
        VALUE_OF(doubtless,
                 JsonText::parse("r", R"({"id":"a","name":"A","kind":"temperature","unit":"degC","u":0})"));
        QVERIFY(read_reference(JsonReader(doubtless)).error().text().find("without doubt") != std::string::npos);
    }
    /// In the reading's unit: a doubt is a difference, which has no offset.
    void aReferenceSpeaksTheReadingsUnit() {
        Reading air;
        air.quantity = {"temperature", "degF", -20, 120, 2, 60};
        VALUE_OF(ice, reference_for(*find_reference_kind("ice-point"), {}, air));
        VALUE_OF(in_degC, reference_value(*find_reference_kind("ice-point"), {}));
        CLOSE(ice.value.value, 32 + 1.8 * in_degC.value, 1e-9);
        CLOSE(ice.value.u, 1.8 * in_degC.u, 1e-9);
        QVERIFY(!ice.own);
        ReferenceInstrument stem;
        stem.unit = "degC";
        stem.u = 0.1;
        CLOSE(*instrument_doubt(stem, air), 0.18, 1e-9);
        stem.unit = "hPa";
        QVERIFY(!instrument_doubt(stem, air));
        stem.unit = "furlong";
        QVERIFY(!instrument_doubt(stem, air));
        air.quantity.unit = "mm";
        QVERIFY(!reference_for(*find_reference_kind("ice-point"), {}, air)); // no length
    }
    /// A third of the limit is the border; half a doubt more is too much. No value, nothing to say.
    void aCoarseReferenceIsDoubted() {
        Reading air;
        air.quantity = {"temperature", "degC", -10, 40, 0.6, 60};
        const auto doubts = [&](double u) {
            return reference_doubts(ReferenceValue{20, u}, nullptr, air, no_number, 0).size();
        };
        QCOMPARE(doubts(0.1), std::size_t(0));
        QCOMPARE(doubts(0.11), std::size_t(1));
        QVERIFY(reference_doubts({}, nullptr, air, 20, 0).empty());
        // 68 beside 20: it is 20 °C in °F.
        QCOMPARE(reference_doubts(ReferenceValue{68, 0.1}, nullptr, air, 20, 0).size(), std::size_t(1));
    }
    /// Every kind of quantity that domain.md calibrates has a recipe; every step's reference fits its quantity.
    void recipesAreWholeAndFit() {
        const LoadedCatalog loaded = load_catalog();
        for (const Error& problem : loaded.problems)
            qWarning("%s", problem.text().c_str());
        QVERIFY(loaded.problems.empty());
        for (const QuantityKind& kind : quantity_kinds()) {
            const auto recipes = recipes_for(loaded.recipes, kind.id);
            QVERIFY2(!recipes.empty(), kind.id.c_str());
            for (const Recipe* recipe : recipes)
                for (const RecipeStep& step : recipe->steps) {
                    const ReferenceKind* reference = find_reference_kind(step.reference);
                    if (!reference || reference->typed()) continue;
                    QVERIFY2(convert_unit(1, reference->unit, kind.units[0]),
                             (recipe->id + " " + step.title).c_str());
                }
        }
        // What can hurt is said where it is done.
        for (const char* id :
             {"ice-point", "boiling-point", "salt-sodium-chloride", "kcl-0.1", "counted-beats", "measured-pour"})
            QVERIFY2(!find_reference_kind(id)->caution.empty(), id);
        QCOMPARE(settle_seconds(*recipes_for(loaded.recipes, "temperature")[0], 8, 1), 40.0);
        // A line needs two points more than its two constants to be checked.
        for (const Recipe& recipe : loaded.recipes) {
            int points = 0;
            for (const RecipeStep& step : recipe.steps)
                points += step.reference.empty() || step.check ? 0 : step.points;
            const bool line =
                std::find(recipe.models.begin(), recipe.models.end(), Model::line) != recipe.models.end();
            QVERIFY2(!line || points >= 4, recipe.id.c_str());
        }
        QCOMPARE(recipes_for(loaded.recipes, "rain").size(), std::size_t(3)); // both schools, and a second gauge
    }
    /// A recipe is offered where its fixed points help: to the range, to the family, to what the part withstands.
    void recipesSuitThePart() {
        const LoadedCatalog loaded = load_catalog();
        const auto offered = [&](const char* part, const char* kind, const char* unit, double low, double high) {
            Reading r;
            r.quantity.kind = kind;
            r.quantity.unit = unit;
            r.quantity.low = low;
            r.quantity.high = high;
            std::set<std::string> ids;
            for (const Recipe* recipe : recipes_for(loaded.recipes, r, loaded.catalog.part(part)))
                ids.insert(recipe->id);
            return ids;
        };
        QVERIFY(offered("ntc-10k-probe", "temperature", "degC", 0, 100).count("ice-and-steam"));
        QVERIFY(
            !offered("humidity-coarse-single-wire", "temperature", "degC", 0, 50).count("ice-and-steam")); // 50 °C
        QVERIFY(!offered("analog-thermometer-without-offset", "temperature", "degC", 5, 50).count("ice-and-steam"));
        QVERIFY(offered("conductivity-analog", "conductivity", "mS/cm", 35, 60).count("sea-standards"));
        QVERIFY(!offered("conductivity-analog", "conductivity", "mS/cm", 35, 60).count("two-standards"));
        QVERIFY(offered("conductivity-analog-fresh", "conductivity", "uS/cm", 100, 2000).count("two-standards"));
        QVERIFY(offered("tyre-beacon", "pressure", "kPa", 150, 350).count("tyre-gauge"));
        QVERIFY(!offered("air-pressure-i2c", "pressure", "hPa", 950, 1050).count("tyre-gauge"));
        QVERIFY(offered("thermocouple-k-spi", "temperature", "degC", 20, 900).count("kiln"));
    }
    void fixedPointsHaveTheirPublishedValues() {
        const auto value = [](const char* id, std::map<std::string, double> in) {
            return *reference_value(*find_reference_kind(id), in);
        };
        CLOSE(value("buffer-phthalate", {{"water_degC", 25}}).value, 4.005, 1e-9);
        CLOSE(value("buffer-phosphate", {{"water_degC", 10}}).value, 6.923, 1e-9);
        CLOSE(value("buffer-borax", {{"water_degC", 37}}).value, 9.088, 1e-9);
        CLOSE(value("sea-water-35", {{"water_degC", 15}}).value, 42.914, 0.001);
        CLOSE(value("sea-water-35", {{"water_degC", 25}}).value, 53.06, 0.01); // PSS-78
        // Half a degree between probe and slush is 2.9 % of humidity at 97 %, and a tenth of that at 11 %.
        const ReferenceValue damp = value("salt-potassium-sulfate", {});
        CLOSE(2 * damp.u, 2.9, 0.35);
        QVERIFY(value("salt-lithium-chloride", {}).u < 0.25 * damp.u);
        CLOSE(value("dry-air", {}).value, 0, 0);
        QVERIFY(value("dry-air", {}).u > 0);
    }
    void aRecipeOfOnesOwnIsChecked() {
        const auto says = [](const char* json) {
            const auto text = JsonText::parse("own.json", json);
            const auto recipe = read_recipe(JsonReader(*text));
            return recipe ? std::string() : recipe.error().text();
        };
        QVERIFY(
            says(
                R"({"id":"a","title":"A","about":"b","kinds":["temperature"],"steps":[{"title":"t","text":"x","reference":"ice-point"}]})")
                .empty());
        QVERIFY(
            says(
                R"({"id":"a","title":"A","about":"b","kinds":["temperature"],"steps":[{"title":"t","text":"x","reference":"magic"}]})")
                .find("magic") != std::string::npos);
        QVERIFY(says(R"({"id":"a","title":"A","about":"b","kinds":["warmth"],"steps":[{"title":"t","text":"x"}]})")
                    .find("warmth") != std::string::npos);
        QVERIFY(
            says(R"({"id":"a","title":"A","about":"b","kinds":["rain"],"steps":[]})").find("at least one step") !=
            std::string::npos);
        QVERIFY(
            says(
                R"({"id":"a","title":"A","about":"b","kinds":["rain"],"models":["spline"],"steps":[{"title":"t","text":"x"}]})")
                .find("known are") != std::string::npos);
    }
};

RUN_TESTS_OF(TestReferences)
#include "tst_references.moc"
