// What the bench sees for itself, put as facts that answer questions of the symptom tree.
#pragma once

#include "core/analyse/health.h"
#include "core/bringup/symptoms.h"
#include "core/plan/placed.h"

namespace cognitum {

struct SeenByBench {
    bool open = false;           ///< the link is open
    bool refused = false;        ///< it was tried and did not open
    bool brings_reading = false; ///< a field of the lines is the reading's
    std::span<const RawSample> samples;
    std::span<const HealthVerdict> verdicts;
    StreamFacts stream;
};

/// Only what is sure: a fact that is not there is asked of the person.
SymptomFacts symptom_facts(const Placed& placed, const SignalAbout& about, const SeenByBench& seen);

/// The symptom that the verdicts point to; null: none.
const Symptom* symptom_of_verdicts(const SymptomTree& tree, std::span<const HealthVerdict> verdicts);

} // namespace cognitum
