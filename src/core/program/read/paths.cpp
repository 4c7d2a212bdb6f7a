#include "core/program/read/paths.h"
#include "core/program/read/explain.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

std::string number_text(double v) {
    return fmt::format("{:.9g}", v);
}

/// The trace as a formula of x; empty: it has parts that a formula does not know.
std::string formula_of(const TraceRef& trace, const Origin& source, int depth = 0) {
    if (!trace || depth > 12) return {};
    const Origin& o = *trace->origin;
    std::string inner;
    if (o.is_source) {
        if (o.kind != source.kind || o.key != source.key) return {};
        inner = "x";
    } else {
        std::vector<std::string> parts;
        for (const TraceRef& one : o.of) {
            std::string text = formula_of(one, source, depth + 1);
            if (text.empty()) return {};
            parts.push_back(text);
        }
        const auto beside = [&](std::size_t i) {
            return i < o.beside.size() ? number_text(o.beside[i]) : std::string("0");
        };
        static const std::vector<std::pair<std::string, std::string>> functions = {
            {"log", "ln"},   {"log10", "log10"}, {"exp", "exp"}, {"sqrt", "sqrt"},
            {"fabs", "abs"}, {"sin", "sin"},     {"cos", "cos"}, {"atan", "atan"}};
        const auto known =
            std::find_if(functions.begin(), functions.end(), [&](const auto& f) { return f.first == o.function; });
        if (known != functions.end() && parts.size() == 1)
            inner = fmt::format("{}({})", known->second, parts[0]);
        else if (o.function == "pow" && parts.size() == 1)
            inner = fmt::format("({})^({})", parts[0], beside(0));
        else if (o.function == "/" && parts.size() == 1)
            inner = fmt::format("({}/({}))", beside(0), parts[0]);
        else if ((o.function == "*" || o.function == "+" || o.function == "-" || o.function == "/") &&
                 parts.size() == 2)
            inner = fmt::format("(({}){}({}))", parts[0], o.function, parts[1]);
        else
            return {};
    }
    if (trace->slope == 1 && trace->offset == 0) return inner;
    std::string out = trace->slope == 1 ? inner : fmt::format("{}*{}", number_text(trace->slope), inner);
    if (trace->offset != 0)
        out += fmt::format("{}{}", trace->offset < 0 ? "-" : "+", number_text(std::abs(trace->offset)));
    return "(" + out + ")";
}

struct Note {
    std::string text;
    bool differs = false; ///< from the number of the plan that stands in its place
};

/// What a constant is by the plan, where it is one of its numbers.
Note note_of(const Trial& t, const Reading& r, char op, double v) {
    const double codes = codes_in_program(t, r);
    if (v == codes) return {phrase("the converter’s steps")};
    if (v == codes - 1) return {phrase("the converter has {}", format_constant(codes)), true};
    for (const Stage& stage : r.path.stages) {
        if (const auto* adc = std::get_if<Adc>(&stage)) {
            const double planned = adc->reference_V.value;
            if (op == '*' && std::abs(v - planned) < 0.02 * planned)
                return {phrase("the reference, {} V by the plan", format_constant(planned))};
            if (op == '*' && (v == 3.3 || v == 5 || v == 1.1))
                return {phrase("a reference; the plan’s is {} V", format_constant(planned)), true};
        }
        if (const auto* line = std::get_if<Linear>(&stage)) {
            if (std::abs(v * line->slope.value - 1) < 1e-6 || v == line->slope.value)
                return {phrase("the part’s slope")};
            if (op == '-' && (std::abs(v - line->zero.value) < 1e-9 ||
                              std::abs(v - line->zero.value / line->slope.value) < 1e-6))
                return {phrase("the part’s zero")};
        }
        if (const auto* beta = std::get_if<ThermistorBeta>(&stage)) {
            if (v == beta->beta_K.value) return {"β"};
            if (v == beta->r0_ohm.value) return {phrase("the part’s resistance")};
        }
        if (const auto* divider = std::get_if<RatioDivider>(&stage); divider && v == divider->fixed_ohm.value)
            return {phrase("the divider’s resistor")};
    }
    if (v == 273.15) return {phrase("0 °C in kelvin")};
    return {};
}

