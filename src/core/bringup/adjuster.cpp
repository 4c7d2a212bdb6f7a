#include "core/bringup/adjuster.h"

#include "core/analyse/statistics.h"
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr double clear_factor = 1.5; ///< of a hold time or a number of events
constexpr double clear_share = 0.15; ///< of a swing

void contact_figures(std::span<const RawSample> samples, AdjusterFigures& out) {
    std::vector<double> holds;
    double rest = no_number;
    TimeUs since = 0, last = 0;
    bool on = false;
    for (const RawSample& s : samples) {
        if (!std::isfinite(s.code)) continue;
        if (!std::isfinite(rest)) rest = s.code;
        if (s.code != rest && !on) {
            on = true;
            since = s.time;
            ++out.events;
        } else if (s.code == rest && on) {
            on = false;
            holds.push_back(seconds(s.time - since));
        }
        last = s.time;
    }
    if (on) {
        holds.push_back(seconds(last - since));
        out.held_to_end = true;
    }
    out.hold_s = median(holds);
}

void level_figures(std::vector<double> values, AdjusterFigures& out) {
    out.noise = values.size() > 2 ? difference_sd(values) : 0;
    // It begins at rest: the first fifth is that. The top is the mean of the tenth that is farthest from it.
    const std::size_t fifth = std::max<std::size_t>(1, values.size() / 5);
    out.rest = median({values.begin(), values.begin() + static_cast<std::ptrdiff_t>(fifth)});
    std::sort(values.begin(), values.end(),
              [&](double a, double b) { return std::abs(a - out.rest) > std::abs(b - out.rest); });
    values.resize(std::max<std::size_t>(1, values.size() / 10));
    out.swing = moments(values).mean - out.rest;
}

std::string other_than_hold(const std::vector<std::string>& could_be) {
    for (const std::string& name : could_be)
        if (name != "hold time") return name;
    return "reach";
}

} // namespace

AdjusterFigures adjuster_figures(std::span<const RawSample> samples, SignalKind kind) {
    AdjusterFigures out;
    std::vector<double> values;
    for (const RawSample& s : samples)
        if (std::isfinite(s.code)) values.push_back(s.code);
    out.samples = values.size();
    if (values.empty()) return out;
    if (kind == SignalKind::contact)
        contact_figures(samples, out);
    else
        level_figures(std::move(values), out);
    return out;
}

AdjusterVerdict judge_adjuster(const AdjusterFigures& before, const AdjusterFigures& after, bool clockwise,
                               const SignalAbout& about, const std::vector<std::string>& could_be) {
    AdjusterVerdict v;
    const auto is = [&](std::string name, bool more, std::string figures) {
        v.sets = std::move(name);
        v.clockwise_more = more == clockwise;
        v.text = phrase("It sets the {}: {}. Clockwise gives {}.", v.sets, figures,
                        v.clockwise_more ? phrase("more") : phrase("less"));
        return v;
    };
    if (about.kind == SignalKind::contact) {
        if (before.events == 0 && after.events == 0) {
            v.text = phrase("Nothing set it off in either recording: repeat the stimulus nearer.");
            return v;
        }
        if (before.events > 0 && after.events > 0) {
            const double ratio = after.hold_s / std::max(before.hold_s, 1e-3);
            if (ratio >= clear_factor || ratio <= 1 / clear_factor)
                return is(phrase("hold time"), ratio > 1,
                          phrase("it stayed on for {}{} instead of {}",
                                 after.held_to_end ? phrase("at least ") : "", format_measure(after.hold_s, "s", 2),
                                 format_measure(before.hold_s, "s", 2)));
        }
        const int change = after.events - before.events;
        if (before.events == 0 || after.events == 0 ||
            (std::abs(change) >= 2 &&
             std::max(before.events, after.events) >= clear_factor * std::min(before.events, after.events)))
            return is(
                other_than_hold(could_be), change > 0,
                after.events == 1
                    ? phrase("the same stimulus set it off once instead of {} times", before.events)
                    : phrase("the same stimulus set it off {} times instead of {}", after.events, before.events));
    } else {
        const double noise = std::max({before.noise, after.noise, about.resolution, 1e-12});
        const double moved = after.rest - before.rest;
        const double size = std::max(std::abs(before.swing), std::abs(after.swing));
        const double stretched = std::abs(after.swing) - std::abs(before.swing);
        const auto number = [&](double x) { return format_constant(x, 4); };
        if (size > 5 * noise && std::abs(stretched) > std::max(clear_share * size, 5 * noise))
            return is("gain", stretched > 0,
                      phrase("the swing is {} instead of {}", number(after.swing), number(before.swing)));
        if (std::abs(moved) > 5 * noise)
            return is("zero", moved > 0,
                      phrase("at rest it is {} instead of {}", number(after.rest), number(before.rest)));
    }
    v.text = phrase("Nothing changed clearly. Turn it further, or it is the other one.");
    return v;
}

} // namespace cognitum
