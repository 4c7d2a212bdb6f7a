#include "core/pulses/events.h"

#include <algorithm>

namespace cognitum {

EventReport switch_events(std::span<const SwitchSample> samples, const EventOptions& options) {
    EventReport out;
    if (samples.empty()) return out;
    const TimeUs debounce = from_seconds(options.debounce_s);
    const TimeUs hold = from_seconds(options.hold_s);
    const TimeUs from = samples.front().time;
    const TimeUs end = samples.back().time;

    // Stretches of one state; those that are too short go back into the one before.
    struct Stretch {
        TimeUs start;
        bool on;
    };
    std::vector<Stretch> stretches;
    for (const SwitchSample& s : samples) {
        if (!stretches.empty() && stretches.back().on == s.on) continue;
        if (stretches.size() > 1 && s.time - stretches.back().start < debounce) {
            stretches.pop_back();
            ++out.bounces;
            if (stretches.back().on == s.on) continue;
        }
        stretches.push_back({s.time, s.on});
    }
    TimeUs on_time = 0;
    for (std::size_t i = 0; i < stretches.size(); ++i) {
        if (!stretches[i].on) continue;
        const TimeUs until = i + 1 < stretches.size() ? stretches[i + 1].start : end;
        on_time += until - stretches[i].start;
        if (!out.events.empty() && stretches[i].start - out.events.back().end < hold) {
            out.events.back().end = until;
            ++out.events.back().triggers;
        } else {
            out.events.push_back({stretches[i].start, until, 1});
        }
    }
    if (end > from) {
        out.per_hour = static_cast<double>(out.events.size()) * 3600 / seconds(end - from);
        out.on_share = static_cast<double>(on_time) / static_cast<double>(end - from);
    }
    return out;
}

} // namespace cognitum
