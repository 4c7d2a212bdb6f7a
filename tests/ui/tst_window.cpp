// The main window as a new user meets it: first start, every stop by keyboard, undo, files, themes, sizes.
#include "support/run_tests.h"
#include "support/test_window.h"
#include "ui/shell/command_finder.h"
#include "ui/shell/reading_list.h"
#include "ui/shell/side_panel.h"

#include <QAbstractItemModelTester>
#include <QFile>
#include <QListView>
#include <QMenu>
#include <QTableWidget>

using namespace cognitum;
using test::TestWindow;

class TestMainWindow : public QObject {
    Q_OBJECT

  private slots:
    void initTestCase() { QCoreApplication::setApplicationName("cognitum-test"); }

    void firstStartOffersThreeWays() {
        TestWindow w;
        QVERIFY(w.sees("startDemo") && w.sees("startNew") && w.sees("startOpen"));
        w.next_path = w.clocked.folder.filePath("mine.cognitum");
        w.click("startNew");
        QVERIFY(QFile::exists(w.next_path));
        QCOMPARE(w.window.pageNow(), QStringLiteral("new")); // an empty bench begins with what is there
        w.click("page_boards");
        w.click("addBoard");
        QCOMPARE(w.clocked.session.bench().boards.size(), std::size_t(1));
        w.click("newReading");
        w.click("kind_temperature");
        QCOMPARE(w.window.stopNow(), 0);
        QCOMPARE(w.clocked.session.bench().readings.size(), std::size_t(1));
    }

    void stopsAndPagesByKeyboard() {
        TestWindow w;
        w.openDemo();
        const char* seen[] = {"quantityName", "candidateTable", "wiringSteps", "tabSignal",
                              "stepLadder",   "takePoint",      "watchRules"};
        w.lines(3, 140);
        for (int i = 0; i < 7; ++i) {
            w.key(static_cast<Qt::Key>(Qt::Key_1 + i), Qt::ControlModifier);
            QCOMPARE(w.window.stopNow(), i);
            QVERIFY2(w.sees(seen[i]), seen[i]);
            QVERIFY(w.sees("pathLine"));
        }
        w.trigger("show_overview");
        QVERIFY(w.sees("overviewSheet") && !w.sees("pathLine"));
        w.trigger("show_boards");
        QVERIFY(w.sees("boardDrawing"));
        w.trigger("show_logbook");
        QVERIFY(w.sees("logEntries"));
        QVERIFY(w.find<QTableWidget>("logEntries")->rowCount() > 2);
        w.key(Qt::Key_4, Qt::ControlModifier);
        QVERIFY(w.sees("rawLines"));
    }

    void thePathLineIsClickedAndSteered() {
        TestWindow w;
        w.openDemo();
        auto* path = w.find<PathLine>("pathLine");
        QTest::mouseClick(path, Qt::LeftButton, {}, path->stopRect(4).center());
        QCOMPARE(w.window.stopNow(), 4);
        path->setFocus();
        QTest::keyClick(path, Qt::Key_Right);
        QCOMPARE(w.window.stopNow(), 5);
        QTest::keyClick(path, Qt::Key_Left);
        QCOMPARE(w.window.stopNow(), 4);
    }
    void thePathLineShowsWhereTheValueDies() {
        TestWindow w;
        w.openDemo();
        w.lines(3, 140);
        const auto colour_between = [&](int stop) { // on the line, halfway to the next stop
            auto* path = w.find<PathLine>("pathLine");
            const QImage image = path->grab().toImage();
            const int x = (path->stopRect(stop).center().x() + path->stopRect(stop + 1).center().x()) / 2;
            return image.pixelColor(x, w.theme.px(66));
        };
        QCOMPARE(colour_between(4), w.theme.colours().accent);
        w.lines(1, 1023); // at the rail: it dies behind Raw
        QCOMPARE(colour_between(1), w.theme.colours().accent);
        QVERIFY(colour_between(4) != w.theme.colours().accent);
        QCOMPARE(w.stop(4).mark, Mark::bad);
        QVERIFY(!w.stop(5).text.contains(QRegularExpression("[0-9]")));
    }

