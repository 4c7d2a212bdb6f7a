// The correction as a maker needs it on the board or on paper: slope and offset in raw counts, or a table.
#pragma once

#include "core/signal_path/chain.h"

#include <string>
#include <vector>

namespace cognitum {

struct BoardConstants {
    bool line = false;            ///< value = slope · raw + offset; else the table
    double slope = 1, offset = 0; ///< rounded
    int slope_decimals = 0, offset_decimals = 0;
    std::vector<double> raw, value; ///< rows of the table, rounded, straight in between
    int value_decimals = 0;
    double rounding_cost = 0; ///< largest difference from the exact path between low and high, output unit
    std::string trouble;      ///< why there is nothing: empty when there is
};

/// Of a path (correction and all) between two raw values, in either order. Digits, and rows of the table, are as
/// many as keep the rounding below a tenth of `doubt` (standard uncertainty, output unit), and no more. At most 200
/// rows; more are refused with a reason.
BoardConstants board_constants(const Chain& path, double low, double high, double doubt);

/// As lines for a program, with the reading's name and unit in a comment.
std::string board_code(const BoardConstants& constants, const std::string& name, const std::string& unit);

} // namespace cognitum
