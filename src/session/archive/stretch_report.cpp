#include "session/archive/stretch_report.h"

#include "store/samples/fingerprint.h"
#include "store/zone.h"

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

/// Periods that touch the stretch.
PeriodTable within(PeriodTable table, const Interval& stretch) {
    std::erase_if(table.rows, [&](const PeriodFigures& row) {
        return row.period.to <= stretch.from || row.period.from >= stretch.to;
    });
    return table;
}

} // namespace

Result<StretchReport> stretch_report(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                     const ReportRequest& request, TimeUs now) {
    StretchReport out;
    out.about = request;
    const Interval& stretch = request.stretch;
    LanesQuestion question;
    question.readings = request.readings;
    question.from = stretch.from;
    question.to = stretch.to;
    COGNITUM_TRY(lanes, recorded_lanes(file, bench, question));
    out.lanes = std::move(lanes);
    COGNITUM_TRY(figures, recorded_figures(file, bench, catalog, request.readings, stretch.from, stretch.to));
    out.figures = std::move(figures);
    for (const std::string& id : request.readings) {
        COGNITUM_TRY(records, file.calibrations(id));
        out.in_force.push_back(in_force(records, stretch));
        const Reading* reading = bench.reading(id);
        if (!request.periods || !reading) continue;
        const auto table =
            figures_by_period(file, bench, catalog, *reading, nullptr, *request.periods, system_zone());
        out.periods.push_back(table ? within(*table, stretch) : PeriodTable{}); // its figures say why not
    }
    if (const TimedSession* session = bench.session(request.session)) {
        COGNITUM_TRY(summary, session_figures(file, bench, catalog, *session, now, system_zone()));
        out.session = std::move(summary);
    }
    std::vector<std::string> unreadable; // the figures say which
    COGNITUM_TRY(fingerprint, samples_fingerprint(file, request.readings, stretch, &unreadable));
    out.fingerprint = std::move(fingerprint);
    return out;
}

} // namespace cognitum
