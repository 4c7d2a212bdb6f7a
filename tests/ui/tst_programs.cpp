// The three programs from outside: the window starts, paints and ends; the simulated board answers on its own port.
#include "support/run_tests.h"
#include "support/support.h"

#include <QDir>
#include <QFile>
#include <QProcess>
#include <QSerialPort>
#include <QSignalSpy>
#include <QUuid>

using namespace cognitum;

namespace {

QString path_of(const char* name) {
    return QStringLiteral(COGNITUM_BIN_DIR "/") + QLatin1String(name);
}

/// The board, and a port opened on it.
struct Board {
    QProcess process;
    QSerialPort port;
    QString path;

    explicit Board(const QStringList& arguments) {
        process.start(path_of("cognitum-simboard"), arguments);
        if (process.waitForReadyRead(10000)) path = QString::fromUtf8(process.readLine()).trimmed();
        port.setPortName(QFile::symLinkTarget(path).isEmpty() ? path : QFile::symLinkTarget(path));
        port.setBaudRate(115200);
        port.open(QIODevice::ReadWrite);
    }
    ~Board() {
        process.terminate();
        process.waitForFinished(5000);
    }
    /// Lines until one holds `wanted`, or until ten seconds have passed.
    QByteArray until(const char* wanted) {
        QByteArray got;
        while (!got.contains(wanted)) {
            if (!port.waitForReadyRead(10000)) return got + " (and then silence)";
            got += port.readAll();
        }
        return got;
    }
};

} // namespace

class TestPrograms : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;

  private slots:
    void theWindowAnswersWithoutADisplay() {
        QProcess window;
        QProcessEnvironment bare = QProcessEnvironment::systemEnvironment();
        for (const char* name : {"DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM"})
            bare.remove(QLatin1String(name));
        window.setProcessEnvironment(bare);
        for (const char* option : {"--help", "--version"}) {
            window.start(path_of("cognitum"), {QLatin1String(option)});
            QVERIFY(window.waitForFinished(20000));
            QCOMPARE(window.exitStatus(), QProcess::NormalExit);
            QCOMPARE(window.exitCode(), 0);
            QVERIFY(window.readAllStandardOutput().contains("cognitum"));
        }
    }
    void theWindowStartsPaintsAndEnds() {
        QProcess app;
        auto environment = QProcessEnvironment::systemEnvironment();
        environment.insert("XDG_DATA_HOME", m_folder.filePath("data"));
        environment.insert("XDG_CONFIG_HOME", m_folder.filePath("config"));
        app.setProcessEnvironment(environment);
        app.start(path_of("cognitum"), {"--demo", "--until-painted", "--stop", "5", "--dark", "--scale", "1.5"});
        QVERIFY(app.waitForFinished(60000));
        QCOMPARE(app.exitStatus(), QProcess::NormalExit);
        QCOMPARE(app.exitCode(), 0);
        QVERIFY(QFile::exists(m_folder.filePath("data/cognitum/whelk-point.cognitum")));
    }
    /// However the window ends, what it started ends with it: boards, and their broker.
    void nothingStaysBehindAWindowThatIsKilled() {
        const QByteArray mark = QUuid::createUuid().toByteArray();
        const auto running = [&] {
            int n = 0;
            for (const QString& process : QDir("/proc").entryList({"[0-9]*"}, QDir::Dirs)) {
                QFile environment("/proc/" + process + "/environ");
                n += environment.open(QIODevice::ReadOnly) && environment.readAll().contains(mark);
            }
            return n;
        };
        QProcess app;
        auto environment = QProcessEnvironment::systemEnvironment();
        environment.insert("XDG_DATA_HOME", m_folder.filePath("data"));
        environment.insert("XDG_CONFIG_HOME", m_folder.filePath("config"));
        environment.insert("COGNITUM_TEST_MARK", QString::fromLatin1(mark));
        app.setProcessEnvironment(environment);
        app.start(path_of("cognitum"), {"--demo"});
        QTRY_VERIFY_WITH_TIMEOUT(running() >= 4, 60000); // it, its broker, two boards
        app.kill();
        QVERIFY(app.waitForFinished(10000));
        QTRY_COMPARE_WITH_TIMEOUT(running(), 0, 10000);
    }
    void theBoardSpeaksLikeABoard() {
        Board board({"--interval", "20", "--seed", "7"});
        QVERIFY2(board.port.isOpen(), qPrintable(board.path));
        board.port.write("reset\n");
        const QByteArray text = board.until("\n3,");
        QVERIFY2(text.contains("# board=gauge bits=10 reference=supply"), text.constData());
        QVERIFY(text.contains("seq,ms,A1,A2,flue,tips,bpm\n"));
        board.port.write("interval 40\nnonsense\n");
        QVERIFY(board.until("# error").contains("# ok interval_ms=40"));
    }
    void itsPortHasALastingName() {
        const QString link = m_folder.filePath("board");
        {
            Board board({"--link", link, "--interval", "20"});
            QCOMPARE(board.path, link);
            QVERIFY(board.port.isOpen());
        }
        QVERIFY(!QFile::exists(link)); // gone with the board, as a port is
    }
    void faultsAreTakenByName() {
        Board board({"--fault", "clipped", "--interval", "20"});
        QVERIFY(board.until(",1023,").contains(",1023,"));
        QProcess wrong;
        wrong.start(path_of("cognitum-simboard"), {"--fault", "gremlins"});
        QVERIFY(wrong.waitForFinished(10000));
        QCOMPARE(wrong.exitCode(), 2);
        QVERIFY(wrong.readAllStandardError().contains("--list-faults"));
    }
    void scriptsAreSound_data() {
        QTest::addColumn<QString>("script");
        for (const char* name : {"tools/demo", "tools/test", "tools/install", "tools/screenshots", "tools/bench",
                                 "tools/format", ".ci/run"})
            QTest::addRow("%s", name) << QStringLiteral(COGNITUM_SOURCE_DIR "/") + QLatin1String(name);
    }
    void scriptsAreSound() {
        QFETCH(QString, script);
        QVERIFY2(QFile::permissions(script) & QFileDevice::ExeOwner, "executable");
        QProcess bash;
        bash.start("bash", {"-n", script});
        QVERIFY(bash.waitForFinished(10000));
        QVERIFY2(bash.exitCode() == 0, bash.readAllStandardError().constData());
    }
};

RUN_TESTS_OF(TestPrograms)
#include "tst_programs.moc"
