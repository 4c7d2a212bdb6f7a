// What happens to a board on a bench besides measuring: its bus hangs, somebody presses its reset button. The
// program must say so, send no number that was not measured, and go on.
#pragma once

#include "core/program/parts_at_pins.h"
#include "core/program/proof_plan.h"
#include "machine/simulated_avr.h"

namespace cognitum::machine {

struct Disturbance {
    std::string what; ///< "hung-bus", "reset", "parts-away"
    bool held = false;
    std::string text; ///< what was seen, for a person
};

/// Goes on where the proof ended. One for each thing that can happen to this board.
std::vector<Disturbance> disturb(SimulatedAvr& avr, program::PartsAtPins& parts, const ProofPlan& plan,
                                 const Bench& bench);

} // namespace cognitum::machine
