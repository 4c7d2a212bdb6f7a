// Rules about what feeds a part and what that costs the board.
#include "core/base/phrase.h"
#include "core/plan/rules/rules.h"
#include "core/units/format.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

Found supply_out_of_range(const Placed& p) {
    if (!p.part || p.part->supply.high_V <= 0 || !p.board) return {};
    const Wiring& w = p.reading->wiring;
    if (!p.rail && w.own_supply_V <= 0) return {};
    const double tolerance = w.own_supply_V > 0 ? 0 : p.rail->tolerance_V;
    const double low = p.supply_V() - tolerance;
    const double high = p.supply_V() + tolerance;
    if (supply_suits(*p.part, p.supply_V(), tolerance)) return {};
    const std::string from = w.own_supply_V > 0 ? phrase("Its own supply") : phrase("The {} rail", p.rail->label);
    Finding f = finding(
        Severity::error, Stop::wiring,
        phrase("{} gives {} to {}; the part takes {} to {}.", from, volts(low), volts(high),
               volts(p.part->supply.low_V), volts(p.part->supply.high_V)),
        high > p.part->supply.high_V
            ? phrase("Above its limit the part heats and dies.")
            : phrase("Below its minimum the output sags and looks like a plausible, wrong value."),
        phrase("No rail of this board suits it: choose another part, or feed it from a supply of its own."));
    if (const Rail* other = suitable_rail(*p.part, *p.board); other && (other != p.rail || w.own_supply_V > 0)) {
        f.fix = phrase("Feed it from {}: {} to {}.", other->label, volts(other->voltage_V - other->tolerance_V),
                       volts(other->voltage_V + other->tolerance_V));
        f.action = change_reading(phrase("Feed it from {}", other->label), p.reading->id,
                                  [rail = other->label](Reading& r) {
                                      r.wiring.rail = rail;
                                      r.wiring.own_supply_V = 0;
                                  });
    }
    return f;
}

Found decoupling_missing(const Placed& p) {
    if (!p.part || p.part->decoupling_nF <= 0 || p.reading->wiring.decoupled || p.reading->wiring.cable_m <= 1)
        return {};
    const std::string capacitor = fmt::format("{}{}nF", format_constant(p.part->decoupling_nF), thin_space);
    Finding f = finding(
        Severity::look, Stop::wiring,
        p.part->supply.high_V > 0 ? phrase("{} of wire, and no {} at the part.",
                                           format_measure(p.reading->wiring.cable_m, "m", 3), capacitor)
                                  : phrase("{} of wire, and no {} at the pin.",
                                           format_measure(p.reading->wiring.cable_m, "m", 3), capacitor),
        p.part->supply.high_V > 0
            ? phrase("The wire's inductance lets its supply dip at each burst; readings jump or it restarts.")
            : phrase("The converter fills its own capacitor from the tap; over a long wire it gets too little, and "
                     "hum."),
        p.part->supply.high_V > 0
            ? phrase("Solder {} nF from its supply leg to its ground leg.", format_constant(p.part->decoupling_nF))
            : phrase("Solder {} nF from the pin to ground, beside the board.",
                     format_constant(p.part->decoupling_nF)));
    f.action = change_reading(phrase("It is fitted"), p.reading->id, [](Reading& r) { r.wiring.decoupled = true; });
    return f;
}

Found pin_as_supply(const Placed& p) {
    if (!p.part || !p.board || p.rail || p.part->supply.high_V <= 0 || p.reading->wiring.own_supply_V > 0)
        return {};
    const Pin* pin = p.board->pin(p.reading->wiring.rail);
    if (!pin) return {};
    if (p.part->supply.peak_mA <= pin->drive_mA && pin->direction != "in") return {};
    Finding f = finding(
        Severity::error, Stop::wiring,
        phrase("Pin {} gives {} at most; the part draws up to {}.", pin->label,
               milliamps(pin->direction == "in" ? 0 : pin->drive_mA), milliamps(p.part->supply.peak_mA)),
        phrase("A pin that is overloaded sags, and may end with the board."), phrase("Feed it from a rail."));
    if (const Rail* rail = suitable_rail(*p.part, *p.board))
        f.action = change_reading(phrase("Feed it from {}", rail->label), p.reading->id,
                                  [label = rail->label](Reading& r) { r.wiring.rail = label; });
    return f;
}

