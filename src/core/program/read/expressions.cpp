#include "core/program/read/evaluator.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

bool is_bus(const TraceRef& trace) {
    const Origin* o = source_of(trace);
    return o && (o->kind == SourceKind::i2c || o->kind == SourceKind::spi || o->kind == SourceKind::one_pin_bus);
}

/// Words that are no numbers are worth one that works: a library's answer, of which nothing is known.
CodeValue library_value(const Node& node, int type, bool is_float) {
    CodeValue out = is_float ? real_value(20, type) : whole_value(20, type);
    out.trace = trace_source(SourceKind::library, node.word, node.place);
    return out;
}

} // namespace

CodeValue Evaluator::in(const CodeValue& value, int type, const CodePlace& place, bool written) {
    const CodeType& t = m_tree.type(type);
    bool wrapped = false, cut = false;
    CodeValue out = in_type(value, t, type, &wrapped, &cut);
    if (!out.is_number() || !value.is_number()) return out;
    if (is_bus(value.trace) && !value.is_float) { // bits that are taken for a number
        out.ideal = out.number();
        return out;
    }
    if (wrapped && value.trace && t.is_whole() && (t.is_signed || !written) &&
        value.clock == CodeValue::Clock::none)
        out.losses |= std::uint64_t{1} << loss(Loss::Kind::overflow, place, out, value.ideal, t.bits);
    // Eight bits for a converter's code: what is measured today may fit, and the next value wraps.
    constexpr int narrow = 8;
    const bool code = value.trace && value.trace->origin->is_source &&
                      value.trace->origin->kind == SourceKind::analog && value.trace->slope == 1 &&
                      value.trace->offset == 0;
    if (code && t.kind == CodeType::Kind::integer && t.bits <= narrow && m_tree.type(value.type).bits > narrow)
        m_seen.narrow.try_emplace({place.file, place.line}, place, t.bits);
    if (cut && value.trace) out.losses |= std::uint64_t{1} << loss(Loss::Kind::cut, place, out, value.ideal);
    if (cut && value.trace) {
        auto whole = std::make_shared<Trace>(*value.trace);
        if (whole->steps.size() < most_steps) whole->steps.push_back({'w', 0, place, nullptr});
        out.trace = whole;
    }
    if (!value.trace && t.is_whole()) out.ideal = out.number();
    return out;
}

void Evaluator::note_time(const CodeValue& a, const CodeValue& b) {
    if (a.clock == CodeValue::Clock::none && b.clock == CodeValue::Clock::none) return;
    const bool in_us = a.clock == CodeValue::Clock::us || b.clock == CodeValue::Clock::us;
    // A time grows: it meets the other number when that is still ahead. Of two times nobody knows which one stands.
    const double ahead = b.clock == CodeValue::Clock::none   ? b.number() - a.number()
                         : a.clock == CodeValue::Clock::none ? a.number() - b.number()
                                                             : std::abs(b.number() - a.number());
    if (ahead < 0) return;
    const double left = ahead * (in_us ? 1 : 1000);
    constexpr double longest_us = 3600e6;
    if (left > longest_us) return;
    if (m_wake_us == 0 || left + (in_us ? 1 : 1000) < m_wake_us) m_wake_us = left + (in_us ? 1 : 1000);
}

