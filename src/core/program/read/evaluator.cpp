#include "core/program/read/evaluator.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {
const char* const watchdog_interrupt = "watchdog"; ///< among the pins whose interrupts wait
}

const CallSeen* Observed::call(std::string_view name) const {
    for (const CallSeen& c : calls)
        if (c.name == name) return &c;
    return nullptr;
}

const CodeValue& Evaluator::Call::value(std::size_t i) const {
    static const CodeValue none;
    return i < given.size() ? given[i] : none;
}

Evaluator::Evaluator(const SyntaxTree& tree, BoardPins& pins, const BoardNature& board, const RunLimits& limits)
    : m_tree(tree), m_pins(pins), m_board(board), m_limits(limits) {
    reference_V = board.supply_V;
    bits = board.bits;
}

Observed Evaluator::run() {
    m_frames.emplace_back();
    begin_globals();
    // Interrupts that are set by the board's registers.
    for (std::size_t i = 0; i < m_tree.functions.size(); ++i) {
        if (m_tree.functions[i].is_interrupt && m_tree.functions[i].name == "interrupt_of_watchdog")
            m_watchdog_function = static_cast<int>(i);
        for (const char* pin : {"2", "3"})
            if (m_tree.functions[i].is_interrupt &&
                m_tree.functions[i].name == std::string("interrupt_of_pin_") + pin) {
                constexpr int falling = 2;
                m_seen.interrupts.push_back(
                    {pin, static_cast<int>(i), falling, m_tree.functions[i].place, {}, nullptr});
            }
    }
    if (!stopped()) call_function(m_tree.setup, {}, {});
    m_in_loop = true;
    const auto sent_everything = [&] { return m_seen.lines_sent >= 4 && m_seen.loop_turns >= 3; };
    while (!stopped() && m_pins.now_us() < m_limits.most_s * 1e6) {
        if (m_pins.now_us() > m_limits.least_s * 1e6 && sent_everything() && m_steps > m_limits.enough_steps) break;
        const double began = m_pins.now_us();
        m_acted = m_looked = false;
        m_wake_us = 0;
        call_function(m_tree.loop, {}, {});
        if (!stopped()) { // else the turn was cut short
            ++m_seen.loop_turns;
            if (!m_interrupts_on) m_seen.interrupts_off = interrupts_off_at;
        }
        pass_time(1);
        m_seen.longest_turn_ms = std::max(m_seen.longest_turn_ms, (m_pins.now_us() - began) / 1000);
        if (!m_acted) wait_for_something(began);
    }
    m_seen.end_s = m_pins.now_s();
    m_seen.unended = std::move(m_open_lines);
    return std::move(m_seen);
}

/// A turn that did nothing but look at the clock and at pins: until one of them can have changed, all turns are
/// alike.
void Evaluator::wait_for_something(double began_us) {
    if (m_looked && m_changes != m_changes_at_look) return; // since the look: it is looked at again first
    const auto event = m_pins.next_event_us();
    double until = m_wake_us > 0 ? began_us + m_wake_us + 1 : 0;
    // What is looked at changes after one more turn: what that turn takes from the clock is still of before.
    const double turn_us = m_pins.now_us() - began_us;
    if (event && (until == 0 || *event < until)) until = *event - (m_looked ? turn_us : -1);
    if (until == 0) until = m_pins.now_us() + 100e3;
    const double wait = until - m_pins.now_us();
    if (wait > 0) pass_time(wait);
}

void Evaluator::stop(std::string why, const CodePlace& place) {
    if (!m_seen.stopped.empty() || m_ended) return;
    m_seen.stopped = std::move(why);
    m_seen.stopped_at = place.line > 0 ? place : m_here;
}

/// False: it has had its number of steps. That is no fault: what was seen until then counts.
bool Evaluator::step() {
    m_owed_us += m_board.eight_bit ? 0.15 : 0.02;
    if (++m_steps <= m_limits.steps) return !stopped();
    m_ended = true;
    return false;
}

void Evaluator::pass_time(double us) {
    m_owed_us += us;
    const double all = std::exchange(m_owed_us, 0);
    m_pins.advance(all, [this] { serve_interrupts(); });
    serve_interrupts();
    if (m_pins.now_us() > 1e6 * m_limits.most_s * 2) m_ended = true;
}

bool Evaluator::ask(const std::string& key, const CodePlace& place) {
    Asked& a = m_seen.asked[key];
    ++a.times;
    const double now = m_pins.now_us();
    if (a.last_us >= 0 && now - a.last_us < a.shortest_us) {
        a.shortest_us = now - a.last_us;
        a.place = place;
    }
    a.last_us = now;
    return fails_every == 0 || a.times % fails_every != 0;
}

