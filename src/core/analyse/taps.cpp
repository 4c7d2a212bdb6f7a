#include "core/analyse/taps.h"

#include <cmath>

namespace cognitum {

namespace {
constexpr TimeUs longest_pause = 5 * second_us;
constexpr double finger_s = 0.05; ///< 1 sigma of one tap
} // namespace

void TapCounter::tap(TimeUs now) {
    if (!m_taps.empty() && (now - m_taps.back() > longest_pause || now < m_taps.back())) m_taps.clear();
    m_taps.push_back(now);
    while (m_taps.back() - m_taps.front() > minute_us)
        m_taps.pop_front();
}

std::optional<TapRate> TapCounter::rate() const {
    if (m_taps.size() < 4) return {};
    const double span = seconds(m_taps.back() - m_taps.front());
    const auto intervals = static_cast<double>(m_taps.size() - 1);
    if (!(span > 0)) return {};
    TapRate out;
    out.taps = static_cast<int>(m_taps.size());
    out.per_minute = 60 * intervals / span;
    // The two ends are tapped by a finger; what lies between cancels.
    out.doubt = 2 * out.per_minute * std::sqrt(2.0) * finger_s / span;
    return out;
}

} // namespace cognitum
