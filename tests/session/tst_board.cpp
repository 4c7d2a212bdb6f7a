// The session with the real simulated board: a process, a pseudo-terminal, QSerialPort, commands, faults, a pulled
// cable.
#include "core/program/program.h"
#include "demo/world.h"
#include "session/path_state.h"
#include "store/file/bench_file.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <QSignalSpy>

using namespace cognitum;

class TestBoard : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;

    void openDemo(Session& session) {
        QVERIFY(test::open_demo(session, inventedDemo()));
        QTRY_VERIFY_WITH_TIMEOUT(session.worker().live().readings.count("hut-air") > 0, 15000);
    }
    /// The demo with the invented board instead of the written program: it knows more faults, and is there at once.
    QString inventedDemo() {
        const QString path = m_folder.filePath("demo.cognitum");
        if (QFile::exists(path)) return path;
        if (!create_demo_bench(path.toStdString(), Session().now(), DemoHistory::two_days)) return {};
        auto file = BenchFile::open(path.toStdString(), Access::write);
        Bench bench = *file->load_plan();
        bench.board("gauge")->link.processor = false;
        return file->save_plan(bench) ? path : QString();
    }
    static SessionOptions fast() {
        SessionOptions options;
        options.simulation_arguments = {"--interval", "20", "--response", "0.1"};
        return options;
    }
    static LiveReading air(const Session& session) { return session.worker().live().readings.at("hut-air"); }

  private slots:
    void linesArriveOverARealPort() {
        Session session(fast());
        openDemo(session);
        const LiveBoard board = session.worker().live().boards.at("gauge");
        QVERIFY2(board.port.startsWith("/dev/pts/"), qPrintable(board.port));
        QCOMPARE(board.state, LinkState::open);
        QTRY_VERIFY(air(session).points.size() > 20);
        const Value v = air(session).value;
        QVERIFY2(v.ok() && v.number > 3 && v.number < 25, qPrintable(QString::number(v.number)));
        const auto fields = session.worker().live().boards.at("gauge").fields;
        QVERIFY(std::any_of(fields.begin(), fields.end(), [](const Field& f) { return f.name == "A2"; }));
    }
    void commandsAreAnswered() {
        Session session(fast());
        openDemo(session);
        session.worker().sendCommand("gauge", "interval 50");
        QTRY_COMPARE(session.worker().live().boards.at("gauge").answer, QStringLiteral("ok interval_ms=50"));
        session.worker().sendCommand("gauge", "dance");
        QTRY_VERIFY(session.worker().live().boards.at("gauge").answer.startsWith("error"));
    }
    void faultsShow() {
        Session session(fast());
        openDemo(session);
        QTRY_VERIFY(air(session).value.ok());
        session.worker().sendCommand("gauge", "fault clipped");
        QTRY_COMPARE(air(session).value.cause, Cause::at_high_rail);
        QVERIFY(std::isnan(air(session).value.number));
        session.worker().sendCommand("gauge", "fault half-lines");
        QTRY_VERIFY(session.worker().live().boards.at("gauge").rejected > 5);
        QVERIFY(session.worker().live().boards.at("gauge").lost > 0);
        session.worker().sendCommand("gauge", "fault none");
        QTRY_VERIFY(air(session).value.ok());
    }
    void aPulledBoardIsLostAndComesBack() {
        Session session(fast());
        openDemo(session);
        session.worker().startRecording();
        QTRY_VERIFY(session.worker().live().recording.saved > 5);
        session.worker().setPlugged("gauge", false);
        QTRY_COMPARE(session.worker().live().boards.at("gauge").state, LinkState::lost);
        QVERIFY(!session.worker().live().boards.at("gauge").reason.isEmpty());
        const Reading& reading = *session.bench().reading("hut-air");
        const PathState state = path_state(session, reading, session.worker().live(), {});
        QCOMPARE(state.value, QStringLiteral("—")); // at once, not only when the last value has grown old
        QCOMPARE(state.word, QStringLiteral("unplugged"));
        QCOMPARE(state.reaches, 2);
        const TimeUs last = *air(session).time;
        session.worker().setPlugged("gauge", true);
        QTRY_COMPARE_WITH_TIMEOUT(session.worker().live().boards.at("gauge").state, LinkState::open, 15000);
        QTRY_VERIFY(*air(session).time > last && air(session).value.ok());
        const std::uint64_t saved = session.worker().live().recording.saved;
        QTRY_VERIFY(session.worker().live().recording.saved > saved + 5); // recording went on by itself
    }
    void thePlanTellsTheBoardItsReference() {
        Session session(fast());
        openDemo(session);
        QTRY_COMPARE(session.worker().live().boards.at("gauge").reference, QStringLiteral("supply"));
        const auto findings =
            session.views().findings(*session.bench().reading("hut-air"), session.worker().live());
        const auto f = std::find_if(findings.begin(), findings.end(),
                                    [](const Finding& x) { return x.id == "output-uses-little-of-full-scale"; });
        QVERIFY(f != findings.end());
        session.applyFix(*f);
        QTRY_COMPARE(session.worker().live().boards.at("gauge").reference, QStringLiteral("internal"));
        QTRY_VERIFY(air(session).raw > 450); // the same temperature in finer counts
        session.undoStack()->undo();
        QTRY_COMPARE(session.worker().live().boards.at("gauge").reference, QStringLiteral("supply"));
    }
    /// The demo's board runs the program that is written from its plan, as machine code; with another plan another
    /// one, when it gets power.
    void theWrittenProgramRuns() {
        Session session;
        QVERIFY(test::open_demo(session, m_folder.filePath("processor.cognitum")));
        const auto board = [&] {
            const auto boards = session.worker().live().boards;
            const auto at = boards.find("gauge");
            return at == boards.end() ? LiveBoard() : at->second;
        };
        const auto fingerprint = [&] {
            return QString::fromStdString(
                program_fingerprint(session.bench(), session.catalog(), *session.bench().board("gauge")));
        };
        QTRY_COMPARE_WITH_TIMEOUT(board().program, fingerprint(), 90000); // its core is compiled once
        QVERIFY2(board().restart == "power" || board().restart == "reset", qPrintable(board().restart));
        QTRY_VERIFY_WITH_TIMEOUT(session.worker().live().readings.contains("hut-air"), 15000);
        QTRY_VERIFY(air(session).value.ok());
        CLOSE(air(session).value.number, demo::air_temperature(20261, session.now()), 1.5);
        // Its parts are those of the bench around it.
        session.worker().sendCommand("gauge", "probe bath 40");
        QTRY_VERIFY_WITH_TIMEOUT(air(session).value.number > 35, 60000);
        session.worker().sendCommand("gauge", "interval 200");
        QTRY_COMPARE(board().answer, QStringLiteral("ok interval 200"));
        session.worker().sendCommand("gauge", "fault hangs");
        QTRY_COMPARE(board().answer, QStringLiteral("ok fault=hangs"));
        session.worker().sendCommand("gauge", "fault none");
        const QString before = fingerprint();
        session.editReading("rock", "pin", [](Reading& r) { r.wiring.set_pin("A3"); });
        QVERIFY(fingerprint() != before);
        const auto findings = session.views().findings(*session.bench().reading("rock"), session.worker().live());
        QVERIFY(std::any_of(findings.begin(), findings.end(),
                            [](const Finding& f) { return f.id == "board-runs-another-plan"; }));
        session.worker().setPlugged("gauge", false);
        session.worker().setPlugged("gauge", true);
        QTRY_COMPARE_WITH_TIMEOUT(board().program, fingerprint(), 30000);
        QTRY_VERIFY_WITH_TIMEOUT(session.worker().live().readings.at("rock").value.ok(), 20000);
        CLOSE(session.worker().live().readings.at("rock").value.number,
              demo::rock_temperature(20261, session.now()), 2.0);
    }
};

RUN_TESTS_OF(TestBoard)
#include "tst_board.moc"
