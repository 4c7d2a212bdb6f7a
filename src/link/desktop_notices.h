// The desktop's own notices, over D-Bus (Desktop Notifications Specification 1.2). Nothing here waits: whether a
// notice was shown is told later.
#pragma once

#include <QHash>
#include <QObject>
#include <QString>

class QDBusConnection;

namespace cognitum {

struct DesktopNotice {
    QString subject; ///< of one subject only the newest is shown; empty: each
    QString title, text;
    bool urgent = false; ///< stays until somebody takes it away
    bool sound = false;
    QString about = {}; ///< handed back when somebody chooses it
};

class DesktopNotices : public QObject {
    Q_OBJECT

  public:
    explicit DesktopNotices(QObject* parent = nullptr);
    void show(const DesktopNotice& notice);

  signals:
    /// `trouble` empty: the desktop took it; else why not, in a sentence.
    void answered(const QString& title, const QString& trouble);
    /// Somebody chose a notice. `token`: lets a window come to the front (xdg-activation), where
    /// the desktop gives one.
    void chosen(const QString& about, const QString& token);

  private slots:
    void onChosen(uint number, const QString& action);
    void onToken(uint number, const QString& token);

  private:
    void listen(QDBusConnection bus);
    bool m_listens = false;
    QHash<QString, uint> m_shown; ///< number that the desktop gave, by subject
    QHash<uint, QString> m_about; ///< of the newest notices, by number
    QHash<uint, QString> m_tokens;
};

} // namespace cognitum
