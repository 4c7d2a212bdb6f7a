#include "ui/pages/logbook/time_lanes.h"

#include "core/units/format.h"
#include "ui/pages/logbook/time_ticks.h"
#include "ui/widgets/parts.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

constexpr TimeUs shortest_range = 30 * second_us;

} // namespace

TimeLanes::TimeLanes(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("timeLanes"));
    setAccessibleName(tr("Time line: arrows move the cursor, with Shift they take a stretch, Ctrl arrows pan, plus "
                         "and minus zoom, Escape lets go"));
    setFocusPolicy(Qt::StrongFocus);
    setMouseTracking(true);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
    connect(&context.theme(), &Theme::changed, this, [this] { update(); });
}

QSize TimeLanes::sizeHint() const {
    return {m_context.theme().px(900), minimumSizeHint().height()}; // the page shares out what is more
}

/// Room for two lines of text in each lane.
QSize TimeLanes::minimumSizeHint() const {
    const auto lanes = static_cast<double>(std::max<std::size_t>(4, m_lanes.lanes.size()));
    return {m_context.theme().px(360), m_context.theme().px(144 + 36 * lanes)};
}

void TimeLanes::setRange(TimeUs from, TimeUs to) {
    m_range = {from, std::max(to, from + shortest_range)};
    update();
}

QString TimeLanes::spoken() const {
    QStringList said = {tr("From %1 to %2.").arg(from_std(iso_time(m_range.from)), from_std(iso_time(m_range.to)))};
    for (const Lane& lane : m_lanes.lanes) {
        const Reading* reading = m_context.session().bench().reading(lane.reading);
        if (!reading) continue;
        if (lane.shape != LaneShape::curve) { // sums and states: least and most would say nothing
            said << tr("%1: its figures stand in the table below.").arg(from_std(reading->name));
            continue;
        }
        double least = no_number, most = no_number;
        for (const Summary& s : lane.parts) {
            if (!s.valued) continue;
            least = std::fmin(least, s.low);
            most = std::fmax(most, s.high);
        }
        const auto value = [&](double v) {
            return from_std(format_value(v, reading->quantity.accuracy, reading->quantity.unit));
        };
        said << (std::isfinite(least)
                     ? tr("%1: from %2 to %3.").arg(from_std(reading->name), value(least), value(most))
                     : tr("%1: no value in it.").arg(from_std(reading->name)));
    }
    return said.join(QLatin1Char(' '));
}

void TimeLanes::setLanes(const Lanes& lanes) {
    const bool more = lanes.lanes.size() != m_lanes.lanes.size();
    m_lanes = lanes;
    if (more) updateGeometry();
    update();
}

void TimeLanes::takeStretch(std::optional<Interval> stretch) {
    if (stretch && stretch->to <= stretch->from) stretch.reset();
    if (stretch == m_stretch) return;
    m_stretch = stretch;
    update();
    emit stretchChanged();
}

LanesPicture TimeLanes::picture() const {
    return {m_context.theme(), m_context.session().bench(), m_lanes, m_range, m_stretch, rect()};
}

void TimeLanes::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const LanesPicture drawn = picture();
    drawn.draw(painter);
    if (!hasFocus()) return;
    QPen frame = m_context.theme().pen(m_context.theme().colours().accent, 1);
    frame.setStyle(Qt::DotLine);
    painter.setPen(frame);
    painter.setBrush(Qt::NoBrush);
    painter.drawRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5));
    if (!m_cursor) return;
    const double x = std::round(drawn.xOf(*m_cursor));
    painter.setPen(m_context.theme().pen(m_context.theme().colours().accent, 1));
    painter.drawLine(QPointF(x, drawn.axisHeight()), QPointF(x, height()));
}

void TimeLanes::moveTo(TimeUs from, TimeUs to) {
    const TimeUs length =
        std::clamp(to - from, shortest_range, std::max(shortest_range, m_limits.to - m_limits.from));
    from = std::clamp(from, m_limits.from, std::max(m_limits.from, m_limits.to - length));
    const Interval next{from, from + length};
    if (next == m_range) return;
    m_range = next;
    update();
    emit rangeChanged();
}

void TimeLanes::zoom(double factor, TimeUs around) {
    const auto part = [factor](TimeUs span) { return static_cast<TimeUs>(factor * static_cast<double>(span)); };
    moveTo(around - part(around - m_range.from), around + part(m_range.to - around));
}

void TimeLanes::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton || event->position().x() < picture().labelWidth()) return;
    m_drag = event->modifiers() & Qt::ShiftModifier ? Drag::stretch : Drag::pan;
    m_drag_x = event->position().x();
    m_drag_range = m_range;
    m_anchor = picture().timeAt(m_drag_x);
    m_moved = false;
}

