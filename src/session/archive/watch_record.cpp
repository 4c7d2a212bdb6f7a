#include "session/archive/watch_record.h"

#include "core/base/phrase.h"
#include "core/watch/rule_words.h"
#include "store/figures/reading_figures.h"
#include "store/figures/watch_trial.h"
#include "store/samples/samples.h"
#include "store/zone.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

DoubtOf doubts_of(const Bench& bench, const Catalog& catalog, TimeUs now) {
    return [&bench, &catalog, now](const Reading& reading, double value) {
        return 2 * value_u(bench, catalog, reading, value, now);
    };
}

double doubt_at_limit(const WatchRule& rule, const Bench& bench, const DoubtOf& doubt_of) {
    const Reading* reading = bench.reading(rule.reading());
    const double doubt = reading && !rule.conditions.empty() ? doubt_of(*reading, rule.conditions[0].value) : 0;
    return std::isfinite(doubt) ? doubt : 0;
}

} // namespace

Result<TriedRule> tried_rule(BenchFile& file, const Bench& bench, const Catalog& catalog, const WatchRule& rule,
                             TimeUs now, bool live) {
    const DoubtOf doubt_of = doubts_of(bench, catalog, now);
    const ZoneOffset zone = system_zone();
    TrialStretch stretch{now - tried_back, now + 1, {}};
    if (live) stretch.now = now;
    const auto try_it = [&](const WatchRule& r) {
        return try_rules(file, bench, {r}, stretch, doubt_of, zone).front();
    };
    TriedRule out{rule, try_it(rule), {}, {}, {}};
    out.score = score_marks(out.trial, rule.marked);
    out.calmer = calmer(rule, out.trial, doubt_at_limit(rule, bench, doubt_of), try_it);
    if (out.calmer) out.of_calmer = try_it(*out.calmer);
    return out;
}

std::string calmer_says(const TriedRule& tried, const Bench& bench) {
    const std::string confirmation = confirmation_says(*tried.calmer);
    return phrase("Calmer: {}, {}. {}", rule_says(*tried.calmer, bench),
                  confirmation.substr(0, confirmation.find(" · ")), trial_says(*tried.calmer, tried.of_calmer));
}

Result<WatchRecord> watch_record(BenchFile& file, const Bench& bench, const Catalog& catalog, const std::string& id,
                                 TimeUs now, bool live) {
    const Reading* reading = bench.reading(id);
    if (!reading) return failure(phrase("the reading is gone."), id);
    const ZoneOffset zone = system_zone();
    WatchRecord out;
    for (const WatchRule& rule : bench.watch_rules) {
        if (rule.reading() != id) continue;
        COGNITUM_TRY(tried, tried_rule(file, bench, catalog, rule, now, live));
        out.rules.push_back(std::move(tried));
    }
    COGNITUM_TRY(record, hourly_record(file, id, now - tried_back, now + 1));
    out.record = std::move(record);
    double doubt =
        out.record.hours.empty() ? 0 : 2 * value_u(bench, catalog, *reading, out.record.hours.back().last, now);
    if (!std::isfinite(doubt)) doubt = 0;
    out.offers = rule_offers(bench, *reading, out.record, doubt, zone);
    const Reading* air = air_beside(bench, *reading);
    HourlyRecord of_air;
    if (air) {
        COGNITUM_TRY(hours, hourly_record(file, air->id, now - 2 * day_us, now + 1));
        of_air = std::move(hours);
    }
    const Neighbour beside{air ? *air : *reading, of_air};
    out.outlook = outlook(*reading, out.record, doubt, now, zone, air ? &beside : nullptr);
    return out;
}

Result<LimitProposal> proposed_limit(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                     const WatchRule& rule, TimeUs now) {
    const Reading* reading = bench.reading(rule.reading());
    if (!reading) return failure(phrase("the reading is gone."), rule.reading());
    std::vector<MarkExtremes> extremes;
    for (const MarkedStretch& m : rule.marked) {
        COGNITUM_TRY(parts, summaries(file, reading->id, m.from, m.to));
        MarkExtremes e{no_number, no_number};
        for (const Summary& s : parts) {
            if (!s.valued || s.to < m.from || s.from > m.to) continue;
            e.least = std::fmin(e.least, s.low); // NaN gives way
            e.most = std::fmax(e.most, s.high);
        }
        extremes.push_back(e);
    }
    return propose_limit(rule, extremes, doubt_at_limit(rule, bench, doubts_of(bench, catalog, now)),
                         reading->quantity.unit);
}

} // namespace cognitum
