#include "ui/shell/path_line.h"

#include "ui/widgets/parts.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>

namespace cognitum {

PathLine::PathLine(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("pathLine"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setAccessibleName(tr("Path of the reading: seven stops"));
    connect(&context, &Context::refreshed, this, qOverload<>(&QWidget::update));
    const auto fix = [this] { setFixedHeight(m_context.theme().px(124)); };
    connect(&context.theme(), &Theme::changed, this, fix);
    fix();
}

QSize PathLine::sizeHint() const {
    return {m_context.theme().px(800), m_context.theme().px(124)};
}

void PathLine::setStop(int stop) {
    m_stop = stop;
    update();
}

QString PathLine::spoken() const {
    const Reading* reading = m_context.reading();
    if (!reading) return tr("No reading is chosen.");
    const PathState& state = m_context.state(reading->id);
    QString out = tr("%1. %2.").arg(from_std(reading->name), state.about);
    for (int i = 0; i < 7; ++i) {
        const StopState& stop = state.stops[static_cast<std::size_t>(i)];
        const QString mark = stop.mark == Mark::done        ? tr("done")
                             : stop.mark == Mark::not_begun ? tr("not begun")
                             : stop.mark == Mark::bad       ? tr("wrong")
                                                            : tr("to look at");
        out += QLatin1Char(' ') + tr("%1 %2%3: %4, %5.")
                                      .arg(QString::number(i + 1), stop_name(i),
                                           i == m_stop ? tr(" (here)") : QString(), stop.text, mark);
    }
    if (state.next >= 0) out += QLatin1Char(' ') + tr("Next, %1: %2.").arg(stop_name(state.next), state.next_step);
    return out;
}

QRect PathLine::stopRect(int stop) const {
    const double margin = m_context.theme().px(4);
    const double each = (width() - 2 * margin) / 7.0;
    const int top = m_context.theme().px(34);
    return QRectF(margin + stop * each, top, each, height() - top).toAlignedRect();
}

void PathLine::paintEvent(QPaintEvent*) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.fillRect(rect(), t.paper);
    const Reading* reading = m_context.reading();
    if (!reading) return;
    const PathState& state = m_context.state(reading->id);

    painter.setFont(theme.text(15, true));
    painter.setPen(t.ink);
    const int left = theme.px(24);
    const QString name = from_std(reading->name);
    painter.drawText(QPoint(left, theme.px(26)), name);
    const int name_width = painter.fontMetrics().horizontalAdvance(name);
    painter.setFont(theme.text(12));
    painter.setPen(t.soft);
    painter.drawText(QPoint(left + name_width + theme.px(20), theme.px(26)), state.about);

    paintNext(painter, state,
              left + name_width + theme.px(40) + painter.fontMetrics().horizontalAdvance(state.about));

    painter.setPen(theme.pen(t.rule));
    painter.drawLine(QPointF(0, height() - 0.5), QPointF(width(), height() - 0.5));
    if (m_stop >= 0) {
        const QRect open = stopRect(m_stop);
        painter.fillRect(open, t.sheet);
        painter.fillRect(QRect(open.left(), open.top(), open.width(), theme.px(3)), t.accent);
        painter.setPen(theme.pen(t.rule));
        painter.drawLine(open.topLeft(), open.bottomLeft());
        painter.drawLine(open.topRight(), open.bottomRight());
    }

    const double y = theme.px(66);
    const auto x = [&](int stop) { return stopRect(stop).center().x() + 0.5; };
    const int reaches = std::max(0, state.reaches);
    if (state.reaches > 0) {
        painter.setPen(theme.pen(t.accent, 3));
        painter.drawLine(QPointF(x(0), y), QPointF(x(reaches), y));
    }
    if (reaches < 6) {
        QPen dashed = theme.pen(t.soft, 1.6);
        dashed.setDashPattern({2, 3});
        painter.setPen(dashed);
        painter.drawLine(QPointF(x(reaches), y), QPointF(x(6), y));
    }
    for (int i = 0; i < 7; ++i)
        paintStop(painter, i, state.stops[static_cast<std::size_t>(i)]);
}

/// What is done next, at the right: a click goes there.
void PathLine::paintNext(QPainter& painter, const PathState& state, int from) {
    const Theme& theme = m_context.theme();
    m_next = {};
    if (state.next < 0 || state.next == m_stop) return;
    painter.setFont(theme.text(12, true));
    const int right = width() - theme.px(24);
    const QString words =
        painter.fontMetrics().elidedText(tr("Next, %1: %2 →").arg(stop_name(state.next), state.next_step),
                                         Qt::ElideRight, std::max(0, right - from));
    const int wide = painter.fontMetrics().horizontalAdvance(words);
    if (wide < theme.px(80)) return;
    m_next = QRect(right - wide, theme.px(8), wide, theme.px(24));
    painter.setPen(m_hover == next_step ? theme.colours().ink : theme.colours().accent);
    painter.drawText(m_next, Qt::AlignRight | Qt::AlignVCenter, words);
}

void PathLine::paintStop(QPainter& painter, int stop, const StopState& state) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    const QRect box = stopRect(stop);
    const QPointF at(box.center().x() + 0.5, theme.px(66));
    const bool chosen = stop == m_stop;

