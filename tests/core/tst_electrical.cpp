// Dividers, pull-ups, budgets, ways to more inputs and the bill: the sums that decide whether something burns.
#include "core/plan/bill.h"
#include "core/plan/budgets.h"
#include "core/plan/electrical.h"
#include "core/plan/findings.h"
#include "core/plan/more_inputs.h"
#include "support/defects.h"
#include "support/run_tests.h"

#include <random>

using namespace cognitum;
using test::catalog;

class TestElectrical : public QObject {
    Q_OBJECT

  private slots:
    void seriesAreTheStandard() { // IEC 60063
        QCOMPARE(e_series(12).size(), std::size_t(12));
        QCOMPARE(e_series(24).size(), std::size_t(24));
        for (const double v : e_series(12)) // every E12 value but none else is an E24 value
            QVERIFY(std::find(e_series(24).begin(), e_series(24).end(), v) != e_series(24).end());
    }
    void dividerByHand() {
        CLOSE(loaded_output({1800, 3300}, 5, 0), 5 * 3300.0 / 5100, 1e-12);
        CLOSE(loaded_output({10000, 10000}, 5, 10000), 5.0 / 3, 1e-12); // 10 k under 10 k, loaded with 10 k
        CLOSE(loaded_output({}, 5, 1000), 5, 0);
        const auto choice = choose_divider({5, 5.25, 4.75, 3.3 * 1.04, 2.5, 0});
        QVERIFY(choice.has_value());
        QCOMPARE(choice->divider.top_ohm, 1800.0);
        QCOMPARE(choice->divider.bottom_ohm, 3300.0);
        QCOMPARE(choice->series, 12);
    }
    /// A converter whose full scale is its supply has that of its rail, or its own.
    void aConverterThatFollowsItsSupply() {
        Bench bench = test::with_modules(test::bench_with("temperature", "analog-thermometer-with-offset"),
                                         {test::module_of("converter-10bit-8ch-spi", "converter", "3V3")});
        bench.readings[0].wiring.module = "converter";
        bench.readings[0].wiring.rail = "3V3";
        const Placed on_rail = place(bench, catalog(), bench.readings[0]);
        QVERIFY(on_rail.module_rail);
        CLOSE(on_rail.full_scale_V(), on_rail.module_rail->voltage_V, 0);
        CLOSE(on_rail.full_scale_tolerance_V(), on_rail.module_rail->tolerance_V, 0);
        CLOSE(on_rail.full_scale_stability_V(), on_rail.module_rail->stability_V, 0);
        QVERIFY(on_rail.supply_cancels()); // the part hangs on the same rail
        bench.modules[0].own_supply_V = 5;
        const Placed own = place(bench, catalog(), bench.readings[0]);
        CLOSE(own.full_scale_V(), 5, 0);
        CLOSE(own.full_scale_tolerance_V(), 0.25, 1e-12);
        CLOSE(own.full_scale_stability_V(), 0, 0);
        QVERIFY(!own.supply_cancels());
    }
    /// Whatever is asked, the choice keeps its promises, also with the resistors at their wrong ends and loaded.
    void dividersKeepTheirPromise() {
        std::mt19937 random(11);
        int found = 0;
        for (int i = 0; i < 300; ++i) {
            const double input = 3.5 + 0.01 * double(random() % 2000);
            const double limit = 1 + 0.01 * double(random() % 300);
            const double load = random() % 3 ? 0 : 1e5;
            const auto choice = choose_divider({input, 1.05 * input, 0.95 * input, limit, 0.4 * limit, load});
            if (!choice) continue;
            ++found;
            for (const double a : {0.99, 1.01})
                for (const double b : {0.99, 1.01}) {
                    const LevelDivider real{choice->divider.top_ohm * a, choice->divider.bottom_ohm * b};
                    const double out = loaded_output(real, 1.05 * input, load);
                    QVERIFY2(out <= limit + 1e-9, qPrintable(QString::number(out)));
                    QVERIFY(loaded_output(real, 0.95 * input, load) >= 0.4 * limit - 1e-9);
                }
            CLOSE(choice->output_V, loaded_output(choice->divider, input, load), 1e-12);
        }
        QVERIFY(found > 250);
        QVERIFY(!choose_divider({5, 5.25, 4.75, 3.3, 3.29, 0})); // a supply of 5 % cannot be held between those
        // 1 kΩ and 2.2 kΩ look right at 5 V and are not at 5.25 V with resistors of 1 %.
        CLOSE(highest_output({1000, 2200}, 5.25, 0), 3.63, 0.005);
    }
    void pullUps() { // I²C-bus specification, 7.1: Rp(max) = tr / (0.8473 · Cb), Rp(min) = (V − 0.4 V) / 3 mA
        CLOSE(rise_time_ns(10000, 100), 847.3, 0.01);
        CLOSE(weakest_pull_up_ohm(100, 400), 2950, 1);
        CLOSE(weakest_pull_up_ohm(400, 100), 3541, 1);
        CLOSE(strongest_pull_up_ohm(3.3), 966.7, 0.1);
        CLOSE(strongest_pull_up_ohm(5), 1533.3, 0.1);
    }

