#include "core/plan/findings.h"

#include "core/plan/path.h"
#include "core/uncertainty/budget.h"
#include "core/uncertainty/reading_doubt.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// What a rule looks at. The pointers are null where the plan is not that far yet.
struct Scene {
    const Bench& bench;
    const Reading& reading;
    const PartCard* part;
    const BoardUse* use;
    const BoardCard* board;
    const Rail* rail;
    const VoltageReference* reference;
};

using Found = std::optional<Finding>;

std::string volts(double v) {
    return format_measure(v, "V", 3);
}
std::string in_unit(const Scene& s, double value) {
    return format_measure(value, s.reading.quantity.unit, 2);
}

Found supply_out_of_range(const Scene& s) {
    if (!s.part || !s.rail) return {};
    const double low = s.rail->voltage_V - s.rail->tolerance_V;
    const double high = s.rail->voltage_V + s.rail->tolerance_V;
    if (low >= s.part->supply_low_V && high <= s.part->supply_high_V) return {};
    Finding f{"supply-out-of-range", Severity::error, {}, Stop::wiring, {}, {}, {}, {}};
    f.message = fmt::format("The {} rail gives {} to {}; the part takes {} to {}.", s.rail->label, volts(low),
                            volts(high), volts(s.part->supply_low_V), volts(s.part->supply_high_V));
    f.why = high > s.part->supply_high_V
                ? "Above its limit the part heats and dies."
                : "Below its minimum the output sags and looks like a plausible, wrong value.";
    f.fix = "No rail of this board suits it: choose another part.";
    for (const Rail& other : s.board->rails)
        if (other.voltage_V - other.tolerance_V >= s.part->supply_low_V &&
            other.voltage_V + other.tolerance_V <= s.part->supply_high_V) {
            f.fix =
                fmt::format("Feed it from {}: {} to {}.", other.label, volts(other.voltage_V - other.tolerance_V),
                            volts(other.voltage_V + other.tolerance_V));
            f.action = FixAction{FixAction::Kind::use_rail, other.label, "Feed it from " + other.label};
            break;
        }
    return f;
}

Found output_above_full_scale(const Scene& s) {
    if (!s.part || !s.board || !s.reference) return {};
    const VoltRange out = output_range(s.reading.quantity, *s.part, *s.board, s.reading.wiring);
    if (s.part->divider && s.rail && std::abs(s.rail->voltage_V - s.reference->voltage_V) < 1e-9) return {};
    const double full = s.reference->voltage_V - s.reference->tolerance_V;
    if (out.high <= full) return {};
    Finding f{"output-above-full-scale", Severity::error, {}, Stop::wiring, {}, {}, {}, {}};
    const double top = std::min(s.reading.quantity.high, s.part->high);
    f.message = fmt::format("At {} the pin gets {}; the converter is full at {}.", in_unit(s, top), volts(out.high),
                            volts(s.reference->voltage_V));
    f.why = "Above that it sends the same code whatever happens, and the reading stops without a word.";
    f.fix = "Lower the signal with a divider, or ask for a smaller range.";
    for (const VoltageReference& other : s.board->references)
        if (other.voltage_V - other.tolerance_V > out.high) {
            f.fix = fmt::format("Measure against {}: {} of {} is used.", other.name, volts(out.high),
                                volts(other.voltage_V));
            f.action = FixAction{FixAction::Kind::use_reference, other.id, "Use " + other.name};
            break;
        }
    return f;
}

