// The desktop's own notices, over D-Bus (Desktop Notifications Specification 1.2). Nothing here waits: whether a
// notice was shown is told later.
#pragma once

#include <QHash>
#include <QObject>
#include <QString>

namespace cognitum {

struct DesktopNotice {
    QString subject; ///< of one subject only the newest is shown; empty: each
    QString title, text;
    bool urgent = false; ///< stays until somebody takes it away
    bool sound = false;
};

class DesktopNotices : public QObject {
    Q_OBJECT

  public:
    using QObject::QObject;
    void show(const DesktopNotice& notice);

  signals:
    /// `trouble` empty: the desktop took it; else why not, in a sentence.
    void answered(const QString& title, const QString& trouble);

  private:
    QHash<QString, uint> m_shown; ///< number that the desktop gave, by subject
};

} // namespace cognitum
