// Differences of plans: applied forwards they give the plan behind the change, backwards the one before it,
// whatever was changed; and two programs that change one plan lose nothing of each other.
#include "core/bench/plan_difference.h"
#include "store/file/data_files.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <algorithm>
#include <functional>
#include <random>

using namespace cognitum;

namespace {

Bench plan() {
    Bench bench = *load_bench_json(data_folder() + "/demo/whelk-point.json");
    bench.sessions = {{"swim", "Swim", SessionKind::swim, 1, 2, {}},
                      {"drive", "Drive", SessionKind::drive, 3, 4, {}}};
    SessionRule rule;
    rule.id = "stove";
    rule.name = "Stove";
    bench.session_rules = {rule};
    ReferenceInstrument glass;
    glass.id = "glass";
    glass.name = "Glass thermometer";
    bench.references = {glass};
    return bench;
}

/// Adds, removes, renames or moves something in one of the lists.
template <typename T>
void change_list(std::vector<T>& list, std::mt19937& random, int step) {
    const auto any = [&] { return list.begin() + static_cast<std::ptrdiff_t>(random() % list.size()); };
    switch (random() % 3) {
    case 0:
        if (!list.empty()) list.erase(any());
        return;
    case 1:
        if (!list.empty()) any()->name += "*";
        return;
    default: {
        T one = list.empty() ? T{} : *any();
        one.id = "new-" + std::to_string(step);
        list.insert(list.empty() ? list.begin() : any(), one);
    }
    }
}

void change_something(Bench& bench, std::mt19937& random, int step) {
    switch (random() % 10) {
    case 0: bench.name += "!"; return;
    case 1: change_list(bench.boards, random, step); return;
    case 2: change_list(bench.readings, random, step); return;
    case 3: change_list(bench.modules, random, step); return;
    case 4: change_list(bench.references, random, step); return;
    case 5: change_list(bench.sessions, random, step); return;
    case 6: change_list(bench.session_rules, random, step); return;
    case 7: change_list(bench.watch_rules, random, step); return;
    case 8: change_list(bench.controls, random, step); return;
    default: std::shuffle(bench.readings.begin(), bench.readings.end(), random);
    }
}

template <typename T>
std::vector<T> by_id(std::vector<T> list) {
    std::sort(list.begin(), list.end(), [](const T& a, const T& b) { return a.id < b.id; });
    return list;
}

std::vector<std::string> reading_ids(const Bench& bench) {
    std::vector<std::string> out;
    for (const Reading& r : bench.readings)
        out.push_back(r.id);
    return out;
}

/// The same things, in whatever order the lists have them; readings in order.
std::string differs(const Bench& a, const Bench& b) {
    return reading_ids(a) != reading_ids(b)                   ? "order of readings"
           : a.name != b.name                                 ? "head"
           : by_id(a.boards) != by_id(b.boards)               ? "boards"
           : by_id(a.readings) != by_id(b.readings)           ? "readings"
           : by_id(a.modules) != by_id(b.modules)             ? "modules"
           : by_id(a.references) != by_id(b.references)       ? "references"
           : by_id(a.sessions) != by_id(b.sessions)           ? "sessions"
           : by_id(a.session_rules) != by_id(b.session_rules) ? "session rules"
           : by_id(a.watch_rules) != by_id(b.watch_rules)     ? "watch rules"
           : by_id(a.controls) != by_id(b.controls)           ? "controls"
                                                              : "";
}

} // namespace

class TestPlanDifference : public QObject {
    Q_OBJECT

