// The serial link on a real pseudo-terminal: bytes both ways, a cable that is pulled and put back, and reasons in
// words.
#include "demo/wire.h"
#include "link/serial_link.h"
#include "link/simulated_link.h"
#include "link/speed_search.h"
#include "support/pseudo_terminal.h"
#include "support/run_tests.h"

#include "support/support.h"
#include <QDir>
#include <QProcess>

#include <QSignalSpy>

using namespace cognitum;

class TestSerial : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;

    static LinkPlan at(const QString& path, int baud) {
        LinkPlan plan;
        plan.kind = LinkKind::serial;
        plan.port = path.toStdString();
        plan.baud = baud;
        return plan;
    }

  private slots:
    void bytesGoBothWays() {
        const QString path = m_folder.filePath("tty1");
        test::PseudoTerminal cable(path);
        QVERIFY(cable.ok());
        SerialLink link(at(path, 115200));
        QByteArray got;
        LinkState state = LinkState::closed;
        connect(&link, &Link::bytes, this, [&](const QByteArray& b) { got += b; });
        connect(&link, &Link::stateChanged, this, [&](LinkState s) { state = s; });
        link.start();
        QTRY_COMPARE(state, LinkState::open);
        cable.send("0,1000,138\n");
        QTRY_COMPARE(got, QByteArray("0,1000,138\n"));
        link.send("interval 250\n");
        QByteArray received;
        QTRY_VERIFY((received += cable.received()).contains("interval 250\n"));
    }

    void aPulledCableComesBackByItself() {
        const QString path = m_folder.filePath("tty2");
        auto cable = std::make_unique<test::PseudoTerminal>(path);
        SerialLink link(at(path, 115200));
        QByteArray got;
        LinkState state = LinkState::closed;
        QString reason;
        connect(&link, &Link::bytes, this, [&](const QByteArray& b) { got += b; });
        connect(&link, &Link::stateChanged, this, [&](LinkState s, const QString& r) {
            state = s;
            reason = r;
        });
        link.start();
        QTRY_COMPARE(state, LinkState::open);
        cable.reset();
        QTRY_COMPARE(state, LinkState::lost);
        QVERIFY2(!reason.isEmpty(), "a lost link says why");
        cable = std::make_unique<test::PseudoTerminal>(path);
        QTRY_COMPARE_WITH_TIMEOUT(state, LinkState::open, 15000);
        QVERIFY(reason.isEmpty());
        cable->send("hello\n");
        QTRY_COMPARE(got, QByteArray("hello\n"));
        link.stop();
        QCOMPARE(state, LinkState::closed);
        cable.reset();
    }

    /// Two hundred times out and in: each time it is told and comes back by itself, every line counts once, and
    /// neither memory nor file descriptors grow.
    void unpluggedTwoHundredTimes() {
        const QString path = m_folder.filePath("tty200");
        const auto descriptors = [] { return QDir(QStringLiteral("/proc/self/fd")).count(); };
        const auto resident = [] {
            QFile statm(QStringLiteral("/proc/self/statm"));
            return statm.open(QIODevice::ReadOnly) ? statm.readAll().split(' ').value(1).toLongLong() * 4096 : 0;
        };
        SerialLink link(at(path, 115200));
        QByteArray got;
        LinkState state = LinkState::closed;
        int lost = 0, opened = 0;
        connect(&link, &Link::bytes, this, [&](const QByteArray& b) { got += b; });
        connect(&link, &Link::stateChanged, this, [&](LinkState s) {
            lost += s == LinkState::lost && state == LinkState::open ? 1 : 0;
            opened += s == LinkState::open ? 1 : 0;
            state = s;
        });
        link.start();
        uint descriptors_before = 0;
        qint64 resident_before = 0;
        constexpr int times = 200;
        for (int i = 0; i < times; ++i) {
            auto cable = std::make_unique<test::PseudoTerminal>(path);
            QTRY_COMPARE_WITH_TIMEOUT(state, LinkState::open, 15000);
            cable->send(QByteArray::number(i) + ",138\n");
            QTRY_VERIFY(got.endsWith(QByteArray::number(i) + ",138\n"));
            cable.reset();
            QTRY_COMPARE(state, LinkState::lost);
            if (i == 20) {
                descriptors_before = descriptors();
                resident_before = resident();
            }
        }
        QCOMPARE(opened, times);
        QCOMPARE(lost, times);
        QCOMPARE(got.count('\n'), times);
        QVERIFY(descriptors() <= descriptors_before + 2);
        QVERIFY2(resident() < resident_before + (4 << 20),
                 qPrintable(QString::number(resident() - resident_before)));
    }

    void aPortThatIsNotThereIsSaidAndWaitedFor() {
        const QString path = m_folder.filePath("tty3");
        SerialLink link(at(path, 9600));
        LinkState state = LinkState::closed;
        QString reason;
        connect(&link, &Link::stateChanged, this, [&](LinkState s, const QString& r) {
            state = s;
            reason = r;
        });
        link.start();
        QCOMPARE(state, LinkState::lost);
        QVERIFY2(reason.contains("tty3") && reason.contains("cable"), qPrintable(reason));
        test::PseudoTerminal cable(path);
        QTRY_COMPARE_WITH_TIMEOUT(state, LinkState::open, 15000);
    }

    void theSpeedIsFoundByListening() {
        // A board at 9 600 Bd on a wire that garbles what is heard at another speed.
        const QString path = m_folder.filePath("tty4");
        QProcess board;
        board.start(QStringLiteral(COGNITUM_BIN_DIR "/cognitum-simboard"),
                    {"--link", path, "--interval", "20", "--fault", "wrong-speed"});
        QVERIFY(board.waitForReadyRead(10000));
        LinkPlan plan = at(path, 115200);
        plan.find_speed = true;
        SerialLink link(plan);
        int found = 0;
        QByteArray got;
        connect(&link, &Link::speedFound, this, [&](int baud) { found = baud; });
        connect(&link, &Link::bytes, this, [&](const QByteArray& b) { got += b; });
        link.start();
        QTRY_COMPARE_WITH_TIMEOUT(found, 9600, 15000);
        QTRY_VERIFY(got.contains("A0="));
        link.stop();
        board.kill();
        board.waitForFinished();
    }
    /// The system gives the number of its terminal to the next one, such as somebody's shell: that is not opened.
    void anotherTerminalOfTheSameNumberIsLeftAlone() {
        SimulatedLink link(LinkPlan{}, {"--interval", "20"});
        LinkState state = LinkState::closed;
        connect(&link, &Link::stateChanged, this, [&](LinkState s) { state = s; });
        link.start();
        QTRY_COMPARE_WITH_TIMEOUT(state, LinkState::open, 15000);
        const QString place = link.place();
        QVERIFY(place.startsWith("/dev/pts/"));
        link.setPlugged(false);
        QTRY_COMPARE(state, LinkState::lost);
        const test::PseudoTerminal shell(m_folder.filePath("shell"));
        if (QFileInfo(m_folder.filePath("shell")).canonicalFilePath() != place)
            QSKIP("another program has that number");
        QSignalSpy tried(&link, &Link::stateChanged);
        QVERIFY(!tried.wait(1000)); // its pauses were a quarter and half of a second
        link.setPlugged(true);
        QTRY_COMPARE_WITH_TIMEOUT(state, LinkState::open, 15000);
        QVERIFY(link.place() != place);
    }
    void speechIsToldFromNoise() {
        const std::string line = "12,12000,512,138,21.25,0,67\n12,13000,512,138,21.25,0,67\n";
        QVERIFY(speech_score(line + line) > 0.95);
        QVERIFY(speech_score(demo::as_heard(line + line, 9600, 115200)) < 0.5);
        QVERIFY(speech_score(demo::as_heard(line + line + line + line, 115200, 57600)) < 0.5);
    }

    void errorsSayWhatToDo() {
        const QString denied =
            serial_error_text(QSerialPort::PermissionError, "/proc/kmsg"); // root's, and never ours to write
        QVERIFY2(denied.contains("usermod") || denied.contains("another program"), qPrintable(denied));
        QVERIFY(serial_error_text(QSerialPort::ResourceError, "/dev/x").contains("vanished"));
        for (int e = 0; e < 14; ++e)
            QVERIFY(serial_error_text(static_cast<QSerialPort::SerialPortError>(e), "/dev/x").contains("/dev/x"));
    }
};

RUN_TESTS_OF(TestSerial)
#include "tst_serial.moc"
