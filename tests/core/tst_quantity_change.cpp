// A reading in another unit, or of another quantity: its bands, rules, sessions and loads.
#include "core/bench/quantity_change.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/watched_readings.h"

using namespace cognitum;
using test::bench_of;
using test::described;
using test::looks_at;

namespace {

WatchRule rule_with(const char* id, std::vector<WatchCondition> conditions) {
    WatchRule out;
    out.id = out.name = id;
    out.conditions = std::move(conditions);
    return out;
}

LoadControl load_of(const char* id, const char* rule, std::vector<WatchCondition> never_while = {}) {
    LoadControl out;
    out.id = out.name = id;
    out.rule = rule;
    out.acts = true;
    out.never_while = std::move(never_while);
    return out;
}

SessionRule session_of(const char* id, const char* reading, SessionWhen when) {
    SessionRule out;
    out.id = out.name = id;
    out.reading = reading;
    out.when = when;
    out.limit = 60;
    return out;
}

const QuantityKind& kind_of(const char* id) {
    return *find_quantity_kind(id);
}

/// Air and water of a greenhouse, with all that can have a limit.
Bench greenhouse() {
    Bench out = bench_of({described("temperature", "degC"), described("level", "mm")});
    out.watch_rules = {rule_with("cold", {looks_at("temperature", WatchWhen::below, 4)}),
                       rule_with("quiet", {looks_at("temperature", WatchWhen::silent, 600)}),
                       rule_with("dry", {looks_at("level", WatchWhen::below, 50)}),
                       rule_with("either", {looks_at("level", WatchWhen::below, 50),
                                            looks_at("temperature", WatchWhen::rises, 5)})};
    out.session_rules = {session_of("stove", "temperature", SessionWhen::above),
                         session_of("seen", "temperature", SessionWhen::valued),
                         session_of("filling", "level", SessionWhen::above)};
    out.controls = {load_of("heater", "cold"), load_of("lamp", "quiet"), load_of("pump", "dry"),
                    load_of("fan", "dry", {looks_at("temperature", WatchWhen::above, 35)})};
    return out;
}

} // namespace

class TestQuantityChange : public QObject {
    Q_OBJECT

