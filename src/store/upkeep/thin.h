// A thinner copy of a bench, for those who keep years: of old samples only those that say most. Never by itself,
// and the bench stays as it is.
#pragma once

#include "store/upkeep/bench_copy.h"

#include <string>
#include <vector>

namespace cognitum {

struct ThinRequest {
    std::vector<std::string> readings; ///< ids; empty: all
    TimeUs before = 0;                 ///< older samples are thinned
    TimeUs step = 0;                   ///< of so much time, counted from 1970, what says most is kept; > 0
};

/// Of one reading. Of each step it keeps the first and the last sample, the least and the most value, and the first
/// failure: curves keep their extremes, a total its growth, to the step. Of a state every change is kept.
class Thinner {
  public:
    Thinner(TimeUs before, TimeUs step, bool is_state) : m_before(before), m_step(step), m_is_state(is_state) {}
    /// In order of time. Gives those that are kept once their step is over.
    void take(const Sample& sample, std::vector<Sample>& out);
    void finish(std::vector<Sample>& out);

  private:
    TimeUs m_before, m_step;
    bool m_is_state;
    TimeUs m_at = 0;               ///< number of the step
    std::vector<Sample> m_waiting; ///< of the step
};

struct ThinReport {
    struct Series {
        std::string reading; ///< id
        std::uint64_t kept = 0, thrown = 0;
    };
    std::vector<Series> series; ///< those of which anything was thrown away
};

/// Writes the copy. What was kept and thrown away stands in its logbook. Error when the bench cannot be read whole
/// (mend it first), the target exists or cannot be written; nothing is left there then.
Result<ThinReport> thin_into(BenchFile& file, const ThinRequest& request, const std::string& target, TimeUs now);

} // namespace cognitum
