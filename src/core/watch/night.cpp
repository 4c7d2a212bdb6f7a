#include "core/watch/night.h"

#include "core/physics/sun.h"

#include <algorithm>
#include <array>

namespace cognitum {

bool Night::operator()(TimeUs t) {
    if (t >= m_from && t < m_to) return m_dark;
    const TimeUs midnight = t - (t % day_us + day_us) % day_us;
    const auto times = [&](int days) {
        return physics::sun_times(midnight + days * day_us, m_where.latitude_deg, m_where.longitude_deg);
    };
    const physics::SunTimes today = times(0);
    m_from = midnight;
    m_to = midnight + day_us;
    m_dark = today.never_up;
    if (!today.sunrise && !today.sunset) return m_dark;
    // The nights between the sunsets and sunrises around it.
    bool has_sunset = false; // one whose sunrise has not come yet
    TimeUs begin = midnight - 2 * day_us;
    for (int day = -1; day <= 1; ++day) {
        const physics::SunTimes sun = times(day);
        std::array events = {std::pair(sun.sunrise, false), std::pair(sun.sunset, true)};
        if (sun.sunrise && sun.sunset && *sun.sunset < *sun.sunrise) std::swap(events[0], events[1]);
        for (const auto& [time, is_sunset] : events) {
            if (!time) continue;
            if (is_sunset) {
                has_sunset = true;
                begin = *time + m_margin;
                continue;
            }
            const TimeUs from = begin;
            const TimeUs end = *time - m_margin;
            has_sunset = false;
            begin = midnight + 4 * day_us; // until the next sunset it is day
            if (end <= from) continue;
            if (t >= from && t < end) {
                m_from = from;
                m_to = end;
                return m_dark = true;
            }
            if (t >= end) m_from = std::max(m_from, end);
            if (t < from) m_to = std::min(m_to, from);
        }
    }
    if (has_sunset && t >= begin) { // and its sunrise is days away
        m_from = begin;
        return m_dark = true;
    }
    if (has_sunset) m_to = std::min(m_to, begin);
    return m_dark = false;
}

} // namespace cognitum
