// Programs compiled with the real compiler and run in the simulator: what the plan writes is right at every point,
// and what is wrong is found.
#include "core/bench/bench.h"
#include "core/plan/path.h"
#include "core/program/program.h"
#include "support/cli.h"
#include "support/programs.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;
using test::demo;

namespace {

test::Run prove(const QStringList& arguments) {
    return test::beside("cognitum-processor", arguments + QStringList{"--json"});
}

/// Points that do not hold, a line each.
QByteArray what_failed(const test::Run& run) {
    QByteArray out = run.err;
    const Json all = run.json();
    if (!all.is_object()) return out + run.out;
    for (const Json& r : all["readings"])
        for (const Json& point : r["all"])
            if (point["holds"] == false)
                out += QByteArray::fromStdString(r["reading"].get<std::string>() + " " + point.dump() + "\n");
    return out;
}

/// One reading more on the small bench's board.
void add_reading(Bench& bench, const char* id, const char* part, const char* kind, const char* unit, double low,
                 double high, std::vector<std::pair<const char*, const char*>> legs) {
    Reading r = bench.readings[0];
    r.id = r.name = id;
    r.sensor.part = part;
    r.quantity.kind = kind;
    r.quantity.unit = unit;
    r.quantity.low = low;
    r.quantity.high = high;
    r.wiring.pins.clear();
    r.source.field = id;
    for (const auto& [leg, pin] : legs)
        r.wiring.pins.push_back({leg, pin});
    r.path = build_path(place(bench, test::catalog(), r));
    bench.readings.push_back(r);
}

} // namespace

class TestProof : public QObject {
    Q_OBJECT

