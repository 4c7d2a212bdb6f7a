// What a program holds in memory: variables, arrays, structs, texts, by objects and their slots.
#include "core/base/phrase.h"
#include "core/program/read/evaluator.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {
constexpr std::size_t most_objects = 20000;
constexpr int most_slots = 16384; ///< of one object: more than the memory of such a board
} // namespace

bool Evaluator::has(int object) const {
    return object >= first_static ? object - first_static < static_cast<int>(m_lasting.size())
                                  : object >= 0 && object < static_cast<int>(m_objects.size());
}

Evaluator::Object& Evaluator::at(int object) {
    return object >= first_static ? m_lasting[static_cast<std::size_t>(object - first_static)]
                                  : m_objects[static_cast<std::size_t>(object)];
}

/// `lasts`: of a variable that outlives the function that it stands in.
int Evaluator::new_object(int type, bool lasts) {
    if (m_objects.size() + m_lasting.size() >= most_objects) {
        stop(phrase("it uses more memory than such a board has"), {});
        return 0;
    }
    Object object;
    object.type = type;
    object.held.resize(static_cast<std::size_t>(std::min(m_tree.slot_count(type), most_slots)));
    auto& where = lasts ? m_lasting : m_objects;
    where.push_back(std::move(object));
    const int out = static_cast<int>(where.size()) - 1 + (lasts ? first_static : 0);
    fill_in(out, 0, type);
    return out;
}

/// Zeros of the right types, and what a record's own text gives its fields.
void Evaluator::fill_in(int object, int slot, int type) {
    const CodeType& t = m_tree.type(type);
    const int there = static_cast<int>(at(object).held.size());
    if (slot >= there) return;
    if (t.kind == CodeType::Kind::array) {
        const int each = m_tree.slot_count(t.element);
        for (int i = 0; i < t.count && slot + i * each < there; ++i)
            fill_in(object, slot + i * each, t.element);
        return;
    }
    if (t.kind == CodeType::Kind::record && t.name == "String") {
        at(object).held[static_cast<std::size_t>(slot)] = text_value({});
        return;
    }
    if (t.kind == CodeType::Kind::record && t.record != nothing) {
        const Record record = m_tree.records[static_cast<std::size_t>(t.record)];
        for (std::size_t i = 0; i < record.types.size(); ++i) {
            const int at = slot + m_tree.field_slot(t.record, static_cast<int>(i));
            fill_in(object, at, record.types[i]);
            if (record.defaults[i] != nothing) start_value({object, at, record.types[i]}, record.defaults[i]);
        }
        return;
    }
    CodeValue zero = t.kind == CodeType::Kind::floating ? real_value(0, type) : whole_value(0, type);
    if (t.kind == CodeType::Kind::pointer || t.kind == CodeType::Kind::function)
        zero.kind = CodeValue::Kind::address;
    at(object).held[static_cast<std::size_t>(slot)] = zero;
}

void Evaluator::begin_globals() {
    for (const int v : m_tree.globals) {
        const Variable& variable = m_tree.variables[static_cast<std::size_t>(v)];
        const int object = new_object(variable.type, true);
        m_global_objects[v] = object;
        if (variable.init != nothing) start_value({object, 0, variable.type}, variable.init);
        if (stopped()) return;
    }
}

int Evaluator::object_of(int variable) {
    const auto newest = [variable](const Frame& frame) {
        const auto at = std::find_if(frame.objects.rbegin(), frame.objects.rend(),
                                     [variable](const auto& o) { return o.first == variable; });
        return at == frame.objects.rend() ? nothing : at->second;
    };
    if (const int own = newest(m_frames.back()); own != nothing) return own;
    if (const auto at = m_global_objects.find(variable); at != m_global_objects.end()) return at->second;
    // A variable of a lambda's outside, or of an outer function: the newest there is.
    for (std::size_t i = m_frames.size(); i-- > 0;)
        if (const int outer = newest(m_frames[i]); outer != nothing) return outer;
    const Variable& v = m_tree.variables[static_cast<std::size_t>(variable)];
    const int object = new_object(v.type, true);
    m_global_objects[variable] = object;
    if (v.init != nothing) start_value({object, 0, v.type}, v.init);
    return object;
}

Evaluator::Spot Evaluator::spot_of_variable(int variable) {
    const Variable& v = m_tree.variables[static_cast<std::size_t>(variable)];
    const int object = object_of(variable);
    if (!v.is_reference) return {object, 0, v.type};
    const CodeValue& to = at(object).held.front();
    if (to.kind == CodeValue::Kind::address && to.object != nothing) return {to.object, to.slot, v.type};
    return {object, 0, v.type};
}

