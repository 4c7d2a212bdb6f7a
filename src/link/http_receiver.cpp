#include "link/http_receiver.h"

#include <QCryptographicHash>
#include <QRandomGenerator>
#include <QTimer>
#include <chrono>
#include <httplib.h>
#include <thread>

namespace cognitum {

namespace {

std::int64_t this_second() {
    return std::chrono::duration_cast<std::chrono::seconds>(std::chrono::steady_clock::now().time_since_epoch())
        .count();
}

/// Takes as long for a wrong token as for a right one.
bool same_secret(const std::string& a, const std::string& b) {
    unsigned different = static_cast<unsigned>(a.size() ^ b.size());
    for (std::size_t i = 0; i < a.size() && i < b.size(); ++i)
        different |= static_cast<unsigned>(static_cast<unsigned char>(a[i]) ^ static_cast<unsigned char>(b[i]));
    return different == 0;
}

std::string token_of(const httplib::Request& request) {
    if (const std::string token = request.get_header_value("X-Token"); !token.empty()) return token;
    const std::string authorization = request.get_header_value("Authorization");
    return authorization.rfind("Bearer ", 0) == 0 ? authorization.substr(7) : std::string();
}

} // namespace

QString new_token() {
    QByteArray bytes(16, '\0');
    for (char& c : bytes)
        c = static_cast<char>(QRandomGenerator::system()->bounded(256));
    return QString::fromLatin1(bytes.toHex());
}

std::string token_print(const QString& token) {
    return QCryptographicHash::hash(token.toUtf8(), QCryptographicHash::Sha256).toHex().toStdString();
}

struct HttpReceiver::Server {
    httplib::Server http;
    std::thread thread;
};

HttpReceiver::HttpReceiver(int port, bool wide) : m_port(port), m_wide(wide) {}

HttpReceiver::~HttpReceiver() {
    if (!m_server) return;
    m_server->http.stop();
    if (m_server->thread.joinable()) m_server->thread.join();
}

QString HttpReceiver::listen() {
    if (m_server) return {};
    auto server = std::make_unique<Server>();
    httplib::Server& http = server->http;
    http.new_task_queue = [] { return new httplib::ThreadPool(4); };
    http.set_read_timeout(5, 0);
    http.set_write_timeout(5, 0);
    http.set_keep_alive_max_count(100);
    http.set_payload_max_length(longest_body);
    // A body that says that it is too long is not even begun to be read.
    http.set_pre_routing_handler([](const httplib::Request& request, httplib::Response& response) {
        const std::string length = request.get_header_value("Content-Length");
        if (length.size() <= 5 && std::atoll(length.c_str()) <= static_cast<long long>(longest_body))
            return httplib::Server::HandlerResponse::Unhandled;
        response.status = 413;
        response.set_content("body too long\n", "text/plain; charset=utf-8");
        response.set_header("Connection", "close");
        return httplib::Server::HandlerResponse::Handled;
    });
    // Without the library's own choice, which lets two programs share one port.
    http.set_socket_options([](socket_t socket) {
        const int yes = 1;
        setsockopt(socket, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
    });
    http.Post(R"(/in/([A-Za-z0-9_.-]{1,80}))", [this](const httplib::Request& request, httplib::Response& response,
                                                      const httplib::ContentReader& reader) {
        std::string body;
        bool too_long = false;
        const bool whole =
            reader([&](const char* data, std::size_t n) { // also of a body that does not say how long it is
                too_long = body.size() + n > longest_body;
                if (!too_long) body.append(data, n);
                return !too_long;
            });
        if (!whole && !too_long) { // it was cut: half a message is none
            response.status = 400;
            return;
        }
        const Answer answer = take(request.matches[1], token_of(request), std::move(body), too_long);
        response.status = answer.status;
        response.set_content(answer.body, "text/plain; charset=utf-8");
        if (too_long) response.set_header("Connection", "close");
    });
    http.set_error_handler([](const httplib::Request&, httplib::Response& response) {
        if (response.body.empty()) response.set_content("Post to /in/BOARD.\n", "text/plain; charset=utf-8");
    });
    const char* host = m_wide ? "0.0.0.0" : "127.0.0.1";
    if (m_port == 0)
        m_port = http.bind_to_any_port(host);
    else if (!http.bind_to_port(host, m_port))
        return HttpLink::tr("Port %1 is taken by another program. Choose another port, or end that program.")
            .arg(m_port);
    if (m_port <= 0) {
        m_port = 0;
        return HttpLink::tr("No free port was found to listen on.");
    }
    m_server = std::move(server);
    m_server->thread = std::thread([s = m_server.get()] { s->http.listen_after_bind(); });
    while (!m_server->http.is_running()) // stop() only works on one that runs; it takes microseconds
        std::this_thread::yield();
    return {};
}

HttpReceiver::Answer HttpReceiver::take(const std::string& board, const std::string& token, std::string body,
                                        bool too_long) {
    const std::string print = token_print(QString::fromStdString(token));
    Arrived arrived{board, {}, {}};
    Answer answer;
    {
        const std::lock_guard lock(m_mutex);
        const auto refuse = [&](int status, const char* reason) {
            ++m_refused[reason];
            answer = {status, std::string(reason) + "\n"};
        };
        const auto found = m_entries.find(board);
        if (found == m_entries.end()) {
            refuse(404, "no such board");
            return answer;
        }
        Entry& entry = found->second;
        if (const std::int64_t now = this_second(); now != entry.second) {
            entry.second = now;
            entry.in_second = 0;
        }
        if (!entry.token_print.empty() && !same_secret(print, entry.token_print)) {
            refuse(401, token.empty() ? "token missing" : "wrong token");
            arrived.refusal = token.empty() ? HttpLink::tr("A post without its token was refused.")
                                            : HttpLink::tr("A post with a wrong token was refused.");
        } else if (too_long) {
            refuse(413, "body too long");
            arrived.refusal = HttpLink::tr("A body of more than 64 KiB was refused.");
        } else if (++entry.in_second > most_per_second) {
            refuse(429, "too many posts");
            arrived.refusal =
                HttpLink::tr("More than %1 posts in a second: the rest was refused.").arg(most_per_second);
        } else {
            answer.body = entry.commands.isEmpty() ? "ok\n" : entry.commands.toStdString();
            entry.commands.clear();
            arrived.message = {QString::fromStdString(board), QByteArray::fromStdString(body), false};
        }
    }
    const bool kept = m_inbox.push(std::move(arrived), [this] {
        QMetaObject::invokeMethod(
            this, [this] { drain(); }, Qt::QueuedConnection);
    });
    return kept ? answer : Answer{503, "busy\n"};
}

void HttpReceiver::drain() {
    for (const Arrived& arrived : m_inbox.drain()) {
        HttpLink* link = nullptr;
        {
            const std::lock_guard lock(m_mutex);
            const auto found = m_entries.find(arrived.board);
            if (found != m_entries.end()) link = found->second.link;
        }
        if (!link) continue;
        if (!arrived.refusal.isEmpty())
            link->tell(LinkState::open, arrived.refusal);
        else
            link->deliver(arrived.message);
    }
}

void HttpReceiver::add(const QString& board, const std::string& print, HttpLink* link) {
    const std::lock_guard lock(m_mutex);
    Entry& entry = m_entries[board.toStdString()];
    entry.token_print = print;
    entry.link = link;
}

void HttpReceiver::remove(const QString& board) {
    const std::lock_guard lock(m_mutex);
    m_entries.erase(board.toStdString());
}

void HttpReceiver::queueCommand(const QString& board, const QByteArray& line) {
    const std::lock_guard lock(m_mutex);
    const auto found = m_entries.find(board.toStdString());
    if (found != m_entries.end() && found->second.commands.size() < 4096) found->second.commands += line;
}

std::map<std::string, std::uint64_t> HttpReceiver::refused() const {
    const std::lock_guard lock(m_mutex);
    return m_refused;
}

HttpLink::HttpLink(const LinkPlan& plan, QString board, std::shared_ptr<HttpReceiver> receiver, QObject* parent)
    : Link(parent),
      m_plan(plan),
      m_board(std::move(board)),
      m_receiver(std::move(receiver)),
      m_again(new QTimer(this)) {
    m_again->setSingleShot(true);
    m_again->setInterval(3000);
    connect(m_again, &QTimer::timeout, this, &HttpLink::start);
}

HttpLink::~HttpLink() {
    m_receiver->remove(m_board);
}

QString HttpLink::place() const {
    return QStringLiteral("http://%1:%2/in/%3")
        .arg(m_receiver->isWide() ? tr("(this computer)") : QStringLiteral("127.0.0.1"))
        .arg(m_receiver->port())
        .arg(m_board);
}

void HttpLink::start() {
    if (m_plan.http.wide && m_plan.http.token_print.empty()) {
        tell(LinkState::lost, tr("It does not listen beyond this computer without a token. Make one."));
        return;
    }
    m_receiver->add(m_board, m_plan.http.token_print, this);
    const QString trouble = m_receiver->listen();
    tell(trouble.isEmpty() ? LinkState::open : LinkState::lost, trouble);
    if (!trouble.isEmpty()) m_again->start();
}

void HttpLink::stop() {
    m_again->stop();
    m_receiver->remove(m_board);
    tell(LinkState::closed, {});
}

void HttpLink::send(const QByteArray& bytes) {
    m_receiver->queueCommand(m_board, bytes);
}

void HttpLink::deliver(const LinkMessage& message) {
    emit this->message(message);
}

void HttpLink::tell(LinkState state, const QString& reason) {
    emit stateChanged(state, reason);
}

} // namespace cognitum
