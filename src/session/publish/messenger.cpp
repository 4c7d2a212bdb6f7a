#include "session/publish/messenger.h"

#include "core/base/json_reader.h"
#include "session/path_state.h"
#include "session/recorder/live_stream.h"
#include "session/session.h"

#include <cmath>

namespace cognitum {

namespace {

QByteArray bytes_of(const Json& json) {
    return QByteArray::fromStdString(json_dump(json));
}

const char* notice_kind(const ToldNotice& notice) {
    return notice.over ? "over" : notice.urgent ? "urgent" : "raised";
}

} // namespace

Messenger::Messenger(Session& session) : m_session(session) {
    connect(&session.worker(), &Worker::told, this, &Messenger::tell);
    connect(&session, &Session::planChanged, this, &Messenger::followPlan);
    connect(&session, &Session::benchOpened, this, &Messenger::followPlan);
    connect(&session, &Session::benchClosed, this, &Messenger::followPlan);
    connect(&m_broker, &MqttPublisher::changed, this, &Messenger::changed);
    connect(&m_desktop, &DesktopNotices::answered, this, [this](const QString&, const QString& trouble) {
        m_desktop_trouble = trouble;
        emit changed();
    });
    connect(&m_desktop, &DesktopNotices::chosen, this, &Messenger::readingWanted);
    connect(&m_publish, &QTimer::timeout, this, &Messenger::publishNow);
}

/// A window that only looks, or is attached, leaves it to the program that has the bench.
bool Messenger::mayTalk() const {
    return m_session.isOpen() && m_session.lookOnly().isEmpty() && !m_session.isAttached();
}

bool Messenger::wantsSecret() const {
    return m_session.isOpen() && m_session.bench().publishing.log_in && !m_has_secret;
}

void Messenger::followPlan() {
    const Publishing& plan = m_session.bench().publishing;
    if (!mayTalk() || plan.host.empty() || wantsSecret()) {
        m_broker.goTo({});
        m_publish.stop();
        return;
    }
    m_broker.goTo({QString::fromStdString(plan.host), plan.port,
                   QString::fromStdString(plan.topic) + QStringLiteral("/status")});
    const int every_ms = static_cast<int>(1000 * plan.every_s);
    if (!m_publish.isActive() || m_publish.interval() != every_ms) m_publish.start(every_ms);
}

void Messenger::logIn(const QString& user, const QString& password) {
    m_has_secret = true;
    m_session.worker().wish({LiveWish::Kind::log_in_broker, {}, user, password});
    m_broker.logIn(user, password);
    followPlan();
    emit changed();
}

void Messenger::toDesktop(const ToldNotice& notice) {
    const Telling& telling = m_session.bench().telling;
    if (!telling.desktop || notice.rank == WatchRank::note) return;
    m_desktop.show({notice.rule, notice.title, notice.text, notice.rank == WatchRank::bad && !notice.over,
                    telling.sound && !notice.over, notice.reading});
}

void Messenger::tell(const ToldNotice& notice) {
    if (!mayTalk()) return;
    emit told(notice);
    toDesktop(notice);
    const Bench& bench = m_session.bench();
    if (!bench.telling.broker || notice.health) return;
    m_broker.publish(QString::fromStdString(bench.publishing.topic) + QStringLiteral("/notices"),
                     bytes_of({{"time", iso_time(notice.time)},
                               {"rule", notice.rule.toStdString()},
                               {"reading", notice.reading.toStdString()},
                               {"kind", notice_kind(notice)},
                               {"title", notice.title.toStdString()},
                               {"text", notice.text.toStdString()}}),
                     false);
}

void Messenger::tryNow() {
    m_session.worker().wish({LiveWish::Kind::try_notice});
    ToldNotice notice;
    notice.time = m_session.now();
    notice.rank = WatchRank::look;
    notice.title = tr("A trial");
    notice.text = tr("This is how the rules of %1 are heard. Nothing is wrong.")
                      .arg(QString::fromStdString(m_session.bench().name));
    tell(notice);
}

QByteArray published_value(const Session& session, const Reading& reading, const Live& live) {
    const PathState state = path_state(session, reading, live, {});
    const auto known = live.readings.find(reading.id);
    const bool any = known != live.readings.end() && known->second.time;
    const bool valued = any && known->second.value.ok() && state.reaches == 6;
    Json out = {{"name", reading.name},
                {"value", valued ? Json(known->second.value.number) : Json(nullptr)},
                {"unit", reading.quantity.unit}};
    double doubt = no_number;
    if (valued)
        doubt = known->second.by_hand ? known->second.hand_doubt
                                      : session.views().budget(reading, known->second.raw, live).expanded();
    out["doubt"] = std::isfinite(doubt) ? Json(doubt) : Json(nullptr);
    out["state"] = state.word.toStdString();
    out["age_s"] = any ? Json(seconds(session.now() - *known->second.time)) : Json(nullptr);
    out["time"] = any ? Json(iso_time(*known->second.time)) : Json(nullptr);
    if (!valued && any && !known->second.cause.empty()) out["cause"] = known->second.cause;
    return bytes_of(out);
}

void Messenger::publishNow() {
    if (!mayTalk()) return;
    const Bench& bench = m_session.bench();
    m_session.worker().pull(m_live);
    for (const std::string& id : bench.publishing.readings)
        if (const Reading* reading = bench.reading(id))
            m_broker.publish(QString::fromStdString(bench.publishing.topic + "/" + id),
                             published_value(m_session, *reading, m_live), true);
}

} // namespace cognitum
