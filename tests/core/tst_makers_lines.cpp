// Lines as makers print them, and what arrives and must not be believed: half lines, decimal commas, letters,
// words, checksums, senders; warm-up; a lamp that flickers like a pulse; noise with more reasons than are kept.
#include "core/decode/decoder.h"
#include "core/decode/number_text.h"
#include "core/decode/stream.h"
#include "core/plan/intake.h"
#include "core/pulses/beats.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <numbers>
#include <random>

using namespace cognitum;

namespace {

/// "line: field=value …" for each record.
std::string heard(std::string_view bytes, bool midway = false) {
    Decoder decoder;
    if (midway) decoder.joined_midway();
    Records records;
    decoder.feed(bytes, records);
    decoder.finish(false, records);
    std::string out;
    for (const Records::Row& row : records.rows) {
        out += fmt::format("{}:", row.line);
        for (std::size_t i = row.first; i < row.first + row.count; ++i) {
            const double v = records.cells[i].value;
            out += fmt::format(" {}={}", decoder.fields()[records.cells[i].field].name,
                               std::isfinite(v) ? fmt::format("{}", v) : "none");
        }
        out += "; ";
    }
    return out;
}

Intake intake_of(const char* part, RawRules (*change)(RawRules) = nullptr) {
    static Bench bench;
    bench = test::small_bench(part);
    RawRules rules = raw_rules(place(bench, test::catalog(), bench.readings[0]));
    if (change) rules = change(rules);
    return {bench.readings[0], rules};
}

} // namespace

class TestMakersLines : public QObject {
    Q_OBJECT

