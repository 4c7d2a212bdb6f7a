#include "core/plan/more_inputs.h"

#include "core/base/phrase.h"
#include "core/plan/assign.h"
#include "core/plan/bill.h"
#include "core/plan/budgets.h"
#include "core/plan/electrical.h"
#include "core/plan/findings.h"
#include "core/plan/path.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

struct Case {
    const Bench& bench;
    const Catalog& catalog;
    const BoardUse& use;
    const BoardCard& card;
    std::vector<std::string> waiting; ///< ids of readings
};

const PartCard* best_part(const Catalog& catalog, PartKind kind, Speech speech) {
    const PartCard* best = nullptr;
    for (const PartCard& p : catalog.parts)
        if (p.kind == kind && p.interface.speech == speech &&
            (!best || p.channels.bits > best->channels.bits ||
             (p.channels.bits == best->channels.bits && p.channels.count > best->channels.count)))
            best = &p;
    return best;
}

int free_address(const Case& c, const PartCard& part) {
    const std::vector<BusDevice> bus = bus_devices(c.bench, c.catalog, c.use);
    for (const int address : part.interface.addresses)
        if (std::none_of(bus.begin(), bus.end(),
                         [&](const BusDevice& d) { return d.address == address && d.branch.empty(); }))
            return address;
    return 0;
}

/// One code of the first waiting reading with this converter, in its unit; 0: not known.
double code_size(const Case& c, const std::function<void(Bench&)>& apply) {
    if (c.waiting.empty()) return 0;
    Bench trial = c.bench;
    apply(trial);
    const Reading* r = trial.reading(c.waiting.front());
    return r ? count_size(*r) : 0;
}

/// Places what is waiting behind a module, builds the paths and gives every leg its pin.
void move_behind(Bench& bench, const Catalog& catalog, const std::vector<std::string>& ids,
                 const std::string& module, const std::string& board) {
    for (const std::string& id : ids)
        if (Reading* r = bench.reading(id)) {
            r->wiring.board = board;
            r->wiring.module = module;
            r->wiring.pins.clear();
            r->wiring.ticked.clear();
        }
    bench = assign_pins(bench, catalog, Keep::placed, board).bench;
    for (const std::string& id : ids)
        if (Reading* r = bench.reading(id)) refresh_path(bench, catalog, *r);
}

Module new_module(const Bench& bench, const PartCard& part, const std::string& name, const std::string& board,
                  const BoardCard& card) {
    Module m;
    m.name = name;
    m.id = bench.free_id(name);
    m.part = part.id;
    m.board = board;
    if (const Rail* rail = suitable_rail(part, card)) m.rail = rail->label;
    return m;
}

WayOut external_converter(const Case& c) {
    WayOut w;
    w.id = "converter";
    const PartCard* part = best_part(c.catalog, PartKind::converter, Speech::i2c);
    if (!part) {
        w.title = phrase("External converter");
        w.why_not = phrase("There is no card of one.");
        return w;
    }
    w.title = part->name;
    w.inputs = part->channels.count;
    w.bits = part->channels.bits;
    w.rate = part->channels.samples_per_s;
    w.price = price_of(c.bench, part->id, price_guess(part->price));
    const bool bus_there = !bus_devices(c.bench, c.catalog, c.use).empty();
    w.pins = bus_there ? 0 : 2;
    w.wires = 4 + 3 * std::max<int>(1, static_cast<int>(c.waiting.size()));
    w.code = phrase("a bus library; one call for each input");
    const int address = free_address(c, *part);
    if (address == 0) w.why_not = phrase("All its addresses are taken on this bus.");
    if (!c.card.pin_for("sda")) w.why_not = phrase("This board has no I²C pins.");
    if (!suitable_rail(*part, c.card)) w.why_not = phrase("No rail of this board suits it.");
    w.possible = w.why_not.empty();
    if (!w.possible) return w;
    w.brings =
        phrase("0x{:02X} on {} and {}, fed from {}; {} of full scale, whatever the rail does.", address,
               c.card.pin_for("sda")->label, c.card.pin_for("scl")->label, suitable_rail(*part, c.card)->label,
               format_measure(part->channels.full_scale_V.front(), "V"));
    w.apply = [&catalog = c.catalog, ids = c.waiting, part, board = c.use.id, address,
               card = &c.card](Bench& bench) {
        Module m =
            new_module(bench, *part, phrase("{}-bit converter", part->channels.bits == 15 ? 16 : 12), board, *card);
        m.address = address == part->interface.addresses.front() ? 0 : address;
        bench.modules.push_back(m);
        move_behind(bench, catalog, ids, m.id, board);
    };
    w.count = code_size(c, w.apply);
    return w;
}

