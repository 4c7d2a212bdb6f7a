// What stands in a reading's lane: its curve, columns of growth, the share of a state, and where nothing came.
#include "core/units/format.h"
#include "ui/pages/logbook/lanes_picture.h"
#include "ui/widgets/parts.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace cognitum {

/// The parts in the range and one beside it at each end: of a line to far away the screen would work out every
/// step.
std::span<const Summary> LanesPicture::visible(const std::vector<Summary>& parts) const {
    auto first =
        std::partition_point(parts.begin(), parts.end(), [&](const Summary& s) { return s.to < range.from; });
    auto last = std::partition_point(first, parts.end(), [&](const Summary& s) { return s.from <= range.to; });
    if (first != parts.begin()) --first;
    if (last != parts.end()) ++last;
    return {first, last};
}

void LanesPicture::drawCurve(QPainter& painter, const Lane& lane, const Reading& reading, const Row& row) const {
    const Tokens& t = theme.colours();
    double low = INFINITY;
    double high = -INFINITY;
    for (const Summary& s : lane.parts)
        if (s.valued) {
            low = std::min(low, s.low);
            high = std::max(high, s.high);
        }
    const double shown_low = low;
    const double shown_high = high;
    const double least = std::max(reading.quantity.accuracy, 1e-9);
    if (high - low < least) { // noise within the needed accuracy is no curve
        const double middle = (low + high) / 2;
        low = middle - least / 2;
        high = middle + least / 2;
    }
    const double pad = theme.px(8);
    const auto y_of = [&](double v) {
        return row.top + row.height - pad - (v - low) / (high - low) * (row.height - 2 * pad);
    };
    if (reading.bands) {
        const double top = std::max(row.top, y_of(reading.bands->high));
        const double bottom = std::min(row.top + row.height, y_of(reading.bands->low));
        if (bottom > top)
            painter.fillRect(QRectF(QPointF(box.left() + labelWidth(), top + 1), QPointF(box.right(), bottom)),
                             t.tint);
    }
    QColor wash = t.ink;
    wash.setAlphaF(0.18F);
    QList<QLineF> line; // one by one: a path that goes up and down hundreds of times takes a second to fill
    QList<QRect> extremes;
    QPointF from;
    bool pen_down = false;
    const Summary* before = nullptr;
    for (const Summary& s : visible(lane.parts)) {
        const bool gap = before && std::any_of(lane.silent.begin(), lane.silent.end(), [&](const Interval& i) {
                             return i.from >= before->to && i.to <= s.from;
                         });
        before = &s;
        if (!s.valued) {
            pen_down = false;
            continue;
        }
        const double x1 = xOf(s.from);
        const double x2 = std::max(x1 + 1, xOf(s.to));
        extremes.append(QRectF(QPointF(x1, y_of(s.high)), QPointF(x2, y_of(s.low))).toAlignedRect());
        const QPointF at(xOf(s.from / 2 + s.to / 2), y_of(s.mean()));
        if (pen_down && !gap) line.append({from, at});
        from = at;
        pen_down = true;
    }
    painter.setRenderHint(QPainter::Antialiasing, false); // whole pixels are filled many times faster
    for (const QRect& r : extremes)
        painter.fillRect(r, wash);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(theme.pen(t.ink, 1)); // a pixel is drawn by a faster way than any other width
    painter.drawLines(line);
    // The scale: least and most, beside the lane.
    painter.setClipping(false);
    painter.setPen(t.soft);
    painter.setFont(theme.mono(10));
    const QRectF scale(box.left(), row.top + 2, labelWidth() - theme.px(6), row.height - 4);
    const auto number = [&](double v) { return from_std(format_value(v, reading.quantity.accuracy, "1")); };
    painter.drawText(scale, Qt::AlignRight | Qt::AlignTop, number(shown_high));
    painter.drawText(scale, Qt::AlignRight | Qt::AlignBottom, number(shown_low));
}

void LanesPicture::drawColumns(QPainter& painter, const Lane& lane, const Row& row) const {
    const Tokens& t = theme.colours();
    const double pad = theme.px(4);
    double most = 0;
    for (const Growth& c : lane.columns)
        most = std::max(most, c.amount);
    painter.setPen(theme.pen(t.soft));
    const double ground = row.top + row.height - pad;
    painter.drawLine(QPointF(box.left() + labelWidth(), ground), QPointF(box.right(), ground));
    if (!(most > 0)) return;
    const double room = row.height - 2 * pad - theme.px(13);
    painter.setFont(theme.mono(10));
    for (const Growth& c : lane.columns) {
        const double x1 = xOf(c.from) + 1;
        const double x2 = std::max(x1 + 1, xOf(c.to) - 1);
        const double height = c.amount / most * room;
        painter.fillRect(QRectF(x1, ground - height, x2 - x1, height), t.accent);
        if (c.amount < most) continue;
        painter.setPen(t.ink);
        painter.drawText(
            QRectF((x1 + x2) / 2 - theme.px(40), ground - height - theme.px(14), theme.px(80), theme.px(13)),
            Qt::AlignHCenter | Qt::AlignBottom, from_std(format_constant(c.amount, 3)));
    }
}

void LanesPicture::drawShare(QPainter& painter, const Lane& lane, const Row& row) const {
    const Tokens& t = theme.colours();
    const double pad = theme.px(8);
    const double ground = row.top + row.height - pad;
    painter.setPen(theme.pen(t.soft));
    painter.drawLine(QPointF(box.left() + labelWidth(), ground), QPointF(box.right(), ground));
    const std::span<const Summary> parts = visible(lane.parts);
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const Summary& s = parts[i];
        if (!s.valued) continue;
        const bool gap =
            i + 1 == parts.size() || std::any_of(lane.silent.begin(), lane.silent.end(), [&](const Interval& q) {
                return q.from >= s.to && q.to <= parts[i + 1].from;
            });
        const double x1 = xOf(s.from);
        const double x2 = std::max(x1 + 1, xOf(gap ? s.to : parts[i + 1].from));
        const double height = std::clamp(s.mean(), 0.0, 1.0) * (row.height - 2 * pad);
        painter.fillRect(QRectF(x1, ground - height, x2 - x1, height), t.ink);
    }
}

/// Gaps are left empty; one that is long enough says so. Of many, as of a beacon that reports only on the road,
/// none does.
void LanesPicture::drawSilence(QPainter& painter, const Lane& lane, const Row& row) const {
    constexpr std::size_t few = 6;
    if (lane.silent.size() > few) return;
    painter.setPen(theme.colours().soft);
    painter.setFont(theme.text(11));
    const QFontMetricsF measure(painter.font());
    for (const Interval& gap : lane.silent) {
        const QString text = tr("no lines %1").arg(from_std(duration_text(gap.to - gap.from)));
        const double x1 = xOf(gap.from);
        const double x2 = xOf(gap.to);
        if (x2 - x1 < 3) continue;
        const double half = measure.horizontalAdvance(text) / 2;
        const double centre = std::clamp((x1 + x2) / 2, box.left() + labelWidth() + half, box.right() - half);
        const QRectF place(centre - half - 2, row.top + 2, 2 * half + 4, theme.px(14));
        painter.fillRect(place, theme.colours().sheet);
        painter.drawText(place, Qt::AlignCenter, text);
    }
}

} // namespace cognitum
