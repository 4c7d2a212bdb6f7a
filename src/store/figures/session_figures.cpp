#include "store/figures/session_figures.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "store/samples/samples.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr std::size_t most_parts = 600;
constexpr std::size_t most_days = 400;

/// How a reading goes over a session, in one pass.
struct Course {
    double start = no_number,
           end = no_number; ///< means over the first and the last twentieth, at most five minutes
    double most = no_number;
    TimeUs most_at = 0;
    std::optional<TimeUs> half_cooled; ///< after the most: back half way to where it started
    double above_s = 0;                ///< longer than the limit that was given
};

Result<Course> course_of(BenchFile& file, const std::string& reading, const Interval& stretch, double limit) {
    const TimeUs end_length = std::clamp<TimeUs>((stretch.to - stretch.from) / 20, 1, 5 * minute_us);
    Course out;
    double start_sum = 0, end_sum = 0, first = no_number, last = no_number;
    std::uint64_t start_n = 0, end_n = 0;
    std::optional<TimeUs> above_since;
    COGNITUM_CHECK(for_each_sample(file, reading, stretch.from, stretch.to - 1, [&](std::span<const Sample> part) {
        for (const Sample& s : part) {
            if (above_since) { // what was above at a sample holds until the next, as far as five minutes
                out.above_s += seconds(std::min<TimeUs>(s.time - *above_since, 5 * minute_us));
                above_since.reset();
            }
            if (!std::isfinite(s.value)) continue;
            if (!std::isfinite(first)) first = s.value;
            last = s.value;
            if (s.time < stretch.from + end_length) start_sum += s.value, ++start_n;
            if (s.time >= stretch.to - end_length) end_sum += s.value, ++end_n;
            if (!(s.value <= out.most)) {
                out.most = s.value;
                out.most_at = s.time;
                out.half_cooled.reset();
            }
            const double from = start_n > 0 ? start_sum / static_cast<double>(start_n) : first;
            if (!out.half_cooled && s.value <= (out.most + from) / 2 && out.most > from) out.half_cooled = s.time;
            if (s.value > limit) above_since = s.time;
        }
        return true;
    }));
    out.start = start_n > 0 ? start_sum / static_cast<double>(start_n) : first;
    out.end = end_n > 0 ? end_sum / static_cast<double>(end_n) : last;
    return out;
}

/// What a session's facts are made of.
struct Asked {
    BenchFile& file;
    const Bench& bench;
    const Catalog& catalog;
    const TimedSession& session;
    Interval stretch;
    SessionFigures& out;

    /// Expanded doubt of one value; NaN where nothing is known.
    [[nodiscard]] double doubt(const Reading& r, double value) const {
        return std::isfinite(value) ? 2 * value_u(bench, catalog, r, value, stretch.to) : no_number;
    }
    void say(const Reading& r, const char* name, double value, double doubt, const std::string& unit) const {
        out.facts.push_back({r.id, name, value, doubt, unit});
    }
    void value(const Reading& r, const char* name, double value) const {
        say(r, name, value, doubt(r, value), r.quantity.unit);
    }
};

/// Of a reading that is a state or a total the figures say it all.
bool moves(const Reading& reading) {
    return !reading.quantity.about().is_state() && !reading.quantity.about().is_total;
}

Result<void> say_ends(const Asked& ask, const Reading& r) {
    COGNITUM_TRY(course, course_of(ask.file, r.id, ask.stretch, no_number));
    ask.value(r, phrase("at the start"), course.start);
    ask.value(r, phrase("at the end"), course.end);
    // Of two values that know nothing of each other: an upper bound, for they share their constants.
    ask.say(r, phrase("change"), course.end - course.start,
            std::hypot(ask.doubt(r, course.start), ask.doubt(r, course.end)), r.quantity.unit);
    return {};
}

Result<void> say_fire(const Asked& ask, const Reading& r, bool leads) {
    if (!leads) return say_ends(ask, r);
    const SessionRule* rule = ask.bench.session_rule(ask.session.rule);
    const bool has_limit = rule && rule->when == SessionWhen::above && rule->reading == r.id;
    const double limit = has_limit ? rule->limit : r.bands ? r.bands->high : no_number;
    COGNITUM_TRY(course, course_of(ask.file, r.id, ask.stretch, limit));
    ask.value(r, phrase("hottest"), course.most);
    if (std::isfinite(course.most))
        ask.say(r, phrase("reached after"), seconds(course.most_at - ask.stretch.from), no_number, "s");
    if (course.half_cooled)
        ask.say(r, phrase("half cooled after another"), seconds(*course.half_cooled - course.most_at), no_number,
                "s");
    if (std::isfinite(limit)) {
        ask.say(r, phrase("limit"), limit, no_number, r.quantity.unit);
        ask.say(r, phrase("above the limit for"), course.above_s, no_number, "s");
    }
    return {};
}

void say_share(const Asked& ask, const Reading& r, const char* name, double share) {
    ask.say(r, name, 100 * share, no_number, "%");
}

