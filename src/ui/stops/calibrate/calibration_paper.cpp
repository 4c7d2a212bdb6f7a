#include "ui/stops/calibrate/calibration_paper.h"

#include "core/base/phrase.h"
#include "core/calibrate/certificate.h"
#include "core/calibrate/pictures.h"
#include "core/calibrate/references.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "store/samples/fingerprint.h"
#include "ui/paper/paper.h"
#include "ui/save_file.h"
#include "ui/stops/calibrate/calibration_history.h"
#include "ui/widgets/parts.h"

#include <QBuffer>
#include <QSvgGenerator>
#include <QSvgRenderer>
#include <algorithm>
#include <cmath>
#include <qcustomplot.h>

namespace cognitum {

namespace {

constexpr int plot_width = 680, plot_height = 240;

/// Errors of the points as found and as left, in black on white, with the limit; as vectors.
QByteArray error_plot(const Certificate& certificate, const Quantity& quantity) {
    const CalibrationRecord& record = certificate.record;
    const ErrorPicture picture = error_picture(record, quantity, certificate.before);
    QCustomPlot plot;
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(11);
    for (QCPAxis* axis : {plot.xAxis, plot.yAxis}) {
        axis->setTickLabelFont(font);
        axis->setLabelFont(font);
    }
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
    // As SVG: a QPicture grows with the resolution of what it is drawn on.
    QBuffer out;
    out.open(QIODevice::WriteOnly);
    QSvgGenerator generator;
    generator.setOutputDevice(&out);
    generator.setSize(QSize(plot_width, plot_height));
    generator.setViewBox(QRect(0, 0, plot_width, plot_height));
    QCPPainter painter(&generator);
    plot.toPainter(&painter, plot_width, plot_height);
    painter.end();
    return out.data();
}

QStringList remarks_of(const CalibrationPoint& p) {
    QStringList remarks;
    if (p.run != 0) remarks << (p.run > 0 ? Session::tr("rising") : Session::tr("falling"));
    if (p.check) remarks << Session::tr("a check, not fitted");
    if (p.as_left) remarks << Session::tr("as left");
    if (p.forced) remarks << Session::tr("forced");
    if (!p.counts()) remarks << Session::tr("set aside: %1").arg(from_std(p.set_aside));
    return remarks;
}

PaperTable points_table(const Certificate& certificate, const Bench& bench) {
    const CalibrationRecord& record = certificate.record;
    PaperTable table;
    table.head = {Session::tr("Point"),      Session::tr("Reference"), Session::tr("Raw mean"),
                  Session::tr("Indication"), Session::tr("Corrected"), Session::tr("Remarks")};
    table.numbers = {1, 2, 3, 4};
    int n = 0;
    for (const CalibrationPoint& p : record.points) {
        const ReferenceKind* kind = find_reference_kind(p.reference_kind);
        const ReferenceInstrument* instrument = bench.reference(p.instrument);
        const QString name = from_std(instrument ? instrument->name : kind ? kind->title : p.reference_kind);
        table.rows << QStringList{QStringLiteral("%1 %2").arg(++n).arg(name),
                                  from_std(format_with_doubt(p.reference, 2 * p.u_reference, record.unit)),
                                  std::isfinite(p.raw)
                                      ? from_std(format_measure(p.raw, certificate.about.raw_unit, 6))
                                      : QStringLiteral("—"),
                                  from_std(format_value(p.indication, p.u_reference, record.unit)),
                                  from_std(format_value(said_after(record, p), p.u_reference, record.unit)),
                                  remarks_of(p).join(QStringLiteral(", "))};
    }
    return table;
}

Paper paper_of(const Certificate& certificate, const Bench& bench, const Quantity& quantity,
               const QString& bench_path) {
    const CalibrationRecord& record = certificate.record;
    const CertificateAbout& about = certificate.about;
    Paper paper(from_std(about.bench + (about.place.empty() ? "" : ", " + about.place)),
                Session::tr("Certificate of calibration, number %1").arg(record.id), from_std(about.reading));
    PaperTable rows;
    rows.widths = {20, 80};
    for (const CertificateRow& row : certificate_rows(certificate))
        rows.rows << QStringList{from_std(row.name), from_std(row.text)};
    paper.table(rows);
    paper.picture(plot_height, [plot = error_plot(certificate, quantity)](QPainter& painter, const QRectF& box) {
        QSvgRenderer(plot).render(&painter, box);
    });
    paper.text(Session::tr("Errors with their doubt at 95 %: open circles as found, full ones as left; "
                           "broken lines: the limit."));
    paper.table(points_table(certificate, bench));
    paper.text(Session::tr("Doubts are expanded to 95 %. Conformity is stated with a guard band of the doubt "
                           "(ILAC-G8). Made by a person with the means "
                           "named above; no accredited laboratory stands behind it."));
    const QString fingerprint = from_std(text_fingerprint(json_dump(record_json(record))));
    paper.text(Session::tr("The record in the bench has the fingerprint %1. This finds it again, as long as nobody "
                           "changed it:\ncognitum-cli verify \"%2\" --calibration %3 --fingerprint %1")
                   .arg(fingerprint, bench_path.section(QLatin1Char('/'), -1))
                   .arg(record.id));
    paper.foot(Session::tr("record %1").arg(fingerprint));
    return paper;
}

} // namespace

static Result<Certificate> certificate_of(Session& session, const Reading& reading, std::int64_t record) {
    const auto records = session.proof().calibrations(reading.id);
    const auto at = std::find_if(records.begin(), records.end(), [&](const auto& r) { return r.id == record; });
    if (at == records.end()) return failure(phrase("this calibration is not in the bench any more."));
    return certificate(records, static_cast<std::size_t>(at - records.begin()),
                       {session.bench(), reading, session.part(reading), session.recipes()});
}

Result<Paper> certificate_paper(Session& session, const Reading& reading, std::int64_t record) {
    COGNITUM_TRY(found, certificate_of(session, reading, record));
    return paper_of(found, session.bench(), reading.quantity, session.path());
}

Result<void> save_certificate(Session& session, const Reading& reading, std::int64_t record, const QString& path) {
    if (path.endsWith(QStringLiteral(".json")) || path.endsWith(QStringLiteral(".csv"))) {
        const InEnglish in_the_file;
        COGNITUM_TRY(found, certificate_of(session, reading, record));
        return save_text(path, path.endsWith(QStringLiteral(".csv")) ? certificate_csv(found.record)
                                                                     : certificate_json(found).dump(2) + "\n");
    }
    COGNITUM_TRY(found, certificate_of(session, reading, record));

    if (!path.endsWith(QStringLiteral(".pdf")) && !path.endsWith(QStringLiteral(".html")))
        return failure(phrase("a certificate ends in .pdf, .html, .json or .csv."), path.toStdString(),
                       phrase("Give it one of these endings."));
    return paper_of(found, session.bench(), reading.quantity, session.path()).save(path);
}

} // namespace cognitum
