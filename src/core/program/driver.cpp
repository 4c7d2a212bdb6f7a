#include "core/program/driver.h"

#include "core/base/phrase.h"
#include "core/units/quantity_kind.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum::program {

std::string fill(std::string_view text, const Names& names) {
    std::string out;
    while (!text.empty()) {
        const auto begin = text.find('$');
        const auto end = begin == std::string_view::npos ? begin : text.find('$', begin + 1);
        if (end == std::string_view::npos) break;
        const std::string_view name = text.substr(begin + 1, end - begin - 1);
        const auto known =
            std::find_if(names.begin(), names.end(), [&](const auto& pair) { return pair.first == name; });
        out += text.substr(0, begin);
        out += known == names.end() ? std::string(text.substr(begin, end - begin + 1)) : known->second;
        text.remove_prefix(end + 1);
    }
    return out.append(text);
}

std::string comment_text(std::string_view text) {
    std::string out;
    for (const char c : text) {
        const auto u = static_cast<unsigned char>(c);
        out += u < 0x20 || u == 0x7F || c == '\\' ? ' ' : c;
    }
    return out;
}

bool is_plain_word(std::string_view text) {
    return !text.empty() && std::all_of(text.begin(), text.end(), [](char c) {
        return (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9') || c == '_' || c == '.' ||
               c == '-';
    });
}

std::string code_name(std::string_view id) {
    std::string out;
    for (const char c : id) {
        const bool plain = (c >= 'a' && c <= 'z') || (c >= 'A' && c <= 'Z') || (c >= '0' && c <= '9');
        out += plain ? c : '_';
    }
    return out;
}

std::string wired(const Placed& p, std::string_view where) {
    return fmt::format("{}: {}, {}.", p.reading->name, p.part->name, where);
}

std::string address_of(const Placed& p) {
    return fmt::format("0x{:02X}", bus_address(p.reading->wiring.address, *p.part));
}

std::string pin_code(const BoardCard& board, std::string_view label) {
    const Pin* pin = board.pin(label);
    if (!pin || !is_plain_word(label) || label.find_first_of(".-") != std::string_view::npos) return {};
    // A0 and D2 are names in the core interface; elsewhere the number that code uses.
    const bool named =
        label.size() >= 2 && (label[0] == 'A' || label[0] == 'D') && label[1] >= '0' && label[1] <= '9';
    if (named || pin->port < 0) return std::string(label);
    return std::to_string(pin->port);
}

std::string pin_code(const Placed& p, std::string_view leg) {
    const Connection* at = p.reading->wiring.connection(leg);
    return at && p.board ? pin_code(*p.board, at->pin) : std::string();
}

Driver left_out(std::string why) {
    Driver out;
    out.left_out = std::move(why);
    return out;
}

Driver driver_for(const Placed& p, const std::string& name, const ProgramOptions& options) {
    if (!p.part) return left_out(phrase("no part is chosen for it."));
    const Speech speech = p.part->interface.speech;
    if (speech == Speech::radio) return left_out(phrase("its part speaks by radio, to a receiver."));
    if (p.part->driver.empty()) {
        if (p.is_voltage()) {
            const bool is_wave = p.part->sample_s > 0 && p.reading->source.collect == "beats";
            return is_wave ? wave_driver(p, name) : analog_driver(p, name, options);
        }
        if (speech == Speech::pulse) return pulse_driver(p, name);
        if (speech == Speech::echo) return echo_driver(p, name);
        if (speech == Speech::digital && p.reading->quantity.about().is_state()) return contact_driver(p, name);
    }
    return bus_driver(p, name);
}

} // namespace cognitum::program
