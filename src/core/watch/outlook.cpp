#include "core/watch/outlook.h"

#include "core/base/phrase.h"
#include "core/units/unit.h"
#include "core/watch/bands.h"
#include "core/watch/outlook_view.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace cognitum {

namespace outlooks {

TimeUs local_day(TimeUs t, const ZoneOffset& zone) {
    const TimeUs local = to_local(t, zone);
    return local - (local % day_us + day_us) % day_us;
}

std::optional<Trend> trend(const HourlyRecord& record, TimeUs now, int hours) {
    std::vector<std::pair<double, double>> points;
    for (auto it = record.hours.rbegin(); it != record.hours.rend() && now - it->from <= hours * hour_us; ++it)
        points.emplace_back(-static_cast<double>(now - it->from) / static_cast<double>(hour_us), it->mean());
    if (points.size() < 3 || points.size() * 2 < static_cast<std::size_t>(hours)) return {};
    double t = 0, v = 0;
    const auto n = static_cast<double>(points.size());
    for (const auto& [x, y] : points) {
        t += x / n;
        v += y / n;
    }
    double tt = 0, tv = 0, vv = 0;
    for (const auto& [x, y] : points) {
        tt += (x - t) * (x - t);
        tv += (x - t) * (y - v);
        vv += (y - v) * (y - v);
    }
    Trend out{tv / tt, 0};
    out.u = std::sqrt(std::max(0.0, vv - tv * tv / tt) / std::max(1.0, n - 2) / tt);
    return out;
}

void say_heading(const View& view, int hours, const char* rises, const char* falls) {
    const auto slope = trend(view.record, view.now, hours);
    if (!slope) return;
    if (std::abs(slope->an_hour) <= 2 * slope->u ||
        std::abs(slope->an_hour) * hours < view.reading.quantity.accuracy / 4) {
        view.say(phrase("Over {} h it stands.", hours));
        return;
    }
    view.say(phrase("Over {} h it {} by {}/h.", hours, phrase(slope->an_hour > 0 ? rises : falls),
                    format_measure(std::abs(slope->an_hour), view.unit(), 2)));
}

} // namespace outlooks

