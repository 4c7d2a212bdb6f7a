#include "core/watch/offer_ground.h"

#include "core/base/phrase.h"
#include "core/decode/number.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "core/watch/bands.h"
#include "core/watch/corridor.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

void of_temperature(OfferGround& g) {
    const double frost = g.from(0, "degC");
    if (!g.has_record() || g.record.quantile(0) < g.from(8, "degC")) {
        RuleOffer& cold =
            g.offer(phrase("Frost"), WatchWhen::below, frost,
                    phrase("Water freezes; for air at breast height, the ground is colder by some degrees."));
        cold.rule.conditions[0].clear = frost + std::max(g.step(), g.from(1, "degC") - g.from(0, "degC"));
        cold.rule.count = 3;
        cold.rule.breaks_quiet = true;
    }
    if (!g.has_record()) return;
    const double warm = round_for_person(g.record.quantile(1) + 2 * g.step(), g.step());
    g.offer(phrase("Warmer than ever"), WatchWhen::above, warm,
            phrase("Above the warmest hour of {}.", g.record_text()))
        .rule.count = 3;
}

/// Limits for each day as the last session of this reading that ended was, wider by a step; empty: there is none of
/// two days on the record. Days that differ by less than a step are one.
std::vector<CorridorStep> corridor_of_record(const OfferGround& g, const Interval& run) {
    std::vector<CorridorStep> out;
    const int days = static_cast<int>(std::min<TimeUs>((run.to - run.from) / day_us, most_corridor_steps));
    for (int day = 1; day <= days; ++day) {
        double low = 0;
        double high = 0;
        bool any = false;
        for (const HourFigures& hour : g.record.hours) {
            if (hour.from < run.from + (day - 1) * day_us || hour.from >= run.from + day * day_us) continue;
            low = any ? std::min(low, hour.mean()) : hour.mean();
            high = any ? std::max(high, hour.mean()) : hour.mean();
            any = true;
        }
        if (!any) continue;
        const CorridorStep step{double(day), round_for_person(low - g.step(), g.step()),
                                round_for_person(high + g.step(), g.step())};
        const bool same = !out.empty() && std::abs(step.low - out.back().low) <= g.step() &&
                          std::abs(step.high - out.back().high) <= g.step();
        if (!same) out.push_back(step);
    }
    if (out.empty() || days < 2) return {};
    out.front().from_day = 1;
    return out;
}

void of_sessions(OfferGround& g) {
    const auto by_day = [&](const TimedSession& s) {
        return !s.readings.empty() && s.readings.front() == g.reading.id &&
               (s.kind == SessionKind::fermentation || s.kind == SessionKind::other);
    };
    if (std::none_of(g.bench.sessions.begin(), g.bench.sessions.end(), by_day)) return;
    const std::vector<Interval> runs = corridor_runs(g.bench, g.reading.id);
    std::vector<CorridorStep> steps;
    for (auto run = runs.rbegin(); run != runs.rend() && steps.empty(); ++run)
        if (run->to <= g.record.last) steps = corridor_of_record(g, *run);
    std::string why =
        phrase("As its last session of some days was, wider by the doubt: type the limits of your recipe.");
    if (steps.empty()) {
        const std::optional<Bands>& bands = g.reading.bands;
        steps = {{1, bands ? bands->low : g.quantity().low, bands ? bands->high : g.quantity().high}};
        why =
            phrase("What it is planned for, from the first day of its session on: type the limits of your recipe.");
    }
    RuleOffer& leaves = g.offer(phrase("Leaves its corridor"), WatchWhen::corridor, 0, why);
    leaves.rule.conditions[0].corridor = std::move(steps);
    leaves.rule.count = 3;
}

void of_humidity(OfferGround& g) {
    RuleOffer& mould =
        g.offer(phrase("Mould may grow"), WatchWhen::above, 80,
                phrase("Above 80 % for half a day: the usual limit at which mould begins on walls."));
    mould.rule.for_s = 6 * 3600;
    mould.rule.conditions[0].clear = 75;
    mould.rule.repeat_s = 86400;
    RuleOffer& dew =
        g.offer(phrase("Dew"), WatchWhen::above, 97,
                phrase("Near 100 % water settles on what is as cold as the air. Under a clear sky roofs and cars "
                       "are colder by some degrees: there it begins sooner."));
    dew.rule.conditions[0].clear = 93;
    dew.rule.count = 3;
    dew.rule.rank = WatchRank::note;
    dew.rule.repeat_s = 0;
}

void of_pulse(OfferGround& g) {
    RuleOffer& high = g.offer(phrase("Above my limit"), WatchWhen::above, 150,
                              phrase("A number of your own: ask somebody who knows you. It is no diagnosis."));
    high.rule.conditions[0].clear = 145;
    high.rule.for_s = 20;
    high.rule.repeat_s = 600;
    RuleOffer& contact =
        g.offer(phrase("Contact is bad"), WatchWhen::failing, 0,
                phrase("Lines without a beat to trust: there is no number while the contact is bad."));
    contact.rule.for_s = 60;
    contact.rule.rank = WatchRank::note;
    contact.rule.repeat_s = 0;
}

