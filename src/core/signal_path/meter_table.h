// What a meter should show: a path backwards at chosen values, one column for each place where one can measure.
#pragma once

#include "core/signal_path/chain.h"

#include <string>
#include <vector>

namespace cognitum {

struct MeterTable {
    struct Column {
        std::string title; ///< "Voltage"
        std::string unit;
    };
    std::vector<Column> columns;          ///< the reading's own first, then back to what the board sends
    std::vector<std::vector<Value>> rows; ///< a value for each column
    std::vector<std::string> causes;      ///< for each row: why a place has none; empty: all have
};

/// Rows from `from` to `to` in steps of `step` (last unit), at most 200. Empty where step is not above zero, or
/// where from is above to.
MeterTable meter_table(const Chain& chain, double from, double to, double step);

/// Header "Temperature_degC,Voltage_V,code" and rows; an empty cell is no value.
std::string meter_table_csv(const MeterTable& table);

/// A step that gives about `rows` rows with round numbers: 1, 2 or 5 times a power of ten.
double round_step(double span, int rows);

} // namespace cognitum
