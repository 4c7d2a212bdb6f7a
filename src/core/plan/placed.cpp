#include "core/plan/placed.h"

#include "core/base/no_number.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

double Placed::supply_V() const {
    if (!reading || !part || part->supply.high_V <= 0) return 0;
    if (reading->wiring.own_supply_V > 0) return reading->wiring.own_supply_V;
    if (rail) return rail->voltage_V;
    return board && board->pin(reading->wiring.rail) ? board->logic_V : 0; // fed from a pin
}

double Placed::supply_tolerance_V() const {
    constexpr double usual = 0.05;
    if (!reading || supply_V() <= 0) return 0;
    if (reading->wiring.own_supply_V > 0) return usual * reading->wiring.own_supply_V;
    return rail ? rail->tolerance_V : usual * supply_V();
}

bool Placed::supply_cancels() const {
    if (!reading || reading->wiring.own_supply_V > 0 || !rail) return false;
    if (!reading->wiring.pins.empty() && reading->wiring.pins.front().divider.there()) return false;
    if (by_converter())
        return module_part->channels.follows_supply && module->own_supply_V <= 0 && module->rail == rail->label;
    return reference && reference->follows == rail->label;
}

double Placed::full_scale_V() const {
    if (by_converter()) {
        if (module_part->channels.follows_supply)
            return module->own_supply_V > 0 ? module->own_supply_V : module_rail ? module_rail->voltage_V : 0;
        return module_part->channels.full_scale_V.empty() ? 0 : module_part->channels.full_scale_V.front();
    }
    return reference ? reference->voltage_V : 0;
}

double Placed::full_scale_tolerance_V() const {
    if (by_converter()) {
        if (module_part->channels.follows_supply)
            return module->own_supply_V > 0 ? 0.05 * module->own_supply_V
                   : module_rail            ? module_rail->tolerance_V
                                            : 0;
        return full_scale_V() * module_part->channels.tolerance;
    }
    return reference ? reference->tolerance_V : 0;
}

double Placed::full_scale_stability_V() const {
    if (by_converter())
        return module_part->channels.follows_supply && module->own_supply_V <= 0 && module_rail
                   ? module_rail->stability_V
                   : 0;
    return reference ? reference->stability_V : 0;
}

int Placed::bits() const {
    if (by_converter()) return module_part->channels.bits;
    return board ? board->bits : 0;
}

double Placed::card_doubt() const {
    const double unknown = no_number;
    if (!measurand) return unknown;
    const std::string& unit = reading->quantity.unit;
    if (measurand->quantity == reading->quantity.about().from_level) {
        const Vessel& v = reading->quantity.vessel;
        const double most = measurand->limit_between(measurand->low, measurand->high);
        const double mm = convert_unit(most, measurand->unit, "mm").value_or(unknown);
        if (v.width_mm <= 0) return unknown;
        const double litres = mm * v.width_mm * (v.length_mm > 0 ? v.length_mm : v.width_mm) / 1e6;
        return convert_unit(litres, "L", unit).value_or(unknown);
    }
    double low = 0;
    double high = 0;
    double limit = measurand->accuracy;
    if (expected(low, high)) limit = measurand->limit_between(low, high);
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
    if (p.part && !p.measurand && !reading.quantity.about().from_level.empty())
        p.measurand = p.part->measurand(reading.quantity.about().from_level);
    p.use = bench.board(reading.wiring.board);
    p.board = p.use ? catalog.board(p.use->card) : nullptr;
    p.rail = p.board ? p.board->rail(reading.wiring.rail) : nullptr;
    p.reference = p.board ? p.board->reference(reading.wiring.reference) : nullptr;
    p.module = bench.module(reading.wiring.module);
    p.module_part = p.module ? catalog.part(p.module->part) : nullptr;
    p.module_rail = p.module && p.board ? p.board->rail(p.module->rail) : nullptr;
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
        add("output", part.kind == PartKind::multiplexer ? "analog" : "digital");
        add("clock", "digital", true);
        if (part.kind != PartKind::level_shifter) add("control", "digital", true);
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

bool radio_is_on(const BoardUse& use, const BoardCard* card) {
    if (use.radio_on) return true;
    const bool by_network = use.link.kind == LinkKind::mqtt || use.link.kind == LinkKind::http;
    return card && !card->radio.empty() && !card->wired_network && by_network;
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
        const bool behind = switch_part && switch_part->kind == PartKind::bus_switch;
        out.push_back({r.id, r.name, part, bus_address(r.wiring.address, *part),
                       behind ? r.wiring.module + "/" + r.wiring.pin() : std::string(), r.wiring.cable_m, pull_up,
                       false});
    }
    return out;
}

bool supply_suits(const PartCard& part, double nominal_V, double tolerance_V) {
    constexpr double usual = 0.05; // recommended limits lie further than that from what destroys a part
    return nominal_V >= part.supply.low_V - 1e-9 && nominal_V <= part.supply.high_V + 1e-9 &&
           nominal_V - tolerance_V >= part.supply.low_V * (1 - usual) - 1e-9 &&
           nominal_V + tolerance_V <= part.supply.high_V * (1 + usual) + 1e-9;
}

bool rail_suits(const PartCard& part, const Rail& rail) {
    return supply_suits(part, rail.voltage_V, rail.tolerance_V);
}

const Rail* suitable_rail(const PartCard& part, const BoardCard& board) {
    const Rail* best = nullptr;
    for (const Rail& rail : board.rails) {
        // A rail that is the reference lets a divider's supply cancel; one at the logic's level needs no divider.
        const bool matches = rail.label == board.references.front().follows || &rail == &board.logic_rail();
        if (rail_suits(part, rail) && (!best || matches)) best = &rail;
    }
    return best;
}

} // namespace cognitum
