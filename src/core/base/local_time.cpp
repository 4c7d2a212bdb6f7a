#include "core/base/local_time.h"

#include "core/base/phrase.h"

#include <array>
#include <charconv>
#include <cmath>
#include <fmt/format.h>
#include <string>

namespace cognitum {

namespace {

/// A date in three numbers, as it stands.
struct ThreeNumbers {
    std::array<int, 3> number{};
    std::array<std::size_t, 3> digits{};
    std::string_view rest; ///< behind the date
};

std::optional<ThreeNumbers> three_numbers(std::string_view text) {
    ThreeNumbers out;
    char separator = 0;
    for (std::size_t i = 0; i < 3; ++i) {
        while (!text.empty() && text.front() >= '0' && text.front() <= '9' && out.digits[i] < 4) {
            out.number[i] = out.number[i] * 10 + (text.front() - '0');
            ++out.digits[i];
            text.remove_prefix(1);
        }
        if (out.digits[i] == 0) return {};
        if (i == 2) break;
        if (text.empty() || (text.front() != '.' && text.front() != '/' && text.front() != '-')) return {};
        if (separator != 0 && text.front() != separator) return {};
        separator = text.front();
        text.remove_prefix(1);
    }
    out.rest = text;
    return out;
}

std::string_view without_blanks(std::string_view text) {
    while (!text.empty() && text.front() == ' ')
        text.remove_prefix(1);
    while (!text.empty() && text.back() == ' ')
        text.remove_suffix(1);
    return text;
}

/// True when the time of day ends with Z or ±hh:mm.
bool has_zone(std::string_view time_of_day) {
    return time_of_day.find_first_of("Zz+-") != std::string_view::npos;
}

/// "2:05 pm" as "14:05"; empty: there is no such hour. Other times as they are.
std::optional<std::string> in_24_hours(std::string_view time) {
    std::string out(time);
    if (out.size() < 3) return out;
    const char m = out.back(), half = out[out.size() - 2];
    if ((m != 'm' && m != 'M') || std::string_view("aApP").find(half) == std::string_view::npos) return out;
    out = std::string(without_blanks(std::string_view(out).substr(0, out.size() - 2)));
    const std::size_t colon = out.find(':');
    if (colon == 0 || colon == std::string::npos || colon > 2) return {};
    int hour = 0;
    for (std::size_t i = 0; i < colon; ++i) {
        if (out[i] < '0' || out[i] > '9') return {};
        hour = hour * 10 + (out[i] - '0');
    }
    if (hour < 1 || hour > 12) return {};
    hour = hour % 12 + (half == 'p' || half == 'P' ? 12 : 0);
    return fmt::format("{:02}{}", hour, out.substr(colon));
}

/// ISO 8601 of a date in the order; empty: it is none.
std::optional<std::string> as_iso(std::string_view text, DateOrder order) {
    const auto parts = three_numbers(text);
    if (!parts) return {};
    const bool year_leads = parts->digits[0] == 4;
    if (!year_leads && parts->digits[2] != 4) return {}; // a year of two digits could be anything
    const auto& n = parts->number;
    const int year = year_leads ? n[0] : n[2];
    const int month = year_leads || order == DateOrder::day_first ? n[1] : n[0];
    const int day = year_leads ? n[2] : order == DateOrder::day_first ? n[0] : n[1];
    if (!year_leads && order == DateOrder::year_first) return {};
    std::string out = fmt::format("{:04}-{:02}-{:02}", year, month, day);
    std::string_view rest = parts->rest;
    if (rest.empty()) return out;
    if (rest.front() != ' ' && rest.front() != 'T' && rest.front() != ',') return {};
    rest = without_blanks(rest.substr(1));
    const auto time = in_24_hours(rest);
    if (!time) return {};
    if (time->empty()) return out;
    const bool short_hour = time->size() > 1 && (*time)[1] == ':';
    return out + "T" + (short_hour ? "0" : "") + *time;
}

/// Milliseconds or microseconds since 1970, as many programs count: what would be no year below 10 000 as seconds,
/// and a moment of this century so.
std::optional<TimeUs> in_smaller_steps(std::string_view text) {
    double count = 0;
    const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), count);
    if (code != std::errc{} || end != text.data() + text.size()) return {};
    constexpr double first = 946684800, last = 4102444800; // 2000 and 2100
    for (const double per_second : {1e3, 1e6})
        if (count >= first * per_second && count < last * per_second)
            return static_cast<TimeUs>(std::llround(count * (1e6 / per_second)));
    return {};
}

} // namespace

std::optional<DateOrder> date_order_named(std::string_view word) {
    if (word == "ymd") return DateOrder::year_first;
    if (word == "dmy") return DateOrder::day_first;
    if (word == "mdy") return DateOrder::month_first;
    return {};
}

void DateOrderJudge::take(std::string_view time) {
    time = without_blanks(time);
    const auto parts = three_numbers(time);
    if (!parts) { // seconds since 1970, or no time
        m_seen = m_seen || parse_time(time).has_value();
        return;
    }
    m_seen = true;
    m_local = m_local || !has_zone(parts->rest);
    if (parts->digits[0] == 4) return;
    m_year_last = true;
    m_day_first = m_day_first || parts->number[0] > 12;
    m_month_first = m_month_first || parts->number[1] > 12;
}

std::optional<DateOrder> DateOrderJudge::order() const {
    if (!m_year_last) return DateOrder::year_first;
    if (m_day_first != m_month_first) return m_day_first ? DateOrder::day_first : DateOrder::month_first;
    return {};
}

std::optional<TimeUs> TimeReader::placed(TimeUs local) {
    const TimeUs first = from_local(local, m_zone);
    if (to_local(first, m_zone) != local) {
        m_reason = phrase("a time that the clock skipped when summer time began");
        return {};
    }
    TimeUs t = first;
    if (m_last && first < *m_last) {
        // The same local time again, with the offset that holds after the change of clocks.
        const TimeUs later = local - m_zone(first + 3 * hour_us);
        if (later > first && to_local(later, m_zone) == local && later >= *m_last) t = later;
    }
    m_last = t;
    return t;
}

std::optional<TimeUs> TimeReader::read(std::string_view text) {
    m_reason = phrase("a time that cannot be read");
    text = without_blanks(text);
    if (text.empty()) {
        m_reason = phrase("no time");
        return {};
    }
    const bool is_date = text.find_first_of("./-", 1) != std::string_view::npos && text.size() >= 8;
    const bool plain = m_order == DateOrder::year_first && !m_zone;
    if (plain || !is_date)
        if (const auto t = parse_time(text)) return t;
    const auto parts = three_numbers(text);
    if (!parts) { // 1780304400.250: seconds
        const auto t = parse_time(text);
        return t ? t : in_smaller_steps(text);
    }
    const auto iso = as_iso(text, m_order);
    if (!iso) return {};
    const auto t = parse_time(*iso);
    if (!t) return {};
    return m_zone && !has_zone(parts->rest) ? placed(*t) : t;
}

} // namespace cognitum
