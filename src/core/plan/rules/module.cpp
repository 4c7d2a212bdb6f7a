// Rules about what stands between a board and its parts: converters, multiplexers, bus switches, shifters, loads.
// They are judged as readings are: levels, pins, channels, addresses, current.
#include "core/base/phrase.h"
#include "core/plan/electrical.h"
#include "core/plan/rules/rules.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace cognitum {

namespace {

/// The modules of a board with their cards; those whose card is gone are left out.
template <typename F>
void each_module(const BoardScene& s, F f) {
    for (const Module& m : s.bench.modules)
        if (const PartCard* part = s.catalog.part(m.part); part && m.board == s.use.id && s.card) f(m, *part);
}

FixAction change_module(std::string label, const std::string& id, std::function<void(Module&)> change) {
    return {std::move(label),
            [id, change = std::move(change)](Bench& bench) {
                if (Module* m = bench.module(id)) change(*m);
            },
            -1,
            {}};
}

struct SupplyLevel {
    double nominal_V = 0, highest_V = 0;
};

SupplyLevel supply_of(const BoardScene& s, const Module& m) {
    if (m.own_supply_V > 0) return {m.own_supply_V, 1.05 * m.own_supply_V};
    const Rail* rail = s.card->rail(m.rail);
    return rail ? SupplyLevel{rail->voltage_V, rail->voltage_V + rail->tolerance_V} : SupplyLevel{};
}

/// True when the module itself lifts a wire of the board to its own supply.
bool lifts_pins(const PartCard& part) {
    if (part.kind == PartKind::load || part.kind == PartKind::multiplexer)
        return false; // what goes through is the parts' business
    if (part.interface.speech == Speech::i2c) return part.interface.pull_up_ohm > 0;
    return true; // a shifter's board side, an SPI converter's answer
}

std::vector<Finding> module_too_high(const BoardScene& s) {
    std::vector<Finding> out;
    each_module(s, [&](const Module& m, const PartCard& part) {
        const SupplyLevel supply = supply_of(s, m);
        if (!m.module.empty() || !lifts_pins(part) || supply.highest_V <= s.card->input_limit_V) return;
        Finding f = finding(
            Severity::error, Stop::wiring,
            phrase("{} lifts its wires to {}; the pins of {} withstand {}.", m.name, volts(supply.nominal_V),
                   s.use.name, volts(s.card->input_limit_V)),
            part.kind == PartKind::level_shifter
                ? phrase("Its side towards the board is lifted to what feeds that side: it is the wrong way "
                         "round, or fed from the wrong rail.")
                : phrase("Its pull-ups or its output go to what feeds it."),
            phrase("Feed it from a rail of the board's own level."));
        for (const Rail& rail : s.card->rails)
            if (rail_suits(part, rail) && rail.voltage_V + rail.tolerance_V <= s.card->input_limit_V)
                f.action = change_module(phrase("Feed it from {}", rail.label), m.id,
                                         [label = rail.label](Module& module) {
                                             module.rail = label;
                                             module.own_supply_V = 0;
                                         });
        out.push_back(std::move(f));
    });
    return out;
}

/// Readings behind a module, in the order of the plan; those that share another's part left out.
std::vector<const Reading*> behind(const BoardScene& s, const Module& m) {
    std::vector<const Reading*> out;
    for (const Reading& r : s.bench.readings)
        if (r.wiring.module == m.id && !is_shared(s.bench, r)) out.push_back(&r);
    return out;
}

bool has_channel(const PartCard& part, const std::string& label) {
    return std::any_of(part.legs.begin(), part.legs.end(),
                       [&](const Leg& leg) { return leg.role == "channel" && leg.label == label; });
}

std::vector<Finding> channel_unknown(const BoardScene& s) {
    std::vector<Finding> out;
    each_module(s, [&](const Module& m, const PartCard& part) {
        for (const Reading* r : behind(s, m)) {
            const std::string& channel = r->wiring.pin();
            if (channel.empty() || has_channel(part, channel)) continue;
            out.push_back(finding(
                Severity::error, Stop::wiring, phrase("{} has no input {} for {}.", m.name, channel, r->name),
                phrase("It has {}.", part.channels.count), phrase("Choose one of its inputs, or another module.")));
        }
    });
    return out;
}

std::vector<Finding> channel_twice(const BoardScene& s) {
    std::vector<Finding> out;
    each_module(s, [&](const Module& m, const PartCard& part) {
        if (part.kind == PartKind::bus_switch) return; // parts of different addresses share a branch
        std::map<std::string, const Reading*> first;
        for (const Reading* r : behind(s, m)) {
            const std::string& channel = r->wiring.pin();
            if (channel.empty() || first.try_emplace(channel, r).second) continue;
            Finding f = finding(
                Severity::error, Stop::wiring,
                phrase("{} and {} share the input {} of {}.", first[channel]->name, r->name, channel, m.name),
                phrase("Two outputs on one wire fight, and both readings are wrong."),
                phrase("Give each an input of its own."));
            std::vector<std::string> taken;
            for (const Reading* other : behind(s, m))
                taken.push_back(other->wiring.pin());
            for (const Leg& leg : part.legs)
                if (leg.role == "channel" && std::find(taken.begin(), taken.end(), leg.label) == taken.end()) {
                    f.action = FixAction{phrase("Use {}", leg.label),
                                         [id = r->id, label = leg.label](Bench& bench) {
                                             if (Reading* reading = bench.reading(id))
                                                 for (Connection& c : reading->wiring.pins)
                                                     c.pin = label;
                                         },
                                         -1,
                                         {}};
                    break;
                }
            if (!f.action) f.fix = phrase("All {} inputs are taken: add a second module.", part.channels.count);
            out.push_back(std::move(f));
        }
    });
    return out;
}

/// Why a module's leg cannot sit on that pin; empty: it can.
std::string pin_trouble(const BoardScene& s, const Module& m, const PartCard& part, const PinNeed& need,
                        const std::string& label) {
    const Pin* pin = s.card->pin(label);
    if (!pin) return phrase("{} has no pin {}", s.use.name, label);
    if (!pin->taken_by.empty()) return phrase("pin {} is taken by the board itself ({})", label, pin->taken_by);
    const bool can = pin->can(need.function) || (need.function == "digital" && pin->can("interrupt"));
    if (!can) return phrase("pin {} cannot be {}", label, need.function);
    if (need.drives && pin->direction == "in") return phrase("pin {} can only listen", label);
    if (need.function == "analog" && pin->lost_with_radio && radio_is_on(s.use, s.card))
        return phrase("pin {} sits on the converter that the radio takes", label);
    const std::string& idle = part.interface.idle;
    if (!pin->boot.empty() && !idle.empty() && idle != pin->boot)
        return phrase("pin {} must be {} at reset, and {} holds it {}", label, pin->boot, m.name, idle);
    return {};
}

std::vector<Finding> module_pin(const BoardScene& s) {
    std::vector<Finding> out;
    each_module(s, [&](const Module& m, const PartCard& part) {
        if (!m.module.empty()) return;
        for (const PinNeed& need : pin_needs(part))
            for (const Connection& c : m.pins) {
                if (c.leg != need.leg || c.pin.empty()) continue;
                const std::string trouble = pin_trouble(s, m, part, need, c.pin);
                if (trouble.empty()) continue;
                out.push_back(
                    finding(Severity::error, Stop::wiring, phrase("{} of {}: {}.", c.leg, m.name, trouble),
                            phrase("What goes through it is noise, nothing, or a board that does not start."),
                            phrase("Choose another pin for it at Boards.")));
            }
    });
    return out;
}

std::vector<Finding> module_pin_twice(const BoardScene& s) {
    std::vector<Finding> out;
    struct User {
        const Module* module;
        Speech speech;
        bool shared;
    };
    std::map<std::string, User> users;
    each_module(s, [&](const Module& m, const PartCard& part) {
        if (!m.module.empty()) return;
        for (const PinNeed& need : pin_needs(part))
            for (const Connection& c : m.pins) {
                if (c.leg != need.leg || c.pin.empty()) continue;
                const User user{&m, part.interface.speech, need.shared};
                const auto [at, is_new] = users.try_emplace(c.pin, user);
                if (is_new || (at->second.shared && need.shared && at->second.speech == user.speech)) continue;
                out.push_back(
                    finding(Severity::error, Stop::wiring,
                            phrase("{} and {} both sit on pin {}.", at->second.module->name, m.name, c.pin),
                            phrase("Two drivers on one wire fight."), phrase("Move one of them at Boards.")));
            }
    });
    return out;
}

std::vector<Finding> module_address(const BoardScene& s) {
    std::vector<Finding> out;
    each_module(s, [&](const Module& m, const PartCard& part) {
        const auto& own = part.interface.addresses;
        if (m.address == 0 || own.empty() || std::find(own.begin(), own.end(), m.address) != own.end()) return;
        Finding f =
            finding(Severity::error, Stop::wiring,
                    phrase("{} is planned at 0x{:02X}, where it never answers.", m.name, m.address),
                    std::find(own.begin(), own.end(), m.address / 2) != own.end()
                        ? phrase("That is an eight-bit address; this bus counts seven: 0x{:02X}.", m.address / 2)
                        : phrase("Its legs set other addresses."),
                    part.interface.strap);
        f.action =
            change_module(phrase("Use 0x{:02X}", own.front()), m.id, [](Module& module) { module.address = 0; });
        out.push_back(std::move(f));
    });
    return out;
}

/// What all pins of a board give together: loads without a supply leg, and parts that are fed from a pin.
std::vector<Finding> pins_together(const BoardScene& s) {
    if (!s.card || s.card->pins_total_mA <= 0) return {};
    double sum = 0;
    int n = 0;
    const auto add = [&](double mA) {
        sum += mA;
        ++n;
    };
    each_module(s, [&](const Module& m, const PartCard& part) {
        if (m.own_supply_V > 0) return;
        if (part.kind == PartKind::load && part.leg_with_role("supply") < 0)
            add(part.supply.peak_mA);
        else if (s.card->pin(m.rail))
            add(part.supply.peak_mA);
    });
    for (const Reading& r : s.bench.readings)
        if (const PartCard* part = s.catalog.part(r.sensor.part);
            part && r.wiring.board == s.use.id && r.wiring.own_supply_V <= 0 && s.card->pin(r.wiring.rail))
            add(part->supply.peak_mA);
    if (n < 2 || sum <= s.card->pins_total_mA) return {};
    return {finding(Severity::error, Stop::wiring,
                    phrase("{} pins of {} give {} together; all of them may give {}.", n, s.use.name,
                           milliamps(sum), milliamps(s.card->pins_total_mA)),
                    phrase("Each pin is within its own limit; the chip's supply wires carry the sum."),
                    phrase("Feed the largest from a rail through a transistor."))};
}

std::vector<Finding> branch_pull_up(const BoardScene& s) {
    std::vector<Finding> out;
    each_module(s, [&](const Module& m, const PartCard& part) {
        if (part.kind != PartKind::bus_switch) return;
        std::map<std::string, std::pair<double, std::string>> branches; // conductance, and a name
        for (const BusDevice& d : s.bus)
            if (d.branch.rfind(m.id + "/", 0) == 0) {
                auto& [conductance, name] = branches[d.branch.substr(m.id.size() + 1)];
                if (d.pull_up_ohm > 0) conductance += 1 / d.pull_up_ohm;
                if (name.empty()) name = d.owner;
            }
        for (const auto& [branch, known] : branches) {
            if (known.first > 0) continue;
            const Reading* r = s.bench.reading(known.second);
            Finding f = finding(Severity::error, Stop::wiring, phrase("{} of {} has no pull-ups.", branch, m.name),
                                phrase("The switch parts the branches, their pull-ups too: nobody answers there."),
                                phrase("4.7 kΩ from data and from clock of that branch to the logic supply."));
            if (r)
                f.action = FixAction{phrase("Add 4.7 kΩ"),
                                     [id = r->id](Bench& bench) {
                                         if (Reading* reading = bench.reading(id))
                                             reading->wiring.pull_up_ohm = 4700;
                                     },
                                     -1,
                                     {}};
            out.push_back(std::move(f));
        }
    });
    return out;
}

std::vector<Finding> shifter_one_way(const BoardScene& s) {
    std::vector<Finding> out;
    each_module(s, [&](const Module& m, const PartCard& part) {
        if (!part.channels.one_way) return;
        for (const Reading* r : behind(s, m)) {
            const PartCard* sensor = s.catalog.part(r->sensor.part);
            if (!sensor) continue;
            const std::vector<PinNeed> needs = pin_needs(*sensor);
            if (std::none_of(needs.begin(), needs.end(), [](const PinNeed& n) { return n.drives; })) continue;
            out.push_back(finding(
                Severity::error, Stop::wiring,
                phrase("{} only goes from the part to the board; {} must be driven too.", m.name, r->name),
                phrase("What the board says never arrives."), phrase("Use a shifter that goes both ways.")));
        }
    });
    return out;
}

const BoardRule all_module_board_rules[] = {
    {"module-level-too-high", module_too_high},  {"module-input-unknown", channel_unknown},
    {"module-input-used-twice", channel_twice},  {"module-pin-unfit", module_pin},
    {"module-pin-used-twice", module_pin_twice}, {"module-address-not-its-own", module_address},
    {"pins-together-too-much", pins_together},   {"branch-pull-up-missing", branch_pull_up},
    {"shifter-one-way", shifter_one_way}};

} // namespace

std::span<const BoardRule> board_module_rules() {
    return all_module_board_rules;
}

} // namespace cognitum
