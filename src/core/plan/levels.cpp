#include "core/plan/levels.h"

#include "core/base/phrase.h"

#include <algorithm>

namespace cognitum {

namespace {

/// Pull-ups on this wire: the part's own goes to what feeds the part, one that was added to the board's logic rail.
void lift_by_pull_ups(const Placed& p, const Interface& i, WireLevel& out) {
    const Rail& logic = p.board->logic_rail();
    if (p.reading->wiring.pull_up_ohm > 0) {
        out.nominal_V = logic.voltage_V;
        out.highest_V = logic.voltage_V + logic.tolerance_V;
        out.by = phrase("the pull-up that was added");
    }
    if (i.pull_up_ohm > 0 && p.supply_V() > out.nominal_V) {
        out.nominal_V = p.supply_V();
        out.highest_V = p.supply_V() + p.supply_tolerance_V();
        out.by = phrase("the pull-up on its little board");
    }
}

void lift_by_output(const Placed& p, double stated_V, WireLevel& out) {
    const double supply = p.supply_V();
    const auto at_most = [&](double v) { return stated_V > 0 && (supply <= 0 || stated_V < v) ? stated_V : v; };
    out.nominal_V = at_most(supply);
    out.highest_V = at_most(supply + p.supply_tolerance_V());
    out.lowest_V = at_most(supply - p.supply_tolerance_V());
    out.by = phrase("its output");
}

void lift_by_voltage(const Placed& p, WireLevel& out) {
    lift_by_output(p, p.part->output_high_V, out);
    if (p.part->network.kind == Network::Kind::bias) {
        const Rail& logic = p.board->logic_rail();
        out.nominal_V = logic.voltage_V / 2 + p.part->output_high_V;
        out.highest_V = (logic.voltage_V + logic.tolerance_V) / 2 + p.part->output_high_V;
    }
    if (p.part->network.kind == Network::Kind::shunt && !p.reading->wiring.input_protected && p.supply_V() > 0) {
        out.highest_V = p.supply_V() + p.supply_tolerance_V();
        out.by = phrase("its loop when the transmitter is shorted");
    }
}

/// True for a wire on which the part itself may say something.
bool part_speaks(const PinNeed& need, const Interface& i) {
    return !need.drives || i.speech == Speech::i2c || i.speech == Speech::one_wire ||
           i.speech == Speech::single_bus;
}

} // namespace

std::vector<WireLevel> wire_levels(const Placed& p) {
    std::vector<WireLevel> out;
    if (!p.part || !p.board || is_shared(*p.bench, *p.reading)) return out;
    const Interface& i = p.part->interface;
    for (const PinNeed& need : pin_needs(*p.part)) {
        const Connection* wire = p.reading->wiring.connection(need.leg);
        if (!wire || wire->pin.empty() || !part_speaks(need, i)) continue;
        WireLevel level{need.leg, wire->pin, 0, 0, 0, {}, wire->divider};
        if (p.is_voltage())
            lift_by_voltage(p, level);
        else if (i.speech == Speech::i2c || i.open_drain)
            lift_by_pull_ups(p, i, level);
        else if (i.speech != Speech::radio)
            lift_by_output(p, i.high_V, level);
        if (level.highest_V > 0) out.push_back(level);
    }
    return out;
}

double pin_limit_V(const Placed& p) {
    return p.is_voltage() ? p.board->analog_limit_V : p.board->input_limit_V;
}

double module_input_limit_V(const Placed& p) {
    constexpr double diode_V = 0.3;
    if (!p.module) return 0;
    if (p.module->own_supply_V > 0) return 0.95 * p.module->own_supply_V + diode_V;
    return p.module_rail ? p.module_rail->voltage_V - p.module_rail->tolerance_V + diode_V : 0;
}

} // namespace cognitum
