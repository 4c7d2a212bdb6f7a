// Which leg goes to which pin, over the whole bench: buses shared, analog inputs that live beside the radio, pins
// that interrupt for pulses, no boot-strap trap, the console left free. Pins that a person fixed stay.
#pragma once

#include "core/plan/placed.h"

#include <string>
#include <vector>

namespace cognitum {

enum class Keep {
    fixed, ///< only what the person fixed stays; the rest is chosen anew
    placed ///< everything that has a pin stays; only the rest is chosen
};

struct Assignment {
    Bench bench;                   ///< with its pins
    std::vector<std::string> gaps; ///< one sentence for each leg that found no pin; empty: complete
};

/// The result does not depend on the order of readings, boards or modules. `board` limits it to one board.
/// Readings without a board are put on the first board (by id) that can take all their legs.
Assignment assign_pins(const Bench& bench, const Catalog& catalog, Keep keep, const std::string& board = {});

/// The bench with this part for this reading on this board: rail, reference, pins and path; earlier pins stay where
/// they still fit. Error in words when it cannot be placed.
Result<Bench> choose_part(const Bench& bench, const Catalog& catalog, const std::string& reading,
                          const std::string& part, const std::string& board);

} // namespace cognitum
