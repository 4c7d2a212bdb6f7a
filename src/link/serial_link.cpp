#include "link/serial_link.h"

#include <QFileInfo>
#include <QSerialPortInfo>
#include <algorithm>

namespace cognitum {

namespace {
constexpr int first_pause_ms = 250;
constexpr int longest_pause_ms = 4000;
} // namespace

QString serial_error_text(QSerialPort::SerialPortError error, const QString& port) {
    switch (error) {
    case QSerialPort::DeviceNotFoundError: return SerialLink::tr("%1 is not there. Is the cable in?").arg(port);
    case QSerialPort::PermissionError:
        return SerialLink::tr(
                   "%1 may not be opened, or another program has it. Close that program, or join the group "
                   "that owns the port (often dialout) and log in again.")
            .arg(port);
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
    for (const QSerialPortInfo& info : QSerialPortInfo::availablePorts())
        out.append({info.systemLocation(), info.description()});
    return out;
}

SerialLink::SerialLink(QString port, int baud, QObject* parent)
    : Link(parent), m_path(std::move(port)), m_baud(baud), m_pause_ms(first_pause_ms) {
    m_port.setParent(this);
    m_again.setParent(this);
    m_again.setSingleShot(true);
    connect(&m_again, &QTimer::timeout, this, &SerialLink::open);
    connect(&m_port, &QSerialPort::readyRead, this, [this] {
        m_pause_ms = first_pause_ms;
        emit bytes(m_port.readAll());
    });
    connect(&m_port, &QSerialPort::errorOccurred, this, &SerialLink::onError);
}

void SerialLink::setPort(const QString& port) {
    m_path = port;
}

void SerialLink::start() {
    m_wanted = true;
    m_pause_ms = first_pause_ms;
    open();
}

void SerialLink::stop() {
    m_wanted = false;
    m_again.stop();
    m_port.close();
    emit stateChanged(LinkState::closed, {});
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
    m_port.setBaudRate(m_baud);
    if (!m_port.open(QIODevice::ReadWrite)) return; // onError has told and planned the next try
    m_port.clear(QSerialPort::Input);               // what waited in the driver has no arrival time
    emit stateChanged(LinkState::open, {});
}

void SerialLink::onError(QSerialPort::SerialPortError error) {
    if (error == QSerialPort::NoError || error == QSerialPort::TimeoutError) return;
    lose(serial_error_text(error, m_path));
}

void SerialLink::lose(const QString& reason) {
    if (!m_wanted || m_again.isActive()) return;
    if (m_port.isOpen()) m_port.close();
    m_again.start(m_pause_ms);
    m_pause_ms = std::min(2 * m_pause_ms, longest_pause_ms);
    emit stateChanged(LinkState::lost, reason);
}

void SerialLink::send(const QByteArray& data) {
    if (m_port.isOpen()) m_port.write(data);
}

} // namespace cognitum
