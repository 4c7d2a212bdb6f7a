// What a reference says to one reading: its value and doubt in the reading's unit, and whether it is good enough to
// judge it.
#pragma once

#include "core/calibrate/references.h"

#include <map>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

struct ReferenceForReading {
    ReferenceValue value;              ///< in the reading's unit
    std::optional<ReferenceValue> own; ///< in the kind's unit, where the reading's path states it otherwise
    double water_degC = 0;             ///< at which `own` holds
};
/// Of a kind that computes itself. Error as of reference_value(), and when its unit is not one of the reading's
/// quantity.
Result<ReferenceForReading> reference_for(const ReferenceKind& kind, const std::map<std::string, double>& inputs,
                                          const Reading& reading);

/// Standard uncertainty of an instrument in the reading's unit. A doubt is a difference: it converts without the
/// offset that temperatures have. Error when the units are not of one quantity.
Result<double> instrument_doubt(const ReferenceInstrument& instrument, const Reading& reading);

/// What makes one think twice: another unit seems to be meant, the instrument is overdue or of the same design, or
/// the doubt is more than a third of the limit. `indication`: NaN when there is none; `value` in the reading's
/// unit.
std::vector<std::string> reference_doubts(const std::optional<ReferenceValue>& value,
                                          const ReferenceInstrument* instrument, const Reading& reading,
                                          double indication, TimeUs now);

} // namespace cognitum
