// Is the raw signal healthy? Verdicts with their evidence, the likely causes in order, and the next test that tells
// them apart (domain: health of a raw signal). A check is a function in a table; adding one: docs/extending.md.
#pragma once

#include "core/analyse/signal.h"

namespace cognitum {

enum class HealthRank {
    note, ///< worth knowing, no fault
    look, ///< the number is worse than it could be
    bad,  ///< the number cannot be trusted
};

struct HealthVerdict {
    std::string id;    ///< "stuck"; the names stand in tests and scripts: do not change them
    std::string title; ///< "Stuck", "Mains hum"
    HealthRank rank = HealthRank::bad;
    std::string evidence;            ///< a sentence with this signal's own figures
    std::vector<std::string> causes; ///< likely ones, most likely first
    std::string next_test;           ///< what would tell them apart
    bool leaves_value = false;       ///< it is about the lines: a number that came is as good as before
    [[nodiscard]] bool bad() const { return rank == HealthRank::bad; }
};

/// Verdicts, the one that explains most first; empty when there is nothing to say. `samples` is what the Raw stop
/// holds (up to some thousand).
std::vector<HealthVerdict> judge_health(std::span<const RawSample> samples, const SignalAbout& about,
                                        const StreamFacts& facts = {});

/// Ids of every verdict there is.
const std::vector<std::string>& all_verdict_ids();

} // namespace cognitum
