// When a load is on: the judge against a slow and obvious model, its limits one by one, and what it would have done
// on a record with the load's own light and water in it.
#include "demo/loads.h"
#include "demo/station_boards.h"
#include "support/garden.h"
#include "support/run_tests.h"
#include "support/times.h"

#include <random>

using namespace cognitum;
using test::sec;

namespace {

using test::Bed;
using test::garden;
using test::looks;

/// The same in a loop over seconds, from the words of docs/acting.md.
struct Obvious {
    explicit Obvious(const LoadControl& control) : c(control) {}
    const LoadControl& c;
    bool on = false;
    double since = -1e6, rests_until = -1e6, now = 0; ///< s
    std::optional<double> wet_at, litres_at;          ///< of the last values
    bool dry = false, low = false;
    void second(double t, std::optional<double> wet, std::optional<double> litres) {
        now = t;
        decide(); // what the clock does comes before the line
        if (wet && !std::isnan(*wet)) {
            wet_at = t;
            if (*wet < 25) dry = true;
            if (*wet >= 40) dry = false;
        }
        if (wet) decide();
        if (litres && !std::isnan(*litres)) {
            litres_at = t;
            if (*litres < 250) low = true;
            if (*litres >= 300) low = false;
        }
        if (litres) decide();
    }
    void decide() {
        const double gone = std::ceil(c.value_within_s);
        const bool knows_bed = wet_at && now - *wet_at < gone;
        const bool knows_cistern = litres_at && now - *litres_at < gone;
        bool wish = dry;
        bool at_once = false;
        if (!knows_bed) wish = c.safe_on, at_once = true;
        if (!c.never_while.empty() && (low || !knows_cistern)) wish = false, at_once = true;
        if (on && c.longest_on_s > 0 && now - since >= c.longest_on_s) {
            on = false;
            since = now;
            rests_until = now + c.rest_s;
        } else if (on && !wish && (at_once || now - since >= c.least_on_s)) {
            on = false;
            since = now;
        } else if (!on && wish && now >= rests_until && now - since >= c.least_off_s) {
            on = true;
            since = now;
        }
    }
};

LoadTrial tried(const Bench& bench, const std::function<double(const std::string&, int)>& recorded, int seconds,
                bool with_effects = true) {
    const LoadControl& control = bench.controls[0];
    const WatchRule& rule = bench.watch_rules[0];
    const auto readings = trial_readings(control, rule);
    LoadTrialRun run(control, rule, bench, readings, {}, {}, with_effects);
    for (int t = 1; t <= seconds; ++t)
        for (std::size_t i = 0; i < readings.size(); ++i)
            run.take(static_cast<int>(i), t * sec, recorded(readings[i], t));
    return run.finish();
}

} // namespace

class TestAct : public QObject {
    Q_OBJECT

