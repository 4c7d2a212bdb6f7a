#include "core/bringup/facts.h"

#include <algorithm>
#include <array>

namespace cognitum {

namespace {

bool fact_says(std::span<const HealthVerdict> verdicts, std::string_view id) {
    return std::any_of(verdicts.begin(), verdicts.end(), [&](const HealthVerdict& v) { return v.id == id; });
}

} // namespace

SymptomFacts symptom_facts(const Placed& p, const SignalAbout& about, const SeenByBench& seen) {
    SymptomFacts facts;
    // The board that brings the reading may be another than the one it is wired to.
    const BoardUse* feed = p.bench ? p.bench->board(p.reading->feed()) : nullptr;
    const LinkPlan way = feed ? feed->link : p.use ? p.use->link : LinkPlan{};
    if (way.kind == LinkKind::none)
        facts["link"] = "none";
    else if (seen.open)
        facts["link"] = "open";
    else if (seen.refused)
        facts["link"] = "refused";
    if (way.kind != LinkKind::none) facts["way"] = way.is_wire() ? "wire" : link_kind_name(way.kind);
    if (fact_says(seen.verdicts, "wrong-speed"))
        facts["odd"] = "all";
    else if (fact_says(seen.verdicts, "half-lines"))
        facts["odd"] = "some";
    const bool any_number = std::any_of(seen.samples.begin(), seen.samples.end(),
                                        [](const RawSample& s) { return std::isfinite(s.code); });
    if (seen.brings_reading && !seen.samples.empty() && !any_number) facts["field"] = "empty";
    if (p.part) {
        const Speech speech = p.part->interface.speech;
        facts["speech"] = speech == Speech::one_wire ? "one-wire"
                          : speech == Speech::i2c    ? "i2c"
                          : speech == Speech::echo   ? "echo"
                                                     : "other";
    }
    constexpr std::array jumps = {"light-leak", "hum", "floating", "loose-contact", "spikes", "noisy"};
    for (const HealthVerdict& v : seen.verdicts) // the one that explains most comes first
        if (std::find(jumps.begin(), jumps.end(), v.id) != jumps.end()) {
            facts["jump"] = v.id;
            break;
        }
    if (seen.stream.restarts > 0)
        facts["goes"] = "restarts";
    else if (seen.stream.lost > 0)
        facts["goes"] = "lost";
    else if (fact_says(seen.verdicts, "failed") || fact_says(seen.verdicts, "loose-contact"))
        facts["goes"] = "failed";
    if (fact_says(seen.verdicts, "whole-steps"))
        facts["whole"] = "yes";
    else if (any_number && about.kind == SignalKind::codes)
        facts["whole"] = "no";
    return facts;
}

const Symptom* symptom_of_verdicts(const SymptomTree& tree, std::span<const HealthVerdict> verdicts) {
    for (const HealthVerdict& v : verdicts)
        for (const Symptom& s : tree.symptoms)
            if (std::find(s.verdicts.begin(), s.verdicts.end(), v.id) != s.verdicts.end()) return &s;
    return nullptr;
}

} // namespace cognitum
