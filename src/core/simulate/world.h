// The air of Whelk Point's gauge hut, as a function of absolute time and a seed: the same moment always has the
// same temperature, so that a history made today continues into tomorrow's live values.
#pragma once

#include "core/base/time.h"

#include <cstdint>

namespace cognitum::simulate {

/// Uniform in −1…1 from three whole numbers; no state.
double hash_noise(std::uint64_t seed, std::uint64_t stream, std::int64_t index);
/// Standard normal from the same (Box–Muller).
double hash_normal(std::uint64_t seed, std::uint64_t stream, std::int64_t index);

/// Air temperature, °C: a mean, a day cycle with its maximum at 15 h UTC, and gusts of three durations.
double air_temperature(std::uint64_t seed, TimeUs t);

} // namespace cognitum::simulate
