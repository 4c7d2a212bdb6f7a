// Rules while lines come: judged, kept in the logbook, told once, also over a restart; on a real desktop bus and a
// real broker.
#include "link/mqtt_link.h"
#include "session/archive/watch_record.h"
#include "store/file/open_files.h"
#include "support/run_tests.h"
#include "support/watched.h"

#include <QDBusConnection>
#include <QDBusMessage>
#include <QProcess>
#include <QSignalSpy>
#include <QTcpServer>

using namespace cognitum;
using namespace cognitum::test;

namespace {

/// Answers as a desktop's notification service does, on a bus of its own.
class Desktop : public QObject {
    Q_OBJECT
    Q_CLASSINFO("D-Bus Interface", "org.freedesktop.Notifications")

  public slots:
    uint Notify(const QString& app, uint replaces, const QString&, const QString& title, const QString& text,
                const QStringList&, const QVariantMap& hints, int timeout) {
        shown << QStringList{app,
                             QString::number(replaces),
                             title,
                             text,
                             hints.value("urgency").toString(),
                             hints.value("sound-name").toString(),
                             QString::number(timeout)};
        return 41 + static_cast<uint>(shown.size());
    }

  public:
    QList<QStringList> shown;
};

int free_port() {
    QTcpServer server;
    server.listen(QHostAddress::LocalHost);
    return server.serverPort();
}

struct Broker {
    QProcess process;
    int port = free_port();
    Broker() { start(); }
    void start() {
        process.start("mosquitto", {"-p", QString::number(port)});
        process.waitForStarted(10000);
    }
    ~Broker() {
        process.kill();
        process.waitForFinished(5000);
    }
};

} // namespace

class TestLiveWatch : public QObject {
    Q_OBJECT

    QProcess m_bus;

  private slots:
    void initTestCase() {
        m_bus.start("dbus-daemon", {"--session", "--nofork", "--print-address"});
        QVERIFY2(m_bus.waitForStarted(10000) && m_bus.waitForReadyRead(10000),
                 "dbus-daemon is needed: tools/install");
        qputenv("DBUS_SESSION_BUS_ADDRESS", m_bus.readLine().trimmed());
    }
    void cleanupTestCase() {
        m_bus.kill();
        m_bus.waitForFinished(5000);
    }

