#include "ui/paper/on_paper.h"

#include "ui/widgets/parts.h"

#include <QPrintPreviewDialog>
#include <QPrinter>

namespace cognitum {

void preview(QWidget* parent, QPageLayout::Orientation orientation, const DrawPages& draw) {
    QPrinter printer(QPrinter::HighResolution);
    printer.setPageSize(QPageSize(QPageSize::A4));
    printer.setPageMargins(QMarginsF(15, 15, 15, 15), QPageLayout::Millimeter);
    printer.setPageOrientation(orientation);
    QPrintPreviewDialog dialog(&printer, parent);
    dialog.setWindowTitle(Session::tr("On paper"));
    if (parent) dialog.resize(parent->window()->size() * 0.9);
    QObject::connect(&dialog, &QPrintPreviewDialog::paintRequested, &dialog, [&draw](QPrinter* at) { draw(*at); });
    dialog.exec();
}

void print_paper(Context& context, QWidget* parent, const Result<Paper>& paper) {
    if (!paper) {
        emit context.said(from_std(paper.error().text()));
        return;
    }
    bool drawn = true;
    context.showOnPaper(parent, QPageLayout::Portrait, [&](QPrinter& printer) { drawn = paper->print(printer); });
    if (!drawn) emit context.said(Session::tr("The printer does not take it. Save it as PDF instead."));
}

} // namespace cognitum