CodeValue Evaluator::eval(int index) {
    if (index == nothing || !step()) return unknown_value();
    const Node& n = m_tree.node(index);
    switch (n.kind) {
    case NodeKind::whole_number: {
        CodeValue out = whole_value(n.whole, n.type);
        if (m_tree.type(n.type).kind == CodeType::Kind::pointer) out.kind = CodeValue::Kind::address;
        if (m_tree.type(n.type).kind == CodeType::Kind::floating)
            out = real_value(static_cast<double>(n.whole), n.type);
        out.literals = std::make_shared<std::vector<Literal>>(1, Literal{static_cast<double>(n.whole), n.place});
        return out;
    }
    case NodeKind::real_number: {
        CodeValue out = in_type(real_value(n.real, n.type), m_tree.type(n.type), n.type);
        out.literals = std::make_shared<std::vector<Literal>>(1, Literal{n.real, n.place});
        return out;
    }
    case NodeKind::text: return text_value(n.word);
    case NodeKind::variable:
    case NodeKind::member:
    case NodeKind::element: {
        if (n.kind == NodeKind::element) {
            const CodeValue base = eval(n.children[0]);
            if (base.text) { // a letter of a text
                const CodeValue at = eval(n.children[1]);
                const auto& words = base.text->words;
                const bool there = at.whole >= 0 && at.whole < static_cast<std::int64_t>(words.size());
                return whole_value(there ? static_cast<signed char>(words[static_cast<std::size_t>(at.whole)]) : 0,
                                   n.type);
            }
        }
        const Spot spot = locate(index);
        CodeValue out = spot.there() ? load(spot) : library_value(n, n.type, true);
        // A name of the core, as A2: it stands where it is used.
        if (out.literals && out.literals->size() == 1 && out.literals->front().place.file == nothing)
            out.literals = std::make_shared<std::vector<Literal>>(1, Literal{out.literals->front().value, n.place});
        return out;
    }
    case NodeKind::function: {
        CodeValue out;
        out.kind = CodeValue::Kind::function;
        out.slot = n.target;
        return out;
    }
    case NodeKind::unary: return unary(n);
    case NodeKind::binary: return binary(n);
    case NodeKind::assign: return assign(n);
    case NodeKind::choice: {
        const CodeValue condition = eval(n.children[0]);
        CodeValue out = eval(n.children[condition.truth() ? 1 : 2]);
        if (!out.trace && condition.trace && out.is_number() &&
            source_of(condition.trace)->kind == SourceKind::level)
            out.trace = condition.trace;
        return out;
    }
    case NodeKind::convert: return convert(n);
    case NodeKind::call: return call(n);
    case NodeKind::construct: {
        if (n.word != "base") return construct(n, {});
        const Spot self = m_frames.back().self;
        return construct(n, {self.object, self.slot, n.type});
    }
    case NodeKind::list:
        if (m_tree.type(n.type).kind == CodeType::Kind::record && m_tree.type(n.type).name != "String") {
            const Spot spot{new_object(n.type), 0, n.type};
            start_value(spot, index);
            return load(spot);
        }
        return n.children.empty() ? whole_value(0, n.type) : eval(n.children[0]);
    case NodeKind::this_object: {
        const Spot self = m_frames.back().self;
        CodeValue out;
        out.kind = CodeValue::Kind::address;
        out.object = self.object;
        out.slot = self.slot;
        out.type = n.type;
        return out;
    }
    case NodeKind::not_known:
        if (n.place.file != nothing && m_seen.not_followed.size() < 5)
            m_seen.not_followed.try_emplace(n.place.line, n.word);
        for (const int child : n.children)
            eval(child);
        return library_value(n, n.type, true);
    default: exec(index); return {};
    }
}

Evaluator::Spot Evaluator::locate(int index) {
    if (index == nothing || !step()) return {};
    const Node& n = m_tree.node(index);
    switch (n.kind) {
    case NodeKind::variable: {
        Spot out = spot_of_variable(n.target);
        if (out.type == nothing) out.type = n.type;
        return out;
    }
    case NodeKind::member: {
        const CodeType& base_type = m_tree.type_of(m_tree.node(n.children[0]));
        Spot base =
            base_type.kind == CodeType::Kind::pointer || m_tree.node(n.children[0]).kind == NodeKind::this_object
                ? spot_of(eval(n.children[0]))
                : locate(n.children[0]);
        if (!base.there()) {
            const CodeValue of = eval(n.children[0]);
            if (of.kind != CodeValue::Kind::address) return {};
            base = {of.object, of.slot, nothing};
        }
        if (!base.there()) return {};
        return {base.object, base.slot + std::max(0, n.target), n.type};
    }
    case NodeKind::element: {
        const CodeValue base = eval(n.children[0]);
        const CodeValue at = eval(n.children[1]);
        if (base.kind != CodeValue::Kind::address || !at.is_number()) return {};
        return {base.object, base.slot + static_cast<int>(at.whole) * m_tree.slot_count(n.type), n.type};
    }
    case NodeKind::unary:
        if (n.word == "*") {
            const CodeValue to = eval(n.children[0]);
            return to.kind == CodeValue::Kind::address ? Spot{to.object, to.slot, n.type} : Spot{};
        }
        if (n.word == "++x" || n.word == "--x") {
            unary(n);
            return locate(n.children[0]);
        }
        return {};
    case NodeKind::assign: assign(n); return locate(n.children[0]);
    case NodeKind::choice: return locate(n.children[eval(n.children[0]).truth() ? 1 : 2]);
    case NodeKind::convert:
        return m_tree.type_of(n).kind == CodeType::Kind::record ? locate(n.children[0]) : Spot{};
    case NodeKind::call: {
        const CodeValue out = call(n);
        return out.kind == CodeValue::Kind::address ? Spot{out.object, out.slot, n.type} : Spot{};
    }
    case NodeKind::this_object: return m_frames.back().self;
    default: return {};
    }
}

