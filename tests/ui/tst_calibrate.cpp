// The Calibrate stop in the real window: whole calibrations against the simulated boards, whose true error is
// known; drafts that survive; bad references; the phone's button. What becomes of a calibration:
// tst_calibration_kept.cpp.
#include "core/physics/conductivity.h"
#include "demo/gauge_board.h"
#include "demo/world.h"
#include "session/publish/phone_button.h"
#include "store/upkeep/verify.h"
#include "support/run_tests.h"
#include "support/station.h"
#include "ui/widgets/number_field.h"

#include <QCheckBox>
#include <QNetworkAccessManager>
#include <QNetworkReply>
#include <QSignalSpy>

using namespace cognitum;
using cognitum::test::TestWindow;
using test::Station;

namespace {

constexpr double true_mm = 0.208, funnel_cm2 = 200; ///< what a tip is worth; the plan says 0.2 mm

/// The true bucket: poured through its funnel from start to end; what is left in it stays for the next pour.
struct Bucket {
    Station& s;
    double water_mm = 0;
    void pour(double mL) {
        s.run(2); // the path may be a new one
        s.click("beginChange");
        s.type("input_volume_mL", qPrintable(QString::number(mL)));
        for (water_mm += mL * 10 / funnel_cm2; water_mm >= true_mm; water_mm -= true_mm)
            s.tell("tip");
        s.run(70);
        s.click("takePoint");
    }
};

} // namespace

class TestCalibrate : public QObject {
    Q_OBJECT

