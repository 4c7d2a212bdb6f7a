#include "core/program/read/evaluator.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

bool is_bus(const TraceRef& trace) {
    const Origin* o = source_of(trace);
    return o && (o->kind == SourceKind::i2c || o->kind == SourceKind::spi || o->kind == SourceKind::one_pin_bus);
}

CodeValue library_value(const Node& node, int type, bool is_float) {
    CodeValue out = is_float ? real_value(20, type) : whole_value(20, type);
    out.trace = trace_source(SourceKind::library, node.word, node.place);
    return out;
}

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

} // namespace cognitum::program
