#include "session/program_proof.h"

#include "core/base/json_reader.h"
#include "core/program/proof_plan.h"

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
    out.evaluated = json.value("evaluated", false);
    out.stopped = QString::fromStdString(json.value("stopped", ""));
    return out;
}

} // namespace

ProgramProof::ProgramProof(QObject* parent) : QObject(parent) {
    connect(&m_process, &BesideProcess::ended, this, &ProgramProof::end);
}

void ProgramProof::start(const Bench& bench, const Catalog& catalog, const std::string& board,
                         const ProgramOptions& options) {
    const QString path = m_process.handOver(bench);
    if (path.isEmpty()) {
        ProofReport out;
        out.trouble = tr("The plan could not be handed over: look at the space in the folder for temporary files.");
        emit finished(out);
        return;
    }
    const QString id = QString::fromStdString(board);
    const BoardUse* use = bench.board(board);
    const BoardCard* card = use ? catalog.board(use->card) : nullptr;
    QStringList arguments = {QStringLiteral("--board"), id, QStringLiteral("--json")};
    if (options.constants) arguments << QStringLiteral("--constants");
    // A compiler and a simulator are packaged for one board; for the others the program is evaluated.
    if (!card || is_simulated(*card))
        m_process.start(QStringLiteral("cognitum-processor"), QStringList{path} + arguments);
    else
        m_process.start(QStringLiteral("cognitum-reader"),
                        QStringList{QStringLiteral("--prove"), QStringLiteral("--bench"), path} + arguments);
}

void ProgramProof::end(const BesideProcess::End& end) {
    ProofReport out;
    if (end.code == -1)
        out.trouble =
            tr("The proof could not be started: build cognitum-processor and cognitum-reader beside this program.");
    else if (end.crashed)
        out.trouble = tr("The proof took too long or too much memory, and was ended.");
    else if (end.said.isEmpty())
        out.trouble = end.complaint.startsWith(QLatin1String("cognitum-processor: "))
                          ? end.complaint.section(QStringLiteral(": "), 1)
                          : end.complaint;
    else
        out = read_report(end.said);
    emit finished(out);
}

} // namespace cognitum