  private slots:
    void temperatureAgainstTheTrueError() {
        Station s;
        s.open("hut-air");
        for (const double bath : {0.0, 12.0, 21.0, 33.0}) {
            s.tell(bath == 0 ? "probe ice" : qPrintable(QStringLiteral("probe bath %1").arg(bath)));
            s.run(90);
            s.choose("referenceKind", "other");
            s.take(bath, 0.05);
        }
        s.click("finishCalibration");
        const AppliedCorrection& c = *s.reading().correction;
        // What the maker's constants make of the true sensor.
        const demo::Truth truth;
        for (const double at : {2.0, 15.0, 30.0}) {
            const double volts = truth.zero_V + truth.slope_V * at;
            const Value indication = forward(s.reading().path, volts / truth.supply_V * 1024 - 0.5);
            CLOSE(corrected(c, indication.number), at, 2 * correction_u(c, at) + 0.02);
        }
        QCOMPARE(s.clocked.session.proof().calibrations("hut-air").back().points.size(), std::size_t(4));
    }
    /// Level, conductivity and moisture where they live, against the world as it truly is.
    void inPlaceAgainstTheWorld_data() {
        QTest::addColumn<QString>("id");
        QTest::addColumn<double>("u");
        QTest::addColumn<double>("apart_s");
        QTest::newRow("level") << "tide-pool" << 1.5 << 2400.0;
        QTest::newRow("conductivity") << "conductivity" << 0.25 << 2400.0;
        QTest::newRow("moisture") << "bed-1" << 1.0 << 4000.0;
    }
    void inPlaceAgainstTheWorld() {
        QFETCH(QString, id);
        QFETCH(double, u);
        QFETCH(double, apart_s);
        const QByteArray name = id.toLatin1();
        const auto truth = [&](TimeUs t) {
            if (id == "tide-pool") return demo::tide_level(test::station_seed, t);
            if (id == "bed-1") return demo::soil_moisture(test::station_seed, t, 1);
            // At 25 °C, as the reading states it: by the compensation of its own path.
            return demo::pool_conductivity(test::station_seed, t);
        };
        Station s;
        s.open(name.constData());
        const Chain path = uncorrected_path(s.reading(name.constData()));
        const auto reference = [&](TimeUs t) {
            if (id != "conductivity") return truth(t);
            for (const Stage& stage : path.stages)
                if (const auto* k = std::get_if<Conductivity25>(&stage)) {
                    Conductivity25 at = *k;
                    at.temperature_degC.value = demo::pool_temperature(test::station_seed, t);
                    return forward(Stage(at), truth(t)).number;
                }
            return truth(t);
        };
        for (int i = 0; i < 5; ++i) {
            s.run(apart_s);
            s.choose("referenceKind", "other");
            // The gate's mean lies half a window back: so does the reference.
            s.take(reference(s.clocked.now), u);
        }
        if (s.sees("useModel_offset")) s.click("useModel_offset");
        s.click("finishCalibration");
        QVERIFY(s.reading(name.constData()).correction.has_value());
        s.run(apart_s / 3);
        CLOSE(s.shown(name.constData()), reference(s.clocked.now), s.expanded(name.constData()) + 2 * u);
    }
    /// A bucket whose tips are worth 4 % more than planned: three pours find it.
    void rainByMeasuredPours() {
        Station s;
        s.open("rain");
        QCOMPARE(s.find<QComboBox>("recipe")->currentData().toString(), QStringLiteral("slow-drip"));
        QVERIFY(!s.find<QPushButton>("takePoint")->isEnabled()); // nothing was started yet
        Bucket bucket{s};
        for (int n = 0; n < 3; ++n)
            bucket.pour(500);
        QCOMPARE(s.page().points().size(), std::size_t(3));
        QVERIFY2(s.text("calibrateSoFar").contains("indication"), qPrintable(s.text("calibrateSoFar")));
        // The total pour is kept out of the fit, and judges it.
        QVERIFY(!s.sees("verdictCheck"));
        bucket.pour(1500);
        QVERIFY(s.page().points().back().check);
        // 75 mm are known as well as the funnel's area: to 0.7 mm, which is more than the limit of half a
        // millimetre.
        QVERIFY2(s.text("verdictCheck").contains(QStringLiteral("▲ check")), qPrintable(s.text("verdictCheck")));
        s.click("finishCalibration");
        const AppliedCorrection& c = *s.reading("rain").correction;
        CLOSE(c.gain, 1.04, 2 * std::sqrt(c.var_gain) + 0.004);
        QCOMPARE(s.clocked.session.proof().calibrations("rain").back().verdict_check,
                 std::string("pass-within-doubt"));
    }
    /// The same, into the path: what a tip is worth stands there, and the next pours come out right.
    void poursBecomeMillimetresForEachTip() {
        Station s;
        s.open("rain");
        Bucket bucket{s};
        for (int n = 0; n < 3; ++n)
            bucket.pour(500);
        QVERIFY2(s.text("offerWords_straight").contains("for each tip"), qPrintable(s.text("offerWords_straight")));
        s.click("offer_straight");
        const Reading& rain = s.reading("rain");
        CLOSE(std::get<Scale>(rain.path.stages[0]).factor.value, true_mm, 0.001);
        QVERIFY(rain.correction && rain.correction->gain == 1 && rain.correction->offset == 0);
        QVERIFY(!correction_is_stale(rain));
        const CalibrationRecord kept = s.clocked.session.proof().calibrations("rain").back();
        QVERIFY2(kept.into.find("for each tip") != std::string::npos, kept.into.c_str());
        QVERIFY(std::abs(kept.worst_found) > 0.8 && std::abs(kept.worst_left) < 0.2);
        bucket.pour(1000);
        const CalibrationPoint& next = s.page().points().back();
        CLOSE(next.indication, next.reference, 0.25);
        s.clocked.session.undoStack()->undo();
        CLOSE(std::get<Scale>(s.reading("rain").path.stages[0]).factor.value, 0.2, 1e-12);
    }
    /// A pour that was begun is in the file: who comes back ends it.
    void aPourThatWasBegunIsNotForgotten() {
        Station s;
        s.open("rain");
        s.click("beginChange");
        const auto begun = s.clocked.session.proof().draft("rain").started;
        QVERIFY(begun);
        for (int tip = 0; tip < 10; ++tip)
            s.tell("tip");
        s.open("hut-air");
        s.run(20);
        s.open("rain");
        s.type("input_volume_mL", "40");
        s.click("takePoint");
        CLOSE(s.page().points().back().indication, 2, 1e-9); // ten tips of 0.2 mm
        QVERIFY(!s.clocked.session.proof().draft("rain").started);
        // The board starts anew in the middle of one: its count is gone, and the pour with it.
        s.click("beginChange");
        s.hear("gauge", {s.clocked.now, {}, s.boards["gauge"]->command("reset", s.clocked.now), false});
        s.run(5);
        QVERIFY2(s.text("steadyText").contains("went back"), qPrintable(s.text("steadyText")));
        QVERIFY(!s.find<QPushButton>("takePoint")->isEnabled());
    }
    /// A standard at 19 °C, at a reading that states 25 °C: compared is what the path makes of it.
    void aStandardIsComparedAsThePathStatesIt() {
        Station s;
        s.open("conductivity");
        s.run(30);
        s.choose("referenceKind", "kcl-0.1");
        const double pool = s.shown("pool-water"); // the thermometer in the same water is asked first
        CLOSE(s.find<QLineEdit>("input_water_degC")->text().toDouble(), pool, 0.06);
        s.type("input_water_degC", "19");
        const double at_19 = physics::potassium_chloride_conductivity(0.1, 19);
        CLOSE(s.find<QLineEdit>("referenceValue")->text().toDouble(), at_19 / (1 - 6 * 0.02), 0.02);
        QVERIFY2(s.text("referenceNote").contains("25"), qPrintable(s.text("referenceNote")));
        s.choose("referenceKind", "other");
        QVERIFY(!s.sees("referenceNote"));
    }
    /// On or off is what it is now, however long ago the board said so; compared, and nothing to correct.
    void aStateIsComparedAndNotCorrected() {
        Station s;
        s.boards["shed"]->command("hand nobody jetty", s.clocked.now);
        s.open("jetty");
        QCOMPARE(s.find<QComboBox>("recipe")->currentData().toString(), QStringLiteral("there-and-away"));
        s.run(120);
        for (int i = 0; i < 5; ++i)
            s.click("takePoint");
        QVERIFY2(s.text("recipeStep").contains("step 2"), qPrintable(s.text("recipeStep")));
        s.boards["shed"]->command("hand walk-past jetty", s.clocked.now);
        s.run(30);
        QVERIFY(s.text("indication").startsWith(QLatin1Char('1')));
        for (int i = 0; i < 5; ++i)
            s.click("takePoint");
        QVERIFY2(s.text("verdictFound").contains("good"), qPrintable(s.text("verdictFound")));
        QVERIFY2(s.text("calibrateSoFar").contains("corrects nothing"), qPrintable(s.text("calibrateSoFar")));
        QVERIFY(!s.find<QPushButton>("finishCalibration")->isEnabled());
        s.click("compareOnly");
        QCOMPARE(s.clocked.session.proof().calibrations("jetty").back().verdict_found, std::string("pass"));
    }

