// What the plan and the cards say of a reading's raw signal: which kind it is, where its ends are, where it is
// expected, which of its numbers mean that nothing was measured.
#pragma once

#include "core/analyse/signal.h"
#include "core/decode/failure.h"
#include "core/plan/placed.h"

namespace cognitum {

SignalAbout about_signal(const Placed& placed);
/// Failure values of the reading's part, in the unit in which it arrives.
std::vector<FailureRule> failure_rules_of(const Placed& placed);
/// Span of the part's range, for telling a failure value from a measurement.
double part_span(const Placed& placed);

} // namespace cognitum
