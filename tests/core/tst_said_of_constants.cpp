// What calibration turns into constants: a thermistor's curve, a threshold between two states, a bucket's stops, a
// vessel's table, lines for a board; and two series side by side. To four digits, beside what was read by a person
// and kept in tests/fixtures/said.
#include "core/calibrate/board_constants.h"
#include "core/calibrate/compare.h"
#include "core/calibrate/special.h"
#include "support/chains.h"
#include "support/run_tests.h"
#include "support/said.h"

#include <functional>
#include <random>

using namespace cognitum;
using test::add_said;
using test::chain_of;

namespace {

std::string in_four(double x) {
    return std::abs(x) < 1e-9 ? "0" : fmt::format("{:.4g}", x);
}

std::string thermistors() {
    std::string out;
    const std::vector<std::pair<const char*, std::vector<ResistancePair>>> sets = {
        {"two pairs", {{0, 32650}, {50, 3603}}},
        {"three pairs", {{0, 32650}, {25, 10000}, {50, 3603}}},
        {"five, one wild", {{0, 32650}, {10, 19900}, {25, 11500}, {40, 5327}, {50, 3603}}},
        {"three with doubts", {{0, 32650, 0.1}, {25, 10100, 1}, {50, 3603, 0.1}}},
        {"doubts of two alone", {{0, 32650, 0.1}, {25, 10100}, {50, 3603, 0.1}}},
        {"one pair", {{25, 10000}}},
        {"one temperature twice", {{25, 10000}, {25, 10010}}},
        {"grows as it warms", {{0, 1000}, {50, 1190}}},
        {"no resistance", {{0, 0}, {50, 3603}}},
        {"below absolute zero", {{-273.15, 5000}, {50, 3603}}},
        {"very cold", {{-273.14, 5000}, {50, 3603}}},
    };
    for (const auto& [what, pairs] : sets) {
        const auto fit = fit_thermistor(pairs);
        add_said(out, what,
                 !fit ? fit.error().text()
                      : fmt::format("β {} ± {}, R25 {} ± {}; {} a {} b {} c {}; leaves {} and {} K",
                                    in_four(fit->beta_K), in_four(fit->u_beta_K), in_four(fit->r25_ohm),
                                    in_four(fit->u_r25_ohm), fit->steinhart_hart, in_four(fit->a),
                                    in_four(fit->b * 1e3), in_four(fit->c * 1e6), in_four(fit->worst_beta_K),
                                    in_four(fit->worst_sh_K)));
    }
    return out;
}

std::string thresholds() {
    std::string out;
    const std::vector<std::tuple<const char*, std::vector<double>, std::vector<double>>> sets = {
        {"far apart", {100, 102, 101, 99, 98}, {500, 504, 498, 500, 503}},
        {"on is low", {500, 504, 498, 500, 503}, {100, 102, 101, 99, 98}},
        {"one scatters more", {100, 101, 99, 100, 100}, {400, 440, 360, 400, 410}},
        {"no scatter at all", {3, 3, 3, 3, 3}, {7, 7, 7, 7, 7}},
        {"one without scatter", {3, 3, 3, 3, 3}, {7, 9, 7, 8, 6}},
        {"they overlap", {100, 130, 110, 120, 105, 190}, {200, 180, 220, 210, 125, 205}},
        {"just three deviations", {0, 1, -1, 1, -1}, {3.3, 4.3, 2.3, 4.3, 2.3}},
        {"not quite three", {0, 1, -1, 1, -1}, {2.9, 3.9, 1.9, 3.9, 1.9}},
        {"the same", {5, 5, 5, 5, 5}, {5, 5, 5, 5, 5}},
        {"four of one", {1, 2, 3, 4}, {11, 12, 13, 14, 15}},
        {"four of the other", {1, 2, 3, 4, 5}, {11, 12, 13, 14}},
    };
    for (const auto& [what, off, on] : sets) {
        const auto fit = fit_threshold(off, on);
        add_said(out, what,
                 !fit ? fit.error().text()
                      : fmt::format("{} ± {}, high is {}, {} on the wrong side, {} apart", in_four(fit->threshold),
                                    in_four(fit->hysteresis / 2), fit->high_is_on ? "on" : "off",
                                    in_four(fit->overlap), in_four(fit->apart)));
    }
    return out;
}

std::string buckets() {
    std::string out;
    const auto one = [](std::initializer_list<double> left, std::initializer_list<double> right, double l = 0,
                        double r = 0) {
        BucketTry made;
        for (const double mL : left)
            made.doses.push_back({true, mL});
        for (const double mL : right)
            made.doses.push_back({false, mL});
        made.left_turns = l, made.right_turns = r;
        return made;
    };
    const std::vector<std::pair<const char*, std::vector<BucketTry>>> sets = {
        {"one try", {one({2.8, 2.81, 2.79}, {2.3, 2.31})}},
        {"one dose each", {one({2.8}, {2.3})}},
        {"as wanted", {one({2.52, 2.48}, {2.5, 2.51, 2.49})}},
        {"two tries", {one({2.8, 2.82}, {2.3, 2.32}, 0.5, -1), one({2.6, 2.62}, {2.4, 2.41})}},
        {"a turn that did the opposite", {one({2.8, 2.82}, {2.3, 2.32}, 0.5, 1), one({2.9, 2.92}, {2.4, 2.41})}},
        {"three tries, the last without a turn of the left",
         {one({2.8, 2.82}, {2.3, 2.32}, 0.5, -1), one({2.6, 2.62}, {2.4, 2.41}, 0, -0.5),
          one({2.6, 2.61}, {2.45, 2.46})}},
        {"no dose of the right", {one({2.8}, {})}},
        {"nothing", {}},
        {"a dose of nothing", {one({2.8, 0}, {2.3})}},
    };
    for (const auto& [what, tries] : sets)
        for (const double wanted : {2.5, 5.0}) {
            const auto fit = fit_bucket(tries, wanted);
            if (!fit) {
                add_said(out, what, fit.error().text());
                continue;
            }
            add_said(out, what,
                     fmt::format("{} ± {} mL, asymmetry {}", in_four(fit->mean_mL), in_four(fit->u_mL),
                                 in_four(fit->asymmetry)));
            for (const BucketSide* side : {&fit->left, &fit->right})
                add_said(out, side == &fit->left ? "  left" : "  right",
                         fmt::format("{} ± {} of {}, off {}, {} turns. {}", in_four(side->mean_mL),
                                     in_four(side->u_mL), side->n, in_four(side->off_mL), in_four(side->turns),
                                     side->advice));
        }
    return out;
}

std::string strappings() {
    std::string out;
    const std::vector<std::pair<const char*, std::vector<FillStep>>> sets = {
        {"from empty", {{0, 0}, {120, 50, 0.1}, {260, 50, 0.1}, {300, 20, 0.3}}},
        {"from what was in it", {{80, 33, 2}, {120, 50, 0.1}}},
        {"one level", {{80, 33}}},
        {"it sank", {{80, 33}, {120, 50}, {119, 5}}},
        {"it stayed", {{80, 33}, {80, 5}}},
        {"nothing poured in", {{80, 33}, {120, 0}}},
        {"taken out", {{80, -1}, {120, 5}}},
        {"no number", {{80, 33}, {no_number, 5}}},
    };
    for (const auto& [what, steps] : sets) {
        const auto fit = fit_strapping(steps);
        std::string rows;
        for (std::size_t i = 0; fit && i < fit->levels_mm.size(); ++i)
            rows += fmt::format(" {} mm {} ± {} L", in_four(fit->levels_mm[i]), in_four(fit->volumes_L[i]),
                                in_four(fit->u_L[i]));
        add_said(out, what, fit ? rows : fit.error().text());
    }
    return out;
}

std::string comparisons() {
    using OverTime = std::function<double(double)>;
    std::string out;
    const OverTime wave = [](double t) { return 20 + 3 * std::sin(t / 200) + std::sin(t / 37); };
    struct Pair {
        const char* what;
        OverTime b;
        double step_s = 10, from_s = 0, to_s = 3000;
    };
    const std::vector<Pair> pairs = {
        {"the same", wave},
        {"higher by 0.4", [&](double t) { return wave(t) + 0.4; }},
        {"stretched", [&](double t) { return 1.05 * wave(t) - 1; }},
        {"half a minute later", [&](double t) { return wave(t - 30); }},
        {"earlier, and noisy", [&](double t) { return wave(t + 45) + 0.2 * std::sin(t * 12.9898); }},
        {"read seldom", wave, 60},
        {"with a hole", wave, 10, 1200, 1500},
        {"hardly together", wave, 10, 2900, 5000},
        {"at another time", wave, 10, 4000, 5000},
        {"stands still", [](double) { return 20.0; }},
        {"falls where it rises", [&](double t) { return 40 - wave(t); }},
    };
    for (const Pair& pair : pairs) {
        std::vector<TimedValue> a, b;
        for (int i = 0; i <= 300; ++i)
            a.push_back({from_seconds(10.0 * i), wave(10.0 * i)});
        for (double t = pair.from_s; t <= pair.to_s; t += pair.step_s)
            b.push_back({from_seconds(t + 3), pair.b(t + 3)});
        for (const double gap : {0.0, 12.0}) {
            const Comparison c = compare_series(a, b, gap, {"Hut", "Handheld", "degC"});
            std::string not_shown;
            for (const std::string& s : c.cannot_show)
                not_shown += " – " + s;
            add_said(out, pair.what,
                     fmt::format("{} pairs, bias {} ± {}, sd {}, {} to {}, slope {} or {}, lag {} {}. {}{}", c.n,
                                 in_four(c.bias), in_four(c.u_bias), in_four(c.sd), in_four(c.low), in_four(c.high),
                                 in_four(c.slope), in_four(c.slope_york), in_four(c.lag_s),
                                 c.lag_known ? "known" : "not known", c.verdict, not_shown));
        }
    }
    return out;
}

std::string lines_for_boards() {
    std::string out;
    const std::vector<std::pair<const char*, Chain>> paths = {
        {"a straight line", chain_of(R"({"stage":"adc","bits":10,"reference_V":5},
            {"stage":"linear","zero":0.5,"slope":0.01,"input_unit":"V","unit":"degC"})")},
        {"a thermistor", chain_of(R"({"stage":"adc","bits":12,"reference_V":3.3},
            {"stage":"divider","supply_V":3.3,"fixed_ohm":10000,"unknown":"bottom"},
            {"stage":"thermistor_beta","r0_ohm":10000,"t0_degC":25,"beta_K":3950})")},
        {"a vessel", chain_of(R"({"stage":"level","mount_height_mm":1150},
            {"stage":"vessel","shape":"lying-cylinder","diameter_m":1,"length_m":1.3})")},
    };
    for (const auto& [what, path] : paths)
        for (const auto& [low, high] : {std::pair(100.0, 900.0), {900.0, 100.0}, {500.0, 500.0}, {0.0, 5000.0}})
            for (const double doubt : {10.0, 0.3, 0.001}) {
                const BoardConstants c = board_constants(path, low, high, doubt);
                std::string rows;
                for (std::size_t i = 0; i < c.raw.size(); i += 1 + c.raw.size() / 6)
                    rows += fmt::format(" {}:{}", in_four(c.raw[i]), in_four(c.value[i]));
                add_said(
                    out, fmt::format("{}, {} to {}, ± {}", what, low, high, doubt).c_str(),
                    !c.trouble.empty()
                        ? c.trouble
                        : fmt::format("{} {} + {}·raw ({}, {} decimals), {} rows of {} decimals{}, costs {:.2g}",
                                      c.line ? "line" : "table", in_four(c.offset), in_four(c.slope),
                                      c.offset_decimals, c.slope_decimals, c.raw.size(), c.value_decimals, rows,
                                      c.rounding_cost));
            }
    return out;
}

} // namespace

class TestSaidOfConstants : public QObject {
    Q_OBJECT

  private slots:
    void constants() {
        test::compare_said("constants", "thermistors\n" + thermistors() + "thresholds\n" + thresholds() +
                                            "buckets\n" + buckets() + "vessels\n" + strappings());
    }
    void twoSeriesSideBySide() { test::compare_said("comparisons", comparisons()); }
    void constantsForBoards() { test::compare_said("board_constants", lines_for_boards()); }
};

RUN_TESTS_OF(TestSaidOfConstants)
#include "tst_said_of_constants.moc"
