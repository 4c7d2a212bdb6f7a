#include "session/program/program_loader.h"

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QTimer>

namespace cognitum {

namespace {

constexpr int longest_load_ms = 120'000;

bool save(const QString& path, const std::string& text) {
    QDir().mkpath(QFileInfo(path).path());
    QFile out(path);
    return out.open(QIODevice::WriteOnly) && out.write(text.data(), static_cast<qint64>(text.size())) >= 0;
}

} // namespace

ProgramLoader::ProgramLoader(QObject* parent) : QObject(parent) {
    connect(&m_compiler, &BesideProcess::ended, this, [this](const BesideProcess::End& compiled) {
        if (compiled.code == 0) return load();
        end(false, compiled.code == -1
                       ? tr("cognitum-processor could not be started: build it beside this program.")
                       : compiled.complaint);
    });
}

ProgramLoader::~ProgramLoader() {
    if (m_loader) m_loader->disconnect(this);
}

QString ProgramLoader::trouble(const QString& command) {
    const QStringList words = QProcess::splitCommand(command);
    if (words.isEmpty()) return tr("Give the command that loads a program onto a board.");
    if (!command.contains(QLatin1String("{hex}")) && !command.contains(QLatin1String("{source}")) &&
        !command.contains(QLatin1String("{folder}")))
        return tr("The command must say where the program stands: {hex}, {source} or {folder}.");
    return {};
}

void ProgramLoader::start(const Bench& bench, const Job& job) {
    m_job = job;
    if (const QString wrong = trouble(job.command); !wrong.isEmpty()) return end(false, wrong);
    const QString plan = m_compiler.handOver(bench);
    if (plan.isEmpty()) return end(false, tr("There is no room in the folder for temporary files."));
    for (const ProgramFile& file : job.program.files)
        if (!save(m_compiler.path(QString::fromStdString(file.name)), file.text))
            return end(false, tr("There is no room in the folder for temporary files."));
    m_folder = QFileInfo(m_compiler.path(QString::fromStdString(job.program.files.front().name))).path();
    if (!job.command.contains(QLatin1String("{hex}"))) return load();
    m_compiler.start(QStringLiteral("cognitum-processor"),
                     {plan, QStringLiteral("--board"), QString::fromStdString(job.board),
                      QStringLiteral("--program"),
                      m_compiler.path(QString::fromStdString(job.program.files.front().name)),
                      QStringLiteral("--hex"), QDir(m_folder).filePath(QStringLiteral("program.hex"))});
}

void ProgramLoader::load() {
    QStringList words = QProcess::splitCommand(m_job.command);
    for (QString& word : words)
        word.replace(QLatin1String("{port}"), m_job.port)
            .replace(QLatin1String("{hex}"), QDir(m_folder).filePath(QStringLiteral("program.hex")))
            .replace(QLatin1String("{source}"),
                     m_compiler.path(QString::fromStdString(m_job.program.files.front().name)))
            .replace(QLatin1String("{folder}"), m_folder);
    m_loader = new QProcess(this);
    m_loader->setProcessChannelMode(QProcess::MergedChannels);
    connect(m_loader, &QProcess::errorOccurred, this, [this, name = words.front()](QProcess::ProcessError error) {
        if (error == QProcess::FailedToStart)
            end(false, tr("There is no program “%1” on this computer.").arg(name));
    });
    connect(m_loader, &QProcess::finished, this, [this](int code, QProcess::ExitStatus how) {
        const QString said = QString::fromUtf8(m_loader->readAll()).trimmed().section(QLatin1Char('\n'), -1);
        const bool done = how == QProcess::NormalExit && code == 0;
        end(done, done || !said.isEmpty() ? said : tr("The loader ended with %1 and said nothing.").arg(code));
    });
    QTimer::singleShot(longest_load_ms, m_loader, [loader = m_loader] { loader->kill(); });
    m_loader->start(words.takeFirst(), words);
}

void ProgramLoader::end(bool done, const QString& said) {
    if (m_loader) {
        m_loader->disconnect(this);
        m_loader->deleteLater();
        m_loader = nullptr;
    }
    emit finished(done, said);
}

} // namespace cognitum
