// Programs that makers wrote, read beside the demo's plan: each mistake is found on its line, and its mended twin
// is silent; what the plan writes is read as what the plan says; no text hangs or harms.
#include "core/program/program.h"
#include "core/signal_path/chain.h"
#include "support/cli.h"
#include "support/programs.h"
#include "support/run_tests.h"
#include "support/said.h"
#include "support/support.h"

#include <QDir>
#include <cmath>
#include <set>

using namespace cognitum;
using test::demo;

namespace {

const QDir programs(QStringLiteral(COGNITUM_SOURCE_DIR "/tests/fixtures/programs"));

test::Run read(const QStringList& files, const QString& board = "gauge") {
    return test::cli(QStringList{"read-program", "--json", "--bench", demo, "--board", board} + files);
}

/// "id on line n; …", as the first lines of the fixtures say it.
QString said(const test::Run& run) {
    const Json json = run.json();
    if (!json.is_object()) return "broken: " + QString::fromUtf8(run.err + run.out);
    QStringList out;
    for (const Json& f : json["findings"])
        out << QString("%1 on line %2").arg(QString::fromStdString(f["id"])).arg(f["line"].get<int>());
    return out.isEmpty() ? "nothing" : out.join("; ");
}

/// Board and findings that a fixture's first line names.
std::pair<QString, QString> expected(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly)) return {};
    const QString line = QString::fromUtf8(file.readLine()).trimmed().mid(3);
    return {line.section(": ", 0, 0), line.section(": ", 1)};
}

test::Run read_text(const QByteArray& text, const char* board = "gauge") {
    test::Scratch scratch;
    return read({scratch.write("hut.ino", text)}, board);
}

Json first(const test::Run& run, const char* id) {
    const Json json = run.json();
    for (const Json& f : json["findings"])
        if (f["id"] == id) return f;
    return {};
}

} // namespace

class TestReadProgram : public QObject {
    Q_OBJECT

    std::string m_said; ///< of all fixtures, whole

    void keep(const QString& path, const Json& json) {
        m_said += QFileInfo(path).fileName().toStdString() + "\n";
        for (const Json& f : json["findings"]) {
            test::add_said(m_said, f["id"].get<std::string>().c_str(),
                           fmt::format("line {}: {} {}", f["line"].get<int>(), f["message"].get<std::string>(),
                                       f["why"].get<std::string>()));
            if (f["mended"].is_string()) test::add_said(m_said, "  instead", f["mended"].get<std::string>());
        }
        for (const Json& r : json["readings"]) {
            std::string stages;
            for (const Json& stage : r["stages"])
                stages += " | " + (stage.is_string() ? stage.get<std::string>() : stage.dump());
            test::add_said(m_said, r["reading"].get<std::string>().c_str(), r["pin"].dump() + stages);
        }
    }

  private slots:
    void mistakesAndTwins_data() {
        QTest::addColumn<QString>("path");
        for (const QString& name : programs.entryList({"*.ino"}))
            QTest::newRow(qPrintable(name)) << programs.filePath(name);
        for (const QString& name : QDir(programs.filePath("long")).entryList({"*.ino"}))
            QTest::newRow(qPrintable(name)) << programs.filePath("long/" + name);
    }
    void mistakesAndTwins() {
        QFETCH(QString, path);
        const auto [board, wanted] = expected(path);
        const test::Run run = read({path}, board);
        QCOMPARE(said(run), wanted);
        const Json json = run.json();
        keep(path, json);
        bool errors = false;
        for (const Json& f : json["findings"])
            errors = errors || f["severity"] == "error";
        QCOMPARE(run.code, errors ? 1 : 0);
        // What it is said to compute is what it printed, where nothing was lost on the way.
        if (wanted != "nothing") return;
        for (const Json& r : json["readings"]) {
            if (!r["chain"].is_object()) continue;
            JsonText text{"chain", r["chain"].dump(), r["chain"]};
            const auto chain = read_chain(JsonReader(text));
            QVERIFY2(chain, r["chain"].dump().c_str());
            for (const Json& at : r["prints_at"]) {
                const QString printed = QString::fromStdString(at["prints"]);
                bool is_number = false;
                const double value = printed.toDouble(&is_number);
                const double made = forward(*chain, at["raw"].get<double>()).number;
                const double step = std::pow(10.0, -(printed.contains('.') ? printed.section('.', 1).size() : 0));
                if (is_number && std::isfinite(made))
                    QVERIFY2(std::abs(made - value) <= 1.01 * step + 2e-4 * std::abs(made) || r["pin"] == "18",
                             (r.dump() + " makes " + std::to_string(made)).c_str());
            }
        }
    }