CodeValue Evaluator::convert(const Node& n) {
    CodeValue v = eval(n.children[0]);
    const CodeType& t = m_tree.type_of(n);
    if (n.word == "ToVoid") return {};
    if (t.kind == CodeType::Kind::pointer || t.kind == CodeType::Kind::record) {
        if (v.kind == CodeValue::Kind::address && t.kind == CodeType::Kind::pointer) v.type = n.type;
        if (v.kind == CodeValue::Kind::number) { // a null pointer, or an address of hardware
            v = whole_value(0, n.type);
            v.kind = CodeValue::Kind::address;
        }
        return v;
    }
    if (v.text && t.is_number()) return whole_value(1, n.type);
    return in(v, n.type, n.place, n.written);
}

CodeValue Evaluator::unary(const Node& n) {
    if (n.word == "&") {
        const Node& of = m_tree.node(n.children[0]);
        if (of.kind == NodeKind::function) return eval(n.children[0]);
        const Spot spot = locate(n.children[0]);
        CodeValue out;
        out.kind = CodeValue::Kind::address;
        out.object = spot.object;
        out.slot = spot.slot;
        out.type = n.type;
        return out;
    }
    if (n.word == "*") {
        CodeValue to = eval(n.children[0]);
        if (to.kind == CodeValue::Kind::function) return to;
        if (to.text)
            return whole_value(to.text->words.empty() ? 0 : static_cast<signed char>(to.text->words[0]), n.type);
        return to.kind == CodeValue::Kind::address ? load({to.object, to.slot, n.type})
                                                   : library_value(n, n.type, true);
    }
    if (n.word.size() == 3) { // ++x x++ --x x--
        const Spot spot = locate(n.children[0]);
        const CodeValue before = spot.there() ? load(spot) : unknown_value();
        const int by = n.word.find('+') != std::string::npos ? 1 : -1;
        CodeValue after = before;
        if (before.kind == CodeValue::Kind::address) {
            after.slot += by * m_tree.slot_count(m_tree.type(before.type).element);
        } else if (before.is_number()) {
            after = in(arithmetic(by > 0 ? "+" : "-", before, whole_value(1), n.type, n.place), n.type, n.place);
            if (spot.object >= first_static) after = counted(before, after, by, n.place);
        }
        if (spot.there()) store(spot, after);
        return n.word[0] == 'x' ? before : after;
    }
    CodeValue v = eval(n.children[0]);
    if (n.word == "!") {
        CodeValue out = whole_value(v.truth() ? 0 : 1, n.type);
        if (v.trace) out.trace = applied("!", {v}, n.place);
        return out;
    }
    if (!v.is_number()) return v;
    if (n.word == "-") {
        CodeValue out = v;
        out.whole = -v.whole;
        out.real = -v.real;
        out.ideal = -v.ideal;
        if (v.trace) out.trace = combined('*', v, whole_value(-1), n.place);
        if (v.literals && v.literals->size() == 1) { // a negative number that stands in the text
            Literal negative = v.literals->front();
            negative.value = -negative.value;
            out.literals = std::make_shared<std::vector<Literal>>(1, negative);
        }
        return in(out, n.type, n.place);
    }
    if (n.word == "~") {
        CodeValue out = in(whole_value(~v.whole, n.type), n.type, n.place, true);
        out.trace = v.trace;
        return out;
    }
    return v;
}

/// A number that grows by a constant because of a pin: under its level's condition, or in its interrupt.
CodeValue Evaluator::counted(const CodeValue& before, CodeValue after, double by, const CodePlace& place) {
    if (before.clock != CodeValue::Clock::none) return after;
    std::string pin = m_interrupt_pin;
    if (pin.empty() && !m_conditions.empty())
        if (const Origin* o = source_of(m_conditions.back())) pin = o->key;
    if (pin.empty() || before.trace) return after;
    auto trace = std::make_shared<Trace>(*trace_source(SourceKind::pulses, pin, place));
    trace->slope = by;
    after.trace = trace;
    return after;
}

