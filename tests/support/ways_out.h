// What a finding's way out changes in a plan, in words that can be kept.
#pragma once

#include "core/bench/bench.h"
#include "core/plan/findings.h"

#include <algorithm>
#include <string>

namespace cognitum::test {

/// "Feed it from 3V3: /readings/0/wiring/rail "3V3"; …", the first changes, long values cut; empty: it changes
/// nothing.
inline std::string way_out(const Bench& bench, const Finding& f) {
    constexpr std::size_t most = 6, longest = 60;
    if (!f.action || !f.action->change) return {};
    Bench changed = bench;
    f.action->change(changed);
    std::string out = f.action->label + ":";
    const Json differences = Json::diff(bench_json(bench), bench_json(changed));
    for (std::size_t i = 0; i < std::min(most, differences.size()); ++i) {
        const Json& d = differences[i];
        const std::string value = d.contains("value") ? d["value"].dump() : "gone";
        out += " " + d["path"].get<std::string>() + " " + value.substr(0, longest) + ";";
    }
    return out + (differences.size() > most ? " …" : "");
}

} // namespace cognitum::test
