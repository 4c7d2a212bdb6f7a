#include "core/program/stage_code.h"

#include "core/base/phrase.h"
#include "core/program/driver.h"
#include "core/units/unit.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

constexpr double zero_degC_K = 273.15;

/// Largest code of a converter, which is a rail and no measurement.
double top_code(int bits) {
    return std::ldexp(1.0, bits) - 1;
}

std::string rails(int bits) {
    return fmt::format("    if (x <= 0 || x >= {:.0f}) return NAN; // a rail\n", top_code(bits));
}

std::string line(const std::string& expression, const std::string& what) {
    return fmt::format("    x = {}; // {}\n", expression, comment_text(what));
}

/// Ohm of the unknown resistor, from the share of the supply at the tap.
std::string from_share(const Constant& fixed, UnknownLeg unknown) {
    return unknown == UnknownLeg::bottom ? fmt::format("{} * x / (1 - x)", float_text(fixed.value))
                                         : fmt::format("{} * (1 - x) / x", float_text(fixed.value));
}

/// One stage; empty: it is not written for a board.
struct Coder {
    std::string operator()(const Adc& s) const {
        const double divisor = top_code(s.bits) + (s.convention == CodeConvention::two_to_n ? 1 : 0);
        return rails(s.bits) + line(fmt::format("{} * {} / {}", s.centre ? "(x + 0.5)" : "x",
                                                float_text(s.reference_V.value), float_text(divisor)),
                                    "V");
    }
    std::string operator()(const Linear& s) const {
        return line(fmt::format("(x - {}) / {}", float_text(s.zero.value), float_text(s.slope.value)),
                    unit_symbol(s.unit));
    }
    std::string operator()(const Scale& s) const {
        return line(fmt::format("{} * x + {}", float_text(s.factor.value), float_text(s.offset.value)),
                    unit_symbol(s.unit));
    }
    std::string operator()(const Divider& s) const {
        if (s.load_ohm.value > 0) return {};
        return line(fmt::format("x / {}", float_text(s.supply_V.value)), "share of the supply") +
               "    if (x <= 0 || x >= 1) return NAN;\n" + line(from_share(s.fixed_ohm, s.unknown), "ohm");
    }
    std::string operator()(const RatioDivider& s) const {
        if (s.load_ohm.value > 0) return {};
        return rails(s.bits) +
               line(fmt::format("(x + 0.5) / {}", float_text(top_code(s.bits) + 1)), "share of the supply") +
               line(from_share(s.fixed_ohm, s.unknown), "ohm");
    }
    std::string operator()(const ThermistorBeta& s) const {
        return "    if (x <= 0) return NAN;\n" +
               line(fmt::format("1 / (1 / {} + log(x / {}) / {}) - 273.15",
                                float_text(s.t0_degC.value + zero_degC_K), float_text(s.r0_ohm.value),
                                float_text(s.beta_K.value)),
                    "°C");
    }
    std::string operator()(const ThermistorSteinhartHart& s) const {
        return "    if (x <= 0) return NAN;\n    x = log(x);\n" +
               line(fmt::format("1 / ({} + {} * x + {} * x * x * x) - 273.15", float_text(s.a.value),
                                float_text(s.b.value), float_text(s.c.value)),
                    "°C");
    }
    std::string operator()(const Echo& s) const {
        return "    if (x <= 0) return NAN;\n" +
               line(fmt::format("x * {}", float_text(s.speed() / 2000)), "mm, at the assumed temperature");
    }
    std::string operator()(const LevelBelow& s) const {
        return line(fmt::format("{} - x", float_text(s.mount_height_mm.value)), "mm");
    }
    std::string operator()(const Between& s) const {
        return line(fmt::format("100 * (x - {}) / {}", float_text(s.at_0.value),
                                float_text(s.at_100.value - s.at_0.value)),
                    "%") +
               "    if (x < -5 || x > 105) return NAN;\n";
    }
    std::string operator()(const Conductivity25& s) const {
        if (s.compensation != Conductivity25::Compensation::linear) return {};
        return line(fmt::format("x / {}", float_text(1 + s.alpha_per_K.value * (s.temperature_degC.value - 25))),
                    "at 25 °C, at the assumed temperature");
    }
    std::string operator()(const Correction& s) const {
        return line(fmt::format("{} * x + {}", float_text(s.gain.value), float_text(s.offset.value)), "calibrated");
    }
    template <typename Other>
    std::string operator()(const Other&) const {
        return {};
    }
};

} // namespace

std::string float_text(double value) {
    std::string out = fmt::format("{:.7g}", value); // what a float of 24 bits holds
    if (out.find_first_of(".e") == std::string::npos) out += ".0";
    return value < 0 ? "(" + out + ")" : out;
}

Result<std::string> stage_code(const Chain& chain) {
    std::string out;
    for (const Stage& stage : chain.stages) {
        const std::string lines = std::visit(Coder{}, static_cast<const StageVariant&>(stage));
        if (lines.empty())
            return failure(phrase("“{}” is not computed on a board.", stage_title(stage)), {},
                           phrase("Its value stays with the computer."));
        out += lines;
    }
    return out;
}

} // namespace cognitum::program
