#include "ui/pages/logbook/report.h"

#include "core/calibrate/certificate.h"
#include "ui/pages/logbook/figures_table.h"
#include "ui/pages/logbook/lanes_picture.h"
#include "ui/pages/logbook/time_ticks.h"
#include "ui/save_file.h"
#include "ui/widgets/parts.h"

#include <QAbstractTextDocumentLayout>
#include <QCoreApplication>
#include <QImage>
#include <QPainter>
#include <QTextDocument>
#include <QUrl>

namespace cognitum {

namespace {

constexpr double dots_per_inch = 96; ///< in which the page is laid out
constexpr int foot_px = 26;
constexpr std::size_t most_lines = 60;

QString escaped(const std::string& text) {
    return from_std(text).toHtmlEscaped();
}

QString table_html(const QStringList& head, const QList<QStringList>& rows) {
    QString html = QStringLiteral("<table width='100%' cellspacing='0' cellpadding='3'><tr>");
    for (const QString& cell : head)
        html += QStringLiteral("<th align='left'>%1</th>").arg(cell.toHtmlEscaped());
    html += QStringLiteral("</tr>");
    for (const QStringList& row : rows) {
        html += QStringLiteral("<tr>");
        for (const QString& cell : row)
            html += QStringLiteral("<td>%1</td>").arg(cell.toHtmlEscaped());
        html += QStringLiteral("</tr>");
    }
    return html + QStringLiteral("</table>");
}

QString calibrations_html(const StretchReport& report, const Bench& bench) {
    QString html;
    for (std::size_t i = 0; i < report.readings.size(); ++i) {
        const Reading* reading = bench.reading(report.readings[i]);
        if (!reading) continue;
        QStringList said;
        for (const CalibrationRecord& record : report.in_force[i])
            said << Session::tr("%1, record %2: %3; as left %4")
                        .arg(from_std(iso_time(record.time)).left(10))
                        .arg(record.id)
                        .arg(from_std(correction_text(record.correction, record.unit)),
                             from_std(record.verdict_left));
        html += QStringLiteral("<b>%1</b>: %2<br/>")
                    .arg(escaped(reading->name),
                         (said.isEmpty() ? Session::tr("never calibrated; the data sheet’s limits hold")
                                         : said.join(QStringLiteral(". ")))
                             .toHtmlEscaped());
    }
    return html;
}

QString gaps_html(const StretchReport& report, const Bench& bench) {
    QString html;
    for (std::size_t i = 0; i < report.readings.size(); ++i) {
        const Reading* reading = bench.reading(report.readings[i]);
        if (!reading) continue;
        const StretchFigures& s = report.figures[i].stretch;
        QStringList said;
        for (const CauseCount& c : s.failures)
            said << Session::tr("%1 × %2").arg(c.n).arg(from_std(cause_text(c.cause)));
        for (std::size_t g = 0; g < std::min<std::size_t>(s.gaps.size(), 4); ++g)
            said << Session::tr("no lines %1").arg(stretch_text(s.gaps[g].from, s.gaps[g].to));
        if (s.all_gaps > 4) said << Session::tr("%1 gaps in all").arg(s.all_gaps);
        if (!said.isEmpty())
            html += QStringLiteral("<b>%1</b>: %2<br/>")
                        .arg(escaped(reading->name), said.join(QStringLiteral("; ")).toHtmlEscaped());
    }
    return html;
}

/// What a number of such a kind is not.
QStringList cautions(const StretchReport& report, const Bench& bench) {
    QStringList out;
    for (const std::string& id : report.readings) {
        const Reading* reading = bench.reading(id);
        if (!reading) continue;
        const QString said = from_std(reading->quantity.about().is_not);
        if (!said.isEmpty() && !out.contains(said)) out << said;
    }
    return out;
}

QString report_html(const StretchReport& report, const Bench& bench, int picture_px) {
    QList<QStringList> rows;
    for (std::size_t i = 0; i < report.readings.size(); ++i)
        if (const Reading* reading = bench.reading(report.readings[i]))
            rows << FiguresTable::row(*reading, report.figures[i]);
    QString html = QStringLiteral("<h2>%1</h2><p>%2<br/>%3</p><p><img src='room' width='10' height='%4'/></p>")
                       .arg(Session::tr("Report of a stretch"),
                            escaped(bench.name + (bench.place.empty() ? std::string() : ", " + bench.place)),
                            stretch_text(report.stretch.from, report.stretch.to).toHtmlEscaped())
                       .arg(picture_px);
    html += QStringLiteral("<h3>%1</h3>").arg(Session::tr("Figures")) + table_html(FiguresTable::columns(), rows);
    html += QStringLiteral("<p>%1</p>")
                .arg(Session::tr("Doubts are expanded to 95 %. A mean’s doubt is what all its values share, joined "
                                 "with their noise; what was not measured is not in it.")
                         .toHtmlEscaped());
    html += QStringLiteral("<h3>%1</h3><p>%2</p>")
                .arg(Session::tr("Calibrations in force"), calibrations_html(report, bench));
    if (const QString gaps = gaps_html(report, bench); !gaps.isEmpty())
        html += QStringLiteral("<h3>%1</h3><p>%2</p>").arg(Session::tr("Gaps, and no value"), gaps);
    QList<QStringList> entries;
    for (std::size_t i = report.lanes.entries.size(); i-- > 0;) { // oldest first
        const LogEntry& e = report.lanes.entries[i];
        if (static_cast<std::size_t>(entries.size()) == most_lines) break;
        const Reading* reading = bench.reading(e.reading);
        entries << QStringList{time_text(e.time, report.stretch.to - report.stretch.from), from_std(e.kind),
                               reading ? from_std(reading->name) : QString(), from_std(e.text)};
    }
    if (!entries.isEmpty())
        html += QStringLiteral("<h3>%1</h3>").arg(Session::tr("What happened")) +
                table_html({Session::tr("Time"), Session::tr("What"), Session::tr("Reading"), {}}, entries);
    if (report.lanes.entries.size() > most_lines)
        html += QStringLiteral("<p>%1</p>")
                    .arg(Session::tr("%1 more entries stand in the logbook.")
                             .arg(report.lanes.entries.size() - most_lines));
    for (const QString& caution : cautions(report, bench))
        html += QStringLiteral("<p>▲ %1</p>").arg(caution.toHtmlEscaped());
    return html;
}

} // namespace

Result<void> save_stretch_report(const QString& path, const Context& context, const StretchReport& report) {
    const Bench& bench = context.session().bench();
    const Theme paper; // light
    return save_pdf(path, Session::tr("Report of a stretch"), [&](QPdfWriter& writer) {
        QPainter p;
        if (!p.begin(&writer)) return false;
        const double scale = writer.resolution() / dots_per_inch;
        p.scale(scale, scale);
        const double width = writer.width() / scale;
        const double page = writer.height() / scale - foot_px;
        const int picture =
            static_cast<int>(std::min(0.4 * page, 150.0 + 60.0 * static_cast<double>(report.readings.size())));
        QTextDocument text;
        QFont font(QStringLiteral("Inter"));
        font.setPixelSize(11);
        text.setDefaultFont(font);
        text.setDocumentMargin(0);
        text.setPageSize({width, page});
        QImage room(1, 1, QImage::Format_ARGB32); // is left free for the lanes
        room.fill(Qt::transparent);
        text.addResource(QTextDocument::ImageResource, QUrl(QStringLiteral("room")), room);
        text.setHtml(report_html(report, bench, picture));
        QTextDocument head; // as high as what stands above the picture
        head.setDefaultFont(font);
        head.setDocumentMargin(0);
        head.setTextWidth(width);
        head.setHtml(report_html(report, bench, 0).section(QStringLiteral("<p><img"), 0, 0));
        const double top = head.size().height() + 6;
        const int pages = text.pageCount();
        for (int i = 0; i < pages; ++i) {
            if (i > 0) writer.newPage();
            p.save();
            p.translate(0, -i * page);
            text.drawContents(&p, {0, i * page, width, page});
            p.restore();
            if (i == 0) {
                p.setRenderHint(QPainter::Antialiasing);
                LanesPicture{paper, bench, report.lanes, report.stretch, {}, {0, top, width, picture - 8.0}}.draw(
                    p);
            }
            p.setPen(paper.colours().soft);
            p.setFont(paper.text(10));
            p.drawText(QRectF(0, page + 6, width, foot_px - 6.0), Qt::AlignLeft | Qt::AlignBottom,
                       Session::tr("Cognitum %1 · samples %2")
                           .arg(QCoreApplication::applicationVersion(), from_std(report.fingerprint)));
            p.drawText(QRectF(0, page + 6, width, foot_px - 6.0), Qt::AlignRight | Qt::AlignBottom,
                       Session::tr("page %1 of %2").arg(i + 1).arg(pages));
        }
        return p.end();
    });
}

} // namespace cognitum
