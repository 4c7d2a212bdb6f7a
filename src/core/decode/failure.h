// A failed measurement is never a number: which numbers a part gives when it did not measure, from its card.
#pragma once

#include "core/catalog/part_card.h"

#include <string>
#include <vector>

namespace cognitum {

struct FailureRule {
    double low = 0, high = 0;   ///< numbers from low to high, both included; equal: exactly that one
    bool only_at_start = false; ///< a value that the part also measures: it counts after power and after a jump
    std::string means;          ///< "no echo"
};
/// Rules of a card's failure values that are numbers; words arrive as no number anyway.
std::vector<FailureRule> failure_rules(const PartCard& card);

/// The rule that `value` falls under; null: it is a measurement. `before` is the last good value, NaN: there is
/// none. A value that is only wrong at the start counts when there was none before, or when it lies more than a
/// tenth of the part's span away from it.
const FailureRule* failed_by(const std::vector<FailureRule>& rules, double value, double before, double span);

} // namespace cognitum
