#include "store/figures/watch_trial.h"

#include "core/base/phrase.h"
#include "store/samples/lines_in_order.h"

#include <algorithm>
#include <fmt/format.h>
#include <limits>

namespace cognitum {

namespace {

/// Rules that look at the same readings, so that these are read once.
struct Group {
    std::vector<std::string> readings;
    std::vector<std::size_t> rules;
};

std::vector<Group> groups_of(const std::vector<WatchRule>& rules) {
    std::vector<Group> out;
    for (std::size_t i = 0; i < rules.size(); ++i) {
        std::vector<std::string> readings;
        for (const WatchCondition& c : rules[i].conditions)
            if (std::find(readings.begin(), readings.end(), c.reading) == readings.end())
                readings.push_back(c.reading);
        const auto known =
            std::find_if(out.begin(), out.end(), [&](const Group& g) { return g.readings == readings; });
        if (known == out.end())
            out.push_back({readings, {i}});
        else
            known->rules.push_back(i);
    }
    return out;
}

std::string why_untried(const WatchRule& rule, const Bench& bench) {
    if (std::string defect = defect_of(rule); !defect.empty()) return defect;
    for (const WatchCondition& c : rule.conditions)
        if (!bench.reading(c.reading)) return phrase("The reading \"{}\" that it looks at is gone.", c.reading);
    return {};
}

} // namespace

std::vector<RuleTrial> try_rules(BenchFile& file, const Bench& bench, const std::vector<WatchRule>& rules,
                                 const TrialStretch& stretch, const DoubtOf& doubt_of, const ZoneOffset& zone) {
    std::vector<RuleTrial> out(rules.size());
    std::vector<WatchRule> sound;
    std::vector<std::size_t> places;
    for (std::size_t i = 0; i < rules.size(); ++i) {
        out[i].trouble = why_untried(rules[i], bench);
        if (!out[i].trouble.empty()) continue;
        sound.push_back(rules[i]);
        places.push_back(i);
    }
    for (const Group& group : groups_of(sound)) {
        std::vector<RuleJudge> judges;
        for (const std::size_t rule : group.rules) {
            std::vector<ConditionAbout> about;
            for (const WatchCondition& c : sound[rule].conditions) {
                about.push_back(about_condition(c, bench, doubt_of));
                const auto at = std::find(group.readings.begin(), group.readings.end(), c.reading);
                about.back().reading = static_cast<int>(at - group.readings.begin());
            }
            judges.emplace_back(sound[rule], about, zone);
        }
        std::vector<WatchEvent> events;
        const auto tell = [&](std::size_t i) {
            for (const WatchEvent& e : events)
                out[places[group.rules[i]]].count(e);
            events.clear();
        };
        std::uint64_t n = 0;
        TimeUs first = 0;
        TimeUs last = 0;
        const auto read = lines_in_order(file, group.readings, stretch.from, stretch.to - 1,
                                         [&](std::span<const RecordedLine> lines) {
                                             if (lines.empty()) return;
                                             if (n == 0) first = lines.front().time;
                                             last = lines.back().time;
                                             n += lines.size();
                                             for (std::size_t i = 0; i < judges.size(); ++i) {
                                                 for (const RecordedLine& line : lines)
                                                     judges[i].take(line.reading, line.time, line.value, events);
                                                 tell(i);
                                             }
                                         });
        for (std::size_t i = 0; i < judges.size(); ++i) {
            if (n > 0 && stretch.now) judges[i].pass(std::min(*stretch.now, stretch.to), events);
            tell(i);
            RuleTrial& trial = out[places[group.rules[i]]];
            trial.lines = n;
            trial.first = first;
            trial.last = last;
            trial.goes_on = judges[i].raised();
            if (!read) trial.trouble = read.error().text();
        }
    }
    return out;
}

Result<HourlyRecord> hourly_record(BenchFile& file, const std::string& reading, TimeUs from, TimeUs to) {
    HourCounter counter;
    COGNITUM_CHECK(for_each_sample(file, reading, from, to - 1, [&](std::span<const Sample> samples) {
        for (const Sample& s : samples)
            counter.take(s.time, s.value);
        return true;
    }));
    return counter.finish();
}

Result<void> replay(BenchFile& file, WatchKeeper& keeper, const Bench& bench, TimeUs from, TimeUs to) {
    std::vector<std::string> readings;
    for (const Reading& reading : bench.readings)
        if (keeper.looks_at(reading.id)) readings.push_back(reading.id);
    std::vector<RuleEvent> told_before;
    std::vector<Unreadable> damaged; // passed over: one series holds up no other
    if (readings.empty()) return {};
    return lines_in_order(
        file, readings, from, to - 1,
        [&](std::span<const RecordedLine> lines) {
            for (const RecordedLine& line : lines)
                keeper.take(readings[static_cast<std::size_t>(line.reading)], line.time, line.value, told_before);
            told_before.clear();
        },
        &damaged);
}

} // namespace cognitum
