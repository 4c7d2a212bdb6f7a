#include "ui/widgets/page.h"

#include "ui/widgets/live_label.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QScrollArea>
#include <QStyle>
#include <algorithm>
#include <numeric>
#include <utility>

namespace cognitum {

namespace {

/// What can be reached by Tab, row by row.
void add_in_order(QLayout* layout, std::vector<QWidget*>& out) {
    if (!layout) return;
    std::vector<int> order(static_cast<std::size_t>(layout->count()));
    std::iota(order.begin(), order.end(), 0);
    if (const auto* grid = qobject_cast<QGridLayout*>(layout))
        std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
            const auto place = [&](int item) {
                int row = 0, column = 0, rows = 0, columns = 0;
                grid->getItemPosition(item, &row, &column, &rows, &columns);
                return std::pair(row, column);
            };
            return place(a) < place(b);
        });
    for (const int i : order) {
        QLayoutItem* item = layout->itemAt(i);
        add_in_order(item->layout(), out);
        QWidget* widget = item->widget();
        if (!widget) continue;
        if (widget->focusPolicy() & Qt::TabFocus) out.push_back(widget);
        const auto* area = qobject_cast<QScrollArea*>(widget);
        add_in_order(area && area->widget() ? area->widget()->layout() : widget->layout(), out);
    }
}

} // namespace

Page::Page(Context& context, const QString& title, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("page"));
    setAttribute(Qt::WA_StyledBackground);
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(0, 0, 0, 0);
    // Large text or a small window scroll the page; nothing is cut.
    auto* scroll = new QScrollArea(this);
    scroll->setWidgetResizable(true);
    scroll->setFrameShape(QFrame::NoFrame);
    scroll->setFocusPolicy(Qt::NoFocus);
    outer->addWidget(scroll);
    m_sheet = new QWidget(scroll);
    m_sheet->setObjectName(QStringLiteral("pageBody"));
    scroll->setWidget(m_sheet);
    auto* layout = new QVBoxLayout(m_sheet);
    layout->setContentsMargins(theme().px(24), theme().px(18), theme().px(24), theme().px(16));
    layout->setSpacing(theme().px(12));
    auto* head = new QHBoxLayout;
    m_title = new TextLabel(theme(), TextLabel::Role::title, title, m_sheet);
    m_note = new LiveLabel(theme(), LiveLabel::Role::soft, m_sheet);
    m_note->setObjectName(QStringLiteral("pageNote"));
    m_note->setAlignment(Qt::AlignRight);
    head->addWidget(m_title);
    head->addWidget(m_note, 1);
    layout->addLayout(head);
    m_body = new QVBoxLayout;
    m_body->setSpacing(theme().px(12));
    layout->addLayout(m_body, 1);

    connect(&context, &Context::refreshed, this, [this] {
        if (!isVisible()) return;
        refresh();
        arrange();
    });
    connect(&context, &Context::selectionChanged, this, [this] {
        readingChanged();
        if (isVisible()) refresh();
    });
    connect(&context.theme(), &Theme::changed, this, [this] {
        if (isVisible()) refresh();
    });
}

void Page::showEvent(QShowEvent* event) {
    QWidget::showEvent(event);
    refresh();
    arrange();
}

void Page::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    arrange();
}

bool Page::focusNextPrevChild(bool next) {
    std::vector<QWidget*> parts;
    add_in_order(m_sheet->layout(), parts);
    for (std::size_t i = 1; i < parts.size(); ++i)
        setTabOrder(parts[i - 1], parts[i]);
    return QWidget::focusNextPrevChild(next);
}

/// Columns stand below each other where the page is narrow, or their words are longer than there is room.
void Page::arrange() {
    // As if a scroll bar were there: it comes with the first line too many.
    const int room = width() - theme().px(48) - style()->pixelMetric(QStyle::PM_ScrollBarExtent);
    for (const auto& [columns, needed] : m_columns) {
        int least = columns->spacing() * std::max(0, columns->count() - 1);
        for (int i = 0; i < columns->count(); ++i)
            least += columns->itemAt(i)->minimumSize().width();
        const bool fits = width() >= theme().px(needed) && least <= room;
        columns->setDirection(fits ? QBoxLayout::LeftToRight : QBoxLayout::TopToBottom);
    }
}

void Page::showSide(QWidget* section, bool visible) {
    if (section->parentWidget()) section->setVisible(visible);
}

void Page::setTitle(const QString& title) {
    setAccessibleName(title);
    set_text(m_title, title);
}
void Page::setNote(const QString& note) {
    m_note->setText(note);
}

} // namespace cognitum
