#include "ui/stops/wiring/wiring_sheet.h"

#include "core/base/phrase.h"
#include "core/plan/findings.h"
#include "core/plan/loom/wiring_steps.h"
#include "ui/paper/paper.h"
#include "ui/save_file.h"
#include "ui/stops/wiring/loom_painter.h"
#include "ui/widgets/parts.h"

#include <QSvgGenerator>

namespace cognitum {

namespace {

constexpr int resolution = 300;     ///< dots per inch
constexpr double loom_height = 330; ///< on paper

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

PaperTable steps_table(const std::vector<WiringStep>& steps, const std::vector<int>& ticked) {
    PaperTable table;
    table.widths = {4, 42, 54};
    for (const WiringStep& s : steps) {
        const bool done = std::find(ticked.begin(), ticked.end(), s.number) != ticked.end();
        QString step = QStringLiteral("%1. %2").arg(s.number).arg(from_std(s.text));
        if (!s.caution.empty()) step += QStringLiteral("\n▲ ") + from_std(s.caution);
        QString meter = Session::tr("meter: %1").arg(from_std(s.meter));
        if (!s.if_not.empty()) meter += QLatin1Char('\n') + Session::tr("if not: %1").arg(from_std(s.if_not));
        table.rows << QStringList{done ? QStringLiteral("☑") : QStringLiteral("☐"), step, meter};
    }
    return table;
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

Paper wiring_paper(const Session& session, const Reading& reading, const Loom& loom) {
    const Bench& bench = session.bench();
    const BoardUse* use = bench.board(reading.wiring.board);
    const BoardCard* card = session.boardCard(reading);
    const PartCard* part = session.part(reading);
    QStringList about;
    for (const std::string& text : {use ? use->name : std::string(), part ? part->name : std::string()})
        if (!text.empty()) about << from_std(text);
    Paper paper(from_std(bench.name + (bench.place.empty() ? "" : ", " + bench.place)),
                Session::tr("Wiring of %1").arg(from_std(reading.name)), about.join(QStringLiteral(" · ")));
    paper.picture(loom_height, [loom](QPainter& p, const QRectF& box) {
        static const Theme light;
        p.translate(box.topLeft());
        paint_into(p, light, loom, box.width(), box.height(), 2);
    });
    paper.heading(Session::tr("In this order"));
    paper.table(steps_table(wiring_steps(bench, session.catalog(), reading, loom), reading.wiring.ticked));
    if (const std::string mirrored = mirror_check(bench, session.catalog(), reading); !mirrored.empty())
        paper.named(Session::tr("If the legs are mirrored"), from_std(mirrored));
    for (const Finding& f : check_reading(bench, session.catalog(), reading))
        if (f.is_caution) paper.caution(from_std(f.message + " " + f.fix));
    if (card && !card->programming.empty()) {
        paper.heading(Session::tr("Before the first upload"));
        for (const Phrase& line : card->programming)
            paper.text(QStringLiteral("☐ ") + from_std(line));
    }
    return paper;
}

} // namespace

Result<Paper> wiring_sheet(const Session& session, const Reading& reading) {
    const Loom loom = reading_loom(session.bench(), session.catalog(), reading);
    if (loom.blocks.empty()) return failure(phrase("there is nothing wired to print."));
    return wiring_paper(session, reading, loom);
}

} // namespace cognitum