void Evaluator::looked_at(const std::string& pin) {
    looked();
    const auto at = std::find(m_watched.begin(), m_watched.end(), pin);
    constexpr std::size_t most_pins = 100;
    if (at == m_watched.end() && m_watched.size() >= most_pins) return;
    m_watched_last = static_cast<int>(at - m_watched.begin());
    if (at == m_watched.end()) m_watched.push_back(pin);
    m_watched_us = m_pins.now_us();
}

std::int8_t Evaluator::watched_now() const {
    constexpr double just_now_us = 30;
    return static_cast<std::int8_t>(m_pins.now_us() - m_watched_us <= just_now_us ? m_watched_last : nothing);
}

const Origin* Evaluator::level_condition() const {
    const auto last = std::find_if(m_conditions.rbegin(), m_conditions.rend(),
                                   [](const TraceRef& t) { return is_level(*source_of(t)); });
    return last == m_conditions.rend() ? nullptr : source_of(*last);
}

void Evaluator::set_interrupts(bool on) {
    m_interrupts_on = on;
    if (on) serve_interrupts();
}

void Evaluator::serve_interrupts() {
    for (auto& change : m_pins.take_changes()) {
        ++m_changes;
        // One flag for each pin: of several changes while they are off one is left.
        const bool waits =
            std::any_of(m_pending.begin(), m_pending.end(), [&](const auto& p) { return p.first == change.first; });
        if (!waits || m_interrupts_on) m_pending.push_back(change);
    }
    // Data sheet of the 8-bit processors: LOW, 0, asks for a level. Elsewhere 0 may ask for nothing at all.
    const auto by_level = [&](const InterruptUse& use, bool high) {
        return m_board.eight_bit && use.mode == 0 && !high;
    };
    while (m_interrupts_on && m_interrupt_pin.empty() && !m_pending.empty() && !stopped()) {
        const auto [pin, high] = m_pending.front();
        m_pending.pop_front();
        if (pin == watchdog_interrupt && m_watchdog_function != nothing) call_interrupt(pin, m_watchdog_function);
        for (const InterruptUse& use : m_seen.interrupts)
            if (use.pin == pin && (use.mode == 4 || use.mode == (high ? 3 : 2) || by_level(use, high))) {
                call_interrupt(pin, use.function);
                break;
            }
        for (InterruptUse& use : m_seen.interrupts)
            if (use.pin == pin && by_level(use, high) && !m_pins.level(pin)) use.comes_again = true;
    }
}

void Evaluator::register_written(const std::string& name, const CodeValue& value) {
    if (name == "ADCSRA") convert_by_register();
    if (name == "SREG") set_interrupts(true); // what was kept before cli() is put back
    if (name == "WDTCSR" && value.is_number()) set_watchdog(static_cast<int>(value.whole));
}

void Evaluator::set_watchdog(int control) {
    m_watchdog = control;
    ++m_watchdog_began;
    begin_watchdog_period();
}

/// 16 ms times a power of two, by the register's bits 0 to 2 and 5 (data sheet of the 8-bit processors).
void Evaluator::begin_watchdog_period() {
    constexpr int interrupts = 1 << 6;
    if ((m_watchdog & interrupts) == 0) return;
    const double period_s = std::ldexp(0.016, (m_watchdog & 7) | (m_watchdog >> 2 & 8));
    m_pins.at(m_pins.now_s() + period_s, [this, which = m_watchdog_began] {
        if (which != m_watchdog_began) return;
        m_pending.emplace_back(watchdog_interrupt, true);
        begin_watchdog_period();
    });
}

void Evaluator::call_interrupt(const std::string& pin, int function) {
    m_interrupt_pin = pin;
    const bool acted_before = m_acted;
    const auto conditions = std::exchange(m_conditions, {});
    call_function(function, {}, {});
    m_conditions = conditions;
    m_acted = acted_before;
    m_interrupt_pin.clear();
}

int Evaluator::loss(Loss::Kind kind, const CodePlace& place, const CodeValue& board, double ideal, int wide) {
    for (std::size_t i = 0; i < m_seen.losses.size(); ++i)
        if (m_seen.losses[i].kind == kind && m_seen.losses[i].place == place) return static_cast<int>(i);
    if (m_seen.losses.size() >= 64) return 63;
    m_seen.losses.push_back({kind, place, wide, board.number(), ideal, {}});
    return static_cast<int>(m_seen.losses.size()) - 1;
}

