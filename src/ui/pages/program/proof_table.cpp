#include "ui/pages/program/proof_table.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/widgets/parts.h"

#include <QHeaderView>
#include <QTableWidget>
#include <cmath>

namespace cognitum {

namespace {
enum Column { reading, given, sent, says, off, mark };
}

ProofTable::ProofTable(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(theme.px(8));
    m_trouble = new TextLabel(theme, TextLabel::Role::body);
    m_trouble->setObjectName(QStringLiteral("programTrouble"));
    rows->addWidget(m_trouble);
    m_table = new QTableWidget(0, 6);
    m_table->setObjectName(QStringLiteral("programProof"));
    m_table->setAccessibleName(tr("Given, sent and said"));
    m_table->setHorizontalHeaderLabels(
        {tr("Reading"), tr("Given"), tr("It sent"), tr("That is"), tr("Off by"), tr("Held")});
    m_table->verticalHeader()->setVisible(false);
    m_table->verticalHeader()->setDefaultSectionSize(theme.px(26));
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    m_table->horizontalHeader()->setSectionResizeMode(reading, QHeaderView::Stretch);
    m_table->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setShowGrid(false);
    rows->addWidget(m_table);
    m_facts = new TextLabel(theme, TextLabel::Role::soft);
    m_facts->setObjectName(QStringLiteral("programFacts"));
    rows->addWidget(m_facts);
}

void ProofTable::clear(const QString& text, const QString& trouble) {
    m_table->setVisible(false);
    set_text(m_facts, text);
    set_text(m_trouble, trouble);
    m_trouble->setVisible(!trouble.isEmpty());
    m_trouble->setColour({});
}

void ProofTable::fillRow(int place, const ProofReportRow& row) {
    Theme& theme = m_context.theme();
    const Reading* r = m_context.session().bench().reading(row.reading);
    const auto put = [&](int column, const QString& text, bool mono) {
        auto* item = new QTableWidgetItem(text);
        item->setFont(mono ? theme.mono(11) : theme.text(12));
        item->setToolTip(text);
        if (row.held < row.points) item->setForeground(theme.colours().bad);
        m_table->setItem(place, column, item);
    };
    const bool counts = !r || r->path.stages.empty();
    const double step = r ? r->quantity.accuracy / 10 : 0;
    const auto amount = [&](double v) {
        if (!std::isfinite(v)) return QStringLiteral("–");
        return from_std(counts ? format_measure(v, "counts", 5) : format_value(v, step, r->quantity.unit));
    };
    put(reading, r ? from_std(r->name) : from_std(row.reading), false);
    put(given, amount(row.truth), true);
    put(sent, row.sent, true);
    put(says, amount(row.said), true);
    put(off,
        std::isfinite(row.off_by)
            ? from_std(format_measure(row.off_by, counts ? phrase("counts") : unit_symbol(r->quantity.unit), 2))
            : QStringLiteral("–"),
        true);
    put(mark, tr("%1 of %2").arg(row.held).arg(row.points), true);
}

QString ProofTable::factsOf(const ProofReport& report) const {
    QString facts = report.holds ? tr("All hold: each was given %1 values from end to end; its worst is shown.")
                                       .arg(report.rows.empty() ? 0 : report.rows.front().points)
                                 : tr("Something does not hold; the worst of each is shown.");
    if (report.evaluated) {
        facts += QLatin1Char(' ') + tr("For this board no compiler is packaged here: its program was checked "
                                       "against a stand-in of the core's headers and evaluated "
                                       "with the types of this board, against the same models of its parts. A turn "
                                       "of loop() takes %1 ms at most by that clock.")
                                        .arg(from_std(format_fixed(report.longest_loop_ms, 1)));
        if (!report.stopped.isEmpty())
            facts += QLatin1Char(' ') + tr("It went no further: %1.").arg(report.stopped);
    } else {
        facts += QLatin1Char(' ') +
                 tr("%1 of %2 KB of flash, %3 of %4 KB of memory; a turn of loop() takes %5 ms at most.")
                     .arg(from_std(format_fixed(report.flash / 1024.0, 1)))
                     .arg(report.flash_there / 1024)
                     .arg(from_std(format_fixed(report.memory / 1024.0, 1)))
                     .arg(report.memory_there / 1024)
                     .arg(from_std(format_fixed(report.longest_loop_ms, 1)));
    }
    if (report.restarts > 0) facts += QLatin1Char(' ') + tr("It restarted %1 times.").arg(report.restarts);
    for (const ProofDisturbance& d : report.disturbed)
        facts += QLatin1Char('\n') + (d.held ? d.text : tr("▲ It does not hold: %1").arg(d.text));
    for (const auto& [id, why] : report.not_proven) {
        const Reading* r = m_context.session().bench().reading(id);
        facts += QLatin1Char('\n') + tr("%1 is not proven: %2").arg(r ? from_std(r->name) : from_std(id), why);
    }
    return facts;
}

void ProofTable::show(const ProofReport& report) {
    m_trouble->setVisible(!report.trouble.isEmpty());
    m_table->setVisible(report.trouble.isEmpty());
    if (!report.trouble.isEmpty()) {
        set_text(m_trouble, report.trouble);
        m_trouble->setColour(m_context.theme().colours().bad);
        return set_text(m_facts, {});
    }
    m_table->setRowCount(static_cast<int>(report.rows.size()));
    for (int i = 0; i < m_table->rowCount(); ++i)
        fillRow(i, report.rows[static_cast<std::size_t>(i)]);
    m_table->setFixedHeight(m_table->horizontalHeader()->sizeHint().height() +
                            m_table->rowCount() * m_table->verticalHeader()->defaultSectionSize() +
                            m_context.theme().px(4));
    set_text(m_facts, factsOf(report));
}

} // namespace cognitum
