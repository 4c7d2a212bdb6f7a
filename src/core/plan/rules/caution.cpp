// Cautions that a plan calls for by its own content. They are notes: said once, at the step where they matter.
#include "core/base/phrase.h"
#include "core/plan/rules/rules.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <fmt/format.h>

namespace cognitum {

namespace {

Found caution(Stop stop, std::string message, std::string why, std::string fix) {
    Finding f = finding(Severity::note, stop, std::move(message), std::move(why), std::move(fix));
    f.is_caution = true;
    return f;
}

Found mains(const Placed& p) {
    if (!p.part || !p.part->mains) return {};
    return caution(
        Stop::wiring, phrase("Mains: this part goes near wires that can kill."),
        phrase("Cognitum plans the low-voltage side only."),
        phrase("A licensed electrician fits it under your local code. Never join a programming lead to a unit "
               "that is on the mains."));
}

Found lithium(const Placed& p) {
    const bool measured = p.part && p.part->id == "battery-divider";
    if (!measured && (!p.board || !p.board->lithium)) return {};
    return caution(
        Stop::wiring,
        phrase("Batteries: a lithium battery is never charged below 0 °C or above 45 °C, mind its polarity, and "
               "never use a swollen or damaged one."),
        phrase("A damaged one burns, and a short melts its wires."),
        phrase("Charge it only on its own charger; take it out while you solder; put a fuse at its plus."));
}

Found heat(const Placed& p) {
    if (p.reading->quantity.kind != "temperature") return {};
    const double hottest = convert_unit(p.reading->quantity.high, p.reading->quantity.unit, "degC").value_or(0);
    if (hottest < 60) return {};
    return caution(
        Stop::calibrate, phrase("Hot surfaces and burners: fix and move the probe while all is cold."),
        phrase("{} are expected here.", format_measure(hottest, "degC")),
        phrase("Let it cool before you touch it. A hole in a flue lets out carbon monoxide: a chimney sweep or a "
               "gas fitter decides whether one may be drilled."));
}

Found tank(const Placed& p) {
    if (!p.reading->quantity.about().in_vessel) return {};
    return caution(
        Stop::wiring, phrase("Tanks and wells are confined spaces: work from above, never inside, never alone."),
        phrase(
            "Bad air has no smell. Fuel, slurry and silos can explode: not with these parts, which are certified "
            "for no such zone."),
        phrase("Keep the power low-voltage where water is."));
}

Found ladder(const Placed& p) {
    const Events events = p.reading->quantity.about().events;
    if (events != Events::tips && events != Events::turns) return {}; // gauges and wind wheels stand high up
    return caution(Stop::wiring,
                   phrase("Ladders and roofs: on firm ground, with somebody who holds it, not in wind."), "",
                   phrase("Wire and test it on the table first."));
}

Found medical(const Placed& p) {
    if (p.reading->quantity.about().events != Events::beats) return {};
    return caution(
        Stop::wiring, phrase("A pulse reading is not a medical device and no diagnosis."),
        phrase("On skin it runs from a battery only, never while a mains-fed computer is on its cable."),
        phrase("Beats that come irregularly may be the pulse itself: ask a doctor. Health readings stay out of "
               "exports unless asked for by name."));
}

Found drinking(const Placed& p) {
    if (p.reading->quantity.kind != "conductivity") return {};
    return caution(Stop::calibrate, phrase("A conductivity is no proof that water is safe to drink."),
                   phrase("Standard solutions are salt: goggles, and keep them from children."),
                   phrase("Have drinking water examined by a laboratory."));
}

Found vehicle(const Placed& p) {
    if (!p.part || p.part->family != "tyre beacon") return {};
    return caution(Stop::watch, phrase("Moving vehicles: look at the figures when stopped."), "", "");
}

Found contact(const Placed& p) {
    if (!p.part || p.part->family != "contact" || p.part->mains) return {};
    return caution(Stop::wiring, phrase("This contact is for the board's own low voltage: never on the mains."),
                   phrase("Its glass, its wire and its spacing withstand no mains voltage."),
                   phrase("A capacitor of 100 nF beside it needs 100 Ω in series: the contact must not short it."));
}

Found food(const Placed& p) {
    if (!p.reading->quantity.around.food) return {};
    return caution(Stop::sensor, phrase("Food: only what its maker states as safe for food contact may touch it."),
                   phrase("A steel tube says nothing about its seal, its cable and its glue."),
                   phrase("Use a pocket or a probe with such a statement, and clean it as the maker says."));
}

constexpr ReadingRule all_caution_rules[] = {{"caution-mains", mains},       {"caution-lithium", lithium},
                                             {"caution-heat", heat},         {"caution-tank", tank},
                                             {"caution-ladder", ladder},     {"caution-medical", medical},
                                             {"caution-drinking", drinking}, {"caution-vehicle", vehicle},
                                             {"caution-contact", contact},   {"caution-food", food}};

} // namespace

std::span<const ReadingRule> caution_rules() {
    return all_caution_rules;
}

} // namespace cognitum
