// Watch rules tried on what a bench file holds.
#pragma once

#include "core/base/calendar.h"
#include "core/watch/hours.h"
#include "core/watch/keeper.h"
#include "core/watch/rule_trial.h"
#include "store/file/bench_file.h"

#include <vector>

namespace cognitum {

/// What each rule would have said over [from, to), whether it is on or not; a silence that lasts is told up to
/// `to` only where `to` is not behind `now`. Samples of several readings come in order of time. One that cannot be
/// tried says why and holds up no other.
struct TrialStretch {
    TimeUs from = earliest_time, to = latest_time;
    std::optional<TimeUs> now = {}; ///< lines were expected until then; empty: until the last sample
};
std::vector<RuleTrial> try_rules(BenchFile& file, const Bench& bench, const std::vector<WatchRule>& rules,
                                 const TrialStretch& stretch, const DoubtOf& doubt_of, const ZoneOffset& zone);

/// A reading hour by hour over [from, to).
Result<HourlyRecord> hourly_record(BenchFile& file, const std::string& reading, TimeUs from, TimeUs to);

/// Tells the keeper what the readings of its rules said in [from, to); what it makes of it is not told again.
Result<void> replay(BenchFile& file, WatchKeeper& keeper, const Bench& bench, TimeUs from, TimeUs to);

} // namespace cognitum
