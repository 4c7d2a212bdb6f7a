#include "store/figures/value_doubts.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

ValueDoubts::ValueDoubts(const Bench& bench, const Catalog& catalog, const Reading& reading,
                         std::vector<CalibrationRecord> records)
    : m_bench(bench),
      m_catalog(catalog),
      m_reading(reading),
      m_records(std::move(records)),
      m_step(std::max(1e-12, std::abs(reading.quantity.high - reading.quantity.low) / 1000)) {}

std::optional<double> ValueDoubts::at(double value, TimeUs time) {
    if (!std::isfinite(value)) return {};
    const auto force = std::upper_bound(m_records.begin(), m_records.end(), time,
                                        [](TimeUs t, const CalibrationRecord& r) { return t < r.time; }) -
                       m_records.begin();
    constexpr std::size_t most_known = 100'000;
    if (force != m_force || m_known.size() > most_known) {
        m_force = force;
        m_reading.correction.reset();
        if (force > 0) m_reading.correction = m_records[static_cast<std::size_t>(force - 1)].correction;
        m_known.clear();
    }
    const double place = std::clamp(std::round(value / m_step), -1e15, 1e15);
    const auto [known, is_new] = m_known.try_emplace(static_cast<std::int64_t>(place), 0.0);
    if (is_new) known->second = 2 * value_u(m_bench, m_catalog, m_reading, value, time);
    return std::isfinite(known->second) ? std::optional(known->second) : std::nullopt;
}

} // namespace cognitum
