// What a program depends on, as a short number: a plan whose number differs needs another program.
#include "core/program/driver.h"
#include "core/program/network.h"
#include "core/program/program.h"
#include "core/program/stage_code.h"

#include <fmt/format.h>

namespace cognitum {

namespace {

/// FNV-1a of 32 bits.
std::string fnv(std::string_view text) {
    std::uint32_t sum = 2166136261U;
    for (const char c : text)
        sum = (sum ^ static_cast<unsigned char>(c)) * 16777619U;
    return fmt::format("{:08x}", sum);
}

} // namespace

std::vector<const Reading*> program::readings_of(const Bench& bench, const BoardUse& board) {
    std::vector<const Reading*> out;
    for (const Reading& r : bench.readings)
        if (r.wiring.board == board.id && r.feed() == board.id) out.push_back(&r);
    return out;
}

std::string program_fingerprint(const Bench& bench, const Catalog& catalog, const BoardUse& board) {
    std::string all =
        fmt::format("1|{}|{}|{}|", board.id, board.card, board.code_baud > 0 ? board.code_baud : board.link.baud);
    if (board.link.kind == LinkKind::mqtt)
        all += fmt::format("{} {}|", board.link.mqtt.topics, board.link.mqtt.command_topic);
    if (board.link.kind == LinkKind::http) all += "http|";
    for (const Reading* r : program::readings_of(bench, board)) {
        const PartCard* part = catalog.part(r->sensor.part);
        all += fmt::format("{}|{}|{}|{}|{}|{}|{}|{}|", r->id, r->field(), r->sensor.part, part ? part->driver : "",
                           r->wiring.reference, r->wiring.module, r->wiring.address, r->quantity.interval_s);
        for (const Connection& c : r->wiring.pins)
            all += fmt::format("{}={}|", c.leg, c.pin);
    }
    for (const Module& m : bench.modules) {
        if (m.board != board.id) continue;
        all += fmt::format("{}|{}|{}|", m.id, m.part, m.address);
        for (const Connection& c : m.pins)
            all += fmt::format("{}={}|", c.leg, c.pin);
    }
    return fnv(all);
}

std::string constants_fingerprint(const Bench& bench, const BoardUse& board) {
    std::string all;
    for (const Reading* r : program::readings_of(bench, board))
        if (const auto code = program::stage_code(effective_path(*r))) all += r->id + "|" + *code;
    return fnv(all);
}

} // namespace cognitum
