// cognitum-cli physics, vessel, rain, beats and convert through the families' stages, as scripts use them.
#include "demo/world.h"
#include "support/cli.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QFile>
#include <cmath>

using namespace cognitum;
using test::cli;
using test::Run;

class TestCliPhysics : public QObject {
    Q_OBJECT

    test::Scratch m_scratch;
    QString write(const char* name, const QByteArray& text) { return m_scratch.write(name, text); }

  private slots:
    /// One call of each name in the contract, with a published value.
    void everyName_data() {
        QTest::addColumn<QString>("call");
        QTest::addColumn<double>("value");
        QTest::addColumn<double>("tolerance");
        QTest::addColumn<QString>("unit");
        const auto row = [](const char* call, double value, double tolerance, const char* unit) {
            QTest::addRow("%s", call) << QString::fromUtf8(call) << value << tolerance << QString::fromUtf8(unit);
        };
        row("speed-of-sound temperature=20degC", 343.2, 0.02, "m/s");
        row("speed-of-sound temperature=20degC humidity=50% pressure=101.325kPa", 343.99, 0.05, "m/s");
        row("speed-of-sound temperature=20degC humidity=50%", 343.99, 0.05, "m/s");
        row("water-density temperature=20degC", 998.2067, 1e-4, "kg/m3");
        row("boiling-point pressure=1013.25hPa", 99.974, 0.001, "degC");
        row("boiling-point altitude=2000m", 93.3, 0.1, "degC");
        row("dew-point temperature=25degC humidity=50%", 13.85, 0.02, "degC");
        row("absolute-humidity temperature=20degC humidity=100%", 17.3, 0.1, "g/m3");
        row("sea-level-pressure pressure=898.746hPa altitude=1km temperature=8.5degC", 101325, 1, "Pa");
        row("thermocouple-emf type=K temperature=500degC", 20.644, 0.0005, "mV");
        row("thermocouple-emf type=J temperature=500degC reference=25degC", 27.393 - 1.277, 0.001, "mV");
        row("thermocouple-temperature type=T emf=4.279mV", 100, 0.02, "degC");
        row("thermocouple-temperature type=K emf=19644uV reference=298.15K", 500, 0.02, "degC");
        row("rtd-resistance r0=100ohm temperature=100degC", 138.5055, 1e-4, "ohm");
        row("rtd-temperature r0=1kohm resistance=1385.055ohm", 100, 1e-4, "degC");
        row("thermistor-temperature r0=10kohm t0=25degC beta=3950K resistance=10kohm", 25, 1e-9, "degC");
        row("conductivity-25 conductivity=1278uS/cm temperature=20degC", 1.42, 1e-12, "mS/cm");
        row("conductivity-25 conductivity=1.278mS/cm temperature=20degC alpha=0.019/K", 1.278 / 0.905, 1e-12,
            "mS/cm");
        row("kcl-conductivity concentration=0.01M temperature=25degC", 1.413, 1e-9, "mS/cm");
        row("salt-humidity salt=sodium-chloride temperature=25degC", 75.29, 1e-9, "%");
    }
    void everyName() {
        QFETCH(QString, call);
        QFETCH(double, value);
        QFETCH(double, tolerance);
        QFETCH(QString, unit);
        const Run run = cli(QStringList{"physics"} + call.split(' ') + QStringList{"--json"});
        QVERIFY2(run.code == 0, run.err.constData());
        CLOSE(run.json()["value"].get<double>(), value, tolerance);
        QCOMPARE(QString::fromStdString(run.json()["unit"].get<std::string>()), unit);
        QVERIFY(!run.json()["source"].get<std::string>().empty());
    }
    /// docs/physics.md cannot drift: each of its lines is asked for and compared to its last digit.
    void theHandbookIsTrue_data() {
        QTest::addColumn<QString>("call");
        QTest::addColumn<QString>("told");
        QFile file(QStringLiteral(COGNITUM_SOURCE_DIR "/docs/physics.md"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        for (const QByteArray& line : file.readAll().split('\n')) {
            if (!line.startsWith("| `")) continue;
            const QStringList cells = QString::fromUtf8(line).split('|');
            QTest::addRow("%s", qPrintable(cells[1].trimmed()))
                << cells[1].trimmed().remove('`') << cells[2].trimmed();
        }
    }
    void theHandbookIsTrue() {
        QFETCH(QString, call);
        QFETCH(QString, told);
        const Run run = cli(QStringList{"physics"} + call.split(' ') + QStringList{"--json"});
        QVERIFY2(run.code == 0, run.err.constData());
        const QString number = told.section(' ', 0, 0);
        const double digit = std::pow(10, -static_cast<double>(number.section('.', 1).size()));
        CLOSE(run.json()["value"].get<double>(), number.toDouble(), 0.51 * digit);
        QCOMPARE(QString::fromStdString(run.json()["unit"].get<std::string>()), told.section(' ', 1));
    }
    void theSun() {
        const Json json =
            cli({"physics", "sun-times", "latitude=51.4769deg", "longitude=0deg", "date=2026-06-21", "--json"})
                .json();
        QVERIFY(json["sunrise"].get<std::string>().starts_with("2026-06-21T03:4"));
        QVERIFY(json["sunset"].get<std::string>().starts_with("2026-06-21T20:2"));
        const Json polar =
            cli({"physics", "sun-times", "latitude=75deg", "longitude=20deg", "date=2026-06-21", "--json"}).json();
        QVERIFY(polar["sunrise"].is_null() && polar["why"].get<std::string>().find("not set") != std::string::npos);
        QCOMPARE(cli({"physics", "sun-times", "latitude=95deg", "longitude=0deg", "date=2026-06-21"}).code, 3);
        QCOMPARE(cli({"physics", "sun-times", "latitude=5deg", "longitude=0deg", "date=June"}).code, 2);
    }
    void whatIsMissingOrWrongIsNamed() {
        const auto says = [](const QStringList& arguments, int code, const char* text) {
            const Run run = cli(QStringList{"physics"} + arguments);
            return run.code == code && run.err.contains(text) && run.out.isEmpty()
                       ? QByteArray()
                       : QByteArray::number(run.code) + ": " + run.err;
        };
        QCOMPARE(says({"thermocouple-emf", "type=K"}, 2, "temperature="), QByteArray());
        QCOMPARE(says({"thermocouple-emf", "type=Q", "temperature=5degC"}, 3, "types B, E, J"), QByteArray());
        QCOMPARE(says({"thermocouple-emf", "type=K", "temperature=5m"}, 2, "degC, K, degF"), QByteArray());
        QCOMPARE(says({"salt-humidity", "salt=sugar", "temperature=25degC"}, 3, "sodium-chloride"), QByteArray());
        QCOMPARE(says({"kcl-conductivity", "concentration=0.02M"}, 3, "0.01, 0.1 or 1"), QByteArray());
        QCOMPARE(says({"speed-of-sound", "colour=red"}, 2, "temperature="), QByteArray());
        QCOMPARE(says({"magic"}, 2, "sun-times"), QByteArray());
    }

    /// 2000 mAh less a fifth; 80 mA for 2 s and 0.05 mA for 598 s in 600 s; 2 % a month is 0.0548 mA.
    void batteries() {
        const QStringList use = {"battery",        "capacity=2Ah",  "sleep_current=50uA", "active_current=80mA",
                                 "active_time=2s", "interval=10min"};
        const double board = (80 * 2 + 0.05 * 598) / 600, self = 2000 * 0.24 / (365.25 * 24);
        const Json plain = cli(use + QStringList{"--json"}).json();
        CLOSE(plain["life_days"].get<double>(), 2000 / board / 24, 1e-9);
        CLOSE(plain["average_current_mA"].get<double>(), board, 1e-12);
        CLOSE(plain["shares"]["self_discharge"].get<double>(), 0, 0);
        const Json all = cli(use + QStringList{"self_discharge=2%/month", "reserve=20%", "--json"}).json();
        CLOSE(all["life_days"].get<double>(), 1600 / (board + self) / 24, 1e-9);
        CLOSE(all["average_current_mA"].get<double>(), board, 1e-12);
        CLOSE(all["shares"]["sleep"].get<double>(), 0.05 * 598 / 600 / (board + self), 1e-12);
        CLOSE(all["shares"]["active"].get<double>(), 80.0 * 2 / 600 / (board + self), 1e-12);
        CLOSE(all["shares"]["self_discharge"].get<double>(), self / (board + self), 1e-12);
        QVERIFY(cli(use + QStringList{"self_discharge=24%/year", "reserve=20%", "--json"}).json() == all);
        QVERIFY(cli(use).out.contains("Lasts about 263 days"));
        const auto says = [&](const QStringList& more, int code, const char* text) {
            const Run run = cli(use + more);
            return run.code == code && run.out.isEmpty() && run.err.contains(text) ? QByteArray() : run.err + "?";
        };
        QCOMPARE(says({"self_discharge=2%"}, 2, "%/month, %/year"), QByteArray());
        QCOMPARE(says({"reserve=20mAh"}, 2, "reserve"), QByteArray());
        QCOMPARE(says({"colour=red"}, 2, "colour"), QByteArray());
        QCOMPARE(says({"capacity=2"}, 2, "mAh"), QByteArray());
        QCOMPARE(says({"capacity=0mAh"}, 3, "capacity"), QByteArray());
        QCOMPARE(says({"sleep_current=-1uA"}, 3, "sleep_current"), QByteArray());
        QCOMPARE(says({"active_current=-1mA"}, 3, "active_current"), QByteArray());
        QCOMPARE(says({"active_time=-1s"}, 3, "active_time"), QByteArray());
        QCOMPARE(says({"active_time=11min"}, 3, "active_time"), QByteArray());
        QCOMPARE(says({"interval=0s"}, 3, "interval"), QByteArray());
        QCOMPARE(says({"self_discharge=101%/month"}, 3, "self_discharge"), QByteArray());
        QCOMPARE(says({"reserve=100%"}, 3, "reserve"), QByteArray());
        QCOMPARE(says({"sleep_current=0mA", "active_current=0mA"}, 3, "for ever"), QByteArray());
        QCOMPARE(cli(use + QStringList{"active_time=10min"}).code, 0);
        QVERIFY(cli({"battery", "capacity=2Ah"}).err.contains("sleep_current"));
    }

    void vessels() {
        const Json half =
            cli({"vessel", "lying-cylinder", "diameter=1m", "length=2m", "level=50cm", "--json"}).json();
        CLOSE(half["volume_L"].get<double>(), 785.398163397, 1e-6);
        CLOSE(half["litres_per_mm"].get<double>(), 2, 1e-6);
        CLOSE(half["full_volume_L"].get<double>(), 1570.796326795, 1e-6);
        const Json back = cli({"vessel", "cone", "diameter=1m", "height=1m", "volume=32.7249L", "--json"}).json();
        CLOSE(back["level_m"].get<double>(), 0.5, 1e-5);
        const Run over = cli({"vessel", "box", "length=1m", "width=1m", "height=1m", "level=1.1m", "--json"});
        QCOMPARE(over.code, 1);
        QVERIFY(over.out.isEmpty() && over.err.contains("overfull"));
        QVERIFY(
            cli({"vessel", "box", "length=1m", "width=1m", "height=1m", "level=-1mm"}).err.contains("below empty"));
        QCOMPARE(cli({"vessel", "box", "length=1m", "level=1m"}).code, 2);
        QCOMPARE(cli({"vessel", "box", "length=1m", "width=-1m", "height=1m", "level=0.1m"}).code, 3);
        QVERIFY(cli({"vessel", "bottle"}).err.contains("lying-cylinder"));
        const QString table = write("table.csv", "level_mm,volume_L\n0,0\n100,20\n500,100\n");
        CLOSE(cli({"vessel", "strapping", "table=" + table, "level=250mm", "--json"})
                  .json()["volume_L"]
                  .get<double>(),
              50, 1e-9);
        const Run bad =
            cli({"vessel", "strapping", "table=" + write("bad.csv", "level_mm,volume_L\n0,0\nx,2\n"), "level=1mm"});
        QCOMPARE(bad.code, 3);
        QVERIFY(bad.err.contains("bad.csv:3"));
    }

    void convertThroughTheFamilies() {
        const QString chain = write("cistern.json", R"({"stages": [{"stage": "echo", "temperature_degC": 20},
            {"stage": "level", "mount_height_mm": 1150},
            {"stage": "vessel", "shape": "lying-cylinder", "diameter_m": 1, "length_m": 2}]})");
        const Run run = cli({"convert", chain, "--json", "--uncertainty"}, "3787.878\n0\n10000\n");
        QVERIFY2(run.code == 0, run.err.constData());
        const Json json = run.json();
        CLOSE(json["values"][0].get<double>(), 785.4, 0.1);
        QVERIFY(json["values"][1].is_null() && json["values"][2].is_null());
        QVERIFY(json["causes"][1].get<std::string>().find("never came") != std::string::npos);
        QVERIFY(json["causes"][2].get<std::string>().find("below empty") != std::string::npos);
        QCOMPARE(json["unit"].get<std::string>(), std::string("L"));
        const QString flue =
            write("flue.json", R"({"stages": [{"stage": "thermocouple", "type": "K", "reference_degC": 25}]})");
        CLOSE(cli({"convert", flue, "--json", "--inverse"}, "500\n").json()["values"][0].get<double>(), 19.644,
              0.001);
    }

