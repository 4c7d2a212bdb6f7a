#include "ui/pages/overview/overview_sheet.h"

#include "ui/plots/reading_picture.h"
#include "ui/widgets/parts.h"

#include <QContextMenuEvent>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainterPath>
#include <QScrollArea>
#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

constexpr double head_px = 26, heading_px = 34, row_px = 84;
/// Where the columns begin, as shares of the width.
constexpr double name_at = 0.085, now_at = 0.275, day_at = 0.47, follows_at = 0.70;

} // namespace

OverviewSheet::OverviewSheet(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("overviewSheet"));
    setAccessibleName(tr("Log sheet: a row for each reading, what needs a look first"));
    setCursor(Qt::PointingHandCursor);
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void OverviewSheet::forget() {
    m_record = {};
    m_asked_minute = -1;
    m_chosen = -1;
}

void OverviewSheet::refresh() {
    askRecord();
    const int before = static_cast<int>(places().size());
    m_rows = overview_rows(
        m_context.session(), m_context.live(),
        [this](const std::string& id) -> const PathState& { return m_context.state(id); }, m_record);
    if (m_chosen >= static_cast<int>(m_rows.size())) m_chosen = -1;
    if (static_cast<int>(places().size()) != before) updateGeometry();
    QString spoken;
    for (const OverviewRow& row : m_rows)
        spoken += QStringLiteral("%1: %2 %3. %4. ")
                      .arg(row.name, row.number, row.doubt, row.needs_look ? row.why : row.state);
    setAccessibleDescription(spoken);
    update();
}

void OverviewSheet::setLarge(bool large) {
    m_large = large;
    updateGeometry();
    update();
}

/// Once a minute, and when the readings are others.
void OverviewSheet::askRecord() {
    Session& session = m_context.session();
    if (!session.isOpen()) return;
    std::vector<std::string> readings;
    for (const Reading& r : session.bench().readings)
        readings.push_back(r.id);
    const std::int64_t minute = session.now() / minute_us;
    if (minute == m_asked_minute && readings == m_asked) return;
    m_asked_minute = minute;
    m_asked = readings;
    m_question.ask(
        session.exports(), this,
        [bench = session.bench(), known = m_record, now = session.now()](BenchFile& file) {
            return overview_record(file, bench, known, now);
        },
        [this](const Result<OverviewRecord>& record) {
            if (!record) emit m_context.said(from_std(record.error().text()));
            m_record = record.value_or(OverviewRecord{});
            refresh();
        });
}

std::vector<OverviewSheet::Place> OverviewSheet::places() const {
    const Theme& theme = m_context.theme();
    std::vector<Place> out;
    double y = theme.px(head_px);
    bool first = true;
    QString heading;
    bool any_look = false;
    for (std::size_t i = 0; i < m_rows.size(); ++i) {
        const OverviewRow& row = m_rows[i];
        any_look = any_look || row.needs_look;
        const QString wanted = row.needs_look         ? tr("Needs a look")
                               : !row.group.isEmpty() ? row.group
                               : any_look             ? tr("All right")
                                                      : QString();
        if ((first || wanted != heading) && !wanted.isEmpty()) {
            out.push_back({y, static_cast<double>(theme.px(heading_px)), -1, wanted});
            y += theme.px(heading_px);
        }
        heading = wanted;
        first = false;
        const double height = theme.px(row_px * zoom());
        out.push_back({y, height, static_cast<int>(i), {}});
        y += height;
    }
    return out;
}

QSize OverviewSheet::sizeHint() const {
    const auto all = places();
    const double height = all.empty() ? m_context.theme().px(head_px) : all.back().top + all.back().height;
    return {m_context.theme().px(700), static_cast<int>(std::ceil(height))};
}

void OverviewSheet::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintSheet(p, width());
}

void OverviewSheet::paintSheet(QPainter& p, double w) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    p.setFont(theme.text(12));
    p.setPen(t.soft);
    for (const auto& [at, text] : {std::pair{name_at, tr("Reading")}, std::pair{now_at, tr("Now")},
                                   std::pair{day_at, tr("The last day, and its band")},
                                   std::pair{follows_at, tr("What follows, and how it is proven")}})
        p.drawText(QPointF(at * w, theme.px(14)), text);
    p.fillRect(QRectF(0, theme.px(head_px - 2), w, 1), t.ink);
    for (const Place& place : places()) {
        const QRectF box(0, place.top, w, place.height);
        if (place.row < 0) {
            p.setFont(theme.text(13, true));
            p.setPen(place.heading == tr("Needs a look") ? t.look : t.soft);
            p.drawText(box.adjusted(0, theme.px(8), 0, 0), Qt::AlignLeft | Qt::AlignVCenter, place.heading);
            continue;
        }
        if (place.row == m_chosen && hasFocus()) p.fillRect(box, t.selected);
        paintRow(p, m_rows[static_cast<std::size_t>(place.row)], box);
        p.fillRect(QRectF(0, box.bottom() - 1, w, 1), t.rule);
    }
}

