// What differs between two plans, as values: for undo, and for plans that two programs changed at the same time.
#pragma once

#include "core/bench/bench.h"

#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace cognitum {

/// The parts of two benches that differ.
struct PlanDifference {
    struct Head {
        std::string name, place, currency;
        std::optional<GeoPlace> where;
        std::vector<Price> prices;
        Telling telling;
        Publishing publishing;
        PagePlan page;
        bool operator==(const Head&) const = default;
    };
    template <typename T>
    struct Item {
        std::optional<T> before, after; ///< one of them may be missing: added or removed
        std::size_t position = 0;       ///< in the list that has it
    };
    std::optional<std::pair<Head, Head>> head;
    std::vector<Item<BoardUse>> boards;
    std::vector<Item<Reading>> readings;
    std::vector<Item<Module>> modules;
    std::vector<Item<ReferenceInstrument>> references;
    std::vector<Item<TimedSession>> sessions;
    std::vector<Item<SessionRule>> session_rules;
    std::vector<Item<WatchRule>> watch_rules;
    std::vector<Item<LoadControl>> controls;
    using Order = std::vector<std::string>; ///< ids
    std::optional<std::pair<Order, Order>> reading_order;
    [[nodiscard]] bool empty() const {
        return !head && boards.empty() && readings.empty() && modules.empty() && references.empty() &&
               sessions.empty() && session_rules.empty() && watch_rules.empty() && controls.empty() &&
               !reading_order;
    }
};

PlanDifference difference(const Bench& before, const Bench& after);
/// Applies the difference forwards (before → after) or backwards.
void apply(const PlanDifference& change, bool forwards, Bench& bench);

struct MergedPlan {
    Bench plan;
    std::vector<std::string> both; ///< a sentence for each item that both changed, with the version that gave way
};
/// Two programs changed the plan `base`, one to `ours`, one to `theirs`: theirs with what ours changed. Where both
/// changed an item ours stands; what one changed is not removed by the other.
MergedPlan merge_plans(const Bench& base, const Bench& ours, const Bench& theirs);

} // namespace cognitum
