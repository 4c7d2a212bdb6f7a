// Pins: least cost against trying everything, no dependence on order, what must never happen on a pin.
#include "core/plan/findings.h"
#include "core/plan/matching.h"
#include "support/defects.h"
#include "support/run_tests.h"

#include <numeric>
#include <random>

using namespace cognitum;
using test::catalog;

namespace {

double cost_of(const std::vector<std::vector<double>>& cost, const std::vector<int>& columns) {
    double sum = 0;
    for (std::size_t i = 0; i < columns.size(); ++i)
        sum += cost[i][std::size_t(columns[i])];
    return sum;
}

/// The slow way: every order of the columns.
double least_by_trying(const std::vector<std::vector<double>>& cost) {
    std::vector<int> columns(cost[0].size());
    std::iota(columns.begin(), columns.end(), 0);
    double best = 1e300;
    do {
        double sum = 0;
        for (std::size_t i = 0; i < cost.size(); ++i)
            sum += cost[i][std::size_t(columns[i])];
        best = std::min(best, sum);
    } while (std::next_permutation(columns.begin(), columns.end()));
    return best;
}

Bench crowd(const char* board, std::initializer_list<std::pair<const char*, const char*>> parts) {
    Bench bench;
    BoardUse use;
    use.id = "b";
    use.name = "board";
    use.card = board;
    bench.boards.push_back(use);
    int n = 0;
    for (const auto& [kind, part] : parts) {
        Reading r;
        r.id = "r" + std::to_string(n++);
        r.name = r.id;
        r.quantity.kind = kind;
        r.quantity.unit = find_quantity_kind(kind)->units[0];
        r.sensor.part = part;
        r.wiring.board = "b";
        bench.readings.push_back(r);
    }
    return bench;
}

} // namespace

class TestAssign : public QObject {
    Q_OBJECT

  private slots:
    void matchingIsTheCheapest() {
        std::mt19937 random(7);
        for (int round = 0; round < 200; ++round) {
            const std::size_t n = 1 + random() % 5;
            const std::size_t m = n + random() % (8 - n);
            std::vector<std::vector<double>> cost(n, std::vector<double>(m));
            for (auto& row : cost)
                for (double& c : row)
                    c = random() % 8 == 0 ? 1e6 : double(random() % 50);
            const std::vector<int> columns = least_cost_matching(cost);
            std::vector<int> sorted = columns;
            std::sort(sorted.begin(), sorted.end());
            QVERIFY(std::adjacent_find(sorted.begin(), sorted.end()) == sorted.end()); // each column once
            CLOSE(cost_of(cost, columns), least_by_trying(cost), 1e-6);
        }
    }

    void theOrderOfTheListsDoesNotMatter() {
        Bench bench = crowd("board-3v3-12bit-wifi", {{"temperature", "ntc-10k-in-divider"},
                                                     {"level", "echo-ranger-sealed"},
                                                     {"rain", "tipping-bucket"},
                                                     {"light", "light-i2c"},
                                                     {"temperature", "one-wire-thermometer"},
                                                     {"temperature", "one-wire-thermometer"},
                                                     {"temperature", "thermocouple-k-spi"},
                                                     {"motion", "motion-infrared"},
                                                     {"conductivity", "conductivity-analog"}});
        bench.boards[0].radio_on = true;
        const Assignment first = assign_pins(bench, catalog(), Keep::fixed);
        QVERIFY2(first.gaps.empty(), first.gaps.empty() ? "" : first.gaps[0].c_str());
        std::mt19937 random(3);
        for (int round = 0; round < 10; ++round) {
            std::shuffle(bench.readings.begin(), bench.readings.end(), random);
            const Assignment again = assign_pins(bench, catalog(), Keep::fixed);
            for (const Reading& r : first.bench.readings)
                QVERIFY2(again.bench.reading(r.id)->wiring.pins == r.wiring.pins, r.id.c_str());
        }
        // One-wire parts share a pin; nothing sits on a trap, on the console or on a lost converter.
        QCOMPARE(first.bench.reading("r4")->wiring.pin(), first.bench.reading("r5")->wiring.pin());
        const BoardCard& card = *catalog().board("board-3v3-12bit-wifi");
        for (const Reading& r : first.bench.readings)
            for (const Connection& c : r.wiring.pins) {
                const Pin* pin = card.pin(c.pin);
                QVERIFY2(pin && pin->taken_by.empty() && pin->boot.empty(), (r.id + " on " + c.pin).c_str());
                if (pin_needs(*catalog().part(r.sensor.part))[0].function == "analog")
                    QVERIFY2(!pin->lost_with_radio, c.pin.c_str());
            }
        for (const Finding& f : check_bench(first.bench, catalog()))
            QVERIFY2(f.id.find("pin") == std::string::npos || f.id == "no-pull-up" || f.id == "one-wire-pull-up",
                     f.message.c_str());
    }

    void whatThePersonFixedStays() {
        Bench bench = crowd("board-5v-8bit-6-analog", {{"temperature", "analog-thermometer-with-offset"},
                                                       {"temperature", "ntc-10k-in-divider"}});
        bench.readings[0].wiring.pins = {{"output", "A5", true, {}}};
        bench.readings[1].wiring.pins = {{"end 1", "A4", false, {}}};
        const Bench anew = assign_pins(bench, catalog(), Keep::fixed).bench;
        QCOMPARE(anew.readings[0].wiring.pin(), std::string("A5"));
        QVERIFY(anew.readings[1].wiring.pin() != "A4"); // a plain analog input is left for it
        const Bench kept = assign_pins(bench, catalog(), Keep::placed).bench;
        QCOMPARE(kept.readings[1].wiring.pin(), std::string("A4")); // already soldered
    }

