// What rules say, and when a person hears of it.
#include "core/bench/quantity_change.h"
#include "core/stretch/stretch.h"
#include "core/watch/keeper.h"
#include "core/watch/marked.h"
#include "core/watch/offers.h"
#include "core/watch/outlook.h"
#include "core/watch/rule_words.h"
#include "core/watch/teller.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"
#include "support/watched_readings.h"

#include <cmath>
#include <map>
#include <numeric>
#include <random>

using namespace cognitum;
using test::bench_of;
using test::described;
using test::june;
using test::looks_at;
using test::plain;

namespace {

WatchRule below(double value, double clear, const char* reading = "volume") {
    WatchRule out;
    out.id = "low";
    out.name = "Nearly empty";
    WatchCondition c;
    c.reading = reading;
    c.when = WatchWhen::below;
    c.value = value;
    c.clear = clear;
    out.conditions = {c};
    return out;
}

} // namespace

class TestWatchWords : public QObject {
    Q_OBJECT

  private slots:
    void rulesInWords() {
        const Bench bench =
            bench_of({described("volume", "L"), described("contact", "1"), described("humidity", "%")});
        WatchRule rule = below(250, 300);
        rule.count = 3;
        rule.repeat_s = 12 * 3600;
        QCOMPARE(plain(rule_says(rule, bench)), std::string("below 250 L, back above 300 L"));
        QCOMPARE(plain(confirmation_says(rule)), std::string("3 lines in a row · told once, again after 12 h"));
        rule.hours = {22 * 60, 7 * 60};
        WatchCondition damp;
        damp.reading = "humidity";
        damp.value = 90;
        damp.join = WatchJoin::only;
        rule.conditions.push_back(damp);
        QCOMPARE(plain(rule_says(rule, bench)),
                 std::string("below 250 L, back above 300 L, while humidity above 90 %, 22:00 to 07:00"));
        WatchRule door = below(0, 0, "contact");
        door.conditions[0] = looks_at("contact", WatchWhen::equal);
        QCOMPARE(plain(rule_says(door, bench)), std::string("says “open”"));
        WatchRule leak = below(0, 0);
        leak.conditions[0] = looks_at("volume", WatchWhen::falls, 6);
        leak.conditions[0].over_s = 7200;
        QCOMPARE(plain(rule_says(leak, bench)), std::string("falls by more than 6 L/h over 2 h"));
        leak.conditions[0] = looks_at("volume", WatchWhen::silent, 600);
        QCOMPARE(plain(rule_says(leak, bench)), std::string("nothing for 10 min"));
        leak.conditions[0].reading = "well";
        QVERIFY(condition_says(leak.conditions[0], bench).find("gone") != std::string::npos);
    }
    void eventsInWords() {
        const Bench bench = bench_of({described("volume", "L", 10), described("pulse-rate", "/min")});
        const WatchRule rule = below(250, 300);
        QCOMPARE(plain(event_says(rule, {0, WatchKind::raised, 243, Sureness::within_doubt}, bench)),
                 std::string("volume: Nearly empty. 243 L, below 250 L, but within the doubt."));
        QCOMPARE(plain(event_says(rule, {0, WatchKind::raised, 210, Sureness::for_sure}, bench)),
                 std::string("volume: Nearly empty. 210 L, below 250 L for sure."));
        QCOMPARE(plain(event_says(rule, {0, WatchKind::cleared, 305, Sureness::not_known}, bench)),
                 std::string("volume: Nearly empty is over: 305 L."));
        // Of two with an "or" it may have been the second: the first one's value is not put beside its limit.
        WatchRule either = rule;
        WatchCondition high = looks_at("volume", WatchWhen::above);
        high.value = 900;
        high.join = WatchJoin::any;
        either.conditions.push_back(high);
        const std::string full = plain(event_says(either, {0, WatchKind::raised, 950}, bench));
        QVERIFY2(full.find("950") == std::string::npos && full.find("above 900 L") != std::string::npos,
                 full.c_str());
        // No number of somebody's health leaves the reading's own page.
        const std::string pulse = event_says(below(50, 50, "pulse-rate"), {0, WatchKind::raised, 48}, bench);
        QVERIFY(pulse.find("48") == std::string::npos && pulse.find("no diagnosis") != std::string::npos);
        Bench mine = bench;
        mine.readings[0].quantity.kept_private = true;
        const std::string told = event_says(rule, {0, WatchKind::raised, 187}, mine);
        QVERIFY2(told.find("187") == std::string::npos && told.ends_with("."), told.c_str());
    }