const DayFigures* OverviewSheet::day(const std::string& reading) const {
    const auto known = m_record.days.find(reading);
    return known == m_record.days.end() ? nullptr : &known->second;
}

/// Of a pulse: the last seconds of its signal.
std::vector<double> OverviewSheet::wave(const Reading& reading) const {
    const auto live = m_context.live().readings.find(reading.id);
    std::vector<double> out;
    if (live == m_context.live().readings.end()) return out;
    constexpr TimeUs shown = 5 * second_us;
    for (const RawSample& s : live->second.signal)
        if (std::isfinite(s.code) && live->second.signal.back().time - s.time <= shown) out.push_back(s.code);
    return out;
}

void OverviewSheet::paintRow(QPainter& p, const OverviewRow& row, const QRectF& box) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    const Reading* r = m_context.session().bench().reading(row.readings.front());
    if (!r) return;
    const double w = box.width();
    const double middle = box.center().y();
    const double picture_height = theme.px(46 * zoom());
    paint_reading(p, theme,
                  QRectF(0, middle - picture_height / 2, std::min(w * 0.07, picture_height * 1.5), picture_height),
                  {r, row.values, day(r->id), wave(*r)});
    paint_mark(p, theme, QPointF(w * name_at + theme.px(4), middle), theme.px(10), row.mark);
    p.setPen(t.ink);
    p.setFont(theme.text(13 * zoom(), true));
    p.drawText(QRectF(w * name_at + theme.px(16), box.top(), w * (now_at - name_at) - theme.px(24), box.height()),
               Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, row.name);

    // The number, as large as it fits beside its doubt.
    const double room = w * (day_at - now_at) - theme.px(12);
    const bool is_word = row.doubt.isEmpty() && row.number != QStringLiteral("—");
    double size = m_large ? 40 : is_word ? 17 : 24;
    const auto advance = [&](const QFont& font, const QString& text) {
        return QFontMetricsF(font).horizontalAdvance(text);
    };
    const QFont small = theme.mono(12 * (m_large ? 1.3 : 1));
    while (size > 12 && advance(theme.mono(size), row.number) + advance(small, row.doubt) + theme.px(6) > room)
        size -= 1;
    p.setFont(theme.mono(size));
    const double base = middle + theme.px(4 * zoom());
    p.drawText(QPointF(w * now_at, base), row.number);
    const double number_width = p.fontMetrics().horizontalAdvance(row.number);
    p.setFont(small);
    p.setPen(t.soft);
    p.drawText(QPointF(w * now_at + number_width + theme.px(6), base), row.doubt);
    p.setFont(theme.text(11 * (m_large ? 1.2 : 1)));
    const QString beside =
        row.values.size() == 1 ? m_context.beside(*r, row.values.front(), row.expanded) : QString();
    const QString below = beside.isEmpty() ? row.state : beside + QStringLiteral(" · ") + row.state;
    p.drawText(QRectF(w * now_at, base + theme.px(5), room, theme.px(20 * zoom())), Qt::AlignLeft | Qt::AlignTop,
               p.fontMetrics().elidedText(below, Qt::ElideRight, static_cast<int>(room)));

    paintDay(p, box.adjusted(w * day_at, theme.px(16), -(w * (1 - follows_at)) - theme.px(18), -theme.px(18)), *r);

    const double text_left = w * follows_at;
    const double text_width = w - text_left;
    const QFont text = theme.text(12 * (m_large ? 1.15 : 1));
    const QString upper = row.needs_look ? row.why : row.follows;
    const QFontMetricsF metrics(text);
    // Two lines at the most, the proof below.
    const QRectF wanted = metrics.boundingRect(QRectF(0, 0, text_width, 1e4), Qt::TextWordWrap, upper);
    const double upper_height = std::min(wanted.height(), 2.1 * metrics.height());
    const double whole = upper_height + metrics.height() + theme.px(2);
    p.setFont(text);
    p.setPen(row.needs_look ? t.look : t.ink);
    p.drawText(QRectF(text_left, middle - whole / 2, text_width, upper_height), Qt::TextWordWrap, upper);
    p.setPen(t.soft);
    p.drawText(QPointF(text_left, middle - whole / 2 + upper_height + theme.px(2) + metrics.ascent()),
               metrics.elidedText(row.proven, Qt::ElideRight, text_width));
}

