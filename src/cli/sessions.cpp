// The verbs about what was recorded as a whole: sessions, old data with new constants, a thinner copy.
#include "cli/cli.h"

#include "core/units/format.h"
#include "core/units/typed_number.h"
#include "core/units/unit.h"
#include "store/figures/session_figures.h"
#include "store/file/data_files.h"
#include "store/samples/reevaluate.h"
#include "store/upkeep/thin.h"
#include "store/zone.h"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <fmt/format.h>

namespace cognitum::cli {

namespace {

TimeUs system_now() {
    using namespace std::chrono;
    return duration_cast<microseconds>(system_clock::now().time_since_epoch()).count();
}

/// "10min" in seconds. Error naming the option.
Result<double> length_given(const std::string& text, const std::string& option) {
    const auto measure = parse_measure(text);
    const auto s = measure ? convert_unit(measure->value, measure->unit, "s")
                           : Result<double>(tl::make_unexpected(measure.error()));
    if (!s || !(*s >= 0))
        return failure(fmt::format("\"{}\" is no length of time.", text), option, "Write it as 90s, 10min or 2h.");
    return *s;
}

/// A limit in the reading's unit; of a total what comes in an hour, written without it: 2mm.
Result<double> limit_given(const std::string& text, const Reading& reading) {
    if (reading.quantity.unit == "1")
        if (const auto plain = typed_number(text)) return *plain;
    COGNITUM_TRY(measure, parse_measure(text));
    return convert_unit(measure.value, measure.unit, reading.quantity.unit);
}

const char* word_of(SessionKind kind) {
    for (const auto& [value, word] : session_kind_words())
        if (value == kind) return word;
    return "other";
}

Json session_line(const Bench& bench, const TimedSession& s) {
    return {{"id", s.id},
            {"name", s.name},
            {"kind", word_of(s.kind)},
            {"from", iso_time(s.from)},
            {"to", s.goes_on() ? Json(nullptr) : Json(iso_time(s.to))},
            {"readings", s.readings},
            {"begun_by", s.rule.empty() ? "hand" : s.rule},
            {"private", bench.is_private(s)}};
}

Json facts_json(const SessionFigures& figures) {
    Json facts = Json::array();
    for (const SessionFact& f : figures.facts)
        facts.push_back({{"reading", f.reading},
                         {"name", f.name},
                         {"value", number_or_null(f.value)},
                         {"doubt", number_or_null(f.doubt)},
                         {"unit", f.unit}});
    Json days = Json::array();
    for (const SessionDay& d : figures.days)
        days.push_back({{"day", d.day.label},
                        {"least", number_or_null(d.figures.least)},
                        {"mean", number_or_null(d.figures.mean)},
                        {"most", number_or_null(d.figures.most)},
                        {"coverage", d.figures.coverage}});
    return {{"from", iso_time(figures.stretch.from)},
            {"to", iso_time(figures.stretch.to)},
            {"facts", facts},
            {"days", days},
            {"caution", figures.caution}};
}

int show_session(BenchFile& file, const Bench& bench, const TimedSession& session, bool json) {
    const LoadedCatalog cards = load_catalog();
    const auto figures = session_figures(file, bench, cards.catalog, session, system_now(), system_zone());
    if (!figures) return complain(figures.error());
    if (json) {
        Json out = session_line(bench, session);
        out["summary"] = facts_json(*figures);
        print_json(out);
        return done;
    }
    std::puts(fmt::format("{} ({}), {} to {}", session.name, word_of(session.kind), iso_time(figures->stretch.from),
                          iso_time(figures->stretch.to))
                  .c_str());
    for (const SessionFact& f : figures->facts)
        std::puts(fmt::format("  {}: {} {}", bench.reading(f.reading)->name, f.name, session_fact_text(f)).c_str());
    for (std::size_t i = 0; i < figures->readings.size(); ++i)
        if (!figures->figures[i].trouble.empty())
            std::puts(
                fmt::format("  {}: {}", bench.reading(figures->readings[i])->name, figures->figures[i].trouble)
                    .c_str());
    for (const SessionDay& d : figures->days) { // of the reading that leads
        const Quantity& lead = bench.reading(figures->readings.front())->quantity;
        std::puts(
            fmt::format("  {}: {:.0f} % measured, mean {}", d.day.label, 100 * d.figures.coverage,
                        format_value(d.figures.mean, std::hypot(lead.accuracy / 2, d.figures.noise), lead.unit))
                .c_str());
    }
    if (!figures->caution.empty()) std::puts(figures->caution.c_str());
    return done;
}

int find_and_print(BenchFile& file, const Bench& bench, const SessionsRequest& request, bool json) {
    const auto at = find_reading(bench, request.bench, request.find);
    if (!at) return complain(at.error());
    const Reading& reading = bench.readings[*at];
    SessionRule rule;
    rule.name = "found";
    rule.reading = reading.id;
    const int conditions = !request.above.empty() + !request.below.empty() + request.valued;
    if (conditions != 1)
        return complain({"a session needs one condition.", "--find", "Write one of --above, --below and --valued."},
                        usage);
    rule.when = request.valued          ? SessionWhen::valued
                : request.above.empty() ? SessionWhen::below
                                        : SessionWhen::above;
    if (!request.valued) {
        const std::string& text = request.above.empty() ? request.below : request.above;
        const auto limit = limit_given(text, reading);
        if (!limit)
            return complain({limit.error().what, request.above.empty() ? "--below" : "--above",
                             "Write it in the reading’s unit" +
                                 (reading.quantity.unit == "1" ? std::string(", a plain number.")
                                                               : ", such as 60" + reading.quantity.unit + ".")},
                            usage);
        rule.limit = *limit;
    }
    const auto least = length_given(request.least, "--least");
    const auto pause = length_given(request.pause, "--pause");
    const auto stretch = stretch_given(request.from, request.to);
    if (!least) return complain(least.error(), usage);
    if (!pause) return complain(pause.error(), usage);
    if (!stretch) return complain(stretch.error(), usage);
    rule.least_s = *least;
    rule.pause_s = *pause;
    const auto found =
        find_sessions(file, bench, rule, stretch->from.value_or(earliest_time), stretch->to.value_or(latest_time));
    if (!found) return complain(found.error());
    Json list = Json::array();
    for (const Interval& s : *found) {
        list.push_back({{"from", iso_time(s.from)}, {"to", iso_time(s.to)}, {"seconds", seconds(s.to - s.from)}});
        if (!json)
            std::puts(
                fmt::format("{} to {}, {:.0f} min", iso_time(s.from), iso_time(s.to), seconds(s.to - s.from) / 60)
                    .c_str());
    }
    if (json) print_json({{"reading", reading.name}, {"found", list}});
    if (!json && list.empty()) std::puts("nothing found.");
    return done;
}

} // namespace

int run_sessions(const SessionsRequest& request, bool json) {
    auto file = BenchFile::open(request.bench, Access::read);
    if (!file) return complain(file.error());
    const auto plan = file->load_plan();
    if (!plan) return complain(plan.error());
    if (!request.find.empty()) return find_and_print(*file, *plan, request, json);
    if (!request.name.empty()) {
        std::vector<const TimedSession*> named;
        std::string ids;
        for (const TimedSession& s : plan->sessions) {
            if (s.id == request.name) return show_session(*file, *plan, s, json);
            if (s.name != request.name) continue;
            named.push_back(&s);
            ids += (ids.empty() ? "" : ", ") + s.id;
        }
        if (named.size() == 1) return show_session(*file, *plan, *named.front(), json);
        if (named.size() > 1)
            return complain({fmt::format("{} sessions are called \"{}\".", named.size(), request.name),
                             request.bench, "Say which by its id: " + ids + "."});
        return complain({fmt::format("there is no session \"{}\".", request.name), request.bench,
                         "Run without --name for a list."});
    }
    std::vector<TimedSession> list = plan->sessions;
    std::sort(list.begin(), list.end(), [](const auto& a, const auto& b) { return a.from < b.from; });
    Json out = Json::array();
    std::size_t left_out = 0;
    for (const TimedSession& s : list) {
        if (plan->is_private(s) && !request.with_private) {
            ++left_out;
            continue;
        }
        out.push_back(session_line(*plan, s));
        if (!json)
            std::puts(fmt::format("{}  {}  {}  {}", iso_time(s.from), s.goes_on() ? "goes on" : iso_time(s.to),
                                  s.id, s.name)
                          .c_str());
    }
    if (json) print_json({{"sessions", out}, {"private_left_out", left_out}});
    if (left_out > 0 && !json)
        std::puts(fmt::format("{} about somebody’s health are left out; --private shows them.", left_out).c_str());
    return done;
}

int run_reevaluate(const StretchRequest& request, bool json) {
    const auto stretch = stretch_given(request.from, request.to);
    if (!stretch) return complain(stretch.error(), usage);
    auto file = BenchFile::open(request.bench, Access::write);
    if (!file) return complain(file.error());
    const auto plan = file->load_plan();
    if (!plan) return complain(plan.error());
    const auto at = find_reading(*plan, request.bench, request.reading);
    if (!at) return complain(at.error());
    const Reading& reading = plan->readings[*at];
    std::optional<Interval> asked;
    if (stretch->from || stretch->to)
        asked = {stretch->from.value_or(earliest_time), stretch->to.value_or(latest_time)};
    const auto made = reevaluate(*file, reading.id, asked, system_now());
    if (!made) return complain(made.error());
    if (json)
        print_json({{"reading", made->name},
                    {"id", made->reading},
                    {"samples", made->samples},
                    {"both", made->both},
                    {"mean_difference", made->both > 0 ? Json(made->mean_difference) : Json(nullptr)},
                    {"largest_difference", made->both > 0 ? Json(made->largest_difference) : Json(nullptr)},
                    {"largest_at", made->both > 0 ? Json(iso_time(made->largest_at)) : Json(nullptr)},
                    {"lost", made->lost},
                    {"found", made->found},
                    {"unit", reading.quantity.unit}});
    else
        std::puts(reevaluated_says(*made, reading.quantity).c_str());
    return done;
}

int run_thin(const ThinCommand& command, bool json) {
    const auto before = parse_time(command.before);
    if (!before)
        return complain({fmt::format("\"{}\" is no time.", command.before), "--before",
                         "Write 2026-06-01T09:00:00Z, or seconds since 1970."},
                        usage);
    const auto step = length_given(command.step, "--step");
    if (!step) return complain(step.error(), usage);
    if (*step < 1) return complain({"a step is at least a second.", "--step", ""}, usage);
    auto file = BenchFile::open(command.bench, Access::read);
    if (!file) return complain(file.error());
    const auto plan = file->load_plan();
    if (!plan) return complain(plan.error());
    ThinRequest request{{}, *before, from_seconds(*step)};
    for (const std::string& name : command.readings) {
        const auto at = find_reading(*plan, command.bench, name);
        if (!at) return complain(at.error());
        request.readings.push_back(plan->readings[*at].id);
    }
    const auto thinned = thin_into(*file, request, command.copy, system_now());
    if (!thinned) return complain(thinned.error());
    Json list = Json::array();
    for (const ThinReport::Series& s : thinned->series) {
        list.push_back({{"reading", s.reading}, {"kept", s.kept}, {"thrown", s.thrown}});
        if (!json) std::puts(fmt::format("{}: {} kept, {} thrown away", s.reading, s.kept, s.thrown).c_str());
    }
    if (json) print_json({{"file", command.copy}, {"series", list}});
    if (!json && list.empty()) std::puts("nothing was old enough to be thrown away.");
    return done;
}

} // namespace cognitum::cli
