#include "demo/world.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace cognitum::demo {

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

double hour_of_day(TimeUs t) {
    return std::fmod(seconds(t) / 3600, 24.0);
}

/// Uniform in 0…1.
double chance(std::uint64_t seed, std::uint64_t stream, std::int64_t index) {
    return (hash_noise(seed, stream, index) + 1) / 2;
}

std::int64_t slot(TimeUs t, TimeUs length) {
    return t / length;
}

/// Sea water's conductivity at 15 °C and 1 atm over the pool's salinities is close to 42.9 mS/cm at 35 (PSS-78);
/// it grows by about 2 % for each degree.
constexpr double sea_mS_cm = 42.9;

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

double rock_temperature(std::uint64_t seed, TimeUs t) {
    const double air = air_temperature(seed, t - 2 * hour_us);
    const double sun = std::max(0.0, std::sin(std::numbers::pi * (hour_of_day(t) - 7) / 12));
    return 14.5 + 0.6 * (air - 14.5) + 5 * sun;
}

double pool_temperature(std::uint64_t seed, TimeUs t) {
    return 15.2 + 1.4 * std::cos(two_pi * (hour_of_day(t) - 16.5) / 24) +
           0.8 * smooth_noise(seed, 21, seconds(t), 40000) + 0.05 * smooth_noise(seed, 22, seconds(t), 90);
}

double flue_temperature(std::uint64_t seed, TimeUs t) {
    constexpr TimeUs fire_slot = 8 * hour_us;
    double above = 0;
    for (std::int64_t i = slot(t, fire_slot) - 1; i <= slot(t, fire_slot); ++i) {
        const double lit_s = seconds(i * fire_slot) + 1800 + 3600 * chance(seed, 31, i);
        const double burns_s = 2 * 3600 + 5400 * chance(seed, 32, i);
        const double since = seconds(t) - lit_s;
        if (since < 0) continue;
        const double peak = 300 + 120 * chance(seed, 33, i);
        const double end = peak * (1 - std::exp(-burns_s / 900));
        above += since < burns_s ? peak * (1 - std::exp(-since / 900)) : end * std::exp(-(since - burns_s) / 1500);
    }
    return air_temperature(seed, t) + 4 + above * (1 + 0.03 * smooth_noise(seed, 34, seconds(t), 40));
}

double air_pressure(std::uint64_t seed, TimeUs t) {
    return 1012 + 11 * smooth_noise(seed, 41, seconds(t), 2.2 * 86400) +
           1.2 * smooth_noise(seed, 42, seconds(t), 18000) + 0.05 * smooth_noise(seed, 43, seconds(t), 200);
}

double relative_humidity(std::uint64_t seed, TimeUs t) {
    const double h = 76 - 1.9 * (air_temperature(seed, t) - 13.8) + 6 * smooth_noise(seed, 44, seconds(t), 20000);
    return std::clamp(h, 25.0, 98.5);
}

double tide_level(std::uint64_t seed, TimeUs t) {
    const double h = seconds(t) / 3600;
    const double tide = 980 + 520 * std::cos(two_pi * h / 12.4206) + 150 * std::cos(two_pi * h / 12.0 + 0.7);
    const double swell =
        2.5 * std::sin(two_pi * seconds(t) / 7.1 + 1) + 1.5 * smooth_noise(seed, 51, seconds(t), 3.3);
    return tide + swell;
}

double pool_conductivity(std::uint64_t seed, TimeUs t) {
    const double fresh = 1 - 0.04 * (1 + smooth_noise(seed, 52, seconds(t), 30000)); // the brook, more or less
    return sea_mS_cm * fresh * (1 + 0.0205 * (pool_temperature(seed, t) - 15));
}

double cistern_litres(std::uint64_t seed, TimeUs t) {
    constexpr int draws = 14;
    const std::int64_t day = slot(t, day_us);
    const double now = seconds(t - day * day_us);
    double used = 0;
    double all = 0;
    for (int k = 0; k < draws; ++k) {
        const double at = 3600 * (6 + 16 * chance(seed, 61, day * draws + k));
        const double litres = 6 + 24 * chance(seed, 62, day * draws + k);
        used += litres * std::clamp((now - at) / 90, 0.0, 1.0); // a minute and a half at the tap
        all += litres;
    }
    const double refill = all * now / 86400; // the spring gives back by midnight what the day took
    return 880 + 260 * smooth_noise(seed, 63, seconds(t), 4 * 86400) - used + refill;
}

double daylight_lux(std::uint64_t seed, TimeUs t) {
    const double height = std::sin(std::numbers::pi * (hour_of_day(t) - 5.5) / 13);
    const double cloud =
        0.62 + 0.28 * smooth_noise(seed, 71, seconds(t), 900) + 0.08 * smooth_noise(seed, 72, seconds(t), 110);
    const double twilight = 40 * std::exp(-8 * std::max(0.0, -height));
    return 0.3 + (height > 0 ? 1700 * height * cloud + 40 : twilight);
}