    void aSessionThatIsClosedGoesOn() {
        const QTemporaryDir folder;
        const QString path = folder.filePath("kept.cognitum");
        TimeUs now = 0;
        {
            Station s;
            QVERIFY(test::bench_file(s.clocked.session)->save_copy(path.toStdString())); // the demo, before
            s.open("hut-air");
            s.tell("probe ice");
            s.run(90);
            s.click("takePoint");
            s.find<QLineEdit>("signedBy")->setText("the warden");
            emit s.find<QLineEdit>("signedBy")->editingFinished();
            VALUE_OF(kept, test::bench_file(s.clocked.session)->draft("hut-air"));
            QVERIFY(kept && kept->points.size() == 1 && kept->by == "the warden" && kept->step == 1);
            // Another reading in between, and an edit of the plan: neither loses it.
            s.open("rock");
            s.clocked.session.editReading("rock", "rename", [](Reading& r) { r.name = "Rocks"; });
            s.open("hut-air");
            QCOMPARE(s.page().points().size(), std::size_t(1));
            QVERIFY2(s.text("recipeStep").contains("step 2"), qPrintable(s.text("recipeStep")));
            const QString copy = folder.filePath("later.cognitum");
            QVERIFY(test::bench_file(s.clocked.session)->save_copy(copy.toStdString()));
            now = s.clocked.now;
        }
        TestWindow again;
        again.clocked.now = now;
        QVERIFY(again.clocked.session.openBench(folder.filePath("later.cognitum")));
        again.refresh();
        again.window.context().selectReading("hut-air");
        again.window.showStop(5);
        again.refresh();
        QCOMPARE(again.window.findChild<CalibratePage*>()->points().size(), std::size_t(1));
        QCOMPARE(again.find<QLineEdit>("signedBy")->text(), QStringLiteral("the warden"));
        QVERIFY(verify(*test::bench_file(again.clocked.session))->problems.empty());
    }
    void badReferencesAreNotTaken() {
        Station s;
        s.open("hut-air");
        s.run(60);
        s.choose("referenceKind", "other");
        s.type("referenceValue", "-400");
        QVERIFY2(s.text("takeHint").contains("absolute zero"), qPrintable(s.text("takeHint")));
        QVERIFY(!s.find<QPushButton>("takePoint")->isEnabled());
        s.type("referenceValue", "20");
        s.type("referenceDoubt", "0");
        QVERIFY2(s.text("takeHint").contains("above zero"), qPrintable(s.text("takeHint")));
        s.type("referenceDoubt", "0.1");
        const double air = demo::air_temperature(test::station_seed, s.clocked.now);
        s.type("referenceValue", qPrintable(QString::number(air * 1.8 + 32)));
        QVERIFY2(s.text("referenceRemarks").contains(QStringLiteral("°F")), qPrintable(s.text("referenceRemarks")));
        // The link is lost in the middle: no number, nothing to take, and what was taken is still there.
        s.take(air, 0.1);
        s.clocked.pass(300);
        s.refresh();
        QVERIFY2(s.text("steadyText").contains("no value"), qPrintable(s.text("steadyText")));
        QVERIFY(!s.find<QPushButton>("takePoint")->isEnabled());
        QCOMPARE(s.page().points().size(), std::size_t(1));
    }
    /// An echo that never came is no level, at this stop neither.
    void aFailedMeasurementIsNoIndication() {
        Station s;
        s.open("tide-pool");
        s.run(30);
        QVERIFY(s.text("indication") != QStringLiteral("—"));
        s.boards["shed"]->command("fault no-echo", s.clocked.now);
        for (int i = 0;
             i < 60 && s.clocked.session.worker().live().readings.at("tide-pool").value.cause != Cause::failed; ++i)
            s.run(6);
        QCOMPARE(s.clocked.session.worker().live().readings.at("tide-pool").value.cause, Cause::failed);
        QCOMPARE(s.text("indication"), QStringLiteral("—"));
        QVERIFY2(s.text("steadyText").contains("no echo"), qPrintable(s.text("steadyText")));
        QVERIFY(!s.find<QPushButton>("takePoint")->isEnabled());
        // Nor are old values of a path that follows others made anew with what is assumed of them.
        auto answer = s.clocked.session.proof().reevaluate("conductivity");
        s.answers();
        QVERIFY(answer.isFinished());
        const auto made = answer.result();
        QVERIFY(!made && made.error().what.find("follows") != std::string::npos);
    }
    void theStopsOfABucketAreToldApart() {
        Station s;
        s.open("rain");
        s.choose("recipe", "turn-the-stops");
        for (const char* dose : {"4.4", "3.8", "4.4", "3.8"}) { // left and right in turn
            s.click("beginChange");
            s.type("input_volume_mL", dose);
            s.tell("tip");
            s.run(3);
            s.click("takePoint");
        }
        const QString says = s.text("calibrateSoFar");
        QVERIFY2(says.contains("left side tips at 4.40") && says.contains("turn its stop down") &&
                     says.contains("stop up"),
                 qPrintable(says));
        // Once something was turned, how far is asked for; the numbers survive another reading in between.
        QVERIFY(!s.sees("leftTurns"));
        s.find<QCheckBox>("asLeft")->click();
        QVERIFY(s.sees("leftTurns") && s.sees("rightTurns"));
        s.type("leftTurns", "0.5");
        s.type("rightTurns", "−1");
        s.open("hut-air");
        s.open("rain");
        QCOMPARE(s.clocked.session.proof().draft("rain").left_turns, 0.5);
        QCOMPARE(s.clocked.session.proof().draft("rain").right_turns, -1.0);
        QVERIFY(s.sees("leftTurns"));
        QCOMPARE(typed_number(s.find<QLineEdit>("rightTurns")->text()).value_or(0), -1.0);
    }
    void aPhoneTakesThePoint() {
        PhoneButton key;
        QSignalSpy pressed(&key, &PhoneButton::pressed);
        VALUE_OF(where, key.open(QStringLiteral("127.0.0.1")));
        key.say("Hut air: 20.1 °C");
        QNetworkAccessManager net;
        const auto ask = [&](const QString& url, bool press) {
            QNetworkRequest request{QUrl(url)};
            request.setHeader(QNetworkRequest::ContentTypeHeader, "text/plain");
            std::unique_ptr<QNetworkReply> reply(press ? net.post(request, QByteArray()) : net.get(request));
            QSignalSpy done(reply.get(), &QNetworkReply::finished);
            if (!reply->isFinished()) done.wait(5000);
            return std::pair{reply->attribute(QNetworkRequest::HttpStatusCodeAttribute).toInt(), reply->readAll()};
        };
        QVERIFY(ask(where, false).second.contains("Take the point"));
        QCOMPARE(ask(where + "/says", false).second, QByteArray("Hut air: 20.1 °C"));
        QCOMPARE(ask(where, true).first, 200);
        QTRY_COMPARE(pressed.size(), 1);
        QCOMPARE(ask(where.section('/', 0, 2) + "/guess", true).first, 404); // only with its secret
        QCOMPARE(pressed.size(), 1);
        Station s;
        s.open("hut-air");
        QVERIFY(!s.find<QCheckBox>("remoteKey")->isChecked()); // off until somebody wants it
    }
};

RUN_TESTS_OF(TestCalibrate)
#include "tst_calibrate.moc"
