// Low, in range, high: a value's band, with hysteresis so that a value on the edge does not chatter.
#pragma once

#include "core/base/time.h"
#include "core/bench/bench.h"

#include <optional>
#include <span>
#include <vector>

namespace cognitum {

enum class Zone { unknown, low, in_range, high };

/// Zone of a value after `previous`. A band is left when its limit is crossed, and entered again only when the
/// value is inside by the hysteresis. NaN: unknown.
Zone next_zone(Zone previous, double value, const Bands& bands);

struct ZoneChange {
    TimeUs time = 0;
    Zone from = Zone::unknown, to = Zone::unknown;
    double value = 0;
};

struct TimedNumber {
    TimeUs time;
    double value;
};
/// Every change of zone over a series; the first value only sets the zone.
std::vector<ZoneChange> zone_changes(std::span<const TimedNumber> series, const Bands& bands);

/// The named band that a value lies in; nullptr: it has none, or no bands are named. An end belongs to the band
/// below.
const NamedBand* named_band(const Reading& reading, double value);

/// Where one band of a reading ends and the next begins, upwards: of named ones, else low and high; empty: none.
std::vector<double> band_limits(const Reading& reading);

/// "low", "in range", "high", "no band".
const char* zone_word(Zone zone);

/// How fresh a value is, by the interval at which it is expected: late after three of them, silent after fifteen;
/// or, where the plan says so, silent at the age at which the value counts as gone.
enum class Freshness { none, fresh, late, silent };
Freshness freshness(std::optional<TimeUs> last, TimeUs now, const Quantity& quantity);

} // namespace cognitum
