// Findings from what arrives, beside those from the plan: what the board says of itself, and verdicts on the raw
// signal.
#pragma once

#include "core/analyse/health.h"
#include "core/plan/findings.h"

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

/// The board measures against another voltage reference than the plan says. `card`: of the reading's board; `says`:
/// id of the reference that the board names; empty: it does not say.
std::optional<Finding> board_reference_differs(const Reading& reading, const BoardCard& card,
                                               const std::string& says);

/// The board runs a program that was written from another plan, or with other constants. `says`: PLAN or
/// PLAN-CONSTANTS; empty: it does not say. `planned` and `constants`: fingerprints of the plan as it is.
std::optional<Finding> board_runs_another_plan(const Reading& reading, const BoardUse& board,
                                               const std::string& says, const std::string& planned,
                                               const std::string& constants);

/// Verdicts as findings, in their order; notes are none, and silence is told by the path line itself.
std::vector<Finding> signal_findings(const Reading& reading, std::span<const HealthVerdict> verdicts);

} // namespace cognitum
