#include "core/plan/reading_doubt.h"

#include "core/base/phrase.h"
#include "core/plan/path.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace cognitum {

DoubtInputs reading_doubts(const Reading& reading, const PartCard* part, double raw, double noise, TimeUs now,
                           double card_doubt, const Partners& partners) {
    DoubtInputs inputs;
    inputs.noise = noise;
    // A total of tips is known to a tip, however well the tip's own volume is known.
    if (reading.quantity.about().events == Events::tips && !reading.path.stages.empty())
        inputs.others.push_back({"quantisation", phrase("One tip more or less"),
                                 std::abs(slope(reading.path, std::max(1.0, raw))) / std::sqrt(12.0)});
    if (card_doubt > 0 && !reading.correction)
        inputs.others.push_back({"part", phrase("The part’s own limit"), card_doubt / std::numbers::sqrt3});
    if (reading.correction) {
        const AppliedCorrection& c = *reading.correction;
        const Chain bare = uncorrected_path(reading, partners);
        const Value indication = forward(bare, raw);
        if (!correction_is_line(c) && !correction_is_stale(reading))
            if (const Value at = inverse(bare, (c.from + c.to) / 2); at.ok()) inputs.offset_at = at.number;
        if (indication.ok()) {
            inputs.others.push_back({"calibration", phrase("Calibration"), correction_u(c, indication.number),
                                     correction_dof(c, indication.number)});
        }
        const double years = std::max(0.0, seconds(now - c.time) / (365.25 * 86400));
        const Measurand* measured = part ? part->measurand(reading.quantity.kind) : nullptr;
        if (measured && measured->drift_per_year > 0 && years > 0)
            inputs.others.push_back({"drift", phrase("Drift since {}", iso_time(c.time).substr(0, 10)),
                                     measured->drift_per_year * years / std::numbers::sqrt3});
    }
    return inputs;
}

Budget reading_budget(const Reading& reading, const PartCard* part, double raw, double noise, TimeUs now,
                      double card_doubt, const Partners& partners) {
    return budget(effective_path(reading, partners), raw,
                  reading_doubts(reading, part, raw, noise, now, card_doubt, partners));
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

} // namespace

namespace {

/// What can be done about the doubt of one constant, and the standard uncertainty that it then has.
struct Remedy {
    const char* key;
    const char* action;
    double u;      ///< of the constant's unit
    bool relative; ///< u is a share of the value
};
constexpr Remedy remedies[] = {
    {"reference_V", for_people("Measure the reference to ± 5 mV and type it in"), 0.0029, false},
    {"supply_V", for_people("Measure the supply to ± 5 mV and type it in"), 0.0029, false},
    {"fixed_ohm", for_people("Measure the fixed resistor to 0.1 % and type it in"), 0.0006, true},
    {"shunt_ohm", for_people("Measure the shunt to 0.1 % and type it in"), 0.0006, true},
    {"temperature_degC", for_people("A thermometer beside it, to ± 0.5 °C, that it follows"), 0.29, false},
    {"reference_degC", for_people("A thermometer at its cold end, to ± 0.5 °C"), 0.29, false},
    {"ambient_degC", for_people("A thermometer for what is mirrored, to ± 1 °C"), 0.58, false},
    {"humidity", for_people("A hygrometer that it follows"), 0.02, false},
    {"pressure_Pa", for_people("A barometer that it follows"), 100, false},
    {"speed_m_s", for_people("The speed of sound from the air's temperature"), 0.3, false},
    {"mount_height_mm", for_people("Measure the mounting height to ± 1 mm"), 0.58, false},
    {"diameter_m", for_people("Measure the diameter to ± 1 mm"), 0.00058, false},
    {"length_m", for_people("Measure the length to ± 1 mm"), 0.00058, false},
    {"width_m", for_people("Measure the width to ± 1 mm"), 0.00058, false},
    {"height_m", for_people("Measure the height to ± 1 mm"), 0.00058, false},
    {"bulge", for_people("Measure its girth empty and full"), 0.002, false},
    {"alpha_per_K", for_people("Measure one sample at two temperatures for its coefficient"), 0.0003, false},
    {"emissivity", for_people("Find the emissivity with matt tape or a contact probe"), 0.01, false},
};

/// The largest standard uncertainty that a constant of that key has in the path; 0: there is none.
double constant_u(const Chain& path, std::string_view key, double& value) {
    Chain copy = path;
    double u = 0;
    for (Stage& stage : copy.stages)
        for (const NamedConstant& named : constants(stage))
            if (named.key == key && named.constant->standard_uncertainty() > u) {
                u = named.constant->standard_uncertainty();
                value = named.constant->value;
            }
    return u;
}

} // namespace

