// Corrections from calibration points: reference as a function of the indication, by least squares on GSL.
// Polynomials are fitted in a centred and scaled variable by singular values, so that hard ones stay sound, and
// reported in the monomial basis, constant first (b0, b1, …).
#pragma once

#include "core/base/error.h"

#include <optional>
#include <span>
#include <string>
#include <utility>
#include <vector>

namespace cognitum {

struct FitPoint {
    double indication = 0, reference = 0;
    double u_indication = 0, u_reference = 0; ///< standard uncertainties; 0: not stated
    int run = 0;                              ///< 1 of a rising run, −1 of a falling one, 0: not said
};

enum class Model {
    offset, ///< x + b0
    gain,   ///< b1·x
    line,   ///< b0 + b1·x, and so on to the fifth power
    quadratic,
    cubic,
    quartic,
    quintic,
    york,      ///< a line when both are in doubt (York 2004); needs the doubt of each point
    piecewise, ///< straight between the points
    curve,     ///< monotone cubic through the points (Steffen 1990)
    power,     ///< a·x^b, by Gauss and Newton from its logarithms
    log,       ///< b0 + b1·ln x
};

struct Parameter {
    std::string name; ///< b0, b1, …
    double value = 0, standard_error = 0;
};

/// A polynomial as it was solved: Σ cₖ·tᵏ with t = (x − centre) / half.
struct ScaledPolynomial {
    double centre = 0, half = 1;
    int first = 0;                     ///< the lowest power
    std::vector<double> c, covariance; ///< row by row
};

struct Fit {
    Model model = Model::line;
    std::vector<Parameter> parameters;
    std::vector<double> covariance; ///< row by row, parameters × parameters
    std::vector<double> residuals;  ///< reference − fitted, in the order of the points
    std::vector<double> left_out;   ///< the same for a fit without that point; NaN when it cannot be left out
    double residual_sd = 0;         ///< √(Σr² / (n − p)); NaN for n = p
    double r_squared = 0;
    double max_abs_error = 0;         ///< largest |residual|
    double cross_validated_error = 0; ///< rms of left_out; NaN when a point cannot be left out
    double cross_validated_se = 0;    ///< standard error of that
    int dof = 0;                      ///< n − p
    std::vector<std::string> warnings;
    ScaledPolynomial scaled;                      ///< of a polynomial
    std::vector<std::pair<double, double>> knots; ///< of pieces and curves: indication and reference, growing
    /// Fitted reference at an indication; pieces and curves go on straight beyond their ends.
    [[nodiscard]] double at(double indication) const;
    /// Standard uncertainty of the fitted curve there; NaN where nothing says how wide it is.
    [[nodiscard]] double u_at(double indication) const;
    /// Half width of the 95 % band for one new point there: the curve's doubt and the points' scatter (t factor).
    [[nodiscard]] double prediction_band(double indication) const;
};

std::string model_name(Model model);
/// "straight line", for a sentence.
std::string model_words(Model model);
std::optional<Model> find_model(std::string_view name);
/// All names, in the order of the list above.
std::vector<std::string> model_names();
/// Least number of points; pieces and curves have a parameter for each of theirs.
int parameter_count(Model model);

/// Error for fewer points than parameters, numbers that are not finite, a doubt below zero, or indications that are
/// all equal where the model needs a spread. Points with stated doubts are weighted by 1/u² of indication (through
/// the slope) and reference together; their standard errors then rest on the stated doubts, else on the residuals.
Result<Fit> fit_model(std::span<const FitPoint> points, Model model);

/// What should be looked at before a fit is believed: too few or clustered points, an outlier (against Huber's
/// robust line, for straight models), rising and falling runs that differ, residuals that follow each other.
/// fit_model() has put it into `warnings`; choose_model() does so for the chosen one alone.
std::vector<std::string> fit_warnings(const Fit& fit, std::span<const FitPoint> points);

struct ModelChoice {
    std::vector<Fit> candidates; ///< those that the points allow, simplest first
    std::size_t chosen = 0;
    std::string reason; ///< one sentence
};
/// The simplest model within one standard error of the best leave-one-out error, with n ≥ parameters + 2; the
/// offset when there are fewer than three points. Where stated doubts rule that out (χ² at 95 %), the simplest that
/// they explain, with n > parameters. Error when not even an offset can be fitted. `unit` is that of
/// the reading, for the sentence.
Result<ModelChoice> choose_model(std::span<const FitPoint> points, std::span<const Model> among,
                                 std::string_view unit = {});

} // namespace cognitum
