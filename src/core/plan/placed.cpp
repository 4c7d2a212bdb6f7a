#include "core/plan/placed.h"

#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <limits>

namespace cognitum {

double Placed::supply_V() const {
    if (!reading || !part || part->supply.high_V <= 0) return 0;
    if (reading->wiring.own_supply_V > 0) return reading->wiring.own_supply_V;
    if (rail) return rail->voltage_V;
    return board && board->pin(reading->wiring.rail) ? board->logic_V : 0; // fed from a pin
}

double Placed::full_scale_V() const {
    if (module_part && module_part->kind == "converter" && !module_part->channels.full_scale_V.empty())
        return module_part->channels.full_scale_V.front();
    return reference ? reference->voltage_V : 0;
}

double Placed::full_scale_tolerance_V() const {
    if (module_part && module_part->kind == "converter") return full_scale_V() * module_part->channels.tolerance;
    return reference ? reference->tolerance_V : 0;
}

int Placed::bits() const {
    if (module_part && module_part->kind == "converter") return module_part->channels.bits;
    return board ? board->bits : 0;
}

double Placed::card_doubt() const {
    const double unknown = std::numeric_limits<double>::quiet_NaN();
    if (!measurand) return unknown;
    const std::string& unit = reading->quantity.unit;
    if (reading->quantity.kind == "volume" && measurand->quantity == "level") {
        const Vessel& v = reading->quantity.vessel;
        const double mm = convert_unit(measurand->accuracy, measurand->unit, "mm").value_or(unknown);
        if (v.width_mm <= 0) return unknown;
        const double litres = mm * v.width_mm * (v.length_mm > 0 ? v.length_mm : v.width_mm) / 1e6;
        return convert_unit(litres, "L", unit).value_or(unknown);
    }
    double low = 0;
    double high = 0;
    double limit = measurand->accuracy;
    if (expected(low, high)) limit += measurand->accuracy_percent / 100 * std::abs(low + high) / 2;
    const auto zero = convert_unit(0, measurand->unit, unit);
    const auto far = convert_unit(limit, measurand->unit, unit);
    return zero && far ? *far - *zero : unknown;
}

bool Placed::expected(double& low, double& high) const {
    if (!reading || !measurand) return false;
    const auto a = convert_unit(reading->quantity.low, reading->quantity.unit, measurand->unit);
    const auto b = convert_unit(reading->quantity.high, reading->quantity.unit, measurand->unit);
    if (!a || !b) return false;
    low = *a;
    high = *b;
    return true;
}

Placed place(const Bench& bench, const Catalog& catalog, const Reading& reading) {
    Placed p;
    p.bench = &bench;
    p.catalog = &catalog;
    p.reading = &reading;
    p.part = catalog.part(reading.sensor.part);
    p.measurand = p.part ? p.part->measurand(reading.quantity.kind) : nullptr;
    if (p.part && !p.measurand && reading.quantity.kind == "volume") p.measurand = p.part->measurand("level");
    p.use = bench.board(reading.wiring.board);
    p.board = p.use ? catalog.board(p.use->card) : nullptr;
    p.rail = p.board ? p.board->rail(reading.wiring.rail) : nullptr;
    p.reference = p.board ? p.board->reference(reading.wiring.reference) : nullptr;
    p.module = bench.module(reading.wiring.module);
    p.module_part = p.module ? catalog.part(p.module->part) : nullptr;
    return p;
}

std::vector<PinNeed> pin_needs(const PartCard& part) {
    std::vector<PinNeed> needs;
    const auto add = [&](std::string_view role, const char* function, bool drives = false, bool shared = false) {
        for (const Leg& leg : part.legs)
            if (leg.role == role) needs.push_back({leg.label, function, drives, shared});
    };
    switch (part.interface.speech) {
    case Speech::analog: add("output", "analog"); break;
    case Speech::resistive:
        if (!part.legs.empty()) needs.push_back({part.legs.front().label, "analog", false, false});
        break;
    case Speech::i2c:
        add("data", "sda", true, true);
        add("clock", "scl", true, true);
        break;
    case Speech::spi:
        add("data-out", "spi-in", false, true);
        add("select", "digital", true);
        add("clock", "spi-clock", true, true);
        add("data-in", "spi-out", true, true);
        break;
    case Speech::one_wire: add("data", "digital", true, true); break;
    case Speech::single_bus: add("data", "digital", true); break;
    case Speech::serial:
        add("transmit", "serial-in");
        add("receive", "serial-out", true);
        break;
    case Speech::pulse: add("output", "interrupt"); break;
    case Speech::digital:
        add("output", part.kind == "multiplexer" ? "analog" : "digital");
        add("clock", "digital", true);
        if (part.kind != "level-shifter") add("control", "digital", true);
        break;
    case Speech::echo:
        add("output", "digital");
        add("trigger", "digital", true);
        break;
    case Speech::load: add("control", "digital", true); break;
    case Speech::radio: break;
    }
    return needs;
}

int bus_address(int chosen, const PartCard& part) {
    if (chosen != 0) return chosen;
    return part.interface.addresses.empty() ? 0 : part.interface.addresses.front();
}

bool is_shared(const Bench& bench, const Reading& reading) {
    return !reading.sensor.shared_with.empty() && bench.reading(reading.sensor.shared_with);
}

std::vector<BusDevice> bus_devices(const Bench& bench, const Catalog& catalog, const BoardUse& use) {
    std::vector<BusDevice> out;
    for (const Module& m : bench.modules) {
        const PartCard* part = catalog.part(m.part);
        if (m.board != use.id || !part || part->interface.speech != Speech::i2c) continue;
        out.push_back({m.id, m.name, part, bus_address(m.address, *part),
                       m.module.empty() ? std::string() : m.module + "/" + (m.pins.empty() ? "" : m.pins[0].pin),
                       0.3, part->interface.pull_up_ohm, true});
    }
    for (const Reading& r : bench.readings) {
        const PartCard* part = catalog.part(r.sensor.part);
        if (r.wiring.board != use.id || !part || part->interface.speech != Speech::i2c || is_shared(bench, r))
            continue;
        double pull_up = part->interface.pull_up_ohm;
        if (r.wiring.pull_up_ohm > 0)
            pull_up = pull_up > 0 ? 1 / (1 / pull_up + 1 / r.wiring.pull_up_ohm) : r.wiring.pull_up_ohm;
        const Module* between = bench.module(r.wiring.module);
        const PartCard* switch_part = between ? catalog.part(between->part) : nullptr;
        const bool behind = switch_part && switch_part->kind == "bus-switch";
        out.push_back({r.id, r.name, part, bus_address(r.wiring.address, *part),
                       behind ? r.wiring.module + "/" + r.wiring.pin() : std::string(), r.wiring.cable_m, pull_up,
                       false});
    }
    return out;
}

bool rail_suits(const PartCard& part, const Rail& rail) {
    return rail.voltage_V - rail.tolerance_V >= part.supply.low_V - 1e-9 &&
           rail.voltage_V + rail.tolerance_V <= part.supply.high_V + 1e-9;
}

const Rail* suitable_rail(const PartCard& part, const BoardCard& board) {
    const Rail* best = nullptr;
    for (const Rail& rail : board.rails) {
        // A rail equal to the reference lets a divider's supply cancel; one at the logic's level needs no divider.
        const bool matches = std::abs(rail.voltage_V - board.references.front().voltage_V) < 1e-9 ||
                             std::abs(rail.voltage_V - board.logic_V) < 1e-9;
        if (rail_suits(part, rail) && (!best || matches)) best = &rail;
    }
    return best;
}

} // namespace cognitum
