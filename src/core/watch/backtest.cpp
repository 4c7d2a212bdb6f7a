#include "core/watch/backtest.h"

#include "core/base/described.h"
#include "core/base/phrase.h"
#include "core/bench/limits.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// A rule as the file has it.
struct Written {
    std::string name;
    WatchWhen when = WatchWhen::above;
    double value = 0;
    std::optional<double> clear;
    double for_s = 0;
    int count = 1;
    double repeat_s = 0, silent_after_s = 0;

    [[nodiscard]] BacktestRule rule() const {
        WatchCondition condition;
        condition.when = when;
        condition.value = value;
        condition.clear = clear;
        WatchRule out;
        out.name = name;
        out.conditions = {condition};
        out.count = count;
        out.for_s = for_s;
        out.repeat_s = repeat_s;
        return {out, silent_after_s};
    }
};

constexpr std::pair<WatchWhen, const char*> two_words[] = {{WatchWhen::above, "above"},
                                                           {WatchWhen::below, "below"}};

} // namespace

template <>
struct Description<Written> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("name", &Written::name)
            .must("when", &Written::when,
                  NamedForm<WatchWhen>{two_words, phrase("a rule is \"above\" or \"below\".")})
            .must("value", &Written::value)
            .may("clear", &Written::clear)
            .may("for_s", &Written::for_s)
            .may("count", &Written::count)
            .may("repeat_s", &Written::repeat_s)
            .may("silent_after_s", &Written::silent_after_s);
        const auto defect = [](const Written& w) { return defect_of(w.rule().rule); };
        f.rule(
            "clear", [](const Written& w) { return !w.clear || defect_of(w.rule().rule.conditions[0]).empty(); },
            defect);
        f.rule(
            "count", [](const Written& w) { return w.count >= 1 && w.count <= 1'000'000; },
            phrase("it is confirmed by 1 to 1 000 000 samples in a row."));
        f.rule(
            "silent_after_s", [](const Written& w) { return w.silent_after_s >= 0 && w.silent_after_s <= 1e9; },
            phrase("a length of time is not below 0 s."));
        for (const auto& [key, length] :
             {std::pair{"for_s", &Written::for_s}, std::pair{"repeat_s", &Written::repeat_s}})
            f.rule(
                key, [length = length](const Written& w) { return w.*length >= 0 && w.*length <= 366 * 86400.0; },
                phrase("a length of time is not below 0 s and at most a year."));
        f.rule(
            "name", [defect](const Written& w) { return defect(w).empty(); }, defect);
    }
};

Result<std::vector<BacktestRule>> read_backtest_rules(const JsonReader& json) {
    COGNITUM_CHECK(json.only_keys({"rules"}));
    COGNITUM_TRY(items, json.list("rules"));
    if (items.size() > most_items)
        return json.error(phrase("there are {} rules; at most {} are read.", items.size(), most_items), "rules");
    std::vector<BacktestRule> out;
    for (const JsonReader& item : items) {
        COGNITUM_TRY(written, read_described<Written>(item));
        for (const BacktestRule& known : out)
            if (known.rule.name == written.name)
                return item.error(phrase("another rule has this name: its events could not be told apart."),
                                  "name");
        out.push_back(written.rule());
    }
    return out;
}

Backtest::Backtest(const std::vector<BacktestRule>& rules, const ConditionAbout& about) {
    m_lanes.reserve(rules.size());
    for (const BacktestRule& rule : rules)
        m_lanes.push_back({RuleJudge(rule.rule, {about}), from_seconds(rule.silent_after_s), {}, {}, {}});
}

void Backtest::take(std::span<const TimedNumber> samples) {
    constexpr std::size_t at_once = 4096; // what stays near the processor while all rules look at it
    for (std::size_t from = 0; from < samples.size(); from += at_once) {
        const auto part = samples.subspan(from, std::min(at_once, samples.size() - from));
        for (Lane& lane : m_lanes) {
            if (lane.silence > 0)
                for (const TimedNumber& s : part) {
                    if (lane.last && s.time - *lane.last > lane.silence) {
                        lane.silences.push_back({*lane.last + lane.silence, WatchKind::raised});
                        lane.silences.push_back({s.time, WatchKind::cleared});
                    }
                    lane.last = s.time;
                }
            for (const TimedNumber& s : part)
                lane.judge.take(0, s.time, s.value, lane.events);
        }
    }
}

std::vector<BacktestEvent> Backtest::events() const {
    std::vector<BacktestEvent> out;
    for (std::size_t i = 0; i < m_lanes.size(); ++i) {
        for (const WatchEvent& e : m_lanes[i].silences)
            out.push_back({e.time, i, e.kind == WatchKind::raised ? "silent" : "back"});
        for (const WatchEvent& e : m_lanes[i].events)
            out.push_back({e.time, i, watch_kind_word(e.kind)});
    }
    std::stable_sort(out.begin(), out.end(),
                     [](const BacktestEvent& a, const BacktestEvent& b) { return a.time < b.time; });
    return out;
}

} // namespace cognitum
