// The pages of the whole bench, the link box on a real port in the real window, and what the window does when files
// and cables misbehave.
#include "core/plan/assign.h"
#include "support/pseudo_terminal.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/test_window.h"
#include "ui/pages/budget_bars.h"
#include "ui/pages/overview/overview_sheet.h"
#include "ui/shell/side_panel.h"
#include "ui/stops/quantity/range_scale.h"

#include <QCheckBox>
#include <QFile>
#include <QMenu>
#include <QPrinter>
#include <QTableWidget>

using namespace cognitum;
using test::TestWindow;

namespace {

/// A window whose links are real; the clock is the system's.
struct LiveWindow {
    Theme theme;
    Session session;
    MainWindow window{session, theme};
    QTemporaryDir folder;

    LiveWindow() {
        theme.apply();
        window.show();
    }
    template <typename T>
    T* find(const char* name) {
        for (T* w : window.findChildren<T*>(QLatin1String(name)))
            if (w->isVisible()) return w;
        return window.findChild<T*>(QLatin1String(name));
    }
};

} // namespace

class TestPages : public QObject {
    Q_OBJECT

  private slots:
    void initTestCase() { QCoreApplication::setApplicationName("cognitum-test"); }

    void overviewHasARowForEachReadingAndOpensIt() {
        TestWindow w;
        w.openDemo();
        w.lines(3, 140);
        w.window.showPage("overview");
        w.refresh();
        auto* sheet = w.find<OverviewSheet>("overviewSheet");
        QVERIFY(sheet->height() >= 3 * w.theme.px(80));
        const auto row_of = [&](const char* id) {
            for (int y = 0; y < sheet->height(); ++y)
                if (sheet->readingAt(QPointF(200, y)) == id) return y + w.theme.px(40);
            return -1;
        };
        // A row is painted with its value: ink where the number stands.
        const QImage image = sheet->grab().toImage();
        int ink = 0;
        const int x0 = sheet->width() * 275 / 1000;
        for (int y = row_of("hut-air") - w.theme.px(20); y < row_of("hut-air") + w.theme.px(20); ++y)
            for (int x = x0; x < x0 + w.theme.px(60); ++x)
                ink += image.pixelColor(x, y).lightness() < 90;
        QVERIFY2(ink > 40, qPrintable(QString::number(ink)));
        QTest::mouseClick(sheet, Qt::LeftButton, {}, QPoint(200, row_of("rock")));
        QCOMPARE(w.window.context().readingId(), std::string("rock"));
        QCOMPARE(w.window.stopNow(), 6);
    }
    void theSheetIsTheUsers() {
        TestWindow w;
        w.openDemo();
        w.window.showPage("overview");
        w.refresh();
        auto* sheet = w.find<OverviewSheet>("overviewSheet");
        const auto choose = [&](const char* text) {
            emit sheet->menuWanted("rain", QPoint(0, 0));
            auto* menu = w.find<QMenu>("overviewMenu");
            QVERIFY(menu);
            for (QAction* action : menu->actions())
                if (action->text().contains(QLatin1String(text))) action->trigger();
            menu->close();
            QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
            w.refresh();
        };
        const int before = sheet->height();
        choose("up");
        QCOMPARE(w.clocked.session.bench().readings[2].id, std::string("rain"));
        choose("Hide");
        QVERIFY(w.clocked.session.bench().reading("rain")->hidden);
        QVERIFY(sheet->sizeHint().height() < before && w.sees("overviewHidden"));
        w.click("overviewHidden");
        QVERIFY(!w.clocked.session.bench().reading("rain")->hidden);
        w.find<QPushButton>("overviewLarge")->setChecked(true);
        QVERIFY(sheet->sizeHint().height() > before);
        w.find<QPushButton>("overviewLarge")->setChecked(false);
        // By keys.
        sheet->setFocus();
        QTest::keyClick(sheet, Qt::Key_Down);
        QCOMPARE(sheet->chosen(), 0);
        QTest::keyClick(sheet, Qt::Key_Return);
        QCOMPARE(w.window.stopNow(), 6);
        // On paper: one page with ink on it.
        w.window.context().showOnPaper = [&](QWidget*, QPageLayout::Orientation orientation,
                                             const DrawPages& draw) {
            QPrinter printer(QPrinter::HighResolution);
            printer.setOutputFormat(QPrinter::PdfFormat);
            printer.setOutputFileName(w.clocked.folder.filePath("sheet.pdf"));
            printer.setPageOrientation(orientation);
            draw(printer);
        };
        w.window.showPage("overview");
        w.click("overviewPrint");
        QFile pdf(w.clocked.folder.filePath("sheet.pdf"));
        QVERIFY(pdf.open(QIODevice::ReadOnly));
        const QByteArray bytes = pdf.readAll();
        QCOMPARE(bytes.count("/Type /Page\n"), 1);
    }

