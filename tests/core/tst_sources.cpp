// What feeds a part and what a pin hangs on: dividers with wrong resistors, rails at their ends, the radio, the
// line.
#include "core/catalog/board_card.h"
#include "core/plan/assign.h"
#include "core/plan/budgets.h"
#include "core/plan/electrical.h"
#include "core/plan/path.h"
#include "core/plan/placed.h"
#include "core/plan/source_ohm.h"
#include "support/boards.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;
using test::catalog;

namespace {

PartCard fed_by(double low_V, double high_V) {
    PartCard part;
    part.supply.low_V = low_V;
    part.supply.high_V = high_V;
    return part;
}

} // namespace

class TestSources : public QObject {
    Q_OBJECT

  private slots:
    /// By Ohm's law: two of 10 kΩ halve 5 V; a load of 10 kΩ beside the lower one makes a third of it.
    void loadedDividers() {
        const LevelDivider half{10000, 10000};
        CLOSE(loaded_output(half, 5, 0), 2.5, 1e-12);
        CLOSE(loaded_output(half, 5, 10000), 5.0 / 3, 1e-12);
        CLOSE(loaded_output(half, 0, 10000), 0, 0);
    }
    /// Resistors at the wrong ends of ± 1 %, against every corner.
    void wrongResistors() {
        std::mt19937_64 random(31);
        for (int turn = 0; turn < 500; ++turn) {
            const LevelDivider divider{1000 + static_cast<double>(random() % 30000),
                                       1000 + static_cast<double>(random() % 30000)};
            const double input = 0.5 + static_cast<double>(random() % 240) / 10;
            const double load = turn % 3 == 0 ? 0 : 1e4 + static_cast<double>(random() % 1000000);
            double low = 1e9, high = -1e9;
            for (const double top : {0.99, 1.01})
                for (const double bottom : {0.99, 1.01}) {
                    const double out =
                        loaded_output({divider.top_ohm * top, divider.bottom_ohm * bottom}, input, load);
                    low = std::min(low, out);
                    high = std::max(high, out);
                }
            CLOSE(lowest_output(divider, input, load), low, 1e-9);
            CLOSE(highest_output(divider, input, load), high, 1e-9);
            QVERIFY(low < loaded_output(divider, input, load) && loaded_output(divider, input, load) < high);
        }
    }
    /// A data sheet's 2.7 V to 5.5 V: the nominal voltage within, the tolerance by a twentieth outside at the most.
    void supplies() {
        const PartCard part = fed_by(2.7, 5.5);
        QVERIFY(supply_suits(part, 2.7, 0) && supply_suits(part, 5.5, 0));
        QVERIFY(!supply_suits(part, 2.69, 0) && !supply_suits(part, 5.51, 0));
        QVERIFY(supply_suits(part, 5.5, 0.275) && !supply_suits(part, 5.5, 0.28));
        QVERIFY(supply_suits(part, 2.7, 0.135) && !supply_suits(part, 2.7, 0.14));
        const PartCard usual = fed_by(3.3, 3.3); // a sheet that says 3.3 V means the usual supply of that name
        QVERIFY(supply_suits(usual, 3.3, 0.165) && !supply_suits(usual, 3.3, 0.17) && !supply_suits(usual, 5, 0));
        Rail rail;
        rail.voltage_V = 5;
        rail.tolerance_V = 0.5;
        QVERIFY(rail_suits(part, rail));
        QVERIFY(!rail_suits(fed_by(4.9, 5.1), rail));
    }
    void aRailThatIsTheReferenceComesFirst() {
        for (const BoardCard& board : catalog().boards)
            for (const PartCard& part : catalog().parts) {
                const Rail* chosen = suitable_rail(part, board);
                int suiting = 0;
                for (const Rail& rail : board.rails)
                    suiting += rail_suits(part, rail);
                QCOMPARE(chosen != nullptr, suiting > 0);
                if (!chosen) continue;
                QVERIFY(rail_suits(part, *chosen));
                // Only where neither the reference's rail nor the logic's suits is it another one.
                for (const Rail& rail : board.rails)
                    if (&rail == &board.logic_rail() && rail_suits(part, rail))
                        QVERIFY(chosen == &rail || chosen->label == board.references.front().follows);
            }
    }
    void theRadioIsOnWhereLinesComeByIt() {
        BoardCard card;
        BoardUse use;
        QVERIFY(!radio_is_on(use, nullptr));
        use.link.kind = LinkKind::mqtt;
        QVERIFY(!radio_is_on(use, &card)); // it has none: a gateway sends for it
        card.radio = "2.4 GHz";
        QVERIFY(radio_is_on(use, &card));
        card.wired_network = true;
        QVERIFY(!radio_is_on(use, &card));
        use.link.kind = LinkKind::serial;
        QVERIFY(!radio_is_on(use, &card));
        use.radio_on = true; // by hand
        QVERIFY(radio_is_on(use, &card) && radio_is_on(use, nullptr));
    }
    void whatALineCarries() {
        Bench bench = test::small_bench();
        CLOSE(line_bytes(bench, bench.boards[0]), 10, 0); // eight and the line's end
        CLOSE(line_interval_s(bench, bench.boards[0]), 1, 0);
        bench.readings.push_back(bench.readings[0]);
        bench.readings[1].id = "second";
        bench.readings[1].quantity.interval_s = 0.25;
        CLOSE(line_bytes(bench, bench.boards[0]), 18, 0);
        CLOSE(line_interval_s(bench, bench.boards[0]), 0.25, 0); // the one in the greatest hurry
        bench.boards[0].bytes_per_line = 40;
        bench.boards[0].link.baud = 9600;
        const BoardBudget budget = board_budget(bench, catalog(), bench.boards[0]);
        CLOSE(budget.bytes_per_s, 160, 1e-9);
        CLOSE(budget.bytes_limit, 960, 1e-9); // ten bits for each byte
        BoardUse idle;
        idle.id = "idle";
        CLOSE(line_bytes(bench, idle), 0, 0);
        QVERIFY(std::isinf(line_interval_s(bench, idle)));
    }
    /// Thévenin: what a pin sees of a divider is both of its resistors beside each other.
    void aDividerIsAsWeakAsBothResistors() {
        Bench bench = test::small_bench();
        Connection& wire = bench.readings[0].wiring.pins.at(0);
        CLOSE(source_ohm(place(bench, catalog(), bench.readings[0])), 0, 0); // the part drives the pin itself
        wire.divider = {10000, 20000};
        CLOSE(source_ohm(place(bench, catalog(), bench.readings[0])), 20000.0 / 3, 1e-9);
        wire.pin.clear();
        CLOSE(source_ohm(place(bench, catalog(), bench.readings[0])), 0, 0);
    }
    /// A thermistor of 10 kΩ below 10 kΩ: 5 kΩ at 25 °C, and weaker in the cold, at most the fixed resistor.
    void aThermistorIsWeakestInTheCold() {
        const auto at = [](double low, double high) {
            Bench bench = test::small_bench("ntc-10k-in-divider");
            bench.readings[0].quantity.low = low;
            bench.readings[0].quantity.high = high;
            return divider_source_ohm(place(bench, catalog(), bench.readings[0]));
        };
        CLOSE(at(24.9, 25.1), 5000, 15);
        QVERIFY(at(-20, 25) > 1.5 * at(24.9, 25.1));
        QVERIFY(at(-20, 25) < 10000);
        CLOSE(at(60, 80), 5000, 15); // never less than half of it
    }
    /// A finer reference must stand above what comes, by two parts in a hundred and its own tolerance.
    void aFinerReferenceStandsAboveTheSignal() {
        for (const BoardCard& board : catalog().boards) {
            Bench bench = test::small_bench();
            bench.boards[0].card = board.id;
            bench.readings[0].sensor = {};
            bench.readings[0].wiring = {};
            const auto chosen =
                choose_part(bench, catalog(), "air", "analog-thermometer-with-offset", bench.boards[0].id);
            if (!chosen) continue; // a board without an analog input
            bench = *chosen;
            for (double high = 0; high < 125; high += 5) {
                bench.readings[0].quantity.low = high - 10;
                bench.readings[0].quantity.high = high;
                const Placed placed = place(bench, catalog(), bench.readings[0]);
                const VoltageReference* finer = finer_reference(placed);
                if (!finer || !placed.reference) continue;
                QVERIFY(finer->voltage_V < placed.reference->voltage_V);
                QVERIFY(pin_range(placed).high < 0.98 * (finer->voltage_V - finer->tolerance_V));
                for (const VoltageReference& other : board.references) // none that is finer still would do
                    QVERIFY(other.voltage_V >= finer->voltage_V ||
                            pin_range(placed).high >= 0.98 * (other.voltage_V - other.tolerance_V));
            }
        }
    }
    /// 10 mV/°C and 500 mV at 0 °C: −10 to 35 °C is 0.4 to 0.85 V, and half of it behind two equal resistors.
    void whatComesToThePin() {
        Bench bench = test::small_bench();
        Placed placed = place(bench, catalog(), bench.readings[0]);
        CLOSE(source_range(placed).low, 0.4, 1e-9);
        CLOSE(source_range(placed).high, 0.85, 1e-9);
        bench.readings[0].wiring.pins.at(0).divider = {10000, 10000};
        placed = place(bench, catalog(), bench.readings[0]);
        CLOSE(pin_range(placed).high, 0.425, 1e-4); // less what the pin draws
        CLOSE(source_range(placed).high, 0.85, 1e-9);
        QVERIFY(!VoltRange{}.known());
    }
    void currentsHaveThreeDigits() {
        QCOMPARE(test::plain(milliamps(12.345)), std::string("12.3 mA"));
        QCOMPARE(test::plain(milliamps(0)), std::string("0 mA"));
        QCOMPARE(test::plain(volts(3.3)), std::string("3.3 V"));
    }
};

RUN_TESTS_OF(TestSources)
#include "tst_sources.moc"
