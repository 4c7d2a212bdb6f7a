// The window on the desktop of another country (LC_ALL of this test): its language where it is translated, its
// numbers and dates on the screen, and nothing of it in a file.
#include "session/bring_up.h"
#include "session/language.h"
#include "store/exchange/export.h"
#include "support/places.h"
#include "support/run_tests.h"
#include "support/test_window.h"
#include "ui/help/help_panel.h"
#include "ui/settings.h"

#include <QFile>
#include <QProcess>
#include <QRegularExpression>
#include <QSettings>
#include <QTableWidget>

using namespace cognitum;
using namespace cognitum::test;

namespace {

bool is_german() {
    return QLocale::system().language() == QLocale::German;
}

QByteArray run_cli(const QStringList& arguments, const QString& country) {
    QProcess program;
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert("LC_ALL", country);
    program.setProcessEnvironment(environment);
    program.start(QStringLiteral(COGNITUM_BIN_DIR "/cognitum-cli"), arguments);
    program.waitForFinished(60000);
    return program.readAllStandardOutput() + program.readAllStandardError();
}

} // namespace

class TestLanguage : public QObject {
    Q_OBJECT

  private slots:
    void initTestCase() {
        QSettings().clear();
        QCOMPARE(QString(QLocale::system().decimalPoint()), QStringLiteral(","));
        speak(wished_language());
    }
    void init() { QSettings().clear(); }

    void languageOfTheDesktop() {
        QCOMPARE(spoken_language(), is_german() ? QStringLiteral("de") : QStringLiteral("en"));
        QCOMPARE(phrase("data sheet"), is_german() ? "Datenblatt" : "data sheet");
        QCOMPARE(counted(1, "{} wire", "{} wires"), std::string(is_german() ? "1 Ader" : "1 wire"));
        QCOMPARE(counted(3, "{} wire", "{} wires"), std::string(is_german() ? "3 Adern" : "3 wires"));
        const QDateTime moment(QDate(2026, 3, 9), QTime(7, 5));
        QCOMPARE(date_said(moment, "d MMMM yyyy"), is_german() ? QStringLiteral("9. März 2026") : "9 March 2026");
        QCOMPARE(date_said(moment, "HH:mm"), QStringLiteral("07:05"));
        QCOMPARE(QLocale().firstDayOfWeek(), Qt::Monday);
    }

    void aCommaIsShownAndTyped() {
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("hut-air");
        w.window.showStop(0);
        w.refresh();
        w.type("quantityAccuracy", "0,75");
        QCOMPARE(w.reading().quantity.accuracy, 0.75);
        QCOMPARE(w.text("quantityAccuracy"), QStringLiteral("0,75"));
        w.type("quantityAccuracy", "0.8"); // a point means the same
        QCOMPARE(w.reading().quantity.accuracy, 0.8);
        QCOMPARE(w.text("quantityAccuracy"), QStringLiteral("0,8"));
        w.type("quantityLow", "−12,5");
        QCOMPARE(w.reading().quantity.low, -12.5);
        w.window.showStop(4);
        w.refresh();
        w.type("step0", "138");
        bool comma = false;
        for (const NumberField* field : w.window.findChildren<NumberField*>())
            if (field->isVisible()) {
                QVERIFY2(!field->text().contains('.'), qPrintable(field->objectName() + " " + field->text()));
                comma |= field->text().contains(',');
            }
        QVERIFY(comma);
        const QString state = w.stop(5).text + w.stop(1).text;
        QVERIFY2(!state.contains('.'), qPrintable(state));
    }

    void filesAreTheSameEverywhere() {
        TestWindow w;
        w.openDemo();
        Session& session = w.clocked.session;
        w.clocked.session.worker().startRecording();
        w.lines(5, 138);
        w.clocked.session.worker().stopRecording();
        w.refresh();
        w.window.context().selectReading("hut-air");
        w.window.showStop(0);
        w.refresh();
        w.type("quantityAccuracy", "0,75");
        note_disturbed(session, "hut-air", "moved");
        w.refresh();
        // What the program writes of itself is English in the file, and the language's on the page.
        const auto entries = bench_file(session)->find_log({.newest = 5000});
        QVERIFY(entries.has_value());
        const auto started = std::find_if(entries->begin(), entries->end(), [](const LogEntry& e) {
            return e.kind == log_kind::recording && e.text == "Recording started.";
        });
        QVERIFY(started != entries->end());
        QCOMPARE(started->said(), std::string(is_german() ? "Aufzeichnung begonnen." : "Recording started."));
        const auto moved = std::find_if(entries->begin(), entries->end(), [](const LogEntry& e) {
            return e.text.find("was moved: its last stages are to be repeated") != std::string::npos;
        });
        QVERIFY(moved != entries->end());
        if (is_german()) QVERIFY2(moved->said().find("wurde bewegt") != std::string::npos, moved->said().c_str());
        QCOMPARE(w.reading().bring_up.disturbed_how, std::string("moved"));
        const std::string plan = bench_json(session.bench()).dump();
        QVERIFY(plan.find("\"accuracy\":0.75") != std::string::npos);
        QVERIFY2(plan.find("Datenblatt") == std::string::npos, "the plan holds words of the language");
        // An export has a point, and its causes are those that an import knows.
        std::string csv;
        ExportOptions options;
        options.causes = true;
        const auto done = export_samples(*bench_file(session), session.bench(), options,
                                         [&](std::string_view part) { csv += part; });
        QVERIFY(done.has_value());
        QVERIFY(csv.find("; ") == std::string::npos);
        QVERIFY(csv.find("am unteren Anschlag") == std::string::npos);
        QVERIFY(QRegularExpression("\\d\\.\\d").match(QString::fromStdString(csv.substr(0, 4000))).hasMatch());
    }

