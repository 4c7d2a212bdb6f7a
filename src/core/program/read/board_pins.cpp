#include "core/program/read/board_pins.h"
#include "core/base/letters.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum::program {

namespace {
constexpr std::size_t most_events = 200000, most_changes = 4096;
constexpr int first_own_number = 200; ///< of pins that have a label and no number of their own

bool is_number_text(const std::string& label) {
    return !label.empty() && label.find_first_not_of("0123456789") == std::string::npos && label.size() < 4;
}
} // namespace

void BoardPins::at(double t_s, std::function<void()> what) {
    if (m_events.size() < most_events) m_events.emplace(t_s * 1e6, std::move(what));
}

void BoardPins::set_level(const std::string& pin, bool high) {
    Pin& p = m_pins[pin];
    const bool before = level(pin);
    p.outside = high;
    if (level(pin) != before && m_changes.size() < most_changes) m_changes.emplace_back(pin, high);
}

void BoardPins::on_pin(const std::string& pin, std::function<void(bool, bool)> what) {
    if (!pin.empty()) m_pins[pin].watching.push_back(std::move(what));
}

void BoardPins::advance(double us, const std::function<void()>& between) {
    const double end = m_now_us + us;
    while (!m_events.empty() && m_events.begin()->first <= end) {
        const auto first = m_events.begin();
        m_now_us = std::max(m_now_us, first->first);
        const std::function<void()> what = std::move(first->second);
        m_events.erase(first);
        what();
        if (between) between();
    }
    m_now_us = std::max(m_now_us, end);
}

std::optional<double> BoardPins::next_event_us() const {
    if (m_events.empty()) return std::nullopt;
    return m_events.begin()->first;
}

std::optional<double> BoardPins::volts(const std::string& pin) const {
    const auto at = m_pins.find(pin);
    return at == m_pins.end() ? std::nullopt : at->second.volts;
}

int BoardPins::code(const std::string& pin, double reference_V, int bits) const {
    const double codes = std::ldexp(1.0, bits);
    const auto v = volts(pin);
    return static_cast<int>(v ? std::clamp(std::floor(*v / reference_V * codes), 0.0, codes - 1) : codes / 2);
}

bool BoardPins::level(const std::string& pin) const {
    const auto at = m_pins.find(pin);
    if (at == m_pins.end()) return false;
    const Pin& p = at->second;
    if (p.outside) return *p.outside;
    if (p.output) return p.driven;
    if (p.volts) return *p.volts > m_card.logic_V / 2;
    return p.pull_up;
}

void BoardPins::tell(Pin& pin) {
    const auto watching = pin.watching; // one of them may add another
    for (const auto& what : watching)
        what(pin.output, pin.driven);
}

void BoardPins::set_mode(const std::string& pin, bool output, bool pull_up) {
    Pin& p = m_pins[pin];
    p.output = output;
    p.pull_up = pull_up;
    tell(p);
}

void BoardPins::drive(const std::string& pin, bool high) {
    Pin& p = m_pins[pin];
    p.driven = high;
    if (!high) m_selected = pin;
    tell(p);
}

I2cPart* BoardPins::part(int address) {
    const auto at = m_parts.find(address);
    return at == m_parts.end() ? nullptr : &at->second;
}

std::vector<std::pair<std::string, bool>> BoardPins::take_changes() {
    return std::exchange(m_changes, {});
}

int BoardPins::number(const std::string& label) const {
    for (std::size_t i = 0; i < m_card.pins.size(); ++i)
        if (m_card.pins[i].label == label) return number(i);
    return -1;
}

int BoardPins::number(std::size_t pin) const {
    const cognitum::Pin& p = m_card.pins[pin];
    if (p.port >= 0) return p.port;
    return is_number_text(p.label) ? std::stoi(p.label) : first_own_number + static_cast<int>(pin);
}

std::string BoardPins::label(long wanted, bool analog) const {
    for (std::size_t i = 0; i < m_card.pins.size(); ++i)
        if (number(i) == wanted && (!analog || m_card.pins[i].can("analog"))) return m_card.pins[i].label;
    // analogRead(0) is A0 on boards whose inputs are counted.
    if (analog)
        if (std::string counted = fmt::format("A{}", wanted); m_card.pin(counted)) return counted;
    return {};
}

std::string BoardPins::header() const {
    std::string out = "#pragma once\n";
    for (const cognitum::Pin& pin : m_card.pins) {
        const std::string& l = pin.label;
        const bool is_name = !l.empty() && letters::is_letter(l[0]) && std::all_of(l.begin(), l.end(), [](char c) {
            return letters::is_letter_or_digit(c) || c == '_';
        });
        if (is_name) out += fmt::format("static const uint8_t {} = {};\n", l, number(l));
        const auto bus = [&](const char* function, const char* name) {
            if (m_card.pin_for(function) == &pin && l != name)
                out += fmt::format("static const uint8_t {} = {};\n", name, number(l));
        };
        bus("sda", "SDA");
        bus("scl", "SCL");
        bus("spi-clock", "SCK");
        bus("spi-in", "MISO");
        bus("spi-out", "MOSI");
    }
    const cognitum::Pin* led = m_card.pin("13");
    out += fmt::format("static const uint8_t LED_BUILTIN = {}, SS = {};\n", led ? number("13") : 2, led ? 10 : 5);
    return out;
}

} // namespace cognitum::program
