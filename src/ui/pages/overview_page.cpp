#include "ui/pages/overview_page.h"

#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <QDateTime>
#include <QLocale>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

namespace cognitum {

OverviewPage::OverviewPage(Context& context, QWidget* parent) : Page(context, tr("The station now"), parent) {
    m_sheet = new OverviewSheet(context);
    m_sheet->setObjectName(QStringLiteral("overviewSheet"));
    body()->addWidget(m_sheet);
    body()->addStretch(1);
}

void OverviewPage::readingChanged() {
    m_sheet->reload(true);
}

void OverviewPage::refresh() {
    int to_look = 0;
    for (const Reading& r : context().session().bench().readings) {
        const PathState& state = context().state(r.id);
        const auto asks = [](Mark mark) { return mark == Mark::look || mark == Mark::bad; };
        to_look += asks(state.mark) || std::any_of(state.stops.begin(), state.stops.end(),
                                                   [&](const StopState& stop) { return asks(stop.mark); });
    }
    const QDateTime now = QDateTime::fromMSecsSinceEpoch(context().session().now() / 1000);
    const QString looks = to_look == 0   ? tr("nothing to look at")
                          : to_look == 1 ? tr("one thing to look at")
                                         : tr("%1 things to look at").arg(to_look);
    setNote(
        tr("%1 · %2 · the last 24 hours").arg(QLocale().toString(now, QStringLiteral("ddd d MMM, HH:mm")), looks));
    setTitle(tr("%1 now").arg(from_std(context().session().bench().name)));
    m_sheet->reload(false);
    m_sheet->update();
}

OverviewSheet::OverviewSheet(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setAccessibleName(tr("Log sheet: a row for each reading"));
    setCursor(Qt::PointingHandCursor);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

int OverviewSheet::rowHeight() const {
    return m_context.theme().px(88);
}

QSize OverviewSheet::sizeHint() const {
    return {m_context.theme().px(700),
            m_context.theme().px(28) + rowHeight() * static_cast<int>(m_context.session().bench().readings.size())};
}

void OverviewSheet::reload(bool force) {
    Session& session = m_context.session();
    const TimeUs now = session.now();
    std::vector<std::string> readings;
    for (const Reading& r : session.bench().readings)
        readings.push_back(r.id);
    if (!session.isOpen() || (!force && now / minute_us == m_loaded_minute && readings == m_loaded)) return;
    m_loaded_minute = now / minute_us;
    m_loaded = readings;
    m_question.ask(
        session.archive(), this, [readings, now](BenchFile& file) { return recorded_days(file, readings, now); },
        [this](const Result<std::map<std::string, DayFigures>>& days) {
            if (!days) emit m_context.said(from_std(days.error().text()));
            m_days = days.value_or(std::map<std::string, DayFigures>{});
            update();
        });
    updateGeometry();
}

void OverviewSheet::paintEvent(QPaintEvent*) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(theme.text(12));
    p.setPen(t.soft);
    const double w = width();
    for (const auto& [at, text] :
         {std::pair{0.085, tr("Reading")}, std::pair{0.29, tr("Now")},
          std::pair{0.47, tr("The last day, and its band")}, std::pair{0.74, tr("Proven")}})
        p.drawText(QPointF(at * w, theme.px(14)), text);
    p.fillRect(QRectF(0, theme.px(24), w, 1), t.ink);
    int row = 0;
    for (const Reading& r : m_context.session().bench().readings)
        paintRow(p, r, row++);
}

void OverviewSheet::paintRow(QPainter& p, const Reading& r, int row) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    const double w = width();
    const double top = theme.px(26) + row * rowHeight();
    const double middle = top + rowHeight() / 2.0;
    const PathState& state = m_context.state(r.id);
    const auto known = m_days.find(r.id);
    const bool asked = known == m_days.end(); // and not answered yet
    static const DayFigures none;
    const DayFigures& day = asked ? none : known->second;
    p.fillRect(QRectF(0, top + rowHeight() - 1, w, 1), t.rule);
    paintThermometer(p, QRectF(0, middle - theme.px(10), w * 0.07, theme.px(20)), r, state);
    paint_mark(p, theme, QPointF(w * 0.085 + theme.px(4), middle), theme.px(10), state.mark);
    p.setPen(t.ink);
    p.setFont(theme.text(13, true));
    const QRectF name(w * 0.085 + theme.px(16), top, w * 0.19, rowHeight());
    p.drawText(name, Qt::AlignLeft | Qt::AlignVCenter | Qt::TextWordWrap, from_std(r.name));