    void boardsShowWhoSitsWhere() {
        TestWindow w;
        w.openDemo();
        w.window.showPage("boards");
        w.refresh();
        w.click("tabPins");
        auto* pins = w.find<QTableWidget>("boardPins");
        QString taken;
        for (int row = 0; row < pins->rowCount(); ++row)
            if (pins->item(row, 0)->text() == "A2") taken = pins->item(row, 2)->text();
        QCOMPARE(taken, QStringLiteral("Hut air"));
        QVERIFY(w.find<BudgetBars>("budgetBars")->rows().size() > 6);
        w.choose("boardCard", "board-3v3-dual-core-3-analog");
        w.click("addBoard");
        QCOMPARE(w.clocked.session.bench().boards.size(), std::size_t(5));
        QCOMPARE(pins->rowCount(), 26); // the new one is shown
        w.trigger("undo");
        QCOMPARE(w.clocked.session.bench().boards.size(), std::size_t(4));
    }

    void budgetsFollowTheRadio() {
        TestWindow w;
        w.openDemo();
        w.window.showPage("boards");
        w.refresh();
        w.choose("boardChoice", "shed");
        const auto analog = [&] {
            w.click("tabPins");
            const QString numbers = w.find<BudgetBars>("budgetBars")->rows()[0].numbers;
            w.click("tabBoard");
            return numbers;
        };
        const QString with_radio = analog();
        auto* radio = w.find<QCheckBox>("radioOn");
        // Its lines come by radio: it is on, and nobody can say otherwise.
        QVERIFY(radio->isVisible() && radio->isChecked() && !radio->isEnabled());
        w.clocked.session.edit("plan", [](Bench& b) { b.board("shed")->link.kind = LinkKind::serial; });
        w.refresh();
        QVERIFY(radio->isChecked() && radio->isEnabled());
        QTest::mouseClick(radio, Qt::LeftButton, {}, QPoint(8, radio->height() / 2));
        w.refresh();
        QVERIFY(!w.clocked.session.bench().board("shed")->radio_on);
        QVERIFY2(analog() != with_radio, qPrintable(analog())); // more inputs count without it
    }

    void moreInputsAreOneClick() {
        TestWindow w;
        w.openDemo();
        // A fifth bed wants an input of the pump house, whose one input goes to a fourth use first.
        w.clocked.session.edit("plan", [](Bench& b) {
            for (const char* id : {"bed-5", "bed-6"}) {
                Reading r = *b.reading("bed-1");
                r.id = id;
                r.name = id;
                r.wiring = {};
                r.wiring.board = "pump-house";
                r.path = {};
                b.readings.push_back(r);
            }
            b = assign_pins(b, test::catalog(), Keep::placed, "pump-house").bench;
        });
        w.window.showPage("boards");
        w.refresh();
        w.choose("boardChoice", "pump-house");
        w.click("tabMore");
        QVERIFY2(w.text("moreInputsIntro").contains("bed-6"), qPrintable(w.text("moreInputsIntro")));
        w.click("way_converter");
        const Bench& b = w.clocked.session.bench();
        QCOMPARE(b.modules.size(), std::size_t(4));
        QCOMPARE(b.modules.back().address, 0x49); // 0x48 is taken
        QVERIFY(!b.reading("bed-6")->wiring.pin().empty() && !b.reading("bed-6")->path.stages.empty());
        w.trigger("undo");
        QCOMPARE(w.clocked.session.bench().modules.size(), std::size_t(3));
    }

    void theBillTakesPricesAndGoesToAFile() {
        TestWindow w;
        w.openDemo();
        w.window.showPage("boards");
        w.refresh();
        w.click("tabBill");
        auto* table = w.find<QTableWidget>("billTable");
        QVERIFY(table->rowCount() > 20);
        const QString before = w.text("billTotal");
        table->item(0, 2)->setText("99,5");
        w.refresh();
        QCOMPARE(w.clocked.session.bench().prices.size(), std::size_t(1));
        CLOSE(w.clocked.session.bench().prices[0].each, 99.5, 1e-12);
        QVERIFY(w.text("billTotal") != before);
        table->item(0, 2)->setText("cheap");
        w.refresh();
        CLOSE(w.clocked.session.bench().prices[0].each, 99.5, 1e-12);
        const QString path = w.clocked.folder.filePath("bill.csv");
        w.window.context().askSavePath = [&](QWidget*, const QString&, const QString&, const QString&) {
            return path;
        };
        w.click("billCsv");
        QFile file(path);
        QVERIFY(file.open(QIODevice::ReadOnly));
        QVERIFY(QString::fromUtf8(file.readAll()).contains("Tipping bucket"));
    }

