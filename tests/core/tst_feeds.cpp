// Readings that feed each other, and the paths that are made from cards for levels, volumes, conductivity, rain and
// numbers that need a correction.
#include "core/physics/thermocouple.h"
#include "core/plan/findings.h"
#include "core/plan/reading_doubt.h"
#include "support/defects.h"
#include "support/run_tests.h"

using namespace cognitum;
using test::catalog;

namespace {

Reading thermometer(const char* id, bool water) {
    Reading r;
    r.id = r.name = id;
    r.quantity.around.water = water;
    return r;
}

/// A bench with that reading and two thermometers, one in water; the part is placed behind them.
Bench beside_thermometers(const char* kind, const char* part, const char* board,
                          const std::function<void(Reading&)>& ask = {}) {
    Bench bench = test::bench_with(kind, part, board, ask);
    bench.readings.push_back(thermometer("air", false));
    bench.readings.push_back(thermometer("water", true));
    refresh_path(bench, catalog(), bench.readings[0]);
    return bench;
}

template <typename T>
const T* stage_of(const Chain& chain) {
    for (const Stage& stage : chain.stages)
        if (const T* found = std::get_if<T>(&stage)) return found;
    return nullptr;
}

} // namespace

class TestFeeds : public QObject {
    Q_OBJECT

  private slots:
    void aConductivityFollowsTheWater() {
        const Bench bench = beside_thermometers("conductivity", "conductivity-analog", "board-3v3-12bit-wifi");
        const Reading& r = bench.readings[0];
        const auto* at_25 = stage_of<Conductivity25>(r.path);
        QVERIFY(at_25);
        QCOMPARE(at_25->temperature_degC.from, std::string("water"));
        QCOMPARE(followed(r.path), std::vector<std::string>{"water"});
        const double code = 1700;
        const double assumed = forward(effective_path(r), code).number;
        Partners partners = {{"water", {10, 0.2, "degC", "Pool water", 0}}};
        const double fed = forward(effective_path(r, partners), code).number;
        CLOSE(fed / assumed, (1 + 0.02 * (20 - 25)) / (1 + 0.02 * (10 - 25)), 1e-9);
        // The doubt falls with it, and says from where.
        const Budget far = reading_budget(r, nullptr, code, 0, 0),
                     near = reading_budget(r, nullptr, code, 0, 0, 0, partners);
        CLOSE(far.find("temperature_degC")->u, 0.02 / 0.9 * assumed * 8 / std::sqrt(3.0), 0.02);
        CLOSE(near.find("temperature_degC")->u, 0.02 / 0.7 * fed * 0.2, 1e-3);
        QVERIFY(near.standard_uncertainty < far.standard_uncertainty);
        Chain chain = r.path;
        const auto notes = feed(chain, partners);
        QCOMPARE(notes.size(), std::size_t(1));
        QVERIFY(notes[0].live && notes[0].key == "temperature_degC");
        QCOMPARE(stage_of<Conductivity25>(chain)->temperature_degC.origin, std::string("follows Pool water"));
    }
    void unitsAreConvertedAndOthersRefused() {
        Chain chain;
        Conductivity25 stage;
        stage.temperature_degC.from = "t";
        chain.stages.emplace_back(stage);
        feed(chain, {{"t", {283.15, 0.5, "K", "T", 0}}});
        CLOSE(std::get<Conductivity25>(chain.stages[0]).temperature_degC.value, 10, 1e-9);
        CLOSE(std::get<Conductivity25>(chain.stages[0]).temperature_degC.doubt, 0.5, 1e-9);
        chain.stages[0] = stage;
        const auto notes = feed(chain, {{"t", {1000, 0.5, "hPa", "P", 0}}});
        QVERIFY(!notes[0].live);
        CLOSE(std::get<Conductivity25>(chain.stages[0]).temperature_degC.value, 25, 1e-12);
    }
    /// One thermometer that enters twice is one cause: what it does in both places adds up with its sign.
    void oneReadingTwiceErrsOnce() {
        Chain chain;
        Conductivity25 up;
        up.temperature_degC.from = "t";
        chain.stages.emplace_back(up);
        Salinity salt;
        salt.temperature_degC.from = "t";
        chain.stages.emplace_back(salt);
        feed(chain, {{"t", {15, 0.3, "degC", "T", 0}}});
        const Budget together = budget(chain, 40);
        const auto at = [&](double t) {
            Chain shifted;
            up.temperature_degC.value = salt.temperature_degC.value = t;
            shifted.stages = {up, salt};
            return forward(shifted, 40).number;
        };
        CLOSE(together.standard_uncertainty, std::abs(at(15.1) - at(14.9)) / 0.2 * 0.3, 0.003);
        QCOMPARE(together.contributions.size(), std::size_t(1));
    }

