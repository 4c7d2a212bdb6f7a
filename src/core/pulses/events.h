// Contacts and motion detectors: from a line that is on or off to events that somebody would count.
#pragma once

#include "core/base/time.h"

#include <span>
#include <vector>

namespace cognitum {

struct SwitchSample {
    TimeUs time = 0;
    bool on = false;
};

struct SwitchEvent {
    TimeUs start = 0;
    TimeUs end = 0;           ///< of the last moment that it was on
    std::size_t triggers = 1; ///< times that it came on within the event
};

struct EventOptions {
    double debounce_s = 0.02; ///< shorter than this on or off is the contact's bounce
    double hold_s = 0;        ///< off for less than this is still the same event
};

struct EventReport {
    std::vector<SwitchEvent> events;
    std::size_t bounces = 0; ///< changes that were too short
    double per_hour = 0;     ///< over the time that counted; 0: no time
    double on_share = 0;     ///< of that time
};

/// One pass over samples in order of time.
EventReport switch_events(std::span<const SwitchSample> samples, const EventOptions& options = {});

} // namespace cognitum