  private slots:
    void likeTheObviousModel() {
        std::mt19937 random(20261128);
        const auto upto = [&](int n) { return static_cast<double>(random() % static_cast<unsigned>(n + 1)); };
        int switched = 0;
        for (int round = 0; round < 3000; ++round) {
            Bench bench = garden();
            LoadControl& c = bench.controls[0];
            c.least_on_s = upto(20);
            c.least_off_s = upto(20);
            c.longest_on_s = random() % 2 ? c.least_on_s + 1 + upto(30) : 0;
            c.rest_s = c.longest_on_s > 0 ? upto(40) : 0;
            c.safe_on = random() % 4 == 0;
            c.value_within_s = 5 + upto(10) - 1e-6; // gone at a whole second
            if (random() % 2) c.never_while = {looks("cistern", WatchWhen::below, 250, 300)};
            QCOMPARE(defect_of(c), std::string());
            Bed fast(bench);
            Obvious slow(c);
            double wet = 30;
            double litres = 320;
            for (int t = 1; t <= 300; ++t) {
                wet += upto(16) - 8;
                litres += upto(40) - 20;
                const bool line = random() % 5 < 3;
                const bool fails = random() % 9 == 0;
                fast.pass(t);
                if (line) fast.at(t, fails ? std::nan("") : wet, litres);
                slow.second(t, line ? std::optional(fails ? std::nan("") : wet) : std::nullopt,
                            line ? std::optional(litres) : std::nullopt);
                QVERIFY2(fast.judge.on() == slow.on,
                         qPrintable(QStringLiteral("round %1, second %2").arg(round).arg(t)));
                switched += static_cast<int>(fast.events.size());
                fast.events.clear();
            }
        }
        QVERIFY(switched > 10000);
    }
    void theClockAloneActsAtItsTime() {
        Bench bench = garden();
        bench.controls[0].longest_on_s = 20;
        bench.controls[0].rest_s = 30;
        Bed bed(bench);
        bed.at(1, 20);
        for (int t = 2; t <= 9; ++t)
            bed.at(t, 20);
        bed.at(16, 20); // 7 s without a line: still known
        bed.at(60, 20); // it ended in between, first by the silence
        QCOMPARE(bed.said(), (QStringList{"1 on: “Dry” holds", "21 off: its longest run of 20 s is over",
                                          "60 on: “Dry” holds"}));
        bed.pass(200);
        QCOMPARE(bed.said(), QStringList{"70 off: bed says nothing"});
    }
    void whatKeepsItOffBeatsAHand() {
        Bench bench = garden();
        bench.controls[0].never_while = {looks("cistern", WatchWhen::below, 250, 300)};
        bench.controls[0].least_on_s = 600;
        Bed bed(bench);
        bed.line("bed", 1, 20); // of the cistern nobody knows anything yet
        QVERIFY(!bed.judge.on());
        QCOMPARE(bed.judge.wish().cause, LoadCause::no_value);
        bed.at(2, 20, 260);
        QVERIFY(bed.judge.on());
        bed.at(3, 20, 249); // its least time on waits for no level
        QVERIFY(!bed.judge.on());
        bed.judge.hand(true, 3600 * sec, 4 * sec, bed.events);
        QVERIFY(!bed.judge.on());
        bed.at(5, 20, 299);
        QVERIFY(!bed.judge.on());
        bed.at(6, 50, 301); // the bed is wet, and the hand says on
        QVERIFY(bed.judge.on());
        QCOMPARE(bed.said(),
                 (QStringList{"2 on: “Dry” holds",
                              "3 off: cistern below 250 L, back above 300 L, or nearer to that than its doubt",
                              "6 on: by hand"}));
        bed.judge.hand(false, 3600 * sec, 7 * sec, bed.events); // and goes off at once
        QVERIFY(!bed.judge.on());
        bed.at(3601, 20, 900);
        QCOMPARE(bed.said(), (QStringList{"7 off: by hand", "3601 on: “Dry” holds"}));
    }
    /// Outside a rule's hours, and while its *while* does not hold, nobody looks: then it is off, not as it was.
    void hoursAndGatesEndIt() {
        Bench bench = garden();
        bench.watch_rules[0].hours = {0, 60};
        Bed bed(bench);
        for (int t = 3500; t <= 3700; t += 5)
            bed.at(t, 20);
        QCOMPARE(bed.said(), (QStringList{"3500 on: “Dry” holds", "3600 off: “Dry” does not hold"}));
        bench.watch_rules[0].hours = {};
        WatchCondition full = looks("cistern", WatchWhen::above, 500);
        full.join = WatchJoin::only;
        bench.watch_rules[0].conditions.push_back(full);
        Bed gated(bench);
        for (int t = 1; t <= 60; ++t)
            gated.at(t, 20, t < 30 ? 900 : 400);
        QCOMPARE(gated.said(), (QStringList{"2 on: “Dry” holds", "30 off: “Dry” does not hold"}));
    }
    void aClockThatIsSetBack() {
        Bench bench = garden();
        bench.controls[0].longest_on_s = 100;
        Bed bed(bench);
        bed.at(10000, 20);
        for (int t = 10001; t < 10050; ++t)
            bed.at(t, 20);
        bed.at(6450, 20); // an hour back: it has been on for 50 s, as before
        for (int t = 6451; t < 6510; ++t)
            bed.at(t, 20);
        const QStringList said = bed.said();
        QCOMPARE(said.size(), 3);
        QVERIFY2(said[1].startsWith("6501 off: its longest run") || said[1].startsWith("6500 off"),
                 qPrintable(said[1]));
    }
    void theLampThatLightsItsOwnSensor() {
        Bench bench = garden();
        bench.watch_rules[0].conditions = {looks("light", WatchWhen::below, 50, 80)};
        bench.controls[0].load = "pump";
        bench.controls[0].effects = {{"light", 120, 0}};
        const auto dusk = [](const std::string&, int t) { return std::max(0.0, 200.0 - 0.2 * t); };
        const LoadTrial sees_itself = tried(bench, dusk, 2000);
        const LoadTrial screened = tried(bench, dusk, 2000, false);
        QCOMPARE(screened.runs, std::uint64_t(1));
        QVERIFY(sees_itself.runs > 100);
        LoadTrial both = sees_itself;
        both.runs_without = screened.runs;
        QVERIFY(answers_itself(both));
        const auto warns = trial_warns(bench.controls[0], both, bench);
        QVERIFY(!warns.empty());
        QVERIFY2(test::plain(warns[0]).find("answers itself") != std::string::npos, warns[0].c_str());
        // A way back beyond what the lamp adds, and it stays on.
        bench.watch_rules[0].conditions[0].clear = 200;
        LoadTrial wide = tried(bench, dusk, 2000);
        wide.runs_without = 1;
        QCOMPARE(wide.runs, std::uint64_t(1));
        QVERIFY(!answers_itself(wide));
    }
    void thePumpThatRunsDry() {
        Bench bench = garden();
        bench.controls[0].effects = {{"cistern", 0, -3600}, {"bed", 0, 36}}; // a litre and 0.01 % a second
        // It pumps from 300 L for as long as the bed takes, 2 000 s.
        const auto recorded = [](const std::string& id, int) { return id == "bed" ? 20.0 : 300.0; };
        const LoadTrial dry = tried(bench, recorded, 3000);
        QCOMPARE(dry.runs, std::uint64_t(1));
        CLOSE(seconds(dry.on), 2000, 3);
        QCOMPARE(dry.dry_runs, std::uint64_t(1));
        CLOSE(seconds(dry.dry), 1700, 3);
        CLOSE(seconds(dry.dry_first), 301, 2);
        QCOMPARE(dry.dry_reading, std::string("cistern"));
        const auto warns = trial_warns(bench.controls[0], dry, bench);
        QVERIFY(!warns.empty() && test::plain(warns[0]).find("Bed pump runs dry") == 0);
        QVERIFY2(warns[0].find("1970-01-01 00:05 UTC") != std::string::npos, warns[0].c_str());
        bench.controls[0].never_while = {looks("cistern", WatchWhen::below, 250, 300)};
        const LoadTrial guarded = tried(bench, recorded, 3000);
        QCOMPARE(guarded.dry_runs, std::uint64_t(0));
        CLOSE(seconds(guarded.on), 51, 2);
        QCOMPARE(guarded.ends[static_cast<std::size_t>(LoadCause::kept_off)], std::uint64_t(1));
        QVERIFY(trial_warns(bench.controls[0], guarded, bench).empty());
    }
    /// What it pumped goes with what was there: the bed dries from 20 % to 10 %, and of the 20 % that it added half
    /// is left. So it is too dry again (25 %) once 12.5 % were recorded, not never.
    void whatItAddedIsUsedUp() {
        Bench bench = garden();
        bench.controls[0].effects = {{"bed", 0, 36}};
        const auto dries = [](double from, double to, int t) { return std::max(to, from - 0.01 * t); };
        const auto slowly = [&](const std::string& id, int t) {
            return id != "bed" ? 300.0 : t < 2100 ? 20.0 : dries(20, 10, t - 2100);
        };
        const LoadTrial again = tried(bench, slowly, 3200);
        QCOMPARE(again.runs, std::uint64_t(2));
        CLOSE(20 - 0.01 * (seconds(again.events[2].time) - 2100), 12.5, 1.2);
        // Rain comes in between and goes by itself: half of 40 % is half of what was added, too.
        const auto rain = [&](const std::string& id, int t) {
            return id != "bed" ? 300.0 : t < 2100 ? 20.0 : t < 2200 ? 40.0 : dries(40, 13, t - 2200);
        };
        QCOMPARE(tried(bench, rain, 5000).runs, std::uint64_t(2));
        // It falls and rises by less than noise: nothing is used up.
        const auto trembles = [&](const std::string& id, int t) {
            return id != "bed" ? 300.0 : t < 2100 ? 20.0 : t % 2 ? 19.0 : 21.0;
        };
        QCOMPARE(tried(bench, trembles, 5000).runs, std::uint64_t(1));
    }
    void runsThatNobodySees() {
        Bench bench = garden();
        bench.readings[0].quantity.interval_s = 10; // three and one more: 31 s
        bench.readings[0].quantity.stale_s = 400;
        const auto dies = [](const std::string&, int t) { return t < 100 ? 20.0 : std::nan(""); };
        const LoadTrial blind = tried(bench, dies, 1000);
        CLOSE(seconds(blind.blind), 400 - 31, 2);
        QCOMPARE(blind.ends[static_cast<std::size_t>(LoadCause::no_value)], std::uint64_t(1));
        QVERIFY(!trial_warns(bench.controls[0], blind, bench).empty());
        bench.controls[0].value_within_s = 40;
        QVERIFY(trial_warns(bench.controls[0], tried(bench, dies, 1000), bench).empty());
    }
    /// The simulated boards do what they are told, and stop by themselves.
    void simulatedLoads() {
        demo::Loads loads;
        for (const char* wrong :
             {"", "pump", " on", "pump on -1", "pump on 1e9", "pump on x", "pump maybe", "pump on 5 s"})
            QVERIFY2(!loads.change(wrong, 0), wrong);
        QVERIFY(loads.change("pump on 60", 0));
        QVERIFY(loads.on("pump", 59 * sec) && !loads.on("pump", 60 * sec) && !loads.on("lamp", 0));
        QVERIFY(loads.change("pump on 60", 40 * sec)); // told again
        QVERIFY(loads.on("pump", 99 * sec));
        QVERIFY(loads.change("pump off", 80 * sec));
        CLOSE(loads.on_for_s("pump", 200 * sec), 80, 1e-9);
        QVERIFY(loads.change("pump on", 100 * sec) &&
                loads.on("pump", 100000 * sec)); // nobody asked for a time-out
        CLOSE(loads.on_for_s("pump", 110 * sec), 90, 1e-9);
        QCOMPARE(loads.text(110 * sec), std::string("pump"));
    }
    /// A clock that is set back by an hour makes no run longer, no rest shorter, and no value older.
    void theClockIsSetBack() {
        Bench bench = garden();
        bench.controls[0].longest_on_s = 60;
        bench.controls[0].rest_s = 100;
        Bed bed(bench);
        bed.at(4000, 20);
        QCOMPARE(bed.said(), QStringList{"4000 on: “Dry” holds"});
        bed.at(4008, 20);
        bed.pass(408); // an hour back
        bed.pass(416);
        const QStringList quiet = bed.said();
        QVERIFY2(quiet.isEmpty(),
                 qPrintable(quiet.join("; "))); // the value is eight seconds old, and holds for ten
        for (int second = 417; second <= 470; ++second)
            bed.at(second, 20);
        QCOMPARE(bed.said(), QStringList{"460 off: its longest run of 60 s is over"});
        for (int second = 471; second <= 700; ++second)
            bed.at(second, 20);
        QCOMPARE(bed.said(), (QStringList{"560 on: “Dry” holds", "620 off: its longest run of 60 s is over"}));
        Bed silent(bench);
        silent.at(4000, 20);
        silent.pass(400);
        silent.pass(411);
        QCOMPARE(silent.said(), (QStringList{"4000 on: “Dry” holds", "410 off: bed says nothing"}));
    }
    /// The lamp of Whelk Point, with its sensor screened and not, over an evening: lines in, commands out.
    void theLampAtTheJetty() {
        const auto bench = load_bench_json(data_folder() + "/demo/whelk-point.json");
        QVERIFY(bench);
        const auto switched = [&](bool unscreened) {
            constexpr TimeUs noon = 1795608000LL * sec; // 2026-11-25T12:00:00Z
            demo::PumpHouseBoard board({}, noon);
            if (unscreened) board.command("screen off", noon);
            LoadKeeper keeper;
            std::vector<ControlEvent> events;
            Bench plan = *bench;
            plan.control("light-the-jetty")->least_on_s = 0; // its sight alone
            plan.watch_rule("dusk")->for_s = 0;
            plan.watch_rule("dusk")->conditions[0].clear = 80;
            keeper.set_plan(plan, {}, noon, events);
            int on = 0;
            for (TimeUs t = noon; t < noon + 12 * hour_us; t += 10 * sec) {
                keeper.take("daylight", t, board.measure_light(t), events);
                keeper.pass(t, events);
                for (const ControlEvent& e : events)
                    on += e.event.on;
                events.clear();
                for (const std::string& id : keeper.controls())
                    board.command(load_line(*bench->control(id), keeper.judge(id)->on()), t);
            }
            return on;
        };
        QCOMPARE(switched(false), 1);
        QVERIFY2(switched(true) > 20, qPrintable(QString::number(switched(true)))); // its own light ends the dusk
    }
    /// Time on, and the longest run of it, as its events tell them; also when it is on at the end.
    void aTrialAddsUpItsRuns() {
        std::mt19937 random(20261129);
        int open_ends = 0;
        for (int round = 0; round < 50; ++round) {
            double wet = 30;
            const LoadTrial trial = tried(
                garden(),
                [&](const std::string& id, int) {
                    if (id == "bed") wet = std::clamp(wet + static_cast<double>(random() % 17) - 8, 10.0, 60.0);
                    return id == "bed" ? wet : 320;
                },
                400, false);
            TimeUs on = 0, longest = 0, since = 0;
            std::uint64_t runs = 0;
            const auto end_at = [&](TimeUs t) {
                on += t - since;
                longest = std::max(longest, t - since);
            };
            bool is_on = false;
            for (const LoadEvent& e : trial.events) {
                if (e.on == is_on) continue;
                is_on = e.on;
                if (is_on) {
                    since = e.time;
                    ++runs;
                } else {
                    end_at(e.time);
                }
            }
            if (is_on) end_at(trial.last);
            open_ends += is_on;
            QCOMPARE(trial.on, on);
            QCOMPARE(trial.longest, longest);
            QCOMPARE(trial.runs, runs);
            QCOMPARE(trial.goes_on, is_on);
        }
        QVERIFY(open_ends > 5 && open_ends < 45);
    }
    void whatItSays() {
        Bench bench = garden();
        LoadControl& c = bench.controls[0];
        c.least_on_s = 120;
        c.longest_on_s = 1200;
        c.rest_s = 1800;
        c.never_while = {looks("cistern", WatchWhen::below, 250)};
        QCOMPARE(test::plain(follows_says(c, bench)),
                 std::string("on while “Dry” holds: bed below 25 %, back above 40 %"));
        std::string all;
        for (const std::string& line : limits_say(c, bench))
            all += test::plain(line) + "|";
        QCOMPARE(all, std::string("on for at least 2 min, on for at most 20 min, then off for 30 min|"
                                  "never while cistern below 250 L|off while bed says nothing|"
                                  "goes off by itself 60 s after it was told last|"));
        QCOMPARE(test::plain(load_event_says(c, {"bed"}, {0, true, LoadCause::rule_holds, -1}, bench)),
                 std::string("Bed pump is on: “Dry” holds."));
        QVERIFY(trial_says(c, LoadTrial{}, bench).find("no record") != std::string::npos);
    }
};

RUN_TESTS_OF(TestAct)
#include "tst_act.moc"
