// Watch rules: the judge against a slow and obvious model, conditions over time against sums over everything, and
// what a maker's bench throws at them.
#include "core/watch/backtest.h"
#include "core/watch/judge.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/watch_rules.h"

#include <random>

using namespace cognitum;
using test::each_second, test::looking, test::said_of, test::sec, test::watch;

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
        QCOMPARE(said_of(rule, each_second({6, 6, 6, 1})), QStringLiteral("raac"));
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
        QCOMPARE(said_of(rule, each_second({3, 4, 4.1, 3.8, 3.5, 2.1, 1.9, 2.4, 2.5})),
                 QStringLiteral("..r.c.r.c"));
    }
    void aDoorThatStaysOpen() {
        WatchRule rule = watch({looking(WatchWhen::equal, 0)});
        rule.for_s = 3;
        ConditionAbout state;
        state.is_state = true;
        QCOMPARE(said_of(rule, each_second({1, 0, 0, 1, 0, 0, 0, 0, 0, 1}), state), QStringLiteral(".......r.c"));
    }
    void aChangeWithinATime() {
        WatchRule rule = watch({looking(WatchWhen::changes, 2, 3)});
        //                                       0  1  2  3    4  5  6  7
        QCOMPARE(said_of(rule, each_second({0, 1, 2, 3, 3, 3, 3, 3})), QStringLiteral("...rc..."));
    }
    void whatDoesNotChangeForATime() {
        WatchRule rule = watch({looking(WatchWhen::unchanged, 0, 3)});
        QCOMPARE(said_of(rule, each_second({7, 7, 7, 7, 7, 8, 8, 8, 8, 8})), QStringLiteral("...r.c..r."));
        // The start of a record proves nothing before it.
        QCOMPARE(said_of(rule, each_second({7, 7, 7})), QStringLiteral("..."));
        // Nor does a pause: a board that was off for an hour and says the same once more.
        std::vector<TimedNumber> pause = each_second({7, 8, 7, 8, 7});
        pause.push_back({3600 * sec, 7});
        pause.push_back({3601 * sec, 7});
        QCOMPARE(said_of(rule, pause), QStringLiteral("......."));
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
        const QString says = said_of(rule, series);
        QCOMPARE(says.count('r'), 1);
        QCOMPARE(says.count('c'), 1);
        QVERIFY(says.indexOf('r') > 130 && says.indexOf('r') < 140); // half of the window falls
        QVERIFY(says.indexOf('c') > 180 && says.indexOf('c') < 205);
        rule.conditions[0].when = WatchWhen::rises;
        QCOMPARE(said_of(rule, series).count('r'), 0);
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
        QCOMPARE(said_of(rule, series, total), QStringLiteral("...rc."));
    }
    void movementsAnHour() {
        WatchRule rule = watch({looking(WatchWhen::grows, 2, 3600)});
        ConditionAbout state;
        state.is_state = true;
        QCOMPARE(said_of(rule, each_second({0, 1, 1, 0, 1, 0, 1, 1, 0}, minute_us), state),
                 QStringLiteral("......r.."));
    }
    void linesWithoutAValue() {
        WatchRule rule = watch({looking(WatchWhen::failing, 0)});
        rule.count = 2;
        QCOMPARE(said_of(rule, each_second({1, no_number, 1, no_number, no_number, no_number, 1})),
                 QStringLiteral("....r.c"));
    }
    /// A sensor that fails every other line still confirms.
    void aLineWithoutAValueBreaksNoRow() {
        WatchRule rule = watch({looking(WatchWhen::above, 5)});
        rule.count = 3;
        QCOMPARE(said_of(rule, each_second({6, no_number, 6, no_number, 6, no_number, 1})),
                 QStringLiteral("....r.c"));
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
        QCOMPARE(said_of(rule, each_second({9, 8.1, 8, 7.9, 9, 10}), about), QStringLiteral("...r.c"));
        rule.conditions[0].when = WatchWhen::above;
        QCOMPARE(said_of(rule, each_second({11, 12, 12.1, 11, 10}), about), QStringLiteral("..r.c"));
    }
};

RUN_TESTS_OF(TestWatch)
#include "tst_watch.moc"
