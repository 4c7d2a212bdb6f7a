#include "link/serial_link.h"

#include "link/speed_search.h"

#include <QDir>
#include <QFileInfo>
#include <QSerialPortInfo>
#include <algorithm>
#include <termios.h>

namespace cognitum {

namespace {
constexpr int first_pause_ms = 250;
constexpr int longest_serial_pause_ms = 4000;
constexpr int back_after_ms = 60; ///< from a port's coming to its opening: its permissions come a little later

/// "7E1" to the port's settings.
void set_frame(QSerialPort& port, const std::string& frame) {
    port.setDataBits(frame[0] == '7' ? QSerialPort::Data7 : QSerialPort::Data8);
    port.setParity(frame[1] == 'E'   ? QSerialPort::EvenParity
                   : frame[1] == 'O' ? QSerialPort::OddParity
                                     : QSerialPort::NoParity);
    port.setStopBits(frame[2] == '2' ? QSerialPort::TwoStop : QSerialPort::OneStop);
}

/// Many boards reset when the line "terminal ready" falls; without "hang up on close" it stays as it is.
void keep_reset_line_still(const QSerialPort& port) {
    termios settings{};
    if (tcgetattr(static_cast<int>(port.handle()), &settings) != 0) return;
    settings.c_cflag &= ~static_cast<tcflag_t>(HUPCL);
    tcsetattr(static_cast<int>(port.handle()), TCSANOW, &settings);
}

QString permission_text(const QString& port) {
    const QFileInfo info(port);
    const QString group = info.group();
    if (info.exists() && !info.isWritable() && !group.isEmpty())
        return SerialLink::tr(
                   "%1 belongs to the group %2, and you are not in it. Run: sudo usermod -aG %2 %3, then log "
                   "out and in again.")
            .arg(port, group, qEnvironmentVariable("USER", QStringLiteral("$USER")));
    return SerialLink::tr("%1 is held by another program. Close that program; it opens here by itself then.")
        .arg(port);
}
} // namespace

QString serial_error_text(QSerialPort::SerialPortError error, const QString& port) {
    switch (error) {
    case QSerialPort::DeviceNotFoundError: return SerialLink::tr("%1 is not there. Is the cable in?").arg(port);
    case QSerialPort::PermissionError: return permission_text(port);
    case QSerialPort::ResourceError:
        return SerialLink::tr("%1 vanished. It opens again when it is back.").arg(port);
    default:
        return SerialLink::tr("%1 does not answer (error %2). Unplug it and plug it in again.")
            .arg(port)
            .arg(error);
    }
}

QList<PortInfo> list_ports() {
    QList<PortInfo> out;
    for (const QSerialPortInfo& info : QSerialPortInfo::availablePorts()) {
        QStringList about = {info.description(), info.manufacturer(), info.serialNumber()};
        about.removeAll({});
        about.removeDuplicates();
        out.append({info.systemLocation(), about.join(QStringLiteral(", ")), info.hasVendorIdentifier()});
    }
    return out;
}

PortWatch::PortWatch(QObject* parent) : QObject(parent) {
    auto* watcher = new QFileSystemWatcher({QStringLiteral("/dev")}, this);
    m_soon.setSingleShot(true);
    m_soon.setInterval(300); // a port comes with a dozen events
    connect(watcher, &QFileSystemWatcher::directoryChanged, this, [this] {
        if (!m_soon.isActive()) m_soon.start();
    });
    const auto paths = [] {
        QStringList out;
        for (const PortInfo& port : list_ports())
            out.append(port.path);
        return out;
    };
    m_known = paths();
    connect(&m_soon, &QTimer::timeout, this, [this, paths] {
        const QStringList now = paths();
        if (now == m_known) return;
        m_known = now;
        emit changed();
    });
}

SerialLink::SerialLink(const LinkPlan& plan, QObject* parent)
    : Link(parent), m_plan(plan), m_path(QString::fromStdString(plan.port)), m_pause_ms(first_pause_ms) {
    m_port.setParent(this);
    m_again.setParent(this);
    m_again.setSingleShot(true);
    m_listened.setParent(this);
    m_listened.setSingleShot(true);
    m_listened.setInterval(SpeedSearch::listen_ms);
    m_folder.setParent(this);
    connect(&m_folder, &QFileSystemWatcher::directoryChanged, this, &SerialLink::onFolderChanged);
    connect(&m_again, &QTimer::timeout, this, &SerialLink::open);
    connect(&m_listened, &QTimer::timeout, this, &SerialLink::tryNextSpeed);
    connect(&m_port, &QSerialPort::readyRead, this, &SerialLink::onBytes);
    connect(&m_port, &QSerialPort::errorOccurred, this, &SerialLink::onError);
}

SerialLink::~SerialLink() = default;

void SerialLink::onBytes() {
    m_pause_ms = first_pause_ms;
    const QByteArray data = m_port.readAll();
    if (!m_search) {
        emit bytes(data);
        return;
    }
    m_search->take(data);
    if (m_search->found()) {
        const int baud = m_search->baud();
        m_search.reset();
        m_listened.stop();
        m_plan.find_speed = false; // it is known now; a later opening does not search again
        m_plan.baud = baud;
        emit stateChanged(LinkState::open, {});
        emit speedFound(baud);
    } else if (m_search->heardEnough()) {
        tryNextSpeed();
    }
}

void SerialLink::tryNextSpeed() {
    if (!m_search || !m_port.isOpen()) return;
    const bool more = m_search->next();
    m_port.setBaudRate(m_search->baud());
    if (more) {
        m_listened.start();
        emit stateChanged(LinkState::opening, tr("Listening at %1 Bd …").arg(m_search->baud()));
        return;
    }
    const bool heard = m_search->heardAnything();
    const int best = m_search->baud();
    m_search = std::make_unique<SpeedSearch>(best); // and again: the board may have been silent
    m_listened.start();
    emit stateChanged(LinkState::opening,
                      heard ? tr("Nothing reads as text at any usual speed; %1 Bd comes nearest. The "
                                 "board may send a binary format, or 7 bits: set the frame.")
                                  .arg(best)
                            : tr("Nothing comes at any speed. Does the board send? Are transmit "
                                 "and receive crossed?"));
}

void SerialLink::setPort(const QString& port) {
    m_path = port;
}

void SerialLink::start() {
    m_wanted = true;
    m_pause_ms = first_pause_ms;
    m_folder.addPath(QFileInfo(m_path).path());
    open();
}

void SerialLink::stop() {
    m_wanted = false;
    m_again.stop();
    m_listened.stop();
    m_search.reset();
    m_port.close();
    emit stateChanged(LinkState::closed, {});
}

void SerialLink::unplug() {
    lose(serial_error_text(QSerialPort::ResourceError, m_path));
    m_again.stop();
}

void SerialLink::open() {
    if (!m_wanted || m_port.isOpen()) return;
    emit stateChanged(LinkState::opening, {});
    // A symbolic link may lead elsewhere after each plugging in.
    const QString target = QFileInfo(m_path).canonicalFilePath();
    if (target.isEmpty()) {
        lose(serial_error_text(QSerialPort::DeviceNotFoundError, m_path));
        return;
    }
    m_port.setPortName(target);
    if (m_plan.find_speed) m_search = std::make_unique<SpeedSearch>(m_plan.baud);
    m_port.setBaudRate(m_plan.baud);
    set_frame(m_port, m_plan.frame);
    if (!m_port.open(QIODevice::ReadWrite)) return; // onError has told and planned the next try
    if (!m_plan.may_reset) keep_reset_line_still(m_port);
    m_port.clear(QSerialPort::Input); // what waited in the driver has no arrival time
    if (m_search) {
        m_listened.start();
        emit stateChanged(LinkState::opening, tr("Listening at %1 Bd …").arg(m_search->baud()));
        return;
    }
    emit stateChanged(LinkState::open, {});
}

void SerialLink::onError(QSerialPort::SerialPortError error) {
    if (error == QSerialPort::NoError || error == QSerialPort::TimeoutError) return;
    lose(serial_error_text(error, m_path));
}

void SerialLink::lose(const QString& reason) {
    if (!m_wanted || m_again.isActive()) return;
    if (m_port.isOpen()) m_port.close();
    m_listened.stop();
    m_search.reset();
    m_again.start(m_pause_ms);
    m_pause_ms = std::min(2 * m_pause_ms, longest_serial_pause_ms);
    emit stateChanged(LinkState::lost, reason);
}

/// Plugged in again: no pause that has grown meanwhile is waited for.
void SerialLink::onFolderChanged() {
    if (!m_again.isActive() || QFileInfo(m_path).canonicalFilePath().isEmpty()) return;
    m_pause_ms = first_pause_ms;
    m_again.start(back_after_ms);
}

void SerialLink::send(const QByteArray& data) {
    if (m_port.isOpen()) m_port.write(data);
}

bool SerialLink::tellState(const QString&, const QByteArray& line, const QString&) {
    if (!m_port.isOpen()) return false;
    const bool written = m_port.write(line + '\n') >= 0;
    m_port.flush(); // the program may end now
    return written;
}

} // namespace cognitum
