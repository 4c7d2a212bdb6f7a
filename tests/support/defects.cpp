#include "support/defects.h"

#include "core/units/quantity_kind.h"
#include "support/boards.h"

namespace cognitum::test {

namespace {

Bench contact(const char* board = small) {
    return bench_with("contact", "reed-contact", board);
}
Bench on_pin(Bench bench, const char* pin) {
    return rewired(std::move(bench), [pin](Reading& r) { r.wiring.pins[0].pin = pin; });
}
Bench around(const char* part, const std::function<void(Surroundings&)>& change) {
    return with_first(bench_with("temperature", part), [&](Reading& r) { change(r.quantity.around); });
}
Bench wet_vessel(double mount, double full, double width) {
    return bench_with("level", "echo-ranger-sealed", small, [&](Reading& r) {
        r.quantity.low = 300;
        r.quantity.high = full;
        r.quantity.vessel = {"upright-cylinder", width, 0, 0, mount, full};
    });
}
Bench over_water(const char* board) {
    return bench_with("level", "echo-ranger-open", board, [](Reading& r) { r.quantity.low = 300; });
}
Bench divided(double top, double bottom) {
    return rewired(over_water(dual), [&](Reading& r) { r.wiring.pins[0].divider = {top, bottom}; });
}
Bench bus(const char* part = "light-i2c", const char* kind = "light") {
    return bench_with(kind, part, dual);
}

/// With what hears its beacons.
Bench heard(const Bench& bench) {
    return with_modules(bench, {module_of("beacon-receiver-433", "receiver", "3V3")});
}

void add_supply(std::vector<Defect>& d) {
    d.push_back({"card-missing", with_first(room(), [](Reading& r) { r.sensor.part = "gone"; }), room()});
    const auto needs_4_volt = [] {
        return bench_with("temperature", "analog-thermometer-without-offset", small,
                          [](Reading& r) { r.quantity.low = 5; });
    };
    d.push_back({"supply-out-of-range", rewired(needs_4_volt(), [](Reading& r) { r.wiring.rail = "3V3"; }),
                 needs_4_volt()});
    d.push_back(
        {"pin-as-supply",
         with_first(bench_with("level", "echo-ranger-sealed", small, [](Reading& r) { r.quantity.low = 300; }),
                    [](Reading& r) { r.wiring.rail = "7"; }),
         with_first(bench_with("position", "potentiometer"), [](Reading& r) { r.wiring.rail = "7"; })});
    const auto own = [](bool joined) {
        return rewired(room(), [joined](Reading& r) {
            r.wiring.own_supply_V = 5;
            r.wiring.ground_joined = joined;
        });
    };
    d.push_back({"grounds-not-joined", own(false), own(true)});
    d.push_back({"decoupling-missing", with_first(room(), [](Reading& r) { r.wiring.cable_m = 2; }),
                 with_first(room(), [](Reading& r) { r.wiring.cable_m = 1; })});
    d.push_back({"colour-against-habit",
                 with_first(room(),
                            [](Reading& r) {
                                r.wiring.colours = {{"output", "red"}};
                            }),
                 with_first(room(), [](Reading& r) {
                     r.wiring.colours = {{"output", "blue"}, {"supply", "red"}};
                 })});
}

void add_level(std::vector<Defect>& d) {
    d.push_back({"level-too-high", over_water(dual), divided(1800, 3300)});
    d.push_back({"divider-not-enough", divided(1000, 10000), divided(1800, 3300)});
    d.push_back({"level-too-low", bench_with("motion", "motion-infrared", "board-5v-32bit-14bit-wifi"),
                 bench_with("motion", "motion-infrared", small)});
    const auto kiln = [](const char* rail) {
        return rewired(bench_with("temperature", "thermocouple-k-spi", dual,
                                  [](Reading& r) {
                                      r.quantity.low = 20;
                                      r.quantity.high = 55;
                                  }),
                       [rail](Reading& r) {
                           r.wiring.rail = rail;
                           if (std::string(rail) == "5V") r.wiring.pins[0].divider = {1800, 3300};
                       });
    };
    d.push_back({"drive-too-low", kiln("5V"), kiln("3V3")});
    const auto hot = [](double high, const char* reference) {
        return rewired(with_first(room(), [&](Reading& r) { r.quantity.high = high; }),
                       [&](Reading& r) { r.wiring.reference = reference; });
    };
    d.push_back({"output-above-full-scale", hot(100, "internal"), hot(35, "internal")});
    const auto fine = [](const char* reference) {
        return rewired(with_first(room(), [](Reading& r) { r.quantity.accuracy = 0.8; }),
                       [&](Reading& r) { r.wiring.reference = reference; });
    };
    d.push_back({"output-uses-little-of-full-scale", fine("supply"), fine("internal")});
    const auto cold = [](double low) {
        return rewired(bench_with("temperature", "analog-thermometer-with-offset", dual),
                       [low](Reading& r) { r.quantity.low = low; });
    };
    d.push_back({"outside-usable-window", cold(-38), cold(-10)});
    const auto deep = [](double top, double bottom) {
        return rewired(
            bench_with("level", "pressure-transducer-water", dual, [](Reading& r) { r.quantity.low = 300; }),
            [&](Reading& r) {
                r.wiring.pins[0].divider = {top, bottom};
            });
    };
    d.push_back({"source-too-weak", deep(27000, 47000), deep(2700, 4700)});
}

void add_pins(std::vector<Defect>& d) {
    d.push_back({"pin-unknown", on_pin(room(), "Z9"), room()});
    d.push_back({"pin-taken", on_pin(contact(), "0"), on_pin(contact(), "4")});
    d.push_back({"pin-cannot", on_pin(room(), "7"), on_pin(room(), "A3")});
    const Bench rain = bench_with("rain", "tipping-bucket");
    d.push_back({"interrupt-missing", on_pin(rain, "7"), on_pin(rain, "3")});
    const auto trigger = [](const char* pin) {
        return with_first(divided(1800, 3300), [pin](Reading& r) { r.wiring.pins[1].pin = pin; });
    };
    d.push_back({"input-only-drives", trigger("34"), trigger("27")});
    const auto beside_radio = [](const char* pin, bool on) {
        return board_with(on_pin(bench_with("temperature", "analog-thermometer-with-offset", dual), pin),
                          [on](BoardUse& use) { use.radio_on = on; });
    };
    d.push_back({"channel-lost-with-radio", beside_radio("25", true), beside_radio("25", false)});
    const auto pulled = [](double ohm) {
        return with_first(on_pin(contact(dual), "34"), [ohm](Reading& r) { r.wiring.pull_up_ohm = ohm; });
    };
    d.push_back({"no-pull-up", pulled(0), pulled(10000)});
    d.push_back({"boot-strap-held", on_pin(contact(dual), "12"), on_pin(contact(dual), "15")});
    const auto two = [](const char* pin) {
        return with(and_another(room(), "analog-thermometer-with-offset"), [pin](Bench& b) {
            b.readings[0].wiring.pins[0].pin = "A0";
            b.readings[1].wiring.pins[0].pin = pin;
        });
    };
    d.push_back({"pin-used-twice", two("A0"), two("A1")});
    const auto beside_line = [](const char* board, const char* pin) { // from one board to another, 17 to 17
        return with(uplinked(dual, dual), [&](Bench& b) {
            b.boards[1].uplink.transmit_pin = "17";
            b.readings[0].wiring.board = board;
            b.readings[0].wiring.pins[0].pin = pin;
        });
    };
    for (const char* end : {"gauge", "helper"})
        d.push_back({"pin-used-twice", beside_line(end, "17"), beside_line(end, "34")});
    d.push_back({"leg-without-pin", with_first(bus(), [](Reading& r) { r.wiring.pins[1].pin.clear(); }), bus()});
    const auto waiting = [](const char* taken) {
        Bench bench = bench_with("soil-moisture", "soil-capacitive", one_input);
        Reading second = bench.readings[0];
        second.id = "r2";
        second.name = "Second";
        second.wiring.pins = {{"AOUT", "", false, {}}};
        second.path = {};
        bench.readings.push_back(second);
        bench.readings[0].wiring.pins[0].pin = taken;
        if (!*taken) bench.readings.erase(bench.readings.begin());
        return bench;
    };
    d.push_back({"too-few-analog-inputs", waiting("A0"), waiting("")});
    d.push_back({"label-is-not-port", on_pin(contact(one_input), "D5"), on_pin(contact(small), "4")});
}

void add_bus(std::vector<Defect>& d) {
    const auto at = [](int address) {
        return with_first(bus(), [address](Reading& r) { r.wiring.address = address; });
    };
    d.push_back({"address-eight-bit", at(0x46), at(0x23)});
    d.push_back({"address-not-its-own", at(0x30), at(0x5C)});
    const auto two = [](int address) {
        return with(and_another(bus(), "light-i2c"),
                    [address](Bench& b) { b.readings[1].wiring.address = address; });
    };
    d.push_back({"address-clash", two(0x23), two(0x5C)});
    const auto selects = [](bool same) {
        Bench bench = and_another(
            bench_with("temperature", "thermocouple-k-spi", small, [](Reading& r) { r.quantity.low = 5; }),
            "thermocouple-k-spi");
        if (same) bench.readings[1].wiring.connection("CS")->pin = bench.readings[0].wiring.connection("CS")->pin;
        return bench;
    };
    d.push_back({"select-shared", selects(true), selects(false)});
    const auto one_wire = [](double ohm, bool parasite, bool both) {
        Bench bench = bench_with("temperature", "one-wire-probe-waterproof", dual);
        if (both) bench = and_another(bench, "one-wire-probe-waterproof");
        for (Reading& r : bench.readings) {
            r.wiring.pull_up_ohm = ohm;
            r.wiring.parasite = parasite;
        }
        return bench;
    };
    d.push_back({"one-wire-pull-up", one_wire(0, false, false), one_wire(4700, false, false)});
    d.push_back({"parasite-power", one_wire(4700, true, true), one_wire(4700, true, false)});
    const auto kiln = [](double interval) {
        return with_first(bench_with("temperature", "thermocouple-k-i2c", small),
                          [interval](Reading& r) { r.quantity.interval_s = interval; });
    };
    d.push_back({"conversion-too-slow", kiln(0.2), kiln(1)});

    const auto bare = [](double pull_up) {
        return board_with(bus("infrared-thermometer-i2c", "temperature"),
                          [pull_up](BoardUse& use) { use.i2c_pull_up_ohm = pull_up; });
    };
    d.push_back({"pull-up-missing", bare(0), bare(4700)});
    const auto speed = [](double kHz) {
        return board_with(with_first(bus(), [](Reading& r) { r.wiring.cable_m = 0.5; }),
                          [kHz](BoardUse& use) { use.i2c_kHz = kHz; });
    };
    d.push_back({"pull-up-too-weak", speed(400), speed(100)});
    const auto strong = [](double ohm) {
        return board_with(bus(), [ohm](BoardUse& use) { use.i2c_pull_up_ohm = ohm; });
    };
    d.push_back({"pull-up-too-strong", strong(1000), strong(1500)});
    const auto far = [](double metres) {
        return board_with(with_first(bus(),
                                     [metres](Reading& r) {
                                         r.wiring.cable_m = metres;
                                         r.wiring.decoupled = true;
                                     }),
                          [](BoardUse& use) { use.i2c_pull_up_ohm = 2200; });
    };
    d.push_back({"bus-capacitance", far(4.5), far(3)});
    const auto infrared = [](double kHz) {
        return board_with(bus("infrared-thermometer-i2c", "temperature"), [kHz](BoardUse& use) {
            use.i2c_pull_up_ohm = 2200;
            use.i2c_kHz = kHz;
        });
    };
    d.push_back({"bus-too-fast", infrared(400), infrared(100)});
    const auto converters = [](int second) {
        Module a = module_of("converter-16bit-4ch", "a", "3V3");
        Module b = module_of("converter-12bit-4ch", "b", "3V3");
        b.address = second;
        return with_modules(bench_with("temperature", "analog-thermometer-with-offset", dual), {a, b});
    };
    d.push_back({"module-address-clash", converters(0x48), converters(0x49)});
}

void add_sensor(std::vector<Defect>& d) {
    d.push_back({"measures-something-else", with_first(contact(), [](Reading& r) { r.quantity.kind = "motion"; }),
                 contact()});
    const auto cold = [](double low) {
        return bench_with("temperature", "analog-thermometer-without-offset", small,
                          [low](Reading& r) { r.quantity.low = low; });
    };
    d.push_back({"range-outside-part", cold(-10), cold(5)});
    d.push_back({"full-in-dead-zone", wet_vessel(2000, 1900, 0), wet_vessel(2150, 1900, 0)});
    d.push_back({"cone-meets-wall", wet_vessel(2200, 1900, 400), wet_vessel(2200, 1900, 2300)});
    const auto needs = [](double accuracy) {
        return rewired(with_first(room(), [&](Reading& r) { r.quantity.accuracy = accuracy; }),
                       [](Reading& r) { r.wiring.reference = "internal"; });
    };
    d.push_back({"accuracy-not-reached", needs(0.8), needs(12)});
    const auto follows = [](double change) {
        return with_first(room(), [change](Reading& r) { r.quantity.change_s = change; });
    };
    d.push_back({"response-too-slow", follows(2), follows(8)}); // the part follows in 8 s
    d.push_back({"not-for-liquid",
                 around("analog-thermometer-with-offset", [](Surroundings& s) { s.water = true; }),
                 around("ntc-10k-probe", [](Surroundings& s) { s.water = true; })});
    d.push_back({"not-for-food", around("one-wire-probe-waterproof", [](Surroundings& s) { s.food = true; }),
                 around("one-wire-probe-pocket", [](Surroundings& s) { s.food = true; })});
    d.push_back({"not-for-outdoors",
                 around("analog-thermometer-with-offset", [](Surroundings& s) { s.outdoors = true; }),
                 around("ntc-10k-probe", [](Surroundings& s) { s.outdoors = true; })});
    d.push_back({"not-for-heat", around("ntc-10k-probe", [](Surroundings& s) { s.hottest_degC = 110; }),
                 around("ntc-10k-probe", [](Surroundings& s) { s.hottest_degC = 104; })});
    const auto warm = [](double accuracy) {
        return with_first(bench_with("temperature", "ntc-10k-in-divider"),
                          [accuracy](Reading& r) { r.quantity.accuracy = accuracy; });
    };
    d.push_back({"self-heating", warm(0.8), warm(2)});
    const auto beside = [](bool on) {
        return with_first(bench_with("temperature", "analog-thermometer-with-offset", dual),
                          [on](Reading& r) { r.quantity.around.beside_regulator = on; });
    };
    d.push_back({"beside-regulator", beside(true), beside(false)});
    d.push_back(
        {"legs-mirrored", with_first(room(), [](Reading& r) { r.wiring.turned = true; }),
         with_first(bench_with("temperature", "ntc-10k-in-divider"), [](Reading& r) { r.wiring.turned = true; })});
}

void add_timing(std::vector<Defect>& d) {
    const auto beats = [](double sample) {
        return with_first(bench_with("pulse-rate", "pulse-probe-reflective"),
                          [sample](Reading& r) { r.quantity.sample_s = sample; });
    };
    d.push_back({"sampling-too-slow", beats(0.05), beats(0.02)});
    const auto ranger = [](double interval) {
        return with_first(over_water(small), [interval](Reading& r) { r.quantity.interval_s = interval; });
    };
    d.push_back({"interval-too-short", ranger(0.05), ranger(0.06)});
    const auto tyre = [](double stale) {
        return heard(bench_with("pressure", "tyre-beacon", dual, [stale](Reading& r) {
            r.quantity.unit = "kPa";
            r.quantity.low = 150;
            r.quantity.high = 350;
            r.quantity.interval_s = 10;
            r.quantity.stale_s = stale;
        }));
    };
    d.push_back({"stale-before-report", tyre(0), tyre(450)});
    const auto sleeping = [](const char* pin) {
        return board_with(on_pin(bench_with("rain", "tipping-bucket", "board-5v-8bit-16-analog"), pin),
                          [](BoardUse& use) {
                              use.sleep_s = 60;
                              use.wake_s = 2;
                          });
    };
    d.push_back({"sleep-misses-pulses", sleeping("18"), sleeping("2")});
    const auto waking = [](double wake) {
        const auto rarely = [](Reading& r) { r.quantity.interval_s = 600; };
        return board_with(bench_with("soil-moisture", "soil-capacitive", small, rarely), [wake](BoardUse& use) {
            use.sleep_s = 600;
            use.wake_s = wake;
        });
    };
    d.push_back({"warm-up-too-long", waking(0.2), waking(1)});
    const auto counts_with = [](double reference) {
        return with_first(
            room(), [reference](Reading& r) { std::get<Adc>(r.path.stages[0]).reference_V.value = reference; });
    };
    d.push_back({"reference-constant-differs", counts_with(3.3), counts_with(4.97)});
    const auto calibrated = [](bool moved) {
        Bench bench = room();
        Reading& r = bench.readings[0];
        r.correction = AppliedCorrection{};
        r.correction->path_key = path_key(r);
        if (moved) {
            r.wiring.reference = "internal";
            rebuild(bench);
        }
        return bench;
    };
    d.push_back({"calibration-outdated", calibrated(true), calibrated(false)});
    const auto sealed_at = [&](TimeUs calibration, TimeUs sealing) {
        return with_first(calibrated(false), [&](Reading& r) {
            r.correction->time = calibration;
            r.bring_up.disturbed = sealing;
            r.bring_up.disturbed_how = "sealed";
        });
    };
    d.push_back({"moved-since-calibration", sealed_at(2 * day_us, 3 * day_us), sealed_at(3 * day_us, 2 * day_us)});
}

void add_cautions(std::vector<Defect>& d) {
    d.push_back({"caution-mains",
                 bench_with("voltage", "current-clamp", small, [](Reading& r) { r.quantity.high = 1; }), room()});
    d.push_back({"caution-lithium",
                 bench_with("temperature", "analog-thermometer-with-offset", "board-3v3-12bit-lithium"), room()});
    const auto oven = [](double high) {
        return bench_with("temperature", "ntc-10k-probe", small, [high](Reading& r) { r.quantity.high = high; });
    };
    d.push_back({"caution-heat", oven(100), oven(55)});
    d.push_back({"caution-tank", wet_vessel(2200, 1900, 0), room()});
    d.push_back({"caution-ladder", bench_with("rain", "tipping-bucket"), contact()});
    d.push_back(
        {"caution-medical",
         bench_with("pulse-rate", "pulse-probe-reflective", small, [](Reading& r) { r.quantity.sample_s = 0.02; }),
         room()});
    d.push_back({"caution-contact", contact(), room()});
    const auto eaten = [](bool food) {
        return bench_with("temperature", "one-wire-probe-pocket", small,
                          [food](Reading& r) { r.quantity.around.food = food; });
    };
    d.push_back({"caution-food", eaten(true), eaten(false)});
    d.push_back({"caution-drinking",
                 bench_with("conductivity", "conductivity-analog", dual, [](Reading& r) { r.quantity.low = 10; }),
                 room()});
    d.push_back({"caution-vehicle",
                 heard(bench_with("pressure", "tyre-beacon", dual,
                                  [](Reading& r) {
                                      r.quantity.unit = "kPa";
                                      r.quantity.low = 150;
                                      r.quantity.high = 350;
                                      r.quantity.stale_s = 500;
                                  })),
                 room()});
}

} // namespace

std::vector<Defect> all_defects() {
    std::vector<Defect> d;
    add_supply(d);
    add_level(d);
    add_pins(d);
    add_bus(d);
    add_sensor(d);
    add_convert(d);
    add_wiring(d);
    add_timing(d);
    add_cautions(d);
    add_boards(d);
    add_watch(d);
    add_acting(d);
    return d;
}

} // namespace cognitum::test
