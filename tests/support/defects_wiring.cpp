// Defects of voltages, modules, cables and sleep: one pair for each rule.
#include "support/defects.h"

namespace cognitum::test {

namespace {

constexpr auto small = "board-5v-8bit-6-analog", dual = "board-3v3-12bit-wifi",
               one_input = "board-3v3-wifi-1-analog";

Bench room_of(const char* board = dual) {
    return bench_with("temperature", "analog-thermometer-with-offset", board);
}

/// A reading behind a module of this board.
Bench behind(const char* kind, const char* part, const char* module, const char* module_rail, const char* rail,
             const char* board = dual, const std::function<void(Reading&)>& ask = {}) {
    Bench bench = bench_with(kind, part, board, ask);
    bench.readings[0].wiring.pins.clear();
    bench.readings[0].wiring.module = "m";
    bench.readings[0].wiring.rail = rail;
    bench = with_modules(bench, {module_of(module, "m", module_rail)});
    rebuild(bench);
    return bench;
}

Bench two_behind(const char* second_input) {
    Bench bench = behind("temperature", "analog-thermometer-with-offset", "converter-16bit-4ch", "3V3", "3V3");
    Reading second = bench.readings[0];
    second.id = "r2";
    second.name = "Second";
    second.wiring.pins[0].pin = second_input;
    bench.readings.push_back(second);
    return bench;
}

Bench with_board(Bench bench, const std::function<void(BoardUse&)>& change) {
    change(bench.boards[0]);
    return bench;
}

void add_levels(std::vector<Defect>& d) {
    // The output follows the depth and stays below the converter's full scale; at its end it is above its supply.
    const auto well = [](LevelDivider divider) {
        return rewired(behind("level", "pressure-transducer-water", "converter-16bit-4ch", "3V3", "5V", dual,
                              [](Reading& r) {
                                  r.quantity.low = 300;
                                  r.quantity.high = 1500;
                              }),
                       [divider](Reading& r) { r.wiring.pins[0].divider = divider; });
    };
    d.push_back({"above-module-supply", well({}), well({1800, 3300})});
    const auto thermistor = [](bool counted) {
        return with_first(bench_with("temperature", "ntc-10k-in-divider", one_input,
                                     [](Reading& r) {
                                         r.quantity.low = 0;
                                         r.quantity.high = 40;
                                         r.quantity.accuracy = 5;
                                     }),
                          [counted](Reading& r) {
                              for (Stage& stage : r.path.stages)
                                  if (auto* divider = std::get_if<Divider>(&stage); divider && !counted)
                                      divider->load_ohm = {};
                          });
    };
    d.push_back({"input-loads-divider", thermistor(false), thermistor(true)});
}

void add_modules(std::vector<Defect>& d) {
    const auto shifter = [](const char* rail) {
        return with_modules(room_of(), {module_of("level-shifter-8-oneway", "shifter", rail)});
    };
    d.push_back({"module-level-too-high", shifter("5V"), shifter("3V3")});
    d.push_back({"module-input-unknown", two_behind("A9"), two_behind("A1")});
    d.push_back({"module-input-used-twice", two_behind("A0"), two_behind("A3")});
    const auto loads = [](const char* first, const char* second) {
        Module a = module_of("relay-low-voltage", "relay", "5V");
        Module b = module_of("relay-low-voltage", "valve", "5V");
        a.pins = {{"IN", first, true, {}}};
        b.pins = {{"IN", second, true, {}}};
        return with_modules(room_of(), {a, b});
    };
    d.push_back({"module-pin-unfit", loads("34", "27"), loads("26", "27")});
    d.push_back({"module-pin-used-twice", loads("27", "27"), loads("26", "27")});
    const auto converter = [](int address) {
        Module m = module_of("converter-16bit-4ch", "converter", "3V3");
        m.address = address;
        return with_modules(room_of(), {m});
    };
    d.push_back({"module-address-not-its-own", converter(0x30), converter(0x49)});
    const auto lamps = [](int n) {
        std::vector<Module> list;
        for (int i = 0; i < n; ++i)
            list.push_back(module_of("indicator-led", ("led-" + std::to_string(i)).c_str(), ""));
        return with_modules(bench_with("temperature", "one-wire-probe-waterproof", "board-3v3-dual-core-3-analog",
                                       [](Reading& r) { r.wiring.pull_up_ohm = 4700; }),
                            list);
    };
    d.push_back({"pins-together-too-much", lamps(11), lamps(10)});
    const auto branch = [](double pull_up) {
        return with_first(behind("temperature", "infrared-thermometer-i2c", "bus-switch-8", "3V3", "3V3"),
                          [pull_up](Reading& r) { r.wiring.pull_up_ohm = pull_up; });
    };
    d.push_back({"branch-pull-up-missing", branch(0), branch(4700)});
    const auto through = [](const char* module) {
        return behind("level", "echo-ranger-open", module, "3V3", "5V", dual,
                      [](Reading& r) { r.quantity.low = 300; });
    };
    d.push_back({"shifter-one-way", through("level-shifter-8-oneway"), through("level-shifter-4")});
}

void add_cables(std::vector<Defect>& d) {
    const auto far = [](double metres) {
        return with_first(
            bench_with("temperature", "thermocouple-k-spi", small, [](Reading& r) { r.quantity.low = 5; }),
            [metres](Reading& r) {
                r.wiring.cable_m = metres;
                r.wiring.decoupled = true;
            });
    };
    d.push_back({"cable-too-long", far(1.5), far(0.5)});
    const auto platinum = [](double metres) {
        return with_first(
            bench_with("temperature", "rtd-100-analog", small, [](Reading& r) { r.quantity.accuracy = 10; }),
            [metres](Reading& r) { r.wiring.cable_m = metres; });
    };
    d.push_back({"leads-are-measured-too", platinum(9), platinum(3)});
    const auto beacon = [](const char* part, bool receiver) {
        Bench bench = bench_with("temperature", part, dual, [](Reading& r) { r.quantity.stale_s = 60; });
        if (receiver) bench.modules = {module_of("beacon-receiver-433", "receiver", "3V3")};
        return receiver ? assign_pins(bench, catalog(), Keep::placed, "gauge").bench : bench;
    };
    d.push_back({"beacon-not-heard", beacon("weather-beacon", false), beacon("weather-beacon", true)});
    const auto battery = [](double supply) {
        return with_board(
            rewired(bench_with("temperature", "analog-thermometer-with-offset", "board-3v3-12bit-lithium"),
                    [](Reading& r) { r.wiring.rail = "5V"; }),
            [supply](BoardUse& use) { use.supply_V = supply; });
    };
    d.push_back({"rail-not-there", battery(3.7), battery(0)});
}

void add_sleep(std::vector<Defect>& d) {
    const auto asleep = [](double interval) {
        return with_board(with_first(room_of(), [interval](Reading& r) { r.quantity.interval_s = interval; }),
                          [](BoardUse& use) {
                              use.sleep_s = 300;
                              use.wake_s = 5;
                          });
    };
    d.push_back({"interval-shorter-than-sleep", asleep(60), asleep(300)});
    const auto probe = [](double wake) {
        return with_board(with_first(bench_with("temperature", "one-wire-probe-waterproof", dual),
                                     [](Reading& r) {
                                         r.wiring.pull_up_ohm = 4700;
                                         r.quantity.interval_s = 300;
                                     }),
                          [wake](BoardUse& use) {
                              use.sleep_s = 300;
                              use.wake_s = wake;
                          });
    };
    d.push_back({"conversion-longer-than-wake", probe(0.5), probe(1)});
}

void add_path(std::vector<Defect>& d) {
    const auto tank = [](double diameter_m) {
        Bench bench = bench_with("volume", "echo-ranger-sealed", small, [](Reading& r) {
            r.quantity.high = 500;
            r.quantity.vessel = {"upright-cylinder", 800, 0, 1200, 1500, 1000};
        });
        for (Stage& stage : bench.readings[0].path.stages)
            if (auto* fill = std::get_if<VesselFill>(&stage)) fill->diameter_m.value = diameter_m;
        return bench;
    };
    d.push_back({"path-differs-from-plan", tank(0.7), tank(0.8)});
    const auto typed = [](double doubt) {
        return with_first(room_of(small), [doubt](Reading& r) {
            std::get<Adc>(r.path.stages[0]).reference_V = {
                4.98, doubt,        doubt > 0 ? Spread::rectangular : Spread::none, "typed by hand, 3 Nov", {}, {},
                0,    KnownBy::hand};
        });
    };
    d.push_back({"doubt-not-stated", typed(0), typed(0.005)});
}

} // namespace

void add_wiring(std::vector<Defect>& d) {
    add_levels(d);
    add_modules(d);
    add_cables(d);
    add_sleep(d);
    add_path(d);
}

} // namespace cognitum::test