WayOut multiplexer(const Case& c) {
    WayOut w;
    w.id = "multiplexer";
    const PartCard* part = best_part(c.catalog, PartKind::multiplexer, Speech::digital);
    if (!part) {
        w.title = phrase("Analog multiplexer");
        w.why_not = phrase("There is no card of one.");
        return w;
    }
    w.title = part->name;
    w.bits = c.card.bits;
    w.price = price_of(c.bench, part->id, price_guess(part->price));
    // It needs one analog input: a free one, or that of a reading which then moves behind it as well.
    std::string moved, input;
    for (const Pin& pin : c.card.pins) {
        if (!pin.can("analog") || !pin.taken_by.empty() || (pin.lost_with_radio && radio_is_on(c.use, &c.card)))
            continue;
        if (!pin_is_used(c.bench, c.use, pin)) {
            input = pin.label;
            moved.clear();
            break;
        }
        for (const Reading& r : c.bench.readings) {
            const PartCard* p = c.catalog.part(r.sensor.part);
            if (input.empty() && r.wiring.board == c.use.id && r.wiring.module.empty() &&
                r.wiring.pin() == pin.label && p && pin_needs(*p)[0].function == "analog") {
                input = pin.label;
                moved = r.id;
            }
        }
    }
    w.inputs = part->channels.count - 1;
    w.pins = 1 + static_cast<int>(pin_needs(*part).size()) - 1 - (moved.empty() ? 0 : 1);
    w.wires =
        static_cast<int>(pin_needs(*part).size()) + 2 + 3 * std::max<int>(1, static_cast<int>(c.waiting.size()));
    w.rate = 200;
    w.code = phrase("set four address lines, wait, read; for each input");
    if (input.empty()) w.why_not = phrase("It needs one analog input, and this board has none.");
    if (!suitable_rail(*part, c.card)) w.why_not = phrase("No rail of this board suits it.");
    if (w.why_not.empty()) {
        w.apply = [&catalog = c.catalog, ids = c.waiting, part, board = c.use.id, card = &c.card, moved,
                   input](Bench& bench) {
            Module m = new_module(bench, *part, "multiplexer", board, *card);
            const std::vector<PinNeed> needs = pin_needs(*part);
            m.pins.push_back({needs[0].leg, input, false, {}});
            bench.modules.push_back(m);
            std::vector<std::string> all = ids;
            if (!moved.empty()) all.insert(all.begin(), moved);
            move_behind(bench, catalog, all, m.id, board);
        };
        Bench trial = c.bench;
        w.apply(trial);
        const Module& m = trial.modules.back();
        if (std::any_of(m.pins.begin(), m.pins.end(), [](const Connection& p) { return p.pin.empty(); }))
            w.why_not = phrase("This board has no four free pins for its address lines.");
    }
    w.possible = w.why_not.empty();
    if (!w.possible) {
        w.apply = {};
        return w;
    }
    w.brings = moved.empty() ? phrase("It takes {} and four pins for its address lines.", input)
                             : phrase("It takes {}; {} moves behind it.", input, c.bench.reading(moved)->name);
    w.count = code_size(c, w.apply);
    return w;
}

WayOut second_board(const Case& c) {
    WayOut w;
    w.id = "second-board";
    const BoardCard* other = nullptr;
    for (const BoardCard& b : c.catalog.boards) {
        const auto inputs = std::count_if(b.pins.begin(), b.pins.end(),
                                          [](const Pin& p) { return p.can("analog") && p.taken_by.empty(); });
        if (!b.not_advised.empty() || !b.radio.empty() || inputs < 6 || !b.pin_for("digital")) continue;
        if (!other || price_guess(b.price) < price_guess(other->price)) other = &b;
    }
    w.title = other ? phrase("Second board over serial: {}", other->name) : phrase("Second board over serial");
    if (!other) {
        w.why_not = phrase("There is no card of a simple board with inputs.");
        return w;
    }
    w.inputs = static_cast<int>(std::count_if(other->pins.begin(), other->pins.end(),
                                              [](const Pin& p) { return p.can("analog") && p.taken_by.empty(); }));
    w.bits = other->bits;
    w.pins = 1;
    w.wires = 3 + 3 * std::max<int>(1, static_cast<int>(c.waiting.size()));
    w.rate = 100;
    w.price = price_of(c.bench, other->id, price_guess(other->price));
    w.code = phrase("a second program, and lines to read and check");
    const Pin* receive = nullptr;
    for (const Pin& pin : c.card.pins)
        if (!receive && pin.taken_by.empty() && pin.boot.empty() && !pin_is_used(c.bench, c.use, pin) &&
            (pin.can("serial-in") || pin.can("interrupt")) && !pin.can("sda") && !pin.can("scl"))
            receive = &pin;
    const Pin* transmit = nullptr;
    for (const Pin& pin : other->pins)
        if (!transmit && pin.can("digital") && pin.taken_by.empty() && !pin.can("analog")) transmit = &pin;
    if (!receive || !transmit) w.why_not = phrase("This board has no pin left to hear it with.");
    LevelDivider divider;
    if (receive && other->logic_V > c.card.input_limit_V)
        if (const auto choice = choose_divider({other->logic_V, other->logic_V + other->logic_rail().tolerance_V,
                                                other->logic_V - other->logic_rail().tolerance_V,
                                                c.card.logic_V * 1.04, c.card.high_threshold_V, 0}))
            divider = choice->divider;
    w.possible = w.why_not.empty();
    if (!w.possible) return w;
    w.brings = phrase("Its pin {} to pin {} here{}; one ground.", transmit->label, receive->label,
                      divider.there()
                          ? phrase(" over {} and {}", format_ohm(divider.top_ohm), format_ohm(divider.bottom_ohm))
                          : std::string());
    w.apply = [&catalog = c.catalog, ids = c.waiting, card = other, to = c.use.id, rx = receive->label,
               tx = transmit->label, divider](Bench& bench) {
        BoardUse use;
        use.name = phrase("helper board");
        use.id = bench.free_id(use.name);
        use.card = card->id;
        use.uplink = {to, tx, rx, 9600, 9600, divider};
        bench.boards.push_back(use);
        for (const std::string& id : ids) {
            const Reading* r = bench.reading(id);
            if (!r) continue;
            if (const auto placed = choose_part(bench, catalog, id, r->sensor.part, use.id)) bench = *placed;
        }
    };
    w.count = code_size(c, w.apply);
    return w;
}

