#include "core/watch/keeper.h"

#include "core/watch/bands.h"
#include "core/watch/corridor.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

double limits_doubt(const WatchCondition& condition, const Reading& reading, const DoubtOf& doubt_of) {
    if (!compares_values(condition.when)) return 0;
    double out = 0;
    const auto look_at = [&](double limit) {
        const double doubt = doubt_of(reading, limit);
        out = std::isfinite(doubt) ? std::max(out, doubt) : out;
    };
    if (condition.when != WatchWhen::corridor) look_at(condition.value);
    if (condition.when == WatchWhen::outside) look_at(condition.upper);
    for (const CorridorStep& step : condition.corridor)
        for (const double limit : {step.low, step.high})
            look_at(limit);
    return out;
}

ConditionAbout about_condition(const WatchCondition& condition, const Bench& bench, const DoubtOf& doubt_of) {
    ConditionAbout out;
    const Reading* reading = bench.reading(condition.reading);
    if (!reading) return out;
    out.is_total = reading->quantity.about().is_total;
    out.is_state = reading->quantity.about().is_state();
    out.gone = from_seconds(silent_after_s(reading->quantity));
    if (doubt_of) out.doubt = limits_doubt(condition, *reading, doubt_of);
    if (condition.when == WatchWhen::corridor) out.runs = corridor_runs(bench, condition.reading);
    if (condition.when == WatchWhen::night && bench.where) out.night = Night(*bench.where, condition.value);
    return out;
}

bool judged_alike(const WatchRule& a, const WatchRule& b) {
    return a.conditions == b.conditions && a.count == b.count && a.for_s == b.for_s && a.repeat_s == b.repeat_s &&
           a.for_sure == b.for_sure && a.hours == b.hours;
}

int WatchKeeper::number_of(const std::string& reading) {
    return m_numbers.try_emplace(reading, static_cast<int>(m_numbers.size())).first->second;
}

void WatchKeeper::set_rules(const std::vector<WatchRule>& rules, const Bench& bench, const DoubtOf& doubt_of) {
    std::map<std::string, Kept> before = std::move(m_kept);
    m_kept.clear();
    m_by_reading.clear();
    for (const WatchRule& rule : rules) {
        if (!rule.on || !defect_of(rule).empty()) continue;
        std::vector<Quantity> quantities;
        bool all_there = true;
        for (const WatchCondition& c : rule.conditions) {
            const Reading* reading = bench.reading(c.reading);
            all_there = all_there && reading;
            if (reading) quantities.push_back(reading->quantity);
        }
        if (!all_there) continue; // a finding says so
        std::vector<ConditionAbout> about;
        for (const WatchCondition& c : rule.conditions) {
            about.push_back(about_condition(c, bench, doubt_of));
            about.back().reading = number_of(c.reading);
        }
        const auto known = before.find(rule.id);
        if (known != before.end() && judged_alike(known->second.judge.rule(), rule) &&
            known->second.quantities == quantities) {
            known->second.judge.renew(rule, about);
            m_kept.insert(before.extract(known));
            continue;
        }
        m_kept.insert_or_assign(rule.id, Kept{RuleJudge(rule, about, m_zone), std::move(quantities)});
    }
    for (auto& [id, kept] : m_kept)
        for (const WatchCondition& c : kept.judge.rule().conditions) {
            std::vector<RuleJudge*>& of_reading = m_by_reading[c.reading];
            if (of_reading.empty() || of_reading.back() != &kept.judge) of_reading.push_back(&kept.judge);
        }
}

void WatchKeeper::tell(const RuleJudge& judge, std::vector<RuleEvent>& out) {
    for (const WatchEvent& event : m_events)
        out.push_back({judge.rule().id, event});
    m_events.clear();
}

void WatchKeeper::take(const std::string& reading, TimeUs time, double value, std::vector<RuleEvent>& out,
                       std::optional<TimeUs> arrival) {
    const auto judges = m_by_reading.find(reading);
    if (judges == m_by_reading.end()) return;
    const int number = number_of(reading);
    for (RuleJudge* judge : judges->second) {
        judge->take(number, time, value, m_events, arrival);
        tell(*judge, out);
    }
}

void WatchKeeper::pass(TimeUs now, std::vector<RuleEvent>& out) {
    for (auto& [id, kept] : m_kept) {
        kept.judge.pass(now, m_events);
        tell(kept.judge, out);
    }
}

void WatchKeeper::wait_from(TimeUs now) {
    for (auto& [id, kept] : m_kept)
        kept.judge.wait_from(now);
}

const RuleJudge* WatchKeeper::judge(const std::string& rule) const {
    const auto known = m_kept.find(rule);
    return known == m_kept.end() ? nullptr : &known->second.judge;
}

} // namespace cognitum
