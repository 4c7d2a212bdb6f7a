// One button on a phone: a small page in the own network that takes a calibration's point from where the hand is.
// Off unless somebody switches it on, reachable only with the address' secret, gone when it is switched off.
#pragma once

#include "core/base/error.h"

#include <QObject>
#include <QString>
#include <memory>

namespace cognitum {

class RemoteKey : public QObject {
    Q_OBJECT

  public:
    explicit RemoteKey(QObject* parent = nullptr);
    ~RemoteKey() override;
    RemoteKey(const RemoteKey&) = delete;
    RemoteKey& operator=(const RemoteKey&) = delete;

    /// Begins to listen; the address to open on the phone. `loopback`: for tests, this computer alone. Error when
    /// no port can be had.
    Result<QString> open(bool loopback = false);
    /// What the page shows beside its button.
    void say(const QString& text);

  signals:
    void pressed();

  private:
    struct Server;
    std::unique_ptr<Server> m_server;
};

} // namespace cognitum