Evaluator::Spot Evaluator::spot_of(const CodeValue& address) const {
    if (address.kind != CodeValue::Kind::address || address.object == nothing) return {};
    return {address.object, address.slot, m_tree.type(address.type).element};
}

int Evaluator::room(const CodeValue& address) {
    if (address.kind != CodeValue::Kind::address || !has(address.object)) return 0;
    return static_cast<int>(at(address.object).held.size()) - address.slot;
}

CodeValue Evaluator::load(const Spot& spot) {
    if (!has(spot.object)) return unknown_value(spot.type);
    Object& object = at(spot.object);
    const CodeType& t = m_tree.type(spot.type);
    if (t.kind == CodeType::Kind::array || (t.kind == CodeType::Kind::record && t.name != "String")) {
        CodeValue out;
        out.kind = CodeValue::Kind::address;
        out.object = spot.object;
        out.slot = spot.slot;
        out.type = spot.type;
        return out;
    }
    if (spot.slot < 0 || spot.slot >= static_cast<int>(object.held.size())) {
        stop(phrase("it reads outside of what it has: place {} of {}", spot.slot, object.held.size()), {});
        return unknown_value(spot.type);
    }
    if (object.text && spot.slot >= object.text_at && t.is_whole()) {
        const auto at = static_cast<std::size_t>(spot.slot - object.text_at);
        if (at <= object.text->words.size())
            return whole_value(
                at < object.text->words.size() ? static_cast<signed char>(object.text->words[at]) : 0, spot.type);
    }
    return object.held[static_cast<std::size_t>(spot.slot)];
}

void Evaluator::store(const Spot& spot, CodeValue value) {
    if (!has(spot.object)) return;
    Object& object = at(spot.object);
    const CodeType& t = m_tree.type(spot.type);
    if (t.kind == CodeType::Kind::record && t.name != "String" &&
        value.kind == CodeValue::Kind::address) { // a copy
        if (!has(value.object)) return;
        const int n = m_tree.slot_count(spot.type);
        const auto& from = at(value.object).held;
        for (int i = 0; i < n && spot.slot + i < static_cast<int>(object.held.size()) &&
                        value.slot + i < static_cast<int>(from.size());
             ++i)
            object.held[static_cast<std::size_t>(spot.slot + i)] = from[static_cast<std::size_t>(value.slot + i)];
        return;
    }
    if (spot.slot < 0 || spot.slot >= static_cast<int>(object.held.size())) {
        stop(phrase("it writes outside of what it has: place {} of {}", spot.slot, object.held.size()), {});
        return;
    }
    if (object.text && spot.slot >= object.text_at) {
        // Letter by letter from here on: what was written as a whole becomes letters.
        const auto text = std::exchange(object.text, nullptr);
        for (std::size_t i = 0;
             i <= text->words.size() && object.text_at + static_cast<int>(i) < static_cast<int>(object.held.size());
             ++i)
            object.held[static_cast<std::size_t>(object.text_at) + i] =
                whole_value(i < text->words.size() ? static_cast<signed char>(text->words[i]) : 0, spot.type);
    }
    if (value.kind == CodeValue::Kind::none) value = unknown_value(spot.type);
    object.held[static_cast<std::size_t>(spot.slot)] = std::move(value);
}

Text Evaluator::text_of(const CodeValue& value) {
    constexpr int longest = 4096;
    if (value.text) return *value.text;
    Text out;
    if (value.kind != CodeValue::Kind::address || !has(value.object)) return out;
    const Object& object = at(value.object);
    if (object.text && object.text_at == value.slot) return *object.text;
    for (int i = value.slot; i < static_cast<int>(object.held.size()) && i - value.slot < longest; ++i) {
        const CodeValue c = load({value.object, i, m_tree.type(value.type).element});
        if (c.text) return *c.text;
        if (!c.is_number() || c.whole == 0) break;
        out.words += static_cast<char>(c.whole);
    }
    return out;
}

void Evaluator::put_text(const CodeValue& address, const Text& text) {
    if (room(address) <= 0) return;
    Object& object = at(address.object);
    if (static_cast<int>(text.words.size()) >= room(address)) {
        stop(phrase("it writes {} letters and the end into a place for {}", text.words.size(), room(address)), {});
        return;
    }
    object.text = std::make_shared<Text>(text);
    object.text_at = address.slot;
}

} // namespace cognitum::program
