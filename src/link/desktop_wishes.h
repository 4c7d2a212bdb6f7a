// What the desktop asks of all programs, over its portal (org.freedesktop.portal.Settings). Nothing here waits;
// where there is no portal, nothing is asked.
#pragma once

#include <QDBusVariant>
#include <QObject>
#include <QString>

namespace cognitum {

class DesktopWishes : public QObject {
    Q_OBJECT

  public:
    explicit DesktopWishes(QObject* parent = nullptr);

  signals:
    void darkWished(bool dark);

  private slots:
    void onChanged(const QString& space, const QString& key, const QDBusVariant& value);
};

} // namespace cognitum