void TimeLanes::mouseMoveEvent(QMouseEvent* event) {
    const double x = event->position().x();
    const TimeUs at = picture().timeAt(x);
    if (m_drag == Drag::none) {
        if (x >= picture().labelWidth()) say(at);
        return;
    }
    m_moved = m_moved || std::abs(x - m_drag_x) > 3;
    if (!m_moved) return;
    if (m_drag == Drag::stretch) {
        takeStretch(Interval{std::min(m_anchor, at), std::max(m_anchor, at)});
        return;
    }
    const double per_px =
        static_cast<double>(m_drag_range.to - m_drag_range.from) / (width() - picture().labelWidth());
    const auto shift = static_cast<TimeUs>((m_drag_x - x) * per_px);
    moveTo(m_drag_range.from + shift, m_drag_range.to + shift);
}

void TimeLanes::mouseReleaseEvent(QMouseEvent* event) {
    const Drag drag = std::exchange(m_drag, Drag::none);
    if (drag == Drag::none || m_moved) return;
    // A click: on a mark it shows the entry, elsewhere it lets a stretch go.
    const double reach = m_context.theme().px(7);
    const double x = event->position().x();
    const double y = event->position().y();
    const LanesPicture drawn = picture();
    const LogEntry* nearest = nullptr;
    double distance = reach;
    if (y >= drawn.firstMarkLane())
        for (const LogEntry& e : m_lanes.entries)
            if (const double off = std::abs(drawn.xOf(e.time) - x); off <= distance) {
                distance = off;
                nearest = &e;
            }
    if (nearest)
        emit entryClicked(nearest->id);
    else if (const TimedSession* session = drawn.sessionAt(event->position()))
        takeStretch(Interval{session->from, session->end(m_context.session().now())});
    else
        takeStretch({});
}

void TimeLanes::wheelEvent(QWheelEvent* event) {
    const double steps = event->angleDelta().y() / 120.0;
    if (steps == 0) return event->ignore();
    zoom(std::pow(0.8, steps), picture().timeAt(event->position().x()));
    event->accept();
}

void TimeLanes::keyPressEvent(QKeyEvent* event) {
    const TimeUs length = m_range.to - m_range.from;
    const TimeUs step = std::max<TimeUs>(1, length / 60);
    const TimeUs at = std::clamp(m_cursor.value_or(m_range.from + length / 2), m_range.from, m_range.to);
    const bool shift = event->modifiers() & Qt::ShiftModifier;
    const bool control = event->modifiers() & Qt::ControlModifier;
    switch (event->key()) {
    case Qt::Key_Left:
    case Qt::Key_Right: {
        const TimeUs by = event->key() == Qt::Key_Left ? -step : step;
        if (control) return moveTo(m_range.from + 6 * by, m_range.to + 6 * by);
        if (shift && !m_stretch) m_anchor = at;
        m_cursor = std::clamp(at + by, m_limits.from, m_limits.to);
        if (*m_cursor < m_range.from || *m_cursor > m_range.to) moveTo(m_range.from + by, m_range.to + by);
        if (shift) takeStretch(Interval{std::min(m_anchor, *m_cursor), std::max(m_anchor, *m_cursor)});
        say(*m_cursor);
        return update();
    }
    case Qt::Key_Plus:
    case Qt::Key_Equal: return zoom(0.7, at);
    case Qt::Key_Minus: return zoom(1 / 0.7, at);
    case Qt::Key_Home: return moveTo(m_limits.from, m_limits.from + length);
    case Qt::Key_End: return moveTo(m_limits.to - length, m_limits.to);
    case Qt::Key_Escape:
        if (m_stretch) return takeStretch({});
        break;
    default: break;
    }
    QWidget::keyPressEvent(event);
}

/// What the lanes say at one moment, in words.
void TimeLanes::say(TimeUs at) {
    QStringList said;
    for (const Lane& lane : m_lanes.lanes) {
        const Reading* reading = m_context.session().bench().reading(lane.reading);
        if (!reading || lane.shape != LaneShape::curve) continue;
        const auto part = std::upper_bound(lane.parts.begin(), lane.parts.end(), at,
                                           [](TimeUs t, const Summary& s) { return t < s.from; });
        if (part == lane.parts.begin()) continue;
        const Summary& s = *std::prev(part);
        const bool silent = std::any_of(lane.silent.begin(), lane.silent.end(),
                                        [&](const Interval& i) { return at > i.from && at < i.to; });
        if (silent || !s.valued) continue;
        said << from_std(reading->name) + QLatin1Char(' ') +
                    from_std(format_value(s.mean(), reading->quantity.accuracy, reading->quantity.unit));
    }
    const QString when = time_text(at, m_range.to - m_range.from);
    emit cursorMoved(said.isEmpty() ? when : when + QStringLiteral(": ") + said.join(QStringLiteral(" · ")));
}

} // namespace cognitum
