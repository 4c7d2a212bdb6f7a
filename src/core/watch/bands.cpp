#include "core/watch/bands.h"

#include "core/base/phrase.h"

#include <cmath>

namespace cognitum {

Zone next_zone(Zone previous, double value, const Bands& bands) {
    if (!std::isfinite(value)) return Zone::unknown;
    const double inside_low = bands.low + (previous == Zone::low ? bands.hysteresis : 0);
    const double inside_high = bands.high - (previous == Zone::high ? bands.hysteresis : 0);
    if (value < inside_low) return Zone::low;
    if (value > inside_high) return Zone::high;
    return Zone::in_range;
}

std::vector<ZoneChange> zone_changes(std::span<const TimedNumber> series, const Bands& bands) {
    std::vector<ZoneChange> out;
    Zone zone = Zone::unknown;
    for (const TimedNumber& s : series) {
        const Zone next = next_zone(zone, s.value, bands);
        if (next == Zone::unknown) continue; // a gap is no change of band
        if (zone != Zone::unknown && next != zone) out.push_back({s.time, zone, next, s.value});
        zone = next;
    }
    return out;
}

const NamedBand* named_band(const Reading& reading, double value) {
    if (!std::isfinite(value)) return nullptr;
    for (const NamedBand& band : reading.named_bands)
        if (value <= band.to || &band == &reading.named_bands.back()) return &band;
    return nullptr;
}

std::vector<double> band_limits(const Reading& reading) {
    std::vector<double> out;
    for (std::size_t i = 0; i + 1 < reading.named_bands.size(); ++i)
        out.push_back(reading.named_bands[i].to);
    if (out.empty() && reading.bands) out = {reading.bands->low, reading.bands->high};
    return out;
}

const char* zone_word(Zone zone) {
    switch (zone) {
    case Zone::low: return phrase("low");
    case Zone::in_range: return phrase("in range");
    case Zone::high: return phrase("high");
    case Zone::unknown: break;
    }
    return phrase("no band");
}

Freshness freshness(std::optional<TimeUs> last, TimeUs now, const Quantity& quantity) {
    if (!last) return Freshness::none;
    const double age = seconds(now - *last);
    if (age > silent_after_s(quantity)) return Freshness::silent;
    return age <= 3 * quantity.interval_s + 1 ? Freshness::fresh : Freshness::late;
}

} // namespace cognitum
