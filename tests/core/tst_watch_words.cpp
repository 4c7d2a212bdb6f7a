// What rules say, when a person hears of it, what a kind of reading is offered, and what follows from a record.
#include "core/analyse/stretch.h"
#include "core/bench/unit_change.h"
#include "core/watch/keeper.h"
#include "core/watch/marked.h"
#include "core/watch/offers.h"
#include "core/watch/outlook.h"
#include "core/watch/rule_words.h"
#include "core/watch/teller.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

#include <cmath>
#include <map>
#include <numeric>
#include <random>

using namespace cognitum;
using test::june;
using test::plain;

namespace {

Reading described(const char* kind, const char* unit, double accuracy = 1) {
    Reading r;
    r.id = r.name = kind;
    r.quantity.kind = kind;
    r.quantity.unit = unit;
    r.quantity.accuracy = accuracy;
    r.quantity.interval_s = 60;
    return r;
}

Bench bench_of(std::vector<Reading> readings) {
    Bench out;
    out.readings = std::move(readings);
    return out;
}

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

WatchCondition looks_at(const char* reading, WatchWhen when, double value = 0) {
    WatchCondition out;
    out.reading = reading;
    out.when = when;
    out.value = value;
    return out;
}

/// A value each `step` over `days`.
HourlyRecord record_of(double days, TimeUs step, const std::function<double(TimeUs)>& value) {
    HourCounter counter;
    for (TimeUs t = 0; t < from_seconds(days * 86400); t += step)
        counter.take(june + t, value(t));
    return counter.finish();
}

const RuleOffer* offer(const std::vector<RuleOffer>& offers, const char* name) {
    for (const RuleOffer& o : offers)
        if (o.rule.name == name) return &o;
    return nullptr;
}

bool any_line(const Outlook& outlook, const char* part) {
    return std::any_of(outlook.lines.begin(), outlook.lines.end(),
                       [&](const std::string& line) { return plain(line).find(part) != std::string::npos; });
}

std::string all_lines(const Outlook& outlook) {
    std::string out;
    for (const std::string& line : outlook.lines)
        out += plain(line) + " | ";
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

    void aChangeOfUnitTakesBandAndRulesAlong() {
        Bench bench = bench_of({described("temperature", "degC")});
        bench.readings[0].bands = Bands{0, 25, 1};
        WatchRule rule = below(10, 15, "temperature");
        rule.conditions.push_back(looks_at("temperature", WatchWhen::rises, 5));
        rule.conditions[1].over_s = 3600;
        rule.conditions[1].hysteresis = 2;
        rule.conditions.push_back(looks_at("temperature", WatchWhen::silent, 600));
        bench.watch_rules = {rule};
        const Bench before = bench;
        QVERIFY(!change_unit(bench, "temperature", "L"));
        QVERIFY(!change_unit(bench, "nobody", "degF"));
        QVERIFY(bench == before);
        QVERIFY(change_unit(bench, "temperature", "degF"));
        CLOSE(bench.readings[0].bands->high, 77.0, 1e-9);
        CLOSE(bench.readings[0].bands->hysteresis, 1.8, 1e-9);
        const WatchRule& there = bench.watch_rules[0];
        CLOSE(there.conditions[0].value, 50.0, 1e-9);
        CLOSE(*there.conditions[0].clear, 59.0, 1e-9);
        CLOSE(there.conditions[1].value, 9.0, 1e-9); // a rate has no zero
        CLOSE(there.conditions[1].hysteresis, 3.6, 1e-9);
        QCOMPARE(there.conditions[2].value, 600.0);
        QVERIFY(defect_of(there).empty());
        bench.readings[0].correction.emplace(); // a calibration holds in its own unit
        QVERIFY(!change_unit(bench, "temperature", "K"));
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

    /// Steps of 1, 2 and 5 at the hint's size. Run again where the desktop has a decimal comma.
    void limitsAreRoundForAPerson() {
        CLOSE(round_for_person(17.26, 0.5), 17.5, 1e-12);
        CLOSE(round_for_person(0.1234, 0.01), 0.12, 1e-12);
        CLOSE(round_for_person(-3.1416, 0.2), -3.2, 1e-12);
        CLOSE(round_for_person(1234.5, 90), 1200, 1e-12);
        CLOSE(round_for_person(0.7, 0), 0.7, 0); // no hint, no rounding
        CLOSE(round_for_person(0.30000000000000004, 0.1), 0.3, 0);
    }

    /// Each kind gets rules without a defect, with and without a record, and none twice.
    void everyKindIsOfferedSoundRules() {
        std::mt19937 random(4);
        for (const QuantityKind& kind : quantity_kinds())
            for (const std::string& unit : kind.units)
                for (const bool recorded : {false, true}) {
                    Reading r = described(kind.id.c_str(), unit.c_str());
                    r.quantity.low = kind.low;
                    r.quantity.high = kind.high;
                    Bench bench = bench_of({r, described("humidity", "%")});
                    if (kind.id == "humidity") bench.readings.pop_back();
                    HourlyRecord record;
                    if (recorded)
                        record = record_of(20, 5 * minute_us, [&](TimeUs) {
                            return kind.low + (kind.high - kind.low) * static_cast<double>(random() % 1000) / 1000;
                        });
                    const auto offers = rule_offers(bench, r, record, 0.1, {});
                    QVERIFY2(!offers.empty(), kind.id.c_str());
                    for (const RuleOffer& o : offers) {
                        QVERIFY2(defect_of(o.rule).empty(), (kind.id + ": " + o.rule.name).c_str());
                        QVERIFY(!o.why.empty() && o.rule.reading() == r.id);
                        bench.watch_rules.push_back(o.rule);
                    }
                    QVERIFY(rule_offers(bench, r, record, 0.1, {}).empty());
                    QVERIFY(defect_of(first_rule(r, record)).empty());
                }
    }
    void aLeakIsAboveWhatNightsDo() {
        Reading tank = described("volume", "L", 10);
        tank.quantity.high = 1500;
        std::mt19937 random(7);
        std::normal_distribution<double> normal(0, 0.5);
        // 30 L a day by day, the walls breathe 1 L at night, ± 0.5 L of noise.
        const auto litres = [&](TimeUs t) {
            const double day = seconds(t) / 86400;
            const double hour = 24 * (day - std::floor(day));
            const double drawn = 30 * (std::floor(day) + std::clamp((hour - 7) / 14, 0.0, 1.0));
            return 1400 - drawn + std::cos(2 * M_PI * (hour - 14) / 24) + normal(random);
        };
        const HourlyRecord record = record_of(20, 3 * minute_us, litres);
        const auto offers = rule_offers(bench_of({tank}), tank, record, 5, {});
        const RuleOffer* leak = offer(offers, "A leak");
        QVERIFY(leak);
        const double limit = leak->rule.conditions[0].value;
        QVERIFY2(limit > 0.2 && limit < 4, qPrintable(QString::number(limit)));
        QVERIFY(leak->rule.hours.holds(120) && !leak->rule.hours.holds(600));
        QCOMPARE(offer(offers, "Nearly empty")->rule.conditions[0].value, 220.0); // 15 % of 1 500, as one writes it
        const Outlook outlook = cognitum::outlook(tank, record, 5, record.last, {});
        QVERIFY2(any_line(outlook, "Draws 3"), all_lines(outlook).c_str());
        QVERIFY2(outlook.headline.find("empty in") == 0, outlook.headline.c_str());
        const DailyUse use = daily_use(record, 14, record.last, {});
        CLOSE(use.used, 30.0, 2.5);
        QVERIFY(use.days >= 13);
    }
    void rainByHourDayAndMonth() {
        const Reading rain = described("rain", "mm", 0.5);
        // 0.2 mm every minute from 10:00 to 11:00 of the last day, and 5 mm ten days before.
        const auto total = [](TimeUs t) {
            const double before = t > 5 * day_us ? 5 : 0;
            const TimeUs wet = std::clamp<TimeUs>(t - (14 * day_us + 10 * hour_us), 0, hour_us);
            return 100 + before + 0.2 * std::floor(seconds(wet) / 60);
        };
        const HourlyRecord record = record_of(14 + 11.0 / 24, minute_us, total);
        const Outlook now = outlook(rain, record, 0.1, record.last, {});
        QVERIFY2(any_line(now, "11.8 mm today"), all_lines(now).c_str());
        QVERIFY2(any_line(now, "16.8 mm this month"), all_lines(now).c_str());
        QVERIFY2(any_line(now, "This rain: 11.8 mm since 10:00"), all_lines(now).c_str());
    }
    void aBedThatWasWatered() {
        const Reading bed = described("soil-moisture", "%", 30);
        const auto moisture = [](TimeUs t) { // dries by 6 % a day; watered at 06:00 of the last day
            return 60 - 6 * seconds(t) / 86400 + (t >= 6 * day_us + 6 * hour_us ? 20 : 0);
        };
        const HourlyRecord record = record_of(6.6, 5 * minute_us, moisture);
        const Outlook now = outlook(bed, record, 15, record.last, {});
        QVERIFY2(any_line(now, "rained on, 8"), all_lines(now).c_str());
        // Nobody watered it: nothing is said of when.
        const Outlook dry =
            outlook(bed, record_of(30, 5 * minute_us, [](TimeUs t) { return 60 - seconds(t) / 86400; }), 15,
                    june + 30 * day_us, {});
        QVERIFY2(!any_line(dry, "rained on"), all_lines(dry).c_str());
        QVERIFY2(any_line(dry, "It dries by"), all_lines(dry).c_str());
    }
    void degreeDaysAreOfWholeDays() {
        const Reading air = described("temperature", "degC");
        const HourlyRecord whole = record_of(
            10, 10 * minute_us, [](TimeUs t) { return 15 + 5 * std::sin(2 * M_PI * seconds(t) / 86400); });
        QVERIFY2(any_line(outlook(air, whole, 1, whole.last, {}), "50 growing degree days"),
                 all_lines(outlook(air, whole, 1, whole.last, {})).c_str());
        HourCounter drives; // two hours a day say nothing of a day's extremes
        for (int day = 0; day < 20; ++day)
            for (int i = 0; i < 12; ++i)
                drives.take(june + day * day_us + i * 10 * minute_us, 30);
        const HourlyRecord parts = drives.finish();
        QVERIFY(!any_line(outlook(air, parts, 1, parts.last, {}), "growing"));
    }
    void pressureInThreeHours() {
        const Reading air = described("pressure", "hPa", 1);
        const HourlyRecord record =
            record_of(2, minute_us, [](TimeUs t) { return 1020 - 1.4 * seconds(t) / 3600; });
        const Outlook now = outlook(air, record, 0.5, record.last, {});
        QVERIFY2(any_line(now, "falling quickly"), all_lines(now).c_str());
        const auto offers = rule_offers(bench_of({air}), air, record, 0.5, {});
        QVERIFY(offer(offers, "Falls quickly"));
        CLOSE(offer(offers, "Falls quickly")->rule.conditions[0].value, 1.2, 1e-9);
    }
    void dewAndTheAirBesideIt() {
        const Reading damp = described("humidity", "%", 3);
        Reading air = described("temperature", "degC");
        air.name = "Hut air";
        const HourlyRecord wet = record_of(2, minute_us, [](TimeUs) { return 80.0; });
        const HourlyRecord warm = record_of(2, minute_us, [](TimeUs) { return 20.0; });
        const Neighbour beside{air, warm};
        // 20 °C and 80 %: the dew point is 16.4 °C (Magnus form of WMO-No. 8).
        const Outlook now = outlook(damp, wet, 3, wet.last, {}, &beside);
        QVERIFY2(any_line(now, "Dew point 16.4 ± 0.6 °C, 3.6 K below Hut air"), all_lines(now).c_str());
        QVERIFY(!any_line(now, "within 1 K"));
        const HourlyRecord wetter = record_of(2, minute_us, [](TimeUs) { return 96.0; });
        const Outlook foggy = outlook(damp, wetter, 3, wetter.last, {}, &beside);
        QVERIFY2(any_line(foggy, "24 of the last 24 hours within 1 K"), all_lines(foggy).c_str());
        QVERIFY(!any_line(outlook(damp, wet, 3, wet.last, {}), "Dew"));
        // Which air: of the same part before the same place before the same board, and never a pool's water.
        Bench bench = bench_of({damp, air});
        bench.readings[1].id = "air";
        QVERIFY(!air_beside(bench, bench.readings[0]));
        bench.readings[0].wiring.board = bench.readings[1].wiring.board = "shed";
        QCOMPARE(air_beside(bench, bench.readings[0])->id, std::string("air"));
        bench.readings[1].quantity.around.water = true;
        QVERIFY(!air_beside(bench, bench.readings[0]));
        QVERIFY(!air_beside(bench, bench.readings[1]));
    }
    void whatATyreLosesBetweenDrives() {
        Reading tyre = described("pressure", "kPa", 5);
        const auto driven = [](double a_day) { // half an hour every second day
            HourCounter counter;
            for (int drive = 0; drive < 14; ++drive)
                for (int i = 0; i < 10; ++i)
                    counter.take(june + drive * 2 * day_us + i * 3 * minute_us,
                                 230 - a_day * 2 * drive + (drive % 2 ? 0.4 : -0.4));
            return counter.finish();
        };
        const HourlyRecord leaks = driven(0.5);
        const Outlook slow = outlook(tyre, leaks, 5, leaks.last, {});
        QVERIFY2(any_line(slow, "Between drives it loses 3.5 ±"), all_lines(slow).c_str());
        QVERIFY2(any_line(slow, "of 14 drives"), all_lines(slow).c_str());
        QVERIFY2(any_line(slow, "as it was measured"), all_lines(slow).c_str());
        tyre.path.stages = {GasAt{}};
        const HourlyRecord tight = driven(0);
        const Outlook holds = outlook(tyre, tight, 5, tight.last, {});
        QVERIFY2(any_line(holds, "Between 14 drives it holds, at one temperature"), all_lines(holds).c_str());
    }
    void nothingIsSaidOfWhatIsGone() {
        const Reading tank = described("volume", "L", 10);
        const HourlyRecord record = record_of(20, 5 * minute_us, [](TimeUs t) { return 1000 - seconds(t) / 3600; });
        const Outlook late = outlook(tank, record, 5, record.last + day_us, {});
        QVERIFY(late.headline.empty());
        QVERIFY2(any_line(late, "not known"), all_lines(late).c_str());
        QVERIFY(outlook(tank, {}, 5, june, {}).lines.empty());
    }
    void aSilenceFitsThePartsOwnWay() {
        Reading tyre = described("pressure", "kPa", 5);
        tyre.quantity.interval_s = 180;
        // On the road every three minutes, parked for days.
        HourCounter counter;
        for (int drive = 0; drive < 40; ++drive)
            for (int i = 0; i < 60; ++i)
                counter.take(june + drive * 2 * day_us + i * 3 * minute_us, 220);
        const HourlyRecord record = counter.finish();
        QVERIFY(record.long_gap > day_us);
        const auto offers = rule_offers(bench_of({tyre}), tyre, record, 3, {});
        QVERIFY(offer(offers, "No word")->rule.conditions[0].value > 2 * 86400); // parked is not silent
    }
    void hoursAreThoseOfTheRecord() {
        std::mt19937 random(9);
        HourCounter counter;
        std::map<TimeUs, std::vector<double>> obvious;
        for (TimeUs t = 0; t < 50 * hour_us; t += (1 + static_cast<TimeUs>(random() % 600)) * second_us) {
            const double v = random() % 7 == 0 ? no_number : static_cast<double>(random() % 100);
            counter.take(june + t, v);
            if (std::isfinite(v)) obvious[t / hour_us].push_back(v);
        }
        const HourlyRecord record = counter.finish();
        QCOMPARE(record.hours.size(), obvious.size());
        std::size_t i = 0;
        for (const auto& [hour, values] : obvious) {
            const HourFigures& h = record.hours[i++];
            QCOMPARE(h.from, june + hour * hour_us);
            QCOMPARE(h.n, values.size());
            QCOMPARE(h.low, *std::min_element(values.begin(), values.end()));
            QCOMPARE(h.high, *std::max_element(values.begin(), values.end()));
            QCOMPARE(h.last, values.back());
            CLOSE(h.mean(), std::accumulate(values.begin(), values.end(), 0.0) / double(values.size()), 1e-9);
        }
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