    void theRailShowsValuesAndWords() {
        TestWindow w;
        w.openDemo();
        w.lines(3, 140);
        auto* list = w.find<QListView>("readingList");
        QCOMPARE(list->model()->rowCount(), 19);
        const QModelIndex air = list->model()->index(0, 0);
        QVERIFY2(air.data(ReadingModel::value_role).toString().contains("°C"),
                 qPrintable(air.data(ReadingModel::value_role).toString()));
        QVERIFY(air.data(ReadingModel::word_role).toString().contains("in range"));
        QCOMPARE(list->model()->index(1, 0).data(ReadingModel::value_role).toString(), QStringLiteral("—"));
        w.lines(1, 0);
        QCOMPARE(air.data(ReadingModel::value_role).toString(), QStringLiteral("—"));
        QVERIFY(air.data(Qt::AccessibleTextRole).toString().contains("rail"));
        list->setCurrentIndex(list->model()->index(1, 0));
        QCOMPARE(w.window.context().readingId(), std::string("rock"));
    }
    void theReadingModelIsSound() {
        TestWindow w;
        w.openDemo();
        ReadingModel model(w.window.context());
        const QAbstractItemModelTester tester(&model, QAbstractItemModelTester::FailureReportingMode::QtTest);
        w.lines(2, 140);
        w.trigger("newReading");
        w.click("kind_temperature");
        QCOMPARE(model.rowCount(), 20);
        w.trigger("undo");
        QCOMPARE(model.rowCount(), 19);
        QCOMPARE(model.rowOf("rock"), 1);
    }