    void whatWasSaid() {
        if (!m_said.empty()) test::compare_said("programs_read", m_said);
    }

    /// Each fixture with a mistake has its twin.
    void thereAreEnough() {
        int pairs = 0;
        for (const QString& name : programs.entryList({"*.ino"}))
            if (!name.contains(".mended."))
                pairs += programs.exists(QString(name).replace(".ino", ".mended.ino")) ? 1 : 0;
        QVERIFY2(pairs >= 30, qPrintable(QString::number(pairs)));
    }

    /// The programs that the plan writes, for every board of the demo and with its constants: nothing is found, and
    /// every number that they send is what its pin was given.
    void thePlansOwn_data() {
        QTest::addColumn<QString>("board");
        QTest::addColumn<bool>("constants");
        QTest::addColumn<QStringList>("wanted");
        const QStringList gauge = {"hut-air", "pulse", "rain", "rock", "stove-flue"};
        QTest::newRow("gauge") << "gauge" << false << gauge;
        QTest::newRow("gauge, values too") << "gauge" << true << gauge;
        QTest::newRow("shed") << "shed" << false
                              << QStringList{"air-pressure", "conductivity", "jetty", "pool-water", "tide-pool"};
        QTest::newRow("pump house") << "pump-house" << false << QStringList{"bed-1", "daylight"};
    }
    void thePlansOwn() {
        QFETCH(QString, board);
        QFETCH(bool, constants);
        QFETCH(QStringList, wanted);
        const auto bench = load_bench_json(demo.toStdString());
        QVERIFY(bench);
        const auto written = write_program(*bench, test::catalog(), board.toStdString(), {1, constants});
        QVERIFY(written);
        test::Scratch scratch;
        QStringList files;
        for (const ProgramFile& file : written->files)
            files << scratch.write(qPrintable(QString::fromStdString(file.name).section('/', -1)),
                                   QByteArray::fromStdString(file.text));
        const test::Run run = read(files, board);
        QCOMPARE(said(run), "nothing");
        const Json json = run.json();
        std::set<QString> seen;
        for (const Json& r : json["readings"]) {
            seen.insert(QString::fromStdString(r["reading"]));
            QVERIFY2(r["sends"] != "another", r.dump().c_str());
        }
        for (const QString& id : wanted)
            QVERIFY2(seen.contains(id), qPrintable(id + " is not read"));
    }

    /// Where no compiler is packaged: the plan's program with the types of its board, at 21 points, against the
    /// same models; and the 8-bit board's in both ways alike.
    void evaluatedProofs_data() {
        QTest::addColumn<QString>("board");
        QTest::addColumn<std::size_t>("readings");
        QTest::newRow("gauge") << "gauge" << std::size_t(5);
        QTest::newRow("shed") << "shed" << std::size_t(5);
        QTest::newRow("pump house") << "pump-house" << std::size_t(5);
    }
    void evaluatedProofs() {
        QFETCH(QString, board);
        QFETCH(std::size_t, readings);
        const test::Run right =
            test::beside("cognitum-reader", {"--prove", "--json", "--bench", demo, "--board", board});
        const Json json = right.json();
        QVERIFY2(json.is_object(), right.err.constData());
        QVERIFY2(json["holds"] == true, right.out.constData());
        QCOMPARE(json["readings"].size(), readings);
        for (const Json& r : json["readings"])
            QVERIFY2(r["points"] == 21 && r["held"] == 21, r["worst"].dump().c_str());
        // A wrong number is found there as well.
        test::Scratch scratch;
        const auto bench = load_bench_json(demo.toStdString());
        QStringList arguments = {"--prove", "--json", "--bench", demo, "--board", board};
        const auto written = write_program(*bench, test::catalog(), board.toStdString(), {});
        for (const ProgramFile& file : written->files) {
            QByteArray text = QByteArray::fromStdString(file.text);
            text.replace(".print(value, digits);", ".print(value * 1.1, digits);")
                .replace(".print(value);\n", ".print(value + 3);\n");
            const QString name = QString::fromStdString(file.name).section('/', -1);
            arguments << scratch.write(qPrintable(name), text);
        }
        QCOMPARE(test::beside("cognitum-reader", arguments).code, 1);
    }

