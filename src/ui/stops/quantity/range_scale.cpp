#include "ui/stops/quantity/range_scale.h"

#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <QPainter>
#include <cmath>

namespace cognitum {

RangeScale::RangeScale(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("rangeScale"));
    setAccessibleName(tr("Expected range, band and value now, drawn as a scale"));
    setMinimumHeight(sizeHint().height());
}

QSize RangeScale::sizeHint() const {
    return {m_context.theme().px(240), m_context.theme().px(360)};
}

void RangeScale::paintEvent(QPaintEvent*) {
    const Reading* r = m_context.reading();
    if (!r) return;
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    const Quantity& q = r->quantity;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double margin = (q.high - q.low) * 0.12;
    const double low = q.low - margin;
    const double high = q.high + margin;
    const double top = theme.px(14);
    const double bottom = height() - theme.px(14);
    const auto y = [&](double value) { return bottom - (value - low) / (high - low) * (bottom - top); };
    const double x = theme.px(64);
    const double w = theme.px(22);

    p.fillRect(QRectF(x - theme.px(12), y(q.high), w + theme.px(24), y(q.low) - y(q.high)), t.tint);
    p.setPen(theme.pen(t.ink, 1.6));
    p.setBrush(t.sheet);
    p.drawRoundedRect(QRectF(x, top, w, bottom - top), w / 2, w / 2);
    if (r->bands) {
        p.setPen(Qt::NoPen);
        p.setBrush(t.good);
        p.drawRect(
            QRectF(x + w + theme.px(12), y(r->bands->high), theme.px(4), y(r->bands->low) - y(r->bands->high)));
        p.setPen(t.good);
        p.setFont(theme.text(11));
        p.drawText(QPointF(x + w + theme.px(22), (y(r->bands->high) + y(r->bands->low)) / 2 + theme.px(4)),
                   tr("in range"));
    }
    const double step = std::pow(10, std::floor(std::log10((q.high - q.low) / 3)));
    const double tick = (q.high - q.low) / step > 12 ? 5 * step : (q.high - q.low) / step > 6 ? 2 * step : step;
    p.setFont(theme.mono(12));
    for (double v = std::ceil(low / tick) * tick; v <= high; v += tick) {
        const bool inside = v >= q.low - 1e-9 && v <= q.high + 1e-9;
        p.setPen(inside ? t.ink : t.soft);
        p.drawText(QRectF(0, y(v) - theme.px(9), x - theme.px(18), theme.px(18)), Qt::AlignRight | Qt::AlignVCenter,
                   from_std(format_constant(std::abs(v) < 1e-9 ? 0 : v)));
        p.setPen(theme.pen(t.rule));
        p.drawLine(QPointF(x - theme.px(12), y(v)), QPointF(x - 1, y(v)));
    }
    const auto note = [&](double value, const QString& text, const QColor& colour) {
        p.setPen(colour);
        p.setFont(theme.text(11));
        const double left = x + w + theme.px(22), room = width() - left;
        if (p.fontMetrics().horizontalAdvance(text) <= room)
            p.drawText(QPointF(left, y(value) + theme.px(4)), text);
        else // long words in another language: in two lines
            p.drawText(QRectF(left, y(value) - theme.px(24), room, theme.px(48)),
                       Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, text);
    };
    note(q.high, tr("most you expect"), t.accent);
    note(q.low, tr("least you expect"), t.accent);
    const LiveReading* now = m_context.liveReading();
    if (now && now->value.ok() && m_context.state(r->id).freshness != Freshness::silent) {
        const double value = std::clamp(now->value.number, low, high);
        p.setPen(Qt::NoPen);
        p.setBrush(t.accent);
        p.drawRoundedRect(QRectF(x + w * 0.28, y(value), w * 0.44, bottom - y(value) - w * 0.28), w * 0.22,
                          w * 0.22);
        p.setPen(theme.pen(t.accent, 2));
        p.drawLine(QPointF(x - theme.px(4), y(value)), QPointF(x + w + theme.px(8), y(value)));
        p.setPen(t.ink);
        p.setFont(theme.mono(13, true));
        const double band_middle = r->bands ? (y(r->bands->high) + y(r->bands->low)) / 2 : -1000;
        const bool crowded = std::abs(y(value) - y(q.high)) < theme.px(16) ||
                             std::abs(y(value) - y(q.low)) < theme.px(16) ||
                             std::abs(y(value) - band_middle) < theme.px(16);
        p.drawText(QPointF(x + w + theme.px(crowded ? 116 : 22), y(value) + theme.px(5)),
                   tr("now %1").arg(m_context.state(r->id).value));
    }
}

} // namespace cognitum
