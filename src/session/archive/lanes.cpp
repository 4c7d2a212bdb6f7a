#include "session/archive/lanes.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "store/samples/block_codec.h"
#include "store/samples/samples.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <span>

namespace cognitum {

namespace {

constexpr std::size_t most_single = 40'000; ///< samples that are looked at one by one
constexpr std::size_t most_refined = 60;

/// Time from one sample to the next, as it usually is.
TimeUs usual_step(const std::vector<Summary>& parts) {
    std::vector<double> steps;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        if (parts[i].n > 1)
            steps.push_back(static_cast<double>(parts[i].to - parts[i].from) / static_cast<double>(parts[i].n - 1));
        else if (i > 0 && parts[i - 1].n == 1)
            steps.push_back(static_cast<double>(parts[i].from - parts[i - 1].from));
    }
    if (steps.empty()) return 0;
    const auto middle = steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2);
    std::nth_element(steps.begin(), middle, steps.end());
    return static_cast<TimeUs>(*middle);
}

/// Parts of a series; a run that is much longer than its samples need hides a gap and is looked at closely.
Result<std::vector<Summary>> parts_with_gaps(BenchFile& file, const std::string& id, TimeUs from, TimeUs to) {
    COGNITUM_TRY(parts, summaries(file, id, from, to, most_single));
    const TimeUs usual = usual_step(parts);
    std::vector<Summary> out;
    std::size_t refined = 0;
    for (const Summary& part : parts) {
        const auto need = static_cast<TimeUs>(part.n) * usual;
        if (part.n < 2 || part.to - part.from <= need + steps_to_a_gap * usual || refined == most_refined) {
            out.push_back(part);
            continue;
        }
        ++refined;
        COGNITUM_TRY(closer, summaries(file, id, part.from, part.to, most_single));
        for (const Summary& s : closer)
            if (s.from >= part.from && s.to <= part.to) out.push_back(s);
    }
    return out;
}

std::vector<Interval> silent_in(const std::vector<Summary>& parts, TimeUs usual) {
    std::vector<Interval> out;
    for (std::size_t i = 1; i < parts.size(); ++i)
        if (parts[i].from - parts[i - 1].to > steps_to_a_gap * usual)
            out.push_back({parts[i - 1].to, parts[i].from});
    return out;
}

/// Neighbours joined, but never over a gap.
std::vector<Summary> thinned_between(const std::vector<Summary>& parts, const std::vector<Interval>& silent,
                                     std::size_t most) {
    std::vector<Summary> out;
    if (parts.empty()) return out;
    const TimeUs length = std::max<TimeUs>(1, parts.back().to - parts.front().from);
    std::size_t begin = 0;
    for (std::size_t i = 0; i <= silent.size(); ++i) {
        std::size_t end = parts.size();
        if (i < silent.size())
            end = static_cast<std::size_t>(std::lower_bound(parts.begin(), parts.end(), silent[i].to,
                                                            [](const Summary& s, TimeUs t) { return s.from < t; }) -
                                           parts.begin());
        if (end <= begin) continue;
        const std::span<const Summary> run(parts.data() + begin, end - begin);
        const double share = static_cast<double>(run.back().to - run.front().from) / static_cast<double>(length);
        const auto room = static_cast<std::size_t>(share * static_cast<double>(most)) + 2;
        const auto joined = thinned(run, room);
        out.insert(out.end(), joined.begin(), joined.end());
        begin = end;
    }
    return out;
}

std::vector<Growth> columns_of(const std::vector<Summary>& parts, const LanesQuestion& question) {
    if (question.to - question.from <= hourly_below) return growth_of(parts, hour_of);
    const auto periods = calendar_periods(question.columns, question.from, question.to, question.zone);
    std::size_t at = 0;
    return growth_of(parts, [&](TimeUs t) -> std::optional<Growth> {
        while (at < periods.size() && periods[at].to <= t)
            ++at;
        if (at == periods.size() || periods[at].from > t) return {};
        return Growth{periods[at].from, periods[at].to, 0};
    });
}

Lane lane_of(const Reading& reading, const std::vector<Summary>& parts, const LanesQuestion& question) {
    Lane lane{reading.id, lane_shape(reading), {}, {}, {}, {}};
    lane.silent = silent_in(parts, usual_step(parts));
    if (lane.shape == LaneShape::columns) lane.columns = columns_of(parts, question);
    lane.parts = thinned_between(parts, lane.silent, question.most);
    return lane;
}

/// Joins intervals that touch or overlap.
std::vector<Interval> joined(std::vector<Interval> list) {
    std::sort(list.begin(), list.end(), [](const Interval& a, const Interval& b) { return a.from < b.from; });
    std::vector<Interval> out;
    for (const Interval& i : list) {
        if (!out.empty() && i.from <= out.back().to)
            out.back().to = std::max(out.back().to, i.to);
        else
            out.push_back(i);
    }
    return out;
}

} // namespace

