#include "ui/pages/logbook/report.h"

#include "core/base/phrase.h"
#include "core/calibrate/certificate.h"
#include "core/units/format.h"
#include "ui/pages/logbook/figures_table.h"
#include "ui/pages/logbook/lanes_picture.h"
#include "ui/pages/logbook/time_ticks.h"
#include "ui/paper/on_paper.h"
#include "ui/widgets/parts.h"

#include <QPointer>
#include <QRegularExpression>
#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

constexpr std::size_t most_lines = 60;
constexpr std::size_t most_periods = 62;
constexpr double lane_px = 60, marks_px = 180; ///< heights in the picture

/// The readings of a report that the plan still has, each with its place in the report.
std::vector<std::pair<std::size_t, const Reading*>> readings_of(const StretchReport& report, const Bench& bench) {
    std::vector<std::pair<std::size_t, const Reading*>> out;
    for (std::size_t i = 0; i < report.about.readings.size(); ++i)
        if (const Reading* reading = bench.reading(report.about.readings[i])) out.emplace_back(i, reading);
    return out;
}

/// A light theme for paper, whatever the window's is.
const Theme& paper_theme() {
    static const Theme light;
    return light;
}

void add_picture(Paper& paper, const StretchReport& report, const Bench& bench) {
    constexpr std::size_t most_lanes = 8; // more are too low to be read
    Lanes lanes = report.lanes;
    if (lanes.lanes.size() > most_lanes) lanes.lanes.resize(most_lanes);
    const double height = marks_px + lane_px * static_cast<double>(lanes.lanes.size());
    Bench shown = bench; // sessions about somebody's health only where one of their readings was asked for
    std::erase_if(shown.sessions, [&](const TimedSession& s) {
        return bench.is_private(s) &&
               std::none_of(report.about.readings.begin(), report.about.readings.end(), [&](const std::string& id) {
                   const Reading* r = bench.reading(id);
                   return r && r->quantity.is_private();
               });
    });
    paper.picture(height, [lanes, bench = std::move(shown), stretch = report.about.stretch](QPainter& painter,
                                                                                            const QRectF& box) {
        LanesPicture{paper_theme(), bench, lanes, stretch, {}, box}.draw(painter);
    });
    if (report.lanes.lanes.size() > most_lanes)
        paper.text(Session::tr("The picture shows the first %1 readings; the figures are of all.").arg(most_lanes));
}

void add_session(Paper& paper, const StretchReport& report, const Bench& bench) {
    if (!report.session) return;
    const SessionFigures& session = *report.session;
    PaperTable facts;
    facts.numbers = {2};
    std::string last;
    for (const SessionFact& fact : session.facts) {
        const Reading* reading = bench.reading(fact.reading);
        if (!reading) continue;
        facts.rows << QStringList{last == fact.reading ? QString() : from_std(reading->name), from_std(fact.name),
                                  from_std(session_fact_text(fact))};
        last = fact.reading;
    }
    if (!facts.rows.isEmpty()) {
        paper.heading(Session::tr("Summary"));
        paper.table(facts);
    }
    const Reading* lead = session.readings.empty() ? nullptr : bench.reading(session.readings.front());
    if (session.days.empty() || !lead) return;
    PaperTable days;
    days.head = {Session::tr("Day"), Session::tr("least"), Session::tr("mean"), Session::tr("most"),
                 Session::tr("measured")};
    days.numbers = {1, 2, 3, 4};
    for (const SessionDay& day : session.days) {
        const StretchFigures& s = day.figures;
        const double digits = std::hypot(lead->quantity.accuracy / 2, s.noise);
        const auto value = [&](double v) { return from_std(format_value(v, digits, lead->quantity.unit)); };
        days.rows << QStringList{from_std(day.day.label), value(s.least), value(s.mean), value(s.most),
                                 Session::tr("%1 %").arg(100 * s.coverage, 0, 'f', 0)};
    }
    paper.heading(Session::tr("%1, day by day").arg(from_std(lead->name)));
    paper.table(days);
}

