// Controls of loads tried on what a bench file holds.
#pragma once

#include "core/act/load_trial.h"
#include "store/figures/watch_trial.h"

namespace cognitum {

/// What the load would have done over the stretch, whether it acts or not, with what it does to the readings on
/// top; `runs_without` is counted in a second pass. One that cannot be tried says why.
LoadTrial try_control(BenchFile& file, const Bench& bench, const LoadControl& control, const TrialStretch& stretch,
                      const DoubtOf& doubt_of, const ZoneOffset& zone);

/// Of the tips (or turns) that a reading has on record, those that fall into the sleep of a board that is awake for
/// wake_s of each wake_s + sleep_s.
struct MissedTips {
    std::uint64_t tips = 0, missed = 0;
};
Result<MissedTips> missed_tips(BenchFile& file, const std::string& reading, double sleep_s, double wake_s,
                               const TrialStretch& stretch);

} // namespace cognitum
