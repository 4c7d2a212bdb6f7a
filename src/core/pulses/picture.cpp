#include "core/pulses/picture.h"

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

using Panel = PulsePicture::Panel;
using Use = PulsePicture::Use;

/// The value at a time, of a trace that is sorted by it.
double value_at(const std::vector<PulsePicture::Point>& trace, double at_s) {
    const auto after = std::lower_bound(trace.begin(), trace.end(), at_s,
                                        [](const PulsePicture::Point& p, double t) { return p.at_s < t; });
    return after == trace.end() ? no_number : after->value;
}

/// A trace ends where nothing came for longer than `silent_s`: a line over the pause would be made up.
void end_at_silences(std::vector<PulsePicture::Point>& trace, double silent_s) {
    if (silent_s <= 0) return;
    std::vector<PulsePicture::Point> out;
    for (const PulsePicture::Point& p : trace) {
        if (!out.empty() && p.at_s - out.back().at_s > silent_s)
            out.push_back({out.back().at_s + silent_s, no_number});
        out.push_back(p);
    }
    trace = std::move(out);
}

Panel wave_panel(std::span<const double> wave, double rate, double begin_s, double threshold) {
    Panel out{phrase("The wave as it comes"), "count", {}, false, {}, {}, {}};
    for (auto i = static_cast<std::size_t>(std::ceil(begin_s * rate)); i < wave.size(); ++i)
        out.trace.push_back({static_cast<double>(i) / rate - begin_s, wave[i]});
    if (!std::isfinite(threshold)) return out;
    out.levels.push_back({threshold, phrase("fixed threshold")});
    for (const double t : threshold_beats(wave, rate, threshold))
        if (t >= begin_s) out.marks.push_back({t - begin_s, threshold, true});
    return out;
}

Panel beats_panel(const Beats& found, double rate, double begin_s) {
    Panel out{phrase("As the beats are found"), "", {}, false, {}, {}, {}};
    for (auto i = static_cast<std::size_t>(std::ceil(begin_s * rate)); i < found.filtered.size(); ++i)
        out.trace.push_back({static_cast<double>(i) / rate - begin_s, found.filtered[i]});
    if (found.least_height > 0) out.levels.push_back({found.least_height, phrase("least height of a beat")});
    for (std::size_t i = 0; i < found.times.size(); ++i) {
        const double at = found.times[i] - begin_s;
        if (at < 0) continue;
        out.marks.push_back({at, value_at(out.trace, at - 0.5 / rate), true});
        if (i > 0 && found.times[i - 1] >= begin_s)
            out.spans.push_back(
                {found.times[i - 1] - begin_s, at, found.accepted[i - 1] ? Use::counted : Use::set_aside});
    }
    return out;
}

} // namespace

PulsePicture beats_picture(std::span<const RawSample> samples, double shown_s) {
    const Wave wave = last_wave(samples);
    if (wave.values.size() < 100 || !(wave.rate_hz > 0)) return {};
    const double whole = static_cast<double>(wave.values.size() - 1) / wave.rate_hz;
    const double begin = std::max(0.0, whole - shown_s);
    const Beats found = find_beats(wave.values, wave.rate_hz);
    PulsePicture out;
    out.from = wave.from + from_seconds(begin);
    out.length_s = whole - begin;
    out.panels.push_back(
        wave_panel(wave.values, wave.rate_hz, begin, threshold_from_recording(wave.values, wave.rate_hz)));
    if (!found.filtered.empty()) out.panels.push_back(beats_panel(found, wave.rate_hz, begin));
    const auto& spans = out.panels.back().spans;
    const auto aside = std::count_if(spans.begin(), spans.end(),
                                     [](const PulsePicture::Span& s) { return s.use == Use::set_aside; });
    const std::size_t beats = out.panels.size() > 1 ? out.panels.back().marks.size() : 0;
    out.spoken = phrase("The last {} s: {}, {} set aside.", format_fixed(out.length_s, 0),
                        counted(static_cast<long>(beats), "{} beat", "{} beats"),
                        counted(aside, "{} interval", "{} intervals"));
    return out;
}

