#include "session/recorder/recorder_control.h"

#include "session/recorder/live_stream.h"
#include "session/session.h"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QProcess>
#include <QSaveFile>
#include <QStandardPaths>

namespace cognitum {

namespace {

const QString unit_name = QStringLiteral("cognitum-recorder@");

/// As systemd-escape --path writes it: / as -, what is no letter, digit, _ or . as \\xNN.
QString escaped_path(const QString& path) {
    QString out;
    const QByteArray bytes = QDir::cleanPath(path).mid(1).toUtf8();
    for (qsizetype i = 0; i < bytes.size(); ++i) {
        const char c = bytes[i];
        const bool plain = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_' ||
                           (c == '.' && i > 0);
        if (c == '/')
            out += QLatin1Char('-');
        else if (plain)
            out += QLatin1Char(c);
        else
            out += QStringLiteral("\\x%1").arg(static_cast<uchar>(c), 2, 16, QLatin1Char('0'));
    }
    return out;
}

} // namespace

RecorderControl::RecorderControl(Session& session) : m_session(session) {}

bool RecorderControl::hasServices() {
    const QString runtime = QStandardPaths::writableLocation(QStandardPaths::RuntimeLocation);
    return QFile::exists(runtime + QStringLiteral("/systemd/private"));
}

QString RecorderControl::recorderProgram() {
    return QCoreApplication::applicationDirPath() + QStringLiteral("/cognitum-recorder");
}

QString RecorderControl::unitText(const QString& program) {
    return QStringLiteral("# Written by Cognitum. One service for each bench: its name holds the bench file.\n"
                          "[Unit]\nDescription=Cognitum recorder of %f\n\n"
                          "[Service]\nExecStart=\"%1\" %f\nRestart=always\nRestartSec=2\n"
                          "RestartPreventExitStatus=1 2\n\n"
                          "[Install]\nWantedBy=default.target\n")
        .replace(QStringLiteral("%1"), program);
}

QString RecorderControl::serviceName() const {
    return unit_name + escaped_path(QFileInfo(m_session.path()).absoluteFilePath()) + QStringLiteral(".service");
}

/// The service of the user: that of the package where this program is the installed one, else one for this program.
bool RecorderControl::writeUnit() {
    if (recorderProgram() == QStringLiteral("/usr/bin/cognitum-recorder") &&
        QFile::exists(QStringLiteral("/usr/lib/systemd/user/") + unit_name + QStringLiteral(".service")))
        return true;
    const QString folder =
        QStandardPaths::writableLocation(QStandardPaths::GenericConfigLocation) + QStringLiteral("/systemd/user");
    QSaveFile file(folder + QLatin1Char('/') + unit_name + QStringLiteral(".service"));
    if (!QDir().mkpath(folder) || !file.open(QIODevice::WriteOnly)) return false;
    file.write(unitText(recorderProgram()).toUtf8());
    return file.commit();
}

void RecorderControl::ask(const QStringList& arguments, const QString& done) {
    auto* process = new QProcess(this);
    connect(process, &QProcess::finished, this, [this, process, done](int code) {
        const QString error = QString::fromUtf8(process->readAllStandardError()).trimmed();
        const QString sentence = code == 0 ? done : tr("The service could not be changed: %1").arg(error);
        if (!sentence.isEmpty()) emit said(sentence);
        process->deleteLater();
    });
    connect(process, &QProcess::errorOccurred, this, [this, process](QProcess::ProcessError error) {
        if (error != QProcess::FailedToStart) return;
        emit said(tr("The service could not be changed: there is no systemctl here."));
        process->deleteLater();
    });
    process->start(QStringLiteral("systemctl"), QStringList{QStringLiteral("--user")} + arguments);
}

void RecorderControl::start() {
    if (!m_session.isOpen() || m_session.isAttached() || !m_session.lookOnly().isEmpty()) return;
    const QString program = recorderProgram();
    if (!QFileInfo(program).isExecutable()) {
        emit said(tr("The program %1 is not there: this window goes on recording.").arg(program));
        return;
    }
    const QString path = QFileInfo(m_session.path()).absoluteFilePath();
    m_session.handOver();
    if (hasServices() && writeUnit()) {
        ask({QStringLiteral("daemon-reload")}, {});
        ask({QStringLiteral("enable"), QStringLiteral("--now"), serviceName()},
            tr("The recorder runs as a service of yours; it comes back at the next log-in. For a start without "
               "one, "
               "run: loginctl enable-linger"));
        return;
    }
    if (QProcess::startDetached(program, {path}))
        emit said(tr("The recorder runs until this computer is shut down: there is no service manager here."));
    else
        emit said(tr("The recorder could not be started."));
}

bool RecorderControl::startAndLeave() {
    const QString program = recorderProgram();
    if (!m_session.isOpen() || m_session.isAttached() || !m_session.lookOnly().isEmpty() ||
        !QFileInfo(program).isExecutable())
        return false;
    const QString path = QFileInfo(m_session.path()).absoluteFilePath();
    m_session.handOver();
    const bool service = hasServices() && writeUnit();
    return service ? QProcess::startDetached(QStringLiteral("systemctl"),
                                             {QStringLiteral("--user"), QStringLiteral("enable"),
                                              QStringLiteral("--now"), serviceName()})
                   : QProcess::startDetached(program, {path});
}

void RecorderControl::stop() {
    if (!m_session.isAttached()) return;
    if (hasServices()) ask({QStringLiteral("disable"), QStringLiteral("--now"), serviceName()}, {});
    m_session.takeBack();
}

} // namespace cognitum
