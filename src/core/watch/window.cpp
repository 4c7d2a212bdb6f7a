#include "core/watch/window.h"

#include <algorithm>

namespace cognitum {

namespace {
constexpr TimeUs most_cells = 512;
}

TimeWindow::TimeWindow(TimeUs length) : m_length(length), m_cell(length / most_cells) {}

void TimeWindow::take(TimeUs time, double value) {
    drop_before(time - m_length);
    if (m_cells.empty() || time - m_cells.back().from >= std::max<TimeUs>(m_cell, 1)) {
        m_cells.push_back({time, time, value, value, value, value, value, 0, 1});
    } else {
        Cell& cell = m_cells.back();
        cell.to = time;
        cell.last = value;
        cell.low = std::min(cell.low, value);
        cell.high = std::max(cell.high, value);
        cell.sum += value;
        cell.sum_t += seconds(time - cell.from);
        cell.n += 1;
    }
    if (m_cells.size() == 1 && m_cells.front().n == 1) {
        m_low = m_high = value;
    } else {
        m_low = std::min(m_low, value);
        m_high = std::max(m_high, value);
    }
}

void TimeWindow::drop_before(TimeUs oldest) {
    bool extreme = false;
    while (!m_cells.empty() && m_cells.front().to < oldest) {
        m_covered = true;
        extreme = extreme || m_cells.front().low <= m_low || m_cells.front().high >= m_high;
        m_cells.pop_front();
    }
    if (m_cells.empty()) m_covered = false; // what was before a pause that is as long proves nothing
    if (!m_cells.empty() && m_cells.front().from <= oldest) m_covered = true;
    if (!extreme || m_cells.empty()) return;
    m_low = m_cells.front().low;
    m_high = m_cells.front().high;
    for (const Cell& cell : m_cells) {
        m_low = std::min(m_low, cell.low);
        m_high = std::max(m_high, cell.high);
    }
}

void TimeWindow::shift(TimeUs by) {
    for (Cell& cell : m_cells) {
        cell.from += by;
        cell.to += by;
    }
}

std::optional<double> TimeWindow::slope() const {
    if (m_cells.size() < 3) return {};
    const TimeUs from = m_cells.front().from;
    if (2 * (m_cells.back().to - from) < m_length) return {};
    // One point for each cell, at its mean, weighted by its samples.
    double n = 0, t = 0, v = 0;
    for (const Cell& cell : m_cells) {
        n += cell.n;
        t += cell.n * seconds(cell.from - from) + cell.sum_t;
        v += cell.sum;
    }
    t /= n;
    v /= n;
    double tt = 0, tv = 0;
    for (const Cell& cell : m_cells) {
        const double x = seconds(cell.from - from) + cell.sum_t / cell.n - t;
        tt += cell.n * x * x;
        tv += cell.n * x * (cell.sum / cell.n - v);
    }
    if (tt <= 0) return {};
    return tv / tt;
}

} // namespace cognitum
