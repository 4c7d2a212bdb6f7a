// Many numbers that become one: a wave's samples to a rate of beats, a count's growth to a frequency. One collector
// for each reading that needs it; a value type, so that it can be tried without a bench.
#pragma once

#include "core/base/no_number.h"
#include "core/base/time.h"

#include <deque>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

struct Collected {
    double number = no_number; ///< beats a minute, or Hz; NaN: see why
    std::string why;           ///< why there is none, or what is doubtful about it
};

class Collector {
  public:
    enum class Kind { beats, rate };
    /// `every_s`: one result each so many seconds; for a rate also the time over which it is counted.
    Collector(Kind kind, double every_s);

    /// Takes a number; gives a result when one is due. Times grow; one that goes back begins anew.
    std::optional<Collected> take(TimeUs time, double number);

  private:
    [[nodiscard]] Collected beats() const;
    [[nodiscard]] Collected rate() const;
    Kind m_kind;
    TimeUs m_every;
    std::deque<std::pair<TimeUs, double>> m_kept;
    TimeUs m_due = 0;
};

} // namespace cognitum
