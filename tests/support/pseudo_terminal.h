// A pseudo-terminal as a cable: the test holds the board's end, the program opens the other through a symbolic
// link.
#pragma once

#include <QByteArray>
#include <QFile>
#include <QString>
#include <cstdlib>
#include <fcntl.h>
#include <termios.h>
#include <unistd.h>

namespace cognitum::test {

class PseudoTerminal {
  public:
    explicit PseudoTerminal(const QString& link) : m_link(link) {
        m_master = posix_openpt(O_RDWR | O_NOCTTY | O_CLOEXEC | O_NONBLOCK);
        if (m_master < 0 || grantpt(m_master) != 0 || unlockpt(m_master) != 0) return;
        m_slave = ::open(ptsname(m_master), O_RDWR | O_NOCTTY | O_CLOEXEC);
        termios settings{};
        tcgetattr(m_slave, &settings);
        cfmakeraw(&settings);
        tcsetattr(m_slave, TCSANOW, &settings);
        QFile::remove(link);
        m_ok = QFile::link(QString::fromLocal8Bit(ptsname(m_master)), link);
    }
    ~PseudoTerminal() { pull(); }
    PseudoTerminal(const PseudoTerminal&) = delete;
    PseudoTerminal& operator=(const PseudoTerminal&) = delete;

    [[nodiscard]] bool ok() const { return m_ok; }
    void send(const QByteArray& bytes) {
        [[maybe_unused]] const auto n =
            ::write(m_master, bytes.constData(), static_cast<std::size_t>(bytes.size()));
    }
    QByteArray received() {
        QByteArray out(4096, '\0');
        const auto n = ::read(m_master, out.data(), 4096);
        out.resize(std::max<qsizetype>(0, n));
        return out;
    }
    /// The cable is pulled out.
    void pull() {
        if (m_slave >= 0) ::close(m_slave);
        if (m_master >= 0) ::close(m_master);
        m_slave = m_master = -1;
        QFile::remove(m_link);
    }

  private:
    QString m_link;
    int m_master = -1, m_slave = -1;
    bool m_ok = false;
};

} // namespace cognitum::test