  private slots:
    void lines_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<QByteArray>("records");
        const auto row = [](const char* name, const char* bytes, const char* records) {
            QTest::newRow(name) << QByteArray(bytes) << QByteArray(records);
        };
        row("failures keep the header", "T,H\n21,40\nnan,nan\nfail,fail\n22,41\n",
            "2: T=21 H=40; 3: T=none H=none; 4: T=none H=none; 5: T=22 H=41; ");
        row("failures come first", "T,H\nnan,nan\n21,40\n", "2: T=none H=none; 3: T=21 H=40; ");
        row("blanks around the mark", "T = 21.5\nT : 21.6\nT =21.7\n", "1: T=21.5; 2: T=21.6; 3: T=21.7; ");
        row("the sender in front", "FL: kPa=231.5 degC=24\n", "1: kPa=231.5 degC=24 FL.kPa=231.5 FL.degC=24; ");
        row("the sender in a field", "id=RL kPa=229\nid=RR kPa=230\n",
            "1: kPa=229 RL.kPa=229; 2: kPa=230 RR.kPa=230; ");
        row("the sender in a column", "id,kPa\nFL,229\nFR,230\n",
            "2: id=none kPa=229 FL.kPa=229; 3: id=none kPa=230 FR.kPa=230; ");
        row("the sender in JSON", "{\"node\":3,\"t\":21.5}\n{\"node\":4,\"t\":22}\n",
            "1: node=3 t=21.5 3.t=21.5; 2: node=4 t=22 4.t=22; ");
        row("a number called sensor is one", "sensor=512 output=127\n", "1: sensor=512 output=127; ");
        row("letters", "S512\nB72\nS513\n", "1: S=512; 2: B=72; 3: S=513; ");
        row("letters in a row", "T21.5 H40\nT21.6 H41\n", "1: T=21.5 H=40; 2: T=21.6 H=41; ");
        row("a column called A0", "A0\n512\n513\n", "2: A0=512; 3: A0=513; ");
        row("on and off", "ON\nOFF\n", "1: value=1; 2: value=0; ");
        row("words", "Motion detected!\nMotion ended!\nno motion\n", "1: Motion=1; 2: Motion=0; 3: Motion=0; ");
        row("decimal commas, semicolon", "21,3;45,2\n21,4;45\n",
            "1: value 1=21.3 value 2=45.2; 2: value 1=21.4 value 2=45; ");
        row("decimal commas, header", "t;h\n21,3;45,2\n21,4;nan\n", "2: t=21.3 h=45.2; 3: t=21.4 h=none; ");
        row("decimal commas, blanks", "21,3 45,2\n21,4 45,3\n",
            "1: value 1=21.3 value 2=45.2; 2: value 1=21.4 value 2=45.3; ");
        row("decimal commas, names", "T=21,3 H=45,2\nT=21,4,H=45\n", "1: T=21.3 H=45.2; 2: T=21.4 H=45; ");
        row("decimal commas, sentences", "Es sind 21,3 Grad\nEs sind 21,4 Grad\n",
            "1: Es sind=21.3; 2: Es sind=21.4; ");
        row("thousands or decimals: neither", "Druck ist 101,325 kPa\n", "1: Druck ist=none; ");
        row("plain commas stay columns", "21,3\n45,2\n", "1: value 1=21 value 2=3; 2: value 1=45 value 2=2; ");
        row("one name a line", "C = 900.25\nF = 1652.45\nK = 1173.40\n",
            "1: C=900.25; 2: F=1652.45; 3: K=1173.4; ");
        row("a sentence with a sum", "$SDDBT,7.8,f,2.4,M,1.3,F*0D\n$SDDBT,7.9,f,2.4,M,1.3,F*0D\n",
            "1: SDDBT 1=7.8 SDDBT 3=2.4 SDDBT 5=1.3; ");
        row("a table with sums", "21.5,40*30\n21.6,40*33\n21.6,40*34\n",
            "1: value 1=21.5 value 2=40; 2: value 1=21.6 value 2=40; ");
        row("states in capitals", "RAIN STARTED\nRAIN CLEARED\nRAIN STARTED\n",
            "1: RAIN=1; 2: RAIN=0; 3: RAIN=1; ");
        row("a minus and a plus before numbers", "at -3 and +4 m\nat -2 and +5 m\n",
            "1: at=-3 and=4; 2: at=-2 and=5; ");
        row("a dash between words", "air - 21.5\nair - 21.6\n", "1: air=21.5; 2: air=21.6; ");
        row("chatter is no record", "hello world\nInitializing sensor OK\nready\n", "");
    }
    void lines() {
        QFETCH(QByteArray, bytes);
        QFETCH(QByteArray, records);
        QCOMPARE(QByteArray::fromStdString(heard({bytes.constData(), static_cast<std::size_t>(bytes.size())})),
                 records);
    }

    /// What a board says at its start costs none of its first numbers. Behind words, which may be states,
    /// sentences, objects and tables without names wait until more lines speak for them.
    void theFirstNumbersAreTaken_data() {
        QTest::addColumn<QStringList>("start");
        QTest::newRow("nothing") << QStringList{};
        QTest::newRow("comments") << QStringList{"# board=gauge bits=10", "# fields seq ms 4", "# ok interval 100"};
        QTest::newRow("words") << QStringList{"Booting", "WiFi connected", "sensor ready", ""};
        QTest::newRow("both") << QStringList{"Hello", "# board=gauge", "ready", "# ok", "go"};
    }
    void theFirstNumbersAreTaken() {
        QFETCH(QStringList, start);
        QStringList firsts = {"seq=0 air=21.5", "21.5"};
        if (start.filter("Booting").isEmpty() && start.filter("Hello").isEmpty())
            firsts += {"air 21.5 degC", "21.5,1013", "{\"air\":21.5}"};
        for (const QString& first : firsts) {
            Stream stream;
            TimeUs time = second_us;
            for (const QString& line : start)
                QCOMPARE(stream.feed(line.toStdString() + "\n", time += second_us).size(), std::size_t(0));
            QVERIFY2(stream.feed(first.toStdString() + "\n", time += second_us).size() == 1, qPrintable(first));
        }
    }

    void aPortThatIsOpenedInMidLine() {
        // The half line is no record, and the three behind it are.
        QCOMPARE(heard("5,22\n100,5,22\n101,5,23\n102,5,24\n", true),
                 std::string("2: value 1=100 value 2=5 value 3=22; 3: value 1=101 value 2=5 value 3=23; 4: value "
                             "1=102 value 2=5 value 3=24; "));
        QCOMPARE(heard("45,678\n12345,679\n", true), std::string("2: value 1=12345 value 2=679; "));
        QCOMPARE(heard("T,H\n21,40\n", true), std::string("2: T=21 H=40; ")); // a header is whole
        QCOMPARE(heard("40\nT=21 H=40\nT=22 H=41\n", true), std::string("2: T=21 H=40; 3: T=22 H=41; "));
    }

    void noiseWithManyReasonsIsCounted() {
        Rejections rejected;
        for (int i = 0; i < 500; ++i)
            rejected.add(fmt::format("reason {}", i), 1, "x");
        QCOMPARE(rejected.total(), std::uint64_t(500));
        QVERIFY(rejected.reasons().size() <= Rejections::most_reasons);
        QCOMPARE(rejected.reasons().back().reason, std::string("other reasons"));
        Rejections all;
        all.add_all(rejected);
        for (int i = 0; i < 200; ++i)
            all.add(fmt::format("more {}", i), 1, "x");
        QCOMPARE(all.total(), std::uint64_t(700));
        QVERIFY(all.reasons().size() <= Rejections::most_reasons);
    }

    void whatAPartSaysWhileItWarmsUpIsNoValue() {
        Intake intake = intake_of("one-wire-probe-waterproof", [](RawRules rules) {
            rules.warm_up_s = 30;
            return rules;
        });
        const Partners none;
        QVERIFY(intake.take(0, 20, none, 1)->value.ok()); // nobody knows when it got power
        intake.powered(100 * second_us);
        const auto cold = intake.take(129 * second_us, 20, none, 1);
        QVERIFY(!cold->value.ok());
        QVERIFY(cold->why.find("30") != std::string::npos);
        QVERIFY(intake.take(130 * second_us, 20, none, 1)->value.ok());
        // A clock that is set back by a day does not make it cold for a day, nor do the lines of an older file.
        QVERIFY(intake.take(130 * second_us - 86400 * second_us, 20, none, 1)->value.ok());
    }

    void typedNumbersKnowTheFailureValuesToo() {
        Intake intake = intake_of("one-wire-probe-waterproof");
        QVERIFY(!intake.finished(-127).value.ok());
        QVERIFY(!intake.finished(85).value.ok());
        QVERIFY(intake.finished(80).value.ok());
        QVERIFY(intake.finished(85).value.ok()); // it was nearly there
    }

    /// RFC 3629: two to four bytes, no more, no less, none that could be shorter.
    void whatIsText() {
        for (const char* text :
             {"", "plain\ttext",
              "21.5 \xc2\xb0"
              "C",
              "\xdf\xbf", "\xe0\xa4\x85", "\xef\xbf\xbd", "\xf0\x9f\x90\x9f fish", "\xf4\x8f\xbf\xbf", "~", " "})
            QVERIFY2(is_plain_text(text), text);
        for (const char* text : {"\x01", "\x1f", "\x7f", "\x80",
                                 "\xb0"
                                 "C",
                                 "\xc1\xb0", "\xc2",
                                 "\xc2"
                                 "C",
                                 "\xe2\x82",
                                 "\xe2\x82"
                                 "C",
                                 "\xf0\x9f\x90",
                                 "\xf0\x9f\x90"
                                 "x",
                                 "\xf5\x80\x80\x80", "\xff"})
            QVERIFY2(!is_plain_text(text), text);
    }

    /// A number with a point is one number.
    void aSentenceHasSixtyFourNumbers() {
        const auto line = [](int numbers) {
            std::string out = "values";
            for (int i = 0; i < numbers; ++i)
                out += fmt::format(" {}.{}", i, i % 7);
            return out + "\n";
        };
        const auto rejected = [](const std::string& text) {
            Decoder decoder{*parse_format("text")};
            Records records;
            decoder.feed(text, records);
            return decoder.rejections().total();
        };
        QCOMPARE(rejected(line(64)), std::uint64_t(0));
        QCOMPARE(rejected(line(65)), std::uint64_t(1));
    }

    void aLimitIsNotOneNumber() {
        const auto rules = failure_rules(*test::catalog().part("echo-ranger-open"));
        for (const double echo_us : {0.0, 37'900.0, 38'000.0, 61'234.0})
            QVERIFY2(failed_by(rules, echo_us, std::nan(""), 0), qPrintable(QString::number(echo_us)));
        for (const double echo_us : {120.0, 5'800.0, 23'000.0})
            QVERIFY(!failed_by(rules, echo_us, std::nan(""), 0));
    }

    void aLampIsNoPulse_data() {
        QTest::addColumn<double>("bpm"); // 0: no finger
        QTest::addColumn<double>("flicker");
        QTest::addColumn<double>("rate");
        QTest::addColumn<bool>("number");
        QTest::newRow("flicker alone") << 0.0 << 100.0 << 49.3 << false;
        QTest::newRow("flicker under a wave") << 72.0 << 30.0 << 49.3 << false;
        QTest::newRow("as large as the wave") << 66.0 << 100.0 << 49.3 << false;
        QTest::newRow("a wave alone") << 72.0 << 0.0 << 49.3 << true;
        QTest::newRow("a fast wave alone") << 130.0 << 0.0 << 49.3 << true;
        QTest::newRow("sampled fast enough") << 72.0 << 60.0 << 500.0 << true;
        QTest::newRow("its image stands still") << 72.0 << 60.0 << 50.0 << true;
    }
    void aLampIsNoPulse() {
        QFETCH(double, bpm);
        QFETCH(double, flicker);
        QFETCH(double, rate);
        QFETCH(bool, number);
        std::mt19937_64 random(7);
        std::normal_distribution<double> noise(0, 2);
        std::vector<double> wave;
        for (int i = 0; i < static_cast<int>(12 * rate); ++i) {
            const double t = i / rate;
            const double phase = std::fmod(t * bpm / 60, 1);
            const double beat = bpm > 0 ? std::exp(-std::pow((phase - 0.2) / 0.08, 2)) +
                                              0.35 * std::exp(-std::pow((phase - 0.5) / 0.1, 2))
                                        : 0;
            wave.push_back(500 + 100 * beat + flicker * std::sin(2 * std::numbers::pi * 100 * t) + noise(random));
        }
        const Beats found = find_beats(wave, rate);
        QCOMPARE(std::isfinite(found.bpm), number);
        if (number)
            CLOSE(found.bpm, bpm, 2);
        else
            QVERIFY2(found.why.find("100 Hz") != std::string::npos, found.why.c_str());
    }
};

RUN_TESTS_OF(TestMakersLines)
#include "tst_makers_lines.moc"
