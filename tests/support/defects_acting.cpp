// Defects of loads that follow a rule.
#include "support/defects.h"

namespace cognitum::test {

namespace {

/// A thermometer, a relay that follows it, and a serial line to their board.
Bench driven(const char* part, const std::function<void(Bench&)>& change = {}) {
    Module load = module_of(part, "load", "5V");
    load.own_supply_V = 5;
    Bench bench = with_modules(bench_with("temperature", "analog-thermometer-with-offset"), {load});
    bench.boards[0].link = {LinkKind::serial, "/dev/ttyUSB0", 115200, 0};
    WatchRule rule;
    rule.id = "warm";
    rule.name = "Too warm";
    WatchCondition c;
    c.reading = "r1";
    c.value = 25;
    c.clear = 22;
    rule.conditions = {c};
    bench.watch_rules = {rule};
    LoadControl control;
    control.id = "cool";
    control.name = "Cool it";
    control.load = "load";
    control.rule = "warm";
    control.acts = true;
    control.on_line = "load cool on {s}";
    control.off_line = "load cool off";
    control.time_out_s = 60;
    bench.controls = {control};
    if (change) change(bench);
    return bench;
}

Bench relay(const std::function<void(Bench&)>& change = {}) {
    return driven("relay-low-voltage", change);
}

} // namespace

void add_acting(std::vector<Defect>& d) {
    d.push_back({"control-does-nothing", relay([](Bench& b) { b.watch_rules[0].on = false; }), relay()});
    const auto for_ever = [](Bench& b) {
        b.controls[0].time_out_s = 0;
        b.controls[0].on_line = "load cool on";
    };
    d.push_back({"load-stays-on", relay(for_ever), relay()});
    d.push_back({"pump-runs-dry", driven("pump-5v"), driven("pump-5v", [](Bench& b) {
                     WatchCondition empty = b.watch_rules[0].conditions[0];
                     empty.when = WatchWhen::below;
                     empty.clear = {};
                     b.controls[0].never_while = {empty};
                 })});
    const auto by_file = [](Bench& b) { b.boards[0].link = {LinkKind::file, "", 115200, 0}; };
    d.push_back({"load-cannot-be-told", relay(by_file), relay()});
    const auto asleep = [](Bench& b) {
        b.boards[0].sleep_s = 60;
        b.boards[0].wake_s = 30;
        b.readings[0].quantity.interval_s = 120;
    };
    d.push_back({"load-board-sleeps", relay(asleep), relay()});
    const auto two = [](bool both) {
        return relay([both](Bench& b) {
            b.controls.push_back(b.controls[0]);
            b.controls[1].id = b.controls[1].name = "another";
            b.controls[1].acts = both;
        });
    };
    d.push_back({"load-told-by-two", two(true), two(false)});
    d.push_back({"load-chatters", relay([](Bench& b) { b.watch_rules[0].conditions[0].clear = {}; }), relay()});
    d.push_back({"caution-load", relay(), relay([](Bench& b) { b.controls.clear(); })});
}

} // namespace cognitum::test