void add_figures(Paper& paper, const StretchReport& report, const Bench& bench) {
    PaperTable table;
    table.head = FiguresTable::columns();
    table.numbers = {1, 2, 3, 4};
    for (const auto& [i, reading] : readings_of(report, bench))
        table.rows << FiguresTable::row(*reading, report.figures[i]);
    paper.heading(Session::tr("Figures"));
    paper.table(table);
    paper.text(Session::tr("Doubts are expanded to 95 %. A mean’s doubt is what all its values share, joined with "
                           "their noise; what was not measured is not in it."));
}

void add_periods(Paper& paper, const StretchReport& report, const Bench& bench) {
    for (const auto& [i, reading] : readings_of(report, bench)) {
        if (i >= report.periods.size() || report.periods[i].rows.empty()) continue;
        const PeriodTable& periods = report.periods[i];
        PaperTable table;
        table.head = {Session::tr("Period"), periods.totals ? Session::tr("total") : Session::tr("mean"),
                      Session::tr("measured")};
        table.numbers = {1, 2};
        for (const PeriodFigures& row : periods.rows) {
            if (static_cast<std::size_t>(table.rows.size()) == most_periods) break;
            const PeriodValue& own = row.own;
            table.rows << QStringList{from_std(row.period.label),
                                      !std::isfinite(own.value) ? QStringLiteral("—")
                                      : std::isfinite(own.doubt)
                                          ? from_std(format_with_doubt(own.value, own.doubt, periods.unit))
                                          : from_std(format_measure(own.value, periods.unit, 4)),
                                      Session::tr("%1 %").arg(100 * own.coverage, 0, 'f', 0)};
        }
        paper.heading(Session::tr("%1, period by period").arg(from_std(reading->name)));
        paper.table(table);
        if (periods.rows.size() > most_periods)
            paper.text(Session::tr("%1 more periods are left out here.").arg(periods.rows.size() - most_periods));
    }
}

void add_calibrations(Paper& paper, const StretchReport& report, const Bench& bench) {
    paper.heading(Session::tr("Calibrations in force"));
    for (const auto& [i, reading] : readings_of(report, bench)) {
        QStringList said;
        for (const CalibrationRecord& record : report.in_force[i])
            said << Session::tr("%1, record %2: %3; as left %4")
                        .arg(from_std(iso_time(record.time)).left(10))
                        .arg(record.id)
                        .arg(from_std(correction_text(record.correction, record.unit)),
                             from_std(phrase_of(record.verdict_left)));
        paper.named(from_std(reading->name), said.isEmpty()
                                                 ? Session::tr("never calibrated; the data sheet’s limits hold")
                                                 : said.join(QStringLiteral(". ")));
    }
}

void add_gaps(Paper& paper, const StretchReport& report, const Bench& bench) {
    bool any = false;
    for (const auto& [i, reading] : readings_of(report, bench)) {
        const StretchFigures& s = report.figures[i].stretch;
        QStringList said;
        for (const CauseCount& c : s.failures)
            said << Session::tr("%1 × %2").arg(c.n).arg(from_std(cause_text(c.cause)));
        for (std::size_t g = 0; g < std::min<std::size_t>(s.gaps.size(), 4); ++g)
            said << Session::tr("no lines %1").arg(stretch_text(s.gaps[g].from, s.gaps[g].to));
        if (s.all_gaps > 4) said << Session::tr("%1 gaps in all").arg(s.all_gaps);
        if (said.isEmpty()) continue;
        if (!std::exchange(any, true)) paper.heading(Session::tr("Gaps, and no value"));
        paper.named(from_std(reading->name), said.join(QStringLiteral("; ")));
    }
}

void add_entries(Paper& paper, const StretchReport& report, const Bench& bench) {
    const std::vector<LogEntry>& entries = report.lanes.entries;
    if (entries.empty()) return;
    const TimeUs length = report.about.stretch.to - report.about.stretch.from;
    PaperTable table;
    table.head = {Session::tr("Time"), Session::tr("What"), Session::tr("Reading"), {}};
    table.widths = {18, 11, 18, 53};
    for (std::size_t i = entries.size(); i-- > 0;) { // oldest first
        if (static_cast<std::size_t>(table.rows.size()) == most_lines) break;
        const LogEntry& e = entries[i];
        const Reading* reading = bench.reading(e.reading);
        table.rows << QStringList{time_text(e.time, length), from_std(phrase_of(e.kind)),
                                  reading ? from_std(reading->name) : QString(), from_std(e.said())};
    }
    paper.heading(Session::tr("What happened"));
    paper.table(table);
    if (entries.size() > most_lines)
        paper.text(Session::tr("%1 more entries stand in the logbook.").arg(entries.size() - most_lines));
}

