#include "core/watch/teller.h"

#include <algorithm>

namespace cognitum {

bool Teller::is_quiet(TimeUs now) const {
    if (m_quiet.whole_day()) return false;
    const TimeUs local = to_local(now, m_zone);
    return m_quiet.holds(static_cast<int>((local % day_us + day_us) % day_us / minute_us));
}

std::optional<Notice> Teller::take(const WatchRule& rule, const WatchEvent& event) {
    State& state = m_states[rule.id];
    const bool quiet = is_quiet(event.time) && !rule.breaks_quiet;
    if (event.kind == WatchKind::cleared) {
        if (state.waiting) { // it came and went while nobody was to be woken
            state.ended = event.time;
            return {};
        }
        const bool told = state.told;
        state = {};
        if (!told) return {};
        if (!quiet) return Notice{rule.id, event, false, {}};
        state.end_waiting = event;
        return {};
    }
    if (quiet) {
        // The first of a night is kept; what was told before is not told again in it.
        if (event.kind == WatchKind::raised && !state.waiting) state.waiting = event;
        if (event.kind == WatchKind::raised) state.ended.reset();
        return {};
    }
    state = {};
    state.told = true;
    state.told_at = event.time;
    return Notice{rule.id, event, false, {}};
}

std::vector<Notice> Teller::pass(const std::vector<WatchRule>& rules, TimeUs now) {
    std::vector<Notice> out;
    std::erase_if(m_states, [&](const auto& entry) {
        return std::none_of(rules.begin(), rules.end(), [&](const WatchRule& r) { return r.id == entry.first; });
    });
    const bool quiet = is_quiet(now);
    for (const WatchRule& rule : rules) {
        const auto known = m_states.find(rule.id);
        if (known == m_states.end()) continue;
        State& state = known->second;
        if (!quiet && state.waiting) {
            out.push_back({rule.id, *state.waiting, false, state.ended});
            const bool over = state.ended.has_value();
            state = {};
            state.told = !over;
            state.told_at = now;
        } else if (!quiet && state.end_waiting) {
            out.push_back({rule.id, *state.end_waiting, false, {}});
            state = {};
        }
        if (state.told && !state.seen && !state.escalated && rule.escalate_s > 0 &&
            now - state.told_at >= from_seconds(rule.escalate_s)) {
            state.escalated = true;
            out.push_back({rule.id, {now, WatchKind::repeated, 0, Sureness::not_known}, true, {}});
        }
    }
    return out;
}

void Teller::seen(const std::string& rule) {
    if (const auto known = m_states.find(rule); known != m_states.end()) known->second.seen = true;
}

bool Teller::unseen(const std::string& rule) const {
    const auto known = m_states.find(rule);
    return known != m_states.end() && known->second.told && !known->second.seen;
}

void Teller::carry_on(const WatchRule& rule, const WatchEvent& raised, TimeUs now) {
    State& state = m_states[rule.id];
    bool same_night = !rule.breaks_quiet && now - raised.time < day_us;
    for (TimeUs t = raised.time; same_night && t <= now; t += minute_us)
        same_night = is_quiet(t);
    if (same_night && is_quiet(now)) {
        state.waiting = raised;
        return;
    }
    state.told = true;
    state.told_at = raised.time;
    state.escalated = rule.escalate_s > 0 && now - raised.time >= from_seconds(rule.escalate_s);
}

} // namespace cognitum
