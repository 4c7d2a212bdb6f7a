// Benches with one defect each, and the same bench just on the right side of the limit: one pair for each rule.
// The files in tests/fixtures/benches were written from the first of each pair.
#pragma once

#include "core/plan/assign.h"
#include "support/support.h"

#include "core/units/quantity_kind.h"

#include <functional>

namespace cognitum::test {

struct Defect {
    std::string id; ///< of the rule
    Bench broken, sound;
};

/// A bench with one board and one reading of that kind on it, placed as the application would.
inline Bench bench_with(const char* kind, const char* part, const char* board = "board-5v-8bit-6-analog",
                        const std::function<void(Reading&)>& ask = {}) {
    Bench bench;
    bench.name = "Whelk Point";
    BoardUse use;
    use.id = "gauge";
    use.name = "gauge board";
    use.card = board;
    bench.boards.push_back(use);
    const QuantityKind* k = find_quantity_kind(kind);
    Reading r;
    r.id = "r1";
    r.name = "First";
    r.quantity.kind = kind;
    r.quantity.unit = k->units[0];
    r.quantity.low = k->low;
    r.quantity.high = k->high;
    r.quantity.accuracy = (k->high - k->low) / 2; // nothing to say about doubt unless a test asks
    r.quantity.interval_s = 1;
    if (ask) ask(r);
    bench.readings.push_back(r);
    const auto placed = choose_part(bench, catalog(), "r1", part, "gauge");
    if (!placed) qFatal("%s: %s", part, placed.error().text().c_str());
    return *placed;
}

/// A thermometer for a room.
inline Bench room() {
    return bench_with("temperature", "analog-thermometer-with-offset");
}

inline Bench with(Bench bench, const std::function<void(Bench&)>& change) {
    change(bench);
    return bench;
}
inline Bench with_first(Bench bench, const std::function<void(Reading&)>& change) {
    change(bench.readings[0]);
    return bench;
}
inline Bench board_with(Bench bench, const std::function<void(BoardUse&)>& change) {
    change(bench.boards[0]);
    return bench;
}
inline void rebuild(Bench& bench) {
    for (Reading& r : bench.readings)
        refresh_path(bench, catalog(), r);
}
/// The same with the paths built anew behind the change.
inline Bench rewired(Bench bench, const std::function<void(Reading&)>& change) {
    change(bench.readings[0]);
    rebuild(bench);
    return bench;
}
inline Bench and_another(Bench bench, const char* part, const char* name = "Second") {
    Reading r = bench.readings[0];
    r.id = "r2";
    r.name = name;
    r.sensor = {};
    r.wiring = {};
    bench.readings.push_back(r);
    const auto placed = choose_part(bench, catalog(), "r2", part, "gauge");
    if (!placed) qFatal("%s: %s", part, placed.error().text().c_str());
    return *placed;
}
inline Module module_of(const char* part, const char* id, const char* rail) {
    Module m;
    m.id = id;
    m.name = id;
    m.part = part;
    m.board = "gauge";
    m.rail = rail;
    return m;
}
inline Bench with_modules(Bench bench, std::vector<Module> modules) {
    bench.modules = std::move(modules);
    return assign_pins(bench, catalog(), Keep::placed, "gauge").bench;
}

/// A second board that sends its lines through the first.
inline Bench uplinked(const char* from, const char* to, LevelDivider divider = {}, int far_baud = 9600) {
    Bench bench = bench_with("temperature", "analog-thermometer-with-offset", to);
    BoardUse helper;
    helper.id = "helper";
    helper.name = "helper board";
    helper.card = from;
    helper.uplink = {"gauge", "7",      std::string(to) == "board-5v-8bit-6-analog" ? "8" : "17",
                     9600,    far_baud, divider};
    bench.boards.push_back(helper);
    return bench;
}

std::vector<Defect> all_defects();
/// Those of links, lines and what else a board does; and of watch rules; in defects_boards.cpp.
void add_boards(std::vector<Defect>& defects);
void add_watch(std::vector<Defect>& defects);
/// Those of voltages, modules, cables and sleep, in defects_wiring.cpp.
void add_wiring(std::vector<Defect>& defects);
/// Those of a path's constants, in defects_convert.cpp.
void add_convert(std::vector<Defect>& defects);
/// Those of loads that follow a rule, in defects_acting.cpp.
void add_acting(std::vector<Defect>& defects);

} // namespace cognitum::test
