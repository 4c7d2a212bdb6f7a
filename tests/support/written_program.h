// A board with one part, and the program that is written for it.
#pragma once

#include "core/plan/path.h"
#include "core/program/program.h"
#include "support/support.h"

namespace cognitum::test {

/// A board with one reading by this part, its legs on these pins.
inline Bench one_part(const std::string& part, std::vector<std::pair<const char*, const char*>> legs) {
    Bench bench = small_bench();
    Reading& r = bench.readings[0];
    const PartCard& card = *catalog().part(part);
    r.sensor.part = part;
    r.quantity.kind = card.measures.front().quantity;
    r.quantity.unit = card.measures.front().unit;
    r.quantity.vessel.mount_mm = 2000;
    if (r.quantity.kind == "wind") r.source.collect = "rate";
    r.wiring.pins.clear();
    for (const auto& [leg, pin] : legs)
        r.wiring.pins.push_back({leg, pin});
    r.path = build_path(place(bench, catalog(), r));
    return bench;
}

inline std::string text_of(const Bench& bench, const std::string& board = "gauge") {
    const auto written = write_program(bench, catalog(), board);
    return written ? written->files.front().text : "! " + written.error().text();
}

} // namespace cognitum::test
