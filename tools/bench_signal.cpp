// Speed of conversion: chains, draws, beats and rain over arrays.
#include "bench_parts.h"
#include "core/calibrate/fit.h"
#include "core/pulses/beats.h"
#include "core/pulses/rain.h"
#include "core/signal_path/chain.h"
#include "core/uncertainty/monte_carlo.h"
#include "core/watch/backtest.h"
#include "demo/world.h"

#include <cmath>
#include <random>

namespace cognitum::bench {

Json p1() {
    constexpr std::size_t n = 10'000'000;
    std::vector<double> in(n), out(n);
    std::mt19937 random(1);
    for (double& x : in)
        x = 1 + static_cast<double>(random() % 1021);
    Adc adc;
    adc.bits = 10;
    adc.reference_V.value = 5;
    Correction correction;
    correction.offset.value = -0.62;
    correction.unit = "degC";
    const Chain chain{
        "",
        "count",
        {adc, Linear{{0.5, 0, Spread::none, {}, {}}, {0.01, 0, Spread::none, {}, {}}, "V", "degC"}, correction}};
    volatile double a = 0.48828125, b = -50.37;
    const Pair t = alternate(
        9,
        [&] {
            forward(chain, in, out);
            keep(out.data());
        },
        [&] {
            const double slope = a;
            const double offset = b;
            for (std::size_t i = 0; i < n; ++i)
                out[i] = slope * in[i] + offset;
            keep(out.data());
        });
    const double ratio = t.ours / t.baseline;
    return {{"what", "linear chain (converter, line, correction) over 10^7 samples, s; baseline y = a*x + b"},
            {"value", t.ours},
            {"baseline", t.baseline},
            {"ratio", ratio},
            {"target", "ratio <= 1.5"},
            {"met", ratio <= 1.5}};
}

Json p2() {
    constexpr std::size_t n = 1'000'000;
    std::vector<double> in(n), out(n);
    std::mt19937 random(3);
    for (double& x : in)
        x = 100 + static_cast<double>(random() % 800);
    const auto is = [](double v) { return Constant{v, 0, Spread::none, {}, {}}; };
    const Chain chain{"",
                      "count",
                      {RatioDivider{is(10000), UnknownLeg::bottom, 10},
                       ThermistorSteinhartHart{is(1.129148e-3), is(2.34125e-4), is(8.76741e-8)}}};
    volatile double a_ = 1.129148e-3, b_ = 2.34125e-4, c_ = 8.76741e-8;
    const Pair t = alternate(
        15,
        [&] {
            forward(chain, in, out);
            keep(out.data());
        },
        [&] {
            const double a = a_, b = b_, c = c_;
            for (std::size_t i = 0; i < n; ++i) {
                const double ratio = (in[i] + 0.5) / 1024;
                const double ln = std::log(10000 * ratio / (1 - ratio));
                out[i] = 1 / (a + b * ln + c * ln * ln * ln) - 273.15;
            }
            keep(out.data());
        });
    const double ratio = t.ours / t.baseline;
    return {
        {"what", "thermistor chain (divider, Steinhart-Hart) over 10^6, s; baseline the same formula in a loop"},
        {"value", t.ours},
        {"baseline", t.baseline},
        {"ratio", ratio},
        {"target", "ratio <= 1.1"},
        {"met", ratio <= 1.1}};
}

/// The Monte Carlo half of P9: six stages, ten doubtful constants.
Json p9_draws() {
    const auto about = [](double v, double u) { return Constant{v, u, Spread::standard, {}, {}}; };
    Adc adc;
    adc.bits = 12;
    adc.reference_V = about(3.3, 0.01);
    Correction correction;
    correction.offset = about(-0.4, 0.1);
    correction.unit = "degC";
    const Chain chain{"",
                      "count",
                      {adc, Scale{about(1.5, 0.01), about(0, 0.002), "V", "V"},
                       Divider{about(10000, 50), about(5, 0.01), UnknownLeg::bottom},
                       ThermistorBeta{about(10000, 60), {25, 0, Spread::none, {}, {}}, about(3950, 20)}, correction,
                       Scale{about(1, 0.001), about(0, 0), "degC", "degC"}}};
    std::vector<double> times;
    for (int i = 0; i < 5; ++i)
        times.push_back(time_s([&] {
            const MonteCarlo mc = monte_carlo(chain, 2100);
            keep(&mc);
        }));
    const double value = median(times);
    return {{"what", "Monte Carlo, 10^6 draws through a six-stage chain, s"},
            {"value", value},
            {"baseline", nullptr},
            {"ratio", nullptr},
            {"target", "<= 0.5 s"},
            {"met", value <= 0.5}};
}

/// The other half of P9: every model on a thousand points, left-out errors and all.
Json p9_fits() {
    std::vector<FitPoint> points;
    for (int i = 0; i < 1000; ++i) {
        const double x = 1 + 0.05 * i;
        points.push_back({x, 2 + 0.97 * x + 0.1 * std::sin(17.0 * i), 0.05, 0.1});
    }
    std::vector<Model> all;
    for (const std::string& name : model_names())
        all.push_back(*find_model(name));
    std::vector<double> times;
    for (int i = 0; i < 9; ++i)
        times.push_back(time_s([&] {
            const auto choice = choose_model(points, all);
            keep(&choice);
        }));
    const double value = median(times);
    return {{"what", "all candidate fits on 1 000 points, s"},
            {"value", value},
            {"baseline", nullptr},
            {"ratio", nullptr},
            {"target", "<= 0.05 s"},
            {"met", value <= 0.05}};
}

/// A detector or a totaliser against one pass that sums the same array.
Json against_a_sum(const std::string& what, const std::function<void()>& ours, const std::function<void()>& sum) {
    const Pair t = alternate(5, ours, sum);
    return {{"what", what},       {"value", t.ours},     {"baseline", t.baseline}, {"ratio", t.ours / t.baseline},
            {"target", "<= 1 s"}, {"met", t.ours <= 1.0}};
}

Json beats_of_ten_million() {
    constexpr std::size_t n = 10'000'000;
    std::vector<double> wave(n);
    for (std::size_t i = 0; i < n; ++i)
        wave[i] = 505 + 150 * demo::pulse_wave(1, static_cast<TimeUs>(i % 60'000) * 10'000);
    return against_a_sum(
        "beats of 10^7 samples at 100 Hz, s; baseline one sum over them",
        [&] {
            const Beats beats = find_beats(wave, 100);
            keep(&beats);
        },
        [&] {
            double sum = 0;
            for (const double x : wave)
                sum += x;
            keep(&sum);
        });
}

Json rain_of_a_million() {
    std::vector<TimeUs> tips;
    std::mt19937 random(4);
    for (TimeUs t = 0; tips.size() < 1'000'000; t += 50'000 + static_cast<TimeUs>(random() % 100'000'000))
        tips.push_back(t);
    return against_a_sum(
        "rain of 10^6 tips, s; baseline one sum over them",
        [&] {
            const RainTotals rain = rain_totals(tips, 0.2);
            keep(&rain);
        },
        [&] {
            TimeUs sum = 0;
            for (const TimeUs t : tips)
                sum += t;
            keep(&sum);
        });
}

Json p14() {
    constexpr std::size_t n = 10'000'000;
    std::vector<TimedNumber> series(n);
    std::mt19937 random(14);
    double v = 50;
    for (std::size_t i = 0; i < n; ++i) {
        v = std::clamp(v + static_cast<double>(random() % 2001) / 1000 - 1, 0.0, 100.0);
        series[i] = {static_cast<TimeUs>(i) * second_us, v};
    }
    std::vector<BacktestRule> rules(5);
    for (std::size_t i = 0; i < rules.size(); ++i) {
        WatchRule& rule = rules[i].rule;
        rule.name = "rule " + std::to_string(i);
        WatchCondition c;
        c.when = i % 2 ? WatchWhen::below : WatchWhen::above;
        c.value = 10 + 20 * static_cast<double>(i);
        c.clear = c.value + (i % 2 ? 5 : -5);
        rule.conditions = {c};
        rule.count = 3;
        rule.for_s = 10;
        rule.repeat_s = 3600;
        rules[i].silent_after_s = 60;
    }
    std::size_t events = 0;
    const Pair t = alternate(
        5,
        [&] {
            Backtest backtest(rules);
            backtest.take(series);
            events = backtest.events().size();
        },
        [&] {
            double sum = 0;
            for (const TimedNumber& s : series)
                sum += s.value;
            keep(&sum);
        });
    return {{"what", "five watch rules over 10^7 samples, s; baseline one sum over them"},
            {"value", t.ours},
            {"baseline", t.baseline},
            {"ratio", t.ours / t.baseline},
            {"events", events},
            {"target", "<= 1 s"},
            {"met", t.ours <= 1}};
}

} // namespace cognitum::bench
