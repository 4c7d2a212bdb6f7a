#include "core/act/load_trial.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {
constexpr double us_of_an_hour = static_cast<double>(hour_us);
constexpr double noise_share = 0.02; ///< of a reading's range
} // namespace

std::vector<std::string> trial_readings(const LoadControl& control, const WatchRule& rule) {
    std::vector<std::string> out;
    const auto add = [&](const std::string& id) {
        if (std::find(out.begin(), out.end(), id) == out.end()) out.push_back(id);
    };
    for (const WatchCondition& c : rule.conditions)
        add(c.reading);
    for (const WatchCondition& c : control.never_while)
        add(c.reading);
    for (const LoadEffect& effect : control.effects)
        add(effect.reading);
    return out;
}

LoadTrialRun::LoadTrialRun(const LoadControl& control, const WatchRule& rule, const Bench& bench,
                           std::vector<std::string> readings, const DoubtOf& doubt_of, const ZoneOffset& zone,
                           bool with_effects)
    : m_judge(control, rule, bench, doubt_of, zone),
      m_readings(std::move(readings)),
      m_driven(m_readings.size()),
      m_is_driven(m_readings.size(), false) {
    for (std::size_t i = 0; i < m_readings.size(); ++i) {
        const auto& judged = m_judge.readings();
        const auto at = std::find(judged.begin(), judged.end(), m_readings[i]);
        m_places.push_back(at == judged.end() ? -1 : static_cast<int>(at - judged.begin()));
        if (m_readings[i] == rule.reading()) m_watched = static_cast<int>(i);
        if (!with_effects) continue;
        const Reading* reading = bench.reading(m_readings[i]);
        for (const LoadEffect& effect : control.effects) {
            if (effect.reading != m_readings[i] || !reading) continue;
            m_driven[i].at_once = effect.at_once;
            m_driven[i].an_hour = effect.an_hour;
            m_driven[i].low = reading->quantity.low;
            m_driven[i].high = reading->quantity.high;
            m_is_driven[i] = true;
            m_trial.with_effects = true;
        }
    }
    const Reading* watched = bench.reading(rule.reading());
    m_patience = from_seconds(watched ? 3 * watched->quantity.interval_s + 1 : 0);
}

TimeUs LoadTrialRun::on_until(TimeUs now) const {
    return m_trial.on + (m_judge.on() ? std::max<TimeUs>(0, now - m_on_since) : 0);
}

double LoadTrialRun::driven(int reading, TimeUs time, double value) {
    const auto i = static_cast<std::size_t>(reading);
    if (!m_is_driven[i]) return value;
    Driven& d = m_driven[i];
    const TimeUs on = on_until(time);
    d.added += d.an_hour * static_cast<double>(on - d.on_before) / us_of_an_hour;
    d.on_before = on;
    const TimeUs step = d.ran_at_line == 0 ? 0 : time - d.ran_at_line;
    d.ran_at_line = time;
    if (std::isnan(value)) return value;
    const double noise = noise_share * (d.high - d.low);
    if (std::isnan(d.recorded) || value > d.recorded + noise) d.recorded = value;
    if (value < d.recorded - noise) {
        if (d.an_hour > 0 && d.added > 0) d.added *= std::clamp((value - d.low) / (d.recorded - d.low), 0.0, 1.0);
        d.recorded = value;
    }
    double out = value + d.added + (m_judge.on() ? d.at_once : 0);
    if (d.an_hour == 0) return out;
    // It can be no emptier than empty and no fuller than full: what did not fit was never added.
    const double within = std::clamp(out, d.low, d.high);
    d.added += within - out;
    if (d.an_hour < 0 && within <= d.low && m_judge.on() && time - m_on_since > 0) {
        m_trial.dry += std::min(step, time - m_on_since);
        if (m_trial.dry_runs == 0) {
            m_trial.dry_first = time;
            m_trial.dry_reading = m_readings[i];
        }
        if (m_dry_run != m_on_since) ++m_trial.dry_runs;
        m_dry_run = m_on_since;
    }
    return within;
}

void LoadTrialRun::take(int reading, TimeUs time, double value) {
    if (m_trial.lines++ == 0) m_trial.first = time;
    m_trial.last = time;
    // What the clock did since the last line: the load may be off by now.
    m_events.clear();
    m_judge.pass(time, m_events);
    count(m_events);
    value = driven(reading, time, value);
    if (reading == m_watched) {
        if (m_judge.on()) count_blind(time);
        if (!std::isnan(value)) m_last_value = time;
    }
    const int place = m_places[static_cast<std::size_t>(reading)];
    if (place < 0) return;
    m_events.clear();
    m_judge.take(place, time, value, m_events);
    count(m_events);
}

void LoadTrialRun::count(const std::vector<LoadEvent>& events) {
    for (const LoadEvent& e : events) {
        if (m_trial.events.size() < most_load_events) m_trial.events.push_back(e);
        if (e.on) {
            ++m_trial.runs;
            m_on_since = e.time;
        } else {
            m_trial.on += e.time - m_on_since;
            m_trial.longest = std::max(m_trial.longest, e.time - m_on_since);
            ++m_trial.ends[static_cast<std::size_t>(e.cause)];
            count_blind(e.time);
        }
    }
}

/// It is on: since when has nobody known?
void LoadTrialRun::count_blind(TimeUs now) {
    const TimeUs from = std::max({m_on_since, m_last_value + m_patience, m_blind_counted});
    if (m_last_value == 0 || now <= from) return;
    m_trial.blind += now - from;
    m_blind_counted = now;
}

LoadTrial LoadTrialRun::finish() {
    if (m_judge.on()) {
        m_trial.on += m_trial.last - m_on_since;
        m_trial.longest = std::max(m_trial.longest, m_trial.last - m_on_since);
    }
    m_trial.goes_on = m_judge.on();
    return m_trial;
}

bool answers_itself(const LoadTrial& trial) {
    constexpr std::uint64_t a_few = 3;
    return trial.with_effects && trial.runs > 2 * trial.runs_without + a_few;
}

} // namespace cognitum
