// Cards and benches from people: each mistake is named with its place; nothing is guessed, nothing crashes on
// noise.
#include "core/calibrate/record.h"
#include "core/catalog/cards.h"
#include "support/noise.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

namespace {

const char* good_part = R"({
 "card": "part", "id": "x", "name": "X", "quantity": "temperature",
 "range": {"low": -40, "high": 125, "unit": "degC"},
 "accuracy": 2, "response_s": 8,
 "supply": {"low_V": 2.7, "high_V": 5.5, "current_mA": 0.05},
 "legs": [{"label": "a", "role": "supply"}, {"label": "b", "role": "output"}, {"label": "c", "role": "ground"}],
 "transfer": [{"stage": "linear", "zero": 0.5, "slope": 0.01, "input_unit": "V", "unit": "degC"}]
})";

const char* good_board = R"({
 "card": "board", "id": "b", "name": "B", "bits": 10, "input_limit_V": 5.5, "source_ohm_max": 10000,
 "references": [{"id": "supply", "name": "supply", "voltage_V": 5.0, "tol_voltage_V": 0.05}],
 "rails": [{"label": "5V", "voltage_V": 5.0, "current_mA": 400}],
 "pins": [{"label": "A0", "functions": ["analog"]}]
})";

/// The text with one piece replaced; fails the test when the piece is not there.
std::string with(std::string text, const char* from, const char* to) {
    const auto at = text.find(from);
    if (at == std::string::npos) qFatal("no %s in the card", from);
    return text.replace(at, std::strlen(from), to);
}

template <typename Read>
Error error_of(const std::string& json, Read read) {
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
        QCOMPARE(part.drift_per_year, 0.0);
        QCOMPARE(part.interface, std::string("analog"));
        QCOMPARE(std::get<Linear>(part.transfer[0]).zero.origin, std::string("data sheet"));
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
        row("unknown key", "\"accuracy\"", "\"acuracy\"", "card.json:4: /acuracy");
        row("unknown quantity", "\"temperature\"", "\"warmth\"", "card.json:2: /quantity");
        row("range upside down", "\"low\": -40", "\"low\": 400", "card.json:3: /range/low");
        row("range without unit", ", \"unit\": \"degC\"},", "},", "card.json:3: /range");
        row("unknown unit", "\"high\": 125, \"unit\": \"degC\"", "\"high\": 125, \"unit\": \"deg\"",
            "card.json:3: /range/unit");
        row("supply upside down", "\"low_V\": 2.7", "\"low_V\": 27", "card.json:5: /supply/low_V");
        row("a role", "\"role\": \"ground\"", "\"role\": \"earth\"", "card.json:6: /legs/2/role");
        row("one leg", "{\"label\": \"b\", \"role\": \"output\"}, {\"label\": \"c\", \"role\": \"ground\"}", "5",
            "/legs/1");
        row("text for a number", "\"accuracy\": 2", "\"accuracy\": \"2\"", "card.json:4: /accuracy");
        row("no transfer",
            "{\"stage\": \"linear\", \"zero\": 0.5, \"slope\": 0.01, \"input_unit\": \"V\", \"unit\": \"degC\"}",
            "", "card.json:7: /transfer");
        row("a transfer into volts", "\"input_unit\": \"V\", \"unit\": \"degC\"",
            "\"input_unit\": \"V\", \"unit\": \"V\"", "card.json:7: /transfer");
        row("no JSON", "\"accuracy\": 2,", "\"accuracy\": 2", "card.json:4");
    }
    void badParts() {
        QFETCH(QByteArray, from);
        QFETCH(QByteArray, to);
        QFETCH(QByteArray, where);
        const Error e = error_of(with(good_part, from.constData(), to.constData()), read_part_card);
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
        row("a pin twice", "{\"label\": \"A0\", \"functions\": [\"analog\"]}",
            "{\"label\": \"A0\", \"functions\": []}, {\"label\": \"A0\", \"functions\": []}",
            "card.json:5: /pins/1/label");
        row("a function", "[\"analog\"]", "[7]", "/pins/0/functions/0");
    }
    void badBoards() {
        QFETCH(QByteArray, from);
        QFETCH(QByteArray, to);
        QFETCH(QByteArray, where);
        const Error e = error_of(with(good_board, from.constData(), to.constData()), read_board_card);
        QVERIFY2(QByteArray::fromStdString(e.where).contains(where), e.where.c_str());
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
        row("link", "\"kind\":\"none\"", "\"kind\":\"telepathy\"", "none, serial or simulated");
        row("speed", "\"baud\":115200", "\"baud\":3", "speed must be");
        row("key", "\"sensor\"", "\"senser\"", "not known here");
        row("board list", "\"boards\":[", "\"boards\":7,\"x\":[", "not known here");
    }
    void badBenches() {
        QFETCH(QByteArray, from);
        QFETCH(QByteArray, to);
        QFETCH(QByteArray, says);
        const std::string json = bench_json(test::small_bench()).dump();
        const Error e = error_of(with(json, from.constData(), to.constData()), read_bench);
        QVERIFY2(QByteArray::fromStdString(e.what).contains(says), e.what.c_str());
    }
    void idsAreUnique() {
        Bench bench = test::small_bench();
        bench.readings.push_back(bench.readings[0]);
        const Error e = error_of(bench_json(bench).dump(), read_bench);
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
                QVERIFY(part->low < part->high && part->legs.size() >= 2 && !part->transfer.empty());
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

QTEST_APPLESS_MAIN(TestCards)
#include "tst_cards.moc"
