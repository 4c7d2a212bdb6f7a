#include "link/mqtt_publisher.h"

#include "link/mqtt_link.h"

#include <QHostAddress>
#include <QHostInfo>
#include <mosquitto.h>

namespace cognitum {

namespace {

constexpr int publisher_keep_alive_s = 15;
constexpr int publisher_again_ms = 4000;
constexpr qsizetype most_waiting = 100;

} // namespace

struct PublisherCallbacks {
    static void connected(mosquitto*, void* self, int code) {
        auto* p = static_cast<MqttPublisher*>(self);
        QMetaObject::invokeMethod(
            p, [p, code] { p->onConnected(code); }, Qt::QueuedConnection);
    }
    static void disconnected(mosquitto*, void* self, int code) {
        auto* p = static_cast<MqttPublisher*>(self);
        QMetaObject::invokeMethod(
            p, [p, code] { p->onDisconnected(code); }, Qt::QueuedConnection);
    }
};

MqttPublisher::MqttPublisher(QObject* parent) : QObject(parent) {
    m_again.setSingleShot(true);
    connect(&m_again, &QTimer::timeout, this, &MqttPublisher::reach);
}

MqttPublisher::~MqttPublisher() {
    leave();
}

void MqttPublisher::goTo(const BrokerPlace& place) {
    if (place == m_place && (m_client || place.host.isEmpty())) return;
    leave();
    m_place = place;
    m_waiting.clear();
    m_waiting_kept.clear();
    if (place.host.isEmpty()) return say(false, {});
    m_client = mosquitto_new(nullptr, true, this);
    if (!m_client)
        return say(false,
                   tr("MQTT cannot be used here: %1").arg(QString::fromUtf8(mosquitto_strerror(MOSQ_ERR_NOMEM))));
    mosquitto_connect_callback_set(m_client, &PublisherCallbacks::connected);
    mosquitto_disconnect_callback_set(m_client, &PublisherCallbacks::disconnected);
    mosquitto_reconnect_delay_set(m_client, 1, 8, true);
    mosquitto_will_set(m_client, place.status_topic.toUtf8().constData(), 4, "gone", 1, true);
    if (!m_user.isEmpty())
        mosquitto_username_pw_set(m_client, m_user.toUtf8().constData(), m_password.toUtf8().constData());
    reach();
}

void MqttPublisher::leave() {
    m_again.stop();
    if (!m_client) return;
    // Without a good-bye: the broker says the last word by itself, and nobody waits here for one that hangs.
    if (m_started) mosquitto_loop_stop(m_client, true);
    mosquitto_destroy(m_client);
    m_client = nullptr;
    m_started = m_connected = false;
}

void MqttPublisher::logIn(const QString& user, const QString& password) {
    m_user = user;
    m_password = password;
    const BrokerPlace place = m_place;
    leave();
    goTo(place);
}

/// A name is looked up without waiting: the library would hold up this thread.
void MqttPublisher::reach() {
    if (!m_client) return;
    if (m_place.host == QStringLiteral("localhost") || !QHostAddress(m_place.host).isNull())
        return connectTo(m_place.host);
    QHostInfo::lookupHost(m_place.host, this, [this, asked = m_place](const QHostInfo& found) {
        if (!m_client || !(asked == m_place)) return;
        if (found.error() == QHostInfo::NoError) return connectTo(found.addresses().constFirst().toString());
        say(false, tr("There is no broker of that name: %1").arg(asked.host));
        m_again.start(publisher_again_ms);
    });
}

/// The library comes back by itself once it was connected; until then it is asked again from here.
void MqttPublisher::connectTo(const QString& address) {
    if (mosquitto_connect_async(m_client, address.toUtf8().constData(), m_place.port, publisher_keep_alive_s) !=
        MOSQ_ERR_SUCCESS) {
        say(false,
            tr("No broker answers at %1:%2. It is tried again by itself.").arg(m_place.host).arg(m_place.port));
        m_again.start(publisher_again_ms);
        return;
    }
    if (!m_started) m_started = mosquitto_loop_start(m_client) == MOSQ_ERR_SUCCESS;
}

void MqttPublisher::onConnected(int code) {
    if (!m_client) return;
    if (code != 0) return say(false, mqtt_refusal(code, 4));
    say(true, {});
    send({m_place.status_topic, "here", true});
    for (const Message& m : std::as_const(m_waiting_kept))
        send(m);
    for (const Message& m : std::as_const(m_waiting))
        send(m);
    m_waiting_kept.clear();
    m_waiting.clear();
}

void MqttPublisher::onDisconnected(int code) {
    if (!m_client || code == 0) return;
    say(false, tr("No broker answers at %1:%2. It is tried again by itself.").arg(m_place.host).arg(m_place.port));
}

void MqttPublisher::say(bool connected, const QString& trouble) {
    m_connected = connected;
    m_trouble = trouble;
    emit changed();
}

void MqttPublisher::publish(const QString& topic, const QByteArray& text, bool kept) {
    if (m_place.host.isEmpty()) return;
    const Message message{topic, text, kept};
    if (m_connected) return send(message);
    if (kept)
        m_waiting_kept[topic] = message;
    else
        m_waiting.append(message);
    if (m_waiting.size() > most_waiting) m_waiting.removeFirst();
}

void MqttPublisher::send(const Message& message) {
    const int rc =
        mosquitto_publish(m_client, nullptr, message.topic.toUtf8().constData(),
                          static_cast<int>(message.text.size()), message.text.constData(), 1, message.kept);
    if (rc != MOSQ_ERR_SUCCESS)
        say(m_connected,
            tr("The broker did not take %1: %2").arg(message.topic, QString::fromUtf8(mosquitto_strerror(rc))));
}

} // namespace cognitum
