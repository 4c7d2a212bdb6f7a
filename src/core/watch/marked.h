// What a person marked on the record, against what a rule says there: caught, missed and false, and a limit that
// would tell them apart.
#pragma once

#include "core/bench/watch_rule.h"
#include "core/watch/rule_trial.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct MarkScore {
    int caught = 0, missed = 0; ///< of the stretches that are alarms
    int false_alarms = 0;       ///< stretches that are none, in which it is raised
    int right = 0;              ///< those in which it is not
};
/// A rule speaks in a stretch when it is raised at any time in it.
MarkScore score_marks(const RuleTrial& trial, std::span<const MarkedStretch> marked);
/// "2 of 2 marked alarms are caught; 1 stretch that was none would be told."; empty: nothing is marked.
std::string score_says(const MarkScore& score);

/// Least and most of the values in a marked stretch; NaN: none.
struct MarkExtremes {
    double least = 0, most = 0;
};
struct LimitProposal {
    std::optional<WatchRule> rule; ///< with the limit and the way back that tell them apart; empty: none does
    std::string why;
};
/// Of a rule with one limit (above or below): a limit in the middle between what was an alarm and what was none, by
/// at least the doubt on both sides. `extremes`: of each marked stretch.
LimitProposal propose_limit(const WatchRule& rule, std::span<const MarkExtremes> extremes, double doubt,
                            const std::string& unit);

} // namespace cognitum
