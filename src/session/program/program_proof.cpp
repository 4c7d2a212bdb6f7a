#include "session/program/program_proof.h"

#include "core/base/phrase.h"
#include "core/program/proof_plan.h"
#include "core/program/read/sent_number.h"

#include <QFile>
#include <QFileInfo>
#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

constexpr int read_points = 7; ///< at which a program is read, with the ends of the range

double number(const Json& json, const char* key) {
    const auto at = json.find(key);
    return at != json.end() && at->is_number() ? at->get<double>() : std::nan("");
}

ProofReport read_report(const Json& json) {
    ProofReport out;
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
        out.not_proven.emplace_back(left.value("reading", ""),
                                    QString::fromStdString(read_back(left.value("why", ""))));
    for (const Json& d : json.value("disturbed", Json::array()))
        out.disturbed.push_back({d.value("held", false), QString::fromStdString(read_back(d.value("text", "")))});
    out.flash = json.value("flash_bytes", 0);
    out.flash_there = json.value("flash_there_bytes", 0);
    out.memory = json.value("memory_bytes", 0);
    out.memory_there = json.value("memory_there_bytes", 0);
    out.longest_loop_ms = number(json, "longest_loop_ms");
    out.restarts = json.value("restarts", 0);
    out.evaluated = json.value("evaluated", false);
    out.stopped = QString::fromStdString(read_back(json.value("stopped", "")));
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
    m_numbers.clear();
    const QString id = QString::fromStdString(board);
    const BoardUse* use = bench.board(board);
    const BoardCard* card = use ? catalog.board(use->card) : nullptr;
    QStringList arguments = {QStringLiteral("--board"), id, QStringLiteral("--json")};
    if (options.average > 1) arguments << QStringLiteral("--average") << QString::number(options.average);
    if (options.constants) arguments << QStringLiteral("--constants");
    if (options.sleep) arguments << QStringLiteral("--sleep");
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
    else {
        const Json json = Json::parse(end.said.toStdString(), nullptr, false);
        out = read_report(json);
        if (out.trouble.isEmpty() && !m_numbers.empty()) findSent(json, out);
    }
    emit finished(out);
}

void ProgramProof::startOwn(const Bench& bench, const std::string& board, const std::vector<ProgramText>& files,
                            const std::vector<ReadPath>& numbers) {
    // What is sent rarely wants a longer point; at most so long, because a minute of the processor takes its time.
    constexpr double most_point_s = 12, intervals_each = 3;
    const QString path = m_process.handOver(bench);
    double point_s = 0;
    for (const ReadPath& number : numbers)
        point_s = std::max(point_s, std::min(most_point_s, intervals_each * number.interval_s));
    bool kept = !path.isEmpty() && !files.empty();
    for (const ProgramText& file : files) {
        QFile out(m_process.path(QFileInfo(file.name).fileName()));
        kept = kept && out.open(QIODevice::WriteOnly) && out.write(file.text.toUtf8()) >= 0;
    }
    if (!kept) {
        ProofReport out;
        out.trouble =
            tr("The program could not be handed over: look at the space in the folder for temporary files.");
        emit finished(out);
        return;
    }
    m_numbers = numbers;
    m_process.start(QStringLiteral("cognitum-processor"),
                    {path, QStringLiteral("--board"), QString::fromStdString(board), QStringLiteral("--program"),
                     m_process.path(QFileInfo(files.front().name).fileName()), QStringLiteral("--points"),
                     QString::number(read_points), QStringLiteral("--point-s"), QString::number(point_s),
                     QStringLiteral("--lines"), QStringLiteral("--json")});
}

/// At the points of which the reader tells what is sent: it leaves out the ends, and tells every second.
void ProgramProof::findSent(const Json& json, ProofReport& out) const {
    std::vector<ProofLine> lines;
    for (const Json& line : json.value("sent_lines", Json::array()))
        lines.push_back({line[0].get<double>(), line[1].get<std::string>()});
    for (const Json& r : json["readings"])
        for (const ReadPath& number : m_numbers) {
            if (number.reading != r.value("reading", "")) continue;
            const Json& points = r["all"];
            for (std::size_t k = 1; k + 1 < points.size(); k += 2)
                out.sent_of[number.reading].push_back(QString::fromStdString(
                    last_sent(lines, number, points[k].value("from_s", 0.0), points[k].value("to_s", 0.0))));
        }
}

} // namespace cognitum
