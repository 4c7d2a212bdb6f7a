#include "core/plan/loom/loom_drawing.h"

#include "core/base/phrase.h"
#include "core/plan/electrical.h"
#include "core/plan/path.h"
#include "core/units/format.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <map>

namespace cognitum {

namespace {

std::string short_name(const std::string& name) {
    return name.substr(0, name.find(','));
}

LoomItem item_of(const Placed& p, bool alone) {
    LoomItem item;
    item.title = alone ? short_name(p.part->name) : p.reading->name;
    item.part = p.part;
    item.pins = &p.reading->wiring.pins;
    item.own_supply = p.reading->wiring.own_supply_V > 0;
    item.rail = item.own_supply ? phrase("own {}", volts(p.reading->wiring.own_supply_V)) : p.reading->wiring.rail;
    item.parasite = p.reading->wiring.parasite;
    item.input_protected = p.reading->wiring.input_protected;
    item.pull_up_ohm = p.reading->wiring.pull_up_ohm;
    item.cable_m = p.reading->wiring.cable_m;
    item.colours = &p.reading->wiring.colours;
    item.high_V = p.part->interface.high_V > 0 ? p.part->interface.high_V : p.supply_V();
    item.at_pin = pin_range(p);
    item.at_source = source_range(p);
    item.voltage = p.is_voltage();
    return item;
}

LoomItem item_of(const Module& m, const PartCard& part) {
    LoomItem item;
    item.title = m.name;
    item.part = &part;
    item.pins = &m.pins;
    item.own_supply = m.own_supply_V > 0;
    item.rail = item.own_supply ? phrase("own {}", volts(m.own_supply_V)) : m.rail;
    return item;
}

} // namespace

const std::vector<std::string>& wire_colours() {
    static const std::vector<std::string> all = {
        for_people("red"),   for_people("black"),  for_people("yellow"), for_people("green"), for_people("blue"),
        for_people("white"), for_people("orange"), for_people("violet"), for_people("grey"),  for_people("brown")};
    return all;
}

const std::string& usual_colour(std::string_view role) {
    static const std::map<std::string, std::string, std::less<>> usual = {
        {"supply", "red"},      {"ground", "black"},    {"output", "yellow"}, {"end", "yellow"},
        {"data", "green"},      {"clock", "blue"},      {"select", "white"},  {"data-in", "violet"},
        {"data-out", "orange"}, {"transmit", "yellow"}, {"receive", "green"}, {"trigger", "green"},
        {"control", "white"},   {"channel", "yellow"}};
    static const std::string other = "grey";
    const auto at = usual.find(role);
    return at == usual.end() ? other : at->second;
}

Loom reading_loom(const Bench& bench, const Catalog& catalog, const Reading& reading) {
    const Placed p = place(bench, catalog, reading);
    if (!p.part || !p.board || p.part->legs.empty() || reading.wiring.pin().empty()) return {};
    LoomDrawing drawing(*p.use, *p.board);
    if (p.module_part)
        drawing.add_module(item_of(*p.module, *p.module_part), {item_of(p, true)});
    else
        drawing.add_direct(item_of(p, true));
    return drawing.finish();
}

Loom board_loom(const Bench& bench, const Catalog& catalog, const BoardUse& use) {
    const BoardCard* card = catalog.board(use.card);
    if (!card) return {};
    LoomDrawing drawing(use, *card);
    bool any = false;
    for (const Reading& r : bench.readings) {
        const Placed p = place(bench, catalog, r);
        if (r.wiring.board != use.id || !p.part || p.part->legs.empty() || r.wiring.pin().empty() ||
            p.module_part || is_shared(bench, r))
            continue;
        drawing.add_direct(item_of(p, false));
        any = true;
    }
    for (const Module& m : bench.modules) {
        const PartCard* part = catalog.part(m.part);
        if (m.board != use.id || !part) continue;
        std::vector<LoomItem> behind;
        for (const Reading& r : bench.readings)
            if (const Placed p = place(bench, catalog, r);
                r.wiring.module == m.id && p.part && !r.wiring.pin().empty())
                behind.push_back(item_of(p, false));
        any = true;
        if (behind.empty())
            drawing.add_direct(item_of(m, *part));
        else
            drawing.add_module(item_of(m, *part), behind);
    }
    return any ? drawing.finish() : Loom{};
}

} // namespace cognitum
