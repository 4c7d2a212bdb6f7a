#include "core/plan/board_picture.h"

#include "core/base/phrase.h"
#include "core/plan/electrical.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

PicturedPin pictured(const Bench& bench, const Catalog& catalog, const BoardUse& use, const Pin& pin) {
    PicturedPin out{pin.label, PicturedPin::Use::free, {}, {}, false, {}};
    for (const std::string& function : pin.functions)
        out.can += (out.can.empty() ? "" : ", ") + function;
    if (!pin.taken_by.empty()) {
        out.use = PicturedPin::Use::board;
        out.user = pin.taken_by;
        return out;
    }
    if (!pin_is_used(bench, use, pin)) return out;
    out.user = pin_user(bench, catalog, use, pin);
    out.use = PicturedPin::Use::other;
    const auto is_here = [&](const Connection& c) { return c.pin == pin.label; };
    int users = 0;
    for (const Reading& r : bench.readings) {
        if (r.wiring.board != use.id || bench.module(r.wiring.module) || is_shared(bench, r)) continue;
        if (std::none_of(r.wiring.pins.begin(), r.wiring.pins.end(), is_here)) continue;
        ++users;
        out.use = PicturedPin::Use::reading;
        if (out.reading.empty()) out.reading = r.id;
    }
    for (const Module& m : bench.modules)
        users += m.board == use.id && m.module.empty() && std::any_of(m.pins.begin(), m.pins.end(), is_here);
    out.shared = users > 1;
    return out;
}

} // namespace

std::string pin_user(const Bench& bench, const Catalog& catalog, const BoardUse& use, const Pin& pin) {
    if (!pin.taken_by.empty()) return pin.taken_by;
    std::string out;
    const auto add = [&](const std::string& name) { out += (out.empty() ? "" : ", ") + name; };
    for (const Reading& r : bench.readings) {
        if (r.wiring.board != use.id || bench.module(r.wiring.module) || is_shared(bench, r)) continue;
        for (const Connection& c : r.wiring.pins)
            if (c.pin == pin.label) {
                const PartCard* part = catalog.part(r.sensor.part);
                add(part && part->legs.size() > 2 && r.wiring.pins.size() > 1 ? r.name + " " + c.leg : r.name);
            }
    }
    for (const Module& m : bench.modules) {
        if (m.board != use.id || !m.module.empty()) continue;
        for (const Connection& c : m.pins)
            if (c.pin == pin.label) add(m.pins.size() > 1 ? m.name + " " + c.leg : m.name);
    }
    for (const BoardUse& other : bench.boards) {
        if (other.id == use.id && !other.uplink.to.empty() && other.uplink.transmit_pin == pin.label)
            add(phrase("line to another board"));
        if (other.uplink.to == use.id && other.uplink.receive_pin == pin.label)
            add(phrase("line from {}", other.name));
    }
    return out.empty() ? phrase("free") : out;
}

BoardPicture board_picture(const Bench& bench, const Catalog& catalog, const BoardUse& use) {
    BoardPicture out;
    out.name = use.name;
    const BoardCard* card = catalog.board(use.card);
    if (!card) return out;
    out.kind = card->name;
    for (const Pin& pin : card->pins) {
        PicturedPin pictured_pin = pictured(bench, catalog, use, pin);
        out.free += pictured_pin.use == PicturedPin::Use::free;
        (pin.can("analog") ? out.right : out.left).push_back(std::move(pictured_pin));
    }
    // A board whose pins can nearly all do everything would stand on one leg.
    auto& longer = out.left.size() > out.right.size() ? out.left : out.right;
    auto& shorter = out.left.size() > out.right.size() ? out.right : out.left;
    if (shorter.size() * 4 < longer.size()) {
        const auto half = static_cast<std::ptrdiff_t>((longer.size() + shorter.size()) / 2);
        shorter.insert(shorter.end(), longer.begin() + half, longer.end());
        longer.erase(longer.begin() + half, longer.end());
    }
    out.rails = board_budget(bench, catalog, use).rails;
    return out;
}

std::string BoardPicture::spoken() const {
    std::string out = fmt::format("{}, {}.", name, kind);
    for (const auto* side : {&left, &right})
        for (const PicturedPin& pin : *side)
            if (pin.use == PicturedPin::Use::reading || pin.use == PicturedPin::Use::other)
                out += phrase(" Pin {}: {}.", pin.label, pin.user);
    for (const RailLoad& rail : rails)
        out += phrase(" Rail {}: {} of {}.", rail.rail, format_constant(rail.typical_mA, 3),
                      format_measure(rail.limit_mA, "mA"));
    return out + phrase(" {} pins free.", free);
}

} // namespace cognitum
