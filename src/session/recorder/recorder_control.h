// Starts and stops the recorder of the open bench with one switch: as a service of the user where there is systemd,
// so that it comes back after a failure and at the next log-in; else as a program of its own.
#pragma once

#include <QObject>
#include <QString>

namespace cognitum {

class Session;

class RecorderControl : public QObject {
    Q_OBJECT

  public:
    explicit RecorderControl(Session& session);
    /// The bench goes over to a recorder; `said` tells how it went.
    void start();
    /// The same when this program ends now: nothing is waited for. False: it could not be begun, and the bench is
    /// still here.
    bool startAndLeave();
    /// This window takes the bench back.
    void stop();
    [[nodiscard]] static bool hasServices(); ///< systemd runs for this user

    /// The unit, with the program at `program`: docs/record.md.
    static QString unitText(const QString& program);
    static QString recorderProgram(); ///< beside this one

  signals:
    void said(const QString& sentence);

  private:
    QString serviceName() const;
    bool writeUnit();
    void ask(const QStringList& arguments, const QString& done);
    Session& m_session;
};

} // namespace cognitum
