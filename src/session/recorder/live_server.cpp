#include "session/recorder/live_server.h"

#include "core/base/phrase.h"
#include "session/session.h"
#include "store/file/open_files.h"

#include <QDataStream>
#include <QDir>
#include <QStandardPaths>
#include <algorithm>
#include <utility>

namespace cognitum {

namespace {

constexpr int tell_every_ms = 400;
constexpr int attach_within_ms = 1000;
constexpr std::size_t most_clients = 16;

void send_frame(QLocalSocket& socket, const QByteArray& bytes) {
    QDataStream out(&socket);
    out.setVersion(QDataStream::Qt_6_4);
    out << bytes;
    socket.flush();
}

/// The next whole frame; empty: it has not come yet. A longer one than `longest` ends the connection.
std::optional<QByteArray> next_frame(QLocalSocket& socket, int longest) {
    if (socket.bytesAvailable() < 4) return {};
    const QByteArray head = socket.peek(4);
    QDataStream size_of(head);
    quint32 size = 0;
    size_of >> size;
    if (size > static_cast<quint32>(longest)) {
        socket.abort();
        return {};
    }
    if (socket.bytesAvailable() < 4 + static_cast<qint64>(size)) return {};
    socket.skip(4);
    return socket.read(size);
}

} // namespace

QString live_socket_path(const FileIdentity& file) {
    QString folder = QStandardPaths::writableLocation(QStandardPaths::RuntimeLocation);
    if (folder.isEmpty()) folder = QDir::tempPath();
    return folder + QStringLiteral("/cognitum-live-%1-%2").arg(file.device).arg(file.inode);
}

LiveServer::LiveServer(Session& session) : m_session(session) {
    m_server.setSocketOptions(QLocalServer::UserAccessOption);
    connect(&m_server, &QLocalServer::newConnection, this, &LiveServer::greet);
    m_timer.setInterval(tell_every_ms);
    connect(&m_timer, &QTimer::timeout, this, &LiveServer::tell);
}

LiveServer::~LiveServer() {
    for (const auto& client : m_clients)
        client->socket->disconnect(this); // their end is nobody's business any more
}

Result<void> LiveServer::listen(const FileIdentity& file) {
    const QString path = live_socket_path(file);
    QLocalServer::removeServer(path); // left by one that was killed: the bench's lock is ours
    if (m_server.listen(path)) return {};
    return failure(m_server.errorString().toStdString() + ".", path.toStdString(),
                   phrase("Windows cannot look at what is recorded; the recording goes on."));
}

void LiveServer::greet() {
    while (QLocalSocket* socket = m_server.nextPendingConnection()) {
        if (m_clients.size() >= most_clients) {
            socket->abort();
            socket->deleteLater();
            continue;
        }
        auto client = std::make_unique<Client>();
        client->socket = socket;
        connect(socket, &QLocalSocket::readyRead, this, [this, socket] { hear(socket); });
        connect(socket, &QLocalSocket::disconnected, this, [this, socket] {
            std::erase_if(m_clients, [socket](const auto& c) { return c->socket == socket; });
            socket->deleteLater();
            if (m_clients.empty()) m_timer.stop();
        });
        m_clients.push_back(std::move(client));
        m_timer.start();
    }
    tell();
}

void LiveServer::tell() {
    std::vector<QLocalSocket*> stuck;
    for (const auto& client : m_clients) {
        if (client->socket->bytesToWrite() > longest_update) {
            stuck.push_back(client->socket); // it does not read any more
            continue;
        }
        if (client->socket->bytesToWrite() > 0) continue; // it gets all of it with the next
        if (const auto update = client->teller.next(m_session.worker().share(), m_session.worker().lines()))
            send_frame(*client->socket, live_bytes(*update));
    }
    for (QLocalSocket* socket : stuck)
        socket->abort();
}

void LiveServer::hear(QLocalSocket* socket) {
    while (const auto frame = next_frame(*socket, longest_wish)) {
        if (const auto wish = read_wish(*frame))
            fulfil(*wish);
        else
            return socket->abort();
    }
}

void LiveServer::fulfil(const LiveWish& wish) {
    Worker& worker = m_session.worker();
    const std::string target = wish.target.toStdString();
    switch (wish.kind) {
    case LiveWish::Kind::plan_changed: m_session.lookAround(); break;
    case LiveWish::Kind::start_recording: worker.startRecording(); break;
    case LiveWish::Kind::stop_recording: worker.stopRecording(); break;
    case LiveWish::Kind::send: worker.sendCommand(target, wish.text); break;
    case LiveWish::Kind::plug: worker.setPlugged(target, wish.number != 0); break;
    case LiveWish::Kind::allow_wide: m_session.allowWide(target); break;
    case LiveWish::Kind::allow_acting: m_session.allowActing(target); break;
    case LiveWish::Kind::log_in: worker.logIn(target, wish.text, wish.more); break;
    case LiveWish::Kind::by_hand: worker.enterByHandNow(target, wish.number, wish.doubt); break;
    case LiveWish::Kind::seen: worker.seen(target); break;
    case LiveWish::Kind::hand:
        worker.handNow(target, wish.text.isEmpty() ? std::nullopt : std::optional(wish.text == QLatin1String("on")),
                       static_cast<TimeUs>(wish.number));
        break;
    case LiveWish::Kind::try_notice: m_session.messenger().tryNow(); break;
    case LiveWish::Kind::log_in_broker: m_session.messenger().logIn(wish.text, wish.more); break;
    case LiveWish::Kind::end: emit endWished(); break;
    }
}

LiveClient::LiveClient(LiveShare& share, LineStore& lines) : m_share(share), m_lines(lines) {
    connect(&m_socket, &QLocalSocket::readyRead, this, &LiveClient::hear);
    connect(&m_socket, &QLocalSocket::disconnected, this, &LiveClient::lost);
}

bool LiveClient::attach(const FileIdentity& file) {
    m_socket.connectToServer(live_socket_path(file));
    return m_socket.waitForConnected(attach_within_ms);
}

void LiveClient::send(const LiveWish& wish) {
    send_frame(m_socket, wish_bytes(wish));
}

void LiveClient::hear() {
    while (const auto frame = next_frame(m_socket, longest_update)) {
        if (const auto update = read_live(*frame))
            take_update(*update, m_share, m_lines);
        else
            return m_socket.abort(); // a recorder of another version
    }
}

} // namespace cognitum
