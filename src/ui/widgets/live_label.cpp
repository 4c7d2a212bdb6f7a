#include "ui/widgets/live_label.h"

#include <QHelpEvent>
#include <QPainter>
#include <QToolTip>

namespace cognitum {

LiveLabel::LiveLabel(Theme& theme, Role role, QWidget* parent) : QWidget(parent), m_theme(theme), m_role(role) {
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    connect(&theme, &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void LiveLabel::setText(const QString& text) {
    if (text == m_text) return;
    m_text = text;
    setAccessibleName(text);
    update();
}

void LiveLabel::setSample(const QString& sample) {
    m_sample = sample;
    updateGeometry();
}

QFont LiveLabel::lineFont() const {
    return m_role == Role::soft ? m_theme.text(12) : m_role == Role::mono ? m_theme.mono() : m_theme.mono(12);
}

QSize LiveLabel::sizeHint() const {
    const QFontMetrics metrics(lineFont());
    return {metrics.horizontalAdvance(m_sample), metrics.height() + m_theme.px(2)};
}

QSize LiveLabel::minimumSizeHint() const {
    return {m_sample.isEmpty() ? 0 : sizeHint().width(), sizeHint().height()};
}

void LiveLabel::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setFont(lineFont());
    p.setPen(m_role == Role::mono ? m_theme.colours().ink : m_theme.colours().soft);
    p.drawText(rect(), m_alignment | Qt::AlignVCenter, p.fontMetrics().elidedText(m_text, Qt::ElideRight, width()));
}

bool LiveLabel::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip) return QWidget::event(event);
    const bool cut = QFontMetrics(lineFont()).horizontalAdvance(m_text) > width();
    const QString tip = toolTip().isEmpty() && cut ? m_text : toolTip();
    QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(), tip, this);
    return true;
}

} // namespace cognitum
