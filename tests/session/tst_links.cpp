// Links on a real broker, a real HTTP client and real files, alone and with simulated boards at their far ends.
#include "core/bench/stored.h"
#include "link/file_link.h"
#include "link/http_receiver.h"
#include "link/make_link.h"
#include "link/mqtt_link.h"
#include "link/secret.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <QDeadlineTimer>
#include <QProcess>
#include <QTcpSocket>
#include <httplib.h>
#include <thread>

using namespace cognitum;

namespace {

/// What a link says, kept.
class Listener : public QObject {
  public:
    explicit Listener(Link& link) {
        connect(&link, &Link::stateChanged, this, [this](LinkState s, const QString& r) {
            state = s;
            reason = r;
            ++changes;
        });
        connect(&link, &Link::message, this, [this](const LinkMessage& m) { messages.append(m); });
        connect(&link, &Link::bytes, this, [this](const QByteArray& b) { bytes += b; });
    }
    LinkState state = LinkState::closed;
    QString reason;
    int changes = 0;
    QList<LinkMessage> messages;
    QByteArray bytes;
};

LinkPlan mqtt_plan(int port, int version = 4) {
    LinkPlan plan;
    plan.kind = LinkKind::mqtt;
    plan.mqtt.host = "127.0.0.1";
    plan.mqtt.port = port;
    plan.mqtt.version = version;
    plan.mqtt.topics = "shed/+ other/#";
    plan.mqtt.status_topic = "shed/status";
    plan.mqtt.command_topic = "shed/command";
    return plan;
}

/// Posts off this thread, while the receiver's link lives in it.
int post(int port, const std::string& board, const std::string& body, const std::string& token) {
    int status = 0;
    std::atomic<bool> done = false;
    std::thread client([&] {
        httplib::Client http("127.0.0.1", port);
        const httplib::Headers headers = token.empty() ? httplib::Headers{} : httplib::Headers{{"X-Token", token}};
        const auto answer = http.Post("/in/" + board, headers, body, "application/json");
        status = answer ? answer->status : -1;
        done = true;
    });
    while (!done)
        QCoreApplication::processEvents(QEventLoop::AllEvents, 5);
    client.join();
    return status;
}

} // namespace

