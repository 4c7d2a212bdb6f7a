// Watch rules: the judge against a slow and obvious model, conditions over time against sums over everything, and
// what a maker's bench throws at them.
#include "core/watch/backtest.h"
#include "core/watch/judge.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

#include <random>

using namespace cognitum;
using test::sec;

namespace {

BacktestRule rule_of(WatchWhen when, double value, std::optional<double> clear = {}) {
    WatchCondition condition;
    condition.when = when;
    condition.value = value;
    condition.clear = clear;
    BacktestRule out;
    out.rule.name = "rule";
    out.rule.conditions = {condition};
    return out;
}

struct Said {
    TimeUs time;
    std::string kind;
    bool operator==(const Said&) const = default;
};

/// As docs say it, looking at the whole series again for each sample.
std::vector<Said> obvious(const BacktestRule& r, const std::vector<TimedNumber>& all) {
    const WatchCondition& c = r.rule.conditions[0];
    const bool above = c.when == WatchWhen::above;
    const double clear = c.clear.value_or(c.value);
    std::vector<Said> out;
    std::vector<TimedNumber> series; // with values
    bool raised = false;
    std::size_t since = 0; // the first sample that may belong to a new row
    TimeUs told = 0;
    for (std::size_t k = 0; k < all.size(); ++k) {
        const TimeUs now = all[k].time;
        if (k > 0 && r.silent_after_s > 0 && seconds(now - all[k - 1].time) > r.silent_after_s) {
            out.push_back({all[k - 1].time + from_seconds(r.silent_after_s), "silent"});
            out.push_back({now, "back"});
        }
        if (std::isnan(all[k].value)) continue;
        series.push_back(all[k]);
        const double v = all[k].value;
        if (raised) {
            if (above ? v <= clear : v >= clear) {
                raised = false;
                since = series.size();
                out.push_back({now, "cleared"});
            } else if (r.rule.repeat_s > 0 && seconds(now - told) >= r.rule.repeat_s) {
                told = now;
                out.push_back({now, "repeated"});
            }
            continue;
        }
        std::size_t row = series.size();
        while (row > since && (above ? series[row - 1].value > c.value : series[row - 1].value < c.value))
            --row;
        const std::size_t n = series.size() - row;
        if (n == 0 || n < static_cast<std::size_t>(r.rule.count)) continue;
        if (seconds(now - series[row].time) < r.rule.for_s) continue;
        raised = true;
        told = now;
        out.push_back({now, "raised"});
    }
    std::stable_sort(out.begin(), out.end(), [](const Said& a, const Said& b) { return a.time < b.time; });
    return out;
}

std::vector<Said> said(const std::vector<BacktestRule>& rules, const std::vector<TimedNumber>& series,
                       std::size_t at_once = 1'000'000) {
    Backtest backtest(rules);
    for (std::size_t at = 0; at < series.size(); at += at_once)
        backtest.take(std::span(series).subspan(at, std::min(at_once, series.size() - at)));
    std::vector<Said> out;
    for (const BacktestEvent& e : backtest.events())
        out.push_back({e.time, e.kind});
    return out;
}

WatchRule watch(std::vector<WatchCondition> conditions) {
    WatchRule out;
    out.id = out.name = "rule";
    out.conditions = std::move(conditions);
    return out;
}

WatchCondition looking(WatchWhen when, double value, double over_s = 0) {
    WatchCondition out;
    out.when = when;
    out.value = value;
    out.over_s = over_s;
    return out;
}

/// What one rule says of one series: "r" raised, "c" over, "." nothing, for each sample.
QString run(const WatchRule& rule, const std::vector<TimedNumber>& series, const ConditionAbout& about = {}) {
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
std::vector<TimedNumber> each_second(const std::vector<double>& values, TimeUs step = sec) {
    std::vector<TimedNumber> out;
    for (const double v : values)
        out.push_back({static_cast<TimeUs>(out.size()) * step, v});
    return out;
}

std::string refused(const char* rules) {
    const auto document = JsonText::parse("rules.json", rules);
    if (!document) return document.error().text();
    const auto read = read_backtest_rules(JsonReader(*document));
    return read ? std::string() : read.error().text();
}

} // namespace

class TestWatch : public QObject {
    Q_OBJECT

