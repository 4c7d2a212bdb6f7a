#include "core/plan/budgets.h"

#include "core/plan/electrical.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace cognitum {

namespace {

template <typename F>
void each_consumer(const Bench& bench, const Catalog& catalog, const BoardUse& use, F f) {
    for (const Reading& r : bench.readings)
        if (const PartCard* part = catalog.part(r.sensor.part);
            part && r.wiring.board == use.id && !is_shared(bench, r) && r.wiring.own_supply_V <= 0)
            f(r.name, r.wiring.rail, *part);
    for (const Module& m : bench.modules)
        if (const PartCard* part = catalog.part(m.part); part && m.board == use.id && m.own_supply_V <= 0)
            f(m.name, m.rail, *part);
}

void count_pins(BoardBudget& b, const Bench& bench, const Catalog& catalog, const BoardUse& use,
                const BoardCard& card) {
    for (const char* function : {"analog", "interrupt", "digital"}) {
        PinCount count{function, 0, 0};
        for (const Pin& pin : card.pins) {
            if (!pin.can(function) || !pin.taken_by.empty()) continue;
            const bool lost = count.function == "analog" && pin.lost_with_radio && radio_is_on(use, &card);
            const bool used = pin_is_used(bench, use, pin);
            if (lost && !used) continue;
            ++count.total;
            if (used) ++count.used;
        }
        b.pins.push_back(count);
    }
    for (const Reading& r : bench.readings) {
        const PartCard* part = catalog.part(r.sensor.part);
        if (!part || r.wiring.board != use.id || bench.module(r.wiring.module)) continue;
        const std::vector<PinNeed> needs = pin_needs(*part);
        if (!needs.empty() && needs[0].function == "analog") ++b.analog_wanted;
    }
    for (const Module& m : bench.modules) {
        const PartCard* part = catalog.part(m.part);
        if (part && m.board == use.id && part->kind == PartKind::multiplexer) ++b.analog_wanted;
    }
}

void load_rails(BoardBudget& b, const Bench& bench, const Catalog& catalog, const BoardUse& use,
                const BoardCard& card) {
    for (const Rail& rail : card.rails)
        b.rails.push_back({rail.label, rail.voltage_V, rail.current_mA, 0, 0, {}});
    each_consumer(bench, catalog, use, [&](const std::string& name, const std::string& rail, const PartCard& part) {
        for (RailLoad& load : b.rails) {
            if (load.rail != rail) continue;
            load.typical_mA += part.supply.typical_mA;
            load.peak_mA += part.supply.peak_mA;
            load.draws.push_back({name, part.supply.typical_mA, part.supply.peak_mA});
        }
    });
    for (RailLoad& load : b.rails)
        std::stable_sort(load.draws.begin(), load.draws.end(),
                         [](const Draw& x, const Draw& y) { return x.peak_mA > y.peak_mA; });
}

void add_power(BoardBudget& b, const BoardUse& use, const BoardCard& card) {
    b.board_mA = card.awake_mA;
    b.board_peak_mA = radio_is_on(use, &card) ? std::max(card.awake_mA, card.transmitting_mA) : card.awake_mA;
    b.supply_V = use.supply_V > 0 ? use.supply_V : 5.0;
    b.total_mA = b.board_mA;
    b.total_peak_mA = b.board_peak_mA;
    b.regulator_limit_mA = card.regulator.limit_mA;
    double regulated_V = 0;
    for (const Rail& rail : card.rails)
        if (rail.regulated) regulated_V = std::max(regulated_V, rail.voltage_V);
    // A 5 V board on more than its own level makes its 5 V from that; the regulator then carries everything.
    const bool all_through = regulated_V <= 0 && card.regulator.K_per_W > 0 && b.supply_V > card.logic_V + 0.6;
    if (all_through) regulated_V = card.logic_V;
    if (regulated_V > 0 && card.regulator.K_per_W > 0) {
        b.regulator_mA = b.board_mA;
        b.headroom_V = b.supply_V - regulated_V;
        b.dropout_V = card.regulator.dropout_V;
    }
    for (const RailLoad& load : b.rails) {
        b.total_mA += load.typical_mA;
        b.total_peak_mA += load.peak_mA;
        const Rail* rail = card.rail(load.rail);
        if (b.regulator_mA > 0 && (rail->regulated || all_through)) b.regulator_mA += load.typical_mA;
    }
    b.source_mA = use.supply_V > 0 ? 0 : card.usb ? card.usb_mA : 0;
    b.heat_W = std::max(0.0, b.headroom_V) * b.regulator_mA / 1000;
    b.junction_degC = use.ambient_degC + b.heat_W * card.regulator.K_per_W;
    b.junction_max_degC = card.regulator.junction_max_degC;
}

void add_bus(BoardBudget& b, const Bench& bench, const Catalog& catalog, const BoardUse& use,
             const BoardCard& card) {
    double conductance = card.i2c_pull_up_ohm > 0 ? 1 / card.i2c_pull_up_ohm : 0;
    if (use.i2c_pull_up_ohm > 0) conductance += 1 / use.i2c_pull_up_ohm;
    for (const BusDevice& device : bus_devices(bench, catalog, use)) {
        ++b.bus_devices;
        if (!device.branch.empty()) continue;
        b.bus_m += device.cable_m;
        b.bus_pF += device.part->interface.capacitance_pF + device.cable_m * cable_pF_per_m;
        if (device.pull_up_ohm > 0) conductance += 1 / device.pull_up_ohm;
    }
    if (b.bus_devices > 0) b.bus_pF += 10; // the board's own pin
    if (conductance > 0) b.pull_up_ohm = 1 / conductance;
    b.rise_ns = rise_time_ns(b.pull_up_ohm, b.bus_pF);
    b.rise_limit_ns = rise_limit_ns(use.i2c_kHz);
}

} // namespace

