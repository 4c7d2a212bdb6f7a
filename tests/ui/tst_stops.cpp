// Each stop driven as a person would: what is typed, chosen, ticked, followed, captured and watched.
#include "store/file/data_files.h"
#include "support/run_tests.h"
#include "support/test_window.h"
#include "ui/plots/history_plot.h"
#include "ui/shell/side_panel.h"
#include "ui/stops/calibrate/calibrate_page.h"
#include "ui/stops/sensor/sensor_page.h"
#include "ui/stops/wiring/wiring_page.h"

#include <QDialog>
#include <QFile>
#include <QListWidget>
#include <QPlainTextEdit>
#include <QTableView>
#include <QTableWidget>

using namespace cognitum;
using test::TestWindow;

class TestStops : public QObject {
    Q_OBJECT

  private slots:
    void initTestCase() { QCoreApplication::setApplicationName("cognitum-test"); }

    void quantityRefusesNonsense() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(0);
        w.refresh();
        w.type("quantityLow", "50"); // above the most
        CLOSE(w.reading().quantity.low, -10, 1e-12);
        QVERIFY2(w.text("quantityTrouble").contains("nothing was changed"), qPrintable(w.text("quantityTrouble")));
        w.type("quantityLow", "−5,5"); // a true minus and a comma
        CLOSE(w.reading().quantity.low, -5.5, 1e-12);
        w.type("quantityHigh", "warm");
        CLOSE(w.reading().quantity.high, 35, 1e-12);
        w.type("quantityName", "Gauge hut");
        QCOMPARE(w.reading().name, std::string("Gauge hut"));
    }

    void sensorIsComparedAndChosen() {
        TestWindow w;
        w.openDemo();
        w.trigger("newReading");
        w.click("kind_temperature"); // that nobody measures yet
        const std::string id = w.window.context().readingId();
        w.window.showStop(1);
        w.refresh();
        auto* table = w.find<CandidateTable>("candidateTable");
        QVERIFY(table->candidates().size() > 10);
        w.type("findByFacts", "ntc 3435");
        QCOMPARE(table->candidates().size(), std::size_t(1));
        w.type("findByFacts", "unobtainium");
        QVERIFY(!table->isVisible());
        w.type("findByFacts", "");
        int row = -1;
        for (int i = 0; i < int(table->candidates().size()); ++i)
            if (table->candidates()[std::size_t(i)].part == "ntc-10k-in-divider") row = i;
        table->setChosen(row);
        w.click("choosePart");
        const Reading& r = w.reading(id.c_str());
        QCOMPARE(r.sensor.part, std::string("ntc-10k-in-divider"));
        QVERIFY(!r.sensor.reason.empty());
        QVERIFY(r.sensor.rejected.size() > 5 && !r.sensor.rejected[0].because.empty()); // they stay on record
        QCOMPARE(r.wiring.pin(), std::string("A3"));                                    // A0 to A2 are taken
        QVERIFY(std::holds_alternative<RatioDivider>(r.path.stages[0]));
        QCOMPARE(w.window.stopNow(), 2); // on to the wiring
        w.window.showStop(1);
        w.refresh();
        QVERIFY2(w.text("choiceRecord").contains("Left:"), qPrintable(w.text("choiceRecord")));
        w.type("partMarking", "blue band");
        QCOMPARE(w.reading(id.c_str()).sensor.marking, std::string("blue band"));
    }

    void anotherBoardIsAnotherComparison() {
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("tide-pool");
        w.window.showStop(1);
        w.refresh();
        auto* table = w.find<CandidateTable>("candidateTable");
        const auto of = [&](const char* part) {
            for (const Candidate& c : table->candidates())
                if (c.part == part) return c;
            return Candidate{};
        };
        QCOMPARE(of("echo-ranger-sealed").fitness, Fitness::fits_with_change); // the tube is narrow
        QCOMPARE(of("light-pulse-ranger-short").fitness, Fitness::does_not);   // reaches 1.2 m
        QVERIFY(w.text("schools").contains("Sound") && w.text("schools").contains("Light"));
        w.choose("sensorBoard", "pump-house");
        QVERIFY2(w.find<QPushButton>("choosePart")->text() == QStringLiteral("Place it on the board"),
                 qPrintable(w.find<QPushButton>("choosePart")->text()));
    }

    /// From a shipped card to one's own: checked while it is typed, kept in the data folder, chosen like any other.
    void aCardOfOnesOwn() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(1);
        w.refresh();
        w.type("findByFacts", "500 mv");
        QTimer::singleShot(0, [&] {
            auto* editor = qobject_cast<QDialog*>(QApplication::activeModalWidget());
            QVERIFY(editor);
            auto* text = editor->findChild<QPlainTextEdit*>("cardText");
            auto* save = editor->findChild<QPushButton*>("saveCard");
            auto* state = editor->findChild<QLabel*>("cardState");
            auto* high = editor->findChild<QLineEdit*>("cardHigh");
            const auto type = [](QLineEdit* field, const char* typed) {
                field->selectAll();
                QTest::keyClicks(field, QLatin1String(typed));
            };
            type(high, "warm");
            QVERIFY2(!save->isEnabled() && state->text().contains("/measures/0/high"), qPrintable(state->text()));
            type(high, "99");
            QVERIFY(save->isEnabled() && text->toPlainText().contains("99"));
            QString broken = text->toPlainText();
            text->setPlainText(broken.replace("\"legs\"", "\"lags\""));
            QVERIFY2(!save->isEnabled() && state->text().contains("lags"), qPrintable(state->text()));
            text->setPlainText(broken.replace("\"lags\"", "\"legs\""));
            type(editor->findChild<QLineEdit*>("cardName"), "Drawer thermometer");
            QTest::mouseClick(save, Qt::LeftButton);
            if (editor->isVisible()) editor->reject();
        });
        w.click("editCard");
        const PartCard* own = w.clocked.session.catalog().part("my-analog-thermometer-with-offset");
        QVERIFY(own);
        QCOMPARE(own->name.english(), std::string("Drawer thermometer"));
        CLOSE(own->measures[0].high, 99, 1e-12);
        QFile::remove(QString::fromStdString(own_data_folder() + "/parts/" + own->id + ".json"));
    }

    void wiringIsTickedByKey() {
        TestWindow w;
        w.openDemo();
        w.clocked.session.editReading("hut-air", "clear", [](Reading& r) { r.wiring.ticked.clear(); });
        w.window.showStop(2);
        w.refresh();
        QVERIFY(w.stop(3).text.contains("0 of 7"));
        for (int i = 0; i < 3; ++i)
            QTest::keyClick(QApplication::focusWidget(), Qt::Key_N);
        w.refresh();
        QVERIFY(w.stop(3).text.contains("3 of 7"));
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_Backspace);
        w.refresh();
        QVERIFY(w.stop(3).text.contains("2 of 7"));
        auto* steps = w.find<StepList>("wiringSteps");
        QCOMPARE(steps->current(), 2);
        QTest::mouseClick(steps, Qt::LeftButton, {}, QPoint(15, steps->sizeHint().height() - 20)); // the last one
        w.refresh();
        QCOMPARE(w.reading().wiring.ticked.size(), std::size_t(3));
        w.choose("wiringPin", "A4");
        QCOMPARE(w.reading().wiring.pin(), std::string("A4"));
        QVERIFY(w.reading().wiring.pins[0].fixed);  // what a person chose, assignment leaves alone
        QVERIFY(w.reading().wiring.ticked.empty()); // other wires, other checks
        CLOSE(std::get<Adc>(w.reading().path.stages[0]).reference_V.value, 4.998, 1e-12); // what was measured stays
    }
    void aFindingIsMendedByItsLink() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(2);
        w.refresh();
        QVERIFY2(w.text("findingsCount").startsWith("1 to look at"), qPrintable(w.text("findingsCount")));
        w.click("fix_output-uses-little-of-full-scale");
        QCOMPARE(w.reading().wiring.reference, std::string("internal"));
        QVERIFY2(w.text("findingsCount").contains("1 mended"), qPrintable(w.text("findingsCount")));
        bool stays = false;
        for (QLabel* label : w.find<QWidget>("findingsBox")->findChildren<QLabel*>())
            stays = stays || label->text().startsWith("mended: This reading uses 9 %");
        QVERIFY(stays);
        QVERIFY(w.find<QPushButton>("fix_calibration-outdated")); // and it says what that costs
    }

    void wiringIsDrawnPrintedAndTurned() {
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("tide-pool");
        w.window.showStop(2);
        w.refresh();
        QVERIFY2(w.stop(3).text.contains("6 of 10"), qPrintable(w.stop(3).text));
        auto* loom = w.find<LoomView>("loom");
        QCOMPARE(loom->loom().title, std::string("4 wires, 2 resistors"));
        QVERIFY(w.text("wiringNumbers").contains("divider draws"));
        QVERIFY(w.text("programmingList").contains("speed"));
        w.window.context().askSavePath = [&](QWidget*, const QString&, const QString&, const QString&) {
            return w.clocked.folder.filePath("sheet.pdf");
        };
        w.click("wiringSheet");
        QFile pdf(w.clocked.folder.filePath("sheet.pdf"));
        QVERIFY(pdf.open(QIODevice::ReadOnly) && pdf.readAll().startsWith("%PDF"));
        w.window.context().askSavePath = [&](QWidget*, const QString&, const QString&, const QString&) {
            return w.clocked.folder.filePath("loom.svg");
        };
        w.click("wiringDrawing");
        QFile svg(w.clocked.folder.filePath("loom.svg"));
        QVERIFY(svg.open(QIODevice::ReadOnly));
        const QByteArray drawing = svg.readAll();
        QVERIFY(drawing.contains("<svg") && drawing.contains("echo")); // texts are texts
        QString said;
        QObject::connect(&w.window.context(), &Context::said, [&](const QString& s) { said = s; });
        w.window.context().askSavePath = [&](QWidget*, const QString&, const QString&, const QString&) {
            return w.clocked.folder.filePath("no/such/folder/loom.svg");
        };
        w.click("wiringDrawing");
        QVERIFY2(said.contains("Choose another folder"), qPrintable(said));
        const double before = loom->zoom();
        w.click("loomLarger");
        QVERIFY(loom->zoom() > before);
        w.click("loomBoard");
        QVERIFY(loom->loom().blocks.size() > 5);
        w.click("loomReading");
        auto* turned = w.find<QCheckBox>("legsTurned");
        QTest::mouseClick(turned, Qt::LeftButton, {}, QPoint(8, turned->height() / 2));
        w.refresh();
        QVERIFY(w.find<QPushButton>("fix_legs-mirrored"));
        w.click("fix_legs-mirrored");
        QVERIFY(!w.reading("tide-pool").wiring.turned);
        w.choose("wireLeg", "output");
        w.choose("wireColour", "red");
        w.click("fix_colour-against-habit");
        QVERIFY(w.reading("tide-pool").wiring.colours.empty());
    }

    void aRadioPartHasNoWires() {
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("trailer-tyre");
        w.window.showStop(2);
        w.refresh();
        QVERIFY2(w.text("wiringEmpty").contains("by radio"), qPrintable(w.text("wiringEmpty")));
        QCOMPARE(w.stop(3).mark, Mark::done);
    }

    void convertFollowsAValueBothWays() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(4);
        w.lines(3, 140);
        const auto field = [&](int i) { return w.find<QLineEdit>(qPrintable(QStringLiteral("step%1").arg(i))); };
        QCOMPARE(field(0)->text(), QStringLiteral("140"));
        QVERIFY(!w.sees("backToLive"));
        w.type("step1", "0.71"); // the pin reads 0.71 V: what is that?
        CLOSE(*typed_number(field(2)->text()), 21.0, 0.01);
        CLOSE(*typed_number(field(0)->text()), 0.71 * 1024 / 4.998 - 0.5, 0.06);
        w.type("step3", "30"); // it is 30 °C: what should my meter show?
        const double offset = w.reading().correction->offset;
        CLOSE(*typed_number(field(1)->text()), 0.5 + 0.01 * (30 - offset), 0.001);
        w.type("step3", "600");
        QCOMPARE(field(0)->text(), QStringLiteral("—"));
        QVERIFY(!w.text("convertCause").isEmpty());
        w.click("backToLive");
        QCOMPARE(field(0)->text(), QStringLiteral("140"));
    }
    void aMeasuredConstantSaysSo() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(4);
        w.lines(3, 140);
        w.click("tabConstants");
        w.type("constant_reference_V", "4.97");
        const Constant& c = std::get<Adc>(w.reading().path.stages[0]).reference_V;
        CLOSE(c.value, 4.97, 1e-12);
        QVERIFY(c.origin.find("measured") != std::string::npos);
        w.type("constant_slope", "0"); // a slope of zero cannot be divided by
        CLOSE(std::get<Linear>(w.reading().path.stages[1]).slope.value, 0.01, 1e-12);
        QVERIFY2(w.text("statusMessage").contains("Nothing was changed"), qPrintable(w.text("statusMessage")));
    }
    void noFreshValueIsNoNumber() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(4);
        w.lines(3, 140);
        w.clocked.pass(300);
        w.refresh();
        for (int i = 0; i < 4; ++i)
            QCOMPARE(w.find<QLineEdit>(qPrintable(QStringLiteral("step%1").arg(i)))->text(), QStringLiteral("—"));
    }

    void aCalibrationIsMadeWithTheSpaceKey() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(5);
        w.lines(2, 103);
        QVERIFY2(w.text("steadyText").contains("waiting"), qPrintable(w.text("steadyText")));
        for (int i = 0; i < 30; ++i)
            w.lines(1, 103 + i % 2);
        QVERIFY2(w.text("steadyText").contains("steady for"), qPrintable(w.text("steadyText")));
        auto* page = w.window.findChild<CalibratePage*>();
        auto* value = w.find<QLineEdit>("referenceValue");
        QCOMPARE(value->text(), QStringLiteral("0.00")); // the ice point computes itself
        value->setFocus();
        QTest::keyClick(value, Qt::Key_Space); // from wherever the hand is
        w.refresh();
        QCOMPARE(page->points().size(), std::size_t(1));
        QVERIFY(!page->points()[0].forced);
        CLOSE(page->points()[0].indication, ((103.5 + 0.5) * 4.998 / 1024 - 0.5) / 0.01, 0.05);

        auto* kind = w.find<QComboBox>("referenceKind");
        kind->setCurrentIndex(1);
        emit kind->activated(1);
        w.refresh();
        QVERIFY(!w.find<QPushButton>("takePoint")->isEnabled()); // nothing typed yet
        w.lines(1, 170);
        QTest::keyClicks(value, "32.7");
        w.refresh();
        QCOMPARE(w.find<QPushButton>("takePoint")->text(), QStringLiteral("Take it anyway")); // it still moves
        for (int i = 0; i < 40; ++i)
            w.lines(1, 170 + i % 2);
        w.click("takePoint");
        QCOMPARE(page->points().size(), std::size_t(2));
        QVERIFY2(w.text("verdictFound").contains("as found"), qPrintable(w.text("verdictFound")));
        QVERIFY(w.text("verdictLeft").contains("good"));

        const auto before = w.reading().correction->record;
        w.click("finishCalibration");
        QVERIFY(w.reading().correction->record > before);
        QCOMPARE(w.clocked.session.proof().calibrations("hut-air").size(),
                 std::size_t(5)); // the earlier ones are kept
        QVERIFY(page->points().empty());
    }
    void aPointIsSetAsideAndCountedAgain() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(5);
        for (int i = 0; i < 30; ++i)
            w.lines(1, 103 + i % 2);
        w.click("takePoint");
        auto* model = w.find<QTableView>("pointTable")->model();
        QVERIFY(model->setData(model->index(0, 0), Qt::Unchecked, Qt::CheckStateRole));
        QCOMPARE(w.text("verdictFound"), QStringLiteral("—"));
        QVERIFY(!w.find<QPushButton>("finishCalibration")->isEnabled());
        QVERIFY(model->setData(model->index(0, 5), QStringLiteral("the bath was stirred late"), Qt::EditRole));
        QCOMPARE(w.window.findChild<CalibratePage*>()->points()[0].set_aside,
                 std::string("the bath was stirred late"));
        QVERIFY(model->setData(model->index(0, 0), Qt::Checked, Qt::CheckStateRole));
        QVERIFY(w.find<QPushButton>("finishCalibration")->isEnabled());
    }
    void spaceOnlyCapturesAtCalibrate() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(0);
        w.lines(20, 103);
        auto* name = w.find<QLineEdit>("quantityName");
        name->setFocus();
        name->setText("Hut");
        QTest::keyClicks(name, " air");
        QCOMPARE(name->text(), QStringLiteral("Hut air"));
    }

    void watchJudgesAndRemembers() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(6);
        w.lines(3, 140); // 18.0 °C
        QCOMPARE(w.text("watchWord"), QStringLiteral("in range"));
        w.lines(2, 165);
        QCOMPARE(w.text("watchWord"), QStringLiteral("high"));
        auto* alerts = w.find<QTableWidget>("alerts");
        QVERIFY(alerts->rowCount() > 0);
        QVERIFY2(alerts->item(0, 1)->text().contains("Too warm"), qPrintable(alerts->item(0, 1)->text()));
        w.click("watchTabBands");
        w.type("bandHigh", "40");
        CLOSE(w.reading().bands->high, 40, 1e-12);
        w.lines(1, 165);
        QCOMPARE(w.text("watchWord"), QStringLiteral("in range"));
        QVERIFY2(w.text("bandsTried").contains("two days"), qPrintable(w.text("bandsTried")));
        w.type("bandLow", "50"); // above high: refused
        CLOSE(w.reading().bands->low, 9, 1e-12);
        w.lines(1, 1023);
        QCOMPARE(w.text("watchValue"), QStringLiteral("—"));
        QCOMPARE(w.text("watchWord"), QStringLiteral("at the rail"));
    }
    void historyZoomsAndKeepsItsGaps() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(6);
        w.refresh();
        auto* plot = w.find<HistoryPlot>("historyPlot");
        const auto show = [&](double span_s) {
            plot->showLast(span_s);
            w.refresh();
        };
        show(0);
        QVERIFY(!plot->isEmpty());
        const double whole = plot->xAxis->range().size();
        QVERIFY(whole > 1.9 * 86400);
        QVERIFY2(plot->points() < plot->width(),
                 qPrintable(QString::number(plot->points()))); // no more than the eye can tell
        show(3600);
        CLOSE(plot->xAxis->range().size(), 3600, 100);
        QVERIFY(plot->points() > 100 && plot->points() < 140); // every 30 s, none left out
        plot->xAxis->setRange(plot->xAxis->range().lower - 7200,
                              plot->xAxis->range().upper - 7200); // somebody pans
        w.refresh();
        QVERIFY(plot->points() > 100);
        // Two hours of silence, then new values: the line is broken between.
        w.clocked.pass(7200);
        w.trigger("record");
        w.lines(40, 140);
        w.trigger("record");
        show(86400);
        const auto data = plot->graph(2)->data();
        const bool broken = std::any_of(data->constBegin(), data->constEnd(),
                                        [](const QCPGraphData& d) { return std::isnan(d.value); });
        QVERIFY(broken);
    }
};

RUN_TESTS_OF(TestStops)
#include "tst_stops.moc"
