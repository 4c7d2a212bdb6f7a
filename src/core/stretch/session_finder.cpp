#include "core/stretch/session_finder.h"

#include <cmath>
#include <utility>

namespace cognitum {

double RuleValues::take(TimeUs time, double value) {
    if (!m_is_total) return value;
    if (!std::isfinite(value)) return no_number;
    const auto before = std::exchange(m_before, std::pair{time, value});
    if (!before || time <= before->first) return no_number;
    const double grown = value >= before->second ? value - before->second : value; // a count that falls began anew
    return grown / (seconds(time - before->first) / 3600);
}

SessionFinder::SessionFinder(const SessionRule& rule)
    : m_rule(rule), m_least(from_seconds(rule.least_s)), m_pause(from_seconds(rule.pause_s)) {}

bool SessionFinder::holds(double value) const {
    switch (m_rule.when) {
    case SessionWhen::above: return value > m_rule.limit; // false for NaN
    case SessionWhen::below: return value < m_rule.limit;
    case SessionWhen::valued: break;
    }
    return std::isfinite(value);
}

void SessionFinder::take(TimeUs time, double value) {
    pass(time);
    if (!holds(value)) return;
    if (!m_begun) m_begun = time;
    m_last = time;
}

void SessionFinder::pass(TimeUs now) {
    if (m_begun && now - m_last > m_pause) close();
}

void SessionFinder::close() {
    // One sample alone is no stretch of time.
    if (m_last > *m_begun && m_last - *m_begun >= m_least) m_ended.push_back({*m_begun, m_last + 1});
    m_begun.reset();
    m_last = 0;
}

std::vector<Interval> SessionFinder::ended() {
    return std::exchange(m_ended, {});
}

std::optional<TimeUs> SessionFinder::under_way() const {
    if (!m_begun || m_last <= *m_begun || m_last - *m_begun < m_least) return {};
    return m_begun;
}

} // namespace cognitum
