// What pages ask the archive: stretches for a chart, the figures of a day, series to compare, and a band tried on
// what was recorded. Each reads one bench file and nothing else.
#pragma once

#include "core/analyse/health.h"
#include "core/base/error.h"
#include "core/base/time.h"
#include "core/bench/bench.h"
#include "core/calibrate/compare.h"
#include "store/file/bench_file.h"
#include "store/samples/sample.h"

#include <functional>
#include <map>
#include <optional>
#include <string>
#include <vector>

namespace cognitum {

/// A series between two times, as summaries.
struct Stretch {
    TimeUs from = 0, to = 0;
    std::vector<Summary> parts;
};
/// Without `from` from the first sample on, up to `to` or the last sample, whichever is later; an hour when there
/// is none. A margin of 2 % at both ends is read as well, so that a line leaves the picture. At most `most` parts.
Result<Stretch> recorded_stretch(BenchFile& file, const std::string& reading, std::optional<TimeUs> from, TimeUs to,
                                 std::size_t most);

/// What a running total grew in a period.
struct Growth {
    TimeUs from = 0, to = 0;
    double amount = 0;
};
/// Growth between the parts of a running total, added up by the period in which each ends; `period_of` gives none
/// for a moment that is not wanted. A total that falls began anew. Periods without growth are left out.
std::vector<Growth> growth_of(const std::vector<Summary>& parts,
                              const std::function<std::optional<Growth>(TimeUs)>& period_of);
/// The whole hour (UTC) of a moment.
Growth hour_of(TimeUs t);

/// The last 24 hours of a reading.
struct DayFigures {
    std::vector<Summary> parts; ///< at most 130
    std::vector<Growth> hours;  ///< of a running total
    bool any = false;           ///< a value was recorded; the rest is only then of use
    std::string trouble;        ///< why it cannot be read; empty: it was
    double low = 0, high = 0;
    TimeUs low_at = 0, high_at = 0;
};
/// By id, all of them; one that cannot be read says so and holds up no other.
Result<std::map<std::string, DayFigures>> recorded_days(BenchFile& file, const std::vector<std::string>& readings,
                                                        TimeUs now);

/// Raw numbers in [from, to], oldest first, for what counts changes: of a run of equal numbers only its first and
/// its last. Of more than half a million the newest. A failed measurement is one without a number.
Result<std::vector<RawSample>> recorded_raw(BenchFile& file, const std::string& reading, TimeUs from, TimeUs to);

/// The newest values in [from, to] in a unit of the reading's dimension, at most `most`; failures left out.
Result<std::vector<TimedValue>> recorded_values(BenchFile& file, const Reading& reading, TimeUs from, TimeUs to,
                                                const std::string& unit, std::size_t most);

/// How often a band would have spoken.
struct BandTrial {
    std::size_t values = 0; ///< that were looked at; failed measurements are none
    int raised = 0;
};
Result<BandTrial> try_bands(BenchFile& file, const std::string& reading, const Bands& bands, TimeUs from,
                            TimeUs to);

/// The newest entries of the logbook, newest first.
Result<std::vector<LogEntry>> recorded_entries(BenchFile& file);

} // namespace cognitum
