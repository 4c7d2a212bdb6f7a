// A second start hands its file to the window that runs; and what helps with trouble says no name and no value.
#include "session/recorder/one_window.h"
#include "session/trouble_report.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <QLocalSocket>
#include <QSignalSpy>
#include <QStandardPaths>
#include <QThread>

using namespace cognitum;
using namespace cognitum::test;

namespace {

/// As another process would: this one's event loop must run meanwhile.
bool hand_over(const QStringList& paths) {
    bool taken = false;
    std::unique_ptr<QThread> other(QThread::create([&] { taken = OneWindow::handOver(paths); }));
    other->start();
    while (!other->isFinished())
        QCoreApplication::processEvents(QEventLoop::AllEvents, 10);
    return taken;
}

} // namespace

class TstOneWindow : public QObject {
    Q_OBJECT

  private slots:
    void init() {
        m_home = std::make_unique<QTemporaryDir>();
        qputenv("XDG_RUNTIME_DIR", m_home->path().toUtf8());
        qputenv("XDG_DATA_HOME", m_home->filePath("data").toUtf8());
        QFile::setPermissions(m_home->path(), QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
    }

    void theSecondStartHandsOver() {
        QVERIFY(!hand_over({"/tmp/a.cognitum"})); // nobody is there
        OneWindow window;
        QVERIFY(window.listen());
        QSignalSpy asked(&window, &OneWindow::asked);
        qputenv("XDG_ACTIVATION_TOKEN", "token-1");
        QVERIFY(hand_over({"/tmp/a b/ä.cognitum"}));
        qunsetenv("XDG_ACTIVATION_TOKEN");
        QCOMPARE(asked.size(), 1);
        QCOMPARE(asked[0][0].toStringList(), QStringList("/tmp/a b/ä.cognitum"));
        QCOMPARE(asked[0][1].toString(), QStringLiteral("token-1"));
        QVERIFY(hand_over({})); // only to the front
        QCOMPARE(asked[1][0].toStringList(), QStringList());
        QVERIFY(hand_over({"here.cognitum"})); // the other program may stand in another folder
        QCOMPARE(asked[2][0].toStringList(), QStringList(QDir::current().filePath("here.cognitum")));
        QVERIFY(hand_over({"/tmp/a.csv", "/tmp/b.csv"}));
        QCOMPARE(asked[3][0].toStringList().size(), 2);
        OneWindow second;
        QVERIFY(!second.listen());
    }

    void anotherPersonsDataHasItsOwn() {
        OneWindow window;
        QVERIFY(window.listen());
        qputenv("XDG_DATA_HOME", m_home->filePath("elsewhere").toUtf8());
        QVERIFY(!hand_over({"/tmp/a.cognitum"}));
        OneWindow other;
        QVERIFY(other.listen());
    }

    void whatAKilledOneLeftIsTakenOver() {
        OneWindow first;
        QVERIFY(first.listen());
        const QStringList names = QDir(m_home->path()).entryList(QDir::System | QDir::NoDotAndDotDot);
        QCOMPARE(names.size(), 1);
        const QString socket = m_home->filePath(names.front());
        // A socket that nobody listens at, as after a kill: the name moves away from the first and back.
        QVERIFY(QFile::rename(socket, socket + ".old"));
        {
            QLocalServer dead;
            QVERIFY(dead.listen(socket + ".dead"));
            QVERIFY(QFile::rename(socket + ".dead", socket));
        }
        OneWindow next;
        QVERIFY(next.listen());
        QVERIFY(hand_over({"/tmp/a.cognitum"}));
    }

    void nonsenseAndSilenceDoNoHarm() {
        OneWindow window;
        QVERIFY(window.listen());
        QSignalSpy asked(&window, &OneWindow::asked);
        const QString name = QDir(m_home->path()).entryList(QDir::System | QDir::NoDotAndDotDot).front();
        QLocalSocket silent, loud;
        silent.connectToServer(m_home->filePath(name));
        loud.connectToServer(m_home->filePath(name));
        QVERIFY(silent.waitForConnected(5000) && loud.waitForConnected(5000));
        loud.write(QByteArray(200'000, '\xff'));
        QTRY_COMPARE(loud.state(), QLocalSocket::UnconnectedState);
        QVERIFY(asked.isEmpty());
        QVERIFY(hand_over({"/tmp/a.cognitum"}));
    }

    void troubleIsToldWithoutNamesAndValues() {
        ClockedSession s;
        QVERIFY(trouble_report(s.session).contains("No bench is open."));
        QVERIFY(open_demo(s.session, s.folder.filePath("demo.cognitum")));
        s.lines(5, 138, "A2");
        s.settle();
        const QString report = trouble_report(s.session);
        for (const char* there :
             {"Cognitum ", "Qt ", "SQLite ", "Bench: format ", "Board 1: card board-", "Recording: "})
            QVERIFY2(report.contains(QLatin1String(there)), there);
        const Bench& bench = s.session.bench();
        QCOMPARE(report.count("Reading "), static_cast<qsizetype>(bench.readings.size()));
        for (const Reading& r : bench.readings)
            QVERIFY2(!report.contains(QString::fromStdString(r.name)), r.name.c_str());
        for (const QString& secret : {QString::fromStdString(bench.name), QString::fromStdString(bench.place),
                                      s.folder.path(), QStringLiteral("138"), QStringLiteral("°C")})
            QVERIFY2(!report.contains(secret), qPrintable(secret));
    }

  private:
    std::unique_ptr<QTemporaryDir> m_home;
};

RUN_TESTS_OF(TstOneWindow)
#include "tst_one_window.moc"
