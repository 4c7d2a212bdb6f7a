// cognitum-cli as scripts use it: exit codes, JSON keys, and messages that name the place.
#include "support/cli.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QDir>
#include <QFile>

using namespace cognitum;
using test::cli;
using test::Run;

namespace {

const QString example = QStringLiteral(COGNITUM_SOURCE_DIR "/data/examples/hut-air.chain.json");

} // namespace

class TestCli : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;
    QString write(const char* name, const QByteArray& text) {
        QFile file(m_folder.filePath(QLatin1String(name)));
        if (file.open(QIODevice::WriteOnly)) file.write(text);
        return file.fileName();
    }

  private slots:
    void convertTheContractsExample() {
        const Run run = cli({"convert", example, "--json", "--uncertainty"}, "0\n142\n1023\n");
        QCOMPARE(run.code, 0);
        const Json json = run.json();
        QVERIFY(json["values"][0].is_null() && json["values"][2].is_null());
        CLOSE(json["values"][1].get<double>(), 18.960078125, 1e-9);
        QVERIFY(json["causes"][0].is_string() && json["causes"][1].is_null());
        QCOMPARE(json["unit"].get<std::string>(), std::string("degC"));
        CLOSE(json["standard_uncertainty"][1].get<double>(), 0.232125, 1e-5);
        QCOMPARE(json["budget"][1].size(), std::size_t(3));
        const Run back = cli({"convert", example, "--json", "--inverse"}, "18.960078125\n");
        CLOSE(back.json()["values"][0].get<double>(), 142, 1e-9);
        QCOMPARE(back.json()["unit"].get<std::string>(), std::string("count"));
    }
    void convertRefusesText() {
        const Run run = cli({"convert", example, "--json"}, "142\nabc\n143\n");
        QCOMPARE(run.code, 3);
        QVERIFY(run.err.contains("stdin:2"));
        QVERIFY(run.out.isEmpty()); // nothing partial
        QCOMPARE(cli({"convert", "/no/such.json"}, "1\n").code, 3);
        const Run bad = cli({"convert", write("bad.json", "{\"stages\": [\n{\"stage\": \"magic\"}]}")}, "1\n");
        QCOMPARE(bad.code, 3);
        QVERIFY(bad.err.contains("bad.json:2: /stages/0/stage"));
    }

    void physics_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<double>("value");
        QTest::addColumn<double>("tolerance");
        QTest::addRow("boiling") << QStringList{"boiling-point", "pressure=101.325kPa"} << 99.974 << 0.001;
        QTest::addRow("rtd") << QStringList{"rtd-resistance", "r0=100ohm", "temperature=100degC"} << 138.5055
                             << 1e-4;
        QTest::addRow("density") << QStringList{"water-density", "temperature=293.15K"} << 998.2067 << 1e-4;
        QTest::addRow("thermistor") << QStringList{"thermistor-temperature", "r0=10kohm", "t0=25°C", "beta=3950K",
                                                   "resistance=10000Ω"}
                                    << 25.0 << 1e-9;
    }
    void physics() {
        QFETCH(QStringList, arguments);
        QFETCH(double, value);
        QFETCH(double, tolerance);
        const Run run = cli(QStringList{"physics"} + arguments + QStringList{"--json"});
        QCOMPARE(run.code, 0);
        CLOSE(run.json()["value"].get<double>(), value, tolerance);
        QVERIFY(!run.json()["source"].get<std::string>().empty());
    }
    void usageIsTwoAndBadInputIsThree() {
        QCOMPARE(cli({}).code, 2);
        QCOMPARE(cli({"dance"}).code, 2);
        const Run no_unit = cli({"physics", "boiling-point", "pressure=3"});
        QCOMPARE(no_unit.code, 2);
        QVERIFY(no_unit.err.contains("Pa, hPa, kPa, bar"));
        QCOMPARE(cli({"physics", "boiling-point", "pressure=3m"}).code, 2);
        QCOMPARE(cli({"physics", "water-density", "temperature=95degC"}).code, 3); // outside the formula
        QCOMPARE(cli({"verify", "/no/such.cognitum"}).code, 3);
        QCOMPARE(cli({"--help"}).code, 0);
    }

    void fitFindsTheLine() {
        const QString points = write("points.csv", "indication,reference\n0,1\n1,3\n2,5\n3,7\n4,9\n");
        const Run run = cli({"fit", points, "--model", "line", "--json"});
        QCOMPARE(run.code, 0);
        const Json json = run.json();
        CLOSE(json["parameters"][0]["value"].get<double>(), 1, 1e-12);
        CLOSE(json["parameters"][1]["value"].get<double>(), 2, 1e-12);
        for (const char* key : {"model", "residual_sd", "r_squared", "max_abs_error", "cross_validated_error",
                                "candidates", "verdict", "warnings"})
            QVERIFY2(json.contains(key), key);
        QCOMPARE(cli({"fit", points, "--json"}).json()["model"].get<std::string>(), std::string("line"));
    }
    void fitRefuses_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::addColumn<QByteArray>("says");
        QTest::addRow("equal") << QByteArray("indication,reference\n1,1\n1,2\n1,3\n")
                               << QByteArray("all indications are equal");
        QTest::addRow("too few") << QByteArray("indication,reference\n1,1\n") << QByteArray("at least 2 points");
        QTest::addRow("no header") << QByteArray("1,1\n2,2\n") << QByteArray("indication and reference");
        QTest::addRow("text") << QByteArray("indication,reference\n1,1\n2,two\n") << QByteArray(":3");
    }
    void fitRefuses() {
        QFETCH(QByteArray, text);
        QFETCH(QByteArray, says);
        const Run run = cli({"fit", write("p.csv", text), "--model", "line", "--json"});
        QCOMPARE(run.code, 3);
        QVERIFY2(run.err.contains(says) && run.err.contains("p.csv"), run.err.constData());
        QVERIFY(run.out.isEmpty());
    }

    void checkSaysNo() {
        Bench bench = test::small_bench("analog-thermometer-without-offset"); // frost is outside its range
        const QString path = write("bench.json", QByteArray::fromStdString(bench_json(bench).dump()));
        const Run run = cli({"check", path, "--json"});
        QCOMPARE(run.code, 1);
        bool found = false;
        const Json json = run.json();
        for (const Json& f : json["findings"]) {
            for (const char* key : {"id", "severity", "reading", "message", "why", "fix"})
                QVERIFY2(f.contains(key), key);
            found = found || f["id"] == "range-outside-part";
        }
        QVERIFY(found);
        QCOMPARE(cli({"check", write("half.json", "{\"bench\": \"x\"")}).code, 3);
    }

    /// As a script sees it: a defect's bench gives its finding, no other error, and the exit that belongs to it.
    /// Every seventh; core.findings looks at all of them.
    void checkFindsDefects() {
        const QDir folder(QStringLiteral(COGNITUM_SOURCE_DIR "/tests/fixtures/benches"));
        const QStringList names = folder.entryList({QStringLiteral("*.json")});
        QVERIFY(names.size() > 80);
        for (qsizetype i = 0; i < names.size(); i += 7) {
            const QString& name = names[i];
            const Run run = cli({"check", folder.filePath(name), "--json"});
            const std::string id = name.section('.', 0, 0).toStdString();
            bool found = false;
            bool error = false;
            const Json json = run.json();
            for (const Json& f : json["findings"]) {
                found = found || f["id"] == id;
                if (f["severity"] == "error") {
                    error = true;
                    QVERIFY2(f["id"] == id, (id + " also gives " + f.dump()).c_str());
                }
            }
            QVERIFY2(found, id.c_str());
            QCOMPARE(run.code, error ? 1 : 0);
        }
    }

    void importExportVerify() {
        const QString bench = m_folder.filePath(QStringLiteral("i.cognitum"));
        const QByteArray csv =
            "time,Air\n2026-06-01T09:00:00Z,17.5\n2026-06-01T09:00:01Z,bad\n2026-06-01T09:00:02Z,17.75\n";
        const Run in = cli({"import", "-", "--bench", bench, "--json"}, csv);
        QCOMPARE(in.code, 0);
        QCOMPARE(in.json()["rows"].get<int>(), 2);
        QCOMPARE(in.json()["readings"].get<int>(), 1);
        QCOMPARE(in.json()["rejected"]["count"].get<int>(), 1);
        QCOMPARE(in.json()["rejected"]["reasons"][0]["first_line"].get<int>(), 3);
        const Run out = cli({"export", bench, "--format", "csv"});
        QCOMPARE(out.out, QByteArray("time,Air\n2026-06-01T09:00:00.000Z,17.5\n2026-06-01T09:00:02.000Z,17.75\n"));
        const Run sound = cli({"verify", bench, "--json"});
        QCOMPARE(sound.code, 0);
        QCOMPARE(sound.json()["samples"].get<int>(), 2);
        QVERIFY(sound.json()["ok"].get<bool>());
        // Nothing could be taken: no half-made bench is left behind.
        const QString none = m_folder.filePath(QStringLiteral("none.cognitum"));
        QCOMPARE(cli({"import", "-", "--bench", none}, "time,Air\nx,1\n").code, 3);
        QVERIFY(!QFile::exists(none));
        // A file that is no bench is not touched.
        const QString text = write("notes.txt", "dear diary");
        QCOMPARE(cli({"import", "-", "--bench", text}, csv).code, 3);
        QFile untouched(text);
        QVERIFY(untouched.open(QIODevice::ReadOnly));
        QCOMPARE(untouched.readAll(), QByteArray("dear diary"));
        QCOMPARE(cli({"export", bench, "--format", "xml"}).code, 2);
    }
    void verifySaysNoToADamagedBench() {
        const QString path = m_folder.filePath(QStringLiteral("damaged.cognitum"));
        QCOMPARE(cli({"demo", "--bench", path, "--end", "2026-11-25T14:31:00Z"}).code, 0);
        QFile file(path);
        const qint64 whole = file.size();
        QVERIFY(file.open(QIODevice::ReadWrite));
        file.seek(whole / 2);
        file.write(QByteArray(3000, '\xaa'));
        file.close();
        const Run altered = cli({"verify", path, "--json"});
        QCOMPARE(altered.code, 1);
        QVERIFY(!altered.json()["ok"].get<bool>() && !altered.json()["problems"].empty());
        QVERIFY(file.resize(whole - 5000));
        const Run shorter = cli({"verify", path, "--json"});
        QCOMPARE(shorter.code, 1);
        QVERIFY(shorter.json()["problems"][0]["what"].get<std::string>().find("truncated") != std::string::npos);
    }
    void demoIsSound() {
        const QString path = m_folder.filePath(QStringLiteral("demo.cognitum"));
        QCOMPARE(cli({"demo", "--bench", path, "--end", "2026-11-25T14:31:00Z"}).code, 0);
        QCOMPARE(cli({"verify", path}).code, 0);
        QCOMPARE(cli({"check", path}).code, 0);           // things to look at, no error
        QCOMPARE(cli({"demo", "--bench", path}).code, 3); // never over a file
    }
};

RUN_TESTS_OF(TestCli)
#include "tst_cli.moc"