class TestLinks : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;

  private slots:
    void messagesComeThroughARealBroker_data() {
        QTest::addColumn<int>("version");
        QTest::newRow("3.1.1") << 4;
        QTest::newRow("5") << 5;
    }
    void messagesComeThroughARealBroker() {
        QFETCH(int, version);
        LocalBroker broker;
        const int port = broker.port();
        QVERIFY2(port > 0, qPrintable(broker.trouble()));
        MqttLink board(mqtt_plan(port, version)); // plays the board: what it sends goes to shed/command
        Listener heard_by_board(board);
        MqttLink link(mqtt_plan(port, version));
        Listener heard(link);
        board.start();
        link.start();
        QTRY_COMPARE_WITH_TIMEOUT(heard.state, LinkState::open, 10000);
        QTRY_COMPARE_WITH_TIMEOUT(heard_by_board.state, LinkState::open, 10000);
        board.send("{\"t\":21.5}");
        QTRY_COMPARE(heard.messages.size(), 1);
        QCOMPARE(heard.messages[0].channel, QStringLiteral("shed/command"));
        QCOMPARE(heard.messages[0].payload, QByteArray("{\"t\":21.5}"));
        QVERIFY(!heard.messages[0].kept);
    }
    void aBrokerThatIsKilledIsFoundAgain() {
        auto broker = std::make_unique<LocalBroker>();
        const int port = broker->port();
        MqttLink link(mqtt_plan(port));
        Listener heard(link);
        link.start();
        QTRY_COMPARE_WITH_TIMEOUT(heard.state, LinkState::open, 10000);
        for (int round = 0; round < 2; ++round) {
            broker->kill();
            QTRY_COMPARE_WITH_TIMEOUT(heard.state, LinkState::lost, 10000);
            QVERIFY(heard.reason.contains(QStringLiteral("by itself")));
            QCOMPARE(broker->port(), port); // started again where it was
            QTRY_COMPARE_WITH_TIMEOUT(heard.state, LinkState::open, 20000);
        }
    }
    /// It has its settings from the start: it needs no turn of the event loop, in which its starter may be killed.
    void aBrokerWaitsForNobody() {
        LocalBroker broker;
        const int port = broker.port();
        QVERIFY2(port != 0, qPrintable(broker.trouble()));
        QTcpSocket socket;
        bool listens = false;
        for (QDeadlineTimer end(10000); !listens && !end.hasExpired();) {
            socket.connectToHost(QHostAddress::LocalHost, static_cast<quint16>(port));
            listens = socket.waitForConnected(100); // no other event is taken meanwhile
            if (!listens) socket.abort();
        }
        QVERIFY(listens);
    }
    void aBrokerThatIsNotThereIsSaid() {
        MqttLink link(mqtt_plan(1));
        Listener heard(link);
        link.start();
        QTRY_COMPARE_WITH_TIMEOUT(heard.state, LinkState::lost, 10000);
        QVERIFY2(heard.reason.contains("127.0.0.1:1"), qPrintable(heard.reason));
    }
    /// A name that nobody has (RFC 2606) is told, without holding up the thread that asked.
    void aBrokersNameIsLookedUpWithoutWaiting() {
        LinkPlan plan = mqtt_plan(1883);
        plan.mqtt.host = "broker.invalid";
        MqttLink link(plan);
        Listener heard(link);
        link.start();
        QCOMPARE(heard.state, LinkState::opening); // nothing was waited for
        QTRY_COMPARE_WITH_TIMEOUT(heard.state, LinkState::lost, 30000);
        QVERIFY2(heard.reason.contains("broker.invalid") && heard.reason.contains("by itself"),
                 qPrintable(heard.reason));
    }
    void aSecretIsAskedForAndNeverInThePlan() {
        LinkPlan plan = mqtt_plan(1);
        plan.mqtt.log_in = true;
        MqttLink link(plan);
        QString wanted;
        connect(&link, &Link::secretWanted, this, [&](const QString& what) { wanted = what; });
        link.start();
        QVERIFY(wanted.contains("127.0.0.1"));
        link.logIn("warden", "s3cret-word");
        QVERIFY(write_described(plan).dump().find("s3cret") == std::string::npos);
        QVERIFY(!mqtt_refusal(4, 4).isEmpty());
        QVERIFY(mqtt_refusal(0, 5).isEmpty());
    }
    void theWillAndKeptMessagesAreToldFromLiveOnes() {
        LocalBroker broker;
        const int port = broker.port();
        SessionOptions options;
        Session session(options);
        QVERIFY(session.createBench(m_folder.filePath("will.cognitum"), "Will"));
        session.edit("Fill", [&](Bench& bench) {
            BoardUse shed;
            shed.id = shed.name = "shed";
            shed.link = mqtt_plan(port);
            bench.boards.push_back(shed);
        });
        QTRY_VERIFY_WITH_TIMEOUT(session.worker().live().boards.count("shed") &&
                                     session.worker().live().boards.at("shed").state == LinkState::open,
                                 10000);
        QProcess board;
        board.start(QStringLiteral(COGNITUM_BIN_DIR "/cognitum-simboard"),
                    {"--board", "shed", "--mqtt", QStringLiteral("127.0.0.1:%1").arg(port)});
        QTRY_VERIFY_WITH_TIMEOUT(session.worker().live().boards.at("shed").lines > 2, 15000);
        QVERIFY(session.worker().live().boards.at("shed").reason.isEmpty());
        board.kill(); // its will is published by the broker
        board.waitForFinished();
        QTRY_VERIFY_WITH_TIMEOUT(session.worker().live().boards.at("shed").reason.contains("left"), 20000);
    }

    void postsArriveWithTheirToken() {
        auto receiver = std::make_shared<HttpReceiver>(0, false);
        LinkPlan plan;
        plan.kind = LinkKind::http;
        const QString token = new_token();
        QCOMPARE(token.size(), 32);
        QVERIFY(new_token() != token);
        plan.http.token_print = token_print(token);
        HttpLink link(plan, "pump-house", receiver);
        Listener heard(link);
        link.start();
        QCOMPARE(heard.state, LinkState::open);
        const int port = receiver->port();
        QVERIFY(port > 0);
        QCOMPARE(post(port, "pump-house", "{\"lux\":12}", token.toStdString()), 200);
        QTRY_COMPARE(heard.messages.size(), 1);
        QCOMPARE(heard.messages[0].payload, QByteArray("{\"lux\":12}"));
        QCOMPARE(post(port, "pump-house", "{\"lux\":13}", ""), 401);
        QTRY_VERIFY(heard.reason.contains("without its token"));
        QCOMPARE(post(port, "pump-house", "{\"lux\":13}", "guess"), 401);
        QTRY_VERIFY(heard.reason.contains("wrong token"));
        QCOMPARE(post(port, "nobody", "{}", token.toStdString()), 404);
        QCOMPARE(heard.messages.size(), 1);
        QCOMPARE(receiver->refused().at("wrong token"), std::uint64_t(1));
        // A command waits for the next post.
        link.send("report\n");
        QCOMPARE(post(port, "pump-house", "{\"lux\":14}", token.toStdString()), 200);
        link.stop();
        QCOMPARE(post(port, "pump-house", "{}", token.toStdString()), 404);
    }
    void aBodyOfAGigabyteIsNotRead() {
        auto receiver = std::make_shared<HttpReceiver>(0, false);
        LinkPlan plan;
        HttpLink link(plan, "b", receiver);
        Listener heard(link);
        link.start();
        const auto try_with = [&](const QByteArray& head, const QByteArray& piece) {
            QTcpSocket client;
            client.connectToHost(QStringLiteral("127.0.0.1"), static_cast<quint16>(receiver->port()));
            QVERIFY(client.waitForConnected(3000));
            client.write("POST /in/b HTTP/1.1\r\nHost: 127.0.0.1\r\n" + head + "\r\n");
            qint64 sent = 0;
            for (int i = 0; i < 2000 && client.state() == QAbstractSocket::ConnectedState; ++i) {
                client.write(piece);
                sent += piece.size();
                client.waitForBytesWritten(20);
                QCoreApplication::processEvents();
                if (client.bytesAvailable() > 0) break;
            }
            client.waitForReadyRead(6000);
            const QByteArray answer = client.readAll();
            QVERIFY2(answer.startsWith("HTTP/1.1 413") ||
                         (answer.isEmpty() && client.state() != QAbstractSocket::ConnectedState),
                     answer.left(60).constData());
            QVERIFY(sent < 64'000'000);
        };
        try_with("Content-Length: 1073741824\r\n", QByteArray(16384, 'x'));
        try_with("Transfer-Encoding: chunked\r\n", "4000\r\n" + QByteArray(0x4000, 'x') + "\r\n");
        QVERIFY(heard.messages.isEmpty());
        QCOMPARE(post(receiver->port(), "b", "{\"x\":1}", ""), 200); // and it still takes good ones
    }
    void aFloodOfPostsIsHeldBack() {
        auto receiver = std::make_shared<HttpReceiver>(0, false);
        LinkPlan plan;
        HttpLink link(plan, "b", receiver);
        Listener heard(link);
        link.start();
        int refused = 0;
        std::atomic<bool> done = false;
        std::thread flood([&] {
            httplib::Client http("127.0.0.1", receiver->port());
            http.set_keep_alive(true);
            for (int i = 0; i < 3 * HttpReceiver::most_per_second; ++i)
                if (const auto answer = http.Post("/in/b", "{\"x\":1}", "application/json");
                    answer && answer->status == 429)
                    ++refused;
            done = true;
        });
        while (!done)
            QCoreApplication::processEvents(QEventLoop::AllEvents, 5);
        flood.join();
        QTRY_COMPARE(heard.messages.size() + refused,
                     3 * HttpReceiver::most_per_second); // all told, none lost in silence
    }
    void withoutATokenItDoesNotListenWide() {
        LinkPlan plan;
        plan.http.wide = true;
        HttpLink link(plan, "b", std::make_shared<HttpReceiver>(0, true));
        Listener heard(link);
        link.start();
        QCOMPARE(heard.state, LinkState::lost);
        QVERIFY(heard.reason.contains("token"));
    }
    void aTakenPortIsSaid() {
        auto first = std::make_shared<HttpReceiver>(0, false);
        QVERIFY(first->listen().isEmpty());
        HttpReceiver second(first->port(), false);
        QVERIFY(second.listen().contains(QString::number(first->port())));
    }

    void aFileIsReadAndFollowed() {
        const QString path = m_folder.filePath("log.csv");
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("time,t\n2026-06-01T09:00:00Z,1\n");
        file.flush();
        FileLink link({path.toStdString(), true, 0});
        Listener heard(link);
        link.start();
        QTRY_COMPARE(heard.bytes.count('\n'), 2);
        file.write("2026-06-01T09:00:01Z,2\n");
        file.flush();
        QTRY_COMPARE(heard.bytes.count('\n'), 3);
        QVERIFY(file.resize(0)); // begun anew
        file.seek(0);
        file.write("time,t\n");
        file.flush();
        QTRY_COMPARE(heard.bytes.count('\n'), 4);
    }
    void aFileThatIsNotThereIsWaitedFor() {
        const QString path = m_folder.filePath("later.csv");
        FileLink link({path.toStdString(), true, 0});
        Listener heard(link);
        link.start();
        QCOMPARE(heard.state, LinkState::lost);
        QVERIFY(heard.reason.contains("later.csv"));
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("1\n");
        file.close();
        QTRY_COMPARE(heard.bytes, QByteArray("1\n"));
    }
    void aFolderIsReadInTheOrderOfItsNames() {
        const QDir dir(m_folder.filePath("days"));
        QVERIFY(dir.mkpath("."));
        for (const char* name : {"b.csv", "a.csv", "c.csv"}) {
            QFile file(dir.filePath(QLatin1String(name)));
            QVERIFY(file.open(QIODevice::WriteOnly));
            file.write(QByteArray(name) + "\n");
        }
        FileLink link({dir.path().toStdString(), false, 0});
        Listener heard(link);
        link.start();
        QTRY_COMPARE(heard.bytes, QByteArray("a.csv\nb.csv\nc.csv\n"));
        QTRY_COMPARE(heard.state, LinkState::closed);
    }
    void aReplayKeepsItsPace() {
        const QString path = m_folder.filePath("paced.csv");
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        for (int s = 0; s < 4; ++s)
            file.write(
                QStringLiteral("2026-06-01T09:00:%1Z,%2\n").arg(10 * s, 2, 10, QLatin1Char('0')).arg(s).toUtf8());
        file.close();
        FileLink link({path.toStdString(), false, 100}); // ten seconds in a tenth of one
        Listener heard(link);
        QElapsedTimer clock;
        clock.start();
        link.start();
        QTRY_COMPARE(heard.bytes.count('\n'), 4);
        QVERIFY2(clock.elapsed() >= 295, qPrintable(QString::number(clock.elapsed())));
        QCOMPARE(*time_in_line("x,2026-06-01T09:00:10Z,4"), *parse_time("2026-06-01T09:00:10Z"));
        QVERIFY(!time_in_line("12,4000,512"));
    }

    void everyReadingOfTheDemoIsAlive() {
        Session session;
        QVERIFY(test::open_demo(session, m_folder.filePath("demo.cognitum")));
        const auto dead = [&] {
            QStringList out;
            const Live live = session.worker().live();
            for (const Reading& r : session.bench().readings) {
                const auto known = live.readings.find(r.id);
                if (known == live.readings.end() || !known->second.value.ok())
                    out << QString::fromStdString(r.id) + QStringLiteral(": ") +
                               (known == live.readings.end() ? QStringLiteral("nothing")
                                                             : QString::fromStdString(known->second.cause));
            }
            return out;
        };
        [&] { QTRY_VERIFY_WITH_TIMEOUT(dead().isEmpty(), 90000); }();
        QVERIFY2(dead().isEmpty(), qPrintable(dead().join("; ")));
        std::set<LinkKind> kinds;
        for (const BoardUse& board : session.bench().boards)
            kinds.insert(board.link.kind);
        QCOMPARE(kinds.size(), std::size_t(4));
        // A fault at the far end of each kind of link shows at its reading.
        session.worker().sendCommand("gauge", "fault flue-open");
        session.worker().sendCommand("shed", "fault no-echo");
        session.worker().sendCommand("pump-house", "fault overflow");
        QTRY_VERIFY_WITH_TIMEOUT(!session.worker().live().readings.at("stove-flue").value.ok(), 10000);
        LiveReading tide; // four echoes in ten are lost: asked until one was, and that one is kept
        const auto lost = [&] {
            if (tide.value.cause == Cause::failed) return true;
            session.worker().sendCommand("shed", "report");
            tide = session.worker().live().readings.at("tide-pool");
            return tide.value.cause == Cause::failed;
        };
        QTRY_VERIFY_WITH_TIMEOUT(lost(), 40000);
        QVERIFY(tide.cause.find("no echo") != std::string::npos);
        QVERIFY(std::isnan(tide.value.number)); // not "tank full"
    }
};

RUN_TESTS_OF(TestLinks)
#include "tst_links.moc"
