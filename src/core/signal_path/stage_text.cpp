// What a stage says of itself: its units, its title, its arithmetic with figures, and why it gives no value.
#include "core/physics/thermometry.h"
#include "core/signal_path/overloaded.h"
#include "core/signal_path/stage.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

double codes(int bits) {
    return std::ldexp(1.0, bits);
}
double divisor(const Adc& adc) {
    return codes(adc.bits) - (adc.convention == CodeConvention::two_to_n_minus_1 ? 1 : 0);
}
std::string num(double value, int digits = 5) {
    return format_constant(value, digits);
}
std::string plus(double value) {
    return value < 0 ? " − " + num(-value) : " + " + num(value);
}

} // namespace

std::string input_unit(const Stage& stage) {
    return std::visit(
        Overloaded{[](const Adc&) -> std::string { return "count"; }, [](const Linear& s) { return s.input_unit; },
                   [](const Scale& s) { return s.input_unit; }, [](const Divider&) -> std::string { return "V"; },
                   [](const RatioDivider&) -> std::string { return "count"; },
                   [](const Thermocouple&) -> std::string { return "mV"; },
                   [](const Echo&) -> std::string { return "us"; },
                   [](const LevelBelow&) -> std::string { return "mm"; },
                   [](const VesselFill&) -> std::string { return "mm"; },
                   [](const Conductivity25&) -> std::string { return "mS/cm"; },
                   [](const Correction& s) { return s.unit; }, [](const auto&) -> std::string { return "ohm"; }},
        stage);
}

std::string output_unit(const Stage& stage) {
    return std::visit(
        Overloaded{[](const Adc&) -> std::string { return "V"; }, [](const Linear& s) { return s.unit; },
                   [](const Scale& s) { return s.unit; }, [](const Divider&) -> std::string { return "ohm"; },
                   [](const RatioDivider&) -> std::string { return "ohm"; },
                   [](const Echo&) -> std::string { return "mm"; },
                   [](const LevelBelow&) -> std::string { return "mm"; },
                   [](const VesselFill&) -> std::string { return "L"; },
                   [](const Conductivity25&) -> std::string { return "mS/cm"; },
                   [](const Correction& s) { return s.unit; }, [](const auto&) -> std::string { return "degC"; }},
        stage);
}

std::string stage_title(const Stage& stage) {
    return std::visit(
        Overloaded{[](const Adc&) { return "Voltage"; }, [](const Divider&) { return "Resistance"; },
                   [](const RatioDivider&) { return "Resistance"; }, [](const Echo&) { return "Distance"; },
                   [](const LevelBelow&) { return "Level"; }, [](const VesselFill&) { return "Volume"; },
                   [](const Conductivity25&) { return "At 25 °C"; }, [](const Correction&) { return "Corrected"; },
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
            [x](const Thermocouple& s) {
                return fmt::format("ITS-90, type {}: {} mV over a junction at {} °C", s.type, num(x),
                                   num(s.reference_degC.value));
            },
            [x](const Echo& s) { return fmt::format("{} µs × {} m/s ÷ 2", num(x), format_fixed(s.speed(), 1)); },
            [x](const LevelBelow& s) { return fmt::format("{} mm − {} mm", num(s.mount_height_mm.value), num(x)); },
            [x](const VesselFill& s) {
                const double slope = physics::vessel_litres_per_mm(s.shape(), x / 1000);
                return fmt::format("{} up to {} mm; a millimetre is {} L here", physics::vessel_name(s.kind),
                                   num(x), num(slope, 3));
            },
            [x](const Conductivity25& s) {
                return fmt::format("{} ÷ (1 + {} × ({} − 25))", num(x), num(s.alpha_per_K.value),
                                   num(s.temperature_degC.value));
            },
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
    case Cause::below_empty: return "below empty";
    case Cause::overfull: return "overfull";
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
    case Cause::failed:
        if (std::holds_alternative<Echo>(stage))
            return fmt::format("An echo time of {} µs is an echo that never came: no distance.", num(x));
        return cause_text(cause);
    case Cause::below_empty:
        return fmt::format("{} {} is below empty: look at the mounting height.", num(x),
                           unit_symbol(input_unit(stage)));
    case Cause::overfull:
        return fmt::format("{} {} is more than the vessel holds: look at its height and at the mounting height.",
                           num(x), unit_symbol(input_unit(stage)));
    default: return cause_text(cause);
    }
}

} // namespace cognitum
