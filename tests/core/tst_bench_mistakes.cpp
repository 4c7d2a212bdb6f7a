// Mistakes from makers' benches that no rule was written from: each must be named, and the right wiring beside it
// must be left in peace by errors.
#include "core/plan/findings.h"
#include "core/plan/levels.h"
#include "support/boards.h"
#include "support/defects.h"
#include "support/run_tests.h"

using namespace cognitum;
using test::catalog;
using test::dual;
using test::small;

namespace {

constexpr auto one_input = "board-3v3-wifi-1-analog", no_radio = "board-3v3-dual-core-3-analog";

std::string findings_of(const Bench& bench, bool errors_only = false) {
    std::string out;
    for (const Finding& f : check_bench(bench, catalog()))
        if (!errors_only || f.severity == Severity::error) out += f.id + ": " + f.message + "\n";
    return out;
}

bool finds(const Bench& bench, const std::string& id) {
    const auto all = check_bench(bench, catalog());
    return std::any_of(all.begin(), all.end(), [&](const Finding& f) { return f.id == id; });
}

Bench water(const char* board, LevelDivider divider) {
    return test::rewired(
        test::bench_with("level", "echo-ranger-open", board, [](Reading& r) { r.quantity.low = 300; }),
        [divider](Reading& r) {
            r.wiring.rail = "5V";
            for (Connection& pin : r.wiring.pins)
                if (pin.leg == "echo") pin.divider = divider;
        });
}

/// That many readings of the same part behind the inputs of one converter.
Bench on_converter(int readings, const char* converter, const char* part) {
    Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset", dual);
    bench.readings[0].wiring.pins.clear();
    bench.readings[0].wiring.module = "m";
    bench.readings[0].wiring.rail = "3V3";
    bench = test::with_modules(bench, {test::module_of(converter, "m", "3V3")});
    test::rebuild(bench);
    const Reading first = bench.readings[0];
    for (int i = 1; i < readings; ++i) {
        Reading r = first;
        r.id = "r" + std::to_string(i + 1);
        r.name = "Probe " + std::to_string(i + 1);
        r.wiring.pins[0].pin = "A" + std::to_string(i);
        r.sensor.part = part;
        bench.readings.push_back(r);
    }
    return bench;
}

} // namespace

class TestBenchMistakes : public QObject {
    Q_OBJECT

    static void named(const Bench& bench, const char* id) {
        QVERIFY2(finds(bench, id), (std::string("silent about ") + id + "; found:\n" + findings_of(bench)).c_str());
    }
    static void sound(const Bench& bench) {
        const std::string errors = findings_of(bench, true);
        QVERIFY2(errors.empty(), errors.c_str());
    }