    void circlesAreNamed() {
        Bench bench;
        for (const char* id : {"a", "b", "c"}) {
            Reading r = thermometer(id, false);
            Infrared stage;
            stage.ambient_degC.from = id[0] == 'a' ? "b" : id[0] == 'b' ? "c" : "";
            r.path.stages.emplace_back(stage);
            bench.readings.push_back(r);
        }
        QVERIFY(feed_loop(bench, "a").empty());
        std::get<Infrared>(bench.readings[2].path.stages[0]).ambient_degC.from = "a";
        QCOMPARE(feed_loop(bench, "a"), (std::vector<std::string>{"a", "b", "c"}));
        QCOMPARE(feed_loop(bench, "c").front(), std::string("c"));
        // One that only leads into the circle is not in it.
        Reading outside = thermometer("d", false);
        Infrared stage;
        stage.ambient_degC.from = "a";
        outside.path.stages.emplace_back(stage);
        bench.readings.push_back(outside);
        QVERIFY(feed_loop(bench, "d").empty());
        std::get<Infrared>(bench.readings[0].path.stages[0]).ambient_degC.from = "a";
        QCOMPARE(feed_loop(bench, "a"), std::vector<std::string>{"a"}); // itself
    }

    void fromAnEchoToLitres() {
        const auto ask = [](Reading& r) {
            r.quantity.vessel.shape = "upright-cylinder";
            r.quantity.vessel.width_mm = 1000;
            r.quantity.vessel.height_mm = 1600;
            r.quantity.vessel.mount_mm = 2000;
            r.quantity.vessel.bulge_percent = 2;
        };
        const Bench bench = beside_thermometers("volume", "echo-ranger-open", "board-5v-8bit-6-analog", ask);
        const Chain& path = bench.readings[0].path;
        QCOMPARE(path.first_unit(), std::string("us"));
        QCOMPARE(path.last_unit(), std::string("L"));
        QCOMPARE(stage_of<Echo>(path)->temperature_degC.from, std::string("air"));
        const Partners air = {{"air", {10, 0.5, "degC", "Air", 0}}};
        const double c = 331.3 * std::sqrt(1 + 10 / 273.15);
        const Chain fed = effective_path(bench.readings[0], air);
        // 1 200 mm of air over 800 mm of water in a circle of one metre, half as high as it is: 1 % of the bulge.
        CLOSE(forward(fed, 2000 * 1200 / c).number, 800 * 3.14159265 / 4 * 1.01, 0.01);
        // Its part's own limit of ± 10 mm goes through the section.
        const Placed placed = place(bench, catalog(), bench.readings[0]);
        CLOSE(part_limit(placed, 2000 * 1200 / c, air), 10 * 3.14159265 / 4, 0.2);
        // Without a vessel there is no path to litres, and the card's word is all there is.
        Bench bare = bench;
        bare.readings[0].quantity.vessel.shape.clear();
        refresh_path(bare, catalog(), bare.readings[0]);
        QVERIFY(bare.readings[0].path.stages.empty());
    }
    void distancesAndProbes() {
        const auto ask = [](Reading& r) {
            r.quantity.vessel.shape = "lying-cylinder";
            r.quantity.vessel.width_mm = 1000;
            r.quantity.vessel.length_mm = 2000;
            r.quantity.vessel.mount_mm = 1150;
        };
        const Bench light = test::bench_with("volume", "light-pulse-ranger-long", "board-3v3-wifi-1-analog", ask);
        CLOSE(forward(light.readings[0].path, 650).number, 785.398, 0.01);
        QVERIFY(!stage_of<Echo>(light.readings[0].path));
        // A potentiometer on the rail that the converter measures against: the supply cancels.
        const Bench pot = test::bench_with("position", "potentiometer");
        QVERIFY(stage_of<Ratio>(pot.readings[0].path));
        CLOSE(forward(pot.readings[0].path, 255.5).number, (0.25 - 0.005) / 0.99 * 100, 1e-9);
        // A pressure probe at the bottom gives a level without any mount.
        const auto tank = [](Reading& r) {
            r.quantity.vessel.shape = "box";
            r.quantity.vessel.width_mm = 500;
            r.quantity.vessel.length_mm = 500;
            r.quantity.vessel.height_mm = 1000;
        };
        const Bench probe = test::bench_with("volume", "pressure-transducer-water", "board-5v-8bit-6-analog", tank);
        const Chain& path = probe.readings[0].path;
        QCOMPARE(path.last_unit(), std::string("L"));
        CLOSE(forward(path, (0.5 + 0.002 * 400) / 5 * 1024 - 0.5).number, 100, 0.01); // 400 mm in 50 cm × 50 cm
    }
    void rainByItsFunnel() {
        const Bench card = test::bench_with("rain", "tipping-bucket");
        CLOSE(forward(card.readings[0].path, 10).number, 2, 1e-9);
        const Bench own = test::bench_with("rain", "tipping-bucket", "board-5v-8bit-6-analog", [](Reading& r) {
            r.quantity.funnel = {154, 3.6};
        });
        CLOSE(forward(own.readings[0].path, 10).number, 10 * 10 * 3.6 / 154, 1e-9);
        QVERIFY(own.readings[0].source.collect.empty());
        const Bench wind = test::bench_with("wind", "wind-cups");
        QCOMPARE(wind.readings[0].source.collect, std::string("rate"));
        CLOSE(forward(wind.readings[0].path, 10).number, 6.7, 1e-9);
        const Bench pulse = test::bench_with("pulse-rate", "pulse-probe-reflective");
        QCOMPARE(pulse.readings[0].source.collect, std::string("beats"));
        QVERIFY(pulse.readings[0].path.stages.empty());
    }
    void aChipsStraightLine() {
        const Bench bench = beside_thermometers("temperature", "thermocouple-k-spi", "board-5v-8bit-6-analog",
                                                [](Reading& r) { r.quantity.high = 600; });
        const Reading& r = bench.readings[0];
        QCOMPARE(stage_of<StraightCouple>(r.path)->reference_degC.from, std::string("air"));
        using namespace physics;
        const double shown = 25 + thermocouple_emf(ThermocoupleType::K, 600, 25) / 0.041;
        CLOSE(forward(effective_path(r), shown).number, 600, 1e-6);
        QVERIFY(std::abs(shown - 600) > 5);                           // what is corrected is worth it
        CLOSE(part_limit(place(bench, catalog(), r), shown), 7, 0.3); // 2.5 °C of the chip and 0.75 % of the couple
    }

