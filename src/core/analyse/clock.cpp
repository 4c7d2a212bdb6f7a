#include "core/analyse/clock.h"

#include "core/analyse/statistics.h"
#include "core/base/phrase.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

Result<ClockFit> fit_clock(std::span<const TimeUs> board, std::span<const TimeUs> truth) {
    if (board.size() != truth.size() || board.size() < 2)
        return failure(phrase("a clock is compared at two moments at least."));
    std::vector<double> at, behind;
    for (std::size_t i = 0; i < board.size(); ++i) {
        at.push_back(seconds(truth[i] - truth[0]));
        behind.push_back(seconds(truth[i] - board[i]));
    }
    const Moments m = moments(behind);
    const double n = static_cast<double>(behind.size());
    ClockFit out;
    out.span_s = at.back() - at.front();
    out.offset_s = m.mean;
    out.u_offset_s = m.sd / std::sqrt(n);
    if (behind.size() >= 3) {
        const LineFit line = fit_line(at, behind);
        out.drift_ppm = -1e6 * line.slope; // what must be added falls as the board runs fast
        out.u_drift_ppm = 1e6 * line.slope_se;
        double squares = 0;
        for (std::size_t i = 0; i < at.size(); ++i)
            squares += std::pow(behind[i] - line.intercept - line.slope * at[i], 2);
        out.u_offset_s = std::sqrt(squares / (n - 2) / n);
    }
    return out;
}

std::string clock_text(const ClockFit& c) {
    const double rate = std::abs(c.drift_ppm), doubt = std::max(1.0, std::ceil(2 * c.u_drift_ppm));
    std::string out = rate <= doubt ? counted(std::lround(rate + doubt), "Its clock keeps pace within {} millionth",
                                              "Its clock keeps pace within {} millionths")
                                    : phrase("Its clock runs {:.0f} ± {:.0f} millionths {}", rate, doubt,
                                             c.drift_ppm < 0 ? phrase("slow") : phrase("fast"));
    if (c.absolute)
        out += std::abs(c.offset_s) < 0.1 ? std::string(phrase(", and has the time"))
                                          : phrase(", and is {} s {}", format_fixed(std::abs(c.offset_s), 1),
                                                   c.offset_s > 0 ? phrase("behind") : phrase("ahead"));
    return out + ".";
}

void ClockCompare::take(TimeUs board, TimeUs arrival, bool absolute) {
    const bool back = !m_board.empty() && (board < m_board.back() - second_us || arrival < m_arrival.back());
    if (back || absolute != m_absolute) {
        m_board.clear();
        m_arrival.clear();
        m_stretch = first_stretch;
        m_absolute = absolute;
    }
    if (m_board.empty() || arrival - m_begin >= m_stretch) {
        m_begin = arrival;
        m_board.push_back(board);
        m_arrival.push_back(arrival);
    } else if (arrival - board < m_arrival.back() - m_board.back()) {
        m_board.back() = board;
        m_arrival.back() = arrival;
    }
    if (m_board.size() < most) return;
    for (std::size_t i = 0; i < most / 2; ++i) { // two stretches become one
        const std::size_t a = 2 * i, b = 2 * i + 1;
        const std::size_t better = m_arrival[a] - m_board[a] < m_arrival[b] - m_board[b] ? a : b;
        m_board[i] = m_board[better];
        m_arrival[i] = m_arrival[better];
    }
    m_board.resize(most / 2);
    m_arrival.resize(most / 2);
    m_stretch *= 2;
}

ClockFit ClockCompare::fit() const {
    if (m_board.size() < 10 || m_arrival.back() - m_arrival.front() < 5 * minute_us) return {};
    ClockFit out = fit_clock(m_board, m_arrival).value_or(ClockFit{});
    // No oscillator is that wrong, and no clock a day: what was recorded is being played again.
    if (std::abs(out.drift_ppm) > 50'000 || (m_absolute && std::abs(out.offset_s) > 86'400)) return {};
    out.absolute = m_absolute;
    return out;
}

} // namespace cognitum
