#include "session/live/run_folder.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <cerrno>
#include <csignal>
#include <unistd.h>

namespace cognitum {

namespace {

const QString start_of_name = QStringLiteral("cognitum-run-");

void remove_those_of_the_dead() {
    for (const QFileInfo& old :
         QDir::temp().entryInfoList({start_of_name + QLatin1Char('*')}, QDir::Dirs | QDir::NoSymLinks)) {
        const int process = old.fileName().section(QLatin1Char('-'), 2, 2).toInt();
        if (process > 0 && old.ownerId() == ::getuid() && ::kill(process, 0) != 0 && errno == ESRCH)
            QDir(old.filePath()).removeRecursively();
    }
}

QString template_of_name() {
    remove_those_of_the_dead();
    return QDir::temp().filePath(start_of_name + QString::number(QCoreApplication::applicationPid()) +
                                 QStringLiteral("-XXXXXX"));
}

} // namespace

RunFolder::RunFolder() : m_folder(template_of_name()) {}

} // namespace cognitum
