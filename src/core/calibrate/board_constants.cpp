#include "core/calibrate/board_constants.h"

#include "core/base/phrase.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr std::size_t most_rows = 200;
constexpr int most_decimals = 12;

double rounded(double value, int decimals) {
    const double tens = std::pow(10.0, decimals);
    return std::round(value * tens) / tens;
}

/// Fewest decimals whose rounding changes `value · reach` by no more than `most`.
int decimals_needed(double value, double reach, double most) {
    for (int d = 0; d < most_decimals; ++d)
        if (std::abs(rounded(value, d) - value) * reach <= most) return d;
    return most_decimals;
}

/// Largest distance between the exact path and straight lines through the rows.
double table_cost(const std::vector<double>& x, const std::vector<double>& y, const std::vector<double>& raw,
                  const std::vector<double>& value) {
    double worst = 0;
    std::size_t k = 0;
    for (std::size_t i = 0; i < x.size(); ++i) {
        while (k + 2 < raw.size() && x[i] > raw[k + 1])
            ++k;
        const double t = (x[i] - raw[k]) / (raw[k + 1] - raw[k]);
        worst = std::max(worst, std::abs(value[k] + t * (value[k + 1] - value[k]) - y[i]));
    }
    return worst;
}

} // namespace

BoardConstants board_constants(const Chain& path, double low, double high, double doubt) {
    BoardConstants out;
    if (low > high) std::swap(low, high);
    if (low == high) {
        out.trouble = phrase("Between one raw value and itself there is nothing to compute.");
        return out;
    }
    std::vector<double> x, y;
    constexpr int steps = 1000;
    for (int i = 0; i <= steps; ++i) {
        const double at = low + (high - low) * i / steps;
        const Value v = forward(path, at);
        if (!v.ok()) continue;
        x.push_back(at);
        y.push_back(v.number);
    }
    if (x.size() < 3 || !(doubt > 0)) {
        out.trouble = x.size() < 3 ? phrase("The path gives no value there.")
                                   : phrase("Without a doubt there is no telling how far to round.");
        return out;
    }
    const double slope = (y.back() - y.front()) / (x.back() - x.front());
    const double offset = y.front() - slope * x.front();
    double bend = 0;
    for (std::size_t i = 0; i < x.size(); ++i)
        bend = std::max(bend, std::abs(slope * x[i] + offset - y[i]));
    const double allowed = doubt / 10;
    if (bend <= 0.2 * allowed) {
        out.line = true;
        const double reach = std::max(std::abs(x.front()), std::abs(x.back()));
        out.slope_decimals = decimals_needed(slope, reach, 0.4 * allowed);
        out.slope = rounded(slope, out.slope_decimals);
        out.offset_decimals = decimals_needed(offset, 1, 0.4 * allowed);
        out.offset = rounded(offset, out.offset_decimals);
        for (std::size_t i = 0; i < x.size(); ++i)
            out.rounding_cost = std::max(out.rounding_cost, std::abs(out.slope * x[i] + out.offset - y[i]));
        return out;
    }
    out.value_decimals = std::clamp(static_cast<int>(std::ceil(-std::log10(allowed))), 0, most_decimals);
    // As far as a straight piece stays close enough, then the next one.
    for (std::size_t start = 0; start + 1 < x.size();) {
        if (out.raw.empty()) {
            out.raw.push_back(x[0]);
            out.value.push_back(rounded(y[0], out.value_decimals));
        }
        std::size_t end = start + 1;
        for (std::size_t next = end; next < x.size(); ++next) {
            double worst = 0;
            for (std::size_t i = start; i <= next; ++i)
                worst = std::max(
                    worst,
                    std::abs(y[start] + (x[i] - x[start]) / (x[next] - x[start]) * (y[next] - y[start]) - y[i]));
            if (worst > 0.4 * allowed) break;
            end = next;
        }
        out.raw.push_back(x[end]);
        out.value.push_back(rounded(y[end], out.value_decimals));
        start = end;
        if (out.raw.size() > most_rows) {
            out.trouble = phrase(
                "A table as fine as the doubt would have more than 200 rows: compute it on the receiving side.");
            return out;
        }
    }
    out.rounding_cost = table_cost(x, y, out.raw, out.value);
    return out;
}

std::string board_code(const BoardConstants& c, const std::string& name, const std::string& unit) {
    if (!c.trouble.empty()) return "// " + c.trouble + "\n";
    std::string out = fmt::format("// {}, in {}, from the raw number\n", name, unit);
    if (c.line) {
        out += fmt::format("const double slope = {:.{}f};\nconst double offset = {:.{}f};\n", c.slope,
                           c.slope_decimals, c.offset, c.offset_decimals);
        return out + "double value = slope * raw + offset;\n";
    }
    out += fmt::format(
        "// straight between the rows, which are {} pairs of raw and value\nconst double rows[][2] = {{\n",
        c.raw.size());
    for (std::size_t i = 0; i < c.raw.size(); ++i)
        out += fmt::format("  {{{:.6g}, {:.{}f}}},\n", c.raw[i], c.value[i], c.value_decimals);
    return out + "};\n";
}

} // namespace cognitum
