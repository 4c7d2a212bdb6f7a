// Takes what boards post: POST /in/BOARD with a JSON body or form fields. Listens on this computer alone until told
// wider, asks for a token where one is set, limits size and rate, and writes nothing. Its threads hand over through
// an inbox.
#pragma once

#include "core/bench/limits.h"
#include "core/bench/link_plan.h"
#include "link/http_server.h"
#include "link/inbox.h"
#include "link/link.h"

#include <QTimer>
#include <map>
#include <memory>
#include <mutex>

namespace cognitum {

class HttpReceiver;

/// One board's share of a receiver.
class HttpLink : public Link {
    Q_OBJECT

  public:
    HttpLink(const LinkPlan& plan, QString board, std::shared_ptr<HttpReceiver> receiver,
             QObject* parent = nullptr);
    ~HttpLink() override;

    void start() override;
    void stop() override;
    /// The board gets it as the answer to its next post.
    void send(const QByteArray& bytes) override;
    bool tellState(const QString& name, const QByteArray& line, const QString& topic) override;
    [[nodiscard]] QString place() const override;
    void allowWide() override;
    void flush() override;

    void deliver(const LinkMessage& message);
    void tell(LinkState state, const QString& reason);

  private:
    LinkPlan m_plan;
    QString m_board;
    std::shared_ptr<HttpReceiver> m_receiver;
    QTimer* m_again;
};

class HttpReceiver : public QObject {
    Q_OBJECT

  public:
    static constexpr std::size_t longest_body = http_longest_body;
    static constexpr int most_per_second = http_posts_per_s;

    /// Port 0: any free one.
    HttpReceiver(int port, bool wide);
    ~HttpReceiver() override;

    /// Empty, or why it does not listen.
    QString listen();
    [[nodiscard]] int port() const { return m_port; }
    [[nodiscard]] bool isWide() const { return m_wide; }
    /// From this computer alone to the whole network; listen() is to be called again.
    void widen();
    void add(const QString& board, const std::string& token_print, HttpLink* link);
    void remove(const QString& board);
    void queueCommand(const QString& board, const QByteArray& line);
    /// See Link::tellState(). False: the board has not posted since it was to be told before.
    bool queueState(const QString& board, const QString& name, const QByteArray& line);
    /// Posts that were refused so far, by reason.
    [[nodiscard]] std::map<std::string, std::uint64_t> refused() const;

  private:
    struct Waiting {
        QByteArray line;
        std::chrono::steady_clock::time_point since;
    };
    struct Entry {
        std::string token_print;
        HttpLink* link = nullptr;
        QByteArray commands;
        std::map<QString, Waiting> states; ///< what is to be told, by name; only the newest line
        std::int64_t second = 0;
        int in_second = 0;
    };
    struct Arrived {
        std::string board;
        LinkMessage message;
        QString refusal; ///< told to the link instead
    };
    HttpAnswer take(const std::string& board, const std::string& token, const std::string& body);
    friend class HttpLink;
    void tellRefused(const std::string& board, const HttpAnswer& answer);
    void drain();

    int m_port;
    bool m_wide;
    mutable std::mutex m_mutex; ///< guards what follows
    std::map<std::string, Entry> m_entries;
    std::map<std::string, std::uint64_t> m_refused;
    Inbox<Arrived> m_inbox;
    std::unique_ptr<HttpServer> m_server; ///< ends first: its thread uses the others
};

} // namespace cognitum
