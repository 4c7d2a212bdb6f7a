// Planning in the real window: every choice of the wiring, what is painted, the boards page's larger steps.
#include "core/plan/assign.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/test_window.h"
#include "ui/stops/sensor/sensor_page.h"
#include "ui/stops/wiring/loom_painter.h"
#include "ui/stops/wiring/wiring_page.h"

#include <QCheckBox>
#include <QDialog>
#include <QTableWidget>

using namespace cognitum;
using test::TestWindow;

namespace {

/// Pixels of a picture that are near this colour.
int pixels_of(const QImage& image, const QColor& colour) {
    int n = 0;
    for (int y = 0; y < image.height(); ++y)
        for (int x = 0; x < image.width(); ++x) {
            const QColor c = image.pixelColor(x, y);
            n += std::abs(c.red() - colour.red()) + std::abs(c.green() - colour.green()) +
                     std::abs(c.blue() - colour.blue()) <
                 24;
        }
    return n;
}

QImage painted(const Theme& theme, const Loom& loom) {
    const LoomPainter painter(theme, loom);
    QImage image(painter.size().toSize() + QSize(2, 2), QImage::Format_RGB32);
    image.fill(theme.colours().sheet);
    QPainter p(&image);
    painter.paint(p, 0);
    return image;
}

} // namespace

class TestPlanPages : public QObject {
    Q_OBJECT

  private slots:
    void addressAndCable() {
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("daylight");
        w.window.showStop(2);
        w.refresh();
        auto* address = w.find<QComboBox>("wiringAddress");
        QCOMPARE(address->currentText(), QStringLiteral("0x23"));
        address->setCurrentIndex(1);
        emit address->activated(1);
        w.refresh();
        QCOMPARE(w.reading("daylight").wiring.address, 0x5C);
        QVERIFY(w.reading("daylight").wiring.ticked.empty()); // other wires, other checks
        w.type("wiringCable", "2,5");
        CLOSE(w.reading("daylight").wiring.cable_m, 2.5, 1e-12);
        QVERIFY(w.find<QPushButton>("fix_decoupling-missing"));
        w.click("fix_decoupling-missing");
        QVERIFY(w.reading("daylight").wiring.decoupled);
        QCOMPARE(w.reading("daylight").wiring.mended.size(), std::size_t(1));
        for (int i = 0; i < 3; ++i)
            w.trigger("undo");
        QCOMPARE(w.reading("daylight").wiring.address, 0);
        CLOSE(w.reading("daylight").wiring.cable_m, 0.4, 1e-12);
    }
    void anotherRailBringsItsOwnConstants() {
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("rock");
        w.window.showStop(2);
        w.refresh();
        QVERIFY(std::holds_alternative<RatioDivider>(w.reading("rock").path.stages[0]));
        w.choose("wiringRail", "3V3"); // the supply no longer cancels
        const Chain& path = w.reading("rock").path;
        QVERIFY(std::holds_alternative<Adc>(path.stages[0]));
        CLOSE(std::get<Divider>(path.stages[1]).supply_V.value, 3.3, 1e-12);
    }
    void theStepInHandIsExplained() {
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("tide-pool");
        w.window.showStop(2);
        w.refresh();
        auto* steps = w.find<StepList>("wiringSteps");
        QCOMPARE(steps->current(), 6);
        const int before = steps->sizeHint().height();
        w.click("stepDone");
        QCOMPARE(steps->current(), 7);
        QVERIFY(w.stop(3).text.contains("7 of 10"));
        QVERIFY(steps->sizeHint().height() > 0 && before > 0);
        QVERIFY(steps->accessibleDescription().contains("done: Check for a short"));
    }

