// Limits that change with the days of a session: the temperatures of a fermentation, of a cure, of seeds.
#pragma once

#include "core/base/error.h"
#include "core/base/time.h"
#include "core/bench/bench.h"

#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

/// Stretches of the sessions that this reading leads, by time and without overlap: where one begins, that before it
/// ends. The end of one that goes on is far away.
std::vector<Interval> corridor_runs(const Bench& bench, const std::string& reading);

/// Day of the session at this time: 1 at its beginning, 2 after 24 h; empty: no session runs.
std::optional<double> corridor_day(std::span<const Interval> runs, TimeUs time);

/// What holds on that day; nullptr: it is before the first step. Steps by growing day.
const CorridorStep* corridor_step(std::span<const CorridorStep> steps, double day);

/// "1: 18 to 20; 5: 20 to 22", with numbers as a person types them. Error: which step cannot be read.
Result<std::vector<CorridorStep>> read_corridor(std::string_view text);
/// The same written.
std::string corridor_text(std::span<const CorridorStep> steps);

} // namespace cognitum
