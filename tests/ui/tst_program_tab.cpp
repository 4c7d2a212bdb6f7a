// The tab Program in the real window: written, saved, proven by the real compiler and simulator, and what the board
// says that it runs.
#include "core/program/program.h"
#include "session/program/program_loader.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/test_window.h"
#include "ui/pages/program/read_view.h"

#include <QClipboard>
#include <QPlainTextEdit>
#include <QSettings>
#include <QTableWidget>

using namespace cognitum;
using test::TestWindow;

namespace {

class Programming : public TestWindow {
  public:
    explicit Programming(const char* board = "gauge") {
        openDemo();
        window.showPage("boards");
        refresh();
        choose("boardChoice", board);
        click("tabProgram");
    }
    /// Until the reader has answered.
    void readAnswer() {
        auto* view = window.findChild<ReadView*>();
        QVERIFY(view);
        QTRY_VERIFY_WITH_TIMEOUT(!view->reads(), 30000);
    }
    QString program() { return find<QPlainTextEdit>("programText")->toPlainText(); }
    std::string fingerprint(const char* board = "gauge") {
        const Bench& bench = clocked.session.bench();
        return program_fingerprint(bench, clocked.session.catalog(), *bench.board(board));
    }
    void says(const QByteArray& line) {
        clocked.session.worker().injectBytesNow("gauge", line + "\n");
        refresh();
    }
    bool has_finding(const char* id) {
        const auto& found = window.context().findings();
        return std::any_of(found.begin(), found.end(), [&](const Finding& f) { return f.id == id; });
    }
};

} // namespace

class TestProgramTab : public QObject {
    Q_OBJECT

  private slots:
    /// Pasted, read, mended line by line until it does what the plan says.
    void aMakersProgramIsMended() {
        Programming w;
        w.click("programMine");
        auto* text = w.find<QPlainTextEdit>("readText");
        text->setPlainText(
            "void setup() {\n    Serial.begin(9600);\n}\n\nvoid loop() {\n    int c = analogRead(A2);\n"
            "    float t = (c * 3.3 / 1024.0 - 0.5) * 100;\n    Serial.print(\"air \");\n    Serial.println(t);\n  "
            "  delay(1000);\n}\n");
        w.click("readAgain");
        w.readAnswer();
        QVERIFY2(w.text("found-speed-differs").startsWith("Line 2: It sends at 9"),
                 qPrintable(w.text("found-speed-differs")));
        QVERIFY(w.text("found-reference-differs").startsWith("Line 7:"));
        QVERIFY(w.text("computes-hut-air").contains("line 9"));
        w.click("show-reference-differs");
        QCOMPARE(text->textCursor().blockNumber(), 6);
        w.click("mend-speed-differs");
        w.readAnswer();
        QVERIFY(text->toPlainText().contains("    Serial.begin(115200);"));
        w.click("mend-reference-differs");
        w.readAnswer();
        QVERIFY(text->toPlainText().contains("c * 4.998 / 1024.0"));
        QCOMPARE(w.text("readFoundHead"), "It does what the plan says");
        text->undo();
        QVERIFY(text->toPlainText().contains("c * 3.3 / 1024.0")); // one step back
    }

    /// A line that moved since the text was read is not the one that was found: it is read again, and nothing is
    /// lost.
    void nothingStaleIsMended() {
        Programming w;
        w.click("programMine");
        auto* text = w.find<QPlainTextEdit>("readText");
        text->setPlainText("void setup() {\n    Serial.begin(9600);\n}\nvoid loop() {\n    "
                           "Serial.println(analogRead(A2));\n    delay(1000);\n}\n");
        w.click("readAgain");
        w.readAnswer();
        const QString typed = "// one line more\n" + text->toPlainText();
        text->setPlainText(typed);
        w.click("mend-speed-differs");
        w.readAnswer();
        QCOMPARE(text->toPlainText(), typed);
        QVERIFY(w.text("found-speed-differs").startsWith("Line 3:"));
        // The plan changes: what was found is beside the new one.
        w.clocked.session.edit("speed", [](Bench& b) { b.boards[0].link.baud = 9600; });
        w.refresh();
        w.readAnswer();
        QCOMPARE(w.text("readFoundHead"), "It does what the plan says");
    }

