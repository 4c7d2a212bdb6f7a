#include "core/signal_path/formula.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <deque>
#include <fmt/format.h>
#include <muParser.h>
#include <mutex>

namespace cognitum {

namespace {

constexpr std::size_t longest = 400;

bool is_name(const std::string& name) {
    const auto letter = [](char c) { return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || c == '_'; };
    if (name.empty() || name.size() > 30 || !letter(name[0])) return false;
    return std::all_of(name.begin(), name.end(), [&](char c) { return letter(c) || (c >= '0' && c <= '9'); });
}

/// "=" alone would write to a constant; "==" and its like compare.
bool assigns(const std::string& text) {
    for (std::size_t i = 0; i < text.size(); ++i) {
        if (text[i] != '=') continue;
        const char before = i > 0 ? text[i - 1] : ' ';
        const char after = i + 1 < text.size() ? text[i + 1] : ' ';
        if (before != '=' && before != '<' && before != '>' && before != '!' && after != '=') return true;
    }
    return false;
}

} // namespace

struct FormulaProgram::Parser {
    std::mutex mutex;
    mu::Parser parser;
    std::deque<double> values; ///< x first; the parser holds their addresses
};

Result<FormulaProgram> FormulaProgram::compile(const std::string& expression,
                                               const std::vector<std::string>& names) {
    const auto wrong = [&](const std::string& what) -> tl::unexpected<Error> {
        return failure(what, "expression", phrase("A formula is like 1.8 * x + 32, or a * ln(x / b)."));
    };
    if (expression.find_first_not_of(' ') == std::string::npos) return wrong(phrase("the formula is empty."));
    if (expression.size() > longest) return wrong(phrase("the formula is longer than {} characters.", longest));
    if (assigns(expression))
        return wrong(phrase("a formula computes, it does not set anything: there is a single =."));
    if (expression.find('"') != std::string::npos) return wrong(phrase("a formula holds no text."));

    FormulaProgram out;
    out.m_parser = std::make_shared<Parser>();
    Parser& p = *out.m_parser;
    try {
        p.values.push_back(1);
        p.parser.DefineVar("x", &p.values.back());
        for (const std::string& name : names) {
            if (!is_name(name) || name == "x")
                return wrong(phrase("\"{}\" cannot be a constant's name: letters and digits, not x.", name));
            p.values.push_back(1);
            p.parser.DefineVar(name, &p.values.back());
        }
        p.parser.SetExpr(expression);
        int results = 0;
        p.parser.Eval(results);
        if (results != 1)
            return wrong(phrase("a formula gives one number: write a point for decimals, not a comma."));
    } catch (const mu::Parser::exception_type& e) {
        const auto at = e.GetPos();
        std::string what = e.GetMsg();
        if (!e.GetToken().empty() && e.GetCode() == mu::ecUNASSIGNABLE_TOKEN)
            what = phrase("\"{}\" is not known", e.GetToken());
        while (!what.empty() && what.back() == '.')
            what.pop_back();
        return wrong(phrase("{} (at character {}).", what, static_cast<long>(at) + 1));
    }
    return out;
}

double FormulaProgram::evaluate(double x, std::span<const double> values) const {
    if (!m_parser || values.size() + 1 != m_parser->values.size()) return no_number;
    const std::lock_guard lock(m_parser->mutex);
    m_parser->values[0] = x;
    std::copy(values.begin(), values.end(), m_parser->values.begin() + 1);
    try {
        const double y = m_parser->parser.Eval();
        return std::isfinite(y) ? y : no_number;
    } catch (const mu::Parser::exception_type&) {
        return no_number;
    }
}

} // namespace cognitum
