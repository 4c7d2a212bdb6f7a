// Sessions found by a rule: the finder against a slow and obvious model, and what a maker's bench throws at it.
#include "core/bench/plan_difference.h"
#include "core/stretch/session_finder.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

namespace {

struct Line {
    TimeUs time;
    double value;
};

bool is_over(const SessionRule& rule, double value) {
    if (std::isnan(value)) return false;
    if (rule.when == SessionWhen::above) return value > rule.limit;
    if (rule.when == SessionWhen::below) return value < rule.limit;
    return true;
}

/// All times at which the rule holds, cut where two of them are farther apart than the pause.
std::vector<Interval> obvious_sessions(const SessionRule& rule, const std::vector<Line>& lines) {
    std::vector<TimeUs> times;
    for (const Line& line : lines)
        if (is_over(rule, line.value)) times.push_back(line.time);
    std::vector<Interval> out;
    for (std::size_t i = 0; i < times.size();) {
        std::size_t last = i;
        while (last + 1 < times.size() && seconds(times[last + 1] - times[last]) <= rule.pause_s)
            ++last;
        const double length = seconds(times[last] - times[i]);
        if (length > 0 && length >= rule.least_s) out.push_back({times[i], times[last] + 1});
        i = last + 1;
    }
    return out;
}

std::vector<Interval> found_times(const SessionRule& rule, const std::vector<Line>& lines) {
    SessionFinder finder(rule);
    for (const Line& line : lines)
        finder.take(line.time, line.value);
    std::vector<Interval> out = finder.ended();
    if (const auto begun = finder.under_way()) out.push_back({*begun, finder.last_held() + 1});
    return out;
}

SessionRule session_rule(SessionWhen when, double limit, double least_s, double pause_s) {
    SessionRule rule;
    rule.name = "Fire";
    rule.when = when;
    rule.limit = limit;
    rule.least_s = least_s;
    rule.pause_s = pause_s;
    return rule;
}

} // namespace

class TestSessionFinder : public QObject {
    Q_OBJECT

