// From cards, wiring and what the reading is about to a path: which stages lie between the pin and the quantity,
// with the data sheets' constants and the vessel's sizes.
#pragma once

#include "core/plan/placed.h"

namespace cognitum {

/// The stages for this part where it is wired. A voltage: converter (the board's or an external one), level
/// divider, the part's partner resistor, its transfer. An echo or a distance over a vessel: sound's way, level,
/// volume. A part that sends numbers: what its card says has to be done with them. Then a conductivity's
/// compensation, and the unit that was asked for. Constants carry their doubt and where they come from;
/// temperatures that another reading knows follow it. Empty for parts whose numbers are finished, and where board
/// or part are missing.
Chain build_path(const Placed& placed);

/// Builds a reading's path anew and keeps its name; what was typed into the old one is gone.
void refresh_path(const Bench& bench, const Catalog& catalog, Reading& reading);

/// Builds the paths anew whose plan changed between two states of a bench.
void refresh_changed_paths(const Bench& before, const Catalog& catalog, Bench& after);

/// The temperature reading that suits best as partner of a reading: the same part's own, else one in the same
/// medium, on the same board first; never one that would close a loop. Empty: none.
std::string temperature_partner(const Bench& bench, const Reading& reading, bool in_water);

/// What the readings that a path follows are planned to say: the middle of their range, as well as they are needed.
Partners planned_partners(const Bench& bench, const Chain& chain);

/// The part's own limit (± of its card) at this raw value, in the reading's unit, through what follows in the path;
/// 0 where the constants of the path say it all, NaN where it is not known.
double part_limit(const Placed& placed, double raw, const Partners& partners = {});

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
