#include "session/program/beside_process.h"

#include <QCoreApplication>
#include <QDir>
#include <QFile>

namespace cognitum {

BesideProcess::~BesideProcess() {
    stop();
}

void BesideProcess::stop() {
    if (!m_process) return;
    m_process->disconnect(this);
    m_process->kill();
    m_process->waitForFinished(1000);
    m_process->deleteLater();
    m_process = nullptr;
}

QString BesideProcess::handOver(const Bench& bench) {
    stop();
    m_folder = std::make_unique<QTemporaryDir>();
    QFile file(path(QStringLiteral("bench.json")));
    const QByteArray text = QByteArray::fromStdString(json_dump(bench_json(bench)));
    if (!file.open(QIODevice::WriteOnly) || file.write(text) != text.size()) return {};
    return file.fileName();
}

void BesideProcess::start(const QString& program, const QStringList& arguments) {
    stop();
    m_process = new QProcess(this);
    connect(m_process, &QProcess::finished, this, &BesideProcess::end);
    connect(m_process, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
        if (error == QProcess::FailedToStart) end(-1);
    });
    m_process->start(QDir(QCoreApplication::applicationDirPath()).filePath(program), arguments);
}

void BesideProcess::end(int code) {
    End out;
    out.code = code;
    out.said = m_process->readAllStandardOutput();
    out.complaint = QString::fromUtf8(m_process->readAllStandardError()).trimmed();
    out.crashed = m_process->exitStatus() == QProcess::CrashExit;
    m_process->disconnect(this);
    m_process->deleteLater();
    m_process = nullptr;
    emit ended(out);
}

} // namespace cognitum
