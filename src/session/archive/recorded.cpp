#include "session/archive/recorded.h"

#include "core/units/unit.h"
#include "core/watch/bands.h"
#include "store/samples/block_codec.h"
#include "store/samples/samples.h"

#include <algorithm>
#include <cmath>
#include <deque>

namespace cognitum {

Result<Stretch> recorded_stretch(BenchFile& file, const std::string& reading, std::optional<TimeUs> from, TimeUs to,
                                 std::size_t most) {
    Stretch out{from.value_or(to - hour_us), to, {}};
    if (!from) {
        COGNITUM_TRY(all, extent(file, reading));
        if (all.n) out = {all.first, std::max(to, all.last), {}};
    }
    const TimeUs margin = (out.to - out.from) / 50;
    COGNITUM_TRY(parts, summaries(file, reading, out.from - margin, out.to + margin));
    out.parts = thinned(parts, most);
    return out;
}

std::vector<Growth> growth_of(const std::vector<Summary>& parts,
                              const std::function<std::optional<Growth>(TimeUs)>& period_of) {
    std::vector<Growth> out;
    double before = no_number;
    for (const Summary& s : parts) {
        if (!s.valued) continue;
        const double grown = std::isnan(before) ? s.high - s.low : s.high >= before ? s.high - before : s.high;
        before = s.high;
        if (grown <= 0) continue;
        const auto period = period_of(s.to);
        if (!period) continue;
        if (out.empty() || out.back().from != period->from) out.push_back(*period);
        out.back().amount += grown;
    }
    return out;
}

Growth hour_of(TimeUs t) {
    const TimeUs from = t - (t % hour_us + hour_us) % hour_us;
    return {from, from + hour_us, 0};
}

Result<std::map<std::string, DayFigures>> recorded_days(BenchFile& file, const std::vector<std::string>& readings,
                                                        TimeUs now) {
    std::map<std::string, DayFigures> days;
    for (const std::string& id : readings) {
        const auto parts = summaries(file, id, now - day_us, now, 1500);
        DayFigures& day = days[id];
        if (!parts) {
            day.trouble = parts.error().text();
            continue;
        }
        day.parts = thinned(*parts, 130);
        day.hours = growth_of(*parts, hour_of);
        for (const Summary& s : day.parts) {
            if (!s.valued) continue;
            if (!day.any || s.low < day.low) {
                day.low = s.low;
                day.low_at = s.from;
            }
            if (!day.any || s.high > day.high) {
                day.high = s.high;
                day.high_at = s.from;
            }
            day.any = true;
        }
    }
    return days;
}

Result<std::vector<RawSample>> recorded_raw(BenchFile& file, const std::string& reading, TimeUs from, TimeUs to) {
    constexpr std::size_t most = 500'000;
    std::vector<RawSample> out;
    COGNITUM_CHECK(for_each_sample(file, reading, from, to, [&](std::span<const Sample> samples) {
        for (const Sample& s : samples) {
            const double raw = s.cause == Cause::failed ? no_number : s.raw;
            const auto same = [raw](const RawSample& other) {
                return other.code == raw || (std::isnan(other.code) && std::isnan(raw));
            };
            if (out.size() > 1 && same(out.back()) && same(out[out.size() - 2]))
                out.back().time = s.time;
            else
                out.push_back({s.time, raw});
        }
        if (out.size() > 2 * most) out.erase(out.begin(), out.end() - static_cast<std::ptrdiff_t>(most));
        return true;
    }));
    if (out.size() > most) out.erase(out.begin(), out.end() - static_cast<std::ptrdiff_t>(most));
    return out;
}

Result<std::vector<TimedValue>> recorded_values(BenchFile& file, const Reading& reading, TimeUs from, TimeUs to,
                                                const std::string& unit, std::size_t most) {
    std::deque<TimedValue> newest;
    COGNITUM_CHECK(for_each_sample(file, reading.id, from, to, [&](std::span<const Sample> samples) {
        for (const Sample& s : samples)
            if (std::isfinite(s.value))
                if (const auto value = convert_unit(s.value, reading.quantity.unit, unit)) {
                    newest.push_back({s.time, *value});
                    if (newest.size() > most) newest.pop_front();
                }
        return true;
    }));
    return std::vector<TimedValue>(newest.begin(), newest.end());
}

Result<BandTrial> try_bands(BenchFile& file, const std::string& reading, const Bands& bands, TimeUs from,
                            TimeUs to) {
    BandTrial out;
    Zone zone = Zone::unknown;
    COGNITUM_CHECK(for_each_sample(file, reading, from, to, [&](std::span<const Sample> samples) {
        for (const Sample& s : samples) {
            const Zone next = next_zone(zone, s.value, bands);
            if (next == Zone::unknown) continue; // a failed measurement is no change of band
            ++out.values;
            out.raised += zone != Zone::unknown && next != zone && next != Zone::in_range;
            zone = next;
        }
        return true;
    }));
    return out;
}

Result<std::vector<LogEntry>> recorded_entries(BenchFile& file) {
    constexpr std::size_t newest = 500;
    return file.log(newest);
}

} // namespace cognitum
