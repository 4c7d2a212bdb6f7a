#include "link/mqtt_link.h"

#include <QFileInfo>
#include <QHostAddress>
#include <QHostInfo>
#include <cerrno>
#include <cstring>
#include <mosquitto.h>
#include <mqtt_protocol.h>

namespace cognitum {

namespace {

constexpr int keep_alive_s = 15;
constexpr int longest_payload = 65536;
constexpr int longest_broker_pause_ms = 8000;

} // namespace

QString mqtt_refusal(int code, int version) {
    if (code == 0) return {};
    const bool secret =
        version == 5 ? code == MQTT_RC_BAD_USERNAME_OR_PASSWORD || code == MQTT_RC_NOT_AUTHORIZED
                     : code == CONNACK_REFUSED_BAD_USERNAME_PASSWORD || code == CONNACK_REFUSED_NOT_AUTHORIZED;
    if (secret) return MqttLink::tr("The broker asks for a user name and a password that it knows.");
    const char* text = version == 5 ? mosquitto_reason_string(code) : mosquitto_connack_string(code);
    return MqttLink::tr("The broker refuses: %1").arg(QString::fromUtf8(text));
}

struct MqttCallbacks {
    static void connected(mosquitto*, void* self, int code, int, const mosquitto_property*) {
        static_cast<MqttLink*>(self)->push({MqttLink::Event::Kind::connected, code, {}});
    }
    static void disconnected(mosquitto*, void* self, int code, const mosquitto_property*) {
        static_cast<MqttLink*>(self)->push({MqttLink::Event::Kind::disconnected, code, {}});
    }
    static void message(mosquitto*, void* self, const mosquitto_message* m, const mosquitto_property*) {
        LinkMessage out;
        out.channel = QString::fromUtf8(m->topic);
        // One byte more than is taken, so that what is too long is seen and told.
        out.payload =
            QByteArray(static_cast<const char*>(m->payload), std::min(m->payloadlen, longest_payload + 1));
        out.kept = m->retain;
        static_cast<MqttLink*>(self)->push({MqttLink::Event::Kind::message, 0, std::move(out)});
    }
};

MqttLink::MqttLink(const LinkPlan& plan, QObject* parent) : Link(parent), m_plan(plan) {
    m_again.setParent(this);
    m_again.setSingleShot(true);
    connect(&m_again, &QTimer::timeout, this, &MqttLink::connectNow);
}

MqttLink::~MqttLink() {
    m_wanted = false;
    if (!m_client) return;
    mosquitto_disconnect(m_client);
    mosquitto_loop_stop(m_client, true);
    mosquitto_destroy(m_client);
}

QString broker_place(const std::string& host, int port, bool tls) {
    return QStringLiteral("%1://%2:%3")
        .arg(tls ? QStringLiteral("mqtts") : QStringLiteral("mqtt"), QString::fromStdString(host))
        .arg(port);
}

QString MqttLink::place() const {
    return QStringLiteral("%1:%2").arg(QString::fromStdString(m_plan.mqtt.host)).arg(m_plan.mqtt.port);
}

void MqttLink::start() {
    m_wanted = true;
    if (m_plan.mqtt.log_in && !m_knows_secret) {
        emit stateChanged(LinkState::opening, tr("Waiting for the user name and password of %1.").arg(place()));
        emit secretWanted(broker_place(m_plan.mqtt.host, m_plan.mqtt.port, m_plan.mqtt.tls));
        return;
    }
    emit stateChanged(LinkState::opening, {});
    if (!m_client) {
        m_client = mosquitto_new(nullptr, true, this);
        if (!m_client) {
            emit stateChanged(
                LinkState::lost,
                tr("MQTT cannot be used here: %1").arg(QString::fromUtf8(mosquitto_strerror(MOSQ_ERR_NOMEM))));
            return;
        }
        mosquitto_int_option(m_client, MOSQ_OPT_PROTOCOL_VERSION,
                             m_plan.mqtt.version == 5 ? MQTT_PROTOCOL_V5 : MQTT_PROTOCOL_V311);
        mosquitto_connect_v5_callback_set(m_client, &MqttCallbacks::connected);
        mosquitto_disconnect_v5_callback_set(m_client, &MqttCallbacks::disconnected);
        mosquitto_message_v5_callback_set(m_client, &MqttCallbacks::message);
        mosquitto_reconnect_delay_set(m_client, 1, 8, true);
        if (m_plan.mqtt.tls) {
            const QString ca = QString::fromStdString(m_plan.mqtt.ca_file);
            if (const QFileInfo file(ca); !ca.isEmpty() && !(file.isFile() && file.isReadable())) {
                emit stateChanged(LinkState::lost, tr("The certificate file %1 cannot be read.").arg(ca));
                return;
            }
            const int rc =
                ca.isEmpty()
                    ? mosquitto_tls_set(m_client, nullptr, "/etc/ssl/certs", nullptr, nullptr, nullptr)
                    : mosquitto_tls_set(m_client, ca.toUtf8().constData(), nullptr, nullptr, nullptr, nullptr);
            if (rc != MOSQ_ERR_SUCCESS) {
                emit stateChanged(
                    LinkState::lost,
                    tr("The certificates cannot be used: %1").arg(QString::fromUtf8(mosquitto_strerror(rc))));
                return;
            }
        }
    }
    connectNow();
}

/// A name is looked up without waiting: the library would hold up this thread, and every other board's link with
/// it.
void MqttLink::connectNow() {
    if (!m_wanted || !m_client) return;
    const QString host = QString::fromStdString(m_plan.mqtt.host);
    if (host == QStringLiteral("localhost") || !QHostAddress(host).isNull()) return reach();
    QHostInfo::lookupHost(host, this, [this](const QHostInfo& found) {
        if (found.error() == QHostInfo::NoError) return reach();
        if (m_wanted) again(tr("there is no such name: %1").arg(found.errorString()));
    });
}

/// The library comes back by itself once it was connected; until then it is asked again from here.
void MqttLink::reach() {
    if (!m_wanted || !m_client) return;
    const int rc = mosquitto_connect_async(m_client, m_plan.mqtt.host.c_str(), m_plan.mqtt.port, keep_alive_s);
    if (rc == MOSQ_ERR_SUCCESS) {
        mosquitto_loop_start(m_client);
        return;
    }
    again(QString::fromUtf8(rc == MOSQ_ERR_ERRNO ? std::strerror(errno) : mosquitto_strerror(rc)));
}

void MqttLink::again(const QString& why) {
    emit stateChanged(LinkState::lost,
                      tr("No broker answers at %1 (%2). It is tried again by itself.").arg(place(), why));
    m_again.start(m_pause_ms);
    m_pause_ms = std::min(2 * m_pause_ms, longest_broker_pause_ms);
}

void MqttLink::logIn(const QString& user, const QString& password) {
    m_knows_secret = true;
    if (!m_client) {
        m_plan.mqtt.log_in = true;
        if (m_wanted) start();
    }
    if (!m_client) return;
    mosquitto_username_pw_set(m_client, user.toUtf8().constData(), password.toUtf8().constData());
    m_again.start(0);
}

void MqttLink::stop() {
    m_wanted = false;
    m_again.stop();
    if (m_client) {
        mosquitto_disconnect(m_client);
        mosquitto_loop_stop(m_client, true);
        mosquitto_destroy(m_client);
        m_client = nullptr;
        m_connected = false;
    }
    emit stateChanged(LinkState::closed, {});
}

void MqttLink::push(Event event) {
    const bool is_message = event.kind == Event::Kind::message;
    const auto bytes = static_cast<std::size_t>(event.message.payload.size() + event.message.channel.size()) + 100;
    m_inbox.push(std::move(event), is_message ? bytes : 0, [this] {
        QMetaObject::invokeMethod(
            this, [this] { drain(); }, Qt::QueuedConnection);
    });
}

void MqttLink::drain() {
    for (const Event& event : m_inbox.drain()) {
        if (!m_wanted) return;
        switch (event.kind) {
        case Event::Kind::connected: onConnected(event.code); break;
        case Event::Kind::disconnected: onDisconnected(event.code); break;
        case Event::Kind::message: onMessage(event.message); break;
        }
    }
}

void MqttLink::onConnected(int code) {
    if (code != 0) {
        emit stateChanged(LinkState::lost, mqtt_refusal(code, m_plan.mqtt.version));
        return;
    }
    m_gone = false;
    m_connected = true;
    m_pause_ms = first_pause_ms;
    for (const QString& topic :
         QString::fromStdString(m_plan.mqtt.topics).split(QLatin1Char(' '), Qt::SkipEmptyParts))
        if (mosquitto_subscribe(m_client, nullptr, topic.toUtf8().constData(), 1) != MOSQ_ERR_SUCCESS) {
            emit stateChanged(LinkState::open, tr("“%1” is no topic that can be subscribed to.").arg(topic));
            return;
        }
    emit stateChanged(LinkState::open, {});
}

void MqttLink::onDisconnected(int code) {
    m_connected = false;
    if (code == 0) return;
    emit stateChanged(LinkState::lost, tr("No broker answers at %1. It is tried again by itself.").arg(place()));
}

void MqttLink::onMessage(const LinkMessage& message) {
    if (!m_plan.mqtt.status_topic.empty() && message.channel == QString::fromStdString(m_plan.mqtt.status_topic)) {
        const bool gone = message.payload == QByteArray::fromStdString(m_plan.mqtt.gone_word);
        if (gone != m_gone || gone)
            emit stateChanged(
                LinkState::open,
                gone ? tr("The broker says that the board has left (“%1”): its network or its power is gone.")
                           .arg(QString::fromUtf8(message.payload.left(40)))
                     : QString());
        m_gone = gone;
        return;
    }
    emit this->message(message);
}

void MqttLink::send(const QByteArray& bytes) {
    if (m_client && !m_plan.mqtt.command_topic.empty())
        mosquitto_publish(m_client, nullptr, m_plan.mqtt.command_topic.c_str(), static_cast<int>(bytes.size()),
                          bytes.constData(), 1, false);
}

/// Not while nobody is there: the library would keep it and send it when it is no longer true.
bool MqttLink::tellState(const QString&, const QByteArray& line, const QString& topic) {
    const QByteArray to = topic.isEmpty() ? QByteArray::fromStdString(m_plan.mqtt.command_topic) : topic.toUtf8();
    if (!m_client || !m_connected || m_gone || to.isEmpty()) return false;
    return mosquitto_publish(m_client, nullptr, to.constData(), static_cast<int>(line.size()), line.constData(), 1,
                             false) == MOSQ_ERR_SUCCESS;
}

} // namespace cognitum
