// Lines, scales, curves and formulas: stages that mean what their units say.
#include "core/base/phrase.h"
#include "core/physics/steffen.h"
#include "core/signal_path/numeric_inverse.h"
#include "core/signal_path/stage_parts.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <array>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

bool Formula::operator==(const Formula& other) const {
    return expression == other.expression && names == other.names && low == other.low && high == other.high &&
           input_unit == other.input_unit && unit == other.unit;
}

double Formula::evaluate(double x) const {
    std::array<double, 16> values{};
    const std::size_t count = std::min(values.size(), names.size());
    for (std::size_t i = 0; i < count; ++i)
        values[i] = names[i].second.value;
    return program.evaluate(x, std::span(values).first(count));
}

} // namespace cognitum

namespace cognitum::stages {

Value forward_of(const Linear& s, double x) {
    return finite_or((x - s.zero.value) / s.slope.value);
}
Value inverse_of(const Linear& s, double y) {
    return finite_or(y * s.slope.value + s.zero.value);
}
Units units_of(const Linear& s) {
    return {s.input_unit, s.unit};
}
const char* title_of(const Linear& s) {
    const Unit* unit = find_unit(s.unit);
    if (!unit) return phrase("Straight line");
    switch (unit->dimension) {
    case Dimension::temperature: return phrase("Temperature");
    case Dimension::pressure: return phrase("Pressure");
    case Dimension::conductivity: return phrase("Conductivity");
    case Dimension::illuminance: return phrase("Light");
    case Dimension::length: return phrase("Length");
    case Dimension::flow: return phrase("Flow");
    case Dimension::speed: return phrase("Speed");
    case Dimension::voltage: return phrase("Voltage");
    case Dimension::current: return phrase("Current");
    default: return phrase("Straight line");
    }
}
namespace {

std::string number_with_unit(const std::string& number, const std::string& unit) {
    return unit.empty() ? number : number + " " + unit;
}

} // namespace

std::string arithmetic_of(const Linear& s, double x) {
    const std::string unit = unit_symbol(s.input_unit);
    return fmt::format("({}{}) ÷ {}", number_with_unit(num(x), unit), number_with_unit(minus(s.zero.value), unit),
                       number_with_unit(num(s.slope.value), unit_symbol(quotient_unit(s.input_unit, s.unit))));
}
Constants constants_of(Linear& s) {
    return {{"zero", s.input_unit, &s.zero}, {"slope", quotient_unit(s.input_unit, s.unit), &s.slope}};
}

Value forward_of(const Scale& s, double x) {
    return finite_or(s.factor.value * x + s.offset.value);
}
Value inverse_of(const Scale& s, double y) {
    return finite_or((y - s.offset.value) / s.factor.value);
}
Units units_of(const Scale& s) {
    return {s.input_unit, s.unit};
}
const char* title_of(const Scale&) {
    return phrase("Scaled");
}
std::string arithmetic_of(const Scale& s, double x) {
    return fmt::format("{} × {}{}", num(s.factor.value), num(x),
                       s.offset.value == 0 ? std::string() : plus(s.offset.value));
}
Constants constants_of(Scale& s) {
    return {{"factor", "", &s.factor}, {"offset", s.unit, &s.offset}};
}

Value forward_of(const Between& s, double x) {
    const double percent = 100 * (x - s.at_0.value) / (s.at_100.value - s.at_0.value);
    if (percent < -5) return Value::none(Cause::below_empty);
    if (percent > 105) return Value::none(Cause::overfull);
    return finite_or(percent);
}
Value inverse_of(const Between& s, double y) {
    if (y < -5) return Value::none(Cause::below_empty);
    if (y > 105) return Value::none(Cause::overfull);
    return finite_or(s.at_0.value + y / 100 * (s.at_100.value - s.at_0.value));
}
Units units_of(const Between& s) {
    return {s.input_unit, "%"};
}
const char* title_of(const Between&) {
    return phrase("Between two points");
}
std::string arithmetic_of(const Between& s, double x) {
    const std::string unit = unit_symbol(s.input_unit);
    const std::string less = minus(s.at_0.value);
    return fmt::format("{} ÷ {}", number_with_unit(fmt::format("({}{})", num(x), less), unit),
                       number_with_unit(fmt::format("({}{})", num(s.at_100.value), less), unit));
}
Constants constants_of(Between& s) {
    return {{"at_0", s.input_unit, &s.at_0}, {"at_100", s.input_unit, &s.at_100}};
}

Value forward_of(const Threshold& s, double x) {
    const double beyond = (x - s.level.value) * (s.above_is_on ? 1 : -1);
    if (std::abs(beyond) < s.hysteresis.value / 2) return Value::none(Cause::undecided);
    return {beyond >= 0 ? 1.0 : 0.0};
}
Value inverse_of(const Threshold&, double) {
    return Value::none(Cause::ambiguous);
}
Units units_of(const Threshold& s) {
    return {s.input_unit, "1"};
}
const char* title_of(const Threshold&) {
    return phrase("On or off");
}
std::string arithmetic_of(const Threshold& s, double x) {
    return phrase("on {} {}, and it is {}", s.above_is_on ? phrase("above") : phrase("below"),
                  format_measure(s.level.value, s.input_unit, 5), format_measure(x, s.input_unit, 5));
}
Constants constants_of(Threshold& s) {
    return {{"level", s.input_unit, &s.level}, {"hysteresis", s.input_unit, &s.hysteresis}};
}

namespace {

/// The point of a table that an input stands for; −1: none is near.
std::ptrdiff_t nearest_point(const std::vector<double>& points, double x, double share) {
    std::ptrdiff_t best = -1;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const double off = std::abs(x - points[i]);
        if (off <= share * std::abs(points[i]) &&
            (best < 0 || off < std::abs(x - points[static_cast<std::size_t>(best)])))
            best = static_cast<std::ptrdiff_t>(i);
    }
    return best;
}
constexpr double near_share = 0.08; ///< resistors of 5 %, and the divider's own

} // namespace