  private slots:
    void forwardsAndBackwards() {
        std::mt19937 random(11);
        Bench bench = plan();
        for (int step = 0; step < 400; ++step) {
            const Bench before = bench;
            for (auto n = random() % 3; n < 3; ++n)
                change_something(bench, random, 10 * step + static_cast<int>(n));
            const PlanDifference change = difference(before, bench);
            QCOMPARE(change.empty(), before == bench);
            Bench forwards = before, backwards = bench;
            apply(change, true, forwards);
            apply(change, false, backwards);
            // What is added between others that were moved comes near its place; all else is exact.
            forwards.readings = by_id(forwards.readings);
            backwards.readings = by_id(backwards.readings);
            Bench after = bench, back = before;
            after.readings = by_id(after.readings);
            back.readings = by_id(back.readings);
            QCOMPARE(differs(forwards, after), std::string());
            QCOMPARE(differs(backwards, back), std::string());
            if (bench.readings.size() > 40) bench = plan();
        }
    }
    void oneStepKeepsTheOrder() {
        std::mt19937 random(3);
        for (int step = 0; step < 200; ++step) {
            const Bench before = plan();
            Bench after = before;
            if (step % 2)
                std::shuffle(after.readings.begin(), after.readings.end(), random);
            else
                change_list(after.readings, random, step);
            const PlanDifference change = difference(before, after);
            Bench forwards = before, backwards = after;
            apply(change, true, forwards);
            apply(change, false, backwards);
            QCOMPARE(differs(forwards, after), std::string());
            QCOMPARE(differs(backwards, before), std::string());
        }
    }
    void theHeadIsOneThing() {
        const Bench before = plan();
        for (const auto& set : std::vector<std::function<void(Bench&)>>{
                 [](Bench& b) { b.name = "N"; }, [](Bench& b) { b.place = "P"; },
                 [](Bench& b) { b.currency = "C"; },
                 [](Bench& b) {
                     b.where = GeoPlace{1, 2};
                 },
                 [](Bench& b) {
                     b.prices.push_back({"pump", 3});
                 },
                 [](Bench& b) { b.publishing.topic += "x"; }}) {
            Bench after = before;
            set(after);
            const PlanDifference change = difference(before, after);
            QVERIFY(change.head && change.readings.empty() && change.boards.empty());
            Bench bench = before;
            apply(change, true, bench);
            QVERIFY(bench == after);
            apply(change, false, bench);
            QVERIFY(bench == before);
        }
    }
    void bothProgramsAreKept() {
        const Bench base = plan();
        Bench ours = base, theirs = base;
        ours.boards[0].name = "ours";
        ours.modules.clear();
        ours.watch_rules[0].name = "ours";
        theirs.boards[1].name = "theirs";
        theirs.references.clear();
        theirs.watch_rules[0].name = "theirs";
        theirs.controls[0].name = "theirs";
        MergedPlan merged = merge_plans(base, ours, theirs);
        QCOMPARE(merged.plan.boards[0].name, std::string("ours"));
        QCOMPARE(merged.plan.boards[1].name, std::string("theirs"));
        QVERIFY(merged.plan.modules.empty() && merged.plan.references.empty());
        QCOMPARE(merged.plan.watch_rules[0].name, std::string("ours"));
        QCOMPARE(merged.plan.controls[0].name, std::string("theirs"));
        QCOMPARE(merged.both.size(), std::size_t(1));
        QVERIFY2(merged.both[0].find("\"theirs\" was changed by two programs") != std::string::npos,
                 merged.both[0].c_str());
        // What one removes while the other changes it stays.
        ours = theirs = base;
        ours.references.erase(ours.references.begin());
        theirs.references[0].name = "changed";
        ours.controls[0].name = "changed";
        theirs.controls.clear();
        merged = merge_plans(base, ours, theirs);
        QCOMPARE(merged.plan.references.size(), base.references.size());
        QCOMPARE(merged.plan.controls.size(), std::size_t(1));
        QCOMPARE(merged.both.size(), std::size_t(2));
        QVERIFY(merge_plans(base, base, theirs).both.empty() && merge_plans(base, ours, base).both.empty());
        QVERIFY(merge_plans(base, ours, ours).both.empty()); // the same change twice
    }
};

RUN_TESTS_OF(TestPlanDifference)
#include "tst_plan_difference.moc"
