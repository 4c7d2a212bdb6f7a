#include "core/units/format.h"
#include "ui/stops/wiring_page.h"
#include "ui/widgets/parts.h"

#include <QMouseEvent>
#include <QPainter>

namespace cognitum {

namespace {

QColor wire_colour(const Theme& theme, WireColour colour) {
    switch (colour) {
    case WireColour::red: return theme.isDark() ? QColor(0xE0, 0x6C, 0x63) : QColor(0xB8, 0x32, 0x2A);
    case WireColour::black: return theme.colours().ink;
    case WireColour::yellow: return theme.isDark() ? QColor(0xD9, 0xB2, 0x3C) : QColor(0xB0, 0x86, 0x0B);
    }
    return theme.colours().ink;
}

} // namespace

LoomView::LoomView(Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme) {
    setObjectName(QStringLiteral("loom"));
    setAccessibleName(tr("Loom drawing: board at the left, part at the right"));
    setMinimumSize(sizeHint());
    connect(&theme, &Theme::changed, this, qOverload<>(&QWidget::update));
}

QSize LoomView::sizeHint() const {
    return {m_theme.px(400), m_theme.px(330)};
}

void LoomView::setLoom(std::optional<Loom> loom, int current_wire) {
    m_loom = std::move(loom);
    m_current = current_wire;
    if (m_loom) {
        QString spoken;
        for (const Wire& w : m_loom->wires)
            spoken += tr("wire %1, %2, at %3; ")
                          .arg(w.order)
                          .arg(from_std(colour_word(w.colour)), from_std(w.board_label));
        setAccessibleDescription(spoken);
    }
    update();
}

QRectF LoomView::boardBox() const {
    return {0.5, m_theme.px(4) + 0.5, m_theme.px(112) * 1.0, height() - m_theme.px(30) * 1.0};
}
QRectF LoomView::partBox() const {
    return {width() - m_theme.px(100) - 0.5, m_theme.px(4) + 0.5, m_theme.px(100) * 1.0,
            height() - m_theme.px(30) * 1.0};
}

double LoomView::rowY(int row) const {
    const QRectF box = boardBox();
    const double first = box.top() + m_theme.px(88);
    const double last = box.bottom() - m_theme.px(56);
    return first + (last - first) * row / 2.0;
}

void LoomView::paintEvent(QPaintEvent*) {
    if (!m_loom) return;
    const Tokens& t = m_theme.colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    for (const bool is_board : {true, false}) {
        const QRectF box = is_board ? boardBox() : partBox();
        p.setPen(m_theme.pen(t.ink, 1.6));
        p.setBrush(t.paper);
        p.drawRect(box);
        p.setPen(t.ink);
        p.setFont(m_theme.text(12, true));
        const QRectF title = box.adjusted(m_theme.px(8), m_theme.px(8), -m_theme.px(4), 0);
        QRectF used;
        p.drawText(title, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
                   from_std(is_board ? m_loom->board_title : m_loom->part_title), &used);
        p.setPen(t.soft);
        p.setFont(m_theme.text(11));
        p.drawText(QRectF(title.left(), used.bottom() + 2, title.width(), m_theme.px(48)),
                   Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap,
                   from_std(is_board ? m_loom->board_note : m_loom->part_note));
    }
    if (m_loom->resistor) {
        const LoomResistor& r = *m_loom->resistor;
        const double x = boardBox().right() + (partBox().left() - boardBox().right()) * 0.55;
        const double top = rowY(std::min(r.from_row, r.to_row));
        const double bottom = rowY(std::max(r.from_row, r.to_row));
        p.setPen(m_theme.pen(t.ink, 1.6));
        p.drawLine(QPointF(x, top), QPointF(x, bottom));
        p.setBrush(t.sheet);
        const double h = m_theme.px(40);
        p.drawRect(QRectF(x - m_theme.px(9), (top + bottom - h) / 2, m_theme.px(18), h));
        p.setBrush(t.ink);
        p.setPen(Qt::NoPen);
        p.drawEllipse(QPointF(x, rowY(r.to_row)), m_theme.px(4), m_theme.px(4));
        p.setPen(t.ink);
        p.setFont(m_theme.mono(12));
        p.drawText(QPointF(x + m_theme.px(16), (top + bottom) / 2 + m_theme.px(4)),
                   from_std(format_measure(r.ohm, "ohm")));
    }
    for (const Wire& wire : m_loom->wires)
        paintWire(p, wire);
    p.setPen(t.soft);
    p.setFont(m_theme.text(11));
    p.drawText(QRectF(0, height() - m_theme.px(20), width(), m_theme.px(18)), Qt::AlignLeft | Qt::AlignVCenter,
               tr("legs in the order you see them; wires up to 2 m, shielded beyond"));
}

void LoomView::paintWire(QPainter& p, const Wire& wire) {
    const Tokens& t = m_theme.colours();
    const double y = rowY(wire.row);
    const double pin_w = m_theme.px(44);
    const double pin_h = m_theme.px(24);
    const double from = boardBox().right() + pin_w / 2;
    const double middle = boardBox().right() + (partBox().left() - boardBox().right()) * 0.55;
    const double to = wire.leg >= 0 ? partBox().left() - m_theme.px(26) : middle;
    const QColor colour = wire_colour(m_theme, wire.colour);
    const bool current = wire.order == m_current;
    p.setPen(m_theme.pen(colour, current ? 5 : 3));
    p.drawLine(QPointF(from, y), QPointF(to, y));

    const auto label_box = [&](const QRectF& box, const QString& text) {
        p.setPen(m_theme.pen(t.ink, 1.6));
        p.setBrush(t.sheet);
        p.drawRect(box);
        p.setPen(t.ink);
        p.setFont(m_theme.mono(12));
        p.drawText(box, Qt::AlignCenter, text);
    };
    label_box(QRectF(boardBox().right() - pin_w / 2, y - pin_h / 2, pin_w, pin_h), from_std(wire.board_label));
    if (wire.leg >= 0) {
        const double leg_w = m_theme.px(70);
        label_box(QRectF(partBox().left() - m_theme.px(26), y - pin_h / 2, leg_w, pin_h),
                  from_std(m_loom->legs[static_cast<std::size_t>(wire.leg)].label));
    }
    p.setPen(t.soft);
    p.setFont(m_theme.text(11));
    p.drawText(QRectF(boardBox().left() + 4, y - pin_h / 2, boardBox().width() - pin_w / 2 - m_theme.px(10), pin_h),
               Qt::AlignRight | Qt::AlignVCenter, from_std(wire.board_note));

    const QPointF number(from + m_theme.px(26), y);
    p.setBrush(t.sheet);
    p.setPen(m_theme.pen(colour, 2));
    p.drawEllipse(number, m_theme.px(10), m_theme.px(10));
    p.setPen(t.ink);
    p.setFont(m_theme.mono(12, true));
    p.drawText(QRectF(number.x() - 10, y - 10, 20, 20), Qt::AlignCenter, QString::number(wire.order));
    p.setPen(t.soft);
    p.setFont(m_theme.text(11));
    p.drawText(QPointF(number.x() + m_theme.px(16), y - m_theme.px(6)), from_std(colour_word(wire.colour)));
    p.setPen(t.accent);
    p.setFont(m_theme.mono(11));
    if (!wire.volts.empty())
        p.drawText(QPointF(number.x() + m_theme.px(16), y + m_theme.px(16)), from_std(wire.volts));
}

StepList::StepList(Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme) {
    setObjectName(QStringLiteral("wiringSteps"));
    setAccessibleName(tr("Wiring steps"));
    setMinimumWidth(theme.px(290));
    connect(&theme, &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void StepList::setSteps(std::vector<WiringStep> steps, std::vector<int> ticked) {
    if (steps.size() != m_steps.size()) updateGeometry();
    m_steps = std::move(steps);
    m_ticked = std::move(ticked);
    setMinimumHeight(sizeHint().height());
    QString spoken;
    for (const WiringStep& s : m_steps)
        spoken += QStringLiteral("%1 %2; ").arg(isTicked(s.number) ? tr("done:") : tr("to do:"), from_std(s.text));
    setAccessibleDescription(spoken);
    update();
}

bool StepList::isTicked(int number) const {
    return std::find(m_ticked.begin(), m_ticked.end(), number) != m_ticked.end();
}

int StepList::current() const {
    for (std::size_t i = 0; i < m_steps.size(); ++i)
        if (!isTicked(m_steps[i].number)) return static_cast<int>(i);
    return static_cast<int>(m_steps.size());
}

QSize StepList::sizeHint() const {
    return {m_theme.px(270), static_cast<int>(m_steps.size()) * rowHeight()};
}

void StepList::paintEvent(QPaintEvent*) {
    const Tokens& t = m_theme.colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const int now = current();
    for (int i = 0; i < static_cast<int>(m_steps.size()); ++i) {
        const WiringStep& step = m_steps[static_cast<std::size_t>(i)];
        const QRect row(0, i * rowHeight(), width(), rowHeight());
        if (i == now) p.fillRect(row, t.tint);
        const bool ticked = isTicked(step.number);
        const QRectF box(row.left() + m_theme.px(8), row.top() + m_theme.px(8), m_theme.px(14), m_theme.px(14));
        p.setPen(m_theme.pen(i == now ? t.accent : ticked ? t.accent : t.soft, 1.6));
        p.setBrush(ticked ? QBrush(t.accent) : QBrush(Qt::NoBrush));
        p.drawRect(box);
        if (ticked) {
            p.setPen(m_theme.pen(t.sheet, 1.8));
            p.drawPolyline(QPolygonF({{box.left() + box.width() * 0.2, box.center().y()},
                                      {box.left() + box.width() * 0.42, box.bottom() - box.height() * 0.25},
                                      {box.right() - box.width() * 0.18, box.top() + box.height() * 0.25}}));
        }
        const QRect text = row.adjusted(m_theme.px(32), m_theme.px(4), -m_theme.px(4), 0);
        p.setPen(t.ink);
        p.setFont(m_theme.text(13, i == now));
        p.drawText(text, Qt::AlignLeft | Qt::AlignTop,
                   p.fontMetrics().elidedText(from_std(step.text), Qt::ElideRight, text.width()));
        p.setPen(t.soft);
        p.setFont(m_theme.mono(11));
        p.drawText(
            text.adjusted(0, m_theme.px(20), 0, 0), Qt::AlignLeft | Qt::AlignTop,
            p.fontMetrics().elidedText(tr("meter: %1").arg(from_std(step.meter)), Qt::ElideRight, text.width()));
    }
}

void StepList::mousePressEvent(QMouseEvent* event) {
    const int row = static_cast<int>(event->position().y()) / rowHeight();
    if (row >= 0 && row < static_cast<int>(m_steps.size()))
        emit toggled(m_steps[static_cast<std::size_t>(row)].number);
}

} // namespace cognitum
