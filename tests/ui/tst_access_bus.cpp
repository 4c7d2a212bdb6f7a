// What a screen reader gets: the real window, asked over the desktop's accessibility bus (AT-SPI 2) as a reader of
// screens asks it. Runs under Xvfb, with buses of its own.
#include "support/test_window.h"

#include <QDBusArgument>
#include <QDBusConnection>
#include <QDBusInterface>
#include <QDBusMessage>
#include <QDBusMetaType>
#include <QDBusReply>
#include <QProcess>
#include <QThread>
#include <deque>

using namespace cognitum;
using namespace cognitum::test;

struct ObjectAt {
    QString service;
    QDBusObjectPath path;
};
Q_DECLARE_METATYPE(ObjectAt)

QDBusArgument& operator<<(QDBusArgument& out, const ObjectAt& o) {
    out.beginStructure();
    out << o.service << o.path;
    out.endStructure();
    return out;
}
const QDBusArgument& operator>>(const QDBusArgument& in, ObjectAt& o) {
    in.beginStructure();
    in >> o.service >> o.path;
    in.endStructure();
    return in;
}

namespace {

struct Heard {
    QString role, name, description;
};

const QString accessible = QStringLiteral("org.a11y.atspi.Accessible");

QDBusMessage asked(const QDBusConnection& bus, const ObjectAt& at, const QString& of, const QString& what,
                   const QVariantList& with = {}) {
    QDBusMessage call = QDBusMessage::createMethodCall(at.service, at.path.path(), of, what);
    call.setArguments(with);
    return bus.call(call, QDBus::Block, 10000);
}

QString property(const QDBusConnection& bus, const ObjectAt& at, const char* name) {
    const QDBusMessage answer = asked(bus, at, QStringLiteral("org.freedesktop.DBus.Properties"),
                                      QStringLiteral("Get"), {accessible, QLatin1String(name)});
    return answer.arguments().isEmpty() ? QString()
                                        : answer.arguments()[0].value<QDBusVariant>().variant().toString();
}

/// Everything below the desktop's root, as a reader of screens finds it. Not in the window's thread, which answers.
std::vector<Heard> listen(const QString& address) {
    std::vector<Heard> out;
    const QDBusConnection bus = QDBusConnection::connectToBus(address, QStringLiteral("reader"));
    std::deque<ObjectAt> open = {{QStringLiteral("org.a11y.atspi.Registry"),
                                  QDBusObjectPath(QStringLiteral("/org/a11y/atspi/accessible/root"))}};
    constexpr std::size_t most = 3000;
    while (!open.empty() && out.size() < most) {
        const ObjectAt at = open.front();
        open.pop_front();
        const QDBusMessage role = asked(bus, at, accessible, QStringLiteral("GetRoleName"));
        out.push_back({role.arguments().isEmpty() ? QString() : role.arguments()[0].toString(),
                       property(bus, at, "Name"), property(bus, at, "Description")});
        const QDBusMessage children = asked(bus, at, accessible, QStringLiteral("GetChildren"));
        if (children.type() != QDBusMessage::ReplyMessage || children.arguments().isEmpty()) continue;
        for (const ObjectAt& child : qdbus_cast<QList<ObjectAt>>(children.arguments()[0].value<QDBusArgument>()))
            open.push_back(child);
    }
    QDBusConnection::disconnectFromBus(QStringLiteral("reader"));
    return out;
}

std::vector<Heard> listen_beside(const QString& address) {
    std::vector<Heard> heard;
    std::unique_ptr<QThread> reader(QThread::create([&] { heard = listen(address); }));
    reader->start();
    while (!reader->isFinished())
        QCoreApplication::processEvents(QEventLoop::AllEvents, 20);
    return heard;
}

} // namespace

class TestAccessBus : public QObject {
    Q_OBJECT

  private slots:
    void theWindowIsHeard() {
        QDBusInterface service("org.a11y.Bus", "/org/a11y/bus", "org.a11y.Bus");
        const QDBusReply<QString> address = service.call("GetAddress");
        QVERIFY2(address.isValid(), qPrintable(address.error().message()));
        TestWindow w;
        w.openDemo();
        w.lines(5, 138);
        w.window.showStop(3);
        w.refresh();
        std::vector<Heard> heard;
        const auto found = [&](const QString& role, const QString& name) -> const Heard* {
            for (const Heard& h : heard)
                if ((role.isEmpty() || h.role == role) && h.name.contains(name)) return &h;
            return nullptr;
        };
        QTRY_VERIFY_WITH_TIMEOUT((heard = listen_beside(address.value()), found({}, "What the board sends")),
                                 30000);
        const auto describe = [&] {
            QStringList all;
            for (const Heard& h : heard)
                all << h.role + " [" + h.name + "] " + h.description.left(60);
            return all.join('\n');
        };
        const Heard* path = nullptr;
        for (const Heard& h : heard)
            if (h.role == "page tab list" && h.description.contains("4 Raw")) path = &h;
        QVERIFY2(path, qPrintable(describe()));
        QVERIFY(!path->name.isEmpty());
        QVERIFY2(path->description.contains("Hut air") && path->description.contains("(here)"),
                 qPrintable(path->description));
        int charts = 0;
        for (const Heard& h : heard)
            if (h.role == "chart") {
                ++charts;
                QVERIFY2(!h.name.isEmpty() && h.description.contains("Across"), qPrintable(h.name + h.description));
            }
        QVERIFY2(charts >= 2, qPrintable(describe()));
        for (const char* button : {"Disconnect", "Overview", "Findings", "New reading"}) {
            bool there = false;
            for (const Heard& h : heard)
                there = there ||
                        (h.name == QLatin1String(button) && (h.role.contains("button") || h.role == "check box"));
            QVERIFY2(there, button);
        }
        w.window.showPage("boards");
        w.refresh();
        heard = listen_beside(address.value());
        const Heard* board = found({}, "with who sits on its pins");
        QVERIFY2(board && board->description.contains("Pin A2: Hut air."), qPrintable(describe()));
    }
};

/// The buses must be there before the application is.
int main(int argc, char** argv) {
    qDBusRegisterMetaType<ObjectAt>();
    qDBusRegisterMetaType<QList<ObjectAt>>();
    QTemporaryDir runtime;
    qputenv("XDG_RUNTIME_DIR", runtime.path().toUtf8());
    qputenv("QT_LINUX_ACCESSIBILITY_ALWAYS_ON", "1");
    QProcess bus, launcher;
    bus.start("dbus-daemon", {"--session", "--nofork", "--print-address"});
    if (!bus.waitForStarted(10000) || !bus.waitForReadyRead(10000)) qFatal("dbus-daemon is needed: tools/install");
    qputenv("DBUS_SESSION_BUS_ADDRESS", bus.readLine().trimmed());
    launcher.start("/usr/libexec/at-spi-bus-launcher", {"--launch-immediately"});
    if (!launcher.waitForStarted(10000)) qFatal("at-spi2-core is needed: tools/install");
    int result = 0;
    {
        QApplication app(argc, argv);
        TestAccessBus test;
        result = QTest::qExec(&test, argc, argv);
    }
    for (QProcess* process : {&launcher, &bus}) {
        process->terminate();
        if (!process->waitForFinished(5000)) process->kill();
        process->waitForFinished(5000);
    }
    return result;
}

#include "tst_access_bus.moc"
