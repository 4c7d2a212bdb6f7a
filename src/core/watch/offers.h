// What a kind of reading needs to be watched for, as rules with their numbers from the record: made with one click,
// and tried before they are trusted.
#pragma once

#include "core/bench/bench.h"
#include "core/watch/hours.h"

#include <string>
#include <vector>

namespace cognitum {

struct RuleOffer {
    WatchRule rule;  ///< without an id
    std::string why; ///< where its numbers come from
};

/// `doubt`: ± of a value, 95 %; 0: not known. Rules that the reading has already (of the same name) are left out.
std::vector<RuleOffer> rule_offers(const Bench& bench, const Reading& reading, const HourlyRecord& record,
                                   double doubt, const ZoneOffset& zone);

/// A plain rule to begin with: above what the record mostly holds.
WatchRule first_rule(const Reading& reading, const HourlyRecord& record);

/// Rounded to what a person would write: 1, 2 or 5 times a power of ten, or a step of those near `value`.
double round_for_person(double value, double step_hint);

} // namespace cognitum
