// Writes to a broker: values that the broker keeps, so that whoever comes later has the newest, and a last word
// that it sends when this program is gone. What could not be sent waits, of each topic the newest; comes back by
// itself.
#pragma once

#include <QByteArray>
#include <QHash>
#include <QList>
#include <QObject>
#include <QString>
#include <QTimer>

struct mosquitto;

namespace cognitum {

struct BrokerPlace {
    QString host;
    int port = 1883;
    QString status_topic; ///< "here" is kept there while it runs, "gone" when it goes
    bool operator==(const BrokerPlace&) const = default;
};

class MqttPublisher : public QObject {
    Q_OBJECT

  public:
    explicit MqttPublisher(QObject* parent = nullptr);
    ~MqttPublisher() override;

    /// Goes there, and leaves where it was. An empty host: nowhere.
    void goTo(const BrokerPlace& place);
    /// Leaves; the broker then says the last word.
    void leave();
    void logIn(const QString& user, const QString& password);
    void publish(const QString& topic, const QByteArray& text, bool kept);
    [[nodiscard]] bool connected() const { return m_connected; }
    /// Why nothing goes out, in a sentence; empty: it does, or nothing is wanted.
    [[nodiscard]] QString trouble() const { return m_trouble; }

  signals:
    void changed();

  private:
    struct Message {
        QString topic;
        QByteArray text;
        bool kept = false;
    };
    friend struct PublisherCallbacks;
    void reach();
    void connectTo(const QString& address);
    void onConnected(int code);
    void onDisconnected(int code);
    void say(bool connected, const QString& trouble);
    void send(const Message& message);

    BrokerPlace m_place;
    QString m_user, m_password;
    mosquitto* m_client = nullptr;
    bool m_connected = false, m_started = false;
    QString m_trouble;
    QTimer m_again;
    QHash<QString, Message> m_waiting_kept; ///< by topic
    QList<Message> m_waiting;               ///< at most `most_waiting`
};

} // namespace cognitum
