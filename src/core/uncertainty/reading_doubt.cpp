#include "core/uncertainty/reading_doubt.h"

#include "core/plan/path.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace cognitum {

double correction_u(const AppliedCorrection& c, double x) {
    const double fitted = std::max(0.0, c.var_offset + 2 * x * c.covariance + x * x * c.var_gain);
    return std::sqrt(fitted + c.u_reference * c.u_reference);
}

Budget reading_budget(const Reading& reading, const PartCard* part, double raw, double noise, TimeUs now,
                      double card_doubt) {
    DoubtInputs inputs;
    inputs.noise = noise;
    // A total of tips is known to a tip, however well the tip's own volume is known.
    if (reading.quantity.kind == "rain" && !reading.path.stages.empty())
        inputs.others.push_back({"quantisation", "One tip more or less",
                                 std::abs(slope(reading.path, std::max(1.0, raw))) / std::sqrt(12.0)});
    if (card_doubt > 0 && !reading.correction)
        inputs.others.push_back({"part", "The part’s own limit", card_doubt / std::numbers::sqrt3});
    if (reading.correction) {
        const AppliedCorrection& c = *reading.correction;
        const Value indication = forward(reading.path, raw);
        if (indication.ok()) {
            // The fit's own degrees of freedom are few; the references' stated doubt is taken as well known.
            const double shared = c.u_reference;
            const double total = correction_u(c, indication.number);
            const double fitted = std::sqrt(std::max(0.0, total * total - shared * shared));
            double dof = std::numeric_limits<double>::infinity();
            if (fitted > 0 && c.dof > 0) dof = c.dof * std::pow(total / fitted, 4);
            inputs.others.push_back({"calibration", "Calibration", total, dof});
        }
        const double years = std::max(0.0, seconds(now - c.time) / (365.25 * 86400));
        const Measurand* measured = part ? part->measurand(reading.quantity.kind) : nullptr;
        if (measured && measured->drift_per_year > 0 && years > 0)
            inputs.others.push_back({"drift", "Drift since " + iso_time(c.time).substr(0, 10),
                                     measured->drift_per_year * years / std::numbers::sqrt3});
    }
    return budget(effective_path(reading), raw, inputs);
}

namespace {

Budget with_share(const Budget& old, std::string_view id, double factor) {
    std::vector<Contribution> parts = old.contributions;
    for (Contribution& c : parts)
        if (c.id == id) c.u *= factor;
    return combine(old.value, std::move(parts));
}

std::string gain_text(const Budget& before, const Budget& after, const std::string& unit) {
    const int decimals = decimals_for(after.expanded());
    return fmt::format("± {} → ± {}{}{}", format_fixed(before.expanded(), decimals),
                       format_fixed(after.expanded(), decimals), thin_space, unit_symbol(unit));
}

std::string lower_first(std::string text) {
    if (!text.empty() && text[0] >= 'A' && text[0] <= 'Z') text[0] = static_cast<char>(text[0] - 'A' + 'a');
    return text;
}

} // namespace

Advice what_would_help(const Placed& placed, const Budget& now) {
    const Reading& reading = *placed.reading;
    if (now.contributions.empty() || !(now.standard_uncertainty > 0)) return {};
    const std::string& unit = reading.quantity.unit;
    const Contribution& top = now.contributions.front();
    std::string action;
    Budget after = now;
    if (top.id == "quantisation") {
        const VoltageReference* finer = finer_reference(placed);
        const VoltageReference* today = placed.reference;
        if (finer && today) {
            action = fmt::format("{} V as reference", format_constant(finer->voltage_V));
            after = with_share(now, "quantisation", finer->voltage_V / today->voltage_V);
        } else {
            action = "An external 16-bit converter";
            after = with_share(now, "quantisation", 1.0 / 64);
        }
    } else if (top.id == "reference_V" || top.id == "supply_V") {
        action = "Measure that voltage to ± 5 mV and type it in";
        for (const Stage& stage : reading.path.stages)
            if (const auto* adc = std::get_if<Adc>(&stage)) {
                const double u = adc->reference_V.standard_uncertainty();
                if (u > 0) after = with_share(now, top.id, std::min(1.0, 0.005 / std::numbers::sqrt3 / u));
            }
    } else if (top.id == "noise") {
        action = "The mean of 16 lines";
        after = with_share(now, "noise", 0.25);
    } else if (top.id == "calibration" || top.id == "drift") {
        action = top.id == "drift" ? "Calibrate again" : "A reference twice as good";
        after = with_share(now, top.id, top.id == "drift" ? 0 : 0.5);
    } else {
        action = "Calibrate at two points against a reference good to ± 0.1";
        std::vector<Contribution> parts;
        for (const Contribution& c : now.contributions)
            if (c.id == "quantisation" || c.id == "noise" || c.id == "reference_V") parts.push_back(c);
        parts.push_back({"calibration", "Calibration", 0.1});
        after = combine(now.value, std::move(parts));
    }
    if (after.expanded() > 0.97 * now.expanded()) return {};
    return {action + ": " + gain_text(now, after, unit) + ".",
            after.contributions.empty()
                ? ""
                : "After that, the limit is: " + lower_first(after.contributions[0].label) + "."};
}

} // namespace cognitum
