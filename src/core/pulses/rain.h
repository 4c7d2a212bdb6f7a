// Tips of a bucket to rain: millimetres, hours, days, intensity. Totals come from the tips' own times, never from a
// running text total.
#pragma once

#include "core/base/time.h"

#include <span>
#include <vector>

namespace cognitum {

/// mm of rain in one tip: its volume over the funnel's area (1 mm is 1 L/m²). Both above zero, else NaN.
double millimetres_per_tip(double tip_volume_mL, double funnel_area_cm2);

struct RainAmount {
    TimeUs start = 0; ///< of the hour or the day
    double mm = 0;
};

/// Rain that belongs together: a dry spell ends it.
struct RainEvent {
    TimeUs start = 0, end = 0; ///< of its first and last tip
    double mm = 0;
};

struct RainTotals {
    double total_mm = 0;
    double corrected_mm = 0; ///< with what is lost while the bucket tips; total_mm where nothing is said of it
    std::vector<RainAmount> hours;         ///< whole hours with rain, in order
    std::vector<RainAmount> days;          ///< days with rain, from their boundary on
    std::vector<RainAmount> months, years; ///< by the calendar of the days
    std::vector<RainEvent> events;
    double max_intensity_mm_h = 0; ///< over the time between tips, and over five minutes at least
    std::size_t tips = 0;          ///< that counted
    std::size_t rejected = 0;      ///< bounces: within `bounce_s` of the tip before
};

struct RainOptions {
    double bounce_s = 0.1;
    TimeUs day_start = 0;   ///< after midnight, of the zone
    TimeUs zone = 0;        ///< what local time is ahead of UTC
    int tips_per_pulse = 1; ///< 2: its contact closes once for both sides
    double dry_spell_s = 6 * 3600;
    double loss_a = 1, loss_b = 1; ///< true intensity = a · measured^b, mm/h, fitted against poured doses
};

/// mm within the last `window` up to `now`.
double rain_within(std::span<const TimeUs> tips, double mm_per_tip, TimeUs now, TimeUs window);

/// When a counter's steps happened: each step at the time of its line, several in one line spread evenly over the
/// time since the line before. A count that falls started anew.
std::vector<TimeUs> tips_of_counts(std::span<const TimeUs> times, std::span<const double> counts);

/// Which of them came within `bounce_s` of the last that counted, or before it: the contact rang.
std::vector<bool> bounced_tips(std::span<const TimeUs> tips, double bounce_s);

/// One pass over tip times that grow; a time that goes back is taken as a bounce.
RainTotals rain_totals(std::span<const TimeUs> tips, double mm_per_tip, const RainOptions& options = {});

} // namespace cognitum