    void raisedOnceAndOver() {
        Watched w;
        w.send_lines(2, warm);
        QVERIFY(w.told.isEmpty());
        w.send_lines(60, warm);
        QCOMPARE(w.told.size(), 1); // sixty lines above the limit are one notice
        QCOMPARE(w.told[0].title, QStringLiteral("Air: Too warm"));
        QVERIFY2(w.told[0].text.contains("above 24"), qPrintable(w.told[0].text));
        w.send_lines(20, cool);
        QCOMPARE(w.told.size(), 2);
        QVERIFY(w.told[1].over);
        const QStringList alerts = w.alerts();
        QCOMPARE(alerts.size(), 2); // and the band says nothing beside the rule
        QVERIFY2(alerts[0].startsWith("alert: Air: Too warm.") && alerts[1].startsWith("recovery: "),
                 qPrintable(alerts.join('\n')));
    }
    void aRuleThatIsOffSaysNothing() {
        Watched w;
        w.session.edit("Off", [](Bench& bench) { bench.watch_rules[0].on = false; });
        w.send_lines(10, warm);
        QVERIFY(w.told.isEmpty());
        QVERIFY(w.session.worker().live().rules.empty());
    }
    void seenAndUrgent() {
        WatchRule rule = too_warm();
        rule.escalate_s = 600;
        Watched w(rule);
        w.send_lines(5, warm);
        QVERIFY(w.session.worker().live().rules.at("warm").unseen);
        w.wait(700);
        QCOMPARE(w.told.size(), 2);
        QVERIFY(w.told[1].urgent && w.told[1].rank == WatchRank::bad);
        w.session.worker().seen("warm");
        w.settle();
        QVERIFY(!w.session.worker().live().rules.at("warm").unseen);
    }
    void nothingForTenMinutes() {
        WatchRule rule = too_warm();
        rule.name = "No word";
        rule.count = 1;
        rule.conditions[0].when = WatchWhen::silent;
        rule.conditions[0].value = 600;
        rule.conditions[0].clear.reset();
        Watched w(rule);
        w.send_lines(5, cool);
        w.wait(599);
        QVERIFY(w.told.isEmpty());
        w.wait(5);
        QCOMPARE(w.told.size(), 1);
        QVERIFY(w.told[0].text.contains("Nothing came for 10"));
        w.wait(3600);
        QCOMPARE(w.told.size(), 1);
        w.send_lines(1, cool);
        QVERIFY(w.told.last().over);
    }
    void aQuietNight() {
        Watched w; // it is 14:31 UTC
        w.session.edit("Quiet", [](Bench& bench) { bench.telling.quiet = {14 * 60, 16 * 60}; });
        w.send_lines(5, warm);
        QVERIFY(w.told.isEmpty());
        QCOMPARE(w.alerts().size(), 1); // the logbook has it at once
        w.wait(3600);
        QVERIFY(w.told.isEmpty());
        w.wait(3600);
        QCOMPARE(w.told.size(), 1);
    }
    void aRestartTellsNothingAgain() {
        QString path;
        TimeUs now = 0;
        QTemporaryDir kept;
        {
            Watched w;
            w.session.worker().startRecording();
            w.send_lines(30, warm);
            QCOMPARE(w.told.size(), 1);
            w.session.worker().endRecordingNow();
            path = kept.filePath("kept.cognitum");
            QVERIFY(w.session.saveCopy(path));
            now = w.now;
        }
        ClockedSession again;
        again.now = now + 5 * second_us;
        int told = 0;
        connect(&again.session.messenger(), &Messenger::told, this, [&] { ++told; });
        QVERIFY(again.session.openBench(path));
        again.settle();
        QVERIFY(again.session.worker().live().rules.at("warm").raised);
        again.session.worker().passTimeNow();
        again.lines(10, warm);
        again.settle();
        QCoreApplication::processEvents();
        QCOMPARE(told, 0);
        again.lines(10, cool); // its end is told
        again.settle();
        QCoreApplication::processEvents();
        QCOMPARE(told, 1);
    }
    void whoOnlyLooksTellsNothing() {
        Watched w;
        ClockedSession other;
        other.now = w.now.load();
        int told = 0;
        connect(&other.session.messenger(), &Messenger::told, this, [&] { ++told; });
        w.session.savePlan();
        QVERIFY(other.session.openBench(w.session.path()));
        QVERIFY(!other.session.lookOnly().isEmpty());
        other.settle();
        QVERIFY(other.session.worker().live().rules.empty());
        other.session.messenger().tryNow();
        QCOMPARE(told, 0);
    }

