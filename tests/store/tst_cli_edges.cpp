// The edges of cognitum-cli: pipes, wrong verbs, doubts of zero, the plan's path, and files that lost something.
#include "store/file/bench_file.h"
#include "support/cli.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <SQLiteCpp/Database.h>
#include <SQLiteCpp/Statement.h>
#include <algorithm>
#include <cmath>
#include <fcntl.h>
#include <numbers>
#include <sys/stat.h>
#include <thread>

using namespace cognitum;
using test::cli;
using test::Run;

namespace {

/// Runs a line of the shell, for pipes and descriptors; `$CLI` is the program.
Run shell(const QString& line) {
    QProcess process;
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert(QStringLiteral("CLI"), QStringLiteral(COGNITUM_BIN_DIR "/cognitum-cli"));
    process.setProcessEnvironment(environment);
    process.start(QStringLiteral("bash"), {QStringLiteral("-c"), line});
    process.waitForFinished(60000);
    return {process.exitCode(), process.readAllStandardOutput(), process.readAllStandardError()};
}

/// Rows of a tank that are good, empty, overfull and undecided in turn.
QByteArray tank_rows(int n) {
    QByteArray out = "time,Tank,Tank cause\n";
    const char* causes[] = {"below empty", "overfull", "more than one answer", "between the two states"};
    for (int i = 0; i < n; ++i) {
        out += QByteArray::number(1795600000 + 60 * i) + ",";
        out += i % 1000 == 999 ? QByteArray(",") + causes[(i / 1000) % 4] : QByteArray::number(100 + i % 50) + ",";
        out += "\n";
    }
    return out;
}

std::int64_t break_block(const QString& path) {
    SQLite::Database db(path.toStdString(), SQLite::OPEN_READWRITE);
    SQLite::Statement at(db, "SELECT id FROM block WHERE level = 0 ORDER BY first LIMIT 1");
    if (!at.executeStep()) return 0;
    const std::int64_t id = at.getColumn(0).getInt64();
    SQLite::Statement change(db, "UPDATE block SET data = zeroblob(length(data)) WHERE id = ?");
    change.bind(1, id);
    change.exec();
    return id;
}

} // namespace

