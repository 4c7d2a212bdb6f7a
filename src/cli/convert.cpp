#include "cli/cli.h"

#include "core/decode/number.h"
#include "core/signal_path/chain.h"
#include "core/uncertainty/budget.h"
#include "core/units/format.h"

#include <cmath>
#include <cstdio>
#include <fmt/format.h>
#include <limits>

namespace cognitum::cli {

namespace {

/// One number a line; "nan" is a failed measurement, any other text is bad input.
Result<std::vector<double>> read_numbers(const std::string& text) {
    std::vector<double> out;
    std::size_t at = 0;
    for (int line = 1; at < text.size(); ++line) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        std::string row = text.substr(at, end - at);
        at = end + 1;
        while (!row.empty() && (row.back() == '\r' || row.back() == ' '))
            row.pop_back();
        const std::size_t first = row.find_first_not_of(' ');
        if (first == std::string::npos) continue;
        row.erase(0, first);
        if (row == "nan" || row == "NaN" || row == "null") {
            out.push_back(std::numeric_limits<double>::quiet_NaN());
            continue;
        }
        const char* p = row.data();
        double value = 0;
        if (!read_number(p, row.data() + row.size(), value) || p != row.data() + row.size())
            return failure(fmt::format("\"{}\" is not a number.", row), fmt::format("stdin:{}", line),
                           "Give one number a line.");
        out.push_back(value);
    }
    return out;
}

Json budget_json(const Budget& budget, const std::string& unit) {
    Json list = Json::array();
    const double variance = budget.standard_uncertainty * budget.standard_uncertainty;
    for (const Contribution& c : budget.contributions)
        list.push_back({{"name", c.id},
                        {"label", c.label},
                        {"standard_uncertainty", c.u},
                        {"unit", unit},
                        {"share", variance > 0 ? c.u * c.u / variance : 0}});
    return list;
}

} // namespace

int run_convert(const std::string& path, bool inverse, bool uncertainty, bool json) {
    const auto text = read_input(path);
    if (!text) return complain(text.error());
    const auto document = JsonText::parse(path, *text);
    if (!document) return complain(document.error());
    const auto chain = read_chain(JsonReader(*document));
    if (!chain) return complain(chain.error());
    const auto input =
        path == "-"
            ? Result<std::string>(failure("the chain and the numbers cannot both come from standard input."))
            : read_input("-");
    if (!input) return complain(input.error(), usage);
    const auto numbers = read_numbers(*input);
    if (!numbers) return complain(numbers.error());

    const std::string unit = inverse ? chain->first_unit() : chain->last_unit();
    Json values = Json::array();
    Json causes = Json::array();
    Json uncertainties = Json::array();
    Json budgets = Json::array();
    std::string lines;
    for (const double number : *numbers) {
        const Walk steps = inverse ? walk_back(*chain, number) : walk(*chain, number);
        const Value& result = inverse ? steps.steps.front() : steps.result();
        values.push_back(number_or_null(result.number));
        causes.push_back(result.ok() ? Json(nullptr) : Json(steps.cause));
        std::string line = result.ok() ? format_measure(result.number, unit, 8) : "— " + steps.cause;
        if (uncertainty) {
            // Backwards, the doubt is still that of the chain's last unit, at the input that was found.
            const Budget b = result.ok() ? budget(*chain, steps.steps.front().number) : Budget{};
            uncertainties.push_back(number_or_null(b.standard_uncertainty));
            budgets.push_back(result.ok() ? budget_json(b, chain->last_unit()) : Json(nullptr));
            if (result.ok()) {
                line += fmt::format("  (standard uncertainty {}",
                                    format_measure(b.standard_uncertainty, chain->last_unit(), 2));
                for (const Contribution& c : b.contributions)
                    line += fmt::format("; {} {}", c.label, format_constant(c.u, 2));
                line += ")";
            }
        }
        lines += line + "\n";
    }
    if (!json) {
        std::fputs(lines.c_str(), stdout);
        return done;
    }
    Json out = {{"values", values}, {"unit", unit}, {"causes", causes}};
    if (uncertainty) {
        out["standard_uncertainty"] = uncertainties;
        out["uncertainty_unit"] = chain->last_unit();
        out["budget"] = budgets;
    }
    print_json(out);
    return done;
}

} // namespace cognitum::cli