    void logbookTakesNotesAndKeepsThem() {
        TestWindow w;
        w.openDemo();
        w.window.showPage("logbook");
        w.refresh();
        w.type("logNote", "sleeved the probe");
        auto* entries = w.find<QTableWidget>("logEntries");
        QCOMPARE(entries->item(0, 3)->text(), QStringLiteral("sleeved the probe"));
        QCOMPARE(entries->item(0, 1)->text(), QStringLiteral("note"));
        QVERIFY(w.find<QLineEdit>("logNote")->text().isEmpty());
        w.type("logNote", "   "); // nothing to say
        QCOMPARE(entries->item(0, 3)->text(), QStringLiteral("sleeved the probe"));
    }

    void theDoubtPanelAddsUp() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(4);
        w.lines(30, 140);
        const Budget& shown = w.find<DoubtBars>("doubtBars")->budget();
        double squares = 0;
        for (const Contribution& c : shown.contributions)
            squares += c.u * c.u;
        CLOSE(std::sqrt(squares), shown.standard_uncertainty, 1e-9);
        QVERIFY2(w.text("doubtValue").startsWith(QStringLiteral("±")) &&
                     w.text("doubtValue").contains(QStringLiteral("°C")),
                 qPrintable(w.text("doubtValue")));
        QVERIFY(!w.text("whatWouldHelp").isEmpty());
        QVERIFY(w.find<DoubtBars>("doubtBars")->accessibleDescription().contains("Calibration"));
    }

    void emptyScreensTeach() {
        TestWindow w;
        w.openDemo();
        w.trigger("newReading");
        w.click("kind_temperature");
        const std::string id = w.window.context().readingId();
        const char* expected[] = {nullptr,
                                  nullptr,
                                  "choose a part at stop 2",
                                  "Choose a part at stop 2",
                                  "choose a part at stop 2",
                                  "First choose a part",
                                  nullptr};
        for (int i = 0; i < 7; ++i) {
            w.window.showStop(i);
            w.refresh();
            if (!expected[i]) continue;
            bool teaches = false;
            for (QLabel* label : w.window.findChildren<QLabel*>())
                teaches = teaches || (label->isVisible() && label->text().contains(QLatin1String(expected[i])));
            QVERIFY2(teaches, expected[i]);
        }
        QCOMPARE(w.stop(2).mark, Mark::not_begun);
        QCOMPARE(w.window.context().state(id).value, QStringLiteral("—"));
    }

    void theScaleIsDrawnForAnyRange() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(0);
        for (const auto& [low, high] : {std::pair{-10.0, 35.0}, {0.0, 0.001}, {-1e6, 1e6}, {1000.0, 1001.0}}) {
            w.clocked.session.editReading("hut-air", "range", [&, l = low, h = high](Reading& r) {
                r.quantity.low = l;
                r.quantity.high = h;
            });
            w.refresh();
            const QImage image = w.find<RangeScale>("rangeScale")->grab().toImage();
            QVERIFY(!image.isNull());
        }
    }

    void sideFoldsAndUnfolds() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(4);
        w.refresh();
        QVERIFY(w.sees("sidePanel"));
        w.trigger("foldSide");
        QVERIFY(!w.sees("sidePanel"));
        w.trigger("foldSide");
        QVERIFY(w.sees("sidePanel"));
        // With little room each takes the other's place, and the buttons for it come up.
        w.theme.setScale(2);
        w.window.resize(1280, 800);
        w.refresh();
        QVERIFY(!w.sees("sidePanel") && !w.sees("rail") && w.sees("transferCurve"));
        w.click("sideToggle");
        QVERIFY(w.sees("sidePanel") && !w.sees("transferCurve"));
        w.click("railToggle");
        QVERIFY(w.sees("rail") && !w.sees("sidePanel") && !w.sees("transferCurve"));
        QTest::mouseClick(w.find<QPushButton>("page_logbook"), Qt::LeftButton);
        w.refresh();
        QVERIFY(!w.sees("rail") && w.sees("logEntries") && !w.sees("sideToggle"));
        w.window.showStop(4);
        w.theme.setScale(1);
        w.refresh();
        QVERIFY(w.sees("sidePanel") && w.sees("rail") && !w.sees("railToggle"));
        // Whatever is shown next to it, the application has one window.
        for (int i = 0; i < 7; ++i) {
            w.window.showStop(i);
            w.trigger("foldSide");
            w.lines(1, 140);
            int windows = 0;
            for (QWidget* top : QApplication::topLevelWidgets())
                windows += top->isVisible();
            QCOMPARE(windows, 1);
        }
    }

    void themeAndSizeAreSwitchedByKey() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(4);
        const QColor before = w.theme.colours().sheet;
        w.trigger("dark");
        QVERIFY(w.theme.colours().sheet != before);
        w.trigger("dark");
        QCOMPARE(w.theme.colours().sheet, before);
        const double scale = w.theme.scale();
        w.trigger("larger");
        QVERIFY(w.theme.scale() > scale);
        w.trigger("smaller");
        CLOSE(w.theme.scale(), scale, 1e-9);
    }

    // Real links.

    void aTypedPortIsOpenedPulledAndPutBack() {
        LiveWindow w;
        const QString port = w.folder.filePath("tty");
        auto cable = std::make_unique<test::PseudoTerminal>(port);
        QVERIFY(w.session.createBench(w.folder.filePath("mine.cognitum"), "Mine"));
        w.session.edit("Fill", [](Bench& b) {
            const Bench small = test::small_bench();
            b.boards = small.boards;
            b.readings = small.readings;
        });
        w.window.showStop(3);
        auto* box = w.find<QComboBox>("linkPort");
        QTRY_VERIFY(box->isVisible());
        box->setEditText(port);
        QTest::mouseClick(w.find<QPushButton>("linkOpen"), Qt::LeftButton);
        QTRY_COMPARE(w.window.context().live().boards.at("gauge").state, LinkState::open);
        // The application asks the board for its header; the board answers and sends.
        cable->send("seq,ms,A0\n0,1000,142\n1,2000,143\n");
        QTRY_VERIFY(w.window.context().state("air").reaches == 6);
        QVERIFY(w.window.context().state("air").value.contains(QStringLiteral("°C")));
        QTRY_VERIFY(w.find<QWidget>("linkCounts")->property("text").toString().contains("lines"));

        cable->send("2,3000,1"); // pulled in mid-line
        cable.reset();
        QTRY_COMPARE(w.window.context().live().boards.at("gauge").state, LinkState::lost);
        QTRY_VERIFY(w.find<QLabel>("statusLinks")->text().contains("unplugged"));
        cable = std::make_unique<test::PseudoTerminal>(port);
        QTRY_COMPARE_WITH_TIMEOUT(w.window.context().live().boards.at("gauge").state, LinkState::open, 15000);
        cable->send("seq,ms,A0\n0,1000,150\n");
        QTRY_COMPARE(w.window.context().live().readings.at("air").raw, 150.0); // the half line left no trace
        QTest::mouseClick(w.find<QPushButton>("linkClose"), Qt::LeftButton);
        QTRY_VERIFY(w.find<QLabel>("linkState")->text().contains("Not connected"));
        w.window.close();
    }
    void aPortThatIsNotThereIsExplained() {
        LiveWindow w;
        QVERIFY(w.session.createBench(w.folder.filePath("mine.cognitum"), "Mine"));
        w.session.edit("Fill", [](Bench& b) { b.boards = test::small_bench().boards; });
        w.window.showPage("boards");
        auto* box = w.find<QComboBox>("linkPort");
        QTRY_VERIFY(box->isVisible());
        QTest::mouseClick(w.find<QPushButton>("linkOpen"), Qt::LeftButton); // nothing chosen
        QTRY_VERIFY(w.find<QLabel>("linkState")->text().contains("Choose a port"));
        box->setEditText("/dev/no-such-port");
        QTest::mouseClick(w.find<QPushButton>("linkOpen"), Qt::LeftButton);
        QTRY_VERIFY2(w.find<QLabel>("linkState")->text().contains("Is the cable in?"),
                     qPrintable(w.find<QLabel>("linkState")->text()));
        w.window.close();
    }
};

RUN_TESTS_OF(TestPages)
#include "tst_pages.moc"
