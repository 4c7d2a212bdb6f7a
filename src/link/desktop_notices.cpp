#include "link/desktop_notices.h"

#include <QDBusConnection>
#include <QDBusMessage>
#include <QDBusPendingCallWatcher>
#include <QDBusPendingReply>
#include <QVariantMap>
#include <utility>

namespace cognitum {

namespace {

constexpr uchar normal = 1, critical = 2;
constexpr int as_long_as_usual = -1, until_taken_away = 0; ///< ms
constexpr qsizetype most_kept = 200;                       ///< notices whose choice leads somewhere
const QString notices_service = QStringLiteral("org.freedesktop.Notifications");
const QString notices_path = QStringLiteral("/org/freedesktop/Notifications");

} // namespace

DesktopNotices::DesktopNotices(QObject* parent) : QObject(parent) {}

/// What is chosen of notices; before the first is shown there is none.
void DesktopNotices::listen(QDBusConnection bus) {
    if (std::exchange(m_listens, true)) return;
    bus.connect(notices_service, notices_path, notices_service, QStringLiteral("ActionInvoked"), this,
                SLOT(onChosen(uint, QString)));
    bus.connect(notices_service, notices_path, notices_service, QStringLiteral("ActivationToken"), this,
                SLOT(onToken(uint, QString)));
}

/// Comes before the choice that it belongs to.
void DesktopNotices::onToken(uint number, const QString& token) {
    m_tokens = {{number, token}};
}

/// The numbers of other programs' notices come here as well.
void DesktopNotices::onChosen(uint number, const QString& /*action*/) {
    if (m_about.contains(number)) emit chosen(m_about.value(number), m_tokens.take(number));
}

void DesktopNotices::show(const DesktopNotice& notice) {
    const QDBusConnection bus = QDBusConnection::sessionBus();
    if (!bus.isConnected()) {
        emit answered(notice.title, tr("There is no desktop session here that could show a notice."));
        return;
    }
    listen(bus);
    QDBusMessage call =
        QDBusMessage::createMethodCall(notices_service, notices_path, notices_service, QStringLiteral("Notify"));
    QVariantMap hints{{QStringLiteral("urgency"), QVariant::fromValue(notice.urgent ? critical : normal)},
                      {QStringLiteral("category"), QStringLiteral("device")}};
    if (notice.sound)
        hints[QStringLiteral("sound-name")] =
            notice.urgent ? QStringLiteral("dialog-error") : QStringLiteral("dialog-warning");
    call.setArguments({QStringLiteral("Cognitum"), m_shown.value(notice.subject, 0), QString(), notice.title,
                       notice.text.toHtmlEscaped(), QStringList{QStringLiteral("default"), tr("Show the reading")},
                       hints, notice.urgent ? until_taken_away : as_long_as_usual});
    auto* watcher = new QDBusPendingCallWatcher(bus.asyncCall(call), this);
    connect(watcher, &QDBusPendingCallWatcher::finished, this, [this, notice, watcher] {
        watcher->deleteLater();
        const QDBusPendingReply<uint> reply = *watcher;
        if (reply.isError()) {
            emit answered(notice.title, tr("The desktop shows no notices: %1").arg(reply.error().message()));
            return;
        }
        if (!notice.subject.isEmpty()) m_shown[notice.subject] = reply.value();
        if (m_about.size() >= most_kept) m_about.clear();
        m_about[reply.value()] = notice.about;
        emit answered(notice.title, {});
    });
}

} // namespace cognitum
