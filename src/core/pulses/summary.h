// What pulses add up to, said in rows for a person: rain, beats, motion, contacts, wind.
#pragma once

#include "core/analyse/signal.h"
#include "core/pulses/rain.h"

#include <string>
#include <vector>

namespace cognitum {

struct PulseFact {
    std::string label; ///< "Last 24 hours"
    std::string value; ///< "3.4 mm"
    std::string note;  ///< what it rests on, or what it does not say
};

/// Hour, day, rolling 24 hours, this event, intensity, what bounced and what is lost while tipping. Tips grow.
std::vector<PulseFact> rain_facts(std::span<const TimeUs> tips, double mm_per_pulse, TimeUs now,
                                  const RainOptions& options = {});

/// From the wave of a pulse probe: rate, quality, intervals set aside, and the fixed threshold beside it.
std::vector<PulseFact> beat_facts(std::span<const RawSample> wave);

/// From samples of 0 and 1 (those while the part warmed up left out): events an hour, the last one, how long it was
/// on. `hold_s`: off for less is one event.
std::vector<PulseFact> switch_facts(std::span<const RawSample> samples, TimeUs now, double hold_s);

/// From speeds: mean of ten minutes and gust. `unit`: of the speeds.
std::vector<PulseFact> wind_facts(std::span<const RawSample> speeds, const std::string& unit);

} // namespace cognitum
