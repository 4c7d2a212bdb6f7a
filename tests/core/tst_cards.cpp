// Cards and benches from people: each mistake is named with its place; nothing is guessed, nothing crashes on
// noise.
#include "core/calibrate/record.h"
#include "core/catalog/cards.h"
#include "support/noise.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

namespace {

const char* good_part = R"({
 "card": "part", "schema": 1, "id": "x", "name": "X",
 "measures": [{"quantity": "temperature", "unit": "degC", "low": -40, "high": 125, "accuracy": 2,
   "transfer": [{"stage": "linear", "zero": 0.5, "slope": 0.01, "input_unit": "V", "unit": "degC"}]}],
 "supply": {"low_V": 2.7, "high_V": 5.5, "typical_mA": 0.05},
 "interface": {"kind": "i2c", "addresses": ["0x23", "0x5C"]},
 "legs": [{"label": "a", "role": "supply"}, {"label": "b", "role": "data"}, {"label": "c", "role": "ground"}]
})";

const char* good_board = R"({
 "card": "board", "id": "b", "name": "B", "bits": 10, "input_limit_V": 5.5, "logic_V": 5, "high_threshold_V": 3,
 "references": [{"id": "supply", "name": "supply", "voltage_V": 5.0, "tol_voltage_V": 0.05}],
 "rails": [{"label": "5V", "voltage_V": 5.0, "current_mA": 400}],
 "pins": [{"label": "A0", "port": 14, "functions": ["analog"]}]
})";

/// The text with one piece replaced; fails the test when the piece is not there.
std::string replaced(std::string text, const char* from, const char* to) {
    const auto at = text.find(from);
    if (at == std::string::npos) qFatal("no %s in the card", from);
    return text.replace(at, std::strlen(from), to);
}

template <typename Read>
Error card_error(const std::string& json, Read read) {
    const auto text = JsonText::parse("card.json", json);
    if (!text) return text.error();
    const auto card = read(JsonReader(*text));
    return card ? Error{} : card.error();
}

} // namespace

class TestCards : public QObject {
    Q_OBJECT

  private slots:
    void goodCardsAreRead() {
        VALUE_OF(part_text, JsonText::parse("p", good_part));
        VALUE_OF(part, read_part_card(JsonReader(part_text)));
        QCOMPARE(part.legs.size(), std::size_t(3));
        QCOMPARE(part.measurand("temperature")->drift_per_year, 0.0);
        QVERIFY(!part.measurand("light"));
        QCOMPARE(part.interface.addresses, (std::vector<int>{0x23, 0x5C}));
        QCOMPARE(part.supply.peak_mA, 0.05); // no peak said: the typical current
        QCOMPARE(std::get<Linear>(part.measures[0].transfer[0]).zero.origin, std::string("data sheet"));
        VALUE_OF(board_text, JsonText::parse("b", good_board));
        VALUE_OF(board, read_board_card(JsonReader(board_text)));
        QVERIFY(board.pin("A0")->can("analog") && !board.pin("A0")->can("interrupt"));
        QVERIFY(!board.pin("A9") && !board.rail("3V3") && board.reference("supply"));
    }

