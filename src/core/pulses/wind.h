// Wind as it is reported: means, gusts, and a direction that goes round.
#pragma once

#include "core/base/time.h"

#include <span>

namespace cognitum {

struct WindSample {
    TimeUs time = 0;
    double speed = 0;         ///< any unit of speed; NaN: none
    double direction_deg = 0; ///< where it comes from, 0 north, 90 east; NaN: none
};

struct WindReport {
    double mean = 0;          ///< of the speeds in the window; NaN: none
    double gust = 0;          ///< largest mean over three seconds
    double direction_deg = 0; ///< of the mean vector, 0…360; NaN: calm, or no vane
    double steadiness = 0;    ///< length of the mean vector over the mean speed, 0…1
    std::size_t samples = 0;
};

/// Mean and gust over the last `window_s` before the last sample (WMO-No. 8, part I, chapter 5: ten minutes, gusts
/// of three seconds). Times grow.
WindReport wind_report(std::span<const WindSample> samples, double window_s = 600, double gust_s = 3);

} // namespace cognitum