Value forward_of(const Table& s, double x) {
    if (s.nearest) {
        const std::ptrdiff_t i = nearest_point(s.inputs, x, near_share);
        return i < 0 ? Value::none(Cause::undecided) : Value{s.outputs[static_cast<std::size_t>(i)]};
    }
    return finite_or(physics::steffen(s.inputs, s.outputs, x));
}
Value inverse_of(const Table& s, double y) {
    if (s.inputs.empty()) return Value::none(Cause::out_of_range);
    if (s.nearest) {
        const auto at = std::min_element(s.outputs.begin(), s.outputs.end(),
                                         [&](double a, double b) { return std::abs(a - y) < std::abs(b - y); });
        return {s.inputs[static_cast<std::size_t>(at - s.outputs.begin())]};
    }
    return numeric_inverse([&](double x) { return physics::steffen(s.inputs, s.outputs, x); }, y, s.inputs.front(),
                           s.inputs.back());
}
Units units_of(const Table& s) {
    return {s.input_unit, s.unit};
}
const char* title_of(const Table&) {
    return phrase("From a table");
}
std::string arithmetic_of(const Table& s, double x) {
    if (s.nearest) return phrase("{} {}, the nearest of {}", num(x), unit_symbol(s.input_unit), s.inputs.size());
    return phrase("{} {} in a curve through {} points", num(x), unit_symbol(s.input_unit), s.inputs.size());
}
Constants constants_of(Table&) {
    return {};
}

Value forward_of(const Formula& s, double x) {
    if (s.low < s.high && (x < s.low || x > s.high)) return Value::none(Cause::out_of_range);
    return finite_or(s.evaluate(x));
}
Value inverse_of(const Formula& s, double y) {
    return numeric_inverse([&](double x) { return s.evaluate(x); }, y, s.low, s.high);
}
Units units_of(const Formula& s) {
    return {s.input_unit, s.unit};
}
const char* title_of(const Formula&) {
    return phrase("Own formula");
}
std::string arithmetic_of(const Formula& s, double x) {
    return fmt::format("{}, x = {}", s.expression, num(x));
}
Constants constants_of(Formula& s) {
    Constants out;
    for (auto& [name, constant] : s.names)
        out.push_back({name, "", &constant});
    return out;
}

Value forward_of(const Correction& s, double x) {
    return finite_or(s.gain.value * x + s.offset.value);
}
Value inverse_of(const Correction& s, double y) {
    return finite_or((y - s.offset.value) / s.gain.value);
}
Units units_of(const Correction& s) {
    return {s.unit, s.unit};
}
const char* title_of(const Correction&) {
    return phrase("Corrected");
}
std::string arithmetic_of(const Correction& s, double x) {
    if (s.gain.value == 1 && s.offset.value == 0) return phrase("{}, as it is", num(x));
    const std::string scaled = s.gain.value == 1 ? num(x) : fmt::format("{} × {}", num(s.gain.value), num(x));
    return s.offset.value == 0 ? scaled : scaled + plus(s.offset.value);
}
Constants constants_of(Correction& s) {
    return {{"gain", "", &s.gain}, {"offset", s.unit, &s.offset}};
}

Value forward_of(const CorrectionCurve& s, double x) {
    return finite_or(physics::steffen_and_on(s.inputs, s.outputs, x));
}
Value inverse_of(const CorrectionCurve& s, double y) {
    if (s.inputs.size() < 2) return Value::none(Cause::out_of_range);
    const double span = s.inputs.back() - s.inputs.front();
    return numeric_inverse([&](double x) { return physics::steffen_and_on(s.inputs, s.outputs, x); }, y,
                           s.inputs.front() - span, s.inputs.back() + span);
}
Units units_of(const CorrectionCurve& s) {
    return {s.unit, s.unit};
}
const char* title_of(const CorrectionCurve&) {
    return phrase("Corrected");
}
std::string arithmetic_of(const CorrectionCurve& s, double x) {
    return phrase("{} {} on the curve of the calibration", num(x), unit_symbol(s.unit));
}
Constants constants_of(CorrectionCurve&) {
    return {};
}

} // namespace cognitum::stages
