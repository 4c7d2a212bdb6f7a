#include "ui/pages/board_drawing.h"

#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <QHelpEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>

namespace cognitum {

namespace {

constexpr int row_px = 22, rail_px = 44, air_px = 16, board_px = 190, pin_px = 10;

} // namespace

BoardDrawing::BoardDrawing(Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme) {
    setObjectName(QStringLiteral("boardDrawing"));
    setAccessibleName(tr("The board, with who sits on its pins"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void BoardDrawing::show(BoardPicture picture) {
    m_picture = std::move(picture);
    m_chosen = m_hover = -1;
    setAccessibleDescription(from_std(m_picture.spoken()));
    updateGeometry();
    update();
}

QSize BoardDrawing::sizeHint() const {
    const auto rows = static_cast<int>(std::max(m_picture.left.size(), m_picture.right.size()));
    return {m_theme.px(680),
            m_theme.px(static_cast<int>(m_picture.rails.size()) * rail_px + 2 * air_px + (rows + 1) * row_px)};
}

QSize BoardDrawing::minimumSizeHint() const {
    return {m_theme.px(420), sizeHint().height()};
}

QString BoardDrawing::chosen() const {
    return m_chosen < 0 ? QString() : from_std(places()[static_cast<std::size_t>(m_chosen)].pin->label);
}

QRectF BoardDrawing::boardBox() const {
    const double top = m_theme.px(static_cast<int>(m_picture.rails.size()) * rail_px + air_px);
    const double wide = std::min<double>(m_theme.px(board_px), width() * 0.3);
    return {(width() - wide) / 2, top, wide, height() - top - m_theme.px(air_px)};
}

std::vector<BoardDrawing::Place> BoardDrawing::places() const {
    const QRectF board = boardBox();
    std::vector<Place> out;
    const double row = m_theme.px(row_px);
    for (const bool left : {true, false}) {
        double y = board.top() + row / 2;
        for (const PicturedPin& pin : left ? m_picture.left : m_picture.right) {
            out.push_back(
                {&pin, left,
                 left ? QRectF(0, y, board.left(), row) : QRectF(board.right(), y, width() - board.right(), row)});
            y += row;
        }
    }
    return out;
}

void BoardDrawing::paintEvent(QPaintEvent*) {
    const Tokens& t = m_theme.colours();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    paintRails(painter);
    const QRectF board = boardBox();
    painter.setPen(m_theme.pen(t.ink, 1.4));
    painter.setBrush(t.tint);
    painter.drawRect(board);
    painter.setPen(t.ink);
    painter.setFont(m_theme.text(14, true));
    // Between the columns of labels on the board itself.
    const QRectF middle = board.adjusted(m_theme.px(44), m_theme.px(20), -m_theme.px(44), -m_theme.px(20));
    painter.drawText(middle, Qt::AlignHCenter | Qt::AlignTop | Qt::TextWordWrap, from_std(m_picture.name));
    painter.setFont(m_theme.text(11));
    painter.setPen(t.soft);
    if (board.width() >= m_theme.px(board_px)) // the page says it as well
        painter.drawText(middle, Qt::AlignHCenter | Qt::AlignVCenter | Qt::TextWordWrap, from_std(m_picture.kind));
    painter.drawText(middle, Qt::AlignHCenter | Qt::AlignBottom | Qt::TextWordWrap,
                     tr("%n pin(s) free", nullptr, m_picture.free));
    const std::vector<Place> all = places();
    for (std::size_t i = 0; i < all.size(); ++i)
        paintPin(painter, all[i], static_cast<int>(i) == m_chosen && hasFocus(), static_cast<int>(i) == m_hover);
}

/// Above the board: how much of each rail is used, and where its peak reaches.
void BoardDrawing::paintRails(QPainter& painter) {
    const Tokens& t = m_theme.colours();
    const QRectF board = boardBox();
    double top = 0;
    for (const RailLoad& rail : m_picture.rails) {
        const QRectF bar(m_theme.px(84), top + m_theme.px(6), width() - m_theme.px(84 + 210), m_theme.px(14));
        const double share = rail.limit_mA > 0 ? rail.typical_mA / rail.limit_mA : 0;
        const double peak = rail.limit_mA > 0 ? rail.peak_mA / rail.limit_mA : 0;
        const QColor colour = peak > 1 ? t.bad : peak > 0.9 ? t.look : t.accent;
        painter.setPen(m_theme.pen(t.rule));
        painter.setBrush(t.sheet);
        painter.drawRect(bar);
        painter.fillRect(QRectF(bar.left(), bar.top(), bar.width() * std::clamp(share, 0.0, 1.0), bar.height()),
                         colour);
        const double x = bar.left() + bar.width() * std::clamp(peak, 0.0, 1.0);
        painter.setPen(m_theme.pen(t.ink, 1.4));
        painter.drawLine(QPointF(x, bar.top() - 2), QPointF(x, bar.bottom() + 2));
        painter.setFont(m_theme.mono(12, true));
        painter.setPen(t.ink);
        painter.drawText(QRectF(0, top, m_theme.px(76), m_theme.px(26)), Qt::AlignRight | Qt::AlignVCenter,
                         from_std(rail.rail));
        painter.setFont(m_theme.mono(11));
        painter.setPen(peak > 1 ? t.bad : t.soft);
        painter.drawText(
            QRectF(bar.right() + m_theme.px(10), top, m_theme.px(200), m_theme.px(26)),
            Qt::AlignLeft | Qt::AlignVCenter,
            tr("%1 of %2, peak %3%4")
                .arg(from_std(format_constant(rail.typical_mA, 3)), from_std(format_measure(rail.limit_mA, "mA")),
                     from_std(format_constant(rail.peak_mA, 3)), peak > 1 ? tr(": too much") : QString()));
        // What it feeds, the largest first.
        QString draws;
        for (const Draw& draw : rail.draws)
            draws +=
                (draws.isEmpty() ? QString() : QStringLiteral(", ")) +
                QStringLiteral("%1 %2").arg(from_std(draw.name), from_std(format_constant(draw.typical_mA, 2)));
        painter.setFont(m_theme.text(11));
        painter.setPen(t.soft);
        painter.drawText(
            QRectF(bar.left(), top + m_theme.px(23), width() - bar.left(), m_theme.px(16)),
            Qt::AlignLeft | Qt::AlignVCenter,
            painter.fontMetrics().elidedText(draws, Qt::ElideRight, static_cast<int>(width() - bar.left())));
        top += m_theme.px(rail_px);
    }
    if (m_picture.rails.empty()) return;
    painter.setPen(m_theme.pen(t.rule, 1.2));
    painter.drawLine(QPointF(board.center().x(), top), QPointF(board.center().x(), board.top()));
}

void BoardDrawing::paintPin(QPainter& painter, const Place& place, bool chosen, bool hovered) {
    using Use = PicturedPin::Use;
    const Tokens& t = m_theme.colours();
    const PicturedPin& pin = *place.pin;
    const double size = m_theme.px(pin_px);
    const double edge = place.left ? place.row.right() : place.row.left();
    const double y = place.row.center().y();
    const bool used = pin.use == Use::reading || pin.use == Use::other;
    if (hovered || chosen) painter.fillRect(place.row, t.selected);
    painter.setPen(m_theme.pen(used ? t.accent : t.soft, 1.2));
    painter.setBrush(used ? t.accent : pin.use == Use::board ? t.rule : t.sheet);
    painter.drawRect(QRectF(edge - size / 2, y - size / 2, size, size));
    // Its label on the board, its user outside.
    painter.setFont(m_theme.mono(11));
    painter.setPen(used ? t.ink : t.soft);
    const double inside = m_theme.px(44);
    painter.drawText(place.left ? QRectF(edge + size, place.row.top(), inside, place.row.height())
                                : QRectF(edge - size - inside, place.row.top(), inside, place.row.height()),
                     (place.left ? Qt::AlignLeft : Qt::AlignRight) | Qt::AlignVCenter, from_std(pin.label));
    if (pin.use == Use::free) return;
    const double gap = m_theme.px(18), wire = m_theme.px(26);
    painter.setPen(m_theme.pen(used ? t.accent : t.rule, pin.shared ? 2.6 : 1.4));
    const double out = place.left ? edge - size / 2 - wire : edge + size / 2 + wire;
    painter.drawLine(QPointF(place.left ? edge - size / 2 : edge + size / 2, y), QPointF(out, y));
    const QRectF text = place.left
                            ? QRectF(0, place.row.top(), out - gap / 3, place.row.height())
                            : QRectF(out + gap / 3, place.row.top(), width() - out - gap / 3, place.row.height());
    painter.setFont(m_theme.text(12, pin.use == Use::reading));
    painter.setPen(used ? t.ink : t.soft);
    painter.drawText(
        text, (place.left ? Qt::AlignRight : Qt::AlignLeft) | Qt::AlignVCenter,
        painter.fontMetrics().elidedText(from_std(pin.user), Qt::ElideRight, static_cast<int>(text.width())));
}

int BoardDrawing::placeAt(const QPointF& at) const {
    const std::vector<Place> all = places();
    for (std::size_t i = 0; i < all.size(); ++i)
        if (all[i].row.contains(at)) return static_cast<int>(i);
    return -1;
}

void BoardDrawing::mousePressEvent(QMouseEvent* event) {
    m_chosen = placeAt(event->position());
    update();
    if (m_chosen < 0) return;
    const PicturedPin& pin = *places()[static_cast<std::size_t>(m_chosen)].pin;
    if (!pin.reading.empty()) emit readingWanted(from_std(pin.reading));
}

void BoardDrawing::mouseMoveEvent(QMouseEvent* event) {
    const int at = placeAt(event->position());
    if (at == m_hover) return;
    m_hover = at;
    const bool leads = at >= 0 && !places()[static_cast<std::size_t>(at)].pin->reading.empty();
    setCursor(leads ? Qt::PointingHandCursor : Qt::ArrowCursor);
    update();
}

void BoardDrawing::leaveEvent(QEvent*) {
    m_hover = -1;
    update();
}

void BoardDrawing::keyPressEvent(QKeyEvent* event) {
    const auto n = static_cast<int>(places().size());
    const int step = event->key() == Qt::Key_Down ? 1 : event->key() == Qt::Key_Up ? -1 : 0;
    if (step != 0 && n > 0) {
        m_chosen = std::clamp(m_chosen + step, 0, n - 1);
        const PicturedPin& pin = *places()[static_cast<std::size_t>(m_chosen)].pin;
        setAccessibleDescription(
            tr("Pin %1: %2. It can do: %3.")
                .arg(from_std(pin.label), pin.user.empty() ? tr("free") : from_std(pin.user), from_std(pin.can)));
        return update();
    }
    if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && m_chosen >= 0) {
        const PicturedPin& pin = *places()[static_cast<std::size_t>(m_chosen)].pin;
        if (!pin.reading.empty()) emit readingWanted(from_std(pin.reading));
        return;
    }
    QWidget::keyPressEvent(event);
}

bool BoardDrawing::event(QEvent* event) {
    if (event->type() == QEvent::ToolTip) {
        const auto* help = static_cast<QHelpEvent*>(event);
        const int at = placeAt(help->pos());
        if (at >= 0) {
            const PicturedPin& pin = *places()[static_cast<std::size_t>(at)].pin;
            QToolTip::showText(help->globalPos(),
                               (pin.user.empty() ? QString() : from_std(pin.user) + QLatin1Char('\n')) +
                                   tr("%1 can do: %2").arg(from_std(pin.label), from_std(pin.can)),
                               this);
        } else {
            QToolTip::hideText();
        }
        return true;
    }
    return QWidget::event(event);
}

} // namespace cognitum
