// What follows from temperatures, humidities and pressures.
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/physics/water.h"
#include "core/units/unit.h"
#include "core/watch/outlook_view.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace cognitum::outlooks {

void of_warmth(const View& view) {
    say_heading(view, 3, for_people("warms"), for_people("cools"));
    const double frost = convert_unit(0, "degC", view.unit()).value_or(0);
    const double base = convert_unit(10, "degC", view.unit()).value_or(10);
    const double degree = convert_unit(1, "degC", view.unit()).value_or(1) - frost;
    int below = 0;
    double growing = 0;
    struct Day {
        double low = 0, high = 0;
        int hours = 0;
    };
    std::map<TimeUs, Day> days;
    for (const HourFigures& h : view.record.hours) {
        if (view.now - h.from <= day_us && h.low < frost) ++below;
        Day& day = days.try_emplace(local_day(h.from, view.zone), Day{h.low, h.high, 0}).first->second;
        day.low = std::min(day.low, h.low);
        day.high = std::max(day.high, h.high);
        ++day.hours;
    }
    const std::string year = iso_time(to_local(view.now, view.zone)).substr(0, 4);
    int whole = 0; // days that are recorded nearly whole: of others the extremes are not known
    for (const auto& [day, extremes] : days)
        if (iso_time(day).substr(0, 4) == year && extremes.hours >= 20) {
            growing += std::max(0.0, ((extremes.low + extremes.high) / 2 - base) / degree);
            ++whole;
        }
    if (below > 0) view.say(phrase("{} of the last 24 hours with frost.", below));
    const Quantity& q = view.reading.quantity;
    const bool things_grow_in_it = !q.around.water && q.high <= convert_unit(60, "degC", q.unit).value_or(q.high);
    if (whole >= 7 && things_grow_in_it)
        view.say(phrase("{:.0f} growing degree days over 10 °C this year, of {} days looked at.", growing, whole));
}

/// Dew point now, and how near the air came to it.
static void say_dew(const View& view) {
    if (!view.air || view.air->record.hours.empty()) return;
    const std::string& unit = view.air->reading.quantity.unit;
    const auto in_degC = [&](double v) { return convert_unit(v, unit, "degC").value_or(no_number); };
    const auto share = [&](double v) { return std::clamp(v / 100, 0.01, 1.0); };
    constexpr double near_K = 1;
    int wet = 0;
    auto air = view.air->record.hours.begin();
    for (const HourFigures& h : view.record.hours) {
        while (air != view.air->record.hours.end() && air->from < h.from)
            ++air;
        if (air == view.air->record.hours.end() || air->from != h.from || view.now - h.from > day_us) continue;
        const double warm = in_degC(air->mean());
        wet += warm - physics::dew_point(warm, share(h.mean())) < near_K;
    }
    if (view.now - view.air->record.last > 2 * hour_us) return;
    const double warm = in_degC(view.air->record.hours.back().last);
    const double dew = physics::dew_point(warm, share(view.last()));
    const double u = std::max(0.3, (physics::dew_point(warm, share(view.last() + view.doubt)) - dew) / 2);
    view.say(phrase("Dew point {}, {} below {}: what is colder than that gets wet.",
                    format_with_doubt(dew, 2 * u, "degC"), format_measure(warm - dew, "K", 2),
                    view.air->reading.name));
    if (wet > 0) view.say(phrase("{} of the last 24 hours within 1 K of the dew point.", wet));
}

void of_damp(const View& view) {
    say_dew(view);
    int damp = 0;
    int hours = 0;
    for (const HourFigures& h : view.record.hours)
        if (view.now - h.from <= 7 * day_us) {
            ++hours;
            damp += h.mean() > 80;
        }
    view.say(phrase("{} of the last {} hours above 80 %, at which mould may grow on walls.", damp, hours));
    say_heading(view, 3, for_people("rises"), for_people("falls"));
}

/// What reports only now and then, such as a wheel on the road: its stretches set side by side. False: it reports
/// all the time, or not often enough.
static bool say_between_drives(const View& view) {
    struct Drive {
        double days = 0, sum = 0;
        int hours = 0;
    };
    std::vector<Drive> drives;
    TimeUs before = 0;
    for (const HourFigures& h : view.record.hours) {
        if (drives.empty() || h.from - before > 2 * hour_us) drives.push_back({});
        before = h.from;
        Drive& drive = drives.back();
        drive.days += seconds(h.from - view.record.first) / 86400;
        drive.sum += h.mean();
        ++drive.hours;
    }
    constexpr std::size_t least_drives = 4;
    constexpr double least_days = 5;
    if (drives.size() < least_drives) return false;
    double t = 0, v = 0;
    const auto n = static_cast<double>(drives.size());
    for (Drive& drive : drives) {
        drive.days /= drive.hours;
        drive.sum /= drive.hours;
        t += drive.days / n;
        v += drive.sum / n;
    }
    if (drives.back().days - drives.front().days < least_days) return false;
    double tt = 0, tv = 0, vv = 0;
    for (const Drive& drive : drives) {
        tt += (drive.days - t) * (drive.days - t);
        tv += (drive.days - t) * (drive.sum - v);
        vv += (drive.sum - v) * (drive.sum - v);
    }
    const double a_week = 7 * tv / tt;
    const double u = 7 * std::sqrt(std::max(0.0, vv - tv * tv / tt) / (n - 2) / tt);
    const bool at_one_temperature =
        std::any_of(view.reading.path.stages.begin(), view.reading.path.stages.end(),
                    [](const auto& stage) { return std::holds_alternative<GasAt>(stage); });
    const char* how =
        at_one_temperature ? phrase("at one temperature") : phrase("warm or cold, as it was measured");
    if (std::abs(a_week) > 2 * u)
        view.say(phrase("Between drives it {} {} a week, {}, of {} drives.",
                        a_week < 0 ? phrase("loses") : phrase("gains"),
                        format_with_doubt(std::abs(a_week), 2 * u, view.unit()), how, drives.size()));
    else
        view.say(phrase("Between {} drives it holds, {}: a loss of {} a week would be seen.", drives.size(), how,
                        format_measure(std::max(2 * u, 0.01), view.unit(), 2)));
    return true;
}

void of_gas(const View& view) {
    const auto slope = trend(view.record, view.now, 3);
    const double usual = convert_unit(view.last(), view.unit(), "hPa").value_or(0);
    if (slope && usual > 800 && usual < 1100) {
        const double three = 3 * slope->an_hour * (convert_unit(1, view.unit(), "hPa").value_or(1));
        const double size = std::abs(three);
        const char* how = size < 0.1   ? phrase("steady")
                          : size < 1.5 ? phrase("slowly")
                          : size < 3.5 ? ""
                          : size < 6   ? phrase("quickly")
                                       : phrase("very quickly");
        view.say(phrase("{} hPa in three hours: {}.", format_fixed(three, 1),
                        size < 0.1 ? std::string("steady")
                                   : fmt::format("{}{}{}", three > 0 ? phrase("rising") : phrase("falling"),
                                                 *how ? " " : "", how)));
        return;
    }
    if (say_between_drives(view)) return;
    if (const DailyUse use = daily_use(view.record, looks_at_days, view.now, view.zone); use.days >= 3)
        say_heading(view, 72, for_people("rises"), for_people("falls"));
}

} // namespace cognitum::outlooks
