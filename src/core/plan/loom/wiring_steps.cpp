#include "core/plan/loom/wiring_steps.h"

#include "core/base/phrase.h"
#include "core/plan/electrical.h"
#include "core/plan/path.h"
#include "core/units/format.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

std::string end_name(const Loom& loom, const LoomEnd& end, const std::string& otherwise) {
    if (end.block < 0) return otherwise;
    const LoomBlock& block = loom.blocks[static_cast<std::size_t>(end.block)];
    const std::string& label = block.legs[static_cast<std::size_t>(end.leg)].label;
    return end.block == 0 ? label : phrase("{} of the {}", label, block.title);
}

/// What the pin shows in a room: 15 to 25 °C for a thermometer, the expected range for others.
std::string usual_volts(const Placed& p) {
    Reading room = *p.reading;
    if (room.quantity.kind == "temperature" && room.quantity.unit == "degC" && room.quantity.low < 25 &&
        room.quantity.high > 15) {
        room.quantity.low = 15;
        room.quantity.high = 25;
    }
    Placed probe = p;
    probe.reading = &room;
    const VoltRange range = pin_range(probe);
    return range.known() ? fmt::format("{}…{}", format_constant(range.low, 2), volts(range.high)) : std::string();
}

class Steps {
  public:
    Steps(const Placed& placed, const Loom& loom) : p(placed), m_loom(loom) {}

    std::vector<WiringStep> make() {
        const std::string rail = p.rail ? p.rail->label : p.board->rails.front().label;
        add(phrase("Unplug everything."), phrase("0.0 V from {} to {}", rail, p.board->ground),
            phrase("Something still feeds the board: a second cable, a battery."), 0,
            p.board->lithium ? phrase("Take the lithium battery out before you solder: it cannot be switched off.")
                             : "");
        for (const LoomWire& w : m_loom.wires)
            if (w.net == p.board->ground)
                add_wire(w, phrase("under 0.5 Ω end to end"), phrase("A broken core, or a cold joint."));
        add_resistors();
        add_network();
        for (const LoomWire& w : m_loom.wires)
            if (w.net != p.board->ground && !is_supply(w)) add_signal(w);
        add(phrase("Check for a short: {} against {}.", rail, p.board->ground), phrase("above 1 kΩ, no beep"),
            phrase("Two wires touch, or the part is the other way round. Do not go on."), 0, "");
        for (const LoomWire& w : m_loom.wires)
            if (w.net != p.board->ground && is_supply(w))
                add_wire(w, phrase("nothing yet"), "",
                         w.order == m_loom.wires.back().order ? phrase(", last") : "");
        add(phrase("Plug in the board."),
            p.rail ? phrase("{}…{} at {}", format_constant(p.rail->voltage_V - p.rail->tolerance_V, 3),
                            volts(p.rail->voltage_V + p.rail->tolerance_V), rail)
                   : phrase("the board's lamp is on"),
            phrase("Lower: something draws too much. Unplug, and feel for what is hot."), 0,
            p.reading->quantity.around.water ? phrase("Dry hands, low voltage only.") : "");
        add_last();
        return std::move(m_steps);
    }

  private:
    bool is_supply(const LoomWire& w) const { return p.board->rail(w.net) != nullptr || w.own_supply; }

    void add(std::string text, std::string meter, std::string if_not, int wire, std::string caution) {
        m_steps.push_back({static_cast<int>(m_steps.size()) + 1, std::move(text), std::move(meter),
                           std::move(if_not), std::move(caution), wire});
    }

    void add_wire(const LoomWire& w, std::string meter, std::string if_not, const std::string& behind = {}) {
        const std::string from = w.flag.empty() ? end_name(m_loom, w.from, "") : w.flag;
        add(phrase("Wire {}, {}: {} to {}{}.", w.order, phrase_of(w.colour), from,
                   end_name(m_loom, w.to, phrase("the resistor")), behind),
            std::move(meter), std::move(if_not), w.order, "");
    }