PulsePicture tips_picture(std::span<const TimeUs> tips, double mm_per_pulse, TimeUs now,
                          const RainOptions& options) {
    PulsePicture out;
    out.from = now - day_us;
    out.length_s = seconds(day_us);
    const double per_tip = mm_per_pulse * options.tips_per_pulse;
    Panel each{phrase("Tips"), "", {}, false, {}, {}, {}};
    Panel sum{phrase("Rain since the left edge"), "mm", {{0, 0}}, true, {}, {}, {}};
    const std::vector<bool> bounced = bounced_tips(tips, options.bounce_s);
    double mm = 0;
    std::size_t bounces = 0;
    for (std::size_t i = 0; i < tips.size(); ++i) {
        if (tips[i] <= out.from || tips[i] > now) continue;
        const double at = seconds(tips[i] - out.from);
        each.marks.push_back({at, 0, !bounced[i]});
        if (bounced[i]) {
            ++bounces;
            continue;
        }
        mm += per_tip;
        sum.trace.push_back({at, mm});
    }
    sum.trace.push_back({out.length_s, mm});
    out.spoken =
        phrase("The last 24 hours: {}, {}, {}.",
               counted(static_cast<long>(each.marks.size() - bounces), "{} tip", "{} tips"),
               format_value(mm, 0.2, "mm"), counted(static_cast<long>(bounces), "{} bounce", "{} bounces"));
    out.panels = {std::move(each), std::move(sum)};
    return out;
}

PulsePicture switch_picture(std::span<const RawSample> samples, TimeUs now, double hold_s, double shown_s,
                            double silent_s) {
    PulsePicture out;
    out.from = now - from_seconds(shown_s);
    out.length_s = shown_s;
    std::vector<SwitchSample> line;
    for (const RawSample& s : samples)
        if (std::isfinite(s.code)) line.push_back({s.time, s.code != 0});
    if (line.empty()) return {};
    Panel state{phrase("On or off"), "", {}, true, {}, {}, {}};
    for (const SwitchSample& s : line) {
        const double at = seconds(s.time - out.from);
        if (at > shown_s) continue;
        if (at < 0) state.trace.clear(); // only the last before the edge says how it begins
        state.trace.push_back({std::max(at, 0.0), s.on ? 1.0 : 0.0});
    }
    end_at_silences(state.trace, silent_s);

    Panel events{phrase("Events"), "", {}, false, {}, {}, {}};
    EventOptions options;
    options.hold_s = hold_s;
    // Two passes: the stretches that are on, and the events that hold them together.
    EventOptions alone = options;
    alone.hold_s = 0;
    const auto add = [&](const EventReport& report, Use use) {
        for (const SwitchEvent& e : report.events)
            if (e.end >= out.from)
                events.spans.push_back(
                    {std::max(0.0, seconds(e.start - out.from)), seconds(e.end - out.from), use});
    };
    const EventReport held = switch_events(line, options);
    add(held, Use::held);
    add(switch_events(line, alone), Use::counted);
    const auto shown = std::count_if(held.events.begin(), held.events.end(),
                                     [&](const SwitchEvent& e) { return e.end >= out.from; });
    out.spoken =
        phrase("The last {}: {}.", age_text(from_seconds(shown_s)), counted(shown, "{} event", "{} events"));
    out.panels = {std::move(state), std::move(events)};
    return out;
}

PulsePicture wind_picture(std::span<const RawSample> speeds, const std::string& unit, double silent_s) {
    std::vector<WindSample> wind;
    for (const RawSample& s : speeds)
        wind.push_back({s.time, s.code, no_number});
    const WindReport report = wind_report(wind);
    if (report.samples == 0) return {};
    PulsePicture out;
    constexpr double shown_s = 600;
    out.from = wind.back().time - from_seconds(shown_s);
    out.length_s = shown_s;
    Panel panel{phrase("Speed"), unit, {}, false, {}, {}, {}};
    for (const WindSample& s : wind)
        if (s.time >= out.from && std::isfinite(s.speed))
            panel.trace.push_back({seconds(s.time - out.from), s.speed});
    end_at_silences(panel.trace, silent_s);
    panel.levels = {{report.mean, phrase("mean of ten minutes")},
                    {report.gust, phrase("gust: largest mean of three seconds")}};
    out.spoken = phrase("Ten minutes: mean {}, gust {}.", format_value(report.mean, 0.2, unit),
                        format_value(report.gust, 0.2, unit));
    out.panels.push_back(std::move(panel));
    return out;
}

} // namespace cognitum
