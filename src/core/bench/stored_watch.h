// How watch rules stand in the bench file, see stored.h.
#pragma once

#include "core/base/described.h"
#include "core/base/phrase.h"
#include "core/bench/geo_place.h"
#include "core/bench/watch_rule.h"

namespace cognitum {

template <>
struct Description<DayHours> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("from_min", &DayHours::from_min).must("to_min", &DayHours::to_min);
        const auto in_day = [](int minute) { return minute >= 0 && minute < 24 * 60; };
        f.rule(
            "from_min", [in_day](const DayHours& h) { return in_day(h.from_min) && in_day(h.to_min); },
            phrase("hours are minutes of the day, 0 to 1439."));
    }
};

template <>
struct Description<GeoPlace> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("latitude_deg", &GeoPlace::latitude_deg).must("longitude_deg", &GeoPlace::longitude_deg);
        f.rule(
            "latitude_deg", [](const GeoPlace& g) { return std::abs(g.latitude_deg) <= 90; },
            phrase("a latitude is from −90 to 90, north positive."));
        f.rule(
            "longitude_deg", [](const GeoPlace& g) { return std::abs(g.longitude_deg) <= 180; },
            phrase("a longitude is from −180 to 180, east positive."));
    }
};

template <>
struct Description<CorridorStep> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("from_day", &CorridorStep::from_day)
            .must("low", &CorridorStep::low)
            .must("high", &CorridorStep::high);
    }
};

template <>
struct Description<WatchCondition> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("reading", &WatchCondition::reading)
            .must("when", &WatchCondition::when,
                  NamedForm<WatchWhen>{
                      watch_when_words(),
                      phrase("a condition is above, below, outside, equal, changes, unchanged, rises, "
                             "falls, grows, silent, failing, night or corridor.")})
            .always("value", &WatchCondition::value)
            .may("upper", &WatchCondition::upper)
            .may("clear", &WatchCondition::clear)
            .may("hysteresis", &WatchCondition::hysteresis)
            .may("over_s", &WatchCondition::over_s)
            .may("join", &WatchCondition::join,
                 NamedForm<WatchJoin>{watch_join_words(), phrase("conditions are joined by and, or or while.")})
            .may("corridor", &WatchCondition::corridor);
        f.rule(
            "value", [](const WatchCondition& c) { return defect_of(c).empty(); },
            [](const WatchCondition& c) { return defect_of(c); });
    }
};

template <>
struct Description<MarkedStretch> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("from", &MarkedStretch::from, TimeForm{})
            .must("to", &MarkedStretch::to, TimeForm{})
            .must("is_alarm", &MarkedStretch::is_alarm);
    }
};

template <>
struct Description<WatchRule> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("id", &WatchRule::id)
            .must("name", &WatchRule::name)
            .may("rank", &WatchRule::rank,
                 NamedForm<WatchRank>{watch_rank_words(), phrase("a rule’s rank is note, look or bad.")})
            .must("conditions", &WatchRule::conditions)
            .may("count", &WatchRule::count)
            .may("for_s", &WatchRule::for_s)
            .may("repeat_s", &WatchRule::repeat_s)
            .may("escalate_s", &WatchRule::escalate_s)
            .may("for_sure", &WatchRule::for_sure)
            .may("breaks_quiet", &WatchRule::breaks_quiet)
            .may("hours", &WatchRule::hours)
            .always("on", &WatchRule::on)
            .may("marked", &WatchRule::marked);
        f.rule(
            "id", [](const WatchRule& r) { return !r.id.empty(); }, phrase("a rule needs an id."));
        f.rule(
            "name", [](const WatchRule& r) { return defect_of(r).empty(); },
            [](const WatchRule& r) { return defect_of(r); });
    }
};

template <>
struct Description<Telling> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.may("desktop", &Telling::desktop)
            .may("sound", &Telling::sound)
            .may("broker", &Telling::broker)
            .may("quiet", &Telling::quiet);
    }
};

template <>
struct Description<Publishing> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.may("host", &Publishing::host)
            .may("port", &Publishing::port)
            .may("topic", &Publishing::topic)
            .may("readings", &Publishing::readings)
            .may("every_s", &Publishing::every_s)
            .may("log_in", &Publishing::log_in);
        f.rule(
            "port", [](const Publishing& p) { return p.port > 0 && p.port < 65536; },
            phrase("a port is from 1 to 65535."));
        f.rule(
            "topic",
            [](const Publishing& p) {
                return !p.topic.empty() && p.topic.find_first_of("+#") == std::string::npos;
            },
            phrase("a topic that is written to has no + and no #."));
        f.rule(
            "every_s", [](const Publishing& p) { return p.every_s >= 1 && p.every_s <= 86400; },
            phrase("values are published every 1 s to 86400 s."));
    }
};

template <>
struct Description<PagePlan> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.may("on", &PagePlan::on).may("port", &PagePlan::port).may("token_print", &PagePlan::token_print);
        f.rule(
            "port", [](const PagePlan& p) { return p.port > 0 && p.port < 65536; },
            phrase("a port is from 1 to 65535."));
    }
};

} // namespace cognitum
