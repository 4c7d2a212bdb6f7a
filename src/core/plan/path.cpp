#include "core/plan/path.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/plan/electrical.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

Constant from_card(double value, double tolerance) {
    return {value, tolerance, tolerance > 0 ? Spread::rectangular : Spread::none, for_people("data sheet"), {}};
}

LevelDivider level_divider(const Placed& p) {
    return p.reading->wiring.pins.empty() ? LevelDivider{} : p.reading->wiring.pins.front().divider;
}

double input_load_ohm(const Placed& p) {
    return p.board && !p.by_converter() ? p.board->input_Mohm * 1e6 : 0;
}

/// What the board's input hangs on a divider's tap; nothing where that is under a thousandth.
Constant load_on(const Placed& p, double fixed_ohm) {
    const double load = input_load_ohm(p);
    if (!(load > 0) || load >= 1000 * fixed_ohm) return {};
    return {load, 0.2 * load, Spread::rectangular, for_people("data sheet of the board"), {}};
}

Constant from_board(double value, double tolerance, double stability) {
    Constant out = from_card(value, tolerance);
    out.stability = stability;
    return out;
}

/// y in `to` from x in `from`, as a stage; only called for units of one dimension.
Scale unit_stage(const std::string& from, const std::string& to) {
    const double zero = convert_unit(0, from, to).value_or(0);
    const double one = convert_unit(1, from, to).value_or(1);
    return {from_card(one - zero, 0), from_card(zero, 0), from, to};
}

Constant assumed(double value, double tolerance, std::string partner = {}) {
    return {value, tolerance, Spread::rectangular, "assumed", {}, std::move(partner), 0, KnownBy::assumption};
}

Constant from_plan(double value, double tolerance) {
    return {value, tolerance, Spread::rectangular, for_people("plan, Quantity"), {}, {}};
}

/// Stages between the pin and the part's own quantity.
bool voltage_stages(const Placed& p, Chain& chain) {
    if (!p.board || p.measurand->transfer.empty() || !(p.full_scale_V() > 0)) return false;
    const bool by_supply =
        same_unit(input_unit(p.measurand->transfer.front()), "1"); // its output follows its supply
    if (by_supply && p.supply_cancels()) {
        chain.stages.emplace_back(Ratio{p.bits()});
    } else if (p.part->divider && p.supply_cancels()) {
        const Constant& fixed = p.part->divider->fixed_ohm;
        chain.stages.emplace_back(RatioDivider{fixed, p.part->divider->unknown, p.bits(), load_on(p, fixed.value)});
    } else {
        Adc adc;
        adc.bits = p.bits();
        adc.reference_V = from_board(p.full_scale_V(), p.full_scale_tolerance_V(), p.full_scale_stability_V());
        chain.stages.emplace_back(adc);
        if (const LevelDivider divider = level_divider(p); divider.there()) {
            const double ratio = loaded_output(divider, 1, input_load_ohm(p));
            chain.stages.emplace_back(Scale{from_card(1 / ratio, 0.014 / ratio), from_card(0, 0), "V", "V"});
        }
        if (by_supply) {
            if (!(p.supply_V() > 0)) return false;
            const double tolerance = p.supply_tolerance_V() / p.supply_V() / p.supply_V();
            chain.stages.emplace_back(Scale{from_card(1 / p.supply_V(), tolerance), from_card(0, 0), "V", "1"});
        }
        if (p.part->divider) {
            const Constant& fixed = p.part->divider->fixed_ohm;
            const double stability = p.reading->wiring.own_supply_V <= 0 && p.rail ? p.rail->stability_V : 0;
            chain.stages.emplace_back(Divider{fixed, from_board(p.supply_V(), p.supply_tolerance_V(), stability),
                                              p.part->divider->unknown, load_on(p, fixed.value)});
        }
    }
    chain.stages.insert(chain.stages.end(), p.measurand->transfer.begin(), p.measurand->transfer.end());
    return true;
}

/// From an echo or a distance to what stands in the vessel; only where the plan says how high the face is.
bool ranger_stages(const Placed& p, Chain& chain) {
    const Quantity& q = p.reading->quantity;
    if (p.part->family != "ranger" || p.measurand->quantity != "level" || !(q.vessel.mount_mm > 0)) return false;
    const bool echoes = p.part->interface.speech == Speech::echo;
    const std::string from = !p.reading->source.unit.empty() ? p.reading->source.unit
                             : echoes                        ? "us"
                                                             : p.measurand->unit;
    const Unit* unit = find_unit(from);
    if (!unit) return false;
    if (unit->dimension == Dimension::time) {
        if (!same_unit(from, "us")) chain.stages.emplace_back(unit_stage(from, "us"));
        Echo echo;
        echo.temperature_degC = assumed(15, 12, temperature_partner(*p.bench, *p.reading, false));
        chain.stages.emplace_back(echo);
    } else if (unit->dimension == Dimension::length) {
        if (!same_unit(from, "mm")) chain.stages.emplace_back(unit_stage(from, "mm"));
    } else {
        return false;
    }
    chain.stages.emplace_back(LevelBelow{from_plan(q.vessel.mount_mm, 5)});
    return true;
}

