// Rules about watching: a watch rule that cannot speak, or that nobody hears.
#include "core/base/phrase.h"
#include "core/plan/rules/rules.h"
#include "core/watch/rule_words.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// The rules of this reading that are on.
template <typename F>
const WatchRule* rule_where(const Placed& p, F holds) {
    for (const WatchRule& rule : p.bench->watch_rules)
        if (rule.on && rule.reading() == p.reading->id && holds(rule)) return &rule;
    return nullptr;
}

Found partner_is_gone(const Placed& p) {
    const auto is_gone = [&p](const WatchCondition& c) { return !p.bench->reading(c.reading); };
    const WatchRule* rule = rule_where(
        p, [&](const WatchRule& r) { return std::any_of(r.conditions.begin(), r.conditions.end(), is_gone); });
    if (!rule) return {};
    Finding f = finding(Severity::look, Stop::watch,
                        phrase("The rule “{}” looks at a reading that is gone: it never speaks.", rule->name),
                        phrase("A condition without a value is neither an alarm nor its end."),
                        phrase("Choose another reading for it, or leave the condition out."));
    f.action = FixAction{phrase("Leave it out"),
                         [id = rule->id](Bench& bench) {
                             const Bench before = bench;
                             if (WatchRule* r = bench.watch_rule(id))
                                 std::erase_if(r->conditions,
                                               [&](const WatchCondition& c) { return !before.reading(c.reading); });
                         },
                         -1,
                         {}};
    return f;
}

Found nobody_hears(const Placed& p) {
    const Telling& telling = p.bench->telling;
    if (telling.desktop || (telling.broker && !p.bench->publishing.host.empty())) return {};
    const WatchRule* rule = rule_where(p, [](const WatchRule& r) { return r.rank != WatchRank::note; });
    if (!rule) return {};
    Finding f =
        finding(Severity::look, Stop::watch, phrase("The rule “{}” is on, and nobody hears it.", rule->name),
                phrase("Neither this desktop nor a broker is told; only the logbook has it."),
                phrase("Tell this desktop, or name a broker."));
    f.action = FixAction{phrase("Tell this desktop"), [](Bench& bench) { bench.telling.desktop = true; }, -1, {}};
    return f;
}

/// A limit that lies a whole range beyond what is expected: typed in another unit, or of another kind.
Found limit_is_out_of_reach(const Placed& p) {
    const Quantity& q = p.reading->quantity;
    const double range = q.high - q.low;
    const auto beyond = [&](const WatchCondition& c) {
        if (c.reading != p.reading->id || q.about().is_total) return false;
        if (c.when == WatchWhen::above) return c.value > q.high + range;
        if (c.when == WatchWhen::below) return c.value < q.low - range;
        return false;
    };
    const WatchRule* rule = rule_where(
        p, [&](const WatchRule& r) { return std::any_of(r.conditions.begin(), r.conditions.end(), beyond); });
    if (!rule) return {};
    Finding f = finding(
        Severity::look, Stop::watch,
        phrase("The rule “{}” ({}) never speaks: {} to {} is expected.", rule->name, rule_says(*rule, *p.bench),
               in_unit(p, q.low), in_unit(p, q.high)),
        phrase("Its limit lies a whole range beyond what this reading can be, as if it were of another unit."),
        phrase("Look at its limit."));
    f.action = open_stop(phrase("Look at the rule"), Stop::watch);
    return f;
}

Found night_of_nowhere(const Placed& p) {
    if (p.bench->where) return {};
    const auto by_sun = [](const WatchCondition& c) { return c.when == WatchWhen::night; };
    const WatchRule* rule = rule_where(
        p, [&](const WatchRule& r) { return std::any_of(r.conditions.begin(), r.conditions.end(), by_sun); });
    if (!rule) return {};
    Finding f = finding(
        Severity::look, Stop::watch,
        phrase("The rule “{}” waits for the night of a place that is not said: it never speaks.", rule->name),
        phrase("Sunset and sunrise are computed from latitude and longitude."),
        phrase("Type where the bench stands, in the rule."));
    f.action = open_stop(phrase("Look at the rule"), Stop::watch);
    return f;
}

Found corridor_without_session(const Placed& p) {
    const auto leads = [&](const auto& sessions) {
        return std::any_of(sessions.begin(), sessions.end(), [&](const TimedSession& s) {
            return !s.readings.empty() && s.readings.front() == p.reading->id;
        });
    };
    const auto begun_by_rule = [&](const SessionRule& r) { return r.live && r.reading == p.reading->id; };
    const std::vector<SessionRule>& rules = p.bench->session_rules;
    if (leads(p.bench->sessions) || std::any_of(rules.begin(), rules.end(), begun_by_rule)) return {};
    const WatchRule* rule = rule_where(p, [&](const WatchRule& r) {
        return std::any_of(r.conditions.begin(), r.conditions.end(), [&](const WatchCondition& c) {
            return c.when == WatchWhen::corridor && c.reading == p.reading->id;
        });
    });
    if (!rule) return {};
    Finding f =
        finding(Severity::look, Stop::watch,
                phrase("The rule “{}” counts the days of a session that never began: it never speaks.", rule->name),
                phrase("A corridor follows the sessions that “{}” leads, and there is none.", p.reading->name),
                phrase("Begin one on the page Sessions, with this reading as its first."));
    f.action = open_stop(phrase("Look at the rule"), Stop::watch);
    return f;
}

constexpr ReadingRule all_watch_rules[] = {{"watched-reading-gone", partner_is_gone},
                                           {"nobody-hears", nobody_hears},
                                           {"night-of-nowhere", night_of_nowhere},
                                           {"corridor-without-session", corridor_without_session},
                                           {"limit-out-of-reach", limit_is_out_of_reach}};

} // namespace

std::span<const ReadingRule> watch_rules() {
    return all_watch_rules;
}

} // namespace cognitum