/// The converter's own registers: a conversion is begun by a bit, which is gone when it is done.
void Evaluator::convert_by_register() {
    int control = nothing, mux = nothing, result = nothing, low = nothing, high = nothing;
    for (const int v : m_tree.globals) {
        const Variable& variable = m_tree.variables[static_cast<std::size_t>(v)];
        if (variable.place.file != nothing) continue;
        (variable.name == "ADCSRA"  ? control
         : variable.name == "ADMUX" ? mux
         : variable.name == "ADC"   ? result
         : variable.name == "ADCL"  ? low
         : variable.name == "ADCH"  ? high
                                    : m_no_register) = object_of(v);
    }
    constexpr std::int64_t begin = 1 << 6;
    if (control == nothing || mux == nothing) return;
    CodeValue state = at(control).held.front();
    if ((state.whole & begin) == 0) return;
    state.whole &= ~begin;
    at(control).held.front() = state;
    constexpr int internal = 14;
    const int channel = static_cast<int>(at(mux).held.front().whole & 15);
    const std::string pin = fmt::format("A{}", channel);
    CodeValue code = whole_value(
        channel == internal ? static_cast<std::int64_t>(m_board.internal_V / reference_V * std::ldexp(1.0, bits))
                            : m_pins.code(pin, reference_V, bits));
    if (channel != internal) code.trace = trace_source(SourceKind::analog, pin, m_here);
    if (result != nothing) at(result).held.front() = code;
    if (low != nothing) at(low).held.front() = whole_value(code.whole & 255);
    if (high != nothing) at(high).held.front() = whole_value(code.whole >> 8);
}

CodeValue Evaluator::assign(const Node& n) {
    const Spot spot = locate(n.children[0]);
    const int type = m_tree.node(n.children[0]).type;
    const CodeType& t = m_tree.type(type);
    if (n.word == "=") {
        CodeValue v = eval(n.children[1]);
        if (spot.there()) {
            CodeValue kept = v;
            // x = x + 1 under a pin's level
            const Node& right = m_tree.node(n.children[1]);
            if (v.is_number() && !v.trace && right.kind != NodeKind::whole_number &&
                (!m_interrupt_pin.empty() || !m_conditions.empty())) {
                const CodeValue before = load(spot);
                const double by = v.number() - before.number();
                if (spot.object >= first_static && before.is_number() && !before.trace && by != 0 &&
                    before.number() != 0)
                    kept = counted(before, v, by, n.place);
            }
            if (m_tree.type(spot.type).kind != CodeType::Kind::none) store(spot, kept);
            if (m_tree.node(n.children[0]).word == "ADCSRA") convert_by_register();
        }
        return v;
    }
    CodeValue before = spot.there() ? load(spot) : unknown_value();
    const CodeValue v = eval(n.children[1]);
    const std::string op = n.word.substr(0, n.word.size() - 1);
    if (before.kind == CodeValue::Kind::address && v.is_number()) {
        CodeValue moved = before;
        moved.slot +=
            static_cast<int>(op == "-" ? -v.whole : v.whole) * m_tree.slot_count(m_tree.type(before.type).element);
        store(spot, moved);
        return moved;
    }
    if (!before.is_number() || !v.is_number()) {
        if (spot.there()) store(spot, library_value(n, type, t.kind == CodeType::Kind::floating));
        return before;
    }
    const std::size_t losses_before = m_seen.losses.size();
    CodeValue after = in(arithmetic(op, before, v, nothing, n.place), type, n.place);
    if (const Node& left = m_tree.node(n.children[0]);
        m_seen.losses.size() > losses_before && left.kind == NodeKind::variable)
        m_seen.losses.back().declared = m_tree.variables[static_cast<std::size_t>(left.target)].place;
    if (op == "|" && !after.trace && !m_conditions.empty())
        if (const Origin* o = source_of(m_conditions.back()))
            after.trace = trace_source(SourceKind::one_pin_bus, o->key, n.place);
    if ((op == "+" || op == "-") && !v.trace && spot.object >= first_static)
        after = counted(before, after, op == "+" ? v.number() : -v.number(), n.place);
    if (spot.there()) store(spot, after);
    if (m_tree.node(n.children[0]).word == "ADCSRA") convert_by_register();
    return after;
}