  private slots:
    /// Every reading of the gauge board at 21 points; tips at 40 a second whose contact rings, none lost.
    void theGaugeBoard() {
        const test::Run run = prove({demo, "--board", "gauge", "--points", "21"});
        QVERIFY2(run.code == 0, what_failed(run));
        const Json all = run.json();
        QVERIFY(all["holds"] == true);
        QCOMPARE(all["readings"].size(), std::size_t(5));
        for (const Json& r : all["readings"]) {
            QVERIFY2(r["points"] == 21 && r["held"] == 21, r.dump().c_str());
            for (const Json& point : r["all"]) // and well within what the reading promises
                if (point["doubt"].is_number() && point["doubt"] > 0)
                    QVERIFY2(std::abs(point["off_by"].get<double>()) <= point["doubt"].get<double>(),
                             point.dump().c_str());
        }
        QVERIFY(all["flash_bytes"] > 2000 && all["flash_bytes"] < all["flash_there_bytes"]);
        QVERIFY(all["longest_loop_ms"] > 0 && all["longest_loop_ms"] < 20); // the wave has 20 ms
        QCOMPARE(all["restarts"].get<int>(), 0);
        QCOMPARE(all["disturbed"].size(), std::size_t(2)); // it has nothing on I²C
        QVERIFY(all["disturbed"][0]["what"] == "reset" && all["disturbed"][0]["held"] == true);
        QVERIFY(all["disturbed"][1]["what"] == "parts-away" && all["disturbed"][1]["held"] == true);
        QVERIFY(all["disturbed"][1]["text"].get<std::string>().find("flue=broken-wire") != std::string::npos);
    }
    /// Two references on one board, and means of four conversions: each input against its own.
    void twoReferences() {
        Bench bench = test::small_bench();
        bench.readings[0].wiring.set_pin("A0");
        bench.readings[0].wiring.reference = "internal"; // 0.4 to 0.85 V
        bench.readings[0].path = build_path(place(bench, test::catalog(), bench.readings[0]));
        add_reading(bench, "rock", "ntc-10k-in-divider", "temperature", "degC", -10, 40, {{"OUT", "A1"}});
        bench.readings[1].wiring.reference = "supply";
        bench.readings[1].path = build_path(place(bench, test::catalog(), bench.readings[1]));
        test::Scratch scratch;
        const QString path = scratch.write("bench.json", QByteArray::fromStdString(json_dump(bench_json(bench))));
        const test::Run run = prove({path, "--board", "gauge", "--points", "9", "--average", "4"});
        QVERIFY2(run.code == 0, what_failed(run));
        QCOMPARE(run.json()["readings"].size(), std::size_t(2));
    }
    /// In power-down its clock stands still: what it sends is right, comes when it is due, and its clock goes on by
    /// the watchdog's periods.
    void asleep() {
        Bench bench = test::small_bench();
        bench.readings[0].wiring.set_pin("A0");
        bench.readings[0].path = build_path(place(bench, test::catalog(), bench.readings[0]));
        add_reading(bench, "lux", "light-i2c", "light", "lx", 0, 5000, {{"SDA", "A4"}, {"SCL", "A5"}});
        add_reading(bench, "rock", "ntc-10k-in-divider", "temperature", "degC", -10, 40, {{"OUT", "A1"}});
        test::Scratch scratch;
        const QString path = scratch.write("bench.json", QByteArray::fromStdString(json_dump(bench_json(bench))));
        const test::Run run =
            prove({path, "--board", "gauge", "--points", "4", "--sleep", "--lines", "--point-s", "9"});
        QVERIFY2(run.code == 0, what_failed(run) + run.out);
        const Json all = run.json();
        double first_s = 0, first_ms = 0, last_s = 0, last_ms = 0;
        for (const Json& line : all["sent_lines"]) {
            const QString text = QString::fromStdString(line[1]);
            const qsizetype at = text.indexOf(" ms=");
            if (first_ms > 0 && text.startsWith("# board=")) break; // its reset was pressed: its clock begins anew
            if (!text.startsWith("seq=") || at < 0) continue;
            last_s = line[0];
            last_ms = text.mid(at + 4).section(' ', 0, 0).toDouble();
            if (first_ms == 0) {
                first_s = last_s;
                first_ms = last_ms;
            }
        }
        QVERIFY(last_s - first_s > 30);
        QVERIFY2(
            std::abs((last_ms - first_ms) / 1000 / (last_s - first_s) - 1) < 0.01,
            qPrintable(
                QString("%1 s by its clock, %2 s passed").arg((last_ms - first_ms) / 1000).arg(last_s - first_s)));
    }
    /// The bus hangs for four seconds: words instead of numbers, and all comes back. Without the time-out it does
    /// not.
    void aBusThatHangs() {
        Bench bench = test::small_bench();
        bench.readings[0].wiring.set_pin("A0");
        bench.readings[0].path = build_path(place(bench, test::catalog(), bench.readings[0]));
        add_reading(bench, "lux", "light-i2c", "light", "lx", 0, 5000, {{"SDA", "A4"}, {"SCL", "A5"}});
        add_reading(bench, "fine", "i2c-thermometer-fine", "temperature", "degC", -30, 90,
                    {{"SDA", "A4"}, {"SCL", "A5"}});
        test::Scratch scratch;
        const QString path = scratch.write("bench.json", QByteArray::fromStdString(json_dump(bench_json(bench))));
        const test::Run run = prove({path, "--board", "gauge", "--points", "3"});
        QVERIFY2(run.code == 0, what_failed(run) + run.out);
        const Json all = run.json();
        QVERIFY(all["disturbed"][0]["what"] == "hung-bus" && all["disturbed"][0]["held"] == true);
        QVERIFY2(all["disturbed"][0]["text"].get<std::string>().find("no-answer") != std::string::npos,
                 all["disturbed"].dump().c_str());
    }
    /// A timer that is left as the core sets it, in phase-correct PWM, overflows 16 MHz / 64 / 510 times a second.
    void aTimerAsTheCoreLeavesIt() {
        test::Scratch scratch;
        const QString program = scratch.write("timer.ino", R"(
volatile unsigned int overflows = 0;
ISR(TIMER2_OVF_vect) { overflows++; }
void setup() { Serial.begin(115200); TIMSK2 = _BV(TOIE2); }
void loop() { delay(1000); noInterrupts(); unsigned int n = overflows; interrupts(); Serial.println(n); }
)");
        const test::Run run = prove({demo, "--board", "gauge", "--points", "2", "--program", program, "--lines"});
        const Json all = run.json();
        std::vector<int> counts;
        for (const Json& line : all["sent_lines"])
            counts.push_back(std::stoi(line[1].get<std::string>()));
        QVERIFY2(counts.size() > 2, run.out + run.err);
        QVERIFY2(std::abs(counts[1] - counts[0] - 490) <= 3, run.out);
    }
    /// What a loader takes: lines of Intel hexadecimal that begin with a colon and end with the end record.
    void forALoader() {
        test::Scratch scratch;
        const QString hex = scratch.write("program.hex", "");
        QCOMPARE(prove({demo, "--board", "gauge", "--hex", hex}).code, 0);
        QFile file(hex);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QByteArray text = file.readAll().trimmed();
        QVERIFY(text.size() > 10000 && text.startsWith(":10000000"));
        QVERIFY(text.endsWith(":00000001FF"));
    }
    /// The board's own arithmetic, in its floats, says what ours says.
    void constantsOnTheBoard() {
        const test::Run run = prove({demo, "--board", "gauge", "--points", "5", "--constants"});
        QVERIFY2(run.code == 0, what_failed(run));
        const Json all = run.json();
        QStringList with_values;
        for (const Json& r : all["readings"])
            if (!r["worst"]["board_said"].get<std::string>().empty())
                with_values << QString::fromStdString(r["reading"].get<std::string>());
        QCOMPARE(with_values, (QStringList{"hut-air", "rock", "rain"}));
    }
    /// Parts that the demo's board does not have.
    void partsOnTheirBuses() {
        Bench bench = test::small_bench();
        bench.readings[0].wiring.set_pin("A0");
        bench.readings[0].path = build_path(place(bench, test::catalog(), bench.readings[0]));
        add_reading(bench, "probe", "one-wire-probe-waterproof", "temperature", "degC", -20, 60, {{"yellow", "7"}});
        add_reading(bench, "lux", "light-i2c", "light", "lx", 0, 5000, {{"SDA", "A4"}, {"SCL", "A5"}});
        add_reading(bench, "fine", "i2c-thermometer-fine", "temperature", "degC", -30, 90,
                    {{"SDA", "A4"}, {"SCL", "A5"}});
        add_reading(bench, "tide", "echo-ranger-open", "level", "mm", 100, 1500, {{"echo", "5"}, {"trigger", "6"}});
        add_reading(bench, "door", "reed-contact", "contact", "1", 0, 1, {{"wire 1", "8"}});
        for (Reading& r : bench.readings)
            if (r.quantity.kind == "level") {
                r.quantity.vessel.mount_mm = 2000;
                r.path = build_path(place(bench, test::catalog(), r));
            }
        test::Scratch scratch;
        const QString path = scratch.write("bench.json", QByteArray::fromStdString(json_dump(bench_json(bench))));
        const test::Run run = prove({path, "--board", "gauge", "--points", "7"});
        QVERIFY2(run.code == 0, what_failed(run));
        QCOMPARE(run.json()["readings"].size(), std::size_t(6));
    }
    void moreParts() {
        Bench bench = test::small_bench();
        bench.readings.clear();
        Bench seed = test::small_bench();
        bench.readings.push_back(seed.readings[0]);
        add_reading(bench, "damp", "humidity-fine-single-wire", "humidity", "%", 5, 95, {{"data", "6"}});
        add_reading(bench, "cold", "humidity-fine-single-wire", "temperature", "degC", -30, 40,
                    {{"data", "6"}}); // of the same part
        add_reading(bench, "coarse", "humidity-coarse-single-wire", "humidity", "%", 20, 90, {{"data", "8"}});
        add_reading(bench, "air-damp", "humidity-i2c", "humidity", "%", 0, 100, {{"SDA", "A4"}, {"SCL", "A5"}});
        add_reading(bench, "air-cold", "humidity-i2c", "temperature", "degC", -40, 100,
                    {{"SDA", "A4"}, {"SCL", "A5"}});
        add_reading(bench, "scale", "load-cell-amplifier", "weight", "kg", -2, 18, {{"DT", "3"}, {"SCK", "5"}});
        Module converter;
        converter.id = converter.name = "converter";
        converter.part = "converter-16bit-4ch";
        converter.board = "gauge";
        converter.rail = "5V";
        converter.pins = {{"SDA", "A4"}, {"SCL", "A5"}};
        bench.modules = {converter};
        add_reading(bench, "bed", "soil-capacitive", "soil-moisture", "%", 0, 100, {{"AOUT", "A2"}});
        bench.readings.back().wiring.module = "converter";
        bench.readings.back().path = build_path(place(bench, test::catalog(), bench.readings.back()));
        bench.readings.erase(bench.readings.begin());
        test::Scratch scratch;
        const QString path = scratch.write("bench.json", QByteArray::fromStdString(json_dump(bench_json(bench))));
        const test::Run run = prove({path, "--board", "gauge", "--points", "3"});
        QVERIFY2(run.code == 0, what_failed(run));
        const Json all = run.json();
        QVERIFY2(all["readings"].size() == 7 && all["not_proven"].empty(), run.out);
    }
    /// Parts with formulas of their own: the programs compute with floating point, the models with whole numbers.
    void partsWithFormulas() {
        Bench bench = test::small_bench();
        bench.readings[0].wiring.set_pin("A0");
        bench.readings[0].path = build_path(place(bench, test::catalog(), bench.readings[0]));
        const std::vector<std::pair<const char*, const char*>> bus = {{"SDA", "A4"}, {"SCL", "A5"}};
        add_reading(bench, "press", "air-pressure-humidity-i2c", "pressure", "hPa", 950, 1050, bus);
        add_reading(bench, "damp", "air-pressure-humidity-i2c", "humidity", "%", 10, 90, bus);
        add_reading(bench, "warm", "air-pressure-humidity-i2c", "temperature", "degC", -20, 60, bus);
        add_reading(bench, "stove", "thermocouple-k-i2c", "temperature", "degC", -100, 1200, bus);
        add_reading(bench, "skin", "infrared-thermometer-i2c", "temperature", "degC", -20, 200, bus);
        add_reading(bench, "kiln", "rtd-100-spi", "temperature", "degC", -150, 480,
                    {{"SDO", "12"}, {"SDI", "11"}, {"CS", "4"}, {"CLK", "13"}});
        test::Scratch scratch;
        const QString path = scratch.write("bench.json", QByteArray::fromStdString(json_dump(bench_json(bench))));
        const test::Run run = prove({path, "--board", "gauge", "--points", "7"});
        QVERIFY2(run.code == 0, what_failed(run) + run.out);
        QCOMPARE(run.json()["readings"].size(), std::size_t(7));
        // For other boards the same is evaluated.
        const test::Run gas = [&] {
            Bench room = test::small_bench("co2-infrared-i2c", "board-3v3-12bit-wifi");
            room.readings[0].quantity.kind = "carbon-dioxide";
            room.readings[0].quantity.unit = "ppm";
            room.readings[0].quantity.low = 400;
            room.readings[0].quantity.high = 2000;
            room.readings[0].path = build_path(place(room, test::catalog(), room.readings[0]));
            const QString file = scratch.write("room.json", QByteArray::fromStdString(json_dump(bench_json(room))));
            return test::beside("cognitum-reader",
                                {"--prove", "--bench", file, "--board", "gauge", "--points", "3", "--json"});
        }();
        QVERIFY2(gas.code == 0, what_failed(gas) + gas.out);
    }
    /// Mistakes in a program are seen, each in the reading that it spoils.
    void mistakesAreFound_data() {
        QTest::addColumn<QString>("was");
        QTest::addColumn<QString>("is");
        QTest::addColumn<QString>("reading");
        QTest::newRow("another pin") << "print_count(A2, 1)"
                                     << "print_count(A3, 1)"
                                     << "hut-air";
        QTest::newRow("a divisor") << "sum += analogRead(pin);"
                                   << "sum += analogRead(pin) / 2 * 2;"
                                   << "rock";
        QTest::newRow("ringing counted") << ">= 5000UL"
                                         << ">= 0UL"
                                         << "rain";
        QTest::newRow("whole degrees") << "(bits >> 3) * 0.25, 2"
                                       << "(bits >> 5) * 1.0, 0"
                                       << "stove-flue";
        QTest::newRow("it waits") << "    listen();\n"
                                  << "    listen();\n    delay(900);\n"
                                  << "pulse";
    }
    void mistakesAreFound() {
        QFETCH(QString, was);
        QFETCH(QString, is);
        QFETCH(QString, reading);
        const auto bench = load_bench_json(data_folder() + "/demo/whelk-point.json");
        const auto written = write_program(*bench, test::catalog(), "gauge");
        QString text = QString::fromStdString(written->files.front().text);
        QVERIFY(text.contains(was));
        text.replace(was, is);
        test::Scratch scratch;
        const test::Run run = prove(
            {demo, "--board", "gauge", "--points", "5", "--program", scratch.write("program.ino", text.toUtf8())});
        QVERIFY2(run.code == 1 && !run.out.isEmpty(), run.err); // it compiles, and does not hold
        bool found = false;
        const Json all = run.json();
        for (const Json& r : all["readings"])
            if (r["reading"] == reading.toStdString()) found = r["held"] < r["points"];
        QVERIFY2(found, run.out);
    }
    void whatCannotRun_data() {
        QTest::addColumn<QString>("program");
        QTest::addColumn<QString>("says"); ///< on standard error; empty: it runs, and nothing holds
        QTest::newRow("half a program") << "void setup() {"
                                        << "does not compile";
        QTest::newRow("another language") << "print('hello')"
                                          << "does not compile";
        QTest::newRow("a library that is not there") << "#include <Nothing.h>\nvoid setup(){} void loop(){}"
                                                     << "Nothing.h";
        QTest::newRow("no loop") << "void setup() {}"
                                 << "does not link";
        QTest::newRow("it hangs") << "void setup() { for (;;); } void loop() {}"
                                  << "";
        QTest::newRow("it says nothing") << "void setup() {} void loop() {}"
                                         << "";
        QTest::newRow("too much memory")
            << "volatile char big[3000]; void setup() {} void loop() { big[millis() % 3000] = 1; }"
            << "it needs 3009 of 2048 bytes of memory";
        QTest::newRow("an endless include") << "#include __FILE__\n"
                                            << "does not compile";
    }
    void whatCannotRun() {
        QFETCH(QString, program);
        QFETCH(QString, says);
        test::Scratch scratch;
        const test::Run run = prove({demo, "--board", "gauge", "--points", "2", "--program",
                                     scratch.write("program.ino", program.toUtf8())});
        QCOMPARE(run.code, 1);
        if (says.isEmpty()) {
            const Json all = run.json();
            for (const Json& r : all["readings"])
                QVERIFY2(r["held"] == 0, run.out);
        } else {
            QVERIFY2(QString::fromUtf8(run.err).contains(says), run.err);
            QVERIFY(run.out.isEmpty());
        }
    }
    void onTheCommandLine() {
        const test::Run run = test::cli({"program", demo, "--board", "gauge board", "--json"});
        QCOMPARE(run.code, 0);
        QCOMPARE(run.json()["files"][0]["name"].get<std::string>(), std::string("gauge/gauge.ino"));
        QCOMPARE(run.json()["fingerprint"].get<std::string>().size(), std::size_t(8));
        QTemporaryDir folder;
        QCOMPARE(test::cli({"program", demo, "--board", "gauge", "--out", folder.path()}).code, 0);
        QVERIFY(QFile::exists(folder.filePath("gauge/gauge.ino")));
        QVERIFY(!QFile::exists(folder.filePath("gauge/gauge.ino.part")));
        const test::Run nobody = test::cli({"program", demo, "--board", "attic"});
        QVERIFY(nobody.code == 3 && nobody.err.contains("There are: gauge, shed"));
        QCOMPARE(test::cli({"program", demo, "--board", "beacon-log"}).code, 1);
        QCOMPARE(test::cli({"program", demo, "--board", "gauge", "--out", "/proc/nowhere"}).code, 3);
    }
};

RUN_TESTS_OF(TestProof)
#include "tst_proof.moc"
