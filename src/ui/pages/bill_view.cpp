#include "ui/pages/bill_view.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "ui/save_file.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <fmt/format.h>

namespace cognitum {

namespace {
enum Column { what, count, each, total, used_for, alternatives };
}

BillView::BillView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* body = new QVBoxLayout(this);
    body->setContentsMargins(0, 0, 0, 0);
    body->setSpacing(theme.px(8));
    auto* bar = new QHBoxLayout;
    bar->setSpacing(theme.px(8));
    auto* label = new TextLabel(theme, TextLabel::Role::soft,
                                tr("Type what you paid; a price in italics is guessed from its class."));
    bar->addWidget(label, 1);
    auto* currency_label = new TextLabel(theme, TextLabel::Role::soft, tr("Currency"));
    currency_label->setWordWrap(false);
    bar->addWidget(currency_label);
    m_currency = new QLineEdit;
    m_currency->setObjectName(QStringLiteral("billCurrency"));
    m_currency->setAccessibleName(tr("Currency"));
    m_currency->setFixedWidth(theme.px(52));
    m_currency->setMaxLength(4);
    bar->addWidget(m_currency);
    auto* save = make_button(tr("Save as CSV…"), QStringLiteral("billCsv"));
    bar->addWidget(save);
    body->addLayout(bar);
    m_table = new QTableWidget(0, 6);
    m_table->setObjectName(QStringLiteral("billTable"));
    m_table->setAccessibleName(tr("Bill of materials"));
    m_table->setHorizontalHeaderLabels(
        {tr("What"), tr("Count"), tr("Each"), tr("Total"), tr("For"), tr("Would do as well")});
    m_table->verticalHeader()->setVisible(false);
    m_table->verticalHeader()->setDefaultSectionSize(theme.px(26));
    m_table->horizontalHeader()->setStretchLastSection(true);
    m_table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setShowGrid(false);
    body->addWidget(m_table, 1);
    m_total = new TextLabel(theme, TextLabel::Role::name);
    m_total->setObjectName(QStringLiteral("billTotal"));
    body->addWidget(m_total);
    connect(m_table, &QTableWidget::itemChanged, this, &BillView::priceEdited);
    connect(save, &QPushButton::clicked, this, &BillView::exportCsv);
    connect(m_currency, &QLineEdit::editingFinished, this, [this] {
        const std::string currency = m_currency->text().trimmed().toStdString();
        if (!currency.empty() && currency != m_context.session().bench().currency)
            m_context.session().edit(tr("Change currency"), [&](Bench& bench) { bench.currency = currency; });
    });
}

void BillView::refresh() {
    const Session& session = m_context.session();
    const Bench& bench = session.bench();
    m_rows = bill_of_materials(bench, session.catalog());
    m_filling = true;
    if (!m_currency->hasFocus()) m_currency->setText(from_std(bench.currency));
    m_table->setRowCount(static_cast<int>(m_rows.size()));
    for (int i = 0; i < static_cast<int>(m_rows.size()); ++i) {
        const BillRow& r = m_rows[static_cast<std::size_t>(i)];
        const auto put = [&](int column, const QString& text, bool number = false) {
            auto* item = new QTableWidgetItem(text);
            Qt::ItemFlags flags = Qt::ItemIsEnabled | Qt::ItemIsSelectable;
            if (column == each) flags |= Qt::ItemIsEditable;
            item->setFlags(flags);
            item->setToolTip(text);
            if (number) {
                QFont font = m_context.theme().mono(12);
                font.setItalic(r.guessed && column != count);
                item->setFont(font);
                item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            }
            m_table->setItem(i, column, item);
        };
        const bool by_metre = r.item == "wire-m";
        put(what, from_std(r.what));
        put(count, from_std(by_metre ? format_measure(r.count, "m", 3) : format_constant(r.count)), true);
        put(each, from_std(format_fixed(r.each, 2)), true);
        put(total, from_std(format_fixed(r.total(), 2)), true);
        put(used_for, from_std(r.used_for));
        put(alternatives, from_std(r.alternatives));
    }
    const Theme& theme = m_context.theme();
    const int widths[] = {300, 64, 64, 68, 180};
    for (int column = 0; column < 5; ++column)
        m_table->setColumnWidth(column, theme.px(widths[column]));
    set_text(m_total,
             tr("In all %1 %2").arg(from_std(bench.currency), from_std(format_fixed(bill_total(m_rows), 2))));
    m_filling = false;
}

void BillView::priceEdited(QTableWidgetItem* item) {
    if (m_filling || item->column() != each) return;
    const BillRow row = m_rows[static_cast<std::size_t>(item->row())];
    const auto price = typed_number(item->text());
    if (!price || *price < 0) {
        emit m_context.said(tr("A price is a number from 0: nothing was changed."));
        refresh();
        return;
    }
    m_context.session().edit(tr("Type a price"), [&](Bench& bench) {
        std::erase_if(bench.prices, [&](const Price& p) { return p.item == row.item; });
        bench.prices.push_back({row.item, *price});
    });
}

void BillView::exportCsv() {
    const QString path =
        m_context.askSavePath(this, tr("Bill of materials"), QStringLiteral("bill.csv"), tr("CSV (*.csv)"));
    if (path.isEmpty()) return;
    const Session& session = m_context.session();
    const auto done = [&] {
        const InEnglish in_the_file;
        return save_text(path,
                         bill_csv(bill_of_materials(session.bench(), session.catalog()), session.bench().currency));
    }();

    emit m_context.said(done ? tr("Saved as %1.").arg(path) : from_std(done.error().text()));
}

} // namespace cognitum
