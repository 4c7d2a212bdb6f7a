#include "ui/stops/convert/pulse_drawing.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/widgets/parts.h"

#include <QDateTime>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

using Panel = PulsePicture::Panel;

constexpr int panel_px = 132, low_panel_px = 64, time_px = 22, gap_px = 14, title_px = 20, left_px = 64;

/// One with nothing but marks or spans needs little height.
bool is_low(const Panel& panel) {
    return panel.trace.empty() || (panel.stairs && panel.unit.empty());
}

struct Reach {
    double low = 0, high = 1;   ///< of the box
    double least = 0, most = 1; ///< of what is drawn in it
};

Reach reach_of(const Panel& panel) {
    Reach out{0, 1, 1e300, -1e300};
    const auto take = [&](double v) {
        if (!std::isfinite(v)) return;
        out.least = std::min(out.least, v);
        out.most = std::max(out.most, v);
    };
    for (const auto& p : panel.trace)
        take(p.value);
    for (const auto& l : panel.levels)
        take(l.value);
    if (out.least > out.most) return {};
    if (out.least == out.most) out.most = out.least + 1;
    const double air = 0.08 * (out.most - out.least);
    out.low = out.least - air;
    out.high = out.most + air;
    return out;
}

} // namespace

PulseDrawing::PulseDrawing(Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme) {
    setObjectName(QStringLiteral("pulseDrawing"));
    setAccessibleName(tr("Pulses over time"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void PulseDrawing::show(PulsePicture picture) {
    const QSize before = sizeHint();
    m_picture = std::move(picture);
    setVisible(!m_picture.panels.empty());
    setAccessibleDescription(from_std(m_picture.spoken));
    if (sizeHint() != before) updateGeometry();
    update();
}

QSize PulseDrawing::sizeHint() const {
    int height = time_px;
    for (const Panel& panel : m_picture.panels)
        height += title_px + (is_low(panel) ? low_panel_px : panel_px) + gap_px;
    return {m_theme.px(520), m_theme.px(height)};
}

double PulseDrawing::xOf(double at_s, const QRectF& box) const {
    return box.left() + box.width() * at_s / std::max(1e-9, m_picture.length_s);
}

void PulseDrawing::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    double top = 0;
    QRectF box;
    for (const Panel& panel : m_picture.panels) {
        painter.setFont(m_theme.text(12));
        painter.setPen(m_theme.colours().soft);
        const QString unit = panel.unit.empty() ? QString()
                             : panel.unit == "count"
                                 ? tr(", counts")
                                 : QStringLiteral(", %1").arg(from_std(unit_symbol(panel.unit)));
        painter.drawText(QPointF(0, top + m_theme.px(14)), from_std(panel.title) + unit);
        top += m_theme.px(title_px);
        const int height = m_theme.px(is_low(panel) ? low_panel_px : panel_px);
        box = QRectF(m_theme.px(left_px), top, width() - m_theme.px(left_px + 8), height);
        paintPanel(painter, panel, box);
        top += height + m_theme.px(gap_px);
    }
    if (!m_picture.panels.empty()) paintTime(painter, box);
}

void PulseDrawing::paintPanel(QPainter& painter, const Panel& panel, const QRectF& box) {
    const Tokens& t = m_theme.colours();
    painter.setPen(m_theme.pen(t.rule));
    painter.drawLine(box.bottomLeft(), box.bottomRight());
    const Reach reach = reach_of(panel);
    const auto y = [&](double v) {
        return box.bottom() - box.height() * (v - reach.low) / (reach.high - reach.low);
    };
    paintSpans(painter, panel, box);

    QPainterPath path;
    bool begun = false;
    double last_y = 0;
    for (const auto& p : panel.trace) {
        if (!std::isfinite(p.value)) { // nothing came: the last state holds until then, and no line leads on
            if (begun && panel.stairs) path.lineTo(xOf(p.at_s, box), last_y);
            begun = false;
            continue;
        }
        const QPointF at(xOf(p.at_s, box), y(p.value));
        if (!begun)
            path.moveTo(at);
        else if (panel.stairs)
            path.lineTo(at.x(), last_y);
        path.lineTo(at);
        begun = true;
        last_y = at.y();
    }
    painter.setBrush(Qt::NoBrush);
    painter.setPen(m_theme.pen(t.accent, 1.6));
    painter.drawPath(path);

    painter.setFont(m_theme.mono(11));
    painter.setPen(t.soft);
    const auto beside = [&](double v, const QString& words) {
        painter.drawText(
            QRectF(box.left() - m_theme.px(left_px), y(v) - m_theme.px(8), m_theme.px(left_px - 8), m_theme.px(16)),
            Qt::AlignRight | Qt::AlignVCenter, words);
    };
    const double grain = (reach.most - reach.least) / 20;
    if (!panel.unit.empty())
        for (const double v : {reach.least, reach.most})
            beside(v, from_std(format_value(v, grain, "1")));
    else if (panel.stairs) {
        beside(0, tr("off"));
        beside(1, tr("on"));
    }
    painter.setFont(m_theme.text(11));
    for (const auto& level : panel.levels) {
        QPen dashed = m_theme.pen(t.look, 1.2);
        dashed.setDashPattern({4, 3});
        painter.setPen(dashed);
        painter.drawLine(QPointF(box.left(), y(level.value)), QPointF(box.right(), y(level.value)));
        painter.setPen(t.look);
        const QRectF words = painter.fontMetrics()
                                 .boundingRect(from_std(level.name))
                                 .translated(static_cast<int>(box.right()) -
                                                 painter.fontMetrics().horizontalAdvance(from_std(level.name)),
                                             static_cast<int>(y(level.value)) - m_theme.px(5));
        painter.fillRect(words.adjusted(-3, 0, 3, 0), t.sheet); // the trace may run behind it
        painter.drawText(words, Qt::AlignCenter, from_std(level.name));
    }
    const double r = m_theme.px(4);
    for (const auto& mark : panel.marks) {
        const bool tick = panel.trace.empty(); // nothing but marks: a stroke each
        const QPointF at(xOf(mark.at_s, box), tick ? box.center().y() : y(mark.value));
        painter.setPen(m_theme.pen(mark.counted ? t.ink : t.bad, 1.4));
        if (tick && mark.counted) {
            painter.drawLine(QPointF(at.x(), box.top() + m_theme.px(8)), QPointF(at.x(), box.bottom()));
        } else if (mark.counted) {
            painter.setBrush(t.sheet);
            painter.drawEllipse(at, r, r);
        } else { // set aside: a cross, not colour alone
            painter.drawLine(at - QPointF(r, r), at + QPointF(r, r));
            painter.drawLine(at - QPointF(r, -r), at + QPointF(r, -r));
        }
    }
}

void PulseDrawing::paintSpans(QPainter& painter, const Panel& panel, const QRectF& box) {
    const Tokens& t = m_theme.colours();
    const bool alone = panel.trace.empty();
    const double height = alone ? m_theme.px(18) : m_theme.px(7);
    const double top = alone ? box.center().y() - height / 2 : box.bottom() - height - m_theme.px(2);
    for (const auto& span : panel.spans) {
        const QRectF bar(xOf(span.from_s, box) + 1, top,
                         std::max(2.0, xOf(span.to_s, box) - xOf(span.from_s, box) - 2), height);
        switch (span.use) {
        case PulsePicture::Use::counted: painter.fillRect(bar, t.accent); break;
        case PulsePicture::Use::held:
            painter.setPen(m_theme.pen(t.accent, 1.2));
            painter.setBrush(t.tint);
            painter.drawRect(bar);
            break;
        case PulsePicture::Use::set_aside:
            painter.setPen(m_theme.pen(t.bad, 1.2));
            painter.setBrush(QBrush(t.bad, Qt::BDiagPattern));
            painter.drawRect(bar);
            break;
        }
    }
}

/// Five times below the lowest panel.
void PulseDrawing::paintTime(QPainter& painter, const QRectF& box) {
    painter.setFont(m_theme.mono(11));
    painter.setPen(m_theme.colours().soft);
    constexpr int parts = 4;
    const QString format = m_picture.length_s < 120 ? QStringLiteral("HH:mm:ss") : QStringLiteral("HH:mm");
    for (int i = 0; i <= parts; ++i) {
        const double at = m_picture.length_s * i / parts;
        const auto moment = QDateTime::fromMSecsSinceEpoch((m_picture.from + from_seconds(at)) / 1000);
        const double x = xOf(at, box);
        const double wide = m_theme.px(80);
        const double left = std::clamp(x - wide / 2, box.left(), box.right() - wide);
        painter.drawText(QRectF(left, box.bottom() + m_theme.px(4), wide, m_theme.px(16)),
                         i == 0       ? Qt::AlignLeft
                         : i == parts ? Qt::AlignRight
                                      : Qt::AlignHCenter,
                         moment.toString(format));
    }
}

} // namespace cognitum
