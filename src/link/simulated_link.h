// The simulated board: starts cognitum-simboard and reaches it through SerialLink like any other port. It can be
// unplugged and plugged in again.
#pragma once

#include "link/serial_link.h"

#include <QProcess>

namespace cognitum {

class SimulatedLink : public Link {
    Q_OBJECT

  public:
    /// `arguments` go to cognitum-simboard, which stands beside this program.
    explicit SimulatedLink(QStringList arguments, QObject* parent = nullptr);
    ~SimulatedLink() override;

    void start() override;
    void stop() override;
    void send(const QByteArray& bytes) override { m_serial.send(bytes); }
    [[nodiscard]] QString place() const override { return m_port; }

    void setPlugged(bool plugged);

  private:
    void onOutput();

    QStringList m_arguments;
    QProcess m_board;
    SerialLink m_serial;
    QString m_port;
    bool m_wanted = false;
};

} // namespace cognitum