class TestCliEdges : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;
    QString path(const char* name) { return m_folder.filePath(QLatin1String(name)); }
    QString write(const char* name, const QByteArray& text) {
        QFile file(path(name));
        if (file.open(QIODevice::WriteOnly)) file.write(text);
        return file.fileName();
    }

  private slots:
    void aWrongVerbIsNamedWithItsNearest_data() {
        QTest::addColumn<QString>("word");
        QTest::addColumn<QByteArray>("nearest");
        QTest::addRow("letters turned") << "chekc" << QByteArray("check");
        QTest::addRow("a letter less") << "vessl" << QByteArray("vessel");
        QTest::addRow("a capital") << "Import" << QByteArray("import");
        QTest::addRow("a longer word") << "exporter" << QByteArray("export");
    }
    void aWrongVerbIsNamedWithItsNearest() {
        QFETCH(QString, word);
        QFETCH(QByteArray, nearest);
        const Run run = cli({word, "x"});
        QCOMPARE(run.code, 2);
        QVERIFY2(run.err.contains("\"" + word.toUtf8() + "\"") && run.err.contains("Nearest: " + nearest + "."),
                 run.err);
        QVERIFY(run.out.isEmpty());
    }
    void noVerbIsSaid() {
        const Run run = cli({});
        QCOMPARE(run.code, 2);
        QVERIFY(run.err.contains("a verb is missing") && run.err.contains("convert"));
    }
    void pipesAreInput() {
        const QString points = write("points.csv", "indication,reference\n0,1\n1,3\n2,5\n3,7\n4,9\n");
        const Run file = cli({"fit", points, "--json"});
        QCOMPARE(shell("cat " + points + " | $CLI fit /dev/stdin --json").out, file.out);
        QCOMPARE(shell("$CLI fit <(cat " + points + ") --json").out, file.out);
        QCOMPARE(shell("$CLI fit /dev/fd/7 --json 7< <(cat " + points + ")").out, file.out);
        const QString fifo = path("fifo");
        QCOMPARE(::mkfifo(fifo.toUtf8().constData(), 0600), 0);
        QCOMPARE(shell("cat " + points + " > " + fifo + " & $CLI fit " + fifo + " --json").out, file.out);
    }
    void aBenchInItsJsonFormComesThroughAPipe() {
        const QString fixture = QStringLiteral(COGNITUM_SOURCE_DIR "/tests/fixtures/benches/level-too-high.json");
        const Run file = cli({"check", fixture, "--json"});
        QCOMPARE(file.code, 1);
        QCOMPARE(shell("$CLI check <(cat " + fixture + ") --json").out, file.out);
        QCOMPARE(shell("cat " + fixture + " | $CLI check - --json").out, file.out);
    }
    void rowsComeThroughAPipe() {
        const QString bench = path("piped.cognitum");
        const Run run =
            shell("printf 'time,Air\\n1795600000,20.5\\n1795600060,20.6\\n' | $CLI import /dev/stdin --bench " +
                  bench + " --json");
        QVERIFY2(run.code == 0, run.err);
        QVERIFY(run.json()["rows"] == 2);
    }
    void whatIsNoFileIsSaid() {
        for (const QString& path : {m_folder.path(), QStringLiteral("/no/such.csv")}) {
            const Run run = cli({"fit", path});
            QCOMPARE(run.code, 3);
            QVERIFY2(run.err.contains(path.toUtf8()), run.err);
        }
    }

    void aDoubtOfZeroIsRefusedWithItsLine_data() {
        QTest::addColumn<QByteArray>("rows");
        QTest::addColumn<QByteArray>("says");
        const QByteArray head = "indication,reference,u_indication,u_reference\n";
        QTest::addRow("of a reference") << head + "0,1,0.1,0.1\n1,3,0.1,0\n2,5,0.1,0.1\n"
                                        << QByteArray(":3: u_reference");
        QTest::addRow("of an indication") << head + "0,1,0.1,0.1\n1,3,0.1,0.1\n2,5,0.0,0.1\n"
                                          << QByteArray(":4: u_indication");
        QTest::addRow("in another form") << head + "0,1,0e3,0.1\n1,3,0.1,0.1\n2,5,0.1,0.1\n"
                                         << QByteArray(":2: u_indication");
        QTest::addRow("below zero") << head + "0,1,0.1,0.1\n1,3,0.1,-1\n2,5,0.1,0.1\n" << QByteArray(":3: ");
    }
    void aDoubtOfZeroIsRefusedWithItsLine() {
        QFETCH(QByteArray, rows);
        QFETCH(QByteArray, says);
        const Run run = cli({"fit", write("doubt.csv", rows), "--json"});
        QCOMPARE(run.code, 3);
        QVERIFY2(run.err.contains("doubt.csv" + says), run.err);
        QVERIFY(run.out.isEmpty());
    }
    void aDoubtThatIsNotStatedIsNone() {
        const Run run =
            cli({"fit", write("some.csv", "indication,reference,u_reference\n0,1,\n1,3,\n2,5,\n3,7,\n"), "--json"});
        QVERIFY2(run.code == 0, run.err);
    }

    // Clipping shows without bits=, when both ends are flat.
    void flatEndsAreSeen_data() {
        QTest::addColumn<double>("amplitude");
        QTest::addColumn<double>("step");
        QTest::addColumn<bool>("clipped");
        QTest::addRow("a clipped wave") << 600.0 << 1.0 << true;
        QTest::addRow("clipped hard") << 3000.0 << 1.0 << true;
        QTest::addRow("clipped, in volts") << 600.0 << 0.001 << true;
        QTest::addRow("a whole wave") << 480.0 << 1.0 << false;
        QTest::addRow("a whole wave in coarse steps") << 480.0 << 40.0 << false;
    }
    void flatEndsAreSeen() {
        QFETCH(double, amplitude);
        QFETCH(double, step);
        QFETCH(bool, clipped);
        QByteArray rows = "time,value\n";
        for (int i = 0; i < 600; ++i) {
            const double x = amplitude * std::sin(2 * std::numbers::pi * i / 47.3);
            const double code = std::round(std::clamp(x, -500.0, 500.0) / step) * step;
            rows += QByteArray::number(1795600000 + i) + "," + QByteArray::number(code, 'g', 10) + "\n";
        }
        const Run run = cli({"signal", "-", "--json"}, rows);
        const Json json = run.json();
        const bool said = std::any_of(json["verdicts"].begin(), json["verdicts"].end(),
                                      [](const Json& v) { return v["id"] == "clipped"; });
        QVERIFY2(said == clipped, run.out);
        if (clipped) QCOMPARE(run.code, 1);
    }
    void statesAreNotClipped() {
        QByteArray rows = "time,value\n";
        for (int i = 0; i < 400; ++i)
            rows += QByteArray::number(1795600000 + i) + (i / 50 % 2 ? ",1\n" : ",0\n");
        const Json json = cli({"signal", "-", "--json"}, rows).json();
        for (const Json& v : json["verdicts"])
            QVERIFY2(v["id"] != "clipped", json.dump().c_str());
    }

    void aTotalThatRestsIsNotClipped() {
        QByteArray rows = "time,value\n";
        for (int i = 0; i < 900; ++i) // dry, forty tips in a shower, dry
            rows += QByteArray::number(1795600000 + 60 * i) + "," +
                    QByteArray::number(0.3 * std::clamp((i - 300) / 3, 0, 40)) + "\n";
        const Json json = cli({"signal", "-", "--json"}, rows).json();
        for (const Json& v : json["verdicts"])
            QVERIFY2(v["id"] != "clipped", json.dump().c_str());
    }

    void thePathOfThePlan() {
        const QString bench = path("demo.cognitum");
        QCOMPARE(cli({"demo", "--bench", bench, "--end", "2026-06-05T12:00:00Z"}).code, 0);
        const Run run = cli({"path", bench, "--reading", "Hut air", "--json"});
        QVERIFY2(run.code == 0, run.err);
        QVERIFY(run.json()["stages"][0]["stage"] == "adc");
        // What it prints is a chain that converts.
        const QString chain = write("hut.chain.json", run.out);
        const Run converted = cli({"convert", chain, "--json"}, "142\n");
        QVERIFY2(converted.code == 0, converted.err);
        QVERIFY(converted.json()["unit"] == "degC");
        QVERIFY(cli({"path", bench, "--reading", "Hut air"}).out.contains("Reference"));
        const Run unknown = cli({"path", bench, "--reading", "Cellar"});
        QCOMPARE(unknown.code, 3);
        QVERIFY2(unknown.err.contains("Cellar") && unknown.err.contains("Hut air"), unknown.err);
        QCOMPARE(cli({"path", bench}).code, 2);
    }
    void aReadingWithoutAPartHasNoPath() {
        const QString bench = path("loose.cognitum");
        QCOMPARE(cli({"import", "-", "--bench", bench}, "time,Air\n1795600000,20.5\n").code, 0);
        const Run run = cli({"path", bench, "--reading", "Air", "--json"});
        QCOMPARE(run.code, 1);
        QVERIFY(run.out.isEmpty() && run.err.contains("no part"));
    }

    void everyCauseIsReadAgain() {
        const QString bench = path("tank.cognitum");
        const QByteArray rows = tank_rows(5000);
        const Run in = cli({"import", "-", "--bench", bench, "--json"}, rows);
        QVERIFY2(in.code == 0, in.err);
        QVERIFY2(in.json()["rows"] == 5000, in.out);
        const Run sound = cli({"verify", bench, "--json"});
        QCOMPARE(sound.code, 0);
        QVERIFY(sound.json()["samples"] == 5000);
        const Run out = cli({"export", bench, "--causes"});
        QCOMPARE(out.code, 0);
        QCOMPARE(out.out.count('\n'), 5001);
        for (const char* cause : {"below empty", "overfull", "more than one answer", "between the two states"})
            QVERIFY2(out.out.contains(cause), cause);
        // And what was exported is taken again, cause by cause.
        const QString again = path("again.cognitum");
        QCOMPARE(cli({"import", "-", "--bench", again}, out.out).code, 0);
        QCOMPARE(cli({"export", again, "--causes"}).out, out.out);
    }
    void whatCannotBeReadIsSaidAndTheRestIsSaved() {
        const QString bench = path("hurt.cognitum");
        QByteArray rows = "time,Tank,Air\n";
        for (int i = 0; i < 9000; ++i)
            rows += QByteArray::number(1795600000 + 60 * i) + "," + QByteArray::number(i) + ",20.5\n";
        QCOMPARE(cli({"import", "-", "--bench", bench}, rows).code, 0);
        const qsizetype whole = cli({"export", bench, "--reading", "Tank"}).out.count('\n');
        QVERIFY(break_block(bench) > 0);

        const Run out = cli({"export", bench});
        QCOMPARE(out.code, 1);
        QVERIFY2(out.err.contains("cannot be read") && out.err.contains("2026-11-25T"), out.err);
        QCOMPARE(out.out.count('\n'), whole); // the other reading has all its rows

        const Run check = cli({"verify", bench, "--json"});
        QCOMPARE(check.code, 1);
        const Json problem = check.json()["problems"][0];
        QVERIFY2(problem["where"].get<std::string>().find("reading tank, block 1") != std::string::npos, check.out);
        QVERIFY2(problem["from"] == "2026-11-25T09:46:40.000Z" && problem["to"] == "2026-11-28T06:01:40.000Z",
                 check.out);

        const QString copy = path("mended.cognitum");
        const Run mend = cli({"verify", bench, "--mend", copy, "--json"});
        QCOMPARE(mend.code, 1); // the answer about this file is still no
        const Json mended = mend.json()["mended"];
        QVERIFY(mended["samples"].get<int>() > 9000 && mended["samples"].get<int>() < 18000);
        QVERIFY(!mended["lost"].empty());
        QCOMPARE(cli({"verify", copy}).code, 0);
        QCOMPARE(cli({"export", copy}).code, 0);
        QCOMPARE(cli({"export", copy}).out, out.out);
        const Run twice = cli({"verify", bench, "--mend", copy});
        QCOMPARE(twice.code, 3); // nothing is written over
        QCOMPARE(cli({"verify", copy}).code, 0);
    }
    void oneEndlessLineIsOneRejectedLine() {
        QByteArray rows = "time,Air\n1795600000,20.5\n";
        rows += QByteArray(2 * 1024 * 1024, 'x') + "\n";
        rows += "1795600060,20.6\n";
        const Run run = cli({"import", "-", "--bench", path("power.cognitum"), "--json"}, rows);
        QVERIFY2(run.code == 0, run.err);
        QVERIFY(run.json()["rows"] == 2);
        QVERIFY(run.json()["rejected"]["count"] == 1);
        QVERIFY(run.json()["rejected"]["reasons"][0]["first_line"] == 3);
    }
};

RUN_TESTS_OF(TestCliEdges)
#include "tst_cli_edges.moc"
