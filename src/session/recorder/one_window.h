// One window for each person: a second start hands its file to the window that runs, as a double click expects.
#pragma once

#include <QLocalServer>
#include <QObject>
#include <QString>
#include <QStringList>

namespace cognitum {

class OneWindow : public QObject {
    Q_OBJECT

  public:
    /// A window of this person's data that runs takes these files (none: it only comes to the front). False: there
    /// is no such window, or it does not answer.
    static bool handOver(const QStringList& paths);
    /// From now on this is the window that others hand their files to. False: another one is.
    bool listen();

  signals:
    /// `token` lets the window come to the front (xdg-activation); empty where the desktop gives none.
    void asked(const QStringList& paths, const QString& token);

  private:
    void greet();
    QLocalServer m_server;
};

} // namespace cognitum
