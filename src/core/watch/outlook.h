// What follows from a reading's record, in sentences with their doubt: how much is used a day and until when it
// lasts, rain of an hour and a month, where a value is heading. No forecast of weather: what is said holds if it
// goes on so.
#pragma once

#include "core/bench/bench.h"
#include "core/watch/hours.h"

#include <string>
#include <vector>

namespace cognitum {

struct Outlook {
    std::string headline;           ///< the one that matters most: "empty in 9 ± 2 days"; empty: none
    std::vector<std::string> lines; ///< sentences, most important first
};

/// Another reading that says more of this one: the temperature of the air whose humidity it is.
struct Neighbour {
    const Reading& reading;
    const HourlyRecord& record;
};
/// The temperature that stands in the same air as a humidity: of the same part, or at the same place, or on the
/// same board and in no water. Null: none, or the reading is no humidity.
const Reading* air_beside(const Bench& bench, const Reading& reading);

/// `doubt`: ± of a value, 95 %; 0: not known. `now`: the record's present. Older than `now` by more than the
/// reading's own way of reporting, nothing is said of what comes. `air`: of a humidity; nullptr: not known.
Outlook outlook(const Reading& reading, const HourlyRecord& record, double doubt, TimeUs now,
                const ZoneOffset& zone, const Neighbour* air = nullptr);

/// What is drawn and refilled a day, over the last `days` whole local days with at least 20 hours of values.
struct DailyUse {
    int days = 0;
    double used = 0, filled = 0; ///< a day, mean
    double u_used = 0;           ///< standard uncertainty of that mean, from the scatter of the days
    double u_net = 0;            ///< of what is drawn less what is filled
};
DailyUse daily_use(const HourlyRecord& record, int days, TimeUs now, const ZoneOffset& zone);

} // namespace cognitum
