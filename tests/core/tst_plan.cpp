// Shipped cards, the comparison of parts, search by facts, and the plan in its JSON form.
#include "core/plan/candidates.h"
#include "core/units/quantity_kind.h"
#include "store/file/data_files.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;
using test::catalog;
using test::small_bench;

class TestPlan : public QObject {
    Q_OBJECT

  private slots:
    void allShippedCardsLoad() {
        const LoadedCatalog loaded = load_catalog();
        for (const Error& e : loaded.problems)
            qWarning("%s", e.text().c_str());
        QVERIFY(loaded.problems.empty());
        QVERIFY(loaded.catalog.parts.size() >= 50);
        QVERIFY(loaded.catalog.boards.size() >= 10);
        for (const PartCard& part : loaded.catalog.parts) {
            // The transfer must be able to reach both ends of the stated range, backwards.
            for (const Measurand& m : part.measures) {
                const Chain transfer{"", "", m.transfer};
                QVERIFY2(inverse(transfer, m.low).ok() && inverse(transfer, m.high).ok(), part.id.c_str());
            }
            for (const Phrase* text : {&part.fails, &part.needs, &part.seen_from, &part.care, &part.good_for})
                QVERIFY2(!text->empty(), part.id.c_str());
            QVERIFY2(!part.family.empty(), part.id.c_str());
            QVERIFY2(part.kind == PartKind::load || part.marking.empty(),
                     part.id.c_str()); // markings are a person's own
            // What needs pins has legs for them, and no shipped card asks for a pin that no board has.
            for (const PinNeed& need : pin_needs(part)) {
                QVERIFY2(part.leg(need.leg) >= 0, part.id.c_str());
                QVERIFY2(std::any_of(loaded.catalog.boards.begin(), loaded.catalog.boards.end(),
                                     [&](const BoardCard& b) { return b.pin_for(need.function); }),
                         (part.id + " " + need.function).c_str());
            }
            QVERIFY2(part.interface.speech == Speech::radio || part.kind == PartKind::level_shifter ||
                         !pin_needs(part).empty(),
                     part.id.c_str());
        }
        // Every family that the plan knows has a part, and every kind of quantity that is no bare number.
        for (const QuantityKind& kind : quantity_kinds())
            QVERIFY2(kind.id == "volume" || kind.id == "number" ||
                         std::any_of(loaded.catalog.parts.begin(), loaded.catalog.parts.end(),
                                     [&](const PartCard& p) { return p.measurand(kind.id); }),
                     kind.id.c_str());
        for (const BoardCard& board : loaded.catalog.boards) {
            QVERIFY2(board.logic_V <= board.input_limit_V && board.high_threshold_V < board.logic_V,
                     board.id.c_str());
            QVERIFY2(!board.programming.empty() && !board.good_for.empty(), board.id.c_str());
            for (const VoltageReference& r : board.references)
                QVERIFY2(r.voltage_V <= board.analog_limit_V, board.id.c_str());
        }
    }
    /// An analog input withstands what its card says, or what a pin does.
    void theLimitOfAnAnalogInput() {
        VALUE_OF(card, read_text_file(data_folder() + "/boards/board-3v3-12bit-wifi.json"));
        const std::string key = "\"analog_limit_V\": 3.6,";
        const auto limit = [&](const std::string& with) {
            std::string text = card;
            text.replace(text.find(key), key.size(), with);
            const auto document = JsonText::parse("card", text);
            const auto board = read_board_card(JsonReader(*document));
            return board ? board->analog_limit_V : -1;
        };
        QCOMPARE(limit("\"analog_limit_V\": 1.1,"), 1.1);
        QCOMPARE(limit(""), 3.6);
    }
    void aBadCardNamesItsPlace() {
        VALUE_OF(text, JsonText::parse("mine.json", "{\"id\": \"x\", \"name\": \"X\",\n\"family\": 7}"));
        const auto card = read_part_card(JsonReader(text));
        QVERIFY(!card);
        QCOMPARE(card.error().where, std::string("mine.json:2: /family"));
    }

    void candidatesSayWhatSpeaksAgainst() {
        const Bench bench = small_bench();
        const auto list = candidates(bench, catalog(), bench.readings[0], bench.boards[0]);
        QVERIFY(list.size() > 10);
        for (const Candidate& c : list) {
            QVERIFY(!c.because.empty());
            if (c.part == "analog-thermometer-without-offset") {
                QCOMPARE(c.fitness, Fitness::does_not);
                QVERIFY2(test::plain(c.because).find("You expect -10 to 35") != std::string::npos ||
                             test::plain(c.because).find("the part reaches 2 to 100 °C") != std::string::npos,
                         c.because.c_str());
            }
            if (c.part == "analog-thermometer-with-offset") QCOMPARE(c.fitness, Fitness::fits_with_change);
        }
        QVERIFY(std::is_sorted(list.begin(), list.end(),
                               [](const Candidate& a, const Candidate& b) { return a.fitness < b.fitness; }));
    }
    void partsAreFoundByFacts() {
        const auto count = [](const char* query) {
            return std::count_if(catalog().parts.begin(), catalog().parts.end(),
                                 [&](const PartCard& p) { return matches_facts(p, query); });
        };
        QCOMPARE(count("10 mV"), 2);
        QCOMPARE(count("10mV 500"), 1);
        QCOMPARE(count("NTC"), 3);
        QCOMPARE(count("i2c 0x23"), 1);
        QCOMPARE(count("I2C 0x5c"), 1);
        QCOMPARE(count("one-wire waterproof"), 1);
        QVERIFY(count("3 legs 3.3 V") > 3 && count("3 legs 3.3 V") < count("3 legs")); // one of them needs 4 V
        QCOMPARE(count("3 legs 30 V"), 1);        // only one of them takes 30 V
        for (const PartCard& p : catalog().parts) // 3 legs are not 13 legs
            QVERIFY2(!matches_facts(p, "3 legs") || p.legs.size() == 3, p.id.c_str());
        QCOMPARE(count("unobtainium"), 0);
    }

    void theResistorStandsBetweenRailAndPin() {
        const Bench bench = small_bench("ntc-10k-in-divider");
        QVERIFY(std::holds_alternative<RatioDivider>(bench.readings[0].path.stages[0]));
        // 10 kΩ under 10 kΩ: the middle of the converter at 25 °C.
        CLOSE(forward(bench.readings[0].path, 511.5).number, 25, 0.01);
    }
    void benchJsonComesBack() {
        VALUE_OF(bench, load_bench_json(data_folder() + "/demo/whelk-point.json"));
        QCOMPARE(bench.readings.size(), std::size_t(19));
        QCOMPARE(bench.boards.size(), std::size_t(4)); // the receiver's file is a source too
        bench.readings[0].correction = AppliedCorrection{
            1.01, -0.5, 0.01, 0.001, -0.002, 0.05, 2, 0, 30, 7, from_seconds(1.7e9), "pass", "key"};
        VALUE_OF(text, JsonText::parse("again", bench_json(bench).dump()));
        VALUE_OF(again, read_bench(JsonReader(text)));
        QVERIFY(again == bench);
    }
};

RUN_TESTS_OF(TestPlan)
#include "tst_plan.moc"