/// From a level to what the vessel then holds; false where the plan does not say how it looks.
bool vessel_stage(const Placed& p, Chain& chain) {
    const Quantity& q = p.reading->quantity;
    const physics::VesselShape shape = vessel_shape(q.vessel);
    if (q.vessel.shape.empty() || !physics::check_vessel(shape)) return false;
    VesselFill fill;
    fill.kind = shape.kind;
    fill.levels_mm = q.vessel.levels_mm;
    fill.volumes_L = q.vessel.volumes_L;
    Stage stage = fill;
    for (const NamedConstant& named : constants(stage)) {
        const double bulge = q.vessel.bulge_percent / 100;
        if (named.key == "bulge" && bulge > 0)
            *named.constant = from_plan(bulge, bulge / 2);
        else if (named.key != "bulge")
            *named.constant = from_plan(named.key == "diameter_m" ? shape.diameter_m
                                        : named.key == "length_m" ? shape.length_m
                                        : named.key == "width_m"  ? shape.width_m
                                                                  : shape.height_m,
                                        0.002);
    }
    chain.stages.push_back(stage);
    return true;
}

/// What the card says has to be done with a number that the part sends.
bool number_stages(const Placed& p, Chain& chain) {
    if (p.measurand->transfer.empty()) return false;
    chain.stages = p.measurand->transfer;
    if (p.reading->source.collect == "beats") return false;
    const Funnel& funnel = p.reading->quantity.funnel;
    if (p.reading->quantity.about().events == Events::tips && funnel.area_cm2 > 0 && funnel.tip_mL > 0)
        if (auto* scale = std::get_if<Scale>(&chain.stages.front())) {
            const double mm = 10 * funnel.tip_mL / funnel.area_cm2;
            scale->factor = from_plan(mm, mm * 0.02);
        }
    return true;
}

} // namespace

std::string temperature_partner(const Bench& bench, const Reading& reading, bool in_water) {
    std::string best;
    int best_score = 0;
    for (const Reading& r : bench.readings) {
        if (r.quantity.kind != "temperature" || r.id == reading.id) continue;
        const bool same_part =
            !r.sensor.shared_with.empty() &&
            (r.sensor.shared_with == reading.id || r.sensor.shared_with == reading.sensor.shared_with);
        if (!same_part && (r.quantity.around.water != in_water || r.quantity.high > 60)) continue;
        const std::vector<std::string> its = followed(r.path);
        if (std::find(its.begin(), its.end(), reading.id) != its.end()) continue;
        const int score = 1 + (same_part ? 8 : 0) + (r.wiring.board == reading.wiring.board ? 2 : 0);
        if (score > best_score) {
            best = r.id;
            best_score = score;
        }
    }
    return best;
}

Chain build_path(const Placed& p) {
    Chain chain;
    if (!p.reading || !p.part || !p.measurand) return chain;
    if (!(p.is_voltage() ? voltage_stages(p, chain) : ranger_stages(p, chain) || number_stages(p, chain)))
        return {};
    for (Stage& stage : chain.stages) // a card knows no reading that its part could follow
        for (const NamedConstant& named : constants(stage))
            if ((named.key == "temperature_degC" || named.key == "reference_degC" || named.key == "ambient_degC") &&
                named.constant->from.empty() && named.constant->known_by == KnownBy::assumption)
                named.constant->from = temperature_partner(*p.bench, *p.reading, false);
    const Unit* reached = find_unit(chain.last_unit());
    if (!p.reading->quantity.about().from_level.empty() && reached && reached->dimension == Dimension::length) {
        if (!same_unit(chain.last_unit(), "mm")) chain.stages.emplace_back(unit_stage(chain.last_unit(), "mm"));
        if (!vessel_stage(p, chain)) return {};
    }
    if (p.reading->quantity.kind == "conductivity") {
        if (!same_unit(chain.last_unit(), "mS/cm"))
            chain.stages.emplace_back(unit_stage(chain.last_unit(), "mS/cm"));
        Conductivity25 at_25;
        at_25.temperature_degC = assumed(20, 8, temperature_partner(*p.bench, *p.reading, true));
        at_25.alpha_per_K = {0.02, 0.001, Spread::rectangular, for_people("usual for water, ISO 7888"), {}, {}};
        chain.stages.emplace_back(at_25);
    }
    const std::string& wanted = p.reading->quantity.unit;
    if (!same_unit(chain.last_unit(), wanted)) {
        if (!convert_unit(0, chain.last_unit(), wanted)) return {};
        chain.stages.emplace_back(unit_stage(chain.last_unit(), wanted));
    }
    chain.input_unit = chain.first_unit();
    chain.name = p.reading->name;
    return chain;
}

void refresh_path(const Bench& bench, const Catalog& catalog, Reading& reading) {
    const std::string name = reading.path.name.empty() ? reading.name : reading.path.name;
    const Chain old = std::move(reading.path);
    reading.path = {};
    reading.path = build_path(place(bench, catalog, reading));
    reading.path.name = name;
    // A person's own step at the end stays, if what is in front of it still gives its unit.
    if (const auto* own = old.stages.empty() ? nullptr : std::get_if<Formula>(&old.stages.back()))
        if (!reading.path.stages.empty() && same_unit(reading.path.last_unit(), own->input_unit))
            reading.path.stages.push_back(old.stages.back());
}

