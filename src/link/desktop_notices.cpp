#include "link/desktop_notices.h"

#include <QDBusConnection>
#include <QDBusMessage>
#include <QDBusPendingCallWatcher>
#include <QDBusPendingReply>
#include <QVariantMap>

namespace cognitum {

namespace {

constexpr uchar normal = 1, critical = 2;
constexpr int as_long_as_usual = -1, until_taken_away = 0; ///< ms

} // namespace

void DesktopNotices::show(const DesktopNotice& notice) {
    const QDBusConnection bus = QDBusConnection::sessionBus();
    if (!bus.isConnected()) {
        emit answered(notice.title, tr("There is no desktop session here that could show a notice."));
        return;
    }
    const QString service = QStringLiteral("org.freedesktop.Notifications");
    QDBusMessage call = QDBusMessage::createMethodCall(service, QStringLiteral("/org/freedesktop/Notifications"),
                                                       service, QStringLiteral("Notify"));
    QVariantMap hints{{QStringLiteral("urgency"), QVariant::fromValue(notice.urgent ? critical : normal)},
                      {QStringLiteral("category"), QStringLiteral("device")}};
    if (notice.sound)
        hints[QStringLiteral("sound-name")] =
            notice.urgent ? QStringLiteral("dialog-error") : QStringLiteral("dialog-warning");
    call.setArguments({QStringLiteral("Cognitum"), m_shown.value(notice.subject, 0), QString(), notice.title,
                       notice.text.toHtmlEscaped(), QStringList(), hints,
                       notice.urgent ? until_taken_away : as_long_as_usual});
    auto* watcher = new QDBusPendingCallWatcher(bus.asyncCall(call), this);
    connect(watcher, &QDBusPendingCallWatcher::finished, this, [this, notice, watcher] {
        watcher->deleteLater();
        const QDBusPendingReply<uint> reply = *watcher;
        if (reply.isError()) {
            emit answered(notice.title, tr("The desktop shows no notices: %1").arg(reply.error().message()));
            return;
        }
        if (!notice.subject.isEmpty()) m_shown[notice.subject] = reply.value();
        emit answered(notice.title, {});
    });
}

} // namespace cognitum