    const auto live = m_context.live().readings.find(r.id);
    const bool has_value = live != m_context.live().readings.end() && live->second.value.ok() && state.reaches == 6;
    p.setFont(theme.mono(24));
    const double doubt =
        has_value ? m_context.session().views().budget(r, live->second.raw, m_context.live()).expanded() : 0;
    const QString number =
        has_value ? from_std(format_fixed(live->second.value.number, decimals_for(doubt))) : QStringLiteral("—");
    p.drawText(QPointF(w * 0.29, middle + theme.px(8)), number);
    const double number_width = p.fontMetrics().horizontalAdvance(number);
    p.setFont(theme.mono(12));
    p.setPen(t.soft);
    p.drawText(QPointF(w * 0.29 + number_width + theme.px(6), middle + theme.px(8)),
               has_value ? from_std("± " + format_value(doubt, doubt, r.quantity.unit)) : QString());
    p.setFont(theme.text(11));
    p.drawText(QPointF(w * 0.29, middle + theme.px(26)),
               state.age.isEmpty() ? state.word : QStringLiteral("%1 · %2").arg(state.word, state.age));

    paintDay(p, QRectF(w * 0.47, top + theme.px(18), w * 0.25, rowHeight() - theme.px(36)), r, day);
    p.setPen(t.ink);
    p.setFont(theme.text(12));
    const auto clock = [](TimeUs time) {
        return QDateTime::fromMSecsSinceEpoch(time / 1000).toString(QStringLiteral("HH:mm"));
    };
    double came = 0;
    for (const Growth& hour : day.hours)
        came += hour.amount;
    const QString extremes =
        day.any && r.quantity.about().is_total
            ? tr("%1 in the last 24 hours").arg(from_std(format_value(came, 0.3, r.quantity.unit)))
        : day.any
            ? tr("%1 at %2, %3 at %4")
                  .arg(from_std(format_value(day.low, r.quantity.accuracy, "1")), clock(day.low_at),
                       from_std(format_value(day.high, r.quantity.accuracy, r.quantity.unit)), clock(day.high_at))
        : asked                ? QString()
        : !day.trouble.empty() ? tr("what was recorded cannot be read")
                               : tr("nothing recorded yet");
    p.drawText(QPointF(w * 0.74, middle - theme.px(4)), extremes);
    p.setPen(t.soft);
    const QString proven =
        r.correction
            ? tr("calibrated %1 · %2")
                  .arg(QDateTime::fromMSecsSinceEpoch(r.correction->time / 1000).toString(QStringLiteral("d MMM")),
                       from_std(r.correction->verdict).replace(QLatin1Char('-'), QLatin1Char(' ')))
        : r.path.stages.empty() ? tr("as the board gives it")
                                : tr("calibrated never");
    p.drawText(QPointF(w * 0.74, middle + theme.px(14)), proven);
}

