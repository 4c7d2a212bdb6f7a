// The Convert and Quantity stops in the real window: steps, constants that follow, own formulas, the board's
// arithmetic, the table for a meter, draws; the vessel and the funnel.
#include "support/run_tests.h"
#include "support/test_window.h"

#include "core/physics/sound.h"

#include <QTableWidget>
#include <QThreadPool>

using namespace cognitum;
using test::TestWindow;

namespace {

void open_stop(TestWindow& w, const char* reading, Qt::Key stop) {
    w.openDemo();
    w.window.context().selectReading(reading);
    w.key(stop, Qt::ControlModifier);
}

void pool(TestWindow& w, int echo_us, double water, int ec) {
    w.clocked.session.worker().injectMessageNow(
        "shed",
        {"shed/pool",
         QStringLiteral(R"({"echo_us":%1,"water_degC":%2,"ec":%3})").arg(echo_us).arg(water).arg(ec).toUtf8(),
         false});
    w.refresh();
}

} // namespace

class TestConvert : public QObject {
    Q_OBJECT

  private slots:
    void stepsOfAnEchoAndWhomTheyFollow() {
        TestWindow w;
        open_stop(w, "tide-pool", Qt::Key_5);
        pool(w, 5000, 14, 1750);
        QCOMPARE(w.find<QLineEdit>("step0")->text(), QStringLiteral("5\u202f000"));
        QVERIFY2(w.text("convertFollows").contains("because Hut air is silent"),
                 qPrintable(w.text("convertFollows")));
        w.lines(2, 139);
        pool(w, 5001, 14, 1750);
        QVERIFY2(w.text("convertFollows").contains("Temperature beside it: from Hut air"),
                 qPrintable(w.text("convertFollows")));
        // Both ways: 1 m of water, what does the echo take?
        w.type("step2", "1000");
        const double air = w.window.context().live().readings.at("hut-air").value.number;
        const double echo = 2000 * 1100 / physics::dry_speed_of_sound(air);
        CLOSE(w.find<QLineEdit>("step0")->text().remove(QChar(0x202f)).toDouble(), echo, 1);
    }
    void aConstantStopsFollowing() {
        TestWindow w;
        open_stop(w, "conductivity", Qt::Key_5);
        pool(w, 5000, 10, 1750);
        w.click("tabConstants");
        QVERIFY2(w.text("now_temperature_degC").startsWith("now 10"), qPrintable(w.text("now_temperature_degC")));
        w.choose("follow_temperature_degC", "");
        QVERIFY(followed(w.reading("conductivity").path).empty());
        w.trigger("undo");
        QCOMPARE(followed(w.reading("conductivity").path), std::vector<std::string>{"pool-water"});
        // Who would close a circle is not offered: the thermometers that follow nothing are.
        auto* follow = w.find<QComboBox>("follow_temperature_degC");
        QVERIFY(follow->findData(QStringLiteral("hut-air")) >= 0);
        QVERIFY(follow->findData(QStringLiteral("conductivity")) < 0);
        QVERIFY(follow->findData(QStringLiteral("air-pressure")) < 0);
        w.type("doubt_alpha_per_K", "0.002");
        Conductivity25 stage = std::get<Conductivity25>(w.reading("conductivity").path.stages.back());
        CLOSE(stage.alpha_per_K.doubt, 0.002, 1e-12);
        w.type("doubt_alpha_per_K", "-1"); // a doubt below nothing is not taken
        stage = std::get<Conductivity25>(w.reading("conductivity").path.stages.back());
        CLOSE(stage.alpha_per_K.doubt, 0.002, 1e-12);
    }
    /// An echo that never came is no distance: its cause stands there, and the raw zero is not followed.
    void aFailedMeasurementIsNotFollowed() {
        TestWindow w;
        open_stop(w, "tide-pool", Qt::Key_5);
        pool(w, 5000, 14, 1750);
        QVERIFY(w.find<QLineEdit>("step1")->text() != QStringLiteral("—"));
        pool(w, 0, 14, 1750);
        QCOMPARE(w.clocked.session.worker().live().readings.at("tide-pool").value.cause, Cause::failed);
        for (const char* step : {"step1", "step2"})
            QCOMPARE(w.find<QLineEdit>(step)->text(), QStringLiteral("—"));
        QVERIFY2(w.text("convertCause").contains("no echo"), qPrintable(w.text("convertCause")));
    }
    void aCopiedFactorIsTakenApart() {
        TestWindow w;
        open_stop(w, "hut-air", Qt::Key_5);
        w.lines(3, 139);
        w.click("tabConstants");
        w.type("copiedFactor", "0.0977");
        QVERIFY2(w.text("factorSays").contains("1\u202fV and 1\u202f024 codes"), qPrintable(w.text("factorSays")));
        w.type("copiedFactor", "0.4881");
        QVERIFY2(w.text("factorSays").contains("it fits this board"), qPrintable(w.text("factorSays")));
        // A platinum element has no factor: nothing to type.
        w.window.context().selectReading("rock");
        w.refresh();
        QVERIFY(!w.sees("copiedFactor"));
    }
    void whatTheBoardsArithmeticDoes() {
        TestWindow w;
        open_stop(w, "hut-air", Qt::Key_5);
        w.lines(3, 139);
        w.click("tabSender");
        QVERIFY2(w.text("senderTruth").contains("139"), qPrintable(w.text("senderTruth")));
        QCOMPARE(w.text("sender_whole-volts"), QStringLiteral("-51")); // 0 V is −50 °C, and the calibration
        QVERIFY(w.sees("sender_sixteen-bits"));
        QVERIFY(w.text("senderDivisors").contains("2^N"));
        QVERIFY(!w.sees("senderSound"));
        w.window.context().selectReading("tide-pool");
        pool(w, 5000, 14, 1750);
        QVERIFY2(w.text("senderSound").contains("m/s"), qPrintable(w.text("senderSound")));
    }
    void theTableIsSaved() {
        TestWindow w;
        open_stop(w, "hut-air", Qt::Key_5);
        w.click("tabMeter");
        auto* table = w.find<QTableWidget>("meterTable");
        QCOMPARE(table->columnCount(), 4); // corrected, sensor, volts, code
        w.type("meterFrom", "0");
        w.type("meterTo", "30");
        w.type("meterStep", "10");
        QCOMPARE(table->rowCount(), 4);
        QCOMPARE(table->item(1, 0)->text(), QStringLiteral("10.00"));
        w.window.context().askSavePath = [&w](QWidget*, const QString&, const QString&, const QString&) {
            return w.next_path;
        };
        w.next_path = w.clocked.folder.filePath(QStringLiteral("meter.csv"));
        w.click("meterCsv");
        QFile csv(w.next_path);
        QVERIFY(csv.open(QIODevice::ReadOnly));
        const QList<QByteArray> lines = csv.readAll().trimmed().split('\n');
        QCOMPARE(lines.size(), qsizetype(5));
        QVERIFY(lines[0].contains("Voltage_V") && lines[1].startsWith("0,"));
        w.next_path = w.clocked.folder.filePath(QStringLiteral("meter.pdf"));
        w.click("meterPdf");
        QFile pdf(w.next_path);
        QVERIFY(pdf.open(QIODevice::ReadOnly) && pdf.readAll().startsWith("%PDF"));
        w.type("meterStep", "0");
        QCOMPARE(table->rowCount(), 0);
    }
    void aMillionDraws() {
        TestWindow w;
        open_stop(w, "rock", Qt::Key_5);
        w.clocked.send("seq,ms,A1,A2,flue,tips,bpm\n1,1000,500,139,100,3,nan\n");
        w.refresh();
        w.click("checkByDraws");
        QVERIFY(!w.find<QPushButton>("checkByDraws")->isEnabled());
        QThreadPool::globalInstance()->waitForDone();
        w.refresh();
        QVERIFY2(w.text("drawsSay").startsWith("A million draws: ±"), qPrintable(w.text("drawsSay")));
        QVERIFY(w.find<QPushButton>("checkByDraws")->isEnabled());
        w.window.context().selectReading("hut-air");
        w.refresh();
        QVERIFY(w.text("drawsSay").isEmpty()); // it was said of the other one
    }
    void aFormulaOfOnesOwn() {
        TestWindow w;
        open_stop(w, "daylight", Qt::Key_5);
        QVERIFY(w.text("convertEmpty").contains("finished numbers"));
        w.clocked.session.worker().injectMessageNow("pump-house", {"pump-house", "lux=120.0", false});
        w.refresh();
        QVERIFY(w.sees("formulaExpression"));
        const auto write = [&](const char* name, const char* text) {
            auto* field = w.find<QLineEdit>(name);
            field->setText(QString());
            QTest::keyClicks(field, QString::fromUtf8(text));
        };
        write("formulaExpression", "a * x +");
        QVERIFY(!w.find<QPushButton>("formulaTake")->isEnabled());
        write("formulaExpression", "a * x + b");
        QVERIFY2(w.text("formulaSays").contains("not known"), qPrintable(w.text("formulaSays")));
        w.find<QLineEdit>("formulaNames")->setText(QString::fromUtf8("a = 1.5 ± 0.1, b = -10"));
        QTest::keyClicks(w.find<QLineEdit>("formulaNames"), "0"); // −100
        QVERIFY2(w.text("formulaSays").contains("80"), qPrintable(w.text("formulaSays")));
        QVERIFY(w.text("formulaSays").contains("the way back is clear"));
        w.click("formulaTake");
        const auto* own = std::get_if<Formula>(&w.reading("daylight").path.stages.back());
        QVERIFY(own);
        CLOSE(own->names[0].second.doubt, 0.1, 1e-12);
        w.clocked.session.worker().injectMessageNow("pump-house", {"pump-house", "lux=200.0", false});
        w.refresh();
        CLOSE(w.window.context().live().readings.at("daylight").value.number, 200, 1e-9); // 1.5·200 − 100
        w.click("tabConstants");
        w.click("formulaRemove");
        QVERIFY(w.reading("daylight").path.stages.empty());
    }
    void rainAndBeatsAddUp() {
        TestWindow w;
        open_stop(w, "rain", Qt::Key_5);
        for (int tips : {3, 3, 5}) {
            w.clocked.pass(60);
            static int seq = 0;
            ++seq;
            w.clocked.send((seq == 1 ? QByteArray("seq,ms,A1,A2,flue,tips,bpm\n") : QByteArray()) +
                           QByteArray::number(seq) + "," + QByteArray::number(60000 * seq) + ",500,139,100," +
                           QByteArray::number(tips) + ",nan\n");
        }
        w.refresh();
        w.click("tabPulses");
        QVERIFY2(test::plain(w.text("pulse0").toStdString()) == "0.2 mm", qPrintable(w.text("pulse0")));
        QVERIFY2(test::plain(w.text("pulse1").toStdString()) == "0.4 mm", qPrintable(w.text("pulse1")));
        w.find<QComboBox>("rainContact")->setCurrentIndex(1);
        emit w.find<QComboBox>("rainContact")->activated(1);
        w.refresh();
        QVERIFY2(test::plain(w.text("pulse1").toStdString()) == "0.8 mm", qPrintable(w.text("pulse1")));
        w.window.context().selectReading("hut-air");
        w.refresh();
        QVERIFY(!w.sees("tabPulses"));
        QVERIFY(w.sees("stepLadder"));
    }

