#include "core/pulses/collector.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/pulses/beats.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr TimeUs wave_window = 12 * second_us;
constexpr TimeUs least_wave = 4 * second_us;
constexpr std::size_t most_kept = 40'000;

Collected none(std::string why) {
    return {no_number, std::move(why)};
}

} // namespace

Collector::Collector(Kind kind, double every_s) : m_kind(kind), m_every(from_seconds(std::max(0.2, every_s))) {}

std::optional<Collected> Collector::take(TimeUs time, double number) {
    if (!m_kept.empty() && time <= m_kept.back().first) {
        if (time == m_kept.back().first) return {}; // said twice
        m_kept.clear();
        m_due = 0;
    }
    if (std::isfinite(number)) m_kept.emplace_back(time, number);
    const TimeUs window = m_kind == Kind::beats ? wave_window : 2 * m_every;
    while (m_kept.size() > 2 && (m_kept.front().first < time - window || m_kept.size() > most_kept))
        m_kept.pop_front();
    if (m_due == 0) m_due = time + (m_kind == Kind::beats ? std::max(least_wave, m_every) : m_every);
    if (time < m_due) return {};
    m_due = time + m_every;
    return m_kind == Kind::beats ? beats() : rate();
}

Collected Collector::beats() const {
    if (m_kept.size() < 60) return none(phrase("Too few samples of the wave to count beats."));
    // Even samples are what the filter asks for: the part behind the last gap.
    std::vector<TimeUs> steps;
    for (std::size_t i = 1; i < m_kept.size(); ++i)
        steps.push_back(m_kept[i].first - m_kept[i - 1].first);
    std::vector<TimeUs> sorted = steps;
    std::nth_element(sorted.begin(), sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() / 2), sorted.end());
    const TimeUs usual = std::max<TimeUs>(1, sorted[sorted.size() / 2]);
    std::size_t first = 0;
    for (std::size_t i = 0; i < steps.size(); ++i)
        if (steps[i] > 4 * usual) first = i + 1;
    const double span = seconds(m_kept.back().first - m_kept[first].first);
    if (span < seconds(least_wave))
        return none(phrase("The wave was interrupted; beats are counted again after four seconds."));
    std::vector<double> wave;
    for (std::size_t i = first; i < m_kept.size(); ++i)
        wave.push_back(m_kept[i].second);
    const double rate = static_cast<double>(wave.size() - 1) / span;
    if (rate < 20 || rate > 2000)
        return none(phrase("{:.0f} samples a second are too {} for a pulse wave.", rate,
                           rate < 20 ? phrase("few") : phrase("many")));
    const Beats found = find_beats(wave, rate);
    if (found.quality == PulseQuality::bad || !std::isfinite(found.bpm))
        return none(found.why.empty() ? phrase("No pulse to trust in the wave.")
                                      : phrase("No pulse to trust: {}", found.why));
    return {found.bpm, found.quality == PulseQuality::fair ? found.why : std::string()};
}

Collected Collector::rate() const {
    if (m_kept.size() < 2) return none(phrase("One count alone gives no rate."));
    const TimeUs end = m_kept.back().first;
    auto start = m_kept.begin();
    while (std::next(start) != m_kept.end() && std::next(start)->first <= end - m_every)
        ++start;
    const double span = seconds(end - start->first);
    if (!(span > 0)) return none(phrase("One count alone gives no rate."));
    double grown = 0; // a count that starts anew goes on from there
    for (auto at = std::next(start); at != m_kept.end(); ++at)
        grown += at->second >= std::prev(at)->second ? at->second - std::prev(at)->second : at->second;
    return {grown / span, {}};
}

} // namespace cognitum
