#include "core/signal_path/stage.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/signal_path/stage_parts.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <numbers>

namespace cognitum {

namespace stages {

double codes(int bits) {
    return std::ldexp(1.0, bits);
}

double divisor(const Adc& adc) {
    return codes(adc.bits) - (adc.convention == CodeConvention::two_to_n_minus_1 ? 1 : 0);
}

Value finite_or(double number, Cause cause) {
    return std::isfinite(number) ? Value{number, Cause::none} : Value::none(cause);
}

std::string num(double value, int digits) {
    return format_constant(value, digits);
}

std::string plus(double value) {
    return value < 0 ? " − " + num(-value) : " + " + num(value);
}

std::string minus(double value) {
    return value < 0 ? " + " + num(-value) : " − " + num(value);
}

} // namespace stages

double Constant::standard_uncertainty() const {
    switch (spread) {
    case Spread::none: return 0;
    case Spread::standard: return doubt;
    case Spread::rectangular: return doubt / std::numbers::sqrt3;
    }
    return 0;
}

double Constant::lasting_uncertainty() const {
    constexpr double usual = 0.01;
    const double half_width = stability > 0 ? stability : usual * std::abs(value);
    return std::min(standard_uncertainty(), half_width / std::numbers::sqrt3);
}

Stage::Stage(const Stage& other) = default;
Stage::Stage(Stage&& other) noexcept = default;
Stage& Stage::operator=(const Stage& other) = default;
Stage& Stage::operator=(Stage&& other) noexcept = default;
Stage::~Stage() = default;

bool Stage::operator==(const Stage& other) const {
    return static_cast<const StageVariant&>(*this) == static_cast<const StageVariant&>(other);
}

Value Value::none(Cause cause) {
    return {no_number, cause};
}

Value forward(const Stage& stage, double x) {
    if (!std::isfinite(x)) return Value::none(Cause::not_a_number);
    return std::visit([x](const auto& s) { return stages::forward_of(s, x); }, stage);
}

Value inverse(const Stage& stage, double y) {
    if (!std::isfinite(y)) return Value::none(Cause::not_a_number);
    return std::visit([y](const auto& s) { return stages::inverse_of(s, y); }, stage);
}

std::string input_unit(const Stage& stage) {
    return std::visit([](const auto& s) { return stages::units_of(s).in; }, stage);
}

std::string output_unit(const Stage& stage) {
    return std::visit([](const auto& s) { return stages::units_of(s).out; }, stage);
}

std::string stage_title(const Stage& stage) {
    return std::visit([](const auto& s) { return stages::title_of(s); }, stage);
}

std::string arithmetic_text(const Stage& stage, double x) {
    return std::visit([x](const auto& s) { return stages::arithmetic_of(s, x); }, stage);
}

std::vector<NamedConstant> constants(Stage& stage) {
    return std::visit([](auto& s) { return stages::constants_of(s); }, stage);
}

int code_bits(const Stage& stage) {
    if (const auto* adc = std::get_if<Adc>(&stage)) return adc->bits;
    if (const auto* divider = std::get_if<RatioDivider>(&stage)) return divider->bits;
    if (const auto* ratio = std::get_if<Ratio>(&stage)) return ratio->bits;
    return 0;
}

double quantum(const Stage& stage, double at) {
    if (const auto* adc = std::get_if<Adc>(&stage)) return adc->reference_V.value / stages::divisor(*adc);
    if (const auto* ratio = std::get_if<Ratio>(&stage)) return 1 / stages::codes(ratio->bits);
    if (const auto* ratio = std::get_if<RatioDivider>(&stage)) {
        const Value here = forward(stage, at);
        const Value next = forward(stage, at + (at + 1 < stages::codes(ratio->bits) - 1 ? 1 : -1));
        return here.ok() && next.ok() ? std::abs(next.number - here.number) : 0;
    }
    return 0;
}

bool as_affine(const Stage& stage, Affine& line) {
    if (const auto* adc = std::get_if<Adc>(&stage)) {
        const double a = adc->reference_V.value / stages::divisor(*adc);
        line = {a, adc->centre ? 0.5 * a : 0};
    } else if (const auto* linear = std::get_if<Linear>(&stage)) {
        line = {1 / linear->slope.value, -linear->zero.value / linear->slope.value};
    } else if (const auto* scale = std::get_if<Scale>(&stage)) {
        line = {scale->factor.value, scale->offset.value};
    } else if (const auto* loop = std::get_if<CurrentLoop>(&stage)) {
        line = {1000 / loop->shunt_ohm.value, 0};
    } else if (const auto* below = std::get_if<LevelBelow>(&stage)) {
        line = {-1, below->mount_height_mm.value};
    } else if (const auto* correction = std::get_if<Correction>(&stage)) {
        line = {correction->gain.value, correction->offset.value};
    } else {
        return false;
    }
    return true;
}

namespace {

std::string rail_text(Cause cause, int bits, double x) {
    const std::string top = stages::num(stages::codes(bits) - 1, 7);
    if (cause == Cause::at_low_rail)
        return phrase("Code {} is the converter's lower rail: the pin is at or below 0 V, which is no measurement. "
                      "Look for an unplugged or shorted sensor.",
                      stages::num(x));
    if (cause == Cause::at_high_rail)
        return phrase("Code {} is the converter's upper rail: the pin is at or above the reference, which is no "
                      "measurement. Look for a loose ground or a signal above full scale.",
                      top);
    return phrase("{} is no code of a {}-bit converter, which gives 0 to {}.", stages::num(x), bits, top);
}

} // namespace

std::string cause_text(const Stage& stage, Cause cause, double x) {
    const std::string given = format_measure(x, input_unit(stage), 5);
    switch (cause) {
    case Cause::at_low_rail:
    case Cause::at_high_rail:
    case Cause::outside_codes: {
        int bits = code_bits(stage);
        if (const auto* word = std::get_if<SignedWord>(&stage)) bits = word->bits;
        return rail_text(cause, bits, x);
    }
    case Cause::out_of_range:
        if (const auto* formula = std::get_if<Formula>(&stage)) {
            if (formula->low < formula->high && (x < formula->low || x > formula->high))
                return phrase("{} is outside of the range of this formula: {} to {}.", given,
                              format_measure(formula->low, formula->input_unit, 5),
                              format_measure(formula->high, formula->input_unit, 5));
            return phrase("The formula gives no number at {}: it divides by zero there, or takes a root or a "
                          "logarithm of nothing.",
                          given);
        }
        return phrase("{} is outside the range of this step ({}).", given, stage_title(stage));
    case Cause::failed:
        if (std::holds_alternative<Echo>(stage))
            return phrase("An echo time of {} is an echo that never came: no distance.", given);
        return cause_text(cause);
    case Cause::below_empty:
        if (std::holds_alternative<Between>(stage))
            return phrase("{} is beyond the 0 % point by more than 5 %: that point no longer holds.", given);
        return phrase("{} is below empty: look at the mounting height.", given);
    case Cause::overfull:
        if (std::holds_alternative<Between>(stage))
            return phrase("{} is beyond the 100 % point by more than 5 %: that point no longer holds.", given);
        return phrase("{} is more than the vessel holds: look at its height and at the mounting height.", given);
    case Cause::undecided:
        if (std::holds_alternative<Table>(stage))
            return phrase("{} is near none of the table's points: it lies between two contacts.", given);
        return phrase("{} is too close to the threshold to be either state.", given);
    default: return cause_text(cause);
    }
}

} // namespace cognitum
