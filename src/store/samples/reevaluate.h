// Old data, better constants: what was recorded raw, once more through the path of today, as a series beside the
// old.
#pragma once

#include "core/stretch/stretch.h"
#include "store/file/bench_file.h"

#include <functional>
#include <optional>
#include <string>

namespace cognitum {

/// What became of it, and how far the two series are apart.
struct Reevaluated {
    std::string reading;               ///< id of the new one, in the plan of the file
    std::string name;                  ///< its name, which says by which calibration
    std::uint64_t samples = 0;         ///< in it
    std::uint64_t both = 0;            ///< that have a value in either
    double mean_difference = 0;        ///< new − old, of those, unit of the quantity
    double largest_difference = 0;     ///< the one that is farthest from zero, with its sign
    TimeUs largest_at = 0;             ///< only when both > 0
    std::uint64_t lost = 0, found = 0; ///< had a value and have none now; the other way round
};

/// Makes a new reading with the raw numbers of [from, to) and the values that its path of today, calibration and
/// all, makes of them. The old series stays as it is; the new reading keeps path and calibration, and the logbook
/// says which. Until all is there its name ends in "(not finished)". `go_on` is asked in between. Error when
/// nothing raw was recorded, or the path follows another reading, whose values of that time are not asked.
Result<Reevaluated> reevaluate(BenchFile& file, const std::string& reading, const std::optional<Interval>& stretch,
                               TimeUs now, const std::function<bool()>& go_on = {});

/// "1 204 recorded values seen anew …; on average +0.62 °C, at most +0.70 °C", for a person and for the logbook.
std::string reevaluated_says(const Reevaluated& result, const Quantity& quantity);

} // namespace cognitum
