// From cards and wiring to a path: which stages lie between the pin and the quantity, with the data sheets'
// constants.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"

namespace cognitum {

/// The stages for this part on this board. Constants carry their doubt and "data sheet" as origin.
Chain build_path(const PartCard& part, const BoardCard& board, const Wiring& wiring);

/// First wiring for a part on a board: a rail that suits it, the default reference, a free analog pin.
/// Error when the board has none of what is needed.
Result<Wiring> first_wiring(const PartCard& part, const BoardUse& use, const BoardCard& board, const Bench& bench);

struct VoltRange {
    double low = 0, high = 0; ///< V
};
/// Voltage at the pin over the expected range of the quantity, cut to what the part can measure.
VoltRange output_range(const Quantity& quantity, const PartCard& part, const BoardCard& board,
                       const Wiring& wiring);

/// A reference of the board that is finer than the one in use and still above the highest output; null if none.
const VoltageReference* finer_reference(const Reading& reading, const PartCard& part, const BoardCard& board);

/// One code in the quantity's unit at the middle of the expected range.
double count_size(const Reading& reading);

} // namespace cognitum
