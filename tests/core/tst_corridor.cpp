// A corridor that changes with the days of a session: against a slow model, as a person types it, over sessions
// that begin, end and overlap, and what is offered from the record.
#include "core/bench/quantity_change.h"
#include "core/watch/keeper.h"
#include "core/watch/offers.h"
#include "core/watch/rule_words.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

#include <random>

using namespace cognitum;
using test::midsummer;

namespace {

TimedSession jar(TimeUs from, TimeUs to, std::vector<std::string> readings = {"air"}) {
    static int n = 0;
    return {"jar" + std::to_string(++n), "Cabbage", SessionKind::fermentation, from, to, std::move(readings), {}};
}

Bench kitchen(std::vector<CorridorStep> steps = {{1, 18, 20}, {5, 20, 22}}) {
    Bench bench = test::small_bench();
    WatchCondition c;
    c.reading = "air";
    c.when = WatchWhen::corridor;
    c.corridor = std::move(steps);
    WatchRule rule;
    rule.id = "jar-warm";
    rule.name = "Cabbage";
    rule.conditions = {c};
    bench.watch_rules = {rule};
    return bench;
}

/// "1.5 raised 17": day of `start`, what, value.
QStringList told(const Bench& bench, const std::function<double(double day)>& degC, double days,
                 const DoubtOf& doubt_of = {}) {
    WatchKeeper keeper;
    keeper.set_rules(bench.watch_rules, bench, doubt_of);
    std::vector<RuleEvent> events;
    for (int hour = 0; hour < 24 * days; hour += 6)
        keeper.take("air", midsummer + hour * hour_us, degC(hour / 24.0), events);
    QStringList out;
    for (const RuleEvent& e : events)
        out << QStringLiteral("%1 %2 %3")
                   .arg(double(e.event.time - midsummer) / double(day_us))
                   .arg(watch_kind_word(e.event.kind))
                   .arg(e.event.value);
    return out;
}

} // namespace

class TestCorridor : public QObject {
    Q_OBJECT

