#include "core/base/calendar.h"

#include "core/base/phrase.h"

#include <chrono>
#include <fmt/format.h>

namespace cognitum {

namespace {

using namespace std::chrono;

constexpr std::size_t most_periods = 100'000;

sys_days date_of(TimeUs local) {
    return floor<days>(sys_time<microseconds>{microseconds{local}});
}

TimeUs midnight(sys_days date) {
    return date.time_since_epoch().count() * day_us;
}

/// First day of the period that this day lies in.
sys_days first_day(Period period, sys_days date) {
    const year_month_day d{date};
    const auto m = static_cast<unsigned>(d.month());
    switch (period) {
    case Period::day: break;
    case Period::month: return sys_days{d.year() / d.month() / 1};
    case Period::season: // they begin in March, June, September and December
        return sys_days{(year_month{d.year(), d.month()} - months{m % 3}) / 1};
    case Period::year: return sys_days{d.year() / January / 1};
    }
    return date;
}

sys_days next_first_day(Period period, sys_days first) {
    const year_month_day d{first};
    const year_month month{d.year(), d.month()};
    switch (period) {
    case Period::day: break;
    case Period::month: return sys_days{(month + months{1}) / 1};
    case Period::season: return sys_days{(month + months{3}) / 1};
    case Period::year: return sys_days{(d.year() + years{1}) / January / 1};
    }
    return first + days{1};
}

std::string label_of(Period period, sys_days first) {
    const year_month_day d{first};
    const int y = static_cast<int>(d.year());
    const auto m = static_cast<unsigned>(d.month());
    static constexpr const char* seasons[] = {for_people("spring"), for_people("summer"), for_people("autumn"),
                                              for_people("winter")};
    switch (period) {
    case Period::day: break;
    case Period::month: return fmt::format("{:04}-{:02}", y, m);
    case Period::season: return fmt::format("{:04} {}", m == 12 ? y + 1 : y, phrase(seasons[m / 3 - 1]));
    case Period::year: return fmt::format("{:04}", y);
    }
    return fmt::format("{:04}-{:02}-{:02}", y, m, static_cast<unsigned>(d.day()));
}

} // namespace

std::optional<Period> period_named(std::string_view word) {
    if (word == "day") return Period::day;
    if (word == "month") return Period::month;
    if (word == "season") return Period::season;
    if (word == "year") return Period::year;
    return {};
}

TimeUs to_local(TimeUs utc, const ZoneOffset& zone) {
    return zone ? utc + zone(utc) : utc;
}

TimeUs from_local(TimeUs local, const ZoneOffset& zone) {
    if (!zone) return local;
    // The offsets of a day before and after are those between which a change lies.
    const TimeUs before = zone(local - day_us);
    const TimeUs after = zone(local + day_us);
    if (const TimeUs first = local - before; to_local(first, zone) == local) return first;
    if (const TimeUs second = local - after; to_local(second, zone) == local) return second;
    TimeUs low = local - before - day_us; // shows less
    TimeUs high = local - after + day_us; // shows more
    while (high - low > 1) {
        const TimeUs middle = low + (high - low) / 2;
        (to_local(middle, zone) < local ? low : high) = middle;
    }
    return high;
}

std::vector<CalendarPeriod> calendar_periods(Period period, TimeUs from, TimeUs to, const ZoneOffset& zone,
                                             TimeUs day_start) {
    std::vector<CalendarPeriod> out;
    const auto start_of = [&](sys_days first) { return from_local(midnight(first) + day_start, zone); };
    sys_days first = first_day(period, date_of(to_local(from, zone) - day_start));
    while (out.size() < most_periods) {
        const sys_days next = next_first_day(period, first);
        const CalendarPeriod one{start_of(first), start_of(next), label_of(period, first)};
        if (one.from >= to) break;
        if (one.to > from) out.push_back(one);
        first = next;
    }
    return out;
}

} // namespace cognitum