void OverviewSheet::paintDay(QPainter& p, const QRectF& box, const Reading& r) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    const DayFigures* day_figures = day(r.id);
    if (!day_figures || !day_figures->any) {
        p.setPen(theme.pen(t.rule));
        p.drawLine(QPointF(box.left(), box.center().y()), QPointF(box.right(), box.center().y()));
        return;
    }
    const DayFigures& d = *day_figures;
    if (r.quantity.about().is_total) return paint_reading(p, theme, box, {&r, {0}, &d, {}});
    const double low = std::min(d.low, r.bands ? r.bands->low : d.low);
    const double high = std::max(d.high, r.bands ? r.bands->high : d.high);
    // What moves by less than its accuracy is a quiet line, not a storm.
    const double air = std::max({(high - low) * 0.08, (r.quantity.accuracy - (high - low)) / 2, 1e-9});
    const TimeUs now = m_context.session().now();
    const auto y = [&](double v) { return box.bottom() - (v - low + air) / (high - low + 2 * air) * box.height(); };
    const auto x = [&](TimeUs time) {
        return box.right() - static_cast<double>(now - time) / static_cast<double>(day_us) * box.width();
    };
    if (r.bands)
        p.fillRect(QRectF(box.left(), y(r.bands->high), box.width(), y(r.bands->low) - y(r.bands->high)), t.tint);
    QPainterPath path;
    TimeUs last = 0;
    for (const Summary& s : d.parts) {
        if (!s.valued) {
            last = 0;
            continue;
        }
        const QPointF at(x(s.from), y(s.mean()));
        if (last == 0 || s.from - last > 20 * minute_us)
            path.moveTo(at);
        else
            path.lineTo(at);
        last = s.to;
    }
    p.setPen(theme.pen(t.ink, 1.3));
    p.setBrush(Qt::NoBrush);
    p.drawPath(path);
    const Summary& end = d.parts.back();
    if (!end.valued || now - end.to > 10 * minute_us) return;
    p.setPen(Qt::NoPen);
    p.setBrush(t.accent);
    p.drawEllipse(QPointF(x(end.to), y(end.mean())), theme.px(3), theme.px(3));
}

void OverviewSheet::print(QPainter& p, const QRectF& page) {
    const QSizeF whole = sizeHint();
    const double w = std::max<double>(width(), m_context.theme().px(960));
    const double scale = std::min(page.width() / w, page.height() / whole.height());
    p.save();
    p.translate(page.topLeft());
    p.scale(scale, scale);
    p.setRenderHint(QPainter::Antialiasing);
    paintSheet(p, w);
    p.restore();
}

std::string OverviewSheet::readingAt(const QPointF& at) const {
    for (const Place& place : places()) {
        if (place.row < 0 || at.y() < place.top || at.y() >= place.top + place.height) continue;
        const OverviewRow& row = m_rows[static_cast<std::size_t>(place.row)];
        // Of beds beside each other the one under the pointer, where it is in their picture.
        const double picture = std::min(width() * 0.07, m_context.theme().px(46 * zoom()) * 1.5);
        const auto n = static_cast<double>(row.readings.size());
        const auto i = static_cast<std::size_t>(std::clamp(at.x() / picture * n, 0.0, n - 1));
        return row.readings[at.x() < picture ? i : 0];
    }
    return {};
}

void OverviewSheet::mousePressEvent(QMouseEvent* event) {
    if (event->button() != Qt::LeftButton) return;
    if (const std::string id = readingAt(event->position()); !id.empty()) emit opened(from_std(id));
}

void OverviewSheet::choose(int row) {
    m_chosen = std::clamp(row, 0, std::max(0, static_cast<int>(m_rows.size()) - 1));
    for (const Place& place : places())
        if (place.row == m_chosen)
            for (QWidget* up = parentWidget(); up; up = up->parentWidget())
                if (auto* area = qobject_cast<QScrollArea*>(up)) {
                    const int y =
                        mapTo(area->widget(), QPoint(0, static_cast<int>(place.top + place.height / 2))).y();
                    area->ensureVisible(0, y, 0, static_cast<int>(place.height));
                    break;
                }
    update();
}

void OverviewSheet::keyPressEvent(QKeyEvent* event) {
    switch (event->key()) {
    case Qt::Key_Down: return choose(m_chosen + 1);
    case Qt::Key_Up: return choose(m_chosen - 1);
    case Qt::Key_Return:
    case Qt::Key_Enter:
        if (m_chosen >= 0) emit opened(from_std(m_rows[static_cast<std::size_t>(m_chosen)].readings.front()));
        return;
    default: QWidget::keyPressEvent(event);
    }
}

void OverviewSheet::contextMenuEvent(QContextMenuEvent* event) {
    std::string id = readingAt(event->pos());
    if (event->reason() == QContextMenuEvent::Keyboard)
        id = m_chosen >= 0 ? m_rows[static_cast<std::size_t>(m_chosen)].readings.front() : std::string();
    if (!id.empty()) emit menuWanted(from_std(id), event->globalPos());
}

} // namespace cognitum
