// Rules about a path's constants: whom they follow, and whether they belong to this board.
#include "core/plan/rules.h"
#include "core/units/format.h"

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
    Finding f =
        finding(Severity::error, Stop::convert, fmt::format("Readings feed each other in a circle: {}.", circle),
                "None of them can be computed before the other: the circle runs on assumptions.",
                "Let one of them keep a stated value.");
    f.action = change_reading("Stop following " + name_of(*p.bench, next), p.reading->id,
                              [next](Reading& r) { stop_following(r, next); });
    return f;
}

Found partner_gone(const Placed& p) {
    for (const std::string& id : followed(p.reading->path)) {
        if (p.bench->reading(id)) continue;
        Finding f =
            finding(Severity::look, Stop::convert, fmt::format("It follows a reading that is gone ({}).", id),
                    "What was assumed for it holds now, with a larger doubt.",
                    "Let it follow another reading, or measure the value once and type it.");
        f.action =
            change_reading("Keep the stated value", p.reading->id, [id](Reading& r) { stop_following(r, id); });
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
                        fmt::format("The path counts to {}; this converter counts to {}.",
                                    format_constant(std::ldexp(1.0, adc->bits), 7),
                                    format_constant(std::ldexp(1.0, p.bits()), 7)),
                        fmt::format("Every voltage is wrong by a factor of {}.",
                                    format_constant(std::ldexp(1.0, std::abs(adc->bits - p.bits())), 7)),
                        "The constant was made for another board.");
    f.action = change_reading(fmt::format("Use {} bits", p.bits()), p.reading->id, [bits = p.bits()](Reading& r) {
        if (auto* first = std::get_if<Adc>(&r.path.stages.front())) first->bits = bits;
    });
    return f;
}

constexpr ReadingRule rules[] = {{"feeds-in-a-circle", feeds_in_a_circle},
                                 {"partner-gone", partner_gone},
                                 {"bits-of-another-converter", bits_of_another_converter}};

} // namespace

std::span<const ReadingRule> convert_rules() {
    return rules;
}

} // namespace cognitum
