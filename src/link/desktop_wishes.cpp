#include "link/desktop_wishes.h"

#include <QDBusConnection>
#include <QDBusMessage>
#include <QDBusPendingCallWatcher>
#include <QDBusPendingReply>

namespace cognitum {

namespace {

const QString portal_service = QStringLiteral("org.freedesktop.portal.Desktop");
const QString portal_path = QStringLiteral("/org/freedesktop/portal/desktop");
const QString portal_settings = QStringLiteral("org.freedesktop.portal.Settings");
const QString appearance_space = QStringLiteral("org.freedesktop.appearance");
const QString scheme_key = QStringLiteral("color-scheme");
constexpr uint prefers_dark = 1; ///< 0: no preference, 2: light

/// The old way of asking answers with a variant inside a variant.
QVariant without_wraps(QVariant value) {
    while (value.userType() == qMetaTypeId<QDBusVariant>())
        value = value.value<QDBusVariant>().variant();
    return value;
}

} // namespace

DesktopWishes::DesktopWishes(QObject* parent) : QObject(parent) {
    QDBusConnection bus = QDBusConnection::sessionBus();
    if (!bus.isConnected()) return;
    bus.connect(portal_service, portal_path, portal_settings, QStringLiteral("SettingChanged"), this,
                SLOT(onChanged(QString, QString, QDBusVariant)));
    QDBusMessage call =
        QDBusMessage::createMethodCall(portal_service, portal_path, portal_settings, QStringLiteral("Read"));
    call.setArguments({appearance_space, scheme_key});
    auto* watcher = new QDBusPendingCallWatcher(bus.asyncCall(call), this);
    connect(watcher, &QDBusPendingCallWatcher::finished, this, [this, watcher] {
        watcher->deleteLater();
        const QDBusPendingReply<QDBusVariant> reply = *watcher;
        if (!reply.isError()) onChanged(appearance_space, scheme_key, reply.value());
    });
}

void DesktopWishes::onChanged(const QString& space, const QString& key, const QDBusVariant& value) {
    if (space == appearance_space && key == scheme_key)
        emit darkWished(without_wraps(value.variant()).toUInt() == prefers_dark);
}

} // namespace cognitum
