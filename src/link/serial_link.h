// A serial port through QSerialPort: opened, watched, and opened again with growing pauses when it vanished. Finds
// the speed by trying, when asked. The board's reset lines are kept still unless the plan lets them move.
#pragma once

#include "core/bench/link_plan.h"
#include "link/link.h"

#include <QFileSystemWatcher>
#include <QSerialPort>
#include <QTimer>
#include <memory>

namespace cognitum {

class SpeedSearch;

class SerialLink : public Link {
    Q_OBJECT

  public:
    explicit SerialLink(const LinkPlan& plan, QObject* parent = nullptr);
    ~SerialLink() override;

    void start() override;
    void stop() override;
    void send(const QByteArray& bytes) override;
    bool tellState(const QString& name, const QByteArray& line, const QString& topic) override;
    [[nodiscard]] QString place() const override { return m_port.portName(); }
    [[nodiscard]] bool isWire() const override { return true; }
    /// Lets go of the port for a loader, and opens it again.
    void setPlugged(bool plugged) override { plugged ? start() : stop(); }

    /// Changes the port while closed or lost, for boards that come back elsewhere.
    void setPort(const QString& port);
    /// Its device is gone for good, and its name may soon be another one's: lost, and not tried before start().
    void unplug();

  private:
    void open();
    void lose(const QString& reason);
    void onError(QSerialPort::SerialPortError error);
    void onBytes();
    void tryNextSpeed();
    void onFolderChanged();

    QSerialPort m_port;
    LinkPlan m_plan;
    QString m_path;
    QTimer m_again, m_listened;
    QFileSystemWatcher m_folder; ///< where the port's file lies, so that it is opened as soon as it is back
    int m_pause_ms;
    bool m_wanted = false;
    std::unique_ptr<SpeedSearch> m_search;
};

/// A port's error in words, with what to do; for one that may not be opened, the group to join.
QString serial_error_text(QSerialPort::SerialPortError error, const QString& port);

struct PortInfo {
    QString path;
    QString about;       ///< what the system knows of it
    bool on_usb = false; ///< plugged in by a person, and not one of the computer's own
};
/// Ports that the system lists now.
QList<PortInfo> list_ports();

/// Tells when ports come and go.
class PortWatch : public QObject {
    Q_OBJECT

  public:
    explicit PortWatch(QObject* parent = nullptr);

  signals:
    void changed();

  private:
    QStringList m_known;
    QTimer m_soon;
};

} // namespace cognitum