Found grounds_apart(const Placed& p) {
    const Wiring& w = p.reading->wiring;
    if (!p.part || !p.board || w.own_supply_V <= 0 || w.ground_joined || p.part->interface.speech == Speech::radio)
        return {};
    Finding f =
        finding(Severity::error, Stop::wiring,
                phrase("It has a supply of its own ({}) and its ground is not joined with the board's.",
                       volts(w.own_supply_V)),
                phrase("Without a common ground its output means nothing to the board, and floats as it likes."),
                phrase("Join the two grounds with a wire, before the signal."));
    f.action = change_reading(phrase("Join the grounds"), p.reading->id,
                              [](Reading& r) { r.wiring.ground_joined = true; });
    return f;
}

Found colour_against_habit(const Placed& p) {
    if (!p.part) return {};
    for (const auto& [leg, colour] : p.reading->wiring.colours) {
        const int at = p.part->leg(leg);
        if (at < 0) continue;
        const std::string& role = p.part->legs[static_cast<std::size_t>(at)].role;
        const bool reads_as_supply = colour == "red";
        const bool reads_as_ground = colour == "black";
        if (!((reads_as_supply && role != "supply") || (reads_as_ground && role != "ground"))) continue;
        Finding f = finding(Severity::look, Stop::wiring, phrase("The {} wire goes to {}.", phrase_of(colour), leg),
                            phrase("Everybody takes {} for {}: the next hand swaps it.", phrase_of(colour),
                                   reads_as_supply ? phrase("the supply") : phrase("ground")),
                            phrase("Use another colour, or wrap a label round both ends."));
        f.action = change_reading(phrase("Use the usual colour"), p.reading->id, [leg = leg](Reading& r) {
            std::erase_if(r.wiring.colours, [&](const auto& entry) { return entry.first == leg; });
        });
        return f;
    }
    return {};
}

Found card_is_gone(const Placed& p) {
    const bool no_part = !p.reading->sensor.part.empty() && !p.part;
    const bool no_use = !p.reading->wiring.board.empty() && !p.use;
    if (!no_part && !no_use) return {};
    return finding(
        Severity::error, no_part ? Stop::sensor : Stop::wiring,
        no_part ? phrase("There is no card \"{}\" here.", p.reading->sensor.part)
                : phrase("There is no board \"{}\" on this bench.", p.reading->wiring.board),
        phrase("What it said about supply, legs and range cannot be checked. The reading itself is kept."),
        no_part ? phrase("Put the card back into your data folder, or choose another part.")
                : phrase("Choose a board at Wiring."));
}

constexpr ReadingRule all_supply_rules[] = {{"card-missing", card_is_gone},
                                            {"supply-out-of-range", supply_out_of_range},
                                            {"pin-as-supply", pin_as_supply},
                                            {"grounds-not-joined", grounds_apart},
                                            {"decoupling-missing", decoupling_missing},
                                            {"colour-against-habit", colour_against_habit}};

std::vector<Finding> board_card_missing(const BoardScene& s) {
    if (s.card || s.use.card.empty()) return {};
    return {finding(Severity::error, Stop::wiring,
                    phrase("There is no card \"{}\" for {}.", s.use.card, s.use.name),
                    phrase("Its pins and limits cannot be checked. The board and its readings are kept."),
                    phrase("Put the card back into your data folder, or choose another kind of board."))};
}

std::vector<Finding> not_advised(const BoardScene& s) {
    if (!s.card || s.card->not_advised.empty()) return {};
    return {finding(
        Severity::error, Stop::wiring, phrase("{}: not advised.", s.use.name), s.card->not_advised,
        phrase("Use a board that is fed through an isolated supply; a finished, certified unit switches mains."))};
}

