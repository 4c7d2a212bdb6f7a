#include "core/watch/rule_trial.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/watch/offers.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

void RuleTrial::count(const WatchEvent& event) {
    raised += event.kind == WatchKind::raised;
    repeated += event.kind == WatchKind::repeated;
    cleared += event.kind == WatchKind::cleared;
    if (events.size() < most_trial_events) events.push_back(event);
}

double RuleTrial::told_a_week() const {
    const TimeUs length = std::max(last - first, day_us);
    return static_cast<double>(raised + repeated) * seconds(7 * day_us) / seconds(length);
}

bool speaks_too_often(const WatchRule& rule, const RuleTrial& trial) {
    const bool again = trial.raised + trial.repeated > 1; // once says nothing about how often
    return rule.rank != WatchRank::note && again && trial.told_a_week() >= ignored_a_week;
}

std::string trial_says(const WatchRule& rule, const RuleTrial& trial) {
    if (!trial.trouble.empty()) return trial.trouble;
    if (trial.lines == 0) return phrase("Nothing is recorded that it could be tried on.");
    const std::string length = duration_text(std::max<TimeUs>(trial.last - trial.first, second_us));
    if (trial.raised == 0) return phrase("In {} of record it would not have spoken.", length);
    const std::uint64_t told = trial.raised + trial.repeated;
    std::string out = phrase("In {} of record it would have spoken {}{}.", length,
                             told == 1 ? phrase("once") : phrase("{} times", told),
                             trial.goes_on ? phrase(", and it still holds") : "");
    if (speaks_too_often(rule, trial))
        out += phrase(" {:.0f} a week are not read any more: ask for more lines in a row, or a wider way back.",
                      trial.told_a_week());
    return out;
}

std::optional<WatchRule> calmer(const WatchRule& rule, const RuleTrial& trial, double doubt,
                                const std::function<RuleTrial(const WatchRule&)>& try_rule) {
    if (!speaks_too_often(rule, trial) || rule.conditions.empty()) return {};
    std::vector<WatchRule> tries;
    const auto wider = [&](double factor) {
        WatchRule out = rule;
        WatchCondition& c = out.conditions.front();
        if (doubt <= 0) return out;
        const double down = round_for_person(c.value - factor * doubt, doubt / 5);
        const double up = round_for_person(c.value + factor * doubt, doubt / 5);
        if (c.when == WatchWhen::above) c.clear = std::min(c.clear.value_or(c.value), down);
        if (c.when == WatchWhen::below) c.clear = std::max(c.clear.value_or(c.value), up);
        return out;
    };
    for (const double factor : {1.0, 2.0})
        for (const int lines : {1, 3, 5}) {
            WatchRule next = wider(factor);
            next.count = std::max(next.count, lines);
            if (!(next == rule) && defect_of(next).empty()) tries.push_back(next);
        }
    for (const WatchRule& next : tries) {
        const RuleTrial tried = try_rule(next);
        if (tried.raised > 0 && tried.told_a_week() < ignored_a_week / 2) return next;
    }
    return {};
}

} // namespace cognitum