namespace {

using namespace outlooks;

constexpr double longest_days = 365; ///< what lasts longer is not told in days

std::string day_text(TimeUs local) {
    static constexpr const char* months[] = {
        for_people("{} January"), for_people("{} February"), for_people("{} March"),
        for_people("{} April"),   for_people("{} May"),      for_people("{} June"),
        for_people("{} July"),    for_people("{} August"),   for_people("{} September"),
        for_people("{} October"), for_people("{} November"), for_people("{} December")};
    const std::string iso = iso_time(local);
    const int day = std::stoi(iso.substr(8, 2));
    return filled_phrase(months[std::stoi(iso.substr(5, 2)) - 1], -1, fmt::make_format_args(day));
}

/// In whole days, or in hours when it is soon: "in 9 ± 2 days".
std::string in_days(double days, double u) {
    if (days < 2) return phrase("in {:.0f} ± {:.0f} h", 24 * days, std::max(1.0, 48 * u));
    return phrase("in {:.0f} ± {:.0f} days", days, std::max(1.0, std::ceil(2 * u)));
}

enum class Until { this_rate_lasts, nothing_comes_in };

/// When a limit is reached at a steady change a day; says nothing when not within a year.
void say_until(const View& view, Until until, const char* what, double limit, double a_day, double u_a_day) {
    const double distance = limit - view.last();
    if (a_day == 0 || distance / a_day <= 0 || distance / a_day > longest_days) return;
    const double days = distance / a_day;
    const double u = days * std::hypot(u_a_day / a_day, view.doubt / 2 / distance);
    if (u > days / 2) return; // nobody could plan with that
    const std::string when = in_days(days, u);
    const bool goes_on = until == Until::this_rate_lasts;
    const std::string as_long_as = goes_on ? phrase("At this rate") : phrase("If nothing came in");
    if (view.out.headline.empty())
        view.out.headline = fmt::format("{} {}{}", what, when, goes_on ? "" : phrase(" if nothing came in"));
    const TimeUs at = to_local(view.now + from_seconds(days * 86400), view.zone);
    view.say(days < 2 ? fmt::format("{}: {} {}.", as_long_as, what, when)
                      : phrase("{}: {} {}, about {}.", as_long_as, what, when, day_text(at)));
}

void of_store(const View& view) {
    const DailyUse use = daily_use(view.record, looks_at_days, view.now, view.zone);
    const double bottom = view.reading.bands ? view.reading.bands->low : 0;
    const char* const low = view.reading.bands ? phrase("low") : phrase("empty");
    if (use.days >= 3) {
        const bool balanced = use.filled > 0.5 * use.used && use.used > 0.5 * use.filled;
        if (balanced && view.reading.quantity.about().from_level.empty()) { // a tide, not a store
            view.say(phrase("It rises and falls by some {} a day.", view.amount((use.used + use.filled) / 2)));
            say_heading(view, 3, for_people("rises"), for_people("falls"));
            return;
        }
        view.say(phrase("Draws {} a day, of {} days; {} a day came in.", view.amount(use.used, use.u_used),
                        use.days, use.filled > 0 ? view.amount(use.filled) : phrase("nothing")));
        const double net = use.used - use.filled;
        const double full = view.reading.bands ? view.reading.bands->high : view.reading.quantity.high;
        if (net > 2 * use.u_net)
            say_until(view, Until::this_rate_lasts, low, bottom, -net, use.u_net);
        else if (-net > 2 * use.u_net)
            say_until(view, Until::this_rate_lasts, view.reading.bands ? phrase("high") : phrase("full"), full,
                      -net, use.u_net);
        else if (use.used > 2 * use.u_used)
            say_until(view, Until::nothing_comes_in, low, bottom, -use.used, use.u_used);
    }
    if (const double smallest = smallest_leak(night_falls(view.record, 1, 5, view.zone), view.record.noise);
        smallest > 0)
        view.say(
            phrase("Smallest leak that can be seen in a night: {}/h.", format_measure(smallest, view.unit(), 2)));
}

void of_rain_total(const View& view) {
    const TimeUs today = local_day(view.now, view.zone);
    const std::string month = iso_time(to_local(view.now, view.zone)).substr(0, 7);
    double hour = 0, of_today = 0, day = 0, of_month = 0, event = 0;
    TimeUs wet = 0; // the last hour with a tip
    TimeUs began = 0;
    for (const HourFigures& h : view.record.hours) {
        if (h.grown <= 0) continue;
        if (h.from - wet > 6 * hour_us) { // six hours without a tip end an event
            event = 0;
            began = h.from;
        }
        wet = h.from;
        event += h.grown;
        const TimeUs age = view.now - h.from;
        if (age < hour_us) hour += h.grown;
        if (age < day_us) day += h.grown;
        if (local_day(h.from, view.zone) == today) of_today += h.grown;
        if (iso_time(to_local(h.from, view.zone)).substr(0, 7) == month) of_month += h.grown;
    }
    const auto mm = [&](double v) { return format_value(v, view.reading.quantity.accuracy, view.unit()); };
    if (wet == 0) {
        view.say(phrase("No rain in {:.0f} days of record.", std::max(1.0, view.record.days())));
        return;
    }
    const bool raining = view.now - wet < 2 * hour_us;
    view.out.headline = of_today > 0 ? phrase("{} today", mm(of_today))
                                     : phrase("dry for {}", duration_text(view.now - wet - hour_us));
    const bool whole_month = iso_time(to_local(view.record.first, view.zone)).substr(0, 7) != month;
    view.say(phrase(
        "{} this hour, {} today, {} in 24 h, {} this month{}.", mm(hour), mm(of_today), mm(day), mm(of_month),
        whole_month ? "" : phrase(", recorded since {}", day_text(to_local(view.record.first, view.zone)))));
    if (view.now - wet < 6 * hour_us)
        view.say(phrase("This rain: {} since {}.", mm(event), iso_time(to_local(began, view.zone)).substr(11, 5)));
    else if (!raining)
        view.say(phrase("Dry for {}.", duration_text(view.now - wet - hour_us)));
}

void of_drying(const View& view) {
    // Since the last watering: what dried in a day from then on.
    const auto& hours = view.record.hours;
    std::size_t since = hours.size() - 1;
    const double jump = std::max(3.0, 6 * view.record.noise); // from one hour to the next; drying is far slower
    const auto wetted = [&](std::size_t i) { return hours[i].mean() - hours[i - 1].mean() >= jump; };
    while (since > 0 && !wetted(since) && view.now - hours[since - 1].from < 14 * day_us)
        --since;
    const bool seen = since > 0 && wetted(since);
    HourlyRecord dry;
    dry.hours.assign(hours.begin() + static_cast<std::ptrdiff_t>(since), hours.end());
    const double days = seconds(hours.back().from - hours[since].from) / 86400;
    if (seen) view.say(phrase("Watered, or rained on, {} ago.", duration_text(view.now - hours[since].from)));
    const auto slope = trend(dry, view.now, static_cast<int>(std::max(6.0, 24 * days)));
    if (!slope || days < 0.5 || slope->an_hour >= -2 * slope->u) return;
    view.say(phrase("It dries by {} a day.", format_measure(-24 * slope->an_hour, view.unit(), 2)));
    if (view.reading.bands)
        say_until(view, Until::this_rate_lasts, "dry", view.reading.bands->low, 24 * slope->an_hour, 24 * slope->u);
}

void of_events(const View& view) {
    int today = 0, day = 0;
    for (const HourFigures& h : view.record.hours) {
        if (view.now - h.from < day_us) day += h.came_on;
        if (local_day(h.from, view.zone) == local_day(view.now, view.zone)) today += h.came_on;
    }
    const std::string& word = view.reading.quantity.about().on_word;
    view.say(phrase("{} {} times in 24 h, {} today.", word, day, today));
    view.out.headline = phrase("{} times today", today);
}

using Saying = void (*)(const View&);
constexpr std::pair<const char*, Saying> sayings[] = {
    {"volume", of_store},       {"level", of_store},    {"rain", of_rain_total},
    {"temperature", of_warmth}, {"humidity", of_damp},  {"soil-moisture", of_drying},
    {"motion", of_events},      {"contact", of_events}, {"pressure", of_gas}};

} // namespace