    void badParts_data() {
        QTest::addColumn<QByteArray>("from");
        QTest::addColumn<QByteArray>("to");
        QTest::addColumn<QByteArray>("where");
        const auto row = [](const char* name, const char* from, const char* to, const char* where) {
            QTest::addRow("%s", name) << QByteArray(from) << QByteArray(to) << QByteArray(where);
        };
        row("unknown key", "\"accuracy\"", "\"acuracy\"", "card.json:3: /measures/0");
        row("unknown quantity", "\"temperature\"", "\"warmth\"", "card.json:3: /measures/0/quantity");
        row("range upside down", "\"low\": -40", "\"low\": 400", "card.json:3: /measures/0/low");
        row("range without unit", "\"unit\": \"degC\", \"low\"", "\"low\"", "card.json:3: /measures/0");
        row("unknown unit", "\"unit\": \"degC\", \"low\"", "\"unit\": \"warm\", \"low\"",
            "card.json:3: /measures/0/unit");
        row("another quantity's unit", "\"unit\": \"degC\", \"low\"", "\"unit\": \"lx\", \"low\"",
            "card.json:3: /measures/0/unit");
        row("supply upside down", "\"low_V\": 2.7", "\"low_V\": 27", "card.json:5: /supply/low_V");
        row("peak below typical", "\"typical_mA\": 0.05", "\"typical_mA\": 5, \"peak_mA\": 1",
            "card.json:5: /supply/peak_mA");
        row("address above 0x77", "\"0x5C\"", "\"0x90\"", "card.json:6: /interface/addresses/1");
        row("address in words", "\"0x5C\"", "\"high\"", "card.json:6: /interface/addresses/1");
        row("no address on the bus", "\"0x23\", \"0x5C\"", "", "card.json:6: /interface/addresses");
        row("unknown interface", "\"i2c\"", "\"telepathy\"", "card.json:6: /interface/kind");
        row("a role", "\"role\": \"ground\"", "\"role\": \"earth\"", "card.json:7: /legs/2/role");
        row("a leg twice", "\"label\": \"b\"", "\"label\": \"a\"", "card.json:7: /legs/1/label");
        row("one leg", "{\"label\": \"b\", \"role\": \"data\"}, {\"label\": \"c\", \"role\": \"ground\"}", "5",
            "/legs/1");
        row("text for a number", "\"accuracy\": 2", "\"accuracy\": \"2\"", "card.json:3: /measures/0/accuracy");
        row("a transfer into volts", "\"input_unit\": \"V\", \"unit\": \"degC\"",
            "\"input_unit\": \"V\", \"unit\": \"V\"", "card.json:4: /measures/0/transfer");
        row("a newer form", "\"schema\": 1", "\"schema\": 2", "card.json:2: /schema");
        row("a path for an id", "\"id\": \"x\"", "\"id\": \"../x\"", "card.json:2: /id");
        row("no JSON", "\"schema\": 1,", "\"schema\": 1", "card.json:2");
    }
    void badParts() {
        QFETCH(QByteArray, from);
        QFETCH(QByteArray, to);
        QFETCH(QByteArray, where);
        const Error e = card_error(replaced(good_part, from.constData(), to.constData()), read_part_card);
        QVERIFY2(QByteArray::fromStdString(e.where).contains(where),
                 qPrintable(QString::fromStdString(e.where + " | " + e.what)));
        QVERIFY(!e.what.empty());
    }
    void badBoards_data() {
        QTest::addColumn<QByteArray>("from");
        QTest::addColumn<QByteArray>("to");
        QTest::addColumn<QByteArray>("where");
        const auto row = [](const char* name, const char* from, const char* to, const char* where) {
            QTest::addRow("%s", name) << QByteArray(from) << QByteArray(to) << QByteArray(where);
        };
        row("bits", "\"bits\": 10", "\"bits\": 0", "card.json:2: /bits");
        row("no reference",
            "{\"id\": \"supply\", \"name\": \"supply\", \"voltage_V\": 5.0, \"tol_voltage_V\": 0.05}", "",
            "/references");
        row("a negative rail", "\"label\": \"5V\", \"voltage_V\": 5.0", "\"label\": \"5V\", \"voltage_V\": -5.0",
            "card.json:4: /rails/0/voltage_V");
        row("a pin twice", "{\"label\": \"A0\", \"port\": 14, \"functions\": [\"analog\"]}",
            "{\"label\": \"A0\", \"functions\": []}, {\"label\": \"A0\", \"functions\": []}",
            "card.json:5: /pins/1/label");
        row("a function", "[\"analog\"]", "[7]", "/pins/0/functions/0");
        row("an unknown function", "[\"analog\"]", "[\"magic\"]", "/pins/0/functions");
        row("half a port", "\"port\": 14", "\"port\": 14.5", "/pins/0/port");
    }
    void badBoards() {
        QFETCH(QByteArray, from);
        QFETCH(QByteArray, to);
        QFETCH(QByteArray, where);
        const Error e = card_error(replaced(good_board, from.constData(), to.constData()), read_board_card);
        QVERIFY2(QByteArray::fromStdString(e.where).contains(where), e.where.c_str());
    }

    void aThousandPinsAreRefused() {
        std::string pins;
        for (int i = 0; i < 1000; ++i)
            pins += (i ? ",{\"label\":\"" : "{\"label\":\"") + std::to_string(i) + "\"}";
        const Error e = card_error(
            replaced(good_board, "{\"label\": \"A0\", \"port\": 14, \"functions\": [\"analog\"]}", pins.c_str()),
            read_board_card);
        QVERIFY2(e.what.find("at most 200 pins") != std::string::npos, e.what.c_str());
    }
    void aBenchWithAMissingCardKeepsItsReading() {
        Bench bench = test::small_bench();
        bench.readings[0].sensor.part = "gone";
        VALUE_OF(text, JsonText::parse("b", bench_json(bench).dump()));
        VALUE_OF(again, read_bench(JsonReader(text)));
        QVERIFY(again == bench);
    }

