// Watch rules of several conditions and boards, at certain hours, with clocks that are set; and contradictions in
// them.
#include "core/act/load_judge.h"
#include "core/watch/judge.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/watch_rules.h"
#include "support/watched_readings.h"

#include <cmath>
#include <fmt/format.h>

using namespace cognitum;
using test::each_second, test::looking, test::said_of, test::sec, test::watch;

class TestWatchTogether : public QObject {
    Q_OBJECT

  private slots:
    /// What keeps a load off must be known not to hold: its limits come nearer by the doubt, and no band is closed
    /// by that.
    void aDoubtMovesLimitsInwards() {
        const auto limits = [](WatchWhen when, double doubt) {
            WatchCondition c = test::looks_at("temperature", when, 10);
            c.clear = 12;
            c.upper = 20;
            c.hysteresis = 1;
            c.corridor = {{1, 4, 8}, {3, 5, 6}};
            c = careful(c, doubt);
            return fmt::format("{} {} {}; {} {}, {} {}", c.value, *c.clear, c.upper, c.corridor[0].low,
                               c.corridor[0].high, c.corridor[1].low, c.corridor[1].high);
        };
        const std::string as_it_was = "10 12 20; 4 8, 5 6";
        for (const double doubt : {0.0, -1.0, std::nan("")})
            QCOMPARE(limits(WatchWhen::above, doubt), as_it_was);
        QCOMPARE(limits(WatchWhen::above, 0.5), std::string("9.5 11.5 20; 4.5 7.5, 5 6"));
        QCOMPARE(limits(WatchWhen::below, 0.5), std::string("10.5 12.5 20; 4.5 7.5, 5 6"));
        QCOMPARE(limits(WatchWhen::outside, 0.5), std::string("10.5 12 19.5; 4.5 7.5, 5 6"));
        QCOMPARE(limits(WatchWhen::rises, 0.5), std::string("10 12 20; 4.5 7.5, 5 6"));
        // A band of 10 is left by a doubt of 4, with a hysteresis of 1 on either side, and one of 4 by a doubt
        // of 1.
        QCOMPARE(limits(WatchWhen::outside, 4), std::string("10 12 20; 4 8, 5 6"));
        QCOMPARE(limits(WatchWhen::outside, 3.9), std::string("13.9 12 16.1; 4 8, 5 6"));
        QCOMPARE(limits(WatchWhen::outside, 1), std::string("11 12 19; 4 8, 5 6"));
    }
    void joinedByAndOrWhile() {
        // 0 is the level, 1 the pump.
        const auto two = [](WatchJoin join) {
            WatchRule rule = watch({looking(WatchWhen::below, 250), looking(WatchWhen::above, 0.5)});
            rule.conditions[1].reading = "pump";
            rule.conditions[1].join = join;
            ConditionAbout level, pump;
            pump.reading = 1;
            pump.gone = level.gone = 10 * sec;
            return RuleJudge(rule, {level, pump});
        };
        struct Line {
            int reading;
            double value;
        };
        const auto play = [&](RuleJudge judge, const std::vector<Line>& lines, TimeUs step = sec) {
            QString out;
            TimeUs t = 0;
            for (const Line& line : lines) {
                std::vector<WatchEvent> events;
                judge.take(line.reading, t += step, line.value, events);
                out += events.empty()                        ? QLatin1Char('.')
                       : events[0].kind == WatchKind::raised ? QLatin1Char('r')
                                                             : QLatin1Char('c');
            }
            return out;
        };
        const std::vector<Line> lines = {{0, 200}, {1, 0}, {1, 1}, {0, 300}, {0, 200}, {1, 0}};
        QCOMPARE(play(two(WatchJoin::all), lines), QStringLiteral("..rcrc"));
        QCOMPARE(play(two(WatchJoin::any), lines), QStringLiteral("r....."));
        // While the pump runs: what is low is only looked at then, and stays raised until it is seen to be fine.
        QCOMPARE(play(two(WatchJoin::only), lines), QStringLiteral("....r."));
        QCOMPARE(play(two(WatchJoin::only), {{0, 200}, {1, 1}, {0, 200}, {1, 0}, {0, 300}, {1, 1}, {0, 300}}),
                 QStringLiteral("..r...c"));
        // A partner that is gone says nothing: neither an alarm nor its end.
        QCOMPARE(play(two(WatchJoin::all), {{1, 1}, {0, 200}, {0, 300}}, 11 * sec), QStringLiteral("..."));
    }
    /// Two boards, the clock of one an hour behind: what they say together is of when it arrived.
    void boardsWhoseClocksDiffer() {
        WatchRule rule = watch({looking(WatchWhen::below, 250), looking(WatchWhen::above, 0.5)});
        rule.conditions[1].reading = "pump";
        ConditionAbout level, pump;
        pump.reading = 1;
        pump.gone = level.gone = 60 * sec;
        RuleJudge judge(rule, {level, pump});
        std::vector<WatchEvent> events;
        for (TimeUs t = 7200 * sec; t < 7220 * sec; t += 2 * sec) {
            judge.take(0, t, 200, events, t);
            judge.take(1, t + sec - 3600 * sec, 1, events, t + sec);
        }
        QCOMPARE(events.size(), std::size_t(1));
        QCOMPARE(events[0].time, 7201 * sec);
        QCOMPARE(judge.raise().time, 7201 * sec);
    }
    void onlyAtCertainHours() {
        WatchRule rule = watch({looking(WatchWhen::above, 5)});
        rule.hours = {22 * 60, 6 * 60};
        RuleJudge judge(rule, {ConditionAbout{}}, [](TimeUs) { return 2 * hour_us; });
        std::vector<WatchEvent> events;
        for (TimeUs t = 12 * hour_us; t < 36 * hour_us; t += 10 * minute_us)
            judge.take(0, t, t < 22 * hour_us ? 9 : 1, events);
        QCOMPARE(events.size(), std::size_t(2));
        QCOMPARE(events[0].time, 20 * hour_us); // 22:00 on the local clock
        QCOMPARE(events[1].time, 22 * hour_us);
    }
    void nothingForATime() {
        WatchRule rule = watch({looking(WatchWhen::silent, 60)});
        rule.repeat_s = 600;
        RuleJudge judge(rule, {ConditionAbout{}});
        std::vector<WatchEvent> events;
        judge.pass(0, events); // it waits from here
        judge.pass(60 * sec, events);
        QVERIFY(events.empty());
        judge.pass(75 * sec, events);
        QCOMPARE(events.size(), std::size_t(1));
        QCOMPARE(events[0].time, 60 * sec);
        for (TimeUs t = 80 * sec; t < 1300 * sec; t += 5 * sec)
            judge.pass(t, events);
        QCOMPARE(events.size(), std::size_t(3)); // twice again
        judge.take(0, 1300 * sec, no_number, events);
        QCOMPARE(events.back().kind, WatchKind::cleared); // a line without a value is a line
    }
    /// A clock that is set back does not make a rule wait for the time to come again.
    void aClockThatIsSetBack_data() {
        QTest::addColumn<qint64>("by");
        QTest::addRow("an hour") << qint64(hour_us);
        QTest::addRow("a year") << qint64(365 * day_us);
        QTest::addRow("a moment") << qint64(sec / 10);
    }
    void aClockThatIsSetBack() {
        QFETCH(qint64, by);
        WatchRule rule = watch({looking(WatchWhen::above, 5)});
        rule.for_s = 10;
        rule.repeat_s = 20;
        RuleJudge judge(rule, {ConditionAbout{}});
        std::vector<WatchEvent> events;
        TimeUs t = 400 * day_us;
        for (int i = 0; i < 60; ++i) {
            if (i == 5 || i == 15) t -= by;
            judge.take(0, t += sec, 9, events);
        }
        QVERIFY(events.size() == 3 || events.size() == 2); // raised, and again each 20 s of its own clock
        QCOMPARE(events[0].kind, WatchKind::raised);
        QCOMPARE(events[1].kind, WatchKind::repeated);
    }
    void contradictionsAreSaid_data() {
        QTest::addColumn<WatchRule>("rule");
        const auto row = [](const char* name, const WatchCondition& c,
                            const std::function<void(WatchRule&)>& more = {}) {
            WatchRule rule = watch({c});
            if (more) more(rule);
            QTest::addRow("%s", name) << rule;
        };
        WatchCondition c = looking(WatchWhen::outside, 5);
        c.upper = 4;
        row("low above high", c);
        c.upper = 6;
        c.hysteresis = 1;
        row("hysteresis beyond the band", c);
        c = looking(WatchWhen::above, 5);
        c.clear = 6;
        row("over above the limit", c);
        row("not a number", looking(WatchWhen::above, no_number));
        row("a slope without a time", looking(WatchWhen::falls, 5));
        row("a value with a time", looking(WatchWhen::above, 5, 60));
        row("no silence", looking(WatchWhen::silent, 0));
        row("lines of a silence", looking(WatchWhen::silent, 60), [](WatchRule& r) { r.count = 2; });
        row("no lines", looking(WatchWhen::above, 5), [](WatchRule& r) { r.count = 0; });
        row("a day of 25 hours", looking(WatchWhen::above, 5), [](WatchRule& r) { r.hours.to_min = 1500; });
        row("a time below zero", looking(WatchWhen::above, 5), [](WatchRule& r) { r.repeat_s = -1; });
        row("no name", looking(WatchWhen::above, 5), [](WatchRule& r) { r.name.clear(); });
        row("no condition", looking(WatchWhen::above, 5), [](WatchRule& r) { r.conditions.clear(); });
    }
    void contradictionsAreSaid() {
        QFETCH(WatchRule, rule);
        QVERIFY(!defect_of(rule).empty());
    }
    /// A rule that looks from 02:00 to 04:00, on the two nights on which those hours are one or three.
    void summerTimeInARulesHours_data() {
        QTest::addColumn<int>("before_h");
        QTest::addColumn<int>("after_h");
        QTest::addColumn<int>("minutes");
        QTest::newRow("it begins: 02:00 is 03:00") << 1 << 2 << 60;
        QTest::newRow("it ends: 03:00 is 02:00") << 2 << 1 << 180;
        QTest::newRow("any other night") << 1 << 1 << 120;
    }
    void summerTimeInARulesHours() {
        QFETCH(int, before_h);
        QFETCH(int, after_h);
        QFETCH(int, minutes);
        constexpr TimeUs change = 1774746000LL * sec; // 01:00 UTC
        const ZoneOffset zone = [=](TimeUs t) { return (t < change ? before_h : after_h) * hour_us; };
        WatchRule rule = rule_of(WatchWhen::above, 0).rule;
        rule.hours = {120, 240};
        RuleJudge judge(rule, {{}}, zone);
        std::vector<WatchEvent> events;
        int looked = 0;
        for (int minute = -600; minute < 600; ++minute) {
            const std::size_t before = events.size();
            judge.take(0, change + minute * minute_us, minute % 2 ? 1 : -1, events);
            looked += static_cast<int>(events.size() - before);
        }
        QVERIFY2(std::abs(looked - minutes) <= 1, qPrintable(QString::number(looked)));
    }
};

RUN_TESTS_OF(TestWatchTogether)
#include "tst_watch_together.moc"
