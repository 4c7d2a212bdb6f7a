#include "core/plan/loom/loom_drawing.h"

#include "core/base/phrase.h"
#include "core/units/format.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr double protection_ohm = 10000; ///< before a pin whose loop may carry its whole supply

} // namespace

LoomDrawing::LoomDrawing(const BoardUse& use, const BoardCard& card) : m_card(card) {
    LoomBlock board;
    board.title = use.name;
    board.note = phrase("{} logic, {} bit", volts(card.logic_V), card.bits);
    m_loom.blocks.push_back(board);
}

void LoomDrawing::add_direct(const LoomItem& item) {
    if (!m_loom.wires.empty()) ++m_row; // air between two parts
    const int first = m_row;
    LoomBlock block{item.title, item.part->seen_from, 2, first, first, {}};
    const auto index = static_cast<int>(m_loom.blocks.size());
    NetworkRows rows;
    const auto feed_resistor = [&](const std::string& net, const char* role) {
        const int row = m_row++;
        if (std::string_view(role) == "ground")
            add_ground(item, {}, row, {phrase("the resistor"), "ground"});
        else if (net == item.rail)
            add_supply(item, {}, row, {phrase("the resistor"), "supply"});
        else
            add_rail(item, net, row);
        return row;
    };
    const bool resistive = item.part->divider.has_value();
    const bool top_fixed = resistive && item.part->divider->unknown == UnknownLeg::bottom;
    if (top_fixed) rows.supply = feed_resistor(item.rail, "supply"); // the partner resistor's own row
    for (const Leg& leg : item.part->legs) {
        if (leg.role == "unused" || leg.role == "strap" || leg.role == "channel") continue;
        const int row = m_row++;
        const auto drawn = static_cast<int>(block.legs.size());
        block.legs.push_back({leg.label, {}, row, false});
        const LoomEnd end{index, drawn};
        // The other end of a resistor goes to ground below the pin, or to the rail above it.
        const bool end_to_rail = leg.role == "end" && resistive && !top_fixed;
        if (leg.role == "bias") {
            rows.bias = row;
            rows.bias_leg = leg.label;
        } else if ((leg.role == "supply" && !item.parasite) || (end_to_rail && !wire_of(item, leg.label))) {
            rows.supply = row;
            add_supply(item, end, row, leg);
        } else if (leg.role == "ground" || (leg.role == "end" && !wire_of(item, leg.label))) {
            rows.ground = row;
            add_ground(item, end, row, leg);
        } else if (const Connection* c = wire_of(item, leg.label)) {
            rows.signals[leg.label] = row;
            if (rows.signal < 0) rows.signal = row;
            add_signal(item, *c, end, row, leg);
        }
    }
    add_network(item, rows, feed_resistor);
    block.last_row = m_row - 1;
    m_loom.blocks.push_back(std::move(block));
}

void LoomDrawing::add_module(const LoomItem& module, const std::vector<LoomItem>& behind) {
    if (!m_loom.wires.empty()) ++m_row;
    m_loom.between = true;
    const int first = m_row;
    const auto index = static_cast<int>(m_loom.blocks.size());
    LoomBlock block{module.title, module.part->seen_from, 1, first, first, {}};
    m_loom.blocks.push_back(block); // its place; filled below
    int left_row = first;
    for (const Leg& leg : module.part->legs) {
        if (leg.role == "unused" || leg.role == "strap" || leg.role == "channel") continue;
        const int row = left_row++;
        const LoomEnd end{index, static_cast<int>(block.legs.size())};
        block.legs.push_back({leg.label, {}, row, false});
        if (leg.role == "supply")
            add_supply(module, end, row, leg);
        else if (leg.role == "ground")
            add_ground(module, end, row, leg);
        else if (const Connection* c = wire_of(module, leg.label))
            add_signal(module, *c, end, row, leg);
    }
    for (const LoomItem& item : behind) {
        if (m_row > first) ++m_row;
        add_behind(item, index, block);
    }
    m_row = std::max(m_row, left_row);
    block.last_row = m_row - 1;
    m_loom.blocks[static_cast<std::size_t>(index)] = block;
}

Loom LoomDrawing::finish() {
    number_wires();
    LoomBlock& board = m_loom.blocks.front();
    board.first_row = 0;
    board.last_row = std::max(0, m_row - 1);
    m_loom.rows = m_row;
    std::size_t wires = m_loom.wires.size();
    std::size_t resistors = m_loom.resistors.size();
    for (const LoomWire& w : m_loom.wires)
        if (w.in_line_ohm > 0) ++resistors;
    m_loom.title = counted(static_cast<long>(wires), "{} wire", "{} wires");
    if (resistors > 0) m_loom.title += counted(static_cast<long>(resistors), ", {} resistor", ", {} resistors");
    m_loom.note = phrase("legs in the order you see them");
    for (const std::string& note : m_notes)
        if (m_loom.note.find(note) == std::string::npos) m_loom.note += "; " + note;
    return std::move(m_loom);
}