void add_steps(const Trial& t, const Reading* r, const TraceRef& trace, std::vector<ReadStep>& out, int depth = 0) {
    if (!trace || depth > 12 || out.size() > 24) return;
    const Origin& o = *trace->origin;
    if (o.is_source) {
        static const std::vector<const char*> names = {for_people("count"),
                                                       for_people("level"),
                                                       for_people("echo time"),
                                                       for_people("number of the bus"),
                                                       for_people("number of the bus"),
                                                       for_people("pulses"),
                                                       for_people("number of the part"),
                                                       for_people("number of a library")};
        out.push_back({phrase(names[static_cast<std::size_t>(o.kind)]), o.key, o.place.line, false});
        if (o.kind == SourceKind::pulses) { // it grew step by step
            if (trace->slope != 1)
                out.push_back({fmt::format("× {}", format_constant(trace->slope)), {}, o.place.line, false});
            return;
        }
    } else {
        for (const TraceRef& inner : o.of)
            add_steps(t, r, inner, out, depth + 1);
        std::string what = o.function;
        if (o.function == "/" && o.of.size() == 1)
            what = phrase("{} ÷ it", format_constant(o.beside.empty() ? 0 : o.beside[0]));
        if (o.function == "pow")
            what = phrase("to the power {}", format_constant(o.beside.empty() ? 0 : o.beside[0]));
        out.push_back({what, {}, o.place.line, false});
    }
    const std::size_t begin = out.size();
    double slope = 1, offset = 0;
    for (const TraceStep& step : trace->steps) {
        if (step.op == '*') slope *= step.number, offset *= step.number;
        if (step.op == '/') slope /= step.number, offset /= step.number;
        if (step.op == '+') offset += step.number;
        if (step.op == '-') offset -= step.number;
        if (step.op == 'w') {
            out.push_back({phrase("cut to a whole number"), {}, step.place.line, true});
            continue;
        }
        const bool adds = step.op == '+' || step.op == '-';
        const bool takes_away = adds && (step.op == '-') != (step.number < 0); // "+ −50" is "− 50"
        const std::string sign = step.op == '*'   ? "×"
                                 : step.op == '/' ? "÷"
                                 : takes_away     ? std::string(minus_sign)
                                                  : "+";
        if ((step.op == '*' || step.op == '/') ? step.number == 1 : step.number == 0) continue;
        const Note note = r ? note_of(t, *r, step.op, step.number) : Note();
        out.push_back({fmt::format("{} {}", sign, format_constant(adds ? std::abs(step.number) : step.number)),
                       note.text, step.place.line, note.differs});
    }
    // A mean and a filter are made of several numbers: the steps of one of them do not show what comes out.
    const auto differ = [](double a, double b) { return std::abs(a - b) > 1e-6 * std::max(1.0, std::abs(b)); };
    if (!differ(slope, trace->slope) && !differ(offset, trace->offset)) return;
    out.resize(begin);
    const std::string together = phrase("of several numbers together");
    const int line = trace->steps.empty() ? o.place.line : trace->steps.back().place.line;
    out.push_back({fmt::format("× {}", format_constant(trace->slope)), together, line, false});
    if (trace->offset != 0)
        out.push_back({fmt::format("{} {}", trace->offset < 0 ? std::string(minus_sign) : "+",
                                   format_constant(std::abs(trace->offset))),
                       together, line, false});
}

} // namespace

