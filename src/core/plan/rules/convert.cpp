// Rules about a path's constants: whom they follow, and whether they belong to this board.
#include "core/base/phrase.h"
#include "core/plan/rules/rules.h"
#include "core/uncertainty/budget.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

std::string name_of(const Bench& bench, const std::string& id) {
    const Reading* reading = bench.reading(id);
    return reading ? reading->name : id;
}

/// Lets every constant that follows `from` keep its assumption.
void stop_following(Reading& reading, const std::string& from) {
    for (Stage& stage : reading.path.stages)
        for (const NamedConstant& named : constants(stage))
            if (named.constant->from == from) named.constant->from.clear();
}

Found feeds_in_a_circle(const Placed& p) {
    const std::vector<std::string> loop = feed_loop(*p.bench, p.reading->id);
    if (loop.empty()) return {};
    std::string circle;
    for (const std::string& id : loop)
        circle += name_of(*p.bench, id) + " → ";
    circle += name_of(*p.bench, loop.front());
    const std::string next = loop.size() > 1 ? loop[1] : loop[0];
    Finding f = finding(Severity::error, Stop::convert, phrase("Readings feed each other in a circle: {}.", circle),
                        phrase("None of them can be computed before the other: the circle runs on assumptions."),
                        phrase("Let one of them keep a stated value."));
    f.action = change_reading(phrase("Stop following {}", name_of(*p.bench, next)), p.reading->id,
                              [next](Reading& r) { stop_following(r, next); });
    return f;
}

Found partner_gone(const Placed& p) {
    for (const std::string& id : followed(p.reading->path)) {
        if (p.bench->reading(id)) continue;
        Finding f = finding(Severity::look, Stop::convert, phrase("It follows a reading that is gone ({}).", id),
                            phrase("What was assumed for it holds now, with a larger doubt."),
                            phrase("Let it follow another reading, or measure the value once and type it."));
        f.action = change_reading(phrase("Keep the stated value"), p.reading->id,
                                  [id](Reading& r) { stop_following(r, id); });
        return f;
    }
    return {};
}

const Adc* converter(const Placed& p) {
    if (p.reading->path.stages.empty() || !p.is_voltage()) return nullptr;
    return std::get_if<Adc>(&p.reading->path.stages.front());
}

Found bits_of_another_converter(const Placed& p) {
    const Adc* adc = converter(p);
    if (!adc || p.bits() <= 0 || adc->bits == p.bits()) return {};
    Finding f = finding(Severity::error, Stop::convert,
                        phrase("The path counts to {}; this converter counts to {}.",
                               format_constant(std::ldexp(1.0, adc->bits), 7),
                               format_constant(std::ldexp(1.0, p.bits()), 7)),
                        phrase("Every voltage is wrong by a factor of {}.",
                               format_constant(std::ldexp(1.0, std::abs(adc->bits - p.bits())), 7)),
                        phrase("The constant was made for another board."));
    f.action = change_reading(phrase("Use {} bits", p.bits()), p.reading->id, [bits = p.bits()](Reading& r) {
        if (auto* first = std::get_if<Adc>(&r.path.stages.front())) first->bits = bits;
    });
    return f;
}

/// Where the path stops saying what the plan says: its unit, the vessel's sizes, the funnel.
Found differs_from_plan(const Placed& p) {
    const Chain& path = p.reading->path;
    const Quantity& q = p.reading->quantity;
    if (path.stages.empty() || !p.part) return {};
    std::string what;
    if (const std::string ends = path.last_unit(); !same_unit(ends, q.unit))
        what = phrase("The path ends in {}; the quantity is asked in {}.", unit_symbol(ends), unit_symbol(q.unit));
    const physics::VesselShape planned = vessel_shape(q.vessel);
    for (const Stage& stage : path.stages) {
        const auto* fill = std::get_if<VesselFill>(&stage);
        if (!fill || q.vessel.shape.empty() || p.reading->correction) continue;
        if (fill->kind != planned.kind)
            what = phrase("The path counts with a {}; the vessel at Quantity is a {}.",
                          physics::vessel_title(fill->kind), physics::vessel_title(planned.kind));
        VesselFill sized = *fill;
        sized.diameter_m.value = planned.diameter_m;
        sized.length_m.value = planned.length_m;
        sized.width_m.value = planned.width_m;
        sized.height_m.value = planned.height_m;
        Stage has = *fill;
        Stage wants = sized;
        const std::vector<NamedConstant> asked = constants(wants); // the sizes that this shape has
        for (const NamedConstant& named : constants(has))
            for (const NamedConstant& want : asked)
                if (named.key == want.key && what.empty() && want.unit == "m" &&
                    std::abs(named.constant->value - want.constant->value) > 0.005 * want.constant->value)
                    what = phrase("{}: the path counts with {}, the vessel at Quantity has {}.",
                                  constant_label(named.key), format_measure(1000 * named.constant->value, "mm"),
                                  format_measure(1000 * want.constant->value, "mm"));
    }
    const auto* tips = std::get_if<Scale>(&path.stages.front());
    if (what.empty() && q.about().events == Events::tips && tips && q.funnel.area_cm2 > 0 && q.funnel.tip_mL > 0 &&
        tips->factor.known_by != KnownBy::calibration) {
        const double mm = 10 * q.funnel.tip_mL / q.funnel.area_cm2;
        if (std::abs(tips->factor.value - mm) > 0.15 * mm)
            what = phrase("The path counts {} for each tip; funnel and bucket at Quantity make {}.",
                          format_measure(tips->factor.value, "mm", 3), format_measure(mm, "mm", 3));
    }
    if (what.empty()) return {};
    Finding f =
        finding(Severity::error, Stop::convert, what, phrase("Every value is wrong by that much, and looks right."),
                phrase("Build the path anew from the plan, or mend what the plan says."));
    f.action = change_reading(phrase("Build the path anew"), p.reading->id,
                              [path = build_path(p)](Reading& r) { r.path = path; });
    return f;
}

/// A number that somebody typed and of which nobody said how sure it is: the accuracy cannot be judged.
Found doubt_not_stated(const Placed& p) {
    if (p.reading->correction) return {};
    Chain path = p.reading->path;
    for (auto& stage : path.stages)
        for (const NamedConstant& named : constants(stage)) {
            const Constant& c = *named.constant;
            if (c.known_by != KnownBy::hand || c.doubt > 0) continue;
            const Value raw = inverse(p.reading->path, (p.reading->quantity.low + p.reading->quantity.high) / 2);
            if (!raw.ok()) continue;
            Finding f = finding(
                Severity::look, Stop::convert, phrase("“{}” is typed without a doubt.", constant_label(named.key)),
                phrase("Without one nobody can say how sure the value is; it is not ± 0."),
                phrase("Type how sure it is: a meter's data sheet says it, or half of the last digit."));
            f.action = open_stop(phrase("Type its doubt"), Stop::convert);
            return f;
        }
    return {};
}

constexpr ReadingRule all_convert_rules[] = {{"path-differs-from-plan", differs_from_plan},
                                             {"doubt-not-stated", doubt_not_stated},
                                             {"feeds-in-a-circle", feeds_in_a_circle},
                                             {"partner-gone", partner_gone},
                                             {"bits-of-another-converter", bits_of_another_converter}};

} // namespace

std::span<const ReadingRule> convert_rules() {
    return all_convert_rules;
}

} // namespace cognitum
