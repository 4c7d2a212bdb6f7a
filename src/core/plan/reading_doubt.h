// The doubt of one reading as it stands: its path, its calibration, its age since then, its noise.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"
#include "core/plan/placed.h"
#include "core/uncertainty/budget.h"

#include <string>
#include <vector>

namespace cognitum {

/// Budget of a reading at a raw value. `part` may be null (no drift then); noise in the raw unit, 1 sigma.
/// `card_doubt`: ± of the part itself, reading's unit, see part_limit(); 0: the path's constants say it all.
Budget reading_budget(const Reading& reading, const PartCard* part, double raw, double noise, TimeUs now,
                      double card_doubt = 0, const Partners& partners = {});
/// What reading_budget() knows beside the path, for a Monte Carlo check of the same.
DoubtInputs reading_doubts(const Reading& reading, const PartCard* part, double raw, double noise, TimeUs now,
                           double card_doubt = 0, const Partners& partners = {});

/// ± at 95 % after each step of `chain`, the path as it converts now: [0] is the raw value, without one. Before the
/// correction the data sheet's tolerances hold; the noise goes through every step. `whole`: the reading's budget at
/// `raw`, which is the last one.
std::vector<double> doubts_at_steps(const Bench& bench, const Catalog& catalog, const Reading& reading,
                                    const Chain& chain, double raw, const Budget& whole, const Partners& partners);

/// Share of a constant's doubt that a calibration through it leaves, 0…1: its stability against its tolerance.
double lasting_share(const Chain& path, std::string_view key);

/// What would help most and by how much, in two sentences; empty when there is nothing to say.
struct Advice {
    std::string first; ///< "The 1.1 V reference: ± 0.5 → ± 0.4 °C."
    std::string then;  ///< "After that, the calibration is the limit."
};
Advice what_would_help(const Placed& placed, const Budget& budget);

} // namespace cognitum
