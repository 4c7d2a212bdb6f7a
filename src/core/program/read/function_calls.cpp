// Calls: of the program's own functions, of the core's, and of what is not known.
#include "core/program/read/evaluator.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

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
    // A library's: what is given to it may be what is sent. One that is given nothing, as the watchdog's that is
    // fed in each turn, changes nothing that is followed here.
    if (!c.given.empty()) acted();
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
    const std::string own = f.name.substr(f.name.rfind(':') + 1);
    named.word = c.object.empty()               ? f.name + "()"
                 : own.starts_with("operator ") ? c.object // a name that stands for a number
                                                : c.object + "." + own + "()";
    if (t.is_number()) return library_value(named, n.type, t.kind == CodeType::Kind::floating);
    return unknown_value(n.type);
}

} // namespace cognitum::program
