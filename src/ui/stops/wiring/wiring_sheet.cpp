#include "ui/stops/wiring/wiring_sheet.h"

#include "core/plan/findings.h"
#include "core/plan/loom/wiring_steps.h"
#include "ui/save_file.h"
#include "ui/stops/wiring/loom_painter.h"
#include "ui/widgets/parts.h"

#include <QPageLayout>
#include <QSvgGenerator>
#include <QTextDocument>

namespace cognitum {

namespace {

constexpr int resolution = 300; ///< dots per inch

/// Paints the loom into a width, at most at its natural size times three; returns the height used.
double paint_into(QPainter& p, const Theme& theme, const Loom& loom, double width, double height, double most) {
    const LoomPainter painter(theme, loom);
    const double scale = std::min({width / painter.size().width(), height / painter.size().height(), most});
    p.save();
    p.scale(scale, scale);
    painter.paint(p, 0);
    p.restore();
    return painter.size().height() * scale;
}

QString steps_html(const std::vector<WiringStep>& steps, const std::vector<int>& ticked) {
    QString html = QStringLiteral("<table cellspacing='0' cellpadding='3' width='100%'>");
    for (const WiringStep& s : steps) {
        const bool done = std::find(ticked.begin(), ticked.end(), s.number) != ticked.end();
        html += QStringLiteral("<tr><td width='22'>%1</td><td width='42%'><b>%2. %3</b>%4</td><td>%5%6</td></tr>")
                    .arg(done ? QStringLiteral("☑") : QStringLiteral("☐"))
                    .arg(s.number)
                    .arg(from_std(s.text).toHtmlEscaped(),
                         s.caution.empty() ? QString()
                                           : QStringLiteral("<br/>▲ %1").arg(from_std(s.caution).toHtmlEscaped()),
                         Session::tr("meter: %1").arg(from_std(s.meter).toHtmlEscaped()),
                         s.if_not.empty()
                             ? QString()
                             : QStringLiteral("<br/><small>%1</small>")
                                   .arg(Session::tr("if not: %1").arg(from_std(s.if_not).toHtmlEscaped())));
    }
    return html + QStringLiteral("</table>");
}

} // namespace

Result<void> export_loom_svg(const Loom& loom, const QString& path) {
    return save_file(path, [&](QIODevice& file) {
        const Theme paper;
        const LoomPainter painter(paper, loom);
        QSvgGenerator generator;
        generator.setOutputDevice(&file);
        generator.setSize(painter.size().toSize());
        generator.setViewBox(QRectF(QPointF(0, 0), painter.size()));
        generator.setTitle(from_std(loom.title));
        QPainter p;
        if (!p.begin(&generator)) return false;
        painter.paint(p, 0);
        return p.end();
    });
}

Result<void> export_loom_pdf(const Loom& loom, const QString& path) {
    return save_pdf(path, from_std(loom.title), [&](QPdfWriter& writer) {
        writer.setResolution(resolution);
        const Theme paper;
        QPainter p;
        if (!p.begin(&writer)) return false;
        paint_into(p, paper, loom, writer.width(), writer.height(), 3);
        return p.end();
    });
}

namespace {

bool draw_sheet(QPdfWriter& writer, const Session& session, const Reading& reading, const Loom& loom) {
    writer.setResolution(resolution);
    const Theme paper;
    QPainter p;
    if (!p.begin(&writer)) return false;

    const BoardUse* use = session.bench().board(reading.wiring.board);
    const BoardCard* card = session.boardCard(reading);
    const PartCard* part = session.part(reading);
    QString html =
        QStringLiteral("<h2>%1</h2><p>%2 · %3 · %4</p>")
            .arg(Session::tr("Wiring of %1").arg(from_std(reading.name).toHtmlEscaped()),
                 from_std(session.bench().name).toHtmlEscaped(), from_std(use ? use->name : "").toHtmlEscaped(),
                 from_std(part ? part->name : "").toHtmlEscaped());
    QTextDocument head;
    head.setDefaultFont(QFont(QStringLiteral("Inter"), 9));
    head.documentLayout()->setPaintDevice(&writer);
    head.setPageSize(QSizeF(writer.width(), writer.height()));
    head.setHtml(html);
    head.drawContents(&p);
    const double top = head.documentLayout()->documentSize().height();
    p.save();
    p.translate(0, top);
    const double drawn = paint_into(p, paper, loom, writer.width() * 0.8, writer.height() * 0.36, 3);
    p.restore();

    QString body = QStringLiteral("<h3>%1</h3>").arg(Session::tr("In this order"));
    body += steps_html(wiring_steps(session.bench(), session.catalog(), reading, loom), reading.wiring.ticked);
    const std::string mirrored = mirror_check(session.bench(), session.catalog(), reading);
    if (!mirrored.empty())
        body += QStringLiteral("<p><b>%1</b> %2</p>")
                    .arg(Session::tr("If the legs are mirrored,"), from_std(mirrored).toHtmlEscaped());
    for (const Finding& f : check_reading(session.bench(), session.catalog(), reading))
        if (f.is_caution)
            body += QStringLiteral("<p>▲ %1 %2</p>")
                        .arg(from_std(f.message).toHtmlEscaped(), from_std(f.fix).toHtmlEscaped());
    if (card && !card->programming.empty()) {
        body += QStringLiteral("<h3>%1</h3><p>").arg(Session::tr("Before the first upload"));
        for (const std::string& line : card->programming)
            body += QStringLiteral("☐ %1<br/>").arg(from_std(line).toHtmlEscaped());
        body += QStringLiteral("</p>");
    }
    QTextDocument rest;
    rest.setDefaultFont(QFont(QStringLiteral("Inter"), 8));
    rest.documentLayout()->setPaintDevice(&writer);
    rest.setTextWidth(writer.width());
    rest.setHtml(body);
    const double below = top + drawn + writer.resolution() * 0.2;
    double from = 0;
    double room = writer.height() - below;
    p.translate(0, below);
    const double whole = rest.documentLayout()->documentSize().height();
    while (from < whole) {
        p.save();
        p.translate(0, -from);
        rest.drawContents(&p, QRectF(0, from, writer.width(), room));
        p.restore();
        from += room;
        if (from >= whole) break;
        writer.newPage();
        p.resetTransform();
        room = writer.height();
    }
    return p.end();
}

} // namespace

Result<void> export_wiring_sheet(const Session& session, const Reading& reading, const QString& path) {
    const Loom loom = reading_loom(session.bench(), session.catalog(), reading);
    if (loom.blocks.empty()) return failure("there is nothing wired to print.");
    return save_pdf(path, Session::tr("Wiring of %1").arg(from_std(reading.name)),
                    [&](QPdfWriter& writer) { return draw_sheet(writer, session, reading, loom); });
}

} // namespace cognitum
