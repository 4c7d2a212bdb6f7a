#include "core/calibrate/special.h"

#include "core/base/json_reader.h" // for COGNITUM_TRY
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/calibrate/fit.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <numeric>

namespace cognitum {

namespace {

constexpr double kelvin = 273.15, t25 = 298.15;

struct Scatter {
    double mean = no_number, sd = no_number;
    std::size_t n = 0;
};
Scatter scatter_of(std::span<const double> values) {
    Scatter s{0, 0, values.size()};
    for (const double v : values)
        s.mean += v / static_cast<double>(s.n);
    for (const double v : values)
        s.sd += (v - s.mean) * (v - s.mean);
    s.sd = s.n > 1 ? std::sqrt(s.sd / static_cast<double>(s.n - 1)) : no_number;
    return s;
}

/// Solves the normal equations of three parameters by elimination in long double; false when they are singular.
bool solve3(long double m[3][4]) {
    for (int k = 0; k < 3; ++k) {
        int pivot = k;
        for (int i = k + 1; i < 3; ++i)
            if (std::abs(m[i][k]) > std::abs(m[pivot][k])) pivot = i;
        if (!(std::abs(m[pivot][k]) > 0)) return false;
        std::swap_ranges(m[k], m[k] + 4, m[pivot]);
        for (int i = 0; i < 3; ++i) {
            if (i == k) continue;
            const long double f = m[i][k] / m[k][k];
            for (int j = k; j < 4; ++j)
                m[i][j] -= f * m[k][j];
        }
    }
    for (int k = 0; k < 3; ++k)
        m[k][3] /= m[k][k];
    return true;
}

void fit_steinhart_hart(std::span<const ResistancePair> pairs, ThermistorFit& fit) {
    // Around the mean of ln R, where the three terms are nearly orthogonal.
    long double m[3][4] = {};
    double mean = 0;
    for (const ResistancePair& p : pairs)
        mean += std::log(p.ohm) / static_cast<double>(pairs.size());
    for (const ResistancePair& p : pairs) {
        const long double l = std::log(static_cast<long double>(p.ohm)), t = l - mean;
        const long double cube = l * l * l - static_cast<long double>(mean) * mean * mean;
        const long double row[3] = {1, t, cube}, y = 1 / (static_cast<long double>(p.theta_degC) + kelvin);
        for (int i = 0; i < 3; ++i) {
            for (int j = 0; j < 3; ++j)
                m[i][j] += row[i] * row[j];
            m[i][3] += row[i] * y;
        }
    }
    if (!solve3(m)) return;
    fit.b = static_cast<double>(m[1][3]);
    fit.c = static_cast<double>(m[2][3]);
    fit.a = static_cast<double>(m[0][3] - m[1][3] * mean - m[2][3] * mean * mean * mean);
    fit.steinhart_hart = true;
    for (const ResistancePair& p : pairs) {
        const double l = std::log(p.ohm);
        const double t = 1 / (fit.a + fit.b * l + fit.c * l * l * l) - kelvin;
        fit.worst_sh_K = std::max(fit.worst_sh_K, std::abs(t - p.theta_degC));
    }
}

BucketSide side_of(const BucketTry& now, bool left, double wanted) {
    std::vector<double> doses;
    for (const BucketDose& d : now.doses)
        if (d.left == left) doses.push_back(d.mL);
    BucketSide side;
    if (doses.empty()) return side;
    const Scatter s = scatter_of(doses);
    side.n = static_cast<int>(s.n);
    side.mean_mL = s.mean;
    side.u_mL = s.sd / std::sqrt(static_cast<double>(s.n));
    side.off_mL = s.mean - wanted;
    side.turns = no_number;
    return side;
}

/// What a turn did between the last two tries, mL for each turn down; NaN when the stop was not turned.
double effect_of_a_turn(std::span<const BucketTry> tries, bool left, double wanted) {
    for (std::size_t i = tries.size() - 1; i > 0; --i) {
        const double turns = left ? tries[i - 1].left_turns : tries[i - 1].right_turns;
        const BucketSide before = side_of(tries[i - 1], left, wanted), after = side_of(tries[i], left, wanted);
        if (turns != 0 && before.n > 0 && after.n > 0) return (after.mean_mL - before.mean_mL) / turns;
    }
    return no_number;
}

void advise(BucketSide& side, const char* name, double effect, double wanted) {
    if (side.n == 0) return;
    const double noise = std::isfinite(side.u_mL) ? 2 * side.u_mL : 0;
    if (std::abs(side.off_mL) <= std::max(noise, 0.01 * wanted)) {
        side.turns = 0;
        side.advice = phrase("{} tips at {} mL: leave its stop.", name, format_fixed(side.mean_mL, 2));
        return;
    }
    // A stop moves what its side holds by some tenths of it.
    if (std::abs(side.off_mL) > 0.4 * wanted) {
        side.advice =
            phrase("{} tips at {} mL, which is far from {} mL: look whether this bucket is meant to hold that.",
                   name, format_fixed(side.mean_mL, 2), format_constant(wanted, 3));
        return;
    }
    const bool late = side.off_mL > 0; // it holds too much: it has to tip sooner
    side.advice = phrase("{} tips at {} mL, {} mL too {}: turn its stop {}", name, format_fixed(side.mean_mL, 2),
                         format_fixed(std::abs(side.off_mL), 2), late ? phrase("late") : phrase("soon"),
                         late ? phrase("down") : phrase("up"));
    if (std::isfinite(effect) && effect < 0) {
        side.turns = -side.off_mL / effect; // down is positive, and makes it less
        const std::string turns = format_constant(std::abs(side.turns), 2);
        side.advice += turns == "1" ? phrase(" by about one turn.") : phrase(" by about {} turns.", turns);
    } else {
        side.advice += std::isfinite(effect)
                           ? phrase(". The last turn did the opposite of what it should: look which stop is whose.")
                           : phrase(" by half a turn and try again: two tries tell how far.");
    }
}

} // namespace

Result<ThermistorFit> fit_thermistor(std::span<const ResistancePair> pairs) {
    if (pairs.size() < 2) return failure(phrase("two pairs of temperature and resistance are the least."));
    std::vector<FitPoint> points;
    for (std::size_t i = 0; i < pairs.size(); ++i) {
        const ResistancePair& p = pairs[i];
        if (!(p.ohm > 0) || !(p.theta_degC > -kelvin) || !std::isfinite(p.ohm + p.theta_degC))
            return failure(
                phrase("pair {} is no temperature above absolute zero with a resistance above zero.", i + 1));
        const double t = p.theta_degC + kelvin;
        // ln R = ln R25 + β (1/T − 1/T25); a doubt of T is one of 1/T.
        points.push_back({1 / t - 1 / t25, std::log(p.ohm), p.u_degC / (t * t), 0});
    }
    COGNITUM_TRY(line, fit_model(points, Model::line));
    ThermistorFit fit;
    fit.beta_K = line.parameters[1].value;
    fit.u_beta_K = line.parameters[1].standard_error;
    fit.r25_ohm = std::exp(line.parameters[0].value);
    fit.u_r25_ohm = fit.r25_ohm * line.parameters[0].standard_error;
    if (!(fit.beta_K > 0))
        return failure(phrase("the resistance rises as it warms: this is no thermistor of negative coefficient."),
                       {}, phrase("Look whether the pairs stand the right way round."));
    for (const ResistancePair& p : pairs) {
        const double t = 1 / (1 / t25 + std::log(p.ohm / fit.r25_ohm) / fit.beta_K) - kelvin;
        fit.worst_beta_K = std::max(fit.worst_beta_K, std::abs(t - p.theta_degC));
    }
    if (pairs.size() >= 3) fit_steinhart_hart(pairs, fit);
    return fit;
}

Result<ThresholdFit> fit_threshold(std::span<const double> off, std::span<const double> on) {
    if (off.size() < 5 || on.size() < 5)
        return failure(
            phrase("each state needs five samples at least; there are {} and {}.", off.size(), on.size()));
    const Scatter a = scatter_of(off), b = scatter_of(on);
    const double pooled = std::sqrt((a.sd * a.sd + b.sd * b.sd) / 2);
    const double distance = b.mean - a.mean;
    ThresholdFit fit;
    fit.high_is_on = distance > 0;
    fit.apart = pooled > 0      ? std::abs(distance) / pooled
                : distance != 0 ? std::numeric_limits<double>::infinity()
                                : 0;
    if (!(fit.apart >= 3))
        return failure(phrase("the two states lie only {} deviations apart.", format_fixed(fit.apart, 1)), {},
                       phrase("Bring them further apart: another place, another gain, less noise."));
    // Not nearer to either than a quarter of the way: five samples that hardly scatter do not show what a state
    // does on another day, and neither mean may lie where there is no value (a sixth of the way to each side).
    const double share = a.sd + b.sd > 0 ? std::clamp(a.sd / (a.sd + b.sd), 0.25, 0.75) : 0.5;
    fit.threshold = a.mean + share * distance;
    fit.hysteresis = std::min(std::abs(distance) / 3, 4 * pooled);
    std::size_t wrong = 0;
    for (const double v : off)
        wrong += (v > fit.threshold) == fit.high_is_on;
    for (const double v : on)
        wrong += (v > fit.threshold) != fit.high_is_on;
    fit.overlap = static_cast<double>(wrong) / static_cast<double>(off.size() + on.size());
    return fit;
}

Result<BucketFit> fit_bucket(std::span<const BucketTry> tries, double wanted_mL) {
    if (tries.empty() || !(wanted_mL > 0))
        return failure(phrase("there is no dose yet, or no volume that is wanted."));
    for (const BucketTry& t : tries)
        for (std::size_t i = 0; i < t.doses.size(); ++i)
            if (!(t.doses[i].mL > 0)) return failure(phrase("dose {} is not above zero.", i + 1));
    const BucketTry& now = tries.back();
    BucketFit fit;
    fit.left = side_of(now, true, wanted_mL);
    fit.right = side_of(now, false, wanted_mL);
    if (fit.left.n == 0 || fit.right.n == 0)
        return failure(phrase("both sides need a dose: the bucket tips left and right in turn."));
    fit.mean_mL = (fit.left.mean_mL + fit.right.mean_mL) / 2;
    fit.u_mL = std::hypot(fit.left.u_mL, fit.right.u_mL) / 2;
    fit.asymmetry = (fit.right.mean_mL - fit.left.mean_mL) / fit.mean_mL;
    advise(fit.left, phrase("The left side"), effect_of_a_turn(tries, true, wanted_mL), wanted_mL);
    advise(fit.right, phrase("The right side"), effect_of_a_turn(tries, false, wanted_mL), wanted_mL);
    return fit;
}

Result<Strapping> fit_strapping(std::span<const FillStep> steps) {
    if (steps.size() < 2) return failure(phrase("a table needs two levels at least."));
    Strapping out;
    double volume = 0, variance = 0;
    for (std::size_t i = 0; i < steps.size(); ++i) {
        const FillStep& s = steps[i];
        if (!std::isfinite(s.level_mm + s.added_L) || s.added_L < 0 || (i > 0 && s.added_L == 0))
            return failure(phrase("step {}: the amount poured in must be above zero.", i + 1));
        if (i > 0 && !(s.level_mm > out.levels_mm.back()))
            return failure(phrase("step {}: the level did not rise with the water.", i + 1), {},
                           phrase("Wait until it is calm, and look at the sensor before you pour on."));
        volume += s.added_L;
        variance += s.u_added_L * s.u_added_L;
        out.levels_mm.push_back(s.level_mm);
        out.volumes_L.push_back(volume);
        out.u_L.push_back(std::sqrt(variance));
    }
    return out;
}

} // namespace cognitum