    void formulasAndStacks() {
        const QString chain = write("own.json", R"({"input_unit": "V", "stages": [
            {"stage": "formula", "expression": "a*x^2 + 1", "names": ["a"], "a": 2, "u_a": 0.1, "low": 0, "high": 10,
             "input_unit": "V", "unit": "mm"}]})");
        const Json json = cli({"convert", chain, "--json", "--uncertainty"}, "3\n11\n").json();
        CLOSE(json["values"][0].get<double>(), 19, 1e-9);
        CLOSE(json["standard_uncertainty"][0].get<double>(), 0.9, 1e-6);
        QVERIFY(json["values"][1].is_null());
        CLOSE(cli({"convert", chain, "--json", "--inverse"}, "19\n").json()["values"][0].get<double>(), 3, 1e-9);
        const Run bad = cli({"convert", write("bad.json", R"({"stages": [{"stage": "formula",
            "expression": "x +* 2", "input_unit": "V", "unit": "mm"}]})")},
                            "1\n");
        QCOMPARE(bad.code, 3);
        QVERIFY2(bad.err.contains("character") && bad.err.contains("bad.json"), bad.err.constData());
        const Run loop = cli({"convert", write("pole.json", R"({"stages": [{"stage": "formula",
            "expression": "1/x", "input_unit": "V", "unit": "mm"}]})"),
                              "--json"},
                             "0\n4\n");
        QVERIFY(loop.json()["values"][0].is_null());
        QVERIFY(loop.json()["causes"][0].get<std::string>().find("divides by zero") != std::string::npos);
        CLOSE(loop.json()["values"][1].get<double>(), 0.25, 1e-12);

        const Json stack = cli({"vessel", "stack", "section1=cone:diameter=1m:height=0.4m",
                                "section2=upright-cylinder:diameter=1m:height=0.8m", "level=0.7m", "--json"})
                               .json();
        CLOSE(stack["volume_L"].get<double>(), 340.339, 0.01);
        QVERIFY(cli({"vessel", "stack", "section1=bottle:diameter=1m", "level=1m"}).err.contains("no shape"));
        QCOMPARE(cli({"vessel", "stack", "level=1m"}).code, 2);
    }

    void rain() {
        const QString tips = write("tips.csv", "time\n2026-06-01T08:59:00Z\n2026-06-01T08:59:00.050Z\n"
                                               "2026-06-01T09:01:00Z\n1780304400\n");
        const Json json =
            cli({"rain", tips, "funnel_diameter=178.4mm", "tip_volume=5mL", "day_start=09:00", "--json"}).json();
        CLOSE(json["mm_per_tip"].get<double>(), 0.2, 0.0002);
        QCOMPARE(json["rejected"].get<int>(), 1);
        QCOMPARE(json["days"].size(), std::size_t(2));
        QCOMPARE(json["days"][0]["start"].get<std::string>(), std::string("2026-05-31T09:00:00.000Z"));
        CLOSE(json["total_mm"].get<double>(), 0.6, 0.001);
        const Json two =
            cli({"rain", tips, "funnel_area=250cm2", "tip_volume=5mL", "tips_per_pulse=2", "--json"}).json();
        CLOSE(two["total_mm"].get<double>(), 1.2, 1e-9);
        QCOMPARE(two["events"].size(), std::size_t(1));
        QCOMPARE(cli({"rain", tips, "funnel_area=250cm2", "tip_volume=5mL", "tips_per_pulse=3"}).code, 2);
        QCOMPARE(cli({"rain", tips, "funnel_diameter=-200mm", "tip_volume=5mL"}).code, 2); // its square would do
        QCOMPARE(cli({"rain", tips, "funnel_area=-3cm2", "tip_volume=-5mL"}).code, 2);
        QCOMPARE(cli({"rain", tips, "tip_volume=5mL"}).code, 2);
        QCOMPARE(cli({"rain", tips, "tip_volume=5mL", "funnel_area=250cm2", "day_start=25:00"}).code, 2);
        const Run bad = cli({"rain", write("bad.csv", "time\n2026-06-01T08:59:00Z\nnoon\n"), "tip_volume=5mL",
                             "funnel_area=250cm2"});
        QCOMPARE(bad.code, 3);
        QVERIFY(bad.err.contains("bad.csv:3"));
    }

    void compareTwoFiles() {
        QByteArray a = "time,value\n", b = "time,value\n", far = "time,value\n";
        for (int i = 0; i < 600; ++i) {
            const double world = 15 + 4 * std::sin(i / 60.0) + std::sin(i / 11.0);
            const double late = 15 + 4 * std::sin((i - 12) / 60.0) + std::sin((i - 12) / 11.0);
            a += QByteArray::number(1780304400 + i) + "," + QByteArray::number(world, 'g', 10) + "\n";
            b += QByteArray::number(1780304400 + i) + "," + QByteArray::number(late + 0.4, 'g', 10) + "\n";
            far += QByteArray::number(1880304400 + i) + ",1\n";
        }
        const QString first = write("a.csv", a), second = write("b.csv", b);
        const Json json = cli({"compare", first, second, "--json"}).json();
        CLOSE(json["bias"].get<double>(), 0.4, 0.01);
        CLOSE(json["lag_s"].get<double>(), 12, 0.5);
        CLOSE(json["slope"].get<double>(), 1, 0.01);
        CLOSE(json["limits_of_agreement"][0].get<double>() + json["limits_of_agreement"][1].get<double>(),
              2 * json["bias"].get<double>(), 1e-9);
        QVERIFY(json["n"].get<int>() > 500 && !json["verdict"].get<std::string>().empty());
        const Run none = cli({"compare", first, write("far.csv", far), "--json"});
        QCOMPARE(none.code, 1);
        QVERIFY(none.json()["n"] == 0 && none.json()["bias"].is_null() &&
                none.json()["limits_of_agreement"].is_null());
        const Run bad = cli({"compare", first, write("bad.csv", "time,value\n2026-06-01T09:00:00Z,warm\n")});
        QCOMPARE(bad.code, 3);
        QVERIFY2(bad.err.contains("bad.csv:2"), bad.err.constData());
        QCOMPARE(cli({"compare", first, write("head.csv", "when,what\n1,2\n")}).code, 3);
        QCOMPARE(cli({"compare", first}).code, 2);
    }

    void beats() {
        QByteArray text = "time,value\n", flat = "value\n";
        double truth = 0;
        for (int i = 0; i < 3000; ++i) {
            const TimeUs t = 1795617060LL * second_us + i * 20'000;
            text += QByteArray::fromStdString(iso_time(t)) + "," +
                    QByteArray::number(500 + 150 * demo::pulse_wave(1, t)) + "\n";
            flat += "512\n";
            truth += demo::heart_rate(1, t) / 3000;
        }
        const Json json = cli({"beats", write("pulse.csv", text), "--json"}).json();
        CLOSE(json["bpm"].get<double>(), truth, 2.5);
        QCOMPARE(json["quality"].get<std::string>(), std::string("good"));
        QVERIFY(json["beats"][0].get<std::string>().starts_with("2026-11-25T14:31"));
        const Run none = cli({"beats", write("flat.csv", flat), "rate=50Hz", "--json"});
        QCOMPARE(none.code, 0);
        QVERIFY(none.json()["bpm"].is_null() && none.json()["quality"] == "bad");
        QCOMPARE(cli({"beats", write("flat.csv", flat)}).code, 2); // no time and no rate
        QCOMPARE(cli({"beats", write("flat.csv", flat), "rate=50Hz", "colour=red"}).code, 2);
        for (const char* never : {"rate=0Hz", "rate=-50Hz"})
            QCOMPARE(cli({"beats", write("flat.csv", flat), never}).code, 2);
    }
};

RUN_TESTS_OF(TestCliPhysics)
#include "tst_cli_physics.moc"