Found output_uses_little(const Scene& s) {
    if (!s.part || !s.board || !s.reference) return {};
    const VoltRange out = output_range(s.reading.quantity, *s.part, *s.board, s.reading.wiring);
    const double share = (out.high - out.low) / s.reference->voltage_V;
    const double step = count_size(s.reading);
    if (share >= 0.25 || step < s.reading.quantity.accuracy / 5) return {};
    Finding f{"output-uses-little-of-full-scale", Severity::look, {}, Stop::wiring, {}, {}, {}, {}};
    f.message =
        fmt::format("This reading uses {:.0f} % of the converter: one count is {}.", 100 * share, in_unit(s, step));
    f.why = fmt::format("{} to {} arrive where {} would fit.", volts(out.low), volts(out.high),
                        volts(s.reference->voltage_V));
    if (const VoltageReference* finer = finer_reference(s.reading, *s.part, *s.board)) {
        f.fix =
            fmt::format("Switch the board to {}: one count becomes {}, and {} still fits. Measure that reference "
                        "once with a meter, then calibrate again.",
                        finer->name, in_unit(s, step * finer->voltage_V / s.reference->voltage_V), volts(out.high));
        f.action = FixAction{FixAction::Kind::use_reference, finer->id, "Use " + finer->name};
    } else {
        f.fix = "An external converter with more bits would mend it.";
    }
    return f;
}

Found range_outside_part(const Scene& s) {
    if (!s.part) return {};
    const Quantity& q = s.reading.quantity;
    if (q.low >= s.part->low && q.high <= s.part->high) return {};
    Finding f{"range-outside-part", Severity::error, {}, Stop::sensor, {}, {}, {}, {}};
    f.message = fmt::format("You expect {} to {}; the part reaches {} to {}.", format_constant(q.low),
                            in_unit(s, q.high), format_constant(s.part->low), in_unit(s, s.part->high));
    f.why = "Outside its range a part gives a plausible, wrong value.";
    f.fix = "Choose a part that reaches that far, or expect less.";
    f.action = FixAction{FixAction::Kind::open_stop, "1", "Compare parts"};
    return f;
}

Found pin_cannot(const Scene& s) {
    if (!s.part || !s.board || s.reading.wiring.pin.empty()) return {};
    const Pin* pin = s.board->pin(s.reading.wiring.pin);
    if (pin && pin->can(s.part->interface) && pin->taken_by.empty()) return {};
    Finding f{"pin-cannot", Severity::error, {}, Stop::wiring, {}, {}, {}, {}};
    f.message = !pin ? fmt::format("The board has no pin {}.", s.reading.wiring.pin)
                : !pin->taken_by.empty()
                    ? fmt::format("Pin {} is taken by the board: {}.", pin->label, pin->taken_by)
                    : fmt::format("Pin {} cannot read an {} signal.", pin->label, s.part->interface);
    f.why = "The reading would be noise.";
    f.fix = "Choose another pin.";
    return f;
}

Found pin_used_twice(const Scene& s) {
    const Wiring& w = s.reading.wiring;
    if (w.board.empty() || w.pin.empty()) return {};
    for (const Reading& other : s.bench.readings) {
        if (other.id == s.reading.id || other.wiring.board != w.board || other.wiring.pin != w.pin) continue;
        Finding f{"pin-used-twice", Severity::error, {}, Stop::wiring, {}, {}, {}, {}};
        f.message = fmt::format("Pin {} also carries {}.", w.pin, other.name);
        f.why = "Two outputs on one pin fight, and both readings are wrong.";
        f.fix = "Move one of them.";
        return f;
    }
    return {};
}

Found reference_constant_differs(const Scene& s) {
    if (!s.reference) return {};
    for (const Stage& stage : s.reading.path.stages) {
        const auto* adc = std::get_if<Adc>(&stage);
        if (!adc) continue;
        const double off = std::abs(adc->reference_V.value - s.reference->voltage_V);
        if (off <= std::max(2 * s.reference->tolerance_V, 0.02 * s.reference->voltage_V)) return {};
        Finding f{"reference-constant-differs", Severity::error, {}, Stop::convert, {}, {}, {}, {}};
        f.message = fmt::format("The path divides by {}, but the board measures against {} ({}).",
                                volts(adc->reference_V.value), s.reference->name, volts(s.reference->voltage_V));
        f.why = fmt::format("Every voltage would be wrong by a factor of {:.2f}.",
                            adc->reference_V.value / s.reference->voltage_V);
        f.fix = "Choose the reference at Wiring, or type the measured voltage at Convert.";
        f.action = FixAction{FixAction::Kind::use_reference, s.reference->id, "Take the card’s value"};
        return f;
    }
    return {};
}