ReadPath path_in_program(const Trial& t, const SentNumber& s, const Standing& standing) {
    ReadPath out;
    out.reading = s.reading ? s.reading->id : std::string();
    out.pin = s.source ? s.source->key : std::string();
    out.file = t.file_name(s.place);
    out.line = s.place.line;
    out.label = s.label;
    out.interval_s = s.interval_s;
    for (const Line& line : t.usual().lines)
        for (std::size_t i = 0; i < line.numbers.size(); ++i)
            if (const Printed& p = line.numbers[i]; p.place == s.place && p.label == s.label) {
                out.column = static_cast<int>(i);
                out.columns = static_cast<int>(line.numbers.size());
            }
    out.sent_as = standing.as;
    out.unit = standing.unit;
    const TraceRef& trace = s.last()->value.trace;
    add_steps(t, s.reading, trace, out.steps);
    const std::string from = s.source && s.source->kind == SourceKind::analog   ? "count"
                             : s.source && s.source->kind == SourceKind::echo   ? "us"
                             : s.source && s.source->kind == SourceKind::pulses ? "count"
                                                                                : "";
    const std::string to = !standing.unit.empty() ? standing.unit
                           : s.reading            ? s.reading->quantity.unit
                                                  : std::string();
    if (!from.empty() && s.source && !to.empty()) {
        Chain chain;
        chain.input_unit = from;
        if (trace->origin->is_source) {
            Scale scale;
            scale.factor.value = trace->slope;
            // A counter grew step by step: how far it had come is no part of its path.
            scale.offset.value = trace->origin->kind == SourceKind::pulses ? 0 : trace->offset;
            scale.factor.origin = scale.offset.origin = phrase("program, line {}", s.place.line);
            if (!trace->steps.empty())
                scale.factor.origin = scale.offset.origin =
                    phrase("program, line {}", trace->steps.back().place.line);
            scale.input_unit = from;
            scale.unit = to;
            if (trace->slope != 1 || scale.offset.value != 0 || from != to) chain.stages.emplace_back(scale);
            out.path = chain;
        } else if (const std::string expression = formula_of(trace, *s.source);
                   !expression.empty() && expression.size() <= 400) {
            Formula formula;
            formula.expression = expression;
            formula.input_unit = from;
            formula.unit = to;
            if (auto compiled = FormulaProgram::compile(expression, {})) {
                formula.program = *compiled;
                chain.stages.emplace_back(formula);
                out.path = chain;
            }
        }
    }
    if (out.path && s.reading) { // a table has another line at each point
        for (std::size_t k = 0; k < t.seen.size() && out.path; ++k) {
            const ProofPoint* p =
                s.asked && s.asked->input != ProofInput::pulses ? t.point(k, s.reading->id) : nullptr;
            if (!p || !s.at[k] || !std::isfinite(s.at[k]->value.ideal)) continue;
            const double made = forward(*out.path, raw_number(t, *s.reading, *p, Counts::of_program)).number,
                         ideal = s.at[k]->value.ideal;
            const double slack = s.asked->input == ProofInput::echo_us ? 0.02 : 1e-4;
            if (std::isfinite(made) && std::abs(made - ideal) > slack * std::max(1.0, std::abs(ideal)))
                out.path.reset();
        }
    }
    // As session/program_proof tells of the machine code: without what lies near the ends.
    for (const std::size_t k : {std::size_t{1}, t.seen.size() / 2, t.seen.size() - 2}) {
        const ProofPoint* p = s.reading ? t.point(k, s.reading->id) : nullptr;
        if (!p || (s.asked && s.asked->input == ProofInput::pulses)) continue;
        out.prints_at.push_back({p->truth, raw_number(t, *s.reading, *p), s.at[k] ? s.at[k]->text : std::string()});
    }
    return out;
}

} // namespace cognitum::program

namespace cognitum {

std::optional<Chain> path_behind(const Reading& reading, const ReadPath& program) {
    if (!program.path || reading.path.stages.empty()) return std::nullopt;
    const std::string sent = program.path->last_unit();
    Chain out = reading.path;
    if (program.path->stages.size() == 1) {
        const auto* scale = std::get_if<Scale>(&program.path->stages.front());
        if (scale && scale->factor.value != 0 && program.path->first_unit() == reading.path.first_unit()) {
            Linear back;
            back.zero = scale->offset;
            back.slope = scale->factor;
            back.input_unit = sent;
            back.unit = program.path->first_unit();
            out.input_unit = sent;
            out.stages.insert(out.stages.begin(), back);
            return out;
        }
    }
    if (program.sent_as != SentAs::value) return std::nullopt;
    out.stages.clear();
    out.input_unit = sent;
    return out;
}

} // namespace cognitum