CodeValue Evaluator::binary(const Node& n) {
    const std::string& op = n.word;
    if (op == "&&" || op == "||") {
        const CodeValue a = eval(n.children[0]);
        if (a.truth() == (op == "||")) {
            CodeValue out = whole_value(op == "||" ? 1 : 0, n.type);
            if (a.trace) out.trace = a.trace;
            return out;
        }
        const CodeValue b = eval(n.children[1]);
        CodeValue out = whole_value(b.truth() ? 1 : 0, n.type);
        // A pin's level before any other, so that a count knows what it counts.
        const Origin* first = source_of(a.trace);
        out.trace = first && first->kind == SourceKind::level ? a.trace : b.trace ? b.trace : a.trace;
        return out;
    }
    if (op == ",") {
        eval(n.children[0]);
        return eval(n.children[1]);
    }
    const CodeValue a = eval(n.children[0]);
    const CodeValue b = eval(n.children[1]);
    if (a.kind == CodeValue::Kind::address || b.kind == CodeValue::Kind::address) {
        if (op == "==" || op == "!=") {
            const bool same = a.object == b.object && a.slot == b.slot;
            return whole_value(same == (op == "==") ? 1 : 0, n.type);
        }
        if (op == "-" && b.kind == CodeValue::Kind::address)
            return whole_value((a.slot - b.slot) / std::max(1, m_tree.slot_count(m_tree.type(a.type).element)),
                               n.type);
        if (op == "+" || op == "-") {
            const bool left = a.kind == CodeValue::Kind::address;
            CodeValue out = left ? a : b;
            const CodeValue& by = left ? b : a;
            CodeType of = m_tree.type(out.type);
            const int each = m_tree.slot_count(of.element);
            out.slot += static_cast<int>(op == "-" ? -by.whole : by.whole) * each;
            if (of.kind == CodeType::Kind::array) out.type = n.type;
            return out;
        }
        return whole_value(a.slot < b.slot ? 1 : 0, n.type);
    }
    if (op == "==" || op == "!=" || op == "<" || op == ">" || op == "<=" || op == ">=")
        return compare(op, a, b, n.type, n.place);
    return arithmetic(op, a, b, n.type, n.place);
}

CodeValue Evaluator::compare(const std::string& op, const CodeValue& a, const CodeValue& b, int type,
                             const CodePlace& place) {
    const double x = a.number(), y = b.number();
    note_time(a, b);
    const bool out = op == "=="   ? x == y
                     : op == "!=" ? x != y
                     : op == "<"  ? x < y
                     : op == ">"  ? x > y
                     : op == "<=" ? x <= y
                                  : x >= y;
    CodeValue v = whole_value(out ? 1 : 0, type);
    if (a.trace || b.trace) v.trace = applied(op, {a, b}, place);
    return v;
}