    /// Each wire is seen in its colour, in both themes, and the live step's wire is thicker.
    void theLoomIsPainted() {
        VALUE_OF(bench, load_bench_json(data_folder() + "/demo/whelk-point.json"));
        Theme theme;
        for (const bool dark : {false, true}) {
            theme.setDark(dark);
            const Loom loom = reading_loom(bench, test::catalog(), *bench.reading("tide-pool"));
            const QImage image = painted(theme, loom);
            for (const LoomWire& wire : loom.wires)
                QVERIFY2(pixels_of(image, wire_ink(theme, wire.colour)) > 100, wire.colour.c_str());
            QCOMPARE(pixels_of(image, wire_ink(theme, "violet")), 0); // nothing is violet here
            const LoomPainter painter(theme, loom);
            QImage thick(image.size(), QImage::Format_RGB32);
            thick.fill(theme.colours().sheet);
            QPainter p(&thick);
            painter.paint(p, 4);
            p.end();
            QVERIFY(pixels_of(thick, wire_ink(theme, "red")) > pixels_of(image, wire_ink(theme, "red")) + 100);
        }
        theme.setDark(false);
    }
    void nothingIsPaintedOutsideItsSheet() {
        VALUE_OF(bench, load_bench_json(data_folder() + "/demo/whelk-point.json"));
        const Theme theme;
        for (const BoardUse& use : bench.boards) {
            const Loom loom = board_loom(bench, test::catalog(), use);
            const LoomPainter painter(theme, loom);
            QImage image(painter.size().toSize() + QSize(120, 120), QImage::Format_RGB32);
            image.fill(Qt::white);
            QPainter p(&image);
            p.translate(60, 60);
            painter.paint(p, 0);
            p.end();
            int outside = 0;
            for (int y = 0; y < image.height(); ++y)
                for (int x = 0; x < image.width(); ++x)
                    if ((x < 50 || y < 50 || x > image.width() - 50 || y > image.height() - 50) &&
                        image.pixelColor(x, y) != QColor(Qt::white))
                        ++outside;
            QVERIFY2(outside == 0, use.id.c_str());
        }
    }

    void aBuildIsCopiedForASecondPlace() {
        TestWindow w;
        w.openDemo();
        w.window.showPage("boards");
        w.refresh();
        QTimer::singleShot(0, [] {
            auto* dialog = qobject_cast<QDialog*>(QApplication::activeModalWidget());
            QVERIFY(dialog);
            dialog->findChild<QLineEdit*>()->setText(QStringLiteral("north quay"));
            dialog->accept();
        });
        w.click("copyBuild");
        const Bench& bench = w.clocked.session.bench();
        QCOMPARE(bench.boards.size(), std::size_t(5));
        QCOMPARE(bench.readings.size(), std::size_t(19 + 5));
        QVERIFY(!bench.readings.back().correction);
        w.trigger("undo");
        QCOMPARE(w.clocked.session.bench().readings.size(), std::size_t(19));
    }
    void pinsAreChosenAnew() {
        TestWindow w;
        w.openDemo();
        w.clocked.session.edit("muddle", [](Bench& b) {
            b.reading("rain")->wiring.pins[0].pin = "7";  // does not interrupt
            b.reading("rock")->wiring.pins[0].pin = "A2"; // taken by hut air, who fixed it
        });
        w.window.showPage("boards");
        w.refresh();
        w.choose("boardChoice", "gauge");
        w.click("assignAnew");
        const Bench& bench = w.clocked.session.bench();
        QCOMPARE(bench.reading("hut-air")->wiring.pin(), std::string("A2"));
        QVERIFY(bench.reading("rock")->wiring.pin() != "A2");
        const std::string rain = bench.reading("rain")->wiring.pin();
        QVERIFY(rain == "2" || rain == "3");
        QVERIFY(bench.reading("rain")->wiring.ticked.empty());
    }
    void aBoardIsFedAndAnswers() {
        TestWindow w;
        w.openDemo();
        w.window.showPage("boards");
        w.refresh();
        w.choose("boardChoice", "shed");
        w.type("boardSupply", "12"); // it takes 4.7 to 5.5 V
        QVERIFY(w.find<QPushButton>("fix_regulator-starved"));
        w.click("fix_regulator-starved");
        CLOSE(w.clocked.session.bench().board("shed")->supply_V, 0, 0);
        QVERIFY(!w.sees("fix_regulator-starved"));
    }

