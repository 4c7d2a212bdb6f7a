// A client of an MQTT broker, 3.1.1 or 5, over libmosquitto with its own thread: what it receives is handed over
// through an inbox. Comes back by itself with growing pauses; tells messages that the broker kept, and the board's
// will, from live ones.
#pragma once

#include "core/bench/link_plan.h"
#include "link/inbox.h"
#include "link/link.h"

#include <QTimer>

struct mosquitto;

namespace cognitum {

/// "mqtts://host:8883": what a user name and a password are kept for. Without TLS it is another place, so that what
/// was given for an encrypted one never goes out in the open.
QString broker_place(const std::string& host, int port, bool tls);

class MqttLink : public Link {
    Q_OBJECT

  public:
    explicit MqttLink(const LinkPlan& plan, QObject* parent = nullptr);
    ~MqttLink() override;

    void start() override;
    void stop() override;
    void send(const QByteArray& bytes) override;
    bool tellState(const QString& name, const QByteArray& line, const QString& topic) override;
    [[nodiscard]] QString place() const override;
    [[nodiscard]] std::uint64_t dropped() const override { return m_inbox.dropped(); }
    void flush() override { drain(); }
    void logIn(const QString& user, const QString& password) override;
    /// For a broker whose port is only known when it runs.
    void setPort(int port) { m_plan.mqtt.port = port; }

  private:
    struct Event {
        enum class Kind { connected, disconnected, message } kind = Kind::message;
        int code = 0;
        LinkMessage message = {};
    };
    void connectNow();
    void reach();
    void again(const QString& why);
    void push(Event event);
    void drain();
    void onConnected(int code);
    void onDisconnected(int code);
    void onMessage(const LinkMessage& message);
    friend struct MqttCallbacks;

    LinkPlan m_plan;
    mosquitto* m_client = nullptr;
    Inbox<Event> m_inbox{WhenFull::drop_oldest}; ///< a broker cannot be told to wait
    static constexpr int first_pause_ms = 250;
    QTimer m_again;
    int m_pause_ms = first_pause_ms;
    bool m_wanted = false, m_knows_secret = false, m_gone = false, m_connected = false;
};

/// Why a broker refused, in words; empty for "accepted". `version` 4 or 5.
QString mqtt_refusal(int code, int version);

} // namespace cognitum
