// How long a battery feeds a board that sleeps between measurements. Pure functions.
#pragma once

#include "core/base/error.h"

namespace cognitum::physics {

struct BatteryUse {
    double capacity_mAh = 0; ///< rated, above zero
    double sleep_mA = 0, active_mA = 0;
    double active_s = 0, interval_s = 0; ///< awake so long once in each interval; at most the interval
    double self_discharge_per_year = 0;  ///< share of the rated capacity that goes by itself in a year, 0…12
    double reserve = 0;                  ///< share of the capacity that is left when it counts as empty, below 1
};

struct BatteryLife {
    double days = 0;
    double average_mA = 0;                                              ///< of the board
    double sleep_share = 0, active_share = 0, self_discharge_share = 0; ///< of what goes; 1 together
};

/// Charge over current: t = C (1 − reserve) ÷ (I_board + I_self), with I_board the mean over an interval, and the
/// self-discharge as data sheets give it, a constant share of the rated capacity C (a year has 365.25 days). It
/// knows neither cold nor the voltage at which a board stops: both make the life shorter. Error that names the
/// field as the command line does: a number out of its range, or nothing that draws.
Result<BatteryLife> battery_life(const BatteryUse& use);

} // namespace cognitum::physics