    void notesOfPeopleStay() {
        const LogEntry typed{1, 0, "", log_kind::note, "Recording started.", 0};
        QCOMPARE(typed.said(), std::string("Recording started."));
    }

    void commandLineIsTheSameEverywhere() {
        TestWindow w;
        w.openDemo();
        const QString bench = w.clocked.folder.filePath("demo.cognitum");
        w.clocked.session.closeBench();
        const QString here = QString::fromLocal8Bit(qgetenv("LC_ALL"));
        for (const QStringList& arguments :
             {QStringList{"check", bench, "--json"}, QStringList{"path", bench, "hut-air"},
              QStringList{"physics", "thermistor", "--help"}, QStringList{"decode", "nothing-there"}})
            QCOMPARE(run_cli(arguments, here), run_cli(arguments, "C.UTF-8"));
    }

    void aChosenLanguageIsKept() {
        Settings settings;
        settings.language = "de";
        settings.save();
        QCOMPARE(wished_language(), QStringLiteral("de"));
        QCOMPARE(Settings::load().language, QStringLiteral("de"));
        settings.language.clear();
        settings.save();
        QVERIFY(wished_language().isEmpty());
    }

    /// Every topic of the help is there in German, with the same headings, tables and numbers of points.
    void helpIsWhole() {
        const auto read = [](const QString& path) {
            QFile file(path);
            return file.open(QIODevice::ReadOnly) ? QString::fromUtf8(file.readAll()) : QString();
        };
        for (const QString& topic : help_topics()) {
            if (topic == QStringLiteral("changes")) continue; // what is new is written in English
            const QString english = read(QStringLiteral(":/help/%1.md").arg(topic));
            const QString german = read(QStringLiteral(":/help/de/%1.md").arg(topic));
            QVERIFY2(!german.isEmpty(), qPrintable(topic));
            for (const char* mark : {"\n## ", "\n- ", "\n|"})
                QVERIFY2(english.count(QLatin1String(mark)) == german.count(QLatin1String(mark)),
                         qPrintable(topic + QLatin1String(mark)));
            QCOMPARE(help_text(topic), is_german() ? german : english);
        }
    }

    /// German words are longer, and a small screen has 1024 by 700.
    void everyPlaceFitsASmallScreen() {
        TestWindow w;
        w.openDemo();
        w.clocked.session.worker().startRecording();
        w.lines(5, 138);
        const QSize size(1024, 700);
        w.window.resize(size);
        QStringList cut;
        for (const auto& [place, go] : places_and_links()) {
            go(w);
            w.refresh();
            QApplication::processEvents();
            w.refresh();
            cut << what_is_cut(w, size, place);
        }
        cut.removeDuplicates();
        QVERIFY2(cut.isEmpty(), qPrintable(cut.join('\n')));
    }
    void germanPages() {
        if (!is_german()) return; // its sentences are English then: the other tests of the window look at those
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("cistern");
        for (int stop = 0; stop < 7; ++stop) {
            w.window.showStop(stop);
            w.refresh();
            const Reading& cistern = *w.clocked.session.bench().reading("cistern");
            std::vector<std::string> written = {cistern.quantity.place, cistern.quantity.expected_when,
                                                cistern.sensor.reason, "the warden"}; // a person's own words
            for (const Rejected& other : cistern.sensor.rejected)
                written.push_back(other.because);
            for (const QLabel* label : w.window.findChildren<QLabel*>()) {
                QString text = label->text();
                for (const std::string& words : written)
                    if (!words.empty()) text.remove(QString::fromStdString(words));
                if (label->isVisible())
                    QVERIFY2(!text.contains(QRegularExpression("\\b(the|is|with|nothing|reading)\\b")),
                             qPrintable(text));
            }
        }
        w.window.showPage("logbook");
        w.refresh();
        const auto* table = w.find<QTableWidget>("logEntries");
        QVERIFY(table && table->rowCount() > 0);
    }
};

RUN_TESTS_OF(TestLanguage)
#include "tst_language.moc"