  private slots:
    void followsTheDays() {
        Bench bench = kitchen();
        const auto nineteen = [](double) { return 19.0; };
        QCOMPARE(told(bench, nineteen, 10), QStringList()); // nothing ferments
        bench.sessions = {jar(midsummer + 2 * day_us, 0)};
        // Day 5 begins four days after the jar was filled; 19 is too cold then.
        QCOMPARE(told(bench, nineteen, 10), QStringList({"6 raised 19"}));
        bench.sessions = {jar(midsummer + 2 * day_us, midsummer + 8 * day_us)};
        QCOMPARE(told(bench, nineteen, 10), QStringList({"6 raised 19", "8 cleared 19"}));
        bench.sessions.push_back(jar(midsummer + 7 * day_us, 0)); // the next one ends the one before
        QCOMPARE(told(bench, nineteen, 10), QStringList({"6 raised 19", "7 cleared 19"}));
        bench.sessions = {jar(midsummer + 2 * day_us, 0, {"other", "air"})}; // led by another
        QCOMPARE(told(bench, nineteen, 10), QStringList());
        bench.sessions = {jar(midsummer, 0)};
        bench.watch_rules[0].conditions[0].corridor = {{3, 20, 22}}; // nobody looks before day 3
        QCOMPARE(told(bench, nineteen, 4), QStringList({"2 raised 19"}));
    }
    void wayBackAndDoubt() {
        Bench bench = kitchen({{1, 18, 22}});
        bench.sessions = {jar(midsummer, 0)};
        bench.watch_rules[0].conditions[0].hysteresis = 1;
        const auto cold = [](double day) { return day < 1 ? 17.5 : day < 2 ? 18.5 : 19.5; };
        QCOMPARE(told(bench, cold, 3), QStringList({"0 raised 17.5", "2 cleared 19.5"}));
        const auto doubt = [](const Reading&, double) { return 0.6; };
        bench.watch_rules[0].for_sure = true;
        QCOMPARE(told(bench, cold, 3, doubt), QStringList());
        // What it says, and whether it is sure.
        WatchKeeper keeper;
        bench.watch_rules[0].for_sure = false;
        keeper.set_rules(bench.watch_rules, bench, doubt);
        std::vector<RuleEvent> events;
        keeper.take("air", midsummer + 60 * hour_us, 17.5, events);
        QCOMPARE(events.size(), std::size_t(1));
        QCOMPARE(test::plain(event_says(bench.watch_rules[0], events[0].event, bench)),
                 std::string("Air: Cabbage. 17.5 °C, outside 18 to 22 °C of day 3, but within the doubt."));
        QCOMPARE(test::plain(rule_says(bench.watch_rules[0], bench)),
                 std::string("outside 18 to 22 °C from day 1, back by 1 °C"));
    }
    /// A jar that is filled while the rule runs: the plan changes, the rule goes on.
    void sessionsBeginWhileItRuns() {
        Bench bench = kitchen({{1, 18, 20}});
        WatchKeeper keeper;
        std::vector<RuleEvent> events;
        keeper.set_rules(bench.watch_rules, bench);
        keeper.take("air", midsummer, 10, events);
        QVERIFY(events.empty());
        bench.sessions = {jar(midsummer + hour_us, 0)};
        keeper.set_rules(bench.watch_rules, bench);
        keeper.take("air", midsummer + 2 * hour_us, 10, events);
        QCOMPARE(events.size(), std::size_t(1));
        bench.sessions[0].to = midsummer + 3 * hour_us;
        keeper.set_rules(bench.watch_rules, bench);
        keeper.take("air", midsummer + 4 * hour_us, 10, events);
        QCOMPARE(events.size(), std::size_t(2));
        QCOMPARE(events[1].event.kind, WatchKind::cleared);
    }
    void likeASlowModel() {
        std::mt19937 random(5);
        const auto any = [&](double low, double high) {
            return std::uniform_real_distribution<double>(low, high)(random);
        };
        for (int round = 0; round < 300; ++round) {
            std::vector<CorridorStep> steps;
            for (double day = std::floor(any(1, 3)); day < 12 && steps.size() < 5; day += std::ceil(any(0, 4))) {
                const double low = any(10, 20);
                steps.push_back({day, low, low + any(0.5, 5)});
            }
            Bench bench = kitchen(steps);
            for (int i = 0; i < int(any(0, 4)); ++i) {
                const TimeUs from = midsummer + TimeUs(any(0, 15)) * day_us;
                bench.sessions.push_back(jar(from, any(0, 1) < 0.3 ? 0 : from + TimeUs(any(1, 9)) * day_us));
            }
            std::vector<double> degC;
            for (int i = 0; i < 20 * 4; ++i)
                degC.push_back(any(8, 26));
            QStringList expected;
            bool raised = false;
            for (int i = 0; i < int(degC.size()); ++i) {
                const double now = i / 4.0;
                const TimedSession* runs = nullptr; // the last that began, even when it has ended
                for (const TimedSession& s : bench.sessions)
                    if (s.from <= midsummer + TimeUs(i) * 6 * hour_us &&
                        (!runs || s.from > runs->from ||
                         (s.from == runs->from && !runs->goes_on() && (s.goes_on() || s.to > runs->to))))
                        runs = &s;
                bool outside = false;
                if (runs && (runs->goes_on() || midsummer + TimeUs(i) * 6 * hour_us < runs->to)) {
                    const double day = 1 + now - double(runs->from - midsummer) / double(day_us);
                    for (std::size_t k = 0; k < steps.size(); ++k)
                        if (day >= steps[k].from_day && (k + 1 == steps.size() || day < steps[k + 1].from_day))
                            outside = degC[std::size_t(i)] < steps[k].low || degC[std::size_t(i)] > steps[k].high;
                }
                if (outside != raised)
                    expected << QStringLiteral("%1 %2 %3")
                                    .arg(now)
                                    .arg(outside ? "raised" : "cleared")
                                    .arg(degC[std::size_t(i)]);
                raised = outside;
            }
            QCOMPARE(told(
                         bench, [&](double day) { return degC[std::size_t(std::lround(day * 4))]; }, 20),
                     expected);
        }
    }
    void asAPersonTypesIt_data() {
        QTest::addColumn<QString>("typed");
        QTest::addColumn<QString>("read"); ///< "!" and a part of the sentence: refused
        QTest::newRow("plain") << "1: 18 to 20; 5: 20 to 22"
                               << "1: 18 to 20; 5: 20 to 22";
        QTest::newRow("dots") << "1:18..20"
                              << "1: 18 to 20";
        QTest::newRow("a dash of print") << "1: 18–20"
                                         << "1: 18 to 20";
        QTest::newRow("below zero") << "1: −5 to -1"
                                    << "1: −5 to −1";
        QTest::newRow("commas") << "day 1: 18,5 to 20,25; from day 2: 3 to 4"
                                << "1: 18.5 to 20.25; 2: 3 to 4";
        QTest::newRow("ends with a mark") << "1: 18 to 20;"
                                          << "1: 18 to 20";
        QTest::newRow("nothing") << "  "
                                 << "";
        QTest::newRow("no day") << "18 to 20"
                                << "!“18 to 20” is no step";
        QTest::newRow("a hyphen") << "1: 18-20"
                                  << "!Write the day, a colon and both limits";
        QTest::newRow("half of it") << "1: 18 to"
                                    << "!is no step";
        QTest::newRow("words") << "1: cold to warm"
                               << "!is no step";
    }
    void asAPersonTypesIt() {
        QFETCH(QString, typed);
        QFETCH(QString, read);
        const auto steps = read_corridor(typed.toStdString());
        if (read.startsWith('!')) {
            QVERIFY(!steps);
            QVERIFY2(QString::fromStdString(steps.error().text()).contains(read.mid(1)),
                     steps.error().text().c_str());
            return;
        }
        QVERIFY2(steps.has_value(), steps ? "" : steps.error().text().c_str());
        QCOMPARE(QString::fromStdString(test::plain(corridor_text(*steps))), read);
        QCOMPARE(read_corridor(corridor_text(*steps)).value(), *steps);
    }
    void defects() {
        const auto says = [](std::vector<CorridorStep> steps, double hysteresis = 0) {
            WatchCondition c = kitchen(std::move(steps)).watch_rules[0].conditions[0];
            c.hysteresis = hysteresis;
            return QString::fromStdString(defect_of(c));
        };
        QVERIFY(says({{1, 18, 20}}, 0.9).isEmpty());
        QVERIFY(says({}).contains("from day 1"));
        QVERIFY(says({{1, 20, 18}}).contains("not below"));
        QVERIFY(says({{0, 18, 20}}).contains("1 to 366"));
        QVERIFY(says({{2, 18, 20}, {2, 18, 20}}).contains("does not come after"));
        QVERIFY(says({{1, 18, std::nan("")}}).contains("must be a number"));
        QVERIFY(says({{1, 10, 20}, {2, 18, 20}}, 1).contains("leaves nothing"));
        WatchCondition other = kitchen().watch_rules[0].conditions[0];
        other.when = WatchWhen::above;
        QVERIFY(QString::fromStdString(defect_of(other)).contains("only a corridor"));
    }
    void anotherUnit() {
        Bench bench = kitchen({{1, 20, 25}});
        bench.watch_rules[0].conditions[0].hysteresis = 1;
        QVERIFY(change_unit(bench, "air", "degF"));
        const WatchCondition& c = bench.watch_rules[0].conditions[0];
        CLOSE(c.corridor[0].low, 68, 1e-9);
        CLOSE(c.corridor[0].high, 77, 1e-9);
        CLOSE(c.hysteresis, 1.8, 1e-9);
        QCOMPARE(c.value, 0.0);
        QCOMPARE(defect_of(c), std::string());
    }
    void offered() {
        Bench bench = test::small_bench();
        HourCounter counter;
        const auto offer = [&]() -> std::optional<RuleOffer> {
            HourCounter count;
            for (int hour = 0; hour < 24 * 8; ++hour) // 19 °C for three days, then 22 °C
                count.take(midsummer + hour * hour_us, hour < 72 ? 19 : 22);
            for (const RuleOffer& o : rule_offers(bench, bench.readings[0], count.finish(), 0.5, {}))
                if (o.rule.conditions[0].when == WatchWhen::corridor) return o;
            return {};
        };
        QVERIFY(!offer()); // nothing ferments here
        bench.sessions = {jar(midsummer, 0)};
        auto plain = offer();
        QVERIFY(plain.has_value());
        QCOMPARE(plain->rule.conditions[0].corridor, (std::vector<CorridorStep>{{1, -10, 35}})); // as planned
        bench.sessions = {jar(midsummer, midsummer + 6 * day_us), jar(midsummer + 7 * day_us, 0)};
        const auto seen = offer();
        QVERIFY(seen.has_value());
        const std::vector<CorridorStep>& steps = seen->rule.conditions[0].corridor;
        QCOMPARE(steps.size(), std::size_t(2));
        QCOMPARE(steps[1].from_day, 4.0);
        QVERIFY(steps[0].low < 19 && steps[0].high > 19 && steps[0].high < 22);
        QVERIFY(steps[1].low > 19 && steps[1].low < 22 && steps[1].high > 22);
        bench.watch_rules = {seen->rule};
        QCOMPARE(told(
                     bench, [](double day) { return day < 3 ? 19 : 22; }, 6),
                 QStringList());
    }
};

RUN_TESTS_OF(TestCorridor)
#include "tst_corridor.moc"
