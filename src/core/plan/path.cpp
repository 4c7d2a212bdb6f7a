#include "core/plan/path.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

Constant from_card(double value, double tolerance) {
    return {value, tolerance, tolerance > 0 ? Spread::rectangular : Spread::none, "data sheet", {}};
}

bool rail_suits(const PartCard& part, const Rail& rail) {
    return rail.voltage_V - rail.tolerance_V >= part.supply_low_V &&
           rail.voltage_V + rail.tolerance_V <= part.supply_high_V;
}

} // namespace

Chain build_path(const PartCard& part, const BoardCard& board, const Wiring& wiring) {
    Chain chain;
    chain.input_unit = "count";
    const VoltageReference* reference = board.reference(wiring.reference);
    if (!reference) reference = &board.references.front();
    const bool ratiometric = part.divider && reference->id == "supply" && wiring.rail != "" &&
                             board.rail(wiring.rail) &&
                             std::abs(board.rail(wiring.rail)->voltage_V - reference->voltage_V) < 1e-9;
    if (ratiometric) {
        chain.stages.emplace_back(RatioDivider{part.divider->fixed_ohm, part.divider->unknown, board.bits});
    } else {
        Adc adc;
        adc.bits = board.bits;
        adc.reference_V = from_card(reference->voltage_V, reference->tolerance_V);
        chain.stages.emplace_back(adc);
        if (part.divider) {
            const Rail* rail = board.rail(wiring.rail);
            if (!rail) rail = &board.rails.front();
            chain.stages.emplace_back(Divider{
                part.divider->fixed_ohm, from_card(rail->voltage_V, rail->tolerance_V), part.divider->unknown});
        }
    }
    chain.stages.insert(chain.stages.end(), part.transfer.begin(), part.transfer.end());
    return chain;
}

Result<Wiring> first_wiring(const PartCard& part, const BoardUse& use, const BoardCard& board, const Bench& bench) {
    Wiring wiring;
    wiring.board = use.id;
    wiring.reference = board.references.front().id;
    // A rail equal to the reference lets a divider's supply cancel, so it comes first.
    for (const Rail& rail : board.rails) {
        const bool matches = std::abs(rail.voltage_V - board.references.front().voltage_V) < 1e-9;
        if (rail_suits(part, rail) && (wiring.rail.empty() || matches)) wiring.rail = rail.label;
    }
    if (wiring.rail.empty())
        return failure(fmt::format("{} needs {} to {} V, which no rail of {} gives.", part.name, part.supply_low_V,
                                   part.supply_high_V, use.name),
                       {}, "Choose another part or another board.");
    for (const Pin& pin : board.pins) {
        const bool used = std::any_of(bench.readings.begin(), bench.readings.end(), [&](const Reading& r) {
            return r.wiring.board == use.id && r.wiring.pin == pin.label;
        });
        if (pin.can("analog") && pin.taken_by.empty() && !used) {
            wiring.pin = pin.label;
            return wiring;
        }
    }
    return failure(fmt::format("{} has no analog input left.", use.name), {}, "Free one, or use another board.");
}

VoltRange output_range(const Quantity& quantity, const PartCard& part, const BoardCard& board,
                       const Wiring& wiring) {
    Wiring probe = wiring;
    Chain path = build_path(part, board, probe);
    // Volts, whatever the converter's reference: a wide reference keeps the ends off the rails.
    std::vector<Stage> after_pin(path.stages.begin() + 1, path.stages.end());
    const bool ratiometric = std::holds_alternative<RatioDivider>(path.stages.front());
    const Rail* rail = board.rail(wiring.rail);
    const double supply = rail ? rail->voltage_V : board.rails.front().voltage_V;
    if (ratiometric)
        after_pin.insert(
            after_pin.begin(),
            Divider{part.divider->fixed_ohm, {supply, 0, Spread::none, {}, {}}, part.divider->unknown});
    const Chain volts{"", "V", after_pin};
    double low = std::clamp(quantity.low, part.low, part.high);
    double high = std::clamp(quantity.high, part.low, part.high);
    const Value a = inverse(volts, low);
    const Value b = inverse(volts, high);
    if (!a.ok() || !b.ok()) return {};
    return {std::min(a.number, b.number), std::max(a.number, b.number)};
}

const VoltageReference* finer_reference(const Reading& reading, const PartCard& part, const BoardCard& board) {
    const VoltageReference* today = board.reference(reading.wiring.reference);
    if (!today || part.divider) return nullptr; // a divider loses more by a foreign reference than it gains
    const VoltRange volts = output_range(reading.quantity, part, board, reading.wiring);
    const VoltageReference* best = nullptr;
    for (const VoltageReference& other : board.references) {
        const bool fits = volts.high < 0.98 * (other.voltage_V - other.tolerance_V);
        if (fits && other.voltage_V < today->voltage_V && (!best || other.voltage_V < best->voltage_V))
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