    void budgetsAddUp() {
        VALUE_OF(demo, load_bench_json(data_folder() + "/demo/whelk-point.json"));
        for (const BoardUse& use : demo.boards) {
            const BoardBudget b = board_budget(demo, catalog(), use);
            double typical = b.board_mA;
            double peak = b.board_peak_mA;
            for (const RailLoad& load : b.rails) {
                double sum = 0;
                for (const Draw& d : load.draws)
                    sum += d.typical_mA;
                CLOSE(sum, load.typical_mA, 1e-9);
                QVERIFY(load.peak_mA >= load.typical_mA && load.peak_mA <= load.limit_mA);
                typical += load.typical_mA;
                peak += load.peak_mA;
            }
            CLOSE(typical, b.total_mA, 1e-9);
            CLOSE(peak, b.total_peak_mA, 1e-9);
            QVERIFY(b.junction_degC <= b.junction_max_degC);
            for (const PinCount& pins : b.pins)
                QVERIFY2(pins.used <= pins.total, pins.function.c_str());
        }
        // The radio's burst counts, and the converter that it takes does not.
        BoardUse radio = demo.boards[1];
        radio.radio_on = false;
        radio.link.kind = LinkKind::serial; // what sends by radio has it on, whatever is ticked
        const BoardBudget off = board_budget(demo, catalog(), radio);
        const BoardBudget on = board_budget(demo, catalog(), demo.boards[1]);
        QVERIFY(on.board_peak_mA > off.board_peak_mA);
        QVERIFY(on.pins[0].total < off.pins[0].total);
    }

    void waysToMoreInputs() {
        // Two soil probes, one analog input: the second waits.
        Bench bench = test::bench_with("soil-moisture", "soil-capacitive", "board-3v3-wifi-1-analog");
        Reading second = bench.readings[0];
        second.id = "r2";
        second.name = "Second";
        second.wiring.pins.clear();
        second.path = {};
        bench.readings.push_back(second);
        const BoardUse use = bench.boards[0];
        QCOMPARE(readings_without_input(bench, catalog(), use), std::vector<std::string>{"r2"});
        const std::vector<WayOut> ways = ways_to_more_inputs(bench, catalog(), use);
        QCOMPARE(ways.size(), std::size_t(4));
        QCOMPARE(ways[0].id, std::string("converter")); // suggested: inputs and bits at once
        for (const WayOut& way : ways) {
            if (way.id == "bus-sensor") {
                QVERIFY(!way.possible && !way.why_not.empty()); // no soil probe on a bus
                continue;
            }
            QVERIFY2(way.possible, (way.id + ": " + way.why_not).c_str());
            QVERIFY(way.inputs > 0 && way.wires > 0 && way.price > 0 && !way.code.empty());
            Bench after = bench;
            way.apply(after);
            QVERIFY2(readings_without_input(after, catalog(), after.boards[0]).empty(), way.id.c_str());
            const Reading& r = *after.reading("r2");
            QVERIFY2(!r.wiring.pin().empty() && !r.path.stages.empty(), way.id.c_str());
            CLOSE(way.count, count_size(r), 1e-12);
            for (const Finding& f : check_bench(after, catalog()))
                QVERIFY2(f.severity != Severity::error, (way.id + " brought " + f.message).c_str());
            if (way.id == "second-board") QVERIFY(after.boards.back().uplink.divider.there()); // 5 V into 3.3 V
        }
        QVERIFY(ways[0].count < ways[1].count); // the converter has more bits than the multiplexer brings
    }
    void aBusSensorInstead() {
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset", "board-3v3-wifi-1-analog");
        bench = test::with(bench, [](Bench& b) {
            Reading r = b.readings[0];
            r.id = "r2";
            r.wiring.pins.clear();
            r.path = {};
            b.readings.push_back(r);
        });
        for (const WayOut& way : ways_to_more_inputs(bench, catalog(), bench.boards[0])) {
            if (way.id != "bus-sensor") continue;
            QVERIFY2(way.possible, way.why_not.c_str());
            way.apply(bench);
        }
        QVERIFY(catalog().part(bench.reading("r2")->sensor.part)->interface.speech != Speech::analog);
    }