    void add_signal(const LoomWire& w) {
        if (w.in_line_ohm > 0) {
            const double bottom = m_loom.resistors.empty() ? 0 : m_loom.resistors.front().ohm;
            add_wire(w,
                     phrase("{} from {} to {}", format_ohm(w.in_line_ohm + bottom), end_name(m_loom, w.to, ""),
                            p.board->ground),
                     phrase("Less: a resistor is bridged. More: one is in the air."));
            return;
        }
        const bool bus = p.part->interface.speech == Speech::i2c && p.part->interface.pull_up_ohm > 0;
        add_wire(w,
                 bus ? phrase("under 0.5 Ω end to end; not bridged to its neighbour")
                     : phrase("under 0.5 Ω end to end"),
                 bus ? phrase("Bridged bus wires: nobody answers.") : phrase("A broken core, or a cold joint."));
    }

    void add_resistors() {
        for (const LoomResistor& r : m_loom.resistors) {
            const bool down = r.from_row <= r.to_row;
            const std::string& top = down ? r.from : r.to;
            const std::string& end = down ? r.to : r.from;
            const std::string upper = top.empty() ? point(net_in_row(std::min(r.from_row, r.to_row))) : top;
            const std::string lower = end.empty() ? point(net_in_row(std::max(r.from_row, r.to_row))) : end;
            add(phrase("{} from {} to {}.", format_ohm(r.ohm), upper, lower),
                phrase("{} ± 1 % before it goes in", format_ohm(r.ohm)),
                phrase("The wrong one: read its rings again."), 0, "");
        }
        for (const LoomWire& w : m_loom.wires)
            if (w.in_line_ohm > 0)
                add(phrase("{} from {} into wire {}.", format_ohm(w.in_line_ohm), point(w.net), w.order),
                    phrase("{} ± 1 % before it goes in", format_ohm(w.in_line_ohm)),
                    phrase("The wrong one: read its rings again."), 0, "");
    }

    void add_network() {
        const Network& network = p.part->network;
        if (network.kind == Network::Kind::bias)
            add(phrase("10 µF from {} to {}, its + at {}.",
                       p.part->legs[static_cast<std::size_t>(p.part->leg_with_role("bias"))].label, p.board->ground,
                       phrase("the resistors")),
                phrase("no short after a second"),
                phrase("It is the other way round: an electrolytic capacitor bursts."), 0, "");
        if (p.reading->wiring.input_protected)
            add(phrase("A diode from {0} to pin {1} and one from pin {1} to {2}, each ring towards {2} and away "
                       "from {0}.",
                       p.board->ground, p.reading->wiring.pin(), p.board->logic_rail().label),
                phrase("0.2 to 0.7 V in one direction only"), phrase("Reversed they short the rail. Do not go on."),
                0, "");
        const bool contact =
            p.reading->quantity.about().closes_a_circuit || p.part->interface.speech == Speech::pulse;
        if (contact && p.part->interface.open_drain && p.part->decoupling_nF > 0)
            add(phrase("100 Ω in series with the contact, {} nF from the pin to {}.",
                       format_constant(p.part->decoupling_nF), p.board->ground),
                phrase("100 Ω when it is closed"),
                phrase("Without the 100 Ω the contact welds on the capacitor's charge."), 0, "");
    }

    /// "pin 18", and rails and ground by their label.
    std::string point(const std::string& net) const { return (p.board->pin(net) ? phrase("pin ") : "") + net; }

    std::string net_in_row(int row) const {
        for (const LoomWire& w : m_loom.wires)
            if (w.to_row == row) return w.net;
        return p.board->ground;
    }

