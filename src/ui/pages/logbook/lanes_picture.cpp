#include "ui/pages/logbook/lanes_picture.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/pages/logbook/time_ticks.h"
#include "ui/widgets/parts.h"

#include <QPainter>
#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

constexpr int mark_lanes = 5; ///< recordings, sessions, calibrations, alerts, upkeep and notes

bool is_calibration(const LogEntry& e) {
    return e.kind == log_kind::calibration;
}
bool is_alert(const LogEntry& e) {
    return e.kind == log_kind::alert || e.kind == log_kind::recovery;
}
bool is_upkeep(const LogEntry& e) {
    return e.kind == log_kind::upkeep || e.kind == log_kind::note || e.kind == log_kind::bring_up;
}

Mark mark_of_entry(const LogEntry& e) {
    return e.kind == log_kind::alert ? Mark::look : Mark::done;
}

} // namespace

double LanesPicture::labelWidth() const {
    return theme.px(132);
}

double LanesPicture::axisHeight() const {
    return theme.px(24);
}

double LanesPicture::markRow() const {
    return theme.px(30);
}

LanesPicture::Row LanesPicture::readingRow(std::size_t lane) const {
    const double room = box.height() - axisHeight() - mark_lanes * markRow();
    const double each = room / static_cast<double>(std::max<std::size_t>(1, lanes.lanes.size()));
    return {box.top() + axisHeight() + static_cast<double>(lane) * each, each};
}

LanesPicture::Row LanesPicture::markRowOf(int index) const {
    return {box.bottom() - (mark_lanes - index) * markRow(), markRow()};
}

double LanesPicture::xOf(TimeUs t) const {
    const double share =
        static_cast<double>(t - range.from) / static_cast<double>(std::max<TimeUs>(1, range.to - range.from));
    return box.left() + labelWidth() + share * (box.width() - labelWidth());
}

TimeUs LanesPicture::timeAt(double x) const {
    const double left = box.left() + labelWidth();
    const double share = (x - left) / std::max(1.0, box.right() - left);
    return range.from +
           static_cast<TimeUs>(std::clamp(share, 0.0, 1.0) * static_cast<double>(range.to - range.from));
}

double LanesPicture::firstMarkLane() const {
    return markRowOf(2).top;
}

const TimedSession* LanesPicture::sessionAt(const QPointF& at) const {
    const Row row = markRowOf(1);
    if (at.y() < row.top || at.y() >= row.top + row.height) return nullptr;
    const TimedSession* shortest = nullptr; // of several that are there
    for (const TimedSession& s : bench.sessions) {
        const double left = xOf(s.from), right = std::max(left + theme.px(5), xOf(s.end(range.to)));
        if (at.x() < left - 2 || at.x() > right + 2) continue;
        if (!shortest || s.end(range.to) - s.from < shortest->end(range.to) - shortest->from) shortest = &s;
    }
    return shortest;
}

void LanesPicture::drawSessions(QPainter& painter, const Row& row) const {
    const Tokens& t = theme.colours();
    const double left_edge = box.left() + labelWidth();
    painter.save();
    painter.setClipRect(QRectF(left_edge, row.top, box.right() - left_edge, row.height));
    painter.setFont(theme.text(11));
    for (const TimedSession& s : bench.sessions) {
        if (s.from >= range.to || s.end(range.to) <= range.from) continue;
        const double left = xOf(s.from), right = std::max(left + theme.px(3), xOf(s.end(range.to)));
        const QRectF bar(left, row.top + row.height * 0.22, right - left, row.height * 0.56);
        QColor fill = t.accent;
        fill.setAlphaF(0.18F);
        painter.fillRect(bar, fill);
        painter.setPen(theme.pen(t.accent));
        painter.drawLine(bar.topLeft(), bar.bottomLeft()); // its start
        const QString name = from_std(s.name);
        if (painter.fontMetrics().horizontalAdvance(name) + theme.px(8) > bar.width()) continue;
        painter.setPen(t.ink);
        painter.drawText(bar.adjusted(theme.px(5), 0, 0, 0), Qt::AlignVCenter | Qt::AlignLeft, name);
    }
    painter.restore();
}

