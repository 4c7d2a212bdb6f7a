// A program evaluated against its board's plan: each reading is given some values, one after another in runs of
// their own, and what the program sends is put beside what the plan's path makes of the same.
#pragma once

#include "core/plan/placed.h"
#include "core/program/proof_plan.h"
#include "core/program/read/evaluator.h"

namespace cognitum::program {

inline constexpr int trial_points = 7;          ///< near the low end, 1/6 to 5/6, near the high end
inline constexpr double trial_pulses_per_s = 1; ///< given to a part that counts

/// One number that a program sends, by where it is sent, over all points.
struct SentNumber {
    CodePlace place;
    std::string label;                   ///< text before it
    std::vector<const Printed*> at;      ///< by point; null: it was not sent there
    double interval_s = 0;               ///< usual time between two of them; 0: it was sent once
    const Reading* reading = nullptr;    ///< that it is about
    const ProofReading* asked = nullptr; ///< what that is given; null: it could not be given anything
    const Origin* source = nullptr;
    std::vector<std::pair<double, double>> series; ///< of one run: when, and what
    [[nodiscard]] const Printed* last() const;
};

struct Trial {
    const SyntaxTree* tree = nullptr;
    const Bench* bench = nullptr;
    const Catalog* catalog = nullptr;
    const BoardUse* use = nullptr;
    const BoardCard* card = nullptr;
    BoardNature nature;
    ProofPlan plan;
    std::vector<std::vector<ProofPoint>>
        points;                 ///< by number of the point; one for each reading that is given some
    std::vector<Observed> seen; ///< by point
    Observed unfitted;          ///< with no part at its pins
    Observed failing;           ///< as usual(), and every third asking of an echo or of a part on I²C fails
    std::vector<SentNumber> sent;

    [[nodiscard]] const ProofPoint* point(std::size_t k, const std::string& reading) const;
    [[nodiscard]] const ProofReading* asked(const std::string& reading) const;
    [[nodiscard]] Placed placed(const Reading& reading) const { return place(*bench, *catalog, reading); }
    /// Middle of the points: what is the same in all of them is asked here.
    [[nodiscard]] const Observed& usual() const { return seen[seen.size() / 2]; }
    [[nodiscard]] std::string file_name(const CodePlace& place) const;
    /// The line with the text at `place` replaced; without blanks at its ends.
    [[nodiscard]] std::string mended(const CodePlace& place, const std::string& by) const;
};

/// The nature of a board as programs see it.
BoardNature nature_of(const BoardCard& card);
/// Evaluates the program. The tree must have setup() and loop(), and outlive the trial.
Trial run_trial(const SyntaxTree& tree, const Bench& bench, const Catalog& catalog, const BoardUse& use);

/// The reading whose pin or bus this source is; several parts on one bus: the one whose value or name is nearest.
const Reading* reading_of(const Trial& trial, const Origin& source, const SentNumber& number);
/// The reading on this board that a text before a number names by a word of three letters or more, when it is one
/// alone.
const Reading* named_reading(const Trial& trial, const std::string& label);
/// True when the source is this reading's.
bool is_source_of(const Trial& trial, const Origin& source, const Reading& reading);

} // namespace cognitum::program