    /// The board keeps its program: its numbers go back through its arithmetic, and then the plan's way.
    void takenAsItIs() {
        Programming w;
        w.click("programMine");
        w.find<QPlainTextEdit>("readText")
            ->setPlainText("void setup() {\n    Serial.begin(115200);\n}\nvoid loop() {\n    float t = "
                           "analogRead(A2) * 3.3 / 1024 * 100;\n"
                           "    Serial.println(t, 3);\n    delay(1000);\n}\n");
        w.click("readAgain");
        w.readAnswer();
        const Chain before = w.clocked.session.bench().reading("hut-air")->path;
        w.click("take-hut-air");
        const Chain& taken = w.clocked.session.bench().reading("hut-air")->path;
        QCOMPARE(taken.stages.size(), before.stages.size() + 1);
        for (const double count : {80.0, 139.0, 200.0}) {
            const double sent = count * 3.3 / 1024 * 100;
            QVERIFY(std::abs(forward(taken, sent).number - forward(before, count).number) <
                    1e-4); // a float has no more digits
        }
        w.clocked.session.undoStack()->undo();
        QCOMPARE(w.clocked.session.bench().reading("hut-air")->path, before);
    }

    void examplesDropsAndFilesThatAreNone() {
        Programming w;
        w.click("programMine");
        for (int i = 0; i < 3; ++i) {
            w.click("readExample");
            w.readAnswer();
            QVERIFY2(w.text("readFoundHead").contains("to look at"), qPrintable(w.text("readFoundHead")));
        }
        const QString path = w.clocked.folder.filePath("none.ino");
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly) && file.write("void setup() {}\n") > 0);
        file.close();
        w.window.context().askOpenPath = [path](auto...) { return path; };
        w.click("readOpen");
        w.readAnswer();
        QVERIFY2(w.text("readState").contains("There is no loop()"), qPrintable(w.text("readState")));
        w.window.context().askOpenPath = [](auto...) { return QString(); };
        w.click("readOpen"); // cancelled: nothing changes
        QVERIFY(w.text("readState").contains("There is no loop()"));
    }

    void writtenSavedAndCopied() {
        Programming w;
        QVERIFY(w.program().contains("void loop() {"));
        QVERIFY2(w.text("programHead").contains(QString::fromStdString(w.fingerprint())),
                 qPrintable(w.text("programHead")));
        const QString path = w.clocked.folder.filePath("gauge.ino");
        w.window.context().askSavePath = [path](auto...) { return path; };
        w.click("programSave");
        QFile saved(path);
        QVERIFY(saved.open(QIODevice::ReadOnly));
        QCOMPARE(QString::fromUtf8(saved.readAll()), w.program());
        w.click("programCopy");
        QCOMPARE(QApplication::clipboard()->text(), w.program());
        // Another pin, another program.
        const QString before = w.text("programHead");
        w.clocked.session.editReading("rock", "pin", [](Reading& r) { r.wiring.set_pin("A3"); });
        w.refresh();
        QVERIFY(w.text("programHead") != before);
        QVERIFY(w.program().contains("print_count(A3, 1)"));
        w.trigger("undo");
        QCOMPARE(w.text("programHead"), before);
    }
    void whatIsLeftOutIsSaid() {
        Programming w("pump-house");
        bool said = false;
        for (const QLabel* label : w.window.findChildren<QLabel*>())
            said = said || (label->isVisible() && label->text().startsWith("Cistern is not in it"));
        QVERIFY(said);
        w.choose("boardChoice", "beacon-log"); // no board at all
        QVERIFY(w.program().isEmpty());
        QVERIFY2(w.text("programTrouble").contains("no board of which"), qPrintable(w.text("programTrouble")));
        QVERIFY(!w.find<QPushButton>("programProve")->isEnabled());
    }
    void proven() {
        Programming w;
        QVERIFY(!w.sees("programProof"));
        w.click("programProve");
        QTRY_VERIFY_WITH_TIMEOUT(w.sees("programProof") || w.sees("programTrouble"), 150000);
        QVERIFY2(w.sees("programProof"), qPrintable(w.text("programTrouble")));
        auto* table = w.find<QTableWidget>("programProof");
        QCOMPARE(table->rowCount(), 5);
        for (int row = 0; row < 5; ++row)
            QCOMPARE(table->item(row, 5)->text(), QStringLiteral("21 of 21"));
        QVERIFY2(w.text("programFacts").contains("All hold"), qPrintable(w.text("programFacts")));
        // A change of the plan takes the proof away.
        w.clocked.session.editReading("rock", "pin", [](Reading& r) { r.wiring.set_pin("A3"); });
        w.refresh();
        QVERIFY(!w.sees("programProof"));
    }
    /// The maker's own program as machine code: it sends what was read, and where it does not both are shown.
    void aMakersProgramRuns() {
        Programming w;
        w.click("programMine");
        w.find<QPlainTextEdit>("readText")
            ->setPlainText("void setup() {\n    Serial.begin(115200);\n}\nvoid loop() {\n    float t = "
                           "(analogRead(A2) * 4.998 / 1024.0 - 0.5) * 100;\n    Serial.print(\"air \");\n    "
                           "Serial.println(t);\n    delay(1000);\n}\n");
        w.click("readAgain");
        w.readAnswer();
        QVERIFY(w.find<QPushButton>("readRun")->isVisible());
        w.click("readRun");
        QTRY_VERIFY_WITH_TIMEOUT(w.find<QPushButton>("readRun")->isEnabled(), 150000);
        QVERIFY2(w.text("readRan").contains("KB of flash"), qPrintable(w.text("readRan")));
        QCOMPARE(w.text("ran-hut-air"), QStringLiteral("● its machine code sends the same"));
        // Half a program: the compiler says why it does not run.
        w.find<QPlainTextEdit>("readText")
            ->setPlainText("#include <Nothing.h>\nvoid setup() {\n    Serial.begin(115200);"
                           "\n}\nvoid loop() {\n    Serial.println(analogRead(A2));\n"
                           "    delay(1000);\n}\n");
        w.click("readAgain");
        w.readAnswer();
        if (!w.find<QPushButton>("readRun")->isVisible()) return; // the reader has said so already
        w.click("readRun");
        QTRY_VERIFY_WITH_TIMEOUT(w.find<QPushButton>("readRun")->isEnabled(), 60000);
        QVERIFY2(w.text("readRan").contains("Nothing.h"), qPrintable(w.text("readRan")));
    }
    /// A board gets its program by a loader of this computer, which a person names; then Raw waits for its first
    /// line.
    void loaded() {
        Programming w;
        const QString kept = w.clocked.folder.filePath("loaded.txt");
        const QString loader = w.clocked.folder.filePath("loader");
        const auto write_loader = [&](const char* last) {
            QFile file(loader);
            QVERIFY(file.open(QIODevice::WriteOnly));
            file.write("#!/bin/sh\nhead -c 9 \"$1\" > \"$2\"\necho \"$3\" >> \"$2\"\n" + QByteArray(last));
            file.close();
            file.setPermissions(QFile::ReadOwner | QFile::ExeOwner | QFile::WriteOwner);
        };
        w.clocked.session.edit("a cable", [](Bench& b) {
            b.boards[0].link = {};
            b.boards[0].link.kind = LinkKind::serial;
            b.boards[0].link.port = "/dev/ttyNowhere";
        });
        w.refresh();
        write_loader("echo no answer from the board\nexit 3\n");
        QSettings().setValue(QStringLiteral("loader"), QString("%1 {hex} %2 {port}").arg(loader, kept));
        w.click("programLoad");
        QTRY_VERIFY_WITH_TIMEOUT(w.find<QPushButton>("programLoad")->isEnabled(), 60000);
        QCOMPARE(w.text("programLoaded"), QStringLiteral("It was not loaded: no answer from the board"));
        QVERIFY(!w.sees("rawProgram"));
        write_loader("exit 0\n");
        w.click("programLoad");
        QTRY_COMPARE_WITH_TIMEOUT(w.text("programLoaded"), QStringLiteral("It is loaded."), 60000);
        QFile file(kept);
        QVERIFY(file.open(QIODevice::ReadOnly));
        QCOMPARE(file.readAll(), QByteArray(":10000000/dev/ttyNowhere\n"));
        w.refresh();
        QVERIFY2(w.text("rawProgram").startsWith("… Waiting for the board's first line"),
                 qPrintable(w.text("rawProgram")));
        w.says("# board=gauge plan=00000000 bits=10 restart=reset");
        QVERIFY(w.text("rawProgram").contains("Its last one said plan 00000000"));
        w.says("# board=gauge plan=" + QByteArray::fromStdString(w.fingerprint()) + " bits=10 restart=reset");
        QVERIFY2(w.text("rawProgram").startsWith("● The board runs the program of this plan"),
                 qPrintable(w.text("rawProgram")));
        QVERIFY(w.text("rawProgram").contains("It began by: reset"));
        QSettings().remove(QStringLiteral("loader"));
    }
    void whatLoaderCommandsMust() {
        QVERIFY(ProgramLoader::trouble("").contains("Give the command"));
        QVERIFY(ProgramLoader::trouble("load {port}").contains("{hex}"));
        QVERIFY(ProgramLoader::trouble("load {port} {source}").isEmpty());
        ProgramLoader loader;
        QString said;
        bool done = true;
        QObject::connect(&loader, &ProgramLoader::finished, [&](bool d, const QString& s) {
            done = d;
            said = s;
        });
        Bench bench = test::small_bench();
        const WrittenProgram program = *write_program(bench, test::catalog(), "gauge");
        loader.start(bench, {"/no/such/program {folder}", "/dev/null", "gauge", program});
        QTRY_VERIFY(!said.isEmpty());
        QVERIFY(!done && said.contains("/no/such/program"));
        // A shell's signs are words like any others.
        said.clear();
        loader.start(bench, {"sh -c \"exit $0\" 0 {folder} ; touch /tmp/nothing", "p", "gauge", program});
        QTRY_VERIFY(done);
    }
    /// Beside the program the file of names and passwords is saved, and one that is filled in stays.
    void secretsStay() {
        Programming w("shed");
        const QString secrets = w.clocked.folder.filePath("secrets.h");
        w.window.context().askSavePath = [&](QWidget*, const QString&, const QString&, const QString&) {
            return w.clocked.folder.filePath("shed.ino");
        };
        w.click("programSave");
        QFile file(secrets);
        QVERIFY(file.open(QIODevice::ReadOnly));
        QVERIFY(file.readAll().contains("NETWORK_PASSWORD"));
        file.close();
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("mine");
        file.close();
        w.click("programSave");
        QVERIFY(file.open(QIODevice::ReadOnly));
        QCOMPARE(file.readAll(), QByteArray("mine"));
    }
    /// The first line of a board names the plan that its program was written from.
    void whatTheBoardRuns() {
        Programming w;
        QVERIFY(w.text("programRuns").contains("has not said"));
        w.says("# board=gauge plan=" + QByteArray::fromStdString(w.fingerprint()) + " bits=10 restart=power");
        QVERIFY(w.text("programRuns").contains("runs this program"));
        QVERIFY(!w.has_finding("board-runs-another-plan"));
        w.says("# board=gauge plan=00000000 bits=10 restart=watchdog");
        QVERIFY2(w.text("programRuns").contains("another plan (00000000)"), qPrintable(w.text("programRuns")));
        w.window.context().selectReading("hut-air");
        w.refresh();
        QVERIFY(w.has_finding("board-runs-another-plan"));
        w.says("seq=1 ms=10 A2=139"); // what a program like this sends is understood
        QVERIFY(w.window.context().liveReading());
    }
};

RUN_TESTS_OF(TestProgramTab)
#include "tst_program_tab.moc"
