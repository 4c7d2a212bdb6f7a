// A sender's clock against this computer's: how far it is off, and how fast it runs away.
#pragma once

#include "core/base/error.h"
#include "core/base/no_number.h"
#include "core/base/time.h"

#include <cmath>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct ClockFit {
    double offset_s = no_number, u_offset_s = no_number; ///< to be added to the board's clock at mid-span
    double drift_ppm = no_number,
           u_drift_ppm = no_number; ///< board − true, per time; NaN with fewer than three
    double span_s = 0;
    bool absolute = false; ///< the board's clock tells the time of day: the offset means something
    [[nodiscard]] bool known() const { return std::isfinite(drift_ppm); }
};
/// From pairs of the board's time and the true one, by least squares. Two at least.
Result<ClockFit> fit_clock(std::span<const TimeUs> board, std::span<const TimeUs> truth);

/// "Its clock runs 42 ± 3 millionths fast, and is 1.2 s behind." Of a known one.
std::string clock_text(const ClockFit& clock);

/// Collects such pairs from a stream. Of each stretch the line that came with the least delay stands for it,
/// because a line can only come late; the stretches double when there are too many, so that it stays small for
/// ever.
class ClockCompare {
  public:
    /// A line that said `board` came at `arrival`. A clock that goes back begins anew. `absolute`: the board told
    /// the time of day, and not the time since it started.
    void take(TimeUs board, TimeUs arrival, bool absolute);
    /// Over five minutes at least; nothing known before, nor of a record that is played again.
    [[nodiscard]] ClockFit fit() const;

  private:
    static constexpr std::size_t most = 120;
    static constexpr TimeUs first_stretch = 10 * second_us;
    std::vector<TimeUs> m_board, m_arrival;
    TimeUs m_stretch = first_stretch, m_begin = 0;
    bool m_absolute = false;
};

} // namespace cognitum
