#include "core/watch/judge.h"

#include <algorithm>

namespace cognitum {

namespace {

constexpr TimeUs offset_holds = 15 * minute_us; ///< clocks change at a quarter of an hour
constexpr TimeUs set_back = minute_us;          ///< less is the disorder of two boards

Says both(Says a, Says b) {
    if (a == Says::over || b == Says::over) return Says::over;
    if (a == Says::nothing || b == Says::nothing) return Says::nothing;
    return a == Says::holds && b == Says::holds ? Says::holds : Says::between;
}

Says either(Says a, Says b) {
    if (a == Says::holds || b == Says::holds) return Says::holds;
    if (a == Says::nothing || b == Says::nothing) return Says::nothing;
    return a == Says::over && b == Says::over ? Says::over : Says::between;
}

} // namespace

const char* watch_kind_word(WatchKind kind) {
    switch (kind) {
    case WatchKind::raised: return "raised";
    case WatchKind::repeated: return "repeated";
    case WatchKind::cleared: break;
    }
    return "cleared";
}

ConditionFollower::ConditionFollower(const WatchCondition& condition, const ConditionAbout& about, bool for_sure)
    : m_condition(condition),
      m_about(about),
      m_plain(condition.when == WatchWhen::above || condition.when == WatchWhen::below),
      m_window(from_seconds(condition.over_s)) {
    m_sign = condition.when == WatchWhen::below ? -1 : 1;
    renew(condition, about, for_sure);
}

void ConditionFollower::renew(const WatchCondition& condition, const ConditionAbout& about, bool for_sure) {
    m_condition = condition;
    m_about = about;
    m_limit = m_sign * condition.value + (for_sure ? about.doubt : 0);
    m_clear = m_sign * condition.clear.value_or(condition.value);
    if (condition.when == WatchWhen::silent) m_silence = from_seconds(condition.value);
}

/// A number against a limit that it must not pass upwards.
Says ConditionFollower::beyond(double number, double limit, double clear) {
    m_looked = number;
    return number > limit ? Says::holds : number <= clear ? Says::over : Says::between;
}

/// Running sum of what came: of a total its growth, of a state how often it came on.
double ConditionFollower::grown(double value) {
    const double before = m_before.value_or(value);
    m_before = value;
    if (m_about.is_state)
        m_total += value > 0.5 && before <= 0.5;
    else
        m_total += value >= before ? value - before : value; // a count that falls began anew
    return m_total;
}

Says ConditionFollower::sun(TimeUs time) {
    if (!m_about.night) return Says::nothing;
    m_looked = 0;
    return (*m_about.night)(time) ? Says::holds : Says::over;
}

Says ConditionFollower::outside(double value, double low, double high) {
    m_beyond = std::max(low - value, value - high);
    if (m_beyond > (m_limit - m_sign * m_condition.value)) return Says::holds;
    return m_beyond <= -m_condition.hysteresis ? Says::over : Says::between;
}

/// Between two sessions, and before the corridor's first day, there is nothing to be outside of.
Says ConditionFollower::along(TimeUs time, double value) {
    const auto day = corridor_day(m_about.runs, time);
    const CorridorStep* step = day ? corridor_step(m_condition.corridor, *day) : nullptr;
    return step ? outside(value, step->low, step->high) : Says::over;
}

Says ConditionFollower::look(TimeUs time, double value) {
    const WatchCondition& c = m_condition;
    if (c.when == WatchWhen::silent) return Says::over;
    if (c.when == WatchWhen::night) return sun(time);
    if (c.when == WatchWhen::failing) return std::isfinite(value) ? Says::over : Says::holds;
    if (!std::isfinite(value)) return Says::nothing;
    m_looked = value;
    switch (c.when) {
    case WatchWhen::outside: return outside(value, c.value, c.upper);
    case WatchWhen::corridor: return along(time, value);
    case WatchWhen::equal: {
        const double slack = m_about.is_state ? 0.5 : c.hysteresis;
        return std::abs(value - c.value) <= slack ? Says::holds : Says::over;
    }
    case WatchWhen::changes:
        m_window.take(time, value);
        return beyond(m_window.range(), c.value, c.value - c.hysteresis);
    case WatchWhen::unchanged:
        m_window.take(time, value);
        m_looked = m_window.range();
        if (m_looked > c.value + c.hysteresis) return Says::over;
        return m_looked <= c.value && m_window.covered() ? Says::holds : Says::between;
    case WatchWhen::rises:
    case WatchWhen::falls: {
        m_window.take(time, value);
        const auto slope = m_window.slope();
        if (!slope) return Says::nothing;
        const double an_hour = (c.when == WatchWhen::falls ? -3600 : 3600) * *slope;
        return beyond(an_hour, c.value, c.value - c.hysteresis);
    }
    case WatchWhen::grows: {
        m_window.take(time, grown(value));
        // Two tips of 0.2 mm are 0.4 mm, whatever the last digit of a sum says.
        const double slack = 1e-9 * std::max(std::abs(m_total), std::abs(c.value));
        return beyond(m_window.gain(), c.value + slack, c.value + slack - c.hysteresis);
    }
    default: return Says::nothing;
    }
}

bool ConditionFollower::pass(TimeUs now) {
    if (m_condition.when == WatchWhen::night) {
        const Says before = m_word;
        return keep(sun(now)) != before;
    }
    if (!waits_for_silence()) return false;
    if (!m_last) m_last = now; // it waits from now on
    if (m_word == Says::holds || now - *m_last <= m_silence) return false;
    m_looked = seconds(m_silence);
    m_word = Says::holds;
    return true;
}

Says ConditionFollower::word(TimeUs now) const {
    if (by_clock()) return m_word;
    return m_last && now - *m_last <= m_about.gone ? m_word : Says::nothing;
}

Sureness ConditionFollower::sureness() const {
    if (!compares_values(m_condition.when) || m_about.doubt <= 0) return Sureness::not_known;
    const double beyond = m_plain ? m_sign * (m_looked - m_condition.value) : m_beyond;
    return beyond > m_about.doubt ? Sureness::for_sure : Sureness::within_doubt;
}

void ConditionFollower::shift(TimeUs by) {
    if (m_last) *m_last += by;
    m_window.shift(by);
}

/// Of the first, nothing stands before it.
static WatchCondition condition_of(const WatchRule& rule, std::size_t i) {
    WatchCondition out = rule.conditions[i];
    if (i == 0) out.join = WatchJoin::all;
    return out;
}

RuleJudge::RuleJudge(const WatchRule& rule, const std::vector<ConditionAbout>& about, ZoneOffset zone)
    : m_rule(rule),
      m_zone(std::move(zone)),
      m_for(from_seconds(rule.for_s)),
      m_repeat(rule.repeat_s > 0 ? std::max(TimeUs{1}, from_seconds(rule.repeat_s)) : 0) { // 0: never
    for (std::size_t i = 0; i < rule.conditions.size(); ++i)
        m_followers.emplace_back(condition_of(rule, i), about[i], rule.for_sure);
    m_several = std::any_of(about.begin(), about.end(),
                            [&](const ConditionAbout& a) { return a.reading != about.front().reading; });
    m_simple = m_followers.size() == 1 && rule.hours.whole_day() && !m_followers.front().by_clock();
}

void RuleJudge::decide(TimeUs time, Says says, std::vector<WatchEvent>& out) {
    const ConditionFollower& first = m_followers.front();
    const auto tell = [&](WatchKind kind) { out.push_back({time, kind, first.looked_at(), first.sureness()}); };
    if (m_raised) {
        if (says == Says::over) {
            m_raised = false;
            m_run = 0;
            tell(WatchKind::cleared);
        } else if (says != Says::nothing && m_repeat > 0 && time - m_told_at >= m_repeat) {
            m_told_at = time;
            tell(WatchKind::repeated);
        }
        return;
    }
    if (m_run == 0) m_first = time;
    if (m_run < m_rule.count) ++m_run;
    if (m_run < m_rule.count || time - m_first < m_for) return;
    m_raised = true;
    m_told_at = time;
    tell(WatchKind::raised);
    m_raise = out.back();
}

bool RuleJudge::gates_open(TimeUs time) const {
    return std::all_of(m_followers.begin(), m_followers.end(),
                       [&](const auto& f) { return !f.is_gate() || f.word(time) == Says::holds; });
}

/// From the first condition to the last.
Says RuleJudge::joined(TimeUs time) const {
    Says out = m_followers.front().word(time);
    for (std::size_t i = 1; i < m_followers.size(); ++i) {
        if (m_followers[i].is_gate()) continue;
        const Says next = m_followers[i].word(time);
        out = m_followers[i].join() == WatchJoin::any ? either(out, next) : both(out, next);
    }
    return out;
}

bool RuleJudge::within_hours(TimeUs time) {
    if (m_rule.hours.whole_day()) return true;
    if (time >= m_offset_until || time < m_offset_until - offset_holds) {
        m_offset = m_zone ? m_zone(time) : 0;
        m_offset_until = time - (time % offset_holds + offset_holds) % offset_holds + offset_holds;
    }
    const TimeUs local = time + m_offset;
    return m_rule.hours.holds(static_cast<int>((local % day_us + day_us) % day_us / minute_us));
}

void RuleJudge::take_joined(int reading, TimeUs time, double value, TimeUs arrival, std::vector<WatchEvent>& out) {
    pass(arrival, out);
    const bool looks = within_hours(time);
    for (ConditionFollower& f : m_followers)
        if (f.is_gate() && f.reading() == reading) f.take(time, value);
    const bool open = looks && gates_open(time);
    if (open && !m_gates_were_open)
        for (ConditionFollower& f : m_followers)
            if (!f.is_gate() && !f.by_clock()) f.forget();
    if (!open) m_run = 0;
    m_gates_were_open = open;
    bool said = false;
    for (ConditionFollower& f : m_followers)
        if (!f.is_gate() && f.reading() == reading && (open || f.by_clock()))
            said = f.take(f.by_clock() ? arrival : time, value) != Says::nothing || said;
    if (open && said) step(time, joined(time), out);
}

void RuleJudge::pass(TimeUs now, std::vector<WatchEvent>& out) {
    bool silent = false;
    for (ConditionFollower& f : m_followers) {
        if (!f.by_clock()) continue;
        const bool began = f.pass(now);
        if (f.is_gate()) continue;
        if (began && within_hours(now) && gates_open(now)) step(f.changed_at(now), joined(now), out);
        silent = silent || f.word(now) == Says::holds;
    }
    if (!silent || !within_hours(now) || !gates_open(now)) return;
    // What was due in between is told at its time.
    for (int n = 0; n < 1000 && m_raised && m_repeat > 0 && now - m_told_at > m_repeat; ++n)
        step(m_told_at + m_repeat, joined(now), out);
    step(now, joined(now), out);
}

void RuleJudge::wait_from(TimeUs now) {
    for (ConditionFollower& f : m_followers)
        f.wait_from(now);
    m_run = 0;
}

void RuleJudge::renew(const WatchRule& rule, const std::vector<ConditionAbout>& about) {
    m_rule = rule;
    for (std::size_t i = 0; i < m_followers.size(); ++i)
        m_followers[i].renew(condition_of(rule, i), about[i], rule.for_sure);
}

TimeUs RuleJudge::went_back(TimeUs time) {
    if (m_last - time < set_back) return m_last;
    const TimeUs by = time - m_last;
    for (ConditionFollower& f : m_followers)
        f.shift(by);
    m_first += by;
    m_raise.time += by;
    m_told_at += by;
    return time;
}

} // namespace cognitum