    // A teller: 22:00 to 07:00 is quiet; 20:00 is not.
    void toldOnce() {
        Teller teller;
        teller.set_quiet({22 * 60, 7 * 60});
        const WatchRule rule = below(250, 300);
        const TimeUs evening = june + 20 * hour_us;
        QVERIFY(!teller.take(rule, {evening, WatchKind::cleared})); // what was not told does not end
        QVERIFY(teller.take(rule, {evening, WatchKind::raised}));
        QVERIFY(teller.unseen("low"));
        QVERIFY(teller.take(rule, {evening + hour_us, WatchKind::repeated}));
        teller.seen("low");
        QVERIFY(!teller.unseen("low"));
        const auto end = teller.take(rule, {evening + hour_us + minute_us, WatchKind::cleared});
        QVERIFY(end && end->event.kind == WatchKind::cleared);
        QVERIFY(!teller.take(rule, {evening + hour_us + 2 * minute_us, WatchKind::cleared}));
    }
    void aNightIsToldInTheMorning() {
        Teller teller;
        teller.set_quiet({22 * 60, 7 * 60});
        const std::vector<WatchRule> rules = {below(250, 300)};
        const TimeUs night = june + 23 * hour_us, morning = june + 31 * hour_us;
        QVERIFY(!teller.take(rules[0], {night, WatchKind::raised}));
        QVERIFY(!teller.take(rules[0], {night + hour_us, WatchKind::repeated}));
        QVERIFY(teller.pass(rules, morning - minute_us).empty());
        auto told = teller.pass(rules, morning);
        QCOMPARE(told.size(), std::size_t(1));
        QCOMPARE(told[0].event.time, night);
        QVERIFY(!told[0].ended);
        QVERIFY(teller.pass(rules, morning + minute_us).empty());
        // It came and went: one notice, and no end of its own.
        QVERIFY(teller.take(rules[0], {morning + minute_us, WatchKind::cleared}));
        QVERIFY(!teller.take(rules[0], {night + day_us, WatchKind::raised}));
        QVERIFY(!teller.take(rules[0], {night + day_us + hour_us, WatchKind::cleared}));
        told = teller.pass(rules, morning + day_us);
        QCOMPARE(told.size(), std::size_t(1));
        QCOMPARE(told[0].ended.value_or(0), night + day_us + hour_us);
        QVERIFY(teller.pass(rules, morning + day_us + hour_us).empty());
        QVERIFY(!teller.unseen("low"));
    }
    /// A restart in the night, and one after it became urgent.
    void aRestartTellsNothingTwice() {
        std::vector<WatchRule> rules = {below(250, 300)};
        rules[0].escalate_s = 600;
        const TimeUs night = june + 23 * hour_us, morning = june + 31 * hour_us;
        Teller at_night;
        at_night.set_quiet({22 * 60, 7 * 60});
        at_night.carry_on(rules[0], {night, WatchKind::raised}, night + 3 * hour_us);
        QVERIFY(at_night.pass(rules, morning - minute_us).empty());
        QCOMPARE(at_night.pass(rules, morning).size(), std::size_t(1));
        Teller at_noon;
        at_noon.set_quiet({22 * 60, 7 * 60});
        at_noon.carry_on(rules[0], {morning, WatchKind::raised}, morning + 5 * hour_us);
        QVERIFY(at_noon.unseen("low"));
        QVERIFY(at_noon.pass(rules, morning + 6 * hour_us).empty());
        Teller soon; // not urgent before the restart
        soon.carry_on(rules[0], {morning, WatchKind::raised}, morning + minute_us);
        QCOMPARE(soon.pass(rules, morning + 11 * minute_us).size(), std::size_t(1));
    }
    void whatBreaksTheQuiet() {
        Teller teller([](TimeUs) { return 2 * hour_us; }); // the quiet hours are of the local clock
        teller.set_quiet({22 * 60, 7 * 60});
        WatchRule rule = below(250, 300);
        QVERIFY(!teller.take(rule, {june + 20 * hour_us, WatchKind::raised}));
        rule.breaks_quiet = true;
        rule.id = "leak";
        QVERIFY(teller.take(rule, {june + 20 * hour_us, WatchKind::raised}));
    }
    void urgentWhenNobodyLooks() {
        Teller teller;
        std::vector<WatchRule> rules = {below(250, 300)};
        rules[0].escalate_s = 600;
        const TimeUs at = june + 12 * hour_us;
        QVERIFY(teller.take(rules[0], {at, WatchKind::raised}));
        QVERIFY(teller.pass(rules, at + 9 * minute_us).empty());
        const auto urgent = teller.pass(rules, at + 10 * minute_us);
        QVERIFY(urgent.size() == 1 && urgent[0].urgent);
        QVERIFY(teller.pass(rules, at + 30 * minute_us).empty());
        // Somebody who looked is not called.
        QVERIFY(teller.take(rules[0], {at + hour_us, WatchKind::cleared}));
        QVERIFY(teller.take(rules[0], {at + 2 * hour_us, WatchKind::raised}));
        teller.seen("low");
        QVERIFY(teller.pass(rules, at + 4 * hour_us).empty());
        // A rule that was removed is forgotten.
        QVERIFY(teller.pass({}, at + 4 * hour_us).empty());
        QVERIFY(!teller.unseen("low"));
    }