CodeValue Evaluator::arithmetic(const std::string& op, const CodeValue& a, const CodeValue& b, int type,
                                const CodePlace& place) {
    if (!a.is_number() || !b.is_number()) return a.is_number() ? b : a;
    CodeValue out;
    out.kind = CodeValue::Kind::number;
    out.type = type;
    out.is_float = a.is_float || b.is_float;
    out.losses = a.losses | b.losses;
    out.literals = a.trace || b.trace ? nullptr : joined(a.literals, b.literals);
    // Bits of a bus are put together; what is divided is a number already.
    const bool bits_of_bus = op != "/" && (is_bus(a.trace) || is_bus(b.trace));
    const bool traced = a.trace || b.trace;
    if ((op == "+" || op == "-") && (a.clock != CodeValue::Clock::none || b.clock != CodeValue::Clock::none))
        out.clock = a.clock != CodeValue::Clock::none ? a.clock : b.clock;
    bool inexact = false;
    if (op == "+" || op == "-" || op == "*" || op == "/") {
        const auto with = [&](double x, double y) {
            return op == "+" ? x + y : op == "-" ? x - y : op == "*" ? x * y : x / y;
        };
        out.ideal = with(a.ideal, b.ideal);
        if (out.is_float) {
            out.real = with(a.number(), b.number());
        } else if (op == "/") {
            if (b.whole == 0) {
                stop("it divides by zero", place);
                return whole_value(0, type);
            }
            out.whole = a.whole / b.whole;
            inexact = a.whole % b.whole != 0;
        } else {
            const auto x = static_cast<std::uint64_t>(a.whole), y = static_cast<std::uint64_t>(b.whole);
            out.whole = static_cast<std::int64_t>(op == "+" ? x + y : op == "-" ? x - y : x * y);
        }
        if (traced) out.trace = combined(op[0], a, b, place);
    } else if (op == "%") {
        out.whole = b.whole == 0 ? 0 : a.whole % b.whole;
        out.ideal = static_cast<double>(out.whole);
        if (traced) out.trace = applied(op, {a, b}, place);
    } else {
        const auto x = static_cast<std::uint64_t>(a.whole);
        const auto shift = static_cast<unsigned>(std::clamp<std::int64_t>(b.whole, 0, 63));
        out.whole = op == "<<"   ? static_cast<std::int64_t>(x << shift)
                    : op == ">>" ? a.whole >> shift
                    : op == "&"  ? a.whole & b.whole
                    : op == "|"  ? a.whole | b.whole
                                 : a.whole ^ b.whole;
        out.ideal = static_cast<double>(out.whole);
        if (traced && (op == "<<" || op == ">>") && !b.trace) {
            const CodeValue by = whole_value(std::int64_t{1} << std::min(shift, 30U));
            out.trace = combined(op == "<<" ? '*' : '/', a, by, place);
            if (!bits_of_bus) out.ideal = op == "<<" ? a.ideal * by.number() : a.ideal / by.number();
            inexact = op == ">>" && !bits_of_bus && (a.whole & ((std::int64_t{1} << shift) - 1)) != 0;
            if (bits_of_bus) out.trace = a.trace;
        } else if (traced) {
            out.trace =
                bits_of_bus && !(a.trace && b.trace) ? (a.trace ? a.trace : b.trace) : combined(op[0], a, b, place);
        }
    }
    // Bits that are put together one by one from a pin.
    if (op == "<<" || op == "|" || op == ">>")
        for (const Origin* o : sources_of(out.trace))
            if (o->kind == SourceKind::level || o->kind == SourceKind::one_pin_bus) {
                out.trace = trace_source(SourceKind::one_pin_bus, o->key, o->place);
                break;
            }
    if (type == nothing) { // a compound assignment: its target's type decides
        if (inexact && traced && !bits_of_bus)
            out.losses |= std::uint64_t{1} << loss(Loss::Kind::division, place, out, out.ideal);
        return out;
    }
    const CodeType& t = m_tree.type(type);
    bool wrapped = false;
    CodeValue kept = in_type(out, t, type, &wrapped);
    kept.ideal = bits_of_bus ? kept.number() : out.ideal;
    if (inexact && traced && !bits_of_bus)
        kept.losses |= std::uint64_t{1} << loss(Loss::Kind::division, place, kept, out.ideal);
    const bool counts = op == "*" || op == "+" || op == "-";
    // Differences of unsigned times are meant to wrap, and so are checksums; signed numbers never are.
    const bool wrong = wrapped && counts && !bits_of_bus && out.clock == CodeValue::Clock::none &&
                       (t.is_signed || (traced && op != "-"));
    if (wrong) kept.losses |= std::uint64_t{1} << loss(Loss::Kind::overflow, place, kept, out.ideal, t.bits);
    if (!traced && !wrong && !out.is_float) kept.ideal = kept.number();
    return kept;
}

CodeValue Evaluator::construct(const Node& n, const Spot& into) {
    const CodeType& t = m_tree.type_of(n);
    std::vector<CodeValue> given;
    std::vector<bool> left_out;
    for (const int child : n.children) {
        given.push_back(eval(child));
        left_out.push_back(m_tree.node(child).place.line == 0);
    }
    if (t.name == "String") {
        Call c{n, "String::String", given, left_out, {}, {}};
        const CoreCall make = core_call(c.name);
        return make ? make(*this, c) : text_value({});
    }
    Spot spot = into;
    if (!spot.there()) spot = {new_object(n.type), 0, n.type};
    if (n.target != nothing && m_tree.functions[static_cast<std::size_t>(n.target)].body != nothing)
        call_function(n.target, given, spot);
    else if (!given.empty() && m_tree.slot_count(n.type) == 1 && given[0].is_number())
        store({spot.object, spot.slot, nothing}, given[0]); // a wrapper of a number
    return load(spot);
}

