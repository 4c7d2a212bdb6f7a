#include "session/stretch_report.h"

#include "store/samples.h"

#include <QCryptographicHash>
#include <cstring>

namespace cognitum {

namespace {

/// In force at some moment of the stretch: the last one before it, and those within.
std::vector<CalibrationRecord> in_force(const std::vector<CalibrationRecord>& records, const Interval& stretch) {
    std::vector<CalibrationRecord> out;
    for (const CalibrationRecord& record : records) { // oldest first
        if (record.time >= stretch.to) break;
        if (record.time <= stretch.from) out.clear();
        out.push_back(record);
    }
    return out;
}

void add_to(QCryptographicHash& hash, const Sample& sample) {
    char bytes[25];
    std::memcpy(bytes, &sample.time, 8);
    std::memcpy(bytes + 8, &sample.raw, 8);
    std::memcpy(bytes + 16, &sample.value, 8);
    bytes[24] = static_cast<char>(sample.cause);
    hash.addData(QByteArrayView(bytes, sizeof bytes));
}

} // namespace

Result<StretchReport> stretch_report(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                     const std::vector<std::string>& readings, const Interval& stretch) {
    StretchReport out;
    out.stretch = stretch;
    out.readings = readings;
    LanesQuestion question;
    question.readings = readings;
    question.from = stretch.from;
    question.to = stretch.to;
    COGNITUM_TRY(lanes, recorded_lanes(file, bench, question));
    out.lanes = std::move(lanes);
    COGNITUM_TRY(figures, recorded_figures(file, bench, catalog, readings, stretch.from, stretch.to));
    out.figures = std::move(figures);
    QCryptographicHash hash(QCryptographicHash::Sha256);
    for (const std::string& id : readings) {
        COGNITUM_TRY(records, file.calibrations(id));
        out.in_force.push_back(in_force(records, stretch));
        if (!out.figures[out.in_force.size() - 1].trouble.empty()) continue; // the report says that it was not read
        hash.addData(QByteArrayView(id.data(), static_cast<qsizetype>(id.size() + 1)));
        COGNITUM_CHECK(
            for_each_sample(file, id, stretch.from, stretch.to - 1, [&](std::span<const Sample> samples) {
                for (const Sample& s : samples)
                    add_to(hash, s);
                return true;
            }));
    }
    out.fingerprint = hash.result().toHex().left(16).toStdString();
    return out;
}

} // namespace cognitum
