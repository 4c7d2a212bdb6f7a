// Programs as they are written: whole, the same each time, with what cannot be in them said; their fingerprint.
#include "core/decode/number_text.h"
#include "core/plan/rules/arrivals.h"
#include "core/program/driver.h"
#include "core/program/program.h"
#include "core/program/proof_plan.h"
#include "demo/demo_bench.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/written_program.h"

#include <QRegularExpression>

using namespace cognitum;
using test::one_part;
using test::text_of;

namespace {

Bench whelk_point() {
    return *load_bench_json(data_folder() + "/demo/whelk-point.json");
}

std::string why_left_out(const Bench& bench) {
    const auto written = write_program(bench, test::catalog(), "gauge");
    return written ? "it is written" : written.error().text();
}

} // namespace

class TestProgram : public QObject {
    Q_OBJECT

  private slots:
    void theGaugeBoard() {
        const Bench bench = whelk_point();
        VALUE_OF(written, write_program(bench, test::catalog(), "gauge"));
        QCOMPARE(written.fields, (std::vector<std::string>{"A2", "A1", "flue", "tips", "A0"}));
        QVERIFY(written.notes.empty());
        QCOMPARE(written.files.front().name, std::string("gauge/gauge.ino"));
        const QString text = QString::fromStdString(written.files.front().text);
        QVERIFY2(!text.contains('$'), "a name was not filled in");
        for (const char* has :
             {"Serial.begin(115200);", "print_count(A2, 1);", "attachInterrupt(digitalPinToInterrupt(2)",
              "INPUT_PULLUP", "{\"flue\", 1000UL", "board=gauge plan=", "watchdog_pat();"})
            QVERIFY2(text.contains(has), has);
        QVERIFY(!text.contains("delay(1000"));
        QVERIFY(text.contains(QString::fromStdString(written.fingerprint)));
        QCOMPARE(text_of(bench), written.files.front().text); // the same plan, the same text
    }
    void whatIsNotInItIsSaid() {
        VALUE_OF(pump, write_program(whelk_point(), test::catalog(), "pump-house"));
        QStringList out;
        for (const ProgramNote& note : pump.notes)
            out << QString::fromStdString(note.reading);
        QCOMPARE(out, QStringList{"cistern"}); // nobody wrote down the bytes of its ranger
        QVERIFY(pump.files.front().text.find("ask_converter(0x48") != std::string::npos);
        QVERIFY(pump.files.front().text.find("{\"bed-pump\"") != std::string::npos ||
                pump.files.front().text.find("{\"pump\"") != std::string::npos);
        const auto none = write_program(whelk_point(), test::catalog(), "beacon-log");
        QVERIFY(!none && none.error().text().find("no board of which") != std::string::npos);
        QVERIFY(!write_program(whelk_point(), test::catalog(), "nowhere"));
    }
    void refusals() {
        Bench bench = test::small_bench();
        bench.readings[0].wiring.pins.clear();
        QVERIFY2(why_left_out(bench).find("has no pin") != std::string::npos, why_left_out(bench).c_str());
        bench = test::small_bench();
        bench.readings[0].sensor.part.clear();
        QVERIFY(why_left_out(bench).find("no part is chosen") != std::string::npos);
        bench = test::small_bench();
        bench.readings[0].source.field = "two words";
        QVERIFY(why_left_out(bench).find("cannot be a name") != std::string::npos);
        bench = one_part("echo-ranger-open", {{"echo", "7"}});
        QVERIFY(why_left_out(bench).find("trigger") != std::string::npos);
        bench = one_part("light-pulse-ranger-long", {{"SDA", "A4"}, {"SCL", "A5"}});
        QVERIFY2(why_left_out(bench).find("does not know the bytes") != std::string::npos,
                 why_left_out(bench).c_str());
        // Another quantity than the part gives: its path begins with something else.
        bench = one_part("light-i2c", {{"SDA", "A4"}, {"SCL", "A5"}});
        bench.readings[0].source.unit = "count";
        QVERIFY2(why_left_out(bench).find("its part gives lx") != std::string::npos, why_left_out(bench).c_str());
    }
    void twoReadingsInEachOthersWay() {
        Bench bench = test::small_bench();
        bench.readings.push_back(bench.readings[0]);
        Reading& other = bench.readings[1];
        other.id = other.name = "other";
        VALUE_OF(same_field, write_program(bench, test::catalog(), "gauge"));
        QCOMPARE(same_field.notes.size(), std::size_t(1));
        QVERIFY(same_field.notes[0].text.find("is that of Air already") != std::string::npos);
        other.wiring.set_pin("A3");
        other.wiring.reference = "internal";
        VALUE_OF(two_references, write_program(bench, test::catalog(), "gauge"));
        QVERIFY(two_references.notes.empty());
        const std::string each = two_references.files[0].text;
        QVERIFY(each.find("choose_reference(\"supply\");") != std::string::npos);
        QVERIFY(each.find("choose_reference(\"internal\");") != std::string::npos);
        QVERIFY(each.find("\"reference\")") == std::string::npos); // nobody may choose one for all
        QVERIFY(each.find("F(\"each\")") != std::string::npos);
        bench.readings.erase(bench.readings.begin());
        QVERIFY(text_of(bench).find("use_reference(\"internal\");") != std::string::npos);
    }
    /// Through its link: topics of the plan, names and passwords apart; where it cannot, by a cable, and said so.
    void throughTheNetwork() {
        Bench bench = whelk_point();
        VALUE_OF(shed, write_program(bench, test::catalog(), "shed"));
        QCOMPARE(shed.files.size(), std::size_t(2));
        QVERIFY(!shed.files[0].yours && shed.files[1].yours && shed.files[1].name == "shed/secrets.h");
        const QString text = QString::fromStdString(shed.files[0].text);
        for (const char* has : {"TOPIC[] = \"shed/records\"", "STATUS[] = \"shed/status\"",
                                "COMMANDS[] = \"shed/command\"", "outbox.print", "#include \"secrets.h\""})
            QVERIFY2(text.contains(has), has);
        QVERIFY(!text.contains("Serial.print") && !text.contains('$'));
        QVERIFY(shed.files[1].text.find("BROKER[] = \"\"") !=
                std::string::npos); // localhost is no place for a board
        const auto topic = [&](const char* filter) {
            bench.board("shed")->link.mqtt.topics = filter;
            const QString written =
                QString::fromStdString(write_program(bench, test::catalog(), "shed")->files[0].text);
            return written.section("TOPIC[] = \"", 1).section('"', 0, 0).toStdString();
        };
        QCOMPARE(topic("#"), std::string("shed/records"));
        QCOMPARE(topic("a/+/b other/#"), std::string("a/shed/b"));
        QCOMPARE(topic("pool"), std::string("pool"));
        QCOMPARE(topic("k\u00fcche/#"), std::string("k\u00fcche/records"));
        for (const std::string& bad : {std::string("x\";evil();//#"), std::string("x\\"), std::string("x\ny"),
                                       std::string("x?"
                                                   "?/y"),
                                       std::string("$topic$"), std::string(200, 'x')}) {
            bench.board("shed")->link.mqtt.topics = bad; // a stranger's bench
            VALUE_OF(by_cable, write_program(bench, test::catalog(), "shed"));
            QVERIFY2(by_cable.files.size() == 1 && by_cable.notes[0].text.find("topics") != std::string::npos,
                     bad.c_str());
        }
        const std::string before = program_fingerprint(bench, test::catalog(), *bench.board("shed"));
        bench.board("shed")->link.mqtt.topics = "elsewhere/#";
        QVERIFY(program_fingerprint(bench, test::catalog(), *bench.board("shed")) != before);
        bench.board("shed")->link.mqtt.tls = true;
        VALUE_OF(encrypted, write_program(bench, test::catalog(), "shed"));
        QCOMPARE(encrypted.files.size(), std::size_t(1));
        QVERIFY(std::any_of(encrypted.notes.begin(), encrypted.notes.end(),
                            [](const ProgramNote& n) { return n.text.find("encrypted") != std::string::npos; }));
        VALUE_OF(post, write_program(bench, test::catalog(), "pump-house"));
        QVERIFY(post.files[0].text.find("POST /in/pump-house HTTP/1.1") != std::string::npos);
        QVERIFY(post.files[1].text.find("COMPUTER_PORT = 8765") != std::string::npos);
        bench.board("gauge")->link.kind = LinkKind::mqtt; // a board without a radio
        VALUE_OF(wired, write_program(bench, test::catalog(), "gauge"));
        QVERIFY(wired.files.size() == 1 && wired.notes[0].text.find("no Wi-Fi") != std::string::npos);
    }
    /// With constants each value stands beside its raw number, and the first line says which constants.
    void constantsOnTheBoard() {
        Bench bench = whelk_point();
        const auto text = [&] {
            const auto written = write_program(bench, test::catalog(), "gauge", {1, true});
            return QString::fromStdString(written->files.front().text);
        };
        const QString before = text();
        for (const char* has :
             {"x = (x + 0.5) * 4.998 / 1024.0; // V", "x = (x - 0.5) / 0.01; // °C",
              "A2_value=", "1 / (1 / 298.15 + log(x / 10000.0) / 3950.0) - 273.15", "x = 0.2 * x + 0.0; // mm"})
            QVERIFY2(before.contains(has), has);
        QVERIFY(!before.contains("flue_value")); // a couple's line follows the hut's air: the computer knows that
        const BoardUse& gauge = *bench.board("gauge");
        const std::string plan = program_fingerprint(bench, test::catalog(), gauge);
        const std::string constants = constants_fingerprint(bench, gauge);
        QVERIFY(before.contains(QString::fromStdString("plan=" + plan + "-" + constants)));
        AppliedCorrection correction;
        correction.offset = -0.62;
        bench.reading("hut-air")->correction = correction;
        QVERIFY(text().contains("// calibrated"));
        QCOMPARE(program_fingerprint(bench, test::catalog(), gauge), plan);
        QVERIFY(constants_fingerprint(bench, gauge) != constants);
        const Reading& r = *bench.reading("hut-air");
        const auto says = [&](const std::string& sent) {
            const auto f = board_runs_another_plan(r, gauge, sent, plan, "c1");
            return f ? QString::fromStdString(f->message) : QString();
        };
        QVERIFY(says("").isEmpty() && says(plan).isEmpty() && says(plan + "-c1").isEmpty());
        QVERIFY(says(plan + "-c2").contains("constants of before"));
        QVERIFY(says("00000000-c1").contains("another plan (00000000;"));
    }
    /// Two bytes with a sign have one on boards whose int is longer, too; a state is what the pin says from the
    /// first line on; a fast turbine is not taken for ringing.
    void onEveryBoard() {
        for (const char* part : {"one-wire-probe-waterproof", "i2c-thermometer-fine"}) {
            const bool bus = std::string(part).starts_with("i2c");
            const std::string text =
                text_of(bus ? one_part(part, {{"SDA", "A4"}, {"SCL", "A5"}}) : one_part(part, {{"yellow", "7"}}));
            QVERIFY2(text.find("const int16_t") != std::string::npos && text.find("(int)(") == std::string::npos,
                     part);
        }
        QVERIFY(text_of(one_part("reed-contact", {{"wire 1", "7"}})).find("begin(state_air);") !=
                std::string::npos);
        Bench turbine = one_part("flow-turbine", {{"yellow", "3"}});
        Reading& flow = turbine.readings[0];
        flow.quantity.low = 1;
        flow.quantity.high = 30; // 225 pulses a second
        flow.source.collect = "rate";
        const std::string text = text_of(turbine);
        QVERIFY2(text.find(">= 1111UL") != std::string::npos, text.c_str());
        QVERIFY(text.find("void IRAM_ATTR edge_of_air()") != std::string::npos);
    }
    /// Names may be a stranger's: none of them becomes code.
    void namesThatAreCode() {
        const auto without_comments = [](const std::string& text) {
            QString out;
            for (const QString& line : QString::fromStdString(text).split('\n'))
                out += line.left(line.indexOf("//")) + '\n';
            return out.remove(QRegularExpression("plan=[0-9a-f]+"));
        };
        const char* hostile[] = {
            "x\nvoid loop() { evil(); }", "x\r\nevil();", "x \\", "x */ evil(); /*", "x\" evil(\"", "x\x0b\x7f"};
        const Bench plain = whelk_point();
        const QString expected = without_comments(text_of(plain));
        for (const char* name : hostile) {
            Bench bench = plain;
            bench.name = bench.place = name;
            bench.board("gauge")->name = name;
            for (Reading& r : bench.readings)
                r.name = name;
            QCOMPARE(without_comments(text_of(bench)), expected);
            // A field, a load's name, an id: in quotes or as names of the language.
            bench = plain;
            bench.reading("hut-air")->source.field = name;
            VALUE_OF(written, write_program(bench, test::catalog(), "gauge"));
            QCOMPARE(written.notes.size(), std::size_t(1));
            bench = plain;
            bench.reading("pulse")->source.signal = name; // the wave's own field
            VALUE_OF(wave, write_program(bench, test::catalog(), "gauge"));
            QCOMPARE(wave.notes.size(), std::size_t(1));
            bench = plain;
            for (LoadControl& c : bench.controls)
                c.on_line = std::string("load ") + name + " on", c.off_line = std::string("load ") + name + " off";
            for (Module& m : bench.modules)
                m.name = name;
            QVERIFY(!without_comments(text_of(bench, "pump-house")).contains("evil"));
        }
        // A channel that is code, or that its converter does not have.
        for (const char* channel : {"A0); evil(", "A7", "A", "evil"}) {
            Bench bench = plain;
            bench.reading("bed-1")->wiring.set_pin(channel);
            VALUE_OF(written, write_program(bench, test::catalog(), "pump-house"));
            QCOMPARE(written.notes.size(), std::size_t(2));
            QVERIFY(!without_comments(written.files.front().text).contains("evil"));
        }
        // A card's pin whose label is code.
        Catalog catalog = test::catalog();
        for (BoardCard& card : catalog.boards)
            for (Pin& pin : card.pins)
                if (pin.label == "A2") pin.label = "A2); evil(", pin.port = -1;
        Bench bench = test::small_bench();
        bench.readings[0].wiring.set_pin("A2); evil(");
        const auto written = write_program(bench, catalog, "gauge");
        QVERIFY(!written || written->files.front().text.find("evil") == std::string::npos);
    }
    /// What a maker's bench brings that nobody drew.
    /// Only a board sleeps that nothing keeps awake; what does is said by name.
    void sleepAndWhatKeepsAwake() {
        ProgramOptions asleep;
        asleep.sleep = true;
        const auto note = [&](const Bench& bench, const char* board) {
            const auto written = write_program(bench, test::catalog(), board, asleep);
            if (!written) return written.error().text();
            const bool sleeps = written->files.front().text.find("SLEEP_MODE_PWR_DOWN") != std::string::npos;
            std::string out = sleeps ? "it sleeps" : "it does not";
            for (const ProgramNote& n : written->notes)
                out += "; " + n.text;
            return out;
        };
        const auto says = [](const std::string& text, const char* what) {
            return text.find(what) != std::string::npos;
        };
        QCOMPARE(note(one_part("one-wire-probe-waterproof", {{"yellow", "7"}}), "gauge"), std::string("it sleeps"));
        QCOMPARE(note(one_part("co2-infrared-i2c", {{"SDA", "A4"}, {"SCL", "A5"}}), "gauge"),
                 std::string("it sleeps"));
        const std::string rain = note(one_part("tipping-bucket", {{"wire 1", "2"}}), "gauge");
        QVERIFY2(says(rain, "it does not; It does not sleep deeply") && says(rain, "counts pulses"), rain.c_str());
        const std::string motion = note(one_part("motion-infrared", {{"OUT", "7"}}), "gauge");
        QVERIFY2(says(motion, "it does not") && says(motion, "warms up"), motion.c_str());
        const std::string gauge = note(whelk_point(), "gauge"), shed = note(whelk_point(), "shed");
        QVERIFY2(says(gauge, "it does not") && says(shed, "8-bit board with six"), (gauge + shed).c_str());
    }
    void unusualBenches() {
        Bench bench = one_part("one-wire-probe-waterproof", {{"yellow", "7"}});
        bench.readings[0].id = "a-b";
        bench.readings.push_back(bench.readings[0]);
        Reading& other = bench.readings[1];
        other.id = other.name = "a_b";
        other.source.field = "second";
        VALUE_OF(one_wire, write_program(bench, test::catalog(), "gauge"));
        QCOMPARE(one_wire.notes.size(), std::size_t(1));
        QVERIFY(one_wire.notes[0].text.find("told apart by addresses") != std::string::npos);
        other.wiring.set_pin("8"); // a pin of its own; its id would be the same name in code
        bench.readings[0].quantity.interval_s = 90 * 86400.0;
        VALUE_OF(two, write_program(bench, test::catalog(), "gauge"));
        const QString text = QString::fromStdString(two.files.front().text);
        QVERIFY(text.contains("void send_a_b() {") && text.contains("void send_a_b_() {"));
        QVERIFY(text.contains("2592000000UL")); // no longer than a clock of four bytes can wait
        // Humidity and temperature of one part: one frame for both.
        bench = one_part("humidity-fine-single-wire", {{"data", "7"}});
        bench.readings.push_back(bench.readings[0]);
        bench.readings[1].id = "cold";
        bench.readings[1].source.field = "cold";
        bench.readings[1].quantity.kind = "temperature";
        bench.readings[1].quantity.unit = "degC";
        QCOMPARE(QString::fromStdString(text_of(bench)).count("Frame frame_7 ="), 1);
        // The simulator plays one kind of board; another is not taken for it.
        const auto plan = plan_proof(whelk_point(), test::catalog(), "pump-house");
        QVERIFY(!plan && plan.error().text().find("The simulator knows") != std::string::npos);
    }
    /// What the program depends on changes its fingerprint; what it does not know of does not.
    void theFingerprint() {
        const Bench bench = whelk_point();
        const auto of = [](const Bench& b) { return program_fingerprint(b, test::catalog(), *b.board("gauge")); };
        const std::string before = of(bench);
        QCOMPARE(before.size(), std::size_t(8));
        const auto changed = [&](const std::function<void(Bench&)>& change) {
            Bench other = bench;
            change(other);
            return of(other) != before;
        };
        QVERIFY(changed([](Bench& b) { b.reading("rock")->wiring.set_pin("A3"); }));
        QVERIFY(changed([](Bench& b) { b.reading("rock")->quantity.interval_s = 6; }));
        QVERIFY(changed([](Bench& b) { b.reading("rock")->source.field = "rock"; }));
        QVERIFY(changed([](Bench& b) { b.reading("hut-air")->wiring.reference = "internal"; }));
        QVERIFY(changed([](Bench& b) { b.board("gauge")->link.baud = 9600; }));
        QVERIFY(changed([](Bench& b) { b.readings.erase(b.readings.begin()); }));
        QVERIFY(!changed([](Bench& b) { b.reading("rock")->name = "Stone"; }));
        QVERIFY(!changed([](Bench& b) { b.reading("rock")->quantity.low = -20; }));
        QVERIFY(!changed([](Bench& b) { b.reading("cistern")->quantity.interval_s = 5; })); // of another board
    }
    /// A word that stands for what was not measured is no number and no state: "open" would be 1.
    void wordsAreNoNumbers() {
        static const QRegularExpression word(R"re((?:return|\?|:|F\() ?"([a-z][a-z-]*)"\)?)re");
        std::set<std::string> words;
        for (const PartCard& part : test::catalog().parts) {
            if (part.driver.empty()) continue;
            Bench bench = test::small_bench();
            Reading& r = bench.readings[0];
            r.sensor.part = part.id;
            for (const Leg& leg : part.legs)
                r.wiring.pins.push_back({leg.label, "7"});
            const QString text =
                QString::fromStdString(program::driver_for(place(bench, test::catalog(), r), "x", {}).send);
            for (auto it = word.globalMatch(text); it.hasNext();)
                words.insert(it.next().captured(1).toStdString());
        }
        for (const std::string& w : words) {
            const NumberText number = read_number_text(w);
            QVERIFY2(!number.there, w.c_str());
        }
        QVERIFY2(words.contains("no-answer") && words.contains("broken-wire"), "the words are not found any more");
    }
};

RUN_TESTS_OF(TestProgram)
#include "tst_program.moc"