    void add_last() {
        const std::string pin = p.reading->wiring.pin();
        const std::string shown = p.is_voltage() ? usual_volts(p) : std::string();
        const std::string cool = phrase("Feel the part: it must stay cool.");
        switch (p.part->interface.speech) {
        case Speech::analog:
        case Speech::resistive:
            add(phrase("Feel the part, then measure {}.", pin),
                shown.empty() ? phrase("a voltage that follows what you do, and cool")
                              : phrase("{}, and cool", shown),
                phrase("Hot: unplug at once, it is the other way round. 0 V or the rail: a wire is off."),
                signal_order(), "");
            break;
        case Speech::i2c:
            add(phrase("{} Let the board scan its bus.", cool),
                phrase("0x{:02X} answers; {} on {} at rest",
                       static_cast<unsigned>(bus_address(p.reading->wiring.address, *p.part)),
                       volts(p.board->logic_V), pin),
                phrase("Nobody: SDA and SCL swapped, no pull-up, or no supply."), signal_order(), "");
            break;
        case Speech::one_wire:
        case Speech::single_bus:
            add(cool + phrase(" Measure {} at rest.", pin),
                phrase("{}, and cool", volts(p.reading->wiring.pull_up_ohm > 0 ? p.board->logic_V : p.supply_V())),
                phrase("0 V: no pull-up, or legs swapped."), signal_order(), "");
            break;
        case Speech::pulse:
        case Speech::digital:
            add(cool + phrase(" Make it switch, and measure {}.", pin),
                phrase("0.0 V and {}, in turn",
                       volts(p.part->interface.open_drain ? p.board->logic_V : p.supply_V())),
                phrase("It never changes: no pull-up, or a broken wire."), signal_order(), "");
            break;
        case Speech::echo:
            add(phrase("Hold a hand before the eyes."),
                phrase("{}: 0…{} while it echoes", pin, volts(peak_at_pin())),
                phrase("Always 0 V: the trigger never reaches it."), signal_order(), "");
            break;
        default:
            add(cool, phrase("it answers in the lines at Raw"),
                phrase("Nothing: check select, transmit and receive."), signal_order(), "");
        }
    }

    double peak_at_pin() const {
        const Connection* c = p.reading->wiring.pins.empty() ? nullptr : &p.reading->wiring.pins.front();
        const double high = p.part->interface.high_V > 0 ? p.part->interface.high_V : p.supply_V();
        return c ? high * c->divider.ratio() : high;
    }

    int signal_order() const {
        for (const LoomWire& w : m_loom.wires)
            if (w.net != p.board->ground && !is_supply(w)) return w.order;
        return 0;
    }

    const Placed& p;
    const Loom& m_loom;
    std::vector<WiringStep> m_steps;
};

} // namespace

std::vector<WiringStep> wiring_steps(const Bench& bench, const Catalog& catalog, const Reading& reading,
                                     const Loom& loom) {
    const Placed p = place(bench, catalog, reading);
    if (loom.blocks.empty() || !p.part || !p.board) return {};
    return Steps(p, loom).make();
}

std::string mirror_check(const Bench& bench, const Catalog& catalog, const Reading& reading) {
    const Placed p = place(bench, catalog, reading);
    if (!p.part || !p.board || reading.wiring.pin().empty()) return {};
    const int supply = p.part->leg_with_role("supply");
    const int ground = p.part->leg_with_role("ground");
    const auto n = static_cast<int>(p.part->legs.size());
    if (supply < 0 || ground < 0) return {};
    const std::string& lands = p.part->legs[static_cast<std::size_t>(n - 1 - supply)].label;
    if (n - 1 - supply == ground)
        return phrase("supply and ground change places: with power the meter shows {} between the leg marked {} "
                      "and the board's {}, and the part gets hot within a second. Take the red wire off first.",
                      volts(p.supply_V()), p.part->legs[static_cast<std::size_t>(ground)].label, p.board->ground);
    if (n - 1 - supply == supply)
        return phrase(
            "supply stays in the middle, and {} gets the ground wire: the board reads a steady 0 V, and the "
            "part may warm. Take the red wire off first.",
            p.part->legs[static_cast<std::size_t>(n - 1 - ground)].label);
    return phrase("the red wire lands on {}: the meter shows {} there before anything works. Take the red wire off "
                  "first.",
                  lands, volts(p.supply_V()));
}

} // namespace cognitum