std::vector<double> doubts_at_steps(const Bench& bench, const Catalog& catalog, const Reading& reading,
                                    const Chain& chain, double raw, const Budget& whole, const Partners& partners) {
    std::vector<double> out(chain.stages.size() + 1, 0);
    Reading head = reading; // the path up to a step
    head.correction.reset();
    const Contribution* of_noise = whole.find("noise");
    const double noise = of_noise ? of_noise->u / std::abs(slope(chain, raw)) : 0;
    for (std::size_t i = 1; i <= reading.path.stages.size() && i < out.size(); ++i) {
        head.path.stages.assign(reading.path.stages.begin(),
                                reading.path.stages.begin() + static_cast<std::ptrdiff_t>(i));
        const double limit = part_limit(place(bench, catalog, head), raw, partners);
        out[i] = reading_budget(head, nullptr, raw, noise, 0, limit, partners).expanded();
    }
    out.back() = whole.expanded();
    return out;
}

double lasting_share(const Chain& path, std::string_view key) {
    Chain copy = path;
    double all = 0;
    double stays = 0;
    for (Stage& stage : copy.stages)
        for (const NamedConstant& named : constants(stage))
            if (named.key == key) {
                all += named.constant->standard_uncertainty();
                stays += named.constant->lasting_uncertainty();
            }
    return all > 0 ? stays / all : 0;
}

Advice what_would_help(const Placed& placed, const Budget& now) {
    const Reading& reading = *placed.reading;
    if (now.contributions.empty() || !(now.standard_uncertainty > 0)) return {};
    const std::string& unit = reading.quantity.unit;
    const Contribution& top = now.contributions.front();
    const auto remedy =
        std::find_if(std::begin(remedies), std::end(remedies), [&](const Remedy& r) { return top.id == r.key; });
    std::string action;
    Budget after = now;
    if (top.id == "quantisation" && reading.quantity.about().events == Events::tips) {
        action = phrase("A bucket that tips at half the volume");
        after = with_share(now, top.id, 0.5);
    } else if (top.id == "quantisation") {
        const VoltageReference* finer = finer_reference(placed);
        const VoltageReference* today = placed.reference;
        if (finer && today) {
            action = phrase("{} V as reference", format_constant(finer->voltage_V));
            after = with_share(now, "quantisation", finer->voltage_V / today->voltage_V);
        } else {
            action = phrase("An external 16-bit converter");
            after = with_share(now, "quantisation", std::ldexp(1.0, std::min(0, placed.bits() - 16)));
        }
    } else if (top.id == "noise") {
        action = phrase("The mean of 16 lines");
        after = with_share(now, "noise", 0.25);
    } else if (top.id == "calibration" || top.id == "drift") {
        action = top.id == "drift" ? phrase("Calibrate again") : phrase("A reference twice as good");
        after = with_share(now, top.id, top.id == "drift" ? 0 : 0.5);
    } else if (double value = 0; remedy != std::end(remedies) && constant_u(reading.path, top.id, value) > 0) {
        const double u = constant_u(reading.path, top.id, value);
        action = phrase(remedy->action);
        after = with_share(now, top.id, std::min(1.0, (remedy->relative ? remedy->u * value : remedy->u) / u));
    } else {
        // A calibration through the whole path takes the sensor's own constants; counts, noise and supply stay.
        const double reference = reading.quantity.accuracy / 5;
        action =
            phrase("Calibrate at two points against a reference good to ± {}", format_measure(reference, unit, 1));
        std::vector<Contribution> parts;
        for (Contribution c : now.contributions) {
            if (c.id == "reference_V" || c.id == "supply_V") c.u *= lasting_share(reading.path, c.id);
            if (c.id == "quantisation" || c.id == "noise" || c.id == "reference_V" || c.id == "supply_V" ||
                c.id == "temperature_degC")
                parts.push_back(c);
        }
        parts.push_back({"calibration", phrase("Calibration"), reference / 1.73});
        after = combine(now.value, std::move(parts));
    }
    if (after.expanded() > 0.97 * now.expanded()) return {};
    return {action + ": " + gain_text(now, after, unit) + ".",
            after.contributions.empty()
                ? ""
                : phrase("After that, the limit is: {}.", inside_sentence(after.contributions[0].label))};
}

} // namespace cognitum
