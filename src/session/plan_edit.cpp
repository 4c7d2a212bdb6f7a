#include "session/plan_edit.h"

#include <algorithm>

namespace cognitum {

namespace {

template <typename T>
std::vector<PlanDifference::Item<T>> list_difference(const std::vector<T>& before, const std::vector<T>& after) {
    std::vector<PlanDifference::Item<T>> out;
    const auto find = [](const std::vector<T>& list, const std::string& id) {
        const auto at = std::find_if(list.begin(), list.end(), [&](const T& item) { return item.id == id; });
        return at == list.end() ? nullptr : &*at;
    };
    for (std::size_t i = 0; i < before.size(); ++i) {
        const T* now = find(after, before[i].id);
        if (!now)
            out.push_back({before[i], std::nullopt, i});
        else if (!(*now == before[i]))
            out.push_back({before[i], *now, i});
    }
    for (std::size_t i = 0; i < after.size(); ++i)
        if (!find(before, after[i].id)) out.push_back({std::nullopt, after[i], i});
    return out;
}

template <typename T>
void apply_list(const std::vector<PlanDifference::Item<T>>& items, bool forwards, std::vector<T>& list) {
    for (const auto& item : items) {
        const std::optional<T>& from = forwards ? item.before : item.after;
        const std::optional<T>& to = forwards ? item.after : item.before;
        const std::string& id = from ? from->id : to->id;
        const auto at = std::find_if(list.begin(), list.end(), [&](const T& t) { return t.id == id; });
        if (!to) {
            if (at != list.end()) list.erase(at);
        } else if (at != list.end()) {
            *at = *to;
        } else {
            list.insert(list.begin() + static_cast<std::ptrdiff_t>(std::min(item.position, list.size())), *to);
        }
    }
}

} // namespace

PlanDifference difference(const Bench& before, const Bench& after) {
    PlanDifference out;
    const auto head = [](const Bench& b) { return PlanDifference::Head{b.name, b.place, b.currency, b.prices}; };
    if (before.name != after.name || before.place != after.place || before.currency != after.currency ||
        before.prices != after.prices)
        out.head = {head(before), head(after)};
    out.boards = list_difference(before.boards, after.boards);
    out.readings = list_difference(before.readings, after.readings);
    out.modules = list_difference(before.modules, after.modules);
    out.references = list_difference(before.references, after.references);
    return out;
}

void apply(const PlanDifference& change, bool forwards, Bench& bench) {
    if (change.head) {
        const auto& head = forwards ? change.head->second : change.head->first;
        bench.name = head.name;
        bench.place = head.place;
        bench.currency = head.currency;
        bench.prices = head.prices;
    }
    apply_list(change.boards, forwards, bench.boards);
    apply_list(change.readings, forwards, bench.readings);
    apply_list(change.modules, forwards, bench.modules);
    apply_list(change.references, forwards, bench.references);
}

} // namespace cognitum