/// What a number of such a kind is not.
QStringList cautions(const StretchReport& report, const Bench& bench) {
    QStringList out;
    for (const std::string& id : report.about.readings) {
        const Reading* reading = bench.reading(id);
        if (!reading) continue;
        const QString said = from_std(reading->quantity.about().is_not);
        if (!said.isEmpty() && !out.contains(said)) out << said;
    }
    return out;
}

/// The command that finds the fingerprint again.
QString check_command(const StretchReport& report, const QString& bench_path) {
    QString out =
        QStringLiteral("cognitum-cli verify \"%1\" --fingerprint %2 --from %3 --to %4")
            .arg(bench_path.section(QLatin1Char('/'), -1), from_std(report.fingerprint),
                 from_std(iso_time(report.about.stretch.from)), from_std(iso_time(report.about.stretch.to)));
    for (const std::string& id : report.about.readings)
        out += QStringLiteral(" --reading ") + from_std(id);
    return out;
}

} // namespace

Paper report_paper(const StretchReport& report, const Bench& bench, const QString& bench_path) {
    const QString of = from_std(bench.name + (bench.place.empty() ? std::string() : ", " + bench.place));
    Paper paper(of, from_std(report.about.title), stretch_text(report.about.stretch.from, report.about.stretch.to));
    add_picture(paper, report, bench);
    add_session(paper, report, bench);
    add_figures(paper, report, bench);
    add_periods(paper, report, bench);
    add_calibrations(paper, report, bench);
    add_gaps(paper, report, bench);
    add_entries(paper, report, bench);
    for (const QString& caution : cautions(report, bench))
        paper.caution(caution);
    paper.heading(Session::tr("What this rests on"));
    paper.text(
        Session::tr("The samples of these readings over this time have the fingerprint %1. This finds it again "
                    "in the bench, as long as no sample was changed, added or thrown away:\n%2")
            .arg(from_std(report.fingerprint), check_command(report, bench_path)));
    paper.foot(Session::tr("samples %1").arg(from_std(report.fingerprint)));
    return paper;
}

namespace {

/// Works the report out beside the window, then `use` puts it somewhere and says where.
void with_report(Context& context, const ReportRequest& request,
                 const std::function<QString(const Paper& paper)>& use) {
    Session& session = context.session();
    when_answered(session.exports().ask<StretchReport>(
                      [request, bench = session.bench(), catalog = session.catalog(), now = session.now()](
                          BenchFile& file) { return stretch_report(file, bench, catalog, request, now); }),
                  &context, [&context, use](const Result<StretchReport>& report) {
                      const Session& open = context.session();
                      const QString said = report ? use(report_paper(*report, open.bench(), open.path()))
                                                  : from_std(report.error().text());
                      if (!said.isEmpty()) emit context.said(said);
                  });
}

} // namespace

void save_report(Context& context, QWidget* parent, const ReportRequest& request) {
    QString name = from_std(request.title).toLower();
    name.replace(QRegularExpression(QStringLiteral("[^a-z0-9]+")), QStringLiteral("-"));
    const QString path =
        context.askSavePath(parent, Session::tr("Report"), name + QStringLiteral(".pdf"), paper_filter());
    if (path.isEmpty()) return;
    with_report(context, request, [path](const Paper& paper) {
        const Result<void> saved = paper.save(path);
        return saved ? Session::tr("The report is in %1.").arg(path) : from_std(saved.error().text());
    });
}

void print_report(Context& context, QWidget* parent, const ReportRequest& request) {
    with_report(context, request, [&context, parent = QPointer<QWidget>(parent)](const Paper& paper) {
        if (parent) print_paper(context, parent, paper);
        return QString();
    });
}

} // namespace cognitum
