#include "core/plan/candidates.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/plan/assign.h"
#include "core/plan/budgets.h"
#include "core/plan/findings.h"
#include "core/plan/path.h"
#include "core/plan/reading_doubt.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// What a calibration at two points leaves: counts of that size, what a reference or a supply moves from day to
/// day, and the calibration itself: an eighth of the need, and never better than a fortieth of what was there.
double calibrated_doubt(const Chain& path, const Budget& as_bought, double need, double count_factor = 1,
                        double reference_factor = 1) {
    std::vector<Contribution> left = {
        {"calibration", phrase("Calibration"), std::max(need / 8, as_bought.expanded() / 40)}};
    for (Contribution c : as_bought.contributions) {
        if (c.id == "quantisation") c.u *= count_factor;
        if (c.id == "reference_V" || c.id == "supply_V") c.u *= lasting_share(path, c.id);
        if (c.id == "reference_V") c.u *= reference_factor;
        if (c.id == "quantisation" || c.id == "reference_V" || c.id == "supply_V") left.push_back(c);
    }
    return combine(as_bought.value, std::move(left)).expanded();
}

/// The finding that decides: the worst that is about this part here; null when nothing speaks against it.
const Finding* deciding(const std::vector<Finding>& findings) {
    const Finding* best = nullptr;
    for (const Finding& f : findings) {
        if (f.id == "accuracy-not-reached" || f.id == "calibration-outdated" || f.severity == Severity::note)
            continue;
        if (f.id == "output-uses-little-of-full-scale" || f.id == "outside-usable-window") continue;
        const bool hard = f.severity == Severity::error && !(f.action && f.action->change);
        const bool best_hard = best && best->severity == Severity::error && !(best->action && best->action->change);
        if (!best || (hard && !best_hard)) best = &f;
    }
    return best;
}