const Connection* LoomDrawing::wire_of(const LoomItem& item, const std::string& leg) const {
    for (const Connection& c : *item.pins)
        if (c.leg == leg && !c.pin.empty()) return &c;
    return nullptr;
}

std::string LoomDrawing::colour_of(const LoomItem& item, const Leg& leg) const {
    if (item.colours)
        for (const auto& [name, colour] : *item.colours)
            if (name == leg.label) return colour;
    return usual_colour(leg.role);
}

LoomEnd LoomDrawing::terminal(const std::string& net, const std::string& note, int row) {
    LoomBlock& board = m_loom.blocks.front();
    for (std::size_t i = 0; i < board.legs.size(); ++i)
        if (board.legs[i].label == net) return {0, static_cast<int>(i)};
    board.legs.push_back({net, note, row, true});
    return {0, static_cast<int>(board.legs.size()) - 1};
}

LoomWire& LoomDrawing::wire(const LoomItem& item, const std::string& net, const std::string& note, LoomEnd to,
                            int row, const Leg& leg) {
    LoomWire w;
    w.net = net;
    w.from = terminal(net, note, row);
    w.from_row = m_loom.blocks.front().legs[static_cast<std::size_t>(w.from.leg)].row;
    w.to = to;
    w.to_row = row;
    w.colour = colour_of(item, leg);
    m_loom.wires.push_back(w);
    return m_loom.wires.back();
}

void LoomDrawing::add_supply(const LoomItem& item, LoomEnd to, int row, const Leg& leg) {
    if (item.own_supply) {
        LoomWire w;
        w.net = item.rail;
        w.to = to;
        w.from_row = w.to_row = row;
        w.colour = colour_of(item, {leg.label, "supply"});
        w.flag = item.rail;
        w.own_supply = true;
        m_loom.wires.push_back(w);
        return;
    }
    LoomWire& w = wire(item, item.rail, phrase("supply out"), to, row, {leg.label, "supply"});
    if (const Rail* rail = m_card.rail(item.rail)) w.volts = volts(rail->voltage_V);
}

void LoomDrawing::add_ground(const LoomItem& item, LoomEnd to, int row, const Leg& leg) {
    wire(item, m_card.ground, phrase("ground"), to, row, {leg.label, "ground"}).length_m =
        to.block > 0 ? item.cable_m : 0;
}

void LoomDrawing::add_signal(const LoomItem& item, const Connection& c, LoomEnd to, int row, const Leg& leg) {
    bool drives = false;
    for (const PinNeed& need : pin_needs(*item.part))
        if (need.leg == leg.label) drives = need.drives;
    const std::string note = drives ? phrase("drives {}", volts(m_card.logic_V)) : phrase("reads");
    LoomWire& w = wire(item, c.pin, note, to, row, leg);
    if (item.voltage && item.at_pin.known())
        w.volts =
            fmt::format("{}…{}", format_constant(item.at_pin.low, 2), format_measure(item.at_pin.high, "V", 2));
    if (item.input_protected && leg.role == "output") w.in_line_ohm = protection_ohm;
    if (c.divider.there()) {
        w.in_line_ohm = c.divider.top_ohm;
        const double high = item.voltage ? item.at_source.high : item.high_V;
        w.source_volts = volts(high);
        w.volts = item.voltage ? w.volts : volts(high * c.divider.ratio());
    }
}

void LoomDrawing::add_rail(const LoomItem& item, const std::string& net, int row) {
    LoomWire& w = wire(item, net, phrase("supply out"), {}, row, {phrase("the resistor"), "supply"});
    if (const Rail* rail = m_card.rail(net)) w.volts = volts(rail->voltage_V);
}