void LanesPicture::draw(QPainter& painter) const {
    const Tokens& t = theme.colours();
    drawStretch(painter);
    drawAxis(painter);
    for (std::size_t i = 0; i < lanes.lanes.size(); ++i)
        drawLane(painter, lanes.lanes[i], readingRow(i));
    const QString names[mark_lanes] = {tr("Recordings"), tr("Sessions"), tr("Calibrations"), tr("Alerts"),
                                       tr("Upkeep, notes")};
    for (int i = 0; i < mark_lanes; ++i) {
        const Row row = markRowOf(i);
        painter.setPen(theme.pen(t.rule));
        painter.drawLine(QPointF(box.left(), row.top), QPointF(box.right(), row.top));
        painter.setPen(t.ink);
        painter.setFont(theme.text(12, true));
        painter.drawText(QRectF(box.left(), row.top, labelWidth() - theme.px(8), row.height),
                         Qt::AlignVCenter | Qt::AlignLeft, names[i]);
    }
    painter.setPen(theme.pen(t.rule));
    painter.drawLine(box.bottomLeft(), box.bottomRight());
    drawRecorded(painter, markRowOf(0));
    drawSessions(painter, markRowOf(1));
    drawEntries(painter, markRowOf(2), is_calibration);
    drawEntries(painter, markRowOf(3), is_alert);
    drawEntries(painter, markRowOf(4), is_upkeep);
}

void LanesPicture::drawAxis(QPainter& painter) const {
    const Tokens& t = theme.colours();
    const double y = box.top() + axisHeight();
    const int most = std::max(2, static_cast<int>((box.width() - labelWidth()) / theme.px(56)));
    const QFontMetricsF measure(theme.text(11));
    double written = box.left() + labelWidth(); // as far as labels stand
    for (const TimeTick& tick : time_ticks(range.from, range.to, most)) {
        const double x = std::round(xOf(tick.time)) + 0.5;
        QColor faint = t.rule;
        faint.setAlphaF(0.55F);
        painter.setPen(theme.pen(faint));
        painter.drawLine(QPointF(x, y), QPointF(x, box.bottom()));
        painter.setPen(t.soft);
        painter.setFont(theme.text(11));
        const double half = measure.horizontalAdvance(tick.label) / 2 + 2;
        const double centre = std::clamp(x, box.left() + labelWidth() + half, box.right() - half);
        if (centre - half < written) continue;
        written = centre + half + theme.px(6);
        painter.drawText(QRectF(centre - half, box.top(), 2 * half, axisHeight() - theme.px(4)),
                         Qt::AlignHCenter | Qt::AlignBottom, tick.label);
    }
    painter.setPen(theme.pen(t.ink));
    painter.drawLine(QPointF(box.left(), y), QPointF(box.right(), y));
}

void LanesPicture::drawLane(QPainter& painter, const Lane& lane, const Row& row) const {
    const Reading* reading = bench.reading(lane.reading);
    if (!reading) return;
    const Tokens& t = theme.colours();
    if (row.top > box.top() + axisHeight() + 1) {
        painter.setPen(theme.pen(t.rule));
        painter.drawLine(QPointF(box.left(), row.top), QPointF(box.right(), row.top));
    }
    const QRectF label(box.left(), row.top, labelWidth() - theme.px(44), row.height);
    painter.setPen(t.ink);
    painter.setFont(theme.text(12, true));
    const QString name =
        QFontMetricsF(painter.font()).elidedText(from_std(reading->name), Qt::ElideRight, label.width());
    painter.drawText(label.adjusted(0, 0, 0, -row.height / 2), Qt::AlignLeft | Qt::AlignBottom, name);
    painter.setPen(t.soft);
    painter.setFont(theme.text(11));
    QString unit = from_std(unit_symbol(reading->quantity.unit));
    if (lane.shape == LaneShape::columns)
        unit = range.to - range.from <= hourly_below   ? tr("%1 an hour").arg(unit)
               : range.to - range.from <= 100 * day_us ? tr("%1 a day").arg(unit)
                                                       : tr("%1 a month").arg(unit);
    if (lane.shape == LaneShape::share) unit = tr("share of the time");
    painter.drawText(label.adjusted(0, row.height / 2, 0, 0), Qt::AlignLeft | Qt::AlignTop, unit);

    painter.save();
    painter.setClipRect(QRectF(box.left() + labelWidth(), row.top, box.width() - labelWidth(), row.height));
    const bool any =
        std::any_of(lane.parts.begin(), lane.parts.end(), [](const Summary& s) { return s.valued > 0; });
    if (!any) {
        painter.setPen(t.soft);
        painter.setFont(theme.text(12));
        painter.drawText(QRectF(box.left() + labelWidth() + theme.px(8), row.top, box.width(), row.height),
                         Qt::AlignVCenter | Qt::AlignLeft,
                         lane.trouble.empty() ? tr("nothing recorded here") : from_std(lane.trouble));
    } else {
        switch (lane.shape) {
        case LaneShape::curve: drawCurve(painter, lane, *reading, row); break;
        case LaneShape::columns: drawColumns(painter, lane, row); break;
        case LaneShape::share: drawShare(painter, lane, row); break;
        }
        drawSilence(painter, lane, row);
    }
    painter.restore();
}

