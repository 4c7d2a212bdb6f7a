#include "core/signal_path/board_arithmetic.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <fmt/format.h>
#include <limits>

namespace cognitum {

namespace {

std::string whole(double value) {
    return std::isfinite(value) ? fmt::format("{:.0f}", std::round(value) + 0.0) : std::string(); // −0 is 0
}

/// A number as a program writes it, for the line that would mend it.
std::string code(double value) {
    std::string text = fmt::format("{:.6g}", value);
    if (text.find_first_of(".e") == std::string::npos) text += ".0";
    return text;
}

/// The value after each step, each result dropped to a whole number; volts are kept as millivolts.
double whole_steps(const Chain& chain, double raw) {
    Value value{std::trunc(raw)};
    for (const Stage& stage : chain.stages) {
        value = forward(stage, value.number);
        if (!value.ok()) return no_number;
        const double scale = same_unit(output_unit(stage), "V") ? 1000 : 1;
        value.number = std::trunc(value.number * scale) / scale;
    }
    return value.number;
}

double single_precision(const Chain& chain, double raw) {
    Value value{static_cast<double>(static_cast<float>(raw))};
    for (const Stage& stage : chain.stages) {
        value = forward(stage, value.number);
        if (!value.ok()) return no_number;
        value.number = static_cast<double>(static_cast<float>(value.number));
    }
    return value.number;
}

/// From a voltage on, through the stages behind the converter.
double from_volts(const Chain& chain, double volts) {
    Value value{volts};
    for (std::size_t i = 1; i < chain.stages.size() && value.ok(); ++i)
        value = forward(chain.stages[i], value.number);
    return value.ok() ? value.number : no_number;
}

struct Ways {
    std::vector<SenderWay> list;
    double truth;
    void add(SenderWay way) {
        way.error = way.value - truth;
        list.push_back(std::move(way));
    }
};

void add_converter_ways(Ways& ways, const Chain& chain, const Adc& adc, double raw) {
    const double steps = std::ldexp(1.0, adc.bits);
    const double reference_mV = std::round(1000 * adc.reference_V.value);
    const std::string mend =
        fmt::format("float volts = (code + 0.5) * {} / {};", code(adc.reference_V.value), code(steps));

    const double volts = std::trunc(raw * adc.reference_V.value / steps);
    ways.add({"whole-volts", phrase("Whole volts"), whole(from_volts(chain, volts)), from_volts(chain, volts), 0,
              phrase("code × {} ÷ {} in whole numbers is {} V: the fraction is dropped before it is used.",
                     format_constant(adc.reference_V.value), format_constant(steps, 7), whole(volts)),
              mend});

    const double product = raw * reference_mV;
    if (product > 32767) {
        const auto wrapped =
            static_cast<std::int16_t>(static_cast<std::uint16_t>(static_cast<std::uint64_t>(product) & 0xffff));
        const double mV = std::trunc(wrapped / steps);
        ways.add(
            {"sixteen-bits", phrase("A product in 16 bits"), whole(from_volts(chain, mV / 1000)),
             from_volts(chain, mV / 1000), 0,
             phrase("code × {} is {}; 16 bits end at 32 767, so it becomes {}.", format_constant(reference_mV, 7),
                    format_constant(product, 9), format_constant(static_cast<double>(wrapped), 7)),
             fmt::format("long mV = (long)code * {} / {};", whole(reference_mV), whole(steps))});
    }

    // A rescale in whole numbers: the ends of the scale are rounded, and so is what comes out.
    const double low = forward(chain, 1).number, high = forward(chain, steps - 2).number;
    if (std::isfinite(low) && std::isfinite(high) && std::abs(high - low) >= 2) {
        const double from = std::trunc(low), to = std::trunc(high);
        const double value = std::trunc(raw * (to - from) / (steps - 1)) + from;
        ways.add({"whole-rescale", phrase("A rescale in whole numbers"), whole(value), value, 0,
                  phrase("0…{} onto {}…{}: whole ends, whole results{}.", format_constant(steps - 1, 7),
                         whole(from), whole(to),
                         std::abs(forward(chain, steps / 2).number - (low + high) / 2) > 0.02 * std::abs(high - low)
                             ? phrase(", and a straight line where there is a curve")
                             : ""),
                  mend});
    }
}

} // namespace

std::vector<SenderWay> sender_ways(const Chain& chain, double raw) {
    const Value truth = forward(chain, raw);
    if (!truth.ok() || chain.stages.empty()) return {};
    Ways ways{{}, truth.number};
    const std::string unit = unit_symbol(chain.last_unit());
    if (const auto* adc = std::get_if<Adc>(&chain.stages.front())) add_converter_ways(ways, chain, *adc, raw);
    const double steps = whole_steps(chain, raw);
    ways.add({"whole-numbers", phrase("Whole numbers in every step"), whole(steps), steps, 0,
              phrase("Each step drops its fraction, so that errors add up from step to step."),
              phrase("Write the numbers with a point: 5.0, not 5.")});
    const double cut = std::trunc(truth.number);
    ways.add({"cut-off", phrase("The result as a whole number"), whole(cut), cut, 0,
              phrase("{} becomes {}: what stands behind the point is dropped, not rounded.",
                     format_measure(truth.number, chain.last_unit(), 6), whole(cut)),
              "Serial.println(value, 2);   // a float with two decimals"});
    const double two = std::round(truth.number * 100) / 100;
    ways.add({"two-decimals", phrase("A float with two decimals"), fmt::format("{:.2f}", truth.number), two, 0,
              phrase("Rounded to 0.01 {}.", unit), ""});
    const double single = single_precision(chain, raw);
    ways.add({"single-precision", phrase("Floats of 32 bits"), fmt::format("{:.7g}", single), single, 0,
              phrase("Seven digits carry any sensor; what is lost is far below one count."), ""});
    return ways.list;
}

std::optional<FactorParts> take_apart(double factor, const Chain& chain) {
    if (chain.stages.size() < 2 || !std::isfinite(factor) || factor == 0) return {};
    const auto* adc = std::get_if<Adc>(&chain.stages.front());
    if (!adc) return {};
    double per_volt = 1;
    Affine line{};
    for (std::size_t i = 1; i < chain.stages.size(); ++i) {
        if (!as_affine(chain.stages[i], line)) return {};
        per_volt *= line.a;
    }
    if (per_volt == 0) return {};
    FactorParts out;
    out.factor = factor;
    Affine own{};
    as_affine(chain.stages.front(), own);
    out.right = own.a * per_volt;
    out.off = factor / out.right - 1;
    out.fits = std::abs(out.off) < 0.005;

    double best = std::numeric_limits<double>::infinity();
    for (const double volts : {1.0, 1.1, 1.5, 2.048, 2.5, 2.56, 3.0, 3.3, 4.096, 5.0})
        for (const int bits : {8, 10, 12, 14, 15, 16})
            for (const auto convention : {CodeConvention::two_to_n, CodeConvention::two_to_n_minus_1}) {
                const double codes =
                    std::ldexp(1.0, bits) - (convention == CodeConvention::two_to_n_minus_1 ? 1 : 0);
                const double off = std::abs(factor / (volts / codes * per_volt) - 1);
                // Rounded factors fit several: this board's own bits and the plain convention come first.
                const double cost = std::max(off, 0.0015) + (bits == adc->bits ? 0 : 0.002) +
                                    (convention == CodeConvention::two_to_n ? 0 : 0.0003);
                if (off < 0.01 && cost < best) {
                    best = cost;
                    out.reference_V = volts;
                    out.bits = bits;
                    out.convention = convention;
                }
            }
    const std::string slope = format_measure(1000 / per_volt, quotient_unit("mV", chain.last_unit()), 3);
    const std::string here = phrase("{} and {} codes", format_measure(adc->reference_V.value, "V", 4),
                                    format_constant(std::ldexp(1.0, adc->bits), 7));
    if (out.bits == 0)
        out.sentence = phrase("{} per count fits no usual reference with {}; here it is {} ({}).",
                              format_constant(factor, 4), slope, format_constant(out.right, 4), here);
    else if (out.fits)
        out.sentence =
            phrase("{} per count is {} at {}: it fits this board.", format_constant(factor, 4), slope, here);
    else
        out.sentence = phrase(
            "{} per count is {} at {} and {} codes. This board has {}: there it is {}, and the copied factor reads "
            "{}.",
            format_constant(factor, 4), slope, format_measure(out.reference_V, "V", 4),
            format_constant(std::ldexp(1.0, out.bits) - (out.convention == CodeConvention::two_to_n ? 0 : 1), 7),
            here, format_constant(out.right, 4),
            out.off < -0.5 || out.off > 1 ? phrase("{} times as much", format_constant(factor / out.right, 2))
                                          : phrase("{} % too {}", format_constant(std::abs(100 * out.off), 2),
                                                   out.off > 0 ? phrase("much") : phrase("little")));
    return out;
}

double convention_gap(const Chain& chain, double raw) {
    if (chain.stages.empty() || !std::holds_alternative<Adc>(chain.stages.front())) return no_number;
    Chain other = chain;
    auto& adc = std::get<Adc>(other.stages.front());
    adc.convention =
        adc.convention == CodeConvention::two_to_n ? CodeConvention::two_to_n_minus_1 : CodeConvention::two_to_n;
    const Value a = forward(chain, raw), b = forward(other, raw);
    return a.ok() && b.ok() ? b.number - a.number : no_number;
}

std::optional<FixedSpeed> with_fixed_speed(const Chain& chain, double raw, double fixed_m_s) {
    const Walk real = walk(chain, raw);
    for (std::size_t i = 0; i < chain.stages.size(); ++i) {
        const auto* echo = std::get_if<Echo>(&chain.stages[i]);
        if (!echo || !real.result().ok()) continue;
        Chain fixed = chain;
        auto& other = std::get<Echo>(fixed.stages[i]);
        other.air = Echo::Air::fixed_speed;
        other.speed_m_s = {fixed_m_s, 0, Spread::none, {}, {}};
        const Walk wrong = walk(fixed, raw);
        if (!wrong.steps[i + 1].ok()) return {};
        return FixedSpeed{fixed_m_s, echo->speed(), wrong.steps[i + 1].number - real.steps[i + 1].number,
                          wrong.result().number - real.result().number};
    }
    return {};
}

} // namespace cognitum
