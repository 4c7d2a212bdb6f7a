// When the sun rises and sets, for light sensors and for what is expected when.
#pragma once

#include "core/base/time.h"

namespace cognitum::physics {

struct SunTimes {
    std::optional<TimeUs> sunrise, sunset; ///< within the day; empty: none
    bool always_up = false, never_up = false;
};

/// Sunrise and sunset within a day of UTC, for the sun's upper limb with a refraction of 34′ (zenith 90.833°), by
/// the low-accuracy solar coordinates of Meeus (Astronomical Algorithms, 2nd ed. 1998, ch. 25): within a minute
/// between 72° south and 72° north. day: any moment of the day; latitude: −90…90, north positive; longitude:
/// −180…180, east positive. Outside: nothing.
SunTimes sun_times(TimeUs day, double latitude_deg, double longitude_deg);

} // namespace cognitum::physics