template <typename Feed>
void LoomDrawing::add_network(const LoomItem& item, NetworkRows& rows, Feed feed) {
    const auto resistor = [&](double ohm, int from, int to) -> LoomResistor& {
        return m_loom.resistors.emplace_back(LoomResistor{ohm, from, to, 2});
    };
    const auto ground = [&] {
        return rows.ground >= 0 ? rows.ground : rows.ground = feed(m_card.ground, "ground");
    };
    for (const Connection& c : *item.pins)
        if (const auto at = rows.signals.find(c.leg); at != rows.signals.end() && c.divider.there())
            resistor(c.divider.bottom_ohm, at->second, ground());
    if (rows.signal < 0) return;
    if (item.part->divider)
        resistor(item.part->divider->fixed_ohm.value,
                 item.part->divider->unknown == UnknownLeg::bottom ? rows.supply : ground(), rows.signal);
    const std::string& logic = m_card.logic_rail().label;
    const auto logic_row = [&] {
        return item.rail == logic && rows.supply >= 0 ? rows.supply : feed(logic, "supply");
    };
    if (item.pull_up_ohm > 0) resistor(item.pull_up_ohm, logic_row(), rows.signal);
    const Network& network = item.part->network;
    if (network.kind == Network::Kind::shunt) resistor(network.ohm, rows.signal, ground());
    if (network.kind == Network::Kind::bias && rows.bias >= 0) {
        LoomResistor& upper = resistor(network.ohm, feed(logic, "supply"), rows.bias);
        upper.from = logic;
        upper.to = rows.bias_leg;
        LoomResistor& lower = resistor(network.ohm, rows.bias, ground());
        lower.from = rows.bias_leg;
        lower.to = m_card.ground;
        m_notes.push_back(phrase("10 µF beside the lower resistor"));
    }
    if (item.input_protected)
        m_notes.push_back(phrase("10 kΩ before the pin, and from the pin a diode to each rail"));
}

void LoomDrawing::add_behind(const LoomItem& item, int module, LoomBlock& module_block) {
    const int first = m_row;
    const auto index = static_cast<int>(m_loom.blocks.size());
    LoomBlock block{item.title, item.part->seen_from, 2, first, first, {}};
    NetworkRows rows;
    const auto flag = [&](const std::string& net, const std::string& colour, LoomEnd to, int row) {
        LoomWire w;
        w.to = to;
        w.from_row = w.to_row = row;
        w.net = w.flag = net;
        w.own_supply = item.own_supply && net == item.rail;
        w.colour = colour;
        m_loom.wires.push_back(w);
    };
    const auto feed_resistor = [&](const std::string& net, const char* role) {
        flag(net, usual_colour(role), {}, m_row);
        return m_row++;
    };
    const bool top_fixed = item.part->divider && item.part->divider->unknown == UnknownLeg::bottom;
    const bool bottom_fixed = item.part->divider && !top_fixed;
    if (top_fixed) rows.supply = feed_resistor(item.rail, "supply");
    for (const Leg& leg : item.part->legs) {
        if (leg.role == "unused" || leg.role == "strap" || leg.role == "channel") continue;
        const int row = m_row++;
        block.legs.push_back({leg.label, {}, row, false});
        const LoomEnd end{index, static_cast<int>(block.legs.size()) - 1};
        if (leg.role == "bias") {
            rows.bias = row;
            rows.bias_leg = leg.label;
        } else if (const Connection* c = wire_of(item, leg.label)) {
            module_block.legs.push_back({c->pin, {}, row, true});
            rows.signals[leg.label] = row;
            if (rows.signal < 0) rows.signal = row;
            LoomWire w;
            w.to = end;
            w.from_row = w.to_row = row;
            w.colour = colour_of(item, leg);
            w.from = {module, static_cast<int>(module_block.legs.size()) - 1};
            w.net = fmt::format("{} {}", module, c->pin);
            if (c->divider.there()) w.in_line_ohm = c->divider.top_ohm;
            if (item.at_pin.known())
                w.volts = fmt::format("{}…{}", format_constant(item.at_pin.low, 2),
                                      format_measure(item.at_pin.high, "V", 2));
            m_loom.wires.push_back(w);
        } else {
            const bool ground = leg.role == "ground" || (leg.role == "end" && !bottom_fixed);
            (ground ? rows.ground : rows.supply) = row;
            flag(ground ? m_card.ground : item.rail,
                 leg.role == "end" ? usual_colour(ground ? "ground" : "supply") : colour_of(item, leg), end, row);
            if (leg.role == "ground") m_loom.wires.back().length_m = item.cable_m;
        }
    }
    add_network(item, rows, feed_resistor);
    block.last_row = m_row - 1;
    m_loom.blocks.push_back(std::move(block));
}

void LoomDrawing::number_wires() {
    const auto rank = [&](const LoomWire& w) {
        return w.net == m_card.ground ? 0 : m_card.rail(w.net) || !w.flag.empty() ? 2 : 1;
    };
    std::stable_sort(m_loom.wires.begin(), m_loom.wires.end(),
                     [&](const LoomWire& a, const LoomWire& b) { return rank(a) < rank(b); });
    int order = 0;
    for (LoomWire& w : m_loom.wires)
        w.order = ++order;
}

} // namespace cognitum