/// Of a virtual function the one of the object that it is called for.
int Evaluator::overrider(int function, const Spot& self) {
    if (!has(self.object) || self.slot != 0) return function;
    const CodeType& t = m_tree.type(at(self.object).type);
    if (t.record == nothing) return function;
    const std::string& whole = m_tree.functions[static_cast<std::size_t>(function)].name;
    const std::string name = whole.substr(whole.rfind(':') + 1);
    for (const auto& [own, f] : m_tree.records[static_cast<std::size_t>(t.record)].virtuals)
        if (own == name) return f;
    return function;
}

CodeValue Evaluator::call(const Node& n) {
    std::vector<int> arguments = n.children;
    if (n.target == nothing) { // through a pointer
        const CodeValue to = arguments.empty() ? CodeValue{} : eval(arguments.front());
        std::vector<CodeValue> given;
        for (std::size_t i = 1; i < arguments.size(); ++i)
            given.push_back(eval(arguments[i]));
        return to.kind == CodeValue::Kind::function ? call_function(to.slot, given, {})
                                                    : library_value(n, n.type, true);
    }
    const CodeFunction& f = m_tree.functions[static_cast<std::size_t>(n.target)];
    Spot self;
    std::string object;
    if (f.is_method && !arguments.empty()) {
        const Node& of = m_tree.node(arguments.front());
        object = of.word;
        const bool by_pointer = m_tree.type_of(of).kind == CodeType::Kind::pointer;
        self = by_pointer ? spot_of(eval(arguments.front())) : locate(arguments.front());
        if (!self.there()) { // of a value that stands nowhere: it is kept for the call
            self = {new_object(of.type), 0, of.type};
            store(self, eval(arguments.front()));
        }
        if (self.type == nothing) self.type = of.type;
        arguments.erase(arguments.begin());
    }
    std::vector<CodeValue> given;
    std::vector<bool> left_out;
    for (std::size_t i = 0; i < arguments.size(); ++i) {
        const bool by_reference = f.body != nothing && i < f.parameters.size() &&
                                  m_tree.variables[static_cast<std::size_t>(f.parameters[i])].is_reference;
        left_out.push_back(m_tree.node(arguments[i]).place.line == 0);
        if (by_reference)
            if (const Spot spot = locate(arguments[i]); spot.there()) {
                CodeValue to;
                to.kind = CodeValue::Kind::address;
                to.object = spot.object;
                to.slot = spot.slot;
                to.type = spot.type;
                given.push_back(to);
                continue;
            }
        given.push_back(eval(arguments[i]));
    }
    if (stopped()) return unknown_value(n.type);
    const int target = f.is_virtual ? overrider(n.target, self) : n.target;
    if (m_tree.functions[static_cast<std::size_t>(target)].body != nothing) {
        CodeValue out = call_function(target, std::move(given), self);
        if (f.returns_reference && out.kind == CodeValue::Kind::address)
            return load({out.object, out.slot, n.type});
        return out;
    }
    Call c{n, f.name, std::move(given), std::move(left_out), self, object};
    if (const CoreCall known = core_call(c.name)) {
        CodeValue out = known(*this, c);
        if (out.is_number() && m_tree.type_of(n).is_number()) return in(out, n.type, n.place);
        return out;
    }
    // A library's: what is given to it may be what is sent.
    acted();
    pass_time(50);
    Text sent;
    for (const CodeValue& v : c.given) {
        const Text t = text_of(v);
        if (v.trace && v.is_number()) {
            const std::string words = v.is_float ? printed_real(v.real, 6) : std::to_string(v.whole);
            sent.pieces.push_back(
                {sent.words.size(), sent.words.size() + words.size(), std::make_shared<CodeValue>(v)});
            sent.words += words + " ";
        } else if (!t.words.empty()) {
            for (TextPiece p : t.pieces) {
                p.begin += sent.words.size();
                p.end += sent.words.size();
                sent.pieces.push_back(p);
            }
            sent.words += t.words + " ";
        }
    }
    if (!sent.pieces.empty()) {
        sent.words += "\n";
        send(c.object.empty() ? c.name : c.object, sent, n.place);
    }
    const CodeType& t = m_tree.type_of(n);
    if (t.name == "String") return text_value({});
    Node named = n;
    named.word = c.object.empty() ? f.name + "()" : c.object + "." + f.name.substr(f.name.rfind(':') + 1) + "()";
    if (t.is_number()) return library_value(named, n.type, t.kind == CodeType::Kind::floating);
    return unknown_value(n.type);
}

} // namespace cognitum::program
