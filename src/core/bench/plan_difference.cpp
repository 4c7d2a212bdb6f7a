#include "core/bench/plan_difference.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <fmt/format.h>

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

template <typename T>
const T* item_of(const std::vector<T>& list, const std::string& id) {
    const auto at = std::find_if(list.begin(), list.end(), [&](const T& item) { return item.id == id; });
    return at == list.end() ? nullptr : &*at;
}

std::string name_of(const auto& item) {
    return item.name.empty() ? item.id : item.name;
}

/// Takes out of our changes those that would remove what the others changed, and tells what both changed.
template <typename T, typename Body>
void settle_list(std::vector<PlanDifference::Item<T>>& ours, const std::vector<T>& theirs, const char* kind,
                 Body body, std::vector<std::string>& both) {
    std::erase_if(ours, [&](const PlanDifference::Item<T>& item) {
        const T* their = item_of(theirs, (item.before ? item.before : item.after)->id);
        const bool they_changed = their ? !(item.before && *their == *item.before) : item.before.has_value();
        if (!they_changed || (their && item.after && *their == *item.after)) return false;
        if (!their) {
            if (item.after)
                both.push_back(phrase("{} \"{}\" was removed by another program while it was changed here; "
                                      "it stays.",
                                      kind, name_of(*item.after)));
            return false;
        }
        both.push_back(phrase("{} \"{}\" was changed by two programs at once; {}. The other version: {}", kind,
                              name_of(*their),
                              item.after ? phrase("what was changed here stands")
                                         : phrase("it was removed here, and stays as the other left it"),
                              json_dump(body(*their))));
        return !item.after;
    });
}

PlanDifference::Order order_of(const Bench& bench) {
    PlanDifference::Order out;
    out.reserve(bench.readings.size());
    for (const Reading& r : bench.readings)
        out.push_back(r.id);
    return out;
}

/// Of what both lists have, in the order of the first.
PlanDifference::Order common(PlanDifference::Order ids, const PlanDifference::Order& others) {
    std::erase_if(
        ids, [&](const std::string& id) { return std::find(others.begin(), others.end(), id) == others.end(); });
    return ids;
}

/// What the order does not name stays behind what stood before it.
void put_in_order(std::vector<Reading>& readings, const PlanDifference::Order& order) {
    std::vector<std::size_t> places; ///< of those that are named
    for (std::size_t i = 0; i < readings.size(); ++i)
        if (std::find(order.begin(), order.end(), readings[i].id) != order.end()) places.push_back(i);
    std::vector<Reading> named;
    named.reserve(places.size());
    for (const std::size_t i : places)
        named.push_back(readings[i]);
    const auto rank = [&](const Reading& r) { return std::find(order.begin(), order.end(), r.id) - order.begin(); };
    std::stable_sort(named.begin(), named.end(),
                     [&](const Reading& a, const Reading& b) { return rank(a) < rank(b); });
    for (std::size_t i = 0; i < places.size(); ++i)
        readings[places[i]] = std::move(named[i]);
}

} // namespace

PlanDifference difference(const Bench& before, const Bench& after) {
    PlanDifference out;
    const auto head = [](const Bench& b) {
        return PlanDifference::Head{b.name,   b.place,   b.currency,   b.where,
                                    b.prices, b.telling, b.publishing, b.page};
    };
    if (head(before) != head(after)) out.head = {head(before), head(after)};
    out.boards = list_difference(before.boards, after.boards);
    out.readings = list_difference(before.readings, after.readings);
    const PlanDifference::Order was = order_of(before);
    const PlanDifference::Order is = order_of(after);
    if (common(was, is) != common(is, was)) out.reading_order = {was, is};
    out.modules = list_difference(before.modules, after.modules);
    out.references = list_difference(before.references, after.references);
    out.sessions = list_difference(before.sessions, after.sessions);
    out.session_rules = list_difference(before.session_rules, after.session_rules);
    out.watch_rules = list_difference(before.watch_rules, after.watch_rules);
    out.controls = list_difference(before.controls, after.controls);
    return out;
}

void apply(const PlanDifference& change, bool forwards, Bench& bench) {
    if (change.head) {
        const auto& head = forwards ? change.head->second : change.head->first;
        bench.name = head.name;
        bench.place = head.place;
        bench.currency = head.currency;
        bench.where = head.where;
        bench.prices = head.prices;
        bench.telling = head.telling;
        bench.publishing = head.publishing;
        bench.page = head.page;
    }
    apply_list(change.boards, forwards, bench.boards);
    apply_list(change.readings, forwards, bench.readings);
    if (change.reading_order)
        put_in_order(bench.readings, forwards ? change.reading_order->second : change.reading_order->first);
    apply_list(change.modules, forwards, bench.modules);
    apply_list(change.references, forwards, bench.references);
    apply_list(change.sessions, forwards, bench.sessions);
    apply_list(change.session_rules, forwards, bench.session_rules);
    apply_list(change.watch_rules, forwards, bench.watch_rules);
    apply_list(change.controls, forwards, bench.controls);
}

MergedPlan merge_plans(const Bench& base, const Bench& ours, const Bench& theirs) {
    MergedPlan out{theirs, {}};
    PlanDifference change = difference(base, ours);
    settle_list(change.boards, theirs.boards, "board", board_use_json, out.both);
    settle_list(change.readings, theirs.readings, "reading", reading_json, out.both);
    settle_list(change.modules, theirs.modules, "module", module_json, out.both);
    settle_list(change.references, theirs.references, "reference", reference_json, out.both);
    settle_list(change.sessions, theirs.sessions, "session", session_json, out.both);
    settle_list(change.session_rules, theirs.session_rules, phrase("session rule"), session_rule_json, out.both);
    settle_list(change.watch_rules, theirs.watch_rules, "rule", watch_rule_json, out.both);
    settle_list(change.controls, theirs.controls, "control", control_json, out.both);
    apply(change, true, out.plan);
    return out;
}

} // namespace cognitum
