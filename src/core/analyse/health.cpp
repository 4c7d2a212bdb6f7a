#include "core/analyse/health.h"
#include "core/base/phrase.h"

#include "core/analyse/health_checks.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

std::string health::Signal::amount(double x, int decimals) const {
    return fmt::format("{} {}", format_fixed(x, decimals),
                       about.unit.empty() ? phrase("counts") : unit_symbol(about.unit));
}

std::vector<HealthVerdict> judge_health(std::span<const RawSample> samples, const SignalAbout& about,
                                        const StreamFacts& facts) {
    std::vector<HealthVerdict> out;
    health::Signal signal{samples, about, facts, signal_figures(samples, about.bits), {}, {}};
    for (const RawSample& s : samples)
        if (std::isfinite(s.code)) {
            signal.t.push_back(seconds(s.time - samples.front().time));
            signal.v.push_back(s.code);
        }
    const auto run = [&](std::span<const health::Entry> checks) {
        for (const health::Entry& entry : checks)
            if (auto verdict = entry.check(signal)) {
                verdict->id = entry.id;
                verdict->title = phrase(entry.title);
                verdict->leaves_value = entry.leaves_value;
                out.push_back(std::move(*verdict));
            }
    };
    run(health::stream_checks());
    const std::size_t of_stream = out.size();
    run(health::value_checks());
    // A pin that floats, sticks or clips measures nothing: how it moves besides says nothing more.
    const bool lost = std::any_of(out.begin() + static_cast<std::ptrdiff_t>(of_stream), out.end(),
                                  [](const HealthVerdict& v) { return v.bad(); });
    if (!lost) run(health::movement_checks());
    // What is the mains is neither noise nor spikes besides.
    if (std::any_of(out.begin(), out.end(), [](const HealthVerdict& v) { return v.id == "hum"; }))
        std::erase_if(out, [](const HealthVerdict& v) { return v.id == "noisy" || v.id == "spikes"; });
    std::stable_sort(out.begin(), out.end(),
                     [](const HealthVerdict& a, const HealthVerdict& b) { return a.rank > b.rank; });
    return out;
}

const std::vector<std::string>& all_verdict_ids() {
    static const std::vector<std::string> all = [] {
        std::vector<std::string> ids;
        for (const auto list : {health::stream_checks(), health::value_checks(), health::movement_checks()})
            for (const health::Entry& entry : list)
                ids.emplace_back(entry.id);
        return ids;
    }();
    return all;
}

} // namespace cognitum
