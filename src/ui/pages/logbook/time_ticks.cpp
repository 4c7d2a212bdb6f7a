#include "ui/pages/logbook/time_ticks.h"

#include "session/language.h"

#include <QCoreApplication>
#include <QDateTime>
#include <algorithm>

namespace cognitum {

namespace {

/// A step of the axis: seconds below a day, days below a month, else months.
struct TickStep {
    int seconds = 0, days = 0, months = 0;
    [[nodiscard]] double length_s() const { return seconds + 86400.0 * days + 30.44 * 86400 * months; }
};

constexpr TickStep tick_steps[] = {{60, 0, 0},    {300, 0, 0},   {900, 0, 0},   {1800, 0, 0}, {3600, 0, 0},
                                   {10800, 0, 0}, {21600, 0, 0}, {43200, 0, 0}, {0, 1, 0},    {0, 2, 0},
                                   {0, 7, 0},     {0, 14, 0},    {0, 0, 1},     {0, 0, 3},    {0, 0, 12},
                                   {0, 0, 60},    {0, 0, 120},   {0, 0, 600},   {0, 0, 1200}, {0, 0, 12000}};

QDateTime local_time(TimeUs t) {
    return QDateTime::fromMSecsSinceEpoch(t / 1000);
}

/// The last mark at or before `t`.
QDateTime tick_before(const QDateTime& t, const TickStep& step) {
    if (step.seconds > 0) {
        const int in_day = t.time().msecsSinceStartOfDay() / 1000;
        return {t.date(), QTime(0, 0).addSecs(in_day / step.seconds * step.seconds)};
    }
    if (step.days > 0) // from the first of a month, so that the same days carry marks in each
        return {QDate(t.date().year(), t.date().month(), (t.date().day() - 1) / step.days * step.days + 1),
                QTime(0, 0)};
    const int month = t.date().year() * 12 + t.date().month() - 1;
    const int first = month / step.months * step.months;
    return {QDate(std::max(1, first / 12), first % 12 + 1, 1), QTime(0, 0)};
}

QDateTime next_tick(const QDateTime& t, const TickStep& step) {
    if (step.seconds > 0) return t.addSecs(step.seconds);
    if (step.months > 0) return {t.date().addMonths(step.months), QTime(0, 0)};
    const QDate next = t.date().addDays(step.days);
    const QDate month_end = QDate(t.date().year(), t.date().month(), 1).addMonths(1);
    // A mark just before a new month would stand in the way of the month's own.
    return {next.addDays(step.days / 2) >= month_end ? month_end : next, QTime(0, 0)};
}

QString tick_label(const QDateTime& t, const TickStep& step, bool is_first) {
    if (step.months >= 12) return date_said(t, "yyyy");
    if (step.months > 0) return date_said(t, is_first || t.date().month() == 1 ? "MMM yyyy" : "MMM");
    if (step.days > 0) return date_said(t, is_first || t.date().day() == 1 ? "d MMM" : "d");
    if (t.time() == QTime(0, 0)) return date_said(t, "d MMM");
    return date_said(t, is_first ? "d MMM HH:mm" : "HH:mm");
}

} // namespace

std::vector<TimeTick> time_ticks(TimeUs from, TimeUs to, int most) {
    std::vector<TimeTick> out;
    if (to <= from || most < 1) return out;
    const double wanted = seconds(to - from) / most;
    const auto* step = std::find_if(std::begin(tick_steps), std::end(tick_steps),
                                    [&](const TickStep& s) { return s.length_s() >= wanted; });
    if (step == std::end(tick_steps)) --step;
    const QDateTime end = local_time(to);
    for (QDateTime t = tick_before(local_time(from), *step); t < end; t = next_tick(t, *step)) {
        const TimeUs at = t.toMSecsSinceEpoch() * 1000;
        if (at >= from) out.push_back({at, tick_label(t, *step, out.empty())});
        if (out.size() > 200) break;
    }
    return out;
}

QString time_text(TimeUs t, TimeUs length) {
    return date_said(local_time(t), length < 2 * hour_us    ? "d MMM HH:mm:ss"
                                    : length < 400 * day_us ? "d MMM HH:mm"
                                                            : "d MMM yyyy");
}

QString stretch_text(TimeUs from, TimeUs to) {
    const QDateTime a = local_time(from);
    const QDateTime b = local_time(to);
    if (to - from < 3 * day_us) {
        const char* end = a.date() == b.date() ? "HH:mm" : "d MMMM HH:mm";
        return QCoreApplication::translate("TimeTicks", "%1 to %2")
            .arg(date_said(a, "d MMMM HH:mm"), date_said(b, end));
    }
    const bool one_year = a.date().year() == b.date().year();
    return QCoreApplication::translate("TimeTicks", "%1 to %2")
        .arg(date_said(a, one_year ? "d MMMM" : "d MMMM yyyy"), date_said(b, "d MMMM yyyy"));
}

} // namespace cognitum
