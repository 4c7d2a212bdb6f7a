// What pulses look like over time and what was made of them, as values to draw: a wave with its beats, tips with
// their bounces, a contact with its events, wind with its gust.
#pragma once

#include "core/analyse/signal.h"
#include "core/pulses/rain.h"

#include <span>
#include <string>
#include <vector>

namespace cognitum {

struct PulsePicture {
    struct Point {
        double at_s = 0;  ///< from the left edge
        double value = 0; ///< no number: nothing came from here on, the trace ends until the next
    };
    /// A beat's top, a tip, a gust.
    struct Mark {
        double at_s = 0, value = 0;
        bool counted = true; ///< false: set aside, a bounce
    };
    enum class Use { counted, set_aside, held }; ///< held: off for so short a time that the event goes on
    struct Span {
        double from_s = 0, to_s = 0;
        Use use = Use::counted;
    };
    struct Level {
        double value = 0;
        std::string name; ///< "fixed threshold"
    };
    struct Panel {
        std::string title, unit;
        std::vector<Point> trace;
        bool stairs = false; ///< a value holds until the next
        std::vector<Mark> marks;
        std::vector<Span> spans;
        std::vector<Level> levels;
    };
    TimeUs from = 0; ///< the left edge
    double length_s = 0;
    std::vector<Panel> panels; ///< above each other, over the same time; none: too little has come
    std::string spoken;        ///< the same in a sentence
};

/// The last `shown_s` of the wave: as it comes, with the fixed threshold and its crossings; below, as the beats are
/// found in it, with the least height, and each interval as it was used.
PulsePicture beats_picture(std::span<const RawSample> wave, double shown_s = 8);

/// The last day: every tip, and the rain that they add up to.
PulsePicture tips_picture(std::span<const TimeUs> tips, double mm_per_pulse, TimeUs now,
                          const RainOptions& options = {});

/// Samples of 0 and 1 over the last `shown_s`: on and off, and the events that they make. The trace ends where
/// nothing came for longer than `silent_s`; 0: never.
PulsePicture switch_picture(std::span<const RawSample> samples, TimeUs now, double hold_s, double shown_s = 3600,
                            double silent_s = 0);

/// The last ten minutes: speeds, their mean, and the gust.
PulsePicture wind_picture(std::span<const RawSample> speeds, const std::string& unit, double silent_s = 0);

} // namespace cognitum
