#include "core/decode/failure.h"

#include "core/decode/number_text.h"

#include <cmath>

namespace cognitum {

std::vector<FailureRule> failure_rules(const PartCard& card) {
    std::vector<FailureRule> out;
    for (const FailureValue& f : card.failure_values) {
        const NumberText number = read_number_text(f.value);
        if (!number.there) continue;
        const Measurand* m = card.measures.empty() ? nullptr : &card.measures.front();
        const bool measurable = m && number.value > m->low && number.value < m->high;
        out.push_back({number.value, measurable, f.means});
    }
    return out;
}

const FailureRule* failed_by(const std::vector<FailureRule>& rules, double value, double before, double span) {
    for (const FailureRule& rule : rules) {
        if (value != rule.value) continue;
        if (!rule.only_at_start || !std::isfinite(before) || std::abs(value - before) > span / 10) return &rule;
    }
    return nullptr;
}

} // namespace cognitum
