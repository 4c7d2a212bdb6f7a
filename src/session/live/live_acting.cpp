#include "session/live/live_acting.h"

#include "core/act/load_words.h"
#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/watch/bands.h"
#include "store/file/bench_file.h"
#include "store/zone.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr TimeUs told_again_after = minute_us;      ///< where there is no time-out
constexpr TimeUs tried_again_after = 5 * second_us; ///< what could not be told
constexpr TimeUs complains_after = 15 * second_us;  ///< links take a moment to come back
constexpr TimeUs answered_within = 5 * second_us;
constexpr int times_within_time_out = 3;

/// Where a load is told, and how.
std::vector<std::string> way_of(const LoadControl* control, const Bench& bench) {
    const Module* load = control ? bench.module(control->load) : nullptr;
    if (!load) return {};
    return {load->id, load->board, control->topic, control->on_line, control->off_line};
}

TimeUs repeat_after(const LoadControl& control) {
    if (control.time_out_s <= 0) return told_again_after;
    return std::min(told_again_after, from_seconds(control.time_out_s) / times_within_time_out);
}

} // namespace

LiveActing::LiveActing(LiveShare* share, Clock clock, WriteLog write_log, Tell tell, Send send)
    : m_share(share),
      m_clock(std::move(clock)),
      m_write_log(std::move(write_log)),
      m_tell(std::move(tell)),
      m_send(std::move(send)),
      m_keeper(system_zone()) {}

void LiveActing::setPlan(const Bench& bench, const DoubtOf& doubt_of) {
    const Bench before = std::move(m_bench);
    m_bench = bench;
    for (const LoadControl& control : before.controls) { // what was told to be on in another way or place
        const auto told = m_told.find(control.id);
        if (told == m_told.end() || !told->second.on) continue;
        if (way_of(&control, before) == way_of(bench.control(control.id), bench)) continue;
        tellLoad(control, before, false);
        told->second.at = 0; // and in the new one with the next second
    }
    m_events.clear();
    m_keeper.set_plan(bench, doubt_of, m_clock(), m_events);
    handle(m_events, before); // loads that are off now were on by the plan of before
    std::erase_if(m_told, [&](const auto& told) { return !m_keeper.judge(told.first); });
    share();
}

void LiveActing::take(const std::string& reading, TimeUs time, double value) {
    // A file that is replayed switches nothing by what was.
    const Reading* known = m_bench.reading(reading);
    const BoardUse* board = known ? m_bench.board(known->feed()) : nullptr;
    if (board && board->link.brings_the_past() && m_clock() - time > from_seconds(silent_after_s(known->quantity)))
        value = no_number;
    m_events.clear();
    m_keeper.take(reading, time, value, m_events, m_clock());
    if (m_events.empty()) return;
    handle(m_events, m_bench);
    share();
}

void LiveActing::pass() {
    const TimeUs now = m_clock();
    m_events.clear();
    m_keeper.pass(now, m_events);
    handle(m_events, m_bench);
    for (const LoadControl& control : m_bench.controls) {
        const LoadJudge* judge = m_keeper.judge(control.id);
        if (!judge) continue;
        Told& told = m_told[control.id];
        const TimeUs due = told.at + (told.ok ? repeat_after(control) : tried_again_after);
        if (told.at == 0 || now >= due || now < told.at) tellLoad(control, m_bench, judge->on());
        complain(control, told);
    }
    share();
}

void LiveActing::hand(const std::string& id, std::optional<bool> on, TimeUs until) {
    const LoadControl* control = m_bench.control(id);
    if (!control || !m_keeper.judge(id)) return;
    const WatchRule* rule = m_bench.watch_rule(control->rule);
    const InEnglish in_the_logbook;
    m_write_log(rule ? rule->reading() : std::string(), log_kind::switching,
                on ? phrase("{}: {} by hand for {}.", control->name, *on ? phrase("on") : phrase("off"),
                            duration_text(until - m_clock()))
                   : phrase("{}: by its rule again.", control->name));
    m_events.clear();
    m_keeper.hand(id, on, until, m_clock(), m_events);
    handle(m_events, m_bench);
    share();
}

void LiveActing::answered(const std::string& board, const std::string& text) {
    for (const LoadControl& control : m_bench.controls) {
        const Module* load = m_bench.module(control.load);
        const auto told = m_told.find(control.id);
        if (!load || load->board != board || told == m_told.end()) continue;
        if (m_clock() - told->second.at > answered_within) continue;
        const bool refused = text.starts_with("error");
        told->second.refused = refused ? text : "";
        if (refused && told->second.failing_from == 0) told->second.failing_from = m_clock();
        if (refused) told->second.ok = false;
    }
}

