// One page for people on the same network: what each reading says, how old that is, and what needs a look. Read
// only, without a script, off by default; for this computer alone until a token is made. Nothing about somebody's
// health.
#pragma once

#include "link/http_server.h"
#include "session/archive/archive.h"
#include "session/live/live.h"
#include "session/overview.h"

#include <QObject>
#include <QTimer>
#include <memory>
#include <mutex>

namespace cognitum {

class Session;

/// The page as HTML that stands alone; refreshed by the browser every ten seconds.
QByteArray station_html(const Session& session, const Live& live, const OverviewRecord& record);

class StationPage : public QObject {
    Q_OBJECT

  public:
    explicit StationPage(Session& session);
    ~StationPage() override;

    /// A new token for the whole network, shown once; it is allowed on this computer. Only its fingerprint is kept.
    QString makeToken();
    /// Back to this computer alone.
    void forgetToken();
    /// Where it is reached, or why it is not; empty: it is off.
    [[nodiscard]] QString state() const { return m_state; }
    [[nodiscard]] int port() const { return m_server ? m_server->port() : 0; }

  signals:
    void changed();

  private:
    void followPlan();
    void renew();
    HttpAnswer answer(const HttpRequest& request);
    void say(const QString& state);
    Session& m_session;
    std::mutex m_mutex; ///< guards what the server's thread reads
    QByteArray m_html;
    std::string m_token_print;
    PagePlan m_served;
    bool m_wide = false;
    Live m_live;
    OverviewRecord m_record;
    ArchiveQuestion<OverviewRecord> m_question;
    std::int64_t m_asked = -1;
    QTimer m_renew;
    QString m_state;
    std::unique_ptr<HttpServer> m_server; ///< ends first: its thread uses the others
};

} // namespace cognitum