    void aKeeperKeepsWhatDidNotChange() {
        Bench bench = bench_of({described("volume", "L"), described("humidity", "%")});
        bench.watch_rules = {below(250, 300)};
        WatchKeeper keeper;
        keeper.set_rules(bench.watch_rules, bench);
        std::vector<RuleEvent> events;
        keeper.take("volume", june, 200, events);
        keeper.take("humidity", june, 200, events);
        QCOMPARE(events.size(), std::size_t(1));
        bench.watch_rules.push_back(below(10, 20, "humidity"));
        bench.watch_rules.back().id = "dry";
        bench.watch_rules[0].name = "Almost empty"; // how it is called is nothing that is judged
        keeper.set_rules(bench.watch_rules, bench);
        QVERIFY(keeper.judge("low")->raised());
        keeper.take("volume", june + second_us, 200, events);
        QCOMPARE(events.size(), std::size_t(1)); // not raised again
        bench.watch_rules[0].conditions[0].value = 150;
        keeper.set_rules(bench.watch_rules, bench);
        QVERIFY(!keeper.judge("low")->raised());
        bench.readings[0].quantity.unit = "m3"; // its limits mean something else now
        keeper.take("volume", june + 2 * second_us, 100, events);
        QVERIFY(keeper.judge("low")->raised());
        keeper.set_rules(bench.watch_rules, bench);
        QVERIFY(!keeper.judge("low")->raised());
        bench.readings.clear();
        keeper.set_rules(bench.watch_rules, bench);
        QVERIFY(!keeper.judge("low"));
    }

