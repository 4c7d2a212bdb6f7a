// What leaves this computer, or reaches the desk beside it: notices of the watch rules, each on the ways that the
// plan asks for, and corrected values for a broker. In the interface's thread; nothing here waits.
#pragma once

#include "link/desktop_notices.h"
#include "link/mqtt_publisher.h"
#include "session/live/live.h"
#include "session/live/notice.h"

#include <QTimer>

namespace cognitum {

class Session;
struct Reading;

class Messenger : public QObject {
    Q_OBJECT

  public:
    explicit Messenger(Session& session);

    void tell(const ToldNotice& notice);
    /// Sends a notice that says it is a trial, on every way of the plan.
    void tryNow();
    /// Publishes now, as it does by itself at its rate.
    void publishNow();
    void logIn(const QString& user, const QString& password);

    /// Why the last notice did not reach the desktop; empty: it did, or none was sent.
    [[nodiscard]] QString desktopTrouble() const { return m_desktop_trouble; }
    [[nodiscard]] QString brokerTrouble() const { return m_broker.trouble(); }
    [[nodiscard]] bool brokerConnected() const { return m_broker.connected(); }
    /// The plan says that the broker asks for a user name and a password, and they were not given since this
    /// program started; they are kept nowhere.
    [[nodiscard]] bool wantsSecret() const;

  signals:
    void changed();
    /// For a window that is open: in the corner of the eye.
    void told(const cognitum::ToldNotice& notice);
    /// Somebody chose a notice on the desktop; the token lets the window come to the front.
    void readingWanted(const QString& reading, const QString& token);

  private:
    void followPlan();
    [[nodiscard]] bool mayTalk() const;
    void toDesktop(const ToldNotice& notice);
    Session& m_session;
    DesktopNotices m_desktop;
    MqttPublisher m_broker;
    QTimer m_publish;
    Live m_live;
    QString m_desktop_trouble;
    bool m_has_secret = false;
};

/// One published message: name, value, unit, doubt (± at 95 %), state in words, age in seconds and time. Without a
/// value: null and the cause.
QByteArray published_value(const Session& session, const Reading& reading, const Live& live);

} // namespace cognitum
