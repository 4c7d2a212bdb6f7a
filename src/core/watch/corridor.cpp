#include "core/watch/corridor.h"

#include "core/base/phrase.h"
#include "core/decode/rejections.h"
#include "core/units/format.h"
#include "core/units/typed_number.h"

#include <algorithm>
#include <fmt/format.h>
#include <limits>

namespace cognitum {

namespace {

std::string_view trimmed(std::string_view text) {
    const auto first = text.find_first_not_of(" \t\n");
    if (first == std::string_view::npos) return {};
    return text.substr(first, text.find_last_not_of(" \t\n") - first + 1);
}

/// Both sides of the first of these marks; empty: it has none.
std::optional<std::pair<std::string_view, std::string_view>> split(std::string_view text,
                                                                   std::initializer_list<std::string_view> marks) {
    for (const std::string_view mark : marks)
        if (const auto at = text.find(mark); at != std::string_view::npos)
            return std::pair{text.substr(0, at), text.substr(at + mark.size())};
    return {};
}

std::optional<CorridorStep> read_step(std::string_view text) {
    const auto day = split(text, {":"});
    const auto limits = day ? split(day->second, {"to", "..", "–"}) : std::nullopt;
    if (!limits) return {};
    std::string_view from = trimmed(day->first);
    for (const std::string_view word : {"from ", phrase("day ")})
        if (from.starts_with(word)) from = trimmed(from.substr(word.size()));
    const auto from_day = typed_number(from);
    const auto low = typed_number(limits->first);
    const auto high = typed_number(limits->second);
    if (!from_day || !low || !high) return {};
    return CorridorStep{*from_day, *low, *high};
}

} // namespace

std::vector<Interval> corridor_runs(const Bench& bench, const std::string& reading) {
    std::vector<Interval> out;
    for (const TimedSession& session : bench.sessions)
        if (!session.readings.empty() && session.readings.front() == reading)
            out.push_back({session.from, session.end(std::numeric_limits<TimeUs>::max())});
    // Of two that begin together the longer one counts.
    std::sort(out.begin(), out.end(), [](const Interval& a, const Interval& b) {
        return std::pair{a.from, a.to} < std::pair{b.from, b.to};
    });
    for (std::size_t i = 1; i < out.size(); ++i)
        out[i - 1].to = std::min(out[i - 1].to, out[i].from);
    return out;
}

std::optional<double> corridor_day(std::span<const Interval> runs, TimeUs time) {
    const auto after = std::upper_bound(runs.begin(), runs.end(), time,
                                        [](TimeUs t, const Interval& run) { return t < run.from; });
    if (after == runs.begin() || time >= (after - 1)->to) return {};
    return 1 + double(time - (after - 1)->from) / double(day_us);
}

const CorridorStep* corridor_step(std::span<const CorridorStep> steps, double day) {
    const auto after = std::upper_bound(steps.begin(), steps.end(), day,
                                        [](double d, const CorridorStep& step) { return d < step.from_day; });
    return after == steps.begin() ? nullptr : &*(after - 1);
}

Result<std::vector<CorridorStep>> read_corridor(std::string_view text) {
    std::vector<CorridorStep> out;
    while (!trimmed(text).empty()) {
        const auto parts = split(text, {";"});
        const std::string_view first = trimmed(parts ? parts->first : text);
        text = parts ? parts->second : std::string_view{};
        if (first.empty()) continue;
        const auto step = read_step(first);
        if (!step)
            return failure(phrase("“{}” is no step of a corridor.", shown_text(first)), {},
                           phrase("Write the day, a colon and both limits: “1: 18 to 20; 5: 20 to 22”."));
        if (out.size() == most_corridor_steps)
            return failure(phrase("A corridor has at most {} steps.", most_corridor_steps), {},
                           phrase("Leave some out."));
        out.push_back(*step);
    }
    return out;
}

std::string corridor_text(std::span<const CorridorStep> steps) {
    std::string out;
    for (const CorridorStep& step : steps)
        out += fmt::format("{}{}: {} to {}", out.empty() ? "" : "; ", format_constant(step.from_day),
                           format_constant(step.low), format_constant(step.high));
    return out;
}

} // namespace cognitum
