// What a rule would have said over what was recorded: told before it is trusted.
#pragma once

#include "core/watch/judge.h"

#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

inline constexpr std::size_t most_trial_events = 2000;

struct RuleTrial {
    std::vector<WatchEvent> events; ///< in order of time, the first most_trial_events
    std::uint64_t raised = 0, repeated = 0, cleared = 0;
    std::uint64_t lines = 0;    ///< of its readings that were looked at
    TimeUs first = 0, last = 0; ///< of them
    bool goes_on = false;       ///< raised at the end
    std::string trouble;        ///< why it could not be tried; empty: it was

    void count(const WatchEvent& event);
    /// How often it would have been told a week, with repeats, over the record; over less than a day as of a day.
    [[nodiscard]] double told_a_week() const;
};

/// A notice that comes this often is no longer read.
inline constexpr double ignored_a_week = 7;
/// What is good to know gives no notice, and may come as often as it likes.
bool speaks_too_often(const WatchRule& rule, const RuleTrial& trial);

/// "It would have spoken 2 times in 60 days." or why there is nothing to try it on; then, where it speaks too
/// often, what that means.
std::string trial_says(const WatchRule& rule, const RuleTrial& trial);

/// Of a rule that speaks too often: the same with more lines in a row or a wider way back, nothing else changed;
/// `try_rule` says how often a rule would have spoken. Empty: nothing calms it without making it deaf.
std::optional<WatchRule> calmer(const WatchRule& rule, const RuleTrial& trial, double doubt,
                                const std::function<RuleTrial(const WatchRule&)>& try_rule);

} // namespace cognitum