    void howABoardRunsIsAsked() {
        TestWindow w;
        w.openDemo();
        w.window.showPage("boards");
        w.refresh();
        w.choose("boardChoice", "shed");
        w.type("boardAdapter", "5");
        w.click("fix_adapter-voltage");
        CLOSE(w.clocked.session.bench().board("shed")->adapter_V, 3.3, 1e-12);
        w.type("boardUpload", "5");
        w.type("boardQuota", "15");
        w.click("fix_upload-below-quota");
        CLOSE(w.clocked.session.bench().board("shed")->upload_s, 15, 1e-12);
        w.type("boardBusSpeed", "400");
        QVERIFY(w.find<QPushButton>("fix_pull-up-too-weak"));
        w.click("fix_pull-up-too-weak");
        CLOSE(w.clocked.session.bench().board("shed")->i2c_kHz, 100, 1e-12);
        w.type("boardSupply", "900"); // nobody means that
        CLOSE(w.clocked.session.bench().board("shed")->supply_V, 0, 0);
    }
    /// A lamp is added, fed wrongly, mended, switched by the sensor that it lights, and taken off.
    void lampsAndRelaysAreAdded() {
        TestWindow w;
        w.openDemo();
        w.window.showPage("boards");
        w.refresh();
        w.choose("boardChoice", "pump-house");
        w.click("tabModules");
        w.choose("modulePart", "lamp-5v-strip");
        w.click("addModule");
        const std::string id = w.clocked.session.bench().modules.back().id;
        const auto lamp = [&]() -> const Module& { return *w.clocked.session.bench().module(id); };
        QVERIFY(!lamp().pins[0].pin.empty() && lamp().rail == "5V");
        w.click("tabBoard");
        w.click("fix_rail-overloaded"); // 400 mA of its own
        CLOSE(lamp().own_supply_V, 5, 1e-12);
        w.click("tabModules");
        const auto named = [&](const char* part) { return std::string(part) + "_" + id; };
        const auto toggle = [&](const char* part) {
            auto* box = w.find<QCheckBox>(named(part).c_str());
            QVERIFY2(box, part);
            QTest::mouseClick(box, Qt::LeftButton, {}, QPoint(6, box->height() / 2));
            w.refresh();
        };
        toggle("moduleGround");
        QVERIFY(!lamp().ground_joined);
        w.choose(named("moduleSwitch").c_str(), "daylight");
        w.click("tabBoard");
        w.click("fix_module-ground-not-joined");
        w.click("fix_sees-its-own-lamp");
        QVERIFY(lamp().ground_joined && lamp().screened);
        w.click("tabModules");
        w.click(named("moduleRemove").c_str());
        QVERIFY(!w.clocked.session.bench().module(id));
        // Taking the converter off leaves its beds without an input, which is said.
        w.click("moduleRemove_converter");
        QVERIFY(w.reading("bed-1").wiring.module.empty());
        w.window.context().selectReading("bed-1");
        w.refresh();
        bool said = false;
        for (const Finding& f : w.window.context().findings())
            said = said || f.id == "too-few-analog-inputs" || f.id == "leg-without-pin";
        QVERIFY(said || w.stop(3).text.contains("no pin"));
    }
    void aSupplyOfItsOwnNeedsItsGround() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(2);
        w.refresh();
        w.type("wiringOwnSupply", "5");
        auto* ground = w.find<QCheckBox>("wiringGround");
        QTest::mouseClick(ground, Qt::LeftButton, {}, QPoint(6, ground->height() / 2));
        w.refresh();
        w.click("fix_grounds-not-joined");
        QVERIFY(w.reading().wiring.ground_joined);
        w.window.context().selectReading("pool-water");
        w.refresh();
        w.type("wiringPullUp", "0");
        w.click("fix_one-wire-pull-up");
        CLOSE(w.reading("pool-water").wiring.pull_up_ohm, 4700, 1e-9);
        auto* parasite = w.find<QCheckBox>("wiringParasite");
        QTest::mouseClick(parasite, Qt::LeftButton, {}, QPoint(6, parasite->height() / 2));
        w.refresh();
        QVERIFY(w.reading("pool-water").wiring.parasite);
    }

    void aLoopBringsItsSupplyAndAsksForProtection() {
        TestWindow w;
        w.openDemo();
        w.clocked.session.edit(QStringLiteral("a loop"), [&](Bench& bench) {
            bench.reading("hut-air")->quantity.low = 0;
            const auto placed =
                choose_part(bench, w.clocked.session.catalog(), "hut-air", "current-loop-temperature", "gauge");
            QVERIFY2(placed.has_value(), placed ? "" : placed.error().text().c_str());
            bench = *placed;
        });
        w.window.showStop(2);
        w.refresh();
        QCOMPARE(w.reading().wiring.own_supply_V, 24.0); // no board gives ten volts
        auto* box = w.find<QCheckBox>("wiringProtected");
        QVERIFY(box && box->isVisible() && !box->isChecked());
        QVERIFY(w.find<QPushButton>("fix_level-too-high"));
        w.click("fix_level-too-high");
        QVERIFY(w.reading().wiring.input_protected);
        box = w.find<QCheckBox>("wiringProtected"); // the row may be built anew
        QVERIFY(box->isChecked());
        QTest::mouseClick(box, Qt::LeftButton, {}, QPoint(6, box->height() / 2));
        w.refresh();
        QVERIFY(!w.reading().wiring.input_protected);
    }

    void surroundingsAreAskedFor() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(0);
        w.refresh();
        QVERIFY(!w.sees("vesselWidth")); // a hut's air has no vessel
        auto* wet = w.find<QCheckBox>("aroundWater");
        QTest::mouseClick(wet, Qt::LeftButton, {}, QPoint(8, wet->height() / 2));
        w.refresh();
        QVERIFY(w.reading().quantity.around.water);
        QCOMPARE(w.stop(2).mark, Mark::bad); // not sealed: the Sensor stop says so at once
        w.window.context().selectReading("tide-pool");
        w.refresh();
        w.type("vesselWidth", "2300");
        CLOSE(w.reading("tide-pool").quantity.vessel.width_mm, 2300, 1e-12);
        QCOMPARE(w.stop(2).mark, Mark::done); // the beam no longer meets the wall
        w.type("vesselMount", "-5");
        CLOSE(w.reading("tide-pool").quantity.vessel.mount_mm, 2100, 1e-12);
    }

    /// What had a limit in the old unit stops, says so in the status line, and comes back with one step of undo.
    void anotherKindStopsItsRules() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(0);
        w.refresh();
        w.clocked.session.edit("rule", [](Bench& bench) {
            WatchRule rule;
            rule.id = "cold";
            rule.name = "Too cold";
            rule.conditions.resize(1);
            rule.conditions[0].reading = "hut-air";
            rule.conditions[0].when = WatchWhen::below;
            rule.conditions[0].value = 4;
            bench.watch_rules = {rule};
        });
        QStringList said;
        QObject::connect(&w.window.context(), &Context::said, &w.window, [&](const QString& s) { said << s; });
        w.choose("quantityKind", "humidity");
        QCOMPARE(said, QStringList{"Switched off, as their limits stood in the old unit: Too cold."});
        QVERIFY(!w.clocked.session.bench().watch_rules[0].on);
        QCOMPARE(w.reading("hut-air").quantity.unit, std::string("%"));
        w.clocked.session.undoStack()->undo();
        QVERIFY(w.clocked.session.bench().watch_rules[0].on);
        QCOMPARE(w.reading("hut-air").quantity.kind, std::string("temperature"));
    }

    /// The way of a first-time user: from "I want the cistern's litres" to a ticked list.
    void fromAWishToATickedList() {
        TestWindow w;
        QVERIFY(w.clocked.session.createBench(w.clocked.folder.filePath("own.cognitum"), "Garden"));
        w.refresh();
        w.window.showPage("boards");
        w.refresh();
        w.choose("boardCard", "board-3v3-wifi-1-analog");
        w.click("addBoard");
        w.trigger("newReading");
        w.click("kind_temperature");
        const std::string id = w.window.context().readingId();
        w.window.showStop(0);
        w.refresh();
        w.type("quantityName", "Cistern");
        w.choose("quantityKind", "volume");
        w.type("quantityHigh", "1500");
        w.type("quantityAccuracy", "60");
        w.type("quantityInterval", "60");
        w.choose("vesselShape", "lying-cylinder");
        w.type("vesselWidth", "1000");
        w.type("vesselLength", "2000");
        w.type("vesselMount", "1150");
        w.type("vesselFull", "950");
        w.window.showStop(1);
        w.refresh();
        auto* table = w.find<CandidateTable>("candidateTable");
        QCOMPARE(table->candidates()[0].fitness, Fitness::fits);
        table->setChosen(0);
        w.click("choosePart");
        QCOMPARE(w.window.stopNow(), 2);
        QVERIFY(!w.reading(id.c_str()).wiring.pin().empty());
        auto* steps = w.find<StepList>("wiringSteps");
        for (int i = 0; i < 20 && w.find<QPushButton>("stepDone")->isEnabled(); ++i)
            w.click("stepDone");
        QVERIFY(steps->current() >= 8);
        QCOMPARE(w.stop(3).mark, Mark::done);
    }
};

RUN_TESTS_OF(TestPlanPages)
#include "tst_plan_pages.moc"
