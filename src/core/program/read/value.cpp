#include "core/program/read/value.h"

#include <algorithm>
#include <cmath>

namespace cognitum::program {

namespace {
constexpr std::size_t most_literals = 16;

bool same_origin(const Trace& a, const Trace& b) {
    if (a.origin == b.origin) return true;
    return a.origin->is_source && b.origin->is_source && a.origin->kind == b.origin->kind &&
           a.origin->key == b.origin->key;
}

/// Two bytes of one bus that are put together are the bus's number.
bool same_bus(const Trace& a, const Trace& b) {
    const auto is_bus = [](const Trace& t) {
        return t.origin->is_source && (t.origin->kind == SourceKind::i2c || t.origin->kind == SourceKind::spi);
    };
    return is_bus(a) && is_bus(b) && same_origin(a, b);
}

TraceRef with_step(const Trace& t, double slope, double offset, TraceStep step) {
    auto out = std::make_shared<Trace>(t);
    out->slope = slope;
    out->offset = offset;
    // A loop does the same again; a count grows step by step.
    const bool again =
        t.origin->is_source && t.origin->kind == SourceKind::pulses && (step.op == '+' || step.op == '-');
    const bool known = std::any_of(t.steps.begin(), t.steps.end(), [&](const TraceStep& s) {
        return s.op == step.op && s.place == step.place && s.number == step.number;
    });
    if (!again && !known && out->steps.size() < most_steps) out->steps.push_back(std::move(step));
    return out;
}

void collect(const TraceRef& trace, std::vector<const Origin*>& out) {
    if (!trace) return;
    const Origin* o = trace->origin.get();
    if (o->is_source) {
        if (std::none_of(out.begin(), out.end(),
                         [&](const Origin* x) { return x->kind == o->kind && x->key == o->key; }))
            out.push_back(o);
        return;
    }
    for (const TraceRef& inner : o->of)
        collect(inner, out);
}

void collect(const TraceRef& trace, std::vector<Literal>& out) {
    const auto add = [&](const Literals& more) {
        if (more)
            for (const Literal& l : *more)
                if (std::find(out.begin(), out.end(), l) == out.end()) out.push_back(l);
    };
    if (!trace) return;
    for (const TraceRef& inner : trace->origin->of)
        collect(inner, out);
    add(trace->origin->literals);
    for (const TraceStep& step : trace->steps)
        add(step.literals);
}

} // namespace

Literals joined(const Literals& a, const Literals& b) {
    if (!b || a == b) return a;
    if (!a) return b;
    auto out = std::make_shared<std::vector<Literal>>(*a);
    for (const Literal& l : *b)
        if (out->size() < most_literals && std::find(out->begin(), out->end(), l) == out->end()) out->push_back(l);
    return out;
}

TraceRef trace_source(SourceKind kind, std::string key, const CodePlace& place) {
    auto origin = std::make_shared<Origin>();
    origin->kind = kind;
    origin->key = std::move(key);
    origin->place = place;
    auto out = std::make_shared<Trace>();
    out->origin = origin;
    return out;
}

bool is_level(const Origin& source) {
    return source.kind == SourceKind::level || source.kind == SourceKind::pulses;
}

const Origin* source_of(const TraceRef& trace) {
    const auto all = sources_of(trace);
    return all.empty() ? nullptr : all.front();
}

std::vector<const Origin*> sources_of(const TraceRef& trace) {
    std::vector<const Origin*> out;
    collect(trace, out);
    return out;
}

std::vector<Literal> made_constants_of(const TraceRef& trace) {
    std::vector<Literal> out;
    if (!trace) return out;
    for (const TraceRef& inner : trace->origin->of)
        for (const Literal& l : made_constants_of(inner))
            out.push_back(l);
    for (const TraceStep& step : trace->steps)
        if (step.literals && step.literals->size() > 1) out.push_back({step.number, step.literals->front().place});
    return out;
}

std::vector<Literal> literals_of(const TraceRef& trace) {
    std::vector<Literal> out;
    collect(trace, out);
    return out;
}

CodeValue whole_value(std::int64_t number, int type) {
    CodeValue out;
    out.kind = CodeValue::Kind::number;
    out.type = type;
    out.whole = number;
    out.ideal = static_cast<double>(number);
    return out;
}

CodeValue real_value(double number, int type) {
    CodeValue out;
    out.kind = CodeValue::Kind::number;
    out.type = type;
    out.real = out.ideal = number;
    out.is_float = true;
    return out;
}

CodeValue text_value(std::string words) {
    CodeValue out;
    out.kind = CodeValue::Kind::text;
    auto text = std::make_shared<Text>();
    text->words = std::move(words);
    out.text = text;
    return out;
}

CodeValue later_in_text(const CodeValue& value, std::int64_t letters) {
    if (!value.text || letters <= 0) return value;
    const std::size_t by = std::min(static_cast<std::size_t>(letters), value.text->words.size());
    auto rest = std::make_shared<Text>();
    rest->words = value.text->words.substr(by);
    for (TextPiece p : value.text->pieces)
        if (p.begin >= by) {
            p.begin -= by;
            p.end -= by;
            rest->pieces.push_back(std::move(p));
        }
    CodeValue out = value;
    out.text = std::move(rest);
    return out;
}

CodeValue unknown_value(int type) {
    CodeValue out;
    out.kind = CodeValue::Kind::unknown;
    out.type = type;
    return out;
}

CodeValue in_type(const CodeValue& value, const CodeType& type, int type_index, bool* wrapped, bool* cut) {
    if (value.kind == CodeValue::Kind::address && type.kind == CodeType::Kind::boolean)
        return whole_value(value.truth() ? 1 : 0, type_index);
    if (!value.is_number() || !type.is_number()) return value;
    CodeValue out = value;
    out.type = type_index;
    if (type.kind == CodeType::Kind::floating) {
        const double x = value.number();
        out.is_float = true;
        out.real = type.bits <= 32 ? static_cast<double>(static_cast<float>(x)) : x;
        out.whole = 0;
        return out;
    }
    out.is_float = false;
    out.real = 0;
    if (type.kind == CodeType::Kind::boolean) {
        out.whole = value.number() != 0 ? 1 : 0;
        out.ideal = static_cast<double>(out.whole);
        return out;
    }
    double x = value.number();
    if (value.is_float) {
        if (!std::isfinite(x)) x = 0;
        const double t = std::trunc(x);
        if (cut && t != x) *cut = true;
        x = t;
        if (std::abs(x) > 9.2e18) x = 0;
        out.whole = static_cast<std::int64_t>(x);
    }
    const std::int64_t before = out.whole;
    if (type.bits < 64 && type.bits > 0) {
        const std::uint64_t mask = (std::uint64_t{1} << type.bits) - 1;
        std::uint64_t bits = static_cast<std::uint64_t>(out.whole) & mask;
        if (type.is_signed && (bits >> (type.bits - 1) & 1) != 0) bits |= ~mask;
        out.whole = static_cast<std::int64_t>(bits);
    }
    if (wrapped && out.whole != before) *wrapped = true;
    return out;
}

TraceRef combined(char op, const CodeValue& a, const CodeValue& b, const CodePlace& place) {
    if (a.trace && b.trace) {
        const Trace& s = *a.trace;
        const Trace& t = *b.trace;
        if ((op == '+' || op == '|') && same_bus(s, t)) {
            auto out = trace_source(s.origin->kind, s.origin->key, s.origin->place);
            return out;
        }
        if ((op == '+' || op == '-') && same_origin(s, t)) {
            auto out = std::make_shared<Trace>(s.steps.size() >= t.steps.size() ? s : t);
            const double sign = op == '+' ? 1 : -1;
            out->slope = s.slope + sign * t.slope;
            out->offset = s.offset + sign * t.offset;
            // A filter's parts: together they are the number itself again.
            if (std::abs(out->slope - 1) < 1e-6 && std::abs(out->offset) < 1e-9) {
                out->slope = 1;
                out->offset = 0;
                out->steps.clear();
            }
            return out;
        }
        return applied(std::string(1, op), {a, b}, place);
    }
    if (a.trace) {
        const Trace& t = *a.trace;
        const double c = b.ideal; // as it stands in the text
        const TraceStep step{op, c, place, b.literals};
        switch (op) {
        case '+': return with_step(t, t.slope, t.offset + c, step);
        case '-': return with_step(t, t.slope, t.offset - c, step);
        case '*': return with_step(t, t.slope * c, t.offset * c, step);
        case '/': return c == 0 ? applied("/0", {a}, place) : with_step(t, t.slope / c, t.offset / c, step);
        default: return applied(std::string(1, op), {a, b}, place);
        }
    }
    const Trace& t = *b.trace;
    const double c = a.ideal;
    const TraceStep step{op, c, place, a.literals};
    switch (op) {
    case '+': return with_step(t, t.slope, t.offset + c, step);
    case '-': return with_step(t, -t.slope, c - t.offset, step);
    case '*': return with_step(t, t.slope * c, t.offset * c, step);
    default: return applied(std::string(1, op), {a, b}, place);
    }
}

TraceRef applied(const std::string& function, const std::vector<CodeValue>& of, const CodePlace& place) {
    auto origin = std::make_shared<Origin>();
    origin->is_source = false;
    origin->function = function;
    origin->place = place;
    for (const CodeValue& v : of) {
        if (v.trace) {
            origin->of.push_back(v.trace);
            origin->depth = std::max(origin->depth, v.trace->origin->depth + 1);
        } else {
            origin->beside.push_back(v.number());
            origin->literals = joined(origin->literals, v.literals);
        }
    }
    auto out = std::make_shared<Trace>();
    // What is made of itself turn by turn, as by a filter: its depth ends here.
    if (origin->depth > deepest_origin) return origin->of.front();
    out->origin = origin;
    return out;
}

} // namespace cognitum::program
