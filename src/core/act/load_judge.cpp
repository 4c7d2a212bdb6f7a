#include "core/act/load_judge.h"

#include "core/base/phrase.h"
#include "core/watch/bands.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

constexpr TimeUs set_back_from = minute_us; ///< less is the disorder of two boards
constexpr int most_deadlines = 1000;        ///< between two lines

bool needs_value(const WatchCondition& condition) {
    return !goes_by_clock(condition.when) && condition.when != WatchWhen::failing;
}

WatchRule rule_of(const WatchCondition& condition) {
    WatchRule out;
    out.name = phrase("never while");
    out.conditions = {condition};
    out.conditions.front().join = WatchJoin::all;
    return out;
}

/// ± at the limit, 95 %; 0: not known, or its limit is no value: a door's state, a rate, a time.
double limit_doubt(const DoubtOf& doubt_of, const Bench& bench, const WatchCondition& condition) {
    const Reading* reading = bench.reading(condition.reading);
    if (!doubt_of || !reading || reading->quantity.about().is_state()) return 0;
    return limits_doubt(condition, *reading, doubt_of);
}

/// A number that may be anything in the reading's range says nothing.
bool says_anything(const Bench& bench, const WatchCondition& condition, double doubt) {
    const Reading* reading = bench.reading(condition.reading);
    return !reading || doubt <= (reading->quantity.high - reading->quantity.low) / 2;
}

/// Judges are told the places that the load's judge is told.
std::vector<ConditionAbout> about_all(const WatchRule& rule, const Bench& bench, const DoubtOf& doubt_of,
                                      const std::vector<std::string>& readings) {
    std::vector<ConditionAbout> out;
    for (const WatchCondition& c : rule.conditions) {
        out.push_back(about_condition(c, bench, doubt_of));
        const auto at = std::find(readings.begin(), readings.end(), c.reading);
        out.back().reading = static_cast<int>(at - readings.begin());
    }
    return out;
}

std::vector<std::string> readings_of(const LoadControl& control, const WatchRule& rule) {
    std::vector<std::string> out;
    const auto add = [&](const WatchCondition& c) {
        if (std::find(out.begin(), out.end(), c.reading) == out.end()) out.push_back(c.reading);
    };
    std::for_each(rule.conditions.begin(), rule.conditions.end(), add);
    std::for_each(control.never_while.begin(), control.never_while.end(), add);
    return out;
}

} // namespace

WatchCondition careful(WatchCondition c, double doubt) {
    if (!(doubt > 0)) return c;
    if (c.when == WatchWhen::above) {
        c.value -= doubt;
        if (c.clear) *c.clear -= doubt;
    } else if (c.when == WatchWhen::below) {
        c.value += doubt;
        if (c.clear) *c.clear += doubt;
    } else if (c.when == WatchWhen::outside && c.upper - c.value > 2 * (doubt + c.hysteresis)) {
        c.value += doubt;
        c.upper -= doubt;
    }
    for (CorridorStep& step : c.corridor)
        if (step.high - step.low > 2 * (doubt + c.hysteresis)) {
            step.low += doubt;
            step.high -= doubt;
        }
    return c;
}

LoadJudge::LoadJudge(const LoadControl& control, const WatchRule& rule, const Bench& bench, const DoubtOf& doubt_of,
                     const ZoneOffset& zone)
    : m_control(control),
      m_readings(readings_of(control, rule)),
      m_demand(rule, about_all(rule, bench, doubt_of, m_readings), zone),
      m_least_on(from_seconds(control.least_on_s)),
      m_least_off(from_seconds(control.least_off_s)),
      m_longest(from_seconds(control.longest_on_s)),
      m_rest(from_seconds(control.rest_s)) {
    for (const std::string& id : m_readings) {
        const Reading* reading = bench.reading(id);
        Known known;
        known.gone = control.value_within_s > 0 ? from_seconds(control.value_within_s)
                     : reading                  ? from_seconds(silent_after_s(reading->quantity))
                                                : 0;
        m_known.push_back(known);
    }
    for (const WatchCondition& c : rule.conditions)
        if (needs_value(c)) m_known[place_of(c.reading)].needed = true;
    for (const WatchCondition& c : control.never_while) {
        const WatchRule keeper = keeps_off(c, bench, doubt_of);
        m_never.emplace_back(keeper, about_all(keeper, bench, {}, m_readings), zone);
        m_never_reading.push_back(static_cast<int>(place_of(c.reading)));
    }
    set_certainty(rule, bench, doubt_of);
}

std::size_t LoadJudge::place_of(const std::string& reading) const {
    return static_cast<std::size_t>(std::find(m_readings.begin(), m_readings.end(), reading) - m_readings.begin());
}

WatchRule LoadJudge::keeps_off(const WatchCondition& condition, const Bench& bench, const DoubtOf& doubt_of) const {
    return rule_of(careful(condition, limit_doubt(doubt_of, bench, condition)));
}

void LoadJudge::set_certainty(const WatchRule& rule, const Bench& bench, const DoubtOf& doubt_of) {
    for (Known& known : m_known)
        known.uncertain = false;
    const std::vector<WatchCondition>& never_while = m_control.never_while;
    for (const auto* conditions : {&rule.conditions, &never_while})
        for (const WatchCondition& c : *conditions)
            if (needs_value(c) && !says_anything(bench, c, limit_doubt(doubt_of, bench, c)))
                m_known[place_of(c.reading)].uncertain = true;
}

