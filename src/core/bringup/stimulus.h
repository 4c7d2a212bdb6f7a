// Stimulus tests: touch it, warm it, cover it, pour a measured amount, and see that the raw signal answers as it
// must. Which tests there are is data (data/bringup/stimuli.json); how one is judged: trial.h.
#pragma once

#include "core/analyse/signal.h"
#include "core/base/json_reader.h"
#include "core/base/phrase.h"

namespace cognitum {

/// What must be seen. The names stand in stimuli.json.
enum class Movement {
    rises,   ///< the quantity goes up by at least `least`
    falls,   ///< … down
    moves,   ///< either way
    returns, ///< away by `least`, and back when the stimulus ends
    sweeps,  ///< over the share `least` of the expected range
    counts,  ///< exactly `count` events, no more and no fewer
    stands,  ///< stays within ± `least` for `within_s`
    calms,   ///< the scatter falls under the share `least` of what it was
    agrees,  ///< with a value that a person reads off another instrument
    arrives, ///< lines come at the promised rate for `within_s`, and none is lost
    beats,   ///< a rhythm between 40 and 200 a minute, even enough to be a heart
    breaks,  ///< the fault is seen: no number, a rail, or a wide wander
};

struct Stimulus {
    std::string id;
    Phrase title;
    Phrase act;       ///< what the person does, one sentence
    Phrase undo;      ///< of `returns`: how the stimulus ends
    Phrase asks;      ///< of `agrees`: what is read off: "Distance by the ruler"
    bool raw = false; ///< of `agrees`: in the unit of the raw signal instead of the reading's
    Phrase caution;   ///< where it can hurt; empty: it cannot
    Phrase yes, no;   ///< what it means when it passes, and when not
    Movement movement = Movement::moves;
    double least = 0;     ///< in the quantity's first unit, or a share; 0: as the noise asks
    double within_s = 30; ///< from the start of the test; longer for slow readings
    int count = 0;

    std::vector<std::string> quantities;   ///< ids of QuantityKind; empty: any
    std::vector<std::string> families;     ///< of part cards; empty: any
    std::vector<std::string> signal_kinds; ///< names of SignalKind; empty: any
    std::vector<std::string> stages;       ///< ids of the bring-up stages where it belongs
    std::vector<std::string> verdicts;     ///< ids of the health verdicts whose causes it tells apart
};
const char* signal_kind_name(SignalKind kind);

/// What decides whether a stimulus suits a reading.
struct StimulusFor {
    std::string quantity, family; ///< family: of its part; empty: not chosen
    SignalKind signal = SignalKind::measured;
};
bool suits(const Stimulus& stimulus, const StimulusFor& reading);

/// Those that suit at this stage, those made for this very family before general ones.
std::vector<const Stimulus*> stimuli_for_stage(const std::vector<Stimulus>& all, const StimulusFor& reading,
                                               std::string_view stage);
/// The test that tells a verdict's causes apart; null: none that suits.
const Stimulus* stimulus_for_verdict(const std::vector<Stimulus>& all, const StimulusFor& reading,
                                     std::string_view verdict);

/// The member `stimuli`. Refuses unknown stages, verdicts, quantities, signals and movements, and two of one id.
Result<std::vector<Stimulus>> read_stimuli(const JsonReader& json);

} // namespace cognitum