std::vector<Finding> rail_overloaded(const BoardScene& s) {
    std::vector<Finding> out;
    for (const RailLoad& load : s.budget.rails) {
        if (load.peak_mA <= load.limit_mA) continue;
        Finding f = finding(Severity::error, Stop::wiring,
                            phrase("{} of {} is asked for {}, at its peak {}; it gives {}.", load.rail, s.use.name,
                                   milliamps(load.typical_mA), milliamps(load.peak_mA), milliamps(load.limit_mA)),
                            phrase("The largest: {} with {}. The rail sags, and everything on it is wrong or "
                                   "restarts.",
                                   load.draws[0].name, milliamps(load.draws[0].peak_mA)),
                            phrase("Give {} a supply of its own, with its ground joined.", load.draws[0].name));
        f.action = FixAction{phrase("Give it a supply of its own"),
                             [name = load.draws[0].name, board = s.use.id, volts_ = load.voltage_V](Bench& bench) {
                                 for (Module& m : bench.modules)
                                     if (m.board == board && m.name == name) m.own_supply_V = volts_;
                                 for (Reading& r : bench.readings)
                                     if (r.wiring.board == board && r.name == name) r.wiring.own_supply_V = volts_;
                             },
                             -1,
                             {}};
        out.push_back(std::move(f));
    }
    return out;
}

std::vector<Finding> source_overloaded(const BoardScene& s) {
    const BoardBudget& b = s.budget;
    if (b.source_mA <= 0 || b.total_peak_mA <= b.source_mA) return {};
    return {finding(Severity::error, Stop::wiring,
                    phrase("{} and its parts draw {}, at the peak {}; its USB port gives {}.", s.use.name,
                           milliamps(b.total_mA), milliamps(b.total_peak_mA), milliamps(b.source_mA)),
                    radio_is_on(s.use, s.card)
                        ? phrase("The radio's bursts count in full: they are what makes the supply dip.")
                        : phrase("The port switches off, or the board restarts again and again."),
                    phrase("Feed the board or its largest part from a supply of its own."))};
}

std::vector<Finding> regulator_hot(const BoardScene& s) {
    const BoardBudget& b = s.budget;
    if (!s.card || b.junction_degC <= b.junction_max_degC || b.heat_W <= 0) return {};
    Finding f = finding(
        Severity::error, Stop::wiring,
        phrase("The regulator of {} makes {} of heat: {} inside, {} at most.", s.use.name,
               fmt::format("{}{}W", format_fixed(b.heat_W, 1), thin_space),
               format_measure(std::round(b.junction_degC), "degC"), format_measure(b.junction_max_degC, "degC")),
        phrase("{} in, {} dropped, at {}.", volts(b.supply_V), volts(b.headroom_V), milliamps(b.regulator_mA)),
        phrase("Feed it from a lower voltage: 5 V through its USB port."));
    f.action = change_board(phrase("Feed it from USB"), s.use.id, [](BoardUse& use) { use.supply_V = 0; });
    return {std::move(f)};
}

std::vector<Finding> regulator_dropout(const BoardScene& s) {
    const BoardBudget& b = s.budget;
    const bool starved = b.regulator_mA > 0 && b.headroom_V < b.dropout_V - 1e-9;
    const bool outside =
        s.card && s.use.supply_V > 0 &&
        (s.use.supply_V < s.card->input_low_V - 1e-9 || s.use.supply_V > s.card->input_high_V + 1e-9);
    if (!s.card || (!starved && !outside)) return {};
    Finding f = finding(
        Severity::error, Stop::wiring,
        outside ? phrase("{} is fed with {}; it takes {} to {}.", s.use.name, volts(s.use.supply_V),
                         volts(s.card->input_low_V), volts(s.card->input_high_V))
                : phrase("{} is fed with {}; its regulator needs {} more than it gives.", s.use.name,
                         volts(b.supply_V), volts(b.dropout_V)),
        outside && s.use.supply_V > s.card->input_high_V
            ? phrase("Above its limit the board's regulator, or the board itself, gets hot and dies.")
            : phrase("The rail follows the supply down, and with it every reading that is measured against it."),
        phrase("Feed it from its USB port, or from a supply in that range."));
    f.action = change_board(phrase("Feed it from USB"), s.use.id, [](BoardUse& use) { use.supply_V = 0; });
    return {std::move(f)};
}

