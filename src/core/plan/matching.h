// Assignment at least cost: every row gets a column of its own.
#pragma once

#include <vector>

namespace cognitum {

/// Kuhn (1955), in the O(n²·m) form with potentials. cost[row][column]; rows ≤ columns, all rows equally long.
/// Returns the column of each row.
std::vector<int> least_cost_matching(const std::vector<std::vector<double>>& cost);

} // namespace cognitum