    painter.setFont(theme.text(12, chosen));
    painter.setPen(chosen ? t.ink : stop == m_hover ? t.accent : t.soft);
    const QString title = QStringLiteral("%1 %2").arg(stop + 1).arg(stop_name(stop));
    painter.drawText(QRect(box.left(), theme.px(39), box.width(), theme.px(18)), Qt::AlignCenter, title);

    // Around the mark the line is cut by what it stands on.
    const QColor ground = chosen ? t.sheet : t.paper;
    const double r = theme.px(8);
    if (state.mark == Mark::done) {
        painter.setPen(Qt::NoPen);
        painter.setBrush(t.accent);
        painter.drawEllipse(at, r, r);
        QPen tick = theme.pen(t.sheet, 1.8);
        tick.setCapStyle(Qt::RoundCap);
        painter.setPen(tick);
        painter.drawPolyline(QPolygonF(
            {at + QPointF(-r * 0.42, 0), at + QPointF(-r * 0.1, r * 0.35), at + QPointF(r * 0.45, -r * 0.35)}));
    } else if (state.mark == Mark::not_begun) {
        painter.setBrush(ground);
        painter.setPen(theme.pen(t.soft, 1.6));
        painter.drawEllipse(at, r * 0.85, r * 0.85);
    } else {
        painter.setPen(Qt::NoPen);
        painter.setBrush(ground);
        painter.drawEllipse(at, r * 1.1, r * 1.1);
        paint_mark(painter, theme, at, theme.px(18), state.mark);
        painter.setPen(theme.pen(ground, 1.8));
        painter.drawLine(at + QPointF(0, -r * 0.35), at + QPointF(0, r * 0.25));
        painter.drawPoint(at + QPointF(0, r * 0.6));
    }

    painter.setFont(theme.mono(13));
    painter.setPen(state.mark == Mark::not_begun ? t.soft : t.ink);
    const QRect below(box.left() + 2, theme.px(84), box.width() - 4, theme.px(20));
    if (painter.fontMetrics().horizontalAdvance(state.text) > below.width()) painter.setFont(theme.mono(11));
    painter.drawText(below, Qt::AlignCenter,
                     painter.fontMetrics().elidedText(state.text, Qt::ElideRight, below.width()));
    if (hasFocus() && chosen) {
        QPen focus = theme.pen(t.accent, 1);
        focus.setStyle(Qt::DotLine);
        painter.setPen(focus);
        painter.setBrush(Qt::NoBrush);
        painter.drawRect(QRect(box.left() + 4, theme.px(40), box.width() - 8, theme.px(68)));
    }
}

int PathLine::stopAt(const QPoint& point) const {
    if (m_next.contains(point)) return next_step;
    for (int i = 0; i < 7; ++i)
        if (stopRect(i).contains(point)) return i;
    return none;
}

void PathLine::mousePressEvent(QMouseEvent* event) {
    const int stop = stopAt(event->pos());
    if (stop == next_step && m_context.reading())
        emit stopChosen(m_context.state(m_context.readingId()).next);
    else if (stop >= 0)
        emit stopChosen(stop);
}

void PathLine::mouseMoveEvent(QMouseEvent* event) {
    const int stop = stopAt(event->pos());
    if (stop == m_hover) return;
    m_hover = stop;
    setCursor(stop != none ? Qt::PointingHandCursor : Qt::ArrowCursor);
    setToolTip(stop >= 0 && m_context.reading()
                   ? m_context.state(m_context.readingId()).stops[static_cast<std::size_t>(stop)].text
                   : QString());
    update();
}

void PathLine::leaveEvent(QEvent*) {
    m_hover = none;
    update();
}

void PathLine::keyPressEvent(QKeyEvent* event) {
    const int step = event->key() == Qt::Key_Right ? 1 : event->key() == Qt::Key_Left ? -1 : 0;
    if (step == 0) return QWidget::keyPressEvent(event);
    emit stopChosen(std::clamp(std::max(m_stop, 0) + step, 0, 6));
}

} // namespace cognitum
