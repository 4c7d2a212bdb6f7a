// Controls of loads and what they did, in sentences for a person.
#pragma once

#include "core/act/load_trial.h"

#include <string>
#include <vector>

namespace cognitum {

/// "on while Bed 1: dry (below 25 %, back above 40 %)".
std::string follows_says(const LoadControl& control, const Bench& bench);
/// What holds for it, a line each: "on for at least 2 min, at most 20 min, then off for 30 min", "never while
/// Cistern is below 250 L", "off while Bed 1 says nothing", "goes off by itself after 60 s".
std::vector<std::string> limits_say(const LoadControl& control, const Bench& bench);
/// Why: "its longest run of 20 min is over", "Cistern is below 250 L, or nearer to it than its doubt".
/// `readings`: of its judge, see LoadJudge.
std::string cause_says(const LoadControl& control, const std::vector<std::string>& readings, LoadCause cause,
                       int which, const Bench& bench);
/// For the logbook: "Bed pump is on: the rule “Dry” holds."
std::string load_event_says(const LoadControl& control, const std::vector<std::string>& readings,
                            const LoadEvent& event, const Bench& bench);
/// What it would have done: how often and how long, and what ended it.
std::string trial_says(const LoadControl& control, const LoadTrial& trial, const Bench& bench);
/// What is wrong with that, a sentence each: the load sees itself, runs dry, runs while nobody knows, its board
/// sleeps through tips. Empty: nothing that the record shows.
std::vector<std::string> trial_warns(const LoadControl& control, const LoadTrial& trial, const Bench& bench);

} // namespace cognitum