void refresh_changed_paths(const Bench& before, const Catalog& catalog, Bench& after) {
    for (Reading& r : after.readings) {
        const Reading* old = before.reading(r.id);
        if (!old || (old->wiring == r.wiring && old->quantity == r.quantity && old->source == r.source)) continue;
        // What was typed or measured into the path stays unless the plan asks for another one.
        const Chain was = build_path(place(before, catalog, *old));
        if (const Chain now = build_path(place(after, catalog, r)); !(now == was)) refresh_path(after, catalog, r);
    }
}

Partners planned_partners(const Bench& bench, const Chain& chain) {
    Partners out;
    for (const std::string& id : followed(chain))
        if (const Reading* r = bench.reading(id)) {
            const Quantity& q = r->quantity;
            out[id] = {(q.low + q.high) / 2, q.accuracy / 2, q.unit, r->name, 0};
        }
    return out;
}

double part_limit(const Placed& p, double raw, const Partners& partners) {
    if (!p.measurand || !p.part) return 0;
    if (p.reading->path.stages.empty()) return p.card_doubt();
    // Where the constants of its transfer carry all of its doubt, nothing is added; limits by range are the rest.
    const bool in_constants = p.is_voltage() || p.part->interface.speech == Speech::pulse;
    if (!p.measurand->transfer.empty() && in_constants && p.measurand->limits.empty()) return 0;
    Chain chain = effective_path(*p.reading, partners);
    const Walk steps = walk(chain, raw);
    for (std::size_t i = 0; i <= chain.stages.size(); ++i) {
        const std::string unit = i == 0 ? chain.first_unit() : output_unit(chain.stages[i - 1]);
        if (!same_unit(unit, p.measurand->unit) || !steps.steps[i].ok()) continue;
        const double here = steps.steps[i].number;
        const double limit = p.measurand->limit_at(here);
        const Chain rest{{}, unit, {chain.stages.begin() + static_cast<std::ptrdiff_t>(i), chain.stages.end()}};
        return limit * std::abs(slope(rest, here));
    }
    return no_number;
}

VoltRange source_range(const Placed& p) {
    if (!p.is_voltage() || !p.measurand) return {};
    double low = 0;
    double high = 0;
    if (p.part->network.kind == Network::Kind::bias && p.board) { // it swings around half of the logic supply
        const double middle = p.board->logic_V / 2;
        return {middle + p.part->output_low_V, middle + p.part->output_high_V};
    }
    if (p.measurand->transfer.empty() || !p.expected(low, high))
        return {p.part->output_low_V, p.part->output_high_V};
    std::vector<Stage> stages;
    if (p.part->divider) {
        if (!(p.supply_V() > 0)) return {};
        stages.emplace_back(
            Divider{p.part->divider->fixed_ohm, {p.supply_V(), 0, Spread::none, {}, {}}, p.part->divider->unknown});
    }
    if (same_unit(input_unit(p.measurand->transfer.front()), "1")) {
        if (!(p.supply_V() > 0)) return {};
        stages.emplace_back(Scale{from_card(1 / p.supply_V(), 0), from_card(0, 0), "V", "1"});
    }
    stages.insert(stages.end(), p.measurand->transfer.begin(), p.measurand->transfer.end());
    const Chain volts{"", "V", stages};
    const Value a = inverse(volts, std::clamp(low, p.measurand->low, p.measurand->high));
    const Value b = inverse(volts, std::clamp(high, p.measurand->low, p.measurand->high));
    if (!a.ok() || !b.ok()) return {};
    return {std::min(a.number, b.number), std::max(a.number, b.number)};
}

VoltRange pin_range(const Placed& p) {
    VoltRange range = source_range(p);
    if (!p.reading) return range;
    const LevelDivider divider = level_divider(p);
    range.low = loaded_output(divider, range.low, input_load_ohm(p));
    range.high = loaded_output(divider, range.high, input_load_ohm(p));
    return range;
}

const VoltageReference* finer_reference(const Placed& p) {
    // A divider loses more by a foreign reference than it gains; an external converter has a gain of its own.
    if (!p.reference || !p.board || !p.part || p.part->divider || p.module_part) return nullptr;
    const VoltRange volts = pin_range(p);
    const VoltageReference* best = nullptr;
    for (const VoltageReference& other : p.board->references) {
        const bool fits = volts.known() && volts.high < 0.98 * (other.voltage_V - other.tolerance_V);
        if (fits && other.voltage_V < p.reference->voltage_V && (!best || other.voltage_V < best->voltage_V))
            best = &other;
    }
    return best;
}

double count_size(const Reading& reading) {
    const double middle = (reading.quantity.low + reading.quantity.high) / 2;
    const Value code = inverse(reading.path, middle);
    return code.ok() ? std::abs(slope(reading.path, code.number)) : 0;
}

} // namespace cognitum
