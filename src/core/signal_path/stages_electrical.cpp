// Converters, dividers, loops and words: from what a board counts to volts, ohms and milliamperes.
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/signal_path/stage_parts.h"
#include "core/units/format.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum::stages {

namespace {

/// Codes at the rails are no measurement: the signal may be anything beyond.
Cause rail(int bits, double code) {
    const double top = codes(bits) - 1;
    if (!std::isfinite(code)) return Cause::not_a_number;
    if (code < 0 || code > top) return Cause::outside_codes;
    if (code <= 0) return Cause::at_low_rail;
    if (code >= top) return Cause::at_high_rail;
    return Cause::none;
}

Value code_or(int bits, double code) {
    const Cause cause = rail(bits, code);
    if (cause == Cause::none) return {code};
    return Value::none(cause == Cause::outside_codes ? Cause::out_of_range : cause);
}

double parallel(double a, double b) {
    return b > 0 ? a * b / (a + b) : a;
}

/// Unknown resistance from the ratio of the tapped voltage to the supply; a load lies beside the bottom resistor.
double from_ratio(double ratio, double fixed_ohm, UnknownLeg unknown, double load_ohm) {
    if (!(ratio > 0 && ratio < 1)) return no_number;
    if (unknown == UnknownLeg::top) return parallel(fixed_ohm, load_ohm) * (1 - ratio) / ratio;
    const double both = fixed_ohm * ratio / (1 - ratio);
    if (!(load_ohm > 0)) return both;
    return both < load_ohm ? both * load_ohm / (load_ohm - both) : no_number;
}

double to_ratio(double ohm, double fixed_ohm, UnknownLeg unknown, double load_ohm) {
    if (!(ohm > 0) || !(fixed_ohm > 0)) return no_number;
    const double bottom = parallel(unknown == UnknownLeg::bottom ? ohm : fixed_ohm, load_ohm);
    const double top = unknown == UnknownLeg::bottom ? fixed_ohm : ohm;
    return bottom / (top + bottom);
}

std::string without_load(double load_ohm) {
    return load_ohm > 0 ? phrase(", without the input’s {}", format_ohm(load_ohm)) : std::string();
}

} // namespace

Value forward_of(const Adc& s, double x) {
    if (const Cause cause = rail(s.bits, x); cause != Cause::none) return Value::none(cause);
    return {(x + (s.centre ? 0.5 : 0.0)) * s.reference_V.value / divisor(s)};
}
Value inverse_of(const Adc& s, double y) {
    return code_or(s.bits, y * divisor(s) / s.reference_V.value - (s.centre ? 0.5 : 0.0));
}
Units units_of(const Adc&) {
    return {"count", "V"};
}
const char* title_of(const Adc&) {
    return phrase("Voltage");
}
std::string arithmetic_of(const Adc& s, double x) {
    const std::string code = s.centre ? fmt::format("({} + ½)", num(x)) : num(x);
    return fmt::format("{} × {} V ÷ {}", code, format_fixed(s.reference_V.value, 3), num(divisor(s)));
}
Constants constants_of(Adc& s) {
    return {{"reference_V", "V", &s.reference_V}};
}

Value forward_of(const Divider& s, double x) {
    return finite_or(from_ratio(x / s.supply_V.value, s.fixed_ohm.value, s.unknown, s.load_ohm.value));
}
Value inverse_of(const Divider& s, double y) {
    return finite_or(s.supply_V.value * to_ratio(y, s.fixed_ohm.value, s.unknown, s.load_ohm.value));
}
Units units_of(const Divider&) {
    return {"V", "ohm"};
}
const char* title_of(const Divider&) {
    return phrase("Resistance");
}
std::string arithmetic_of(const Divider& s, double x) {
    const std::string divided = s.unknown == UnknownLeg::bottom
                                    ? fmt::format("{} Ω × {} V ÷ ({} V − {} V)", num(s.fixed_ohm.value), num(x),
                                                  num(s.supply_V.value), num(x))
                                    : fmt::format("{} Ω × ({} V − {} V) ÷ {} V", num(s.fixed_ohm.value),
                                                  num(s.supply_V.value), num(x), num(x));
    return divided + without_load(s.load_ohm.value);
}
Constants constants_of(Divider& s) {
    Constants out = {{"fixed_ohm", "ohm", &s.fixed_ohm}, {"supply_V", "V", &s.supply_V}};
    if (s.load_ohm.value > 0) out.push_back({"load_ohm", "ohm", &s.load_ohm});
    return out;
}

