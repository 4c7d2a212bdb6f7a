#include "core/signal_path/stage.h"

#include "core/physics/conductivity.h"
#include "core/physics/sound.h"
#include "core/physics/thermocouple.h"
#include "core/physics/thermometry.h"
#include "core/signal_path/overloaded.h"

#include <cmath>
#include <limits>
#include <numbers>

namespace cognitum {

namespace {

constexpr double nan = std::numeric_limits<double>::quiet_NaN();

double codes(int bits) {
    return std::ldexp(1.0, bits);
}
double divisor(const Adc& adc) {
    return codes(adc.bits) - (adc.convention == CodeConvention::two_to_n_minus_1 ? 1 : 0);
}

/// Codes at the rails are no measurement: the signal may be anything beyond.
Cause rail(int bits, double code) {
    const double top = codes(bits) - 1;
    if (!std::isfinite(code)) return Cause::not_a_number;
    if (code < 0 || code > top) return Cause::outside_codes;
    if (code <= 0) return Cause::at_low_rail;
    if (code >= top) return Cause::at_high_rail;
    return Cause::none;
}

Value finite_or(double number, Cause cause) {
    return std::isfinite(number) ? Value{number, Cause::none} : Value::none(cause);
}

/// Unknown resistance from the ratio of the tapped voltage to the supply.
double from_ratio(double ratio, double fixed_ohm, UnknownLeg unknown) {
    if (!(ratio > 0 && ratio < 1)) return nan;
    return unknown == UnknownLeg::bottom ? fixed_ohm * ratio / (1 - ratio) : fixed_ohm * (1 - ratio) / ratio;
}

double to_ratio(double ohm, double fixed_ohm, UnknownLeg unknown) {
    if (!(ohm > 0) || !(fixed_ohm > 0)) return nan;
    return (unknown == UnknownLeg::bottom ? ohm : fixed_ohm) / (ohm + fixed_ohm);
}

Value from_emf(const Thermocouple& s, double emf_mV) {
    const auto type = physics::thermocouple_type(s.type);
    return type ? finite_or(physics::thermocouple_temperature(*type, emf_mV, s.reference_degC.value),
                            Cause::out_of_range)
                : Value::none(Cause::out_of_range);
}

} // namespace

double Echo::speed() const {
    switch (air) {
    case Air::dry: return physics::dry_speed_of_sound(temperature_degC.value);
    case Air::humid:
        return physics::humid_speed_of_sound(temperature_degC.value, humidity.value, pressure_Pa.value);
    case Air::fixed_speed: return speed_m_s.value;
    }
    return nan;
}

physics::VesselShape VesselFill::shape() const {
    physics::VesselShape out{kind, diameter_m.value, length_m.value, width_m.value, height_m.value, {}, volumes_L};
    for (const double level : levels_mm)
        out.levels_m.push_back(level / 1000);
    return out;
}

double Constant::standard_uncertainty() const {
    switch (spread) {
    case Spread::none: return 0;
    case Spread::standard: return doubt;
    case Spread::rectangular: return doubt / std::numbers::sqrt3;
    }
    return 0;
}

Value Value::none(Cause cause) {
    return {nan, cause};
}

Value forward(const Stage& stage, double x) {
    if (!std::isfinite(x)) return Value::none(Cause::not_a_number);
    return std::visit(
        Overloaded{
            [x](const Adc& s) -> Value {
                if (const Cause cause = rail(s.bits, x); cause != Cause::none) return Value::none(cause);
                return {(x + (s.centre ? 0.5 : 0.0)) * s.reference_V.value / divisor(s)};
            },
            [x](const Linear& s) { return finite_or((x - s.zero.value) / s.slope.value, Cause::out_of_range); },
            [x](const Scale& s) { return finite_or(s.factor.value * x + s.offset.value, Cause::out_of_range); },
            [x](const Divider& s) {
                return finite_or(from_ratio(x / s.supply_V.value, s.fixed_ohm.value, s.unknown),
                                 Cause::out_of_range);
            },
            [x](const RatioDivider& s) -> Value {
                if (const Cause cause = rail(s.bits, x); cause != Cause::none) return Value::none(cause);
                return finite_or(from_ratio((x + 0.5) / codes(s.bits), s.fixed_ohm.value, s.unknown),
                                 Cause::out_of_range);
            },
            [x](const ThermistorBeta& s) {
                return finite_or(
                    physics::thermistor_beta_temperature(x, s.r0_ohm.value, s.t0_degC.value, s.beta_K.value),
                    Cause::out_of_range);
            },
            [x](const ThermistorSteinhartHart& s) {
                return finite_or(physics::steinhart_hart_temperature(x, s.a.value, s.b.value, s.c.value),
                                 Cause::out_of_range);
            },
            [x](const Rtd& s) {
                return finite_or(physics::platinum_temperature(x, s.r0_ohm.value), Cause::out_of_range);
            },
            [x](const Thermocouple& s) { return from_emf(s, x); },
            [x](const Echo& s) -> Value {
                if (x <= 0) return Value::none(Cause::failed);
                return finite_or(x * s.speed() / 2000, Cause::out_of_range);
            },
            [x](const LevelBelow& s) -> Value { return {s.mount_height_mm.value - x}; },
            [x](const VesselFill& s) -> Value {
                const physics::VesselShape shape = s.shape();
                if (x < 0) return Value::none(Cause::below_empty);
                if (x / 1000 > physics::vessel_height(shape)) return Value::none(Cause::overfull);
                return finite_or(physics::vessel_volume(shape, x / 1000), Cause::out_of_range);
            },
            [x](const Conductivity25& s) {
                return finite_or(physics::conductivity_25(x, s.temperature_degC.value, s.alpha_per_K.value),
                                 Cause::out_of_range);
            },
            [x](const Correction& s) { return finite_or(s.gain.value * x + s.offset.value, Cause::out_of_range); },
        },
        stage);
}

Value inverse(const Stage& stage, double y) {
    if (!std::isfinite(y)) return Value::none(Cause::not_a_number);
    const auto code = [](int bits, double x) -> Value {
        const Cause cause = rail(bits, x);
        return cause == Cause::none ? Value{x}
                                    : Value::none(cause == Cause::outside_codes ? Cause::out_of_range : cause);
    };
    return std::visit(
        Overloaded{
            [&](const Adc& s) {
                return code(s.bits, y * divisor(s) / s.reference_V.value - (s.centre ? 0.5 : 0.0));
            },
            [y](const Linear& s) { return finite_or(y * s.slope.value + s.zero.value, Cause::out_of_range); },
            [y](const Scale& s) { return finite_or((y - s.offset.value) / s.factor.value, Cause::out_of_range); },
            [y](const Divider& s) {
                return finite_or(s.supply_V.value * to_ratio(y, s.fixed_ohm.value, s.unknown), Cause::out_of_range);
            },
            [&](const RatioDivider& s) -> Value {
                const double ratio = to_ratio(y, s.fixed_ohm.value, s.unknown);
                if (!std::isfinite(ratio)) return Value::none(Cause::out_of_range);
                return code(s.bits, ratio * codes(s.bits) - 0.5);
            },
            [y](const ThermistorBeta& s) {
                return finite_or(
                    physics::thermistor_beta_resistance(y, s.r0_ohm.value, s.t0_degC.value, s.beta_K.value),
                    Cause::out_of_range);
            },
            [y](const ThermistorSteinhartHart& s) {
                return finite_or(physics::steinhart_hart_resistance(y, s.a.value, s.b.value, s.c.value),
                                 Cause::out_of_range);
            },
            [y](const Rtd& s) {
                return finite_or(physics::platinum_resistance(y, s.r0_ohm.value), Cause::out_of_range);
            },
            [y](const Thermocouple& s) {
                const auto type = physics::thermocouple_type(s.type);
                return type ? finite_or(physics::thermocouple_emf(*type, y, s.reference_degC.value),
                                        Cause::out_of_range)
                            : Value::none(Cause::out_of_range);
            },
            [y](const Echo& s) {
                return y > 0 ? finite_or(2000 * y / s.speed(), Cause::out_of_range)
                             : Value::none(Cause::out_of_range);
            },
            [y](const LevelBelow& s) -> Value { return {s.mount_height_mm.value - y}; },
            [y](const VesselFill& s) -> Value {
                const physics::VesselShape shape = s.shape();
                if (y < 0) return Value::none(Cause::below_empty);
                const double level = physics::vessel_level(shape, y);
                return std::isfinite(level) ? Value{1000 * level} : Value::none(Cause::overfull);
            },
            [y](const Conductivity25& s) {
                return finite_or(physics::conductivity_at(y, s.temperature_degC.value, s.alpha_per_K.value),
                                 Cause::out_of_range);
            },
            [y](const Correction& s) {
                return finite_or((y - s.offset.value) / s.gain.value, Cause::out_of_range);
            },
        },
        stage);
}

double quantum(const Stage& stage, double at) {
    if (const auto* adc = std::get_if<Adc>(&stage)) return adc->reference_V.value / divisor(*adc);
    if (const auto* ratio = std::get_if<RatioDivider>(&stage)) {
        const Value here = forward(stage, at);
        const Value next = forward(stage, at + (at + 1 < codes(ratio->bits) - 1 ? 1 : -1));
        return here.ok() && next.ok() ? std::abs(next.number - here.number) : 0;
    }
    return 0;
}

std::vector<NamedConstant> constants(Stage& stage) {
    using List = std::vector<NamedConstant>;
    return std::visit(
        Overloaded{
            [](Adc& s) {
                return List{{"reference_V", "V", &s.reference_V}};
            },
            [](Linear& s) {
                return List{{"zero", s.input_unit, &s.zero}, {"slope", s.input_unit + "/" + s.unit, &s.slope}};
            },
            [](Scale& s) {
                return List{{"factor", "", &s.factor}, {"offset", s.unit, &s.offset}};
            },
            [](Divider& s) {
                return List{{"fixed_ohm", "ohm", &s.fixed_ohm}, {"supply_V", "V", &s.supply_V}};
            },
            [](RatioDivider& s) {
                return List{{"fixed_ohm", "ohm", &s.fixed_ohm}};
            },
            [](ThermistorBeta& s) {
                return List{
                    {"r0_ohm", "ohm", &s.r0_ohm}, {"t0_degC", "degC", &s.t0_degC}, {"beta_K", "K", &s.beta_K}};
            },
            [](ThermistorSteinhartHart& s) {
                return List{{"a", "", &s.a}, {"b", "", &s.b}, {"c", "", &s.c}};
            },
            [](Rtd& s) {
                return List{{"r0_ohm", "ohm", &s.r0_ohm}};
            },
            [](Thermocouple& s) {
                return List{{"reference_degC", "degC", &s.reference_degC}};
            },
            [](Echo& s) {
                return List{{"temperature_degC", "degC", &s.temperature_degC},
                            {"humidity", "1", &s.humidity},
                            {"pressure_Pa", "Pa", &s.pressure_Pa},
                            {"speed_m_s", "m/s", &s.speed_m_s}};
            },
            [](LevelBelow& s) {
                return List{{"mount_height_mm", "mm", &s.mount_height_mm}};
            },
            [](VesselFill& s) {
                List out;
                for (const std::string& size : physics::vessel_sizes(s.kind))
                    out.push_back({size + "_m", "m",
                                   size == "diameter" ? &s.diameter_m
                                   : size == "length" ? &s.length_m
                                   : size == "width"  ? &s.width_m
                                                      : &s.height_m});
                return out;
            },
            [](Conductivity25& s) {
                return List{{"temperature_degC", "degC", &s.temperature_degC},
                            {"alpha_per_K", "/K", &s.alpha_per_K}};
            },
            [](Correction& s) {
                return List{{"gain", "", &s.gain}, {"offset", s.unit, &s.offset}};
            },
        },
        stage);
}

bool as_affine(const Stage& stage, Affine& line) {
    if (const auto* adc = std::get_if<Adc>(&stage)) {
        const double a = adc->reference_V.value / divisor(*adc);
        line = {a, adc->centre ? 0.5 * a : 0};
    } else if (const auto* linear = std::get_if<Linear>(&stage)) {
        line = {1 / linear->slope.value, -linear->zero.value / linear->slope.value};
    } else if (const auto* scale = std::get_if<Scale>(&stage)) {
        line = {scale->factor.value, scale->offset.value};
    } else if (const auto* below = std::get_if<LevelBelow>(&stage)) {
        line = {-1, below->mount_height_mm.value};
    } else if (const auto* correction = std::get_if<Correction>(&stage)) {
        line = {correction->gain.value, correction->offset.value};
    } else {
        return false;
    }
    return true;
}

} // namespace cognitum
