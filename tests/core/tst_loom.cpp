// The drawing and its steps: every leg once, grounds first and power last, a check at each step, modules between.
#include "core/plan/loom/wiring_steps.h"
#include "support/defects.h"
#include "support/run_tests.h"

#include <map>
#include <set>

using namespace cognitum;
using test::catalog;

namespace {

bool drawn(const Leg& leg) {
    return leg.role != "unused" && leg.role != "strap" && leg.role != "channel";
}

void check_wires(const Loom& loom) {
    std::set<std::pair<int, int>> ends;
    for (const LoomWire& w : loom.wires) {
        if (w.to.block >= 0) QVERIFY(ends.insert({w.to.block, w.to.leg}).second); // no leg has two wires
        QVERIFY(w.to_row >= 0 && w.to_row < loom.rows);
        if (w.to.block >= 0) {
            const LoomBlock& block = loom.blocks[std::size_t(w.to.block)];
            QCOMPARE(block.legs[std::size_t(w.to.leg)].row, w.to_row);
            QVERIFY(w.to_row >= block.first_row && w.to_row <= block.last_row);
        }
        if (w.from.block == 0) QCOMPARE(loom.blocks[0].legs[std::size_t(w.from.leg)].label, w.net);
    }
    std::set<int> orders;
    for (const LoomWire& w : loom.wires)
        QVERIFY(orders.insert(w.order).second);
}

} // namespace

class TestLoom : public QObject {
    Q_OBJECT

  private slots:
    /// Every shipped part with legs, on a board that takes it.
    void everyPart_data() {
        QTest::addColumn<QByteArray>("part");
        for (const PartCard& part : catalog().parts)
            if (part.kind == PartKind::sensor && !part.legs.empty())
                QTest::addRow("%s", part.id.c_str()) << QByteArray::fromStdString(part.id);
    }
    void everyPart() {
        QFETCH(QByteArray, part);
        const PartCard& card = *catalog().part(part.toStdString());
        Bench bench;
        for (const char* board : {"board-5v-8bit-6-analog", "board-3v3-12bit-wifi"}) {
            Bench empty;
            BoardUse use;
            use.id = "b";
            use.name = "board";
            use.card = board;
            empty.boards.push_back(use);
            Reading r;
            r.id = "r";
            r.name = "R";
            r.quantity.kind = card.measures[0].quantity;
            r.quantity.unit = card.measures[0].unit;
            r.quantity.low = card.measures[0].low;
            r.quantity.high = card.measures[0].high;
            empty.readings.push_back(r);
            if (const auto placed = choose_part(empty, catalog(), "r", card.id, "b");
                placed && bench.readings.empty())
                bench = *placed;
        }
        if (bench.readings.empty()) QSKIP("needs a supply that neither board has");
        const Reading& r = bench.readings[0];
        const Loom loom = reading_loom(bench, catalog(), r);
        QCOMPARE(loom.blocks.size(), std::size_t(2));
        check_wires(loom);
        // Every leg that must be wired is drawn, in the order in which it is seen.
        std::vector<std::string> labels;
        for (const LoomLeg& leg : loom.blocks[1].legs)
            labels.push_back(leg.label);
        std::vector<std::string> expected;
        for (const Leg& leg : card.legs)
            if (drawn(leg)) expected.push_back(leg.label);
        QVERIFY(labels == expected);
        for (std::size_t i = 1; i < loom.blocks[1].legs.size(); ++i)
            QVERIFY(loom.blocks[1].legs[i].row > loom.blocks[1].legs[i - 1].row);
        QCOMPARE(loom.resistors.size(), std::size_t(card.divider ? 1 : 0) + (r.wiring.pull_up_ohm > 0 ? 1 : 0) +
                                            (card.network.kind == Network::Kind::bias    ? 2
                                             : card.network.kind == Network::Kind::shunt ? 1
                                                                                         : 0));

        const BoardCard& board = *catalog().board(bench.boards[0].card);
        const auto steps = wiring_steps(bench, catalog(), r, loom);
        std::map<int, int> step_of;
        int plug = 0;
        for (const WiringStep& s : steps) {
            QVERIFY2(!s.meter.empty() && !s.text.empty(), s.text.c_str());
            QVERIFY2(s.text.find("{}") == std::string::npos, s.text.c_str());
            if (s.wire > 0 && !step_of.count(s.wire)) step_of[s.wire] = s.number;
            if (s.text.find("Plug in") != std::string::npos) plug = s.number;
        }
        QVERIFY(plug > 0);
        int last_ground = 0;
        int first_supply = 1000;
        for (const LoomWire& w : loom.wires) {
            QVERIFY2(step_of.count(w.order), w.net.c_str()); // every wire has its step, before power
            QVERIFY(step_of[w.order] < plug);
            if (w.net == board.ground) last_ground = std::max(last_ground, step_of[w.order]);
            if (board.rail(w.net)) first_supply = std::min(first_supply, step_of[w.order]);
        }
        for (const LoomWire& w : loom.wires)
            if (w.net != board.ground && !board.rail(w.net))
                QVERIFY(step_of[w.order] > last_ground && step_of[w.order] < first_supply);
    }

