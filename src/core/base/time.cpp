#include "core/base/time.h"

#include "core/base/phrase.h"

#include <charconv>
#include <chrono>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// Takes exactly `digits` decimal digits from the front of `text`.
std::optional<int> take_digits(std::string_view& text, std::size_t digits) {
    if (text.size() < digits) return {};
    int value = 0;
    for (std::size_t i = 0; i < digits; ++i) {
        if (text[i] < '0' || text[i] > '9') return {};
        value = value * 10 + (text[i] - '0');
    }
    text.remove_prefix(digits);
    return value;
}

bool take_char(std::string_view& text, std::string_view any_of) {
    if (text.empty() || any_of.find(text[0]) == std::string_view::npos) return false;
    text.remove_prefix(1);
    return true;
}

std::optional<TimeUs> take_fraction(std::string_view& text) {
    if (text.empty() || text[0] < '0' || text[0] > '9') return {};
    TimeUs value = 0;
    TimeUs weight = second_us / 10;
    while (!text.empty() && text[0] >= '0' && text[0] <= '9') {
        value += (text[0] - '0') * weight;
        weight /= 10;
        text.remove_prefix(1);
    }
    return value;
}

std::optional<TimeUs> take_zone(std::string_view& text) {
    if (text.empty() || take_char(text, "Zz")) return 0;
    const bool minus = text[0] == '-';
    if (!take_char(text, "+-")) return {};
    const auto hours = take_digits(text, 2);
    if (!hours) return {};
    take_char(text, ":");
    const auto minutes = text.empty() ? std::optional<int>(0) : take_digits(text, 2);
    if (!minutes || *hours > 14 || *minutes > 59) return {};
    const TimeUs offset = *hours * hour_us + *minutes * minute_us;
    return minus ? -offset : offset;
}

/// Two digits at `at`; negative when one of them is none.
int two_digits(std::string_view text, std::size_t at) {
    const unsigned tens = static_cast<unsigned char>(text[at]) - unsigned{'0'};
    const unsigned ones = static_cast<unsigned char>(text[at + 1]) - unsigned{'0'};
    return tens < 10 && ones < 10 ? static_cast<int>(10 * tens + ones) : -1;
}

/// The usual form, 2026-06-01T09:00:00 with a fraction and Z or without, read in one go; empty: look closer.
std::optional<TimeUs> parse_plain_iso(std::string_view text) {
    using namespace std::chrono;
    if (text.size() < 19 || text[7] != '-' || (text[10] != 'T' && text[10] != ' ') || text[13] != ':' ||
        text[16] != ':')
        return {};
    const int century = two_digits(text, 0), years = two_digits(text, 2), month_ = two_digits(text, 5),
              day_ = two_digits(text, 8), hh = two_digits(text, 11), mm = two_digits(text, 14),
              ss = two_digits(text, 17);
    if ((century | years | month_ | day_ | hh | mm | ss) < 0 || hh > 23 || mm > 59 || ss > 59) return {};
    const year_month_day date{year{100 * century + years}, month{static_cast<unsigned>(month_)},
                              day{static_cast<unsigned>(day_)}};
    if (!date.ok()) return {};
    TimeUs t = sys_days{date}.time_since_epoch().count() * day_us + hh * hour_us + mm * minute_us + ss * second_us;
    std::size_t at = 19;
    if (at < text.size() && text[at] == '.') {
        TimeUs weight = second_us / 10;
        for (++at; at < text.size() && text[at] >= '0' && text[at] <= '9'; ++at, weight /= 10)
            t += (text[at] - '0') * weight;
        if (at == 20) return {};
    }
    if (at < text.size() && text[at] == 'Z') ++at;
    return at == text.size() ? std::optional<TimeUs>(t) : std::nullopt;
}

std::optional<TimeUs> parse_iso(std::string_view text) {
    using namespace std::chrono;
    if (const auto plain = parse_plain_iso(text)) return plain;
    const auto y = take_digits(text, 4);
    if (!y || !take_char(text, "-")) return {};
    const auto m = take_digits(text, 2);
    if (!m || !take_char(text, "-")) return {};
    const auto d = take_digits(text, 2);
    if (!d) return {};
    const year_month_day date{year{*y}, month{static_cast<unsigned>(*m)}, day{static_cast<unsigned>(*d)}};
    if (!date.ok()) return {};
    TimeUs t = sys_days{date}.time_since_epoch().count() * day_us;
    if (text.empty()) return t;
    if (!take_char(text, "Tt ")) return {};
    const auto hh = take_digits(text, 2);
    if (!hh || !take_char(text, ":")) return {};
    const auto mm = take_digits(text, 2);
    if (!mm || *hh > 23 || *mm > 59) return {};
    t += *hh * hour_us + *mm * minute_us;
    if (take_char(text, ":")) {
        const auto ss = take_digits(text, 2);
        if (!ss || *ss > 59) return {};
        t += *ss * second_us;
        if (take_char(text, ".,")) {
            const auto fraction = take_fraction(text);
            if (!fraction) return {};
            t += *fraction;
        }
    }
    const auto zone = take_zone(text);
    if (!zone || !text.empty()) return {};
    return t - *zone;
}

} // namespace

std::string iso_time(TimeUs t) {
    using namespace std::chrono;
    const sys_time<microseconds> point{microseconds{t}};
    const auto midnight = floor<days>(point);
    const year_month_day date{midnight};
    const TimeUs rest = (point - midnight).count();
    const TimeUs us = rest % second_us;
    std::string out = fmt::format("{:04}-{:02}-{:02}T{:02}:{:02}:{:02}", static_cast<int>(date.year()),
                                  static_cast<unsigned>(date.month()), static_cast<unsigned>(date.day()),
                                  rest / hour_us, rest / minute_us % 60, rest / second_us % 60);
    out += us % 1000 == 0 ? fmt::format(".{:03}Z", us / 1000) : fmt::format(".{:06}Z", us);
    return out;
}

std::optional<TimeUs> parse_time(std::string_view text) {
    while (!text.empty() && text.front() == ' ')
        text.remove_prefix(1);
    while (!text.empty() && text.back() == ' ')
        text.remove_suffix(1);
    if (text.size() >= 10 && text[4] == '-') {
        const auto t = parse_iso(text);
        return t && *t >= earliest_time && *t <= latest_time ? t : std::nullopt; // a zone may lead out of them
    }
    double s = 0;
    const auto [end, code] = std::from_chars(text.data(), text.data() + text.size(), s);
    if (code != std::errc{} || end != text.data() + text.size()) return {};
    if (!(s >= seconds(earliest_time) && s < seconds(latest_time))) return {};
    return from_seconds(s);
}

std::string age_text(TimeUs age) {
    if (age < second_us) return "< 1 s";
    if (age < 2 * minute_us) return fmt::format("{} s", age / second_us);
    if (age < 2 * hour_us) return phrase("{} min", age / minute_us);
    if (age < 2 * day_us) return fmt::format("{} h", age / hour_us);
    return fmt::format("{} d", age / day_us);
}

} // namespace cognitum
