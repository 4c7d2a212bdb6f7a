#include "core/pulses/summary.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/pulses/beats.h"
#include "core/pulses/events.h"
#include "core/pulses/wind.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

std::string mm(double value) {
    return format_value(value, 0.2, "mm");
}

std::string clock(TimeUs t) {
    return iso_time(t).substr(11, 5);
}

} // namespace

std::vector<PulseFact> rain_facts(std::span<const TimeUs> tips, double mm_per_pulse, TimeUs now,
                                  const RainOptions& options) {
    const RainTotals totals = rain_totals(tips, mm_per_pulse, options);
    const double per_tip = mm_per_pulse * options.tips_per_pulse;
    std::vector<PulseFact> out;
    out.push_back(
        {phrase("One tip"), format_measure(per_tip, "mm", 3), phrase("its volume over the funnel’s area")});
    out.push_back({phrase("Last hour"), mm(rain_within(tips, per_tip, now, hour_us)), ""});
    const TimeUs boundary = options.day_start - options.zone;
    const TimeUs today = now - (((now - boundary) % day_us) + day_us) % day_us;
    out.push_back({phrase("Today"), mm(rain_within(tips, per_tip, now, now - today)),
                   phrase("since {}", clock(today + options.zone))});
    out.push_back(
        {phrase("Last 24 hours"), mm(rain_within(tips, per_tip, now, day_us)), phrase("whatever the hour is")});
    if (totals.events.empty()) {
        out.push_back({phrase("This rain"), phrase("none"), phrase("no tip is on record")});
    } else {
        const RainEvent& last = totals.events.back();
        const bool over = now - last.end >= from_seconds(options.dry_spell_s);
        out.push_back(
            {over ? phrase("The last rain") : phrase("This rain"), mm(last.mm),
             phrase("{} to {} UTC; a dry spell of {} h ends it", iso_time(last.start).substr(0, 16),
                    over ? clock(last.end) : phrase("now"), format_constant(options.dry_spell_s / 3600))});
    }
    out.push_back({phrase("Heaviest"), format_value(totals.max_intensity_mm_h, 0.5, "mm") + "/h",
                   phrase("over the time between tips, five minutes at least")});
    if (!totals.months.empty()) { // the last month on record is the last with rain, not always this one
        const auto month = [&](TimeUs at) { return iso_time(at + options.zone).substr(0, 7); };
        const RainAmount& last = totals.months.back();
        out.push_back({phrase("This month"), mm(month(last.start) == month(today) ? last.mm : 0),
                       phrase("of what is on record")});
    }
    if (totals.rejected > 0)
        out.push_back({phrase("Bounces"), counted(static_cast<long>(totals.rejected), "{} tip", "{} tips"),
                       phrase("within 100 ms of the one before: not counted")});
    if (options.loss_a != 1 || options.loss_b != 1)
        out.push_back({phrase("With what is lost"), mm(totals.corrected_mm),
                       phrase("water that falls while the bucket tips")});
    else
        out.push_back({phrase("What it misses"), phrase("some %"),
                       phrase("in heavy rain, while the bucket tips; calibrate at two intensities to know")});
    return out;
}

std::vector<PulseFact> beat_facts(std::span<const RawSample> samples) {
    const Wave newest = last_wave(samples);
    const std::vector<double>& wave = newest.values;
    const double rate = newest.rate_hz;
    if (wave.size() < 100 || !(rate > 0))
        return {{phrase("Beats"), "—", phrase("too little of the wave is there yet")}};
    const Beats found = find_beats(wave, rate);
    std::vector<PulseFact> out;
    out.push_back({phrase("By slope and height"),
                   std::isfinite(found.bpm) ? format_value(found.bpm, 1, "/min") : "—",
                   phrase("{} in {} s; median of the accepted intervals",
                          counted(static_cast<long>(found.times.size()), "{} beat", "{} beats"),
                          format_fixed(static_cast<double>(wave.size() - 1) / rate, 0))});
    out.push_back({phrase("Contact"), pulse_quality_name(found.quality), found.why});
    out.push_back({phrase("Set aside"), counted(static_cast<long>(found.rejected), "{} interval", "{} intervals"),
                   phrase("more than 25 % off the running median")});
    const double threshold = threshold_from_recording(wave, rate);
    if (std::isfinite(threshold)) {
        const auto beats = threshold_beats(wave, rate, threshold);
        out.push_back({phrase("By a fixed threshold"),
                       beats.size() > 1 ? format_value(60 * static_cast<double>(beats.size() - 1) /
                                                           (beats.back() - beats.front()),
                                                       1, "/min")
                                        : "—",
                       phrase("chosen from this recording: {}; it fails when the finger moves",
                              format_constant(std::round(threshold), 5))});
    } else {
        out.push_back({phrase("By a fixed threshold"), "—", phrase("no threshold counts these beats")});
    }
    out.push_back({phrase("What it is not"), "", phrase("A pulse reading is no medical device and no diagnosis.")});
    return out;
}

std::vector<PulseFact> switch_facts(std::span<const RawSample> samples, TimeUs now, double hold_s) {
    std::vector<SwitchSample> line;
    for (const RawSample& s : samples)
        if (std::isfinite(s.code)) line.push_back({s.time, s.code != 0});
    if (line.empty()) return {{phrase("Events"), "—", phrase("no sample yet")}};
    EventOptions options;
    options.hold_s = hold_s;
    const EventReport report = switch_events(line, options);
    std::vector<PulseFact> out;
    out.push_back({phrase("Events"), fmt::format("{}", report.events.size()),
                   phrase("in {}; off for less than {} s is the same one",
                          age_text(line.back().time - line.front().time), format_constant(hold_s))});
    out.push_back({phrase("An hour"), format_fixed(report.per_hour, 1), ""});
    if (!report.events.empty()) {
        const SwitchEvent& last = report.events.back();
        out.push_back({phrase("The last one"),
                       line.back().on ? phrase("now") : phrase("{} ago", age_text(now - last.end)),
                       phrase("{} s, triggered {}", format_fixed(seconds(last.end - last.start), 0),
                              counted(static_cast<long>(last.triggers), "{} time", "{} times"))});
    }
    out.push_back({phrase("On"), format_fixed(100 * report.on_share, 1) + std::string(thin_space) + "%",
                   phrase("of the time")});
    if (report.bounces > 0)
        out.push_back({phrase("Bounces"), fmt::format("{}", report.bounces),
                       phrase("changes that were too short to be one")});
    return out;
}

std::vector<PulseFact> wind_facts(std::span<const RawSample> speeds, const std::string& unit) {
    std::vector<WindSample> wind;
    for (const RawSample& s : speeds)
        wind.push_back({s.time, s.code, no_number});
    const WindReport report = wind_report(wind);
    if (report.samples == 0) return {{phrase("Wind"), "—", phrase("no sample yet")}};
    return {{phrase("Mean"), format_value(report.mean, 0.2, unit), phrase("over ten minutes")},
            {phrase("Gust"), format_value(report.gust, 0.2, unit),
             phrase("the largest mean of three seconds in them")}};
}

} // namespace cognitum