    void marksAreCounted() {
        WatchRule rule = below(250, 300);
        RuleTrial trial;
        for (const auto& [hour, kind] : {std::pair{2, WatchKind::raised}, std::pair{4, WatchKind::cleared},
                                         std::pair{10, WatchKind::raised}, std::pair{11, WatchKind::cleared}})
            trial.count({june + hour * hour_us, kind});
        const auto stretch = [](int from, int to, bool alarm) {
            return MarkedStretch{june + from * hour_us, june + to * hour_us, alarm};
        };
        rule.marked = {stretch(1, 3, true), stretch(3, 3, true), stretch(5, 6, true), stretch(9, 12, false),
                       stretch(12, 13, false)};
        const MarkScore score = score_marks(trial, rule.marked);
        QCOMPARE(score.caught, 2); // the second lies within one that was raised before
        QCOMPARE(score.missed, 1);
        QCOMPARE(score.false_alarms, 1);
        QCOMPARE(score.right, 1);
        QVERIFY(score_says(score).find("2 of 3") != std::string::npos);
        QVERIFY(score_says({}).empty());
    }
    void aLimitBetweenWhatWasMarked() {
        WatchRule rule = below(0, 0);
        rule.marked = {{0, 1, true}, {2, 3, true}, {4, 5, false}};
        const std::vector<MarkExtremes> apart = {{210, 400}, {240, 260}, {300, 500}};
        const auto proposal = propose_limit(rule, apart, 10, "L");
        QVERIFY(proposal.rule);
        const WatchCondition& c = proposal.rule->conditions[0];
        QVERIFY(c.value > 240 && c.value < 300 && *c.clear >= c.value);
        const auto mixed =
            propose_limit(rule, std::vector<MarkExtremes>{{210, 400}, {320, 330}, {300, 500}}, 10, "L");
        QVERIFY(!mixed.rule && mixed.why.find("No limit") != std::string::npos);
        QVERIFY(!propose_limit(rule, std::vector<MarkExtremes>(3, {no_number, no_number}), 10, "L").rule);
        rule.conditions[0].when = WatchWhen::above;
        rule.conditions[0].clear.reset();
        const auto above = propose_limit(rule, std::vector<MarkExtremes>{{0, 90}, {0, 80}, {0, 40}}, 1, "L");
        QVERIFY(above.rule && above.rule->conditions[0].value > 40 && above.rule->conditions[0].value < 80);
        rule.conditions[0].when = WatchWhen::silent;
        QVERIFY(!propose_limit(rule, apart, 10, "L").rule);
    }
    void calmerRulesStillSpeak() {
        WatchRule rule = below(250, 250);
        RuleTrial often;
        often.raised = 40;
        often.last = june + 7 * day_us;
        often.first = june;
        int tries = 0;
        const auto calm = calmer(rule, often, 5, [&](const WatchRule& r) {
            ++tries;
            RuleTrial out = often;
            out.raised = r.conditions[0].clear.value_or(0) < 260 ? 20 : r.count < 3 ? 8 : 2;
            return out;
        });
        QVERIFY(calm && tries > 1);
        QVERIFY(calm->count >= 3 && *calm->conditions[0].clear >= 260);
        QVERIFY(!calmer(rule, often, 5, [&](const WatchRule&) { return RuleTrial{}; })); // deaf is no mend
        often.raised = 3;
        QVERIFY(!calmer(rule, often, 5, [&](const WatchRule&) { return RuleTrial{}; })); // calm enough
    }

    void namedBands() {
        Reading flue = described("temperature", "degC");
        QVERIFY(!named_band(flue, 20));
        flue.bands = Bands{10, 30, 1};
        QCOMPARE(band_limits(flue), (std::vector<double>{10, 30}));
        flue.named_bands = {
            {"out", 60, WatchRank::note}, {"burns", 420, WatchRank::note}, {"too hot", 0, WatchRank::bad}};
        QCOMPARE(defect_of(flue.named_bands), std::string());
        QCOMPARE(band_limits(flue), (std::vector<double>{60, 420}));
        const std::pair<double, const char*> names[] = {
            {-40, "out"}, {60, "out"}, {60.1, "burns"}, {1e6, "too hot"}};
        for (const auto& [value, name] : names)
            QCOMPARE(named_band(flue, value)->name, std::string(name));
        QVERIFY(!named_band(flue, std::nan("")));
        StretchRules rules;
        rules.usual = second_us;
        rules.bands = flue.bands;
        rules.named_bands = flue.named_bands;
        StretchCounter counter(0, 100 * second_us, rules);
        for (int t = 0; t < 100; ++t)
            counter.take(t * second_us, t < 20 ? 15 : t < 50 ? 200 : 500, Cause::none);
        const StretchFigures figures = counter.finish();
        QCOMPARE(figures.bands.size(), std::size_t(3)); // the names, not low and high as well
        QCOMPARE(figures.bands[0].name, std::string("out"));
        CLOSE(figures.bands[0].seconds, 20, 1e-6);
        CLOSE(figures.bands[2].seconds, 50, 1e-6);
        const auto wrong = [&](const std::vector<NamedBand>& bands) { return !defect_of(bands).empty(); };
        QVERIFY(wrong({{"alone", 0, WatchRank::note}}));
        QVERIFY(wrong({{"", 10, WatchRank::note}, {"b", 0, WatchRank::note}}));
        QVERIFY(wrong({{"a", 10, WatchRank::note}, {"b", 10, WatchRank::note}, {"c", 0, WatchRank::note}}));
        QVERIFY(wrong({{"a", std::nan(""), WatchRank::note}, {"b", 0, WatchRank::note}}));
        QVERIFY(wrong(std::vector<NamedBand>(13, {"a", 1, WatchRank::note})));
        Bench bench = bench_of({flue});
        QVERIFY(change_unit(bench, bench.readings[0].id, "degF"));
        CLOSE(bench.readings[0].named_bands[0].to, 140, 1e-9);
    }
};

RUN_TESTS_OF(TestWatchWords)
#include "tst_watch_words.moc"
