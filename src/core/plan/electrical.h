// The small sums of a bench: dividers from the resistor series, pull-ups against capacitance and current.
#pragma once

#include "core/bench/wiring.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

/// Preferred resistor values of one decade, 1.0 … 9.1 (IEC 60063: E12 or E24). Error: none; others give E24.
const std::vector<double>& e_series(int series);

struct DividerChoice {
    LevelDivider divider;
    int series = 12;     ///< E12 or E24
    double output_V = 0; ///< loaded, nominal
    double worst_V = 0;  ///< loaded, with resistors at the wrong ends of ± 1 %
    double margin = 0;   ///< (limit − worst) / limit
};

/// Output of a divider under a load to ground, V. load_ohm 0: none.
double loaded_output(const LevelDivider& divider, double input_V, double load_ohm);

/// What a divider has to do.
struct DividerAsk {
    double input_V = 0;   ///< nominal
    double highest_V = 0; ///< what may come; at least input_V
    double lowest_V = 0;  ///< what still has to be seen; at most input_V
    double limit_V = 0;   ///< that the output stays under at the highest input and the wrong resistors
    double floor_V = 0;   ///< that it reaches at the lowest input and the wrong resistors; 0: none
    double load_ohm = 0;  ///< that hangs on the output; 0: none
};
/// The divider whose output is highest and still within what is asked; of outputs that differ by less than 0.4 % of
/// the limit the one nearest to 5 kΩ in all. 3 kΩ to 30 kΩ in all; of E24 where E12 gives no pair whose output
/// comes within a tenth of the limit. Nothing when no pair does.
std::optional<DividerChoice> choose_divider(const DividerAsk& ask);
/// The highest and the lowest output with resistors of ± 1 %.
double highest_output(const LevelDivider& divider, double input_V, double load_ohm);
double lowest_output(const LevelDivider& divider, double input_V, double load_ohm);

/// Rise time of a bus line from 30 % to 70 %, ns: 0.8473·R·C (I²C-bus specification, 7.1). ohm, pF.
double rise_time_ns(double pull_up_ohm, double capacitance_pF);
/// Longest rise time that the bus allows at this speed, ns (I²C-bus specification, table 10).
double rise_limit_ns(double kHz);
/// Weakest pull-up, Ω, and strongest: 3 mA at 0.4 V (same table).
double strongest_pull_up_ohm(double supply_V);
double weakest_pull_up_ohm(double kHz, double capacitance_pF);

inline constexpr double bus_limit_pF = 400;   ///< I²C-bus specification, table 10
inline constexpr double cable_pF_per_m = 100; ///< flat or four-core cable, a usual upper value

/// With their unit, to three digits.
std::string volts(double v);
std::string milliamps(double mA);

} // namespace cognitum
