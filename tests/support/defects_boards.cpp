// Defects of boards, of what hangs at their supply and between them, and of watch rules.
#include "support/boards.h"
#include "support/defects.h"

namespace cognitum::test {

namespace {

Bench watched(const std::function<void(Bench&)>& change) {
    Bench bench = room();
    WatchRule rule;
    rule.id = "warm";
    rule.name = "Too warm";
    WatchCondition c;
    c.reading = bench.readings[0].id;
    c.value = 25;
    rule.conditions = {c};
    bench.watch_rules = {rule};
    change(bench);
    return bench;
}

} // namespace

void add_watch(std::vector<Defect>& d) {
    const auto beside = [](const char* reading) {
        return watched([reading](Bench& bench) {
            WatchCondition other = bench.watch_rules[0].conditions[0];
            other.reading = reading;
            bench.watch_rules[0].conditions.push_back(other);
        });
    };
    d.push_back({"watched-reading-gone", beside("nobody"), beside(room().readings[0].id.c_str())});
    const auto by_sun = [](bool placed) {
        return watched([placed](Bench& bench) {
            bench.watch_rules[0].conditions[0].when = WatchWhen::night;
            bench.watch_rules[0].conditions[0].value = 20;
            if (placed) bench.where = GeoPlace{50, 0};
        });
    };
    d.push_back({"night-of-nowhere", by_sun(false), by_sun(true)});
    const auto by_day = [](bool begun) {
        return watched([begun](Bench& bench) {
            WatchCondition& c = bench.watch_rules[0].conditions[0];
            c.when = WatchWhen::corridor;
            c.clear.reset();
            c.corridor = {{1, 18, 20}, {5, 20, 22}};
            if (begun) bench.sessions = {{"jar", "Cabbage", SessionKind::fermentation, 0, 0, {c.reading}}};
        });
    };
    d.push_back({"corridor-without-session", by_day(false), by_day(true)});
    const auto told = [](bool desktop) {
        return watched([desktop](Bench& bench) { bench.telling.desktop = desktop; });
    };
    d.push_back({"nobody-hears", told(false), told(true)});
    const auto limit = [](double value) {
        return watched([value](Bench& bench) { bench.watch_rules[0].conditions[0].value = value; });
    };
    d.push_back({"limit-out-of-reach", limit(100), limit(35)});
}

void add_boards(std::vector<Defect>& d) {
    d.push_back({"card-of-board-missing", board_with(room(), [](BoardUse& use) { use.card = "gone"; }), room()});
    const auto mains_board = [](const char* card) {
        Bench bench = room();
        bench.readings.clear();
        bench.boards[0].card = card;
        return bench;
    };
    d.push_back({"board-not-advised", mains_board("board-mains-relay"), mains_board(one_input)});
    const auto lamp = [](double own, bool joined, bool screened) {
        Module m = module_of("lamp-5v-strip", "lamp", "5V");
        m.own_supply_V = own;
        m.ground_joined = joined;
        m.screened = screened;
        m.switched_by = "r1";
        return with_modules(bench_with("light", "light-i2c", dual), {m});
    };
    d.push_back({"rail-overloaded", lamp(0, true, true), lamp(5, true, true)});
    const auto relays = [](int n, bool radio, double supply, const char* board) {
        std::vector<Module> modules;
        for (int i = 0; i < n; ++i)
            modules.push_back(module_of("relay-low-voltage", ("relay-" + std::to_string(i)).c_str(), "5V"));
        return board_with(with_modules(bench_with("temperature", "analog-thermometer-with-offset", board), modules),
                          [&](BoardUse& use) {
                              use.radio_on = radio;
                              use.supply_V = supply;
                          });
    };
    d.push_back({"usb-overloaded", relays(4, true, 0, one_input), relays(4, false, 0, one_input)});
    d.push_back({"regulator-too-hot", relays(2, false, 12, small), relays(1, false, 12, small)});
    d.push_back({"regulator-starved", relays(0, false, 4.4, dual), relays(0, false, 5.0, dual)});
    const auto relay = [](const char* rail) {
        return with_modules(bench_with("temperature", "analog-thermometer-with-offset", dual),
                            {module_of("relay-low-voltage", "relay", rail)});
    };
    d.push_back({"module-supply-out-of-range", relay("3V3"), relay("5V")});
    d.push_back({"module-ground-not-joined", lamp(5, false, true), lamp(5, true, true)});
    const auto speeds = [](int link, int code) {
        return board_with(room(), [&](BoardUse& use) {
            use.link.kind = LinkKind::serial;
            use.link.port = "/dev/ttyUSB0";
            use.link.baud = link;
            use.code_baud = code;
        });
    };
    d.push_back({"baud-differs", speeds(115200, 9600), speeds(115200, 115200)});
    const auto busy = [](double interval) {
        Bench bench = with_first(room(), [interval](Reading& r) { r.quantity.interval_s = interval; });
        bench.boards[0].link = {LinkKind::serial, "/dev/ttyUSB0", 9600, 0};
        return bench;
    };
    d.push_back({"line-too-full", busy(0.01), busy(0.011)});
    d.push_back({"serial-too-high", uplinked(small, dual), uplinked(small, dual, {1800, 3300})});
    d.push_back({"serial-too-low", uplinked("board-3v3-low-power-radio", "board-5v-32bit-14bit-wifi"),
                 uplinked("board-3v3-low-power-radio", small)});
    const auto adapter = [](double v) {
        return board_with(bench_with("temperature", "analog-thermometer-with-offset", "board-3v3-low-power-radio"),
                          [v](BoardUse& use) { use.adapter_V = v; });
    };
    d.push_back({"adapter-voltage", adapter(5), adapter(3.3)});
    const auto service = [](double upload) {
        return board_with(room(), [upload](BoardUse& use) {
            use.upload_s = upload;
            use.quota_s = 15;
        });
    };
    d.push_back({"upload-below-quota", service(5), service(15)});
    d.push_back({"pin-cannot-carry-load", with_modules(room(), {module_of("buzzer-active", "buzzer", "")}),
                 with_modules(room(), {module_of("indicator-led", "led", "")})});
    d.push_back({"sees-its-own-lamp", lamp(5, true, false), lamp(5, true, true)});
}

} // namespace cognitum::test