void LanesPicture::drawRecorded(QPainter& painter, const Row& row) const {
    painter.save();
    painter.setClipRect(QRectF(box.left() + labelWidth(), row.top, box.width() - labelWidth(), row.height));
    const double height = theme.px(8);
    for (const Interval& i : lanes.recorded) {
        const double x1 = xOf(i.from);
        painter.fillRect(QRectF(x1, row.top + (row.height - height) / 2, std::max(1.0, xOf(i.to) - x1), height),
                         theme.colours().ink);
    }
    painter.restore();
}

void LanesPicture::drawEntries(QPainter& painter, const Row& row,
                               const std::function<bool(const LogEntry&)>& belongs) const {
    const Tokens& t = theme.colours();
    std::vector<const LogEntry*> list; // oldest first
    for (std::size_t i = lanes.entries.size(); i-- > 0;) {
        const LogEntry& e = lanes.entries[i];
        if (belongs(e) && e.time >= range.from && e.time < range.to) list.push_back(&e);
    }
    painter.save();
    painter.setClipRect(QRectF(box.left() + labelWidth() - theme.px(6), row.top,
                               box.width() - labelWidth() + theme.px(6), row.height));
    const double middle = row.top + row.height / 2;
    painter.setFont(theme.text(11));
    const QFontMetricsF measure(painter.font());
    for (std::size_t i = 0; i < list.size(); ++i) {
        const LogEntry& e = *list[i];
        const double x = xOf(e.time);
        double after = theme.px(8);
        if (is_upkeep(e)) {
            painter.setPen(theme.pen(t.note, 2));
            painter.drawLine(QPointF(x, middle - theme.px(9)), QPointF(x, middle + theme.px(9)));
            after = theme.px(5);
        } else {
            paint_mark(painter, theme, {x, middle}, theme.px(9), mark_of_entry(e));
        }
        // Its words, as far as there is room before the next.
        const double end = i + 1 < list.size() ? xOf(list[i + 1]->time) - theme.px(8) : box.right();
        const double room = end - x - after;
        if (room < theme.px(90)) continue;
        const Reading* reading = bench.reading(e.reading);
        QString text = from_std(e.said());
        if (reading && !text.startsWith(from_std(reading->name)))
            text = from_std(reading->name) + QStringLiteral(": ") + text;
        painter.setPen(t.ink);
        painter.drawText(QRectF(x + after, row.top, room, row.height), Qt::AlignVCenter | Qt::AlignLeft,
                         measure.elidedText(text, Qt::ElideRight, room));
    }
    painter.restore();
}

/// Under everything else, so that no word is crossed out.
void LanesPicture::drawStretch(QPainter& painter) const {
    if (!stretch) return;
    painter.save();
    painter.setClipRect(QRectF(box.left() + labelWidth(), box.top(), box.width() - labelWidth(), box.height()));
    painter.fillRect(
        QRectF(QPointF(xOf(stretch->from), box.top() + axisHeight()), QPointF(xOf(stretch->to), box.bottom())),
        theme.colours().tint);
    painter.setPen(theme.pen(theme.colours().accent, 1.5));
    for (const TimeUs edge : {stretch->from, stretch->to}) {
        const double x = std::round(xOf(edge));
        painter.drawLine(QPointF(x, box.top() + axisHeight()), QPointF(x, box.bottom()));
    }
    painter.restore();
}

} // namespace cognitum
