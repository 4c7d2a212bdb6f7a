// Operators with the types of the board: what they give, what is lost, and whether a pin makes a number grow.
#include "core/base/phrase.h"
#include "core/program/read/evaluator.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

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
        } else if (before.text) {
            after = later_in_text(before, by);
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
    if (pin.empty())
        if (const Origin* o = level_condition()) pin = o->key;
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
                (!m_interrupt_pin.empty() || level_condition())) {
                const CodeValue before = load(spot);
                const double by = v.number() - before.number();
                if (spot.object >= first_static && before.is_number() && !before.trace && by != 0 &&
                    before.number() != 0)
                    kept = counted(before, v, by, n.place);
            }
            if (m_tree.type(spot.type).kind != CodeType::Kind::none) store(spot, kept);
            register_written(m_tree.node(n.children[0]).word, kept);
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
    if (before.text && v.is_number() && op == "+") {
        CodeValue moved = later_in_text(before, v.whole);
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
    register_written(m_tree.node(n.children[0]).word, after);
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
    if (op == "+" && a.text && b.is_number()) return later_in_text(a, b.whole);
    if (op == "-" && a.text && b.text) // both point into one text, whose end they share
        return whole_value(static_cast<std::int64_t>(b.text->words.size()) -
                               static_cast<std::int64_t>(a.text->words.size()),
                           n.type);
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
                stop(phrase("it divides by zero"), place);
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
    // Also of two numbers of the text: 5 / 9 is 0.
    const bool dropped =
        inexact && !bits_of_bus && (traced || (a.literals && b.literals && out.clock == CodeValue::Clock::none));
    if (type == nothing) { // a compound assignment: its target's type decides
        if (dropped) out.losses |= std::uint64_t{1} << loss(Loss::Kind::division, place, out, out.ideal);
        return out;
    }
    const CodeType& t = m_tree.type(type);
    bool wrapped = false;
    CodeValue kept = in_type(out, t, type, &wrapped);
    kept.ideal = bits_of_bus ? kept.number() : out.ideal;
    if (dropped) kept.losses |= std::uint64_t{1} << loss(Loss::Kind::division, place, kept, out.ideal);
    const bool counts = op == "*" || op == "+" || op == "-";
    // Differences of unsigned times are meant to wrap, and so are checksums; signed numbers never are.
    const bool wrong = wrapped && counts && !bits_of_bus && out.clock == CodeValue::Clock::none &&
                       (t.is_signed || (traced && op != "-"));
    if (wrong) kept.losses |= std::uint64_t{1} << loss(Loss::Kind::overflow, place, kept, out.ideal, t.bits);
    if (!traced && !wrong && !dropped && !out.is_float) kept.ideal = kept.number();
    // From one look at a pin to another: how long its level lasted, measured by hand.
    if (op == "-" && a.watched != nothing && a.watched == b.watched)
        kept.trace = trace_source(SourceKind::echo, m_watched[static_cast<std::size_t>(a.watched)], place);
    return kept;
}

} // namespace cognitum::program
