// Two series of the same thing side by side: how far apart, how much one stretches the other, how much later it is,
// and what that does not show.
#pragma once

#include "core/base/no_number.h"
#include "core/calibrate/gate.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct Comparison {
    double bias = no_number;        ///< mean of B − A, once B is moved by the lag
    double sd = bias;               ///< of the differences
    double low = bias, high = bias; ///< limits of agreement: bias ± 1.96 sd (Bland and Altman 1986)
    double u_bias = bias;           ///< standard uncertainty of the bias, with the differences' autocorrelation
    double slope = bias;            ///< of B over A, Theil–Sen: 1 where both stretch alike
    double slope_york = bias;       ///< the same with equal scatter in both (York 2004)
    double lag_s = 0;               ///< how much later B is; 0 where it cannot be told
    bool lag_known = false;         ///< the series move enough for a lag to be found
    bool opposite = false;          ///< B falls where A rises, by more than their scatter
    std::size_t n = 0;              ///< pairs
    std::string verdict;            ///< one sentence with its figures
    std::vector<std::string> cannot_show; ///< what this agreement does not prove
};

/// How the verdict calls the two; unit: of both, empty: none.
struct ComparedNames {
    std::string a = "A", b = "B", unit = {};
};

/// Series in order of time. B is read between its samples where they are at most `gap_s` apart (0: five of its
/// usual intervals), at the times of A. The lag is that of the largest correlation, searched to a tenth of the
/// overlap either way. Without overlap n is 0 and the figures are NaN.
Comparison compare_series(std::span<const TimedValue> a, std::span<const TimedValue> b, double gap_s = 0,
                          const ComparedNames& names = {});

/// Median of the slopes between all pairs (Theil 1950, Sen 1968), among at most 600 points evenly chosen; NaN where
/// all x are equal.
double theil_sen(std::span<const double> x, std::span<const double> y);

} // namespace cognitum
