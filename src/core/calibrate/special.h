// Fits that end in a constant of the path instead of a correction behind it.
#pragma once

#include "core/base/error.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct ResistancePair {
    double theta_degC = 0, ohm = 0;
    double u_degC = 0; ///< standard uncertainty of the temperature; 0: not stated
};
struct ThermistorFit {
    double beta_K = 0, r25_ohm = 0;     ///< ln R = ln R25 + β (1/T − 1/298.15 K), by least squares
    double u_beta_K = 0, u_r25_ohm = 0; ///< standard errors; NaN with two pairs of no stated doubt
    double a = 0, b = 0, c = 0; ///< Steinhart and Hart (1968): 1/T = a + b ln R + c ln³ R; three pairs at least
    bool steinhart_hart = false;
    double worst_beta_K = 0, worst_sh_K = 0; ///< largest temperature left over by each, K
};
/// Two pairs at least, at different temperatures; resistances above zero that fall as it warms (or β is negative:
/// an error that says so). The temperatures' doubts weight the fit.
Result<ThermistorFit> fit_thermistor(std::span<const ResistancePair> pairs);

struct ThresholdFit {
    double threshold = 0, hysteresis = 0; ///< raw unit; switches at threshold ± hysteresis / 2
    bool high_is_on = true;
    double overlap = 0; ///< share of samples that lie on the wrong side
    double apart = 0;   ///< distance of the means in pooled standard deviations
};
/// From samples of both states, five each at least: the threshold that divides the distance in the ratio of the
/// scatters, but no nearer to either than a quarter of it. Error when the states cannot be told apart (less than
/// three deviations).
Result<ThresholdFit> fit_threshold(std::span<const double> off, std::span<const double> on);

struct BucketDose {
    bool left = true;
    double mL = 0; ///< poured until that side tipped
};
struct BucketSide {
    double mean_mL = 0, u_mL = 0; ///< u: standard uncertainty of the mean; NaN with one dose
    int n = 0;
    double off_mL = 0;  ///< mean − wanted
    double turns = 0;   ///< of that side's stop, from what earlier turns did; NaN before two tries, and far off
    std::string advice; ///< one sentence
};
struct BucketFit {
    BucketSide left, right;
    double mean_mL = 0, u_mL = 0; ///< volume for each tip as it is, both sides
    double asymmetry = 0;         ///< (right − left) / mean
};
/// One try: doses of both sides. A stop that is turned down lets its side hold less, so that it tips sooner.
/// `tries`: earlier tries with the turns that were made after each, oldest first (turns > 0: that many down).
struct BucketTry {
    std::vector<BucketDose> doses;
    double left_turns = 0, right_turns = 0; ///< made after it
};
/// Both schools of the tipping bucket: what it holds as it is, and which stop to turn which way for `wanted_mL`.
/// Error without a dose on either side, or for a dose that is not above zero.
Result<BucketFit> fit_bucket(std::span<const BucketTry> tries, double wanted_mL);

struct FillStep {
    double level_mm = 0, added_L = 0; ///< level after that amount was poured in
    double u_added_L = 0;
};
struct Strapping {
    std::vector<double> levels_mm, volumes_L, u_L; ///< from the first level on; doubts add up as the amounts do
};
/// A vessel's table from known amounts; the first step's amount is what was in it at its level (0 for empty). Error
/// for levels that do not rise, amounts not above zero, fewer than two steps.
Result<Strapping> fit_strapping(std::span<const FillStep> steps);

} // namespace cognitum
