// Events that a finger taps on a key: a pulse counted by hand, a bucket watched by eye.
#pragma once

#include "core/base/time.h"

#include <deque>
#include <optional>

namespace cognitum {

struct TapRate {
    double per_minute = 0;
    double doubt = 0; ///< ± at 95 %, from the scatter of the intervals and the finger's 50 ms
    int taps = 0;
};

class TapCounter {
  public:
    /// A pause of more than five seconds begins anew.
    void tap(TimeUs now);
    /// Rate over the taps so far; empty for fewer than four.
    [[nodiscard]] std::optional<TapRate> rate() const;
    [[nodiscard]] int taps() const { return static_cast<int>(m_taps.size()); }
    void clear() { m_taps.clear(); }

  private:
    std::deque<TimeUs> m_taps; ///< at most a minute's
};

} // namespace cognitum