  private slots:
    /// Ten thousand random rules on random series: values on a coarse grid, so that limits are met exactly.
    void theJudgeIsTheObviousModel() {
        std::mt19937 random(17);
        const auto one_of = [&](std::initializer_list<double> list) {
            return *(list.begin() + static_cast<std::ptrdiff_t>(random() % list.size()));
        };
        std::size_t events = 0;
        for (int round = 0; round < 10'000; ++round) {
            const bool above = random() % 2 == 0;
            BacktestRule rule = rule_of(above ? WatchWhen::above : WatchWhen::below, one_of({2, 3, 4}));
            if (random() % 2)
                rule.rule.conditions[0].clear =
                    rule.rule.conditions[0].value + (above ? -1 : 1) * one_of({0, 1, 2});
            rule.rule.count = static_cast<int>(one_of({1, 1, 2, 3, 7}));
            rule.rule.for_s = one_of({0, 0, 1, 2.5, 10});
            rule.rule.repeat_s = one_of({0, 0, 1, 3, 8});
            rule.silent_after_s = one_of({0, 0, 1, 3, 0.25});
            std::vector<TimedNumber> series;
            TimeUs time = 1'700'000'000 * sec;
            double v = 3;
            for (int i = 0; i < 60; ++i) {
                time += static_cast<TimeUs>(one_of({0.25, 1, 1, 1, 2, 6}) * 1e6);
                v = std::clamp(v + one_of({-2, -1, 0, 0, 1, 2}), 0.0, 6.0);
                series.push_back({time, random() % 10 == 0 ? no_number : v});
            }
            const auto expected = obvious(rule, series);
            const auto found = said({rule}, series, 1 + random() % 70);
            events += expected.size();
            QString difference = QStringLiteral("round %1: ").arg(round);
            for (std::size_t i = 0; i < std::max(found.size(), expected.size()); ++i)
                if (i >= found.size() || i >= expected.size() || !(found[i] == expected[i])) {
                    difference += QStringLiteral("event %1, %2 instead of %3")
                                      .arg(i)
                                      .arg(i < found.size() ? QString::fromStdString(found[i].kind) : "none",
                                           i < expected.size() ? QString::fromStdString(expected[i].kind) : "none");
                    break;
                }
            QVERIFY2(found == expected, qPrintable(difference));
        }
        QVERIFY(events > 50'000);
    }
    void aLimitIsNotYetBeyond() {
        const auto series = each_second({5, 5.0001, 5, 4.9, 5});
        QCOMPARE(said({rule_of(WatchWhen::above, 5)}, series),
                 (std::vector<Said>{{1 * sec, "raised"}, {2 * sec, "cleared"}}));
        QCOMPARE(said({rule_of(WatchWhen::below, 5)}, series),
                 (std::vector<Said>{{3 * sec, "raised"}, {4 * sec, "cleared"}}));
    }
    /// A time below the clock's step is still no "never".
    void repeatedAtEachLine() {
        WatchRule rule = watch({looking(WatchWhen::above, 5)});
        rule.repeat_s = 1e-9;
        QCOMPARE(run(rule, each_second({6, 6, 6, 1})), QStringLiteral("raac"));
    }
    void aSilenceThatIsJustAsLongIsNone() {
        BacktestRule rule = rule_of(WatchWhen::above, 100);
        rule.silent_after_s = 2;
        const std::vector<TimedNumber> series = {{0, 1}, {2 * sec, 1}, {5 * sec, 1}};
        QCOMPARE(said({rule}, series), (std::vector<Said>{{4 * sec, "silent"}, {5 * sec, "back"}}));
    }
    void rulesFilesAreReadStrictly_data() {
        QTest::addColumn<QByteArray>("text");
        QTest::addColumn<QByteArray>("says");
        const auto row = [](const char* name, const char* text, const char* says) {
            QTest::addRow("%s", name) << QByteArray(text) << QByteArray(says);
        };
        row("sound", R"({"rules": [{"name": "a", "when": "above", "value": 1, "clear": 1}]})", "");
        row("clear above", R"({"rules": [{"name": "a", "when": "above", "value": 1, "clear": 2}]})",
            "/rules/0/clear");
        row("clear below", R"({"rules": [{"name": "a", "when": "below", "value": 1, "clear": 0.5}]})",
            "/rules/0/clear");
        row("unknown key", R"({"rules": [{"name": "a", "when": "above", "value": 1, "limit": 2}]})", "limit");
        row("unknown word", R"({"rules": [{"name": "a", "when": "over", "value": 1}]})", "/rules/0/when");
        row("a word of the bench", R"({"rules": [{"name": "a", "when": "rises", "value": 1}]})", "/rules/0/when");
        row("no value", R"({"rules": [{"name": "a", "when": "above"}]})", "value");
        row("text for a value", R"({"rules": [{"name": "a", "when": "above", "value": "1"}]})", "/rules/0/value");
        row("half a line", R"({"rules": [{"name": "a", "when": "above", "value": 1, "count": 1.5}]})",
            "/rules/0/count");
        row("no lines", R"({"rules": [{"name": "a", "when": "above", "value": 1, "count": 0}]})", "/rules/0/count");
        row("before it", R"({"rules": [{"name": "a", "when": "above", "value": 1, "for_s": -1}]})",
            "/rules/0/for_s");
        row("too long", R"({"rules": [{"name": "a", "when": "above", "value": 1, "repeat_s": 1e308}]})",
            "/rules/0/repeat_s");
        row("minus silence", R"({"rules": [{"name": "a", "when": "above", "value": 1, "silent_after_s": -1}]})",
            "silent_after_s");
        row("no name", R"({"rules": [{"name": "", "when": "above", "value": 1}]})", "/rules/0/name");
        row("one name twice",
            R"({"rules": [{"name": "a", "when": "above", "value": 1}, {"name": "a", "when": "below", "value": 1}]})",
            "/rules/1/name");
        row("another key beside", R"({"rules": [], "note": 1})", "note");
        row("no list", R"({"rules": {}})", "/rules");
        row("no JSON", R"({"rules": [)", "rules.json:1");
    }
    void rulesFilesAreReadStrictly() {
        QFETCH(QByteArray, text);
        QFETCH(QByteArray, says);
        const std::string error = refused(text.constData());
        QCOMPARE(error.empty(), says.isEmpty());
        QVERIFY2(error.find(says.toStdString()) != std::string::npos, error.c_str());
        if (!error.empty()) QVERIFY2(error.find("rules.json") == 0, error.c_str());
    }

    void betweenTwoLimits() {
        WatchRule rule = watch({looking(WatchWhen::outside, 2)});
        rule.conditions[0].upper = 4;
        rule.conditions[0].hysteresis = 0.5;
        QCOMPARE(run(rule, each_second({3, 4, 4.1, 3.8, 3.5, 2.1, 1.9, 2.4, 2.5})), QStringLiteral("..r.c.r.c"));
    }
    void aDoorThatStaysOpen() {
        WatchRule rule = watch({looking(WatchWhen::equal, 0)});
        rule.for_s = 3;
        ConditionAbout state;
        state.is_state = true;
        QCOMPARE(run(rule, each_second({1, 0, 0, 1, 0, 0, 0, 0, 0, 1}), state), QStringLiteral(".......r.c"));
    }
    void aChangeWithinATime() {
        WatchRule rule = watch({looking(WatchWhen::changes, 2, 3)});
        //                                       0  1  2  3    4  5  6  7
        QCOMPARE(run(rule, each_second({0, 1, 2, 3, 3, 3, 3, 3})), QStringLiteral("...rc..."));
    }
    void whatDoesNotChangeForATime() {
        WatchRule rule = watch({looking(WatchWhen::unchanged, 0, 3)});
        QCOMPARE(run(rule, each_second({7, 7, 7, 7, 7, 8, 8, 8, 8, 8})), QStringLiteral("...r.c..r."));
        // The start of a record proves nothing before it.
        QCOMPARE(run(rule, each_second({7, 7, 7})), QStringLiteral("..."));
        // Nor does a pause: a board that was off for an hour and says the same once more.
        std::vector<TimedNumber> pause = each_second({7, 8, 7, 8, 7});
        pause.push_back({3600 * sec, 7});
        pause.push_back({3601 * sec, 7});
        QCOMPARE(run(rule, pause), QStringLiteral("......."));
    }
    void aSlopeInUnitsAnHour() {
        WatchRule rule = watch({looking(WatchWhen::falls, 6, 1800)}); // litres an hour
        rule.conditions[0].hysteresis = 2;
        std::vector<TimedNumber> series;
        double level = 1000;
        for (int i = 0; i < 240; ++i) { // a minute each: 2 h level, 1 h with 12 L/h, then level
            if (i >= 120 && i < 180) level -= 0.2;
            series.push_back({i * minute_us, level});
        }
        const QString says = run(rule, series);
        QCOMPARE(says.count('r'), 1);
        QCOMPARE(says.count('c'), 1);
        QVERIFY(says.indexOf('r') > 130 && says.indexOf('r') < 140); // half of the window falls
        QVERIFY(says.indexOf('c') > 180 && says.indexOf('c') < 205);
        rule.conditions[0].when = WatchWhen::rises;
        QCOMPARE(run(rule, series).count('r'), 0);
    }
    void rainInAnHourAndACounterThatBeginsAnew() {
        WatchRule rule = watch({looking(WatchWhen::grows, 3, 3600)});
        ConditionAbout total;
        total.is_total = true;
        const std::vector<TimedNumber> series = {{0, 100},
                                                 {20 * minute_us, 102},
                                                 {40 * minute_us, 0.5},
                                                 {50 * minute_us, 1.5},
                                                 {80 * minute_us, 1.6},
                                                 {150 * minute_us, 1.6}};
        QCOMPARE(run(rule, series, total), QStringLiteral("...rc."));
    }
    void movementsAnHour() {
        WatchRule rule = watch({looking(WatchWhen::grows, 2, 3600)});
        ConditionAbout state;
        state.is_state = true;
        QCOMPARE(run(rule, each_second({0, 1, 1, 0, 1, 0, 1, 1, 0}, minute_us), state),
                 QStringLiteral("......r.."));
    }
    void linesWithoutAValue() {
        WatchRule rule = watch({looking(WatchWhen::failing, 0)});
        rule.count = 2;
        QCOMPARE(run(rule, each_second({1, no_number, 1, no_number, no_number, no_number, 1})),
                 QStringLiteral("....r.c"));
    }
    /// A sensor that fails every other line still confirms.
    void aLineWithoutAValueBreaksNoRow() {
        WatchRule rule = watch({looking(WatchWhen::above, 5)});
        rule.count = 3;
        QCOMPARE(run(rule, each_second({6, no_number, 6, no_number, 6, no_number, 1})), QStringLiteral("....r.c"));
    }
    void windowsAreBoundedAndTrue() {
        // A thousand lines a second over an hour share cells; the figures are those of all of them.
        TimeWindow window(3600 * sec);
        std::mt19937 random(3);
        double high = -1e9, low = 1e9;
        for (int i = 0; i <= 600'000; ++i) {
            const double v = 0.001 * i + static_cast<double>(random() % 100) / 100;
            high = std::max(high, v);
            low = std::min(low, v);
            window.take(i * 6 * sec / 1000, v);
        }
        QCOMPARE(window.range(), high - low);
        QVERIFY(std::abs(*window.slope() - 1.0 / 6) < 1e-3);
    }
    void windowsForgetWhatIsOld() {
        TimeWindow window(10 * sec);
        std::mt19937 random(5);
        std::vector<TimedNumber> all;
        TimeUs t = 0;
        for (int i = 0; i < 3000; ++i) {
            t += static_cast<TimeUs>(1 + random() % 3) * sec / 2;
            all.push_back({t, static_cast<double>(random() % 1000)});
            window.take(t, all.back().value);
            double high = -1, low = 1e9, first = 0;
            for (auto it = all.rbegin(); it != all.rend() && t - it->time <= 10 * sec; ++it) {
                high = std::max(high, it->value);
                low = std::min(low, it->value);
                first = it->value;
            }
            QCOMPARE(window.range(), high - low);
            QCOMPARE(window.gain(), all.back().value - first);
        }
    }

    void onlyForSure() {
        ConditionAbout about;
        about.doubt = 2;
        WatchRule rule = watch({looking(WatchWhen::below, 10)});
        std::vector<WatchEvent> events;
        RuleJudge judge(rule, {about});
        judge.take(0, 0, 9, events);
        judge.take(0, sec, 10, events);
        judge.take(0, 2 * sec, 7, events);
        QCOMPARE(events.size(), std::size_t(3));
        QCOMPARE(events[0].sure, Sureness::within_doubt);
        QCOMPARE(events[2].sure, Sureness::for_sure);
        rule.for_sure = true;
        QCOMPARE(run(rule, each_second({9, 8.1, 8, 7.9, 9, 10}), about), QStringLiteral("...r.c"));
        rule.conditions[0].when = WatchWhen::above;
        QCOMPARE(run(rule, each_second({11, 12, 12.1, 11, 10}), about), QStringLiteral("..r.c"));
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

RUN_TESTS_OF(TestWatch)
#include "tst_watch.moc"
