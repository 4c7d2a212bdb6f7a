// How sure: first-order propagation through a path (GUM, JCGM 100:2008, 5.1), one line for each cause, ranked.
#pragma once

#include "core/base/no_number.h"
#include "core/signal_path/chain.h"

#include <limits>
#include <string>
#include <vector>

namespace cognitum {

/// One cause of doubt, as a standard uncertainty in the path's output unit (or a share of it).
struct Contribution {
    std::string id;    ///< quantisation, noise, calibration, drift, or the constant's key: reference_V, zero, …
    std::string label; ///< for a person: "One count is coarse"
    double u = 0;      ///< standard uncertainty, output unit, ≥ 0
    double dof = std::numeric_limits<double>::infinity(); ///< degrees of freedom
};

struct Budget {
    double value = no_number; ///< output of the path; NaN when there is none
    double standard_uncertainty = no_number;
    double dof = std::numeric_limits<double>::infinity(); ///< Welch–Satterthwaite (GUM G.4)
    double k = 2;                                         ///< t factor for 95 %
    std::vector<Contribution> contributions;              ///< largest first
    [[nodiscard]] double expanded() const { return k * standard_uncertainty; }
    [[nodiscard]] const Contribution* find(std::string_view id) const;
};

/// What is known beside the constants of the path.
struct DoubtInputs {
    double noise = 0;                 ///< standard deviation of the input around its mean, input unit
    std::vector<Contribution> others; ///< already in the output unit: calibration, drift
    /// Input at which an offset was calibrated: there the constants' tolerances went into the offset, and elsewhere
    /// only what they change between there and here is left. NaN: none was.
    double offset_at = no_number;
};

/// Budget of the path at input x. Constants with one non-empty cause are shifted together, so that a voltage that
/// enters twice and cancels contributes nothing.
Budget budget(const Chain& chain, double x, const DoubtInputs& inputs = {});

/// What a person calls a constant, by its key: "Mounting height"; the key itself where there is no word.
std::string constant_label(const std::string& key);

/// t factor that covers 95 % with these degrees of freedom (infinity allowed).
double coverage_factor(double dof);

/// Sorts, sums and finds the coverage factor of contributions that are already in one unit.
Budget combine(double value, std::vector<Contribution> contributions);

} // namespace cognitum
