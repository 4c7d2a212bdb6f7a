#include "core/uncertainty/budget.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <gsl/gsl_cdf.h>
#include <map>

namespace cognitum {

std::string constant_label(const std::string& key) {
    static const std::map<std::string, std::string> labels = {
        {"reference_V", for_people("Reference voltage")},
        {"supply_V", for_people("Supply voltage")},
        {"zero", for_people("Sensor’s zero")},
        {"slope", for_people("Sensor’s slope")},
        {"fixed_ohm", for_people("Fixed resistor")},
        {"load_ohm", for_people("Resistance of the input")},
        {"r0_ohm", for_people("Sensor’s resistance")},
        {"beta_K", for_people("Sensor’s curve (β)")},
        {"t0_degC", for_people("Sensor’s nominal point")},
        {"offset", for_people("Calibration")},
        {"gain", for_people("Calibration, gain")},
        {"factor", for_people("Scale factor")},
        {"reference_degC", for_people("Cold junction")},
        {"temperature_degC", for_people("Temperature beside it")},
        {"humidity", for_people("Humidity of the air")},
        {"pressure_Pa", for_people("Pressure of the air")},
        {"speed_m_s", for_people("Speed of sound")},
        {"mount_height_mm", for_people("Mounting height")},
        {"diameter_m", for_people("Diameter")},
        {"length_m", for_people("Length")},
        {"width_m", for_people("Width")},
        {"height_m", for_people("Height")},
        {"alpha_per_K", for_people("Temperature coefficient")},
        {"shunt_ohm", for_people("Shunt")},
        {"r10_ohm", for_people("Its resistance at 10 lx")},
        {"gamma", for_people("Sensor’s curve (γ)")},
        {"slope_uV_per_K", for_people("The chip’s straight line")},
        {"emissivity", for_people("Emissivity")},
        {"ambient_degC", for_people("What is mirrored in it")},
        {"bulge", for_people("Bulging walls")},
        {"altitude_m", for_people("Height above the sea")},
        {"base_hPa", for_people("Pressure at the base")},
        {"ambient_kPa", for_people("Air pressure")},
        {"at_0", for_people("The 0 % point")},
        {"at_100", for_people("The 100 % point")},
        {"k", for_people("What the salts are (k)")},
        {"a", for_people("Constant a")},
        {"b", for_people("Constant b")},
        {"c", for_people("Constant c")},
    };
    const auto found = labels.find(key);
    return found == labels.end() ? key : phrase_of(found->second);
}

namespace {

/// Slope of the output in the constant, times its standard uncertainty. The step is small beside the uncertainty,
/// so that effects of one cause cancel as they do in the formula. Where the slope vanishes or one side has no
/// value, as at the bottom of a vessel, what a whole uncertainty does counts (JCGM 100, note to 5.1.2).
double effect(Chain& chain, Constant& constant, double x) {
    constexpr double part = 1e-3;
    const double u = constant.standard_uncertainty();
    const double kept = constant.value;
    const auto at = [&](double shift) {
        constant.value = kept + shift;
        const Value value = forward(chain, x);
        constant.value = kept;
        return value;
    };
    const Value up = at(part * u);
    const Value down = at(-part * u);
    const double slope = up.ok() && down.ok() ? (up.number - down.number) / (2 * part) : 0;
    if (std::abs(slope) > 0 && up.ok() && down.ok()) {
        const Value there = at(0);
        // Straight enough: the two sides agree.
        if (std::abs(up.number + down.number - 2 * there.number) < 0.02 * std::abs(up.number - down.number))
            return slope;
    }
    const Value here = at(0);
    double squares = 0;
    int sides = 0;
    for (const double side : {u, -u})
        if (const Value moved = at(side); moved.ok() && here.ok()) {
            squares += (moved.number - here.number) * (moved.number - here.number);
            ++sides;
        }
    const double whole = sides > 0 ? std::sqrt(squares / sides) : 0;
    return std::abs(slope) >= 0.3 * whole ? slope : std::copysign(whole, slope);
}

/// Quantisation in the output's unit: the step of the first stage that quantises, through the slope of the rest.
double quantisation(const Chain& chain, double x) {
    const bool has_codes =
        std::any_of(chain.stages.begin(), chain.stages.end(), [](const Stage& s) { return code_bits(s) > 0; });
    const double slope_here = has_codes ? slope(chain, x) : 0;
    return std::isfinite(slope_here) ? std::abs(slope_here) / std::sqrt(12.0) : 0;
}

} // namespace

const Contribution* Budget::find(std::string_view id) const {
    for (const Contribution& c : contributions)
        if (c.id == id) return &c;
    return nullptr;
}

double coverage_factor(double dof) {
    if (!(dof > 0)) return no_number;
    return dof > 1e6 ? 1.959963984540054 : gsl_cdf_tdist_Pinv(0.975, dof);
}

Budget combine(double value, std::vector<Contribution> contributions) {
    Budget out;
    out.value = value;
    double variance = 0;
    double weighted = 0;
    for (const Contribution& c : contributions) {
        variance += c.u * c.u;
        if (std::isfinite(c.dof)) weighted += std::pow(c.u, 4) / c.dof;
    }
    out.standard_uncertainty = std::sqrt(variance);
    if (weighted > 0) out.dof = variance * variance / weighted;
    out.k = coverage_factor(out.dof);
    std::stable_sort(contributions.begin(), contributions.end(),
                     [](const Contribution& a, const Contribution& b) { return a.u > b.u; });
    out.contributions = std::move(contributions);
    return out;
}

Budget budget(const Chain& chain, double x, const DoubtInputs& inputs) {
    const Value value = forward(chain, x);
    if (!value.ok()) return {};

    std::vector<Contribution> found;
    if (const double u = quantisation(chain, x); u > 0)
        found.push_back({"quantisation", phrase("One count is coarse"), u});
    if (inputs.noise > 0)
        if (const double s = slope(chain, x); std::isfinite(s))
            found.push_back({"noise", phrase("Noise"), std::abs(s) * inputs.noise});

    Chain scratch = chain;
    std::map<std::string, std::size_t> by_cause; // cause → index in found; signed sums until the end
    for (Stage& stage : scratch.stages)
        for (const NamedConstant& named : constants(stage)) {
            if (!(named.constant->standard_uncertainty() > 0)) continue;
            double signed_effect = effect(scratch, *named.constant, x);
            if (std::isfinite(inputs.offset_at) && named.constant->from.empty()) {
                const double lasts = named.constant->lasting_uncertainty() / named.constant->standard_uncertainty();
                const bool counts = named.key == "reference_V" || named.key == "supply_V";
                const double since = counts ? lasts * signed_effect : 0;
                signed_effect =
                    std::hypot(signed_effect - effect(scratch, *named.constant, inputs.offset_at), since);
            }
            const std::string& cause = named.constant->cause;
            if (const auto known = by_cause.find(cause); !cause.empty() && known != by_cause.end()) {
                found[known->second].u += signed_effect;
                continue;
            }
            if (!cause.empty()) by_cause[cause] = found.size();
            found.push_back({named.key, constant_label(named.key), signed_effect});
        }
    for (Contribution& c : found)
        c.u = std::abs(c.u);
    found.insert(found.end(), inputs.others.begin(), inputs.others.end());
    return combine(value.number, std::move(found));
}

} // namespace cognitum