void Evaluator::send(const std::string& port, const Text& text, const CodePlace& place) {
    m_acted = true;
    if (!m_interrupt_pin.empty() && m_seen.prints_in_interrupt.empty()) m_seen.prints_in_interrupt.push_back(place);
    Line& line = m_open_lines[port];
    line.last_call = place;
    if (line.text.empty()) line.at_s = m_pins.now_s();
    std::size_t from = 0;
    std::size_t piece = 0;
    const auto finish = [&] {
        ++m_seen.lines_sent;
        line.at_s = m_pins.now_s();
        line.port = port;
        // Of what comes often the first are enough; what comes rarely is kept whenever it comes.
        bool keep = m_seen.lines.size() < m_limits.lines;
        constexpr double now_and_then_s = 0.5;
        for (const Printed& p : line.numbers) {
            auto& [times, kept_s] = m_sent_from[{p.place.line, p.label}];
            if (++times >= kept_of_a_number && line.at_s < kept_s + now_and_then_s) continue;
            keep = true;
            kept_s = line.at_s;
        }
        if (keep && m_seen.lines.size() < 4 * m_limits.lines && (!line.text.empty() || !line.numbers.empty()))
            m_seen.lines.push_back(line);
        line = {};
    };
    constexpr std::size_t longest = 2000;
    const auto add = [&](const std::string& words) {
        for (const char c : words) {
            if (c == '\n')
                finish();
            else if (c != '\r' && line.text.size() < longest)
                line.text += c;
        }
    };
    while (from <= text.words.size()) {
        if (piece < text.pieces.size() && text.pieces[piece].begin >= from) {
            const TextPiece& p = text.pieces[piece++];
            add(text.words.substr(from, p.begin - from));
            Printed out;
            out.place = place;
            out.value = *p.value;
            out.text = text.words.substr(p.begin, p.end - p.begin);
            const auto point = out.text.find('.');
            out.digits = point == std::string::npos ? -1 : static_cast<int>(out.text.size() - point) - 1;
            // The text since the number before it.
            std::size_t before = 0;
            if (!line.numbers.empty()) {
                const auto last = line.text.rfind(line.numbers.back().text);
                before = last == std::string::npos ? 0 : last + line.numbers.back().text.size();
            }
            out.label = line.text.substr(std::min(before, line.text.size()));
            if (line.numbers.size() < 64) line.numbers.push_back(out);
            add(out.text);
            from = p.end;
            continue;
        }
        add(text.words.substr(from));
        break;
    }
    for (const TraceRef& t : m_conditions)
        if (is_level(*source_of(t)) &&
            std::find(line.said_about.begin(), line.said_about.end(), t) == line.said_about.end() &&
            line.said_about.size() < 8)
            line.said_about.push_back(t);
    // Sixty-four bytes go into the port's memory at once; then it waits for the wire.
    const CallSeen* begun = m_seen.call(port + ".begin");
    const double baud = begun && !begun->given.empty() ? begun->given[0].number() : 0;
    if (baud >= 50) {
        const double byte_us = 10e6 / baud;
        double& free_at = m_port_free_us[port];
        free_at = std::max(free_at, m_pins.now_us()) + byte_us * static_cast<double>(text.words.size());
        const double ahead = free_at - m_pins.now_us() - 64 * byte_us;
        if (ahead > 0) pass_time(ahead);
    }
}

CodeValue Evaluator::call_function(int index, std::vector<CodeValue> given, const Spot& self) {
    constexpr int deepest_call = 60;
    if (index < 0 || index >= static_cast<int>(m_tree.functions.size())) return unknown_value();
    const CodeFunction& f = m_tree.functions[static_cast<std::size_t>(index)];
    if (f.body == nothing) return unknown_value(f.result);
    if (++m_depth > deepest_call) {
        --m_depth;
        stop(phrase("{}() calls itself again and again", f.name), f.place);
        return unknown_value(f.result);
    }
    Frame frame;
    frame.self = self;
    frame.objects_before = m_objects.size();
    frame.gives_reference = f.returns_reference;
    for (std::size_t i = 0; i < f.parameters.size(); ++i) {
        const Variable& p = m_tree.variables[static_cast<std::size_t>(f.parameters[i])];
        const int object = new_object(p.is_reference ? nothing : p.type);
        frame.objects.emplace_back(f.parameters[i], object);
        CodeValue v = i < given.size() ? given[i] : CodeValue{};
        if (p.is_reference && v.kind != CodeValue::Kind::address) { // of a value that stands nowhere
            at(object).held.front() = v;
        } else {
            store({object, 0, p.is_reference ? nothing : p.type}, std::move(v));
        }
    }
    m_frames.push_back(std::move(frame));
    for (const int init : f.initialised)
        eval(init);
    exec(f.body);
    CodeValue out = std::move(m_frames.back().result);
    const std::size_t before = m_frames.back().objects_before;
    m_frames.pop_back();
    // A record that is given back stands in an object of the function: it moves down.
    const CodeType& t = m_tree.type(f.result);
    if (out.kind == CodeValue::Kind::address && t.kind == CodeType::Kind::record && !f.returns_reference &&
        out.object >= static_cast<int>(before) && out.object < first_static && has(out.object) &&
        before < m_objects.size()) {
        std::swap(m_objects[before], at(out.object));
        out.object = static_cast<int>(before);
        m_objects.resize(before + 1);
    } else if (before < m_objects.size()) {
        m_objects.resize(before);
    }
    --m_depth;
    return out;
}

} // namespace cognitum::program
