#include "session/live/live_watch.h"

#include <fmt/format.h>

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/watch/rule_words.h"
#include "store/figures/watch_trial.h"
#include "store/zone.h"

namespace cognitum {

namespace {
constexpr TimeUs reads_back = 2 * day_us; ///< of the record when a bench is opened
} // namespace

LiveWatch::LiveWatch(LiveShare* share, Clock clock, WriteLog write_log, Tell tell)
    : m_share(share),
      m_clock(std::move(clock)),
      m_write_log(std::move(write_log)),
      m_tell(std::move(tell)),
      m_zone(system_zone()),
      m_keeper(m_zone),
      m_teller(m_zone) {}

void LiveWatch::setPlan(const Bench& bench, const DoubtOf& doubt_of, BenchFile* file) {
    m_bench = bench;
    m_keeper.set_rules(bench.watch_rules, bench, doubt_of);
    m_teller.set_quiet(bench.telling.quiet);
    if (file) {
        const TimeUs now = m_clock();
        // A record that cannot be read is said by others; the rules then begin anew.
        static_cast<void>(replay(*file, m_keeper, bench, now - reads_back, now + 1));
        m_keeper.wait_from(now);
        for (const WatchRule& rule : bench.watch_rules)
            if (const RuleJudge* judge = m_keeper.judge(rule.id); judge && judge->raised())
                m_teller.carry_on(rule, judge->raise(), now);
    }
    share();
}

void LiveWatch::take(const std::string& reading, TimeUs time, double value) {
    m_events.clear();
    m_keeper.take(reading, time, value, m_events, m_clock());
    handle(m_events);
}

void LiveWatch::pass() {
    const TimeUs now = m_clock();
    m_events.clear();
    m_keeper.pass(now, m_events);
    handle(m_events);
    for (const Notice& notice : m_teller.pass(m_bench.watch_rules, now))
        tell(notice);
    share();
}

void LiveWatch::seen(const std::string& rule) {
    m_teller.seen(rule);
    share();
}

void LiveWatch::close() {
    m_bench = {};
    m_keeper = WatchKeeper(m_zone);
    m_teller = Teller(m_zone);
}

void LiveWatch::handle(const std::vector<RuleEvent>& events) {
    if (events.empty()) return;
    for (const RuleEvent& e : events) {
        const WatchRule* rule = m_bench.watch_rule(e.rule);
        if (!rule) continue;
        // By the clock, as everything in the logbook: a board's own clock may be another.
        {
            const InEnglish in_the_logbook;
            m_write_log(rule->reading(), e.event.kind == WatchKind::cleared ? log_kind::recovery : log_kind::alert,
                        event_says(*rule, e.event, m_bench));
        }

        WatchEvent by_clock = e.event;
        by_clock.time = m_clock();
        if (const auto notice = m_teller.take(*rule, by_clock)) tell(*notice);
    }
    share();
}

void LiveWatch::tell(const Notice& notice) {
    const WatchRule* rule = m_bench.watch_rule(notice.rule);
    const Reading* reading = rule ? m_bench.reading(rule->reading()) : nullptr;
    if (!reading) return;
    ToldNotice out;
    out.rule = QString::fromStdString(rule->id);
    out.reading = QString::fromStdString(reading->id);
    out.rank = notice.urgent ? WatchRank::bad : rule->rank;
    out.over = notice.event.kind == WatchKind::cleared;
    out.urgent = notice.urgent;
    out.health = reading->quantity.is_private();
    out.time = notice.event.time;
    out.title = QString::fromStdString(reading->name + ": " + rule->name);
    std::string text =
        notice.urgent ? phrase("It still holds, and nobody has looked.") : event_says(*rule, notice.event, m_bench);
    if (text.starts_with(out.title.toStdString() + ". ")) text = text.substr(out.title.toStdString().size() + 2);
    if (notice.ended)
        text +=
            phrase(" It was over after {}, in the quiet hours.", duration_text(*notice.ended - notice.event.time));
    out.text = QString::fromStdString(text);
    m_tell(out);
}

void LiveWatch::share() {
    std::map<std::string, LiveRule> rules;
    for (const WatchRule& rule : m_bench.watch_rules)
        if (const RuleJudge* judge = m_keeper.judge(rule.id))
            rules[rule.id] = {judge->raised(), judge->raised() ? judge->raise().time : 0,
                              judge->raised() && m_teller.unseen(rule.id)};
    m_share->change_rules(std::move(rules));
}

} // namespace cognitum
