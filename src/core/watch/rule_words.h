// Watch rules and what they say, in sentences for a person.
#pragma once

#include "core/bench/bench.h"
#include "core/watch/judge.h"

#include <string>

namespace cognitum {

/// "below 250 L, back above 300 L"; with the reading's name in front where it is not `lead`.
std::string condition_says(const WatchCondition& condition, const Bench& bench, const std::string& lead = {});
/// All conditions with their joints: "falls by more than 6 L/h over 2 h, while Pump says “on”".
std::string conditions_say(const WatchRule& rule, const Bench& bench);
/// The same with the hours: "falls more than 6 L/h, 01:00 to 05:00".
std::string rule_says(const WatchRule& rule, const Bench& bench);
/// "3 lines in a row · told once, again after 12 h". The end of what was told is told as well.
std::string confirmation_says(const WatchRule& rule);
/// "Cistern: nearly empty. 243 L, below 250 L for sure." No reading about somebody's health says its number.
std::string event_says(const WatchRule& rule, const WatchEvent& event, const Bench& bench);
/// "22:00 to 07:00"; "at all hours".
std::string hours_say(const DayHours& hours);

} // namespace cognitum
