#include "core/decode/failure.h"

#include "core/decode/number_text.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace cognitum {

std::vector<FailureRule> failure_rules(const PartCard& card) {
    constexpr double infinity = std::numeric_limits<double>::infinity();
    std::vector<FailureRule> out;
    const Measurand* m = card.measures.empty() ? nullptr : &card.measures.front();
    for (const FailureValue& f : card.failure_values) {
        FailureRule rule{0, 0, false, f.means};
        if (f.at_least || f.at_most) {
            rule.low = f.at_least.value_or(-infinity);
            rule.high = f.at_most.value_or(infinity);
        } else if (const NumberText number = read_number_text(f.value); number.there) {
            rule.low = rule.high = number.value;
            rule.only_at_start = m && number.value > m->low && number.value < m->high;
        } else {
            continue;
        }
        out.push_back(rule);
    }
    return out;
}

const FailureRule* failed_by(const std::vector<FailureRule>& rules, double value, double before, double span) {
    for (const FailureRule& rule : rules) {
        const double slack = 1e-9 * std::max(1.0, std::abs(value)); // of a limit in the unit of the line
        if (!(value >= rule.low - slack && value <= rule.high + slack)) continue;
        if (!rule.only_at_start || !std::isfinite(before) || std::abs(value - before) > span / 10) return &rule;
    }
    return nullptr;
}

} // namespace cognitum
