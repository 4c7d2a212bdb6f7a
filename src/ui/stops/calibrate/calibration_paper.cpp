#include "ui/stops/calibrate/calibration_paper.h"

#include "core/calibrate/certificate.h"
#include "core/calibrate/pictures.h"
#include "core/calibrate/references.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/save_file.h"
#include "ui/stops/calibrate/calibration_history.h"
#include "ui/widgets/parts.h"

#include <QPageSize>
#include <QTextDocument>
#include <QUrl>
#include <algorithm>
#include <qcustomplot.h>

namespace cognitum {

namespace {

/// Errors of the points as found and as left, in black on white, with the limit.
QImage error_plot(const Certificate& certificate, const Quantity& quantity) {
    const CalibrationRecord& record = certificate.record;
    const ErrorPicture picture = error_picture(record, quantity, certificate.before);
    QCustomPlot plot;
    plot.setFont(QFont(QStringLiteral("Inter"), 9));
    const QString unit = from_std(unit_symbol(record.unit));
    plot.xAxis->setLabel(Session::tr("reference, %1").arg(unit));
    plot.yAxis->setLabel(Session::tr("error, %1").arg(unit));
    const auto add = [&](const std::vector<Dot>& dots, const QColor& fill) {
        auto* graph = plot.addGraph();
        auto* bars = new QCPErrorBars(plot.xAxis, plot.yAxis);
        QVector<double> x, y, u;
        for (const Dot& dot : dots) {
            x.append(dot.x);
            y.append(dot.y);
            u.append(dot.half);
        }
        graph->setData(x, y);
        graph->setLineStyle(QCPGraph::lsNone);
        graph->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCircle, QPen(Qt::black), fill, 8));
        bars->setDataPlottable(graph);
        bars->setData(u);
    };
    for (const double limit : {record.limit, -record.limit}) {
        auto* line = new QCPItemStraightLine(&plot);
        line->point1->setCoords(0, limit);
        line->point2->setCoords(1, limit);
        line->setPen(QPen(Qt::black, 1, Qt::DashLine));
    }
    add(picture.found, Qt::white);
    add(picture.left, Qt::black);
    plot.xAxis->setRange(picture.low, picture.high);
    plot.yAxis->setRange(-1.1 * picture.tallest, 1.1 * picture.tallest);
    return plot.toPixmap(620, 240, 3).toImage();
}

QString html_of(const Certificate& certificate, const Bench& bench) {
    const CalibrationRecord& record = certificate.record;
    QString html = QStringLiteral("<h2>%1</h2><table cellspacing='0' cellpadding='3' width='100%'>")
                       .arg(Session::tr("Certificate of calibration, number %1").arg(record.id).toHtmlEscaped());
    for (const CertificateRow& row : certificate_rows(certificate))
        html += QStringLiteral("<tr><td width='20%'><b>%1</b></td><td>%2</td></tr>")
                    .arg(from_std(row.name).toHtmlEscaped(),
                         from_std(row.text).toHtmlEscaped().replace(QLatin1Char('\n'), QStringLiteral("<br>")));
    html += QStringLiteral("</table><p><img src='plot.png' width='500'></p><p>%1</p>")
                .arg(Session::tr("Errors with their doubt at 95 %: open circles as found, full ones as left; "
                                 "broken lines: the limit.")
                         .toHtmlEscaped());
    html += QStringLiteral("<table cellspacing='0' cellpadding='3' width='100%'><tr>");
    for (const QString& head : {Session::tr("Point"), Session::tr("Reference"), Session::tr("Indication"),
                                Session::tr("Corrected"), Session::tr("Remarks")})
        html += QStringLiteral("<th align='left'>%1</th>").arg(head);
    html += QStringLiteral("</tr>");
    int n = 0;
    for (const CalibrationPoint& p : record.points) {
        const ReferenceKind* kind = find_reference_kind(p.reference_kind);
        const ReferenceInstrument* instrument = bench.reference(p.instrument);
        QStringList remarks;
        if (p.run != 0) remarks << (p.run > 0 ? Session::tr("rising") : Session::tr("falling"));
        if (p.check) remarks << Session::tr("a check, not fitted");
        if (p.as_left) remarks << Session::tr("as left");
        if (p.forced) remarks << Session::tr("forced");
        if (!p.counts()) remarks << Session::tr("set aside: %1").arg(from_std(p.set_aside));
        html += QStringLiteral("<tr><td>%1 %2</td><td>%3</td><td>%4</td><td>%5</td><td>%6</td></tr>")
                    .arg(++n)
                    .arg(from_std(instrument ? instrument->name
                                  : kind     ? kind->title
                                             : p.reference_kind)
                             .toHtmlEscaped(),
                         from_std(format_with_doubt(p.reference, 2 * p.u_reference, record.unit)).toHtmlEscaped(),
                         from_std(format_value(p.indication, p.u_reference, record.unit)).toHtmlEscaped(),
                         from_std(format_value(said_after(record, p), p.u_reference, record.unit)).toHtmlEscaped(),
                         remarks.join(QStringLiteral(", ")).toHtmlEscaped());
    }
    html += QStringLiteral("</table><p style='margin-top:14px'>%1</p>")
                .arg(Session::tr("Doubts are expanded to 95 %. Conformity is stated with a guard band of the doubt "
                                 "(ILAC-G8). Made by a person with the means "
                                 "named above; no accredited laboratory stands behind it.")
                         .toHtmlEscaped());
    return html;
}

} // namespace

Result<void> save_certificate(Session& session, const Reading& reading, std::int64_t record, const QString& path) {
    const auto records = session.proof().calibrations(reading.id);
    const auto at = std::find_if(records.begin(), records.end(), [&](const auto& r) { return r.id == record; });
    if (at == records.end()) return failure("this calibration is not in the bench any more.");
    const Certificate paper = certificate(records, static_cast<std::size_t>(at - records.begin()),
                                          {session.bench(), reading, session.part(reading), session.recipes()});
    if (path.endsWith(QStringLiteral(".json"))) return save_text(path, certificate_json(paper).dump(2) + "\n");
    if (path.endsWith(QStringLiteral(".csv"))) return save_text(path, certificate_csv(paper.record));
    if (!path.endsWith(QStringLiteral(".pdf")))
        return failure("a certificate ends in .pdf, .json or .csv.", path.toStdString(),
                       "Give it one of these endings.");
    QTextDocument document;
    document.setDefaultFont(QFont(QStringLiteral("Inter"), 9));
    document.addResource(QTextDocument::ImageResource, QUrl(QStringLiteral("plot.png")),
                         error_plot(paper, reading.quantity));
    document.setHtml(html_of(paper, session.bench()));
    return save_pdf(path, Session::tr("Calibration of %1").arg(from_std(reading.name)), [&](QPdfWriter& writer) {
        document.print(&writer);
        return true;
    });
}

} // namespace cognitum
