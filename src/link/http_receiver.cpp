#include "link/http_receiver.h"

#include "link/listening.h"
#include "link/secret.h"

#include <QTimer>
#include <algorithm>
#include <chrono>

namespace cognitum {

namespace {

constexpr std::chrono::minutes longest_wait(2); ///< of what is to be told, for the board's next post

std::int64_t this_second() {
    return std::chrono::duration_cast<std::chrono::seconds>(std::chrono::steady_clock::now().time_since_epoch())
        .count();
}

/// The board of "/in/BOARD"; empty for any other path.
std::string board_of(const std::string& path) {
    if (!path.starts_with("/in/")) return {};
    const std::string board = path.substr(4);
    const auto plain = [](char c) {
        return (c >= 'A' && c <= 'Z') || (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9') || c == '_' || c == '.' ||
               c == '-';
    };
    return board.size() <= 80 && std::all_of(board.begin(), board.end(), plain) ? board : std::string();
}

} // namespace

HttpReceiver::HttpReceiver(int port, bool wide) : m_port(port), m_wide(wide) {}

HttpReceiver::~HttpReceiver() = default;

QString HttpReceiver::listen() {
    if (m_server) return {};
    auto server = std::make_unique<HttpServer>(
        m_wide ? "0.0.0.0" : "127.0.0.1", m_port, longest_body,
        [this](const HttpRequest& request) {
            const std::string board = board_of(request.path);
            if (board.empty() || request.method != "POST") return HttpAnswer{404, "Post to /in/BOARD.\n"};
            return take(board, request.token, request.body);
        },
        [this](const std::string& path, const HttpAnswer& answer) { tellRefused(board_of(path), answer); });
    if (!server->listen())
        return m_port == 0 ? HttpLink::tr("No free port was found to listen on.")
                           : HttpLink::tr("Port %1 is taken by another program. Choose another port, or end that "
                                          "program.")
                                 .arg(m_port);
    m_port = server->port();
    m_server = std::move(server);
    return {};
}

HttpAnswer HttpReceiver::take(const std::string& board, const std::string& token, const std::string& body) {
    const std::string print = token_print(QString::fromStdString(token));
    Arrived arrived{board, {}, {}};
    HttpAnswer answer;
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
        } else if (++entry.in_second > most_per_second) {
            refuse(429, "too many posts");
            arrived.refusal =
                HttpLink::tr("More than %1 posts in a second: the rest was refused.").arg(most_per_second);
        } else {
            for (const auto& [name, waiting] : entry.states)
                entry.commands += waiting.line + '\n';
            answer.body = entry.commands.isEmpty() ? "ok\n" : entry.commands.toStdString();
            entry.commands.clear();
            entry.states.clear();
            arrived.message = {QString::fromStdString(board), QByteArray::fromStdString(body), false};
        }
    }
    const std::size_t bytes = body.size() + 200;
    const bool kept = m_inbox.push(std::move(arrived), bytes, [this] {
        QMetaObject::invokeMethod(
            this, [this] { drain(); }, Qt::QueuedConnection);
    });
    return kept ? answer : HttpAnswer{503, "busy\n"};
}

/// A request that did not come as far as its token.
void HttpReceiver::tellRefused(const std::string& board, const HttpAnswer& answer) {
    const std::string reason = answer.body.substr(0, answer.body.find('\n'));
    {
        const std::lock_guard lock(m_mutex);
        ++m_refused[reason];
        if (!m_entries.contains(board)) return;
    }
    m_inbox.push({board, {}, HttpLink::tr("A post was refused: %1.").arg(QString::fromStdString(reason))}, 200,
                 [this] {
                     QMetaObject::invokeMethod(
                         this, [this] { drain(); }, Qt::QueuedConnection);
                 });
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

/// All boards of this receiver are reached wide then; each still needs its own token.
void HttpReceiver::widen() {
    m_server.reset();
    m_wide = true;
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

bool HttpReceiver::queueState(const QString& board, const QString& name, const QByteArray& line) {
    const auto now = std::chrono::steady_clock::now();
    const std::lock_guard lock(m_mutex);
    const auto found = m_entries.find(board.toStdString());
    if (found == m_entries.end()) return false;
    const auto [waiting, is_new] = found->second.states.try_emplace(name, Waiting{line, now});
    waiting->second.line = line;
    return is_new || now - waiting->second.since < longest_wait;
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
    const bool asks = m_plan.http.wide && !m_receiver->isWide();
    tell(trouble.isEmpty() ? LinkState::open : LinkState::lost,
         trouble.isEmpty() && asks ? tr("It listens on this computer alone, at port %1.").arg(m_receiver->port())
                                   : trouble);
    if (trouble.isEmpty() && asks)
        emit permissionWanted(tr("port %1, for the whole network").arg(m_receiver->port()));
    if (!trouble.isEmpty()) m_again->start();
}

void HttpLink::flush() {
    m_receiver->drain();
}

void HttpLink::allowWide() {
    if (!m_plan.http.wide || m_receiver->isWide()) return;
    m_receiver->widen();
    start();
}

void HttpLink::stop() {
    m_again->stop();
    m_receiver->remove(m_board);
    tell(LinkState::closed, {});
}

void HttpLink::send(const QByteArray& bytes) {
    m_receiver->queueCommand(m_board, bytes);
}

bool HttpLink::tellState(const QString& name, const QByteArray& line, const QString&) {
    return m_receiver->queueState(m_board, name, line);
}

void HttpLink::deliver(const LinkMessage& message) {
    emit this->message(message);
}

void HttpLink::tell(LinkState state, const QString& reason) {
    emit stateChanged(state, reason);
}

} // namespace cognitum
