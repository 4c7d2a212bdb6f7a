// Judges a stimulus test while it runs. The pass mark comes from the data: from the level and the noise before the
// stimulus, and from what the reading's path makes of the least change that counts.
#pragma once

#include "core/base/no_number.h"
#include "core/bringup/stimulus.h"
#include "core/plan/placed.h"

namespace cognitum {

/// What a trial has to know of a reading.
struct TrialAbout {
    SignalAbout signal;
    Chain path;            ///< with the correction; without stages the raw signal is the quantity itself
    std::string kind;      ///< id of the QuantityKind
    std::string unit;      ///< of the quantity
    double accuracy = 0;   ///< needed, ± in `unit`
    double response_s = 0; ///< of the part, to 63 %
};
TrialAbout trial_about(const Placed& placed);
StimulusFor stimulus_for(const Placed& placed);

/// From the raw signal to what a person reads off for such a test: the whole path; for a raw one nothing, but the
/// way that sound went where the raw signal is an echo's time.
Chain read_off_path(const Stimulus& stimulus, const Chain& path);

/// Lines of the board, counted since its link opened.
struct LineCount {
    std::uint64_t lines = 0, lost = 0;
};

/// A test that was begun.
struct Trial {
    const Stimulus* stimulus = nullptr;
    TimeUs started = 0;
    LineCount at_start = {};
    double read_off = no_number; ///< of `agrees`
    double read_off_doubt = 0;   ///< ± of it
};

enum class TrialPhase {
    gathering, ///< too little is known of the level before
    acting,
    undoing, ///< of `returns`: it moved, now it must come back
    passed,
    failed,
};

struct TrialView {
    TrialPhase phase = TrialPhase::gathering;
    double seconds_left = 0;
    double level = no_number; ///< raw, before the stimulus
    /// Raw levels between which nothing has happened yet, or must not; NaN: the mark is no level, or has one side.
    double mark_low = no_number, mark_high = mark_low;
    std::string now;  ///< what to do in this phase
    std::string must; ///< what must be seen, with its figures
    std::string seen; ///< what is seen so far, or was in the end
    [[nodiscard]] bool over() const { return phase == TrialPhase::passed || phase == TrialPhase::failed; }
};

/// Least number of values before the stimulus that give a level.
inline constexpr std::size_t least_before = 5;

/// Pure: the same samples and times give the same view. `samples` grow in time; those before `trial.started` are
/// the level, at most the last 40 and half a minute (longer for slow readings). `lines`: counted now.
TrialView judge_trial(const Trial& trial, const TrialAbout& about, std::span<const RawSample> samples,
                      LineCount lines, TimeUs now);

} // namespace cognitum
