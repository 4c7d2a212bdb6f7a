#include "cli/arguments.h"
#include "cli/cli.h"

#include "core/analyse/statistics.h"
#include "core/pulses/beats.h"
#include "core/pulses/rain.h"
#include "core/units/format.h"
#include "store/zone.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <fmt/format.h>
#include <numbers>

namespace cognitum::cli {

namespace {

Json amounts(const std::vector<RainAmount>& list) {
    Json out = Json::array();
    for (const RainAmount& a : list)
        out.push_back({{"start", iso_time(a.start)}, {"mm", a.mm}});
    return out;
}

} // namespace

int run_rain(const std::string& path, const std::vector<std::string>& arguments, bool json) {
    const auto read = read_arguments(arguments);
    if (!read) return complain(read.error(), usage);
    const Arguments& given = *read;
    for (const auto& [key, value] : given)
        if (key != "funnel_diameter" && key != "funnel_area" && key != "tip_volume" && key != "day_start" &&
            key != "zone" && key != "tips_per_pulse")
            return complain({fmt::format("rain does not know {}=.", key), "rain", ""}, usage);
    if (given.contains("funnel_diameter") == given.contains("funnel_area") || !given.contains("tip_volume"))
        return complain({"rain takes funnel_diameter= or funnel_area=, and tip_volume=.", "rain", ""}, usage);
    const auto volume = measure_of(given, "tip_volume", "mL");
    if (!volume) return complain(volume.error(), usage);
    const bool by_area = given.contains("funnel_area");
    const auto size = measure_of(given, by_area ? "funnel_area" : "funnel_diameter", by_area ? "cm2" : "cm");
    if (!size) return complain(size.error(), usage);
    const double mm = millimetres_per_tip(*volume, by_area ? *size : std::numbers::pi * *size * *size / 4);
    if (!(*size > 0 && *volume > 0 && std::isfinite(mm)))
        return complain({"a funnel and a tip are larger than nothing.", "rain", ""}, usage);
    RainOptions options;
    if (given.contains("tips_per_pulse")) {
        if (given.at("tips_per_pulse") != "1" && given.at("tips_per_pulse") != "2")
            return complain({"a contact closes for 1 or for 2 tips.", "tips_per_pulse", ""}, usage);
        options.tips_per_pulse = given.at("tips_per_pulse") == "2" ? 2 : 1;
    }
    for (const auto& [key, into] : {std::pair{"day_start", &options.day_start}, {"zone", &options.zone}}) {
        if (!given.contains(key)) continue;
        const auto clock = clock_time(given.at(key), key);
        if (!clock) return complain(clock.error(), usage);
        *into = *clock;
    }
    const auto table = read_table(path);
    if (!table) return complain(table.error());
    const TextColumn* times = table->find("time");
    if (!times) return complain({"there is no column \"time\".", path + ":1", ""});
    std::vector<TimeUs> tips;
    for (std::size_t i = 0; i < times->cells.size(); ++i) {
        const auto t = time_of(*table, *times, i);
        if (!t) return complain(t.error());
        tips.push_back(*t);
    }
    std::sort(tips.begin(), tips.end());
    const RainTotals r = rain_totals(tips, mm, options);
    Json events = Json::array();
    for (const RainEvent& e : r.events)
        events.push_back({{"start", iso_time(e.start)}, {"end", iso_time(e.end)}, {"mm", e.mm}});
    if (json)
        print_json({{"mm_per_tip", mm},
                    {"events", events},
                    {"total_mm", r.total_mm},
                    {"hours", amounts(r.hours)},
                    {"days", amounts(r.days)},
                    {"max_intensity_mm_h", r.max_intensity_mm_h},
                    {"rejected", r.rejected}});
    else
        std::puts(fmt::format("{} in {} tips of {}; at most {} mm/h; {} {} set aside.",
                              format_measure(r.total_mm, "mm", 5), r.tips, format_measure(mm, "mm", 4),
                              format_constant(r.max_intensity_mm_h, 3), r.rejected,
                              r.rejected == 1 ? "bounce" : "bounces")
                      .c_str());
    return done;
}

int run_beats(const std::string& path, const std::vector<std::string>& arguments, bool json) {
    const auto read = read_arguments(arguments);
    if (!read) return complain(read.error(), usage);
    for (const auto& [key, text] : *read)
        if (key != "rate") return complain({fmt::format("beats does not know {}=.", key), "beats", ""}, usage);
    const auto table = read_table(path);
    if (!table) return complain(table.error());
    const TextColumn* values = table->find("value");
    const TextColumn* times = table->find("time");
    if (!values) return complain({"there is no column \"value\".", path + ":1", ""});
    double rate = 0, first = 0;
    if (read->contains("rate")) {
        const auto hz = measure_of(*read, "rate", "Hz");
        if (!hz) return complain(hz.error(), usage);
        if (!(*hz > 0))
            return complain({"a wave is sampled more often than never.", "rate", "Write rate=50Hz."}, usage);
        rate = *hz;
    } else if (!times) {
        return complain({"without a column \"time\" the rate is needed.", path, "Add rate=50Hz."}, usage);
    }
    std::vector<double> wave, seconds_of;
    for (std::size_t i = 0; i < values->cells.size(); ++i) {
        const auto value = number_of(*table, *values, i);
        if (!value) return complain(value.error());
        wave.push_back(*value);
        if (rate > 0) continue;
        const auto t = time_of(*table, *times, i);
        if (!t) return complain(t.error());
        seconds_of.push_back(seconds(*t));
    }
    if (rate <= 0 && seconds_of.size() > 1) {
        std::vector<double> steps;
        for (std::size_t i = 1; i < seconds_of.size(); ++i)
            steps.push_back(seconds_of[i] - seconds_of[i - 1]);
        const double step = median(steps);
        rate = step > 0 ? 1 / step : 0;
        first = seconds_of.front();
    }
    const Beats b = find_beats(wave, rate);
    Json list = Json::array();
    for (const double t : b.times)
        list.push_back(times && !seconds_of.empty() ? Json(iso_time(from_seconds(first + t))) : Json(t));
    if (json) {
        Json out = {{"bpm", number_or_null(b.bpm)},
                    {"beats", list},
                    {"quality", pulse_quality_name(b.quality)},
                    {"rejected", b.rejected}};
        if (!b.why.empty()) out["why"] = b.why;
        print_json(out);
    } else if (std::isfinite(b.bpm)) {
        std::puts(fmt::format("{:.0f} a minute from {} beats, quality {}. No diagnosis.", b.bpm, b.times.size(),
                              pulse_quality_name(b.quality))
                      .c_str());
    } else {
        std::puts(fmt::format("No pulse to trust: {}.", b.why).c_str());
    }
    return done;
}

} // namespace cognitum::cli
