#include "core/program/read/evaluated_proof.h"

#include "core/base/phrase.h"
#include "core/program/parts_at_pins.h"
#include "core/program/read/program_trial.h"

namespace cognitum {

Result<EvaluatedProof> prove_evaluated(const program::SyntaxTree& tree, const Bench& bench, const Catalog& catalog,
                                       const std::string& board, const ProofOptions& options) {
    ProofOptions asked = options;
    asked.any_board = true;
    EvaluatedProof out;
    COGNITUM_TRY(plan, plan_proof(bench, catalog, board, asked));
    out.plan = plan;
    const BoardCard& card = *catalog.board(bench.board(board)->card);
    program::BoardPins pins(card);
    const program::PartsAtPins parts(pins, plan, bench, catalog);
    program::RunLimits limits;
    limits.least_s = limits.most_s = plan.end_s;
    limits.steps = 200'000'000;
    limits.lines = 50'000;
    program::Evaluator evaluator(tree, pins, program::nature_of(card), limits);
    evaluator.has_network = false; // what it sends is seen at its serial port as well, and no broker is played here
    pins.at(plan.begin_s / 2, [&] { evaluator.input += plan.command + "\n"; });
    const program::Observed seen = evaluator.run();
    for (const program::Line& line : seen.lines)
        out.lines.push_back({line.at_s, line.text});
    out.rows = judge_proof(plan, bench, catalog, out.lines);
    out.longest_loop_ms = seen.longest_turn_ms;
    out.stopped = seen.stopped;
    if (out.stopped.empty() && seen.end_s < plan.end_s - 1) out.stopped = phrase("it takes too many steps");
    return out;
}

} // namespace cognitum
