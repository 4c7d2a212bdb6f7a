#include "core/plan/path.h"

#include "core/plan/electrical.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

Constant from_card(double value, double tolerance) {
    return {value, tolerance, tolerance > 0 ? Spread::rectangular : Spread::none, "data sheet", {}};
}

LevelDivider level_divider(const Placed& p) {
    return p.reading->wiring.pins.empty() ? LevelDivider{} : p.reading->wiring.pins.front().divider;
}

double input_load_ohm(const Placed& p) {
    return p.board && !p.module_part ? p.board->input_Mohm * 1e6 : 0;
}

/// The divider's supply is the converter's reference and cancels.
bool is_ratiometric(const Placed& p) {
    return p.part->divider && !p.module_part && !level_divider(p).there() && p.reference &&
           p.reading->wiring.own_supply_V <= 0 && std::abs(p.supply_V() - p.reference->voltage_V) < 1e-9;
}

/// y in `to` from x in `from`, as a stage; only called for units of one dimension.
Scale unit_stage(const std::string& from, const std::string& to) {
    const double zero = convert_unit(0, from, to).value_or(0);
    const double one = convert_unit(1, from, to).value_or(1);
    return {from_card(one - zero, 0), from_card(zero, 0), from, to};
}

} // namespace

Chain build_path(const Placed& p) {
    Chain chain;
    if (!p.reading || !p.part || !p.board || !p.measurand || p.measurand->transfer.empty() || !p.is_voltage())
        return chain;
    if (!(p.full_scale_V() > 0)) return chain;
    chain.input_unit = "count";
    chain.name = p.reading->name;
    if (is_ratiometric(p)) {
        chain.stages.emplace_back(RatioDivider{p.part->divider->fixed_ohm, p.part->divider->unknown, p.bits()});
    } else {
        Adc adc;
        adc.bits = p.bits();
        adc.reference_V = from_card(p.full_scale_V(), p.full_scale_tolerance_V());
        chain.stages.emplace_back(adc);
        if (const LevelDivider divider = level_divider(p); divider.there()) {
            const double ratio = loaded_output(divider, 1, input_load_ohm(p));
            chain.stages.emplace_back(Scale{from_card(1 / ratio, 0.014 / ratio), from_card(0, 0), "V", "V"});
        }
        if (p.part->divider) {
            const double tolerance = p.rail ? p.rail->tolerance_V : 0;
            chain.stages.emplace_back(
                Divider{p.part->divider->fixed_ohm, from_card(p.supply_V(), tolerance), p.part->divider->unknown});
        }
    }
    chain.stages.insert(chain.stages.end(), p.measurand->transfer.begin(), p.measurand->transfer.end());
    const std::string& wanted = p.reading->quantity.unit;
    if (!same_unit(p.measurand->unit, wanted)) chain.stages.emplace_back(unit_stage(p.measurand->unit, wanted));
    return chain;
}

void refresh_path(const Bench& bench, const Catalog& catalog, Reading& reading) {
    const std::string name = reading.path.name.empty() ? reading.name : reading.path.name;
    reading.path = build_path(place(bench, catalog, reading));
    reading.path.name = name;
}

VoltRange source_range(const Placed& p) {
    if (!p.is_voltage() || !p.measurand) return {};
    double low = 0;
    double high = 0;
    if (p.measurand->transfer.empty() || !p.expected(low, high))
        return {p.part->output_low_V, p.part->output_high_V};
    std::vector<Stage> stages;
    if (p.part->divider) {
        if (!(p.supply_V() > 0)) return {};
        stages.emplace_back(
            Divider{p.part->divider->fixed_ohm, {p.supply_V(), 0, Spread::none, {}, {}}, p.part->divider->unknown});
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