void LiveActing::linkChanged(const std::string& board, bool open) {
    for (const LoadControl& control : m_bench.controls) {
        const Module* load = m_bench.module(control.load);
        const auto told = m_told.find(control.id);
        if (!load || load->board != board || told == m_told.end()) continue;
        told->second.at = 0; // with the next second
        if (open || told->second.failing_from > 0) continue;
        told->second.ok = false;
        told->second.failing_from = m_clock();
    }
}

void LiveActing::close() {
    for (const LoadControl& control : m_bench.controls)
        if (const LoadJudge* judge = m_keeper.judge(control.id); judge && judge->on()) {
            const WatchRule* rule = m_bench.watch_rule(control.rule);
            tellLoad(control, m_bench, false);
            const InEnglish in_the_logbook;
            m_write_log(rule ? rule->reading() : std::string(), log_kind::switching,
                        phrase("{}: off, because the program ends.", control.name));
        }
    m_bench = {};
    m_keeper = LoadKeeper(system_zone());
    m_told.clear();
}

void LiveActing::handle(const std::vector<ControlEvent>& events, const Bench& bench) {
    for (const ControlEvent& e : events) {
        const LoadControl* control = bench.control(e.control);
        const WatchRule* rule = control ? bench.watch_rule(control->rule) : nullptr;
        if (!rule) continue;
        const LoadJudge* judge = m_keeper.judge(e.control);
        const InEnglish in_the_logbook;
        m_write_log(
            rule->reading(), log_kind::switching,
            load_event_says(*control, judge ? judge->readings() : std::vector<std::string>(), e.event, bench));
        tellLoad(*control, bench, e.event.on);
    }
}

void LiveActing::tellLoad(const LoadControl& control, const Bench& bench, bool on) {
    const Module* load = bench.module(control.load);
    if (!load) return;
    Told& told = m_told[control.id];
    if (told.on != on) told.refused.clear();
    told.on = on;
    told.at = m_clock();
    const bool sent = m_send(load->board, load->id, load_line(control, on), control.topic);
    told.ok = sent && told.refused.empty();
    if (told.ok) {
        if (told.complained)
            notice(
                control,
                [on] { return phrase("It was told again, and is {}.", on ? phrase("on") : phrase("off")); }, true);
        told.failing_from = 0;
        told.complained = false;
    } else if (told.failing_from == 0) {
        told.failing_from = m_clock();
    }
}

std::string LiveActing::trouble(const Told& told) const {
    if (told.failing_from == 0) return {};
    if (!told.refused.empty()) return phrase("its board answers “{}”", told.refused);
    return phrase("its board cannot be told: its link is not open, or it has not asked for two minutes");
}

void LiveActing::complain(const LoadControl& control, Told& told) {
    if (told.failing_from == 0 || told.complained || m_clock() - told.failing_from < complains_after) return;
    told.complained = true;
    const auto says = [&] {
        return phrase("It should be {}, and {}. {}", told.on ? phrase("on") : phrase("off"), trouble(told),
                      control.time_out_s > 0 ? phrase("It goes off by itself {} after it was told last.",
                                                      duration_text(from_seconds(control.time_out_s)))
                                             : std::string(phrase("It stays as it was: switch it by hand.")));
    };
    notice(control, says, false);
}

/// In the logbook in English, to a person in the language.
void LiveActing::notice(const LoadControl& control, const std::function<std::string()>& says, bool over) {
    const WatchRule* rule = m_bench.watch_rule(control.rule);
    const Reading* reading = rule ? m_bench.reading(rule->reading()) : nullptr;
    {
        const InEnglish in_the_logbook;
        m_write_log(reading ? reading->id : std::string(), over ? log_kind::recovery : log_kind::alert,
                    control.name + ": " + says());
    }

    ToldNotice out;
    out.rule = QString::fromStdString(control.id);
    out.reading = QString::fromStdString(reading ? reading->id : std::string());
    out.rank = WatchRank::bad;
    out.over = over;
    out.urgent = !over;
    out.health = reading && reading->quantity.is_private();
    out.time = m_clock();
    out.title = QString::fromStdString(control.name);
    out.text = QString::fromStdString(says());
    m_tell(out);
}

void LiveActing::share() {
    std::map<std::string, LiveLoad> loads;
    for (const LoadControl& control : m_bench.controls) {
        const LoadJudge* judge = m_keeper.judge(control.id);
        if (!judge) continue;
        LiveLoad& load = loads[control.id];
        load.on = judge->on();
        load.since = judge->since();
        load.why = cause_says(control, judge->readings(), judge->wish().cause, judge->wish().which, m_bench);
        load.waits_until = judge->waits_until().value_or(0);
        if (judge->by_hand()) {
            load.by_hand = true;
            load.hand_until = judge->by_hand()->until;
        }
        if (const auto told = m_told.find(control.id); told != m_told.end()) load.trouble = trouble(told->second);
    }
    m_share->change_loads(std::move(loads));
}

} // namespace cognitum