Result<void> say_fermentation(const Asked& ask, const Reading& r, bool leads, const ZoneOffset& zone) {
    if (!leads) return say_ends(ask, r);
    std::vector<CalendarPeriod> days = calendar_periods(Period::day, ask.stretch.from, ask.stretch.to, zone);
    if (days.size() > most_days) days.resize(most_days);
    double warmest = no_number, coldest = no_number, held = 0, inside = 0;
    for (CalendarPeriod& day : days) {
        day.from = std::max(day.from, ask.stretch.from);
        day.to = std::min(day.to, ask.stretch.to);
        COGNITUM_TRY(figures, figures_of(ask.file, ask.bench, ask.catalog, r, day.from, day.to));
        const StretchFigures& s = figures.stretch;
        if (s.valued > 0) {
            warmest = std::fmax(warmest, s.mean);
            coldest = std::fmin(coldest, s.mean);
        }
        for (const BandTime& b : s.bands) {
            held += b.seconds;
            if (b.name == zone_word(Zone::in_range)) inside += b.seconds;
        }
        ask.out.days.push_back({day, s});
    }
    ask.value(r, phrase("highest mean of a day"), warmest);
    ask.value(r, phrase("lowest mean of a day"), coldest);
    if (held > 0) say_share(ask, r, phrase("of the time in its band"), inside / held);
    return {};
}

Result<void> say_body(const Asked& ask, const Reading& r, const ReadingFigures& figures) {
    const StretchFigures& s = figures.stretch;
    ask.say(r, phrase("mean"), s.mean, figures.shared_known ? 2 * figures.u_mean : no_number, r.quantity.unit);
    if (r.quantity.about().is_private) {
        ask.value(r, phrase("most"), s.most);
        say_share(ask, r, phrase("of the time with a value"), s.coverage);
        return {};
    }
    return say_ends(ask, r);
}

Result<void> say_facts(const Asked& ask, const Reading& r, const ReadingFigures& figures, bool leads,
                       const ZoneOffset& zone) {
    if (!moves(r) || figures.stretch.valued == 0) return {};
    switch (ask.session.kind) {
    case SessionKind::fire: return say_fire(ask, r, leads);
    case SessionKind::fermentation: return say_fermentation(ask, r, leads, zone);
    case SessionKind::swim:
    case SessionKind::pulse: return say_body(ask, r, figures);
    case SessionKind::drive:
    case SessionKind::other: break;
    }
    return say_ends(ask, r);
}

} // namespace

std::string session_fact_text(const SessionFact& fact) {
    if (!std::isfinite(fact.value)) return "—";
    if (fact.unit == "s") return duration_text(from_seconds(fact.value));
    if (std::isfinite(fact.doubt)) return format_with_doubt(fact.value, fact.doubt, fact.unit);
    if (fact.unit == "%") return format_value(fact.value, std::abs(fact.value) < 10 ? 0.5 : 1, "%");
    return format_measure(fact.value, fact.unit, 3); // how sure it is, is not known
}

Result<SessionFigures> session_figures(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                       const TimedSession& session, TimeUs now, const ZoneOffset& zone) {
    SessionFigures out;
    out.stretch = {session.from, std::max(session.end(now), session.from + 1)};
    const Asked ask{file, bench, catalog, session, out.stretch, out};
    for (const std::string& id : session.readings) {
        const Reading* reading = bench.reading(id);
        if (!reading) continue;
        auto figures = figures_of(file, bench, catalog, *reading, out.stretch.from, out.stretch.to);
        if (figures) {
            const bool leads = out.readings.empty();
            if (const auto said = say_facts(ask, *reading, *figures, leads, zone); !said)
                figures->trouble = said.error().text();
        } else {
            ReadingFigures unread;
            unread.trouble = figures.error().text();
            figures = std::move(unread);
        }
        const std::string& is_not = reading->quantity.about().is_not;
        if (out.caution.find(is_not) == std::string::npos) out.caution += (out.caution.empty() ? "" : " ") + is_not;
        out.readings.push_back(id);
        out.figures.push_back(std::move(*figures));
    }
    return out;
}

Result<std::vector<Interval>> find_sessions(BenchFile& file, const Bench& bench, const SessionRule& rule,
                                            TimeUs from, TimeUs to) {
    const Reading* reading = bench.reading(rule.reading);
    if (!reading)
        return failure(
            phrase("the rule \"{}\" looks at \"{}\", which is not in the plan.", rule.name, rule.reading),
            file.path(), phrase("Choose another reading for it."));
    SessionFinder finder(rule);
    RuleValues values(*reading);
    COGNITUM_CHECK(for_each_sample(file, reading->id, from, to - 1, [&](std::span<const Sample> samples) {
        for (const Sample& s : samples)
            finder.take(s.time, values.take(s.time, s.value));
        return true;
    }));
    std::vector<Interval> out = finder.ended();
    if (const auto begun = finder.under_way()) out.push_back({*begun, finder.last_held() + 1});
    return out;
}

Result<std::vector<SinceStart>> since_start(BenchFile& file, const std::string& reading, const Interval& stretch) {
    COGNITUM_TRY(parts, summaries(file, reading, stretch.from, stretch.to - 1, 100'000));
    // Even steps of time: two sessions of one length have their parts at the same places.
    const TimeUs step = std::max<TimeUs>(1, (stretch.to - stretch.from) / static_cast<TimeUs>(most_parts));
    std::vector<SinceStart> out;
    std::uint64_t n = 0;
    TimeUs at = -1;
    double sum = 0;
    for (const Summary& s : parts) {
        if (s.valued == 0 || s.to < stretch.from || s.from >= stretch.to) continue;
        const TimeUs middle = s.from + (s.to - s.from) / 2;
        const TimeUs bin = (middle - stretch.from) / step;
        if (bin != at) {
            out.push_back({seconds(bin * step + step / 2), s.low, s.high, no_number});
            at = bin;
            sum = 0;
            n = 0;
        }
        SinceStart& part = out.back();
        part.least = std::min(part.least, s.low);
        part.most = std::max(part.most, s.high);
        sum += s.sum;
        n += s.valued;
        part.mean = sum / static_cast<double>(n);
    }
    return out;
}

} // namespace cognitum
