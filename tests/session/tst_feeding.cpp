// Readings that feed each other in the running bench: what follows, what is assumed when the other falls silent,
// what is refused; and a wave whose beats are counted on the way in.
#include "core/physics/sound.h"
#include "core/physics/thermocouple.h"
#include "demo/world.h"
#include "session/path_state.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <QSignalSpy>

using namespace cognitum;
using test::ClockedSession;

namespace {

void open_feeding(ClockedSession& s) {
    QVERIFY(test::open_demo(s.session, s.folder.filePath(QStringLiteral("demo.cognitum"))));
    s.settle();
}

void pool(ClockedSession& s, int echo_us, double water, int ec) {
    s.session.worker().injectMessageNow(
        "shed",
        {"shed/pool",
         QStringLiteral(R"({"echo_us":%1,"water_degC":%2,"ec":%3})").arg(echo_us).arg(water).arg(ec).toUtf8(),
         false});
    s.settle();
}

void gauge(ClockedSession& s, int code, double flue) {
    static int sequence = 0;
    ++sequence;
    s.send(QByteArray("seq,ms,A1,A2,flue,tips,bpm\n") + QByteArray::number(sequence) + "," +
           QByteArray::number(sequence * 1000) + ",500," + QByteArray::number(code) + "," +
           QByteArray::number(flue) + ",3,nan\n");
    s.settle();
}

double value(ClockedSession& s, const char* id) {
    return s.session.worker().live().readings.at(id).value.number;
}
double doubt(ClockedSession& s, const char* id) {
    const Live live = s.session.worker().live();
    return s.session.views().budget(*s.session.bench().reading(id), live.readings.at(id).raw, live).expanded();
}

} // namespace

class TestFeeding : public QObject {
    Q_OBJECT

