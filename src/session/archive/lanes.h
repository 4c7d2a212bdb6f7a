// What the logbook's time line shows: readings over time with their gaps, when anything was recorded, and what
// happened. Read from the bench file, bounded whatever the length of time.
#pragma once

#include "core/base/calendar.h"
#include "core/bench/bench.h"
#include "core/catalog/cards.h"
#include "core/stretch/stretch.h"
#include "session/archive/recorded.h"
#include "store/figures/reading_figures.h"
#include "store/file/bench_file.h"
#include "store/samples/sample.h"

#include <string>
#include <vector>

namespace cognitum {

/// How a reading is drawn over time.
enum class LaneShape {
    curve,   ///< its values, the extremes around them
    columns, ///< what came in each hour, day or month: rain
    share    ///< how much of the time it was on: motion, a contact
};
LaneShape lane_shape(const Reading& reading);

struct Lane {
    std::string reading; ///< id
    LaneShape shape = LaneShape::curve;
    std::vector<Summary> parts;   ///< in order of time; a gap lies between two of them
    std::vector<Growth> columns;  ///< of LaneShape::columns, those with an amount
    std::vector<Interval> silent; ///< no lines
    std::string trouble;          ///< why it cannot be read; empty: it was
};

inline constexpr std::size_t most_lane_entries = 2000;

/// In a shorter stretch columns are hours.
inline constexpr TimeUs hourly_below = 5 * day_us;

struct LanesQuestion {
    std::vector<std::string> readings; ///< ids, in the order of the lanes
    TimeUs from = 0, to = 0;
    std::size_t most = 400;       ///< parts of a lane
    Period columns = Period::day; ///< of LaneShape::columns, in a stretch that is longer than hourly_below
    ZoneOffset zone = {};
};

struct Lanes {
    std::vector<Lane> lanes;
    std::vector<Interval> recorded; ///< when any reading of the bench had lines
    std::vector<LogEntry> entries;  ///< of [from, to), newest first; at most most_lane_entries
};
Result<Lanes> recorded_lanes(BenchFile& file, const Bench& bench, const LanesQuestion& question);

/// First and last moment at which there is a sample or an entry; empty: there is nothing.
Result<std::optional<Interval>> recorded_span(BenchFile& file, const Bench& bench);

/// Figures of the readings over [from, to), in that order. One that cannot be read says so and holds up no other.
Result<std::vector<ReadingFigures>> recorded_figures(BenchFile& file, const Bench& bench, const Catalog& catalog,
                                                     const std::vector<std::string>& readings, TimeUs from,
                                                     TimeUs to);

/// What the figures amount to, in a few words for a person: "48.4 ± 0.5 mm in 45 h", "rose 120 L".
std::string stretch_says(const ReadingFigures& figures, const Reading& reading);

} // namespace cognitum
