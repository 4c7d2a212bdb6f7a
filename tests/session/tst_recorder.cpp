// The recorder as a program: it records from a simulated board on a real port, is killed, started again, attached
// to, and asked to end. What it said was saved is there.
#include "session/recorder/recorder_control.h"
#include "session/session.h"
#include "store/samples/samples.h"
#include "store/upkeep/verify.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QElapsedTimer>
#include <QProcess>
#include <csignal>

using namespace cognitum;
using namespace cognitum::test;

namespace {

const QString recorder_program = QStringLiteral(COGNITUM_BIN_DIR "/cognitum-recorder");

/// A running recorder, and what it says.
class RunningRecorder {
  public:
    explicit RunningRecorder(const QString& bench) {
        process.setProcessChannelMode(QProcess::MergedChannels);
        process.start(recorder_program, {bench});
    }
    ~RunningRecorder() {
        process.kill();
        process.waitForFinished(5000);
    }
    bool says(const char* wanted) {
        QElapsedTimer clock;
        clock.start();
        while (!said.contains(wanted) && clock.elapsed() < 30'000) {
            if (process.state() == QProcess::NotRunning) break;
            process.waitForReadyRead(200);
            said += process.readAll();
        }
        said += process.readAll();
        return said.contains(wanted);
    }
    QProcess process;
    QByteArray said;
};

std::uint64_t samples_of(const QString& path) {
    auto file = BenchFile::open(path.toStdString(), Access::read);
    std::uint64_t out = 0;
    if (!file) return out;
    if (const auto all = extent(*file, "air")) out = all->n;
    return out;
}

} // namespace

class TestRecorder : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;
    QString m_bench;

  private slots:
    void initTestCase() {
        qputenv("XDG_RUNTIME_DIR", m_folder.path().toUtf8());
        m_bench = m_folder.filePath("small.cognitum");
        Bench bench = small_bench();
        bench.boards[0].link = {LinkKind::simulated, "", 115200, 1};
        VALUE_OF(made, BenchFile::create(m_bench.toStdString(), [&](BenchFile& file) -> Result<void> {
                     COGNITUM_CHECK(file.save_plan(bench));
                     return {};
                 }));
    }

    void usage() {
        QProcess none;
        none.start(recorder_program, {});
        QVERIFY(none.waitForFinished(20000));
        QCOMPARE(none.exitCode(), 2);
        none.start(recorder_program, {m_folder.filePath("nowhere.cognitum")});
        QVERIFY(none.waitForFinished(20000));
        QCOMPARE(none.exitCode(), 1);
        QVERIFY(none.readAllStandardError().contains("nowhere.cognitum"));
    }
    void killedStartedAgainAttachedAndEnded() {
        std::uint64_t saved = 0;
        {
            RunningRecorder recorder(m_bench);
            QVERIFY2(recorder.says("Records"), recorder.said.constData());
            RunningRecorder second(m_bench); // two on one bench
            QVERIFY(second.process.waitForFinished(20000));
            QCOMPARE(second.process.exitCode(), 1);
            QVERIFY2(second.says("Another recorder"), second.said.constData());

            Session window;
            QVERIFY(window.openBench(m_bench));
            QVERIFY(window.isAttached());
            QTRY_VERIFY_WITH_TIMEOUT(window.worker().live().recording.saved >= 4, 60000);
            const Live live = window.worker().live();
            QVERIFY(live.readings.at("air").value.ok());
            QVERIFY(window.now() - *live.readings.at("air").time < 3 * second_us);
            saved = live.recording.saved;
            QVERIFY(!window.worker().lines().since("gauge", 0, 0, 100).empty());
            ::kill(static_cast<pid_t>(recorder.process.processId()), SIGKILL);
            recorder.process.waitForFinished(5000);
            QTRY_VERIFY(!window.isAttached());
            window.closeBench();
        }
        QVERIFY(samples_of(m_bench) >= saved);
        {
            VALUE_OF(file, BenchFile::open(m_bench.toStdString(), Access::read));
            VALUE_OF(report, verify(file));
            QVERIFY2(report.problems.empty(), report.problems.empty() ? "" : report.problems[0].what.c_str());
        }

        RunningRecorder again(m_bench);
        QVERIFY2(again.says("Records"), again.said.constData());
        Session window;
        QVERIFY(window.openBench(m_bench));
        QVERIFY(window.isAttached());
        const std::uint64_t before = samples_of(m_bench);
        QTRY_VERIFY_WITH_TIMEOUT(samples_of(m_bench) >= before + 3, 60000);
        window.takeBack(); // this window listens in its place
        QTRY_VERIFY_WITH_TIMEOUT(window.lookOnly().isEmpty() && !window.isAttached(), 20000);
        QTRY_COMPARE_WITH_TIMEOUT(again.process.state(), QProcess::NotRunning, 20000);
        QCOMPARE(again.process.exitCode(), 0);
        QTRY_VERIFY_WITH_TIMEOUT(window.worker().live().recording.on, 10000); // and goes on recording
        window.closeBench();
    }
    void aWindowHandsOver() {
        Session window;
        QVERIFY(window.openBench(m_bench));
        QVERIFY(!window.isAttached());
        window.handOver();
        QVERIFY(!window.lookOnly().isEmpty()); // nothing is changed in between
        RunningRecorder recorder(m_bench);
        QVERIFY2(recorder.says("Records"), recorder.said.constData());
        window.lookAround();
        QVERIFY(window.isAttached() && window.lookOnly().isEmpty());
        recorder.process.terminate();
        QVERIFY(recorder.says("Told to end"));
        QVERIFY(recorder.process.waitForFinished(20000));
        window.closeBench();
    }
    void theUnitStartsTheProgramBesideThisOne() {
        const QString unit = RecorderControl::unitText("/opt/cognitum recorder");
        QVERIFY(unit.contains("ExecStart=\"/opt/cognitum recorder\" %f"));
        QVERIFY(unit.contains("WantedBy=default.target"));
    }
};

RUN_TESTS_OF(TestRecorder)
#include "tst_recorder.moc"
