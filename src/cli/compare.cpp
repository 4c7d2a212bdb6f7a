#include "cli/cli.h"

#include "core/calibrate/compare.h"

#include <cstdio>

namespace cognitum::cli {

namespace {

Result<std::vector<TimedValue>> read_value_series(const std::string& path) {
    COGNITUM_TRY(table, read_table(path));
    return series_of(table);
}

} // namespace

int run_compare(const std::string& first, const std::string& second, bool json) {
    const auto a = read_value_series(first);
    if (!a) return complain(a.error());
    const auto b = read_value_series(second);
    if (!b) return complain(b.error());
    const Comparison c = compare_series(*a, *b);
    if (json) {
        Json limits = c.n > 0 ? Json{number_or_null(c.low), number_or_null(c.high)} : Json(nullptr);
        print_json({{"bias", number_or_null(c.bias)},
                    {"u_bias", number_or_null(c.u_bias)},
                    {"sd", number_or_null(c.sd)},
                    {"limits_of_agreement", limits},
                    {"slope", number_or_null(c.slope)},
                    {"slope_york", number_or_null(c.slope_york)},
                    {"lag_s", c.n > 0 ? Json(c.lag_s) : Json(nullptr)},
                    {"lag_known", c.lag_known},
                    {"n", c.n},
                    {"verdict", c.verdict},
                    {"cannot_show", c.cannot_show}});
    } else {
        std::puts(c.verdict.c_str());
        for (const std::string& line : c.cannot_show)
            std::puts(("It does not show: " + line).c_str());
    }
    return c.n > 0 ? done : answer_is_no;
}

} // namespace cognitum::cli
