// Echoes, levels, vessels.
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/base/root.h"
#include "core/physics/sound.h"
#include "core/signal_path/stage_parts.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

double Echo::speed() const {
    switch (air) {
    case Air::dry: return physics::dry_speed_of_sound(temperature_degC.value);
    case Air::humid:
        return physics::humid_speed_of_sound(temperature_degC.value, humidity.value, pressure_Pa.value);
    case Air::fixed_speed: return speed_m_s.value;
    }
    return no_number;
}

physics::VesselShape VesselFill::shape() const {
    physics::VesselShape out{kind, diameter_m.value, length_m.value, width_m.value, height_m.value,
                             {},   volumes_L,        sections};
    for (const double level : levels_mm)
        out.levels_m.push_back(level / 1000);
    return out;
}

} // namespace cognitum

namespace cognitum::stages {

Value forward_of(const Echo& s, double x) {
    if (x <= 0) return Value::none(Cause::failed);
    return finite_or(x * s.speed() / 2000);
}
Value inverse_of(const Echo& s, double y) {
    return y > 0 ? finite_or(2000 * y / s.speed()) : Value::none(Cause::out_of_range);
}
Units units_of(const Echo&) {
    return {"us", "mm"};
}
const char* title_of(const Echo&) {
    return phrase("Distance");
}
std::string arithmetic_of(const Echo& s, double x) {
    return fmt::format(
        "{} µs × {} m/s ÷ 2{}", num(x), format_fixed(s.speed(), 1),
        s.air == Echo::Air::fixed_speed ? "" : phrase(", sound at {} °C", num(s.temperature_degC.value, 3)));
}
Constants constants_of(Echo& s) { // those that its air asks for
    if (s.air == Echo::Air::fixed_speed) return {{"speed_m_s", "m/s", &s.speed_m_s}};
    Constants out = {{"temperature_degC", "degC", &s.temperature_degC}};
    if (s.air == Echo::Air::humid) {
        out.push_back({"humidity", "1", &s.humidity});
        out.push_back({"pressure_Pa", "Pa", &s.pressure_Pa});
    }
    return out;
}

Value forward_of(const LevelBelow& s, double x) {
    return {s.mount_height_mm.value - x};
}
Value inverse_of(const LevelBelow& s, double y) {
    return {s.mount_height_mm.value - y};
}
Units units_of(const LevelBelow&) {
    return {"mm", "mm"};
}
const char* title_of(const LevelBelow&) {
    return phrase("Level");
}
std::string arithmetic_of(const LevelBelow& s, double x) {
    return fmt::format("{} mm{} mm", num(s.mount_height_mm.value), minus(x));
}
Constants constants_of(LevelBelow& s) {
    return {{"mount_height_mm", "mm", &s.mount_height_mm}};
}

namespace {

/// The walls give way in proportion to the level: V·(1 + bulge·h/H).
double bulged(const VesselFill& s, const physics::VesselShape& shape, double level_m) {
    return physics::vessel_volume(shape, level_m) * (1 + s.bulge.value * level_m / physics::vessel_height(shape));
}

} // namespace

Value forward_of(const VesselFill& s, double x) {
    const physics::VesselShape shape = s.shape();
    if (x < 0) return Value::none(Cause::below_empty);
    if (x / 1000 > physics::vessel_height(shape)) return Value::none(Cause::overfull);
    return finite_or(bulged(s, shape, x / 1000));
}
Value inverse_of(const VesselFill& s, double y) {
    const physics::VesselShape shape = s.shape();
    if (y < 0) return Value::none(Cause::below_empty);
    const double height = physics::vessel_height(shape);
    const double full = bulged(s, shape, height);
    if (y > full * (1 + 1e-12)) return Value::none(Cause::overfull);
    if (s.bulge.value == 0) return finite_or(1000 * physics::vessel_level(shape, std::min(y, full)));
    const double within = std::min(y, full);
    const auto level = bracketed_root([&](double m) { return bulged(s, shape, m) - within; }, 0, height);
    return finite_or(1000 * level.value_or(no_number));
}
Units units_of(const VesselFill&) {
    return {"mm", "L"};
}
const char* title_of(const VesselFill&) {
    return phrase("Volume");
}
std::string arithmetic_of(const VesselFill& s, double x) {
    const double slope = physics::vessel_litres_per_mm(s.shape(), x / 1000);
    return phrase("{} up to {}; a millimetre is {} here", physics::vessel_title(s.kind), format_measure(x, "mm", 5),
                  slope < 0.001 ? phrase("less than {}", format_measure(0.001, "L"))
                                : format_measure(slope, "L", 3));
}
Constants constants_of(VesselFill& s) {
    Constants out;
    for (const std::string& size : physics::vessel_sizes(s.kind))
        out.push_back({size + "_m", "m",
                       size == "diameter" ? &s.diameter_m
                       : size == "length" ? &s.length_m
                       : size == "width"  ? &s.width_m
                                          : &s.height_m});
    out.push_back({"bulge", "1", &s.bulge});
    return out;
}

} // namespace cognitum::stages