    void theVesselIsDrawnAndReachesThePath() {
        TestWindow w;
        open_stop(w, "cistern", Qt::Key_1);
        QVERIFY(w.sees("vesselDrawing") && !w.sees("rangeScale"));
        QVERIFY2(w.text("vesselSays").contains("at worst 2"), qPrintable(w.text("vesselSays")));
        QVERIFY(!w.sees("vesselHeight")); // a lying cylinder is as high as it is wide
        w.type("vesselWidth", "1200");
        const auto& fill = std::get<VesselFill>(w.reading("cistern").path.stages.back());
        CLOSE(fill.diameter_m.value, 1.2, 1e-12);
        QVERIFY(w.text("vesselSays").contains("at worst 2.4"));
        w.choose("vesselShape", "box");
        QVERIFY(w.sees("vesselHeight"));
        w.choose("vesselShape", "strapping");
        w.type("vesselTable", "0:0, 300:100, 200:90");
        QVERIFY2(w.text("quantityTrouble").contains("goes back"), qPrintable(w.text("quantityTrouble")));
        w.type("vesselTable", "0:0, 300:100, 900:1400");
        QCOMPARE(w.reading("cistern").quantity.vessel.levels_mm.size(), std::size_t(3));
        QCOMPARE(std::get<VesselFill>(w.reading("cistern").path.stages.back()).volumes_L.size(), std::size_t(3));
        w.type("vesselMount", "-5");
        QVERIFY(w.text("quantityTrouble").contains("above zero"));
        // Some pixels of the drawing are not paper: it drew something.
        const QImage seen = w.find<QWidget>("vesselDrawing")->grab().toImage();
        std::set<QRgb> colours;
        for (int y = 0; y < seen.height(); y += 3)
            for (int x = 0; x < seen.width(); x += 3)
                colours.insert(seen.pixel(x, y));
        QVERIFY(colours.size() > 3);
    }
    void theFunnelSetsTheTip() {
        TestWindow w;
        open_stop(w, "rain", Qt::Key_1);
        QVERIFY(w.sees("funnelDrawing"));
        QVERIFY2(test::plain(w.text("vesselSays").toStdString()).find("One tip is 0.2 mm") != std::string::npos,
                 qPrintable(w.text("vesselSays")));
        w.type("funnelTip", "5");
        CLOSE(std::get<Scale>(w.reading("rain").path.stages[0]).factor.value, 0.25, 1e-12);
        w.type("quantityExpected", "more in autumn");
        QCOMPARE(w.reading("rain").quantity.expected_when, std::string("more in autumn"));
        w.window.context().selectReading("hut-air");
        w.refresh();
        QVERIFY(w.sees("rangeScale") && !w.sees("funnelTip"));
    }
};

RUN_TESTS_OF(TestConvert)
#include "tst_convert.moc"