DailyUse daily_use(const HourlyRecord& record, int days, TimeUs now, const ZoneOffset& zone) {
    struct Day {
        int hours = 0;
        double used = 0, filled = 0;
    };
    std::map<TimeUs, Day> by_day;
    const TimeUs today = local_day(now, zone);
    for (std::size_t i = 1; i < record.hours.size(); ++i) {
        const HourFigures &before = record.hours[i - 1], &h = record.hours[i];
        const TimeUs day = local_day(h.from, zone);
        if (day >= today || today - day > days * day_us || h.from - before.from > 3 * hour_us) continue;
        Day& d = by_day[day];
        ++d.hours;
        // Two hourly means differ by noise alone; what is below it is neither drawn nor filled.
        const double change = h.mean() - before.mean();
        const double unsure =
            2 * record.noise * std::sqrt(1.0 / static_cast<double>(h.n) + 1.0 / static_cast<double>(before.n));
        if (change < -unsure) d.used -= change;
        if (change > unsure) d.filled += change;
    }
    DailyUse out;
    double squares = 0;
    double net_mean = 0;
    double net_squares = 0;
    for (const auto& [day, d] : by_day) {
        if (d.hours < 20) continue;
        ++out.days;
        const double delta = d.used - out.used;
        out.used += delta / out.days;
        squares += delta * (d.used - out.used);
        const double net = d.used - d.filled;
        const double net_before = net_mean;
        net_mean += (net - net_mean) / out.days;
        net_squares += (net - net_before) * (net - net_mean);
        out.filled += (d.filled - out.filled) / out.days;
    }
    if (out.days > 1) {
        out.u_used = std::sqrt(squares / (out.days - 1) / out.days);
        out.u_net = std::sqrt(net_squares / (out.days - 1) / out.days);
    }
    return out;
}

const Reading* air_beside(const Bench& bench, const Reading& reading) {
    if (reading.quantity.kind != "humidity") return nullptr;
    const Reading* out = nullptr;
    int best = 0;
    for (const Reading& other : bench.readings) {
        if (other.quantity.kind != "temperature" || other.quantity.around.water) continue;
        const bool one_part = other.sensor.shared_with == reading.id || reading.sensor.shared_with == other.id;
        const bool one_place = !other.quantity.place.empty() && other.quantity.place == reading.quantity.place;
        const bool one_board = !other.wiring.board.empty() && other.wiring.board == reading.wiring.board;
        const int nearness = one_part ? 3 : one_place ? 2 : one_board ? 1 : 0;
        if (nearness <= best) continue;
        best = nearness;
        out = &other;
    }
    return out;
}

Outlook outlook(const Reading& reading, const HourlyRecord& record, double doubt, TimeUs now,
                const ZoneOffset& zone, const Neighbour* air) {
    Outlook out;
    if (record.hours.empty()) return out;
    const auto* const saying = std::find_if(std::begin(sayings), std::end(sayings),
                                            [&](const auto& t) { return reading.quantity.kind == t.first; });
    if (now - record.last >
        from_seconds(std::max(silent_after_s(reading.quantity), 1.5 * seconds(record.long_gap)))) {
        out.lines.push_back(
            phrase("Nothing came for {}: what follows from it is not known.", duration_text(now - record.last)));
        return out;
    }
    const View view{reading, record, std::isfinite(doubt) ? doubt : 0, now, zone, air, out};
    if (saying != std::end(sayings))
        saying->second(view);
    else if (!reading.quantity.about().is_private)
        say_heading(view, 3, for_people("rises"), for_people("falls"));
    return out;
}

} // namespace cognitum
