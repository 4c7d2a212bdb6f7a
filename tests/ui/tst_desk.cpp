// The window as a part of the desktop: settings that are kept, what is dropped on it, where somebody was,
// everything found by typing, all findings in one place, and paper.
#include "store/file/data_files.h"
#include "support/run_tests.h"
#include "support/test_window.h"
#include "ui/pages/settings_page.h"
#include "ui/pages/start_page.h"
#include "ui/shell/command_finder.h"
#include "ui/window_memory.h"

#include <QCheckBox>
#include <QClipboard>
#include <QDropEvent>
#include <QMimeData>
#include <QPrinter>
#include <QSettings>
#include <QTreeWidget>

using namespace cognitum;
using namespace cognitum::test;

namespace {

QString written(const TestWindow& w, const char* name, const QByteArray& text) {
    const QString path = w.clocked.folder.filePath(QLatin1String(name));
    QFile file(path);
    if (!file.open(QIODevice::WriteOnly)) qFatal("%s", name);
    file.write(text);
    return path;
}

/// As a file manager drops them.
void drop(TestWindow& w, const QStringList& paths) {
    QMimeData data;
    QList<QUrl> urls;
    for (const QString& path : paths)
        urls << QUrl::fromLocalFile(path);
    data.setUrls(urls);
    QDragEnterEvent enters(QPoint(400, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&w.window, &enters);
    QVERIFY(enters.isAccepted());
    QDropEvent event(QPointF(400, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&w.window, &event);
    w.refresh();
    w.refresh();
}

/// Types into the finder and takes the first that it shows, or only looks.
QStringList found_titles(TestWindow& w, const QString& typed, bool go) {
    QStringList out;
    QTimer::singleShot(0, [&] {
        QWidget* finder = QApplication::activeModalWidget();
        QVERIFY(finder);
        auto* field = finder->findChild<QLineEdit*>("commandField");
        QTest::keyClicks(field, typed);
        const auto* list = finder->findChild<QTreeWidget*>("commandList");
        for (int i = 0; i < list->topLevelItemCount(); ++i)
            out << list->topLevelItem(i)->text(0) + " | " + list->topLevelItem(i)->text(1);
        QTest::keyClick(field, go ? Qt::Key_Return : Qt::Key_Escape);
    });
    w.trigger("find");
    w.refresh();
    return out;
}

} // namespace

class TestDesk : public QObject {
    Q_OBJECT

  private slots:
    void init() { QSettings().clear(); }

    void settingsAreKeptAtOnce() {
        {
            TestWindow w;
            w.openDemo();
            w.trigger("settings");
            QVERIFY(w.sees("settingColours"));
            const auto pick = [&](const char* name, int index) {
                auto* box = w.find<QComboBox>(name);
                box->setCurrentIndex(index);
                emit box->activated(index);
            };
            pick("settingColours", 2);
            QVERIFY(w.theme.isDark());
            pick("settingSize", 6); // 150 %
            CLOSE(w.theme.scale(), 1.5, 1e-12);
            pick("beside_3", 2); // °F
            pick("settingClosing", 1);
            w.find<QCheckBox>("settingLast")->click();
            w.find<QCheckBox>("settingPrivate")->click();
            w.type("settingSigner", "A. Keeper");
        }
        const Settings kept = Settings::load();
        QVERIFY(kept.appearance == Appearance::dark && kept.at_close == AtClose::hand_over);
        CLOSE(kept.scale, 1.5, 1e-12);
        QCOMPARE(kept.beside.temperature, std::string("degF"));
        QVERIFY(kept.open_last && !kept.offer_private);
        QCOMPARE(kept.signer, QStringLiteral("A. Keeper"));
        TestWindow again;
        again.openDemo();
        again.trigger("settings");
        QCOMPARE(again.find<QComboBox>("settingSize")->currentText(), QStringLiteral("150 %"));
        QCOMPARE(again.find<QLineEdit>("settingSigner")->text(), QStringLiteral("A. Keeper"));
        // Following the desktop.
        again.window.context().change([](Settings& s) { s.appearance = Appearance::as_desktop; });
        QVERIFY(!again.theme.isDark());
        again.window.context().desktopIsDark(true);
        QVERIFY(again.theme.isDark());
        again.trigger("dark"); // a person's choice stands against the desktop's
        again.window.context().desktopIsDark(true);
        QVERIFY(!again.theme.isDark());
    }

    void settingsOfTheBenchCanBeUndone() {
        TestWindow w;
        w.openDemo();
        w.trigger("settings");
        w.type("settingName", "Lower Whelk");
        QCOMPARE(w.clocked.session.bench().name, std::string("Lower Whelk"));
        w.type("settingName", ""); // a bench has a name
        QCOMPARE(w.clocked.session.bench().name, std::string("Lower Whelk"));
        w.type("settingCurrency", "kr");
        QCOMPARE(w.clocked.session.bench().currency, std::string("kr"));
        const auto before = w.clocked.session.bench().where;
        w.type("settingLatitude", "91");
        QVERIFY(w.clocked.session.bench().where == before);
        QVERIFY(w.text("settingSaid").contains("other number"));
        w.type("settingLongitude", "151,25");
        QVERIFY(w.clocked.session.bench().where == before);
        QVERIFY(w.text("settingSaid").contains("−90"));
        w.type("settingLatitude", "−33.5");
        QVERIFY(w.text("settingSaid").isEmpty());
        QVERIFY(w.clocked.session.bench().where == (GeoPlace{-33.5, 151.25}));
        w.trigger("undo");
        QVERIFY(w.clocked.session.bench().where == before);
        QVERIFY2(w.text("settingPrivateNow").contains("Swimmer"), qPrintable(w.text("settingPrivateNow")));
        w.click("settingTrouble");
        QVERIFY(QApplication::clipboard()->text().startsWith("Cognitum "));
    }

    void unitsStandBesideTheKeptOnes() {
        TestWindow w;
        w.openDemo();
        w.lines(40, 138);
        w.window.showStop(6);
        w.refresh();
        QVERIFY(!w.text("watchAge").contains("°F"));
        w.window.context().change([](Settings& s) { s.beside.temperature = "degF"; });
        w.refresh();
        QVERIFY2(w.text("watchAge").contains("°F"), qPrintable(w.text("watchAge")));
        QVERIFY(w.text("watchValue").contains("°C"));
    }

    void whoSignsStandsWhereItIsAsked() {
        TestWindow w;
        w.window.context().change([](Settings& s) { s.signer = "A. Keeper"; });
        w.openDemo();
        w.window.showStop(5);
        w.refresh();
        QCOMPARE(w.find<QLineEdit>("signedBy")->text(), QStringLiteral("A. Keeper"));
    }

    void anythingIsFound() {
        TestWindow w;
        w.openDemo();
        // What makers typed into it, and what should stand first.
        const std::pair<const char*, const char*> cases[] = {
            {"cistern", "Cistern | reading"},
            {"gauge", "Gauge"},
            {"ice", "Ice"},
            {"currency", "Currency | setting"},
            {"text size", "Text size | setting"},
            {"hysteresis", "hysteresis | word"},
            {"ctrl+,", "Settings | Ctrl+,"},
            {"find", ""},
        };
        for (const auto& [typed, first] : cases) {
            const QStringList list = found_titles(w, QLatin1String(typed), false);
            if (!*first) continue;
            QVERIFY2(!list.isEmpty(), typed);
            QVERIFY2(list.front().startsWith(QLatin1String(first), Qt::CaseInsensitive),
                     qPrintable(QLatin1String(typed) + ": " + list.front()));
        }
        QVERIFY(found_titles(w, "cal", false).size() > 5);
        QVERIFY(found_titles(w, "xyzzy", false).isEmpty());
        QVERIFY(found_titles(w, "thermistor", false).join('\n').contains("part"));
        // And they lead there.
        found_titles(w, "text size", true);
        QCOMPARE(w.window.pageNow(), QStringLiteral("settings"));
        QCOMPARE(w.window.focusWidget(), w.find<QComboBox>("settingSize"));
        found_titles(w, "cistern", true);
        QCOMPARE(w.window.context().readingId(), std::string("cistern"));
        found_titles(w, "ntc-10k-in-divider", true);
        QCOMPARE(w.window.stopNow(), 1);
        QCOMPARE(w.find<QLineEdit>("findByFacts")->text(), QStringLiteral("ntc-10k-in-divider"));
        found_titles(w, "hysteresis", true);
        QVERIFY(w.sees("helpText"));
    }

    void wordsAreRanked() {
        const std::vector<Command> commands = {{"Export as CSV", "", {}},
                                               {"Sensor", "", {}, "csv"},
                                               {"CSV import", "", {}},
                                               {"My csv-file", "", {}},
                                               {"Other", "Ctrl+E", {}}};
        const auto titles = [&](const char* typed) {
            QStringList out;
            for (const std::size_t i : found_commands(commands, QLatin1String(typed)))
                out << commands[i].title;
            return out.join(';');
        };
        QCOMPARE(titles("csv"), QStringLiteral("CSV import;Export as CSV;My csv-file;Sensor"));
        QCOMPARE(titles("  CSV  export "), QStringLiteral("Export as CSV"));
        QCOMPARE(titles("ctrl+e"), QStringLiteral("Other"));
        QCOMPARE(titles("").count(';'), 4);
        QCOMPARE(titles("csv nothing"), QString());
    }

    void allFindingsLeadToTheirPlace() {
        TestWindow w;
        w.openDemo();
        w.clocked.session.editReading("hut-air", "A supply of its own", [](Reading& r) {
            r.wiring.own_supply_V = 5;
            r.wiring.ground_joined = false;
        });
        w.window.showPage("overview");
        w.click("overviewFindings");
        QCOMPARE(w.window.pageNow(), QStringLiteral("findings"));
        auto* at = w.find<QPushButton>("at_grounds-not-joined");
        QVERIFY(at && at->isVisible());
        QCOMPARE(at->text(), QStringLiteral("Hut air · Wiring"));
        // What cannot work stands above what could be better.
        const auto* title = w.window.findChild<QWidget*>("nothingFound");
        QVERIFY(title && !title->isVisible());
        at->click();
        w.refresh();
        QCOMPARE(w.window.stopNow(), 2);
        QCOMPARE(w.window.context().readingId(), std::string("hut-air"));
        w.window.showPage("findings");
        w.refresh();
        w.click("fix_grounds-not-joined");
        QVERIFY(!w.find<QPushButton>("at_grounds-not-joined") || !w.sees("at_grounds-not-joined"));
        QVERIFY(w.reading().wiring.ground_joined);
    }

    void filesThatAreDropped() {
        TestWindow w;
        const QString table = written(w, "other.csv", "time,air\n2026-11-25T10:00:00Z,12\n");
        QString said;
        answer_box(&said);
        drop(w, {table}); // no bench yet
        QTRY_VERIFY2(said.contains("no bench"), qPrintable(said));
        w.openDemo();
        const QString demo = w.clocked.session.path();
        drop(w, {table});
        auto* import = w.window.findChild<QDialog*>("importDialog");
        QVERIFY(import && import->isVisible());
        import->close();
        const QString program = written(w, "mine.ino", "void setup() { Serial.begin(9600); }\nvoid loop() {}\n");
        drop(w, {program});
        QCOMPARE(w.window.pageNow(), QStringLiteral("boards"));
        QVERIFY(w.find<QPlainTextEdit>("readText")->toPlainText().contains("9600"));
        said.clear();
        answer_box(&said);
        drop(w, {written(w, "photo.png", "x")});
        QVERIFY2(said.contains("does not know"), qPrintable(said));
        // Another bench: while it records, it asks first.
        const QString other = w.clocked.folder.filePath("other.cognitum");
        QVERIFY(BenchFile::create(other.toStdString()));
        w.clocked.session.worker().startRecording();
        w.refresh();
        drop(w, {other});
        QCOMPARE(w.asked_to_end, QStringLiteral("other.cognitum"));
        QCOMPARE(w.clocked.session.path(), demo);
        w.window.askedFromElsewhere({demo}, {}); // it is the open one: nothing to ask
        QCOMPARE(w.clocked.session.path(), demo);
        drop(w, {demo}); // the open one again ends nothing
        QVERIFY(w.clocked.session.worker().live().recording.on);
        // A card of a board is there to be chosen at once; its name has an & that is no key.
        qputenv("XDG_DATA_HOME", w.clocked.folder.filePath("home").toUtf8());
        QFile shipped(QString::fromStdString(data_folder()) + "/boards/board-mains-relay.json");
        QVERIFY(shipped.open(QIODevice::ReadOnly));
        drop(w, {written(w, "card.json", shipped.readAll().replace("board-mains-relay", "bed-&-breakfast"))});
        w.window.showPage("boards");
        w.refresh();
        QVERIFY(w.find<QComboBox>("boardCard")->findData("bed-&-breakfast") >= 0);
        qunsetenv("XDG_DATA_HOME");
        w.ends_recording = true;
        w.window.askedFromElsewhere({other}, {});
        QCOMPARE(w.clocked.session.path(), other);
    }

    void whereSomebodyWasComesBack() {
        QTemporaryDir folder;
        const QString demo = folder.filePath("demo.cognitum");
        {
            TestWindow w;
            QVERIFY(open_demo(w.clocked.session, demo));
            w.window.context().selectReading("cistern");
            w.window.showStop(6);
            w.window.resize(1111, 777);
            w.window.close();
        }
        const auto known = recent_benches();
        QCOMPARE(known.size(), std::size_t(1));
        QCOMPARE(known[0].name, QStringLiteral("Whelk Point"));
        {
            TestWindow w;
            QVERIFY(restore_window(w.window));
            QCOMPARE(w.window.size(), QSize(1111, 777));
            QVERIFY(!w.window.openLast()); // only where the settings say so
            QVERIFY2(describe(known[0]).contains("19 readings"), qPrintable(describe(known[0])));
            auto* link = w.find<QPushButton>("recent1");
            QVERIFY(link && link->isVisible());
            link->click();
            w.refresh();
            QCOMPARE(w.window.context().readingId(), std::string("cistern"));
            QCOMPARE(w.window.stopNow(), 6);
            w.window.showPage("logbook");
            w.window.context().change([](Settings& s) { s.open_last = true; });
            w.window.close();
        }
        TestWindow w;
        QVERIFY(w.window.openLast());
        QCOMPARE(w.window.pageNow(), QStringLiteral("logbook"));
        w.window.close();
        QVERIFY(QFile::remove(demo));
        QVERIFY(recent_benches().empty()); // what is gone is not offered
    }

    void aNoticeLeadsToItsReading() {
        TestWindow w;
        w.openDemo();
        w.window.showPage("logbook");
        emit w.clocked.session.messenger().readingWanted("cistern", {});
        QCOMPARE(w.window.context().readingId(), std::string("cistern"));
        QCOMPARE(w.window.stopNow(), 6);
        emit w.clocked.session.messenger().readingWanted("gone", {}); // removed meanwhile
        QCOMPARE(w.window.context().readingId(), std::string("cistern"));
    }

    /// On or off has no range, no accuracy and no ±.
    void aStateIsNotAskedForNumbers() {
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("jetty");
        w.window.showStop(0);
        w.refresh();
        QVERIFY(!w.sees("quantityLow") && !w.sees("quantityHigh") && !w.sees("quantityAccuracy"));
        QVERIFY(w.sees("quantityInterval"));
        QVERIFY(w.stop(1).text.contains("still"));
        w.window.context().selectReading("hut-air");
        w.refresh();
        QVERIFY(w.sees("quantityLow") && w.sees("quantityAccuracy"));
    }

    void theBoardIsDrawn() {
        TestWindow w;
        w.openDemo();
        w.window.showPage("boards");
        w.refresh();
        auto* drawing = w.find<QWidget>("boardDrawing");
        QVERIFY(drawing && drawing->isVisible());
        QVERIFY2(drawing->accessibleDescription().contains("Hut air"),
                 qPrintable(drawing->accessibleDescription()));
        drawing->setFocus();
        for (int i = 0; i < 100 && w.window.pageNow() == "boards"; ++i) {
            QTest::keyClick(drawing, Qt::Key_Down);
            if (drawing->accessibleDescription().contains("Hut air")) QTest::keyClick(drawing, Qt::Key_Return);
        }
        QCOMPARE(w.window.context().readingId(), std::string("hut-air"));
        QCOMPARE(w.window.stopNow(), 2);
    }

    void sheetsAreShownAndPrinted() {
        TestWindow w;
        w.openDemo();
        int shown = 0;
        w.window.context().showOnPaper = [&](QWidget*, QPageLayout::Orientation, const DrawPages& draw) {
            QPrinter printer(QPrinter::HighResolution);
            printer.setOutputFileName(w.clocked.folder.filePath(QStringLiteral("%1.pdf").arg(++shown)));
            draw(printer);
            draw(printer); // the preview draws anew for other paper
        };
        w.window.context().selectReading("hut-air");
        w.window.showStop(2);
        w.refresh();
        w.click("wiringPrint");
        w.window.showStop(4);
        w.refresh();
        w.click("tabMeter");
        w.click("meterPrint");
        QCOMPARE(shown, 2);
        for (int i = 1; i <= 2; ++i) {
            QFile pdf(w.clocked.folder.filePath(QStringLiteral("%1.pdf").arg(i)));
            QVERIFY(pdf.open(QIODevice::ReadOnly));
            QVERIFY(pdf.readAll().startsWith("%PDF"));
        }
    }
};

RUN_TESTS_OF(TestDesk)
#include "tst_desk.moc"
