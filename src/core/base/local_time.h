// Times as loggers and spreadsheets write them: dates in the usual orders, on a local clock whose summer time skips
// an hour and shows another twice.
#pragma once

#include "core/base/calendar.h"

#include <optional>
#include <string_view>

namespace cognitum {

enum class DateOrder {
    year_first, ///< 2026-06-01, 2026/6/1
    day_first,  ///< 1.6.2026, 01/06/2026
    month_first ///< 06/01/2026
};
/// "ymd", "dmy", "mdy"; empty: none of them.
std::optional<DateOrder> date_order_named(std::string_view word);

/// The order in which times are written, found from many of them.
class DateOrderJudge {
  public:
    void take(std::string_view time);
    /// Empty: the dates can be read as day first and as month first.
    [[nodiscard]] std::optional<DateOrder> order() const;
    /// Some had no zone: they are of whatever clock the file was written by.
    [[nodiscard]] bool local() const { return m_local; }
    /// Anything was a time.
    [[nodiscard]] bool seen() const { return m_seen; }

  private:
    bool m_seen = false, m_year_last = false, m_day_first = false, m_month_first = false, m_local = false;
};

class TimeReader {
  public:
    /// `zone` is that of times without one; empty: UTC.
    explicit TimeReader(DateOrder order = DateOrder::year_first, ZoneOffset zone = {})
        : m_order(order), m_zone(std::move(zone)) {}
    /// What parse_time() reads, milliseconds and microseconds since 1970 of the years 2000 to 2100, and dates in
    /// the order, with hours from 0 to 23 or am and pm. Of a time that the clock shows twice the first is meant, or
    /// the second where the first would lie before the time that was read last. Empty, and a reason: it is no time.
    std::optional<TimeUs> read(std::string_view text);
    [[nodiscard]] const char* reason() const { return m_reason; }

  private:
    std::optional<TimeUs> placed(TimeUs local);
    DateOrder m_order;
    ZoneOffset m_zone;
    std::optional<TimeUs> m_last;
    const char* m_reason = "";
};

} // namespace cognitum