    /// Sizes that are changed at Quantity reach the path; a person's own last step stays.
    void thePathFollowsThePlan() {
        const auto ask = [](Reading& r) { r.quantity.vessel.mount_mm = 2000; };
        const Bench before = test::bench_with("level", "echo-ranger-open", "board-5v-8bit-6-analog", ask);
        Bench after = before;
        const auto text =
            JsonText::parse("f", R"({"stage":"formula","expression":"x-5","input_unit":"mm","unit":"mm"})");
        after.readings[0].path.stages.push_back(*read_stage(JsonReader(*text)));
        const Bench with_own = after;
        after.readings[0].quantity.vessel.mount_mm = 1800;
        refresh_changed_paths(with_own, catalog(), after);
        CLOSE(stage_of<LevelBelow>(after.readings[0].path)->mount_height_mm.value, 1800, 1e-12);
        QVERIFY(stage_of<Formula>(after.readings[0].path));
        // What was typed stays where the plan asks for nothing else.
        Bench typed = before;
        const_cast<LevelBelow*>(stage_of<LevelBelow>(typed.readings[0].path))->mount_height_mm.value = 1993;
        const Bench was = typed;
        typed.readings[0].quantity.place = "north side";
        refresh_changed_paths(was, catalog(), typed);
        CLOSE(stage_of<LevelBelow>(typed.readings[0].path)->mount_height_mm.value, 1993, 1e-12);
    }

    /// What would help most is named for the largest share, with what it would bring.
    void whatWouldHelpMost() {
        const Bench bench = beside_thermometers("conductivity", "conductivity-analog", "board-3v3-12bit-wifi");
        const Reading& r = bench.readings[0];
        const Budget b = reading_budget(r, nullptr, 1700, 0, 0);
        QCOMPARE(b.contributions.front().id, std::string("temperature_degC"));
        const Advice advice = what_would_help(place(bench, catalog(), r), b);
        QVERIFY2(advice.first.find("thermometer") != std::string::npos, advice.first.c_str());
        QVERIFY(advice.first.find("→") != std::string::npos);
        QVERIFY2(advice.then.find("limit is") != std::string::npos, advice.then.c_str());
    }
};

RUN_TESTS_OF(TestFeeds)
#include "tst_feeds.moc"