Found accuracy_not_reached(const Scene& s) {
    if (!s.part || !s.board || s.reading.path.stages.empty()) return {};
    const Quantity& q = s.reading.quantity;
    const Value code = inverse(effective_path(s.reading), (q.low + q.high) / 2);
    if (!code.ok()) return {};
    const TimeUs at = s.reading.correction ? s.reading.correction->time : 0;
    const Budget b = reading_budget(s.reading, s.part, code.number, 0, at);
    if (!(b.expanded() > q.accuracy)) return {};
    Finding f{"accuracy-not-reached", Severity::look, {}, Stop::calibrate, {}, {}, {}, {}};
    f.message = fmt::format("You need ± {}; this path reaches ± {} at {}.", in_unit(s, q.accuracy),
                            in_unit(s, b.expanded()), in_unit(s, (q.low + q.high) / 2));
    const Advice advice = what_would_help(s.reading, s.part, s.board, b);
    f.why = b.contributions.empty() ? "" : "The largest share: " + b.contributions.front().label + ".";
    f.fix = advice.first.empty() ? "Choose a better part." : advice.first;
    if (!s.reading.correction) f.action = FixAction{FixAction::Kind::open_stop, "5", "Calibrate it"};
    return f;
}

Found calibration_outdated(const Scene& s) {
    if (!correction_is_stale(s.reading)) return {};
    Finding f{"calibration-outdated", Severity::look, {}, Stop::calibrate, {}, {}, {}, {}};
    f.message = fmt::format("The wiring or the constants changed after the calibration of {}.",
                            iso_time(s.reading.correction->time).substr(0, 10));
    f.why = "A correction holds for the path that it was found with.";
    f.fix = "Calibrate again: two points take ten minutes.";
    f.action = FixAction{FixAction::Kind::open_stop, "5", "Calibrate again"};
    return f;
}

struct Rule {
    Found (*check)(const Scene&);
};
constexpr Rule rules[] = {
    {supply_out_of_range}, {output_above_full_scale}, {output_uses_little},         {range_outside_part},
    {pin_cannot},          {pin_used_twice},          {reference_constant_differs}, {accuracy_not_reached},
    {calibration_outdated}};

} // namespace

std::string severity_name(Severity severity) {
    switch (severity) {
    case Severity::note: return "note";
    case Severity::look: return "look";
    case Severity::error: return "error";
    }
    return "note";
}

std::vector<Finding> check_reading(const Bench& bench, const Catalog& catalog, const Reading& reading) {
    const BoardUse* use = bench.board(reading.wiring.board);
    const BoardCard* board = use ? catalog.board(use->card) : nullptr;
    const Scene scene{bench,
                      reading,
                      catalog.part(reading.sensor.part),
                      use,
                      board,
                      board ? board->rail(reading.wiring.rail) : nullptr,
                      board ? board->reference(reading.wiring.reference) : nullptr};
    std::vector<Finding> findings;
    for (const Rule& rule : rules)
        if (Found found = rule.check(scene)) {
            found->reading = reading.id;
            findings.push_back(std::move(*found));
        }
    std::stable_sort(findings.begin(), findings.end(),
                     [](const Finding& a, const Finding& b) { return a.severity > b.severity; });
    return findings;
}

std::vector<Finding> check_bench(const Bench& bench, const Catalog& catalog) {
    std::vector<Finding> all;
    for (const Reading& reading : bench.readings) {
        std::vector<Finding> found = check_reading(bench, catalog, reading);
        all.insert(all.end(), found.begin(), found.end());
    }
    std::stable_sort(all.begin(), all.end(),
                     [](const Finding& a, const Finding& b) { return a.severity > b.severity; });
    return all;
}

} // namespace cognitum