    void badBenches_data() {
        QTest::addColumn<QByteArray>("from");
        QTest::addColumn<QByteArray>("to");
        QTest::addColumn<QByteArray>("says");
        const auto row = [](const char* name, const char* from, const char* to, const char* says) {
            QTest::addRow("%s", name) << QByteArray(from) << QByteArray(to) << QByteArray(says);
        };
        row("interval", "\"interval_s\":1", "\"interval_s\":0", "interval must be above zero");
        row("accuracy", "\"accuracy\":0.8", "\"accuracy\":-1", "above zero");
        row("range", "\"low\":-10.0", "\"low\":99", "low must be below high");
        row("kind", "\"kind\":\"temperature\"", "\"kind\":\"mood\"", "not known");
        row("link", "\"kind\":\"none\"", "\"kind\":\"telepathy\"", "none, serial, simulated, mqtt");
        row("speed", "\"baud\":115200", "\"baud\":3", "speed must be");
        row("key", "\"sensor\"", "\"senser\"", "not known here");
        row("divider", "\"pins\":[{", "\"pins\":[{\"divider\":{\"top_ohm\":1,\"bottom_ohm\":0},", "above zero");
        row("cable", "\"rail\"", "\"cable_m\":-3,\"rail\"", "0 to 1000 m");
        row("board list", "\"boards\":[", "\"boards\":7,\"x\":[", "not known here");
    }
    void badBenches() {
        QFETCH(QByteArray, from);
        QFETCH(QByteArray, to);
        QFETCH(QByteArray, says);
        const std::string json = bench_json(test::small_bench()).dump();
        const Error e = card_error(replaced(json, from.constData(), to.constData()), read_bench);
        QVERIFY2(QByteArray::fromStdString(e.what).contains(says), e.what.c_str());
    }
    void idsAreUnique() {
        Bench bench = test::small_bench();
        bench.readings.push_back(bench.readings[0]);
        const Error e = card_error(bench_json(bench).dump(), read_bench);
        QVERIFY(e.what.find("used twice") != std::string::npos);
        QCOMPARE(bench.free_id("Air"), std::string("air-2"));
        QCOMPARE(bench.free_id("  Ä!? "), std::string("reading"));
        QCOMPARE(bench.free_id("Rock  pool 7"), std::string("rock-pool-7"));
    }

    /// Mutated texts of every kind: an error or a value, never a crash, and no value that breaks its own rules.
    void noiseIsRefused() {
        std::mt19937_64 random(20261);
        CalibrationRecord record;
        record.reading = "air";
        record.unit = "degC";
        record.model = "offset";
        record.points.resize(2);
        const std::string seeds[] = {good_part, good_board, bench_json(test::small_bench()).dump(),
                                     record_json(record).dump()};
        int values = 0;
        for (int i = 0; i < 6000; ++i) {
            const std::string text = test::mutated(random, seeds[random() % 4]);
            const auto document = JsonText::parse("noise", text);
            if (!document) continue;
            const JsonReader json(*document);
            if (const auto part = read_part_card(json)) {
                for (const Measurand& m : part->measures)
                    QVERIFY(m.low < m.high && m.accuracy > 0);
                for (const int address : part->interface.addresses)
                    QVERIFY(address >= 0x08 && address <= 0x77);
                ++values;
            }
            if (const auto board = read_board_card(json)) {
                QVERIFY(board->bits >= 1 && !board->references.empty());
                ++values;
            }
            const auto bench = read_bench(json);
            if (bench) {
                ++values;
                for (const Reading& r : bench->readings) {
                    QVERIFY(r.quantity.low < r.quantity.high && r.quantity.interval_s > 0);
                    const Value v = forward(r.path, 142);
                    QVERIFY(v.ok() == std::isfinite(v.number));
                }
            }
            if (const auto r = read_record(json))
                for (const CalibrationPoint& p : r->points)
                    QVERIFY(std::isfinite(p.reference + p.indication));
        }
        QVERIFY(values > 20); // some mutations do no harm
    }
};

RUN_TESTS_OF(TestCards)
#include "tst_cards.moc"