WayOut bus_sensor(const Case& c) {
    WayOut w;
    w.id = "bus-sensor";
    w.title = phrase("A bus sensor instead");
    w.code = phrase("a library for that part");
    if (c.waiting.empty()) {
        w.why_not = phrase("No reading is waiting for an input.");
        return w;
    }
    const Reading* r = c.bench.reading(c.waiting.front());
    const PartCard* best = nullptr;
    Bench best_bench;
    for (const PartCard& part : c.catalog.parts) {
        const Speech s = part.interface.speech;
        if (part.kind != PartKind::sensor || (s != Speech::i2c && s != Speech::one_wire && s != Speech::single_bus))
            continue;
        if (!part.measurand(r->quantity.kind)) continue;
        const auto placed = choose_part(c.bench, c.catalog, r->id, part.id, c.use.id);
        if (!placed) continue;
        const std::vector<Finding> found = check_reading(*placed, c.catalog, *placed->reading(r->id));
        if (std::any_of(found.begin(), found.end(), [](const Finding& f) { return f.severity == Severity::error; }))
            continue;
        if (best && best->measurand(r->quantity.kind)->accuracy <= part.measurand(r->quantity.kind)->accuracy)
            continue;
        best = &part;
        best_bench = *placed;
    }
    if (!best) {
        w.why_not = phrase("No card on a bus measures this ({}) in that range and place.",
                           find_quantity_kind(r->quantity.kind)->title);
        return w;
    }
    w.title = phrase("A bus sensor instead: {}", best->name);
    w.possible = true;
    w.inputs = 1;
    const bool bus_there = !bus_devices(c.bench, c.catalog, c.use).empty() && best->interface.speech == Speech::i2c;
    w.pins = bus_there ? 0 : static_cast<int>(pin_needs(*best).size());
    w.wires = static_cast<int>(pin_needs(*best).size()) + 2;
    w.rate = best->interface.conversion_ms > 0 ? 1000 / best->interface.conversion_ms : 1;
    w.price = price_of(c.bench, best->id, price_guess(best->price));
    w.brings = phrase("{} takes it; the analog part stays in the drawer.", r->name);
    w.count = best->measurand(r->quantity.kind)->resolution;
    w.apply = [&catalog = c.catalog, id = r->id, part = best->id, board = c.use.id](Bench& bench) {
        if (const auto placed = choose_part(bench, catalog, id, part, board)) bench = *placed;
    };
    return w;
}

} // namespace

std::vector<std::string> readings_without_input(const Bench& bench, const Catalog& catalog, const BoardUse& use) {
    std::vector<std::string> out;
    for (const Reading& r : bench.readings) {
        const PartCard* part = catalog.part(r.sensor.part);
        if (!part || r.wiring.board != use.id || !r.wiring.pin().empty() || !r.wiring.module.empty()) continue;
        const std::vector<PinNeed> needs = pin_needs(*part);
        if (!needs.empty() && needs[0].function == "analog") out.push_back(r.id);
    }
    return out;
}

std::vector<WayOut> ways_to_more_inputs(const Bench& bench, const Catalog& catalog, const BoardUse& use) {
    const BoardCard* card = catalog.board(use.card);
    if (!card) return {};
    const Case c{bench, catalog, use, *card, readings_without_input(bench, catalog, use)};
    return {external_converter(c), multiplexer(c), second_board(c), bus_sensor(c)};
}

} // namespace cognitum
