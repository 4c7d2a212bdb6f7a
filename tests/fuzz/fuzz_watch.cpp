// Rules as somebody wrote them, as a file for `backtest` and as the plan has them; those that are read are judged.
#include "core/act/load_keeper.h"
#include "core/act/load_words.h"
#include "core/watch/backtest.h"
#include "core/watch/keeper.h"
#include "core/watch/rule_words.h"
#include "fuzz.h"

#include <string>

using namespace cognitum;

namespace {

/// Raised and cleared take turns; repeated only in between.
template <typename Kinds>
void check_turns(const Kinds& kinds) {
    bool raised = false;
    for (const WatchKind kind : kinds) {
        PROMISE(raised == (kind != WatchKind::raised));
        if (kind != WatchKind::repeated) raised = !raised;
    }
}

double value_at(int i);

/// On and off take turns, and no run is longer than it may be.
void check_control(LoadControl control) {
    Bench bench;
    WatchRule rule;
    rule.id = control.rule;
    rule.name = "rule";
    WatchCondition condition;
    condition.reading = "first";
    rule.conditions = {condition};
    bench.watch_rules = {rule};
    bench.modules.emplace_back().id = control.load;
    bench.readings.emplace_back().id = "first";
    for (const WatchCondition& c : control.never_while)
        if (!bench.reading(c.reading)) bench.readings.emplace_back().id = c.reading;
    control.acts = true;
    bench.controls = {control};
    if (!why_not(control, bench).empty()) return;
    LoadKeeper keeper;
    std::vector<ControlEvent> events;
    keeper.set_plan(bench, {}, 0, events);
    for (int i = 0; i < 300; ++i) {
        keeper.take(bench.readings[static_cast<std::size_t>(i) % bench.readings.size()].id, i * i * second_us,
                    value_at(i), events);
        keeper.pass(i * i * second_us + second_us, events);
    }
    bool on = false;
    TimeUs since = 0;
    for (const ControlEvent& e : events) {
        PROMISE(e.event.on != on && e.event.time >= since);
        if (on && control.longest_on_s > 0) PROMISE(e.event.time - since <= from_seconds(control.longest_on_s) + 1);
        on = e.event.on;
        since = e.event.time;
    }
    PROMISE(!follows_says(control, bench).empty());
}

double value_at(int i) {
    return i % 11 == 0 ? no_number : static_cast<double>((i * 7919) % 101) - 20;
}

} // namespace

HARNESS(watch)(const std::uint8_t* data, std::size_t size) {
    const auto document = JsonText::parse("fuzz", std::string(text_of(data, size)));
    if (!document) return 0;
    if (const auto rules = read_backtest_rules(JsonReader(*document)); rules && rules->size() <= 20) {
        for (const BacktestRule& rule : *rules) {
            PROMISE(defect_of(rule.rule).empty());
            Backtest backtest({rule});
            std::vector<TimedNumber> series;
            for (int i = 0; i < 300; ++i)
                series.push_back({i * i * second_us, value_at(i)});
            backtest.take(series);
            TimeUs last = 0;
            for (const BacktestEvent& e : backtest.events()) {
                PROMISE(e.time >= last);
                last = e.time;
            }
        }
    }
    if (const auto control = read_control(JsonReader(*document))) {
        PROMISE(defect_of(*control).empty());
        check_control(*control);
    }
    const auto rule = read_watch_rule(JsonReader(*document));
    if (!rule) {
        PROMISE(!rule.error().what.empty());
        return 0;
    }
    PROMISE(defect_of(*rule).empty() && rule->conditions.size() <= most_conditions);
    Bench bench;
    for (const WatchCondition& c : rule->conditions)
        if (!bench.reading(c.reading)) {
            bench.readings.emplace_back();
            bench.readings.back().id = bench.readings.back().name = c.reading;
        }
    PROMISE(!rule_says(*rule, bench).empty());
    WatchRule on = *rule;
    on.on = true;
    WatchKeeper keeper;
    keeper.set_rules({on}, bench);
    std::vector<RuleEvent> events;
    for (int i = 0; i < 300; ++i) {
        keeper.take(bench.readings[static_cast<std::size_t>(i) % bench.readings.size()].id, i * i * second_us,
                    value_at(i), events);
        keeper.pass(i * i * second_us + second_us, events);
    }
    std::vector<WatchKind> kinds;
    for (const RuleEvent& e : events) {
        kinds.push_back(e.event.kind);
        PROMISE(!event_says(on, e.event, bench).empty());
    }
    check_turns(kinds);
    return 0;
}