    void theDividerStandsBetweenPinAndGround() {
        Bench bench = test::bench_with("level", "echo-ranger-open", "board-3v3-12bit-wifi");
        bench.readings[0].wiring.pins[0].divider = {1800, 3300};
        const Loom loom = reading_loom(bench, catalog(), bench.readings[0]);
        QCOMPARE(loom.title, std::string("4 wires, 2 resistors"));
        QCOMPARE(loom.resistors.size(), std::size_t(1));
        QCOMPARE(loom.resistors[0].ohm, 3300.0);
        const auto row_net = [&](int row) {
            for (const LoomWire& w : loom.wires)
                if (w.to_row == row) return w.net;
            return std::string();
        };
        QCOMPARE(row_net(loom.resistors[0].to_row), std::string("GND"));
        QCOMPARE(row_net(loom.resistors[0].from_row), bench.readings[0].wiring.pin());
        const auto echo =
            std::find_if(loom.wires.begin(), loom.wires.end(), [](const LoomWire& w) { return w.in_line_ohm > 0; });
        QCOMPARE(echo->in_line_ohm, 1800.0);
        QCOMPARE(test::plain(echo->volts), std::string("3.24 V"));
        QCOMPARE(test::plain(echo->source_volts), std::string("5 V"));
        bool through_both = false;
        for (const WiringStep& s : wiring_steps(bench, catalog(), bench.readings[0], loom))
            through_both = through_both || test::plain(s.meter).find("5.1 kΩ") == 0;
        QVERIFY(through_both); // the meter sees both resistors in a row
    }

    void anExternalConverterStandsBetween() {
        VALUE_OF(demo, load_bench_json(data_folder() + "/demo/whelk-point.json"));
        const Loom loom = reading_loom(demo, catalog(), *demo.reading("bed-2"));
        QCOMPARE(loom.blocks.size(), std::size_t(3));
        QVERIFY(loom.between);
        check_wires(loom);
        int flags = 0;
        for (const LoomWire& w : loom.wires)
            if (!w.flag.empty()) ++flags;
        QCOMPARE(flags, 2); // the probe's supply and ground go round the module
    }

    void aWholeBoardIsDrawnOnce() {
        VALUE_OF(demo, load_bench_json(data_folder() + "/demo/whelk-point.json"));
        for (const BoardUse& use : demo.boards) {
            if (use.card.empty()) continue; // a file has no pins
            const Loom loom = board_loom(demo, catalog(), use);
            check_wires(loom);
            std::set<std::string> labels;
            for (const LoomLeg& leg : loom.blocks[0].legs)
                QVERIFY2(labels.insert(leg.label).second, leg.label.c_str()); // one terminal for each net
            int last = -1;
            for (const LoomBlock& block : loom.blocks)
                if (block.column == 2) {
                    QVERIFY(block.first_row > last); // no part stands on another
                    last = block.last_row;
                }
        }
        // Pump house: ranger, light sensor, lamp, pump, converter with four probes.
        QCOMPARE(board_loom(demo, catalog(), *demo.board("pump-house")).blocks.size(), std::size_t(1 + 4 + 1 + 4));
    }

    void coloursFollowTheChoice() {
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset");
        bench.readings[0].wiring.colours = {{"output", "blue"}};
        std::map<std::string, std::string> colours;
        for (const LoomWire& w : reading_loom(bench, catalog(), bench.readings[0]).wires)
            colours[w.net] = w.colour;
        QCOMPARE(colours["GND"], std::string("black"));
        QCOMPARE(colours["5V"], std::string("red"));
        QCOMPARE(colours[bench.readings[0].wiring.pin()], std::string("blue"));
    }

    void theMirrorCheckSaysWhatTheMeterShows() {
        const Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset");
        const std::string text = test::plain(mirror_check(bench, catalog(), bench.readings[0]));
        QVERIFY2(text.find("supply and ground change places") != std::string::npos &&
                     text.find("5 V") != std::string::npos,
                 text.c_str());
        const Bench ntc = test::bench_with("temperature", "ntc-10k-in-divider");
        QVERIFY(mirror_check(ntc, catalog(), ntc.readings[0]).empty()); // it has no polarity
    }

    void nothingToDrawIsEmpty() {
        Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset");
        bench.readings[0].wiring.pins.clear();
        QVERIFY(reading_loom(bench, catalog(), bench.readings[0]).blocks.empty());
        bench.readings[0].sensor.part = "gone";
        QVERIFY(reading_loom(bench, catalog(), bench.readings[0]).blocks.empty());
    }
};

RUN_TESTS_OF(TestLoom)
#include "tst_loom.moc"
