#include "core/physics/sun.h"

#include <cmath>
#include <numbers>

namespace cognitum::physics {

namespace {

constexpr double degree = std::numbers::pi / 180;
constexpr double zenith_deg = 90.833;
constexpr double minutes_a_day = 1440;

struct Sun {
    double declination_deg, equation_of_time_min;
};

Sun sun_at(TimeUs t) {
    const double julian_day = seconds(t) / 86400 + 2440587.5;
    const double c = (julian_day - 2451545) / 36525; // centuries since 2000
    const double mean_longitude = std::fmod(280.46646 + c * (36000.76983 + c * 0.0003032), 360);
    const double anomaly = (357.52911 + c * (35999.05029 - 0.0001537 * c)) * degree;
    const double eccentricity = 0.016708634 - c * (0.000042037 + 0.0000001267 * c);
    const double centre = std::sin(anomaly) * (1.914602 - c * (0.004817 + 0.000014 * c)) +
                          std::sin(2 * anomaly) * (0.019993 - 0.000101 * c) + std::sin(3 * anomaly) * 0.000289;
    const double node = (125.04 - 1934.136 * c) * degree;
    const double apparent = (mean_longitude + centre - 0.00569 - 0.00478 * std::sin(node)) * degree;
    const double obliquity =
        (23 + (26 + (21.448 - c * (46.815 + c * (0.00059 - c * 0.001813))) / 60) / 60 + 0.00256 * std::cos(node)) *
        degree;
    const double y = std::pow(std::tan(obliquity / 2), 2);
    const double l = mean_longitude * degree;
    const double equation = y * std::sin(2 * l) - 2 * eccentricity * std::sin(anomaly) +
                            4 * eccentricity * y * std::sin(anomaly) * std::cos(2 * l) -
                            0.5 * y * y * std::sin(4 * l) -
                            1.25 * eccentricity * eccentricity * std::sin(2 * anomaly);
    return {std::asin(std::sin(obliquity) * std::sin(apparent)) / degree, 4 * equation / degree};
}

/// Cosine of the hour angle at which the sun stands at the horizon; beyond ±1: it never does.
double cosine_of_hour_angle(double declination_deg, double latitude_deg) {
    const double d = declination_deg * degree;
    const double f = latitude_deg * degree;
    return std::cos(zenith_deg * degree) / (std::cos(f) * std::cos(d)) - std::tan(f) * std::tan(d);
}

/// The rise (−1) or set (+1) that belongs to the noon nearest to `guess`; empty: none. The sun moves while one
/// waits for it, so that its place is worked out again at each better guess.
std::optional<TimeUs> event_near(TimeUs midnight, double latitude, double longitude, int side) {
    TimeUs t = midnight + from_seconds(60 * (720 - 4 * longitude));
    for (int i = 0; i < 5; ++i) {
        const Sun sun = sun_at(t);
        const double cosine = cosine_of_hour_angle(sun.declination_deg, latitude);
        if (!(std::abs(cosine) <= 1)) return {};
        const double hour_angle = std::acos(cosine) / degree;
        const double minutes = 720 - 4 * (longitude - side * hour_angle) - sun.equation_of_time_min;
        t = midnight + from_seconds(60 * minutes);
    }
    return t;
}

} // namespace

SunTimes sun_times(TimeUs day, double latitude, double longitude) {
    SunTimes out;
    if (!(std::abs(latitude) <= 90) || !(std::abs(longitude) <= 180)) return out;
    const TimeUs midnight = day - ((day % day_us) + day_us) % day_us;
    // Far from Greenwich a day of UTC holds the rise or the set of the neighbouring noon.
    for (const int side : {-1, 1})
        for (const int shift : {-1, 0, 1}) {
            const auto t = event_near(midnight + shift * day_us, latitude, longitude, side);
            if (t && *t >= midnight && *t < midnight + day_us) (side < 0 ? out.sunrise : out.sunset) = t;
        }
    if (!out.sunrise && !out.sunset) {
        const Sun noon = sun_at(midnight + from_seconds(60 * (minutes_a_day / 2 - 4 * longitude)));
        const bool up = cosine_of_hour_angle(noon.declination_deg, latitude) < 0;
        out.always_up = up;
        out.never_up = !up;
    }
    return out;
}

} // namespace cognitum::physics
