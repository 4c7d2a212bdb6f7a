// The proof of a board's program where no compiler for the board is packaged: parsed against the stand-in of the
// core's headers with the types of the board, and evaluated against the same models of its parts as in the
// simulator.
#pragma once

#include "core/program/proof_plan.h"
#include "core/program/read/syntax.h"

namespace cognitum {

struct EvaluatedProof {
    ProofPlan plan;
    std::vector<ProofRow> rows;
    double longest_loop_ms = 0;
    std::vector<ProofLine> lines; ///< that it sent
    std::string stopped;          ///< why it went no further; empty: it went on to the end
};

/// Error: as plan_proof().
Result<EvaluatedProof> prove_evaluated(const program::SyntaxTree& tree, const Bench& bench, const Catalog& catalog,
                                       const std::string& board, const ProofOptions& options);

} // namespace cognitum
