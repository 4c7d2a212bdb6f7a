#include "core/plan/assign.h"

#include "core/base/phrase.h"
#include "core/plan/board_picture.h"
#include "core/plan/electrical.h"
#include "core/plan/matching.h"
#include "core/plan/path.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <set>

namespace cognitum {

namespace {

constexpr double industrial_V = 7; ///< a part that needs more than any small board gives

constexpr double impossible = 1e6;

/// One leg that wants a pin, or several legs that share one.
struct Slot {
    std::vector<Connection*> connections;
    bool shared = false; ///< several parts sit on its pin: a bus, a one-wire line
    std::string name;    ///< of the reading or module
    std::string function;
    bool drives = false;
    const PartCard* part = nullptr;
    double pull_up_ohm = 0;
    std::string pinned; ///< pin that stays; empty: to be found
};

struct Work {
    const Bench& bench;
    const Catalog& catalog;
    const BoardUse& use;
    const BoardCard& card;
    Keep keep;
    std::map<std::string, Slot> slots;
    std::set<std::string> taken;
};

/// Connections of an item in the order of its needs; earlier choices for the same leg stay.
void bring_connections(std::vector<Connection>& pins, const std::vector<PinNeed>& needs, Keep keep) {
    std::vector<Connection> out;
    for (const PinNeed& need : needs) {
        const auto old =
            std::find_if(pins.begin(), pins.end(), [&](const Connection& c) { return c.leg == need.leg; });
        Connection c = old == pins.end() ? Connection{need.leg, {}, false, {}} : *old;
        if (keep == Keep::fixed && !c.fixed) c.pin.clear();
        out.push_back(c);
    }
    pins = out;
}

void add_slots(Work& work, const std::string& id, const std::string& name, const PartCard& part,
               std::vector<Connection>& pins, double pull_up_ohm) {
    const std::vector<PinNeed> needs = pin_needs(part);
    for (std::size_t i = 0; i < needs.size() && i < pins.size(); ++i) {
        const PinNeed& need = needs[i];
        // One-wire parts of a board share one pin as bus parts share theirs. The key is order and identity,
        // whatever the order of the lists: buses first.
        const std::string key =
            need.shared
                ? fmt::format("0 bus {}",
                              (part.interface.speech == Speech::one_wire ? std::string("one-wire") : need.function))
                : fmt::format("1 {} {:02}", id, i);
        Slot& slot = work.slots[key];
        slot.shared = need.shared;
        // The name that a sentence uses is the first by id, so that it does not depend on the order.
        if (slot.name.empty() || id < slot.name) slot.name = name;
        slot.function = need.function;
        slot.drives = slot.drives || need.drives;
        slot.part = &part;
        slot.pull_up_ohm = std::max({slot.pull_up_ohm, pull_up_ohm, part.interface.pull_up_ohm});
        slot.connections.push_back(&pins[i]);
        if (!pins[i].pin.empty() && (slot.pinned.empty() || pins[i].pin < slot.pinned)) slot.pinned = pins[i].pin;
    }
}

bool same_function(const Pin& pin, const std::string& function) {
    return pin.can(function) || (function == "digital" && pin.can("interrupt"));
}

double cost_of(const Work& work, const Slot& slot, const Pin& pin, std::size_t order) {
    if (!same_function(pin, slot.function) || !pin.taken_by.empty()) return impossible;
    if (slot.drives && pin.direction == "in") return impossible;
    if (slot.function == "analog" && pin.lost_with_radio && radio_is_on(work.use, &work.card)) return impossible;
    if (work.taken.count(pin.label)) return impossible;
    double cost = 0.01 * static_cast<double>(order);
    if (!pin.boot.empty()) cost += slot.part->interface.idle == pin.boot ? 20 : 100;
    const bool wants_pull_up = slot.part->interface.open_drain && slot.pull_up_ohm <= 0;
    if (wants_pull_up && !pin.pull_up) cost += 60;
    if (slot.function != "analog" && pin.can("analog")) cost += pin.lost_with_radio ? 8 : 30;
    if (slot.function == "analog" && pin.lost_with_radio) cost += 25;
    if (slot.function == "digital" && pin.can("interrupt")) cost += 4;
    if (!slot.shared)
        for (const char* bus : {"sda", "scl", "spi-clock", "spi-in", "spi-out", "serial-in", "serial-out"})
            if (pin.can(bus) && slot.function != bus) cost += 6;
    if (pin.can("dac") && slot.function != "dac") cost += 2;
    if (pin.can("wake") && slot.part->interface.speech == Speech::pulse) cost -= 1;
    // An input-only pin is the best place for what never needs driving, and no other can use it.
    if (pin.direction == "in" && !wants_pull_up) cost -= 2;
    return cost;
}

std::string gap_text(const Work& work, const Slot& slot) {
    std::string why;
    int able = 0;
    std::string users;
    for (const Pin& pin : work.card.pins) {
        if (!same_function(pin, slot.function)) continue;
        ++able;
        const bool lost = pin.lost_with_radio && radio_is_on(work.use, &work.card) && slot.function == "analog";
        std::string user =
            lost ? phrase("lost while the radio is on") : pin_user(work.bench, work.catalog, work.use, pin);
        if (able <= 6) users += fmt::format("{}{}: {}", users.empty() ? "" : ", ", pin.label, user);
    }
    const std::string what = slot.function == "analog"      ? phrase("an analog input")
                             : slot.function == "interrupt" ? phrase("a pin that interrupts")
                             : slot.function == "digital"   ? phrase("a free pin")
                                                            : phrase("a pin for {}", slot.function);
    if (able == 0) return phrase("{} needs {}; {} has none.", slot.name, what, work.use.name);
    return phrase("{} needs {}; {} has {} and none is left ({}{}).", slot.name, what, work.use.name, able, users,
                  able > 6 ? ", …" : "");
}

void give(Slot& slot, const std::string& pin) {
    for (Connection* c : slot.connections)
        c->pin = pin;
}

void solve(Work& work, std::vector<std::string>& gaps) {
    std::vector<Slot*> open;
    for (auto& [key, slot] : work.slots)
        if (!slot.pinned.empty()) {
            give(slot, slot.pinned);
            work.taken.insert(slot.pinned);
        }
    for (auto& [key, slot] : work.slots)
        if (slot.pinned.empty()) open.push_back(&slot);
    // Buses have their pins: they go first, so that nothing else sits there.
    for (Slot* slot : open) {
        if (!slot->shared) continue;
        const Pin* best = nullptr;
        double least = impossible;
        for (std::size_t i = 0; i < work.card.pins.size(); ++i)
            if (const double cost = cost_of(work, *slot, work.card.pins[i], i); cost < least) {
                least = cost;
                best = &work.card.pins[i];
            }
        if (!best) {
            gaps.push_back(gap_text(work, *slot));
            continue;
        }
        give(*slot, best->label);
        work.taken.insert(best->label);
    }
    std::erase_if(open, [](const Slot* slot) { return slot->shared; });
    if (open.empty()) return;
    std::vector<std::vector<double>> costs;
    for (const Slot* slot : open) {
        std::vector<double> row;
        for (std::size_t i = 0; i < work.card.pins.size(); ++i)
            row.push_back(cost_of(work, *slot, work.card.pins[i], i));
        row.resize(work.card.pins.size() + open.size(), impossible / 10); // a column for not being placed
        costs.push_back(std::move(row));
    }
    const std::vector<int> columns = least_cost_matching(costs);
    for (std::size_t i = 0; i < open.size(); ++i) {
        const auto column = static_cast<std::size_t>(columns[i]);
        if (column < work.card.pins.size() && costs[i][column] < impossible / 10)
            give(*open[i], work.card.pins[column].label);
    }
    for (const Slot* slot : open)
        if (slot->connections.front()->pin.empty()) gaps.push_back(gap_text(work, *slot));
}

/// Channels of a converter, multiplexer or bus switch, in the order of the readings' ids.
void assign_channels(Bench& bench, const Catalog& catalog, Keep keep, std::vector<std::string>& gaps) {
    for (const Module& module : bench.modules) {
        const PartCard* part = catalog.part(module.part);
        if (!part || part->channels.count == 0) continue;
        std::vector<Reading*> users;
        for (Reading& r : bench.readings)
            if (r.wiring.module == module.id && catalog.part(r.sensor.part)) users.push_back(&r);
        std::sort(users.begin(), users.end(), [](const Reading* a, const Reading* b) { return a->id < b->id; });
        std::set<std::string> taken;
        for (Reading* r : users) {
            bring_connections(r->wiring.pins, pin_needs(*catalog.part(r->sensor.part)), keep);
            if (!r->wiring.pin().empty()) taken.insert(r->wiring.pin());
        }
        for (Reading* r : users) {
            if (!r->wiring.pin().empty() || r->wiring.pins.empty()) continue;
            for (const Leg& leg : part->legs)
                if (leg.role == "channel" && !taken.count(leg.label)) {
                    for (Connection& c : r->wiring.pins)
                        c.pin = leg.label;
                    taken.insert(leg.label);
                    break;
                }
            if (r->wiring.pin().empty())
                gaps.push_back(phrase("{} needs an input of {}; all {} are taken.", r->name, module.name,
                                      part->channels.count));
        }
    }
}

void assign_board(Bench& bench, const Catalog& catalog, const BoardUse& use, Keep keep,
                  std::vector<std::string>& gaps) {
    const BoardCard* card = catalog.board(use.card);
    if (!card) return;
    Work work{bench, catalog, use, *card, keep, {}, {}};
    for (Reading& r : bench.readings) {
        const PartCard* part = catalog.part(r.sensor.part);
        if (r.wiring.board != use.id || !part || bench.module(r.wiring.module)) continue;
        if (is_shared(bench, r)) continue;
        bring_connections(r.wiring.pins, pin_needs(*part), keep);
        add_slots(work, r.id, r.name, *part, r.wiring.pins, r.wiring.pull_up_ohm);
    }
    for (Module& m : bench.modules) {
        const PartCard* part = catalog.part(m.part);
        if (m.board != use.id || !part || !m.module.empty()) continue;
        bring_connections(m.pins, pin_needs(*part), keep);
        add_slots(work, m.id, m.name, *part, m.pins, 0);
    }
    for (const BoardUse& other : bench.boards) {
        if (other.id == use.id && !other.uplink.to.empty() && !other.uplink.transmit_pin.empty())
            work.taken.insert(other.uplink.transmit_pin);
        if (other.uplink.to == use.id && !other.uplink.receive_pin.empty())
            work.taken.insert(other.uplink.receive_pin);
    }
    solve(work, gaps);
}

/// A reading that shares another's part has the same wires.
void follow_shared(Bench& bench) {
    for (Reading& r : bench.readings)
        if (const Reading* other = is_shared(bench, r) ? bench.reading(r.sensor.shared_with) : nullptr) {
            r.wiring.board = other->wiring.board;
            r.wiring.rail = other->wiring.rail;
            r.wiring.pins = other->wiring.pins;
            r.wiring.module = other->wiring.module;
            r.wiring.address = other->wiring.address;
        }
}

void feed_board(const Catalog& catalog, Reading& r, const BoardCard& card) {
    const PartCard* part = catalog.part(r.sensor.part);
    if (!card.rail(r.wiring.rail) && part && part->supply.high_V > 0)
        if (const Rail* rail = suitable_rail(*part, card)) r.wiring.rail = rail->label;
    if (!card.reference(r.wiring.reference)) r.wiring.reference = card.references.front().id;
}

/// Puts readings without a board on the first board that takes all their legs.
void find_boards(Bench& bench, const Catalog& catalog) {
    std::vector<std::string> ids, boards;
    for (const Reading& r : bench.readings)
        if (r.wiring.board.empty() && catalog.part(r.sensor.part) && !is_shared(bench, r)) ids.push_back(r.id);
    for (const BoardUse& b : bench.boards)
        boards.push_back(b.id);
    std::sort(ids.begin(), ids.end());
    std::sort(boards.begin(), boards.end());
    for (const std::string& id : ids)
        for (const std::string& board : boards) {
            const BoardCard* card = catalog.board(bench.board(board)->card);
            const PartCard* part = catalog.part(bench.reading(id)->sensor.part);
            if (!card || !card->not_advised.empty()) continue;
            if (part->supply.high_V > 0 && !suitable_rail(*part, *card)) continue;
            Bench trial = bench;
            trial.reading(id)->wiring.board = board;
            std::vector<std::string> before, after;
            Bench without = bench;
            assign_board(without, catalog, *without.board(board), Keep::fixed, before);
            assign_board(trial, catalog, *trial.board(board), Keep::fixed, after);
            if (after.size() > before.size()) continue;
            bench.reading(id)->wiring.board = board;
            break;
        }
}

} // namespace

Assignment assign_pins(const Bench& bench, const Catalog& catalog, Keep keep, const std::string& board) {
    Assignment out{bench, {}};
    if (board.empty()) find_boards(out.bench, catalog);
    std::vector<std::string> boards;
    for (const BoardUse& b : out.bench.boards)
        if (board.empty() || b.id == board) boards.push_back(b.id);
    std::sort(boards.begin(), boards.end());
    assign_channels(out.bench, catalog, keep, out.gaps);
    for (const std::string& id : boards) {
        const BoardUse use = *out.bench.board(id);
        assign_board(out.bench, catalog, use, keep, out.gaps);
        const BoardCard* card = catalog.board(use.card);
        for (Reading& r : out.bench.readings)
            if (card && r.wiring.board == id) feed_board(catalog, r, *card);
        for (Module& m : out.bench.modules)
            if (const PartCard* part = catalog.part(m.part); card && part && m.board == id && !card->rail(m.rail))
                if (const Rail* rail = suitable_rail(*part, *card)) m.rail = rail->label;
    }
    follow_shared(out.bench);
    for (const Reading& r : out.bench.readings)
        if (r.wiring.board.empty() && catalog.part(r.sensor.part) &&
            catalog.part(r.sensor.part)->interface.speech != Speech::radio && board.empty())
            out.gaps.push_back(phrase("{} found no board: none has the pins and the supply for {}.", r.name,
                                      catalog.part(r.sensor.part)->name));
    std::sort(out.gaps.begin(), out.gaps.end());
    for (Reading& r : out.bench.readings)
        if (r.path.stages.empty()) refresh_path(out.bench, catalog, r);
    return out;
}

Result<Bench> choose_part(const Bench& bench, const Catalog& catalog, const std::string& id,
                          const std::string& part_id, const std::string& board_id) {
    Bench next = bench;
    Reading* r = next.reading(id);
    const PartCard* part = catalog.part(part_id);
    const BoardUse* use = next.board(board_id);
    const BoardCard* card = use ? catalog.board(use->card) : nullptr;
    if (!r || !part || !card) return failure(phrase("the reading, the part or the board is gone."));
    if (!card->not_advised.empty())
        return failure(phrase("{} is not advised: {}", use->name, card->not_advised), {},
                       phrase("Use another board."));
    Wiring wiring;
    wiring.board = board_id;
    wiring.reference = r->wiring.board == board_id && card->reference(r->wiring.reference)
                           ? r->wiring.reference
                           : card->references.front().id;
    if (part->supply.high_V > 0) {
        const Rail* rail = suitable_rail(*part, *card);
        if (!rail && part->supply.low_V >= industrial_V) {
            // Loops and the like have a supply of their own, 24 V or 12 V as usual.
            const auto suits = [&](double volts) {
                return volts >= part->supply.low_V && volts <= part->supply.high_V;
            };
            wiring.own_supply_V = suits(24) ? 24 : suits(12) ? 12 : (part->supply.low_V + part->supply.high_V) / 2;
            wiring.ground_joined = true;
        } else if (!rail)
            return failure(phrase("{} needs {} to {}, which no rail of {} gives.", part->name,
                                  volts(part->supply.low_V), volts(part->supply.high_V), use->name),
                           {}, phrase("Choose another part or another board."));
        if (rail) wiring.rail = rail->label;
    }
    if (part->interface.speech == Speech::radio && card->radio.empty())
        return failure(phrase("{} has no radio to hear it with.", use->name), {},
                       phrase("Use a board with a radio."));
    // The pin that the person has already soldered stays, if the new part can live there.
    const std::vector<PinNeed> needs = pin_needs(*part);
    if (!is_shared(bench, *r) && r->wiring.board == board_id && r->wiring.module.empty() && !needs.empty() &&
        !r->wiring.pins.empty()) {
        const Pin* old = card->pin(r->wiring.pin());
        if (old && same_function(*old, needs[0].function) && old->taken_by.empty())
            wiring.pins.push_back({needs[0].leg, old->label, r->wiring.pins[0].fixed, {}});
    }
    wiring.cable_m = r->wiring.cable_m;
    if (part->needs_pull_up_ohm > 0 && part->interface.speech != Speech::i2c && part->interface.pull_up_ohm <= 0)
        wiring.pull_up_ohm = part->needs_pull_up_ohm;
    r->sensor.part = part_id;
    r->sensor.shared_with.clear();
    r->wiring = wiring;
    r->path = {};
    // A wave becomes beats, the count of a wheel a frequency.
    const Measurand* measured = part->measurand(r->quantity.kind);
    const bool wheel = measured && !measured->transfer.empty() && input_unit(measured->transfer.front()) == "Hz";
    r->source.collect = r->quantity.about().events == Events::beats && part->interface.speech == Speech::analog
                            ? "beats"
                        : wheel ? "rate"
                                : "";
    Assignment placed = assign_pins(next, catalog, Keep::placed, board_id);
    const Reading& done = *placed.bench.reading(id);
    if (!needs.empty() &&
        (done.wiring.pins.empty() || std::any_of(done.wiring.pins.begin(), done.wiring.pins.end(),
                                                 [](const Connection& c) { return c.pin.empty(); })))
        return failure(placed.gaps.empty() ? phrase("there is no pin for it.") : placed.gaps.front(), {},
                       needs[0].function == "analog" ? phrase("Boards shows the ways to more inputs.")
                                                     : phrase("Free one, or use another board."));
    return std::move(placed.bench);
}

} // namespace cognitum