LaneShape lane_shape(const Reading& reading) {
    const QuantityKind& kind = reading.quantity.about();
    if (kind.is_total) return LaneShape::columns;
    return kind.is_state() ? LaneShape::share : LaneShape::curve;
}

Result<Lanes> recorded_lanes(BenchFile& file, const Bench& bench, const LanesQuestion& question) {
    Lanes out;
    const TimeUs margin = (question.to - question.from) / 50; // so that a line leaves the picture
    std::map<std::string, std::vector<Summary>> chosen;
    for (const Reading& reading : bench.readings) {
        const bool shown =
            std::find(question.readings.begin(), question.readings.end(), reading.id) != question.readings.end();
        auto parts = parts_with_gaps(file, reading.id, question.from - margin, question.to + margin);
        if (!parts) {
            if (shown) out.lanes.push_back({reading.id, lane_shape(reading), {}, {}, {}, parts.error().text()});
            continue;
        }
        const TimeUs usual = usual_step(*parts);
        for (const Summary& s : *parts)
            out.recorded.push_back({s.from, s.to + steps_to_a_gap * usual});
        if (shown) out.lanes.push_back(lane_of(reading, *parts, question));
    }
    const auto place_of = [&](const Lane& lane) {
        return std::find(question.readings.begin(), question.readings.end(), lane.reading);
    };
    std::sort(out.lanes.begin(), out.lanes.end(),
              [&](const Lane& a, const Lane& b) { return place_of(a) < place_of(b); });
    out.recorded = joined(std::move(out.recorded));
    LogFilter filter;
    filter.from = question.from;
    filter.to = question.to;
    filter.newest = most_lane_entries;
    COGNITUM_TRY(entries, file.find_log(filter));
    out.entries = std::move(entries);
    return out;
}

Result<std::optional<Interval>> recorded_span(BenchFile& file, const Bench& bench) {
    std::optional<Interval> span;
    const auto widen = [&](TimeUs from, TimeUs to) {
        span = span ? Interval{std::min(span->from, from), std::max(span->to, to)} : Interval{from, to};
    };
    for (const Reading& reading : bench.readings) {
        COGNITUM_TRY(all, extent(file, reading.id));
        if (all.n > 0) widen(all.first, all.last);
    }
    COGNITUM_TRY(log, file.log_span());
    if (log) widen(log->first, log->second);
    return span;
}

Result<std::vector<ReadingFigures>> recorded_figures(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                                     const std::vector<std::string>& readings, TimeUs from,
                                                     TimeUs to) {
    std::vector<ReadingFigures> out;
    for (const std::string& id : readings) {
        const Reading* reading = bench.reading(id);
        if (!reading)
            return failure(phrase("the reading is no longer in the plan."), id, phrase("Choose the lanes anew."));
        auto figures = figures_of(file, bench, catalog, *reading, from, to);
        if (figures) {
            out.push_back(std::move(*figures));
            continue;
        }
        ReadingFigures unread;
        unread.stretch.from = from;
        unread.stretch.to = to;
        unread.trouble = figures.error().text();
        out.push_back(std::move(unread));
    }
    return out;
}

std::string stretch_says(const ReadingFigures& figures, const Reading& reading) {
    const StretchFigures& s = figures.stretch;
    const std::string& unit = reading.quantity.unit;
    if (!figures.trouble.empty()) return figures.trouble;
    if (s.n == 0) return phrase("no lines");
    if (s.valued == 0) return phrase("no value");
    if (s.total) {
        const double doubt = 2 * figures.u_total;
        std::string out =
            std::isfinite(doubt) ? format_with_doubt(*s.total, doubt, unit) : format_measure(*s.total, unit, 4);
        out += phrase(" in {}", duration_text(s.to - s.from));
        if (s.in_gaps > 0) out += phrase(", of it {} in gaps", format_measure(s.in_gaps, unit, 2));
        return out;
    }
    if (reading.quantity.about().is_state()) {
        const double all = s.coverage * seconds(s.to - s.from);
        for (const BandTime& b : s.bands)
            if (b.name == reading.quantity.about().on_word.text() && all > 0)
                return phrase("{} {:.0f} % of the time", b.name, 100 * b.seconds / all);
        return phrase("{} all the time", reading.quantity.about().off_word);
    }
    const double doubt = figures.digits_of_value(reading.quantity);
    const double change = s.last - s.first;
    if (std::abs(change) <= 2 * doubt) return phrase("at its end as at its start, within the doubt");
    return phrase("{} by {}", change > 0 ? phrase("rose") : phrase("fell"),
                  format_value(std::abs(change), doubt, unit));
}

} // namespace cognitum
