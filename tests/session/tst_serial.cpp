// The serial link on a real pseudo-terminal: bytes both ways, a cable that is pulled and put back, and reasons in
// words.
#include "link/serial_link.h"
#include "support/pseudo_terminal.h"
#include "support/support.h"

#include <QSignalSpy>

using namespace cognitum;

class TestSerial : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;

  private slots:
    void bytesGoBothWays() {
        const QString path = m_folder.filePath("tty1");
        test::PseudoTerminal cable(path);
        QVERIFY(cable.ok());
        SerialLink link(path, 115200);
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
        SerialLink link(path, 115200);
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

    void aPortThatIsNotThereIsSaidAndWaitedFor() {
        const QString path = m_folder.filePath("tty3");
        SerialLink link(path, 9600);
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

    void errorsSayWhatToDo() {
        QVERIFY(serial_error_text(QSerialPort::PermissionError, "/dev/x").contains("group"));
        QVERIFY(serial_error_text(QSerialPort::ResourceError, "/dev/x").contains("vanished"));
        for (int e = 0; e < 14; ++e)
            QVERIFY(serial_error_text(static_cast<QSerialPort::SerialPortError>(e), "/dev/x").contains("/dev/x"));
    }
};

QTEST_GUILESS_MAIN(TestSerial)
#include "tst_serial.moc"