  private slots:
    // 5.25 V · 2.2 · 1.05 / (1 · 0.95 + 2.2 · 1.05) = 3.72 V with 5 % resistors, 3.63 V with 1 %: both above 3.6 V.
    void theUsualDividerIsTooMuchAtItsWorst() {
        named(water(dual, {1000, 2200}), "divider-not-enough");
        sound(water(dual, {1800, 3300}));
    }
    void theDividerTheWrongWayRound() {
        const Bench bench = water(dual, {2200, 1000});
        const std::string all = findings_of(bench);
        QVERIFY2(finds(bench, "level-too-low"), all.c_str()); // 1.56 V is no high for a 3.3 V board
    }
    void aDividerOnABoardThatNeedsNone() { sound(water(small, {})); }
    void fivevoltEchoStraightIntoA33VoltPin() {
        named(water(dual, {}), "level-too-high");
        named(water(one_input, {}), "level-too-high");
        named(water(no_radio, {}), "rail-not-there"); // its 5 V have another name
        Bench bench = water(no_radio, {});
        bench.readings[0].wiring.rail = "VBUS";
        named(bench, "level-too-high");
    }
    void sixProbesOnFourChannels() {
        const auto probe = "analog-thermometer-with-offset";
        named(on_converter(6, "converter-16bit-4ch", probe), "module-input-unknown");
        sound(on_converter(4, "converter-16bit-4ch", probe));
    }
    void twoProbesOnOneChannel() {
        Bench bench = on_converter(2, "converter-16bit-4ch", "analog-thermometer-with-offset");
        bench.readings[1].wiring.pins[0].pin = "A0";
        named(bench, "module-input-used-twice");
    }
    void aContactPulledUpTo5Volts() {
        Bench bench = test::bench_with("rain", "tipping-bucket", dual);
        bench.readings[0].wiring.pull_up_ohm = 10000;
        sound(bench); // the resistor goes to the board's logic rail, whatever feeds the part
        const std::vector<WireLevel> levels = wire_levels(place(bench, catalog(), bench.readings[0]));
        QVERIFY(!levels.empty());
        CLOSE(levels[0].nominal_V, 3.3, 1e-9);
    }
    /// A clamp swings by ±1.42 V around half of a supply that may be 4 % high (here 3.3 V).
    void aClampSwingsAroundHalfOfTheSupply() {
        const Bench bench = test::bench_with("voltage", "current-clamp", dual);
        const Placed placed = place(bench, catalog(), bench.readings[0]);
        const Rail& logic = placed.board->logic_rail();
        const std::vector<WireLevel> levels = wire_levels(placed);
        QCOMPARE(levels.size(), std::size_t(1));
        CLOSE(levels[0].nominal_V, 1.65 + 1.42, 1e-9);
        CLOSE(levels[0].highest_V, (3.3 + logic.tolerance_V) / 2 + 1.42, 1e-9);
        QVERIFY(logic.tolerance_V > 0);
    }
    void motionWakesNoBoardFromAnyPin() {
        const auto asleep = [](const char* pin) {
            Bench bench = test::bench_with("motion", "motion-infrared", dual);
            bench.readings[0].wiring.pins[0].pin = pin;
            bench.boards[0].sleep_s = 300;
            bench.boards[0].wake_s = 5;
            return bench;
        };
        QVERIFY2(!findings_of(asleep("18")).empty(), "a pin that cannot wake the board");
        named(asleep("18"), "sleep-misses-pulses");
        QVERIFY(!finds(asleep("27"), "sleep-misses-pulses"));
    }
    void aReadingEveryMinuteFromABoardThatSleepsFive() {
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset", dual,
                                       [](Reading& r) { r.quantity.interval_s = 60; });
        bench.boards[0].sleep_s = 300;
        bench.boards[0].wake_s = 2;
        named(bench, "interval-shorter-than-sleep");
    }
    void aLegThatThePartHasNot() {
        // A misspelt leg must not disarm the rules about its voltage in silence.
        Bench bench = test::bench_with("position", "potentiometer", dual);
        bench.readings[0].wiring.pins[0].leg = "wiper";
        named(bench, "leg-without-pin");
        const std::string all = findings_of(bench);
        QVERIFY2(all.find("wiper") != std::string::npos, all.c_str());
    }
    void aBeaconWithoutAReceiver() {
        named(test::bench_with("temperature", "weather-beacon", dual, [](Reading& r) { r.quantity.stale_s = 60; }),
              "beacon-not-heard");
    }
    void aBeaconIsSilentAfterFifteenIntervalsUnlessItIsSaid() {
        const auto said = [](double stale_s) {
            return test::plain(findings_of(test::bench_with("temperature", "weather-beacon", dual, [=](Reading& r) {
                r.quantity.interval_s = 0.5;
                r.quantity.stale_s = stale_s;
            })));
        };
        QVERIFY2(said(0).find("silent after 12.5 s") != std::string::npos, said(0).c_str());
        QVERIFY2(said(7).find("silent after 7 s") != std::string::npos, said(7).c_str());
        QVERIFY2(said(600).find("silent after") == std::string::npos, said(600).c_str());
    }
    void aHeightThatWasTypedWithoutADoubt() {
        // In the middle of what is expected there is a way back; half its width below the bottom there is none.
        Bench bench = test::bench_with("level", "echo-ranger-sealed", dual, [](Reading& r) {
            r.quantity.low = 200;
            r.quantity.high = 1800;
            r.quantity.vessel.mount_mm = 2100;
        });
        for (Stage& stage : bench.readings[0].path.stages)
            for (const NamedConstant& named : constants(stage))
                if (named.key == "mount_height_mm")
                    *named.constant = {2100, 0, Spread::none, "typed by hand", {}, {}, 0, KnownBy::hand};
        named(bench, "doubt-not-stated");
    }
    void aBoardThatPostsNothingBreaksNoQuota() {
        const auto said = [](double upload_s, double quota_s) {
            Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset", dual);
            bench.boards[0].upload_s = upload_s;
            bench.boards[0].quota_s = quota_s;
            return findings_of(bench).find("upload-below-quota") != std::string::npos;
        };
        QVERIFY(said(14.9, 15));
        for (const auto& [upload_s, quota_s] : {std::pair(15.0, 15.0), {0.0, 15.0}, {5.0, 0.0}, {0.0, 0.0}})
            QVERIFY(!said(upload_s, quota_s));
    }
    void aClampWithoutItsBias() {
        // Around zero a clamp swings below ground unless half the supply lifts it: the plan brings that network.
        const Bench bench =
            test::bench_with("voltage", "current-clamp", small, [](Reading& r) { r.quantity.high = 1; });
        const Placed placed = place(bench, catalog(), bench.readings[0]);
        const VoltRange range = pin_range(placed);
        QVERIFY2(range.known() && range.low >= 0, "a pin below ground");
        QVERIFY(placed.part->network.kind == Network::Kind::bias);
    }
    void aLoopThatIsShorted() {
        // 24 V over a transmitter that fails short reach the pin unless its input is protected.
        const auto loop = [](bool is_protected) {
            return test::with_first(test::bench_with("temperature", "current-loop-temperature", small,
                                                     [](Reading& r) { r.quantity.low = 0; }),
                                    [is_protected](Reading& r) { r.wiring.input_protected = is_protected; });
        };
        QCOMPARE(loop(false).readings[0].wiring.own_supply_V, 24.0); // no board gives it
        QVERIFY2(!findings_of(loop(false), true).empty(), "24 V at a pin of 5 V");
        sound(loop(true));
    }
    void aPartOnTheRailThatItIsMadeFor() {
        // 3.3 V nominal on a rail of 3.3 V with its tolerance is what the part is made for.
        for (const char* part : {"light-i2c", "air-pressure-i2c", "humidity-i2c", "i2c-thermometer-fine"}) {
            const PartCard* card = catalog().part(part);
            const Bench bench = test::bench_with(card->measures[0].quantity.c_str(), part, dual);
            QVERIFY2(!finds(bench, "supply-out-of-range"), part);
        }
    }
    void aLampInSightOfItsLightSensor() {
        Bench bench = test::bench_with("light", "light-i2c", dual);
        Module lamp = test::module_of("lamp-5v-strip", "lamp", "5V");
        lamp.switched_by = "r1";
        bench = test::with_modules(bench, {lamp});
        named(bench, "sees-its-own-lamp"); // until told otherwise
        bench.modules[0].screened = true;
        QVERIFY(!finds(bench, "sees-its-own-lamp"));
    }
    void linesByRadioTakeTheSecondConverter() {
        // The second converter of this board is lost while its radio is on, and lines by radio switch it on.
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset", dual);
        const BoardCard* card = catalog().board(dual);
        for (const Pin& pin : card->pins)
            if (pin.can("analog") && pin.lost_with_radio) {
                bench.readings[0].wiring.pins[0].pin = pin.label;
                break;
            }
        QVERIFY(!finds(bench, "channel-lost-with-radio"));
        bench.boards[0].link.kind = LinkKind::mqtt;
        named(bench, "channel-lost-with-radio");
    }
    void everyBoardTakesASimpleThermometer() {
        for (const BoardCard& board : catalog().boards) {
            if (!board.not_advised.empty()) continue;
            Bench bench = test::bench_with("temperature", "one-wire-thermometer", board.id.c_str(),
                                           [](Reading& r) { r.quantity.interval_s = 10; });
            bench.readings[0].wiring.pull_up_ohm = 4700;
            const std::string errors = findings_of(bench, true);
            QVERIFY2(errors.empty(), (board.id + ": " + errors).c_str());
        }
    }
    void everyPartPlansWithoutCrashOrEmptySentence() {
        for (const PartCard& part : catalog().parts)
            for (const BoardCard& board : catalog().boards) {
                if (part.measures.empty()) continue;
                Bench bench;
                bench.boards.push_back({});
                bench.boards[0].id = "gauge";
                bench.boards[0].card = board.id;
                Reading r;
                r.id = "r1";
                r.quantity.kind = part.measures[0].quantity;
                r.quantity.unit = part.measures[0].unit;
                r.quantity.low = part.measures[0].low;
                r.quantity.high = part.measures[0].high;
                r.quantity.accuracy =
                    10 * std::max(part.measures[0].limit_between(r.quantity.low, r.quantity.high), 1e-3);
                r.quantity.interval_s = 10;
                bench.readings.push_back(r);
                const auto placed = choose_part(bench, catalog(), "r1", part.id, "gauge");
                if (!placed) {
                    QVERIFY2(!placed.error().what.empty(), part.id.c_str());
                    continue;
                }
                for (const Finding& f : check_bench(*placed, catalog())) {
                    const std::string where = part.id + " on " + board.id + ": " + f.id;
                    QVERIFY2(!f.message.empty() && f.message.find("nan") == std::string::npos, where.c_str());
                    QVERIFY2(f.why.find("inf ") == std::string::npos, where.c_str());
                }
            }
    }
};

RUN_TESTS_OF(TestBenchMistakes)
#include "tst_bench_mistakes.moc"
