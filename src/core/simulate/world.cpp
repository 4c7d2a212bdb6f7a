#include "core/simulate/world.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace cognitum::simulate {

namespace {

/// Finaliser of splitmix64 (Steele, Lea & Flood 2014): every input bit moves every output bit.
std::uint64_t mix(std::uint64_t x) {
    x += 0x9e3779b97f4a7c15ULL;
    x = (x ^ (x >> 30)) * 0xbf58476d1ce4e5b9ULL;
    x = (x ^ (x >> 27)) * 0x94d049bb133111ebULL;
    return x ^ (x >> 31);
}

double uniform(std::uint64_t seed, std::uint64_t stream, std::int64_t index) {
    const std::uint64_t bits = mix(mix(seed * 0x100000001b3ULL + stream) ^ static_cast<std::uint64_t>(index));
    return (static_cast<double>(bits >> 11) + 0.5) / 9007199254740992.0;
}

/// Noise that is smooth over `period`: random values at whole periods, joined by half cosines.
double smooth_noise(std::uint64_t seed, std::uint64_t stream, double t_s, double period_s) {
    const double x = t_s / period_s;
    const double whole = std::floor(x);
    const auto i = static_cast<std::int64_t>(whole);
    const double blend = (1 - std::cos(std::numbers::pi * (x - whole))) / 2;
    return hash_noise(seed, stream, i) * (1 - blend) + hash_noise(seed, stream, i + 1) * blend;
}

} // namespace

double hash_noise(std::uint64_t seed, std::uint64_t stream, std::int64_t index) {
    return 2 * uniform(seed, stream, index) - 1;
}

double hash_normal(std::uint64_t seed, std::uint64_t stream, std::int64_t index) {
    const double u = uniform(seed, stream, 2 * index);
    const double v = uniform(seed, stream, 2 * index + 1);
    return std::sqrt(-2 * std::log(u)) * std::cos(2 * std::numbers::pi * v);
}

double air_temperature(std::uint64_t seed, TimeUs t) {
    constexpr double mean = 13.8;
    constexpr double day_amplitude = 4.2;
    const double t_s = seconds(t);
    const double hour = std::fmod(t_s / 3600, 24.0);
    const double day = day_amplitude * std::cos(2 * std::numbers::pi * (hour - 15) / 24);
    const double weather = 1.6 * smooth_noise(seed, 1, t_s, 7 * 3600);
    const double clouds = 0.35 * smooth_noise(seed, 2, t_s, 1300);
    const double gusts = 0.15 * smooth_noise(seed, 3, t_s, 75);
    return mean + day + weather + clouds + gusts;
}

} // namespace cognitum::simulate
