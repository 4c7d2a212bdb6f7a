// The check on the budget: what comes out when every doubtful number is drawn a million times (JCGM 101:2008).
#pragma once

#include "core/base/no_number.h"
#include "core/uncertainty/budget.h"

#include <cstddef>
#include <cstdint>

namespace cognitum {

struct MonteCarlo {
    double mean = no_number; ///< output unit; NaN: nothing came out
    double sd = no_number;
    double low = 0, high = 0; ///< 2.5 and 97.5 in a hundred lie below
    std::size_t draws = 0;
    std::size_t failed = 0; ///< draws for which the path has no value

    /// Half of the interval that holds 95 %, to compare with Budget::expanded().
    [[nodiscard]] double expanded() const { return (high - low) / 2; }
};

/// The path at input x with its constants drawn as their doubt says (normal, or rectangular for a tolerance), those
/// of one cause together; half a count either way where a converter counts; noise; and the others, by Student's t
/// where their degrees of freedom are few (6.4.9). The seed fixes the result.
MonteCarlo monte_carlo(const Chain& chain, double x, const DoubtInputs& inputs = {}, std::size_t draws = 1'000'000,
                       std::uint64_t seed = 1);

/// True when the two intervals differ by more than 5 %: then the budget's straight lines are not good enough here.
bool disagree(const Budget& budget, const MonteCarlo& check);

} // namespace cognitum
