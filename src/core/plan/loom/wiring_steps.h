// The wires as steps in a safe order, each with the check that proves it: grounds first, supply last.
#pragma once

#include "core/plan/loom/loom.h"

#include <string>
#include <vector>

namespace cognitum {

struct WiringStep {
    int number = 0; ///< from 1; ticked steps are kept by it
    std::string text;
    std::string meter;   ///< what to measure between which points, and what should be seen
    std::string if_not;  ///< what it means if something else is seen
    std::string caution; ///< said at this step; empty: none
    int wire = 0;        ///< order of the wire it is about; 0: none
};

/// Steps for the loom of one reading; empty with an empty loom.
std::vector<WiringStep> wiring_steps(const Bench& bench, const Catalog& catalog, const Reading& reading,
                                     const Loom& loom);

/// What the meter would show if the part were the other way round; empty when it has no polarity.
std::string mirror_check(const Bench& bench, const Catalog& catalog, const Reading& reading);

} // namespace cognitum