std::vector<Finding> module_supply(const BoardScene& s) {
    std::vector<Finding> out;
    if (!s.card) return out;
    for (const Module& m : s.bench.modules) {
        const PartCard* part = s.catalog.part(m.part);
        if (m.board != s.use.id || !part || part->supply.high_V <= 0) continue;
        const Rail* rail = s.card->rail(m.rail);
        const double nominal = m.own_supply_V > 0 ? m.own_supply_V : rail ? rail->voltage_V : 0;
        const double tolerance = m.own_supply_V > 0 || !rail ? 0 : rail->tolerance_V;
        const double low = nominal - tolerance;
        const double high = nominal + tolerance;
        const bool unfed = part->leg_with_role("supply") >= 0 && high <= 0;
        if (high <= 0 && !unfed) continue;
        if (!unfed && supply_suits(*part, nominal, tolerance)) continue;
        Finding f = finding(
            Severity::error, Stop::wiring,
            unfed               ? phrase("{} has no supply.", m.name)
            : high - low < 0.01 ? phrase("{} gets {}; it takes {} to {}.", m.name, volts(high),
                                         volts(part->supply.low_V), volts(part->supply.high_V))
                                : phrase("{} gets {} to {}; it takes {} to {}.", m.name, volts(low), volts(high),
                                         volts(part->supply.low_V), volts(part->supply.high_V)),
            phrase("Everything that goes through it is wrong."), phrase("Feed it from another rail."));
        if (const Rail* other = suitable_rail(*part, *s.card))
            f.action = FixAction{phrase("Feed it from {}", other->label),
                                 [id = m.id, label = other->label](Bench& bench) {
                                     if (Module* module = bench.module(id)) {
                                         module->rail = label;
                                         module->own_supply_V = 0;
                                     }
                                 },
                                 -1,
                                 {}};
        out.push_back(std::move(f));
    }
    return out;
}

std::vector<Finding> module_ground(const BoardScene& s) {
    std::vector<Finding> out;
    for (const Module& m : s.bench.modules) {
        if (m.board != s.use.id || m.own_supply_V <= 0 || m.ground_joined) continue;
        Finding f = finding(Severity::error, Stop::wiring,
                            phrase("{} has a supply of its own ({}) and its ground is not joined with {}.", m.name,
                                   volts(m.own_supply_V), s.use.name),
                            phrase("Without a common ground the control wire means nothing."),
                            phrase("Join the two grounds with a wire, before the control wire."));
        f.action = FixAction{phrase("Join the grounds"),
                             [id = m.id](Bench& bench) {
                                 if (Module* module = bench.module(id)) module->ground_joined = true;
                             },
                             -1,
                             {}};
        out.push_back(std::move(f));
    }
    return out;
}

const BoardRule all_supply_board_rules[] = {
    {"card-of-board-missing", board_card_missing}, {"board-not-advised", not_advised},
    {"rail-overloaded", rail_overloaded},          {"usb-overloaded", source_overloaded},
    {"regulator-too-hot", regulator_hot},          {"regulator-starved", regulator_dropout},
    {"module-supply-out-of-range", module_supply}, {"module-ground-not-joined", module_ground}};

} // namespace

std::span<const ReadingRule> supply_rules() {
    return all_supply_rules;
}
std::span<const BoardRule> board_supply_rules() {
    return all_supply_board_rules;
}

} // namespace cognitum
