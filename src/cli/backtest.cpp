// cognitum-cli backtest: watch rules on recorded data.
#include "core/watch/backtest.h"
#include "cli/cli.h"
#include "core/act/load_words.h"
#include "core/watch/rule_words.h"
#include "store/figures/control_trial.h"
#include "store/figures/reading_figures.h"
#include "store/figures/watch_trial.h"
#include "store/file/data_files.h"
#include "store/samples/samples.h"
#include "store/zone.h"

#include <algorithm>
#include <cstdio>
#include <fmt/format.h>
#include <fstream>
#include <map>

namespace cognitum::cli {

namespace {

/// Its first bytes are those of a database.
bool is_bench(const std::string& path) {
    char first[16] = {};
    std::ifstream(path, std::ios::binary).read(first, sizeof first);
    return std::string_view(first, sizeof first) == std::string_view("SQLite format 3\0", 16);
}

int answer(const std::vector<BacktestRule>& rules, const std::vector<BacktestEvent>& events, bool json) {
    Json listed = Json::array();
    Json counts = Json::object();
    for (const BacktestRule& rule : rules) {
        Json& of_rule = counts[rule.rule.name] = Json::object();
        for (const char* kind : {"raised", "repeated", "cleared"})
            of_rule[kind] = 0;
        if (rule.silent_after_s > 0) of_rule["silent"] = of_rule["back"] = 0;
    }
    for (const BacktestEvent& e : events) {
        const std::string& name = rules[e.rule].rule.name;
        Json& count = counts[name][e.kind];
        count = count.get<int>() + 1;
        if (json)
            listed.push_back({{"time", iso_time(e.time)}, {"rule", name}, {"kind", e.kind}});
        else
            std::puts(fmt::format("{}  {:<9} {}", iso_time(e.time), e.kind, name).c_str());
    }
    if (json) {
        print_json({{"events", listed}, {"counts", counts}});
        return done;
    }
    for (const auto& [name, of_rule] : counts.items()) {
        std::string line = name + ":";
        for (const auto& [kind, n] : of_rule.items())
            line += fmt::format(" {} {}", n.get<int>(), kind);
        std::puts(line.c_str());
    }
    return done;
}

Result<std::vector<BacktestRule>> read_rules(const std::string& path) {
    COGNITUM_TRY(text, read_input(path));
    COGNITUM_TRY(document, JsonText::parse(path, text));
    return read_backtest_rules(JsonReader(document));
}

struct OpenBench {
    BenchFile file;
    Bench plan;
};
Result<OpenBench> open_bench(const std::string& path) {
    COGNITUM_TRY(file, BenchFile::open(path, Access::read));
    COGNITUM_TRY(plan, file.load_plan());
    return OpenBench{std::move(file), std::move(plan)};
}

int on_series(const BacktestRequest& request, bool json) {
    const auto rules = read_rules(request.rules);
    if (!rules) return complain(rules.error());
    const auto samples = read_raw_series(request.series, EmptyCell::no_sample);
    if (!samples) return complain(samples.error());
    Backtest backtest(*rules);
    std::vector<TimedNumber> part;
    part.reserve(samples->size());
    for (const RawSample& s : *samples)
        part.push_back({s.time, s.code});
    backtest.take(part);
    return answer(*rules, backtest.events(), json);
}

int on_bench(const BacktestRequest& request, const StretchGiven& stretch, bool json) {
    const auto rules = read_rules(request.rules);
    if (!rules) return complain(rules.error());
    auto bench = open_bench(request.series);
    if (!bench) return complain(bench.error());
    const auto at = find_reading(bench->plan, request.series, request.reading);
    if (!at) return complain(at.error());
    const Reading& reading = bench->plan.readings[*at];
    Backtest backtest(*rules);
    std::vector<TimedNumber> part;
    const auto read = for_each_sample(bench->file, reading.id, stretch.from.value_or(earliest_time),
                                      stretch.to.value_or(latest_time) - 1, [&](std::span<const Sample> samples) {
                                          part.clear();
                                          for (const Sample& s : samples)
                                              part.push_back({s.time, s.value});
                                          backtest.take(part);
                                          return true;
                                      });
    if (!read) return complain(read.error());
    return answer(*rules, backtest.events(), json);
}

Json load_json(const LoadControl& control, const LoadTrial& trial, const Bench& bench) {
    Json events = Json::array();
    for (const LoadEvent& e : trial.events)
        events.push_back({{"time", iso_time(e.time)}, {"on", e.on}});
    Json warnings = Json::array();
    for (const std::string& warning : trial_warns(control, trial, bench))
        warnings.push_back(warning);
    return {{"name", control.name},
            {"runs", trial.runs},
            {"on_s", seconds(trial.on)},
            {"longest_s", seconds(trial.longest)},
            {"runs_without_effect", trial.with_effects ? Json(trial.runs_without) : Json(nullptr)},
            {"dry_s", seconds(trial.dry)},
            {"unseen_s", seconds(trial.blind)},
            {"tips_missed", trial.tips_missed},
            {"events", events},
            {"warnings", warnings},
            {"trouble", trial.trouble.empty() ? Json(nullptr) : Json(trial.trouble)}};
}

void print_load(const LoadControl& control, const LoadTrial& trial, const Bench& bench) {
    std::puts(fmt::format("{} ({})", control.name, follows_says(control, bench)).c_str());
    std::puts(("  " + trial_says(control, trial, bench)).c_str());
    for (const std::string& warning : trial_warns(control, trial, bench))
        std::puts(("  ! " + warning).c_str());
}

/// The rules that the bench has, each tried on its own readings, and the loads that follow them.
int own_rules(const BacktestRequest& request, const StretchGiven& stretch, bool json) {
    auto bench = open_bench(request.rules);
    if (!bench) return complain(bench.error());
    std::vector<WatchRule> rules;
    for (const WatchRule& rule : bench->plan.watch_rules)
        if (request.rule.empty() || rule.id == request.rule || rule.name == request.rule) rules.push_back(rule);
    std::vector<LoadControl> controls;
    for (const LoadControl& control : bench->plan.controls)
        if (request.rule.empty() || control.rule == request.rule) controls.push_back(control);
    if (rules.empty())
        return complain({request.rule.empty() ? "the bench has no rules."
                                              : fmt::format("the bench has no rule \"{}\".", request.rule),
                         request.rules, "Make one at the Watch stop, or give a file of rules first."});
    const LoadedCatalog cards = load_catalog();
    const TimeUs now = stretch.to.value_or(latest_time);
    const DoubtOf doubt = [&](const Reading& r, double value) {
        return 2 * value_u(bench->plan, cards.catalog, r, value, now == latest_time ? 0 : now);
    };
    const TrialStretch whole{stretch.from.value_or(earliest_time), stretch.to.value_or(latest_time), {}};
    const auto trials = try_rules(bench->file, bench->plan, rules, whole, doubt, system_zone());
    Json listed = Json::array();
    Json counts = Json::object();
    bool all = true;
    for (std::size_t i = 0; i < rules.size(); ++i) {
        const RuleTrial& trial = trials[i];
        all = all && trial.trouble.empty();
        if (!json) {
            std::puts(fmt::format("{} ({})", rules[i].name, rule_says(rules[i], bench->plan)).c_str());
            for (const WatchEvent& e : trial.events)
                std::puts(fmt::format("  {}  {}", iso_time(e.time), event_says(rules[i], e, bench->plan)).c_str());
            std::puts(("  " + trial_says(rules[i], trial)).c_str());
            continue;
        }
        counts[rules[i].id] = {{"name", rules[i].name},
                               {"raised", trial.raised},
                               {"repeated", trial.repeated},
                               {"cleared", trial.cleared},
                               {"a_week", trial.told_a_week()},
                               {"lines", trial.lines},
                               {"trouble", trial.trouble.empty() ? Json(nullptr) : Json(trial.trouble)}};
        for (const WatchEvent& e : trial.events)
            listed.push_back({{"time", iso_time(e.time)},
                              {"rule", rules[i].id},
                              {"kind", watch_kind_word(e.kind)},
                              {"says", event_says(rules[i], e, bench->plan)}});
    }
    Json loads = Json::object();
    for (const LoadControl& control : controls) {
        const LoadTrial trial = try_control(bench->file, bench->plan, control, whole, doubt, system_zone());
        all = all && trial.trouble.empty();
        if (json)
            loads[control.id] = load_json(control, trial, bench->plan);
        else
            print_load(control, trial, bench->plan);
    }
    if (json) {
        std::stable_sort(listed.begin(), listed.end(), [](const Json& a, const Json& b) {
            return a["time"].get_ref<const std::string&>() < b["time"].get_ref<const std::string&>();
        });
        print_json({{"events", listed}, {"counts", counts}, {"loads", loads}});
    }
    return all ? done : answer_is_no;
}

} // namespace

int run_backtest(const BacktestRequest& request, bool json) {
    const auto stretch = stretch_given(request.from, request.to);
    if (!stretch) return complain(stretch.error(), usage);
    const auto wrong = [](const char* what, const char* option, const char* fix) {
        return complain({what, option, fix}, usage);
    };
    if (request.series.empty()) {
        if (!request.rules.ends_with(".json") && (is_bench(request.rules) || request.rules.ends_with(".cognitum")))
            return own_rules(request, *stretch, json);
        return wrong("there is nothing to try the rules on.", "backtest",
                     "Write: backtest RULES.json SERIES.csv, or backtest RULES.json B.cognitum --reading NAME.");
    }
    if (request.rules == "-" && request.series == "-")
        return wrong("rules and series cannot both come from standard input.", "backtest", "Give one as a file.");
    if (is_bench(request.series)) {
        if (request.reading.empty())
            return wrong("a bench has many readings.", "--reading", "Say which: --reading NAME.");
        return on_bench(request, *stretch, json);
    }
    if (!request.reading.empty() || stretch->from || stretch->to)
        return wrong("--reading, --from and --to belong to a bench.", "backtest",
                     "Leave them out, or give a bench instead of the series.");
    return on_series(request, json);
}

} // namespace cognitum::cli