void of_state(OfferGround& g) {
    int busiest = 0;
    for (const HourFigures& hour : g.record.hours)
        busiest = std::max(busiest, hour.came_on);
    const QuantityKind& kind = g.quantity().about();
    if (kind.rest_s > 1) { // movement: what counts is when, and how often
        RuleOffer& night = g.offer(phrase("Movement at night"), WatchWhen::equal, 1,
                                   phrase("Between 23:00 and 05:00; a fox is a movement too: mark what was none."));
        night.rule.hours = {23 * 60, 5 * 60};
        night.rule.count = 2;
        night.rule.repeat_s = 3600;
        RuleOffer& many = g.over_time(phrase("More than ever"), WatchWhen::grows, std::max(busiest, 3), 3600,
                                      phrase("The busiest hour of {} had {}.", g.record_text(), busiest));
        many.rule.rank = WatchRank::note;
        return;
    }
    RuleOffer& open =
        g.offer(phrase("Open too long"), WatchWhen::equal, 0, phrase("Ten minutes without being closed."));
    open.rule.for_s = 600;
    open.rule.repeat_s = 3600;
}

void of_light(OfferGround& g) {
    RuleOffer& dusk =
        g.offer(phrase("Dusk"), WatchWhen::below, g.from(50, "lx"),
                phrase("50 lx, for ten minutes: a cloud is shorter. A lamp near the sensor ends the dusk."));
    dusk.rule.conditions[0].clear = g.from(150, "lx");
    dusk.rule.for_s = 600;
    dusk.rule.rank = WatchRank::note;
    dusk.rule.repeat_s = 0;
    constexpr double twilight_min = 20;
    RuleOffer& sun =
        g.offer(phrase("Night by the sun"), WatchWhen::night, twilight_min,
                phrase("From 20 minutes after the computed sunset to 20 before sunrise: no cloud and no lamp "
                       "changes it, and no fog brings it forward."));
    sun.rule.rank = WatchRank::note;
    sun.rule.repeat_s = 0;
    RuleOffer& both = g.offer(phrase("Dark, at night"), WatchWhen::below, g.from(50, "lx"),
                              phrase("By sensor and by the sun: a covered sensor at noon says nothing."));
    both.rule.conditions[0].clear = g.from(150, "lx");
    both.rule.for_s = 600;
    both.rule.rank = WatchRank::note;
    both.rule.repeat_s = 0;
    WatchCondition night = sun.rule.conditions[0];
    night.value = 0;
    both.rule.conditions.push_back(night);
}

void of_soil(OfferGround& g) {
    const double low = g.has_record() ? g.record.quantile(0.02) : 20;
    const double limit = round_for_person(std::max(low, 0.0), 1);
    RuleOffer& dry = g.offer(phrase("Dry"), WatchWhen::below, limit,
                             g.has_record() ? phrase("It was drier than {} in 2 % of {}; only the plants know "
                                                     "what is too dry.",
                                                     g.text(limit), g.record_text())
                                            : phrase("Nothing is recorded yet: put your own limit."));
    dry.rule.count = 3;
    RuleOffer& wet = g.over_time(phrase("Watered, or rained"), WatchWhen::changes, std::max(10.0, 4 * g.step()),
                                 3 * 3600, phrase("A jump within three hours that is beyond its doubt."));
    wet.rule.rank = WatchRank::note;
    wet.rule.repeat_s = 0;
}

void of_conductivity(OfferGround& g) {
    const double usual = g.has_record() ? g.record.quantile(0.5) : g.quantity().high / 2;
    const double jump = std::max(0.1 * usual, 4 * g.step());
    g.over_time(
        phrase("A jump"), WatchWhen::changes, round_for_person(jump, jump / 10), 3600,
        phrase("A tenth of its usual {} within an hour: fresh water, a bubble, or a dry probe.", g.text(usual)));
}

void of_pressure(OfferGround& g) {
    const double usual_hPa =
        g.has_record() ? convert_unit(g.record.quantile(0.5), g.quantity().unit, "hPa").value_or(0) : 1013;
    if (usual_hPa > 800 && usual_hPa < 1100) {
        g.over_time(phrase("Falls quickly"), WatchWhen::falls, g.from(1.2, "hPa") - g.from(0, "hPa"), 3 * 3600,
                    phrase("3.6 hPa in three hours: from there on weather services say “falling quickly”."))
            .rule.conditions[0]
            .hysteresis = 0.5 * (g.from(1.2, "hPa") - g.from(0, "hPa"));
        return;
    }
    const double usual = g.has_record() ? g.record.quantile(0.5) : (g.quantity().low + g.quantity().high) / 2;
    const double limit = round_for_person(0.9 * usual, usual / 100);
    g.offer(phrase("Low"), WatchWhen::below, limit,
            phrase("A tenth below its usual {}; compare at one temperature before you blame the valve.",
                   g.text(usual)))
        .rule.count = 3;
}