Value forward_of(const RatioDivider& s, double x) {
    if (const Cause cause = rail(s.bits, x); cause != Cause::none) return Value::none(cause);
    return finite_or(from_ratio((x + 0.5) / codes(s.bits), s.fixed_ohm.value, s.unknown, s.load_ohm.value));
}
Value inverse_of(const RatioDivider& s, double y) {
    const double ratio = to_ratio(y, s.fixed_ohm.value, s.unknown, s.load_ohm.value);
    if (!std::isfinite(ratio)) return Value::none(Cause::out_of_range);
    return code_or(s.bits, ratio * codes(s.bits) - 0.5);
}
Units units_of(const RatioDivider&) {
    return {"count", "ohm"};
}
const char* title_of(const RatioDivider&) {
    return phrase("Resistance");
}
std::string arithmetic_of(const RatioDivider& s, double x) {
    const std::string code = num(x + 0.5, 7);
    const std::string all = num(codes(s.bits), 7);
    const std::string fixed = num(s.fixed_ohm.value);
    const std::string divided = s.unknown == UnknownLeg::bottom
                                    ? fmt::format("{} Ω × {} ÷ ({} − {})", fixed, code, all, code)
                                    : fmt::format("{} Ω × ({} − {}) ÷ {}", fixed, all, code, code);
    return divided + without_load(s.load_ohm.value);
}
Constants constants_of(RatioDivider& s) {
    Constants out = {{"fixed_ohm", "ohm", &s.fixed_ohm}};
    if (s.load_ohm.value > 0) out.push_back({"load_ohm", "ohm", &s.load_ohm});
    return out;
}

Value forward_of(const Ratio& s, double x) {
    if (const Cause cause = rail(s.bits, x); cause != Cause::none) return Value::none(cause);
    return {(x + 0.5) / codes(s.bits)};
}
Value inverse_of(const Ratio& s, double y) {
    return code_or(s.bits, y * codes(s.bits) - 0.5);
}
Units units_of(const Ratio&) {
    return {"count", "1"};
}
const char* title_of(const Ratio&) {
    return phrase("Share of the supply");
}
std::string arithmetic_of(const Ratio& s, double x) {
    return phrase("({} + ½) ÷ {}; the supply cancels", num(x), num(codes(s.bits), 7));
}
Constants constants_of(Ratio&) {
    return {};
}

// Below 3.6 mA and above 21 mA a 4–20 mA transmitter says that it failed (NAMUR NE 43).
Value forward_of(const CurrentLoop& s, double x) {
    const double mA = 1000 * x / s.shunt_ohm.value;
    return mA < 3.6 || mA > 21 ? Value::none(Cause::failed) : finite_or(mA);
}
Value inverse_of(const CurrentLoop& s, double y) {
    return y < 3.6 || y > 21 ? Value::none(Cause::out_of_range) : finite_or(y * s.shunt_ohm.value / 1000);
}
Units units_of(const CurrentLoop&) {
    return {"V", "mA"};
}
const char* title_of(const CurrentLoop&) {
    return phrase("Loop current");
}
std::string arithmetic_of(const CurrentLoop& s, double x) {
    return fmt::format("{} V ÷ {} Ω", num(x), num(s.shunt_ohm.value));
}
Constants constants_of(CurrentLoop& s) {
    return {{"shunt_ohm", "ohm", &s.shunt_ohm}};
}

Value forward_of(const SignedWord& s, double x) {
    if (x < 0 || x > codes(s.bits) - 1 || x != std::floor(x)) return Value::none(Cause::outside_codes);
    return {x < codes(s.bits - 1) ? x : x - codes(s.bits)};
}
Value inverse_of(const SignedWord& s, double y) {
    const double half = codes(s.bits - 1);
    if (y < -half || y > half - 1) return Value::none(Cause::out_of_range);
    return {y < 0 ? y + codes(s.bits) : y};
}
Units units_of(const SignedWord&) {
    return {"count", "count"};
}
const char* title_of(const SignedWord&) {
    return phrase("Signed");
}
std::string arithmetic_of(const SignedWord& s, double x) {
    return x < codes(s.bits - 1) ? phrase("{}, as it is", num(x, 9))
                                 : fmt::format("{} − {}", num(x, 9), num(codes(s.bits), 9));
}
Constants constants_of(SignedWord&) {
    return {};
}

Value forward_of(const PhotoResistor& s, double x) {
    if (!(x > 0)) return Value::none(Cause::out_of_range);
    return finite_or(10 * std::pow(x / s.r10_ohm.value, -1 / s.gamma.value));
}
Value inverse_of(const PhotoResistor& s, double y) {
    if (!(y > 0)) return Value::none(Cause::out_of_range);
    return finite_or(s.r10_ohm.value * std::pow(y / 10, -s.gamma.value));
}
Units units_of(const PhotoResistor&) {
    return {"ohm", "lx"};
}
const char* title_of(const PhotoResistor&) {
    return phrase("Light");
}
std::string arithmetic_of(const PhotoResistor& s, double x) {
    return fmt::format("10 lx × ({} Ω ÷ {} Ω)^(1/{})", num(s.r10_ohm.value), num(x), num(s.gamma.value));
}
Constants constants_of(PhotoResistor& s) {
    return {{"r10_ohm", "ohm", &s.r10_ohm}, {"gamma", "", &s.gamma}};
}

} // namespace cognitum::stages
