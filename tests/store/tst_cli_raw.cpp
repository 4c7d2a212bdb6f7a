// cognitum-cli decode and signal as scripts use them: keys, exit codes, and messages that name the place.
#include "support/cli.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QFile>
#include <cmath>
#include <functional>
#include <numbers>

using namespace cognitum;
using test::cli;
using test::Run;

namespace {

QByteArray series(int n, double interval_s, const std::function<double(int, double)>& value) {
    QByteArray out = "time,value\n";
    for (int i = 0; i < n; ++i) {
        const double v = value(i, i * interval_s);
        out += QByteArray::number(1.7e9 + i * interval_s, 'f', 3) + "," +
               (std::isfinite(v) ? QByteArray::number(v, 'g', 12) : "") + "\n";
    }
    return out;
}

bool says(const Json& json, const char* id) {
    return std::any_of(json["verdicts"].begin(), json["verdicts"].end(),
                       [&](const Json& v) { return v["id"] == id; });
}

} // namespace

class TestCliRaw : public QObject {
    Q_OBJECT

  private slots:
    void recordsHaveNamesWhereThereAreSome() {
        const Run named = cli({"decode", "-", "--json"}, "T=21.5 H=40%\nT=nan H=41%\n");
        QCOMPARE(named.code, 0);
        const Json json = named.json();
        QVERIFY(json["format"] == "pairs");
        QVERIFY(json["records"][0]["values"]["T"] == 21.5);
        QVERIFY(json["records"][1]["values"]["T"].is_null()); // failed, and not zero
        QVERIFY(json["units"]["H"] == "%");
        const Json bare = cli({"decode", "-", "--json"}, "1,2\n3,4\n5,6").json();
        QCOMPARE(bare["records"].size(), std::size_t(2)); // a line without an end is none
        QVERIFY(bare["records"][1]["values"][1] == 4.0);
        QVERIFY(bare["rejected"]["count"] == 1);
        QVERIFY(bare["rejected"]["reasons"][0]["first_line"] == 3);
    }
    void theHeadIsEnough() {
        QByteArray bytes;
        for (int i = 0; i < 500; ++i)
            bytes += "7,8\n";
        const Json json = cli({"decode", "-", "--json", "--head", "3"}, bytes).json();
        QCOMPARE(json["records"].size(), std::size_t(3));
        QVERIFY(json["count"] == 500);
    }
    void aFormatIsTold() {
        const Json json = cli({"decode", "-", "--json", "--format", "frames end=3B"}, "12;13;14;").json();
        QCOMPARE(json["records"].size(), std::size_t(3));
        const Run wrong = cli({"decode", "-", "--format", "morse"}, "x");
        QCOMPARE(wrong.code, 2);
        QVERIFY(wrong.err.contains("morse") && wrong.err.contains("pairs"));
    }
    void garbageGivesNoRecord() {
        QByteArray noise;
        for (unsigned i = 0; i < 3000; ++i)
            noise += static_cast<char>(i * i * 2654435761U >> 13U);
        const Run run = cli({"decode", "-", "--json"}, noise);
        QCOMPARE(run.code, 3);
        QVERIFY(run.err.contains("-:1:"));
        QCOMPARE(run.json()["records"].size(), std::size_t(0));
        QCOMPARE(cli({"decode", "/nowhere/at/all"}, {}).code, 3);
        QCOMPARE(cli({"decode", "-"}, {}).code, 3);
    }

    void sicknessesAreNamed() {
        const auto wobble = [](int i) { return ((i * 7919) % 13 - 6) / 6.0; }; // small, even, without chance
        const Json hum =
            cli({"signal", "-", "--json", "bits=10"},
                series(800, 0.005,
                       [&](int i, double t) {
                           return std::floor(512 + wobble(i) + 9 * std::sin(2 * std::numbers::pi * 50 * t));
                       }))
                .json();
        QVERIFY(says(hum, "hum"));
        QVERIFY(hum["mains_share"].get<double>() > 0.9);
        QVERIFY(hum["mains_hz"] == 50.0);
        QVERIFY(hum["effective_bits"].get<double>() < 8);
        const Run clipped =
            cli({"signal", "-", "--json", "bits=10"}, series(100, 1, [](int, double) { return 1023.0; }));
        QCOMPARE(clipped.code, 1); // the answer is no
        QVERIFY(says(clipped.json(), "clipped"));
        const Json echo = cli({"signal", "-", "--json", "kind=distance"},
                              series(90, 1, [](int i, double) { return i % 4 ? 1400 + i % 3 : std::nan(""); }))
                              .json();
        QVERIFY(says(echo, "failed"));
        QVERIFY(echo["failed"] == 23);
        const Json spikes =
            cli({"signal", "-", "--json", "bits=10"},
                series(300, 1, [&](int i, double) { return std::floor(500 + wobble(i)) + (i % 50 == 7 ? 90 : 0); }))
                .json();
        QVERIFY(says(spikes, "spikes"));
        QCOMPARE(spikes["outliers"].size(), std::size_t(6));
        const Run calm =
            cli({"signal", "-", "--json"}, series(300, 1, [&](int i, double) { return 20 + 0.1 * wobble(i); }));
        QCOMPARE(calm.code, 0);
        QVERIFY(calm.json()["effective_bits"].is_null()); // nobody said how many there are
        QVERIFY(cli({"signal", "-"}, series(300, 1, [&](int i, double) { return 20 + 0.1 * wobble(i); }))
                    .out.contains("healthy"));
    }
    void badSeriesNameTheirLine_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::addColumn<QByteArray>("place");
        QTest::newRow("no time") << QByteArray("time,value\nyesterday,1\n") << QByteArray("-:2:");
        QTest::newRow("no comma") << QByteArray("time,value\n1700000000,1\n17\n") << QByteArray("-:3:");
        QTest::newRow("no number") << QByteArray("1700000000,1\n1700000001,blue\n") << QByteArray("-:2:");
        QTest::newRow("backwards") << QByteArray("1700000005,1\n1700000001,2\n") << QByteArray("-:2:");
        QTest::newRow("nothing") << QByteArray() << QByteArray("no rows");
    }
    void badSeriesNameTheirLine() {
        QFETCH(QByteArray, text);
        QFETCH(QByteArray, place);
        const Run run = cli({"signal", "-", "--json"}, text);
        QCOMPARE(run.code, 3);
        QVERIFY2(run.err.contains(place), run.err.constData());
        QVERIFY(run.out.isEmpty());
    }
    void badWordsAreUsage() {
        for (const char* word : {"bits=many", "kind=mood", "colour=1", "bits=99", "interval=-1"}) {
            const Run run = cli({"signal", "-", QLatin1String(word)}, "1700000000,1\n");
            QCOMPARE(run.code, 2);
            QVERIFY2(run.err.contains("nown are") || run.err.contains("number"), run.err.constData());
        }
    }
};

RUN_TESTS_OF(TestCliRaw)
#include "tst_cli_raw.moc"
