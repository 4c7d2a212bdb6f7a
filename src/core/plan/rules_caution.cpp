// Cautions that a plan calls for by its own content. They are notes: said once, at the step where they matter.
#include "core/plan/rules.h"
#include "core/units/format.h"
#include "core/units/unit.h"

namespace cognitum {

namespace {

Found caution(Stop stop, std::string message, std::string why, std::string fix) {
    return finding(Severity::note, stop, std::move(message), std::move(why), std::move(fix));
}

Found mains(const Placed& p) {
    if (!p.part || !p.part->mains) return {};
    return caution(Stop::wiring, "Mains: this part goes near wires that can kill.",
                   "Cognitum plans the low-voltage side only.",
                   "A licensed electrician fits it under your local code. Never join a programming lead to a unit "
                   "that is on the mains.");
}

Found lithium(const Placed& p) {
    if (!p.board || !p.board->lithium) return {};
    return caution(Stop::wiring, "A lithium cell: charge it only on its own charger, never pierced, never hot.",
                   "A damaged cell burns.", "Take it out while you solder; keep it from frost and above 45 °C.");
}

Found heat(const Placed& p) {
    if (p.reading->quantity.kind != "temperature") return {};
    const double hottest = convert_unit(p.reading->quantity.high, p.reading->quantity.unit, "degC").value_or(0);
    if (hottest < 60) return {};
    return caution(Stop::calibrate, "Hot surfaces and burners: fix and move the probe while all is cold.",
                   format_measure(hottest, "degC") + " are expected here.", "Let it cool before you touch it.");
}

Found tank(const Placed& p) {
    const std::string& kind = p.reading->quantity.kind;
    if (kind != "level" && kind != "volume") return {};
    return caution(Stop::wiring, "A tank is a confined space: work from the hatch, never inside, never alone.",
                   "Bad air has no smell.", "Keep the power low-voltage where water is.");
}

Found ladder(const Placed& p) {
    const std::string& kind = p.reading->quantity.kind;
    if (kind != "rain" && kind != "wind") return {};
    return caution(Stop::wiring, "Ladders and roofs: on firm ground, with somebody who holds it, not in wind.", "",
                   "Wire and test it on the table first.");
}

Found medical(const Placed& p) {
    if (p.reading->quantity.kind != "pulse-rate") return {};
    return caution(Stop::wiring, "A pulse reading is not a medical device and no diagnosis.",
                   "It touches skin: run the board from a cell, not from the mains.",
                   "Health readings stay out of exports unless asked for by name.");
}

Found drinking(const Placed& p) {
    if (p.reading->quantity.kind != "conductivity") return {};
    return caution(Stop::calibrate, "A conductivity is no proof that water is safe to drink.",
                   "Standard solutions are salt: goggles, and keep them from children.",
                   "Have drinking water examined by a laboratory.");
}

Found vehicle(const Placed& p) {
    if (!p.part || p.part->family != "tyre beacon") return {};
    return caution(Stop::watch, "Moving vehicles: look at the figures when stopped.", "", "");
}

constexpr ReadingRule rules[] = {{"caution-mains", mains},       {"caution-lithium", lithium},
                                 {"caution-heat", heat},         {"caution-tank", tank},
                                 {"caution-ladder", ladder},     {"caution-medical", medical},
                                 {"caution-drinking", drinking}, {"caution-vehicle", vehicle}};

} // namespace

std::span<const ReadingRule> caution_rules() {
    return rules;
}

} // namespace cognitum
