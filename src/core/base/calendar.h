// Days, months and seasons of local time. What local clocks are ahead of UTC is passed in: it changes in summer.
#pragma once

#include "core/base/time.h"

#include <functional>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

/// What local clocks are ahead of UTC at a moment, µs. Empty function: nothing, UTC.
using ZoneOffset = std::function<TimeUs(TimeUs utc)>;

/// What a local clock shows, written as if it were UTC.
TimeUs to_local(TimeUs utc, const ZoneOffset& zone);
/// The moment at which a local clock shows that: the first where it shows it twice, the moment of the jump where it
/// never does.
TimeUs from_local(TimeUs local, const ZoneOffset& zone);

enum class Period { day, month, season, year };
/// "day", "month", "season", "year"; empty: none of them.
std::optional<Period> period_named(std::string_view word);

struct CalendarPeriod {
    TimeUs from = 0, to = 0; ///< UTC; the end is the start of the next
    std::string label;       ///< "2026-06-01", "2026-06", "2026 spring", "2026"
};

/// The whole periods that touch [from, to), in order; at most 100 000. Seasons are of three months: spring is March
/// to May (of the north), winter has the year in which it ends. Days begin at `day_start` of local time, and
/// months, seasons and years with their first day.
std::vector<CalendarPeriod> calendar_periods(Period period, TimeUs from, TimeUs to, const ZoneOffset& zone = {},
                                             TimeUs day_start = 0);

} // namespace cognitum
