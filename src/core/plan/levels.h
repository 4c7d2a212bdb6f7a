// How high a part can lift its wires, at the worst of supplies, pull-ups and faults; what a pin or a module then
// gets.
#pragma once

#include "core/plan/placed.h"

#include <string>
#include <vector>

namespace cognitum {

/// The highest that one wire of a part can get, in front of a level divider.
struct WireLevel {
    std::string leg, pin; ///< pin of the board, or channel of the module in between
    double nominal_V = 0;
    double highest_V = 0; ///< with the supply at the upper end of its tolerance, or in the fault that `by` names
    double lowest_V = 0;  ///< the least that the part calls high; 0: it does not push its wire up by itself
    std::string by;       ///< "its output", "its own pull-up", "the pull-up that was added"
    LevelDivider divider;
};

/// One entry for each connected leg that can get a level from the part, its pull-ups or its loop.
std::vector<WireLevel> wire_levels(const Placed& placed);

/// What the board's pin withstands where this part is wired to: as an analog or as a digital input.
double pin_limit_V(const Placed& placed);

/// What an input of the module in between withstands: its own supply at the lower end, and a diode's 0.3 V.
double module_input_limit_V(const Placed& placed);

} // namespace cognitum
