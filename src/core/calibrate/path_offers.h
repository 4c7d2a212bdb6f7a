// Calibration points turned into constants of the path, where the part's own curve is what is wrong: a zero and a
// slope, millimetres for each tip, a thermistor's constants, a vessel's table, the threshold between two states.
#pragma once

#include "core/calibrate/record.h"

#include <string>
#include <vector>

namespace cognitum {

/// One way to put what was found into the path instead of a correction behind it.
struct PathOffer {
    std::string id;    ///< "straight", "thermistor-beta", "thermistor-steinhart-hart", "strapping", "threshold"
    std::string title; ///< "Into the thermistor’s β and R25"
    std::string words; ///< the constants with their doubt; where it cannot be: what is missing
    bool possible = false;
    Chain path;                      ///< with the constants in it; their origin says from how many points and when
    std::vector<double> indications; ///< of the points through the new path, reading's unit; NaN: it has no value
    AppliedCorrection doubt;         ///< 1 · x + 0 with the doubt that the points leave over, and their span
    std::string in_record = {};      ///< title and words in English, as a record keeps them
};

/// What the path of a reading can take up: nothing for paths without such a stage. `correction`: the line that was
/// fitted to the points, for what is straight.
std::vector<PathOffer> path_offers(const Reading& reading, const Partners& partners,
                                   const std::vector<CalibrationPoint>& points,
                                   const std::optional<AppliedCorrection>& correction, TimeUs now);

/// The record of a calibration that ends in the path: as found with the old constants; as left from the same raw
/// values with the new ones, as points of their own. Points that the offer has no value for are set aside in the
/// copy. Error when the offer is not possible.
Result<CalibrationRecord> finish_into_path(const Reading& reading, const CalibrationDraft& draft,
                                           const PathOffer& offer, TimeUs now);

} // namespace cognitum
