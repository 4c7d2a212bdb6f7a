#include "core/signal_path/meter_table.h"

#include "core/base/csv_text.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

MeterTable meter_table(const Chain& chain, double from, double to, double step) {
    MeterTable out;
    if (!(step > 0) || !(from <= to) || !std::isfinite(to - from)) return out;
    for (std::size_t i = chain.stages.size() + 1; i-- > 0;)
        out.columns.push_back(
            i == 0 ? MeterTable::Column{phrase("Sent"), chain.first_unit()}
                   : MeterTable::Column{stage_title(chain.stages[i - 1]), output_unit(chain.stages[i - 1])});
    const int rows = static_cast<int>(std::min(199.0, std::floor((to - from) / step + 1e-9)));
    for (int r = 0; r <= rows; ++r) {
        const Walk back = walk_back(chain, from + r * step);
        out.rows.emplace_back(back.steps.rbegin(), back.steps.rend());
        out.causes.push_back(back.steps.front().ok() ? std::string() : back.cause);
    }
    return out;
}

std::string meter_table_csv(const MeterTable& table) {
    std::string out;
    for (std::size_t c = 0; c < table.columns.size(); ++c) {
        std::string title = table.columns[c].title;
        std::replace(title.begin(), title.end(), ' ', '_');
        out += (c > 0 ? "," : "") + csv_field(title + "_" + table.columns[c].unit);
    }
    out += "\n";
    for (const auto& row : table.rows) {
        for (std::size_t c = 0; c < row.size(); ++c)
            out += (c > 0 ? "," : "") + (row[c].ok() ? fmt::format("{:.9g}", row[c].number) : std::string());
        out += "\n";
    }
    return out;
}

double round_step(double span, int rows) {
    if (!(span > 0) || rows < 1) return 1;
    const double raw = span / rows;
    const double power = std::pow(10, std::floor(std::log10(raw)));
    for (const double factor : {1.0, 2.0, 5.0})
        if (raw <= factor * power * (1 + 1e-9)) return factor * power;
    return 10 * power;
}

} // namespace cognitum
