// The adjuster finder: two trimmers and no label. Record the same stimulus before and after turning one of them;
// what changed says what it sets, and which way.
#pragma once

#include "core/analyse/signal.h"

namespace cognitum {

/// One recording under a stimulus, in figures.
struct AdjusterFigures {
    int events = 0;           ///< contacts: how often it went on
    double hold_s = 0;        ///< contacts: median time that it stayed on; the last one counts as long as it lasted
    bool held_to_end = false; ///< it was still on at the end: the hold is at least that
    double rest = 0, swing = 0, noise = 0; ///< other signals: level at rest, and the way from there to its top
    std::size_t samples = 0;
};
/// The recording begins at rest. Values that are no number are left out.
AdjusterFigures adjuster_figures(std::span<const RawSample> samples, SignalKind kind);

struct AdjusterVerdict {
    std::string sets; ///< "hold time", "reach", "zero", "gain", or a name from the card; empty: nothing seen
    bool clockwise_more = true; ///< clockwise gives more of it
    std::string text;           ///< a sentence with the figures
};
/// `could_be`: what the card says that its trimmers set; `clockwise`: how it was turned between the two.
AdjusterVerdict judge_adjuster(const AdjusterFigures& before, const AdjusterFigures& after, bool clockwise,
                               const SignalAbout& about, const std::vector<std::string>& could_be);

} // namespace cognitum
