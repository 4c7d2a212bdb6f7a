#include "core/signal_path/stage.h"

#include "core/physics/thermometry.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <numbers>

namespace cognitum {

namespace {

constexpr double nan = std::numeric_limits<double>::quiet_NaN();

template <typename... F>
struct Overloaded : F... {
    using F::operator()...;
};
template <typename... F>
Overloaded(F...) -> Overloaded<F...>;

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

std::string num(double value, int digits = 5) {
    return format_constant(value, digits);
}
std::string plus(double value) {
    return value < 0 ? " − " + num(-value) : " + " + num(value);
}

} // namespace

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
            [y](const Correction& s) {
                return finite_or((y - s.offset.value) / s.gain.value, Cause::out_of_range);
            },
        },
        stage);
}

std::string input_unit(const Stage& stage) {
    return std::visit(
        Overloaded{[](const Adc&) -> std::string { return "count"; }, [](const Linear& s) { return s.input_unit; },
                   [](const Scale& s) { return s.input_unit; }, [](const Divider&) -> std::string { return "V"; },
                   [](const RatioDivider&) -> std::string { return "count"; },
                   [](const Correction& s) { return s.unit; }, [](const auto&) -> std::string { return "ohm"; }},
        stage);
}

std::string output_unit(const Stage& stage) {
    return std::visit(
        Overloaded{[](const Adc&) -> std::string { return "V"; }, [](const Linear& s) { return s.unit; },
                   [](const Scale& s) { return s.unit; }, [](const Divider&) -> std::string { return "ohm"; },
                   [](const RatioDivider&) -> std::string { return "ohm"; },
                   [](const Correction& s) { return s.unit; }, [](const auto&) -> std::string { return "degC"; }},
        stage);
}

std::string stage_title(const Stage& stage) {
    return std::visit(Overloaded{[](const Adc&) { return "Voltage"; }, [](const Divider&) { return "Resistance"; },
                                 [](const RatioDivider&) { return "Resistance"; },
                                 [](const Correction&) { return "Corrected"; },
                                 [](const Scale&) { return "Scaled"; }, [](const auto&) { return "Temperature"; }},
                      stage);
}

std::string arithmetic_text(const Stage& stage, double x) {
    return std::visit(
        Overloaded{
            [x](const Adc& s) {
                const std::string code = s.centre ? fmt::format("({} + ½)", num(x)) : num(x);
                return fmt::format("{} × {} V ÷ {}", code, format_fixed(s.reference_V.value, 3), num(divisor(s)));
            },
            [x](const Linear& s) {
                const std::string unit = unit_symbol(s.input_unit);
                return fmt::format("({} {} − {} {}) ÷ {} {}/{}", num(x), unit, num(s.zero.value), unit,
                                   num(s.slope.value), unit, unit_symbol(s.unit));
            },
            [x](const Scale& s) {
                return fmt::format("{} × {}{}", num(s.factor.value), num(x), plus(s.offset.value));
            },
            [x](const Divider& s) {
                return s.unknown == UnknownLeg::bottom
                           ? fmt::format("{} Ω × {} V ÷ ({} V − {} V)", num(s.fixed_ohm.value), num(x),
                                         num(s.supply_V.value), num(x))
                           : fmt::format("{} Ω × ({} V − {} V) ÷ {} V", num(s.fixed_ohm.value),
                                         num(s.supply_V.value), num(x), num(x));
            },
            [x](const RatioDivider& s) {
                return s.unknown == UnknownLeg::bottom
                           ? fmt::format("{} Ω × {} ÷ ({} − {})", num(s.fixed_ohm.value), num(x + 0.5, 7),
                                         num(codes(s.bits), 7), num(x + 0.5, 7))
                           : fmt::format("{} Ω × ({} − {}) ÷ {}", num(s.fixed_ohm.value), num(codes(s.bits), 7),
                                         num(x + 0.5, 7), num(x + 0.5, 7));
            },
            [x](const ThermistorBeta& s) {
                return fmt::format("1/T = 1/{} K + ln({} ÷ {}) ÷ {} K",
                                   num(s.t0_degC.value + physics::zero_celsius_K), num(x), num(s.r0_ohm.value),
                                   num(s.beta_K.value));
            },
            [x](const ThermistorSteinhartHart&) {
                return fmt::format("1/T = A + B ln R + C (ln R)³, R = {} Ω", num(x));
            },
            [x](const Rtd& s) { return fmt::format("IEC 60751 at {} Ω, R0 = {} Ω", num(x), num(s.r0_ohm.value)); },
            [x](const Correction& s) {
                const std::string scaled =
                    s.gain.value == 1 ? num(x) : fmt::format("{} × {}", num(s.gain.value), num(x));
                return scaled + plus(s.offset.value);
            },
        },
        stage);
}

std::string cause_text(Cause cause) {
    switch (cause) {
    case Cause::none: return "";
    case Cause::at_low_rail: return "at the lower rail";
    case Cause::at_high_rail: return "at the upper rail";
    case Cause::outside_codes: return "no code of this converter";
    case Cause::out_of_range: return "outside the sensor's range";
    case Cause::not_a_number: return "no number in the line";
    case Cause::missing: return "field missing";
    case Cause::failed: return "the part says that it did not measure";
    }
    return "";
}

std::string cause_text(const Stage& stage, Cause cause, double x) {
    int bits = 10;
    if (const auto* adc = std::get_if<Adc>(&stage)) bits = adc->bits;
    if (const auto* ratio = std::get_if<RatioDivider>(&stage)) bits = ratio->bits;
    const std::string top = num(codes(bits) - 1, 7);
    switch (cause) {
    case Cause::at_low_rail:
        return fmt::format(
            "Code {} is the converter's lower rail: the pin is at or below 0 V, which is no measurement. "
            "Look for an unplugged or shorted sensor.",
            num(x));
    case Cause::at_high_rail:
        return fmt::format(
            "Code {} is the converter's upper rail: the pin is at or above the reference, which is no "
            "measurement. Look for a loose ground or a signal above full scale.",
            top);
    case Cause::outside_codes:
        return fmt::format("{} is no code of a {}-bit converter, which gives 0 to {}.", num(x), bits, top);
    case Cause::out_of_range:
        return fmt::format("{} {} is outside the range of this step ({}).", num(x), unit_symbol(input_unit(stage)),
                           stage_title(stage));
    default: return cause_text(cause);
    }
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
    } else if (const auto* correction = std::get_if<Correction>(&stage)) {
        line = {correction->gain.value, correction->offset.value};
    } else {
        return false;
    }
    return true;
}

} // namespace cognitum
