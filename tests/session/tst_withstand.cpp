// The running bench under attack: its file replaced or taken away, its plan changed by another program, boards that
// flood, files that are no files.
#include "link/file_link.h"
#include "link/http_receiver.h"
#include "link/inbox.h"
#include "link/listening.h"
#include "link/secret.h"
#include "session/live/run_folder.h"
#include "session/live/worker_watch.h"
#include "store/upkeep/verify.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <QDir>
#include <QFile>
#include <QSignalSpy>
#include <QTcpSocket>
#include <filesystem>
#include <sys/stat.h>

using namespace cognitum;
using test::ClockedSession;

namespace {

std::vector<double> values_in(const std::string& path) {
    std::vector<double> out;
    auto file = BenchFile::open(path, Access::read);
    if (!file) return out;
    static_cast<void>(
        for_each_sample(*file, "air", earliest_time, latest_time, [&](std::span<const Sample> samples) {
            for (const Sample& s : samples)
                out.push_back(s.raw);
            return true;
        }));
    return out;
}

/// What a link said and brought.
struct Heard {
    explicit Heard(Link& link) {
        QObject::connect(&link, &Link::bytes, [this](const QByteArray& b) { bytes += b; });
        QObject::connect(&link, &Link::stateChanged, [this](LinkState, const QString& r) { reason = r; });
    }
    QByteArray bytes;
    QString reason;
};

QByteArray answer_to(int port, const QByteArray& request) {
    QTcpSocket client;
    client.connectToHost(QStringLiteral("127.0.0.1"), static_cast<quint16>(port));
    if (!client.waitForConnected(3000)) return "not connected";
    client.write(request);
    QByteArray answer;
    while (client.waitForReadyRead(5000)) {
        answer += client.readAll();
        if (answer.contains("\r\n\r\n")) break;
    }
    return answer.left(answer.indexOf('\r'));
}

QByteArray post_line(const QByteArray& more) {
    return "POST /in/b HTTP/1.1\r\n" + more + "Content-Length: 7\r\n\r\n{\"x\":1}";
}

} // namespace

