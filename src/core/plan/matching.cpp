#include "core/plan/matching.h"

#include <limits>

namespace cognitum {

std::vector<int> least_cost_matching(const std::vector<std::vector<double>>& cost) {
    const std::size_t n = cost.size();
    if (n == 0) return {};
    const std::size_t m = cost[0].size();
    // Rows and columns count from 1; column 0 holds the row that is being placed.
    std::vector<double> row_potential(n + 1, 0), column_potential(m + 1, 0);
    std::vector<std::size_t> row_of(m + 1, 0), came_from(m + 1, 0);
    for (std::size_t row = 1; row <= n; ++row) {
        row_of[0] = row;
        std::size_t column = 0;
        std::vector<double> least(m + 1, std::numeric_limits<double>::infinity());
        std::vector<bool> used(m + 1, false);
        do {
            used[column] = true;
            const std::size_t now = row_of[column];
            double step = std::numeric_limits<double>::infinity();
            std::size_t next = 0;
            for (std::size_t j = 1; j <= m; ++j) {
                if (used[j]) continue;
                const double reduced = cost[now - 1][j - 1] - row_potential[now] - column_potential[j];
                if (reduced < least[j]) {
                    least[j] = reduced;
                    came_from[j] = column;
                }
                if (least[j] < step) {
                    step = least[j];
                    next = j;
                }
            }
            for (std::size_t j = 0; j <= m; ++j) {
                if (used[j]) {
                    row_potential[row_of[j]] += step;
                    column_potential[j] -= step;
                } else {
                    least[j] -= step;
                }
            }
            column = next;
        } while (row_of[column] != 0);
        while (column != 0) { // turn the path round
            const std::size_t before = came_from[column];
            row_of[column] = row_of[before];
            column = before;
        }
    }
    std::vector<int> out(n, -1);
    for (std::size_t j = 1; j <= m; ++j)
        if (row_of[j] != 0) out[row_of[j] - 1] = static_cast<int>(j) - 1;
    return out;
}

} // namespace cognitum