    void pulsesGetPinsThatInterrupt() {
        const Bench bench = assign_pins(crowd("board-5v-8bit-6-analog", {{"rain", "tipping-bucket"},
                                                                         {"contact", "reed-contact"},
                                                                         {"wind", "wind-cups"},
                                                                         {"motion", "motion-infrared"}}),
                                        catalog(), Keep::fixed)
                                .bench;
        const BoardCard& card = *catalog().board("board-5v-8bit-6-analog");
        QVERIFY(card.pin(bench.readings[0].wiring.pin())->can("interrupt"));
        QVERIFY(card.pin(bench.readings[2].wiring.pin())->can("interrupt"));
        QVERIFY(!card.pin(bench.readings[1].wiring.pin())->can("interrupt")); // a door does not need one
    }

    void whatCannotBeDoneIsSaid() {
        const Assignment none =
            assign_pins(crowd("board-3v3-wifi-1-analog",
                              {{"soil-moisture", "soil-capacitive"}, {"soil-moisture", "soil-capacitive"}}),
                        catalog(), Keep::fixed);
        QCOMPARE(none.gaps.size(), std::size_t(1));
        QVERIFY2(none.gaps[0].find("needs an analog input") != std::string::npos &&
                     none.gaps[0].find("A0: r0") != std::string::npos,
                 none.gaps[0].c_str());
        QVERIFY(none.bench.readings[1].wiring.pin().empty()); // planned, without a pin
    }

    void readingsFindABoard() {
        Bench bench = crowd("board-3v3-wifi-1-analog",
                            {{"temperature", "analog-thermometer-without-offset"}, {"light", "light-i2c"}});
        BoardUse second;
        second.id = "c";
        second.name = "second";
        second.card = "board-5v-8bit-6-analog";
        bench.boards.push_back(second);
        BoardUse mains;
        mains.id = "a";
        mains.name = "relay";
        mains.card = "board-mains-relay";
        bench.boards.push_back(mains);
        for (Reading& r : bench.readings)
            r.wiring.board.clear();
        bench.readings.push_back(bench.readings[0]);
        bench.readings[2].id = "r2";
        const Assignment a = assign_pins(bench, catalog(), Keep::fixed);
        QVERIFY2(a.gaps.empty(), a.gaps.empty() ? "" : a.gaps[0].c_str());
        QCOMPARE(a.bench.reading("r0")->wiring.board, std::string("b")); // 5V is there, and A0
        QCOMPARE(a.bench.reading("r2")->wiring.board, std::string("c")); // the next has no input left on b
        for (const Reading& r : a.bench.readings)
            QVERIFY(r.wiring.board != "a"); // never on what is advised against
    }

    void choosingKeepsTheSolderedPin() {
        const Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset");
        Bench moved = bench;
        moved.readings[0].wiring.pins[0].pin = "A3";
        VALUE_OF(next, choose_part(moved, catalog(), "r1", "ntc-10k-in-divider", "gauge"));
        QCOMPARE(next.readings[0].wiring.pin(), std::string("A3"));
        QVERIFY(std::holds_alternative<RatioDivider>(next.readings[0].path.stages[0]));
        const auto none = choose_part(bench, catalog(), "r1", "tyre-beacon", "gauge");
        QVERIFY(!none && none.error().what.find("no radio") != std::string::npos);
    }

    void aSharedPartHasOneSetOfWires() {
        Bench bench = crowd("board-3v3-12bit-wifi",
                            {{"pressure", "air-pressure-humidity-i2c"}, {"humidity", "air-pressure-humidity-i2c"}});
        bench.readings[1].sensor.shared_with = "r0";
        const Bench done = assign_pins(bench, catalog(), Keep::fixed).bench;
        QVERIFY(done.readings[0].wiring.pins == done.readings[1].wiring.pins);
        for (const Finding& f : check_bench(done, catalog()))
            QVERIFY2(f.id != "address-clash" && f.id != "pin-used-twice", f.message.c_str());
    }

    /// Two boards of any two kinds: a rail or a reference of one is nothing on the other.
    void eachIsFedAndMeasuredOnItsOwnBoard() {
        for (const BoardCard& one : catalog().boards)
            for (const BoardCard& other : catalog().boards) {
                Bench bench;
                for (const auto& [id, card] : {std::pair("a", &one), {"b", &other}}) {
                    BoardUse use;
                    use.id = use.name = id;
                    use.card = card->id;
                    bench.boards.push_back(use);
                    Reading r;
                    r.id = r.name = std::string("air of ") + id;
                    r.sensor.part = "analog-thermometer-with-offset";
                    r.wiring.board = id;
                    bench.readings.push_back(r);
                }
                const Bench placed = assign_pins(bench, catalog(), Keep::fixed).bench;
                for (const Reading& r : placed.readings) {
                    const BoardCard& card = r.wiring.board == "a" ? one : other;
                    const std::string told = one.id + " and " + other.id + ": " + r.id;
                    QVERIFY2(card.rail(r.wiring.rail), (told + " on rail " + r.wiring.rail).c_str());
                    QVERIFY2(card.reference(r.wiring.reference), (told + " by " + r.wiring.reference).c_str());
                }
            }
    }
};

RUN_TESTS_OF(TestAssign)
#include "tst_assign.moc"