void of_any(OfferGround& g) {
    if (!g.has_record()) return;
    const double high = round_for_person(g.record.quantile(1) + 2 * g.step(), g.step());
    const double low = round_for_person(g.record.quantile(0) - 2 * g.step(), g.step());
    if (!(low < high)) return;
    RuleOffer& out = g.offer(phrase("Not as ever"), WatchWhen::outside, low,
                             phrase("Outside of what it was in {}.", g.record_text()));
    out.rule.conditions[0].upper = high;
    out.rule.conditions[0].hysteresis = std::min(g.step(), (high - low) / 10);
    out.rule.count = 3;
}

using Maker = void (*)(OfferGround&);
/// By kind of quantity; what is not here gets the plain ones.
constexpr std::pair<const char*, Maker> makers[] = {{"volume", offer_of_vessel},
                                                    {"level", offer_of_vessel},
                                                    {"rain", offer_of_rain},
                                                    {"temperature", of_temperature},
                                                    {"humidity", of_humidity},
                                                    {"pulse-rate", of_pulse},
                                                    {"motion", of_state},
                                                    {"contact", of_state},
                                                    {"light", of_light},
                                                    {"soil-moisture", of_soil},
                                                    {"conductivity", of_conductivity},
                                                    {"pressure", of_pressure}};

/// Silence by the part's own way of reporting: as long as it ever was, and half as much again.
void of_age(OfferGround& g) {
    if (g.quantity().about().is_private) return; // it is measured when somebody wants to
    double after = silent_after_s(g.quantity());
    std::string why = phrase("A value is expected every {}.", duration_text(from_seconds(g.quantity().interval_s)));
    if (g.record.lines > 1000) {
        const double seen = 1.5 * seconds(g.record.long_gap);
        if (seen > after)
            why = phrase("Half as long again as its usual pauses on the record, {}.",
                         duration_text(g.record.long_gap));
        after = std::max(after, seen);
    }
    const double step = after > 7200 ? 3600 : after > 120 ? 60 : 10;
    after = std::max(60.0, std::ceil(after / step) * step);
    RuleOffer& silent = g.offer(phrase("No word"), WatchWhen::silent, after, why);
    silent.rule.conditions[0].clear.reset();
    silent.rule.rank = WatchRank::bad;
    RuleOffer& failing =
        g.offer(phrase("No value"), WatchWhen::failing, 0, phrase("Lines come, and say nothing that is a number."));
    failing.rule.for_s = std::max(300.0, 10 * g.quantity().interval_s);
}

} // namespace

double round_for_person(double value, double step_hint) {
    if (!(step_hint > 0) || !std::isfinite(value)) return value;
    const double power = std::pow(10.0, std::floor(std::log10(step_hint)));
    const double lead = step_hint / power;
    const double step = power * (lead < 1.5 ? 1 : lead < 3.5 ? 2 : lead < 7.5 ? 5 : 10);
    const double rounded = std::round(value / step) * step;
    // What the division left behind the last digit.
    return number_of(fmt::format("{:.12g}", rounded)).value_or(rounded);
}

std::vector<RuleOffer> rule_offers(const Bench& bench, const Reading& reading, const HourlyRecord& record,
                                   double doubt, const ZoneOffset& zone) {
    std::vector<RuleOffer> out;
    out.reserve(16); // offers are changed while others are made
    OfferGround ground{bench, reading, record, std::isfinite(doubt) ? doubt : 0, zone, out};
    const auto* const own = std::find_if(std::begin(makers), std::end(makers),
                                         [&](const auto& m) { return reading.quantity.kind == m.first; });
    (own == std::end(makers) ? &of_any : own->second)(ground);
    of_sessions(ground);
    of_age(ground);
    std::erase_if(out, [&](const RuleOffer& offer) {
        return !defect_of(offer.rule).empty() ||
               std::any_of(bench.watch_rules.begin(), bench.watch_rules.end(), [&](const WatchRule& known) {
                   return known.name == offer.rule.name && known.reading() == reading.id;
               });
    });
    return out;
}

WatchRule first_rule(const Reading& reading, const HourlyRecord& record) {
    WatchRule out;
    WatchCondition c;
    c.reading = reading.id;
    const double step = reading.quantity.accuracy;
    if (reading.quantity.about().is_state()) {
        c.when = WatchWhen::equal;
        c.value = 1;
        out.name = phrase("It is so");
    } else {
        c.value =
            round_for_person(record.hours.empty() ? reading.quantity.high : record.quantile(0.99) + step, step);
        c.clear = c.value - step;
        out.name = phrase("Too high");
        out.count = 3;
    }
    out.conditions = {c};
    out.repeat_s = half_day_s;
    return out;
}

} // namespace cognitum
