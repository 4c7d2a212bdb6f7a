// A chain over whole arrays, stage by stage: straight stages folded into one line, curved ones in a loop each.
#include "core/base/no_number.h"
#include "core/physics/thermometry.h"
#include "core/signal_path/chain.h"
#include "core/signal_path/stage_parts.h"

#include <cmath>
#include <limits>
#include <stdexcept>

namespace cognitum {

namespace {

/// y = a·x + b for x strictly inside (low, high), else NaN; written without a branch so that it vectorises.
void line_within(std::span<const double> in, std::span<double> out, Affine line, double low, double high) {
    const double* x = in.data();
    double* y = out.data();
    const std::size_t n = in.size();
    for (std::size_t i = 0; i < n; ++i) {
        const double value = x[i];
        y[i] = ((value > low) & (value < high)) ? line.a * value + line.b : no_number;
    }
}

/// One kind of stage over an array; those that sensors use most are written out, so that nothing is called inside.
/// A tap with a load on it is rare, and goes through the general one.
template <typename S>
void each(const S& s, std::span<const double> in, std::span<double> out) {
    for (std::size_t i = 0; i < in.size(); ++i)
        out[i] = std::isfinite(in[i]) ? stages::forward_of(s, in[i]).number : no_number;
}
void each(const RatioDivider& s, std::span<const double> in, std::span<double> out) {
    if (s.load_ohm.value > 0) return each<RatioDivider>(s, in, out);
    const double codes = stages::codes(s.bits), fixed = s.fixed_ohm.value;
    const bool bottom = s.unknown == UnknownLeg::bottom;
    for (std::size_t i = 0; i < in.size(); ++i) {
        const double x = in[i], low = x + 0.5, high = codes - low;
        out[i] = x > 0 && x < codes - 1 ? fixed * (bottom ? low / high : high / low) : no_number;
    }
}
void each(const Divider& s, std::span<const double> in, std::span<double> out) {
    if (s.load_ohm.value > 0) return each<Divider>(s, in, out);
    const double supply = s.supply_V.value, fixed = s.fixed_ohm.value;
    const bool bottom = s.unknown == UnknownLeg::bottom;
    for (std::size_t i = 0; i < in.size(); ++i) {
        const double x = in[i], rest = supply - x;
        out[i] = x > 0 && rest > 0 ? fixed * (bottom ? x / rest : rest / x) : no_number;
    }
}
void each(const ThermistorSteinhartHart& s, std::span<const double> in, std::span<double> out) {
    const double a = s.a.value, b = s.b.value, c = s.c.value;
    for (std::size_t i = 0; i < in.size(); ++i)
        out[i] = physics::steinhart_hart_temperature(in[i], a, b, c);
}
void each(const ThermistorBeta& s, std::span<const double> in, std::span<double> out) {
    const double r0 = s.r0_ohm.value, t0 = s.t0_degC.value, beta = s.beta_K.value;
    for (std::size_t i = 0; i < in.size(); ++i)
        out[i] = physics::thermistor_beta_temperature(in[i], r0, t0, beta);
}

/// A loop is no line: outside of its range the transmitter says that it failed.
bool is_line(const Stage& stage, Affine& line) {
    return !std::holds_alternative<CurrentLoop>(stage) && as_affine(stage, line);
}

} // namespace

void forward(const Chain& chain, std::span<const double> in, std::span<double> out) {
    if (in.size() != out.size()) throw std::invalid_argument("forward: spans of different size");
    constexpr double infinity = std::numeric_limits<double>::infinity();
    std::span<const double> from = in;
    std::size_t stage = 0;
    do {
        Affine folded{1, 0};
        double low = -infinity;
        double high = infinity;
        Affine line{};
        const std::size_t first = stage;
        for (; stage < chain.stages.size() && is_line(chain.stages[stage], line); ++stage) {
            if (const auto* adc = std::get_if<Adc>(&chain.stages[stage])) {
                if (stage != first) break; // a converter checks its own input, so it starts a pass
                low = 0;
                high = std::ldexp(1.0, adc->bits) - 1;
            }
            folded = {line.a * folded.a, line.a * folded.b + line.b};
        }
        if (stage > first || chain.stages.empty()) {
            line_within(from, out, folded, low, high);
        } else {
            std::visit([&](const auto& curved) { each(curved, from, out); }, chain.stages[stage++]);
        }
        from = out;
    } while (stage < chain.stages.size());
}

} // namespace cognitum