    /// A weak source behind another input: the first conversion is not its own yet. Twice, averaged or alone it is.
    void theFirstConversion_data() {
        QTest::addColumn<QByteArray>("second");
        QTest::addColumn<bool>("found");
        QTest::newRow("once") << QByteArray("int b = analogRead(A1);") << true;
        QTest::newRow("the second is used") << QByteArray("analogRead(A1); int b = analogRead(A1);") << false;
        QTest::newRow("in one expression") << QByteArray("int b = (analogRead(A1), analogRead(A1));") << false;
        QTest::newRow("averaged") << QByteArray(
                                         "long b = 0; for (byte i = 0; i < 8; ++i) b += analogRead(A1); b /= 8;")
                                  << false;
        QTest::newRow("with a wait, which does not help")
            << QByteArray("delay(10); int b = analogRead(A1);") << true;
    }
    void theFirstConversion() {
        QFETCH(QByteArray, second);
        QFETCH(bool, found);
        Bench bench = test::small_bench();
        bench.boards[0].link.kind = LinkKind::serial;
        bench.readings[0].wiring.set_pin("A0");
        bench.readings[0].path = build_path(place(bench, test::catalog(), bench.readings[0]));
        bench.readings.push_back(bench.readings[0]);
        bench.readings[1].id = bench.readings[1].name = "weak";
        bench.readings[1].wiring.set_pin("A1");
        bench.readings[1].wiring.pins.front().divider = {27000, 47000}; // 17 kOhm
        bench.readings[1].path = build_path(place(bench, test::catalog(), bench.readings[1]));
        test::Scratch scratch;
        const QString plan = scratch.write("bench.json", QByteArray::fromStdString(json_dump(bench_json(bench))));
        const QString program = scratch.write(
            "two.ino",
            "void setup() { Serial.begin(115200); }\nvoid loop() {\n    int a = analogRead(A0);\n    " + second +
                "\n    Serial.print(\"air=\");\n    Serial.print(a);\n    Serial.print(\" weak=\");\n    "
                "Serial.println(b);\n    delay(1000);\n}\n");
        const test::Run run = test::cli({"read-program", "--json", "--bench", plan, "--board", "gauge", program});
        const Json f = first(run, "first-conversion-used");
        QVERIFY2(f.is_object() == found, run.out);
        if (!found) return;
        QCOMPARE(f["line"].get<int>(), 4);
        QVERIFY(f["mended"].get<std::string>().find("(analogRead(A1), analogRead(A1))") != std::string::npos);
    }
    /// "0.3223 is 3.3 V / 1 024 · 100": where it comes from, and what it must be here.
    void aFactorTakenApart() {
        const test::Run run = read({programs.filePath("copied_factor.ino")});
        const Json f = first(run, "reference-differs");
        const QString message = QString::fromStdString(f["message"]).replace(QChar(0x202F), ' ');
        QVERIFY2(message.contains("3.3 V / 1 024 · 100"), f.dump().c_str());
        QVERIFY2(QString::fromStdString(f["mended"]).contains("* 0.4881"), f.dump().c_str());
    }

    /// The leg that is driven elsewhere has its name.
    void aDrivenLegIsNamed() {
        const auto message = [](const char* name, const char* board) {
            return QString::fromStdString(first(read({programs.filePath(name)}, board), "pin-differs")["message"]);
        };
        QCOMPARE(message("another_select.ino", "gauge"),
                 QString("It drives pin 10; the plan has the select of Stove flue on 4."));
        QCOMPARE(message("another_trigger.ino", "shed"),
                 QString("It drives pin 23; the plan has the trigger of Tide pool level on 19."));
    }