    void undoAndRedoEverywhere() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(0);
        w.refresh();
        w.type("quantityAccuracy", "0.5");
        CLOSE(w.reading().quantity.accuracy, 0.5, 1e-12);
        w.trigger("undo");
        CLOSE(w.reading().quantity.accuracy, 0.8, 1e-12);
        QCOMPARE(w.find<QLineEdit>("quantityAccuracy")->text(), QStringLiteral("0.8"));
        w.trigger("redo");
        CLOSE(w.reading().quantity.accuracy, 0.5, 1e-12);
        w.trigger("removeReading");
        QVERIFY(!w.clocked.session.bench().reading("hut-air"));
        w.trigger("undo");
        QVERIFY(w.clocked.session.bench().reading("hut-air"));
    }

    void commandsAreFoundByTyping() {
        TestWindow w;
        w.openDemo();
        QTimer::singleShot(0, [] {
            QWidget* finder = QApplication::activeModalWidget();
            QVERIFY(finder);
            auto* field = finder->findChild<QLineEdit*>("commandField");
            QTest::keyClicks(field, "go convert");
            QTest::keyClick(field, Qt::Key_Return);
        });
        w.trigger("find");
        QCOMPARE(w.window.stopNow(), 4);
    }

    void filesThatDoNotOpenAreSaid() {
        TestWindow w;
        w.openDemo();
        const QString text = w.clocked.folder.filePath("notes.cognitum");
        QFile file(text);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("dear diary");
        file.close();
        QString said;
        test::answer_box(&said);
        w.next_path = text;
        w.trigger("open");
        QVERIFY2(said.contains("not a bench") && said.contains("notes.cognitum"), qPrintable(said));
        QCOMPARE(w.clocked.session.bench().name, std::string("Whelk Point")); // what was open stays open
    }
    void copyAndExport() {
        TestWindow w;
        w.openDemo();
        w.next_path = w.clocked.folder.filePath("copy.cognitum");
        w.trigger("saveCopy");
        VALUE_OF(copy, BenchFile::open(w.next_path.toStdString(), Access::read));
        QCOMPARE(extent(copy, "hut-air")->n, std::uint64_t(5760));
        w.next_path = w.clocked.folder.filePath("out.csv");
        w.trigger("exportCsv");
        QFile out(w.next_path);
        QVERIFY(out.open(QIODevice::ReadOnly));
        QCOMPARE(out.readLine(), QByteArray("time,Hut air\n"));
        QVERIFY(out.readAll().count('\n') > 5000);
    }
    /// Nothing half-made stands there, and the box says which part failed: the place, or what the bench holds.
    void anExportThatFailsSaysWhy() {
        TestWindow w;
        w.openDemo();
        w.next_path = w.clocked.folder.filePath("no/such/folder/out.csv");
        QString said;
        test::answer_box(&said);
        w.trigger("exportCsv");
        QTRY_VERIFY(said.contains("no/such/folder/out.csv"));
        w.next_path = w.clocked.folder.filePath("out.csv");
        test::bench_file(w.clocked.session)->db().exec("DROP TABLE tail");
        said.clear();
        test::answer_box(&said);
        w.trigger("exportCsv");
        QTRY_VERIFY2(said.contains("tail"), qPrintable(said));
        QVERIFY(!QFile::exists(w.next_path));
    }
    void healthReadingsLeaveOnlyWhenAskedForByName() {
        TestWindow w;
        w.openDemo();
        const TimeUs now = w.clocked.now;
        const SeriesBatch pulse{"pulse", {{now, 72, 72, Cause::none}, {now + second_us, 73, 73, Cause::none}}};
        VALUE_OF(kept, add_samples(*test::bench_file(w.clocked.session), std::span(&pulse, 1)));
        QCOMPARE(kept.added, std::size_t(2));
        const auto head = [&](const char* action, const char* name) {
            w.next_path = w.clocked.folder.filePath(QLatin1String(name));
            w.trigger(action);
            QFile out(w.next_path);
            return out.open(QIODevice::ReadOnly) ? out.readAll() : QByteArray();
        };
        QVERIFY(!head("exportCsv", "without.csv").contains("pulse"));
        QVERIFY2(w.text("statusMessage").contains("without Swimmer’s pulse"), qPrintable(w.text("statusMessage")));
        w.with_private = true;
        QVERIFY(head("exportCsv", "with.csv").split('\n').front().contains("Swimmer’s pulse"));
        w.with_private = false;
        QVERIFY(!head("exportCsv", "again.csv").contains("pulse")); // asked anew each time
    }
    void anyReadingIsKeptPrivate() {
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("cistern");
        w.window.showStop(0);
        w.refresh();
        auto* box = w.find<QCheckBox>("quantityPrivate");
        QVERIFY(box && box->isVisible() && !box->isChecked() && box->isEnabled());
        box->click();
        w.refresh();
        QVERIFY(w.reading("cistern").quantity.kept_private);
        w.next_path = w.clocked.folder.filePath("without.csv");
        w.trigger("exportCsv");
        QFile out(w.next_path);
        QVERIFY(out.open(QIODevice::ReadOnly));
        const QByteArray head = out.readAll().split('\n').front();
        QVERIFY2(!head.contains("Cistern level") && head.contains("Hut air"), head.constData());
        w.trigger("undo");
        QVERIFY(!w.reading("cistern").quantity.kept_private);
        w.window.context().selectReading("pulse");
        w.refresh();
        QVERIFY(box->isChecked() && !box->isEnabled()); // what is about health always is
    }
    void pluralsAreRight() {
        TestWindow w;
        w.openDemo();
        const qsizetype boards = static_cast<qsizetype>(w.clocked.session.bench().boards.size());
        QVERIFY(boards > 1);
        QVERIFY2(w.text("railPlace").endsWith(QStringLiteral("%1 boards").arg(boards)),
                 qPrintable(w.text("railPlace")));
        w.clocked.session.edit("fewer", [](Bench& bench) { bench.boards.resize(1); });
        w.refresh();
        QVERIFY2(w.text("railPlace").endsWith("1 board"), qPrintable(w.text("railPlace")));
    }
    void importThroughTheDialog() {
        TestWindow w;
        w.openDemo();
        QFile file(w.clocked.folder.filePath("log.csv"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("time,Hut air\n2026-06-01T09:00:00Z,142\n2026-06-01T09:00:01Z,x\n2026-06-01T09:00:02Z,143\n");
        file.close();
        w.next_path = file.fileName();
        QString about;
        QString result;
        w.trigger("import");
        w.find<QAbstractButton>("importRaw")->click();
        about = w.text("importAbout");
        w.click("importNow");
        result = w.text("importResult");
        w.click("importClose");
        QVERIFY2(about.contains("2 good") && about.contains("line 3"), qPrintable(about));
        QVERIFY2(result.contains("2 rows taken") && result.contains("1 set aside"), qPrintable(result));
        QCOMPARE(extent(*test::bench_file(w.clocked.session), "hut-air")->n, std::uint64_t(5762));
        QCOMPARE(extent(*test::bench_file(w.clocked.session), "hut-air")->first,
                 *parse_time("2026-06-01T09:00:00Z"));
    }

    void recordingBySwitch() {
        TestWindow w;
        w.openDemo();
        QVERIFY(w.text("statusRecording").startsWith("not recording"));
        w.trigger("record");
        w.lines(2, 140);
        QVERIFY2(w.text("statusRecording").contains("recording since"), qPrintable(w.text("statusRecording")));
        w.trigger("record");
        w.refresh();
        QVERIFY(w.text("statusRecording").startsWith("not recording"));
    }

    void bothThemesAndEverySizeHoldTheirText_data() {
        QTest::addColumn<bool>("dark");
        QTest::addColumn<double>("scale");
        QTest::addColumn<QSize>("size");
        QTest::addRow("light") << false << 1.0 << QSize(1280, 800);
        QTest::addRow("dark") << true << 1.0 << QSize(1280, 800);
        QTest::addRow("small") << false << 1.0 << QSize(1024, 700);
        QTest::addRow("large text") << false << 1.5 << QSize(1280, 800);
    }
    void bothThemesAndEverySizeHoldTheirText() {
        QFETCH(bool, dark);
        QFETCH(double, scale);
        QFETCH(QSize, size);
        TestWindow w;
        w.theme.setDark(dark);
        w.theme.setScale(scale);
        w.window.resize(size);
        w.openDemo();
        w.lines(10, 140);
        for (int i = 0; i < 7; ++i) {
            w.window.showStop(i);
            w.refresh();
            w.refresh();                     // what is built on first sight is laid out in a second pass
            QCOMPARE(w.window.size(), size); // the content never forces the window wider
            // The page's ground is the theme's sheet, and text on it is seen.
            const QImage image = w.window.grab().toImage();
            const QColor ground = w.theme.colours().sheet;
            int same = 0;
            for (int y = size.height() / 3; y < size.height() - 60; y += 7)
                for (int x = w.theme.px(240); x < size.width() - w.theme.px(300); x += 7)
                    same += image.pixelColor(x, y) == ground;
            QVERIFY2(same > 100, qPrintable(QString::number(same)));
            // No label that stands on one line is cut.
            for (QLabel* label : w.window.findChildren<QLabel*>()) {
                if (!label->isVisible() || label->wordWrap() || label->text().isEmpty() ||
                    label->objectName() == "pageNote" || label->objectName() == "statusMessage")
                    continue;
                const int needs = label->fontMetrics().boundingRect(label->text()).height();
                QVERIFY2(
                    label->height() + 3 >= needs / 1.3,
                    qPrintable(QStringLiteral("%1: %2 of %3").arg(label->text()).arg(label->height()).arg(needs)));
            }
        }
    }
    void everythingCanBeNamedAloud() {
        TestWindow w;
        w.openDemo();
        w.lines(3, 140);
        for (int i = 0; i < 7; ++i) {
            w.window.showStop(i);
            w.refresh();
            for (QWidget* widget : w.window.findChildren<QWidget*>()) {
                const bool takes_keys = widget->isVisible() && widget->focusPolicy() & Qt::TabFocus;
                const bool is_control = qobject_cast<QPushButton*>(widget) || qobject_cast<NumberField*>(widget) ||
                                        qobject_cast<QComboBox*>(widget) || qobject_cast<PathLine*>(widget);
                if (takes_keys && is_control)
                    QVERIFY2(!widget->accessibleName().isEmpty(), qPrintable(widget->objectName()));
            }
        }
    }
};

RUN_TESTS_OF(TestMainWindow)
#include "tst_window.moc"
