// Rules made from conditions alone, and what the judge says of one series.
#pragma once

#include "core/watch/judge.h"
#include "support/times.h"

#include <QString>

namespace cognitum::test {

inline WatchRule watch(std::vector<WatchCondition> conditions) {
    WatchRule out;
    out.id = out.name = "rule";
    out.conditions = std::move(conditions);
    return out;
}

inline WatchCondition looking(WatchWhen when, double value, double over_s = 0) {
    WatchCondition out;
    out.when = when;
    out.value = value;
    out.over_s = over_s;
    return out;
}

/// What one rule says of one series: "r" raised, "c" over, "." nothing, for each sample.
inline QString said_of(const WatchRule& rule, const std::vector<TimedNumber>& series,
                       const ConditionAbout& about = {}) {
    RuleJudge judge(rule, std::vector<ConditionAbout>(rule.conditions.size(), about));
    QString out;
    for (const TimedNumber& sample : series) {
        std::vector<WatchEvent> events;
        judge.take(0, sample.time, sample.value, events);
        out += events.empty()                              ? QLatin1Char('.')
               : events.back().kind == WatchKind::raised   ? QLatin1Char('r')
               : events.back().kind == WatchKind::repeated ? QLatin1Char('a')
                                                           : QLatin1Char('c');
    }
    return out;
}

/// One value each second.
inline std::vector<TimedNumber> each_second(const std::vector<double>& values, TimeUs step = sec) {
    std::vector<TimedNumber> out;
    for (const double v : values)
        out.push_back({static_cast<TimeUs>(out.size()) * step, v});
    return out;
}

} // namespace cognitum::test