AnalogInputs analog_inputs(const Bench& bench, const BoardCard& card, const BoardUse& use) {
    AnalogInputs out;
    for (const Pin& pin : card.pins) {
        if (!pin.can("analog") || !pin.taken_by.empty() || (pin.lost_with_radio && radio_is_on(use, &card)))
            continue;
        ++out.total;
        if (pin_is_used(bench, use, pin)) ++out.used;
    }
    return out;
}

bool pin_is_used(const Bench& bench, const BoardUse& use, const Pin& pin) {
    const auto sits = [&](const std::vector<Connection>& pins) {
        return std::any_of(pins.begin(), pins.end(), [&](const Connection& c) { return c.pin == pin.label; });
    };
    for (const Reading& r : bench.readings)
        if (r.wiring.board == use.id && r.wiring.module.empty() && sits(r.wiring.pins)) return true;
    for (const Module& m : bench.modules)
        if (m.board == use.id && m.module.empty() && sits(m.pins)) return true;
    for (const BoardUse& other : bench.boards) {
        if (other.id == use.id && !other.uplink.to.empty() && other.uplink.transmit_pin == pin.label) return true;
        if (other.uplink.to == use.id && other.uplink.receive_pin == pin.label) return true;
    }
    return false;
}

double line_bytes(const Bench& bench, const BoardUse& use) {
    if (use.bytes_per_line > 0) return use.bytes_per_line;
    const auto n = std::count_if(bench.readings.begin(), bench.readings.end(),
                                 [&](const Reading& r) { return r.wiring.board == use.id; });
    return n > 0 ? 8.0 * static_cast<double>(n) + 2 : 0;
}

double line_interval_s(const Bench& bench, const BoardUse& use) {
    double shortest = std::numeric_limits<double>::infinity();
    for (const Reading& r : bench.readings)
        if (r.wiring.board == use.id) shortest = std::min(shortest, r.quantity.interval_s);
    return shortest;
}

BoardBudget board_budget(const Bench& bench, const Catalog& catalog, const BoardUse& use) {
    BoardBudget b;
    const BoardCard* card = catalog.board(use.card);
    if (!card) return b;
    count_pins(b, bench, catalog, use, *card);
    load_rails(b, bench, catalog, use, *card);
    add_power(b, use, *card);
    add_bus(b, bench, catalog, use, *card);
    const double interval = line_interval_s(bench, use);
    b.bytes_per_s = std::isfinite(interval) ? line_bytes(bench, use) / interval : 0;
    b.bytes_limit = use.link.baud / 10.0; // one start and one stop bit around eight
    return b;
}

} // namespace cognitum
