#include "core/act/load_keeper.h"

#include "core/base/phrase.h"

#include <fmt/format.h>
#include <set>

namespace cognitum {

namespace {

/// How it is called and what it does for a trial changes nothing of what is judged; what is sent is asked anew.
bool acts_alike(LoadControl a, const LoadControl& b) {
    a.name = b.name;
    a.effects = b.effects;
    a.on_line = b.on_line;
    a.off_line = b.off_line;
    a.topic = b.topic;
    a.time_out_s = b.time_out_s;
    return a == b;
}

} // namespace

std::string why_not(const LoadControl& control, const Bench& bench) {
    if (std::string defect = defect_of(control); !defect.empty()) return defect;
    if (!bench.module(control.load)) return phrase("the load is gone.");
    const WatchRule* rule = bench.watch_rule(control.rule);
    if (!rule) return phrase("the rule that it follows is gone.");
    if (!rule->on) return phrase("the rule “{}” that it follows is off.", rule->name);
    if (std::string defect = defect_of(*rule); !defect.empty()) return defect;
    for (const auto* conditions : {&rule->conditions, &control.never_while})
        for (const WatchCondition& c : *conditions) {
            if (!bench.reading(c.reading)) return phrase("the reading “{}” is gone.", c.reading);
            if (c.when == WatchWhen::night && !bench.where)
                return phrase("it goes by the sun, and nobody has said where the bench stands.");
        }
    return {};
}

void LoadKeeper::set_plan(const Bench& bench, const DoubtOf& doubt_of, TimeUs now, std::vector<ControlEvent>& out) {
    std::map<std::string, Kept> before = std::move(m_kept);
    m_kept.clear();
    m_by_reading.clear();
    std::set<std::string> told;
    for (const LoadControl& control : bench.controls) {
        if (!control.acts || !why_not(control, bench).empty()) continue;
        if (!told.insert(control.load).second) continue; // the first one has this load
        const WatchRule& rule = *bench.watch_rule(control.rule);
        Kept fresh{LoadJudge(control, rule, bench, doubt_of, m_zone), {}};
        for (const std::string& id : fresh.judge.readings())
            fresh.quantities.push_back(bench.reading(id)->quantity);
        const auto known = before.find(control.id);
        WatchRule demand = rule; // how often people are told again is nothing to a load
        if (known != before.end()) demand.repeat_s = known->second.judge.rule().repeat_s;
        if (known != before.end() && acts_alike(known->second.judge.control(), control) &&
            judged_alike(known->second.judge.rule(), demand) && known->second.quantities == fresh.quantities) {
            known->second.judge.renew(control, rule, bench, doubt_of);
            m_kept.insert(before.extract(known));
        } else {
            fresh.judge.begin(now);
            m_kept.insert_or_assign(control.id, std::move(fresh));
        }
    }
    for (const auto& [id, gone] : before)
        if (gone.judge.on()) out.push_back({id, {now, false, LoadCause::not_acting, -1}});
    for (const auto& [id, kept] : m_kept)
        for (std::size_t i = 0; i < kept.judge.readings().size(); ++i)
            m_by_reading[kept.judge.readings()[i]].emplace_back(id, static_cast<int>(i));
}

void LoadKeeper::tell(const std::string& control, std::vector<ControlEvent>& out) {
    for (const LoadEvent& event : m_events)
        out.push_back({control, event});
    m_events.clear();
}

void LoadKeeper::take(const std::string& reading, TimeUs time, double value, std::vector<ControlEvent>& out,
                      std::optional<TimeUs> arrival) {
    const auto controls = m_by_reading.find(reading);
    if (controls == m_by_reading.end()) return;
    for (const auto& [id, place] : controls->second) {
        m_kept.at(id).judge.take(place, time, value, m_events, arrival);
        tell(id, out);
    }
}

void LoadKeeper::pass(TimeUs now, std::vector<ControlEvent>& out) {
    for (auto& [id, kept] : m_kept) {
        kept.judge.pass(now, m_events);
        tell(id, out);
    }
}

void LoadKeeper::hand(const std::string& control, std::optional<bool> on, TimeUs until, TimeUs now,
                      std::vector<ControlEvent>& out) {
    const auto known = m_kept.find(control);
    if (known == m_kept.end()) return;
    known->second.judge.hand(on, until, now, m_events);
    tell(control, out);
}

const LoadJudge* LoadKeeper::judge(const std::string& control) const {
    const auto known = m_kept.find(control);
    return known == m_kept.end() ? nullptr : &known->second.judge;
}

std::vector<std::string> LoadKeeper::controls() const {
    std::vector<std::string> out;
    out.reserve(m_kept.size());
    for (const auto& [id, kept] : m_kept)
        out.push_back(id);
    return out;
}

} // namespace cognitum
