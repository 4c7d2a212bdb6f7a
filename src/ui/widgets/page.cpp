#include "ui/widgets/page.h"

#include "ui/widgets/live_label.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QScrollArea>
#include <QStyle>
#include <algorithm>

namespace cognitum {

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
    auto* inner = new QWidget(scroll);
    inner->setObjectName(QStringLiteral("pageBody"));
    scroll->setWidget(inner);
    auto* layout = new QVBoxLayout(inner);
    layout->setContentsMargins(theme().px(24), theme().px(18), theme().px(24), theme().px(16));
    layout->setSpacing(theme().px(12));
    auto* head = new QHBoxLayout;
    m_title = new TextLabel(theme(), TextLabel::Role::title, title);
    m_note = new LiveLabel(theme(), LiveLabel::Role::soft);
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
