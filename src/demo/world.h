// Whelk Point as a function of absolute time and a seed: the same moment always has the same weather, water and
// people, so that a history made today continues into tomorrow's live values. Nothing here keeps state.
#pragma once

#include "core/base/time.h"

#include <cstdint>
#include <numbers>

namespace cognitum::demo {

inline constexpr double two_pi = 2 * std::numbers::pi;

/// Uniform in −1…1 from three whole numbers; no state.
double hash_noise(std::uint64_t seed, std::uint64_t stream, std::int64_t index);
/// Standard normal from the same (Box–Muller).
double hash_normal(std::uint64_t seed, std::uint64_t stream, std::int64_t index);

/// Air temperature, °C: a mean, a day cycle with its maximum at 15 h UTC, and gusts of three durations.
double air_temperature(std::uint64_t seed, TimeUs t);
/// In the drill hole of the rock, °C: the air, damped and two hours late, and the sun.
double rock_temperature(std::uint64_t seed, TimeUs t);
/// Pool water, °C.
double pool_temperature(std::uint64_t seed, TimeUs t);
/// Flue gas above the stove, °C: fires of some hours, lit three times a day.
double flue_temperature(std::uint64_t seed, TimeUs t);
/// Station pressure, hPa, and relative humidity, %.
double air_pressure(std::uint64_t seed, TimeUs t);
double relative_humidity(std::uint64_t seed, TimeUs t);
/// Water in the pool above its bottom, mm: the tide's two constituents, and what is left of the waves in the tube.
double tide_level(std::uint64_t seed, TimeUs t);
/// Conductivity of the pool at its own temperature, mS/cm.
double pool_conductivity(std::uint64_t seed, TimeUs t);
/// Litres in the cistern: filled by rain over days, drawn from some dozen times a day.
double cistern_litres(std::uint64_t seed, TimeUs t);
/// Light under the pump-house roof, lx: the sun's height and clouds that pass.
double daylight_lux(std::uint64_t seed, TimeUs t);
/// Water in the soil of bed 1 to 4 on the probe's scale, %: watered once a day, dries in between.
double soil_moisture(std::uint64_t seed, TimeUs t, int bed);
/// Rain since `from`, mm: storms of some hours made of cells of some minutes.
double rain_between(std::uint64_t seed, TimeUs from, TimeUs to);
/// True while somebody walks under the jetty lamp.
bool somebody_walks(std::uint64_t seed, TimeUs t);
/// The trailer on the road, and the pressure in its left tyre, kPa above ambient: it warms while it rolls.
bool trailer_rolls(std::uint64_t seed, TimeUs t);
double tyre_pressure(std::uint64_t seed, TimeUs t);
double tyre_temperature(std::uint64_t seed, TimeUs t);
/// Light behind a finger, −1…1 about its mean: the heart's wave with its dicrotic notch, faster while breathing in.
double pulse_wave(std::uint64_t seed, TimeUs t);
/// Beats a minute at that moment.
double heart_rate(std::uint64_t seed, TimeUs t);

} // namespace cognitum::demo
