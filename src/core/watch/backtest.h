// Watch rules on one recorded series, as `cognitum-cli backtest` reads and answers them.
#pragma once

#include "core/base/error.h"
#include "core/base/json_reader.h"
#include "core/watch/bands.h"
#include "core/watch/judge.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum {

/// A rule and, beside it, the silence that it also tells.
struct BacktestRule {
    WatchRule rule;
    double silent_after_s = 0; ///< 0: it tells none
};
/// `{"rules": [{"name", "when": "above" | "below", "value", "clear"?, "for_s"?, "count"?, "repeat_s"?,
/// "silent_after_s"?}]}`. Error naming file and pointer: an unknown key or word, a clear on the wrong side, a name
/// that stands twice, more than a thousand rules.
Result<std::vector<BacktestRule>> read_backtest_rules(const JsonReader& json);

struct BacktestEvent {
    TimeUs time = 0;
    std::size_t rule = 0;  ///< index
    const char* kind = ""; ///< raised, repeated, cleared, silent, back
};

class Backtest {
  public:
    explicit Backtest(const std::vector<BacktestRule>& rules, const ConditionAbout& about = {});
    /// The next samples, in order of time; NaN: a line without a value.
    void take(std::span<const TimedNumber> samples);
    /// In order of time; of one time in the order of the rules, the end of a silence before what the value says.
    [[nodiscard]] std::vector<BacktestEvent> events() const;

  private:
    struct Lane {
        RuleJudge judge;
        TimeUs silence = 0;
        std::optional<TimeUs> last;
        std::vector<WatchEvent> events, silences; ///< of silences: raised is silent, cleared is back
    };
    std::vector<Lane> m_lanes;
};

} // namespace cognitum