    void theDesktopShowsIt() {
        Watched w;
        QSignalSpy changed(&w.session.messenger(), &Messenger::changed);
        w.session.messenger().tryNow();
        QTRY_VERIFY(!changed.isEmpty());
        QVERIFY2(!w.session.messenger().desktopTrouble().isEmpty(), "no service answers yet");
        Desktop desktop;
        QDBusConnection bus =
            QDBusConnection::connectToBus(qEnvironmentVariable("DBUS_SESSION_BUS_ADDRESS"), "desktop");
        QVERIFY(bus.registerObject("/org/freedesktop/Notifications", &desktop, QDBusConnection::ExportAllSlots));
        QVERIFY(bus.registerService("org.freedesktop.Notifications"));
        w.session.edit("Sound", [](Bench& bench) {
            bench.telling.sound = true;
            bench.watch_rules[0].name = "Warm <b>& dry</b>";
        });
        w.send_lines(5, warm);
        QTRY_COMPARE(desktop.shown.size(), 1);
        QCOMPARE(desktop.shown[0][0], QStringLiteral("Cognitum"));
        QCOMPARE(desktop.shown[0][2], QStringLiteral("Air: Warm <b>& dry</b>"));
        QVERIFY(!desktop.shown[0][3].contains('<'));
        QVERIFY(!desktop.shown[0][5].isEmpty());
        QTRY_VERIFY(w.session.messenger().desktopTrouble().isEmpty());
        // A click leads to its reading; the choice of another program's notice does not.
        QSignalSpy wanted(&w.session.messenger(), &Messenger::readingWanted);
        const auto desktop_says = [&](const char* what, uint number, const QString& word) {
            QDBusMessage says = QDBusMessage::createSignal("/org/freedesktop/Notifications",
                                                           "org.freedesktop.Notifications", QLatin1String(what));
            says.setArguments({number, word});
            QVERIFY(bus.send(says));
        };
        desktop_says("ActionInvoked", 7, "default");
        desktop_says("ActivationToken", 42, "a-token");
        desktop_says("ActionInvoked", 42, "default");
        QTRY_COMPARE(wanted.size(), 1);
        QCOMPARE(wanted[0][0].toString(), QStringLiteral("air"));
        QCOMPARE(wanted[0][1].toString(), QStringLiteral("a-token"));
        w.send_lines(10, cool);
        QTRY_COMPARE(desktop.shown.size(), 2);
        QCOMPARE(desktop.shown[1][1], QStringLiteral("42")); // it takes the first one's place
        w.session.edit("None", [](Bench& bench) { bench.telling.desktop = false; });
        w.session.messenger().tryNow(); // is not shown
        w.session.edit("Again", [](Bench& bench) { bench.telling.desktop = true; });
        w.session.messenger().tryNow();
        QTRY_COMPARE(desktop.shown.size(), 3);
        QCOMPARE(desktop.shown[2][2], QStringLiteral("A trial"));
        QDBusConnection::disconnectFromBus("desktop");
    }
    void aBrokerHasTheValues() {
        Broker broker;
        Watched w;
        LinkPlan plan;
        plan.kind = LinkKind::mqtt;
        plan.mqtt.host = "127.0.0.1";
        plan.mqtt.port = broker.port;
        plan.mqtt.topics = "point/#";
        QMap<QString, QByteArray> seen;
        MqttLink reader(plan);
        connect(&reader, &Link::message, this, [&](const LinkMessage& m) { seen[m.channel] = m.payload; });
        reader.start();
        w.session.edit("Publish", [&](Bench& bench) {
            bench.publishing.host = "127.0.0.1";
            bench.publishing.port = broker.port;
            bench.publishing.topic = "point";
            bench.publishing.readings = {"air", "gone"};
            bench.telling.broker = true;
        });
        w.send_lines(5, cool);
        w.session.messenger().publishNow();
        QTRY_VERIFY_WITH_TIMEOUT(seen.contains("point/air"), 15000);
        const Json value = Json::parse(seen["point/air"].toStdString());
        QCOMPARE(value["name"].get<std::string>(), std::string("Air"));
        QCOMPARE(value["unit"].get<std::string>(), std::string("degC"));
        CLOSE(value["value"].get<double>(), w.session.worker().live().readings.at("air").value.number, 1e-9);
        QVERIFY(value["doubt"].get<double>() > 0.1);
        QCOMPARE(value["state"].get<std::string>(), std::string("low"));
        QCOMPARE(seen["point/status"], QByteArray("here"));
        w.send_lines(5, warm);
        QTRY_VERIFY(seen.contains("point/notices"));
        QCOMPARE(Json::parse(seen["point/notices"].toStdString())["kind"].get<std::string>(),
                 std::string("raised"));
        // The broker goes away in the middle, and comes back: the newest value is there.
        broker.process.kill();
        broker.process.waitForFinished(5000);
        QTRY_VERIFY_WITH_TIMEOUT(!w.session.messenger().brokerConnected(), 30000);
        QVERIFY(!w.session.messenger().brokerTrouble().isEmpty());
        w.send_lines(20, cool);
        w.session.messenger().publishNow();
        seen.clear();
        broker.start();
        QTRY_VERIFY_WITH_TIMEOUT(seen.contains("point/air"), 60000);
        CLOSE(Json::parse(seen["point/air"].toStdString())["value"].get<double>(),
              w.session.worker().live().readings.at("air").value.number, 1e-9);
        w.session.closeBench();
        QTRY_COMPARE_WITH_TIMEOUT(seen.value("point/status"), QByteArray("gone"), 15000);
    }
    void healthIsOnlyToldHere() {
        WatchRule rule = too_warm();
        Watched w(rule);
        w.session.editReading("air", "Pulse", [](Reading& r) {
            r.quantity.kind = "pulse-rate";
            r.quantity.unit = "/min";
        });
        QVERIFY(published_value(w.session, *w.session.bench().reading("air"), w.session.worker().live())
                    .contains("null"));
        QVERIFY(w.session.bench().publishing.readings.empty()); // nothing is published that nobody named
    }
};

RUN_TESTS_OF(TestLiveWatch)
#include "tst_live_watch.moc"
