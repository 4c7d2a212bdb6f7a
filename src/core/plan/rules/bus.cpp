// Rules about buses: addresses, pull-ups, capacitance, selects, one-wire, and the serial lines between boards.
#include "core/base/phrase.h"
#include "core/plan/assign.h"
#include "core/plan/electrical.h"
#include "core/plan/rules/rules.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <set>

namespace cognitum {

namespace {

std::string hex(int address) {
    return fmt::format("0x{:02X}", address);
}

bool on_bus(const Placed& p) {
    return p.part && p.use && p.part->interface.speech == Speech::i2c && !is_shared(*p.bench, *p.reading);
}

Found address_eight_bit(const Placed& p) {
    if (!on_bus(p)) return {};
    const int address = p.reading->wiring.address;
    const auto& own = p.part->interface.addresses;
    const bool has_it = std::find(own.begin(), own.end(), address) != own.end();
    const bool half_is_own = std::find(own.begin(), own.end(), address / 2) != own.end();
    if (address == 0 || has_it || !(half_is_own || address > 0x77)) return {};
    Finding f =
        finding(Severity::error, Stop::wiring,
                phrase("{} is an eight-bit address; this bus counts seven: {}.", hex(address), hex(address / 2)),
                phrase("Some data sheets count the read bit in. Nobody answers at the doubled number."),
                phrase("Halve it: {}.", hex(address / 2)));
    if (half_is_own)
        f.action = change_reading(phrase("Use {}", hex(address / 2)), p.reading->id,
                                  [half = address / 2](Reading& r) { r.wiring.address = half; });
    return f;
}

Found address_not_its_own(const Placed& p) {
    if (!on_bus(p)) return {};
    const int address = p.reading->wiring.address;
    const auto& own = p.part->interface.addresses;
    if (address == 0 || std::find(own.begin(), own.end(), address) != own.end() || own.empty()) return {};
    if (address > 0x77 || std::find(own.begin(), own.end(), address / 2) != own.end()) return {};
    std::string list;
    for (const int a : own)
        list += (list.empty() ? "" : phrase(" or ")) + hex(a);
    Finding f = finding(Severity::error, Stop::wiring,
                        phrase("{} is planned at {}; it answers at {}.", p.reading->name, hex(address), list),
                        phrase("Nobody answers there."), p.part->interface.strap);
    f.action = change_reading(phrase("Use {}", hex(own.front())), p.reading->id,
                              [first = own.front()](Reading& r) { r.wiring.address = first; });
    return f;
}

Found address_clash(const Placed& p) {
    if (!on_bus(p)) return {};
    const std::vector<BusDevice> bus = bus_devices(*p.bench, *p.catalog, *p.use);
    const auto self = std::find_if(bus.begin(), bus.end(),
                                   [&](const BusDevice& d) { return !d.is_module && d.owner == p.reading->id; });
    if (self == bus.end()) return {};
    std::set<int> used;
    const BusDevice* other = nullptr;
    for (const BusDevice& d : bus) {
        if (&d == &*self || d.branch != self->branch) continue;
        used.insert(d.address);
        if (d.address == self->address) other = &d;
    }
    if (!other) return {};
    Finding f = finding(Severity::error, Stop::wiring,
                        phrase("{} and {} both answer at {}.", p.reading->name, other->name, hex(self->address)),
                        phrase("Both answer at once: the numbers are a mixture of the two."),
                        phrase("Put one of them behind a bus switch."));
    for (const int address : self->part->interface.addresses)
        if (!used.count(address) && address != self->address) {
            f.fix = phrase("Set this one to {} ({}).", hex(address), self->part->interface.strap);
            f.action = change_reading(phrase("Set it to {}", hex(address)), p.reading->id,
                                      [address](Reading& r) { r.wiring.address = address; });
            return f;
        }
    const PartCard* bus_switch = nullptr;
    for (const PartCard& part : p.catalog->parts)
        if (part.kind == PartKind::bus_switch) bus_switch = &part;
    if (bus_switch)
        f.action = FixAction{phrase("Put a bus switch between"),
                             [id = p.reading->id, card = bus_switch->id, board = p.use->id,
                              rail = p.reading->wiring.rail, pins = p.reading->wiring.pins](Bench& bench) {
                                 Module* found = nullptr;
                                 for (Module& m : bench.modules)
                                     if (m.board == board && m.part == card) found = &m;
                                 if (!found) {
                                     Module m;
                                     m.name = phrase("bus switch");
                                     m.id = bench.free_id(m.name);
                                     m.part = card;
                                     m.board = board;
                                     m.rail = rail;
                                     m.pins = pins; // the same two wires, by the roles of its own legs
                                     for (Connection& c : m.pins)
                                         c.fixed = false;
                                     bench.modules.push_back(m);
                                     found = &bench.modules.back();
                                 }
                                 int branch = 0;
                                 for (const Reading& r : bench.readings)
                                     if (r.wiring.module == found->id) ++branch;
                                 if (Reading* r = bench.reading(id)) {
                                     r->wiring.module = found->id;
                                     for (Connection& c : r->wiring.pins)
                                         c.pin = phrase("branch {}", branch);
                                 }
                             },
                             -1,
                             {}};
    return f;
}

Found select_shared(const Placed& p) {
    if (!p.part || !p.use || p.part->interface.speech != Speech::spi) return {};
    const int leg = p.part->leg_with_role("select");
    if (leg < 0) return {};
    const std::string& label = p.part->legs[static_cast<std::size_t>(leg)].label;
    const Connection* mine = p.reading->wiring.connection(label);
    if (!mine || mine->pin.empty()) return {};
    const auto clash = [&](const std::string& name) {
        Finding f = finding(Severity::error, Stop::wiring,
                            phrase("{} and {} share the select pin {}.", p.reading->name, name, mine->pin),
                            phrase("Both answer at once on one wire."),
                            phrase("Each part on SPI needs a select of its own."));
        f.action = move_leg(p, label, select_shared);
        return f;
    };
    const auto selects = [&](const std::string& part_id, const std::vector<Connection>& pins) {
        const PartCard* part = p.catalog->part(part_id);
        const int at = part && part->interface.speech == Speech::spi ? part->leg_with_role("select") : -1;
        if (at < 0) return false;
        return std::any_of(pins.begin(), pins.end(), [&](const Connection& c) {
            return c.leg == part->legs[static_cast<std::size_t>(at)].label && c.pin == mine->pin;
        });
    };
    for (const Reading& other : p.bench->readings)
        if (other.id != p.reading->id && other.wiring.board == p.use->id && !is_shared(*p.bench, other) &&
            selects(other.sensor.part, other.wiring.pins))
            return clash(other.name);
    for (const Module& m : p.bench->modules)
        if (m.board == p.use->id && selects(m.part, m.pins)) return clash(m.name);
    return {};
}

bool same_one_wire_bus(const Placed& p, const Reading& other) {
    const PartCard* part = p.catalog->part(other.sensor.part);
    return part && part->interface.speech == Speech::one_wire && other.wiring.board == p.reading->wiring.board &&
           other.wiring.pin() == p.reading->wiring.pin();
}

Found one_wire_pull_up(const Placed& p) {
    if (!p.part || !p.use || p.part->interface.speech != Speech::one_wire || p.reading->wiring.pin().empty())
        return {};
    for (const Reading& other : p.bench->readings)
        if (same_one_wire_bus(p, other) && other.wiring.pull_up_ohm > 0) return {};
    Finding f = finding(Severity::error, Stop::wiring,
                        phrase("The one-wire bus on pin {} has no pull-up.", p.reading->wiring.pin()),
                        phrase("Nobody answers, or the first value is −127 °C."),
                        phrase("4.7 kΩ from the data wire to {}, once.",
                               p.board ? p.board->logic_rail().label : phrase("the logic supply")));
    f.action = change_reading(phrase("Add 4.7 kΩ"), p.reading->id, [](Reading& r) { r.wiring.pull_up_ohm = 4700; });
    return f;
}

Found parasite_power(const Placed& p) {
    if (!p.part || !p.use || p.part->interface.speech != Speech::one_wire || !p.reading->wiring.parasite) return {};
    int probes = 0;
    for (const Reading& other : p.bench->readings)
        if (same_one_wire_bus(p, other)) ++probes;
    if (probes < 2 && p.reading->quantity.high < 70 && p.reading->wiring.cable_m < 5) return {};
    Finding f = finding(Severity::look, Stop::wiring,
                        counted(probes, "It lives on its data wire alone, with {} probe on the bus and {} of wire.",
                                "It lives on its data wire alone, with {} probes on the bus and {} of wire.",
                                format_measure(p.reading->wiring.cable_m, "m", 3)),
                        phrase("While it measures it draws {}; the pull-up gives 0.7 mA: it answers 85.0 °C.",
                               milliamps(std::max(1.5, p.part->supply.peak_mA))),
                        phrase("Run a third wire for its supply."));
    f.action = change_reading(phrase("Give it its supply wire"), p.reading->id,
                              [](Reading& r) { r.wiring.parasite = false; });
    return f;
}

Found conversion_too_slow(const Placed& p) {
    if (!p.part || p.part->interface.conversion_ms <= 0) return {};
    const double asked =
        p.reading->quantity.sample_s > 0 ? p.reading->quantity.sample_s : p.reading->quantity.interval_s;
    if (p.part->interface.conversion_ms / 1000 <= asked) return {};
    const double least_s = p.part->minimum_interval_s; // where that is asked too much, interval-too-short says it
    if (p.reading->quantity.sample_s <= 0 && least_s > asked * 1.0001 &&
        1000 * least_s >= p.part->interface.conversion_ms)
        return {};
    Finding f = finding(Severity::error, Stop::quantity,
                        phrase("One measurement takes {}; a value is wanted every {}.",
                               format_measure(p.part->interface.conversion_ms, "ms"), format_measure(asked, "s")),
                        phrase("The old value comes twice, or half of one."),
                        phrase("Ask for it less often, or with fewer bits."));
    const double slower = std::ceil(p.part->interface.conversion_ms / 100) / 10;
    f.action = change_reading(phrase("Every {}", format_measure(slower, "s")), p.reading->id, [slower](Reading& r) {
        r.quantity.interval_s = std::max(slower, r.quantity.interval_s);
        if (r.quantity.sample_s > 0) r.quantity.sample_s = slower;
    });
    return f;
}

constexpr ReadingRule all_bus_rules[] = {{"address-eight-bit", address_eight_bit},
                                         {"address-not-its-own", address_not_its_own},
                                         {"address-clash", address_clash},
                                         {"select-shared", select_shared},
                                         {"one-wire-pull-up", one_wire_pull_up},
                                         {"parasite-power", parasite_power},
                                         {"conversion-too-slow", conversion_too_slow}};

std::string kilohertz(double kHz) {
    return fmt::format("{}{}kHz", format_constant(kHz), thin_space);
}

bool has_bus(const BoardScene& s) {
    return s.card && s.budget.bus_devices > 0;
}

double bus_supply_V(const BoardScene& s) {
    return s.card->logic_V;
}

std::vector<Finding> pull_up_missing(const BoardScene& s) {
    if (!has_bus(s) || s.budget.pull_up_ohm > 0) return {};
    Finding f = finding(Severity::error, Stop::wiring, phrase("The I²C bus of {} has no pull-ups.", s.use.name),
                        phrase("Its wires never come up: nobody answers."),
                        phrase("4.7 kΩ from data and from clock to the board's logic supply."));
    f.action = change_board(phrase("Add 4.7 kΩ"), s.use.id, [](BoardUse& use) { use.i2c_pull_up_ohm = 4700; });
    return {std::move(f)};
}

std::vector<Finding> pull_up_weak(const BoardScene& s) {
    const BoardBudget& b = s.budget;
    if (!has_bus(s) || b.pull_up_ohm <= 0 || b.rise_ns <= b.rise_limit_ns || b.bus_pF > bus_limit_pF) return {};
    const double weakest = weakest_pull_up_ohm(s.use.i2c_kHz, b.bus_pF);
    Finding f =
        finding(Severity::error, Stop::wiring,
                phrase("The bus of {} rises in {:.0f} ns; at {} it may take {:.0f} ns.", s.use.name, b.rise_ns,
                       kilohertz(s.use.i2c_kHz), b.rise_limit_ns),
                phrase("{} of pull-up against {:.0f} pF: bits are read before they are up.",
                       format_ohm(b.pull_up_ohm), b.bus_pF),
                phrase("Add pull-ups until all together are below {}, or slow the bus down.", format_ohm(weakest)));
    if (s.use.i2c_kHz > 100 && rise_time_ns(b.pull_up_ohm, b.bus_pF) <= rise_limit_ns(100)) {
        f.action = change_board(phrase("Run it at 100 kHz"), s.use.id, [](BoardUse& use) { use.i2c_kHz = 100; });
    } else if (weakest > strongest_pull_up_ohm(bus_supply_V(s))) {
        // The added one in parallel with what is there.
        const double without =
            1 / (1 / b.pull_up_ohm - (s.use.i2c_pull_up_ohm > 0 ? 1 / s.use.i2c_pull_up_ohm : 0));
        for (const double ohm : {10000.0, 4700.0, 3300.0, 2200.0, 1500.0, 1000.0}) {
            const double all = std::isfinite(without) ? 1 / (1 / ohm + 1 / without) : ohm;
            if (all > 0.9 * weakest || all < strongest_pull_up_ohm(bus_supply_V(s))) continue;
            f.action = change_board(phrase("Add {}", format_ohm(ohm)), s.use.id,
                                    [ohm](BoardUse& use) { use.i2c_pull_up_ohm = ohm; });
            break;
        }
    }
    return {std::move(f)};
}

std::vector<Finding> pull_up_strong(const BoardScene& s) {
    const BoardBudget& b = s.budget;
    if (!has_bus(s) || b.pull_up_ohm <= 0) return {};
    const double strongest = strongest_pull_up_ohm(bus_supply_V(s));
    if (b.pull_up_ohm >= strongest) return {};
    Finding f =
        finding(Severity::error, Stop::wiring,
                phrase("All pull-ups of {} together are {}; a part pulls down at least {} at {}.", s.use.name,
                       format_ohm(b.pull_up_ohm), format_ohm(strongest), volts(bus_supply_V(s))),
                phrase("A low never gets low enough: now and then a bit is wrong."),
                phrase("Take pull-ups off: most little boards bring their own."));
    if (s.use.i2c_pull_up_ohm > 0)
        f.action = change_board(phrase("Take the added one off"), s.use.id,
                                [](BoardUse& use) { use.i2c_pull_up_ohm = 0; });
    return {std::move(f)};
}

std::vector<Finding> bus_capacitance(const BoardScene& s) {
    const BoardBudget& b = s.budget;
    if (!has_bus(s) || b.bus_pF <= bus_limit_pF) return {};
    return {finding(Severity::error, Stop::wiring,
                    phrase("The bus of {} has {:.0f} pF with {} of wire; it takes {:.0f} pF.", s.use.name, b.bus_pF,
                           format_measure(b.bus_m, "m", 3), bus_limit_pF),
                    phrase("It was made for a board, not for a garden: bits get lost."),
                    phrase("Shorten the wires, or read the far part with a second board and send lines."))};
}

std::vector<Finding> bus_too_fast(const BoardScene& s) {
    std::vector<Finding> out;
    for (const BusDevice& d : s.bus) {
        if (d.part->interface.max_kHz <= 0 || s.use.i2c_kHz <= d.part->interface.max_kHz) continue;
        Finding f = finding(Severity::error, Stop::wiring,
                            phrase("The bus of {} runs at {}; {} follows up to {}.", s.use.name,
                                   kilohertz(s.use.i2c_kHz), d.name, kilohertz(d.part->interface.max_kHz)),
                            phrase("It answers now and then, or with nonsense."), phrase("Slow the bus down."));
        f.action = change_board(phrase("Run it at {}", kilohertz(d.part->interface.max_kHz)), s.use.id,
                                [kHz = d.part->interface.max_kHz](BoardUse& use) { use.i2c_kHz = kHz; });
        out.push_back(std::move(f));
        break;
    }
    return out;
}

std::vector<Finding> module_clash(const BoardScene& s) {
    for (std::size_t i = 0; i < s.bus.size(); ++i)
        for (std::size_t j = i + 1; j < s.bus.size(); ++j) {
            const BusDevice& a = s.bus[i];
            const BusDevice& b = s.bus[j];
            if (!a.is_module || !b.is_module || a.address != b.address || a.branch != b.branch) continue;
            std::set<int> used;
            for (const BusDevice& d : s.bus)
                used.insert(d.address);
            Finding f = finding(Severity::error, Stop::wiring,
                                phrase("{} and {} both answer at {}.", a.name, b.name, hex(a.address)),
                                phrase("Both answer at once."), b.part->interface.strap);
            for (const int address : b.part->interface.addresses)
                if (!used.count(address)) {
                    f.action = FixAction{phrase("Set {} to {}", b.name, hex(address)),
                                         [id = b.owner, address](Bench& bench) {
                                             if (Module* m = bench.module(id)) m->address = address;
                                         },
                                         -1,
                                         {}};
                    break;
                }
            return {std::move(f)};
        }
    return {};
}

const BoardRule all_bus_board_rules[] = {
    {"pull-up-missing", pull_up_missing},   {"pull-up-too-weak", pull_up_weak},
    {"pull-up-too-strong", pull_up_strong}, {"bus-capacitance", bus_capacitance},
    {"bus-too-fast", bus_too_fast},         {"module-address-clash", module_clash}};

} // namespace

std::span<const ReadingRule> bus_rules() {
    return all_bus_rules;
}
std::span<const BoardRule> board_bus_rules() {
    return all_bus_board_rules;
}

} // namespace cognitum
