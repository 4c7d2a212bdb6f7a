#include "cli/cli.h"

#include "core/base/no_number.h"
#include "core/decode/number.h"
#include "core/signal_path/chain.h"
#include "core/uncertainty/budget.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <cmath>
#include <cstdio>
#include <fmt/format.h>
#include <iterator>

namespace cognitum::cli {

namespace {

/// One number a line; "nan" is a failed measurement, any other text is bad input.
Result<std::vector<double>> read_numbers(std::string_view text) {
    std::vector<double> out;
    std::size_t at = 0;
    for (int line = 1; at < text.size(); ++line) {
        const std::size_t end = std::min(text.find('\n', at), text.size());
        std::string_view row = text.substr(at, end - at);
        at = end + 1;
        while (!row.empty() && (row.back() == '\r' || row.back() == ' '))
            row.remove_suffix(1);
        row.remove_prefix(std::min(row.find_first_not_of(' '), row.size()));
        if (row.empty()) continue;
        const char* p = row.data();
        double value = 0;
        if (read_number(p, row.data() + row.size(), value) && p == row.data() + row.size())
            out.push_back(value);
        else if (row == "nan" || row == "NaN" || row == "null")
            out.push_back(no_number);
        else
            return failure(fmt::format("\"{}\" is not a number.", row), fmt::format("stdin:{}", line),
                           "Give one number a line.");
    }
    return out;
}

/// The shortest number that reads as the same double, with a point.
void append_json_number(std::string& out, double value) {
    const std::size_t from = out.size();
    fmt::format_to(std::back_inserter(out), "{}", value);
    if (out.find_first_of(".e", from) == std::string::npos) out += ".0";
}

/// Values alone, in one pass over all numbers: what fails is walked again for its sentence.
void print_values(const Chain& chain, const std::vector<double>& numbers, bool json) {
    std::vector<double> values(numbers.size());
    forward(chain, numbers, values);
    std::string out, causes;
    out.reserve(24 * values.size());
    const std::string unit = chain.last_unit();
    const std::string symbol = unit_symbol(unit);
    const std::string ending = (symbol.empty() ? "" : std::string(thin_space) + symbol) + "\n";
    for (std::size_t i = 0; i < values.size(); ++i) {
        const bool there = std::isfinite(values[i]);
        const std::string cause = there ? std::string() : walk(chain, numbers[i]).cause;
        if (!json && there) {
            append_constant(out, values[i], 8);
            out += ending;
        } else if (!json) {
            out += "— " + cause + "\n";
        } else {
            if (i > 0) out += ',', causes += ',';
            if (there)
                append_json_number(out, values[i]);
            else
                out += "null";
            causes += there ? "null" : json_dump(cause);
        }
    }
    if (json) out = "{\"values\":[" + out + "],\"unit\":" + json_dump(unit) + ",\"causes\":[" + causes + "]}\n";
    std::fwrite(out.data(), 1, out.size(), stdout);
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

    if (!inverse && !uncertainty) {
        print_values(*chain, *numbers, json);
        return done;
    }
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
