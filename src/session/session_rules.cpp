#include "session/session_rules.h"

#include "core/bench/limits.h"
#include "session/session.h"
#include "store/samples/samples.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

constexpr TimeUs looks_back = 7 * day_us;     ///< of a rule that is new or was not followed for long
constexpr TimeUs kept_within = 5 * second_us; ///< a line that came is in the file

/// End of the last session that the rule began, or its start where it goes on.
TimeUs known_until(const Bench& bench, const SessionRule& rule) {
    TimeUs out = earliest_time;
    for (const TimedSession& s : bench.sessions)
        if (s.rule == rule.id) out = std::max(out, s.goes_on() ? s.from : s.to);
    return out;
}

Result<std::vector<FollowedRule>> follow(BenchFile& file, const std::vector<FollowedRule>& rules,
                                         const Bench& bench, TimeUs now) {
    std::vector<FollowedRule> out;
    for (FollowedRule followed : rules) {
        if (!bench.reading(followed.rule.reading)) continue;
        const auto read = for_each_sample(
            file, followed.rule.reading, followed.next, latest_time, [&](std::span<const Sample> samples) {
                for (const Sample& s : samples) {
                    followed.finder.take(s.time, followed.values.take(s.time, s.value));
                    followed.next = s.time + 1;
                }
                return true;
            });
        if (!read) continue; // a damaged series holds up no other
        followed.finder.pass(now - kept_within);
        followed.ended = followed.finder.ended();
        out.push_back(std::move(followed));
    }
    return out;
}

TimedSession session_of(const Bench& bench, const SessionRule& rule, const Interval& stretch) {
    TimedSession out;
    out.id = bench.free_id(rule.name);
    out.name = rule.name;
    out.kind = rule.kind;
    out.from = stretch.from;
    out.to = stretch.to;
    out.readings = {rule.reading};
    for (const std::string& id : rule.readings)
        if (id != rule.reading) out.readings.push_back(id);
    out.rule = rule.id;
    return out;
}

TimedSession* begun_at(Bench& bench, const SessionRule& rule, TimeUs from) {
    for (TimedSession& s : bench.sessions)
        if (s.rule == rule.id && s.from == from) return &s;
    return nullptr;
}

} // namespace

bool put_sessions(Bench& bench, const std::vector<FollowedRule>& rules) {
    bool changed = false;
    for (const FollowedRule& followed : rules) {
        for (const Interval& ended : followed.ended) {
            if (TimedSession* known = begun_at(bench, followed.rule, ended.from)) {
                changed = changed || known->goes_on();
                if (known->goes_on()) known->to = ended.to;
            } else if (bench.sessions.size() < most_items) {
                bench.sessions.push_back(session_of(bench, followed.rule, ended));
                changed = true;
            }
        }
        if (const auto begun = followed.finder.under_way();
            begun && !begun_at(bench, followed.rule, *begun) && bench.sessions.size() < most_items) {
            bench.sessions.push_back(session_of(bench, followed.rule, {*begun, 0}));
            changed = true;
        }
    }
    return changed;
}

SessionRules::SessionRules(Session& session) : m_session(session) {}

void SessionRules::lookNow() {
    const Bench& bench = m_session.bench();
    const bool may = m_session.isOpen() && m_session.lookOnly().isEmpty();
    if (m_path != m_session.path()) m_followed.clear();
    m_path = m_session.path();
    if (!may) return;
    std::erase_if(m_followed, [&](const auto& entry) {
        const SessionRule* rule = bench.session_rule(entry.first);
        return !rule || !rule->live || !(*rule == entry.second.rule);
    });
    const TimeUs now = m_session.now();
    std::vector<FollowedRule> asked;
    for (const SessionRule& rule : bench.session_rules) {
        const Reading* reading = bench.reading(rule.reading);
        if (!rule.live || !reading) continue;
        auto known = m_followed.find(rule.id);
        if (known == m_followed.end()) {
            FollowedRule fresh{rule, SessionFinder(rule), RuleValues(*reading),
                               std::max(known_until(bench, rule), now - looks_back)};
            known = m_followed.emplace(rule.id, std::move(fresh)).first;
        }
        asked.push_back(known->second);
    }
    if (asked.empty()) return;
    m_question.ask(
        m_session.archive(), this, [asked, bench, now](BenchFile& file) { return follow(file, asked, bench, now); },
        [this](const Result<std::vector<FollowedRule>>& rules) {
            if (!rules) return; // the bench was closed, or its file cannot be read: said elsewhere
            for (const FollowedRule& r : *rules)
                if (const auto known = m_followed.find(r.rule.id); known != m_followed.end()) known->second = r;
            Bench after = m_session.bench();
            if (put_sessions(after, *rules))
                m_session.applyQuietly([&](Bench& plan) { plan.sessions = after.sessions; });
        });
}

} // namespace cognitum
