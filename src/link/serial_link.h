// A serial port through QSerialPort: opened, watched, and opened again with growing pauses when it vanished.
// The board's reset lines are left as they are.
#pragma once

#include "link/link.h"

#include <QSerialPort>
#include <QTimer>

namespace cognitum {

class SerialLink : public Link {
    Q_OBJECT

  public:
    SerialLink(QString port, int baud, QObject* parent = nullptr);

    void start() override;
    void stop() override;
    void send(const QByteArray& bytes) override;
    [[nodiscard]] QString place() const override { return m_port.portName(); }

    /// Changes the port while closed or lost, for boards that come back elsewhere.
    void setPort(const QString& port);

  private:
    void open();
    void lose(const QString& reason);
    void onError(QSerialPort::SerialPortError error);

    QSerialPort m_port;
    QString m_path;
    int m_baud;
    QTimer m_again;
    int m_pause_ms;
    bool m_wanted = false;
};

/// A port's error in words, with what to do.
QString serial_error_text(QSerialPort::SerialPortError error, const QString& port);

struct PortInfo {
    QString path;
    QString about; ///< what the system knows of it
};
/// Ports that the system lists now.
QList<PortInfo> list_ports();

} // namespace cognitum