Candidate judge(const PartCard& part, const Bench& bench, const Catalog& catalog, const Reading& reading,
                const BoardUse& use) {
    const Quantity& q = reading.quantity;
    const auto measure = [&](double v) { return format_measure(v, q.unit, 2); };
    Candidate out{part.id, no_number, Fitness::does_not, {}};
    Bench without = bench; // its own pins are free for it
    if (Reading* self = without.reading(reading.id))
        if (self->sensor.part != part.id) self->wiring.pins.clear();
    Bench trial_bench = without;
    const auto placed_bench = choose_part(without, catalog, reading.id, part.id, use.id);
    if (placed_bench) {
        trial_bench = *placed_bench;
        if (reading.sensor.part == part.id && reading.wiring.board == use.id) {
            trial_bench = bench; // as it is wired and calibrated now
            trial_bench.reading(reading.id)->correction.reset();
        }
    } else {
        trial_bench.reading(reading.id)->sensor.part = part.id;
    }
    const Reading& trial = *trial_bench.reading(reading.id);
    const Placed placed = place(trial_bench, catalog, trial);

    const double middle = (q.low + q.high) / 2;
    Budget as_bought;
    const Partners partners = planned_partners(trial_bench, trial.path);
    if (const Value code = trial.path.stages.empty() ? Value::none(Cause::missing)
                                                     : inverse(effective_path(trial, partners), middle);
        code.ok()) {
        as_bought =
            reading_budget(trial, &part, code.number, 0, 0, part_limit(placed, code.number, partners), partners);
        out.doubt = as_bought.expanded();
    } else {
        out.doubt = placed.card_doubt();
    }
    const std::vector<Finding> findings = check_reading(trial_bench, catalog, trial);
    const Finding* found = deciding(findings);
    if (!placed_bench) {
        // A part whose range fails is no candidate for a way to more inputs.
        const auto range = std::find_if(findings.begin(), findings.end(),
                                        [](const Finding& f) { return f.id == "range-outside-part"; });
        const std::vector<PinNeed> needs = pin_needs(part);
        const bool analog = !needs.empty() && needs[0].function == "analog";
        const BoardCard* card = catalog.board(use.card);
        const AnalogInputs inputs = card ? analog_inputs(without, *card, use) : AnalogInputs{};
        if (range != findings.end()) {
            out.because = range->message;
        } else if (analog && inputs.used >= inputs.total) {
            out.fitness = Fitness::fits_with_change;
            out.because = phrase("{} has no analog input left: Boards shows four ways to more.", use.name);
        } else {
            out.because = placed_bench.error().what;
        }
        return out;
    }
    if (found && found->severity == Severity::error && !(found->action && found->action->change)) {
        out.because = found->message;
        return out;
    }
    if (found) {
        out.fitness = Fitness::fits_with_change;
        out.because = found->message + " " + found->fix;
        return out;
    }
    if (!std::isfinite(out.doubt)) {
        out.fitness = Fitness::fits_with_change;
        out.because = phrase("Say how the vessel looks at Quantity: its doubt in litres needs the section.");
        return out;
    }
    if (out.doubt <= q.accuracy * 1.0001) {
        out.fitness = Fitness::fits;
        out.because = phrase("± {} as bought, you need ± {}.", measure(out.doubt), measure(q.accuracy));
        return out;
    }
    if (as_bought.contributions.empty()) {
        // A card gives an accuracy and no shares: calibration takes most of it, the resolution stays.
        const double step = placed.measurand
                                ? placed.card_doubt() * placed.measurand->resolution /
                                      placed.measurand->limit_between(placed.measurand->low, placed.measurand->high)
                                : 0;
        const double after = std::hypot(q.accuracy / 4, step);
        const bool mends = after <= q.accuracy && out.doubt < 8 * q.accuracy;
        out.fitness = mends ? Fitness::fits_with_change : Fitness::does_not;
        out.because = mends ? phrase("Calibrate it: its card says ± {}, you need ± {}.", measure(out.doubt),
                                     measure(q.accuracy))
                            : phrase("± {} by its card; you need ± {}.", measure(out.doubt), measure(q.accuracy));
        return out;
    }
    const double after = calibrated_doubt(trial.path, as_bought, q.accuracy);
    if (after <= q.accuracy) {
        out.fitness = Fitness::fits_with_change;
        out.because = phrase("Calibrate it: ± {} as bought, about ± {} after two points.", measure(out.doubt),
                             measure(after));
        return out;
    }
    if (const VoltageReference* finer = finer_reference(placed)) {
        const double factor = finer->voltage_V / placed.full_scale_V();
        const double lasts = placed.full_scale_stability_V() / placed.full_scale_V();
        const double steadier =
            lasts > 0 && finer->stability_V > 0 ? finer->stability_V / finer->voltage_V / lasts : 1;
        if (calibrated_doubt(trial.path, as_bought, q.accuracy, factor, steadier) <= q.accuracy) {
            out.fitness = Fitness::fits_with_change;
            out.because = phrase("Calibrate it and use {}: one count is {}.", finer->name,
                                 measure(count_size(trial) * factor));
            return out;
        }
    }
    out.because = phrase("± {} even when calibrated; you need ± {}.", measure(after), measure(q.accuracy));
    return out;
}

} // namespace

std::vector<Candidate> candidates(const Bench& bench, const Catalog& catalog, const Reading& reading,
                                  const BoardUse& use) {
    std::vector<Candidate> out;
    for (const PartCard& part : catalog.parts) {
        if (part.kind != PartKind::sensor) continue;
        Reading probe = reading;
        probe.sensor.part = part.id;
        if (place(bench, catalog, probe).measurand) out.push_back(judge(part, bench, catalog, reading, use));
    }
    std::stable_sort(out.begin(), out.end(), [](const Candidate& a, const Candidate& b) {
        if (a.fitness != b.fitness) return a.fitness < b.fitness;
        const bool known_a = std::isfinite(a.doubt);
        const bool known_b = std::isfinite(b.doubt);
        return known_a != known_b ? known_a : known_a && a.doubt < b.doubt;
    });
    return out;
}

std::vector<std::string> schools(const std::vector<Candidate>& compared, const Catalog& catalog) {
    std::vector<std::string> out;
    for (const Candidate& c : compared) {
        const PartCard* part = catalog.part(c.part);
        if (part && !part->school.empty() && std::find(out.begin(), out.end(), part->school.text()) == out.end())
            out.push_back(part->school);
    }
    return out;
}

} // namespace cognitum
