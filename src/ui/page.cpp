#include "ui/page.h"

#include "ui/widgets/live_label.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QScrollArea>

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
        if (isVisible()) refresh();
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
}

void Page::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    for (const auto& [columns, needed] : m_columns)
        columns->setDirection(width() < theme().px(needed) ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
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
