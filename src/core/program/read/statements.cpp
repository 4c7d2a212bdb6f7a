#include "core/base/phrase.h"
#include "core/program/read/evaluator.h"

#include <algorithm>

namespace cognitum::program {

namespace {
/// A level of a pin, how long it lasted, or a count of its pulses, that a condition goes back to; null: none.
TraceRef level_behind(const CodeValue& condition) {
    const Origin* source = source_of(condition.trace);
    return source && (is_level(*source) || source->kind == SourceKind::echo) ? condition.trace : nullptr;
}
} // namespace

Evaluator::Flow Evaluator::exec(int index) {
    if (index == nothing) return Flow::next;
    if (!step()) return Flow::stopped;
    const Node& n = m_tree.node(index);
    if (n.kind != NodeKind::block && n.place.file != nothing) m_here = n.place;
    switch (n.kind) {
    case NodeKind::block: {
        const std::size_t objects = m_frames.back().objects.size();
        Flow flow = Flow::next;
        for (const int child : n.children)
            if (flow = exec(child); flow != Flow::next) break;
        if (n.word != "declare") m_frames.back().objects.resize(objects);
        return flow;
    }
    case NodeKind::declare: declare(n); return Flow::next;
    case NodeKind::if_else: {
        const CodeValue condition = eval(n.children[0]);
        const TraceRef level = level_behind(condition);
        if (level) m_conditions.push_back(level);
        const Flow flow = exec(condition.truth() ? n.children[1] : n.children[2]);
        if (level && !m_conditions.empty()) m_conditions.pop_back();
        return flow;
    }
    case NodeKind::loop: return exec_loop(n);
    case NodeKind::choose: return exec_choose(n);
    case NodeKind::choose_case: return exec(n.children[1]);
    case NodeKind::give_back: {
        if (n.children[0] == nothing) return Flow::gave_back;
        if (m_frames.back().gives_reference) {
            const Spot spot = locate(n.children[0]);
            CodeValue& out = m_frames.back().result;
            out.kind = CodeValue::Kind::address;
            out.object = spot.object;
            out.slot = spot.slot;
            out.type = spot.type;
        } else {
            CodeValue out = eval(n.children[0]);
            m_frames.back().result = std::move(out);
        }
        return Flow::gave_back;
    }
    case NodeKind::leave: return Flow::left;
    case NodeKind::next_turn: return Flow::next_turn;
    default: eval(index); return stopped() ? Flow::stopped : Flow::next;
    }
}

Evaluator::Flow Evaluator::exec_loop(const Node& n) {
    const std::size_t objects = m_frames.back().objects.size();
    exec(n.children[0]);
    bool acted = m_acted;
    double wake = m_wake_us;
    const auto remember = [&] {
        acted = acted || m_acted;
        if (m_wake_us > 0 && (wake == 0 || m_wake_us < wake)) wake = m_wake_us;
    };
    Flow out = Flow::next;
    int idle = 0;
    for (bool first = true;; first = false) {
        const double began = m_pins.now_us();
        m_acted = m_looked = false;
        m_wake_us = 0;
        if (!(first && n.word == "do") && n.children[1] != nothing && !eval(n.children[1]).truth()) break;
        const std::size_t inside = m_frames.back().objects.size();
        const Flow flow = exec(n.children[3]);
        m_frames.back().objects.resize(inside);
        if (flow == Flow::gave_back || flow == Flow::stopped) {
            out = flow;
            break;
        }
        if (flow == Flow::left) break;
        exec(n.children[2]);
        if (!step()) {
            out = Flow::stopped;
            break;
        }
        // A loop that waits for the clock or for a pin: nothing changes until one of them does.
        const bool waits = n.word != "for" && !m_acted && (m_wake_us > 0 || m_looked);
        if (waits) {
            if (m_wake_us == 0 && !m_pins.next_event_us() && ++idle > 2000) {
                stop(phrase("it waits for something that never comes"), n.place);
                out = Flow::stopped;
                break;
            }
            if (m_looked ? m_wake_us > 0 || m_pins.next_event_us().has_value() : true) wait_for_something(began);
            acted = true; // it took its time
        }
        remember();
    }
    remember();
    if (m_ended && m_seen.last_loop.line == 0) m_seen.last_loop = n.place;
    m_acted = acted;
    m_wake_us = wake;
    m_frames.back().objects.resize(objects);
    return out;
}

Evaluator::Flow Evaluator::exec_choose(const Node& n) {
    const CodeValue of = eval(n.children[0]);
    const TraceRef level = level_behind(of);
    const std::vector<int> cases = m_tree.node(n.children[1]).children;
    std::size_t begin = cases.size(), otherwise = cases.size();
    // Labels stand in the block, or one behind the other inside each other.
    const auto matches = [&](int index) {
        while (m_tree.node(index).kind == NodeKind::choose_case) {
            const Node& c = m_tree.node(index);
            if (c.children[0] == nothing) return 2;
            if (eval(c.children[0]).number() == of.number()) return 1;
            index = c.children[1];
            if (index == nothing) break;
        }
        return 0;
    };
    for (std::size_t i = 0; i < cases.size(); ++i) {
        if (cases[i] == nothing || m_tree.node(cases[i]).kind != NodeKind::choose_case) continue;
        const int match = matches(cases[i]);
        if (match == 1) {
            begin = i;
            break;
        }
        if (match == 2) otherwise = i;
    }
    if (begin == cases.size()) begin = otherwise;
    const std::size_t objects = m_frames.back().objects.size();
    if (level) m_conditions.push_back(level);
    Flow out = Flow::next;
    for (std::size_t i = begin; i < cases.size() && out == Flow::next; ++i)
        out = exec(cases[i]);
    if (level && !m_conditions.empty()) m_conditions.pop_back();
    m_frames.back().objects.resize(objects);
    return out == Flow::left ? Flow::next : out;
}

void Evaluator::declare(const Node& n) {
    const Variable& v = m_tree.variables[static_cast<std::size_t>(n.target)];
    if (v.is_static) {
        object_of(n.target); // it is made the first time, and stays
        return;
    }
    if (v.is_reference) {
        const int object = new_object(nothing);
        m_frames.back().objects.emplace_back(n.target, object);
        if (n.children.empty()) return;
        CodeValue to;
        if (const Spot spot = locate(n.children[0]); spot.there()) {
            to.kind = CodeValue::Kind::address;
            to.object = spot.object;
            to.slot = spot.slot;
        } else {
            to = eval(n.children[0]);
        }
        at(object).held.front() = to;
        return;
    }
    const int object = new_object(v.type);
    if (!n.children.empty()) start_value({object, 0, v.type}, n.children[0]);
    m_frames.back().objects.emplace_back(n.target, object);
}

/// What a variable begins with: a value, a list, or a text in an array of letters.
void Evaluator::start_value(const Spot& spot, int init) {
    const Node& n = m_tree.node(init);
    const CodeType& t = m_tree.type(spot.type);
    if (n.kind == NodeKind::list && t.kind == CodeType::Kind::array) {
        const int each = m_tree.slot_count(t.element);
        for (std::size_t i = 0; i < n.children.size() && static_cast<int>(i) < t.count; ++i)
            start_value({spot.object, spot.slot + static_cast<int>(i) * each, t.element}, n.children[i]);
        return;
    }
    if (n.kind == NodeKind::list && t.kind == CodeType::Kind::record && t.record != nothing) {
        const Record& record = m_tree.records[static_cast<std::size_t>(t.record)];
        for (std::size_t i = 0; i < n.children.size() && i < record.types.size(); ++i)
            start_value(
                {spot.object, spot.slot + m_tree.field_slot(t.record, static_cast<int>(i)), record.types[i]},
                n.children[i]);
        return;
    }
    if (n.kind == NodeKind::list && !n.children.empty()) return start_value(spot, n.children[0]);
    if (n.kind == NodeKind::list) return;
    if (n.kind == NodeKind::construct && t.kind == CodeType::Kind::record && t.name != "String") {
        construct(n, spot);
        return;
    }
    if (n.kind == NodeKind::text && t.kind == CodeType::Kind::array) {
        for (std::size_t i = 0; i < n.word.size() && static_cast<int>(i) < t.count; ++i)
            store({spot.object, spot.slot + static_cast<int>(i), t.element},
                  whole_value(static_cast<signed char>(n.word[i]), t.element));
        return;
    }
    store(spot, eval(init));
}

} // namespace cognitum::program