void OverviewSheet::paintThermometer(QPainter& p, const QRectF& box, const Reading& r, const PathState& state) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    const QRectF tube = box.adjusted(theme.px(6), theme.px(3), -theme.px(6), -theme.px(3));
    const double radius = tube.height() / 2;
    QPen outline = theme.pen(t.ink, 1.6);
    if (state.reaches < 6) outline.setStyle(Qt::DashLine);
    const auto live = m_context.live().readings.find(r.id);
    if (state.reaches == 6 && live != m_context.live().readings.end() && live->second.value.ok()) {
        const double share = std::clamp(
            (live->second.value.number - r.quantity.low) / (r.quantity.high - r.quantity.low), 0.05, 1.0);
        QPainterPath clip;
        clip.addRoundedRect(tube.adjusted(3, 3, -3, -3), radius - 3, radius - 3);
        p.save();
        p.setClipPath(clip);
        QColor fill = t.accent;
        fill.setAlphaF(0.6F);
        p.fillRect(QRectF(tube.left(), tube.top(), tube.width() * share, tube.height()), fill);
        p.restore();
    }
    p.setPen(outline);
    p.setBrush(Qt::NoBrush);
    p.drawRoundedRect(tube, radius, radius);
    if (!r.bands) return;
    p.setPen(theme.pen(t.soft, 1.4));
    for (const double limit : {r.bands->low, r.bands->high}) {
        const double x =
            tube.left() +
            tube.width() * std::clamp((limit - r.quantity.low) / (r.quantity.high - r.quantity.low), 0.0, 1.0);
        p.drawLine(QPointF(x, tube.bottom() + 3), QPointF(x, tube.bottom() + 8));
    }
}

void OverviewSheet::paintDay(QPainter& p, const QRectF& box, const Reading& r, const DayFigures& day) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    if (!day.any) {
        p.setPen(theme.pen(t.rule));
        p.drawLine(QPointF(box.left(), box.center().y()), QPointF(box.right(), box.center().y()));
        return;
    }
    if (r.quantity.about().is_total) return paintHours(p, box, day);
    const double low = std::min(day.low, r.bands ? r.bands->low : day.low);
    const double high = std::max(day.high, r.bands ? r.bands->high : day.high);
    const double air = std::max((high - low) * 0.08, 0.01);
    const TimeUs now = m_context.session().now();
    const auto y = [&](double v) { return box.bottom() - (v - low + air) / (high - low + 2 * air) * box.height(); };
    const auto x = [&](TimeUs time) {
        return box.right() - static_cast<double>(now - time) / static_cast<double>(day_us) * box.width();
    };
    if (r.bands)
        p.fillRect(QRectF(box.left(), y(r.bands->high), box.width(), y(r.bands->low) - y(r.bands->high)), t.tint);
    QPainterPath path;
    TimeUs last = 0;
    for (const Summary& s : day.parts) {
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
    const Summary& end = day.parts.back();
    if (!end.valued || now - end.to > 10 * minute_us) return;
    p.setPen(Qt::NoPen);
    p.setBrush(t.accent);
    p.drawEllipse(QPointF(x(end.to), y(end.mean())), theme.px(3), theme.px(3));
}

/// What came in each hour, as columns; the highest fills the box, but a single tip does not.
void OverviewSheet::paintHours(QPainter& p, const QRectF& box, const DayFigures& day) {
    const Theme& theme = m_context.theme();
    const TimeUs now = m_context.session().now();
    double most = 1;
    for (const Growth& hour : day.hours)
        most = std::max(most, hour.amount);
    p.setPen(theme.pen(theme.colours().soft));
    p.drawLine(box.bottomLeft(), box.bottomRight());
    const double width = box.width() / 24;
    for (const Growth& hour : day.hours) {
        const double right =
            box.right() - static_cast<double>(now - hour.to) / static_cast<double>(day_us) * box.width();
        const double left = std::max(box.left(), right - width + 1);
        const double end = std::min(right, box.right());
        const double height = hour.amount / most * box.height();
        if (end > left) p.fillRect(QRectF(left, box.bottom() - height, end - left, height), theme.colours().accent);
    }
}

void OverviewSheet::mousePressEvent(QMouseEvent* event) {
    const int row = static_cast<int>((event->position().y() - m_context.theme().px(26)) / rowHeight());
    const auto& readings = m_context.session().bench().readings;
    if (row < 0 || row >= static_cast<int>(readings.size())) return;
    m_context.selectReading(readings[static_cast<std::size_t>(row)].id);
    emit m_context.stopRequested(6);
}

} // namespace cognitum
