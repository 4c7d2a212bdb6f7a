// Rules about the way between part and board: how far its signal carries, who hears a beacon, which rails a battery
// has.
#include "core/base/phrase.h"
#include "core/plan/rules/rules.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// How far a way to speak carries over plain wire, m, before what usually goes wrong does; 0: no such limit here.
struct Reach {
    Speech speech;
    double metres;
    const char* why;
    const char* fix;
};
constexpr Reach reaches[] = {
    {Speech::spi, 0.5, for_people("Its clock's edges ring and bits are read twice."),
     for_people("Keep it beside the board, or read it with a second board there and send lines.")},
    {Speech::one_wire, 30,
     for_people("The wire's capacitance and branches swallow the answers: −127 °C now and then."),
     for_people("One line without branches, twisted with its ground, and a stronger pull-up (2.2 kΩ).")},
    {Speech::single_bus, 20, for_people("The edges are rounded off: wrong checksums."),
     for_people("A stronger pull-up (4.7 kΩ or less), or a part on another bus.")},
    {Speech::analog, 3, for_people("A voltage picks up hum, and the current in its ground wire is added to it."),
     for_people("A current loop, a bus part, or a converter beside the sensor; a shielded cable at least.")},
    {Speech::resistive, 10, for_people("A high resistance picks up hum over a long wire."),
     for_people("A shielded cable, 100 nF at the pin, or a converter beside the sensor.")},
    {Speech::echo, 5, for_people("The echo's edge comes late and is rounded: the distance grows with the cable."),
     for_people("A part that sends lines or speaks on a bus.")},
};

Found cable_too_long(const Placed& p) {
    if (!p.part || !p.use || p.part->network.kind == Network::Kind::shunt) return {};
    for (const Reach& reach : reaches) {
        const double metres = p.reading->wiring.cable_m;
        if (reach.speech != p.part->interface.speech || metres <= reach.metres) continue;
        return finding(Severity::look, Stop::wiring,
                       phrase("{} of cable; as {} it carries about {}.", format_measure(metres, "m", 3),
                              speech_title(reach.speech), format_measure(reach.metres, "m", 3)),
                       phrase(reach.why), phrase(reach.fix));
    }
    return {};
}

/// Two wires to a small resistance are measured with it: copper of 0.22 mm² has about 0.08 Ω a metre, there and
/// back 0.16.
Found leads_count(const Placed& p) {
    constexpr double ohm_per_m = 0.16;
    if (!p.is_voltage() || !p.part->divider || p.reading->path.stages.empty() || p.reading->correction) return {};
    const double lead = ohm_per_m * p.reading->wiring.cable_m;
    double worst = 0;
    for (const double end : {p.reading->quantity.low, p.reading->quantity.high}) {
        const Chain transfer{"", "ohm", p.measurand ? p.measurand->transfer : std::vector<Stage>{}};
        const auto wanted = p.measurand ? convert_unit(end, p.reading->quantity.unit, p.measurand->unit)
                                        : tl::make_unexpected(Error{});
        if (!wanted) continue;
        const Value ohm = inverse(transfer, *wanted);
        if (!ohm.ok()) continue;
        const Value with = forward(transfer, ohm.number + lead);
        if (with.ok()) worst = std::max(worst, std::abs(with.number - *wanted));
    }
    const double need =
        p.measurand
            ? std::abs(convert_unit(p.reading->quantity.accuracy, p.reading->quantity.unit, p.measurand->unit)
                           .value_or(0) -
                       convert_unit(0, p.reading->quantity.unit, p.measurand->unit).value_or(0))
            : 0;
    if (!(worst > need / 3)) return {};
    return finding(
        Severity::look, Stop::wiring,
        phrase("{} of two wires have {}: that is {} in this reading.",
               format_measure(p.reading->wiring.cable_m, "m", 3), format_ohm(lead), in_unit(p, worst)),
        phrase("The wires' resistance is measured with the sensor's, and changes with their temperature."),
        phrase("Three or four wires and a part that takes them off; or calibrate with this cable in place."));
}

Found beacon_unheard(const Placed& p) {
    if (!p.part || p.part->interface.speech != Speech::radio) return {};
    const BoardUse* feed = p.bench->board(p.reading->feed());
    const BoardCard* card = feed ? p.catalog->board(feed->card) : nullptr;
    if (!feed || !card) return {}; // lines from a broker or a file: somebody heard it
    const std::string& needs = p.part->interface.heard_by;
    const bool built_in = needs.empty() ? !card->radio.empty() : card->radio.find(needs) != std::string::npos;
    const bool by_receiver = std::any_of(p.bench->modules.begin(), p.bench->modules.end(), [&](const Module& m) {
        const PartCard* part = p.catalog->part(m.part);
        return m.board == feed->id && part && part->kind == PartKind::receiver;
    });
    if (built_in || by_receiver) return {};
    return finding(
        Severity::error, Stop::wiring,
        phrase("{} has nothing that hears this beacon{}.", feed->name,
               needs.empty() ? "" : fmt::format(" ({})", needs)),
        phrase("It sends, and nobody listens."),
        phrase("Wire a receiver for it to the board, or let its lines come from something that hears it."));
}

/// A rail that the board only passes on is there only while something of that voltage feeds the board.
Found rail_not_there(const Placed& p) {
    const std::string& named = p.reading->wiring.rail;
    if (p.part && p.board && !named.empty() && !p.rail && !p.board->pin(named) && p.part->supply.high_V > 0 &&
        p.reading->wiring.own_supply_V <= 0) {
        std::string there;
        for (const Rail& rail : p.board->rails)
            there += (there.empty() ? "" : ", ") + rail.label;
        Finding f = finding(Severity::error, Stop::wiring, phrase("{} has no rail {}.", p.use->name, named),
                            phrase("Until one is named nothing feeds the part, and no voltage can be judged."),
                            phrase("It has {}.", there));
        for (const Rail& rail : p.board->rails)
            if (rail_suits(*p.part, rail))
                f.action = change_reading(phrase("Feed it from {}", rail.label), p.reading->id,
                                          [label = rail.label](Reading& r) { r.wiring.rail = label; });
        return f;
    }
    if (!p.part || !p.board || !p.rail || !p.use || p.use->supply_V <= 0 || p.reading->wiring.own_supply_V > 0)
        return {};
    constexpr double diode_V = 0.7;
    const bool makes_it = p.board->regulator.K_per_W == 0 && p.rail->voltage_V <= p.board->logic_V + 0.1;
    if (makes_it || p.rail->voltage_V <= p.use->supply_V + diode_V) return {};
    Finding f = finding(
        Severity::error, Stop::wiring,
        phrase("{} is fed with {}: there is nothing on {}.", p.use->name, volts(p.use->supply_V), p.rail->label),
        phrase("The rail only passes on what comes in through the USB port."),
        phrase("Feed the part from a rail that is there, or from a step-up converter."));
    for (const Rail& rail : p.board->rails)
        if (rail_suits(*p.part, rail) && rail.voltage_V <= p.use->supply_V + diode_V)
            f.action = change_reading(phrase("Feed it from {}", rail.label), p.reading->id,
                                      [label = rail.label](Reading& r) { r.wiring.rail = label; });
    return f;
}

constexpr ReadingRule all_cable_rules[] = {{"cable-too-long", cable_too_long},
                                           {"leads-are-measured-too", leads_count},
                                           {"beacon-not-heard", beacon_unheard},
                                           {"rail-not-there", rail_not_there}};

} // namespace

std::span<const ReadingRule> cable_rules() {
    return all_cable_rules;
}

} // namespace cognitum