class TestWithstand : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;

    void append(const QString& path, const QByteArray& bytes) {
        QFile file(path);
        QVERIFY(file.open(QIODevice::Append));
        file.write(bytes);
    }

  private slots:
    void initTestCase() { qputenv("XDG_DATA_HOME", m_folder.filePath("own").toUtf8()); }

    void aBenchThatIsReplacedWhileItRecords() {
        ClockedSession s;
        test::open_small_bench(s);
        QVERIFY(s.session.saveCopy(s.folder.filePath("other.cognitum")));
        const std::string path = s.session.path().toStdString();
        s.session.worker().startRecording();
        s.lines(20, 140);
        s.session.worker().endRecordingNow();
        s.session.worker().startRecording();
        s.lines(20, 141);
        QSignalSpy trouble(&s.session, &Session::trouble);
        std::filesystem::rename(path, path + ".old");
        std::filesystem::rename(s.folder.filePath("other.cognitum").toStdString(), path);
        s.lines(20, 142);
        s.session.lookAround();
        QVERIFY(!trouble.isEmpty() && trouble.last()[0].toString().contains("replaced"));
        s.lines(20, 143);
        s.session.edit("Rename", [](Bench& bench) { bench.readings[0].name = "Renamed"; });
        s.session.closeBench();
        const auto old = values_in(path + ".old"), now = values_in(path);
        QCOMPARE(old.size(), std::size_t(20));
        QCOMPARE(now.size(), std::size_t(60)); // what waited, and what came later
        VALUE_OF(file, BenchFile::open(path, Access::read));
        QVERIFY(verify(file)->problems.empty());
        QCOMPARE(file.load_plan()->readings[0].name, std::string("Renamed"));
    }
    void aBenchThatIsTakenAwayAndClosed() {
        ClockedSession s;
        test::open_small_bench(s);
        const std::string path = s.session.path().toStdString();
        QSignalSpy trouble(&s.session, &Session::trouble);
        std::filesystem::rename(path, path + ".away");
        s.session.worker().startRecording();
        s.lines(30, 140);
        s.session.edit("Rename", [](Bench& bench) { bench.readings[0].name = "Renamed"; });
        s.session.closeBench();
        QCoreApplication::processEvents();
        QStringList said;
        for (const auto& t : trouble)
            said << t[0].toString();
        QVERIFY2(said.join(' ').contains("30 sample"), qPrintable(said.join('\n')));
        QCOMPARE(QDir(s.folder.path()).entryList({"small.unsaved-2*.cognitum"}).size(), 1);
        QCOMPARE(QDir(s.folder.path()).entryList({"small.unsaved-plan-*.cognitum"}).size(), 1);
        std::filesystem::rename(path + ".away", path);
        QVERIFY(s.session.openBench(QString::fromStdString(path)));
        QVERIFY(trouble.last()[0].toString().contains("30 sample"));
        QCOMPARE(values_in(path).size(), std::size_t(30));
        QVERIFY(QDir(s.folder.path()).entryList({"small.unsaved-2*.cognitum"}).isEmpty());
    }
    void anotherProgramChangesThePlan() {
        ClockedSession s;
        test::open_small_bench(s);
        s.session.saveCopy(s.folder.filePath("copy.cognitum")); // which saves the plan
        VALUE_OF(other, BenchFile::open(s.session.path().toStdString(), Access::write));
        VALUE_OF(plan, other.load_plan());
        plan.readings.push_back(plan.readings[0]);
        plan.readings[1].id = plan.readings[1].name = "added";
        plan.readings[0].quantity.accuracy = 0.5;
        QVERIFY(other.save_plan(plan));
        s.session.lookAround();
        QVERIFY(s.session.bench().reading("added")); // seen without an edit here
        // And both at once: nothing is lost in silence.
        plan.readings[0].name = "Theirs";
        QVERIFY(other.save_plan(plan));
        QSignalSpy trouble(&s.session, &Session::trouble);
        s.session.edit("Rename", [](Bench& bench) { bench.readings[0].name = "Mine"; });
        QVERIFY(s.session.saveCopy(s.folder.filePath("copy2.cognitum")));
        QCOMPARE(s.session.bench().readings[0].name, std::string("Mine"));
        QVERIFY(!trouble.isEmpty() && trouble.last()[0].toString().contains("logbook"));
        QVERIFY(test::entries(s.session).front().text.find("Theirs") != std::string::npos);
    }
    void aSecondWindowIsTold() {
        ClockedSession first, second;
        test::open_small_bench(first);
        QSignalSpy trouble(&second.session, &Session::trouble);
        QVERIFY(second.session.openBench(first.session.path()));
        QVERIFY(!trouble.isEmpty() && trouble.last()[0].toString().contains("Another window"));
        first.session.closeBench();
        second.session.closeBench();
        trouble.clear();
        QVERIFY(second.session.openBench(first.folder.filePath("small.cognitum")));
        QVERIFY(trouble.isEmpty());
    }
    void samplesOfADamagedSeriesWaitAndTheOthersAreSaved() {
        ClockedSession s;
        test::open_small_bench(s);
        s.session.edit("Second", [](Bench& bench) {
            bench.readings.push_back(bench.readings[0]);
            bench.readings[1].id = bench.readings[1].name = "second";
        });
        s.session.worker().startRecording();
        s.lines(3, 140);
        s.session.worker().endRecordingNow();
        {
            std::vector<Sample> many;
            for (int i = 0; i < 5000; ++i)
                many.push_back({ClockedSession::start + (1000 + i) * second_us, 1, 1, Cause::none});
            const SeriesBatch batch{"air", many};
            QVERIFY(add_samples(*test::bench_file(s.session), std::span(&batch, 1)));
            test::bench_file(s.session)->db().exec("UPDATE block SET data = x'00' WHERE level = 0");
        }
        s.session.worker().startRecording();
        s.lines(5, 141); // among the damaged ones of "air"
        s.session.worker().endRecordingNow();
        const LiveRecording recording = s.session.worker().live().recording;
        QCOMPARE(recording.waiting, std::uint64_t(5));
        QVERIFY2(recording.trouble.contains("air"), qPrintable(recording.trouble));
        QCOMPARE(extent(*test::bench_file(s.session), "second")->n, std::uint64_t(8));
    }

    void aWorkerThatDoesNotComeBackIsNamed() {
        WorkerWatch watch;
        const WorkerWatch::Moment start{};
        using std::chrono::seconds;
        QVERIFY(!watch.stuck(seconds(3), start + seconds(100)));
        watch.begin("shed", start);
        QVERIFY(!watch.stuck(seconds(3), start + seconds(2)));
        const auto busy = watch.stuck(seconds(3), start + seconds(4));
        QVERIFY(busy && busy->board == "shed");
        watch.end();
        QVERIFY(!watch.stuck(seconds(3), start + seconds(100)));
    }
    void theInboxIsBoundedInBytes() {
        int woken = 0;
        const auto wake = [&] { ++woken; };
        Inbox<int> refuses;
        for (int i = 0; i < 9; ++i)
            QCOMPARE(refuses.push(i, 1 << 20, wake), i < 8);
        QCOMPARE(refuses.dropped(), std::uint64_t(1));
        QCOMPARE(refuses.drain().front(), 0);
        Inbox<int> newest(WhenFull::drop_oldest);
        QVERIFY(newest.push(-1, 0, wake)); // small, and never dropped
        for (int i = 0; i < 20; ++i)
            QVERIFY(newest.push(i, 1 << 20, wake));
        const auto kept = newest.drain();
        QCOMPARE(kept.size(), std::size_t(9));
        QCOMPARE(kept.front(), -1);
        QCOMPARE(kept[1], 12);
        QCOMPARE(kept.back(), 19);
        QCOMPARE(newest.dropped(), std::uint64_t(12));
        QVERIFY(!newest.push(1, 9 << 20, wake)); // alone it is too large
        QCOMPARE(woken, 2);
    }

    void aPageOfSomebodyElseIsRefused() {
        auto receiver = std::make_shared<HttpReceiver>(0, false);
        HttpLink link(LinkPlan{}, "b", receiver);
        const Heard heard(link);
        link.start();
        const int port = receiver->port();
        QCOMPARE(answer_to(port, post_line("Host: 127.0.0.1\r\n")), QByteArray("HTTP/1.1 200 OK"));
        QCOMPARE(answer_to(port, post_line("Host: localhost:1\r\nOrigin: http://localhost:1\r\n")),
                 QByteArray("HTTP/1.1 200 OK"));
        for (const char* more : {"Host: evil.example\r\n", "Host: 127.0.0.1\r\nOrigin: http://evil.example\r\n",
                                 "Host: 127.0.0.1\r\nOrigin: null\r\n"})
            QCOMPARE(answer_to(port, post_line(more)), QByteArray("HTTP/1.1 403 Forbidden"));
        QTRY_VERIFY(heard.reason.contains("refused"));
        QVERIFY(
            !answer_to(port, "POST /in/b HTTP/1.1\r\nHost: 127.0.0.1\r\nX: " + QByteArray(40000, 'x') + "\r\n\r\n")
                 .contains("200"));
        QVERIFY(!answer_to(port, "POST /" + QByteArray(40000, 'x')).contains("200"));
        QCOMPARE(answer_to(port, "PUT /in/b HTTP/1.1\r\nHost: 127.0.0.1\r\n\r\n"),
                 QByteArray("HTTP/1.1 405 Method Not Allowed"));
        QCOMPARE(answer_to(port, post_line("Host: 127.0.0.1\r\n")), QByteArray("HTTP/1.1 200 OK"));
    }
    void aStrangersBenchIsAskedBeforeItListensWide() {
        LinkPlan plan;
        plan.kind = LinkKind::http;
        plan.http = {0, true, token_print(new_token())};
        QVERIFY(!is_wide_allowed(plan.http));
        auto receiver = std::make_shared<HttpReceiver>(0, is_wide_allowed(plan.http));
        HttpLink link(plan, "b", receiver);
        QSignalSpy asked(&link, &Link::permissionWanted);
        link.start();
        QCOMPARE(asked.size(), 1);
        QVERIFY(!receiver->isWide() && receiver->port() > 0);
        allow_wide(plan.http);
        link.allowWide();
        QVERIFY(receiver->isWide());
        QVERIFY(is_wide_allowed(plan.http));
        plan.http.token_print = token_print(new_token());
        QVERIFY(!is_wide_allowed(plan.http)); // another token is another question
    }

    void aLogThatIsRenamedIsReadToItsEnd() {
        const QString path = m_folder.filePath("log.csv");
        append(path, "1\n2\n");
        FileLink link({path.toStdString(), true, 0});
        const Heard heard(link);
        link.start();
        QTRY_COMPARE(heard.bytes, QByteArray("1\n2\n"));
        QVERIFY(QFile::rename(path, path + ".1"));
        append(path, "5\n");
        append(path + ".1", "3\n4"); // its writer is still at it, and ends without a line's end
        QTRY_COMPARE(heard.bytes, QByteArray("1\n2\n3\n4\n5\n"));
        append(path, "6\n");
        QTRY_COMPARE(heard.bytes, QByteArray("1\n2\n3\n4\n5\n6\n"));
    }
    void aLogThatIsCutIsReadAnew() {
        const QString path = m_folder.filePath("cut.csv");
        append(path, "11\n12\nhal");
        FileLink link({path.toStdString(), true, 0});
        const Heard heard(link);
        link.start();
        QTRY_COMPARE(heard.bytes, QByteArray("11\n12\nhal"));
        QFile cut(path);
        QVERIFY(cut.open(QIODevice::WriteOnly | QIODevice::Truncate));
        cut.write("21\n22\n23\n24\n25\n"); // longer than before at once
        cut.close();
        QTRY_COMPARE(heard.bytes, QByteArray("11\n12\nhal\n21\n22\n23\n24\n25\n"));
    }
    void aFolderGoesOnWithItsNextFile() {
        QVERIFY(QDir(m_folder.path()).mkpath("logs"));
        append(m_folder.filePath("logs/1.csv"), "1\n");
        FileLink link({m_folder.filePath("logs").toStdString(), true, 0});
        const Heard heard(link);
        link.start();
        QTRY_COMPARE(heard.bytes, QByteArray("1\n"));
        append(m_folder.filePath("logs/2.csv"), "2\n");
        QTRY_COMPARE(heard.bytes, QByteArray("1\n2\n"));
        QVERIFY(QFile::rename(m_folder.filePath("logs/2.csv"), m_folder.filePath("logs/2.csv.old")));
        append(m_folder.filePath("logs/3.csv"), "3\n");
        QTRY_COMPARE(heard.bytes, QByteArray("1\n2\n3\n")); // what was renamed is not read twice
    }
    void aPipeIsNoFile() {
        const QString path = m_folder.filePath("pipe");
        QCOMPARE(::mkfifo(path.toUtf8().constData(), 0600), 0);
        FileLink link({path.toStdString(), true, 0});
        const Heard heard(link);
        link.start(); // and does not wait for a writer
        QVERIFY2(heard.reason.contains("no file"), qPrintable(heard.reason));
        for (const char* other : {"/dev/null", "/dev/zero"})
            QVERIFY(!open_regular_file(other));
    }
    void foldersOfTheDeadAreRemoved() {
        const QString dead = QDir::temp().filePath("cognitum-run-999999999-test");
        QVERIFY(QDir().mkpath(dead + "/inner"));
        QString mine;
        {
            const RunFolder folder;
            mine = folder.path();
            QVERIFY2(QDir(mine).exists(), qPrintable(mine));
        }
        QVERIFY(!QDir(dead).exists());
        QVERIFY(!QDir(mine).exists());
    }
};

RUN_TESTS_OF(TestWithstand)
#include "tst_withstand.moc"
