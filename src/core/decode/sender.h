// What a sender says about its own lines: sequence numbers, counters and times, with what they prove: lost, doubled
// and reordered lines, restarts, clocks that were set back.
#pragma once

#include "core/base/time.h"

#include <cstdint>
#include <deque>
#include <optional>

namespace cognitum {

/// Follows a sequence number that grows by one with each line.
class SequenceWatch {
  public:
    enum class Step { first, next, gap, duplicate, late, restart };
    /// A number that went back far, or to the start, is a restart; one that is a little behind is late; one that
    /// was seen just now is a duplicate. Roll-over at 2^8, 2^16 and 2^32 is no restart.
    Step take(double sequence);
    [[nodiscard]] std::uint64_t lost() const { return m_lost; }
    [[nodiscard]] std::uint64_t duplicates() const { return m_duplicates; }
    [[nodiscard]] std::uint64_t late() const { return m_late; } ///< reordered
    [[nodiscard]] std::uint64_t restarts() const { return m_restarts; }

  private:
    static constexpr double reach = 64;         ///< how far behind a line may come
    static constexpr double implausible = 1000; ///< more lines than can be lost at once
    std::optional<double> m_last, m_odd;
    std::deque<double> m_seen;
    std::uint64_t m_lost = 0, m_duplicates = 0, m_late = 0, m_restarts = 0;
};

/// Continues a counter that rolls over or starts again at zero, as a total since the first value.
class CounterTotal {
  public:
    /// New total. A fall from the last quarter of an 8-, 16- or 32-bit span to its first rolled over; any other
    /// fall is a restart, after which the counter stands for itself.
    double take(double count);
    [[nodiscard]] double total() const { return m_total; }
    [[nodiscard]] std::uint64_t restarts() const { return m_restarts; }

  private:
    std::optional<double> m_last;
    double m_total = 0;
    std::uint64_t m_restarts = 0;
};

/// Sets a sender's milliseconds since its start against arrival times. Lines that arrived in one piece are told
/// apart; a clock that jumps is noticed.
class SenderClock {
  public:
    /// Time of a line that arrived at `arrival` in one piece with others, the last of which said `last_ms`.
    [[nodiscard]] static TimeUs spread(TimeUs arrival, double ms, double last_ms);
    /// Notices an absolute sender's time (SenML, "time") that runs back, or is more than a day off from arrival.
    enum class Step { good, back, far };
    Step take(TimeUs sender, TimeUs arrival);
    [[nodiscard]] std::uint64_t set_back() const { return m_back; }

  private:
    std::optional<TimeUs> m_last;
    std::uint64_t m_back = 0;
};

} // namespace cognitum
