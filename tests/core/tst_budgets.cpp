// A board's budgets against sums done by hand.
#include "core/plan/budgets.h"
#include "core/plan/electrical.h"
#include "support/boards.h"
#include "support/defects.h"
#include "support/run_tests.h"

using namespace cognitum;
using test::catalog;
using test::dual;
using test::small;

namespace {

BoardBudget gauge_budget(const Bench& bench) {
    return board_budget(bench, catalog(), bench.boards[0]);
}

const RailLoad& rail(const BoardBudget& b, const char* label) {
    return *std::find_if(b.rails.begin(), b.rails.end(), [&](const RailLoad& r) { return r.rail == label; });
}

int used(const BoardBudget& b, const char* function) {
    for (const PinCount& p : b.pins)
        if (p.function == function) return p.used;
    return -1;
}

} // namespace

class TestBudgets : public QObject {
    Q_OBJECT

  private slots:
    void currentsOfARail() {
        Bench bench = test::with_modules(
            test::bench_with("soil-moisture", "soil-capacitive", small),
            {test::module_of("relay-low-voltage", "relay", "5V"), test::module_of("lamp-5v-strip", "lamp", "5V")});
        BoardBudget b = gauge_budget(bench);
        CLOSE(rail(b, "5V").typical_mA, 5 + 75 + 400, 1e-9);
        CLOSE(rail(b, "5V").peak_mA, 5 + 80 + 420, 1e-9);
        QCOMPARE(rail(b, "5V").draws[0].name, std::string("lamp")); // the largest first
        bench.modules[1].own_supply_V = 5;
        b = gauge_budget(bench);
        CLOSE(rail(b, "5V").typical_mA, 5 + 75, 1e-9); // what is fed from elsewhere does not count
        CLOSE(b.total_mA, 45 + 80, 1e-9);              // the board itself: 45 mA
        CLOSE(b.source_mA, 500, 1e-9);
    }
    void heatOfALinearRegulator() {
        // 8-bit board on 12 V: everything passes its regulator, 7 V are dropped.
        Bench bench = test::with_modules(test::bench_with("temperature", "analog-thermometer-with-offset", small),
                                         {test::module_of("relay-low-voltage", "relay", "5V")});
        bench.boards[0].supply_V = 12;
        const BoardBudget b = gauge_budget(bench);
        const double mA = 45 + 0.05 + 75;
        CLOSE(b.regulator_mA, mA, 1e-9);
        CLOSE(b.heat_W, 7 * mA / 1000, 1e-9);
        CLOSE(b.junction_degC, 25 + 90 * 7 * mA / 1000, 1e-9);
        QCOMPARE(b.source_mA, 0.0); // no USB port in use
        bench.boards[0].ambient_degC = 40;
        CLOSE(gauge_budget(bench).junction_degC - b.junction_degC, 15, 1e-9);
        // From USB the 5 V rail is the port itself: nothing is dropped.
        bench.boards[0].supply_V = 0;
        CLOSE(gauge_budget(bench).heat_W, 0, 1e-12);
    }
    void heatOfARegulatedRail() {
        // 3.3 V board on 5 V: board and 3V3 rail pass the regulator, the 5V rail does not.
        Bench bench =
            test::bench_with("level", "echo-ranger-sealed", dual, [](Reading& r) { r.quantity.low = 300; });
        const BoardBudget b = gauge_budget(bench);
        CLOSE(b.regulator_mA, 60, 1e-9);
        CLOSE(b.heat_W, (5 - 3.3) * 0.060, 1e-9);
        CLOSE(b.total_mA, 60 + 8, 1e-9);
        bench.boards[0].radio_on = true;
        CLOSE(gauge_budget(bench).total_peak_mA, 260 + 30, 1e-9); // the burst and the ping together
        CLOSE(gauge_budget(bench).heat_W, b.heat_W, 1e-12);       // bursts are too short to heat it
    }
    void capacitanceAndPullUpsOfABus() {
        Bench bench = test::and_another(test::bench_with("light", "light-i2c", dual), "light-i2c-wide");
        bench.readings[0].wiring.cable_m = 0.5;
        bench.readings[1].wiring.cable_m = 1.0;
        bench.boards[0].i2c_pull_up_ohm = 10000;
        const BoardBudget b = gauge_budget(bench);
        QCOMPARE(b.bus_devices, 2);
        CLOSE(b.bus_pF, 10 + 2 * 10 + 1.5 * 100, 1e-9);
        CLOSE(b.pull_up_ohm, 10000.0 / 3, 1e-6); // two modules and the added one
        CLOSE(b.rise_ns, 0.8473 * 10000 / 3 * 180e-3, 1e-6);
        CLOSE(b.rise_limit_ns, 1000, 0);
        bench.boards[0].i2c_kHz = 400;
        CLOSE(gauge_budget(bench).rise_limit_ns, 300, 0);
    }
    void aPartBehindASwitchDoesNotLoadTheBus() {
        Bench bench = test::bench_with("light", "light-i2c", dual);
        const double before = gauge_budget(bench).bus_pF;
        bench.modules.push_back(test::module_of("bus-switch-8", "switch", "3V3"));
        bench.readings[0].wiring.module = "switch";
        bench.readings[0].wiring.pins = {{"SDA", "branch 0", false, {}}, {"SCL", "branch 0", false, {}}};
        const BoardBudget b = gauge_budget(bench);
        QCOMPARE(b.bus_devices, 2);
        CLOSE(b.bus_pF, 10 + 10 + 0.3 * 100, 1e-9); // the switch alone
        CLOSE(before, b.bus_pF, 1e-9);
        QCOMPARE(used(b, "analog"), 0);
    }
    void pinsAreCountedOnce() {
        Bench bench = test::and_another(test::bench_with("temperature", "one-wire-thermometer", dual),
                                        "one-wire-thermometer");
        QCOMPARE(used(gauge_budget(bench), "digital"), 1); // both on one wire
        bench = test::and_another(bench, "ntc-10k-in-divider", "Third");
        QCOMPARE(used(gauge_budget(bench), "analog"), 1);
        // A line from another board takes its pin here.
        BoardUse helper = bench.boards[0];
        helper.id = "helper";
        helper.uplink = {"gauge", "17", "4", 9600, 9600, {}};
        bench.boards.push_back(helper);
        QVERIFY(pin_is_used(bench, bench.boards[0], *catalog().board(dual)->pin("4")));
        QVERIFY(pin_is_used(bench, bench.boards[1], *catalog().board(dual)->pin("17")));
        QVERIFY(!pin_is_used(bench, bench.boards[0], *catalog().board(dual)->pin("17")));
    }
    void bytesOfALine() {
        Bench bench = test::and_another(test::bench_with("temperature", "analog-thermometer-with-offset"),
                                        "ntc-10k-in-divider");
        bench.readings[1].quantity.interval_s = 0.5; // the faster one sets the pace
        BoardBudget b = gauge_budget(bench);
        CLOSE(b.bytes_per_s, (2 * 8 + 2) / 0.5, 1e-9);
        CLOSE(b.bytes_limit, 11520, 1e-9);
        bench.boards[0].bytes_per_line = 40;
        bench.boards[0].link.baud = 9600;
        b = gauge_budget(bench);
        CLOSE(b.bytes_per_s, 80, 1e-9);
        CLOSE(b.bytes_limit, 960, 1e-9);
        bench.readings.clear();
        CLOSE(gauge_budget(bench).bytes_per_s, 0, 0); // nobody sends
    }
    void aMissingCardHasNoBudget() {
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset");
        bench.boards[0].card = "gone";
        const BoardBudget b = gauge_budget(bench);
        QVERIFY(b.rails.empty() && b.pins.empty() && b.total_mA == 0);
    }
};

RUN_TESTS_OF(TestBudgets)
#include "tst_budgets.moc"