    /// What is mended by the line that is shown is silent then.
    void aMendedLineMends_data() {
        QTest::addColumn<QString>("name");
        for (const QString& name : programs.entryList({"*.ino"}))
            if (expected(programs.filePath(name)).second != "nothing") QTest::newRow(qPrintable(name)) << name;
    }
    void aMendedLineMends() {
        QFETCH(QString, name);
        const QString path = programs.filePath(name);
        const QString board = expected(path).first;
        const Json before = read({path}, board).json();
        const Json findings = before["findings"];
        QFile file(path);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QStringList lines = QString::fromUtf8(file.readAll()).split('\n');
        for (std::size_t i = 0; i < findings.size(); ++i) {
            const Json& f = findings[i];
            if (f["mended"].get<std::string>().empty()) continue;
            QStringList mended = lines;
            mended[f["line"].get<int>() - 1] = QString::fromStdString(f["mended"]);
            const test::Run again = read_text(mended.join('\n').toUtf8(), qPrintable(board));
            const QString left = said(again);
            // Nor has it mended anything by sending nothing of the reading any more.
            QVERIFY(again.json()["not_in_it"].size() <= before["not_in_it"].size());
            if (findings.size() == 1 && name != "wait_that_overflows.ino") // which is then too long a wait
                QVERIFY2(left == "nothing", qPrintable(left + " with " + QString::fromStdString(f["mended"])));
            else
                QVERIFY2(
                    !left.contains(
                        QString("%1 on line %2").arg(QString::fromStdString(f["id"])).arg(f["line"].get<int>())),
                    qPrintable(left));
        }
    }

    /// On a board whose int has 32 bits nothing is too large that is too large on one of 16.
    void theTypesOfTheBoard() {
        const QByteArray text =
            "#include \"watchdog.h\"\nvoid setup() {\n    Serial.begin(115200);\n    watchdog_begin();\n}\nvoid "
            "loop() {\n"
            "    int mV = analogRead(36) * 3300 / 4096;\n    Serial.println(mV);\n    delay(6000);\n}\n";
        QCOMPARE(said(read_text(text, "shed")), "nothing");
    }

