// A proof's rows for a program that asks, and for a person.
#pragma once

#include "core/base/json_reader.h"
#include "core/program/proof_plan.h"

namespace cognitum {

bool all_hold(const std::vector<ProofRow>& rows);
/// "readings" with all points, and "not_proven".
Json proof_json(const ProofPlan& plan, const std::vector<ProofRow>& rows);
/// A line each.
std::string proof_text(const ProofPlan& plan, const std::vector<ProofRow>& rows);

} // namespace cognitum
