#include "ui/pages/logbook/figures_table.h"

#include "core/units/format.h"
#include "ui/pages/logbook/time_ticks.h"
#include "ui/widgets/parts.h"

#include <QHeaderView>
#include <QScrollBar>
#include <algorithm>
#include <cmath>

namespace cognitum {

void make_plain(QTableWidget* table, const QStringList& columns) {
    table->setColumnCount(static_cast<int>(columns.size()));
    table->setHorizontalHeaderLabels(columns);
    table->verticalHeader()->setVisible(false);
    table->horizontalHeader()->setStretchLastSection(true);
    table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft);
    table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    table->setSelectionBehavior(QAbstractItemView::SelectRows);
    table->setShowGrid(false);
}

FiguresTable::FiguresTable(Context& context, QWidget* parent) : QTableWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("stretchFigures"));
    setAccessibleName(tr("Figures of the stretch"));
    make_plain(this, columns());
    setVerticalScrollBarPolicy(Qt::ScrollBarAsNeeded);
}

QStringList FiguresTable::columns() {
    return {tr("Reading"),      tr("n"),        tr("least"),       tr("mean"), tr("most"),
            tr("in its bands"), tr("measured"), tr("what it says")};
}

QStringList FiguresTable::row(const Reading& reading, const ReadingFigures& figures) {
    const StretchFigures& s = figures.stretch;
    const QString dash = QStringLiteral("—");
    QString n = from_std(format_constant(static_cast<double>(s.n), 12));
    if (s.n > s.valued)
        n += tr(" (%1 without)").arg(from_std(format_constant(static_cast<double>(s.n - s.valued), 12)));
    QString least = dash, mean = dash, most = dash;
    const bool plain = s.valued > 0 && !s.total && !reading.quantity.about().is_state();
    if (plain) {
        const double digits = figures.digits_of_value(reading.quantity);
        const std::string& unit = reading.quantity.unit;
        least = from_std(format_value(s.least, digits, unit));
        mean =
            from_std(figures.shared_known ? format_with_doubt(s.mean, 2 * figures.u_mean, unit)
                                          : format_value(s.mean, figures.digits_of_mean(reading.quantity), unit));
        most = from_std(format_value(s.most, digits, unit));
    }
    double held = 0;
    for (const BandTime& b : s.bands)
        held += b.seconds;
    QStringList bands;
    for (const BandTime& b : s.bands)
        bands << tr("%1 % %2")
                     .arg(from_std(format_fixed(100 * b.seconds / held, b.seconds < 0.02 * held ? 1 : 0)))
                     .arg(from_std(b.name));
    if (!figures.trouble.empty()) // nothing is known, which is not the same as nothing recorded
        return {from_std(reading.name), dash, dash, dash, dash, dash, dash, from_std(figures.trouble)};
    const QString covered = s.coverage > 0 && s.coverage < 0.995
                                ? tr("%1 %").arg(from_std(format_fixed(100 * s.coverage, s.coverage < 0.1 ? 1 : 0)))
                            : s.coverage > 0 ? tr("100 %")
                                             : tr("0 %");
    return {from_std(reading.name),
            n,
            least,
            mean,
            most,
            bands.isEmpty() ? dash : bands.join(QStringLiteral(", ")),
            covered,
            from_std(stretch_says(figures, reading))};
}

void FiguresTable::show(const std::vector<std::string>& readings, const std::vector<ReadingFigures>& figures) {
    setRowCount(0);
    for (std::size_t i = 0; i < std::min(readings.size(), figures.size()); ++i) {
        const Reading* reading = m_context.session().bench().reading(readings[i]);
        if (!reading) continue;
        const StretchFigures& s = figures[i].stretch;
        const int at = rowCount();
        insertRow(at);
        const QStringList cells = row(*reading, figures[i]);
        for (int column = 0; column < cells.size(); ++column) {
            auto* item = new QTableWidgetItem(cells[column]);
            if (column >= 1 && column <= 4) item->setFont(m_context.theme().mono(12));
            setItem(at, column, item);
        }
        const bool plain = s.valued > 0 && !s.total && !reading->quantity.about().is_state();
        if (plain) {
            item(at, 2)->setToolTip(tr("at %1").arg(time_text(s.least_at, 0)));
            item(at, 4)->setToolTip(tr("at %1").arg(time_text(s.most_at, 0)));
            if (!figures[i].shared_known)
                item(at, 3)->setToolTip(tr("How sure it is, is not known: its part has no stated limit."));
        }
        QStringList holes;
        for (const CauseCount& c : s.failures)
            holes << tr("%1 × %2").arg(c.n).arg(from_std(cause_text(c.cause)));
        for (std::size_t g = 0; g < std::min<std::size_t>(s.gaps.size(), 8); ++g)
            holes << tr("no lines %1").arg(stretch_text(s.gaps[g].from, s.gaps[g].to));
        item(at, 6)->setToolTip(holes.join(QLatin1Char('\n')));
    }
    for (int column = 0; column + 1 < columnCount(); ++column)
        resizeColumnToContents(column);
    fitHeight();
}

void FiguresTable::resizeEvent(QResizeEvent* event) {
    QTableWidget::resizeEvent(event);
    fitHeight();
}

/// As high as its rows, and a bar to push it sideways where it is wider than the page.
void FiguresTable::fitHeight() {
    constexpr int most_rows = 6;
    verticalHeader()->setDefaultSectionSize(m_context.theme().px(30));
    int needed =
        horizontalHeader()->sizeHint().height() + std::min(rowCount(), most_rows) * m_context.theme().px(30) + 4;
    int columns_width = 0;
    for (int column = 0; column < columnCount(); ++column)
        columns_width += std::max(horizontalHeader()->sectionSizeHint(column),
                                  column + 1 < columnCount() ? columnWidth(column) : sizeHintForColumn(column));
    setColumnWidth(columnCount() - 1, sizeHintForColumn(columnCount() - 1));
    horizontalHeader()->setStretchLastSection(columns_width <= width());
    if (columns_width > width()) needed += horizontalScrollBar()->sizeHint().height();
    setFixedHeight(needed);
}

} // namespace cognitum
