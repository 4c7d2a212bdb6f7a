#include "ui/widgets/folding_row.h"

#include <QLineEdit>

namespace cognitum {

FoldingRow::FoldingRow(const std::vector<QWidget*>& before, QStackedWidget* pages,
                       const std::vector<QWidget*>& after, Theme& theme)
    : m_theme(theme), m_pages(pages), m_grid(new QGridLayout(this)), m_column(static_cast<int>(before.size())) {
    m_grid->setContentsMargins(0, 0, 0, 0);
    m_grid->setHorizontalSpacing(theme.px(8));
    m_grid->setVerticalSpacing(theme.px(6));
    m_grid->setColumnStretch(m_column, 1);
    int column = 0;
    for (QWidget* w : before)
        m_grid->addWidget(w, 0, column++, Qt::AlignTop);
    m_grid->addWidget(pages, 0, column++, Qt::AlignTop);
    for (QWidget* w : after)
        m_grid->addWidget(w, 0, column++, Qt::AlignVCenter);
}

void FoldingRow::fit() {
    const QWidget* page = m_pages->currentWidget();
    if (!page) return;
    // A field that is as narrow as it can be shows two letters; this much more shows a word.
    const int for_words = m_theme.px(30) * static_cast<int>(page->findChildren<QLineEdit*>().size());
    int needed = page->minimumSizeHint().width() + for_words;
    for (int i = 0; i < m_grid->count(); ++i)
        if (const QWidget* w = m_grid->itemAt(i)->widget(); w != m_pages)
            needed += w->sizeHint().width() + m_grid->horizontalSpacing();
    const bool below = needed > width();
    if (below == m_below) return;
    m_below = below;
    m_grid->removeWidget(m_pages);
    if (below)
        m_grid->addWidget(m_pages, 1, 0, 1, m_grid->columnCount());
    else
        m_grid->addWidget(m_pages, 0, m_column, Qt::AlignTop);
}

void FoldingRow::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    fit();
}

} // namespace cognitum