  private slots:
    void theFinderIsTheObviousModel() {
        std::mt19937 random(7);
        for (int n = 0; n < 400; ++n) {
            const auto pick = [&](int most) { return static_cast<int>(random() % static_cast<unsigned>(most)); };
            const SessionRule rule =
                session_rule(static_cast<SessionWhen>(pick(3)), pick(10), pick(90), 1 + pick(120));
            std::vector<Line> lines;
            TimeUs t = 0;
            for (int i = 0; i < 200; ++i) {
                t += second_us * (1 + pick(40));
                lines.push_back({t, pick(6) == 0 ? no_number : static_cast<double>(pick(14))});
            }
            QCOMPARE(found_times(rule, lines), obvious_sessions(rule, lines));
        }
    }
    void aValueAtTheLimitIsNotAbove() {
        const SessionRule rule = session_rule(SessionWhen::above, 60, 10, 30);
        QVERIFY(found_times(rule, {{0, 60}, {20 * second_us, 60}, {40 * second_us, 60}}).empty());
        QCOMPARE(found_times(rule, {{0, 60.1}, {20 * second_us, 61}, {40 * second_us, 60}}).size(), std::size_t(1));
    }
    /// The clock ends a session though no line comes any more.
    void silenceEndsASession() {
        SessionFinder finder(session_rule(SessionWhen::valued, 0, 10, 60));
        for (int s = 0; s <= 120; s += 5)
            finder.take(s * second_us, 70);
        QCOMPARE(finder.under_way(), std::optional<TimeUs>(0));
        finder.pass(180 * second_us);
        QVERIFY(finder.ended().empty()); // exactly the pause: not longer
        finder.pass(180 * second_us + 1);
        QCOMPARE(finder.ended(), (std::vector<Interval>{{0, 120 * second_us + 1}}));
        QVERIFY(!finder.under_way());
        QVERIFY(finder.ended().empty()); // told once
    }
    /// Rain as a total: what counts is what comes in an hour, and a board that starts anew brings no storm.
    void ofATotalItsRateIsAsked() {
        Reading rain;
        rain.quantity.kind = "rain";
        rain.quantity.unit = "mm";
        RuleValues values(rain);
        QVERIFY(std::isnan(values.take(0, 500)));
        CLOSE(values.take(30 * minute_us, 502), 4, 1e-12);
        CLOSE(values.take(60 * minute_us, 502), 0, 1e-12);
        QVERIFY(std::isnan(values.take(70 * minute_us, no_number)));
        CLOSE(values.take(90 * minute_us, 0.5), 1, 1e-12); // began anew
        Reading air;
        air.quantity.kind = "temperature";
        air.quantity.unit = "degC";
        QCOMPARE(RuleValues(air).take(0, 20), 20.0);
    }
    void oneLineIsNoSession() {
        const SessionRule rule = session_rule(SessionWhen::above, 0, 0, 10);
        QVERIFY(found_times(rule, {{5, 1}}).empty());
        QVERIFY(found_times(rule, {}).empty());
    }
    void aRuleWithDefectsIsRefused() {
        SessionRule rule = session_rule(SessionWhen::above, 60, 60, 60);
        QVERIFY(defect_of(rule).empty());
        rule.pause_s = 0;
        QVERIFY(!defect_of(rule).empty());
        rule = session_rule(SessionWhen::above, no_number, 60, 60);
        QVERIFY(!defect_of(rule).empty());
        rule = session_rule(SessionWhen::above, 1, -1, 60);
        QVERIFY(!defect_of(rule).empty());
        rule = session_rule(SessionWhen::above, 1, 1, 60);
        rule.name.clear();
        QVERIFY(!defect_of(rule).empty());
    }
    void sessionsStandInThePlanAndComeBack() {
        Bench bench = test::small_bench();
        bench.sessions.push_back({"swim", "Swim", SessionKind::swim, 10 * second_us, 0, {"air"}, "rule"});
        bench.sessions.push_back({"drive", "Drive", SessionKind::drive, second_us, 2 * second_us, {}});
        SessionRule rule = session_rule(SessionWhen::below, 3.5, 30, 90);
        rule.id = "rule";
        rule.kind = SessionKind::swim;
        rule.reading = "air";
        rule.readings = {"air"};
        rule.live = false;
        bench.session_rules.push_back(rule);
        VALUE_OF(text, JsonText::parse("bench", json_dump(bench_json(bench))));
        VALUE_OF(back, read_bench(JsonReader(text)));
        QCOMPARE(back, bench);
        QVERIFY(bench.free_id("Swim") != "swim" && bench.free_id("rule") != "rule");
        // Defects in a file are told with their place.
        for (const char* body :
             {R"({"id": "a", "name": "A", "kind": "flight", "from": "2026-01-01", "readings": []})",
              R"({"id": "a", "name": "A", "kind": "swim", "from": "2026-01-02T00:00:00Z",
                                     "to": "2026-01-01T00:00:00Z", "readings": []})",
              R"({"id": "a", "name": "", "kind": "swim", "from": "2026-01-01", "readings": []})"}) {
            VALUE_OF(broken, JsonText::parse("bench", body));
            QVERIFY(!read_session(JsonReader(broken)));
        }
    }
    void aSessionWithAHealthReadingIsPrivate() {
        Bench bench = test::small_bench();
        Reading pulse;
        pulse.id = pulse.name = "pulse";
        pulse.quantity.kind = "pulse-rate";
        pulse.quantity.unit = "/min";
        bench.readings.push_back(pulse);
        QVERIFY(bench.is_private({"a", "A", SessionKind::swim, 1, 2, {"air", "pulse"}}));
        QVERIFY(!bench.is_private({"a", "A", SessionKind::swim, 1, 2, {"air", "gone"}}));
        QCOMPARE(bench.readings_for(SessionKind::swim), (std::vector<std::string>{"pulse", "air"}));
        QCOMPARE(bench.readings_for(SessionKind::fire), (std::vector<std::string>{"air"}));
        QCOMPARE(bench.readings_for(SessionKind::pulse), (std::vector<std::string>{"pulse"}));
        for (const char* kind : {"pressure", "acidity", "level", "wind"}) {
            Reading more = bench.readings[0];
            more.id = more.name = kind;
            more.quantity.kind = kind;
            bench.readings.push_back(more);
        }
        QCOMPARE(bench.readings_for(SessionKind::drive), (std::vector<std::string>{"air", "pressure"}));
        QCOMPARE(bench.readings_for(SessionKind::fermentation), (std::vector<std::string>{"air", "acidity"}));
        QCOMPARE(bench.readings_for(SessionKind::other),
                 (std::vector<std::string>{"air", "pressure", "acidity", "level"})); // four at most
    }
    void twoProgramsChangeSessions() {
        Bench base = test::small_bench();
        base.sessions.push_back({"swim", "Swim", SessionKind::swim, 1, 2, {}});
        Bench ours = base, theirs = base;
        ours.sessions[0].name = "Morning swim";
        theirs.sessions.push_back({"drive", "Drive", SessionKind::drive, 1, 2, {}});
        const MergedPlan merged = merge_plans(base, ours, theirs);
        QVERIFY(merged.both.empty());
        QCOMPARE(merged.plan.sessions.size(), std::size_t(2));
        QCOMPARE(merged.plan.session("swim")->name, std::string("Morning swim"));
    }
};

RUN_TESTS_OF(TestSessionFinder)
#include "tst_session_finder.moc"
