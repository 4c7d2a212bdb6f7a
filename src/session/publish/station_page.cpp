#include "session/publish/station_page.h"

#include "link/listening.h"
#include "link/secret.h"
#include "session/language.h"
#include "session/session.h"

#include <QNetworkInterface>
#include <cmath>

namespace cognitum {

namespace {

constexpr int renewed_every_ms = 2000;
constexpr std::int64_t looked_through_every = 10 * minute_us;

/// As a receiver of posts of this port and token would ask for it.
HttpPlan listening_of(const PagePlan& plan) {
    HttpPlan out;
    out.port = plan.port;
    out.wide = true;
    out.token_print = plan.token_print;
    return out;
}

QString first_address() {
    for (const QHostAddress& address : QNetworkInterface::allAddresses())
        if (address.protocol() == QAbstractSocket::IPv4Protocol && !address.isLoopback()) return address.toString();
    return QStringLiteral("127.0.0.1");
}

const char* const style = R"(
:root{--paper:#F3EDE0;--sheet:#FBF8F1;--ink:#23262A;--soft:#5C5A52;--rule:#D8CFBC;--good:#2F6B3C;--look:#A8500B;--bad:#A1232F}
@media(prefers-color-scheme:dark){:root{--paper:#14181B;--sheet:#1B2024;--ink:#EAE4D6;--soft:#A9A79C;--rule:#353C42;--good:#7CC48A;--look:#F0A257;--bad:#F27F86}}
*{box-sizing:border-box}body{margin:0;background:var(--paper);color:var(--ink);font:16px/1.35 system-ui,sans-serif}
main{max-width:46rem;margin:0 auto;background:var(--sheet);min-height:100vh;padding:1rem}
h1{font-size:1.25rem;margin:0}p.about{color:var(--soft);margin:.2rem 0 1rem;font-size:.9rem}
h2{font-size:.95rem;margin:1.2rem 0 .2rem;color:var(--soft)}h2.look{color:var(--look)}
ul{list-style:none;margin:0;padding:0}li{border-top:1px solid var(--rule);padding:.6rem 0;display:flex;flex-wrap:wrap;gap:0 .8rem;align-items:baseline}
.name{font-weight:600;flex:1 1 9rem}.value{font-family:ui-monospace,monospace;font-size:1.35rem;text-align:right}
.value small{font-size:.8rem;color:var(--soft)}.state{flex:1 0 100%;color:var(--soft);font-size:.9rem}
.why{flex:1 0 100%;color:var(--look);font-size:.9rem}
.good{color:var(--good)}.look{color:var(--look)}.bad{color:var(--bad)}.none{color:var(--soft)}
)";

QString mark_html(Mark mark) {
    const auto shape = [](const char* kind, const char* sign, const QString& spoken) {
        return QStringLiteral("<span class=\"%1\" title=\"%3\">%2</span> ")
            .arg(QLatin1String(kind), QString::fromUtf8(sign), spoken);
    };
    switch (mark) {
    case Mark::done: return shape("good", "●", StationPage::tr("all right"));
    case Mark::look: return shape("look", "▲", StationPage::tr("needs a look"));
    case Mark::bad: return shape("bad", "◆", StationPage::tr("not right"));
    case Mark::not_begun: break;
    }
    return shape("none", "○", StationPage::tr("nothing yet"));
}

QString row_html(const OverviewRow& row) {
    QString out =
        QStringLiteral("<li><span class=\"name\">%1%2</span><span class=\"value\">%3 <small>%4</small></span>")
            .arg(mark_html(row.mark), row.name.toHtmlEscaped(), row.number.toHtmlEscaped(),
                 row.doubt.toHtmlEscaped());
    if (row.needs_look) out += QStringLiteral("<span class=\"why\">%1</span>").arg(row.why.toHtmlEscaped());
    QString state = row.state;
    if (!row.follows.isEmpty()) state += QStringLiteral(" · ") + row.follows;
    return out + QStringLiteral("<span class=\"state\">%1</span></li>\n").arg(state.toHtmlEscaped());
}

} // namespace

QByteArray station_html(const Session& session, const Live& live, const OverviewRecord& record) {
    const Bench& bench = session.bench();
    std::map<std::string, PathState> states;
    for (const Reading& r : bench.readings)
        states[r.id] = path_state(session, r, live, {});
    const auto rows = overview_rows(
        session, live, [&](const std::string& id) -> const PathState& { return states[id]; }, record);
    QString out =
        QStringLiteral(
            "<!doctype html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">"
            "<meta name=\"viewport\" content=\"width=device-width, initial-scale=1\">"
            "<meta http-equiv=\"Content-Security-Policy\" content=\"default-src 'none'; style-src "
            "'unsafe-inline'\"><meta name=\"referrer\" content=\"no-referrer\">"
            "<meta http-equiv=\"refresh\" content=\"10\"><title>%1</title><style>%2</style></head><body><main>"
            "<h1>%1</h1><p class=\"about\">%3</p>\n")
            .arg(QString::fromStdString(bench.name).toHtmlEscaped(), QString::fromUtf8(style),
                 StationPage::tr("as of %1 · read only · ± at 95 %")
                     .arg(date_said(session.now(), "ddd d MMM, HH:mm:ss")));
    QString heading;
    bool open = false;
    for (OverviewRow row : rows) {
        // A finding may name its neighbour on a pin.
        for (const Reading& r : bench.readings)
            if (r.quantity.is_private())
                row.why.replace(QString::fromStdString(r.name), StationPage::tr("another reading"));
        const bool is_health = std::any_of(row.readings.begin(), row.readings.end(), [&](const std::string& id) {
            const Reading* r = bench.reading(id);
            return !r || r->quantity.is_private();
        });
        if (is_health) continue;
        const QString wanted = row.needs_look        ? StationPage::tr("Needs a look")
                               : row.group.isEmpty() ? StationPage::tr("All right")
                                                     : row.group;
        if (wanted != heading) {
            if (open) out += QStringLiteral("</ul>\n");
            out += QStringLiteral("<h2%1>%2</h2><ul>\n")
                       .arg(row.needs_look ? QStringLiteral(" class=\"look\"") : QString(), wanted.toHtmlEscaped());
            heading = wanted;
            open = true;
        }
        out += row_html(row);
    }
    if (open) out += QStringLiteral("</ul>\n");
    if (!open) out += StationPage::tr("<p>There is no reading to show.</p>");
    return (out + QStringLiteral("</main></body></html>\n")).toUtf8();
}

StationPage::StationPage(Session& session) : m_session(session) {
    connect(&session, &Session::planChanged, this, &StationPage::followPlan);
    connect(&session, &Session::benchOpened, this, &StationPage::followPlan);
    connect(&session, &Session::benchClosed, this, &StationPage::followPlan);
    m_renew.setInterval(renewed_every_ms);
    connect(&m_renew, &QTimer::timeout, this, &StationPage::renew);
}

StationPage::~StationPage() = default;

void StationPage::say(const QString& state) {
    if (state == m_state) return;
    m_state = state;
    emit changed();
}

void StationPage::followPlan() {
    const PagePlan& plan = m_session.bench().page;
    const bool mine = m_session.isOpen() && m_session.lookOnly().isEmpty() && !m_session.isAttached();
    if (!mine || !plan.on) {
        m_server.reset();
        m_renew.stop();
        m_record = {};
        m_asked = -1;
        m_served = {};
        return say(m_session.isAttached() && plan.on ? tr("The recorder serves it at port %1.").arg(plan.port)
                                                     : QString());
    }
    // A bench may come from a stranger: the network is listened to only where somebody here said so.
    const bool wide = !plan.token_print.empty() && is_wide_allowed(listening_of(plan));
    if (m_server && plan == m_served && wide == m_wide) return;
    m_server.reset();
    m_served = plan;
    m_wide = wide;
    {
        const std::lock_guard lock(m_mutex);
        m_token_print = plan.token_print;
    }
    renew();
    constexpr std::size_t longest_body = 1024; // of what nobody should send
    m_server = std::make_unique<HttpServer>(wide ? "0.0.0.0" : "127.0.0.1", plan.port, longest_body,
                                            [this](const HttpRequest& request) { return answer(request); });
    if (!m_server->listen()) {
        m_server.reset();
        return say(tr("Port %1 is taken by another program: choose another.").arg(plan.port));
    }
    m_renew.start();
    const QString where =
        QStringLiteral("http://%1:%2/").arg(wide ? first_address() : QStringLiteral("127.0.0.1")).arg(plan.port);
    say(wide ? tr("Anybody on this network who has the token can read it: %1?token=…").arg(where)
        : plan.token_print.empty()
            ? tr("This computer alone: %1").arg(where)
            : tr("This computer alone, with the token: %1?token=… Make a new token here to let "
                 "the network in.")
                  .arg(where));
}

void StationPage::renew() {
    if (!m_session.isOpen()) return;
    m_session.worker().pull(m_live);
    if (const std::int64_t turn = m_session.now() / looked_through_every; turn != m_asked) {
        m_asked = turn;
        m_question.ask(
            m_session.exports(), this,
            [bench = m_session.bench(), known = m_record, now = m_session.now()](BenchFile& file) {
                return overview_record(file, bench, known, now);
            },
            [this](const Result<OverviewRecord>& record) {
                if (record) m_record = *record; // what cannot be read is said by others
            });
    }
    QByteArray html = station_html(m_session, m_live, m_record);
    const std::lock_guard lock(m_mutex);
    m_html = std::move(html);
}

/// In the server's thread.
HttpAnswer StationPage::answer(const HttpRequest& request) {
    const std::lock_guard lock(m_mutex);
    if (request.method == "POST") return {405, "this page is read only\n"};
    if (!m_token_print.empty() && !same_secret(token_print(QString::fromStdString(request.token)), m_token_print))
        return {401, request.token.empty() ? "token missing: add ?token= to the address\n" : "wrong token\n"};
    if (request.path != "/") return {404, "there is one page here: /\n"};
    return {200, m_html.toStdString(), "text/html; charset=utf-8"};
}

QString StationPage::makeToken() {
    QString token = new_token();
    m_session.edit(tr("Token of the page"), [&](Bench& bench) { bench.page.token_print = token_print(token); });
    allow_wide(listening_of(m_session.bench().page));
    followPlan();
    return token;
}

void StationPage::forgetToken() {
    m_session.edit(tr("Page for this computer alone"), [](Bench& bench) { bench.page.token_print.clear(); });
}

} // namespace cognitum
