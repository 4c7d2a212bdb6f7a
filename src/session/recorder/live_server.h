// The recorder's side: tells windows on this computer what is live, at most half a second late, and does what they
// wish. Only programs of the same user can reach it.
#pragma once

#include "session/recorder/live_stream.h"

#include <QLocalServer>
#include <QLocalSocket>
#include <QTimer>
#include <memory>
#include <vector>

namespace cognitum {

class Session;
struct FileIdentity;

/// Path of the socket for a bench file, in the user's runtime folder.
QString live_socket_path(const FileIdentity& file);

class LiveServer : public QObject {
    Q_OBJECT

  public:
    explicit LiveServer(Session& session);
    ~LiveServer() override;
    /// Error: the socket cannot be made.
    Result<void> listen(const FileIdentity& file);
    [[nodiscard]] std::size_t clients() const { return m_clients.size(); }

  signals:
    void endWished(); ///< a window takes the bench back

  private:
    struct Client {
        QLocalSocket* socket = nullptr;
        LiveTeller teller;
    };
    void greet();
    void tell();
    void hear(QLocalSocket* socket);
    void fulfil(const LiveWish& wish);
    Session& m_session;
    QLocalServer m_server;
    QTimer m_timer;
    std::vector<std::unique_ptr<Client>> m_clients;
};

/// A window's side.
class LiveClient : public QObject {
    Q_OBJECT

  public:
    LiveClient(LiveShare& share, LineStore& lines);
    /// Waits a moment; false: nobody is there.
    bool attach(const FileIdentity& file);
    void send(const LiveWish& wish);

  signals:
    void lost();

  private:
    void hear();
    LiveShare& m_share;
    LineStore& m_lines;
    QLocalSocket m_socket;
};

} // namespace cognitum