    void theBillCountsEverything() {
        Bench bench = test::bench_with("level", "echo-ranger-open", "board-3v3-12bit-wifi");
        bench.readings[0].wiring.pins[0].divider = {1800, 3300};
        bench.readings[0].wiring.cable_m = 2;
        const auto find = [&](const std::string& what) {
            for (const BillRow& row : bill_of_materials(bench, catalog()))
                if (row.what.find(what) != std::string::npos) return row;
            return BillRow{};
        };
        QCOMPARE(find("Echo ranger").count, 1.0);
        QCOMPARE(find("1.8").item, std::string("resistor"));
        QCOMPARE(find("Wire").count, 2.0);
        QVERIFY(find("Echo ranger").guessed && !find("Echo ranger").alternatives.empty());
        bench.prices.push_back({"echo-ranger-open", 4.2});
        QCOMPARE(find("Echo ranger").each, 4.2);
        QVERIFY(!find("Echo ranger").guessed);
        const std::vector<BillRow> rows = bill_of_materials(bench, catalog());
        double sum = 0;
        for (const BillRow& row : rows)
            sum += row.count * row.each;
        CLOSE(bill_total(rows), sum, 1e-12);
        const std::string csv = bill_csv(rows, "€");
        QCOMPARE(std::count(csv.begin(), csv.end(), '\n'), std::ptrdiff_t(rows.size() + 1));
        QVERIFY(csv.find("\"Echo ranger, open face, 5 V\",1,4.20,4.20,€,no") != std::string::npos);
    }

    void aCopyHasThePlanAndNotTheProof() {
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset");
        bench.boards[0].link.kind = LinkKind::serial;
        bench.readings[0].correction = AppliedCorrection{};
        bench.readings[0].wiring.ticked = {1, 2};
        const Bench copied = copy_build(bench, "gauge", "north quay");
        QCOMPARE(copied.readings.size(), std::size_t(2));
        const Reading& r = copied.readings[1];
        QVERIFY(!r.correction && r.wiring.ticked.empty() && r.path == [&] {
            Chain path = bench.readings[0].path;
            path.name = r.path.name;
            return path;
        }());
        QCOMPARE(copied.boards[1].link.kind, LinkKind::none);
        QCOMPARE(r.wiring.board, copied.boards[1].id);
        QVERIFY(copied.readings[0] == bench.readings[0]); // the first is left alone
        QVERIFY(copy_build(bench, "no such board", "quay") == bench);
        // What hangs together on the first board hangs together on the second.
        bench = test::with_modules(bench, {test::module_of("analog-multiplexer-16", "between", "5V"),
                                           test::module_of("relay-low-voltage", "relay", "5V")});
        bench.modules[1].switched_by = "r1";
        bench.modules[1].module = "between";
        bench.readings[0].wiring.module = "between";
        Reading shared = bench.readings[0];
        shared.id = shared.name = "r2";
        shared.sensor.shared_with = "r1";
        bench.readings.push_back(shared);
        const Bench again = copy_build(bench, "gauge", "quay");
        QCOMPARE(again.readings.size(), std::size_t(4));
        QCOMPARE(again.modules.size(), std::size_t(4));
        QCOMPARE(again.readings[2].wiring.module, again.modules[2].id);
        QCOMPARE(again.readings[3].sensor.shared_with, again.readings[2].id);
        QCOMPARE(again.modules[3].switched_by, again.readings[2].id);
        QCOMPARE(again.modules[3].module, again.modules[2].id);
        QCOMPARE(again.modules[3].board, again.boards[1].id);
        QVERIFY(again.modules[2].id != "between" && again.readings[1].sensor.shared_with == "r1");
    }
};

RUN_TESTS_OF(TestElectrical)
#include "tst_electrical.moc"
