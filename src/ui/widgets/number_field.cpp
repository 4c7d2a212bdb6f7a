#include "ui/widgets/number_field.h"

#include "core/units/typed_number.h"

#include <QKeyEvent>
#include <QLocale>
#include <QPainter>
#include <QStyle>
#include <cmath>

namespace cognitum {

std::optional<double> typed_number(const QString& text) {
    return typed_number(std::string_view(text.toStdString()));
}

NumberField::NumberField(Theme& theme, const QString& name, const QString& spoken, double design_px,
                         QWidget* parent)
    : QLineEdit(parent), m_theme(theme), m_size(design_px) {
    setObjectName(name);
    setAccessibleName(spoken);
    connect(this, &QLineEdit::textEdited, this, [this] {
        m_touched = true;
        setInvalid(!number());
    });
    connect(this, &QLineEdit::returnPressed, this, &NumberField::commit);
    connect(&theme, &Theme::changed, this, &NumberField::restyle);
    restyle();
}

void NumberField::restyle() {
    setFont(m_theme.mono(m_size));
    setUnit(m_unit);
}

void NumberField::setUnit(const QString& unit) {
    m_unit = unit;
    const int room = unit.isEmpty() ? 0 : QFontMetrics(m_theme.mono(12)).horizontalAdvance(unit) + m_theme.px(8);
    setTextMargins(0, 0, room, 0);
    update();
}

std::optional<double> NumberField::number() const {
    return typed_number(text());
}

void NumberField::setInvalid(bool invalid) {
    if (property("invalid").toBool() == invalid) return;
    setProperty("invalid", invalid);
    style()->unpolish(this);
    style()->polish(this);
    setToolTip(invalid ? tr("This is not a number.") : QString());
}

void NumberField::show(const QString& text) {
    m_good = text;
    if (m_touched && hasFocus()) return;
    m_touched = false;
    setInvalid(false);
    if (this->text() != text) {
        setText(text);
        setCursorPosition(0);
    }
}

void NumberField::commit() {
    if (!m_touched) return;
    const auto value = number();
    if (!value) return setInvalid(true);
    m_touched = false;
    m_good = text();
    emit numberEdited(*value);
}

void NumberField::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Escape && m_touched) {
        m_touched = false;
        setInvalid(false);
        setText(m_good);
        return;
    }
    QLineEdit::keyPressEvent(event);
}

void NumberField::focusInEvent(QFocusEvent* event) {
    QLineEdit::focusInEvent(event);
    if (event->reason() == Qt::TabFocusReason || event->reason() == Qt::BacktabFocusReason) selectAll();
}

void NumberField::focusOutEvent(QFocusEvent* event) {
    QLineEdit::focusOutEvent(event);
    commit();
    if (m_touched) { // not a number: back to the last good one
        m_touched = false;
        setInvalid(false);
        setText(m_good);
    }
}

void NumberField::paintEvent(QPaintEvent* event) {
    QLineEdit::paintEvent(event);
    if (m_unit.isEmpty()) return;
    QPainter painter(this);
    painter.setFont(m_theme.mono(12));
    painter.setPen(m_theme.colours().soft);
    painter.drawText(rect().adjusted(0, 0, -m_theme.px(9), 0), Qt::AlignRight | Qt::AlignVCenter, m_unit);
}

} // namespace cognitum
