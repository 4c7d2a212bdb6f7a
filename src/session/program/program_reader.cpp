#include "session/program/program_reader.h"

#include "core/base/json_reader.h"
#include "core/base/phrase.h"

#include <QFile>
#include <QFileInfo>
#include <cmath>

namespace cognitum {

namespace {

double number_in(const Json& json, const char* key) {
    const auto at = json.find(key);
    return at != json.end() && at->is_number() ? at->get<double>() : std::nan("");
}

SentAs sent_as(const std::string& name) {
    if (name == "raw") return SentAs::raw;
    if (name == "on-the-way") return SentAs::on_the_way;
    if (name == "value") return SentAs::value;
    if (name == "other-unit") return SentAs::other_unit;
    return name == "another" ? SentAs::another : SentAs::not_known;
}

ReadPath read_path(const Json& json) {
    ReadPath out;
    out.reading = json.value("reading", "");
    out.pin = json.value("pin", "");
    out.file = json.value("file", "");
    out.line = json.value("line", 0);
    out.label = json.value("label", "");
    out.column = json.value("column", 0);
    out.columns = json.value("columns", 0);
    out.interval_s = json["interval_s"].is_number() ? json["interval_s"].get<double>() : 0;
    out.sent_as = sent_as(json.value("sends", ""));
    out.unit = json.value("unit", "");
    for (const Json& step : json.value("steps", Json::array()))
        out.steps.push_back({read_back(step.value("what", "")), read_back(step.value("note", "")),
                             step.value("line", 0), step.value("differs", false)});
    if (json.contains("chain") && json["chain"].is_object()) {
        JsonText text{"the program", json_dump(json["chain"]), json["chain"]};
        if (auto chain = read_chain(JsonReader(text))) out.path = std::move(*chain);
    }
    for (const Json& at : json.value("prints_at", Json::array()))
        out.prints_at.push_back({number_in(at, "true"), number_in(at, "raw"), at.value("prints", "")});
    return out;
}

Result<ProgramRead> read_answer(const QByteArray& said) {
    const Json json = Json::parse(said.toStdString(), nullptr, false);
    if (!json.is_object() || !json.contains("findings"))
        return failure(phrase("It said nothing that could be read."));
    ProgramRead out;
    out.compared = json.value("compared", false);
    for (const Json& f : json["findings"]) {
        const std::string severity = f.value("severity", "");
        out.findings.push_back({f.value("id", ""),
                                severity == severity_name(Severity::error)  ? Severity::error
                                : severity == severity_name(Severity::note) ? Severity::note
                                                                            : Severity::look,
                                f.value("reading", ""), f.value("file", ""), f.value("line", 0),
                                read_back(f.value("message", "")), read_back(f.value("why", "")),
                                f.value("mended", "")});
    }
    for (const Json& r : json.value("readings", Json::array()))
        out.readings.push_back(read_path(r));
    for (const Json& note : json.value("notes", Json::array()))
        out.notes.push_back(read_back(note.get<std::string>()));
    for (const Json& id : json.value("not_in_it", Json::array()))
        out.not_in_it.push_back(id.get<std::string>());
    return out;
}

} // namespace

ProgramReader::ProgramReader(QObject* parent) : QObject(parent) {
    connect(&m_process, &BesideProcess::ended, this, &ProgramReader::end);
}

void ProgramReader::start(const Bench& bench, const std::string& board, const std::vector<ProgramText>& files) {
    const QString plan = m_process.handOver(bench);
    QStringList arguments = {QStringLiteral("--json"),  QStringLiteral("--bench"),     plan,
                             QStringLiteral("--board"), QString::fromStdString(board), QStringLiteral("--")};
    bool written = !plan.isEmpty();
    for (const ProgramText& text : files) {
        QFile file(m_process.path(QFileInfo(text.name).fileName()));
        const QByteArray bytes = text.text.toUtf8();
        written = written && file.open(QIODevice::WriteOnly) && file.write(bytes) == bytes.size();
        arguments << file.fileName();
    }
    if (!written) {
        ProgramReadReport out;
        out.trouble =
            tr("The program could not be handed over: look at the space in the folder for temporary files.");
        emit finished(out);
        return;
    }
    m_process.start(QStringLiteral("cognitum-reader"), arguments);
}

void ProgramReader::end(const BesideProcess::End& end) {
    ProgramReadReport out;
    if (end.code == -1) {
        out.trouble = tr("It could not be read: build cognitum-reader beside this program.");
    } else if (end.crashed) {
        out.trouble = tr("It took too long or too much memory to read, and was ended. Give the files of the "
                         "program alone, without libraries.");
    } else if (end.said.isEmpty()) {
        out.trouble = end.complaint;
    } else if (auto answer = read_answer(end.said)) {
        out.read = std::move(*answer);
    } else {
        out.trouble = QString::fromStdString(answer.error().text());
    }
    emit finished(out);
}

} // namespace cognitum
