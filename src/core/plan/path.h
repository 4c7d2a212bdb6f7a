// From cards and wiring to a path: which stages lie between the pin and the quantity, with the data sheets'
// constants.
#pragma once

#include "core/plan/placed.h"

namespace cognitum {

/// The stages for this part where it is wired: converter (the board's or an external one), level divider, the
/// part's partner resistor, its transfer, and the unit that was asked for. Constants carry their doubt and "data
/// sheet" as origin. Empty for parts that send numbers by themselves, and where board or part are missing.
Chain build_path(const Placed& placed);

/// Builds a reading's path anew and keeps its name; what was typed into the old one is gone.
void refresh_path(const Bench& bench, const Catalog& catalog, Reading& reading);

struct VoltRange {
    double low = 0, high = 0; ///< V
    [[nodiscard]] bool known() const { return high > low; }
};
/// Voltage at the part's output over the expected range, cut to what the part can measure; {0, 0}: not known.
VoltRange source_range(const Placed& placed);
/// The same at the pin, behind a level divider.
VoltRange pin_range(const Placed& placed);

/// A reference of the board that is finer than the one in use and still above the highest output; null if none.
const VoltageReference* finer_reference(const Placed& placed);

/// One code in the quantity's unit at the middle of the expected range; 0 without a path.
double count_size(const Reading& reading);

} // namespace cognitum
