#include "store/figures/control_trial.h"

#include "core/act/load_keeper.h"
#include "core/base/phrase.h"
#include "core/watch/bands.h"
#include "store/samples/lines_in_order.h"

#include <cmath>

namespace cognitum {

namespace {

Result<LoadTrial> follow(BenchFile& file, const Bench& bench, const LoadControl& control, const WatchRule& rule,
                         const TrialStretch& stretch, const DoubtOf& doubt_of, const ZoneOffset& zone,
                         bool with_effects) {
    const std::vector<std::string> readings = trial_readings(control, rule);
    LoadTrialRun run(control, rule, bench, readings, doubt_of, zone, with_effects);
    std::vector<Unreadable> damaged; // passed over
    COGNITUM_CHECK(lines_in_order(
        file, readings, stretch.from, stretch.to - 1,
        [&](std::span<const RecordedLine> lines) {
            for (const RecordedLine& line : lines)
                run.take(line.reading, line.time, line.value);
        },
        &damaged));
    return run.finish();
}

/// A record may be coarser than the lines that come while it acts (thinned, or brought from elsewhere): its usual
/// steps are no silences. Says below which length a silence is not seen in it; 0: as while it acts.
Result<TimeUs> allow_for_steps(BenchFile& file, Bench& bench, LoadControl& control, const WatchRule& rule,
                               const TrialStretch& stretch) {
    TimeUs out = 0;
    for (const std::string& id : trial_readings(control, rule)) {
        COGNITUM_TRY(record, hourly_record(file, id, stretch.from, stretch.to));
        Quantity& quantity = bench.reading(id)->quantity;
        const double seen_s = 1.5 * seconds(record.long_gap);
        if (record.lines < 2 || seen_s <= silent_after_s(quantity)) continue;
        quantity.stale_s = seen_s;
        quantity.interval_s = std::max(quantity.interval_s, seconds(record.long_gap) / 3);
        out = std::max(out, from_seconds(seen_s));
    }
    if (control.value_within_s > 0) control.value_within_s = std::max(control.value_within_s, seconds(out));
    return out;
}

/// A control is tried while its rule is off as well: the person decides afterwards.
std::string why_not_tried(const LoadControl& control, Bench bench) {
    if (WatchRule* rule = bench.watch_rule(control.rule)) rule->on = true;
    for (const LoadEffect& effect : control.effects)
        if (!bench.reading(effect.reading)) return phrase("a reading that the load changes is gone.");
    return why_not(control, bench);
}

} // namespace

LoadTrial try_control(BenchFile& file, const Bench& bench, const LoadControl& control, const TrialStretch& stretch,
                      const DoubtOf& doubt_of, const ZoneOffset& zone) {
    LoadTrial out;
    out.trouble = why_not_tried(control, bench);
    if (!out.trouble.empty()) return out;
    const WatchRule& rule = *bench.watch_rule(control.rule);
    Bench as_recorded = bench;
    LoadControl as_tried = control;
    const auto unseen = allow_for_steps(file, as_recorded, as_tried, rule, stretch);
    auto with = follow(file, as_recorded, as_tried, rule, stretch, doubt_of, zone, true);
    if (!unseen || !with) {
        out.trouble = (unseen ? with.error() : unseen.error()).text();
        return out;
    }
    out = std::move(*with);
    out.unseen_silence = *unseen;
    if (out.with_effects)
        if (const auto without = follow(file, as_recorded, as_tried, rule, stretch, doubt_of, zone, false))
            out.runs_without = without->runs;
    const Module* load = bench.module(control.load);
    const BoardUse* board = load ? bench.board(load->board) : nullptr;
    if (!board || board->sleep_s <= 0) return out;
    for (const Reading& reading : bench.readings) {
        const Events events = reading.quantity.about().events;
        if (reading.wiring.board != board->id || (events != Events::tips && events != Events::turns)) continue;
        if (const auto missed = missed_tips(file, reading.id, board->sleep_s, board->wake_s, stretch)) {
            out.tips += missed->tips;
            out.tips_missed += missed->missed;
        }
    }
    return out;
}

Result<MissedTips> missed_tips(BenchFile& file, const std::string& reading, double sleep_s, double wake_s,
                               const TrialStretch& stretch) {
    MissedTips out;
    const TimeUs awake = from_seconds(wake_s);
    const TimeUs round = awake + from_seconds(sleep_s);
    if (round <= 0) return out;
    double before = no_number;
    COGNITUM_CHECK(
        for_each_sample(file, reading, stretch.from, stretch.to - 1, [&](std::span<const Sample> samples) {
            for (const Sample& s : samples) {
                if (std::isnan(s.value)) continue;
                if (s.value > before) {
                    ++out.tips;
                    if ((s.time % round + round) % round >= awake) ++out.missed;
                }
                before = s.value;
            }
            return true;
        }));
    return out;
}

} // namespace cognitum
