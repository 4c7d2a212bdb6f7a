#include "session/program_proof.h"

#include "core/base/json_reader.h"

#include <QCoreApplication>
#include <QDir>
#include <QFile>
#include <cmath>

namespace cognitum {

namespace {

double number(const Json& json, const char* key) {
    const auto at = json.find(key);
    return at != json.end() && at->is_number() ? at->get<double>() : std::nan("");
}

ProofReport read_report(const QByteArray& text) {
    ProofReport out;
    const Json json = Json::parse(text.toStdString(), nullptr, false);
    if (!json.is_object() || !json.contains("readings")) {
        out.trouble = ProgramProof::tr("The proof said nothing that could be read.");
        return out;
    }
    out.holds = json.value("holds", false);
    for (const Json& r : json["readings"]) {
        const Json& worst = r["worst"];
        out.rows.push_back({r.value("reading", ""), r.value("points", 0), r.value("held", 0),
                            number(worst, "given"), number(worst, "truth"), number(worst, "said"),
                            number(worst, "off_by"), QString::fromStdString(worst.value("sent", ""))});
    }
    for (const Json& left : json["not_proven"])
        out.not_proven.emplace_back(left.value("reading", ""), QString::fromStdString(left.value("why", "")));
    out.flash = json.value("flash_bytes", 0);
    out.flash_there = json.value("flash_there_bytes", 0);
    out.memory = json.value("memory_bytes", 0);
    out.memory_there = json.value("memory_there_bytes", 0);
    out.longest_loop_ms = number(json, "longest_loop_ms");
    out.restarts = json.value("restarts", 0);
    return out;
}

} // namespace

ProgramProof::~ProgramProof() {
    stop();
}

void ProgramProof::stop() {
    if (!m_process) return;
    m_process->disconnect(this);
    m_process->kill();
    m_process->waitForFinished(1000);
    m_process->deleteLater();
    m_process = nullptr;
}

void ProgramProof::start(const Bench& bench, const std::string& board, const ProgramOptions& options) {
    stop();
    m_folder = std::make_unique<QTemporaryDir>();
    const QString path = m_folder->filePath(QStringLiteral("bench.json"));
    QFile file(path);
    if (!file.open(QIODevice::WriteOnly) ||
        file.write(QByteArray::fromStdString(json_dump(bench_json(bench)))) < 0) {
        ProofReport out;
        out.trouble = tr("The plan could not be handed over: %1.").arg(file.errorString());
        emit finished(out);
        return;
    }
    file.close();
    QStringList arguments = {path, QStringLiteral("--board"), QString::fromStdString(board),
                             QStringLiteral("--json")};
    if (options.constants) arguments << QStringLiteral("--constants");
    m_process = new QProcess(this);
    connect(m_process, &QProcess::finished, this, &ProgramProof::end);
    connect(m_process, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
        if (error == QProcess::FailedToStart) end(-1);
    });
    m_process->start(QDir(QCoreApplication::applicationDirPath()).filePath(QStringLiteral("cognitum-processor")),
                     arguments);
}

void ProgramProof::end(int code) {
    const QByteArray said = m_process->readAllStandardOutput();
    const QString complaint = QString::fromUtf8(m_process->readAllStandardError()).trimmed();
    const bool crashed = m_process->exitStatus() == QProcess::CrashExit;
    m_process->disconnect(this);
    m_process->deleteLater();
    m_process = nullptr;
    ProofReport out;
    if (code == -1)
        out.trouble = tr("The proof could not be started: build cognitum-processor beside this program.");
    else if (crashed)
        out.trouble = tr("The proof took too long or too much memory, and was ended.");
    else if (said.isEmpty())
        out.trouble = complaint.section(QStringLiteral(": "), 1);
    else
        out = read_report(said);
    emit finished(out);
}

} // namespace cognitum