  private slots:
    void aChangeOfUnitTakesBandAndRulesAlong() {
        Bench bench = bench_of({described("temperature", "degC")});
        bench.readings[0].bands = Bands{0, 25, 1};
        WatchRule rule = rule_with("cold", {looks_at("temperature", WatchWhen::below, 10)});
        rule.conditions[0].clear = 15;
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
        CLOSE(bench.readings[0].quantity.accuracy, 1.8, 1e-9);
        CLOSE(bench.readings[0].quantity.high - bench.readings[0].quantity.low,
              1.8 * (before.readings[0].quantity.high - before.readings[0].quantity.low), 1e-9);
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

    /// "Below 4 °C" would be "below 4 mm": what had such a limit does not act any more, and says so by its name.
    void anotherQuantityStopsWhatHadALimit() {
        Bench bench = greenhouse();
        Reading& air = bench.readings[0];
        air.bands = Bands{4, 35, 1};
        air.named_bands = {{"frost", 0, WatchRank::bad}, {"mild", 20, WatchRank::note}};
        air.correction.emplace();
        air.sensor.part = "thermistor-10k";
        air.path.stages = {Linear{}};
        air.quantity.interval_s = 7;
        air.quantity.place = "on the north wall";
        air.quantity.around.outdoors = true;
        air.quantity.kept_private = true;
        const std::vector<std::string> stopped = change_kind(bench, "temperature", kind_of("humidity"));
        QCOMPARE(stopped, (std::vector<std::string>{"cold", "either", "stove", "heater", "fan"}));
        const auto acts = [&](const char* id) {
            for (const WatchRule& rule : bench.watch_rules)
                if (rule.id == id) return rule.on;
            for (const SessionRule& rule : bench.session_rules)
                if (rule.id == id) return rule.live;
            return bench.control(id)->acts;
        };
        for (const std::string& id : stopped)
            QVERIFY(!acts(id.c_str()));
        for (const char* id : {"quiet", "dry", "seen", "filling", "lamp", "pump"})
            QVERIFY2(acts(id), id);
        QCOMPARE(air.quantity.unit, std::string("%"));
        QVERIFY(air.quantity.low == kind_of("humidity").low && air.quantity.high == kind_of("humidity").high);
        QVERIFY(air.quantity.interval_s == 7 && air.quantity.place == "on the north wall" &&
                air.quantity.around.outdoors && air.quantity.kept_private);
        QVERIFY(!air.bands && air.named_bands.empty() && !air.correction && air.path.stages.empty());
        QCOMPARE(air.sensor.part, std::string());
        QVERIFY(bench.readings[1] == greenhouse().readings[1]);
    }

    /// Limits are temperatures, hysteresis and rates are differences of them; what belongs to another stays.
    void anotherUnitMovesEveryLimit() {
        Bench bench = greenhouse();
        bench.readings[0].named_bands = {{"frost", 0, WatchRank::bad}, {"mild", 20, WatchRank::note}};
        WatchCondition outside = looks_at("temperature", WatchWhen::outside, 10);
        outside.upper = 30;
        outside.hysteresis = 1;
        WatchCondition corridor = looks_at("temperature", WatchWhen::corridor, 0);
        corridor.corridor = {{1, 18, 20}, {5, 20, 22}};
        bench.watch_rules.push_back(rule_with("all", {outside, corridor}));
        bench.controls[0].effects = {{"temperature", 2, 5}, {"level", 3, 4}};
        const Bench before = bench;
        QVERIFY(change_unit(bench, "temperature", "degF"));
        CLOSE(bench.readings[0].named_bands[0].to, 32, 1e-9);
        CLOSE(bench.readings[0].named_bands[1].to, 68, 1e-9);
        CLOSE(bench.session_rules[0].limit, 140, 1e-9);
        QVERIFY(bench.session_rules[2] == before.session_rules[2]);
        CLOSE(bench.watch_rules[3].conditions[1].value, 9, 1e-9); // rises by 5 °C an hour
        QVERIFY(bench.watch_rules[2] == before.watch_rules[2] && bench.watch_rules[1] == before.watch_rules[1]);
        const auto& all = bench.watch_rules[4].conditions;
        CLOSE(all[0].value, 50, 1e-9);
        CLOSE(all[0].upper, 86, 1e-9);
        CLOSE(all[0].hysteresis, 1.8, 1e-9);
        CLOSE(all[1].corridor[0].low, 64.4, 1e-9);
        CLOSE(all[1].corridor[1].high, 71.6, 1e-9);
        CLOSE(bench.controls[3].never_while[0].value, 95, 1e-9);
        CLOSE(bench.controls[0].effects[0].at_once, 3.6, 1e-9);
        CLOSE(bench.controls[0].effects[0].an_hour, 9, 1e-9);
        QVERIFY(bench.controls[0].effects[1] == before.controls[0].effects[1]);
        QVERIFY(bench.readings[1] == before.readings[1]);
    }

    void whatDidNotActIsNotNamed() {
        Bench bench = greenhouse();
        bench.watch_rules[0].on = bench.controls[0].acts = bench.session_rules[0].live = false;
        QCOMPARE(change_kind(bench, "temperature", kind_of("humidity")),
                 (std::vector<std::string>{"either", "fan"}));
    }

    void theSameKindChangesNothing() {
        Bench bench = greenhouse();
        bench.readings[0].bands = Bands{4, 35, 1};
        const Bench before = bench;
        QVERIFY(change_kind(bench, "temperature", kind_of("temperature")).empty());
        QVERIFY(change_kind(bench, "nobody", kind_of("humidity")).empty());
        QVERIFY(bench == before);
    }
};

RUN_TESTS_OF(TestQuantityChange)
#include "tst_quantity_change.moc"
