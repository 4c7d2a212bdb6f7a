#include "cli/arguments.h"
#include "cli/cli.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "mirror/mirror.h"
#include "store/figures/reading_figures.h"
#include "store/file/data_files.h"
#include "store/zone.h"

#include <cmath>
#include <cstdio>
#include <fmt/format.h>

namespace cognitum::cli {

namespace {

/// A bench file with one of its readings.
struct Opened {
    BenchFile file;
    Bench plan;
    std::size_t reading = 0;
};

Result<Opened> open_reading(const std::string& path, const std::string& name) {
    COGNITUM_TRY(file, BenchFile::open(path, Access::read));
    COGNITUM_TRY(plan, file.load_plan());
    COGNITUM_TRY(at, find_reading(plan, path, name));
    return Opened{std::move(file), std::move(plan), at};
}

Result<std::optional<TimeUs>> time_given(const std::string& text, const std::string& option) {
    if (text.empty()) return std::optional<TimeUs>{};
    const auto time = parse_time(text);
    if (!time)
        return failure(fmt::format("\"{}\" is no time.", text), option,
                       "Write 2026-06-01T09:00:00Z, or seconds since 1970.");
    return time;
}

Json summary_json(const ReadingFigures& figures, const std::string& unit) {
    const StretchFigures& s = figures.stretch;
    const bool any = s.valued > 0;
    const auto when = [&](TimeUs t) { return any ? Json(iso_time(t)) : Json(nullptr); };
    Json bands = Json::array();
    for (const BandTime& b : s.bands)
        bands.push_back({{"name", b.name}, {"seconds", b.seconds}});
    Json failures = Json::array();
    for (const CauseCount& c : s.failures)
        failures.push_back({{"cause", cause_text(c.cause)}, {"n", c.n}});
    Json gaps = Json::array();
    for (const Interval& g : s.gaps)
        gaps.push_back({{"from", iso_time(g.from)}, {"to", iso_time(g.to)}});
    Json out = {{"n", s.n},
                {"valued", s.valued},
                {"unit", unit},
                {"from", iso_time(s.from)},
                {"to", iso_time(s.to)},
                {"least", number_or_null(s.least)},
                {"least_at", when(s.least_at)},
                {"mean", number_or_null(s.mean)},
                {"u_mean", number_or_null(figures.u_mean)},
                {"shared_doubt_known", figures.shared_known},
                {"most", number_or_null(s.most)},
                {"most_at", when(s.most_at)},
                {"total", s.total ? Json(*s.total) : Json(nullptr)},
                {"u_total", number_or_null(figures.u_total)},
                {"per_hour", number_or_null(s.per_hour)},
                {"usual_interval_s", seconds(figures.usual)},
                {"bands", bands},
                {"failures", failures},
                {"coverage", s.coverage},
                {"gaps", gaps}};
    if (s.all_gaps > s.gaps.size()) out["all_gaps"] = s.all_gaps;
    if (s.total) {
        out["total_from"] = figures.adds == Adds::amounts ? "amounts" : "running total";
        out["total_in_gaps"] = s.in_gaps;
    }
    return out;
}

void print_summary(const ReadingFigures& figures, const Reading& reading) {
    const StretchFigures& s = figures.stretch;
    const std::string& unit = reading.quantity.unit;
    const auto line = [](const std::string& text) { std::puts(text.c_str()); };
    line(fmt::format("{}, {} to {}: {} samples, {} with a value, {:.1f} % of the time.", reading.name,
                     iso_time(s.from), iso_time(s.to), s.n, s.valued, 100 * s.coverage));
    if (s.valued > 0 && !s.total && !reading.quantity.about().is_state()) {
        const double digits = figures.digits_of_value(reading.quantity);
        line(fmt::format("  least {} at {}", format_value(s.least, digits, unit), iso_time(s.least_at)));
        line(fmt::format("  mean  {}", figures.shared_known
                                           ? format_with_doubt(s.mean, 2 * figures.u_mean, unit)
                                           : format_value(s.mean, figures.digits_of_mean(reading.quantity), unit) +
                                                 ", how sure is not known: its part has no stated limit"));
        line(fmt::format("  most  {} at {}", format_value(s.most, digits, unit), iso_time(s.most_at)));
    }
    if (s.total)
        line(fmt::format("  total {}{}",
                         std::isfinite(figures.u_total) ? format_with_doubt(*s.total, 2 * figures.u_total, unit)
                                                        : format_measure(*s.total, unit, 4),
                         s.in_gaps > 0
                             ? fmt::format(", of it {} while no lines came", format_measure(s.in_gaps, unit, 3))
                             : std::string()));
    for (const BandTime& b : s.bands)
        line(fmt::format("  {}: {:.1f} h", b.name, b.seconds / 3600));
    for (const CauseCount& c : s.failures)
        line(fmt::format("  no value, {}: {}", cause_text(c.cause), c.n));
    for (const Interval& g : s.gaps)
        line(fmt::format("  no lines {} to {}", iso_time(g.from), iso_time(g.to)));
}

} // namespace

Result<StretchGiven> stretch_given(const std::string& from, const std::string& to) {
    COGNITUM_TRY(first, time_given(from, "--from"));
    COGNITUM_TRY(end, time_given(to, "--to"));
    if (first && end && *first >= *end)
        return failure("the stretch ends before it begins.", "--to", "Write a later time.");
    return StretchGiven{first, end};
}

int run_summary(const StretchRequest& request, bool json) {
    const auto stretch = stretch_given(request.from, request.to);
    if (!stretch) return complain(stretch.error(), usage);
    auto opened = open_reading(request.bench, request.reading);
    if (!opened) return complain(opened.error());
    const LoadedCatalog cards = load_catalog();
    const Reading& reading = opened->plan.readings[opened->reading];
    const auto figures = figures_of(opened->file, opened->plan, cards.catalog, reading, stretch->from, stretch->to);
    if (!figures) return complain(figures.error());
    if (json)
        print_json(summary_json(*figures, reading.quantity.unit));
    else
        print_summary(*figures, reading);
    return done;
}

int run_months(const PeriodRequest& request, bool json) {
    const auto period = period_named(request.by);
    if (!period)
        return complain(
            {fmt::format("\"{}\" is no period.", request.by), "--by", "Write day, month, season or year."}, usage);
    auto given = read_arguments(request.arguments);
    if (!given) return complain(given.error(), usage);
    for (const auto& [key, value] : *given)
        if (key != "zone" && key != "day_start")
            return complain({fmt::format("months does not know {}=.", key), "months", ""}, usage);
    const auto zone = zone_named(given->contains("zone") ? given->at("zone") : "local");
    if (!zone) return complain(zone.error(), usage);
    const auto day_start = clock_time(given->contains("day_start") ? given->at("day_start") : "00:00", "day_start");
    if (!day_start) return complain(day_start.error(), usage);
    auto opened = open_reading(request.bench, request.reading);
    if (!opened) return complain(opened.error());
    const Bench& plan = opened->plan;
    const Reading* against = nullptr;
    if (!request.against.empty()) {
        const auto at = find_reading(plan, request.bench, request.against);
        if (!at) return complain(at.error());
        against = &plan.readings[*at];
    }
    const LoadedCatalog cards = load_catalog();
    const auto table = figures_by_period(opened->file, plan, cards.catalog, plan.readings[opened->reading], against,
                                         *period, *zone, *day_start);
    if (!table) return complain(table.error());
    Json rows = Json::array();
    for (const PeriodFigures& row : table->rows) {
        Json one = {{request.by, row.period.label},           {"from", iso_time(row.period.from)},
                    {"to", iso_time(row.period.to)},          {"value", number_or_null(row.own.value)},
                    {"doubt", number_or_null(row.own.doubt)}, {"coverage", row.own.coverage}};
        if (row.other) {
            one["against"] = number_or_null(row.other->value);
            one["doubt_of_against"] = number_or_null(row.other->doubt);
            one["coverage_of_against"] = row.other->coverage;
            one["difference"] = number_or_null(row.difference);
            one["doubt_of_difference"] = number_or_null(row.doubt_of_difference);
            one["says"] = row.says;
        }
        rows.push_back(one);
    }
    if (json) {
        print_json(
            {{request.by + "s", rows}, {"unit", table->unit}, {"value_is", table->totals ? "total" : "mean"}});
        return done;
    }
    std::puts(fmt::format("{} of {}, {}; ± at 95 %.", table->totals ? "Totals" : "Means",
                          plan.readings[opened->reading].name, unit_symbol(table->unit))
                  .c_str());
    const auto measured = [](const PeriodValue& v) {
        if (!std::isfinite(v.value)) return std::string("—");
        return std::isfinite(v.doubt) ? format_fixed(v.value, decimals_for(v.doubt)) + " ± " +
                                            format_fixed(v.doubt, decimals_for(v.doubt))
                                      : format_constant(v.value, 4);
    };
    for (const PeriodFigures& row : table->rows) {
        std::string line = fmt::format("{}  {}  ({:.0f} % of the time)", row.period.label, measured(row.own),
                                       100 * row.own.coverage);
        if (row.other)
            line += fmt::format("  against {} ({:.0f} %), {}", measured(*row.other), 100 * row.other->coverage,
                                row.says);
        std::puts(line.c_str());
    }
    return done;
}

int run_mirror(const MirrorRequest& request, bool json) {
    auto file = BenchFile::open(request.bench, Access::read);
    if (!file) return complain(file.error());
    const auto plan = file->load_plan();
    if (!plan) return complain(plan.error());
    MirrorOptions options;
    options.bench = request.as;
    for (const std::string& name : request.readings) {
        const auto at = find_reading(*plan, request.bench, name);
        if (!at) return complain(at.error());
        options.readings.push_back(plan->readings[*at].id);
    }
    const LoadedCatalog cards = load_catalog();
    const auto report = mirror(*file, *plan, cards.catalog, request.address, options);
    if (!report) return complain(report.error());
    if (json)
        print_json({{"readings", report->readings}, {"samples", report->samples}, {"behind", report->behind}});
    else
        std::puts(fmt::format("{} samples of {} readings copied; the server lacks {}.", report->samples,
                              report->readings, report->behind)
                      .c_str());
    for (const std::string& name : report->private_readings)
        complain({fmt::format("\"{}\" is about somebody’s health and is left out.", name), request.bench,
                  fmt::format("To mirror it, name it: --reading \"{}\".", name)});
    return report->trouble.what.empty() ? done : complain(report->trouble, answer_is_no);
}

} // namespace cognitum::cli