double soil_moisture(std::uint64_t seed, TimeUs t, int bed) {
    const auto stream = static_cast<std::uint64_t>(80 + bed);
    const double since_h =
        std::fmod(hour_of_day(t) + 24 - 6 - 0.4 * bed, 24.0); // watered at six, one after the other
    const double low = 34 + 6 * chance(seed, stream, bed);
    const double swing = 16 + 8 * chance(seed, stream + 10, slot(t, day_us));
    const double rise = std::min(1.0, since_h / 0.3); // it soaks in within twenty minutes
    return low + swing * (rise * std::exp(-since_h / 14) + (1 - rise) * std::exp(-24.0 / 14));
}

double rain_between(std::uint64_t seed, TimeUs from, TimeUs to) {
    constexpr TimeUs storm_slot = 5 * hour_us;
    const auto before = [](double t, double centre, double width) {
        return 0.5 * (1 + std::erf((t - centre) / (std::sqrt(2.0) * width)));
    };
    double mm = 0;
    for (std::int64_t i = slot(from, storm_slot) - 1; i <= slot(to, storm_slot); ++i) {
        if (chance(seed, 91, i) > 0.45) continue; // a dry slot
        for (int cell = 0; cell < 5; ++cell) {
            const std::int64_t k = 5 * i + cell;
            const double centre = seconds(i * storm_slot) + 3600 + 3 * 3600 * chance(seed, 92, k);
            const double width = 240 + 700 * chance(seed, 93, k);
            const double amount = 0.3 + 2.4 * chance(seed, 94, k) * chance(seed, 95, k);
            mm += amount * (before(seconds(to), centre, width) - before(seconds(from), centre, width));
        }
    }
    return mm;
}

bool somebody_walks(std::uint64_t seed, TimeUs t) {
    constexpr TimeUs visit_slot = 4 * minute_us;
    const std::int64_t i = slot(t, visit_slot);
    const double busy = std::sin(std::numbers::pi * std::clamp((hour_of_day(t) - 6) / 16, 0.0, 1.0));
    if (chance(seed, 101, i) > 0.1 + 0.7 * busy) return false;
    const double begins = 200 * chance(seed, 102, i);
    const double now = seconds(t - i * visit_slot);
    return now >= begins && now < begins + 6 + 25 * chance(seed, 103, i);
}

bool trailer_rolls(std::uint64_t seed, TimeUs t) {
    constexpr TimeUs trip_slot = 45 * minute_us;
    const std::int64_t i = slot(t, trip_slot);
    return seconds(t - i * trip_slot) < 1500 + 900 * chance(seed, 111, i);
}

double tyre_temperature(std::uint64_t seed, TimeUs t) {
    constexpr TimeUs trip_slot = 45 * minute_us;
    constexpr double hottest = 14;
    const auto rolled = [&](std::int64_t i) { return 1500 + 900 * chance(seed, 111, i); };
    const std::int64_t i = slot(t, trip_slot);
    const double now = seconds(t - i * trip_slot);
    // What the last trip left when this one begins; what that one began with is forgotten by then.
    const double before = rolled(i - 1);
    const double left = hottest * (1 - std::exp(-before / 600)) * std::exp(-(seconds(trip_slot) - before) / 900);
    const double warm = hottest - (hottest - left) * std::exp(-std::min(now, rolled(i)) / 600);
    return air_temperature(seed, t) + (now > rolled(i) ? warm * std::exp(-(now - rolled(i)) / 900) : warm);
}

double tyre_pressure(std::uint64_t seed, TimeUs t) {
    constexpr double ambient_kPa = 101.3;
    const double absolute = (255 + ambient_kPa) * (tyre_temperature(seed, t) + 273.15) / 288.15; // p/T constant
    return absolute - ambient_kPa;
}

double heart_rate(std::uint64_t, TimeUs t) {
    return 60 * (1.12 + 0.05 * std::sin(two_pi * 0.23 * seconds(t)) + 0.06 * std::sin(two_pi * seconds(t) / 97));
}

double pulse_wave(std::uint64_t seed, TimeUs t) {
    const double s = std::fmod(seconds(t), 97.0 * 100); // whole turns of both sines, so that the phase has no jump
    const double phase = 1.12 * s - 0.05 / (two_pi * 0.23) * std::cos(two_pi * 0.23 * s) -
                         0.06 * 97 / two_pi * std::cos(two_pi * s / 97);
    const double u = phase - std::floor(phase);
    const auto bump = [&](double at, double width) { return std::exp(-0.5 * std::pow((u - at) / width, 2)); };
    const double shape = bump(0.16, 0.055) + 0.38 * bump(0.42, 0.075) - 0.24;
    return shape + 0.06 * std::sin(two_pi * 0.23 * s) + 0.02 * smooth_noise(seed, 121, seconds(t), 3);
}

} // namespace cognitum::demo