    /// A converter of twelve bits that a program asks for ten gives a quarter of its codes.
    void aConverterGivesTheBitsThatAreAskedFor() {
        for (const int bits : {12, 10, 1}) {
            const QByteArray text =
                "#include \"watchdog.h\"\nvoid setup() {\n    Serial.begin(115200);\n    watchdog_begin(8000);\n"
                "    analogReadResolution(" +
                QByteArray::number(bits) +
                ");\n}\nvoid loop() {\n"
                "    Serial.print(\"ec=\");\n    Serial.println(analogRead(36));\n    delay(6000);\n}\n";
            const Json json = read_text(text, "shed").json();
            QVERIFY(json["readings"].size() == 1 && json["readings"][0]["prints_at"].size() >= 3);
            for (const Json& point : json["readings"][0]["prints_at"]) {
                const double whole = std::ldexp(point["raw"].get<double>(), bits - 12);
                CLOSE(std::stod(point["prints"].get<std::string>()), std::floor(whole), 0);
            }
        }
    }
    void badTexts_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::addColumn<int>("code");
        QTest::addColumn<QString>("says");
        const QByteArray rest = "\nvoid setup() {}\nvoid loop() {}\n";
        QTest::newRow("nothing") << QByteArray() << 3 << "There is no setup()";
        QTest::newRow("half of it") << QByteArray("void setup() {\n    Serial.begin(115200);\nvoid loop() {\n") << 1
                                    << "does-not-compile";
        QTest::newRow("another language")
            << QByteArray("import time\nwhile True:\n    print(1)\n") << 1 << "does-not-compile";
        QTest::newRow("zeros") << QByteArray("void setup() {}\0", 16) << 3 << "bytes of zero";
        QTest::newRow("another encoding") << QByteArray("// \xE9t\xE9") + rest << 3 << "UTF-8";
        QTest::newRow("too long") << QByteArray(5 << 20, ' ') + rest << 3 << "are read at most";
        QTest::newRow("includes itself") << QByteArray("#include \"hut.ino\"") + rest << 1 << "nested too deeply";
        QTest::newRow("a file of this computer")
            << QByteArray("#include \"/etc/passwd\"") + rest << 0 << "findings";
        QTest::newRow("brackets") << QByteArray("int x = ") + QByteArray(50000, '(') + "1" +
                                         QByteArray(50000, ')') + ";" + rest
                                  << 1 << "bracket nesting";
        QByteArray bomb = "#define A0_ 1,\n";
        for (int i = 1; i < 40; ++i)
            bomb += QString("#define A%1_ A%2_ A%2_\n").arg(i).arg(i - 1).toUtf8();
        QTest::newRow("a macro that grows") << bomb + "int x[] = { A39_ };" + rest << 3 << "to read";
        QTest::newRow("a template without end")
            << QByteArray("template <int N> struct F { enum { v = F<N - 1>::v }; };\nint x = F<1000>::v;") + rest
            << 1 << "does-not-compile";
        QTest::newRow("never ends") << QByteArray("void setup() { for (;;) ; }\nvoid loop() {}\n") << 1
                                    << "does not come out of this loop";
        QTest::newRow("calls itself") << QByteArray("void f() { f(); }\nvoid setup() { f(); }\nvoid loop() {}\n")
                                      << 1 << "calls itself again";
        QTest::newRow("larger than the board")
            << QByteArray("char a[30000][30000];\nvoid setup() { a[29999][0] = 1; }\nvoid loop() {}\n") << 1 << "";
        QTest::newRow("a name of the core")
            << QByteArray("int delay = 5;") + rest << 1 << "redefinition of 'delay'";
        QTest::newRow("writes beyond")
            << QByteArray("int a[3];\nvoid setup() {}\nvoid loop() { for (int i = 0; i <= 3; ++i) a[i] = i; }\n")
            << 1 << "outside of what it has";
        QTest::newRow("divides by nothing")
            << QByteArray("int n = 0;\nvoid setup() {}\nvoid loop() { n = 5 / n; }\n") << 1 << "divides by zero";
    }
    void badTexts() {
        QFETCH(QByteArray, text);
        QFETCH(int, code);
        QFETCH(QString, says);
        const test::Run run = read_text(text);
        const QString all = QString::fromUtf8(run.out + run.err);
        QVERIFY2(run.code == code, qPrintable(QString("%1: %2").arg(run.code).arg(all)));
        QVERIFY2(all.contains(says), qPrintable(all));
    }

    void badRequests() {
        const QString fine = programs.filePath("other_pin.mended.ino");
        QCOMPARE(read({fine}, "no-board").code, 3);
        QCOMPARE(read({fine}, "beacon-log").code, 3); // a source that is no board
        QCOMPARE(read({programs.filePath("not there.ino")}).code, 3);
        QCOMPARE(test::cli({"read-program", fine, "--bench", "not-there.cognitum", "--board", "gauge"}).code, 3);
        QVERIFY(test::cli({"read-program", "--bench", demo, "--board", "gauge"}).code != 0);
    }

    /// Several files, one included by another, and a function that is used before it stands there.
    void severalFiles() {
        test::Scratch scratch;
        const QString main =
            scratch.write("station.ino", "#include \"air.h\"\nvoid setup() {\n    Serial.begin(115200);\n}\nvoid "
                                         "loop() {\n    say(air());\n    delay(1000);\n}\n"
                                         "void say(float t) {\n    Serial.println(t, 1);\n}\n");
        const QString header =
            scratch.write("air.h", "#pragma once\nfloat air() {\n    return analogRead(A2) * 0.3223 - 50;\n}\n");
        const test::Run run = read({main, header});
        const Json f = first(run, "reference-differs");
        QVERIFY2(f.is_object() && f["file"] == "air.h" && f["line"] == 3, (run.out + run.err).constData());
    }
};

RUN_TESTS_OF(TestReadProgram)
#include "tst_read_program.moc"
