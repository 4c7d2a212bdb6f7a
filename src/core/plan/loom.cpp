#include "core/plan/loom.h"

#include "core/plan/path.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

std::string volts(double v) {
    return format_measure(v, "V", 3);
}

std::string short_part_name(const std::string& name) {
    return name.substr(0, name.find(','));
}

int row_of(const PartCard& part, std::string_view role) {
    for (std::size_t i = 0; i < part.legs.size(); ++i)
        if (part.legs[i].role == role) return static_cast<int>(i);
    return -1;
}

/// What the pin shows in a room: 15 to 25 °C for a thermometer, the middle third of the range for others.
std::string room_volts(const Reading& reading, const PartCard& part, const BoardCard& board) {
    Quantity room = reading.quantity;
    if (room.kind == "temperature" && room.unit == "degC") {
        room.low = 15;
        room.high = 25;
    }
    const VoltRange range = output_range(room, part, board, reading.wiring);
    return fmt::format("{}…{}", format_constant(range.low, 2), volts(range.high));
}

void add_three_legs(Loom& loom, const Reading& reading, const PartCard& part, const BoardCard& board,
                    const Rail& rail) {
    const VoltRange out = output_range(reading.quantity, part, board, reading.wiring);
    const auto at_pin = fmt::format("{}…{}", format_constant(out.low, 2), format_measure(out.high, "V", 2));
    loom.wires.push_back(
        {1, WireColour::black, board.ground, "ground", row_of(part, "ground"), row_of(part, "ground"), ""});
    loom.wires.push_back({2, WireColour::yellow, reading.wiring.pin, "reads", row_of(part, "output"),
                          row_of(part, "output"), at_pin});
    loom.wires.push_back({3, WireColour::red, rail.label, "supply out", row_of(part, "supply"),
                          row_of(part, "supply"), volts(rail.voltage_V)});
}

void add_divider(Loom& loom, const Reading& reading, const PartCard& part, const BoardCard& board,
                 const Rail& rail) {
    const VoltRange out = output_range(reading.quantity, part, board, reading.wiring);
    const auto at_pin = fmt::format("{}…{}", format_constant(out.low, 2), format_measure(out.high, "V", 2));
    const bool resistor_on_top = part.divider->unknown == UnknownLeg::bottom;
    loom.wires.push_back({1, WireColour::black, board.ground, "ground", 2, resistor_on_top ? 1 : -1, ""});
    loom.wires.push_back({2, WireColour::yellow, reading.wiring.pin, "reads", 1, 0, at_pin});
    loom.wires.push_back(
        {3, WireColour::red, rail.label, "supply out", 0, resistor_on_top ? -1 : 1, volts(rail.voltage_V)});
    loom.resistor = LoomResistor{part.divider->fixed_ohm.value, resistor_on_top ? 0 : 2, 1};
}

void add_steps(Loom& loom, const Reading& reading, const PartCard& part, const BoardCard& board, const Rail& rail) {
    const auto step = [&](std::string text, std::string meter, int wire) {
        loom.steps.push_back({static_cast<int>(loom.steps.size()) + 1, std::move(text), std::move(meter), wire});
    };
    step("Unplug everything.", fmt::format("0.0 V from {} to {}", rail.label, board.ground), 0);
    const auto leg_name = [&](const Wire& wire) {
        return wire.leg >= 0 ? part.legs[static_cast<std::size_t>(wire.leg)].label : std::string("the resistor");
    };
    for (const Wire& wire : loom.wires) {
        if (wire.order == 3) break;
        step(fmt::format("Wire {}, {}: {} to {}.", wire.order, colour_word(wire.colour), wire.board_label,
                         leg_name(wire)),
             "under 0.5 Ω end to end", wire.order);
    }
    if (loom.resistor)
        step(fmt::format("{} from {} to {}.", format_measure(loom.resistor->ohm, "ohm"), rail.label,
                         reading.wiring.pin),
             fmt::format("{} ± 1 % before it goes in", format_measure(loom.resistor->ohm, "ohm")), 0);
    step(fmt::format("Check for a short: {} against {}.", rail.label, board.ground), "above 1 kΩ, no beep", 0);
    step(fmt::format("Wire 3, red: {} to {}, last.", rail.label, leg_name(loom.wires.back())), "nothing yet", 3);
    step("Plug in the board.",
         fmt::format("{}…{} at {}", format_constant(rail.voltage_V - rail.tolerance_V, 3),
                     volts(rail.voltage_V + rail.tolerance_V), rail.label),
         0);
    step(fmt::format("Feel the part, then measure {}.", reading.wiring.pin),
         fmt::format("{} in a room, and cool", room_volts(reading, part, board)), 2);
}

} // namespace

std::string colour_word(WireColour colour) {
    switch (colour) {
    case WireColour::red: return "red";
    case WireColour::black: return "black";
    case WireColour::yellow: return "yellow";
    }
    return "";
}

std::optional<Loom> make_loom(const Reading& reading, const PartCard& part, const BoardUse& use,
                              const BoardCard& board) {
    const Rail* rail = board.rail(reading.wiring.rail);
    if (!rail || reading.wiring.pin.empty()) return {};
    Loom loom;
    loom.board_title = use.name;
    loom.board_note = fmt::format("{} logic, {} bit", volts(rail->voltage_V), board.bits);
    loom.part_title = short_part_name(part.name);
    loom.part_note = part.seen_from;
    loom.legs = part.legs;
    if (part.divider)
        add_divider(loom, reading, part, board, *rail);
    else
        add_three_legs(loom, reading, part, board, *rail);
    loom.title = loom.resistor ? "Three wires and a resistor" : "Three wires";
    add_steps(loom, reading, part, board, *rail);
    if (!part.divider)
        loom.if_mirrored =
            fmt::format("supply and ground change places: the part gets hot within a second and the pin shows "
                        "about {}. Take the red wire off first.",
                        volts(rail->voltage_V));
    return loom;
}

} // namespace cognitum
