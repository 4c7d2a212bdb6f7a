#include "core/decode/sender.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

SequenceWatch::Step SequenceWatch::take(double sequence) {
    const auto remember = [&] {
        m_seen.push_back(sequence);
        if (m_seen.size() > static_cast<std::size_t>(reach)) m_seen.pop_front();
    };
    if (!m_last) {
        m_last = sequence;
        remember();
        return Step::first;
    }
    const double step = sequence - *m_last;
    // A line that was glued together says any number; two in a row are believed.
    if (step > implausible && !(m_odd && sequence == *m_odd + 1)) {
        m_odd = sequence;
        return Step::late;
    }
    m_odd.reset();
    if (step > 0) {
        remember();
        m_last = sequence;
        if (step == 1) return Step::next;
        m_lost += static_cast<std::uint64_t>(std::min(step - 1, 1e9));
        return Step::gap;
    }
    for (const double bits : {8.0, 16.0, 32.0})
        if (const double span = std::exp2(bits); *m_last < span && step < -span / 2 && step + span <= reach) {
            const double missed = step + span - 1;
            m_lost += static_cast<std::uint64_t>(std::max(0.0, missed));
            m_last = sequence;
            m_seen.clear();
            remember();
            return missed > 0 ? Step::gap : Step::next;
        }
    if (step >= -reach && sequence > 0) {
        if (std::find(m_seen.begin(), m_seen.end(), sequence) != m_seen.end()) {
            ++m_duplicates;
            return Step::duplicate;
        }
        ++m_late;
        if (m_lost > 0) --m_lost; // it was counted as lost when the one after it came
        remember();
        return Step::late;
    }
    if (step == 0) {
        ++m_duplicates;
        return Step::duplicate;
    }
    ++m_restarts;
    m_last = sequence;
    m_seen.clear();
    remember();
    return Step::restart;
}

double CounterTotal::take(double count) {
    if (!m_last) {
        m_last = count;
        return m_total;
    }
    double step = count - *m_last;
    if (step < 0) {
        bool rolled = false;
        for (const double bits : {8.0, 16.0, 32.0}) {
            const double span = std::exp2(bits);
            // Near the end of its span before, near the start now: it went round.
            if (*m_last < span && *m_last >= 0.75 * span && count < 0.25 * span) {
                step += span;
                rolled = true;
                break;
            }
        }
        if (!rolled) {
            ++m_restarts;
            step = count;
        }
    }
    m_last = count;
    m_total += step;
    return m_total;
}

TimeUs SenderClock::spread(TimeUs arrival, double ms, double last_ms) {
    const double behind = last_ms - ms;
    return behind > 0 && behind < 60'000 ? arrival - static_cast<TimeUs>(behind * 1000) : arrival;
}

SenderClock::Step SenderClock::take(TimeUs sender, TimeUs arrival) {
    const bool back = m_last && sender < *m_last - second_us;
    if (back) ++m_back;
    m_last = sender;
    if (back) return Step::back;
    return std::abs(sender - arrival) > day_us ? Step::far : Step::good;
}

} // namespace cognitum