  private slots:
    void soundFollowsTheAir() {
        ClockedSession s;
        open_feeding(s);
        const Reading& tide = *s.session.bench().reading("tide-pool");
        pool(s, 5000, 14, 2000);
        // Nothing is known of the air yet: 15 °C is assumed, with twelve degrees of doubt.
        CLOSE(value(s, "tide-pool"), 2100 - 5000 * physics::dry_speed_of_sound(15) / 2000, 1e-6);
        const double wide = doubt(s, "tide-pool");
        gauge(s, 139, 100);
        const double air = value(s, "hut-air");
        QVERIFY(air > 10 && air < 25);
        s.pass(6);
        pool(s, 5000, 14, 2000);
        CLOSE(value(s, "tide-pool"), 2100 - 5000 * physics::dry_speed_of_sound(air) / 2000, 1e-6);
        QVERIFY2(doubt(s, "tide-pool") < 0.7 * wide, qPrintable(QString::number(wide)));
        QCOMPARE(s.session.views().partners(tide, s.session.worker().live()).size(), std::size_t(1));
        // The air falls silent: the assumption again, and its doubt.
        s.pass(600);
        pool(s, 5000, 14, 2000);
        CLOSE(value(s, "tide-pool"), 2100 - 5000 * physics::dry_speed_of_sound(15) / 2000, 1e-6);
        QVERIFY(s.session.views().partners(tide, s.session.worker().live()).empty());
        CLOSE(doubt(s, "tide-pool"), wide, 0.01 * wide);
    }
    void conductivityFollowsTheWaterInTheSameLine() {
        ClockedSession s;
        open_feeding(s);
        pool(s, 5000, 10, 1750);
        s.pass(6);
        pool(s, 5000, 10, 1750);
        const double at_pool = 1750.5 * 3.3 / 4096 / 0.032;
        CLOSE(value(s, "conductivity"), at_pool / (1 + 0.02 * (10 - 25)), 0.01);
        // A probe that is lost is no thermometer.
        s.pass(6);
        pool(s, 5000, -127, 1750);
        s.pass(200);
        pool(s, 5000, -127, 1750);
        CLOSE(value(s, "conductivity"), at_pool / (1 + 0.02 * (20 - 25)), 0.01);
    }
    void aChipsTemperatureIsTheHuts() {
        ClockedSession s;
        open_feeding(s);
        gauge(s, 139, 100);
        s.pass(1);
        const double air = value(s, "hut-air");
        using namespace physics;
        const double shown = air + thermocouple_emf(ThermocoupleType::K, 350, air) / 0.041;
        gauge(s, 139, shown);
        CLOSE(value(s, "stove-flue"), 350, 0.01);
    }
    void aDerivedValueIsAsOldAsItsOldestInput() {
        ClockedSession s;
        open_feeding(s);
        pool(s, 5000, 10, 1750);
        s.pass(6);
        s.session.worker().injectMessageNow("shed", {"shed/pool", R"({"echo_us":5000,"ec":1750})", false});
        s.pass(40);
        s.session.worker().injectMessageNow("shed", {"shed/pool", R"({"echo_us":5000,"ec":1750})", false});
        s.settle();
        const Reading& r = *s.session.bench().reading("conductivity");
        const PathState state = path_state(s.session, r, s.session.worker().live(), {});
        QVERIFY2(state.age.contains("Pool water"), qPrintable(state.age));
    }
    void circlesAreRefusedByName() {
        ClockedSession s;
        open_feeding(s);
        QSignalSpy told(&s.session, &Session::trouble);
        s.session.editReading("hut-air", QStringLiteral("Follow"), [](Reading& r) {
            std::get<Linear>(r.path.stages[1]).zero.from = "stove-flue"; // which follows the hut's air
        });
        QCOMPARE(told.size(), qsizetype(1));
        const QString said = told[0][0].toString();
        QVERIFY2(said.contains("Hut air → Stove flue → Hut air"), qPrintable(said));
        QVERIFY(followed(s.session.bench().reading("hut-air")->path).empty());
        QCOMPARE(s.session.undoStack()->count(), 0);
    }
    void aFileWithACircleOpensAndSaysSo() {
        ClockedSession s;
        open_feeding(s);
        s.session.editReading("stove-flue", QStringLiteral("Unfollow"), [](Reading& r) {
            std::get<StraightCouple>(r.path.stages[0]).reference_degC.from.clear();
        });
        Bench bench = s.session.bench();
        std::get<StraightCouple>(bench.reading("stove-flue")->path.stages[0]).reference_degC.from = "stove-flue";
        const QString path = s.folder.filePath(QStringLiteral("circle.cognitum"));
        {
            auto file = BenchFile::create(path.toStdString());
            QVERIFY(file && file->save_plan(bench));
        }
        QVERIFY(s.session.openBench(path));
        s.settle();
        gauge(s, 139, 300);
        const Live live = s.session.worker().live();
        const Reading& flue = *s.session.bench().reading("stove-flue");
        QVERIFY(std::isfinite(s.session.views().budget(flue, 300, live).expanded())); // nobody waits for ever
        bool found = false;
        for (const Finding& f : s.session.views().findings(flue, live))
            found = found || f.id == "feeds-in-a-circle";
        QVERIFY(found);
        // Other edits still work beside it.
        s.session.editReading("rock", QStringLiteral("Rename"), [](Reading& r) { r.name = "Stone"; });
        QCOMPARE(s.session.bench().reading("rock")->name, std::string("Stone"));
    }
    void beatsAreCountedOnTheWayIn() {
        ClockedSession s;
        open_feeding(s);
        const TimeUs begin = s.now;
        for (int i = 0; i < 700; ++i) {
            s.pass(0.016);
            s.send(QStringLiteral("ms=%1 A0=%2\n")
                       .arg(i * 16)
                       .arg(std::lround(505 + 150 * demo::pulse_wave(20261, begin + i * 16'000)))
                       .toUtf8());
        }
        s.settle();
        const LiveReading pulse = s.session.worker().live().readings.at("pulse");
        QVERIFY2(pulse.value.ok(), pulse.cause.c_str());
        CLOSE(pulse.value.number, demo::heart_rate(20261, s.now), 5);
        CLOSE(pulse.raw, pulse.value.number, 1e-9);
        QVERIFY(pulse.points.size() >= 5 && pulse.points.size() < 20); // one result a second, not one a sample
        QVERIFY(pulse.signal.size() > 500);                            // the wave is there for the Raw stop
        // A flat line is no pulse of zero.
        for (int i = 700; i < 1600; ++i) {
            s.pass(0.016);
            s.send(QStringLiteral("ms=%1 A0=505\n").arg(i * 16).toUtf8());
        }
        s.settle();
        const LiveReading none = s.session.worker().live().readings.at("pulse");
        QCOMPARE(none.value.cause, Cause::failed);
        QVERIFY2(none.cause.find("No pulse to trust") != std::string::npos, none.cause.c_str());
    }
};

RUN_TESTS_OF(TestFeeding)
#include "tst_feeding.moc"