void LoadJudge::renew(const LoadControl& control, const WatchRule& rule, const Bench& bench,
                      const DoubtOf& doubt_of) {
    m_control = control;
    m_demand.renew(rule, about_all(rule, bench, doubt_of, m_readings));
    for (std::size_t i = 0; i < m_never.size(); ++i) {
        const WatchRule keeper = keeps_off(control.never_while[i], bench, doubt_of);
        m_never[i].renew(keeper, about_all(keeper, bench, {}, m_readings));
    }
    set_certainty(rule, bench, doubt_of);
}

void LoadJudge::set_back(TimeUs now) {
    const TimeUs by = now - m_now;
    for (TimeUs* t : {&m_since, &m_rests_until})
        if (*t != never) *t += by;
    for (Known& known : m_known)
        if (known.valued != never) known.valued += by;
    if (m_hand) m_hand->until += by;
    m_now = now;
    m_deadline = next_deadline();
}

void LoadJudge::take(int reading, TimeUs time, double value, std::vector<LoadEvent>& out,
                     std::optional<TimeUs> arrival) {
    const TimeUs at = arrival.value_or(time);
    advance(at, out);
    m_events.clear();
    m_demand.take(reading, time, value, m_events, arrival);
    for (RuleJudge& judge : m_never)
        judge.take(reading, time, value, m_events, arrival);
    if (!std::isnan(value)) m_known[static_cast<std::size_t>(reading)].valued = m_now;
    decide(m_now, out);
}

void LoadJudge::pass(TimeUs now, std::vector<LoadEvent>& out) {
    advance(now, out);
    m_events.clear();
    m_demand.pass(now, m_events);
    for (RuleJudge& judge : m_never)
        judge.pass(now, m_events);
    decide(m_now, out);
}

void LoadJudge::hand(std::optional<bool> on, TimeUs until, TimeUs now, std::vector<LoadEvent>& out) {
    m_hand.reset();
    if (on) m_hand = Hand{*on, until};
    pass(now, out);
}

/// What the clock alone did until now, each at its time.
void LoadJudge::advance(TimeUs now, std::vector<LoadEvent>& out) {
    if (now < m_now) {
        if (m_now - now < set_back_from) return; // the later time stands
        set_back(now);
    }
    for (int n = 0; n < most_deadlines && m_deadline > m_now && m_deadline < now; ++n) {
        m_now = m_deadline;
        decide(m_now, out);
    }
    m_now = now;
}

LoadJudge::Wish LoadJudge::wish_at(TimeUs at) {
    for (std::size_t i = 0; i < m_never.size(); ++i) {
        const auto reading = static_cast<std::size_t>(m_never_reading[i]);
        if (m_never[i].raised()) return {false, LoadCause::kept_off, static_cast<int>(i), true};
        if (needs_value(m_control.never_while[i]) && says_nothing(m_known[reading], at))
            return {false, LoadCause::no_value, m_never_reading[i], true};
    }
    if (m_hand && at < m_hand->until) return {m_hand->on, LoadCause::by_hand, -1, !m_hand->on};
    for (std::size_t i = 0; i < m_known.size(); ++i)
        if (m_known[i].needed && says_nothing(m_known[i], at))
            return {m_control.safe_on, LoadCause::no_value, static_cast<int>(i), true};
    if (m_demand.raised() && m_demand.looks(at)) return {true, LoadCause::rule_holds, -1, false};
    return {false, LoadCause::rule_over, -1, false};
}

void LoadJudge::decide(TimeUs at, std::vector<LoadEvent>& out) {
    if (m_hand && at >= m_hand->until) m_hand.reset();
    m_wish = wish_at(at);
    if (m_on && m_longest > 0 && at - m_since >= m_longest) {
        change(m_since + m_longest, false, LoadCause::longest_run, -1, out); // also where nobody looked then
        m_rests_until = m_since + m_rest;
    } else if (m_on && !m_wish.on && (m_wish.at_once || at - m_since >= m_least_on)) {
        change(at, false, m_wish.cause, m_wish.which, out);
    } else if (!m_on && m_wish.on && !waits_until()) {
        change(at, true, m_wish.cause, m_wish.which, out);
    }
    m_deadline = next_deadline();
}

void LoadJudge::change(TimeUs at, bool on, LoadCause cause, int which, std::vector<LoadEvent>& out) {
    m_on = on;
    m_since = at;
    out.push_back({at, on, cause, which});
}

std::optional<TimeUs> LoadJudge::waits_until() const {
    if (m_on || !m_wish.on) return {};
    const TimeUs may = std::max(m_rests_until, m_since == never ? never : m_since + m_least_off);
    return m_now < may ? std::optional(may) : std::nullopt;
}

/// The next moment after now at which the clock alone may change something.
TimeUs LoadJudge::next_deadline() const {
    TimeUs out = std::numeric_limits<TimeUs>::max();
    const auto consider = [&](TimeUs at) {
        if (at > m_now) out = std::min(out, at);
    };
    if (m_hand) consider(m_hand->until);
    if (m_on) {
        consider(m_since + m_least_on);
        if (m_longest > 0) consider(m_since + m_longest);
    } else {
        consider(m_rests_until);
        if (m_since != never) consider(m_since + m_least_off);
    }
    for (const Known& known : m_known)
        if (known.valued != never) consider(known.valued + known.gone + 1);
    return out;
}

} // namespace cognitum
