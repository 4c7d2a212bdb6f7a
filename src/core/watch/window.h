// The last stretch of a series, for conditions that look over time. What it holds is bounded whatever the rate:
// samples that come closer than a 512th of the stretch share a cell.
#pragma once

#include "core/base/time.h"

#include <deque>
#include <optional>

namespace cognitum {

class TimeWindow {
  public:
    explicit TimeWindow(TimeUs length);
    /// In order of time; finite values.
    void take(TimeUs time, double value);
    /// Everything in it happened later, or earlier, by this: the clock was set.
    void shift(TimeUs by);

    [[nodiscard]] bool covered() const { return m_covered; } ///< it holds as much as it is long
    [[nodiscard]] double range() const { return m_cells.empty() ? 0 : m_high - m_low; }
    /// Slope of the least-squares line, for each second; empty: fewer than three cells, or less than half the
    /// length.
    [[nodiscard]] std::optional<double> slope() const;
    /// Last less first value in it.
    [[nodiscard]] double gain() const { return m_cells.empty() ? 0 : m_cells.back().last - m_cells.front().first; }

  private:
    struct Cell {
        TimeUs from = 0, to = 0;
        double first = 0, last = 0, low = 0, high = 0, sum = 0, sum_t = 0; ///< sum_t: seconds since `from`
        double n = 0;
    };
    void drop_before(TimeUs oldest);
    TimeUs m_length, m_cell;
    std::deque<Cell> m_cells;
    bool m_covered = false;
    double m_low = 0, m_high = 0;
};

} // namespace cognitum
