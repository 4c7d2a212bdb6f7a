#include "core/plan/electrical.h"

#include "core/units/format.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

const std::vector<double>& e_series(int series) {
    static const std::vector<double> e12 = {1.0, 1.2, 1.5, 1.8, 2.2, 2.7, 3.3, 3.9, 4.7, 5.6, 6.8, 8.2};
    static const std::vector<double> e24 = {1.0, 1.1, 1.2, 1.3, 1.5, 1.6, 1.8, 2.0, 2.2, 2.4, 2.7, 3.0,
                                            3.3, 3.6, 3.9, 4.3, 4.7, 5.1, 5.6, 6.2, 6.8, 7.5, 8.2, 9.1};
    return series == 12 ? e12 : e24;
}

double loaded_output(const LevelDivider& divider, double input_V, double load_ohm) {
    if (!divider.there()) return input_V;
    double bottom = divider.bottom_ohm;
    if (load_ohm > 0) bottom = bottom * load_ohm / (bottom + load_ohm);
    return input_V * bottom / (divider.top_ohm + bottom);
}

namespace {

/// Every pair of a series that does what is asked.
std::vector<DividerChoice> fitting_pairs(int series, const DividerAsk& ask) {
    std::vector<double> values;
    for (const double decade : {1e3, 1e4})
        for (const double v : e_series(series))
            values.push_back(v * decade);
    std::vector<DividerChoice> out;
    for (const double top : values)
        for (const double bottom : values) {
            const LevelDivider pair{top, bottom};
            if (pair.top_ohm + pair.bottom_ohm < 3e3 || pair.top_ohm + pair.bottom_ohm > 30e3) continue;
            const double worst = highest_output(pair, ask.highest_V, ask.load_ohm);
            if (worst > ask.limit_V || lowest_output(pair, ask.lowest_V, ask.load_ohm) < ask.floor_V) continue;
            out.push_back({pair, series, loaded_output(pair, ask.input_V, ask.load_ohm), worst,
                           (ask.limit_V - worst) / ask.limit_V});
        }
    return out;
}

/// The highest output wins; among those that are as high the one nearest to 5 kΩ in all: stiff, and not thirsty.
std::optional<DividerChoice> best_of(int series, const DividerAsk& ask) {
    std::vector<DividerChoice> pairs = fitting_pairs(series, ask);
    double highest = 0;
    for (const DividerChoice& choice : pairs)
        highest = std::max(highest, choice.output_V);
    std::erase_if(pairs, [&](const DividerChoice& c) { return c.output_V < highest - 0.004 * ask.limit_V; });
    const auto from_5_kohm = [](const DividerChoice& c) {
        return std::abs(std::log((c.divider.top_ohm + c.divider.bottom_ohm) / 5e3));
    };
    const auto nearest = std::min_element(pairs.begin(), pairs.end(), [&](const auto& a, const auto& b) {
        return from_5_kohm(a) < from_5_kohm(b) - 1e-12;
    });
    return nearest == pairs.end() ? std::optional<DividerChoice>() : *nearest;
}

} // namespace

double highest_output(const LevelDivider& divider, double input_V, double load_ohm) {
    return loaded_output({divider.top_ohm * 0.99, divider.bottom_ohm * 1.01}, input_V, load_ohm);
}
double lowest_output(const LevelDivider& divider, double input_V, double load_ohm) {
    return loaded_output({divider.top_ohm * 1.01, divider.bottom_ohm * 0.99}, input_V, load_ohm);
}

std::optional<DividerChoice> choose_divider(const DividerAsk& ask) {
    const auto coarse = best_of(12, ask);
    // A coarse pair that leaves more than a tenth of the span unused gives way to a fine one.
    if (coarse && coarse->output_V >= 0.9 * ask.limit_V) return coarse;
    const auto fine = best_of(24, ask);
    return fine ? fine : coarse;
}

double rise_time_ns(double pull_up_ohm, double capacitance_pF) {
    return 0.8473 * pull_up_ohm * capacitance_pF * 1e-3;
}
double rise_limit_ns(double kHz) {
    return kHz <= 100 ? 1000 : kHz <= 400 ? 300 : 120;
}
double strongest_pull_up_ohm(double supply_V) {
    return (supply_V - 0.4) / 0.003;
}
double weakest_pull_up_ohm(double kHz, double capacitance_pF) {
    return rise_limit_ns(kHz) / (0.8473 * capacitance_pF * 1e-3);
}

std::string volts(double v) {
    return format_measure(v, "V", 3);
}

std::string milliamps(double mA) {
    return format_measure(mA, "mA", 3);
}

} // namespace cognitum
