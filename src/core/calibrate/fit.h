// Corrections from calibration points: reference as a function of the indication, by least squares on GSL.
// Polynomials are fitted in a centred and scaled variable, so that hard ones stay sound, and reported in the
// monomial basis, constant first (b0, b1, …).
#pragma once

#include "core/base/error.h"

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct FitPoint {
    double indication = 0, reference = 0;
    double u_indication = 0, u_reference = 0; ///< standard uncertainties; 0: not stated
};

enum class Model { offset, gain, line, quadratic, cubic, quartic, quintic };

struct Parameter {
    std::string name; ///< b0, b1, …
    double value = 0, standard_error = 0;
};

struct Fit {
    Model model = Model::line;
    std::vector<Parameter> parameters;
    std::vector<double> covariance; ///< row by row, parameters × parameters
    std::vector<double> residuals;  ///< reference − fitted, in the order of the points
    double residual_sd = 0;         ///< √(Σr² / (n − p)); NaN for n = p
    double r_squared = 0;
    double max_abs_error = 0;         ///< largest |residual|
    double cross_validated_error = 0; ///< rms of leave-one-out errors; NaN when a point cannot be left out
    double cross_validated_se = 0;    ///< standard error of that
    int dof = 0;                      ///< n − p
    std::vector<std::string> warnings;
    /// Fitted reference at an indication.
    [[nodiscard]] double at(double indication) const;
    /// Standard uncertainty of the fitted curve there.
    [[nodiscard]] double u_at(double indication) const;
};

std::string model_name(Model model);
std::optional<Model> find_model(std::string_view name);
int parameter_count(Model model);

/// Error for fewer points than parameters, numbers that are not finite, or indications that are all equal where the
/// model needs a spread. Points with stated doubts are weighted by 1/u² of indication (through the slope) and
/// reference together; their standard errors then rest on the stated doubts, else on the residuals.
Result<Fit> fit_model(std::span<const FitPoint> points, Model model);

struct ModelChoice {
    std::vector<Fit> candidates; ///< those that the points allow, simplest first
    std::size_t chosen = 0;
    std::string reason; ///< one sentence
};
/// The simplest model within one standard error of the best leave-one-out error, with n ≥ parameters + 2; the
/// offset when there are fewer than three points. Error when not even an offset can be fitted.
Result<ModelChoice> choose_model(std::span<const FitPoint> points, std::span<const Model> among);

} // namespace cognitum
